"""Working together."""
