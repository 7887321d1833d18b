"""What is not a number fails safe: it is unchecked, whatever else passes, alone and in a batch."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from handrail.core.actions import Actions
from handrail.core.checking.batch import Batch, Family, evaluate
from handrail.core.checking.connection import check
from handrail.core.checking.trial import read_trial
from handrail.core.codes import code
from handrail.core.limit_state import LimitState, ratio
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import Sized
from tests.worked.sheet import FLANGE, GIRDER, data

NAN = float("nan")


def table(V: list[float], N: float = 0.0) -> np.ndarray:
    """(1, combinations, 6) with V as given."""
    found = np.zeros((1, len(V), 6))
    found[0, :, 1], found[0, :, 0] = V, N
    return found


def broken(demand, strength) -> LimitState:
    return LimitState("broken", "plate", "J4", "force", lambda actions, t: (demand, strength), unknown="fed a NaN")


@pytest.mark.parametrize(
    ("demand", "strength", "expected"),
    [
        (1.0, 2.0, 0.5),
        (0.0, 0.0, 0.0),
        (1.0, 0.0, np.inf),
        (NAN, 1.0, NAN),
        (1.0, NAN, NAN),
        (0.0, NAN, NAN),
        (NAN, 0.0, NAN),
    ],
)
def test_ratio(demand, strength, expected):
    assert ratio(demand, strength) == pytest.approx(expected, nan_ok=True)


@pytest.mark.parametrize("where", ["demand", "strength"])
@pytest.mark.parametrize("at", [0, 1, 2])
def test_a_nan_in_any_combination_is_found(where, at):
    actions = Actions.of(table([1e3, 2e3, 3e3]), ("a", "b", "c"))
    values = np.ones((1, 3))
    values[0, at] = NAN
    state = broken(values, 1e6) if where == "demand" else broken(np.ones((1, 3)), values)
    sound = LimitState("sound", "plate", "J4", "force", lambda actions, t: (actions.shear, 1e9))
    for states in ([state, sound], [sound, state]):
        use, which, combination = evaluate(states, actions)
        assert np.isnan(use[0]) and states[which[0]] is state and combination[0] == at


def test_a_batch_leaves_it_unchecked_with_the_reason(monkeypatch):
    trial = read_trial(data(FLANGE))
    given = tuple((n, Sized(s.value, s.source)) for n, s in sorted(trial.sizes.items()) if s.source == "given")
    family = Family("single_plate", trial.situation, given, ((),))
    states = trial.standard.strengths
    fed = replace(trial.standard, strengths=lambda *a: [*states(*a), broken(np.array(1.0), NAN)])
    monkeypatch.setitem(STANDARDS, "single_plate", fed)
    batch = Batch(code(), lambda k: Actions.of(np.repeat(table([10e3, 20e3]), len(k), axis=0), ("a", "b")))
    outcomes = dict(batch.run({family: [0, 1]}))
    assert [o.status for o in outcomes.values()] == ["unchecked", "unchecked"]
    assert all(o.reason == "broken: fed a NaN" for o in outcomes.values())
    alone = check(fed, trial.situation, trial.sizes, code(), Actions.of(table([10e3]), ("a",)))
    assert (alone.status, alone.reason) == ("unchecked", "broken: fed a NaN")


@given(st.sampled_from(["N", "V", "Vw", "M", "Mw", "T"]), st.integers(0, 2))
def test_missing_forces_never_pass(component, at):
    trial = read_trial(data(GIRDER))
    values = table([1e3, 2e3, 3e3])
    values[0, at, ("N", "V", "Vw", "M", "Mw", "T").index(component)] = NAN
    found = check(trial.standard, trial.situation, trial.sizes, trial.code, Actions.of(values, ("a", "b", "c")))
    assert found.status == "unchecked" and found.reason
    family = Family("single_plate", trial.situation, (), ((),))
    outcome = dict(Batch(trial.code, lambda k: Actions.of(values, ("a", "b", "c"))).run({family: [0]}))[0]
    assert outcome.status == "unchecked" and "forces" in outcome.reason


def test_a_limit_state_without_its_combinations_is_unchecked():
    """Concrete asks for LRFD strength combinations; an ASD job that has none leaves it unchecked, and says so."""
    state = LimitState(
        "breakout",
        "anchors",
        "17.6",
        "force",
        lambda actions, t: (actions.shear, 1e9),
        code="ACI 318-19",
        method="LRFD",
        sets=("strength",),
    )
    asd = Actions.of(table([1e3, 9e3]), ("a", "b"), sets=(("ASD", "strength"), ("ASD", "strength")))
    both = Actions.of(
        table([1e3, 2e3, 9e3]),
        ("a", "b", "c"),
        sets=(("ASD", "strength"), ("LRFD", "strength"), ("LRFD", "overstrength")),
    )
    assert np.isnan(evaluate([state], asd)[0][0])
    use, _, at = evaluate([state], both)
    assert (use[0], at[0]) == (pytest.approx(2e-6), 1)  # only the second is its own
    assert state.no_combinations == "breakout needs strength combinations of LRFD"
