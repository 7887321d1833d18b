"""What the plate lands on, worked by hand from J4, J10, K2 and the Manual's yield lines."""

import pytest

from tests.worked.sheet import FLANGE, GIRDER, HOLLOW, PULL, PUSH, WEB, agrees, run


def test_support_base_metal():
    """J4-4 at both fillets: W14X90 flange 0.710 in.: 2 x 0.710 x 11.5 x 0.75 x 0.6 x 65 = 477.7 kip."""
    agrees(FLANGE, "support_shear", 477.7, 318.4)


def test_support_base_metal_with_a_beam_opposite():
    """Both shears on one web: 20 + 25 = 45 kip, whether the geometry says so or only the forces do. A column's two
    flanges are not one metal: 20 kip.
    """
    shared = [{"name": "A", "V": "20 kip", "V_opposed": "25 kip"}]
    assert run(GIRDER, actions=shared)["checks"]["support_shear"]["demand"] == pytest.approx(45.0)
    assert run(GIRDER, geometry={"opposed": True}, actions=shared)["checks"]["support_shear"][
        "demand"
    ] == pytest.approx(45.0)
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
    """W21X62 web 0.400, detailing k 1-5/16 (published T 18-3/8 in.); plate from 2.0 to 13.5 in. below the top: c1 =
    0.6875, c2 = 6.1875 in.; mp = 50 x 0.16/4 = 2.0; 2.0 x 8 sqrt(18.375 (1/0.6875 + 1/6.1875)) = 87.2, phi 78.5 kip.
    """
    agrees(GIRDER, "support_web_bending", 78.5, 52.2, rel=0.002, actions=PULL)


def test_hollow_wall():
    """HSS8X8X3/8, wall 0.349: punching tp <= 62 x 0.349/36 = 0.601 in.; slenderness (8 - 3 x 0.349)/0.349 = 19.9
    <= 1.40 sqrt(29000/50) = 33.7. Yield lines: 50 x 0.349^2/(1 - 0.25/8)(2 x 11.5/8 + 4 sqrt(1 - 0.03125)) = 42.8 kip.
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
    """Pipe 8 STD (wall 0.300 in., D 8.63, A53B): K2 5.5 x 35 x 0.3^2 (1 + 0.25 x 11.5/8.63) = 23.1, phi 0.90: 20.8 kip;
    slenderness 0.11 x 29000/35 = 91.1.
    """
    pipe = HOLLOW | {"support": {"section": "Pipe8STD", "grade": "A53B"}}
    agrees(FLANGE, "wall_slenderness", 91.1, 91.1, **pipe, actions=PULL)
    agrees(FLANGE, "wall_plastification", 20.8, 13.84, rel=0.01, **pipe, actions=PULL)


def test_an_angle_carries_no_single_plate():
    found = run(GIRDER, support={"section": "L8X8X1", "grade": "A36"})
    assert found["status"] == "unchecked" and "L8X8X1 as a support" in found["reason"]


def test_a_pull_and_a_thrust_on_one_web_add_up():
    """Pulled 15 kip on one side and pressed 10 kip on the other, the web is pushed one way by 25 kip; pulled on
    both, the web takes the larger alone (the plates may not stand face to face).
    """
    web = {"framing": "beam_to_column_web", "geometry": {"opposed": True}}
    apart = run(FLANGE, actions=[{"name": "A", "N": "15 kip", "V_opposed": "0 kip", "N_opposed": "-10 kip"}], **web)[
        "checks"
    ]["support_web_bending"]
    alike = run(FLANGE, actions=[{"name": "A", "N": "15 kip", "V_opposed": "0 kip", "N_opposed": "15 kip"}], **web)[
        "checks"
    ]["support_web_bending"]
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


def test_a_slope_turns_the_forces_to_the_support():
    """30 deg, V = 30 kip alone: the support is pulled 30 sin 30 = 15 kip square to its face, and takes 30 cos 30 =
    25.98 kip along it. N = -15 tan(30 deg) x ... a beam that only stands (N = -V tan 30) pulls nothing."""
    slope = {"geometry": {"slope": "30 deg"}, "actions": [{"name": "A", "V": "30 kip"}]}
    agrees(FLANGE, "support_web_bending", 15.0, None, of="demand", **slope, **WEB)
    agrees(FLANGE, "support_web_yield", 15.0, None, of="demand", **slope)
    agrees(FLANGE, "wall_plastification", 15.0, None, of="demand", **slope, **HOLLOW)
    upright = slope | {"actions": [{"name": "A", "V": "25.98076 kip", "N": "-15 kip"}]}
    assert run(FLANGE, **upright)["checks"]["support_web_yield"]["demand"] == pytest.approx(0, abs=1e-4)
    down = slope | {"geometry": {"slope": "-30 deg"}}
    assert run(FLANGE, **down)["checks"]["support_web_crippling"]["demand"] == pytest.approx(
        15.0
    )  # it falls away, and presses


def test_thrusts_on_both_flanges():
    """J10-8: W14X90, h = 14.0 - 2 x 1.31 = 11.38 in.: 24 x 0.44^3 sqrt(29000 x 50)/11.38 = 216.3, phi 0.90: 194.7 kip;
    ASD 129.5; at the column's end half of it. The larger thrust counts; where one side pulls there is none."""
    pressed = [{"name": "A", "V": "5 kip", "N": "-40 kip", "V_opposed": "0 kip", "N_opposed": "-60 kip"}]
    agrees(FLANGE, "support_web_buckling", 194.7, 129.5, rel=2e-3, actions=pressed)
    agrees(FLANGE, "support_web_buckling", 60.0, None, of="demand", actions=pressed)
    agrees(FLANGE, "support_web_buckling", 97.35, 64.77, rel=2e-3, actions=pressed, geometry={"support_end": True})
    apart = [{"name": "A", "V": "5 kip", "N": "-40 kip", "V_opposed": "0 kip", "N_opposed": "60 kip"}]
    assert run(FLANGE, actions=apart)["checks"]["support_web_buckling"]["demand"] == 0


def test_moment_of_an_extended_plate_on_the_base_metal():
    """a = 9 in., V = 20 kip on W14X90's web (0.440): strength 0.75 x 0.6 x 65 x 2 x 0.440 x 11.5 = 296.0 kip; ASD
    197.3. 4 M/l = 4 x 180/11.5 = 62.6 kip across: sqrt(20^2 + 62.6^2) = 65.7 kip."""
    far = {"gap": "6-1/2 in", "plate_thickness": "1/2 in"}
    agrees(FLANGE, "support_weld_moment", 296.0, 197.3, far, actions=[{"name": "A", "V": "20 kip"}], **WEB)
    agrees(FLANGE, "support_weld_moment", 65.7, None, far, of="demand", actions=[{"name": "A", "V": "20 kip"}], **WEB)


def test_a_force_across_joins_the_moment_of_an_extended_plate_on_the_base_metal():
    """The same with N = 15 kip, pull or thrust: one side of the plate has it with the moment's 62.6 kip:
    sqrt(20^2 + (62.6 + 15)^2) = 80.1 kip."""
    far = {"gap": "6-1/2 in", "plate_thickness": "1/2 in"}
    for N in ("15 kip", "-15 kip"):
        both = [{"name": "A", "V": "20 kip", "N": N}]
        agrees(FLANGE, "support_weld_moment", 80.1, None, far, of="demand", actions=both, **WEB)


def test_which_face_of_a_hollow_rectangle():
    """HSS12X6X1/4 (0.233): on the short face B = 6: 50 x 0.233^2/(1 - 0.25/6)(2 x 11.5/6 + 4 sqrt(0.9583)) = 21.95 kip
    and (6 - 3 x 0.233)/0.233 = 22.8; on the long one B/t = 51.5 is over 35: a force across it is not judged."""
    narrow = HOLLOW | {"support": {"section": "HSS12X6X1/4", "grade": "A500C"}}
    pulled = [{"name": "A", "V": "20 kip", "N": "5 kip"}]
    agrees(FLANGE, "wall_plastification", 21.95, 14.63, rel=2e-3, **narrow, geometry={"face": "short"}, actions=pulled)
    agrees(FLANGE, "wall_slenderness", 22.75, None, of="demand", **narrow, geometry={"face": "short"}, actions=pulled)
    for geometry in ({"face": "long"}, {}):
        found = run(FLANGE, **narrow, geometry=geometry, actions=pulled)
        assert found["status"] == "unchecked" and "over 35" in found["reason"]
        assert run(FLANGE, **narrow, geometry=geometry)["checks"]["wall_slenderness"]["demand"] == pytest.approx(
            (12 - 0.699) / 0.233, rel=1e-3
        )


def test_a_hollow_column_under_its_own_load():
    """Qf: HSS8X8X3/8, A = 10.4 in^2, 260 kip of compression: U = 260/(50 x 10.4) = 0.5, Qf = sqrt(0.75) = 0.8660:
    6.0900/0.96875 (2.875 + 4 x 0.98425 x 0.8660) = 39.51 kip. ASD: Fc = 0.6 Fy: U = 0.8333, Qf = 0.5528: 31.76/1.50 =
    21.17 kip. In tension nothing is taken off."""
    loaded = [{"name": "A", "V": "20 kip", "N": "15 kip", "N_support": "-260 kip"}]
    agrees(FLANGE, "wall_plastification", 39.51, 21.17, rel=2e-3, **HOLLOW, actions=loaded)
    pulled = [{"name": "A", "V": "20 kip", "N": "15 kip", "N_support": "260 kip"}]
    agrees(FLANGE, "wall_plastification", 42.82, 28.55, rel=2e-3, **HOLLOW, actions=pulled)


def test_round_columns_within_the_limits_of_chapter_k():
    """HSS10.000X0.188, D/t = 10/0.174 = 57.5 > 50 (Table K2.1A): a pull across it is not judged, V alone is; with
    plates on both sides the limit is 40: Pipe 12 STD, 12.8/0.349 = 36.5 holds, HSS7.000X0.188 (40.2) does not."""
    thin = HOLLOW | {"support": {"section": "HSS10.000X0.188", "grade": "A500C"}}
    assert run(FLANGE, **thin, actions=PULL)["status"] == "unchecked"
    assert run(FLANGE, **thin, actions=[{"name": "A", "V": "20 kip"}])["status"] == "pass"
    both = [{"name": "A", "V": "20 kip", "N": "5 kip", "V_opposed": "0 kip", "N_opposed": "5 kip"}]
    seven = HOLLOW | {"support": {"section": "HSS7.000X0.188", "grade": "A500C"}}
    assert run(FLANGE, **seven, actions=both)["status"] == "unchecked"
    assert run(FLANGE, **seven, actions=[{"name": "A", "V": "20 kip", "N": "5 kip"}])["status"] != "unchecked"


def test_no_beam_is_skewed_at_a_round_column():
    """Whichever way it comes, its line goes through the axis."""
    round_one = HOLLOW | {"support": {"section": "HSS6.000X0.250", "grade": "A500B-round"}}
    assert run(FLANGE, **round_one)["status"] == "pass"
    found = run(FLANGE, **round_one, geometry={"skew": "-32 deg"})
    assert found["status"] == "unchecked" and "at a round column" in found["reason"]


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
    """Pipe 8 STD, A = 7.85 in^2, A53B: 82.4 kip of compression: U = 82.4/(35 x 7.85) = 0.3, Qf = 1 - 0.3 x 0.3 x 1.3 =
    0.883: 20.8 x 0.883 = 18.4 kip; ASD: U = 0.5, Qf = 0.775: 23.1 x 0.775/1.67 = 10.73 kip."""
    pipe = HOLLOW | {"support": {"section": "Pipe8STD", "grade": "A53B"}}
    loaded = [{"name": "A", "V": "20 kip", "N": "15 kip", "N_support": "-82.4 kip"}]
    agrees(FLANGE, "wall_plastification", 18.4, 10.73, rel=0.01, **pipe, actions=loaded)


def test_a_skew_takes_its_part_of_a_force_across():
    """N = 15 kip at 20 deg: 15 cos 20 = 14.10 kip pull a column's web, the rest goes along its face; a hollow wall
    takes all 15."""
    skewed = {"geometry": {"skew": "20 deg"}, "actions": PULL}
    agrees(FLANGE, "support_web_bending", 14.10, None, of="demand", **skewed, **WEB)
    agrees(FLANGE, "wall_plastification", 15.0, None, of="demand", **skewed, **HOLLOW)
    agrees(FLANGE, "support_shear", 25.0, None, of="demand", **skewed)  # sqrt(20^2 + 15^2), whichever way 15 is split


def test_a_plate_through_the_column():
    """Welded to both walls: twice the 42.82 kip of one (28.55); no wall is punched or turned."""
    agrees(FLANGE, "wall_plastification", 85.64, 57.1, {"through_plate": "yes"}, rel=2e-3, **HOLLOW, actions=PULL)
    found = run(FLANGE, {"through_plate": "yes", "plate_thickness": "1/2 in"}, **HOLLOW)
    assert "wall_punching" not in found["checks"] and "wall_slenderness" not in found["checks"]
