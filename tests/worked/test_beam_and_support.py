"""The beam's web, its copes, and the support, worked by hand from J4, G2, J10, K1 and the Manual's Part 9."""

import math

import pytest

from tests.worked.sheet import FLANGE, GIRDER, HOLLOW, PULL, PUSH, WEB, agrees, run

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
    """W12X14: h/tw = 54.3 > 2.24 sqrt(E/Fy) = 53.9: phi = 0.90 with Cv1 = 1: 0.90 x 0.6 x 50 x 11.9 x 0.200 = 64.3 kip."""
    shallow = {"supported": {"section": "W12X14", "grade": "A992"}, "actions": [{"name": "A", "V": "10 kip"}]}
    agrees(FLANGE, "web_shear_yield", 64.26, 42.75, {"rows": 2}, rel=2e-3, **shallow)


def test_web_shear_rupture():
    """J4-4: Anv = 0.380 (16.3 - 4 x 7/8) = 4.864; 0.75 x 0.6 x 65 x 4.864 = 142.3 kip."""
    agrees(FLANGE, "web_shear_rupture", 142.3, 94.85)


def test_web_axial():
    """Strip as deep as the plate, 11.5 in.: 0.90 x 50 x 0.380 x 11.5 = 196.7; net 0.75 x 65 x 0.380 x 8.0 = 148.2 kip."""
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
    Ant = 0.355 (1.75 - 1/4 - 0.4375) = 0.3772: 0.6 x 65 x 2.552 = 99.5 < 109.2; 99.5 + 65 x 0.3772 = 124.0, phi 93.0 kip.

    Pulled up instead (uplift), the whole flange is in the way: no block.
    """
    agrees(GIRDER, "web_block_shear", 93.02, 62.01)
    assert run(GIRDER, actions=[{"name": "A", "V": "-30 kip"}])["checks"]["web_block_shear"]["utilisation"] == 0


def test_coped_block_shear_under_both():
    """Axial, edge 1.50 in.: the U: Agv = 2 x 0.355 x 1.50 = 1.065: 31.95 > 0.6 x 65 x 2 x 0.355 x 1.0625 = 29.42;
    Ant = 0.355 x 6.375 = 2.263: 29.42 + 147.1 = 176.5, phi 132.4. The L: 14.7 + 65 x 0.355 (10.25 - 3.0625) = 180.6, phi 135.4 kip.
    So 132.4; sqrt((20/93.02)^2 + (15/132.4)^2) = 0.2430.
    """
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
    """c = 30 in.: f = 1 + 30/18 = 2.667, k = 2.2 x 16/30 = 1.173, k1 = 3.129; lambda_p = 20.24, lambda 45.1 > 2 lambda_p:
    Fcr = 0.903 x 29000 x 3.129/45.07^2 = 40.3 ksi; 0.90 x 40.3 x 23.4 = 849 kip*in.
    """
    agrees(GIRDER, "cope_buckling", 849, 565, {"cope_length": "30 in"}, rel=0.006)


def test_cope_buckling_at_two_copes():
    """W18X50, 2 in. off both flanges over 4-1/4 in.: ho = 14 in.; Cb = (3 + ln(4.25/18))(1 - 2/18) = 1.384 < 1.84;
    Lb ho/tw^2 = 4.25 x 14/0.126 = 472: between 46.4 and 1102: 1.84 (1.52 - 0.274 x 472 x 50/29000) My = 2.386 My > 1.5 My:
    Mp = 50 x 0.355 x 14^2/4 = 869.8, phi 782.8 kip*in.
    """
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


def test_support_base_metal():
    """J4-4 at both fillets: W14X90 flange 0.710 in.: 2 x 0.710 x 11.5 x 0.75 x 0.6 x 65 = 477.7 kip."""
    agrees(FLANGE, "support_shear", 477.7, 318.4)


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
    agrees(FLANGE, "support_web_yield", 397.1, 264.7, actions=PULL)
    agrees(FLANGE, "support_web_crippling", 391.3, 260.9, actions=PUSH)


def test_column_web_pulled_out_of_plane():
    """J10.10 by yield lines: mp = 50 x 0.44^2/4 = 2.42 kip; T = 14.0 - 2 x 2.0 = 10 in.;
    2.42 (8 x 11.5/10 + 4 pi) = 52.7, phi 0.90: 47.4 kip.
    """
    agrees(FLANGE, "support_web_bending", 47.4, 31.54, rel=2e-3, actions=PULL, **WEB)


def test_girder_web_pulled_out_of_plane():
    """W21X62 web 0.400, detailing k 1-5/16 (published T 18-3/8 in.); plate from 2.0 to 13.5 in. below the top: c1 = 0.6875,
    c2 = 6.1875 in.; mp = 50 x 0.16/4 = 2.0; 2.0 x 8 sqrt(18.375 (1/0.6875 + 1/6.1875)) = 87.2, phi 78.5 kip.
    """
    agrees(GIRDER, "support_web_bending", 78.5, 52.2, rel=0.002, actions=PULL)


def test_hollow_wall():
    """HSS8X8X3/8, wall 0.349: punching tp <= 62 x 0.349/36 = 0.601 in.; slenderness (8 - 3 x 0.349)/0.349 = 19.9
    <= 1.40 sqrt(29000/50) = 33.7. K1: 50 x 0.349^2/(1 - 0.25/8)(2 x 11.5/8 + 4 sqrt(1 - 0.03125)) = 42.8 kip.
    """
    agrees(FLANGE, "wall_punching", 0.601, 0.601, **HOLLOW, actions=PULL)
    agrees(FLANGE, "wall_slenderness", 33.7, 33.7, **HOLLOW, actions=PULL)
    agrees(FLANGE, "wall_slenderness", 19.92, None, of="demand", **HOLLOW, actions=PULL)
    agrees(FLANGE, "wall_plastification", 42.82, 28.55, rel=2e-3, **HOLLOW, actions=PULL)


def test_plate_too_thick_for_the_wall():
    """HSS8X8X1/8 (0.116 in.): tp <= 62 x 0.116/36 = 0.1998 in. < 1/4 in.: fails."""
    thin = HOLLOW | {"support": {"section": "HSS8X8X1/8", "grade": "A500C"}}
    assert run(FLANGE, **thin)["status"] == "fail"


def test_round_hollow_wall():
    """Pipe 8 STD (wall 0.300 in., D 8.63, A53B): K1 5.5 x 35 x 0.3^2 (1 + 0.25 x 11.5/8.63) = 23.1, phi 0.90: 20.8 kip;
    slenderness 0.11 x 29000/35 = 91.1.
    """
    pipe = HOLLOW | {"support": {"section": "Pipe8STD", "grade": "A53B"}}
    agrees(FLANGE, "wall_slenderness", 91.1, 91.1, **pipe, actions=PULL)
    agrees(FLANGE, "wall_plastification", 20.8, 13.84, rel=0.01, **pipe, actions=PULL)


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
    agrees(FLANGE, "support_web_yield", 325.1, 216.7, actions=PULL, **top)
    agrees(FLANGE, "support_web_crippling", 222.6, 148.4, actions=PUSH, **top)
    agrees(FLANGE, "support_web_bending", 33.7, 22.42, rel=2e-3, actions=PULL, **top, **WEB)


def test_thrust_on_a_web_between_two_copes():
    """J4.4 with E3 over the cope, K = 1.2: W18X50, 2 in. off both flanges over 10 in., web 0.355 x 14 = 4.97 in^2:
    K L/r = 1.2 x 10/(0.355/3.4641) = 117.1; Fe = 286219/117.1^2 = 20.87 ksi; Fy/Fe = 2.396 > 2.25: 0.877 x 20.87 = 18.30 ksi;
    90.97 kip, phi 0.90: 81.9 kip; ASD /1.67 = 54.5 kip.
    """
    both = {"cope_length": "10 in", "cope_depth": "2 in", "bottom_cope_length": "10 in", "bottom_cope_depth": "2 in"}
    agrees(GIRDER, "cope_axial_buckling", 81.9, 54.5, both, rel=2e-3, actions=PUSH)


def test_thrust_on_a_long_coped_web_fails():
    """Copes 30 in. long and 2 in. deep on W16X31 (0.275 in.): K L/r = 36/0.0794 = 453; 0.877 x 1.393 = 1.222 ksi over
    0.275 x 11.9 = 3.27 in^2: phi 3.6 kip under a thrust of 20.
    """
    long_ = {"cope_length": "30 in", "cope_depth": "2 in", "bottom_cope_length": "30 in", "bottom_cope_depth": "2 in", "rows": 3}
    beam = {"supported": {"section": "W16X31", "grade": "A992"}, "support": {"section": "W16X77", "grade": "A992"}}
    found = run(GIRDER, long_, **beam, actions=[{"name": "A", "V": "1 kip", "N": "-20 kip"}])
    assert found["checks"]["cope_axial_buckling"]["strength"] == pytest.approx(3.6, rel=0.01)
    assert found["status"] == "fail"


def test_holes_within_a_cope():
    """Cope 12 in. long: at the bolt line, x = 0.5 + 1.75 = 2.25 in., holes 7/8 in. at 1.25, 4.25, 7.25 and 10.25 in. below the
    cut edge are taken out of the tee; at the cope's end, x = 12.5 in., Snet = 23.4. The end governs: M = 40 x 12.5 = 500 kip*in.

    With the cope ending at the bolt line (1-3/4 in.), the holes count there: by moments of areas about the cut edge.
    """
    agrees(GIRDER, "cope_flexural_rupture", 500.0, None, {"cope_length": "12 in"}, of="demand")
    web = HO - TF
    parts = [(TW, 0.0, web), (BF, web, HO), *((-TW, y - 7 / 16, y + 7 / 16) for y in (1.25, 4.25, 7.25, 10.25))]
    area = sum(b * (y1 - y0) for b, y0, y1 in parts)
    y = sum(b * (y1**2 - y0**2) / 2 for b, y0, y1 in parts) / area
    S = (sum(b * (y1**3 - y0**3) / 3 for b, y0, y1 in parts) - area * y**2) / y
    agrees(GIRDER, "cope_flexural_rupture", 0.75 * 65 * S, 0.50 * 65 * S, {"cope_length": "1-3/4 in"})


def test_a_slope_turns_the_forces_to_the_support():
    """30 deg, V = 30 kip alone: the support is pulled 30 sin 30 = 15 kip square to its face, and takes 30 cos 30 = 25.98 kip
    along it. N = -15 tan(30 deg) x ... a beam that only stands (N = -V tan 30) pulls nothing.
    """
    slope = {"geometry": {"slope": "30 deg"}, "actions": [{"name": "A", "V": "30 kip"}]}
    agrees(FLANGE, "support_web_bending", 15.0, None, of="demand", **slope, **WEB)
    agrees(FLANGE, "support_web_yield", 15.0, None, of="demand", **slope)
    agrees(FLANGE, "wall_plastification", 15.0, None, of="demand", **slope, **HOLLOW)
    upright = slope | {"actions": [{"name": "A", "V": "25.98076 kip", "N": "-15 kip"}]}
    assert run(FLANGE, **upright)["checks"]["support_web_yield"]["demand"] == pytest.approx(0, abs=1e-4)
    down = slope | {"geometry": {"slope": "-30 deg"}}
    assert run(FLANGE, **down)["checks"]["support_web_crippling"]["demand"] == pytest.approx(15.0)  # it falls away, and presses


def test_thrusts_on_both_flanges():
    """J10-8: W14X90, h = 14.0 - 2 x 1.31 = 11.38 in.: 24 x 0.44^3 sqrt(29000 x 50)/11.38 = 216.3, phi 0.90: 194.7 kip; ASD 129.5;
    at the column's end half of it. The larger thrust counts; where one side pulls there is none.
    """
    pressed = [{"name": "A", "V": "5 kip", "N": "-40 kip", "N_opposed": "-60 kip"}]
    agrees(FLANGE, "support_web_buckling", 194.7, 129.5, rel=2e-3, actions=pressed)
    agrees(FLANGE, "support_web_buckling", 60.0, None, of="demand", actions=pressed)
    agrees(FLANGE, "support_web_buckling", 97.35, 64.77, rel=2e-3, actions=pressed, geometry={"support_end": True})
    apart = [{"name": "A", "V": "5 kip", "N": "-40 kip", "N_opposed": "60 kip"}]
    assert run(FLANGE, actions=apart)["checks"]["support_web_buckling"]["demand"] == 0


def test_moment_of_an_extended_plate_on_the_base_metal():
    """a = 9 in., V = 20 kip on W14X90's web (0.440): strength 0.75 x 0.6 x 65 x 2 x 0.440 x 11.5 = 296.0 kip; ASD 197.3.
    4 M/l = 4 x 180/11.5 = 62.6 kip across: sqrt(20^2 + 62.6^2) = 65.7 kip.
    """
    far = {"gap": "6-1/2 in", "plate_thickness": "1/2 in"}
    agrees(FLANGE, "support_weld_moment", 296.0, 197.3, far, actions=[{"name": "A", "V": "20 kip"}], **WEB)
    agrees(FLANGE, "support_weld_moment", 65.7, None, far, of="demand", actions=[{"name": "A", "V": "20 kip"}], **WEB)


def test_which_face_of_a_hollow_rectangle():
    """HSS12X6X1/4 (0.233): on the short face B = 6: 50 x 0.233^2/(1 - 0.25/6)(2 x 11.5/6 + 4 sqrt(0.9583)) = 21.95 kip and
    (6 - 3 x 0.233)/0.233 = 22.8; on the long one B/t = 51.5 is over 35 (Table K1.2A): a force across it is not judged.
    """
    narrow = HOLLOW | {"support": {"section": "HSS12X6X1/4", "grade": "A500C"}}
    pulled = [{"name": "A", "V": "20 kip", "N": "5 kip"}]
    agrees(FLANGE, "wall_plastification", 21.95, 14.63, rel=2e-3, **narrow, geometry={"face": "short"}, actions=pulled)
    agrees(FLANGE, "wall_slenderness", 22.75, None, of="demand", **narrow, geometry={"face": "short"}, actions=pulled)
    for geometry in ({"face": "long"}, {}):
        found = run(FLANGE, **narrow, geometry=geometry, actions=pulled)
        assert found["status"] == "unchecked" and "over 35" in found["reason"]
        assert run(FLANGE, **narrow, geometry=geometry)["checks"]["wall_slenderness"]["demand"] == pytest.approx((12 - 0.699) / 0.233, rel=1e-3)


def test_a_hollow_column_under_its_own_load():
    """Qf: HSS8X8X3/8, A = 10.4 in^2, 260 kip of compression: U = 260/(50 x 10.4) = 0.5, Qf = sqrt(0.75) = 0.8660:
    6.0900/0.96875 (2.875 + 4 x 0.98425 x 0.8660) = 39.51 kip. ASD: Fc = 0.6 Fy: U = 0.8333, Qf = 0.5528: 31.76/1.50 = 21.17 kip.
    In tension nothing is taken off.
    """
    loaded = [{"name": "A", "V": "20 kip", "N": "15 kip", "N_support": "-260 kip"}]
    agrees(FLANGE, "wall_plastification", 39.51, 21.17, rel=2e-3, **HOLLOW, actions=loaded)
    pulled = [{"name": "A", "V": "20 kip", "N": "15 kip", "N_support": "260 kip"}]
    agrees(FLANGE, "wall_plastification", 42.82, 28.55, rel=2e-3, **HOLLOW, actions=pulled)


def test_round_columns_within_the_limits_of_chapter_k():
    """HSS10.000X0.188, D/t = 10/0.174 = 57.5 > 50 (Table K1.1A): a pull across it is not judged, V alone is; with plates on both
    sides the limit is 40: Pipe 12 STD, 12.8/0.349 = 36.5 holds, HSS7.000X0.188 (40.2) does not.
    """
    thin = HOLLOW | {"support": {"section": "HSS10.000X0.188", "grade": "A500C"}}
    assert run(FLANGE, **thin, actions=PULL)["status"] == "unchecked"
    assert run(FLANGE, **thin, actions=[{"name": "A", "V": "20 kip"}])["status"] == "pass"
    both = [{"name": "A", "V": "20 kip", "N": "5 kip", "N_opposed": "5 kip"}]
    seven = HOLLOW | {"support": {"section": "HSS7.000X0.188", "grade": "A500C"}}
    assert run(FLANGE, **seven, actions=both)["status"] == "unchecked"
    assert run(FLANGE, **seven, actions=[{"name": "A", "V": "20 kip", "N": "5 kip"}])["status"] != "unchecked"


def test_actions_that_a_single_plate_does_not_carry():
    """W16X50: M up to 0.1 % of Fy Sx = 0.001 x 50 x 81.0 = 4.05 kip*in; Vw up to 2 kip; Mw and T up to 1 % of Fy Sy = 5.25 kip*in."""
    for check, amount in (("uncarried_M", 4.05), ("uncarried_Mw", 5.25), ("uncarried_T", 5.25), ("uncarried_Vw", 2.0)):
        agrees(FLANGE, check, amount, amount, rel=0.01)
    found = run(FLANGE, actions=[{"name": "A", "V": "20 kip", "M": "20 kip*ft"}])
    assert found["reason"].startswith("M of 240 kip*in in A, which a single plate does not carry")


def test_a_beam_opposite_without_forces_is_unchecked():
    for base, more in ((GIRDER, {}), (FLANGE, WEB), (FLANGE, {})):
        found = run(base, geometry={"opposed": True}, **more)
        assert found["status"] == "unchecked" and "beam opposite has no forces" in found["reason"]
        known = [{"name": "A", "V": "20 kip", "V_opposed": "0 kip"}]
        assert run(base, geometry={"opposed": True}, actions=known, **more)["status"] != "unchecked"
    one_missing = [{"name": "A", "V": "20 kip", "V_opposed": "20 kip"}, {"name": "B", "V": "20 kip"}]
    assert run(GIRDER, actions=one_missing)["status"] == "unchecked"


def test_supports_that_end_at_the_joint():
    """Half of the yield lines are left: girder web 87.2/2 = 43.6, phi 39.2 kip; hollow wall 42.82/2 = 21.41 kip."""
    top = {"geometry": {"support_end": True}}
    agrees(GIRDER, "support_web_bending", 39.25, 26.12, rel=2e-3, actions=PULL, **top)
    agrees(FLANGE, "wall_plastification", 21.41, 14.27, rel=2e-3, **HOLLOW, actions=PULL, **top)


def test_a_round_column_under_its_own_load():
    """Pipe 8 STD, A = 7.85 in^2, A53B: 82.4 kip of compression: U = 82.4/(35 x 7.85) = 0.3, Qf = 1 - 0.3 x 0.3 x 1.3 = 0.883:
    20.8 x 0.883 = 18.4 kip; ASD: U = 0.5, Qf = 0.775: 23.1 x 0.775/1.67 = 10.73 kip.
    """
    pipe = HOLLOW | {"support": {"section": "Pipe8STD", "grade": "A53B"}}
    loaded = [{"name": "A", "V": "20 kip", "N": "15 kip", "N_support": "-82.4 kip"}]
    agrees(FLANGE, "wall_plastification", 18.4, 10.73, rel=0.01, **pipe, actions=loaded)


def test_a_skew_takes_its_part_of_a_force_across():
    """N = 15 kip at 20 deg: 15 cos 20 = 14.10 kip pull a column's web, the rest goes along its face; a hollow wall takes all 15."""
    skewed = {"geometry": {"skew": "20 deg"}, "actions": PULL}
    agrees(FLANGE, "support_web_bending", 14.10, None, of="demand", **skewed, **WEB)
    agrees(FLANGE, "wall_plastification", 15.0, None, of="demand", **skewed, **HOLLOW)
    agrees(FLANGE, "support_shear", 25.0, None, of="demand", **skewed)  # sqrt(20^2 + 15^2), whichever way 15 is split


def test_a_thrust_beside_one_cope():
    """Cut 2 in. off the top over 10 in., the flange below not counted on: web 18.0 - 2.0 - 0.570 = 15.43 in. x 0.355 = 5.478 in^2 at
    18.30 ksi (as between two copes) = 100.2 kip, phi 90.2; ASD 60.0. Coped below only, the same.
    """
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
