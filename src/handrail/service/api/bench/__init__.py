"""The Bench: one connection with no building."""
