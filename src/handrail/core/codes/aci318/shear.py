"""Anchors in shear (17.7): steel, breakout towards an edge, pryout. mm, N, MPa; constants with dimensions are the
inch-pound ones."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from handrail.core.catalogue import Rod
from handrail.core.codes.aci318.code import LB, Edition, root
from handrail.core.quantities.lines import NULL, Trace
from handrail.core.quantities.units import INCH

GROUT = 0.80  # steel strength over a grout pad (17.7.1.2.1)
UNCRACKED = 1.4
SHALLOW = 2.5 * INCH  # below it pryout is once the breakout, else twice (17.7.3.1)


@dataclass(frozen=True)
class Shear:
    """Anchors in shear: steel, breakout towards an edge, prying out."""

    code: Edition

    def steel(self, rod: Rod, grout: bool, trace: Trace = NULL) -> float:
        """Design strength of one rod, N (17.7.1.2b): phi 0.6 Ase futa, 0.80 of it over a grout pad."""
        part = GROUT if grout else 1.0
        Vsa = trace(
            "Vsa",
            "0.6 Ase,V futa" + (" x 0.80, grout pad" if grout else ""),
            part * 0.6 * rod.area * rod.design_futa,
            "17.7.1.2",
            kind="force",
            Ase=rod.area,
            futa=rod.design_futa,
        )
        return self.code.available(Vsa, "steel_shear", rod.ductile, trace, "V")

    def basic_breakout(
        self, edge: float, d: float, bearing: float, fc: float, trace: Trace = NULL, light: float = 1.0
    ) -> float:
        """Vb of one anchor `d` thick, `edge` mm from the edge that the shear goes to, in cracked concrete, N
        (17.7.2.2): the lesser of two. `bearing` is le, mm, not over 8 d; `light` is lambda_a."""
        bearing = min(bearing, 8 * d)
        slender = 7 * (bearing / d) ** 0.2 * math.sqrt(d / INCH)
        Vb = min(slender, 9.0) * light * root(fc) * (edge / INCH) ** 1.5 * LB
        return trace(
            "Vb",
            "min(7 (le/da)^0.2 sqrt(da), 9) lambda_a sqrt(fc') ca1^1.5",
            Vb,
            "17.7.2.2.1",
            kind="force",
            le=bearing,
            da=d,
            ca1=edge,
            fc=fc,
            lambda_a=light,
        )

    def wedge(
        self,
        Vb: float,
        area: float,
        edge: float,
        beside: float,
        thickness: float,
        cracked: bool,
        count: int,
        trace: Trace = NULL,
    ) -> tuple[float, float]:
        """(Vcbg towards the edge, without the corner's loss), N (17.7.2.1b): of one's `Vb`, with what `count` rods
        cover, `area` mm^2, the nearest edge `beside` and the concrete's `thickness`, mm."""
        trace("AVc", "inside the concrete", area, "17.7.2.1", kind="area")
        full = trace("AVco", "4.5 ca1^2", self.full_area(edge), "17.7.2.1.3", kind="area", ca1=edge)
        corner = trace(
            "psi_ed,V", "edge beside", self.corner_factor(beside, edge), "17.7.2.4", kind="number", ca2=beside
        )
        psi_c = trace("psi_c,V", "cracked or not", 1.0 if cracked else UNCRACKED, "17.7.2.5", kind="number")
        thin = trace(
            "psi_h,V", "thickness", self.thickness_factor(thickness, edge), "17.7.2.6", kind="number", ha=thickness
        )
        plain = min(area, count * full) / full * psi_c * thin * Vb
        towards = trace("Vcbg", "AVc/AVco psi_ed,V psi_c,V psi_h,V Vb", plain * corner, "17.7.2.1b", kind="force")
        return towards, plain

    @property
    def grouted(self) -> float:
        """What a grout pad leaves of the steel (17.7.1.2.1)."""
        return GROUT

    def reported(self, strength: float, grout: bool, trace: Trace = NULL) -> float:
        """Vsa of an anchor's report, N (17.7.1.2)."""
        words = "of the anchor's report" + (" x 0.80, grout pad" if grout else "")
        return trace("Vsa", words, (GROUT if grout else 1.0) * strength, "17.7.1.2", kind="force")

    def full_area(self, edge: float) -> float:
        """AVco of one anchor in deep concrete far from corners, mm^2 (17.7.2.1.3)."""
        return 4.5 * edge**2

    def corner_factor(self, nearest: float, edge: float) -> float:
        """psi_ed,V for the nearest edge beside the shear, mm (17.7.2.4)."""
        return 1.0 if nearest >= 1.5 * edge else 0.7 + 0.3 * nearest / (1.5 * edge)

    def eccentricity_factor(self, e: np.ndarray, edge: float) -> np.ndarray:
        """psi_ec,V (17.7.2.3)."""
        return 1.0 / (1.0 + np.abs(e) / (1.5 * edge))

    def thickness_factor(self, thickness: float, edge: float) -> float:
        """psi_h,V of concrete shallower than 1.5 ca1 (17.7.2.6.1)."""
        return max(math.sqrt(1.5 * edge / thickness), 1.0)

    def pryout_factor(self, hef: float) -> float:
        """kcp (17.7.3.1)."""
        return 1.0 if hef < SHALLOW else 2.0
