"""Beam splices worked by hand: W24X68 (d = 23.7, bf = 8.97, tf = 0.585, A = 20.1, Sx = 154, Zx = 177), A992, with 7/8
A325-N in the flanges and PL 3/4 x 8-1/2 of A572-50. Kip, inches."""

from __future__ import annotations

import pytest

from tests.worked.sheet import agrees, run

BEAM = {"section": "W24X68", "grade": "A992"}
SPLICE = {
    "framing": "beam_splice",
    "standard": "beam_flange_splice",
    "supported": BEAM,
    "support": BEAM,
    "parameters": {
        "flange_rows": 4,
        "flange_bolt": "7/8 A325-N",
        "flange_plate_thickness": "3/4 in",
        "plate_grade": "A572-50",
    },
    "actions": [{"name": "A", "V": "60 kip", "M": "3000 kip*in", "N": "20 kip"}],
}
WEB = {"framing": "beam_splice", "standard": "beam_web_splice", "supported": BEAM, "support": BEAM,
       "parameters": {"rows": 4, "plate_thickness": "3/8 in", "plate_grade": "A572-50", "bolt": "3/4 A325-N"},
       "actions": [{"name": "A", "V": "60 kip"}]}  # fmt: skip


def test_flange_bolts_in_shear():
    """Af/A = 8.97 x 0.585/20.1 = 0.2611: 20 x 0.2611 = 5.22 in each flange; 3000/23.7 = 126.58: 131.8 kip. 8 x 0.6013 x
    54 = 259.8: 0.75: 194.8; /2: 129.9."""
    agrees(SPLICE, "flange_bolt_shear", 131.8, 131.8, of="demand")
    agrees(SPLICE, "flange_bolt_shear", 194.8, 129.9)
    agrees(SPLICE, "flange_bolt_shear", 8 * 24.3, 8 * 16.2, rel=3e-3, published="Manual Table 7-1, 8 bolts")


def test_wide_plate_counts_as_far_as_its_bolts_spread():
    """Two rows 3 in. apart: 5.5 + 2 x 3 tan 30 = 8.964 of 12 in.: 50 x 8.964 x 0.75 = 336.2: 0.9: 302.5; /1.67: 201.3.
    Net 8.964 - 2 x 1.0 = 6.964: 65 x 5.223 = 339.5: 0.75: 254.6; /2: 169.7. The bolts of 12 in. stand 3.25 from its
    edges, of 20 in. 7.25: over 6."""
    wide = {"flange_rows": 2, "flange_plate_width": "12 in"}
    agrees(SPLICE, "flange_plate_yield", 302.5, 201.3, wide)
    agrees(SPLICE, "flange_plate_rupture", 254.6, 169.7, wide)
    answer = run(SPLICE, {"flange_plate_width": "20 in"})
    assert answer["status"] == "fail" and "flange_plate_max_edge" in answer["reason"]


def test_wide_inner_plates_too():
    """Inner plates 3 in. wide from the tip, (8.97 - 5.5)/2 = 1.735, in two rows: min(1.735, 1.732) + min(1.265, 1.732)
    = 2.997: all but all of it."""
    plates = {
        "flange_rows": 2,
        "inside_plates": "provided",
        "inside_plate_width": "3 in",
        "inside_plate_thickness": "1/2 in",
    }
    agrees(SPLICE, "inner_plate_yield", 0.9 * 50 * 0.5 * 2 * 2.997, 50 * 0.5 * 2 * 2.997 / 1.67, plates)


def test_flange_bolts_on_a_thin_plate():
    """1/4 in.: bearing 2.4 x 0.875 x 0.25 x 65 = 34.13; at the end lc = 1.5 - 0.469 = 1.031: 1.2 x 1.031 x 0.25 x 65 =
    20.11: 0.75: 15.08; the others hold their shear 24.35 of 25.6: 2 (15.08 + 3 x 24.35) = 176.3; by ASD 2 (10.05 + 3 x
    16.24) = 117.5."""
    agrees(SPLICE, "flange_bolt_bearing", 176.3, 117.5, {"flange_plate_thickness": "1/4 in"})
    agrees(SPLICE, "flange_bolt_bearing", 194.8, 129.9)  # the shear of all on the thick one


def test_slip_of_the_flanges():
    """0.30 x 1.13 x 39 = 13.22 a bolt: 105.8; /1.5: 70.5 kip."""
    agrees(SPLICE, "flange_slip", 105.8, 70.5, {"tightening": "slip_a"})


def test_holes_in_the_flange():
    """Holes 15/16 + 1/16 = 1.0: Fu Afn = 65 x 6.97 x 0.585 = 265.0 over 50 x 5.247 = 262.4: Mp = 8850: 7965; /1.67:
    5299. N: (20.1 - 4 x 0.585) x 65 = 1154.4: 865.8; /2: 577.2. 3000/7965 + 20/865.8 = 0.3997; 3000/5299 + 20/577.2 =
    0.6008."""
    agrees(SPLICE, "flange_net_section", 0.3997, 0.6008, of="demand")


def test_larger_holes_reduce_the_beam():
    """1 in. bolts, holes 1-1/8 + 1/16: Fu Afn = 65 x 6.595 x 0.585 = 250.8 under 262.4: Mn = 250.8/5.247 x 154 = 7360:
    6624: 0.4529; /1.67: 4407: 0.6807."""
    more = {"actions": [{"name": "A", "M": "3000 kip*in"}]}
    agrees(SPLICE, "flange_net_section", 0.4529, 0.6807, {"flange_bolt": "1 A325-N"}, of="demand", **more)


def test_flange_torn_from_its_end():
    """Run 1.75 + 9 = 10.75: Agv = 2 x 0.585 x 10.75 = 12.58, Anv = 2 x 0.585 x 7.25 = 8.483, Ant = 2 x 0.585 x (1.735 -
    0.5) = 1.445: 330.8 + 93.9 = 424.7: 318.6; /2: 212.4."""
    agrees(SPLICE, "flange_block_shear", 318.6, 212.4)


def test_outer_plate():
    """M over 23.7 + 0.75 = 24.45: 122.7 + 5.22 = 127.9 kip. 6.375 in^2: 318.75: 286.9, /1.67 190.9. Net min(6.5, 0.85 x
    8.5) x 0.75 = 4.875: 316.9: 237.7; 158.4. Block: run 10.5: Anv = 10.5, Ant = 2 x 0.75 x 1.0 = 1.5: 409.5 + 97.5 =
    507: 380.2; 253.5. Between bolts 4 in.: 0.65 x 4/0.2165 = 12: yields."""
    agrees(SPLICE, "flange_plate_yield", 127.9, 127.9, of="demand")
    agrees(SPLICE, "flange_plate_yield", 286.9, 190.9)
    agrees(SPLICE, "flange_plate_rupture", 237.7, 158.4)
    agrees(SPLICE, "flange_plate_block_shear", 380.2, 253.5)
    agrees(SPLICE, "flange_plate_buckling", 286.9, 190.9)


def test_thin_outer_plate_buckles():
    """1/4 in.: r = 0.07217: 0.65 x 4/r = 36.03: Fe = 220.5, Fcr = 0.658^0.2268 x 50 = 45.47: x 2.125 = 96.63: 86.96;
    57.86."""
    agrees(SPLICE, "flange_plate_buckling", 86.96, 57.86, {"flange_plate_thickness": "1/4 in"})


INSIDE = {"inside_plates": "provided", "inside_plate_width": "3 in", "inside_plate_thickness": "1/2 in"}


def test_plates_inside_too():
    """Between the flanges' middles, 23.115: 129.79 + 5.22 = 135.0 kip; bolts in two planes 389.6. Outside 6.375 of
    9.375: 91.8; inside 43.2 kip on 3.0 in^2: 135, 89.8; net 2 (3 - 1) 0.5 = 2.0: 97.5, 65; block: Anv = 7.0, Ant = 2 x
    0.5 x (1.265 - 0.5) = 0.765: 273 + 49.7: 242.0, 161.4; r = 0.1443: 18: 135, 89.8."""
    agrees(SPLICE, "flange_bolt_shear", 135.0, 135.0, INSIDE, of="demand")
    agrees(SPLICE, "flange_bolt_shear", 389.6, 259.8, INSIDE)
    agrees(SPLICE, "flange_plate_yield", 91.8, 91.8, INSIDE, of="demand")
    agrees(SPLICE, "inner_plate_yield", 43.2, 43.2, INSIDE, of="demand")
    agrees(SPLICE, "inner_plate_yield", 135, 89.8, INSIDE)
    agrees(SPLICE, "inner_plate_rupture", 97.5, 65, INSIDE)
    agrees(SPLICE, "inner_plate_block_shear", 242.0, 161.4, INSIDE)
    agrees(SPLICE, "inner_plate_buckling", 135, 89.8, INSIDE)


def test_the_web_takes_its_lever_and_the_rest_of_n():
    """e = 0.25 + 1.75 = 2.0; two planes: rn = 2 x 0.4418 x 54 x 0.75 = 35.79. N: 20 (1 - 2 x 0.2611) = 9.557, sqrt(60^2
    + 9.557^2) = 60.76 kip. The plates' moment at the bolts 30 x 2.0 = 60 kip in. each, Z = 0.375 x 11.5^2/4 = 12.40:
    0.9 x 50 x 12.40 = 557.9; /1.67: 371.2."""
    found = run(SPLICE)["checks"]
    assert found["bolt_shear"]["demand"] == pytest.approx(60.76, abs=0.01)
    assert found["plate_flexure_yield"]["demand"] == pytest.approx(60.0, abs=0.01)
    assert found["plate_flexure_yield"]["strength"] == pytest.approx(557.9, abs=0.1)
    assert found["bolt_shear"]["strength"] / 35.79 == pytest.approx(
        3.29, abs=0.02
    )  # C of Table 7-6, 4 bolts, 3 in., e = 2


def test_web_plates_on_one_side():
    """One plane, one plate of twice the share: bolts half as strong, 60 x 2.0 = 120 kip in. on the plate."""
    both, one = run(WEB)["checks"], run(WEB, {"web_plates": "one"})["checks"]
    assert one["bolt_shear"]["strength"] == pytest.approx(both["bolt_shear"]["strength"] / 2)
    assert (both["plate_flexure_yield"]["demand"], one["plate_flexure_yield"]["demand"]) == (
        pytest.approx(60.0),
        pytest.approx(120.0),
    )


def test_a_web_splice_carries_no_moment():
    answer = run(WEB, actions=[{"name": "A", "V": "10 kip", "M": "500 kip*in"}])
    assert answer["status"] == "fail" and "uncarried_M" in answer["reason"] and "beam_flange_splice" in answer["advice"]


def test_fillers():
    """W24X84 is 24.1 deep: 0.4 in. below the W24X68 where tops are in line: 1 - 0.4 (0.4 - 0.25) = 0.94: 194.8 x 0.94 =
    183.1 kip. Middles in line: 0.2 each: none. Developed: none. W21X62 is 21.0: 2.7 in. are over 3/4 and have to be
    developed."""
    deeper = {"support": {"section": "W24X84", "grade": "A992"}}
    assert run(SPLICE, **deeper)["checks"]["flange_bolt_shear"]["strength"] == pytest.approx(183.1, abs=0.1)
    assert run(SPLICE, {"align": "middle"}, **deeper)["checks"]["flange_bolt_shear"]["strength"] == pytest.approx(
        194.8, abs=0.1
    )
    assert run(SPLICE, {"fillers": "developed"}, **deeper)["checks"]["flange_bolt_shear"]["strength"] == pytest.approx(
        194.8, abs=0.1
    )
    shallower = {"support": {"section": "W21X62", "grade": "A992"}}
    answer = run(SPLICE, **shallower)
    assert answer["status"] == "fail" and not answer["detailing"]["fillers_developed"]["ok"]
    assert run(SPLICE, {"fillers": "developed"}, **shallower)["status"] == "pass"
    assert "flange_net_section_far" in answer["checks"]  # W21X62 has its own


def test_pieces_that_are_not_in_line_are_bent_by_n():
    """Tops of a W24X68 and a W21X62 in line: their middles are (23.7 - 21.0)/2 = 1.35 in. apart, so that 20 kip add 27
    kip in. to M: 27/21.0 = 1.29 kip in a flange, and what the webs' share of N adds over the web plates' own way off.
    Middles in line: nothing. Web plates alone have nothing for it: 10 kip fail, and 1 kip is let through."""
    other = {"support": {"section": "W21X62", "grade": "A992"}}
    top, middle = (
        run(SPLICE, {"fillers": "developed", "align": align}, **other)["checks"]["flange_bolt_shear"]["demand"]
        for align in ("top", "middle")
    )
    webs = (1 - 2 * 8.97 * 0.585 / 20.1) * 20  # of N; the plates stand at most 1.35 in. off either middle
    assert 27 / 21.0 < top - middle < (27 + webs * 1.35) / 21.0
    pulled = {"actions": [{"name": "A", "V": "20 kip", "N": "10 kip"}]}
    agrees(WEB, "axial_out_of_line", 2.0, 2.0, **other, **pulled)
    agrees(WEB, "axial_out_of_line", 10.0, 10.0, of="demand", **other, **pulled)
    failing = run(WEB, **other, **pulled)
    assert failing["status"] == "fail" and "axial_out_of_line" in failing["reason"]
    assert run(WEB, {"align": "middle"}, **other, **pulled)["status"] == "pass"
    assert run(WEB, **other, actions=[{"name": "A", "V": "20 kip", "N": "1 kip"}])["status"] == "pass"


def test_web_plates_reach_no_fillet_of_the_shallower_piece():
    """W14X426 (d 18.7) and HP14X73 (13.6), tops in line: what both webs have in common between fillets is less than
    either has, and the plates stand there."""
    beams = {
        "supported": {"section": "W14X426", "grade": "A992"},
        "support": {"section": "HP14X73", "grade": "A572-50"},
    }
    base = {**WEB, **beams, "parameters": {"rows": 3, "plate_thickness": "3/8 in"}}
    rules = run(base)["detailing"]
    assert rules["plate_on_both_webs"]["limit"] < rules["plate_between_fillets_far"]["limit"]
    assert not run(base, {"plate_depth": "11 in"})["detailing"]["plate_on_both_webs"]["ok"]


def test_a_long_joint_has_less():
    """14 rows 3 in. apart are 39 in. long: 28 x 0.6013 x 54 x 0.833 = 757.3: 0.75: 568.0; /2: 378.7 (Table J3.2,
    note)."""
    agrees(SPLICE, "flange_bolt_shear", 568.0, 378.7, {"flange_rows": 14})


def test_one_plate_beside_the_web_is_bent_by_what_presses():
    """20 kip: e = (0.375 + 0.415)/2 = 0.395: 7.9 kip in. PL 3/8 x 11-1/2, 4 in. free, K = 1.2: 4.8/0.10825 = 44.34: Fe
    = 145.6: 43.31 x 4.3125 = 186.8: 168.1; 111.8. 50 x 11.5 x 0.375^2/4 = 20.21: 18.19; 12.10. 0.0595 + 0.4343 =
    0.4938; ASD 0.0894 + 0.6526 = 0.742. A pair stands even: none."""
    pressed = {"actions": [{"name": "A", "N": "-20 kip"}]}
    agrees(WEB, "plate_off_the_web", 0.4938, 0.742, {"web_plates": "one"}, of="utilisation", rel=2e-3, **pressed)
    assert "plate_off_the_web" not in run(WEB, **pressed)["checks"]
