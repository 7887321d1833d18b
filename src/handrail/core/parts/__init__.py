"""The pieces a connection is made of, and their geometry."""
