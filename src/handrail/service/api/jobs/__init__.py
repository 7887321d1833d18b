"""Jobs and their runs."""
