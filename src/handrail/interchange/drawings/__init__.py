"""Drawings as files that leave the house."""
