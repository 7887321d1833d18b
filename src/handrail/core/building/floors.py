"""Where a column's splice stands between the floors: how far over the one below, how high its storey is; to 1/4 in. or
5 mm, which is less than floors are built to, so that what a model's coordinates are off by moves nothing."""

from __future__ import annotations

import numpy as np

from handrail.core.building.model import Building

LEVEL = np.sin(np.radians(30))  # a member less steep than this makes a floor
IN_LINE = 10.0  # mm in plan
STEPS = {"us": 6.35, "si": 5.0}  # mm
UP, DOWN = 1, -1


def above_floor(building: Building, splice: int) -> float | None:
    """From the nearest node below the `splice`'s in line with the column where a beam ends or a support is, mm; None
    where there is none."""
    return _to_floor(building, splice, DOWN)


def storey(building: Building, splice: int) -> float | None:
    """From the floor below a splice to the one above, mm; None where one of them is not there."""
    below, above = (_to_floor(building, splice, way) for way in (DOWN, UP))
    return None if below is None or above is None else round(below + above, 2)


def first_storey(building: Building, base: int) -> float | None:
    """From a base to the floor above it, mm; None where there is none."""
    return _to_floor(building, base, UP)


def clear(building: Building, splice: int) -> float | None:
    """Of that storey, clear between the beams: their tops at the floors' nodes, less the deepest of the upper floor's;
    None where a beam's section is not known."""
    height, node = storey(building, splice), _floor(building, splice, UP)
    if height is None or node is None:
        return None
    beams = [
        building.section(building.members[m].section)
        for m, _ in building.ends_at[node]
        if abs(building.axes[m, 0, 2]) < LEVEL
    ]
    if any(s is None for s in beams):
        return None
    return round(height - max((s.d for s in beams if s), default=0.0), 1)


def _floor(building: Building, splice: int, way: int) -> int | None:
    node = splice
    while (floor := _next(building, node, way)) is not None:
        node = floor
        if any(abs(building.axes[m, 0, 2]) < LEVEL for m, _ in building.ends_at[node]) or node in building.supports:
            return node
    return None


def _to_floor(building: Building, splice: int, way: int) -> float | None:
    node = _floor(building, splice, way)
    if node is None:
        return None
    step = STEPS[building.system]
    return round(round(float(abs(building.xyz[splice, 2] - building.xyz[node, 2])) / step) * step, 2)


def _next(building: Building, node: int, way: int) -> int | None:
    """The other end of the member that goes straight up or down from a node."""
    for member, end in building.ends_at[node]:
        other = building.members[member].node(1 - end)
        apart = building.xyz[other] - building.xyz[node]
        if way * apart[2] > 1.0 and np.hypot(apart[0], apart[1]) < IN_LINE:
            return other
    return None
