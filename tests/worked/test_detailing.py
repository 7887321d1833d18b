"""Each detailing rule, once held and once broken, with the number it is judged by (inches)."""

import pytest

from tests.worked.sheet import FLANGE, GIRDER, run

# rule, base, parameters that break it, limit by hand and where it is from
BROKEN = [
    ("bolt_count", FLANGE, {"rows": 1}, 2, "at least two bolts"),
    ("spacing", FLANGE, {"pitch": "1-7/8 in"}, 2.0, "J3.4: 2-2/3 x 3/4"),
    ("max_spacing", FLANGE, {"pitch": "6-1/2 in", "rows": 2}, 6.0, "J3.6: 24 x 1/4"),
    ("gauge", FLANGE, {"columns": 2, "gauge": "1-3/4 in"}, 2.0, "J3.4"),
    ("end_distance", FLANGE, {"end_distance": "7/8 in"}, 1.0, "Table J3.4 for 3/4 in."),
    ("edge_distance", FLANGE, {"edge_distance": "7/8 in"}, 1.0, "Table J3.4 for 3/4 in."),
    ("max_edge_distance", FLANGE, {"edge_distance": "3-1/4 in"}, 3.0, "J3.6: 12 x 1/4"),
    ("beam_edge_distance", FLANGE, {"beam_edge_distance": "7/8 in"}, 1.0, "Table J3.4 for 3/4 in."),
    ("plate_below_fillet", FLANGE, {"first_bolt": "2-1/4 in"}, 1.375, "W16X50 detailing k 1-3/8 (T = 13-5/8)"),
    ("plate_above_fillet", FLANGE, {"rows": 5}, 16.3 - 1.375, "d - k"),
    ("plate_half_depth", FLANGE, {"rows": 2}, (16.3 - 2 * 1.03) / 2, "half of the largest T: design k 1.03, Part 10"),
    (
        "plate_in_girder_top",
        GIRDER,
        {"first_bolt": "2-1/4 in", "cope_depth": "1 in"},
        1.3125,
        "W21X62 detailing k 1-5/16",
    ),
    ("weld_develops_plate", FLANGE, {"plate_thickness": "1/2 in", "weld_size": "1/4 in"}, 0.3125, "5/8 x 1/2"),
    ("weld_size", FLANGE, {"weld_size": "3/32 in"}, 0.125, "Table J2.4: 1/4 in. and less"),
    (
        "weld_length",
        FLANGE,
        {"weld_size": "1-1/2 in", "rows": 2, "pitch": "3 in", "end_distance": "1 in"},
        6.0,
        "J2.2b: 4 w",
    ),
    (
        "cope_length",
        GIRDER,
        {"cope_length": "2-3/4 in"},
        (8.24 - 0.400) / 2 + 0.25,
        "half the girder's flange and 1/4 in.",
    ),
    ("cope_depth", GIRDER, {"cope_depth": "1 in"}, 1.3125, "W21X62 detailing k"),
    (
        "cope_depth",
        GIRDER,
        {"cope_length": "0 in", "cope_depth": "0 in"},
        1.3125,
        "W21X62 detailing k; a cope that is left out",
    ),
    (
        "cope_radius",
        GIRDER,
        {"cope_length": "3-3/4 in", "cope_depth": "1-3/8 in", "cope_radius": "1-15/16 in"},
        0.0,
        "flange's corner 0.33 beside and 0.76 above the cope's: 1.608 and 1.178 from the arc's middle, 1.993 > 1.9375",
    ),
    (
        "bolt_tightening",
        FLANGE,
        {"first_bolt": "1-3/4 in"},
        1.25,
        "half of a 2-1/4 in. socket and 1/8; 1-3/4 - tf 0.630 = 1.12",
    ),
    ("bolt_to_cope", GIRDER, {"cope_depth": "2-1/2 in"}, 1.0, "Table J3.4 for 3/4 in."),
]


@pytest.mark.parametrize(("rule", "base", "breaking", "limit", "source"), BROKEN, ids=[b[0] for b in BROKEN])
def test_rule_is_held_and_broken(rule, base, breaking, limit, source):
    broken = run(base, breaking)["detailing"][rule]
    assert broken["limit"] == pytest.approx(limit, abs=0.002), source
    assert not broken["ok"]
    sound = run(base)["detailing"].get(rule)
    assert sound is None or sound["ok"]


def test_a_broken_rule_fails_the_connection_and_says_so():
    found = run(FLANGE, {"rows": 5})
    assert found["status"] == "fail"
    assert "plate_above_fillet" in found["reason"]


def test_a_beam_between_the_flanges_of_its_column():
    """W16X50 (bf 7.07) against the web of W8X31: 8.00 - 2 x 0.435 - 1/2 = 6.63 in. between the flanges; W14X90 has
    12.08."""
    web = FLANGE | {"framing": "beam_to_column_web"}
    narrow = web | {"support": {"section": "W8X31", "grade": "A992"}}
    broken = run(narrow, {"gap": "1/2 in"})["detailing"]["beam_in_column"]
    assert (broken["given"], broken["limit"], broken["ok"]) == (pytest.approx(7.07), pytest.approx(6.63), False)
    held = run(web, {"gap": "1/2 in"})["detailing"]["beam_in_column"]
    assert (held["limit"], held["ok"]) == (pytest.approx(12.08), True)
    assert "beam_in_column" not in run(narrow)["detailing"]  # the plate then runs out past the flanges


def test_conventional_edge_is_two_diameters():
    rule = run(FLANGE)["detailing"]["conventional_edge"]
    assert (rule["limit"], rule["ok"]) == (pytest.approx(1.5), True)


def test_bottom_cope_rules():
    """W18X50 in W12X26 (d 12.2): the beam hangs below, so the bottom is coped up to the girder's lower fillet."""
    base = GIRDER | {
        "support": {"section": "W21X62", "grade": "A992"},
        "supported": {"section": "W21X50", "grade": "A992"},
    }
    found = run(base, {"bottom_cope_length": "4-1/4 in", "bottom_cope_depth": "1-1/2 in"})["detailing"]
    assert found["bottom_cope_depth"]["limit"] == pytest.approx(21.0 - 1.3125, abs=0.01)
    assert found["bottom_cope_depth"]["given"] == pytest.approx(20.8 - 1.5, abs=0.01)
    assert found["bottom_cope_depth"]["ok"] and found["bottom_cope_length"]["ok"]
    assert found["bolt_to_bottom_cope"]["given"] == pytest.approx(20.8 - 1.5 - 3.25 - 9.0, abs=0.01)
    assert not run(base, {"bottom_cope_length": "2 in", "bottom_cope_depth": "1 in"})["detailing"]["bottom_cope_depth"][
        "ok"
    ]


def test_plate_on_a_narrow_flange_and_wall():
    assert run(FLANGE)["detailing"]["plate_on_flange"]["limit"] == pytest.approx(
        0.25 + 2 * 0.1875 + 0.5 + (0.380 + 0.25)
    )
    hollow = run(FLANGE, framing="beam_to_hollow_column", support={"section": "HSS6X6X3/8", "grade": "A500C"})[
        "detailing"
    ]
    assert hollow["plate_on_wall"]["given"] == pytest.approx(6 - 3 * 0.349)


def test_girder_bottom_room():
    deep = run(GIRDER, {"rows": 6})["detailing"]["plate_in_girder_bottom"]
    assert deep["limit"] == pytest.approx(21.0 - 1.3125, abs=0.01)
    assert deep["given"] == pytest.approx(3.25 + 15 + 1.25)


@pytest.mark.parametrize(
    ("section", "published"),
    [
        ("W16X31", 13.625),
        ("W12X65", 9.125),
        ("W21X62", 18.375),
        ("W14X90", 10.0),
        ("W21X50", 18.375),
        ("W24X62", 20.75),
    ],
)
def test_detailing_k_against_published_T(section, published):
    """T distances of the Manual's dimension tables; ours is never larger and at most 1/8 in. smaller (d is rounded
    there)."""
    from handrail.core.catalogue import section as find

    T = find(section).T / 25.4
    assert published - 0.25 <= T <= published + 0.06


@pytest.mark.parametrize(("angle", "most"), [("skew", 45), ("slope", 30)])
def test_the_steepest_is_checked_and_a_degree_more_is_not(angle, most):
    assert run(FLANGE, geometry={angle: f"{most} deg"})["status"] != "unchecked"
    assert run(FLANGE, geometry={angle: f"-{most}.0004 deg"})["status"] != "unchecked"
    for more in (most + 1, 60):
        beyond = run(FLANGE, geometry={angle: f"{more} deg"})
        assert (beyond["status"], beyond["checks"]) == (
            "unchecked",
            {},
        ) and f"{more} deg is over the {most} deg" in beyond["reason"]
