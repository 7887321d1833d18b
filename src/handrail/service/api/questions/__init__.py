"""Questions: what takes longer than a moment, asked and answered in a process of its own."""
