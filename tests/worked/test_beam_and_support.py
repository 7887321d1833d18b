"""The beam's web, its copes, and the support, worked by hand from J4, G2, J10, K1 and the Manual's Part 9."""

import math

import pytest

from tests.worked.sheet import FLANGE, GIRDER, run, strength

PULL = [{"name": "A", "V": "20 kip", "N": "15 kip"}]
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
    assert strength(FLANGE, "web_shear_yield") == pytest.approx(185.8, rel=1e-3)
    assert strength(FLANGE, "web_shear_yield", method="ASD") == pytest.approx(123.9, rel=1e-3)


def test_web_shear_of_a_slender_web():
    """W12X14: h/tw = 54.3 > 2.24 sqrt(E/Fy) = 53.9: phi = 0.90 with Cv1 = 1: 0.90 x 0.6 x 50 x 11.9 x 0.200 = 64.3 kip."""
    shallow = {"supported": {"section": "W12X14", "grade": "A992"}, "actions": [{"name": "A", "V": "10 kip"}]}
    assert strength(FLANGE, "web_shear_yield", {"rows": 2}, **shallow) == pytest.approx(64.26, rel=2e-3)


def test_web_shear_rupture():
    """J4-4: Anv = 0.380 (16.3 - 4 x 7/8) = 4.864; 0.75 x 0.6 x 65 x 4.864 = 142.3 kip."""
    assert strength(FLANGE, "web_shear_rupture") == pytest.approx(142.3, rel=1e-3)


def test_web_axial():
    """Strip as deep as the plate, 11.5 in.: 0.90 x 50 x 0.380 x 11.5 = 196.7; net 0.75 x 65 x 0.380 x 8.0 = 148.2 kip."""
    assert strength(FLANGE, "web_axial", actions=PULL) == pytest.approx(148.2, rel=1e-3)


def test_web_axial_block_shear():
    """Uncoped, the U, the edge 2-1/2 in. less 1/4 in. that the mill may have cut short:
    Agv = 2 x 0.380 x 2.25 = 1.71, Anv = 2 x 0.380 (2.25 - 0.4375) = 1.3775; Ant = 0.380 (9 - 2.625) = 2.4225:
    0.6 x 50 x 1.71 = 51.3 < 0.6 x 65 x 1.3775 = 53.7; 51.3 + 157.5 = 208.8, phi 156.6 kip.
    """
    assert strength(FLANGE, "web_axial_block_shear", actions=PULL) == pytest.approx(156.6, rel=1e-3)


def test_coped_web_shear():
    """J4-3: 0.60 x 50 x 0.355 x 16 = 170.4 kip. J4-4: 0.75 x 0.60 x 65 x 0.355 (16 - 3.5) = 129.8 kip."""
    assert strength(GIRDER, "web_shear_yield") == pytest.approx(170.4, rel=1e-3)
    assert strength(GIRDER, "web_shear_rupture") == pytest.approx(129.8, rel=1e-3)


def test_coped_block_shear():
    """From the cope 1-1/4 in. above the first bolt: run 10.25 in., Agv = 3.639, Anv = 0.355 (10.25 - 3.0625) = 2.552;
    Ant = 0.355 (1.75 - 1/4 - 0.4375) = 0.3772: 0.6 x 65 x 2.552 = 99.5 < 109.2; 99.5 + 65 x 0.3772 = 124.0, phi 93.0 kip.

    Pulled up instead (uplift), the whole flange is in the way: no block.
    """
    assert strength(GIRDER, "web_block_shear") == pytest.approx(93.02, rel=1e-3)
    assert run(GIRDER, actions=[{"name": "A", "V": "-30 kip"}])["checks"]["web_block_shear"]["utilisation"] == 0


def test_coped_block_shear_under_both():
    """Axial, edge 1.50 in.: the U: Agv = 2 x 0.355 x 1.50 = 1.065: 31.95 > 0.6 x 65 x 2 x 0.355 x 1.0625 = 29.42;
    Ant = 0.355 x 6.375 = 2.263: 29.42 + 147.1 = 176.5, phi 132.4. The L: 14.7 + 65 x 0.355 (10.25 - 3.0625) = 180.6, phi 135.4 kip.
    So 132.4; sqrt((20/93.02)^2 + (15/132.4)^2) = 0.2430.
    """
    found = run(GIRDER, actions=PULL)["checks"]["web_block_shear_interaction"]
    assert found["utilisation"] == pytest.approx(0.2430, rel=2e-3)


def test_cope_flexure():
    """phi Fy Z of the tee; Mr = V (1/2 + 4-1/4) = 40 x 4.75 = 190 kip*in."""
    found = run(GIRDER)["checks"]["cope_flexure"]
    assert found["demand"] == pytest.approx(190.0)
    assert found["strength"] == pytest.approx(0.90 * 50 * tee()[1], rel=1e-3)


def test_cope_flexural_rupture():
    """Eq. 9-4: phi Fu Snet = 0.75 x 65 x 23.4 = 1141 kip*in (Table 9-2's Snet)."""
    assert strength(GIRDER, "cope_flexural_rupture") == pytest.approx(1141, rel=0.005)


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
    assert strength(GIRDER, "cope_buckling") == pytest.approx(expected, rel=1e-3)


def test_cope_buckling_at_a_long_cope():
    """c = 30 in.: f = 1 + 30/18 = 2.667, k = 2.2 x 16/30 = 1.173, k1 = 3.129; lambda_p = 20.24, lambda 45.1 > 2 lambda_p:
    Fcr = 0.903 x 29000 x 3.129/45.07^2 = 40.3 ksi; 0.90 x 40.3 x 23.4 = 849 kip*in.
    """
    assert strength(GIRDER, "cope_buckling", {"cope_length": "30 in"}) == pytest.approx(849, rel=0.006)


def test_cope_buckling_at_two_copes():
    """W18X50, 2 in. off both flanges over 4-1/4 in.: ho = 14 in.; Cb = (3 + ln(4.25/18))(1 - 2/18) = 1.384 < 1.84;
    Lb ho/tw^2 = 4.25 x 14/0.126 = 472: between 46.4 and 1102: 1.84 (1.52 - 0.274 x 472 x 50/29000) My = 2.386 My > 1.5 My:
    Mp = 50 x 0.355 x 14^2/4 = 869.8, phi 782.8 kip*in.
    """
    both = {"bottom_cope_length": "4-1/4 in", "bottom_cope_depth": "2 in"}
    assert strength(GIRDER, "cope_buckling", both) == pytest.approx(782.8, rel=1e-3)
    assert strength(GIRDER, "cope_flexural_rupture", both) == pytest.approx(0.75 * 65 * 0.355 * 14**2 / 6, rel=1e-3)


def test_cope_with_axial_force():
    """N/Nc + M/Mc: area 7.5 x 0.57 + 0.355 x 15.43 = 9.753 in^2, Nc = 0.90 x 50 x 9.753 = 438.9 kip; bolts' centre at
    3.25 + 4.5 = 7.75 in., the section's at 2 + 8 = 10 in.: eN = 2.25 in.; M = 20 x 4.75 + 15 x 2.25 = 128.75 kip*in.
    """
    S, Z = tee()
    k1 = 2 * 4.25 / 18.0 * 2.2 * (16 / 4.25) ** 1.65
    ratio = (16 / 0.355) / (0.475 * math.sqrt(k1 * 29000 / 50))
    Mc = 0.90 * (50 * Z - 50 * (Z - S) * (ratio - 1))
    expected = 15 / 438.9 + 128.75 / Mc
    assert run(GIRDER, actions=PULL)["checks"]["cope_interaction"]["utilisation"] == pytest.approx(expected, rel=2e-3)


@pytest.mark.parametrize(("depth", "length"), [("10 in", "4-1/4 in"), ("2 in", "40 in")])
def test_copes_outside_the_procedure_are_unchecked(depth, length):
    found = run(GIRDER, {"cope_depth": depth, "cope_length": length, "first_bolt": "11-1/2 in", "rows": 2})
    assert found["status"] == "unchecked"
    assert "cope" in found["reason"]


def test_support_base_metal():
    """J4-4 at both fillets: W14X90 flange 0.710 in.: 2 x 0.710 x 11.5 x 0.75 x 0.6 x 65 = 477.7 kip."""
    assert strength(FLANGE, "support_shear") == pytest.approx(477.7, rel=1e-3)


def test_support_base_metal_with_a_beam_opposite():
    """Both shears on one web: 20 + 25 = 45 kip, whether the geometry says so or only the forces do. A column's two
    flanges are not one metal: 20 kip.
    """
    shared = [{"name": "A", "V": "20 kip", "V_opposed": "25 kip"}]
    assert run(GIRDER, actions=shared)["checks"]["support_shear"]["demand"] == pytest.approx(45.0)
    assert run(GIRDER, geometry={"opposed": True}, actions=shared)["checks"]["support_shear"]["demand"] == pytest.approx(45.0)
    assert run(FLANGE, actions=shared)["checks"]["support_shear"]["demand"] == pytest.approx(20.0)


def test_column_web_behind_the_flange():
    """J10-2: W14X90, k 1.31, tw 0.440: 50 x 0.440 (5 x 1.31 + 11.5) = 397.1 kip, phi = 1.00.
    J10-4: 0.80 x 0.44^2 (1 + 3 (11.5/14.0)(0.440/0.710)^1.5) sqrt(29000 x 50 x 0.710/0.440) = 521.7, phi 391.3 kip.
    """
    assert strength(FLANGE, "support_web_yield", actions=PULL) == pytest.approx(397.1, rel=1e-3)
    push = [{"name": "A", "V": "20 kip", "N": "-15 kip"}]
    assert strength(FLANGE, "support_web_crippling", actions=push) == pytest.approx(391.3, rel=1e-3)


def test_column_web_pulled_out_of_plane():
    """J10.10 by yield lines: mp = 50 x 0.44^2/4 = 2.42 kip; T = 14.0 - 2 x 2.0 = 10 in.;
    2.42 (8 x 11.5/10 + 4 pi) = 52.7, phi 0.90: 47.4 kip.
    """
    assert strength(FLANGE, "support_web_bending", framing="beam_to_column_web", actions=PULL) == pytest.approx(47.4, rel=2e-3)


def test_girder_web_pulled_out_of_plane():
    """W21X62 web 0.400, detailing k 1-5/16 (published T 18-3/8 in.); plate from 2.0 to 13.5 in. below the top: c1 = 0.6875,
    c2 = 6.1875 in.; mp = 50 x 0.16/4 = 2.0; 2.0 x 8 sqrt(18.375 (1/0.6875 + 1/6.1875)) = 87.2, phi 78.5 kip.
    """
    assert strength(GIRDER, "support_web_bending", actions=PULL) == pytest.approx(78.5, rel=0.002)


HOLLOW = {"framing": "beam_to_hollow_column", "support": {"section": "HSS8X8X3/8", "grade": "A500C"}}


def test_hollow_wall():
    """HSS8X8X3/8, wall 0.349: punching tp <= 62 x 0.349/36 = 0.601 in.; slenderness (8 - 3 x 0.349)/0.349 = 19.9
    <= 1.40 sqrt(29000/50) = 33.7. K1: 50 x 0.349^2/(1 - 0.25/8)(2 x 11.5/8 + 4 sqrt(1 - 0.03125)) = 42.8 kip.
    """
    found = run(FLANGE, **HOLLOW, actions=PULL)["checks"]
    assert found["wall_punching"]["strength"] == pytest.approx(0.601, rel=1e-3)
    assert found["wall_slenderness"]["strength"] == pytest.approx(33.7, rel=1e-3)
    assert found["wall_slenderness"]["demand"] == pytest.approx(19.92, rel=1e-3)
    assert found["wall_plastification"]["strength"] == pytest.approx(42.82, rel=2e-3)


def test_plate_too_thick_for_the_wall():
    """HSS8X8X1/8 (0.116 in.): tp <= 62 x 0.116/36 = 0.1998 in. < 1/4 in.: fails."""
    thin = HOLLOW | {"support": {"section": "HSS8X8X1/8", "grade": "A500C"}}
    assert run(FLANGE, **thin)["status"] == "fail"


def test_round_hollow_wall():
    """Pipe 8 STD (wall 0.300 in., D 8.63, A53B): K1 5.5 x 35 x 0.3^2 (1 + 0.25 x 11.5/8.63) = 23.1, phi 0.90: 20.8 kip;
    slenderness 0.11 x 29000/35 = 91.1.
    """
    found = run(FLANGE, framing="beam_to_hollow_column", support={"section": "Pipe8STD", "grade": "A53B"}, actions=PULL)["checks"]
    assert found["wall_slenderness"]["strength"] == pytest.approx(91.1, rel=1e-3)
    assert found["wall_plastification"]["strength"] == pytest.approx(20.8, rel=0.01)


def test_holes_that_leave_no_web_fail():
    """Twelve 1 in. bolts in a 4 in. deep web: the net area is below nothing; that is a fail, never a low utilisation."""
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


def test_an_angle_carries_no_single_plate():
    found = run(GIRDER, support={"section": "L8X8X1", "grade": "A36"})
    assert found["status"] == "unchecked" and "L8X8X1 as a support" in found["reason"]


def test_a_pull_and_a_thrust_on_one_web_add_up():
    """Pulled 15 kip on one side and pressed 10 kip on the other, the web is pushed one way by 25 kip; pulled on
    both, the web takes the larger alone (the plates may not stand face to face).
    """
    web = {"framing": "beam_to_column_web", "geometry": {"opposed": True}}
    apart = run(FLANGE, actions=[{"name": "A", "N": "15 kip", "N_opposed": "-10 kip"}], **web)["checks"]["support_web_bending"]
    alike = run(FLANGE, actions=[{"name": "A", "N": "15 kip", "N_opposed": "15 kip"}], **web)["checks"]["support_web_bending"]
    assert apart["demand"] == pytest.approx(25.0)
    assert alike["demand"] == pytest.approx(15.0)


def test_column_that_ends_at_the_joint():
    """W14X90 at its top: J10-3: 50 x 0.440 (2.5 x 1.31 + 11.5) = 325.1 kip. J10-5b: lb/d = 0.821:
    0.40 x 0.44^2 (1 + (3.286 - 0.2)(0.440/0.710)^1.5) sqrt(29000 x 50 x 0.710/0.440) = 296.8, phi 0.75: 222.6 kip.
    Its web, by one fan: 2.42 (9.2 + 2 pi) = 37.5, phi 0.90: 33.7 kip.
    """
    top = {"geometry": {"support_end": True}}
    push = [{"name": "A", "V": "20 kip", "N": "-15 kip"}]
    assert strength(FLANGE, "support_web_yield", actions=PULL, **top) == pytest.approx(325.1, rel=1e-3)
    assert strength(FLANGE, "support_web_crippling", actions=push, **top) == pytest.approx(222.6, rel=1e-3)
    assert strength(FLANGE, "support_web_bending", framing="beam_to_column_web", actions=PULL, **top) == pytest.approx(33.7, rel=2e-3)
