"""Anchors drilled into hardened concrete, worked by hand from ACI 318-19 chapter 17. Kip, inches; sqrt(4000) = 63.246
psi."""

from __future__ import annotations

import math

import numpy as np
import pytest

from handrail.core.codes.aci318 import Aci318
from handrail.core.parts.anchors import AnchorGroup
from handrail.core.parts.anchors import shear as in_shear
from handrail.core.parts.anchors.installed import Installed
from handrail.core.quantities.units import KIP
from tests.worked.sheet import agrees, run
from tests.worked.test_anchors import PSI, SQUARE, concrete, group, kip
from tests.worked.test_base_plate import BASE, under

CONCRETE = Aci318()

FAR = {"foundation": {"kind": "footing", "fc": "4 ksi", "thickness": "48 in"}}
NEAR = {
    "foundation": {
        "kind": "footing",
        "fc": "4 ksi",
        "thickness": "48 in",
        "cracked": False,
        "edges": {"along": ["14 in", "100 in"]},
    }
}
ADHESIVE = {"anchor_kind": "adhesive", "anchor_category": 1, "bond_cracked": "900 psi", "bond_uncracked": "1800 psi"}
EXPANSION = {
    "anchor_kind": "expansion",
    "anchor_category": 2,
    "pullout": "12 kip",
    "steel_tension": "20 kip",
    "steel_shear": "9 kip",
}
SHEAR = {"shear_path": "anchors", "washers": "welded"}


def test_bond_of_four_adhesive_anchors():
    """1 in., hef = 12, 16 in. apart: Nba = 0.9 pi x 1 x 12 = 33.93. cNa = 10 sqrt(1800/1100) = 12.792: ANa = (16 +
    25.584)^2 = 1729.2, ANao = 25.584^2 = 654.5: 2.642 x 33.93 = 89.64, category 1: 0.65: 58.27 kip. Of one anchor, for
    tension that lasts: 0.55 x 0.65 x 33.93 = 12.13; a quarter of 40 kip, half of it for good: 5."""
    agrees(BASE, "anchor_bond", 58.27, 58.27, ADHESIVE, **FAR, **under(N=40))
    agrees(BASE, "anchor_bond_sustained", 12.13, 12.13, ADHESIVE, **FAR, **under(N=40))
    agrees(BASE, "anchor_bond_sustained", 5.0, 5.0, ADHESIVE | {"sustained": 0.5}, of="demand", **FAR, **under(N=40))


def test_breakout_of_adhesive_anchors():
    """kc = 17, and no other exponent: 17 x 63.246 x 12^1.5 = 44.69; (16 + 36)^2/1296 = 2.0864: 93.25; 0.65: 60.61;
    category 3: 0.45: 41.96."""
    agrees(BASE, "anchor_breakout_tension", 60.61, 60.61, ADHESIVE, **FAR, **under(N=40))
    agrees(BASE, "anchor_breakout_tension", 41.96, 41.96, ADHESIVE | {"anchor_category": 3}, **FAR, **under(N=40))


def test_uncracked_near_an_edge_may_split():
    """Edge 14 - 8 = 6, cac = 2 hef = 24. Bond: 1.8 pi x 12 = 67.86; ANa = (14 + 8 + 12.792) 41.584 = 1446.8: 2.2105;
    psi_ed = 0.7 + 0.3 x 6/12.792 = 0.8407; psi_cp = 12.792/24 = 0.5330: 67.21, 0.65: 43.69. Breakout: (14 + 8 + 18) x
    52/1296 = 1.6049; 0.8; 1.4 uncracked; psi_cp = 18/24: 1.6049 x 0.8 x 1.4 x 0.75 x 44.69 = 60.26, 0.65: 39.17.
    Reinforced against splitting psi_cp = 1 and 0.75: 60.26."""
    agrees(BASE, "anchor_bond", 43.69, 43.69, ADHESIVE, **NEAR, **under(N=40))
    agrees(BASE, "anchor_breakout_tension", 39.17, 39.17, ADHESIVE, **NEAR, **under(N=40))
    agrees(
        BASE, "anchor_breakout_tension", 60.26, 60.26, ADHESIVE | {"supplementary": "provided"}, **NEAR, **under(N=40)
    )


def test_a_reports_kc_holds_for_its_concrete():
    """kc = 24 for uncracked concrete has no 1.4 on it: 60.26 x 24/17/1.4 = 60.77, 0.65: 39.50."""
    agrees(BASE, "anchor_breakout_tension", 39.50, 39.50, ADHESIVE | {"anchor_kc": 24}, **NEAR, **under(N=40))


def test_pullout_and_steel_of_a_report():
    """Category 2: 0.55 x 12 = 6.6 kip; of category 1 0.65: 7.8, of 3 0.45: 5.4. Its steel as brittle: 0.65 x 20 =
    13.0; in shear over grout 0.60 x 0.80 x 9 = 4.32."""
    agrees(BASE, "anchor_pullout", 6.6, 6.6, EXPANSION, **FAR, **under(N=20))
    agrees(BASE, "anchor_pullout", 7.8, 7.8, EXPANSION | {"anchor_category": 1}, **FAR, **under(N=20))
    agrees(BASE, "anchor_pullout", 5.4, 5.4, EXPANSION | {"anchor_category": 3}, **FAR, **under(N=20))
    agrees(BASE, "anchor_steel_tension", 13.0, 13.0, EXPANSION, **FAR, **under(N=20))
    agrees(BASE, "anchor_steel_shear", 4.32, 4.32, EXPANSION | SHEAR, **FAR, **under(N=-20, V=8))


def test_strong_concrete_counts_to_8000_psi():
    """sqrt(8000) = 89.44, not sqrt(10,000): 60.61 x 89.44/63.246 = 85.72."""
    strong = {"foundation": {"kind": "footing", "fc": "10 ksi", "thickness": "48 in"}}
    agrees(BASE, "anchor_breakout_tension", 85.72, 85.72, ADHESIVE, **strong, **under(N=40))


def test_an_expansion_anchor_bears_on_two_diameters():
    """1 in., 6 in. from one edge of deep concrete: 7 x 2^0.2 x 63.246 x 6^1.5 = 7.474, AVc = AVco: 0.70: 5.232 kip."""
    anchor = Installed(
        kind="expansion",
        category=1,
        kc=17,
        bond=0,
        bond_uncracked=0,
        pullout=50 * KIP,
        steel_tension=50 * KIP,
        steel_shear=50 * KIP,
        critical_edge=1200,
        sustained=1,
        earthquake=False,
    )
    one = group(name="1 F1554-36", block=concrete(along=(6, math.inf)), installed=anchor)
    assert 1 / float(in_shear.breakout(one, np.array([[-KIP, 0.0]]))) == pytest.approx(5.232, abs=0.003)


def adhesive(anchors: AnchorGroup, bond: float) -> AnchorGroup:
    held = Installed(
        kind="adhesive",
        category=3,
        kc=17,
        bond=bond * PSI,
        bond_uncracked=bond * PSI,
        pullout=0,
        steel_tension=0,
        steel_shear=0,
        critical_edge=400,
        sustained=1,
        earthquake=False,
    )
    return AnchorGroup(
        points=anchors.points,
        rod=anchors.rod,
        hef=anchors.hef,
        concrete=anchors.concrete,
        installed=held,
        code=CONCRETE,
    )


def test_pried_out_by_bond_where_that_is_less():
    """3/4 in., 8 in. deep, 8 in. apart. Breakout: 17 x 63.246 x 8^1.5 = 24.33, (8 + 24)^2/576 = 1.7778: 43.25; twice,
    0.70 whatever the category: 60.55. Bond of 500 psi: 0.5 pi x 0.75 x 8 = 9.425; cNa = 7.5 sqrt(500/1100) = 5.056: (8
    + 10.113)^2/10.113^2 = 3.2081: 30.24; twice, 0.70: 42.33 kip."""
    force = np.tile([KIP, 0.0], (4, 1))
    assert kip(in_shear.pryout(adhesive(group(SQUARE, hef=8), 5000), force)[1]) == pytest.approx(60.55, abs=0.03)
    assert kip(in_shear.pryout(adhesive(group(SQUARE, hef=8), 500), force)[1]) == pytest.approx(42.33, abs=0.03)


def test_reinforcement_across_the_cone_does_not_help_prying():
    """17.5.3c: 0.70 with it or without: the 51.12 kip of tests of cast-in rods."""
    anchors = group(SQUARE, hef=8, block=concrete(3000, along=(10, math.inf), confined=True))
    assert kip(in_shear.pryout(anchors, np.tile([KIP, 0.0], (4, 1)))[1]) == pytest.approx(51.12, abs=0.04)


def test_an_earthquake_lowers_bond_too():
    """17.10.5.4: 0.75 x 58.27 = 43.70, with the report's shear strength of one anchor for it."""
    shaken = ADHESIVE | {"anchor_earthquake": "qualified", "steel_shear": "10 kip"}
    actions = [{"name": "E", "set": "overstrength", "N": "40 kip"}, {"name": "D", "N": "-20 kip"}]
    found = run(BASE, shaken, **FAR, geometry={"seismic": True}, actions=actions)
    assert found["checks"]["anchor_bond"]["strength"] == pytest.approx(43.70, abs=0.02)


@pytest.mark.parametrize(
    ("parameters", "words"),
    [
        ({"anchor_kind": "adhesive"}, "anchor_category, bond_uncracked, bond_cracked"),
        ({"anchor_kind": "screw", "anchor_category": 1}, "pullout, steel_tension"),
        (ADHESIVE | {"bond_cracked": "0 psi"}, "need bond_cracked"),
        (EXPANSION | {"pullout": "0 kip"}, "need pullout"),
        (ADHESIVE | {"tension_bars": "(8) No. 5"}, "not implemented"),
        (ADHESIVE | {"shear_path": "lug"}, "pocket"),
    ],
)
def test_what_a_report_does_not_give_is_not_guessed(parameters, words):
    found = run(BASE, parameters, **FAR, **under(N=1))
    assert found["status"] == "unchecked" and words in found["reason"]


def test_anchors_of_the_lateral_system_must_be_qualified():
    actions = [{"name": "E", "set": "overstrength", "N": "1 kip"}, {"name": "D", "N": "-20 kip"}]
    found = run(BASE, ADHESIVE, **FAR, geometry={"seismic": True}, actions=actions)
    assert found["status"] == "unchecked" and any("17.10.3" in note for note in found["notes"])


@pytest.mark.parametrize(
    ("parameters", "rule", "ok"),
    [
        (ADHESIVE | {"embedment": "20 in"}, "anchor_bond_most_depth", True),
        (ADHESIVE | {"embedment": "21 in"}, "anchor_bond_most_depth", False),
        (ADHESIVE | {"embedment": "3-1/2 in"}, "anchor_bond_least_depth", False),
        (EXPANSION | {"embedment": "33 in"}, "anchor_depth_in_concrete", True),
        (EXPANSION | {"embedment": "45 in"}, "anchor_depth_in_concrete", False),
    ],
)
def test_depths(parameters, rule, ok):
    """1 in.: bond from 4 to 20 diameters; an expansion anchor to two thirds of 48 in., or all but 4 in. of it: 44."""
    assert run(BASE, parameters, **FAR, **under(N=1))["detailing"][rule]["ok"] is ok


def test_edges_and_spacing():
    """6 in. from an edge: enough for adhesive anchors of 1 in., 8 for expansion ones; 6 diameters apart."""
    assert run(BASE, ADHESIVE, **NEAR, **under(N=1))["detailing"]["anchor_edge_in_concrete"]["ok"]
    assert not run(BASE, EXPANSION, **NEAR, **under(N=1))["detailing"]["anchor_edge_in_concrete"]["ok"]
    close = ADHESIVE | {"rod_points": "8 in, 2.9 in; 8 in, -2.9 in; -8 in, 2.9 in; -8 in, -2.9 in"}
    assert not run(BASE, close, **FAR, **under(N=1))["detailing"]["anchor_spacing"]["ok"]
