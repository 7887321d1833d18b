"""A run, a page and a trial come to the same: each connection of the demo as the batch has it, checked by itself, and
written as a trial and read in again."""

from __future__ import annotations

import numpy as np
import pytest

from handrail.core.checking.batch import evaluate
from handrail.core.checking.colliding import COLLISION
from handrail.core.checking.connection import check, limit_states
from handrail.core.checking.trial import read_given, read_trial
from handrail.core.checking.trial.answering import answers, remedies
from handrail.core.checking.trial.writing import form, left_out
from handrail.core.rulebook.yaml import load
from handrail.core.standards import STANDARDS
from tests.bundles import DEMO, demo_sized, plan_of

EXAMPLES = DEMO.parents[2] / "docs" / "examples"


@pytest.fixture(scope="module")
def sized():
    """Connections of the demo with sizes: of each situation with each set of sizes the one that is used most and the
    one that is used least."""
    plan, found = plan_of(DEMO / "bundle"), {}
    for k, outcome in demo_sized().items():
        assigned = plan.assigned[k]
        if outcome.sizes and assigned.situation is not None and COLLISION not in outcome.broken:
            alike = id(assigned.situation), tuple((n, s.value) for n, s in outcome.sizes.items())
            found.setdefault(alike, []).append((outcome.utilisation, k, assigned, outcome))
    ends = [
        end
        for some in found.values()
        for end in {
            one[1]: one[1:] for one in (max(some, key=lambda one: one[0]), min(some, key=lambda one: one[0]))
        }.values()
    ]
    assert len(ends) > 120
    return plan, ends


def test_the_page_says_what_the_run_said(sized):
    plan, every = sized
    for _, assigned, outcome in every:
        looked = plan.look(assigned, outcome.sizes)
        key = assigned.connection.id
        assert looked.status == outcome.status, key
        assert looked.utilisation == pytest.approx(outcome.utilisation, rel=1e-9), key
        if looked.governing and outcome.utilisation:
            assert (looked.governing.check, looked.governing.action) == (outcome.check, outcome.action), key


@pytest.mark.parametrize("system", ["us", "si"])
def test_a_trial_of_it_is_the_same_connection(sized, system):
    plan, every = sized
    for k, assigned, outcome in every[:: 1 if system == "us" else 5]:
        standard, acting = STANDARDS[assigned.rule.use], plan.acting.actions(np.array([k])).only()
        written = form(plan.code, standard, assigned.situation, outcome.sizes, acting, system)
        assert left_out(written, assigned.situation) == []
        trial = read_trial(written)
        result = trial.run()
        assert result.status == outcome.status
        assert result.utilisation == pytest.approx(outcome.utilisation, rel=1e-5, abs=1e-6)


def test_a_combination_by_itself_goes_by_what_all_of_them_go_by():
    """A base with moment about one axis alone where it is bent most, about both in another combination: all of them by
    a plane of strain, looked at together or one by one."""
    data = load((EXAMPLES / "base.yaml").read_text())
    data["actions"] = [{"name": "one", "N": "-60 kip", "M": "260 kip*in"}]
    alone = read_trial(data).run()
    data["actions"].append({"name": "both", "N": "-60 kip", "M": "10 kip*in", "Mw": "10 kip*in"})
    trial = read_trial(data)
    together = trial.run()
    states = limit_states(trial.standard, trial.situation, trial.sizes, trial.code)
    use, which, at = evaluate(states, trial.actions.rows(np.newaxis))
    assert together.utilisation == pytest.approx(float(use[0]), rel=1e-12)
    assert (
        together.governing.check == states[which[0]].check and together.governing.action == trial.actions.names[at[0]]
    )
    data["parameters"]["bearing_method"] = "strain"
    assert together.utilisation == pytest.approx(read_trial(data).run().utilisation, rel=1e-9)
    assert (
        check(trial.standard, trial.situation, trial.sizes, trial.code, trial.actions).utilisation != alone.utilisation
    )


@pytest.mark.parametrize("example", ["trial", "angles", "base"])
def test_what_is_sized_passes_and_keeps_what_is_held(example):
    """Every answer passes under its target when it is read in as a trial; what is held, and what no ladder climbs,
    stays; more load never makes the lightest lighter."""
    data = load((EXAMPLES / f"{example}.yaml").read_text())
    held = frozenset({"bolt", "rod"})
    found = answers(read_given(data), held, 0.9)
    assert found and all(one.passes and one.utilisation <= 0.9 for one in found)
    for one in found:
        standard = read_given(data).standard
        parameters = {name: standard.parameter(name).given(one.sizes[name].value) for name in one.chosen}
        for name, size in read_given(data).sizes.items():
            if name in held or name not in {n for n, s in one.chosen.items() if s.source == "rung"}:
                assert one.chosen[name].value == size.value
        again = read_trial(data | {"parameters": parameters}).run()
        assert again.status == "pass" and again.utilisation == pytest.approx(one.utilisation, rel=1e-9)
    named = {name: one for one in found for name in one.names}
    assert named["lightest"].takes.steel <= min(one.takes.steel for one in found) + 1e-9
    looser = {name: one for one in answers(read_given(data), held, 1.0) for name in one.names}
    assert looser["lightest"].takes.steel + looser["lightest"].takes.weld <= (
        named["lightest"].takes.steel + named["lightest"].takes.weld + 1e-9
    )


def test_what_would_make_it_pass_does():
    data = load((EXAMPLES / "trial.yaml").read_text())
    assert remedies(read_given(data), 1.0) == []  # it passes
    data["actions"][0]["V"] = "70 kip"
    given = read_given(data)
    assert given.sized().run().status == "fail"
    found = remedies(given, 1.0)
    assert found
    for remedy in found:
        changes = {name: given.standard.parameter(name).given(value) for name, value in remedy.changes}
        again = read_trial(data | {"parameters": data["parameters"] | changes}).run()
        assert again.status == "pass" and again.utilisation == pytest.approx(remedy.utilisation, rel=1e-9)


def test_places_that_share_a_connection_are_sized_together():
    data = load((EXAMPLES / "trial.yaml").read_text())
    data["actions"] = {"north": [{"name": "a", "V": "30 kip"}], "south": [{"name": "a", "V": "55 kip"}]}
    together = answers(read_given(data), frozenset({"bolt"}), 0.95)
    data["actions"] = data["actions"]["south"]
    worst = answers(read_given(data), frozenset({"bolt"}), 0.95)
    assert [a.utilisation for a in together] == pytest.approx([a.utilisation for a in worst])
