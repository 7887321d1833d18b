"""Column splices whatever their numbers: more load is never less used, turned over they are alike, odd ones are told;
of buildings where they stand."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from handrail.core.actions import Actions
from handrail.core.checking.batch import evaluate
from handrail.core.checking.trial import read_trial
from handrail.core.quantities.units import INCH, KIP
from tests.bundles import DEMO, plan_of
from tests.core.test_drawing import clashes
from tests.worked.sheet import data, run
from tests.worked.test_column_splice import SPLICE

VARIANTS = {
    "plates": {"web_plates": "both"},
    "one web plate": {"web_plates": "one", "rows": 3},
    "friction": {},
    "sawn": {"ends": "sawn", "ends_gap": "1/4 in", "web_plates": "both"},
    "grooves": {"flange_joint": "grooves", "web_plates": "both"},
}


def states(name: str):
    trial = read_trial(data(SPLICE, VARIANTS[name]))
    return trial.standard.strengths(trial.situation, trial.sizes, trial.code, False)


STATES = {name: states(name) for name in VARIANTS}
force, moment = st.floats(-100, 100), st.floats(-1500, 1500)


def acting(N, V, Vw, M, Mw) -> Actions:
    return Actions.of(np.array([[[N * KIP, V * KIP, Vw * KIP, M * KIP * INCH, Mw * KIP * INCH, 0]]]), ("x",))


@given(st.sampled_from(list(VARIANTS)), st.floats(-600, 200), force, force, moment, moment, st.floats(1.0, 3.0))
def test_more_load_is_never_less_used(name, N, V, Vw, M, Mw, more):
    one, two = (float(evaluate(STATES[name], acting(*(k * v for v in (N, V, Vw, M, Mw))))[0][0]) for k in (1.0, more))
    assert two >= one * (1 - 1e-9) - 1e-9


@given(st.sampled_from(list(VARIANTS)), st.floats(-600, 200), force, force, moment, moment)
def test_turned_over_it_is_alike(name, N, V, Vw, M, Mw):
    one = evaluate(STATES[name], acting(N, V, Vw, M, Mw))[0][0]
    assert evaluate(STATES[name], acting(N, -V, Vw, -M, Mw))[0][0] == pytest.approx(one, rel=1e-9)
    assert evaluate(STATES[name], acting(N, V, -Vw, M, -Mw))[0][0] == pytest.approx(one, rel=1e-9)


@pytest.mark.parametrize(
    ("parameters", "more", "status", "words"),
    [
        ({"ends_gap": "1/2 in"}, {}, "fail", "milled_ends_meet"),
        ({}, {"supported": {"section": "HSS8X8X1/2", "grade": "A500C"}}, "unchecked", "I-shapes"),
        ({"flange_gage": "9 in"}, {}, "fail", "flange_side_edge"),
        ({"flange_joint": "grooves", "groove_throat": "1/8 in"}, {}, "fail", "groove"),
        ({"flange_joint": "grooves", "groove_throat": "1 in"}, {}, "fail", "groove_within_flange"),
        ({}, {"actions": [{"name": "A", "N": "10 kip", "V": "1 kip"}]}, "fail", "contact_friction"),
        ({}, {"actions": [{"name": "A", "N": "-10 kip", "T": "90 kip*in"}]}, "fail", "uncarried_T"),
    ],
)
def test_what_cannot_stand_never_passes(parameters, more, status, words):
    answer = run(SPLICE, parameters, **more)
    assert answer["status"] == status and words in answer["reason"], answer["reason"]


@pytest.mark.parametrize("name", list(VARIANTS))
def test_it_is_drawn_without_a_clash(name):
    trial = read_trial(data(SPLICE, VARIANTS[name]))
    for system in ("us", "si"):
        views = trial.standard.draw(trial.situation, trial.sizes, system).views
        assert [said for view in views for said in clashes(view)] == []


def test_splices_of_the_demo_stand_over_their_floor():
    """Spliced 4 ft over level 2, where beams end: 48 in., with sections of unequal depth; of columns of the lateral
    system nothing is said without overstrength combinations."""
    plan = plan_of(DEMO / "bundle")
    splices = [a for a in plan.assigned if a.connection.framing == "column_splice"]
    assert len(splices) == 35 and all(a.situation.above_floor == pytest.approx(48 * INCH, abs=0.5) for a in splices)
    assert all(a.situation.storey == pytest.approx(14 * 12 * INCH, abs=0.5) for a in splices)
    assert {(a.situation.supported.section.name, a.situation.carrier.section.name) for a in splices} == {
        ("W14X61", "W14X90"),
        ("W14X74", "W14X109"),
    }
