"""How finely a program writes its forces: what rounding alone leaves over at a node is no fault."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from handrail.core.building.model import Building
from handrail.core.quantities.units import KIP

SAMPLE = 20_000
MOSTLY = 0.97  # of all values: some are worked out from others, at splices
FEWEST, ROUND = 60, 0.3  # values; of them that may be whole tens of the step
COARSEST = 5e-3  # of the largest value: coarser figures than that are no rounding
FORCES = (1000.0, 1.0, KIP, KIP / 1000)  # kN, N, kip, lb in N
MOMENTS = (
    1e6,
    1000.0,
    1.0,
    KIP * 304.8,
    KIP * 25.4,
    KIP * 0.3048,
    KIP * 0.0254,
)  # kN*m, N*m, N*mm, kip*ft, kip*in, lb*ft, lb*in in N*mm


@dataclass(frozen=True)
class Precision:
    """The step that forces (N) and moments (N*mm) are written in; 0 where they have none in common."""

    force: float = 0.0
    moment: float = 0.0

    def left(self, count: np.ndarray | int) -> tuple[np.ndarray | float, np.ndarray | float]:
        """The (force, moment) that so many rounded vectors together may be off by."""
        worst = 0.5 * np.sqrt(3.0) * count
        return self.force * worst, self.moment * worst


def precision(building: Building) -> Precision:
    """What the figures of a building's end forces themselves say."""
    return precision_of(building.forces)


def precision_of(forces: np.ndarray) -> Precision:
    """What the figures of end forces (..., 6) say, in N and N*mm or as a table has them."""
    if not forces.size:
        return Precision()
    step = max(forces[..., 0].size // SAMPLE, 1)
    some = np.nan_to_num(forces.reshape(-1, 6)[::step])
    return Precision(_step(some[:, :3].ravel(), FORCES), _step(some[:, 3:].ravel(), MOMENTS))


def _step(values: np.ndarray, units: tuple[float, ...]) -> float:
    """The coarsest power of ten of a unit that nearly all values are whole numbers of."""
    own = np.abs(values[values != 0])
    if len(own) < FEWEST:
        return 0.0
    most, by = COARSEST * float(own.max()), 0.0
    for unit in units:
        for k in range(7):
            step = unit * 10.0**-k
            if step > most or step <= by:
                continue
            whole = own / step
            if float(np.mean(np.abs(whole - np.round(whole)) < 0.01)) > MOSTLY and float(own.max()) / step < 1e8:
                tens = whole / 10
                if (
                    float(np.mean(np.abs(tens - np.round(tens)) < 1e-3)) < ROUND
                ):  # else they are round by themselves, and no finer
                    by = step
                break
    return by
