"""Anchors drilled into hardened concrete (ACI 318-19 chapter 17): what the code lets their kinds and categories, and
bond. mm, N, MPa."""

from __future__ import annotations

import math
from dataclasses import dataclass

from handrail.core.codes.aci318.code import PSI, Edition
from handrail.core.quantities.lines import NULL, Trace
from handrail.core.quantities.units import INCH

STRONGEST = 8_000 * PSI  # what counts of fc' (17.3.1)
KC, KC_MOST = 17.0, 24.0  # without a report, and the most that a report may give (17.6.2.2.1)
BREAKOUT_UNCRACKED = 1.4  # with kc of 17 (17.6.2.5.1); a report's kc holds for its own concrete
SUSTAINED = 0.55  # of one anchor's bond for tension that lasts (17.5.2.2)
EDGES = {
    "adhesive": 6.0,
    "expansion": 8.0,
    "undercut": 6.0,
    "screw": 6.0,
}  # diameters to an edge (17.9.2b); expansion: torque-controlled
SPACING = 6.0  # diameters (17.9.2a)
CRITICAL = {"adhesive": 2.0, "expansion": 4.0, "undercut": 2.5, "screw": 4.0}  # cac over hef (17.9.5)
SHALLOWEST, DEEPEST = 4.0, 20.0  # diameters of embedment that the bond model holds for (17.3.3)
SHORT = 2.0  # diameters of an expansion anchor that bear in shear (17.7.2.2.1)
LIGHT, LIGHT_BOND = 0.8, 0.6  # lambda_a of lambda (17.2.4.1): of breakout, but of undercut anchors 1; of bond
THROUGH = 2.0 / 3.0  # of the concrete's thickness, or all but 4 in. of it (17.9.4)
LEFT = 4 * INCH


@dataclass(frozen=True)
class Installed:
    """Anchors drilled into hardened concrete: bond, and where they may stand."""

    code: Edition

    def reach(self, d: float, uncracked: float, trace: Trace = NULL) -> float:
        """cNa, mm (17.6.5.1.2b): how far the bond of one anchor reaches; `uncracked` its characteristic bond there,
        MPa."""
        depth = 10 * d * math.sqrt(uncracked / PSI / 1100)
        return trace("cNa", "10 da sqrt(tau_uncr/1100)", depth, "17.6.5.1.2b", kind="length", da=d, tau_uncr=uncracked)

    def basic_bond(self, bond: float, d: float, hef: float, trace: Trace = NULL, light: float = 1.0) -> float:
        """Nba of one anchor far from edges, N (17.6.5.2.1); `light` is lambda_a."""
        return trace(
            "Nba",
            "lambda_a tau pi da hef",
            light * bond * math.pi * d * hef,
            "17.6.5.2.1",
            kind="force",
            tau=bond,
            da=d,
            hef=hef,
            lambda_a=light,
        )

    def patch(
        self,
        Nba: float,
        area: float,
        reach: float,
        nearest: float,
        splits: float,
        critical: float,
        count: int,
        trace: Trace = NULL,
    ) -> float:
        """Nag of `count` anchors about their middle, N (17.6.5.1b): of one's `Nba`, with what they cover, `area` mm^2,
        the nearest edge, mm, and what splitting leaves, by the `critical` edge, mm."""
        trace("ANa", f"inside the concrete, {count} anchors", area, "17.6.5.1", kind="area")
        whole = trace("ANao", "(2 cNa)^2", (2 * reach) ** 2, "17.6.5.1.2a", kind="area", cNa=reach)
        edge = trace("psi_ed,Na", "edge", self.edge_factor(nearest, reach), "17.6.5.4", kind="number", ca_min=nearest)
        trace("psi_cp,Na", "splitting", splits, "17.6.5.5", kind="number", cac=critical)
        return trace(
            "Nag", "ANa/ANao psi_ed,Na psi_cp,Na Nba", area / whole * edge * splits * Nba, "17.6.5.1b", kind="force"
        )

    def pullout(self, reported: float, trace: Trace = NULL) -> float:
        """Np of the anchor's report, N (17.6.3.2.1)."""
        return trace("Np", "of the anchor's report", reported, "17.6.3.2.1", kind="force")

    def steel(self, reported: float, trace: Trace = NULL) -> float:
        """Nsa of the anchor's report, N (17.6.1.2)."""
        return trace("Nsa", "of the anchor's report", reported, "17.6.1.2", kind="force")

    def lasting(self, design: float, trace: Trace = NULL) -> float:
        """Of one anchor's design strength of bond for tension that lasts, N (17.5.2.2)."""
        return trace("0.55 phi Nba", "of one anchor", SUSTAINED * design, "17.5.2.2", kind="force")

    @property
    def strongest(self) -> float:
        """What counts of fc', MPa (17.3.1)."""
        return STRONGEST

    def edge(self, kind: str) -> float:
        """Diameters to an edge (17.9.2b)."""
        return EDGES[kind]

    @property
    def spacing(self) -> float:
        """Diameters between them (17.9.2a)."""
        return SPACING

    def critical(self, kind: str) -> float:
        """cac over hef (17.9.5); 0 of cast-in rods."""
        return CRITICAL.get(kind, 0.0)

    @property
    def depths(self) -> tuple[float, float]:
        """Diameters of embedment that the bond model holds for (17.3.3)."""
        return SHALLOWEST, DEEPEST

    def light(self, kind: str) -> float:
        """lambda_a over lambda of breakout in lightweight concrete (17.2.4.1)."""
        return 1.0 if kind == "undercut" else LIGHT

    @property
    def light_bond(self) -> float:
        """lambda_a over lambda of bond in lightweight concrete (17.2.4.1)."""
        return LIGHT_BOND

    def uncracked(self, kc: float) -> float:
        """psi_c,N of uncracked concrete (17.6.2.5.1)."""
        return BREAKOUT_UNCRACKED if kc == KC else 1.0

    def bears(self, kind: str, hef: float, d: float) -> float:
        """le in shear, mm (17.7.2.2.1)."""
        return min(hef, SHORT * d) if kind == "expansion" else hef

    def edge_factor(self, nearest: float, cNa: float) -> float:
        """psi_ed,Na (17.6.5.4)."""
        return min(1.0, 0.7 + 0.3 * nearest / cNa)

    def splitting_factor(self, nearest: float, critical: float, least: float) -> float:
        """psi_cp,N and psi_cp,Na of uncracked concrete with nothing that holds a split together (17.6.2.6, 17.6.5.5):
        `least` is 1.5 hef or cNa, mm."""
        return 1.0 if nearest >= critical else min(max(nearest, least) / critical, 1.0)

    def deepest(self, thickness: float) -> float:
        """hef that a concrete so thick lets expansion, undercut and screw anchors, mm (17.9.4)."""
        return max(THROUGH * thickness, thickness - LEFT)
