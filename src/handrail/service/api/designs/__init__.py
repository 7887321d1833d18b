"""Designs of the house, above its jobs."""
