"""Column splices worked by hand: W14X61 (d = 13.9, bf = 10.0, tf = 0.645, tw = 0.375, A = 17.9) on W14X90 (d = 14.0, bf
= 14.5, tf = 0.710), A992, with 7/8 A325-N in a gage of 5-1/2 in. and PL 1/2 x 10 of A572-50 on each flange. Kip,
inches."""

from __future__ import annotations

import numpy as np
import pytest

from handrail.core.checking.trial import read_trial
from handrail.core.quantities.units import INCH, KIP
from tests.worked.sheet import agrees, data, run

SPLICE = {
    "framing": "column_splice",
    "standard": "column_flange_splice",
    "supported": {"section": "W14X61", "grade": "A992"},
    "support": {"section": "W14X90", "grade": "A992"},
    "parameters": {
        "flange_rows": 3,
        "flange_bolt": "7/8 A325-N",
        "flange_plate_thickness": "1/2 in",
        "plate_grade": "A572-50",
    },
    "actions": [{"name": "A", "N": "40 kip", "M": "720 kip*in", "Mw": "120 kip*in", "Vw": "3 kip"}],
}
PRESSED = {"actions": [{"name": "A", "N": "-300 kip", "M": "720 kip*in", "V": "20 kip"}]}


LIFTED = {"actions": [{"name": "A", "N": "160 kip", "M": "720 kip*in", "Mw": "60 kip*in", "Vw": "3 kip"}]}


def test_flange_bolts():
    """So much pulls that nothing meets: a line of bolts takes 160/4 + 720/(2 x 13.9) + 60/(2 x 5.5) = 40 + 25.90 +
    5.455; the flange's far tip 40 - 25.90 - 5.455 x 5/2.75 = 4.2, still open. Two lines 142.71; Vw at e = 1.75 + 3 =
    4.75: 3 x 4.75/5.5 = 2.591: 145.30, with Vw/2 = 1.5 across 145.31 kip. 6 x 0.6013 x 54 = 194.8: 0.75: 146.1; /2:
    97.4."""
    agrees(SPLICE, "flange_bolt_shear", 145.31, 145.31, of="demand", **LIFTED)
    agrees(SPLICE, "flange_bolt_shear", 146.1, 97.4)


def test_contact_flange_by_flange():
    """300 with M = 720 on what meets (below): A = 17.62; I = 2 x (6.45 x 6.6275^2 + 10 x 0.645^3/12) + 0.375 x
    12.58^3/12 = 567.1 + 62.2 = 629.3: 17.03 + 720 x 6.95/629.3 = 24.98 ksi, 9.07 on the other side: all of it presses.
    1.8 x 50 = 90: 0.75: 67.5; /2: 45."""
    agrees(SPLICE, "contact_pressure", 24.98, 24.98, of="demand", **PRESSED)
    agrees(SPLICE, "contact_pressure", 67.5, 45, **PRESSED)


def test_flanges_that_do_not_meet_carry_nothing():
    """W12X65 on W14X90: 6.05 is inside 6.29: only the webs meet, 0.39 x 2 x 5.445 = 4.247 in^2; 240 kip: 56.5 ksi of
    67.5; no more with a moment that plates of 1/2 in. hold beside it. With fillers developed all of 19.1 in^2 bears."""
    other = {"supported": {"section": "W12X65", "grade": "A992"}}
    agrees(
        SPLICE,
        "contact_pressure",
        56.51,
        56.51,
        of="demand",
        rel=2e-3,
        **other,
        actions=[{"name": "A", "N": "-240 kip"}],
    )
    bent = [{"name": "A", "N": "-240 kip", "M": "1200 kip*in"}]
    assert run(SPLICE, **other, actions=bent)["checks"]["contact_pressure"]["utilisation"] > 1
    assert (
        run(SPLICE, {"fillers": "developed"}, **other, actions=bent)["checks"]["contact_pressure"]["utilisation"] < 0.5
    )


def test_plates_pull_beside_contact():
    """M = 720 alone. Plates 5 in^2 at -6.95; with no strain at x0 the plus flange presses on 6.45 in^2 at 6.6275 and
    the web from x0 to 6.29: 6.45 (6.6275
    - x0) + 0.375 (6.29 - x0)^2/2 = 5 (6.95 + x0): x0 = 1.25: 34.68 + 4.76 = 39.45 and 41.0; x0 = 1.12: 35.52 + 5.01 =
    40.53 and 40.35; 1.135: 40.41 and 40.43. About the plates: 35.43 x 13.5775 + 0.22 + 4.98 x (1.135 + 3.437 + 6.95) =
    481.1 + 0.2 + 57.4 = 538.7: 720/538.7 = 1.3366: 54.03 kip."""
    agrees(
        SPLICE, "flange_plate_yield", 54.03, 54.03, of="demand", rel=2e-3, actions=[{"name": "A", "M": "720 kip*in"}]
    )


def test_flange_net_section():
    """(10 - 2 x 1.0) x 0.645 = 5.16 in^2: x 65 = 335.4: 251.6; /2: 167.7."""
    agrees(SPLICE, "flange_rupture", 251.6, 167.7)


def test_compression_leaves_the_plates():
    """-300/2 + 51.8 is below nothing: no plate pulls, and none presses where the ends are milled; sawn: 150 + 51.8 =
    201.8 presses."""
    found = run(SPLICE, **PRESSED)["checks"]
    assert found["flange_plate_yield"]["demand"] == 0 and found["flange_plate_buckling"]["demand"] == 0
    sawn = run(SPLICE, {"ends": "sawn", "ends_gap": "1/4 in"}, **PRESSED)["checks"]
    assert sawn["flange_plate_buckling"]["demand"] == pytest.approx(150 + 720 / 14.4, abs=0.05)  # the plates' own lever
    assert "contact_bearing" not in sawn


def test_contact():
    """Flanges: half-depths 6.95 and 7.0, inner faces 6.305 and 6.29: 0.645 of the upper's 0.645 stand on the lower's: 2
    x 0.645 x 10 = 12.9; webs 0.375 x 2 x 6.29 = 4.718: 17.62 in^2 (of 17.9): 1.8 x 50 x 17.62 = 1585.6: 0.75: 1189; /2:
    792.8."""
    agrees(SPLICE, "contact_bearing", 1189, 792.8, **PRESSED)


def test_friction_of_what_presses():
    """0.75 x 0.30 x 300 = 67.5 kip; by ASD 0.30 x 300/2.00 = 45; nothing in uplift nor with an earthquake."""
    agrees(SPLICE, "contact_friction", 67.5, 45, **PRESSED)
    up = {"actions": [{"name": "A", "N": "5 kip", "V": "1 kip"}]}
    assert run(SPLICE, **up)["status"] == "fail"
    shaken = {"actions": [{"name": "E", "N": "-300 kip", "V": "1 kip", "seismic": True}]}
    answer = run(SPLICE, **shaken)
    assert answer["status"] == "fail" and "web plates" in answer["advice"]
    assert run(SPLICE, {"web_plates": "both"}, **shaken)["status"] == "pass"


def test_grooves():
    """Throat 3/8: 0.6 x 70 x 0.375 = 15.75: 0.80: 12.6; /1.88: 8.378 kip/in. N = 200 lifts all of it: 100/10 = 10, M
    over 13.9 - 0.645 = 13.255: 5.432; Mw/2 on 10^2/6: 3.6 (the far corner 10 - 5.70 - 3.6, open); Vw 3/2/10 = 0.15:
    sqrt(19.032^2 + 0.15^2) = 19.03."""
    groove = {"flange_joint": "grooves", "groove_throat": "3/8 in"}
    agrees(SPLICE, "flange_groove", 12.6, 8.378, groove)
    lifted = [{"name": "A", "N": "200 kip", "M": "720 kip*in", "Mw": "120 kip*in", "Vw": "3 kip"}]
    agrees(SPLICE, "flange_groove", 19.03, 19.03, groove, of="demand", actions=lifted)
    assert "flange_bolt_shear" not in run(SPLICE, groove)["checks"]


def test_fillers_between_series():
    """W12X65 (12.1 deep) on W14X90: 0.95 in. beside each flange: over 3/4, to be developed; W14X61 on W14X90: 0.05:
    none needed."""
    other = {"supported": {"section": "W12X65", "grade": "A992"}}
    assert not run(SPLICE, **other)["detailing"]["fillers_developed"]["ok"]
    assert run(SPLICE, {"fillers": "developed"}, **other)["detailing"]["fillers_developed"]["ok"]
    # developed by 3 x 0.95/(0.95 + 0.605) = 1.83 rows on the filler's own length
    given = run(SPLICE, {"fillers": "developed", "filler_rows": 1}, **other)["detailing"]["filler_rows"]
    assert not given["ok"] and given["limit"] == pytest.approx(1.833, abs=2e-3)
    partly = run(SPLICE, **other, actions=PRESSED["actions"])
    assert any("only partly" in note for note in partly["notes"])
    assert (
        partly["checks"]["contact_bearing"]["strength"]
        < 0.6
        * run(SPLICE, {"fillers": "developed"}, **other, actions=PRESSED["actions"])["checks"]["contact_bearing"][
            "strength"
        ]
    )


def test_where_it_stands():
    assert run(SPLICE, geometry={"above_floor": "48 in"})["detailing"]["splice_above_floor"]["ok"]
    low = run(SPLICE, geometry={"above_floor": "36 in"})
    assert low["status"] == "fail" and "splice_above_floor" in low["reason"]


LATERAL = {"lateral": "ordinary_moment", "storey": "12 ft"}


def test_the_lateral_system_asks_for_half_the_flange():
    """0.5 x 1.1 x 50 x 10 x 0.645 = 177.4 kip of the smaller column for both; the bolts' 146.1 is not enough. Grooves
    are refused."""
    actions = [{"name": "E", "N": "-50 kip", "set": "overstrength"}]
    answer = run(SPLICE, {"web_plates": "both"}, geometry=LATERAL, actions=actions)
    assert answer["status"] == "fail" and answer["detailing"]["seismic_flange_strength"]["limit"] == pytest.approx(
        177.4, abs=0.1
    )
    assert answer["detailing"]["seismic_flange_strength"]["given"] == pytest.approx(146.1, abs=0.1)
    assert run(SPLICE, {"flange_joint": "grooves"}, geometry=LATERAL, actions=actions)["status"] == "fail"
    assert run(SPLICE, geometry={"seismic": True})["status"] == "unchecked"


def test_the_lateral_system_asks_all_that_a_pull_breaks():
    """Twelve bolts hold 2 x 146.1 = 292.2; a plate 1/4 x 10 in. breaks at 65 x 0.25 x (10 - 2 x 1.0) = 130: 0.75: 97.5.
    A column of A36: 0.5 x 1.5 x 36 x 6.45 = 174.2 kip."""
    thin = {"web_plates": "both", "flange_rows": 6, "flange_plate_thickness": "1/4 in", "flange_plate_width": "10 in"}
    actions = [{"name": "E", "N": "-50 kip", "set": "overstrength"}]
    answer = run(SPLICE, thin, geometry=LATERAL, actions=actions)
    assert answer["detailing"]["seismic_flange_strength"]["given"] == pytest.approx(97.5, abs=0.1)
    soft = run(SPLICE, thin, geometry=LATERAL, actions=actions, supported={"section": "W14X61", "grade": "A36"})
    assert soft["detailing"]["seismic_flange_strength"]["limit"] == pytest.approx(174.2, abs=0.1)
    assert answer["detailing"]["seismic_flange_strength_far"]["limit"] == pytest.approx(177.4, abs=0.1)


OVER = {"actions": [{"name": "E", "N": "-50 kip", "set": "overstrength"}]}
STRONG = {"web_plates": "both", "flange_rows": 6, "flange_plate_thickness": "3/4 in", "rows": 3, "tightening": "slip_a"}


def asked(kind: str, by: str = "LRFD", **more) -> dict[str, tuple[float, ...]]:
    """What is asked by itself of this splice, kip and kip in., by name."""
    trial = read_trial(
        data(SPLICE, method=by, geometry={"lateral": kind, "storey": "12 ft", "clear": "10 ft"} | more, **OVER)
    )
    found = trial.standard.acted(trial.situation, trial.sizes, trial.code, trial.actions)
    rows = np.stack([found.V / KIP, found.Vw / KIP, found.M / KIP / INCH, found.Mw / KIP / INCH], axis=-1)
    return {
        name: tuple(row)
        for name, row in zip(found.names, rows, strict=True)
        if name != "E" and not name.endswith("reversed")
    }


def test_least_shear_of_every_column():
    """Zx = 102 and 157: the lesser Mpc over 12 ft: 50 x 102/144 = 35.42 kip; across 50 x 32.8/144 = 11.39; by ASD over
    1.5: 23.61 and 7.59 (D2.5c). Also of a column that is of no system, in category D; not where R = 3."""
    for kind, more in (("ordinary_moment", {}), ("ordinary_braced", {}), ("none", {"category": "D"})):
        found = asked(kind, **more)
        assert found["D2.5c, Mpc/(alpha_s H)"] == pytest.approx((35.42, 0, 0, 0), abs=0.01)
        assert found["D2.5c, Mpc,y/(alpha_s H)"] == pytest.approx((0, 11.39, 0, 0), abs=0.01)
    assert asked("ordinary_moment", "ASD")["D2.5c, Mpc/(alpha_s H)"][0] == pytest.approx(23.61, abs=0.01)
    assert not asked("not_detailed", category="D") and not asked("none", category="B") and not asked("none")


def test_special_and_intermediate_moment_frames():
    """Clear between the beams, 10 ft: the sum 50 x (102 + 157)/120 = 107.9 kip; across 50 x (32.8 + 75.6)/120 = 45.17;
    1.1 x 50 x 102 = 5610 kip in."""
    for kind, clause in (("special_moment", "E3.6g"), ("intermediate_moment", "E2.6g")):
        found = asked(kind)
        assert found[f"{clause}, sum of Mpc/(alpha_s Hc)"][0] == pytest.approx(107.9, abs=0.1)
        assert found[f"{clause}, sum of Mpc,y/(alpha_s Hc)"][1] == pytest.approx(45.17, abs=0.02)
        assert found[f"{clause}, Ry Fy Zx of the smaller column"][2] == pytest.approx(5610, abs=1)


def test_special_braced_frames():
    """The same sums, and half of the lesser Mp: 50 x 102/2 = 2550; across 50 x 32.8/2 = 820 kip in.;
    buckling-restrained ones by F4.6d."""
    for kind, clause in (("special_braced", "F2.6d"), ("buckling_restrained", "F4.6d")):
        found = asked(kind)
        assert found[f"{clause}, sum of Mpc/(alpha_s Hc)"][0] == pytest.approx(107.9, abs=0.1)
        assert found[f"{clause}, half of the lesser Mp"][2] == pytest.approx(2550, abs=1)
        assert found[f"{clause}, half of the lesser Mp,y"][3] == pytest.approx(820, abs=1)


def test_what_the_system_asks_governs_by_name():
    """Three 3/4 A325-N 1.75 in. from the joint, elastically: V/3 and 1.75 V x 3/18: 0.4429 V = 15.69 of 17.89: 0.8767;
    by ASD 10.46 of 11.93."""
    plates = {
        "web_plates": "one",
        "plate_thickness": "1/2 in",
        "rows": 3,
        "bolt_method": "elastic",
        "flange_rows": 6,
        "tightening": "pretensioned",
    }
    agrees(
        SPLICE,
        "bolt_shear",
        0.8767,
        0.8767,
        plates,
        of="utilisation",
        rel=2e-3,
        geometry=LATERAL,
        actions=[{"name": "E", "method": by, "N": "-50 kip", "set": "overstrength"} for by in ("LRFD", "ASD")],
    )
    friction = run(SPLICE, {"flange_rows": 6, "tightening": "pretensioned"}, geometry=LATERAL, **OVER)
    assert friction["status"] == "fail" and friction["governing"]["action"].startswith("D2.5c")  # nothing presses
    assert run(SPLICE, STRONG, geometry=LATERAL, **OVER)["status"] == "pass"
    special = run(SPLICE, STRONG, geometry={"lateral": "special_moment", "storey": "12 ft", "clear": "10 ft"}, **OVER)
    assert special["status"] == "fail" and special["governing"]["action"].startswith("E3.6g")


def test_what_is_not_known_of_the_system():
    for geometry, words in (
        ({"seismic": True, "storey": "12 ft"}, "the kind is not stated"),
        ({"lateral": "ordinary_moment"}, "storey"),
        ({"lateral": "special_moment", "storey": "12 ft"}, "clear between the beams"),
    ):
        found = run(SPLICE, STRONG, geometry=geometry, **OVER)
        assert found["status"] == "unchecked" and words in found["reason"]
    told = run(SPLICE, STRONG)
    assert any("category is not stated" in note for note in told["notes"])


def test_bolted_joints_of_the_system():
    """AISC 341 D2.2: no snug bolts, no slots along the shear in bearing, bearing with deformation considered."""
    for given, rule in (
        ({"tightening": "snug"}, "system_pretensioned"),
        ({"hole": "SSLP", "tightening": "pretensioned"}, "system_holes"),
        ({"deformation": "not_considered"}, "system_bearing"),
    ):
        found = run(SPLICE, STRONG | given, geometry=LATERAL, **OVER)
        assert found["status"] == "fail" and not found["detailing"][rule]["ok"]
        assert rule not in run(SPLICE, STRONG | given, geometry={"lateral": "not_detailed"})["detailing"]


def test_erection():
    """300 lb at 18 + 5 = 23 in. across, by LRFD 1.6: 0.48 kip, 11.04 kip in. Four lines of 2.5 in^2 at 2.75; no strain
    at y0 = -0.0965: flanges 1.29 x 5.0965^2/2 = 16.754, web 12.58 x 0.284^2/2 = 0.507, lines 5 (2.75 - 0.0965) =
    13.268: 3.99 = 0.48/0.1202; moments 16.754 x 3.301 + 0.05 + 13.268 x 2.75 = 91.84 = 11.04/0.1202. Two lines 1.595 of
    146.1 = 0.01092; by ASD 0.997 of 97.4 = 0.01023. Along, 24.95 x 0.48/13.5 - 0.24 is less."""
    agrees(SPLICE, "erection", 0.01092, 0.01023, of="utilisation", rel=3e-3, **PRESSED)


def test_web_plates_have_an_end_and_an_edge():
    """Two rows of 3/4 at 3 in. in PL 3/8 x 6 of A572-50: 1.5 in. to its ends, 2.5 in. to its edge. V along the rows:
    Anv = 0.375 (4.5 - 1.5 x 0.875) = 1.1953, Ant = 0.375 (2.5 - 0.4375) = 0.7734: 39 x 1.1953 + 65 x 0.7734 = 96.89,
    yielding 30 x 1.6875 + 50.27 = 100.9: 0.75: 72.67; /2: 48.45. N to the edge: out along one row to the plate's end,
    30 x 0.9375 + 65 x 1.1953 = 105.8 (both rows 108.1): 0.75: 79.37; /2: 52.91. Of one plate."""
    plates = {"web_plates": "both", "rows": 2, "plate_depth": "6 in", "edge_distance": "2-1/2 in"}
    across = {"actions": [{"name": "A", "N": "40 kip", "V": "30 kip"}]}
    agrees(SPLICE, "plate_block_shear", 72.67, 48.45, plates, **across)
    agrees(SPLICE, "plate_axial_block_shear", 79.37, 52.91, plates, **across)
