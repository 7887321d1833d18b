"""Anchors in tension (17.6): steel, breakout, pullout, side-face blowout. mm, N, MPa; constants with dimensions are the
inch-pound ones."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from handrail.core.catalogue import Rod
from handrail.core.codes.aci318.code import LB, SEISMIC, Edition, root
from handrail.core.quantities.lines import NULL, Trace
from handrail.core.quantities.units import INCH

KC = 24  # of cast-in anchors
DEEP = (11 * INCH, 25 * INCH)  # where the other exponent holds
PULLOUT_UNCRACKED, BREAKOUT_UNCRACKED = 1.4, 1.25


@dataclass(frozen=True)
class Tension:
    """Anchors in tension: steel, breakout, heads, side faces."""

    code: Edition

    def nominal_steel(self, rod: Rod) -> float:
        """Nsa of one rod, N (17.6.1.2): Ase futa."""
        return rod.area * rod.design_futa

    def steel(self, rod: Rod, trace: Trace = NULL) -> float:
        """Design strength of one rod, N (17.6.1.2): phi Ase futa."""
        Nsa = trace(
            "Nsa", "Ase,N futa", self.nominal_steel(rod), "17.6.1.2", kind="force", Ase=rod.area, futa=rod.design_futa
        )
        return self.code.available(Nsa, "steel_tension", rod.ductile, trace)

    def basic_breakout(
        self, hef: float, fc: float, trace: Trace = NULL, kc: float | None = None, light: float = 1.0
    ) -> float:
        """Nb of one anchor in cracked concrete, far from edges, N (17.6.2.2): headed and cast in, or post-installed
        with its `kc`; `light` is lambda_a."""
        if kc is None and DEEP[0] <= hef <= DEEP[1]:
            Nb = 16 * light * root(fc) * (hef / INCH) ** (5 / 3) * LB
            return trace(
                "Nb", "16 lambda_a sqrt(fc') hef^(5/3)", Nb, "17.6.2.2.3", kind="force", hef=hef, fc=fc, lambda_a=light
            )
        k = kc or KC
        Nb = k * light * root(fc) * (hef / INCH) ** 1.5 * LB
        return trace(
            "Nb", f"{k:g} lambda_a sqrt(fc') hef^1.5", Nb, "17.6.2.2.1", kind="force", hef=hef, fc=fc, lambda_a=light
        )

    def cone(
        self,
        Nb: float,
        area: float,
        hef: float,
        nearest: float,
        uncracked: float,
        count: int,
        trace: Trace = NULL,
    ) -> float:
        """Ncbg of `count` rods about their middle, N (17.6.2.1b): of one's `Nb`, with what they cover together, `area`
        mm^2, the nearest edge, mm, and what concrete without cracks gives."""
        trace("ANc", f"inside the concrete, {count} rods", area, "17.6.2.1", kind="area")
        whole = trace("ANco", "9 hef^2", self.full_area(hef), "17.6.2.1.4", kind="area", hef=hef)
        edge = trace("psi_ed,N", "edge", self.edge_factor(nearest, hef), "17.6.2.4", kind="number", ca_min=nearest)
        trace("psi_c,N psi_cp,N", "cracked or not", uncracked, "17.6.2.5", kind="number")
        return trace(
            "Ncbg",
            "ANc/ANco psi_ed,N psi_c,N psi_cp,N Nb",
            area / whole * edge * uncracked * Nb,
            "17.6.2.1b",
            kind="force",
        )

    def shaken(self, actions_shaken: np.ndarray, trace: Trace = NULL) -> np.ndarray:
        """What an earthquake leaves of the concrete in the combinations that it is in (17.10.5.4)."""
        return trace("0.75", "with an earthquake", np.where(actions_shaken, SEISMIC, 1.0), "17.10.5.4", kind="number")

    def eccentric(self, strength: float, trace: Trace = NULL) -> float:
        """The strength of a group as it is pulled (17.6.2.3), noted."""
        return trace("phi Nn", "with the eccentricity of their tension (psi_ec,N)", strength, "17.6.2.3", kind="force")

    def burst(self, Nsb: float, edge: float, other: float, spread: float, count: int, trace: Trace = NULL) -> float:
        """Of side-face blowout: of one rod by its `other` edge (17.6.4.1.1), of a run by how far it is `spread`
        (17.6.4.2), mm."""
        if count == 1:
            return Nsb * trace("u", "other edge", self.corner_factor(edge, other), "17.6.4.1.1", kind="number")
        return trace(
            "Nsbg",
            "(1 + s/(6 ca1)) Nsb",
            (1 + spread / (6 * edge)) * Nsb,
            "17.6.4.2",
            kind="force",
            s=spread,
            ca1=edge,
        )

    @property
    def uncracked(self) -> float:
        """psi_c,N of cast-in anchors in concrete without cracks (17.6.2.5.1)."""
        return BREAKOUT_UNCRACKED

    def full_area(self, hef: float) -> float:
        """ANco of one anchor far from edges, mm^2 (17.6.2.1.4)."""
        return 9 * hef**2

    def edge_factor(self, nearest: float, hef: float) -> float:
        """psi_ed,N for the nearest edge, mm (17.6.2.4)."""
        return 1.0 if nearest >= 1.5 * hef else 0.7 + 0.3 * nearest / (1.5 * hef)

    def eccentricity_factor(self, e: np.ndarray, reach: float) -> np.ndarray:
        """psi_ec,N for eccentricities of the tension in one direction, mm (17.6.2.3), and psi_ec,Na (17.6.5.3): `reach`
        is 1.5 hef or cNa."""
        return 1.0 / (1.0 + np.abs(e) / reach)

    def pullout(self, rod: Rod, fc: float, cracked: bool, trace: Trace = NULL) -> float:
        """Design strength of one head, N (17.6.3): phi psi_c,P 8 Abrg fc'."""
        psi = 1.0 if cracked else PULLOUT_UNCRACKED
        Npn = trace(
            "Npn",
            f"{psi:g} x 8 Abrg fc'",
            psi * 8 * rod.bearing_area * fc,
            "17.6.3.2.2",
            kind="force",
            Abrg=rod.bearing_area,
            fc=fc,
        )
        return self.code.available(Npn, "pullout", True, trace)

    def blowout(self, edge: float, rod: Rod, fc: float, trace: Trace = NULL, light: float = 1.0) -> float:
        """Nsb of one head at `edge` mm from the face, deeper than 2.5 times that, N (17.6.4.1): 160 ca1 sqrt(Abrg)
        sqrt(fc')."""
        Nsb = 160 * (edge / INCH) * np.sqrt(rod.bearing_area) / INCH * light * root(fc) * LB
        return float(
            trace(
                "Nsb",
                "160 ca1 sqrt(Abrg) lambda_a sqrt(fc')",
                Nsb,
                "17.6.4.1",
                kind="force",
                ca1=edge,
                Abrg=rod.bearing_area,
                lambda_a=light,
            )
        )

    def corner_factor(self, edge: float, other: float) -> float:
        """Of side-face blowout of one anchor whose other edge is within three times the first (17.6.4.1.1)."""
        return 1.0 if other >= 3 * edge else (1 + max(other / edge, 1.0)) / 4
