"""A shear end plate worked by hand: PL 1/4 x 8 x 8-1/2 of A36 with (6) 3/4 A325-N, 5-1/2 in. apart, 3/16 in. fillets on
a W18X50 (tw 0.355), on the flange of a W14X90 (tf 0.71). Kip, inches."""

from __future__ import annotations

import pytest

from tests.worked.sheet import WEB, agrees, run

PLATE = {
    "framing": "beam_to_column_flange",
    "standard": "shear_end_plate",
    "supported": {"section": "W18X50", "grade": "A992"},
    "support": {"section": "W14X90", "grade": "A992"},
    "parameters": {
        "rows": 3,
        "gauge": "5-1/2 in",
        "plate_thickness": "1/4 in",
        "edge_distance": "1-1/4 in",
        "weld_size": "3/16 in",
    },
    "actions": [{"name": "A", "V": "40 kip"}],
}
GIRDER = {"framing": "beam_to_girder", "support": {"section": "W21X62", "grade": "A992"}}
BOTH = [{"name": "A", "V": "40 kip", "N": "6 kip"}]
SHARED = [{"name": "A", "V": "40 kip", "V_opposed": "30 kip", "N": "2 kip", "N_opposed": "6 kip"}]


def test_plate_by_the_manual_s_table():
    """Each side of the web takes half. Agv = 7.25/4, Anv = (7.25 - 2.5 x 7/8)/4 = 1.266, Ant = (1.25 - 0.4375)/4 =
    0.2031: 0.60 x 36 x 1.8125 + 58 x 0.2031 = 39.15 + 11.78 = 50.93; x 0.75 = 38.2, both sides 76.4. ASD 25.5. Rupture:
    0.45 x 58 x (8.5 - 3 x 7/8)/4 = 38.33 (25.56); yielding 0.60 x 36 x 8.5/4 = 45.9 (30.6)."""
    agrees(PLATE, "plate_block_shear", 76.4 / 2, 51.0 / 2, published="Manual Table 10-4, 3 rows, 1/4 in.", rel=2e-3)
    agrees(PLATE, "plate_shear_rupture", 38.33, 25.56)
    agrees(PLATE, "plate_shear_yield", 45.9, 30.6)


def test_weld_by_the_manual_s_table():
    """A leg short at either end: 8.5 - 2 x 3/16 = 8.125: 2 x 1.392 x 3 x 8.125 = 67.9; ASD 45.2."""
    agrees(PLATE, "weld", 67.9, 45.2, published="Manual Table 10-4, 3/16 in.", rel=2e-3)


def test_the_web_beside_the_weld():
    """0.45 x 65 x 0.355 x 8.125 = 84.37; ASD 0.30 x 65 x 0.355 x 8.125 = 56.24. The demand is V with N: sqrt(40^2 +
    6^2) = 40.45."""
    agrees(PLATE, "web_at_weld", 84.37, 56.24)
    agrees(PLATE, "web_at_weld", 40.45, 40.45, of="demand", actions=BOTH)


def test_bolts_and_the_support():
    """6 x 17.89 = 107.4; ASD 71.57. On the flange: 2.4 x 0.75 x 0.71 x 65 = 83.07 each, 0.75 x 6 x 83.07 = 373.8; ASD
    249.2. On the plate the two last bolts tear: 1.2 x 0.84375 x 0.25 x 58 = 14.68, the others are sheared, 23.86, or
    bear, 26.1: 0.75 (2 x 14.68 + 4 x 23.86) = 93.59; ASD 62.4."""
    agrees(PLATE, "bolt_shear", 107.4, 71.57)
    agrees(PLATE, "bolt_bearing_support", 373.8, 249.2)
    agrees(PLATE, "bolt_bearing_plate", 93.59, 62.4)


def test_a_pull_pries_at_the_plate():
    """6/6 = 1 kip each. Shear of 6.667 kip each is 15.09 ksi: F'nt = 117 - 90/40.5 x 15.09 = 83.47: B = 0.75 x 83.47 x
    0.4418 = 27.66. b' = (5.5 - 0.355)/2 - 0.375 = 2.1975, p = 1.5 + 1.25 at an end bolt, delta = 1 - 0.8125/2.75 =
    0.7045; tc^2 = 4 x 27.66 x 2.1975/(0.9 x 2.75 x 58) = 1.694; (0.25/tc)^2 = 0.0369; alpha' > 1: Q = 0.0369 x 1.7045 =
    0.0629: 1.740. By ASD 58 x 2.75 x 0.0625 x 1.7045/(4 x 2.1975 x 1.67) = 1.158."""
    agrees(PLATE, "bolt_tension", 1.0, 1.0, of="demand", actions=BOTH)
    agrees(PLATE, "bolt_tension", 1.740, 1.158, actions=BOTH)


def test_the_flange_pries_where_it_is_the_weaker():
    """On a W8X31 (tf 0.435, tw 0.285, bf 8) with a plate of A572-50, 3/4 in. thick (which rotation forbids): b' = 2.75
    - 0.1425 - 0.375 = 2.2325, a = 1.25, a' = 1.625, p = 3: 0.9 x 3 x 65 x 0.435^2 x 1.7292/(4 x 2.2325) = 6.43; ASD
    0.435^2 x 3 x 65 x 1.7292/(4 x 2.2325 x 1.67) = 4.279."""
    more = {"support": {"section": "W8X31", "grade": "A992"}, "actions": [{"name": "A", "V": "4 kip", "N": "6 kip"}]}
    agrees(PLATE, "bolt_tension", 6.43, 4.279, {"plate_thickness": "3/4 in", "plate_grade": "A572-50"}, **more)


def test_v_off_the_bolts_may_pull():
    """Half the plate, 0.125 in.: 40 x 0.125 x 3/(4 x 3^2) = 0.417 more on the outer bolts: 1.417."""
    agrees(PLATE, "bolt_tension", 1.417, 1.417, {"offset_moment": "bolt_tension"}, of="demand", actions=BOTH)


def test_slip_under_a_pull():
    """0.30 x 1.13 x 28 = 9.492 each; ksc = 1 - 1/(1.13 x 28) = 0.9684: 6 x 9.492 x 0.9684 = 55.15. ASD: (1 - 1.5/31.64)
    x 56.95/1.5 = 36.17."""
    agrees(PLATE, "slip", 55.15, 36.17, {"tightening": "slip_a"}, actions=BOTH)


def test_bolts_that_take_shear_alone():
    """A pull beyond 2 kip is no business of theirs."""
    agrees(PLATE, "bolt_pull", 2.0, 2.0, {"support_bolts": "shear"}, actions=BOTH)
    found = run(PLATE, {"support_bolts": "shear"}, actions=BOTH)
    assert found["status"] == "fail" and found["governing"]["check"] == "bolt_pull"


def test_bolts_shared_with_the_beam_opposite():
    """On the girder's web (0.40) 40 + 30 = 70 kip bear: 0.75 x 6 x 2.4 x 0.75 x 0.40 x 65 = 210.6; ASD 140.4. The bolts
    pull by the larger of both: 6/6."""
    agrees(PLATE, "bolt_bearing_support", 70.0, 70.0, of="demand", actions=SHARED, **GIRDER)
    agrees(PLATE, "bolt_bearing_support", 210.6, 140.4, actions=SHARED, **GIRDER)
    agrees(PLATE, "bolt_tension", 1.0, 1.0, of="demand", actions=SHARED, **GIRDER)
    assert run(PLATE, actions=SHARED, **GIRDER)["checks"]["bolt_shear"]["demand"] == pytest.approx(40)


@pytest.mark.parametrize(
    ("rule", "given", "more"),
    [
        ("plate_rotation", {"plate_thickness": "7/16 in"}, {}),
        ("plate_least_thickness", {"plate_thickness": "3/16 in"}, {}),
        ("gauge_rotation", {"gauge": "3 in"}, {}),
        ("gauge_most", {"gauge": "6 in"}, {}),
        ("flange_edge", {}, {"support": {"section": "W8X18", "grade": "A992"}}),
        ("bolt_clears_fillet", {"gauge": "3-1/2 in"}, {}),
        ("plate_on_web", {}, {"framing": "beam_to_column_web", "support": {"section": "W8X31", "grade": "A992"}}),
        ("double_connection", {}, {**WEB, "actions": SHARED}),
        ("plate_in_girder_top", {"first_bolt": "2-1/4 in"}, GIRDER),
        ("plate_half_depth", {"rows": 2}, {}),
    ],
)
def test_geometry_that_fails(rule, given, more):
    found = run(PLATE, given, **more)
    assert found["status"] == "fail" and not found["detailing"][rule]["ok"]


def test_a_seat_answers_for_the_double_connection():
    found = run(PLATE, {"erection": "seat"}, actions=SHARED, **WEB)
    assert found["detailing"]["double_connection"]["ok"] and any("seat" in note for note in found["notes"])


@pytest.mark.parametrize("more", [{"geometry": {"skew": "5 deg"}}, {"geometry": {"slope": "3 deg"}}])
def test_what_is_not_implemented_is_unchecked(more):
    found = run(PLATE, **more)
    assert found["status"] == "unchecked" and "square to its support" in found["reason"]


def test_one_row_holds_v_off_it_against_the_plate_s_edge():
    """40 kip at 0.125 in. on two bolts 1-1/4 in. below the edge: 40 x 0.125/(2 x 1.25) = 2 kip each."""
    agrees(PLATE, "bolt_tension", 2.0, 2.0, {"rows": 1, "offset_moment": "bolt_tension"}, of="demand")
