"""Bolts: shear J3.7, bearing and tearout J3.11, slip J3.9 (360-22 numbers)."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.catalogue import Bolt, HoleSize
from handrail.core.catalogue.faying import own_friction
from handrail.core.codes.aisc360.code import Edition
from handrail.core.quantities.lines import NULL, Trace
from handrail.core.quantities.units import INCH, KSI

END_LOADED_LIMIT, END_LOADED = (
    38 * INCH,
    0.833,
)  # longer joints, and what is left of their bolts' shear (Table J3.2, note)
FAYING = {"A": 0.30, "B": 0.50}


@dataclass(frozen=True)
class Bolts:
    """Bolts: what each takes in shear, bearing and slip, and how they stand."""

    code: Edition

    def unheld(self, bolt: Bolt, slip_critical: bool = False) -> Iterator[str]:
        """What the tables do not hold of a bolt, in words."""
        if self.code.edition == "16" and bolt.edition_from:
            yield f"{bolt.group} bolts are held from AISC {bolt.edition_from} only"
        if slip_critical and not bolt.pretension:
            yield f"no pretension is held for {bolt.group}"

    def snug_in_tension(self, bolt: Bolt) -> bool:
        """Whether a bolt may be snug tight where it pulls: of group 120 (A325) alone (J3.2; 360-16 J3.1)."""
        return bolt.strength_group == "Group 120"

    def end_loaded(self, length: float) -> float:
        """What is left of the bolts' shear in a joint so long, mm (Table J3.2, note)."""
        return END_LOADED if length > END_LOADED_LIMIT else 1.0

    def friction(self, surface: str) -> float:
        """The slip coefficient of a class of faying surface, or of one of the house's own by its tests (J3.9)."""
        return FAYING[surface] if surface in FAYING else own_friction(surface)

    def shear(self, bolt: Bolt, planes: int = 1, trace: Trace = NULL) -> float:
        """Available shear of one bolt, N (J3.7, Table J3.2)."""
        rn = trace(
            "r_n",
            "Fnv Ab planes",
            bolt.Fnv * bolt.area * planes,
            self.code.numbered("J3.7"),
            Fnv=bolt.Fnv,
            Ab=bolt.area,
        )
        return self.code.available(rn, "bolt", trace, symbol="r")

    def bearing_factors(self, hole: HoleSize, deformation: bool, along_slot: bool = False) -> tuple[float, float]:
        """(bearing, tearout) coefficients of J3.11: 2.4/1.2, or 3.0/1.5 without the limit on deformation.

        A long slot across the force takes 2.0/1.0.
        """
        if hole.type.startswith("LS") and not along_slot:
            return 2.0, 1.0
        return (2.4, 1.2) if deformation else (3.0, 1.5)

    def bearing(self, d: float, t: float, Fu: float, factor: float = 2.4, trace: Trace = NULL) -> float:
        """Available bearing of one bolt on a ply `t` thick, N (J3.11a)."""
        rn = trace("r_n", f"{factor} d t Fu", factor * d * t * Fu, self.code.numbered("J3.11"), d=d, t=t, Fu=Fu)
        return self.code.available(rn, "bolt", trace, symbol="r")

    def tearout(self, lc: np.ndarray, t: float, Fu: float, factor: float = 1.2, trace: Trace = NULL) -> np.ndarray:
        """Available tearout for clear distances `lc` (any shape, mm), N (J3.11a)."""
        phi = self.code.available(1.0, "bolt")
        return trace(
            "phi r_n",
            f"{factor} lc t Fu, available",
            phi * factor * lc * t * Fu,
            self.code.numbered("J3.11"),
            lc=lc,
            t=t,
            Fu=Fu,
            kind="force",
        )

    def slip(self, bolt: Bolt, hole: HoleSize, surface: str, along_slot: bool, trace: Trace = NULL) -> float:
        """Available slip resistance of one bolt in one plane, N (J3.9): mu Du hf Tb, Du = 1.13, hf = 1."""
        mu = self.friction(surface)
        rn = trace(
            "r_n",
            "mu Du hf Tb",
            mu * 1.13 * 1.0 * bolt.pretension,
            self.code.numbered("J3.9"),
            mu=mu,
            Du=1.13,
            Tb=bolt.pretension,
        )
        limit = "slip"
        if hole.type.startswith("LS"):
            limit = "slip_long"
        elif hole.type == "OVS" or (hole.slotted and along_slot):
            limit = "slip_oversized"
        return self.code.available(rn, limit, trace, symbol="r")

    def slip_under_tension(self, bolt: Bolt, pull: Any, trace: Trace = NULL) -> Any:
        """ksc: what a pull of `pull` N a bolt (any shape) leaves of its friction (J3.10): 1 - Tu/(Du Tb), by ASD 1 -
        1.5 Ta/(Du Tb), at least 0."""
        factor = 1.0 if self.code.lrfd else 1.5
        k = np.maximum(1 - factor * np.asarray(pull) / (1.13 * max(bolt.pretension, 1e-9)), 0.0)
        return trace(
            "ksc",
            "1 - T/(Du Tb)" if self.code.lrfd else "1 - 1.5 T/(Du Tb)",
            k,
            self.code.numbered("J3.10"),
            kind="number",
            pull=pull,
            Tb=bolt.pretension,
        )

    def max_edge(self, t: float) -> float:
        """Largest edge distance, mm (J3.6): 12 t, at most 6 in."""
        return min(12 * t, 6 * INCH)

    def max_spacing(self, t: float) -> float:
        """Largest spacing of painted or dry parts, mm (J3.6): 24 t, at most 12 in."""
        return min(24 * t, 12 * INCH)

    def min_spacing(self, d: float) -> float:
        """Least spacing, mm (J3.4): 2-2/3 d."""
        return 8 / 3 * d

    def min_edge(self, bolt: Bolt, hole: HoleSize, slot_toward_edge: bool) -> float:
        """Least edge distance, mm: Table J3.4 plus the increment C2 of Table J3.5 (of metric bolts, J3.4M, J3.5M)."""
        if bolt.metric:
            return bolt.min_edge + _metric_increment(bolt.d, hole, slot_toward_edge)
        inches = bolt.d / INCH
        if hole.type == "OVS":
            extra = 1 / 16 if inches <= 7 / 8 else 1 / 8
        elif hole.type.startswith("SSL") and slot_toward_edge:
            extra = 1 / 8 if inches <= 1 else 3 / 16
        elif hole.type.startswith("LSL") and slot_toward_edge:
            extra = 0.75 * inches
        else:
            extra = 0.0
        return bolt.min_edge + extra * INCH

    def ductile_diameter(self, t: float, Fy: float, b: float, L: float) -> float:
        """Least bolt with which a leg or plate `t` thick, `b` from bolt to web and `L` long turns before its bolts
        tear, mm (Manual Part 9): 0.163 t sqrt((Fy/b)(b^2/L^2 + 2)), at most 0.69 sqrt(t), in inches and ksi."""
        ti, bi, Li = t / INCH, b / INCH, L / INCH
        return min(0.163 * ti * math.sqrt(Fy / KSI / bi * (bi**2 / Li**2 + 2)), 0.69 * math.sqrt(ti)) * INCH


def _metric_increment(d: float, hole: HoleSize, slot_toward_edge: bool) -> float:
    """C2 of Table J3.5M, mm."""
    if hole.type == "OVS":
        return 2.0 if d <= 22 else 3.0
    if hole.type.startswith("SSL") and slot_toward_edge:
        return 3.0 if d <= 24 else 5.0
    return 0.75 * d if hole.type.startswith("LSL") and slot_toward_edge else 0.0
