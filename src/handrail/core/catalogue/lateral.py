"""Systems that resist sideways forces, by kind, as a model or a person states them of a member."""

from __future__ import annotations

KINDS = {
    "none": "not of a system that resists sideways forces",
    "not_detailed": "of steel not detailed for earthquakes (R = 3)",
    "ordinary_moment": "of an ordinary moment frame",
    "intermediate_moment": "of an intermediate moment frame",
    "special_moment": "of a special moment frame",
    "ordinary_braced": "of an ordinary braced frame",
    "special_braced": "of a special braced frame",
    "buckling_restrained": "of a buckling-restrained braced frame",
    "cantilever": "of cantilever columns",
    "collector": "a collector",
    "discontinuity": "under a wall or frame that ends above it",
}
OVERSTRONG = ("collector", "discontinuity")  # ASCE 7 12.10.2.1, 12.3.3.3
DETAILED = tuple(name for name in KINDS if name not in ("none", "not_detailed", *OVERSTRONG))  # AISC 341 is theirs
CATEGORIES = ("A", "B", "C", "D", "E", "F")
SHAKEN = CATEGORIES[2:]  # where concrete is designed for earthquakes (ACI 318-19 17.10.1)


def strongest(kinds: list[str]) -> str:
    """Of the kinds of members that meet, the one that asks most: the last in the order above; empty where none is
    stated."""
    return max((kind for kind in kinds if kind), key=list(KINDS).index, default="")
