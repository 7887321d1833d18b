"""Column bases: bearing on concrete J8, and the plate's bending about the column by the Manual's Part 14 and Design
Guide 1."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.catalogue import Rod, Section
from handrail.core.codes.aisc360.code import FACTORS, Edition
from handrail.core.codes.asked import Overhang
from handrail.core.quantities.lines import NULL, Trace

ROD_PHI = 0.75  # on the combinations of strength (Design Guide 1)
ROD_TENSION, ROD_SHEAR = 0.75, 0.45  # of Fu, threads in the shear plane (Table J3.2)


@dataclass(frozen=True)
class Bases:
    """Concrete under a plate, and the plate that bends about its column."""

    code: Edition

    def bearing_limit(self, fc: float, confinement: float, trace: Trace = NULL, grout: float = math.inf) -> float:
        """The available pressure on concrete, MPa (J8): 0.85 fc' sqrt(A2/A1), at most 1.7 fc'; `confinement` is
        sqrt(A2/A1). The pad between, of `grout` MPa, is as wide as the plate: 0.85 of its own."""
        phi, omega = FACTORS["concrete_bearing"]
        nominal = trace(
            "Fp", "0.85 fc' sqrt(A2/A1)", min(0.85 * confinement, 1.7) * fc, "J8", fc=fc, confined=confinement
        )
        if grout < math.inf:
            nominal = trace("Fp", "no more than 0.85 of the grout's", min(nominal, 0.85 * grout), "J8", fgrout=grout)
        factor, words = (phi, f"{phi:.2f} Fp") if self.code.lrfd else (1 / omega, f"Fp / {omega:.2f}")
        return trace("Fp available", words, factor * nominal, "J8", kind="stress")

    def overhang(self, section: Section, length: float, width: float) -> Overhang:
        """m, n and n' of a plate `length` along the column's depth and `width` across, mm (Manual Part 14): from 0.95 d
        and 0.80 bf of an I-shape, 0.95 of both sides of a hollow rectangle, 0.80 of a round one's diameter.

        Between a hollow column's walls the Manual has no n'; the plate yields there in lines, held at the walls: a
        circle of radius r at p r^2/6, a rectangle b by a at p b^2/24 (sqrt(3 + (b/a)^2) - b/a)^2, each as the
        cantilever that bends as much."""
        if section.round:
            r = section.d / 2 - section.wall
            return Overhang((length - 0.8 * section.d) / 2, (width - 0.8 * section.d) / 2, r / math.sqrt(3))
        if section.hollow:
            b, a = sorted((section.d - 2 * section.wall, section.bf - 2 * section.wall))
            within = b / math.sqrt(12) * (math.sqrt(3 + (b / a) ** 2) - b / a)
            return Overhang((length - 0.95 * section.d) / 2, (width - 0.95 * section.bf) / 2, within)
        return Overhang(
            (length - 0.95 * section.d) / 2, (width - 0.8 * section.bf) / 2, math.sqrt(section.d * section.bf) / 4
        )

    def relief(self, section: Section, use: np.ndarray) -> np.ndarray:
        """lambda of n' for `use`, the bearing's utilisation (Manual Part 14): X = 4 d bf/(d + bf)^2 use, 2 sqrt(X)/(1 +
        sqrt(1 - X)), at most 1."""
        d, bf = section.d, section.d if section.round else section.bf
        X = np.clip(4 * d * bf / (d + bf) ** 2 * np.asarray(use), 0.0, 1.0)
        return np.minimum(2 * np.sqrt(X) / (1 + np.sqrt(1 - X)), 1.0)

    def strip(self, Fy: float, t: float, trace: Trace = NULL) -> float:
        """Available moment of one millimetre of plate, N*mm/mm (F11: Fy t^2/4)."""
        Mn = trace("Mn", "Fy t^2 / 4, each mm", Fy * t**2 / 4, "F11", kind="strip", Fy=Fy, t=t)
        return trace(
            "phi Mn" if self.code.lrfd else "Mn/Omega",
            "available",
            self.code.factor("flexure") * Mn,
            "F11",
            kind="strip",
        )

    def spread(self, lever: float, spacing: float, edge: float) -> float:
        """The width of plate that carries one rod, mm: at 45 degrees from it to the column's face both ways, no more
        than half-way to the next rod nor to the plate's edge (Design Guide 1)."""
        return min(lever, spacing / 2) + min(lever, edge)

    def rods_bent(self, rod: Rod, pull: np.ndarray, push: np.ndarray, lever: float, trace: Trace = NULL) -> Any:
        """Axial and bending stress together over phi F'nt, as a utilisation; at least the shear's own. `pull` and
        `push` N of one rod, `lever` mm between two ends that do not turn: M = V l/2, Z = d^3/6."""
        area = np.pi / 4 * rod.d**2
        fv = trace("fv", "V / A", push / area, kind="stress", V=push, A=area)
        ft = trace("fta", "T / A", pull / area, kind="stress")
        fb = trace("ftb", "V l/2 / (d^3/6)", push * lever / 2 / (rod.d**3 / 6), kind="stress", l=lever, d=rod.d)
        Fnt, Fnv = ROD_TENSION * rod.futa, ROD_SHEAR * rod.futa
        held = trace(
            "phi F'nt",
            "0.75 (1.3 Fnt - Fnt fv/(0.75 Fnv)) <= 0.75 Fnt",
            ROD_PHI * np.clip(1.3 * Fnt - Fnt * fv / (ROD_PHI * Fnv), 0.0, Fnt),
            "Design Guide 1",
            kind="stress",
            Fnt=Fnt,
            Fnv=Fnv,
        )
        with np.errstate(divide="ignore", invalid="ignore"):
            use = np.where(ft + fb == 0, 0.0, np.where(held > 0, (ft + fb) / held, np.inf))
        return np.maximum(use, fv / (ROD_PHI * Fnv))
