"""Queries as BCF files, 2.1 and 3.0: written, and read in again."""
