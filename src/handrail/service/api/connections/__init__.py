"""Connections, sweeps, capacity, the catalogue."""
