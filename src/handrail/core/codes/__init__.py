"""What a part can carry: one package a code, knowing nothing of any standard."""
