"""Holes where bolts go through: in plates and in bars."""

from __future__ import annotations

import math
from collections.abc import Iterable

from handrail.core.catalogue import HoleSize
from handrail.core.solids.axes import Axes, Vector, combined
from handrail.core.solids.pieces import Bore, Fastener, Hole


def holes_of(bolts: Iterable[Fastener], axes: Axes, hole: HoleSize, along: str = "y") -> tuple[Hole, ...]:
    """The holes of bolts in a plate that lies in `axes`; a slot along the force is along their x or y."""
    d, long, with_force = slot(hole)
    turned = math.pi / 2 if with_force is (along == "y") else 0.0
    seen = [axes.seen(bolt.axes.origin) for bolt in bolts]
    return tuple(Hole(x, y, d, long, turned if long else 0.0) for x, y, _ in seen)


def bores_at(
    axes: Axes, places: Iterable[Vector], across: Vector, along: Vector, hole: HoleSize, deep: float
) -> tuple[Bore, ...]:
    """Holes drilled into a bar at places of `axes`, square to the directions `across` and `along` the force: towards
    their vector product."""
    d, long, with_force = slot(hole)
    x, y = axes.along(across), axes.along(along)
    if with_force:
        x, y = y, combined((-1.0, x))
    return tuple(Bore(Axes(axes.at(*place), x, y), deep, d, long) for place in places)


def slot(hole: HoleSize) -> tuple[float, float, bool]:
    """(width, length or nothing, whether it is along the force) of a hole."""
    if not hole.slotted:
        return hole.along, 0.0, False
    return min(hole.along, hole.across), max(hole.along, hole.across), hole.along > hole.across
