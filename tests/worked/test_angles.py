"""Shear angles worked by hand: 2L4X3-1/2X5/16 x 8-1/2 of A36 with rows of three 3/4 A325-N on a W18X50 (tw 0.355), on
the flange of a W14X90 (tf 0.71); gauges 2-1/4 and 2-3/4, so that both edges are 1-1/4. One angle is L4X3-1/2X3/8. Kip,
inches."""

from __future__ import annotations

import numpy as np
import pytest

from handrail.core.checking.trial import read_trial
from tests.worked.sheet import WEB, agrees, data, run

PAIR = {
    "framing": "beam_to_column_flange",
    "standard": "double_angle",
    "supported": {"section": "W18X50", "grade": "A992"},
    "support": {"section": "W14X90", "grade": "A992"},
    "parameters": {"rows": 3, "beam_gauge": "2-1/4 in", "support_gauge": "2-3/4 in"},
    "actions": [{"name": "A", "V": "40 kip"}],
}
ONE = {
    **PAIR,
    "standard": "single_angle",
    "parameters": {"rows": 3, "beam_gauge": "2-1/4 in", "support_gauge": "2.8225 in"},
}
GIRDER = {"framing": "beam_to_girder", "support": {"section": "W21X62", "grade": "A992"}}
BOTH = {"actions": [{"name": "A", "V": "40 kip", "N": "6 kip"}]}
PUSH = {"actions": [{"name": "A", "V": "40 kip", "N": "-6 kip"}]}
WELDED = {
    **PAIR,
    "supported": {"section": "W36X231", "grade": "A992"},
    "support": {"section": "W14X283", "grade": "A992"},
    "parameters": {
        "rows": 8,
        "angle": "L4X3-1/2X3/8",
        "beam_side": "welded",
        "support_side": "welded",
        "angle_length": "24 in",
        "beam_weld": "3/16 in",
        "support_weld": "1/4 in",
    },
}


def test_legs_by_the_manual_s_table():
    """Each leg takes half: 0.75 (0.60 x 36 x 7.25 x 5/16 + 58 (1.25 - 0.4375) 5/16) = 0.75 (48.94 + 14.73) = 47.75,
    both 95.5; ASD 31.83. Rupture 0.45 x 58 (8.5 - 3 x 7/8) 5/16 = 47.92 (31.95); yielding 21.6 x 8.5 x 5/16 = 57.38
    (38.25). The other legs have the same edges."""
    for leg in ("beam_leg", "support_leg"):
        agrees(
            PAIR, f"{leg}_block_shear", 95.5 / 2, 63.7 / 2, published="Manual Table 10-1, 3 rows, 5/16 in.", rel=2e-3
        )
        agrees(PAIR, f"{leg}_shear_rupture", 47.92, 31.95)
        agrees(PAIR, f"{leg}_shear_yield", 57.38, 38.25)


def test_eight_rows_by_the_manual_s_table():
    """2 x 0.75 (0.60 x 36 x 22.25 x 5/16 + 58 (1.25 - 0.4375) 5/16) = 1.5 (150.2 + 14.73) = 247; ASD 165."""
    deep = {"supported": {"section": "W36X231", "grade": "A992"}}
    agrees(
        PAIR,
        "beam_leg_block_shear",
        247 / 2,
        165 / 2,
        {"rows": 8},
        rel=3e-3,
        published="Manual Table 10-1, 8 rows, 5/16 in.",
        **deep,
    )


def test_bolts_by_the_manual_s_table():
    """Two planes at the beam, two lines on the support: 6 x 17.89 = 107; ASD 71.6."""
    for check in ("bolt_shear", "support_bolt_shear"):
        agrees(PAIR, check, 107.0, 71.6, published="Manual Table 10-1, 3 rows, bolts", rel=5e-3)


def test_bearing_of_both_groups():
    """Each bolt the least of all. At the beam the last one tears its legs of 5/16 in., 1.2 x 0.84375 x 0.625 x 58 =
    36.70, the others bear on the web, 2.4 x 0.75 x 0.355 x 65 = 41.54: 0.75 (36.70 + 2 x 41.54) = 89.83; ASD 59.89; on
    the web alone 0.75 x 3 x 41.54 = 93.5 (62.3). On the support two tear, 18.35, and four are sheared, 23.86: 0.75 (2 x
    18.35 + 4 x 23.86) = 99.1; ASD 66.07. The flange: 6 x 0.75 x 83.07 = 373.8 (249.2)."""
    agrees(PAIR, "bolt_bearing_leg", 89.83, 59.89)
    agrees(PAIR, "support_bolt_bearing_leg", 99.1, 66.07)
    agrees(PAIR, "bolt_bearing_web", 93.5, 62.3)
    agrees(PAIR, "support_bolt_bearing_support", 373.8, 249.2)


def test_a_leg_under_a_pull():
    """Half of 6 kip each. Yielding 0.9 x 36 x 8.5 x 5/16 = 86.06 (57.26); rupture 0.75 x 58 x 5.875 x 5/16 = 79.86
    (53.24). Block: Agv = 2 x 1.25 x 5/16 = 0.78125, Ant = (6 - 2 x 7/8) 5/16 = 1.328: 0.75 (16.875 + 77.03) = 70.43
    (46.95). Together sqrt((20/47.75)^2 + (3/70.43)^2) = 0.421; ASD 0.6316. Shear with pull on the gross leg:
    sqrt((20/57.38)^2 + (3/86.06)^2) = 0.3503; ASD 0.5255."""
    agrees(PAIR, "beam_leg_axial_yield", 86.06, 57.26, **BOTH)
    agrees(PAIR, "beam_leg_axial_rupture", 79.86, 53.24, **BOTH)
    agrees(PAIR, "beam_leg_axial_block_shear", 70.43, 46.95, **BOTH)
    agrees(PAIR, "beam_leg_block_shear_interaction", 0.421, 0.6316, of="utilisation", **BOTH)
    agrees(PAIR, "beam_leg_interaction", 0.3503, 0.5255, of="utilisation", **BOTH)


def test_a_leg_under_a_thrust():
    """K = 1.2 over the gauge: 2.7/0.0902 = 29.93: Fe = 319.5, Fcr = 36 x 0.658^0.11268 = 34.34: 0.9 x 34.34 x 2.656 =
    82.1; ASD 54.62."""
    agrees(PAIR, "beam_leg_buckling", 82.1, 54.62, **PUSH)


def test_a_gauge_beyond_three_inches_bends_the_leg():
    """L6X4X3/8 with 3-1/2 in. on the beam: V 3.5 in. before the bolts. Fy Z = 36 x 0.375 x 8.5^2/4 = 243.8: 219.5
    (146.0); F11 with Lb d/t^2 = 211.6: Mn = Mp: the same. Znet = 0.375 (18.0625 - 2 x 3 x 0.875 - 0.875^2/4) = 4.733:
    0.75 x 58 x 4.733 = 205.9 (137.3). A thrust: 4.2/0.10825 = 38.8: Fcr = 33.26: 95.41 (63.5). Together with N of 3
    kip, nothing to speak of: M = 20 x 3.5 = 70: 0.0290/2 + 0.3189 = 0.3334, V 20/68.85 = 0.2905: 0.4422; ASD: 0.0436/2
    + 0.4795 = 0.5013, 0.4357: 0.6642."""
    long = {"angle": "L6X4X3/8", "leg_on_beam": "long", "beam_gauge": "3-1/2 in", "support_gauge": "2-3/4 in"}
    agrees(PAIR, "beam_leg_flexure_yield", 219.5, 146.0, long)
    agrees(PAIR, "beam_leg_flexure_rupture", 205.9, 137.3, long)
    agrees(PAIR, "beam_leg_buckling", 219.5, 146.0, long)
    agrees(PAIR, "beam_leg_axial_buckling", 95.41, 63.5, long, **PUSH)
    agrees(PAIR, "beam_leg_interaction", 0.4422, 0.6642, long, of="utilisation", **BOTH)
    assert run(PAIR, long)["checks"]["bolt_shear"]["strength"] < 0.6 * 107.4


def test_a_pull_pries_at_the_legs():
    """6/6 = 1 kip each. b' = 2.75 - 0.15625 - 0.375 = 2.21875; an end bolt has 1.5 and the 1.25 to the leg's end: p =
    2.75, delta = 0.7045: 0.9 x 58 x 2.75 x 0.3125^2 x 1.7045/(4 x 2.21875) = 2.692; ASD 1.791. Slip: 6 x 9.492 (1 -
    1/31.64) = 55.15; ASD 36.17; the beam's bolts in two planes, nothing pulls them: 56.95 (37.97)."""
    agrees(PAIR, "support_bolt_tension", 2.692, 1.791, **BOTH)
    agrees(PAIR, "support_slip", 55.15, 36.17, {"tightening": "slip_a"}, **BOTH)
    agrees(PAIR, "slip", 56.95, 37.97, {"tightening": "slip_a"})
    agrees(PAIR, "support_bolt_pull", 2.0, 2.0, {"support_bolts": "shear"}, **BOTH)


def test_slots_along_the_shear_hold_nothing_in_bearing():
    agrees(PAIR, "support_slot_along_V", 0.001, 0.001, {"leg_hole": "SSLP"})
    assert run(PAIR, {"leg_hole": "SSLP"})["status"] == "fail"


def test_one_angle_turns_its_bolts():
    """V comes 2.8225 + 0.355/2 = 3 in. beside the bolts: C = 1.75 (Table 7-6): 1.75 x 17.89 = 31.3; ASD 20.9."""
    agrees(ONE, "support_bolt_shear", 31.3, 20.9, published="Manual Table 7-6, 3 bolts at 3 in.", rel=5e-3)


def test_one_angle_s_support_leg_is_bent():
    """M = 3 V. 0.9 x 36 x 0.375 x 8.5^2/4 = 219.5 (146.0); 0.75 x 58 x 4.733 = 205.9 (137.3)."""
    agrees(ONE, "support_leg_flexure_yield", 219.5, 146.0)
    agrees(ONE, "support_leg_flexure_rupture", 205.9, 137.3)
    agrees(ONE, "support_leg_flexure_yield", 120.0, 120.0, of="demand")


def test_one_angle_pulled_only_turns_about_its_toe():
    """b' = 2.8225 - 0.1875 - 0.375 = 2.26; p = 1.5 + 1.25: 0.9 x 58 x 0.7045 x 2.75 x 0.140625/(4 x 2.26) = 1.573; ASD
    1.047; 6/3 = 2 kip each."""
    light = {"actions": [{"name": "A", "V": "4 kip", "N": "6 kip"}]}
    agrees(ONE, "support_bolt_tension", 1.573, 1.047, **light)
    agrees(ONE, "support_bolt_tension", 2.0, 2.0, of="demand", **light)


def test_all_welded_by_the_manual_s_tables():
    """2L4X3-1/2X3/8, 24 in. long, the long legs on the support. Fillets of 3/16 on the web: Table 10-3's weld A, 257
    (171). Of 1/4 at the toes: weld B, 2 x 24 x 1.392 x 4/sqrt(1 + 12.96 x 16/576) = 267.3/1.166 = 229 (153)."""
    agrees(WELDED, "beam_weld", 257.0, 171.0, published="Manual Table 10-3, weld A", rel=0.02)
    for method, V in (("LRFD", 229.0), ("ASD", 153.0)):
        lrfd, asd = (1.0, None) if method == "LRFD" else (None, 1.0)
        agrees(
            WELDED,
            "support_weld",
            lrfd,
            asd,
            of="utilisation",
            rel=4e-3,
            published="Manual Table 10-3, weld B",
            actions=[{"name": "A", "V": f"{V} kip"}],
        )


def test_the_web_behind_the_welds():
    """Least web for 3/16 in. on both sides 6.19 x 3/65 = 0.2857 in.: with 0.76, 257 x 0.76/0.2857 = 684 (455)."""
    agrees(WELDED, "beam_weld_base_metal", 684.0, 455.0, rel=0.02)


def test_legs_welded_at_their_toes_bend_under_a_pull():
    """Cantilevers of 4 - 0.1875 = 3.8125 in.: 2 x 0.9 x 36 x 24 x 0.375^2/4/3.8125 = 14.34; ASD 9.54."""
    agrees(WELDED, "support_leg_bending", 14.34, 9.54, **BOTH)


def test_one_angle_welded_along_toe_and_foot():
    """Elastic. L 8.5 at x = 4 and 4 along the foot: 12.5 in all, middle at (3.36, 2.89); J = 51.18 + 8.5 (0.64^2 +
    1.36^2) + 5.33 + 4 (1.36^2 + 2.89^2) = 116.5. V at 3.36 + 0.1775 = 3.5375. At the heel: fy = 1/12.5 + 3.5375 x
    3.36/116.5 = 0.1820, fx = 3.5375 x 2.89/116.5 = 0.0878: 0.2021 a kip: 1/0.2021 = 4.948 in. of 1/4 in. fillet, 5.568
    each: 27.55; ASD 18.37. It carries no pull beyond 2 kip."""
    welded = {"support_side": "welded", "support_weld": "1/4 in", "bolt_method": "elastic"}
    agrees(ONE, "support_weld", 27.55, 18.37, welded)
    agrees(ONE, "support_weld_pull", 2.0, 2.0, welded, **BOTH)
    by_centre = run(ONE, welded | {"bolt_method": "ic"})["checks"]["support_weld"]["strength"]
    assert 27.55 < by_centre < 2 * 27.55


def test_a_weld_s_lines_behind_one_angle_are_its_base_metal():
    """0.45 x 65 x 0.71 x (8.5 + 4) = 259.6; ASD 173.1."""
    agrees(ONE, "support_shear", 259.6, 173.1, {"support_side": "welded"})


def test_shared_bolts_bear_by_both():
    more = {"actions": [{"name": "A", "V": "40 kip", "V_opposed": "-30 kip"}], **GIRDER}
    agrees(PAIR, "support_bolt_bearing_support", 70.0, 70.0, of="demand", **more)


def test_coped_and_welded_the_web_tears_inside_its_welds():
    """W18X50 coped 4 x 2 at the top, angles from 2.5 in. down, 8-1/2 long, 3-1/2 on the beam with a gap of 1/2: Agv =
    0.355 (8.5 + 0.5) = 3.195, Ant = 0.355 x 3 = 1.065: 0.75 (min(0.60 x 65, 0.60 x 50) 3.195 + 65 x 1.065) = 0.75
    (95.85 + 69.2) = 123.8; ASD 82.5."""
    sizes = {
        "beam_side": "welded",
        "cope_length": "4 in",
        "cope_depth": "2 in",
        "first_bolt": "3-3/4 in",
        "gap": "1/2 in",
    }
    agrees(PAIR, "web_block_shear", 123.8, 82.5, sizes, **GIRDER)


@pytest.mark.parametrize(
    ("base", "rule", "given", "more"),
    [
        (PAIR, "angle_rotation", {"angle": "L6X4X3/4"}, {}),
        (PAIR, "edge_distance", {"beam_gauge": "3 in"}, {}),
        (PAIR, "support_edge_distance", {"support_gauge": "3-1/2 in"}, {}),
        (PAIR, "bolt_tightening", {"beam_gauge": "1-1/4 in"}, {}),
        (WELDED, "erection_bolts", {"erection_bolts": 1}, {}),
        (PAIR, "beam_edge_distance", {"gap": "1-1/2 in"}, {}),
        (WELDED, "beam_weld_most", {"beam_weld": "3/8 in"}, {}),
        (WELDED, "support_weld_size", {"support_weld": "1/8 in"}, {}),
        (
            PAIR,
            "angle_on_web",
            {},
            {
                "framing": "beam_to_column_web",
                "support": {"section": "W10X33", "grade": "A992"},
                "supported": {"section": "W12X26", "grade": "A992"},
            },
        ),
        (PAIR, "double_connection", {}, {**WEB, "actions": [{"name": "A", "V": "9 kip", "V_opposed": "9 kip"}]}),
        (PAIR, "angle_half_depth", {"rows": 2}, {}),
        (PAIR, "angle_above_fillet", {"rows": 5, "first_bolt": "4 in"}, {}),
    ],
)
def test_geometry_that_fails(base, rule, given, more):
    found = run(base, given, **more)
    assert found["status"] == "fail" and not found["detailing"][rule]["ok"]


OPPOSED = {**GIRDER, "actions": [{"name": "A", "V": "9 kip", "V_opposed": "9 kip"}]}


def test_a_stagger_makes_room_for_the_wrench():
    """A beam opposite closes the far side of a girder's web. At a gauge of 1-3/4, 1.4375 beside the leg: heads of 3/4
    in. bolts stand 0.469 out, nuts and shanks 2 - 0.98 = 1.02: 0.418 is left there, in which no bolt goes in (0.72)
    (with the washers of pretension 2-1/4 - 0.98: 0.168). Half a pitch lower, 1.5 - 0.609 = 0.891 off: 0.928 there, and
    past the heads sqrt(0.969^2 + 0.891^2) = 1.316 of 1.25."""
    tight = {"support_gauge": "1-3/4 in", "first_bolt": "4 in"}
    level = run(PAIR, tight | {"stagger": "none"}, **OPPOSED)["detailing"]["support_bolt_tightening"]
    lower = run(PAIR, tight | {"stagger": "half_pitch"}, **OPPOSED)["detailing"]["support_bolt_tightening"]
    held = tight | {"stagger": "none", "tightening": "pretensioned", "beam_tightening": "pretensioned"}
    washed = run(PAIR, held, **OPPOSED)["detailing"]["support_bolt_tightening"]
    assert level["given"] == pytest.approx(0.4175, abs=2e-3) and not level["ok"]
    assert washed["given"] == pytest.approx(0.1675, abs=2e-3) and not washed["ok"]
    assert lower["given"] == pytest.approx(np.hypot(0.96875, 1.5 - 0.8125 * 0.75), abs=1e-3) and lower["ok"]
    assert (
        run(PAIR, tight, **OPPOSED)["parameters"]["stagger"]["value"] == "half_pitch"
    )  # of itself where it is not said


def test_a_pair_as_shops_build_it():
    """2-1/2 in. gauges, level, 3/4 in. bolts. On a column's flange the wrench goes behind it: 2.5 + 0.355/2 - 0.44/2 =
    2.4575 clear of its web. On the beam's side it would be 2.5 - 0.3125 less the heads' 0.469: 1.719, or less nuts and
    shanks, 1-3/4 + 1/4 - 0.98, past 1.25 in. no more."""
    usual = {"rows": 3, "beam_gauge": "2-1/4 in", "support_gauge": "2-1/2 in"}
    found = run(PAIR, usual)
    rule = found["detailing"]["support_bolt_tightening"]
    assert rule["ok"] and rule["given"] == pytest.approx(2.4575, abs=1e-3) and rule["limit"] == 1.25
    assert sum("far side of the support: 2.4" in note and "1-1/4 in needed" in note for note in found["notes"]) == 2
    both = run(PAIR, usual | {"first_bolt": "4 in"}, **OPPOSED)
    assert both["parameters"]["stagger"]["value"] == "none"
    assert both["detailing"]["support_bolt_tightening"]["given"] == pytest.approx(2.5 - 0.3125 - 0.46875, abs=1e-3)
    assert any("past the heads of its bolts" in note for note in both["notes"])
    large = run(PAIR, usual | {"first_bolt": "4 in", "socket": "4 in"}, **OPPOSED)["detailing"][
        "support_bolt_tightening"
    ]
    assert large["limit"] == pytest.approx(2.125) and not large["ok"]


def test_welded_angles_have_erection_bolts():
    """Two until it is welded (OSHA 1926.756(a)(1)), counted and told."""
    found = run(WELDED)
    assert found["parameters"]["erection_bolts"]["value"] == 2 and any(
        "2 erection bolts" in note for note in found["notes"]
    )


@pytest.mark.parametrize(
    ("given", "more", "said"),
    [
        ({}, {"geometry": {"skew": "10 deg"}}, "square to its support"),
        (
            {},
            {"framing": "beam_to_hollow_column", "support": {"section": "HSS8X8X3/8", "grade": "A500C"}},
            "hollow column's wall",
        ),
        ({"gap": "4 in"}, {}, "none of the leg"),
        ({"support_gauge": "4-1/2 in"}, {}, "beyond the leg"),
        ({"angle_length": "6 in"}, {}, "no end distance"),
    ],
)
def test_what_cannot_be_judged_is_unchecked(given, more, said):
    found = run(PAIR, given, **more)
    assert found["status"] == "unchecked" and said in found["reason"]


def test_angles_welded_to_a_hollow_column_fit_its_face():
    """The legs with their 1/4 in. welds take 2 x 4 + 0.355 + 0.5 = 8.855: HSS12X12X1/2 has 12 - 3 x 0.465 = 10.6 flat,
    HSS10X10X1/2 8.605."""
    welded = {"support_side": "welded"}
    fits = run(PAIR, welded, framing="beam_to_hollow_column", support={"section": "HSS12X12X1/2", "grade": "A500C"})
    assert fits["detailing"]["angle_on_wall"]["ok"] and fits["status"] == "pass"
    small = run(PAIR, welded, framing="beam_to_hollow_column", support={"section": "HSS10X10X1/2", "grade": "A500C"})
    assert not small["detailing"]["angle_on_wall"]["ok"]


def test_each_side_has_its_own_bolts():
    """7/8 on the beam: two planes, 6 x 0.6013 x 54 = 194.8: 146.1 (97.4); holes of 15/16 in., 1 in. net: 0.75 (48.94 +
    58 (1.25 - 0.5) 5/16) = 46.90 (31.27), rupture 0.45 x 58 x 5.5 x 5/16 = 44.86 (29.91). The support's stay 3/4 as
    they were. Slip-critical at the beam alone: 1.13 x 0.30 x 39 x 6 = 79.3 (52.9)."""
    own = {"beam_bolt": "7/8 A325-N"}
    agrees(PAIR, "bolt_shear", 146.1, 97.4, own)
    agrees(PAIR, "support_bolt_shear", 107.0, 71.6, own, rel=5e-3)
    agrees(PAIR, "beam_leg_block_shear", 46.90, 31.27, own)
    agrees(PAIR, "beam_leg_shear_rupture", 44.86, 29.91, own)
    agrees(PAIR, "support_leg_shear_rupture", 47.92, 31.95, own)
    agrees(PAIR, "slip", 79.3, 52.9, own | {"beam_tightening": "slip_a"})
    assert "support_slip" not in run(PAIR, own | {"beam_tightening": "slip_a"})["checks"]


def test_bolts_of_the_support_are_those_of_the_beam_too_unless_said():
    """7/8 for both in one word, or in two; the beam's side alone is given where the support is welded."""
    both, said = run(PAIR, {"bolt": "7/8 A325-N"}), run(PAIR, {"bolt": "7/8 A325-N", "beam_bolt": "7/8 A325-N"})
    assert {n: c["strength"] for n, c in both["checks"].items()} == {
        n: c["strength"] for n, c in said["checks"].items()
    }
    welded = run(PAIR, {"support_side": "welded", "beam_bolt": "7/8 A490-X"})
    assert welded["checks"]["bolt_shear"]["strength"] == pytest.approx(0.75 * 6 * 0.6013 * 84, rel=1e-3)


@pytest.mark.parametrize(
    ("transfer", "N", "across", "more", "demand"),
    [
        ("web", 30, 30, {}, 30.0),  # each side by itself
        ("bolts", 30, 30, {}, 0.0),  # all of it straight on
        ("bolts", 30, 10, {}, 20.0),  # 10 goes on
        ("bolts", -30, -10, {}, 20.0),  # as thrusts do
        ("bolts", 30, -10, {}, 40.0),  # a pull and a thrust add up on the web, whichever way is chosen
        ("web", 30, -10, {}, 40.0),
        ("bolts", 30, 30, {"rows_opposite": 2}, 10.0),  # two of three rows hold both: 20 of 30 are in them
        ("bolts", 30, 10, {"rows_opposite": 2}, 20.0),
    ],
)
def test_axial_force_that_goes_on_to_the_beam_across(transfer, N, across, more, demand):
    """What bends the girder's web: by statics."""
    forces = [{"name": "A", "V": "9 kip", "V_opposed": "9 kip", "N": f"{N} kip", "N_opposed": f"{across} kip"}]
    given = {**OPPOSED, "geometry": {"opposed": True}, "actions": forces}
    agrees(PAIR, "support_web_bending", demand, None, {"transfer": transfer, **more}, of="demand", **given)


def test_no_axial_force_goes_on_where_none_may():
    """10 of the 30 kip would: 2 kip are let through; a pull and a thrust go nowhere but into the web."""
    forces = {"name": "A", "V": "9 kip", "V_opposed": "9 kip", "N": "30 kip", "N_opposed": "10 kip"}
    given = {**GIRDER, "geometry": {"opposed": True}}
    agrees(PAIR, "transfer", 10.0, 10.0, {"transfer": "none"}, of="demand", **given, actions=[forces])
    agrees(PAIR, "transfer", 2.0, 2.0, {"transfer": "none"}, **given, actions=[forces])
    met = run(PAIR, {"transfer": "none"}, **given, actions=[forces | {"N_opposed": "-10 kip"}])["checks"]["transfer"]
    assert met["utilisation"] == 0.0
    assert "transfer" not in run(PAIR, **given, actions=[forces])["checks"]


def test_nor_through_a_column_from_flange_to_flange():
    """Both flanges pulled, 30 and 10 kip: 10 would go through the column's web."""
    forces = {"name": "A", "V": "9 kip", "V_opposed": "9 kip", "N": "30 kip", "N_opposed": "10 kip"}
    given = {"geometry": {"opposed": True}, "actions": [forces]}
    agrees(PAIR, "transfer", 10.0, 10.0, {"transfer": "none"}, of="demand", **given)
    assert run(PAIR, {"transfer": "none"}, **given)["status"] == "fail"


def test_where_welds_are_made_is_said():
    """Angles come on the beam and are welded to the support at the site; the other way round is said of both; not both
    in the shop."""
    welded = {"rows": 3, "beam_side": "welded", "support_side": "welded"}

    def at(found: dict) -> set[tuple[str, bool]]:
        trial = read_trial(data({**PAIR, "parameters": {}}, welded | found))
        return {(weld.part, weld.field) for weld in trial.standard.solids(trial.situation, trial.sizes).welds}

    assert at({}) == {("beam_weld", False), ("weld", True)}
    assert at({"beam_weld_at": "site", "support_weld_at": "shop"}) == {("beam_weld", True), ("weld", False)}
    both = run({**PAIR, "parameters": {}}, welded | {"support_weld_at": "shop"})
    assert both["status"] == "unchecked" and "one is done at the site" in both["reason"]
