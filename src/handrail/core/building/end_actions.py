"""From a member end's analysed forces to the actions of its connection."""

from __future__ import annotations

import numpy as np

from handrail.core.building.combining import CombinationSet
from handrail.core.building.model import Building

OVER = -1e-9  # of a unit vector: a web's axis that points further down than this is rolled over


def end_axes(building: Building, members: np.ndarray, ends: np.ndarray) -> np.ndarray:
    """(k, 3, 3) rows out, up, across of k member ends, global axes, the same whichever way the member was drawn.

    `out` points from the end into its member, `up` along its web, upwards where it can, `across` to the right of
    somebody who stands at the support and looks along `out`: out x up."""
    out = building.axes[members, 0] * -_sense(ends)[:, None]
    up = building.axes[members, 1] * _upward(building, members)[:, None]
    return np.stack([out, up, np.cross(out, up)], axis=1)


def end_actions(
    building: Building,
    combined: CombinationSet,
    members: np.ndarray,
    ends: np.ndarray,
    forces: np.ndarray | None = None,
) -> np.ndarray:
    """(k, combinations, 6) actions N, V, Vw, M, Mw, T of k member ends; NaN where forces are missing.

    What the support does to the end, by `end_axes`: N pulls it away from its support (against `out`), V pushes along
    `up`, Vw along `across`; M has the flange on the side of `up` in tension, Mw the side of `across`; T turns
    counter-clockwise, seen from the support along `out`. The same whichever way the member was drawn or rolled over.
    `forces` (k, results, 6) take the place of the ends' own."""
    forces = combined.forces(building.forces[members, :, ends] if forces is None else forces)
    sense, up = _sense(ends)[:, None], _upward(building, members)[:, None]
    Fx, Fy, Fz, Mx, My, Mz = np.moveaxis(forces, -1, 0)
    return np.stack([sense * Fx, up * Fy, -sense * up * Fz, -sense * up * Mz, -up * My, sense * Mx], axis=-1)


def _sense(ends: np.ndarray) -> np.ndarray:
    """(k,) 1 at an end j, where the local x points to the support, -1 at an end i."""
    return np.where(ends == 1, 1.0, -1.0)


def _upward(building: Building, members: np.ndarray) -> np.ndarray:
    """(k,) -1 where the web's axis points down, else 1."""
    return np.where(building.axes[members][:, 1, 2] < OVER, -1.0, 1.0)
