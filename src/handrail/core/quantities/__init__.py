"""Quantities with their kind: units in and out, symbols, worked lines. Inside the core everything is N, mm, MPa,
rad."""
