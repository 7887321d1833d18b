"""The plate as the concrete feels it: its sides, its anchors, how much the concrete bears."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np

MOST_CONFINED = 2.0  # of sqrt(A2/A1)


@dataclass(frozen=True)
class Footprint:
    """A rectangular plate of `length` along x and `width` along y, mm, about its centre, with anchors at `points` (x, y) mm of `area`
    mm^2 each; `along` and `across` are from the centre to the concrete's edges on the minus and the plus side, mm."""

    length: float
    width: float
    points: tuple[tuple[float, float], ...] = ()
    area: float = 0.0
    along: tuple[float, float] = (math.inf, math.inf)
    across: tuple[float, float] = (math.inf, math.inf)

    @cached_property
    def xy(self) -> np.ndarray:
        """(n, 2) mm."""
        return np.array(self.points, float).reshape(-1, 2)

    @property
    def inside(self) -> bool:
        """Whether all of the plate is on the concrete."""
        return min(self.along) >= self.length / 2 and min(self.across) >= self.width / 2

    def confinement(self) -> float:
        """sqrt(A2/A1), at least 1, at most 2 (AISC 360-22 J8, ACI 318-19 22.8.3.2): A2 the largest part of the concrete's face
        that is like the plate and has its centre."""
        if not self.inside:
            return 1.0
        return max(1.0, min(MOST_CONFINED, 2 * min(self.along) / self.length, 2 * min(self.across) / self.width))
