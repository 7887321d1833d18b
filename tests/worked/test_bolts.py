"""Bolts of a single plate, worked by hand from J3 and the Manual's Part 7."""

import math

import numpy as np
import pytest

from handrail.core.parts.bolt_group import Grid, solve
from tests.worked.sheet import FLANGE, GIRDER, agrees, run, strength
from tests.worked.test_angles import PAIR

AREA = math.pi * 0.75**2 / 4  # 0.442 in^2


def effective(rows: int, e: float, method: str = "ic") -> float:
    """C of one line of bolts at 3 in. under V at `e` in."""
    return float(solve(Grid(rows, 1, 76.2, 0.0).group, np.array([[0.0, 1.0, -e * 25.4]]), method).factor[0])


def test_bolt_shear_of_a_conventional_plate():
    """J3.7: rn = 54 ksi x 0.4418 in^2 = 23.86 kip, phi rn = 17.89 kip.

    a = 1/2 + 2-1/2 = 3 in, 4 rows and standard holes: e = a/2 = 1.5 in (Table 10-9). With bolts at +-1.5 and
    +-4.5 in the centre lies l0 beyond the group; l0 from sum(R l0/r) (e + l0) = sum(R r). At l0 = 7.05 in.:
    r = 7.208, 8.364 in., delta = 0.293, 0.340, R = 0.9706, 0.9815.
    P = 2 (0.9706 x 7.05/7.208 + 0.9815 x 7.05/8.364) = 3.554;
    M = 2 (0.9706 x 7.208 + 0.9815 x 8.364) = 30.41 against P (e + l0) = 3.554 x 8.55 = 30.39: balanced.
    So C = 3.554, and phi Rn = 3.554 x 17.89 = 63.6 kip. ASD: 3.554 x 23.86 / 2 = 42.4 kip.
    """
    agrees(FLANGE, "bolt_shear", 63.6, 42.4, rel=0.002)


@pytest.mark.parametrize(
    ("rows", "e", "published"),
    [(2, 2, 1.18), (3, 2, 2.23), (4, 2, 3.32), (5, 2, 4.39), (2, 3, 0.88), (3, 3, 1.75), (4, 3, 2.81), (5, 3, 3.90)],
)
def test_coefficients_of_one_line_of_bolts(rows, e, published):
    """C of the Manual's Table 7-6 (vertical load, s = 3 in.) for 2 to 5 bolts at ex = 2 and 3 in."""
    assert effective(rows, e) == pytest.approx(published, abs=0.0051)


def test_two_bolts_by_hand():
    """Two bolts 3 in. apart at e = 3 in.: both are r from the centre, so R = 0.9815 for both.

    r^2 = l0 (e + l0) = l0^2 + 1.5^2 gives l0 = 1.5^2/3 = 0.75 in., r = 1.677 in., C = 2 x 0.9815 x 0.75/1.677 = 0.878.
    """
    assert effective(2, 3) == pytest.approx(0.878, abs=0.0005)
    # elastic: V/2 and V e/s = V on each bolt, 1/sqrt(0.5^2 + 1^2) = 0.894
    assert effective(2, 3, "elastic") == pytest.approx(0.8944, abs=0.0001)


def test_concentric_bolts_carry_their_sum_and_nothing_jumps():
    at = [effective(4, e / 25.4) for e in (0.0, 0.01, 1.0)]
    assert at[0] == pytest.approx(4.0)
    assert at[1] == pytest.approx(4.0, rel=1e-4)
    assert at[2] < at[1]


def test_bearing_on_the_plate_under_tension_alone():
    """N = 20 kip alone is concentric: each bolt takes the least of shear, bearing and tearout (J3 user note).

    Plate 1/4 in. A36, edge 1-1/2 in., hole 13/16 in.: lc = 1.5 - 0.40625 = 1.094 in.,
    tearout 1.2 x 1.094 x 0.25 x 58 = 19.03 kip < bearing 2.4 x 0.75 x 0.25 x 58 = 26.1 kip;
    phi: 14.27 kip a bolt < shear 17.89 kip, four bolts 57.1 kip.
    """
    agrees(FLANGE, "bolt_bearing_plate", 57.1, 38.06, actions=[{"name": "A", "N": "20 kip"}])


def test_bearing_on_the_web_under_tension_alone():
    """W16X31 web 0.275 in., Fu 65, 1-3/4 in. to its end less 1/4 in.: lc = 1.50 - 0.40625 = 1.094 in.

    Tearout 1.2 x 1.094 x 0.275 x 65 = 23.46 kip, phi 17.60 a bolt, under shear's 17.89: 4 x 17.60 = 70.4 kip.
    """
    thick = {"plate_thickness": "1/2 in", "beam_edge_distance": "1-3/4 in"}
    agrees(
        FLANGE,
        "bolt_bearing_web",
        70.4,
        46.9,
        thick,
        supported={"section": "W16X31", "grade": "A992"},
        actions=[{"name": "A", "N": "20 kip"}],
    )


def test_bearing_under_shear_about_the_centre():
    """Two rows, V down on the plate, e = 1.5 in.: by symmetry each bolt has 0.5 V down and V (1.5 in)/(3 in) = 0.5 V
    across, 0.7071 V at 45 deg, whatever the centre's law.

    The lower: lc = 1.25/cos(45) - 0.40625 = 1.3615 in., phi 0.75 x 1.2 x 1.3615 x 0.25 x 58 = 17.77 kip, under
    shear 17.89 and bearing 19.58 kip: V = 17.77/0.7071 = 25.13 kip.
    """
    agrees(FLANGE, "bolt_bearing_plate", 25.13, 16.75, {"rows": 2})


def test_bearing_under_shear_shares_by_strength():
    """The same with short slots across (1 x 13/16 in.): at 45 deg half a slot is
    sqrt((0.5 x 0.7071)^2 + (0.40625 x 0.7071)^2) = 0.4556 in., phi rn = 17.12 kip, V = 24.22 kip about the centre.

    By strength straight down: lower lc = 1.25 - 0.40625 = 0.844 in., 11.01 kip; upper shear, 17.89 kip; shares 0.381
    and 0.619. Three quarters of the way to the centre's 0.5 each: 0.4702 and 0.5298 V down, still 0.5 V across.
    Upper: sqrt(0.5298^2 + 0.5^2) = 0.7285 V, up to 17.89 kip: V = 24.56 kip. Lower: 0.6864 V, 46.8 deg from down,
    lc = 1.25/0.6850 - sqrt((0.5 x 0.7284)^2 + (0.40625 x 0.6850)^2) = 1.367 in., 17.83 kip: V = 25.98 kip.
    So 24.56 kip, the more of the two ways.
    """
    agrees(FLANGE, "bolt_bearing_plate", 24.56, 16.37, {"rows": 2, "hole": "SSLT"})


def test_slip_critical_bolts():
    """J3.9, class A, 3/4 A325, standard holes: 0.30 x 1.13 x 28 = 9.492 kip a bolt, phi = 1; C = 3.556: 33.8 kip.

    ASD: 9.492/1.5 x 3.556 = 22.5 kip. Class B is 0.50/0.30 of it.
    """
    agrees(FLANGE, "slip", 33.75, 22.5, {"tightening": "slip_a"}, rel=0.003)
    assert strength(FLANGE, "slip", {"tightening": "slip_b"}) == pytest.approx(33.75 * 5 / 3, rel=0.003)


def test_force_along_slots_needs_slip_critical_bolts():
    """J3.3: short slots across V are along N, so bolts in bearing may not take N there: 8 kip over the 2 kip that is
    neglected is 4.0 by either method. Slip-critical, along the slot: phi = 0.85, four concentric bolts 4 x 9.492 x 0.85
    = 32.3 kip."""
    pulled = [{"name": "A", "V": "20 kip", "N": "8 kip"}]
    agrees(FLANGE, "slot_along_N", 4.0, 4.0, {"hole": "SSLT"}, of="utilisation", actions=pulled)
    assert run(FLANGE, {"hole": "SSLT"}, actions=pulled)["status"] == "fail"
    assert run(FLANGE, {"hole": "SSLT"}, actions=[{"name": "A", "V": "20 kip"}])["status"] == "pass"
    agrees(
        FLANGE, "slip", 32.27, 21.57, {"hole": "SSLT", "tightening": "slip_a"}, actions=[{"name": "A", "N": "8 kip"}]
    )


def test_no_shear_along_slots():
    """J3.3: slots along V in bearing carry none of it; 1 kip against the 1 lbf that counts as nothing is 1000."""
    agrees(
        FLANGE, "slot_along_V", 1000, 1000, {"hole": "SSLP"}, of="utilisation", actions=[{"name": "A", "V": "1 kip"}]
    )
    assert run(FLANGE, {"hole": "SSLP"}, actions=[{"name": "A", "V": "1 kip"}])["status"] == "fail"


def test_a_slot_along_N_counts_beside_one_along_V():
    """The plate's slots lie along V, the web's along N: both are looked at."""
    both = run(FLANGE, {"hole": "SSLP", "web_hole": "SSLT"}, actions=[{"name": "A", "N": "10 kip"}])
    assert both["checks"]["slot_along_V"]["utilisation"] == 0
    assert both["checks"]["slot_along_N"]["utilisation"] == pytest.approx(5.0)
    assert both["status"] == "fail"


@pytest.mark.parametrize("tightening", ["snug", "pretensioned"])
def test_oversized_holes_are_never_in_bearing(tightening):
    found = run(FLANGE, {"hole": "OVS", "tightening": tightening}, actions=[{"name": "A", "V": "0 kip", "N": "0 kip"}])
    assert found["status"] == "fail" and "oversized holes need slip-critical bolts" in found["reason"]
    assert run(FLANGE, {"hole": "OVS", "tightening": "slip_a"}, actions=[{"name": "A", "V": "5 kip"}])["detailing"][
        "oversized_in_bearing"
    ]["ok"]


def test_long_slots_are_in_one_ply_only():
    slots = {"hole": "LSLT", "edge_distance": "2-1/2 in"}
    assert run(FLANGE, slots)["detailing"]["long_slots_in_one_ply"]["ok"]
    both = run(FLANGE, slots | {"web_hole": "LSLT"})
    assert both["status"] == "fail" and "one of the two plies" in both["reason"]


def test_lever_of_six_rows_in_standard_holes_is_a():
    """Table 10-9: 6 to 12 rows, STD, thickness at most d/2 - 1/16 = 5/16 in.: e = a; with SSLT e = a/2 = 1.5 in."""
    deep = {"supported": {"section": "W24X68", "grade": "A992"}}
    std = strength(FLANGE, "bolt_shear", {"rows": 6, "plate_thickness": "5/16 in"}, **deep)
    slotted = strength(FLANGE, "bolt_shear", {"rows": 6, "plate_thickness": "5/16 in", "hole": "SSLT"}, **deep)
    assert std == pytest.approx(4.98 * 17.89, rel=0.005)  # Table 7-6: n = 6, ex = 3 in., C = 4.98
    assert slotted > std


def test_web_bearing_reaches_up_to_the_cope():
    """A coped web has an edge above: 1-1/4 in. from the top bolt to the cope lowers the web's bearing."""
    near = strength(GIRDER, "bolt_bearing_web")
    far = strength(GIRDER, "bolt_bearing_web", {"first_bolt": "5 in", "rows": 4})
    assert near < far


def test_snug_bolts_of_higher_groups_do_not_pull():
    """J3.2: of group 120 alone. 0.005 x 113 x 0.4418 = 0.2496 kip is let through: 6 kip on six bolts is 1 each."""
    pull = {"actions": [{"name": "A", "V": "20 kip", "N": "6 kip"}]}
    strong = {"bolt": "3/4 A490-N"}
    agrees(PAIR, "support_snug_in_tension", 0.2496, 0.2496, strong, **pull)
    agrees(PAIR, "support_snug_in_tension", 1.0, 1.0, strong, of="demand", **pull)
    assert run(PAIR, strong, **pull)["status"] == "fail"
    for held in (strong | {"tightening": "pretensioned"}, {"bolt": "3/4 A325-N"}):
        assert "support_snug_in_tension" not in run(PAIR, held, **pull)["checks"]


def test_snug_fails_where_pretension_is_asked_for():
    asked = {"pretension": "cranes"}
    found = run(FLANGE, asked)
    assert found["status"] == "fail" and "carries cranes" in found["reason"]
    assert run(FLANGE, asked | {"tightening": "pretensioned"})["status"] == "pass"
    pair = run(PAIR, asked | {"tightening": "pretensioned", "beam_tightening": "snug"})
    assert not pair["detailing"]["beam_pretension_asked"]["ok"] and pair["detailing"]["pretension_asked"]["ok"]


def test_threads_that_cannot_be_out_of_the_plane():
    """3/4 in. with a plate of 1/4 and the web's 0.38: grip 0.63 + 1 in.: 1-3/4 long, threaded 1-3/8 in.: under the nut
    1.375 - 1.12 = 0.255 at least, the web has 0.38. In a web of 0.23 and a plate of 1/4: 0.48 + 1: 1-1/2: 1.375 - 1.02
    = 0.355: neither has it."""
    held = run(FLANGE, {"bolt": "3/4 A325-X"})["detailing"]["threads_excluded"]
    assert (
        held["ok"]
        and held["limit"] == pytest.approx(0.255, abs=1e-3)
        and held["given"] == pytest.approx(0.38, abs=1e-3)
    )
    thin = run(FLANGE, {"bolt": "3/4 A325-X", "rows": 3}, supported={"section": "W12X26", "grade": "A992"})[
        "detailing"
    ]["threads_excluded"]
    assert (
        not thin["ok"]
        and thin["limit"] == pytest.approx(0.355, abs=1e-3)
        and thin["given"] == pytest.approx(0.25, abs=1e-3)
    )
    assert "threads_excluded" not in run(FLANGE)["detailing"]


@pytest.mark.parametrize("sizes", [{"tightening": "pretensioned"}, {"hole": "SSLT"}])
def test_a_washer_moves_threads_into_the_ply(sizes):
    """Under the head it takes what the bolt was longer than it had to be: 1.375 - 1 = 3/8 in. at least, the web has
    0.38; in a web of 0.37, with a plate of 1/4, it is not."""
    held = run(FLANGE, {"bolt": "3/4 A325-X"} | sizes)["detailing"]["threads_excluded"]
    assert held["ok"] and held["limit"] == pytest.approx(0.375, abs=1e-3)
    thin = run(FLANGE, {"bolt": "3/4 A325-X", "rows": 3} | sizes, supported={"section": "W14X53", "grade": "A992"})
    assert not thin["detailing"]["threads_excluded"]["ok"]
