"""Rulebooks of jobs and of the house."""
