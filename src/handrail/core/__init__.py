"""Computation only: no HTTP, no SQL, no printing. Inside it everything is N, mm, MPa and rad."""
