"""Odd things in a trial's file: refused with their place, or taken as meant; nothing is dropped in silence."""

from __future__ import annotations

import copy
from typing import Any

import numpy as np
import pytest

from handrail.core.checking.trial import read_foundation, read_trial
from handrail.core.errors import InputError
from handrail.core.joint.situation import faces_of
from tests.worked.sheet import FLANGE, GIRDER, HOLLOW, data, run

KIP = 4448.2216152605


def refused(base: dict[str, Any], parameters: dict[str, Any] | None = None, **more: Any) -> str:
    with pytest.raises(InputError) as found:
        read_trial(data(base, parameters, **more))
    return str(found.value)


@pytest.mark.parametrize(
    ("more", "words"),
    [
        ({"geometry": {"opposed": "yes"}}, "geometry.opposed: write true or false, not 'yes'"),
        ({"geometry": {"opposed": 1}}, "geometry.opposed: write true or false"),
        ({"geometry": {"opposed": None}}, "geometry.opposed: write true or false"),
        ({"geometry": {"support_end": "true"}}, "geometry.support_end: write true or false, not 'true'"),
        ({"geometry": {"skew": None}}, "geometry.skew is empty"),
        ({"geometry": {"face": "long"}}, "W14X90 has no faces to tell apart"),
        ({"geometry": [1]}, "geometry: expected a mapping"),
        ({"actions": [None]}, "actions[1]: expected a mapping, got nothing"),
        ({"actions": [{"name": "A"}]}, "actions[1] (A): no action is given"),
        ({"actions": [{"V_opposed": "3 kip"}]}, "actions[1] (1): no action is given"),
        ({"actions": [{"name": "A", "V": None}]}, "actions[1] (A): V is empty"),
        ({"actions": [{"name": "A", "V": "3,000 lbf"}]}, "'3,000 lbf': write the number without commas"),
        ({"actions": [{"name": "A", "V": "²"}]}, "'²' is not a quantity"),
        ({"actions": [{"name": "A", "V": True}]}, "True is not a quantity"),
        (
            {"actions": [{"name": "A", "V": "1 kip", "N_support": "5 kip"}]},
            "N_support is the own force of a hollow column",
        ),
        ({"actions": None}, "actions: give a list"),
        ({"actions": {}}, "actions: give a list"),
        (
            {"actions": {"A": [{"name": "1", "V": "90 kip"}, {"name": "1", "V": "3 kip"}]}},
            "actions.A: two actions are named 1",
        ),
        ({"method": None}, "method is empty; leave it out for LRFD"),
        ({"code": None}, "code is empty; leave it out for AISC 360-22"),
        ({"framing": None}, "framing is missing"),
        ({"support": None}, "support is missing"),
        ({"parameters": {"rows": None}}, "rows: nothing is given"),
    ],
)
def test_refused_with_its_place(more, words):
    base = copy.deepcopy(FLANGE)
    base.update(more)
    with pytest.raises(InputError) as found:
        read_trial(base)
    assert words in str(found.value)


@pytest.mark.parametrize("rows", ["²", "٣", "3.0", "1e1", "", " ", "-3", True, 4.5])
def test_rows_are_whole_numbers(rows):
    assert "is not a whole number" in refused(FLANGE, {"rows": rows})


@pytest.mark.parametrize(
    ("name", "why"),
    [
        ("A500C", "hollow sections"),
        ("A1085", "hollow sections"),
        ("A992", "rolled shapes"),
        ("A913-65", "rolled shapes"),
    ],
)
def test_plates_are_of_plate(name, why):
    assert f"{name} is for {why}, not for plates" in refused(FLANGE, {"plate_grade": name})


def test_little_is_bounded():
    assert "more than 2 kip" in refused(FLANGE, {"negligible_force": "5 kip"})


def test_a_beam_opposite_is_told_by_its_forces():
    told = read_trial(data(GIRDER, actions=[{"name": "A", "V": "20 kip", "N_opposed": "3 kip"}]))
    assert told.situation.opposed
    answer = told.run()
    assert (
        answer.status == "unchecked" and "opposite has no forces" in answer.reason
    )  # its pull alone does not say what it shears
    sheared = read_trial(data(GIRDER, actions=[{"name": "A", "V": "20 kip", "V_opposed": "3 kip"}]))
    assert (sheared.actions.opposite().along[0] / KIP, sheared.actions.opposite().normal[0]) == (
        pytest.approx(3.0),
        0.0,
    )
    assert "opposed is false" in refused(
        GIRDER, geometry={"opposed": False}, actions=[{"name": "A", "V": "1 kip", "V_opposed": "1 kip"}]
    )
    assert not read_trial(data(GIRDER, geometry={"opposed": False})).situation.opposed


def test_cases_carry_what_stands_beside():
    """1.2D + 1.6L of V 10 and 5 kip with V opposed 4 and 2: 20 kip with 8.0 opposite; 60 kip of dead load on the
    column: 72 of compression."""
    cases = {"here": {"D": {"V": "10 kip", "V_opposed": "4 kip"}, "L": {"V": "5 kip", "V_opposed": "2 kip"}}}
    base = {k: v for k, v in GIRDER.items() if k != "actions"}
    trial = read_trial(base | {"cases": cases, "combinations": "ASCE 7-22"})
    k = trial.actions.names.index("1.2D+1.6L")
    assert trial.situation.opposed
    assert (trial.actions.V[0, k] / KIP, trial.actions.opposite().along[0, k] / KIP) == (
        pytest.approx(20.0),
        pytest.approx(8.0),
    )
    post = {k: v for k, v in FLANGE.items() if k != "actions"} | HOLLOW
    held = read_trial(
        post | {"cases": {"here": {"D": {"V": "10 kip", "N_support": "-60 kip"}}}, "combinations": "ASCE 7-22"}
    )
    assert held.actions.of_role("support").N.min() / KIP == pytest.approx(-84.0)  # 1.4D


def test_sizes_that_contradict_each_other_are_unchecked():
    both = run(FLANGE, {"plate_depth": "14 in", "end_distance": "1-1/4 in"})
    assert both["status"] == "unchecked" and "leave 2-1/2 in at the ends, not 1-1/4 in" in both["reason"]
    assert run(FLANGE, {"plate_depth": "12 in", "end_distance": "1-1/2 in"})["status"] == "pass"
    half = run(GIRDER, {"cope_depth": "0 in"})
    assert half["status"] == "unchecked" and "cope_length and cope_depth: one is 0" in half["reason"]


def test_a_cope_that_is_given_is_a_cope():
    """A length alone is cut as deep as both fillets; it is not dropped where nothing needs it."""
    found = run(FLANGE, {"cope_length": "3 in"})
    assert "cope_flexure" in found["checks"]


def test_what_a_support_can_be():
    assert (
        "L8X8X1 as a support is not implemented" in run(GIRDER, support={"section": "L8X8X1", "grade": "A36"})["reason"]
    )
    hollow_girder = run(
        GIRDER | {"framing": "beam_to_hollow_column"}, support={"section": "HSS8X8X3/8", "grade": "A500C"}
    )
    assert hollow_girder["status"] != "unchecked"
    assert "does not go with" in refused(GIRDER, support={"section": "HSS8X8X3/8", "grade": "A500C"})


def test_what_nobody_said_is_said():
    """The channel's side, the hollow rectangle's face, a top offset at a column."""
    channel = run(
        GIRDER,
        {"rows": 2, "cope_depth": "1-1/2 in", "first_bolt": "3-1/2 in"},
        support={"section": "MC18X58", "grade": "A36"},
        supported={"section": "W12X26", "grade": "A992"},
        actions=[{"name": "A", "V": "9 kip"}],
    )
    assert any("toe side is taken" in note for note in channel["notes"])
    rectangle = run(FLANGE, framing="beam_to_hollow_column", support={"section": "HSS12X6X1/2", "grade": "A500C"})
    assert any("which face of the hollow column is not said" in note for note in rectangle["notes"])
    assert any("as if it had none (Qf = 1)" in note for note in rectangle["notes"])
    assert any(
        "top offset: not used at a column" in note for note in run(FLANGE, geometry={"top_offset": "2 in"})["notes"]
    )


def test_faces_that_can_be_told_apart():
    find = {
        name: read_trial(data(FLANGE, **HOLLOW) | {"support": {"section": name, "grade": "A500C"}}).situation.support
        for name in ("HSS8X8X3/8", "HSS12X6X1/2")
    }
    assert (
        faces_of(find["HSS8X8X3/8"]) == ()
        and faces_of(find["HSS12X6X1/2"]) == ("long", "short")
        and faces_of(None) == ()
    )


def test_foundations():
    """What a base stands on is read whole: edges left out are without end."""
    found = read_foundation(
        {
            "kind": "pedestal",
            "fc": "4 ksi",
            "thickness": "24 in",
            "edges": {"along": ["12 in", None], "across": ["12 in", "20 in"]},
        }
    )
    assert (found.kind, found.fc, found.cracked) == ("pedestal", pytest.approx(27.58, rel=1e-3), True)
    assert found.along == (pytest.approx(304.8), np.inf) and found.across == (
        pytest.approx(304.8),
        pytest.approx(508.0),
    )
    for wrong, words in (
        ({"kind": "rock", "fc": "4 ksi", "thickness": "24 in"}, "'rock' is none of pedestal, footing, slab"),
        ({"kind": "slab", "fc": "4 in", "thickness": "24 in"}, "foundation.fc"),
        ({"kind": "slab", "fc": "4 ksi"}, "foundation.thickness: give one above 0"),
        (
            {"kind": "slab", "fc": "4 ksi", "thickness": "8 in", "edges": {"along": ["12 in"]}},
            "the minus and the plus side",
        ),
        ({"kind": "slab", "fc": "4 ksi", "thickness": "8 in", "edges": {"along": ["-1 in", "9 in"]}}, "above 0"),
        (
            {"kind": "slab", "fc": "4 ksi", "thickness": "8 in", "cracked": "no"},
            "foundation.cracked: write true or false",
        ),
        ({"kind": "slab", "fc": "4 ksi", "thickness": "8 in", "colour": "grey"}, "'colour' is not known"),
    ):
        with pytest.raises(InputError, match=words.replace("(", r"\(")):
            read_foundation(wrong)
