"""Shear lugs (ACI 318-19 17.11): bearing on the concrete before the lug, and its breakout towards an edge. mm, N,
MPa."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.codes.aci318.code import LB, STRONGEST, Edition, root
from handrail.core.codes.aci318.shear import UNCRACKED, Shear
from handrail.core.quantities.lines import NULL, Trace
from handrail.core.quantities.units import INCH, KSI
from handrail.core.quantities.words import held

MOST_SHARE, MOST_STRESS = 0.2, 0.8 * KSI  # of fc', and 800 psi, over the plate (22.9.4.4)
DEEP = 2.5
PHI = 0.65  # bearing and breakout of lugs (21.2.1, 17.5.3)
FRICTION, MU_STEEL, MU_GROUT = (
    0.75,
    0.70,
    0.55,
)  # phi of shear friction (21.2.1); steel on concrete (22.9.4.2); on grout (Design Guide 1)


@dataclass(frozen=True)
class Lugs:
    """Shear lugs and friction."""

    code: Edition

    def slides(self, mu: float, thrust: Any, area: float, fc: float, shaken: Any, trace: Trace = NULL) -> Any:
        """Design strength of friction under what presses, N (22.9.4.2): at most 0.2 fc' or 800 psi over the plate
        (22.9.4.4), none with an earthquake."""
        most = min(MOST_SHARE * fc, MOST_STRESS) * area
        grips = FRICTION * np.minimum(mu * thrust, most)
        trace("most", f"min(0.2 fc', {held(MOST_STRESS, 'stress')}) A1", most, "22.9.4.4", kind="force", fc=fc, A1=area)
        words, left = "0.75 mu P, none with an earthquake", np.where(shaken, 0.0, grips)
        return trace("phi Vn", words, left, "22.9.4.2", kind="force", mu=mu)

    def friction(self, grouted: bool, light: float) -> float:
        """mu of the plate on grout, or of steel on concrete (22.9.4.2)."""
        return MU_GROUT if grouted else MU_STEEL * light

    @property
    def over_rods(self) -> float:
        """hef over the lug's depth, and over its distance to the rods that pull (17.11.1.1.8)."""
        return DEEP

    def effective_depth(self, depth: float, t: float, grout: float) -> float:
        """What of a lug `depth` below the concrete's face bears, mm: within twice its thickness of the plate, the grout
        taken off (17.11.2.1.1)."""
        return max(min(depth, 2 * t - grout), 0.0)

    def axial_factor(self, P: np.ndarray, plate_area: float, fc: float, steel: np.ndarray, trace: Trace = NULL) -> Any:
        """psi_brg,sl (17.11.2.2): of `P` N pressing +, over a plate of `plate_area` mm^2; `steel` is n Nsa of the rods
        that pull in that combination, N."""
        pressed = 1 + 4 * np.maximum(P, 0.0) / (plate_area * min(fc, STRONGEST))
        lifted = np.where(
            np.asarray(steel) > 0, 1 + np.minimum(P, 0.0) / np.maximum(steel, 1e-9), np.where(P < 0, 0.0, 1.0)
        )
        factor = np.clip(np.where(P < 0, lifted, pressed), 0.0, 2.0)
        return trace(
            "psi_brg", "1 + 4 P/(Abp fc') <= 2; 1 - T/(n Nsa) in uplift", factor, "17.11.2.2", kind="number", P=P
        )

    def bearing(self, fc: float, area: float, factor: Any, trace: Trace = NULL) -> Any:
        """Design strength in bearing, N (17.11.2.1): phi 1.7 fc' Aef psi_brg."""
        fc = min(fc, STRONGEST)
        return trace(
            "phi Vbrg",
            "0.65 x 1.7 fc' Aef psi_brg",
            PHI * 1.7 * fc * area * factor,
            "17.11.2.1",
            kind="force",
            fc=fc,
            Aef=area,
        )

    def breakout(
        self,
        fc: float,
        edge: float,
        width: float,
        depth: float,
        beside: tuple[float, float],
        thickness: float,
        cracked: bool,
        trace: Trace = NULL,
        along: bool = False,
        light: float = 1.0,
    ) -> float:
        """Design strength against breaking out towards an edge `edge` mm before the lug, N (17.11.3): phi AVc/AVco
        psi_ed psi_c psi_h 9 sqrt(fc') ca1^1.5; AVc less the lug's own bearing face; of a shear `along` that edge twice
        as much, without the corner's loss. `width` and `depth` of the lug in the concrete, `beside` from its ends to
        the edges at its sides, mm."""
        if edge <= 0:
            return 0.0
        reach = 1.5 * edge
        Vb = trace(
            "Vb",
            "9 lambda_a sqrt(fc') ca1^1.5",
            9 * light * root(fc) * (edge / INCH) ** 1.5 * LB,
            "17.11.3.2",
            kind="force",
            ca1=edge,
            fc=fc,
            lambda_a=light,
        )
        wide, deep = width + sum(min(b, reach) for b in beside), min(depth + reach, thickness)
        area = trace(
            "AVc",
            "inside the concrete, less the lug's face",
            max(wide * deep - width * depth, 0.0),
            "17.11.3.1.1",
            kind="area",
        )
        whole = trace("AVco", "4.5 ca1^2", Shear(self.code).full_area(edge), "17.7.2.1.3", kind="area", ca1=edge)
        corner = (
            1.0
            if along
            else trace(
                "psi_ed,V",
                "edge beside",
                Shear(self.code).corner_factor(max(min(beside), 0.0), edge),
                "17.7.2.4",
                kind="number",
            )
        )
        factor = (1.0 if cracked else UNCRACKED) * Shear(self.code).thickness_factor(thickness, edge)
        Vcb = trace(
            "Vcb,sl",
            "AVc/AVco psi_ed,V psi_c,V psi_h,V Vb" + (" x 2, along the edge" if along else ""),
            (2 if along else 1) * area / whole * corner * factor * Vb,
            "17.11.3.2" if along else "17.11.3.1",
            kind="force",
        )
        return trace("phi Vcb,sl", "0.65 Vcb,sl", PHI * Vcb, "17.5.3", kind="force")
