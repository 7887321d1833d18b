"""Whatever the sizes: where every detailing rule holds, nothing stands in anything else. Worked from the bare sizes, in
plan and in elevation, not from the rules."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st

from handrail.core.catalogue import Steel, grade, hole, section
from handrail.core.catalogue import bolt as find_bolt
from handrail.core.checking.trial import Trial, read_trial
from handrail.core.errors import InputError
from handrail.core.joint.situation import faces_of
from handrail.core.standards.single_plate.layout import Layout
from handrail.core.standards.sizes import length, text
from tests.core.test_any_trial import BEAMS, SUPPORTS, grade_of
from tests.worked.sheet import FLANGE, GIRDER, data, run

HAIR = 1e-3
IN = 25.4


def sound(given_data: dict) -> Trial:
    """The trial, where it can be checked and every rule holds."""
    try:
        trial = read_trial(given_data)
    except InputError:
        assume(False)
    found = trial.standard.examine(trial.situation, trial.sizes, trial.code)
    assume(found.sound)
    return trial


def edges(trial: Trial) -> dict[str, float]:
    s = trial.sizes
    of = {name: length(s, name) for name in s if not isinstance(s[name].value, str)}
    middle = of["first_bolt"] + (of["rows"] - 1) * of["pitch"] / 2
    return of | {"top": middle - of["plate_depth"] / 2, "bottom": middle + of["plate_depth"] / 2}


@st.composite
def fitting(draw) -> dict:
    """Level beams with sizes near the edge of what fits: rows for the beam's depth, a few sizes given, any skew and
    offset."""
    framing = draw(st.sampled_from(list(SUPPORTS)))
    beam, support = draw(st.sampled_from(BEAMS[:10] + BEAMS[15:])), draw(st.sampled_from(SUPPORTS[framing]))
    most = max(2, int((section(beam).T / IN - 1.5) // 3) + 1)
    inch = {
        "gap": (0, 10),
        "cope_length": (0, 10),
        "cope_depth": (0, 3),
        "first_bolt": (1.5, 6),
        "beam_edge_distance": (1, 3.5),
        "bottom_cope_depth": (0, 3),
        "pitch": (2, 4),
        "gauge": (2, 4),
        "plate_depth": (4, 16),
    }
    some = draw(st.sets(st.sampled_from(list(inch)), max_size=3))
    parameters = {k: f"{round(draw(st.floats(*inch[k])) * 16) / 16} in" for k in sorted(some)}
    parameters |= {
        "rows": draw(st.integers(max(2, most - 2), most)),
        "end_cut": draw(st.sampled_from(["parallel", "square"])),
        "tightening": "slip_a",
        "hole": draw(st.sampled_from(["STD", "SSLT", "SSLP", "OVS", "LSLP"])),
        "columns": draw(st.sampled_from([1, 1, 2])),
    }
    geometry = {
        "skew": f"{draw(st.sampled_from([-30, -15, 0, 0, 4, 22]))} deg",
        "top_offset": f"{draw(st.sampled_from([-1, 0, 0, 1, 2, 4]))} in",
    }
    if faces := faces_of(Steel(section(support), grade(grade_of(support)))):
        geometry["face"] = draw(st.sampled_from(faces))
    return {
        "framing": framing,
        "standard": "single_plate",
        "supported": {"section": beam, "grade": grade_of(beam)},
        "support": {"section": support, "grade": grade_of(support)},
        "geometry": geometry,
        "parameters": parameters,
        "actions": [{"name": "A", "V": "5 kip"}],
    }


def holds(test):
    """Many trials do not fit, and are left out: a hundred and more that do remain."""
    return settings(suppress_health_check=[HealthCheck.filter_too_much, HealthCheck.too_slow])(given(fitting())(test))


@holds
def test_a_plate_stands_clear_of_fillets_and_copes(given_data):
    trial = sound(given_data)
    of, beam = edges(trial), trial.situation.supported.section
    assert of["top"] >= max(beam.k, of["cope_depth"]) - HAIR
    assert of["bottom"] <= beam.d - max(beam.k, of["bottom_cope_depth"]) + HAIR
    support, below = trial.situation.carrier.section, trial.situation.top_offset
    if trial.situation.framing == "beam_to_girder":
        flat = (0.0, support.d) if trial.situation.face == "back" else (support.k, support.d - support.k)
        assert below + of["top"] >= flat[0] - HAIR and below + of["bottom"] <= flat[1] + HAIR


@holds
def test_bolts_lie_in_steel_and_apart(given_data):
    trial = sound(given_data)
    of, beam, s = edges(trial), trial.situation.supported.section, trial.sizes
    bolt = find_bolt(text(s, "bolt"))
    for name, top, bottom, side in (
        ("hole", of["top"], of["bottom"], of["edge_distance"]),
        ("web_hole", of["cope_depth"], beam.d - of["bottom_cope_depth"], of["beam_edge_distance"]),
    ):
        size = hole(text(s, name), bolt.d)
        rows = of["first_bolt"] + np.arange(int(of["rows"])) * of["pitch"]
        assert (rows - size.along / 2 > top).all() and (rows + size.along / 2 < bottom).all()
        assert side > size.across / 2
        assert of["rows"] == 1 or of["pitch"] - size.along >= bolt.d - HAIR
        assert of["columns"] == 1 or of["gauge"] - size.across >= bolt.d - HAIR


def plan_of_flange(trial: Trial, cope: str, width: float) -> np.ndarray:
    """(4, 2) corners of a flange in plan: x square to the support's face, y along it; the end first."""
    of, skew = edges(trial), abs(trial.situation.skew)
    begins = of["gap"] + (of[f"{cope}cope_length"] if of[f"{cope}cope_depth"] else 0.0)
    cut = 0.0 if text(trial.sizes, "end_cut") == "square" else math.tan(skew)
    corners = []
    for side in (-1, 1):
        for along in (begins - side * cut * width / 2, begins + 3000.0):
            across = side * width / 2
            corners.append(
                (along * math.cos(skew) + across * math.sin(skew), along * math.sin(skew) - across * math.cos(skew))
            )
    return np.array(corners)


@holds
def test_a_beam_s_corners_stand_clear_of_the_support(given_data):
    """In plan: no corner of a flange is nearer to the face than 1/4 in., nor in the flange of a column or girder."""
    trial = sound(given_data)
    beam, support, of = trial.situation.supported.section, trial.situation.carrier.section, edges(trial)
    coped = of["cope_depth"] and of["bottom_cope_depth"]
    ends = [plan_of_flange(trial, cope, beam.tw if coped else beam.bf) for cope in ("", "bottom_")]
    assert min(corners[:, 0].min() for corners in ends) >= IN / 4 - HAIR
    if trial.situation.framing != "beam_to_column_web":
        return
    tip, inner, outer = (support.bf - support.tw) / 2, support.d / 2 - support.tf, support.d / 2
    for cope in ("", "bottom_"):
        corners = plan_of_flange(trial, cope, beam.bf)
        for start, end in ((corners[0], corners[1]), (corners[2], corners[3]), (corners[0], corners[2])):
            along = np.linspace(0, 1, 2001)[:, None]
            points = start + along * (end - start)
            hit = (points[:, 0] < tip - HAIR) & (np.abs(points[:, 1]) > inner + HAIR) & (np.abs(points[:, 1]) < outer)
            assert not hit.any(), (cope, points[hit][0])


@holds
def test_a_flange_never_stands_in_a_girder_s_flange(given_data):
    """In elevation and plan: where a beam's flange comes nearer than the girder's flange tip, it lies between the
    girder's flanges, below one fillet and above the other."""
    trial = sound(given_data)
    assume(trial.situation.framing == "beam_to_girder" and trial.situation.face != "back")
    beam, girder = trial.situation.supported.section, trial.situation.carrier.section
    tip = girder.bf - girder.tw if girder.channel else (girder.bf - girder.tw) / 2
    flanges = {"": (0.0, beam.tf), "bottom_": (beam.d - beam.tf, beam.d)}
    for cope, (top, bottom) in flanges.items():
        if plan_of_flange(trial, cope, beam.bf)[:, 0].min() < tip - HAIR:
            down = trial.situation.top_offset
            assert down + top >= girder.tf - HAIR and down + bottom <= girder.d - girder.tf + HAIR, cope


@given(
    st.sampled_from(["W12X26", "W16X31", "W18X50", "W24X76"]),
    st.floats(4, 20),
    st.floats(0.5, 2.0),
    st.booleans(),
    st.floats(1, 100),
)
def test_a_thrust_on_a_cope_always_counts(beam, long_, deep, both, kips):
    cope = {"cope_length": f"{long_} in", "cope_depth": f"{deep} in", "rows": 2}
    if both:
        cope |= {"bottom_cope_length": f"{long_} in", "bottom_cope_depth": f"{deep} in"}
    pressed = {
        "supported": {"section": beam, "grade": "A992"},
        "actions": [{"name": "A", "V": "0 kip", "N": f"-{kips} kip"}],
    }
    found, longer = run(GIRDER, cope, **pressed), run(GIRDER, cope | {"cope_length": f"{long_ + 3} in"}, **pressed)
    assume(found["status"] != "unchecked" and longer["status"] != "unchecked")
    first, second = (f["checks"]["cope_axial_buckling"] for f in (found, longer))
    assert first["utilisation"] > 0
    assert second["strength"] <= first["strength"] + 1e-9
    assert found["checks"]["cope_interaction"]["utilisation"] >= first["utilisation"] - 1e-6


@given(st.floats(-30, 30), st.floats(-100, 100), st.floats(-100, 100))
def test_the_support_feels_the_same_force_from_another_side(slope, V, N):
    """Turned to the support and back, nothing is lost; a level member feels no difference."""
    trial = read_trial(
        data(FLANGE, geometry={"slope": f"{slope} deg"}, actions=[{"name": "A", "V": f"{V} kip", "N": f"{N} kip"}])
    )
    on, angle = trial.actions.turned(0.0, trial.situation.slope), math.radians(slope)
    up = on.along * math.cos(angle) + on.normal * math.sin(angle)
    out = on.normal * math.cos(angle) - on.along * math.sin(angle)
    assert up == pytest.approx(trial.actions.V, abs=1e-6) and out == pytest.approx(trial.actions.N, abs=1e-6)
    assert on.size == pytest.approx(trial.actions.resultant, abs=1e-6)


CORNERS = [
    # name, framing's base, parameters, geometry, support, the rule that must break
    ("touching the face", FLANGE, {"gap": "0 in"}, {}, None, "gap_clear"),
    ("a fillet in the web's way", FLANGE, {"gap": "1/2 in", "weld_size": "9/16 in"}, {}, None, "weld_before_beam"),
    ("corner of a square cut", FLANGE, {"gap": "1/2 in", "end_cut": "square"}, {"skew": "15 deg"}, None, "gap_clear"),
    (
        "touching the girder's tip",
        GIRDER,
        {"gap": "3.92 in", "cope_length": "0 in", "cope_depth": "0 in", "beam_edge_distance": "1-3/4 in"},
        {},
        None,
        "cope_length",
    ),
    (
        "a token cope",
        FLANGE,
        {"cope_length": "1/8 in", "cope_depth": "1/8 in", "first_bolt": "1-1/2 in"},
        {},
        None,
        "plate_below_fillet",
    ),
    (
        "a cope that leaves the flange",
        GIRDER,
        {"cope_depth": "5/8 in", "first_bolt": "3 in"},
        {"top_offset": "1 in"},
        None,
        "cope_through_flange",
    ),
    (
        "below a channel",
        GIRDER,
        {"cope_length": "0 in", "cope_depth": "0 in"},
        {"top_offset": "16 in", "face": "back"},
        "C15X50",
        "plate_in_girder_bottom",
    ),
    (
        "over a channel's fillet",
        GIRDER,
        {"first_bolt": "4-1/4 in", "gap": "5 in", "cope_length": "0 in", "cope_depth": "0 in"},
        {"face": "toe"},
        "C15X50",
        "plate_in_girder_bottom",
    ),
    (
        "slots too near",
        FLANGE,
        {"hole": "LSLP", "pitch": "2-1/2 in", "tightening": "slip_a", "end_distance": "2 in"},
        {},
        None,
        "clear_spacing",
    ),
    ("lines too far", FLANGE, {"columns": 2, "gauge": "7 in"}, {}, None, "max_gauge"),
    ("web edge too far", FLANGE, {"beam_edge_distance": "4-3/4 in"}, {}, None, "max_web_edge_distance"),
    (
        "grade not so thick",
        FLANGE,
        {"plate_grade": "A529-50", "plate_thickness": "1-1/4 in"},
        {},
        None,
        "plate_grade_thickness",
    ),
]


@pytest.mark.parametrize(
    ("base", "parameters", "geometry", "support", "rule"), [c[1:] for c in CORNERS], ids=[c[0] for c in CORNERS]
)
def test_corners_that_once_passed(base, parameters, geometry, support, rule):
    more = {"support": {"section": support, "grade": "A36"}} if support else {}
    found = run(base, parameters, geometry=geometry, actions=[{"name": "A", "V": "5 kip"}], **more)
    assert found["status"] == "fail" and not found["detailing"][rule]["ok"], found["reason"]


def test_skew_between_column_flanges():
    """W16X50 (bf 7.07) against W14X90's web at 20 deg: tips stand 14.5/2 = 7.25 in. from the column's axis, through
    which the beam's line goes; it sweeps 2 (7.25 tan 20 + 7.07/2/cos 20) = 12.80 in. there, over 14.0 - 2 x 0.71 - 0.5
    = 12.08 in.; at 10 deg 9.74 in. fits."""
    web = {"framing": "beam_to_column_web"}
    wide = run(FLANGE, {"gap": "1/2 in"}, geometry={"skew": "20 deg"}, **web)["detailing"]["beam_in_column"]
    assert (wide["given"], wide["limit"], wide["ok"]) == (pytest.approx(12.80, abs=0.01), pytest.approx(12.08), False)
    slim = run(FLANGE, {"gap": "1/2 in"}, geometry={"skew": "10 deg"}, **web)["detailing"]["beam_in_column"]
    assert (slim["given"], slim["ok"]) == (pytest.approx(9.74, abs=0.01), True)


def test_copes_of_a_skewed_beam_are_longer():
    """W21X62's flange reaches 3.92 in. from its web, and 1/4 in. clear: at 30 deg a parallel cut needs 4.17/cos 30 =
    4.815 in. along the beam; a square one 4.17/cos 30 + 3.75 tan 30 = 6.98 in. (W18X50, bf 7.50)."""
    skewed = {"skew": "30 deg"}
    held = {"cope_length": "4.33 in", "beam_edge_distance": "1-3/4 in"}
    assert run(GIRDER, held, geometry=skewed)["detailing"]["cope_length"]["ok"]
    assert not run(GIRDER, held | {"cope_length": "4.30 in"}, geometry=skewed)["detailing"]["cope_length"]["ok"]
    square = {"end_cut": "square", "gap": "3 in", "beam_edge_distance": "1-3/4 in"}
    assert run(GIRDER, square | {"cope_length": "4 in"}, geometry=skewed)["detailing"]["cope_length"]["ok"]
    assert not run(GIRDER, square | {"cope_length": "3.95 in"}, geometry=skewed)["detailing"]["cope_length"]["ok"]


def test_detailing_k_is_at_least_the_design_k():
    for name in ("W16X31", "W24X68", "C15X50", "S12X31.8", "IPE300", "HP14X73"):
        assert section(name).k_detail >= section(name).k - HAIR


def test_a_sloped_beam_meets_the_girder_s_flange_at_its_tip():
    """W18X50 2 in. below the top of W21X62 (k 1-5/16): level, nothing is in the way; rising 30 deg it has risen
    3.92 tan 30 = 2.26 in. at the flange's tip, so its top stands 0.26 in. over the girder's: 1.58 in. to be cut away.
    """
    bare = {"cope_length": "0 in", "cope_depth": "0 in", "first_bolt": "3 in"}
    level = run(GIRDER, bare, geometry={"top_offset": "2 in"})["detailing"]
    assert "cope_depth" not in level
    rising = run(GIRDER, bare, geometry={"top_offset": "2 in", "slope": "30 deg"})["detailing"]["cope_depth"]
    assert (rising["given"], rising["limit"], rising["ok"]) == (
        pytest.approx(2 - 2.263, abs=0.01),
        pytest.approx(1.3125),
        False,
    )
    falling = run(GIRDER, bare, geometry={"top_offset": "2 in", "slope": "-30 deg"})["detailing"]
    assert (
        "cope_depth" not in falling and falling["bottom_cope_depth"]["ok"]
    )  # its foot is coped, as deep as it must be


def test_a_slope_takes_up_the_web_s_edge():
    """Four rows at 3 in., 30 deg: the farthest row stands 4.5 tan 30 = 2.60 in. farther from the support than the
    middle one, so the weld is 1/2/cos 30 (to sixteenths, 5/8) + 1-3/4 + 2.60 = 4.97 in. from the bolts' middle, 7.57
    in. from the last."""
    trial = read_trial(data(FLANGE, {"beam_edge_distance": "1-3/4 in"}, geometry={"slope": "30 deg"}))
    layout = Layout(trial.situation, trial.sizes)
    assert layout.a / IN == pytest.approx(4.973, abs=0.002) and layout.reach / IN == pytest.approx(2.598, abs=0.001)
    assert not layout.part10.conventional


@pytest.mark.parametrize(
    ("clearance", "gap", "cope"), [("1/2 in", 0.5, 4.0), ("3/4 in", 0.75, 4.0), ("1 in", 1.0, 4.0)]
)
def test_shop_practice_says_what_gaps_and_copes_clear(clearance, gap, cope):
    """W21X62 (bf 8.24, tw 0.40): the flange tip is 3.92 in. off its web; the cope ends the clearance beyond it, in
    quarters: 3.92 + c - c is always 4."""
    trial = read_trial({**GIRDER, "parameters": {"rows": 3, "clearance": clearance}})
    assert trial.sizes["gap"].value / 25.4 == pytest.approx(gap) and trial.sizes[
        "cope_length"
    ].value / 25.4 == pytest.approx(cope)


def test_a_channel_reaches_to_one_side_of_its_web():
    """MC12X31 (bf 3.67, tw 0.37) between a W8X31's flanges: clear 7.13 in. less 1/2 in.; from the web's middle its toes
    reach 3.485 in., so that it takes 6.97 in., where a beam as wide that is alike on both sides takes 3.67."""
    base = {**FLANGE, "framing": "beam_to_column_web", "parameters": {"rows": 2, "gap": "1/2 in"}}
    base |= {"supported": {"section": "MC12X31", "grade": "A36"}, "support": {"section": "W8X31", "grade": "A992"}}
    rules = {r["rule"]: r for r in read_trial(data(base)).answer(read_trial(data(base)).run(), "us")["detailing"]}
    assert rules["beam_in_column"]["given"] == pytest.approx(2 * (3.67 - 0.37 / 2), abs=1e-3)
    assert rules["beam_in_column"]["limit"] == pytest.approx(8.0 - 2 * 0.435 - 0.5, abs=1e-3)
    assert not rules["beam_in_column"]["ok"]


def test_a_skewed_beam_lands_beside_the_middle_of_a_flange():
    """Its line goes through the column's axis: at 45 degrees it comes through a W12X65's face (d 12.1, bf 12.0) 6.05
    in. beside the middle, past the flange's edge; at 15 degrees 1.62 in., on it."""
    base = {**FLANGE, "support": {"section": "W12X65", "grade": "A992"}}
    for skew, ok in ((15, True), (45, False)):
        trial = read_trial(data(base, geometry={"skew": f"{skew} deg"}))
        rules = {r["rule"]: r for r in trial.answer(trial.run(), "us")["detailing"]}
        rule, turn = rules["plate_on_flange"], math.radians(skew)
        weld = trial.sizes["weld_size"].value / 25.4
        beside = 12.1 / 2 * math.tan(turn) + (0.25 + 0.38) / 2 / math.cos(turn)
        assert rule["limit"] == pytest.approx(0.25 / math.cos(turn) + 2 * weld + 0.5 + 2 * beside, abs=1e-3)
        assert rule["ok"] is ok and rule["given"] == pytest.approx(12.0)
