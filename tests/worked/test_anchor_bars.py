"""Bars in the breakout's place, each where it stands, worked by hand: which act, what they hold, what develops them.
Kip, inches."""

from __future__ import annotations

import pytest

from handrail.core.codes.aci318 import Aci318
from handrail.core.quantities.units import INCH, KSI
from tests.worked.sheet import agrees, run
from tests.worked.test_base_plate import BASE, SHEAR, under

# On BASE: a pedestal 40 x 40, fc' 4 ksi, rods 1 in. at 8 and -8 each way (12 from two edges, 28 from the others), 18
# in. deep. Bars for tension 2-1/2 in. off: 1.5/sqrt(3) + 0.3125 + 1 = 2.18, up to 1/4.
BARS = {
    "embedment": "18 in",
    "tension_bars": "(8) No. 5",
    "shear_bars": "(4) No. 4",
    "shear_bar_off": "1-1/2 in",
    "bar_ends": "hooked",
}
PLACES = "-10.5 in, 8 in; -10.5 in, -8 in; -10.5 in, 0 in; 10.5 in, 8 in; 10.5 in, -8 in; 10.5 in, 0 in"


def test_bars_beside_each_rod():
    """40 kip on four rods: 10 each, on two bars each: 2 x 0.31 x 60 x 0.75 = 27.9 kip."""
    agrees(BASE, "anchor_bars_tension", 27.9, 27.9, SHEAR | BARS, **under(N=40))
    agrees(BASE, "anchor_bars_tension", 10, 10, SHEAR | BARS, of="demand", **under(N=40))
    assert "anchor_breakout_tension" not in run(BASE, SHEAR | BARS, **under(N=40))["checks"]


def test_a_bar_that_serves_two_rods():
    """(6) by place, one of three between the two rods of a row: sqrt(2.5^2 + 8^2) = 8.38 in. from both, within 18/2. 60
    kip: 15 each: one rod has two bars, 27.9; both together 30 kip on three: 41.85 kip, which is used more."""
    six = SHEAR | BARS | {"tension_bars": "(6) No. 5", "tension_bar_points": PLACES}
    agrees(BASE, "anchor_bars_tension", 41.85, 41.85, six, **under(N=60))
    agrees(BASE, "anchor_bars_tension", 30, 30, six, of="demand", **under(N=60))


def test_only_bars_of_rods_that_pull():
    """M = 100 ft k with N = 0 lifts the two rods on one side alone: of eight bars the four beside them act: all of what
    these pull on 4 x 13.95 = 55.8 at most, so each on 27.9."""
    agrees(BASE, "anchor_bars_tension", 27.9, 27.9, SHEAR | BARS, **under(M=1200))


def test_bars_too_far_or_not_developed_hold_nothing():
    """A bar 9.1 in. from its rod is beyond 18/2; one under 12 in. of rod has 12 - 2.5/1.5 - 2 = 8.33 in. of the 11.82
    that hooks 3.54 in. apart need: 60000 x 1.6 x (4000/15000 + 0.6)/(55 x 63.25) x 0.625^1.5 = 11.82 in."""
    agrees(BASE, "anchor_bars_tension", 0, 0, SHEAR | BARS | {"tension_bar_off": "9.1 in"}, **under(N=40))
    shallow = SHEAR | BARS | {"embedment": "12 in"}
    agrees(BASE, "anchor_bars_tension", 0, 0, shallow, **under(N=40))
    found = run(BASE, shallow, **under(N=40))
    rule = found["detailing"]["anchor_bars_tension_length"]
    assert (rule["given"], rule["limit"]) == (
        pytest.approx(8.333, abs=1e-3),
        pytest.approx(11.82, abs=5e-3),
    ) and not rule["ok"]
    assert found["status"] == "fail"


def test_legs_of_ties():
    """V = 20 kip towards an edge: the front row has half of it, the last row, with welded washers, all: 10 kip each rod
    on two legs, 2 x 0.2 x 60 x 0.75 = 18 kip, each 1.5 in. from its rod, under 0.3 x 12 = 3.6. The surface crosses legs
    2.25 in. deep at 12 - 2.25/1.5 = 10.5: 8.5 of the 6 in. that hooks 3 in. apart need; behind the last row 2 + 36 -
    26.5 = 11.5."""
    agrees(BASE, "anchor_bars_shear", 18, 18, SHEAR | BARS, **under(N=-50, V=20))
    agrees(BASE, "anchor_bars_shear", 10, 10, SHEAR | BARS, of="demand", **under(N=-50, V=20))
    found = run(BASE, SHEAR | BARS, **under(N=-50, V=20))
    assert "anchor_breakout_shear" not in found["checks"] and found["detailing"]["anchor_bars_shear_length"]["ok"]


def test_legs_one_way_leave_breakout_the_other():
    """Legs along alone: the sides across break out as before (Vw = 20: the last row's wedge), the sides along are on
    the legs: 18 kip a rod."""
    one = SHEAR | BARS | {"shear_bar_way": "along"}
    agrees(BASE, "anchor_bars_shear", 18, 18, one, **under(N=-50, V=20))
    across = run(BASE, one, **under(N=-50, Vw=20))["checks"]
    plain = run(BASE, SHEAR | {"embedment": "18 in"}, **under(N=-50, Vw=20))["checks"]
    assert across["anchor_breakout_shear"]["utilisation"] == plain["anchor_breakout_shear"]["utilisation"]


def test_legs_too_far_aside():
    """4 in. from their rods, over 0.3 ca2 = 3.6: none of them acts."""
    agrees(BASE, "anchor_bars_shear", 0, 0, SHEAR | BARS | {"shear_bar_off": "4 in"}, **under(N=-50, V=20))


def test_legs_do_not_run_through_rods():
    """1/2 in. off the middle of a rod of 1 in. a No. 4 runs through it: (1 + 0.5)/2 = 3/4 is needed, less 1/8 that it
    may press on it."""
    found = run(BASE, SHEAR | BARS | {"shear_bar_off": "1/2 in"}, **under(N=-50, V=5))
    rule = found["detailing"]["anchor_bars_shear_past_rods"]
    assert (rule["given"], rule["limit"], rule["ok"]) == (0.625, 0.75, False) and found["status"] == "fail"
    assert run(BASE, SHEAR | BARS, **under(N=-50, V=5))["detailing"]["anchor_bars_shear_past_rods"]["ok"]


def test_hairpins():
    """(4) No. 4 about the first rods, (1 + 0.5)/2 = 0.75 off: 18 kip a rod; 24 in. long from 12 in. off the edge they
    end 36 behind it, 9.5 behind the last row's surface at 28 - 2.25/1.5 = 26.5, where hooks 1.5 in. apart need 8.46; 22
    in. long they lack, and nothing acts there."""
    pins = SHEAR | BARS | {"shear_bar_form": "hairpins", "shear_bar_off": "0.75 in", "shear_bar_length": "24 in"}
    agrees(BASE, "anchor_bars_shear", 18, 18, pins, **under(N=-50, V=20))
    agrees(BASE, "anchor_bars_shear", 0, 0, pins | {"shear_bar_length": "22 in"}, **under(N=-50, V=20))
    agrees(
        BASE, "anchor_bars_shear", 0, 0, pins | {"shear_bar_off": "1-1/2 in"}, **under(N=-50, V=20)
    )  # none touches a rod


@pytest.mark.parametrize(
    ("d", "fy", "roomy", "top", "light", "hand"),
    [
        (0.625, 60, True, False, 1, 23.72),
        (0.625, 60, False, False, 1, 35.58),
        (0.625, 60, True, True, 1, 30.83),
        (0.625, 60, True, False, 0.75, 31.62),
        (0.625, 80, True, False, 1, 36.37),
        (0.625, 100, True, False, 1, 51.39),
        (0.875, 60, True, False, 1, 41.50),
        (0.375, 40, True, False, 1, 12.0),
    ],
)
def test_lengths_of_straight_bars(d, fy, roomy, top, light, hand):
    """Table 25.4.2.3 at fc' 4 ksi, sqrt 63.25 psi: No. 5 fy/(25 x 63.25) x 0.625 = 23.72; half more where not roomy;
    1.3 for top bars; /0.75; grade 80 x 80/60 x 1.15, grade 100 x 100/60 x 1.3; No. 7 60000/(20 x 63.25) x 0.875 =
    41.50; never under 12 in."""
    assert Aci318().bars.straight(d * INCH, fy * KSI, 4 * KSI, roomy, top, light) / INCH == pytest.approx(
        hand, abs=0.01
    )


@pytest.mark.parametrize(
    ("apart", "covered", "light", "hand"),
    [(False, False, 1, 14.77), (True, True, 1, 7.386), (False, True, 0.75, 15.76)],
)
def test_lengths_of_hooked_bars(apart, covered, light, hand):
    """No. 5 at 4 ksi (25.4.3.1): 60000 x 0.8667/(55 x 63.25) x 0.625^1.5 = 7.386 in.; 1.6 where hooks are nearer than 6
    db, 1.25 where the side cover is under 6 db; 7.386 x 1.6/0.75 = 15.76."""
    assert Aci318().bars.hooked(0.625 * INCH, 60 * KSI, 4 * KSI, apart, covered, light) / INCH == pytest.approx(
        hand, abs=0.01
    )


def test_grade_100_counts_to_80():
    """Table 20.2.2.4(a): 0.75 x 0.31 x 80 = 18.6 kip of a bar of 100 ksi."""
    assert Aci318().bars.strength(0.31 * INCH**2, 100 * KSI) / (KSI * INCH**2) == pytest.approx(18.6, rel=1e-6)


def test_lightweight_concrete():
    """lambda 0.85 on what breaks out: 66.80 kip of four rods 12 in. deep in normal weight (1600/576 x 34.35 x 0.70),
    56.78 in this."""
    agrees(BASE, "anchor_breakout_tension", 56.78, 56.78, SHEAR | {"foundation_lambda": 0.85}, **under(N=40))


def test_weak_grout_governs_bearing():
    """A2/A1 = 4: the concrete bears 0.85 x 4 x 2 = 6.8 ksi, grout of 5 ksi 0.85 x 5 = 4.25 on 400 in^2: 1700 kip; 0.65:
    1105; /2.31: 735.9."""
    agrees(BASE, "bearing", 1105, 735.9, {"grout_strength": "5 ksi"}, **under(N=-400))
    thick = run(BASE, {"grout": "3-1/2 in"}, **under(N=-400))
    assert thick["status"] == "fail" and not thick["detailing"]["grout_thickness"]["ok"]
