"""Drawings as scenes: 2D views with part names, no file format."""
