"""Column splices worked by hand: W14X61 (d = 13.9, bf = 10.0, tf = 0.645, tw = 0.375, A = 17.9) on W14X90 (d = 14.0, bf = 14.5, tf = 0.710), A992, with
7/8 A325-N in a gage of 5-1/2 in. and PL 1/2 x 10 of A572-50 on each flange. Kip, inches."""

from __future__ import annotations

import pytest

from tests.worked.sheet import agrees, run

SPLICE = {
    "framing": "column_splice",
    "standard": "column_flange_splice",
    "supported": {"section": "W14X61", "grade": "A992"},
    "support": {"section": "W14X90", "grade": "A992"},
    "parameters": {"flange_rows": 3, "flange_bolt": "7/8 A325-N", "flange_plate_thickness": "1/2 in", "plate_grade": "A572-50"},
    "actions": [{"name": "A", "N": "40 kip", "M": "720 kip*in", "Mw": "120 kip*in", "Vw": "3 kip"}],
}
PRESSED = {"actions": [{"name": "A", "N": "-300 kip", "M": "720 kip*in", "V": "20 kip"}]}


def test_flange_bolts():
    """N/2 = 20; 720/13.9 = 51.80; e = 1.75 + 3 = 4.75: (120 + 3 x 4.75)/5.5 = 24.41: 96.21; with Vw/2 = 1.5 across: 96.22 kip.
    6 x 0.6013 x 54 = 194.8: 0.75: 146.1; /2: 97.4."""
    agrees(SPLICE, "flange_bolt_shear", 96.22, 96.22, of="demand")
    agrees(SPLICE, "flange_bolt_shear", 146.1, 97.4)


def test_flange_net_section():
    """(10 - 2 x 1.0) x 0.645 = 5.16 in^2: x 65 = 335.4: 251.6; /2: 167.7."""
    agrees(SPLICE, "flange_rupture", 251.6, 167.7)


def test_compression_leaves_the_plates():
    """-300/2 + 51.8 is below nothing: no plate pulls, and none presses where the ends are milled; sawn: 150 + 51.8 = 201.8 presses."""
    found = run(SPLICE, **PRESSED)["checks"]
    assert found["flange_plate_yield"]["demand"] == 0 and found["flange_plate_buckling"]["demand"] == 0
    sawn = run(SPLICE, {"ends": "sawn", "ends_gap": "1/4 in"}, **PRESSED)["checks"]
    assert sawn["flange_plate_buckling"]["demand"] == pytest.approx(150 + 720 / 14.4, abs=0.05)  # the plates' own lever
    assert "contact_bearing" not in sawn


def test_contact():
    """Flanges: half-depths 6.95 and 7.0, inner faces 6.305 and 6.29: 0.645 of the upper's 0.645 stand on the lower's: 2 x 0.645 x 10 = 12.9;
    webs 0.375 x 2 x 6.29 = 4.718: 17.62 in^2 (of 17.9): 1.8 x 50 x 17.62 = 1585.6: 0.75: 1189; /2: 792.8."""
    agrees(SPLICE, "contact_bearing", 1189, 792.8, **PRESSED)


def test_friction_of_what_presses():
    """0.75 x 0.30 x 300 = 67.5 kip; nothing in uplift nor with an earthquake."""
    agrees(SPLICE, "contact_friction", 67.5, 67.5, **PRESSED)
    up = {"actions": [{"name": "A", "N": "5 kip", "V": "1 kip"}]}
    assert run(SPLICE, **up)["status"] == "fail"
    shaken = {"actions": [{"name": "E", "N": "-300 kip", "V": "1 kip", "seismic": True}]}
    answer = run(SPLICE, **shaken)
    assert answer["status"] == "fail" and "web plates" in answer["advice"]
    assert run(SPLICE, {"web_plates": "both"}, **shaken)["status"] == "pass"


def test_grooves():
    """Throat 3/8: 0.6 x 70 x 0.375 = 15.75: 0.80: 12.6; /1.88: 8.378 kip/in. N/2 = 20, M over 13.9 - 0.645 = 13.255: 54.32: 74.32/10 = 7.432; Mw/2 on
    10^2/6: 3.6; Vw 3/2/10 = 0.15: sqrt(11.032^2 + 0.15^2) = 11.03."""
    groove = {"flange_joint": "grooves", "groove_throat": "3/8 in"}
    agrees(SPLICE, "flange_groove", 12.6, 8.378, groove)
    agrees(SPLICE, "flange_groove", 11.03, 11.03, groove, of="demand")
    assert "flange_bolt_shear" not in run(SPLICE, groove)["checks"]


def test_fillers_between_series():
    """W12X65 (12.1 deep) on W14X90: 0.95 in. beside each flange: over 3/4, to be developed; W14X61 on W14X90: 0.05: none needed."""
    other = {"supported": {"section": "W12X65", "grade": "A992"}}
    assert not run(SPLICE, **other)["detailing"]["fillers_developed"]["ok"]
    assert run(SPLICE, {"fillers": "developed"}, **other)["detailing"]["fillers_developed"]["ok"]
    partly = run(SPLICE, **other, actions=PRESSED["actions"])
    assert any("only partly" in note for note in partly["notes"])
    assert partly["checks"]["contact_bearing"]["strength"] < 0.6 * run(SPLICE, {"fillers": "developed"}, **other, actions=PRESSED["actions"])["checks"][
        "contact_bearing"]["strength"]  # fmt: skip


def test_where_it_stands():
    assert run(SPLICE, geometry={"above_floor": "48 in"})["detailing"]["splice_above_floor"]["ok"]
    low = run(SPLICE, geometry={"above_floor": "36 in"})
    assert low["status"] == "fail" and "splice_above_floor" in low["reason"]


LATERAL = {"seismic": True, "storey": "12 ft"}


def test_the_lateral_system_asks_for_half_the_flange():
    """0.5 x 1.1 x 50 x 10 x 0.645 = 177.4 kip of the smaller column for both; the bolts' 146.1 is not enough. Grooves are refused."""
    actions = [{"name": "E", "N": "-50 kip", "set": "overstrength"}]
    answer = run(SPLICE, {"web_plates": "both"}, geometry=LATERAL, actions=actions)
    assert answer["status"] == "fail" and answer["detailing"]["seismic_flange_strength"]["limit"] == pytest.approx(177.4, abs=0.1)
    assert answer["detailing"]["seismic_flange_strength"]["given"] == pytest.approx(146.1, abs=0.1)
    assert run(SPLICE, {"flange_joint": "grooves"}, geometry=LATERAL, actions=actions)["status"] == "fail"
    assert run(SPLICE, geometry={"seismic": True})["status"] == "unchecked"


def test_the_lateral_system_asks_all_that_a_pull_breaks():
    """Twelve bolts hold 2 x 146.1 = 292.2; a plate 1/4 x 10 in. breaks at 65 x 0.25 x (10 - 2 x 1.0) = 130: 0.75: 97.5. A column of A36: 0.5 x 1.5 x
    36 x 6.45 = 174.2 kip."""
    thin = {"web_plates": "both", "flange_rows": 6, "flange_plate_thickness": "1/4 in", "flange_plate_width": "10 in"}
    actions = [{"name": "E", "N": "-50 kip", "set": "overstrength"}]
    answer = run(SPLICE, thin, geometry=LATERAL, actions=actions)
    assert answer["detailing"]["seismic_flange_strength"]["given"] == pytest.approx(97.5, abs=0.1)
    soft = run(SPLICE, thin, geometry=LATERAL, actions=actions, supported={"section": "W14X61", "grade": "A36"})
    assert soft["detailing"]["seismic_flange_strength"]["limit"] == pytest.approx(174.2, abs=0.1)
    assert answer["detailing"]["seismic_flange_strength_far"]["limit"] == pytest.approx(177.4, abs=0.1)


def test_least_shear_in_the_lateral_system():
    """Zx = 102 and 157: a braced frame's lesser Mpc over 12 ft: 50 x 102/144 = 35.42 kip; by ASD over 1.5: 23.61. Three 3/4 A325-N 1.75 in. from the joint,
    elastically: V/3 and 1.75 V x 3/18: 0.4429 V = 15.69 of 17.89: 0.8767; by ASD 10.46 of 11.93. A moment frame's sum, 259 x 50/144 = 89.93: 2.226. Across, 50
    x 32.8/144 = 11.39 on the flanges is less used."""
    plates = {"web_plates": "one", "lateral_frame": "braced", "plate_thickness": "1/2 in", "rows": 3, "bolt_method": "elastic"}
    lateral = {"geometry": LATERAL, "actions": [{"name": "E", "N": "-50 kip", "set": "overstrength"}]}
    agrees(SPLICE, "least_shear", 0.8767, 0.8767, plates, of="utilisation", rel=2e-3, **lateral)
    agrees(SPLICE, "least_shear", 2.226, 2.226, plates | {"lateral_frame": "moment"}, of="utilisation", rel=2e-3, **lateral)
    friction = run(SPLICE, {"flange_rows": 6}, **lateral)
    assert friction["status"] == "fail" and "least_shear" in friction["reason"]  # nothing presses
    strong = {"web_plates": "both", "flange_rows": 6, "flange_plate_thickness": "3/4 in", "rows": 3}
    assert run(SPLICE, strong | {"lateral_frame": "braced"}, **lateral)["status"] == "pass"
    unknown = run(SPLICE, strong, **(lateral | {"geometry": {"seismic": True}}))
    assert unknown["status"] == "unchecked" and "storey" in unknown["reason"]


def test_erection():
    """300 lb at 18 + 6.95 = 24.95 in.: by LRFD 1.6: 11.98 kip in./13.9 = 0.862, less 0.24: 0.622; across (18 + 5) x 0.48 = 11.04/5.5 = 2.007 - 0.24 = 1.767 of
    146.1 = 0.0121; by ASD 6.9/5.5 - 0.15 = 1.1045 of 97.4 = 0.01134."""
    agrees(SPLICE, "erection", 0.0121, 0.01134, of="utilisation", rel=3e-3, **PRESSED)
