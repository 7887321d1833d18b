"""The `handrail` command."""
