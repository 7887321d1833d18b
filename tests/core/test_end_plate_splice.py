"""Hollow columns joined by end plates whatever their numbers: more load is never less used, odd ones are told, drawn
without a clash."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from handrail.core.actions import Actions
from handrail.core.checking.batch import evaluate
from handrail.core.checking.trial import read_trial
from handrail.core.quantities.units import INCH, KIP
from tests.core.test_drawing import clashes
from tests.worked.sheet import data, run
from tests.worked.test_end_plate_splice import SPLICE


@pytest.mark.parametrize(
    ("parameters", "more", "status", "words"),
    [
        ({}, {"supported": {"section": "HSS6X6X3/8", "grade": "A500C"}}, "unchecked", "different size"),
        ({}, {"support": {"section": "W8X31", "grade": "A992"}}, "unchecked", "hollow"),
        ({"spacing_along": "8.5 in", "spacing_across": "8.5 in"}, {}, "fail", "bolt_tightening"),
        ({"plate_length": "12 in"}, {}, "fail", "edge_distance"),
        ({"plate_length": "40 in"}, {}, "fail", "max_edge_distance"),
        ({}, {"geometry": {"above_floor": "30 in"}}, "fail", "splice_above_floor"),
        (
            {},
            {"geometry": {"seismic": True}, "actions": [{"name": "E", "N": "1 kip", "set": "overstrength"}]},
            "unchecked",
            "lateral system",
        ),
        ({"plate_thickness": "1/4 in"}, {}, "fail", "bolt_tension"),
    ],
)
def test_what_cannot_stand_never_passes(parameters, more, status, words):
    answer = run(SPLICE, parameters, **more)
    assert answer["status"] == status and words in answer["reason"], answer["reason"]


STATES = read_trial(data(SPLICE)).standard.strengths(
    *(getattr(read_trial(data(SPLICE)), n) for n in ("situation", "sizes", "code")), False
)
force, moment = st.floats(-60, 60), st.floats(-400, 400)


@given(st.floats(-300, 100), force, force, moment, moment, st.floats(1.0, 3.0))
def test_more_load_is_never_less_used(N, V, Vw, M, Mw, more):
    def use(k):
        table = np.array([[[N * KIP, V * KIP, Vw * KIP, M * KIP * INCH, Mw * KIP * INCH, 0]]]) * k
        return float(evaluate(STATES, Actions.of(table, ("x",)))[0][0])

    assert use(more) >= use(1.0) * (1 - 1e-9) - 1e-9


@pytest.mark.parametrize("parameters", [{}, {"bolts_along": 3}, {"bolts_along": 3, "bolts_across": 3}])
def test_it_is_drawn_without_a_clash(parameters):
    trial = read_trial(data(SPLICE, parameters))
    for system in ("us", "si"):
        assert [
            said for view in trial.standard.draw(trial.situation, trial.sizes, system).views for said in clashes(view)
        ] == []
