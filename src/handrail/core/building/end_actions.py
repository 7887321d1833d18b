"""From a member end's analysed forces to the actions of its connection."""

from __future__ import annotations

import numpy as np

from handrail.core.building.combining import CombinationSet
from handrail.core.building.model import Building


def end_actions(
    building: Building, combined: CombinationSet, members: np.ndarray, ends: np.ndarray, forces: np.ndarray | None = None
) -> np.ndarray:
    """(k, combinations, 6) actions N, V, Vw, M, Mw, T of k member ends; NaN where forces are missing.

    N pulls the end away from its support, V pushes it up in the plane of its web, M has the top flange
    in tension. A member rolled over (web axis pointing down) keeps up as up; web-plane and flange-plane
    components stay those of its own axes. `forces` (k, results, 6) take the place of the ends' own.
    """
    forces = combined.forces(building.forces[members, :, ends] if forces is None else forces)
    sense = np.where(ends == 1, 1.0, -1.0)[:, None]
    up = np.where(building.axes[members][:, 1, 2] < -1e-9, -1.0, 1.0)[:, None]
    Fx, Fy, Fz, Mx, My, Mz = np.moveaxis(forces, -1, 0)
    return np.stack([sense * Fx, up * Fy, up * Fz, -sense * up * Mz, sense * up * My, sense * Mx], axis=-1)
