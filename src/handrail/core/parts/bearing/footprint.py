"""The plate as the concrete feels it: its sides, its anchors, how much the concrete bears."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np

Pad = tuple[float, float, float, float]
MOST_CONFINED = 2.0  # of sqrt(A2/A1)
FLATTEST = 2.0  # a frustum's sides run 2 out for 1 down (ACI 318-19 22.8.3.2)


@dataclass(frozen=True, kw_only=True)
class Footprint:
    """A rectangular plate of `length` along x and `width` along y, mm, about its centre, with anchors at `points` (x,
    y) mm of `area` mm^2 each; `along` and `across` are from the centre to the concrete's edges on the minus and the
    plus side, mm, and the concrete is `thick`. The pad between is of `grout` MPa, without end where it is stronger than
    the concrete can be. Where only parts of it can be pressed they are `pads`, rectangles (x0, y0, x1, y1) mm that do
    not overlap."""

    length: float
    width: float
    points: tuple[tuple[float, float], ...] = ()
    area: float = 0.0
    along: tuple[float, float] = (math.inf, math.inf)
    across: tuple[float, float] = (math.inf, math.inf)
    thick: float = math.inf
    pads: tuple[Pad, ...] = ()
    grout: float = math.inf

    @property
    def pressed(self) -> tuple[Pad, ...]:
        """What can be pressed: the pads, or all of the plate."""
        return self.pads or ((-self.length / 2, -self.width / 2, self.length / 2, self.width / 2),)

    @cached_property
    def xy(self) -> np.ndarray:
        """(n, 2) mm."""
        return np.array(self.points, float).reshape(-1, 2)

    @property
    def inside(self) -> bool:
        """Whether all of the plate is on the concrete."""
        return min(self.along) >= self.length / 2 and min(self.across) >= self.width / 2

    def confinement(self) -> float:
        """sqrt(A2/A1), at least 1, at most 2 (AISC 360-22 J8, ACI 318-19 22.8.3.2): A2 the largest base of a frustum
        that is like the plate, has its centre, lies within the concrete's edges and depth, and runs out 2 for 1
        down."""
        if not self.inside:
            return 1.0
        deep = 1 + 2 * FLATTEST * self.thick / max(self.length, self.width)
        return max(1.0, min(MOST_CONFINED, 2 * min(self.along) / self.length, 2 * min(self.across) / self.width, deep))
