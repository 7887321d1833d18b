"""Hand Rail: standard steel connections for a whole building, ruled, checked and kept traceable."""

__version__ = "0.6.0"
