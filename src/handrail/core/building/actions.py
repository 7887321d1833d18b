"""From a member end's analysed forces to the actions of its connection."""

from __future__ import annotations

import numpy as np

from handrail.core.building.model import Building


def end_actions(building: Building, forces: np.ndarray, member: int, end: int) -> np.ndarray:
    """(..., 6) on_member forces of an end to (N, V, Vw, M, Mw, T) in the same shape.

    N pulls the end away from its support, V pushes it up in the plane of its web, M has the top flange
    in tension. A member rolled over (web axis pointing down) keeps up as up; its web-plane and flange-plane
    components stay those of its own axes.
    """
    sense = 1.0 if end else -1.0
    up = -1.0 if building.axes[member][1, 2] < -1e-9 else 1.0
    Fx, Fy, Fz, Mx, My, Mz = np.moveaxis(forces, -1, 0)
    return np.stack([sense * Fx, up * Fy, up * Fz, -sense * up * Mz, sense * up * My, sense * Mx], axis=-1)
