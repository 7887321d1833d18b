"""Rods that bend under their shear between washer and concrete, with tension: AISC Design Guide 1, on the combinations
of strength."""

from __future__ import annotations

from typing import Any

import numpy as np

from handrail.core.catalogue import Rod
from handrail.core.trace import NULL, Trace

PHI = 0.75
TENSION, SHEAR = 0.75, 0.45  # of Fu, threads in the shear plane (AISC 360 Table J3.2)


def bent_with_tension(rod: Rod, pull: np.ndarray, push: np.ndarray, lever: float, trace: Trace = NULL) -> Any:
    """Axial and bending stress together over phi F'nt, as a utilisation; at least the shear's own. `pull` and `push` N
    of one rod, `lever` mm between two ends that do not turn: M = V l/2, Z = d^3/6."""
    area = np.pi / 4 * rod.d**2
    fv = trace("fv", "V / A", push / area, kind="stress", V=push, A=area)
    ft = trace("fta", "T / A", pull / area, kind="stress")
    fb = trace("ftb", "V l/2 / (d^3/6)", push * lever / 2 / (rod.d**3 / 6), kind="stress", l=lever, d=rod.d)
    Fnt, Fnv = TENSION * rod.futa, SHEAR * rod.futa
    held = trace(
        "phi F'nt",
        "0.75 (1.3 Fnt - Fnt fv/(0.75 Fnv)) <= 0.75 Fnt",
        PHI * np.clip(1.3 * Fnt - Fnt * fv / (PHI * Fnv), 0.0, Fnt),
        "Design Guide 1",
        kind="stress",
        Fnt=Fnt,
        Fnv=Fnv,
    )
    with np.errstate(divide="ignore", invalid="ignore"):
        use = np.where(ft + fb == 0, 0.0, np.where(held > 0, (ft + fb) / held, np.inf))
    return np.maximum(use, fv / (PHI * Fnv))
