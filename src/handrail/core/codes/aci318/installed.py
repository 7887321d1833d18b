"""Anchors drilled into hardened concrete (ACI 318-19 chapter 17): what the code lets their kinds and categories, and
bond. mm, N, MPa."""

from __future__ import annotations

import math

from handrail.core.codes.aci318.code import PSI
from handrail.core.trace import NULL, Trace
from handrail.core.units import INCH

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


def reach(d: float, uncracked: float, trace: Trace = NULL) -> float:
    """cNa, mm (17.6.5.1.2b): how far the bond of one anchor reaches; `uncracked` its characteristic bond there, MPa."""
    found = 10 * d * math.sqrt(uncracked / PSI / 1100)
    return trace("cNa", "10 da sqrt(tau_uncr/1100)", found, "17.6.5.1.2b", kind="length", da=d, tau_uncr=uncracked)


def basic_bond(bond: float, d: float, hef: float, trace: Trace = NULL, light: float = 1.0) -> float:
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


def edge_factor(nearest: float, cNa: float) -> float:
    """psi_ed,Na (17.6.5.4)."""
    return min(1.0, 0.7 + 0.3 * nearest / cNa)


def splitting_factor(nearest: float, critical: float, least: float) -> float:
    """psi_cp,N and psi_cp,Na of uncracked concrete with nothing that holds a split together (17.6.2.6, 17.6.5.5):
    `least` is 1.5 hef or cNa, mm."""
    return 1.0 if nearest >= critical else min(max(nearest, least) / critical, 1.0)


def deepest(thickness: float) -> float:
    """hef that a concrete so thick lets expansion, undercut and screw anchors, mm (17.9.4)."""
    return max(THROUGH * thickness, thickness - LEFT)
