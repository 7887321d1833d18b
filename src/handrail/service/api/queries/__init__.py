"""Queries to the engineer of record."""
