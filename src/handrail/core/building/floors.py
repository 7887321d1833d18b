"""How far a column's splice stands over the floor below: where beams end at the same column, or its foot."""

from __future__ import annotations

import numpy as np

from handrail.core.building.model import Building

LEVEL = np.sin(np.radians(30))  # a member less steep than this makes a floor
IN_LINE = 10.0  # mm in plan


def above_floor(building: Building, splice: int) -> float | None:
    """From the nearest node below the `splice`'s in line with the column where a beam ends or a support is, mm; None where there is none."""
    here = building.xyz[splice]
    node, low = splice, None
    while low is None:
        below = _next_below(building, node)
        if below is None:
            return None
        beams = any(abs(building.axes[m, 0, 2]) < LEVEL for m, _ in building.ends_at[below])
        low = below if beams or below in building.supports else None
        node = below
    return round(float(here[2] - building.xyz[low, 2]), 1)


def _next_below(building: Building, node: int) -> int | None:
    """The other end of the member that goes straight down from a node."""
    for member, end in building.ends_at[node]:
        other = building.members[member].node(1 - end)
        apart = building.xyz[other] - building.xyz[node]
        if apart[2] < -1.0 and np.hypot(apart[0], apart[1]) < IN_LINE:
            return other
    return None
