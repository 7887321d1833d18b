"""Who is at a connection: its pieces by role, and what it has to do with others."""
