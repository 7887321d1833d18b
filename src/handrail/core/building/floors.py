"""Where a column's splice stands between the floors: how far over the one below, how high its storey is."""

from __future__ import annotations

import numpy as np

from handrail.core.building.model import Building

LEVEL = np.sin(np.radians(30))  # a member less steep than this makes a floor
IN_LINE = 10.0  # mm in plan
UP, DOWN = 1, -1


def above_floor(building: Building, splice: int) -> float | None:
    """From the nearest node below the `splice`'s in line with the column where a beam ends or a support is, mm; None where there is none."""
    return _to_floor(building, splice, DOWN)


def storey(building: Building, splice: int) -> float | None:
    """From the floor below a splice to the one above, mm; None where one of them is not there."""
    below, above = (_to_floor(building, splice, way) for way in (DOWN, UP))
    return None if below is None or above is None else round(below + above, 1)


def _to_floor(building: Building, splice: int, way: int) -> float | None:
    node = splice
    while (found := _next(building, node, way)) is not None:
        node = found
        beams = any(abs(building.axes[m, 0, 2]) < LEVEL for m, _ in building.ends_at[node])
        if beams or node in building.supports:
            return round(float(abs(building.xyz[splice, 2] - building.xyz[node, 2])), 1)
    return None


def _next(building: Building, node: int, way: int) -> int | None:
    """The other end of the member that goes straight up or down from a node."""
    for member, end in building.ends_at[node]:
        other = building.members[member].node(1 - end)
        apart = building.xyz[other] - building.xyz[node]
        if way * apart[2] > 1.0 and np.hypot(apart[0], apart[1]) < IN_LINE:
            return other
    return None
