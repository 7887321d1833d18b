"""The beam's web and its copes, worked by hand from J4, G2 and the Manual's Part 9."""

import math

import pytest

from tests.worked.sheet import FLANGE, GIRDER, PULL, PUSH, agrees, run

D, BF, TW, TF = 18.0, 7.50, 0.355, 0.570  # W18X50
HO = D - 2.0


def tee():
    """(S, Z) of what is left of W18X50 under a 2 in. cope: flange 7.50 x 0.570, web 0.355 x 15.43."""
    web = HO - TF
    area = BF * TF + TW * web
    y = (BF * TF * TF / 2 + TW * web * (TF + web / 2)) / area
    inertia = BF * TF**3 / 12 + BF * TF * (y - TF / 2) ** 2 + TW * web**3 / 12 + TW * web * (TF + web / 2 - y) ** 2
    p = HO - area / (2 * TW)  # plastic axis, in the web
    Z = BF * TF * (p - TF / 2) + TW * (p - TF) ** 2 / 2 + TW * (HO - p) ** 2 / 2
    return inertia / (HO - y), Z


def test_coped_section_against_the_table():
    """Table 9-2 has Snet = 23.4 in^3 for W18X50 with dc = 2 in."""
    assert tee()[0] == pytest.approx(23.4, rel=0.005)


def test_web_shear_uncoped():
    """G2-1: W16X50, 0.6 x 50 x 16.3 x 0.380 = 185.8 kip, phi = 1.00; ASD 123.9 kip."""
    agrees(FLANGE, "web_shear_yield", 185.8, 123.9)


def test_web_shear_of_a_slender_web():
    """W12X14: h/tw = 54.3 > 2.24 sqrt(E/Fy) = 53.9: phi = 0.90 with Cv1 = 1: 0.90 x 0.6 x 50 x 11.9 x 0.200 = 64.3
    kip."""
    shallow = {"supported": {"section": "W12X14", "grade": "A992"}, "actions": [{"name": "A", "V": "10 kip"}]}
    agrees(FLANGE, "web_shear_yield", 64.26, 42.75, {"rows": 2}, rel=2e-3, **shallow)


def test_web_shear_rupture():
    """J4-4: Anv = 0.380 (16.3 - 4 x 7/8) = 4.864; 0.75 x 0.6 x 65 x 4.864 = 142.3 kip."""
    agrees(FLANGE, "web_shear_rupture", 142.3, 94.85)


def test_web_axial():
    """Strip as deep as the plate, 11.5 in.: 0.90 x 50 x 0.380 x 11.5 = 196.7; net 0.75 x 65 x 0.380 x 8.0 = 148.2
    kip."""
    agrees(FLANGE, "web_axial", 148.2, 98.8, actions=PULL)


def test_web_axial_block_shear():
    """Uncoped, the U, the edge 2-1/2 in. less 1/4 in. that the mill may have cut short:
    Agv = 2 x 0.380 x 2.25 = 1.71, Anv = 2 x 0.380 (2.25 - 0.4375) = 1.3775; Ant = 0.380 (9 - 2.625) = 2.4225:
    0.6 x 50 x 1.71 = 51.3 < 0.6 x 65 x 1.3775 = 53.7; 51.3 + 157.5 = 208.8, phi 156.6 kip.
    """
    agrees(FLANGE, "web_axial_block_shear", 156.6, 104.4, actions=PULL)


def test_coped_web_shear():
    """J4-3: 0.60 x 50 x 0.355 x 16 = 170.4 kip. J4-4: 0.75 x 0.60 x 65 x 0.355 (16 - 3.5) = 129.8 kip."""
    agrees(GIRDER, "web_shear_yield", 170.4, 113.6)
    agrees(GIRDER, "web_shear_rupture", 129.8, 86.53)


def test_coped_block_shear():
    """From the cope 1-1/4 in. above the first bolt: run 10.25 in., Agv = 3.639, Anv = 0.355 (10.25 - 3.0625) = 2.552;
    Ant = 0.355 (1.75 - 1/4 - 0.4375) = 0.3772: 0.6 x 65 x 2.552 = 99.5 < 109.2; 99.5 + 65 x 0.3772 = 124.0, phi 93.0
    kip.

    Pulled up instead (uplift), the whole flange is in the way: no block.
    """
    agrees(GIRDER, "web_block_shear", 93.02, 62.01)
    assert run(GIRDER, actions=[{"name": "A", "V": "-30 kip"}])["checks"]["web_block_shear"]["utilisation"] == 0


def test_coped_block_shear_under_both():
    """Axial, edge 1.50 in.: the U: Agv = 2 x 0.355 x 1.50 = 1.065: 31.95 > 0.6 x 65 x 2 x 0.355 x 1.0625 = 29.42; Ant =
    0.355 x 6.375 = 2.263: 29.42 + 147.1 = 176.5, phi 132.4. The L: 14.7 + 65 x 0.355 (10.25 - 3.0625) = 180.6, phi
    135.4 kip. So 132.4; sqrt((20/93.02)^2 + (15/132.4)^2) = 0.2430."""
    agrees(GIRDER, "web_block_shear_interaction", 0.2430, 0.3645, of="utilisation", rel=2e-3, actions=PULL)


def test_cope_flexure():
    """phi Fy Z of the tee; Mr = V (1/2 + 4-1/4) = 40 x 4.75 = 190 kip*in."""
    agrees(GIRDER, "cope_flexure", 190.0, None, of="demand")
    agrees(GIRDER, "cope_flexure", 0.90 * 50 * tee()[1], 50 * tee()[1] / 1.67)


def test_cope_flexural_rupture():
    """Eq. 9-4: phi Fu Snet = 0.75 x 65 x 23.4 = 1141 kip*in (Table 9-2's Snet); ASD 65 x 23.4/2 = 760.5."""
    agrees(GIRDER, "cope_flexural_rupture", 1141, 760.5, rel=0.005, published="Snet of Manual Table 9-2")


def test_cope_buckling_at_one_cope():
    """c/d = 0.236: f = 0.472; c/ho = 0.2656: k = 2.2 (16/4.25)^1.65 = 19.6; f k = 9.25 > 1.61;
    lambda_p = 0.475 sqrt(9.25 x 29000/50) = 34.8; lambda = 16/0.355 = 45.1, under 2 lambda_p:
    Mn = Mp - (Mp - My)(45.1/34.8 - 1), Mp = 50 Z, My = 50 S.
    """
    S, Z = tee()
    k1 = 2 * 4.25 / 18.0 * 2.2 * (16 / 4.25) ** 1.65
    ratio = (16 / 0.355) / (0.475 * math.sqrt(k1 * 29000 / 50))
    expected = 0.90 * (50 * Z - 50 * (Z - S) * (ratio - 1))
    assert ratio == pytest.approx(1.295, abs=0.005)
    agrees(GIRDER, "cope_buckling", expected, expected / 0.90 / 1.67)


def test_cope_buckling_at_a_long_cope():
    """c = 30 in.: f = 1 + 30/18 = 2.667, k = 2.2 x 16/30 = 1.173, k1 = 3.129; lambda_p = 20.24, lambda 45.1 > 2
    lambda_p: Fcr = 0.903 x 29000 x 3.129/45.07^2 = 40.3 ksi; 0.90 x 40.3 x 23.4 = 849 kip*in."""
    agrees(GIRDER, "cope_buckling", 849, 565, {"cope_length": "30 in"}, rel=0.006)


def test_cope_buckling_at_two_copes():
    """W18X50, 2 in. off both flanges over 4-1/4 in.: ho = 14 in.; Cb = (3 + ln(4.25/18))(1 - 2/18) = 1.384 < 1.84; Lb
    ho/tw^2 = 4.25 x 14/0.126 = 472: between 46.4 and 1102: 1.84 (1.52 - 0.274 x 472 x 50/29000) My = 2.386 My > 1.5 My:
    Mp = 50 x 0.355 x 14^2/4 = 869.8, phi 782.8 kip*in."""
    both = {"bottom_cope_length": "4-1/4 in", "bottom_cope_depth": "2 in"}
    agrees(GIRDER, "cope_buckling", 782.8, 520.8, both)
    agrees(GIRDER, "cope_flexural_rupture", 0.75 * 65 * 0.355 * 14**2 / 6, 0.50 * 65 * 0.355 * 14**2 / 6, both)


def test_cope_with_axial_force():
    """N/Nc + M/Mc: area 7.5 x 0.57 + 0.355 x 15.43 = 9.753 in^2, Nc = 0.90 x 50 x 9.753 = 438.9 kip; bolts' centre at
    3.25 + 4.5 = 7.75 in., the section's at 2 + 8 = 10 in.: eN = 2.25 in.; M = 20 x 4.75 + 15 x 2.25 = 128.75 kip*in.
    """
    S, Z = tee()
    k1 = 2 * 4.25 / 18.0 * 2.2 * (16 / 4.25) ** 1.65
    ratio = (16 / 0.355) / (0.475 * math.sqrt(k1 * 29000 / 50))
    Mc = 0.90 * (50 * Z - 50 * (Z - S) * (ratio - 1))
    expected = 15 / 438.9 + 128.75 / Mc
    agrees(GIRDER, "cope_interaction", expected, expected * 0.90 * 1.67, of="utilisation", rel=2e-3, actions=PULL)


@pytest.mark.parametrize(("depth", "length"), [("10 in", "4-1/4 in"), ("2 in", "40 in")])
def test_copes_outside_the_procedure_are_unchecked(depth, length):
    found = run(GIRDER, {"cope_depth": depth, "cope_length": length, "first_bolt": "11-1/2 in", "rows": 2})
    assert found["status"] == "unchecked"
    assert "cope" in found["reason"]


def test_holes_that_leave_no_web_fail():
    """Twelve 1 in. bolts in a 4 in. deep web: the net area is below nothing; that is a fail, never a low
    utilisation."""
    found = run(
        FLANGE,
        {"rows": 12, "bolt": "1 A325-N"},
        supported={"section": "W4X13", "grade": "A992"},
        actions=[{"name": "A", "V": "1 kip", "N": "1 kip"}],
    )
    assert found["status"] == "fail"
    assert found["checks"]["web_shear_rupture"]["strength"] == 0
    assert found["checks"]["web_shear_rupture"]["utilisation"] > 100


def test_bolts_outside_the_plate_fail():
    """An end distance under half a hole leaves the end bolt no clear distance; the check does not turn to nothing."""
    found = run(FLANGE, {"rows": 2, "pitch": "1/2 in", "end_distance": "3/8 in", "edge_distance": "3/8 in"})
    assert found["status"] == "fail"
    assert found["checks"]["bolt_bearing_plate"]["utilisation"] > 1


def test_thrust_on_a_web_between_two_copes():
    """J4.4 with E3 over the cope, K = 1.2: W18X50, 2 in. off both flanges over 10 in., web 0.355 x 14 = 4.97 in^2: K
    L/r = 1.2 x 10/(0.355/3.4641) = 117.1; Fe = 286219/117.1^2 = 20.87 ksi; Fy/Fe = 2.396 > 2.25: 0.877 x 20.87 = 18.30
    ksi; 90.97 kip, phi 0.90: 81.9 kip; ASD /1.67 = 54.5 kip."""
    both = {"cope_length": "10 in", "cope_depth": "2 in", "bottom_cope_length": "10 in", "bottom_cope_depth": "2 in"}
    agrees(GIRDER, "cope_axial_buckling", 81.9, 54.5, both, rel=2e-3, actions=PUSH)


def test_thrust_on_a_long_coped_web_fails():
    """Copes 30 in. long and 2 in. deep on W16X31 (0.275 in.): K L/r = 36/0.0794 = 453; 0.877 x 1.393 = 1.222 ksi over
    0.275 x 11.9 = 3.27 in^2: phi 3.6 kip under a thrust of 20.
    """
    long_ = {
        "cope_length": "30 in",
        "cope_depth": "2 in",
        "bottom_cope_length": "30 in",
        "bottom_cope_depth": "2 in",
        "rows": 3,
    }
    beam = {"supported": {"section": "W16X31", "grade": "A992"}, "support": {"section": "W16X77", "grade": "A992"}}
    found = run(GIRDER, long_, **beam, actions=[{"name": "A", "V": "1 kip", "N": "-20 kip"}])
    assert found["checks"]["cope_axial_buckling"]["strength"] == pytest.approx(3.6, rel=0.01)
    assert found["status"] == "fail"


def test_holes_within_a_cope():
    """Cope 12 in. long: at the bolt line, x = 0.5 + 1.75 = 2.25 in., holes 7/8 in. at 1.25, 4.25, 7.25 and 10.25 in.
    below the cut edge are taken out of the tee; at the cope's end, x = 12.5 in., Snet = 23.4. The end governs: M = 40 x
    12.5 = 500 kip*in.

    With the cope ending at the bolt line (1-3/4 in.), the holes count there: by moments of areas about the cut edge.
    """
    agrees(GIRDER, "cope_flexural_rupture", 500.0, None, {"cope_length": "12 in"}, of="demand")
    web = HO - TF
    parts = [(TW, 0.0, web), (BF, web, HO), *((-TW, y - 7 / 16, y + 7 / 16) for y in (1.25, 4.25, 7.25, 10.25))]
    area = sum(b * (y1 - y0) for b, y0, y1 in parts)
    y = sum(b * (y1**2 - y0**2) / 2 for b, y0, y1 in parts) / area
    S = (sum(b * (y1**3 - y0**3) / 3 for b, y0, y1 in parts) - area * y**2) / y
    agrees(GIRDER, "cope_flexural_rupture", 0.75 * 65 * S, 0.50 * 65 * S, {"cope_length": "1-3/4 in"})


def test_actions_that_a_single_plate_does_not_carry():
    """W16X50: 0.1 % of Fy Sx is 0.001 x 50 x 81.0 = 4.05 kip*in, 1 % of Fy Sy 5.25; a hundredth of what four bolts hold
    as a couple is less, 0.01 x 4 x 0.5 x 23.86 x 9/4 = 1.074. Vw up to 2 kip; where no slab holds the beam a hundredth
    of what bends the plate flat: 0.01 x 0.9 x 36 x 11.5 x 0.25^2/4 over 1 in.: 0.0582."""
    for check, amount in (
        ("uncarried_M", 1.074),
        ("uncarried_Mw", 1.074),
        ("uncarried_T", 1.074),
        ("uncarried_Vw", 2.0),
    ):
        agrees(FLANGE, check, amount, amount, rel=0.01)
    agrees(FLANGE, "uncarried_Vw", 0.0582, 0.0582, {"lateral_restraint": "none"}, rel=0.01)
    found = run(FLANGE, actions=[{"name": "A", "V": "20 kip", "M": "20 kip*ft"}])
    assert found["reason"].startswith("M of 240 kip*in in A, which a single plate does not carry")


def test_a_thrust_beside_one_cope():
    """Cut 2 in. off the top over 10 in., the flange below not counted on: web 18.0 - 2.0 - 0.570 = 15.43 in. x 0.355 =
    5.478 in^2 at 18.30 ksi (as between two copes) = 100.2 kip, phi 90.2; ASD 60.0. Coped below only, the same."""
    agrees(GIRDER, "cope_axial_buckling", 90.2, 60.0, {"cope_length": "10 in"}, rel=2e-3, actions=PUSH)
    below = {"cope_length": "0 in", "cope_depth": "0 in", "bottom_cope_length": "10 in", "bottom_cope_depth": "2 in"}
    agrees(GIRDER, "cope_axial_buckling", 90.2, 60.0, below, rel=2e-3, actions=PUSH)


def test_a_thrust_with_bending_beside_a_cope():
    """Pressed, Nc is the strip's 0.90 x 50 x (15.43 x 0.355) = 246.5 kip (K L/r = 1.2 x 4.25/0.1025 = 49.8 > 25, so E3:
    Fe = 115.4, Fcr = 0.658^(50/115.4) 50 = 41.7 ksi: 205.6 kip); M = 128.75 kip*in as pulled.
    """
    S, Z = tee()
    k1 = 2 * 4.25 / 18.0 * 2.2 * (16 / 4.25) ** 1.65
    ratio = (16 / 0.355) / (0.475 * math.sqrt(k1 * 29000 / 50))
    expected = 15 / 205.6 + 128.75 / (0.90 * (50 * Z - 50 * (Z - S) * (ratio - 1)))
    agrees(GIRDER, "cope_interaction", expected, None, of="utilisation", rel=3e-3, actions=PUSH)
