"""The mark schedule."""
