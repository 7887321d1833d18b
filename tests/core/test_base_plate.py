"""Bases whatever their numbers: more load is never less used, mirror images are alike, odd ones are told, sizing climbs
and holds."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from handrail.core.actions import Actions
from handrail.core.checking.batch import evaluate
from handrail.core.checking.trial import read_trial
from handrail.core.errors import InputError
from handrail.core.quantities.units import INCH, KIP
from tests.worked.sheet import data, run
from tests.worked.test_anchor_bars import BARS
from tests.worked.test_base_plate import BASE, LUG, SHEAR, under

HOLLOW = {"supported": {"section": "HSS8X8X1/2", "grade": "A500C"}}
VARIANTS = {
    "friction": ({}, {}),
    "anchors": (SHEAR, {}),
    "six": (SHEAR | {"rods_across": 3}, {}),
    "bars": (SHEAR | BARS, {}),
    "lug": (LUG | {"lug_way": "both"}, {}),
    "strain": (SHEAR | {"bearing_method": "strain"}, {}),
    "hollow": (
        {"plate_length": "16 in", "plate_width": "16 in", "spacing_along": "12 in", "spacing_across": "12 in"},
        HOLLOW,
    ),
    "off": (
        SHEAR | {"offset_along": "2 in", "offset_across": "-1 in", "plate_length": "24 in", "spacing_along": "20 in"},
        {},
    ),
    "off by friction": ({"offset_across": "3 in", "plate_width": "24 in"}, {}),
    "places": ({"rod_points": "7 in, 8 in; -8 in, 7 in; 8 in, -8 in; -8 in, -8 in; N: 8 in, 0 in"}, {}),
}


def states(name: str):
    parameters, more = VARIANTS[name]
    trial = read_trial(data(BASE, parameters, **more))
    return trial.standard.strengths(trial.situation, trial.sizes, trial.code, False)


STATES = {name: states(name) for name in VARIANTS}
force, moment = st.floats(-300, 300), st.floats(-2500, 2500)


def acting(N, V, Vw, M, Mw, T=0.0) -> Actions:
    """(1, 1) of kip and kip in."""
    table = np.array([[[N * KIP, V * KIP, Vw * KIP, M * KIP * INCH, Mw * KIP * INCH, T * KIP * INCH]]])
    return Actions.of(table, ("x",))


@given(
    st.sampled_from(list(VARIANTS)),
    st.floats(-900, 200),
    force,
    force,
    moment,
    st.one_of(st.just(0.0), moment),
    st.floats(1.01, 2.5),
    st.sampled_from([0.0, 0.0, 40.0, -25.0]),
)
def test_more_load_is_never_less_used(name, N, V, Vw, M, Mw, more, T):
    one, two = (
        acting(N, V / 10, Vw / 10, M, Mw, T),
        acting(N * more, V / 10 * more, Vw / 10 * more, M * more, Mw * more, T * more),
    )
    before, after = (float(evaluate(STATES[name], a)[0][0]) for a in (one, two))
    assert after >= before * (1 - 2e-3) - 1e-6


@given(
    st.sampled_from(["friction", "anchors", "six", "bars", "lug", "strain", "hollow"]),
    st.floats(-600, 100),
    force,
    force,
    moment,
    moment,
)
def test_turning_the_load_over_changes_nothing(name, N, V, Vw, M, Mw):
    """The base is alike on all four sides, and so is what each limit state says."""
    one, other = acting(N, V / 10, Vw / 10, M, Mw), acting(N, -V / 10, Vw / 10, -M, Mw)
    for state in STATES[name]:
        assert float(state.utilisation(other)[0, 0]) == pytest.approx(
            float(state.utilisation(one)[0, 0]), rel=5e-3, abs=1e-6
        ), state.check


@given(st.floats(-600, 100), force, moment, moment, st.floats(-4, 4), st.floats(-3, 3))
def test_a_base_looked_at_from_its_other_side_is_the_same(N, V, M, Mw, x, y):
    """Offsets, forces and moments turned round together: every limit state says what it did; rods pull what balances N
    off the middle."""
    size = {
        "plate_length": "28 in",
        "plate_width": "26 in",
        "spacing_along": "24 in",
        "spacing_across": "22 in",
        "bearing_method": "strain",
    }
    found = []
    for way in (1, -1):
        off = {"offset_along": f"{way * x} in", "offset_across": f"{way * y} in"}
        trial = read_trial(data(BASE, SHEAR | size | off))
        states = trial.standard.strengths(trial.situation, trial.sizes, trial.code, False)
        found.append(
            {
                s.check: float(s.utilisation(acting(N, way * V / 10, 0.0, way * M, way * Mw))[0, 0])
                for s in states
                if s.check != "erection"
            }
        )
    assert found[1] == pytest.approx(found[0], rel=1e-4, abs=1e-6)


@given(st.floats(-900, 200), force, moment)
def test_many_at_once_are_as_one_by_one(N, V, M):
    table = np.array([[[N * KIP * k, V * KIP * k / 10, 0, M * KIP * INCH * k, 0, 0] for k in (0.2, 0.5, 1.0)]])
    together = Actions.of(table, ("a", "b", "c"))
    for state in STATES["anchors"]:
        found = state.utilisation(together)[0]
        for k, share in enumerate((0.2, 0.5, 1.0)):
            assert found[k] == pytest.approx(
                float(state.utilisation(acting(N * share, V * share / 10, 0, M * share, 0))[0, 0]), rel=1e-9, abs=1e-12
            )


def edge(along=None, across=None, thickness="48 in", **more) -> dict:
    edges = {name: of for name, of in (("along", along), ("across", across)) if of}
    return {"foundation": {"kind": "footing", "fc": "4 ksi", "thickness": thickness, "edges": edges, **more}}


@pytest.mark.parametrize(
    ("parameters", "more", "status", "words"),
    [
        ({}, edge(thickness="2 in"), "fail", "anchor_depth_in_concrete"),
        ({}, edge(["8 in", "8 in"]), "fail", "plate_on_concrete_along"),
        ({}, edge(["7 in", "20 in"]) | under(N=20), "fail", "anchor"),
        ({}, edge(["12 in", "20 in"], kind="pedestal"), "unchecked", "an edge on every side"),
        (
            SHEAR | {"bond_cracked": "2 ksi", "bond_uncracked": "1 ksi"},
            {},
            "unchecked",
            "bond_cracked is over bond_uncracked",
        ),
        ({"friction": 0.6}, {}, "fail", "friction_most"),
        (LUG | {"plate_thickness": "1-1/2 in"}, under(N=-20, V=1), "fail", "lug_no_thicker_than_plate"),
        (
            LUG | {"rod_points": "9 in, 8 in; 9 in, -8 in; -9 in, 8 in; -9 in, -8 in"},
            under(N=-20, V=1),
            "fail",
            "lug_beside_anchors",
        ),
        ({"rod_points": "15 in, 0 in; -15 in, 0 in; 0 in, 15 in; 0 in, -15 in"}, {}, "fail", "anchor_edge_in_plate"),
        ({"rod_points": "8 in, 8 in; -8 in, -8 in"}, {}, "fail", "anchors_at_least"),
        ({"rod_points": "0 in, 4 in; 0 in, -4 in; 4 in, 0 in; -4 in, 0 in"}, {}, "fail", "anchor_clear_of_column"),
        ({}, under(N=20, V=1), "fail", "friction"),
        ({"shear_path": "anchors"}, under(N=-20, V=1), "fail", "anchor_washers_welded"),
        (LUG | {"lug_depth": "40 in"}, edge(thickness="36 in") | under(N=-20, V=1), "fail", "lug_in_concrete"),
        (LUG | {"lug_width": "30 in"}, under(N=-20, V=1), "fail", "lug_under_plate"),
        ({"stiffeners": "provided"}, {}, "unchecked", "stiffen"),
        ({"rod": "1-1/8 F1554-36"}, {}, "unchecked", "no base plate hole"),
        ({"plate_length": "10 in", "plate_width": "10 in"}, {}, "fail", "plate_past_column"),
        ({"tension_bars": "(4) No. 4"}, under(N=20), "fail", "anchor_bars_tension_length"),
        ({}, under(N=-20, T=90), "fail", "friction"),
        (SHEAR, under(N=-20, T=900), "fail", "anchor"),
        (LUG, under(N=-20, T=90), "fail", "lug_torsion"),
        (SHEAR | {"offset_along": "8 in"}, under(N=-200), "fail", "plate_past_column"),
        ({}, {"geometry": {"seismic": True}}, "unchecked", "overstrength"),
        ({"rods_along": 1, "rods_across": 1}, under(N=-20, M=100), "fail", "anchors_at_least"),
        ({}, under(N=-1500, M=4000), "fail", "too small"),
        ({"bearing_method": "strain"}, under(N=-1500, M=6000), "fail", "too small"),
    ],
)
def test_what_cannot_stand_never_passes(parameters, more, status, words):
    answer = run(BASE, parameters, **more)
    assert answer["status"] == status and words in answer["reason"]


def test_what_is_missing_is_asked_for():
    for wrong, words in (
        ({"foundation": None}, "foundation"),
        ({"parameters": {"rod_points": "4 in"}}, "rod_points: rod 1"),
        ({"parameters": {"rod_points": "A: 4 in, 4 in; A: 5 in, 9 in"}}, "two rods have this name"),
        ({"parameters": {"shear_bars": "lots"}}, "No. 5"),
        ({"parameters": {"rod": "3/4 A325"}}, "rod"),
        ({"geometry": {"skew": "5 deg"}}, "skew"),
    ):
        with pytest.raises(InputError, match=words):
            read_trial(data(BASE) | wrong)


def test_places_that_share_a_base():
    """Columns A and B with their own loads: the one that governs is named; a place without a combination is not judged
    by it."""
    actions = {
        "A": [{"name": "1", "N": "-100 kip"}, {"name": "2", "N": "-300 kip"}],
        "B": [{"name": "1", "N": "-200 kip"}],
    }
    trial = read_trial(data(BASE, actions=actions))
    answer = trial.answer(trial.run())
    assert answer["governing"]["place"] == "A" and answer["governing"]["action"] == "2"
    actions["B"][0]["N"] = "-500 kip"
    trial = read_trial(data(BASE, actions=actions))
    assert trial.answer(trial.run())["governing"]["place"] == "B"


def test_cases_of_an_allowable_trial_are_combined_for_the_concrete_too():
    cases = {"north": {"D": {"N": "-100 kip"}, "L": {"N": "-80 kip"}, "W": {"N": "150 kip", "V": "5 kip"}}}
    base = {k: v for k, v in data(BASE, SHEAR).items() if k != "actions"}
    trial = read_trial(base | {"cases": cases, "combinations": "ASCE 7-22", "method": "ASD"})
    found = {c["check"]: c for c in trial.answer(trial.run())["checks"]}
    assert (
        found["anchor_steel_tension"]["code"] == "ACI 318-19 LRFD"
        and found["anchor_steel_tension"]["action"] == "0.9D+1W"
    )
    assert found["anchor_steel_tension"]["demand"] == pytest.approx((150 - 90) / 4 * 4.4482, rel=1e-3)
    assert found["column_weld"]["action"] == "0.6D+0.6W"


def test_an_earthquake_lowers_the_concrete():
    """0.75 on concrete in tension, none on steel (17.10.5.4)."""
    actions = {"actions": [{"name": "E", "N": "40 kip", "set": "overstrength"}]}
    calm, shaken = (
        run(BASE, SHEAR, **actions)["checks"],
        run(BASE, SHEAR, geometry={"seismic": True}, **actions)["checks"],
    )
    for check, factor in (("anchor_breakout_tension", 0.75), ("anchor_pullout", 0.75), ("anchor_steel_tension", 1.0)):
        assert shaken[check]["strength"] == pytest.approx(factor * calm[check]["strength"], rel=1e-6)


def test_built_otherwise_than_modelled_is_told():
    assert any("modelled pinned" in note for note in run(BASE, geometry={"fixity": "pinned"})["notes"])
    inside = {"spacing_along": "8 in", "spacing_across": "6 in"}
    assert any("modelled fixed" in note for note in run(BASE, inside, geometry={"fixity": "fixed"})["notes"])
    assert not any("modelled" in note for note in run(BASE, geometry={"fixity": "fixed"})["notes"])


def test_rods_are_named_and_read_back():
    trial = read_trial(data(BASE, {"rod_points": "N1: 8 in, 4 in; 203.2 mm, -4 in; -8 in, 4 in; S: -8 in, -4 in"}))
    said = next(note for note in trial.run().notes if note.startswith("anchors named"))
    assert said.endswith("N1, 2, 3, S")
    again = trial.standard.read({"rod_points": trial.sizes["rod_points"].value}, "given")
    assert again["rod_points"].value == trial.sizes["rod_points"].value and math.isclose(
        float(trial.sizes["rod_points"].value.split()[1]), 203.2
    )
