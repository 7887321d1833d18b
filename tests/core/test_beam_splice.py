"""Beam splices whatever their numbers: more load is never less used, turned over they are alike, odd ones are told,
sizing climbs."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from handrail.core.actions import Actions
from handrail.core.checking.batch import Batch, Family
from handrail.core.checking.connection import check
from handrail.core.checking.trial import read_trial
from handrail.core.errors import InputError
from handrail.core.quantities.lines import NULL
from handrail.core.quantities.units import INCH, KIP
from handrail.core.standards import STANDARDS
from handrail.core.standards.beam_splice.layout import Layout
from handrail.core.standards.sizes import Sized
from tests.core.test_drawing import clashes
from tests.worked.sheet import data, run
from tests.worked.test_beam_splice import INSIDE, SPLICE, WEB

UNEQUAL = {"support": {"section": "W21X62", "grade": "A992"}}
VARIANTS = {
    "flange": (SPLICE, {}, {}),
    "inside": (SPLICE, INSIDE, {}),
    "slip": (SPLICE, {"tightening": "slip_b"}, {}),
    "unequal": (SPLICE, {"fillers": "developed"}, UNEQUAL),
    "web": (WEB, {}, {}),
    "one plate, two lines": (WEB, {"web_plates": "one", "columns": 2}, {}),
}


def states(name: str):
    base, parameters, more = VARIANTS[name]
    trial = read_trial(data(base, parameters, **more))
    return trial.standard.strengths(trial.situation, trial.sizes, trial.code, False)


STATES = {name: states(name) for name in VARIANTS}


def acting(N, V, M) -> Actions:
    return Actions.of(np.array([[[N * KIP, V * KIP, 0, M * KIP * INCH, 0, 0]]]), ("x",))


force, moment = st.floats(-150, 150), st.floats(-4000, 4000)


@given(st.sampled_from(list(VARIANTS)), force, force, moment, st.floats(1.0, 3.0))
def test_more_load_is_never_less_used(name, N, V, M, more):
    for state in STATES[name]:
        one, two = (float(state.utilisation(a)[0, 0]) for a in (acting(N, V, M), acting(N * more, V * more, M * more)))
        assert two >= one - 1e-9, state.check


@given(st.sampled_from(list(VARIANTS)), force, force, moment)
def test_turned_over_it_is_alike(name, N, V, M):
    """V and M the other way up: the splice has no top nor bottom."""
    for state in STATES[name]:
        one, other = (float(state.utilisation(a)[0, 0]) for a in (acting(N, V, M), acting(N, -V, -M)))
        assert other == pytest.approx(one, rel=1e-9, abs=1e-12), state.check


@given(force, moment)
def test_flange_and_web_forces_add_up(N, M):
    """What both flanges and the web take of N is N; the couple of the flanges is M."""
    trial = read_trial(data(SPLICE))
    layout = Layout(trial.situation, trial.sizes)
    side, web = layout.flange(layout.pieces[0]), layout.web(layout.pieces[0])
    assert 2 * side.share + web.share == pytest.approx(1.0)
    pull, push = (float(v[0, 0]) for v in side.forces(acting(N, 0, M), side.bolt_lever))
    assert pull - push == pytest.approx(
        abs(pull - push) * np.sign(N) if min(pull, push) == 0 else 2 * side.share * N * KIP, rel=1e-6, abs=1.0
    )
    if min(pull, push) > 0:
        assert (pull + push) / 2 * side.bolt_lever == pytest.approx(abs(M) * KIP * INCH, rel=1e-9)


@pytest.mark.parametrize(
    ("base", "parameters", "more", "status", "words"),
    [
        (SPLICE, {}, {"support": {"section": "W12X26", "grade": "A992"}}, "unchecked", "too different"),
        (SPLICE, {}, {"support": {"section": "C15X33.9", "grade": "A36"}}, "unchecked", "I-shapes"),
        (SPLICE, {}, UNEQUAL, "fail", "fillers_developed"),
        (SPLICE, {"flange_gage": "8 in"}, {}, "fail", "flange_side_edge"),
        (SPLICE, {"flange_gage": "2 in"}, {}, "fail", "flange"),
        (SPLICE, {"flange_hole": "OVS"}, {}, "fail", "flange_oversized_in_bearing"),
        (SPLICE, INSIDE | {"inside_plate_width": "4.5 in"}, {}, "fail", "inner_plate_beside_fillet"),
        (SPLICE, {"rows": 8}, {}, "fail", "plate_between_fillets"),
        (WEB, {"rows": 1}, {}, "fail", "bolt_count"),
        (WEB, {"plate_depth": "6 in"}, {}, "unchecked", "end distance"),
        (WEB, {"beam_edge_distance": "0.7 in"}, {}, "fail", "beam_edge_distance"),
        (WEB, {}, {"actions": [{"name": "A", "V": "10 kip", "Vw": "5 kip"}]}, "fail", "uncarried_Vw"),
    ],
)
def test_what_cannot_stand_never_passes(base, parameters, more, status, words):
    answer = run(base, parameters, **more)
    assert answer["status"] == status and words in answer["reason"], answer["reason"]


def test_what_does_not_belong_is_refused():
    for wrong, words in (
        ({"geometry": {"skew": "5 deg"}}, "skew"),
        ({"framing": "column_splice"}, "beam_splice"),
        ({"support": None}, "support"),
    ):
        with pytest.raises(InputError, match=words):
            read_trial(data(SPLICE) | wrong)


@pytest.mark.parametrize("name", list(VARIANTS))
def test_it_is_drawn_without_a_clash(name):
    base, parameters, more = VARIANTS[name]
    trial = read_trial(data(base, parameters, **more))
    for system in ("us", "si"):
        views = trial.standard.draw(trial.situation, trial.sizes, system).views
        assert [said for view in views for said in clashes(view)] == []
        assert all(view.shapes for view in views)


def test_sizing_climbs_and_comes_down_again():
    """From the least sizes up to what passes; each alone one step less would not, and what is held stays."""
    trial = read_trial(data({**SPLICE, "parameters": {}}))
    standard = STANDARDS["beam_flange_splice"]
    given_sizes = standard.read({"flange_bolt": "7/8 A325-N"}, "rule")
    start = standard.complete(trial.situation, given_sizes)
    axes = standard.changing.axes(trial.situation, start, frozenset(given_sizes))
    assert "flange_bolt" not in axes
    frozen = tuple(
        (name, tuple(tuple(sorted((n, Sized(v, "rung")) for n, v in rung.items())) for rung in rungs))
        for name, rungs in axes.items()
    )
    family = Family(standard.name, trial.situation, tuple(sorted(given_sizes.items())), ((),), frozen, 0.95)
    table = np.array([[[20 * KIP, 60 * KIP, 0, M * KIP * INCH, 0, 0]] for M in (500, 3000, 5000, 60000)])
    outcomes = dict(
        Batch(trial.code, lambda k: Actions.of(table[k], ("x",), sets=(("LRFD", "strength"),))).run(
            {family: [0, 1, 2, 3]}
        )
    )
    rows = [int(outcomes[k].sizes["flange_rows"].value) for k in range(4)]
    assert (
        [outcomes[k].status for k in range(4)] == ["pass", "pass", "pass", "fail"]
        and rows[:3] == sorted(rows[:3])
        and rows[0] < rows[2]
    )
    assert all(outcomes[k].sizes["flange_bolt"].value == "7/8 A325-N" for k in range(4))
    fewer = standard.complete(
        trial.situation,
        {n: s for n, s in outcomes[2].sizes.items() if s.source != "geometry"}
        | {"flange_rows": Sized(rows[2] - 1, "rung")},
    )
    assert check(standard, trial.situation, fewer, trial.code, Actions.of(table[2], ("x",))).utilisation > 0.95


def test_the_page_shows_the_flange_force_that_is_checked():
    """Pieces whose tops are in line: N times the offset is in both."""
    trial = read_trial(data(SPLICE, {"fillers": "developed"}, **UNEQUAL))
    actions = acting(20, 0, 3000)
    flow = dict(trial.standard.figures(trial.situation, trial.sizes, trial.code, actions).parts)
    (state,) = (s for s in STATES["unequal"] if s.check == "flange_bolt_shear")
    demand = float(np.ravel(state.evaluate(actions, NULL)[0])[0])
    assert max(abs(flow["top flange"][0]), abs(flow["bottom flange"][0])) == pytest.approx(demand)
