"""A remedy passes when it is put in, is one change where one will do, and leaves what a person held."""

from __future__ import annotations

import numpy as np

from handrail.core.checking.connection import check
from handrail.core.checking.remedy import Judged, find_remedies, without_remedy
from handrail.core.checking.trial import read_trial
from handrail.core.standards.sizes import Sized
from tests.worked.sheet import FLANGE, data


def judged_by(*trials):
    """Sizes under the forces of trials that are alike."""
    first = trials[0]

    def judge(sizes):
        found = [check(first.standard, first.situation, sizes, first.code, t.actions) for t in trials]
        use = np.array([f.governing.counts if f.governing else np.inf for f in found])
        return Judged(
            use,
            tuple(f.governing.check if f.governing else "" for f in found),
            tuple(r.rule for r in found[0].detailing if not r.ok),
        )

    return judge


def tried(parameters, V, held=frozenset()):
    trial = read_trial(data(FLANGE, parameters, actions=[{"name": "A", "V": V}]))
    given = {n: s for n, s in trial.sizes.items() if s.source == "given"}
    judge = judged_by(trial)
    found = find_remedies(trial.standard, trial.situation, given, held, judge, 1)[0]
    return (
        trial,
        given,
        judge,
        found,
        lambda sizes: check(trial.standard, trial.situation, sizes, trial.code, trial.actions),
    )


def attempt(parameters, V, held=frozenset()):
    trial, given, _, found, look = tried(parameters, V, held)
    return trial, given, found.remedies[0] if found.remedies else None, look


def test_one_change_that_passes():
    """52.2 kip is the 1/4 in. plate's rupture; 56 kip needs 5/16 in. (65.3 kip); bolts have 63.6 kip."""
    trial, given, remedy, look = attempt({}, "56 kip")
    assert look(trial.sizes).status == "fail"
    assert [name for name, _ in remedy.changes] == ["plate_thickness"]
    sizes = trial.standard.complete(trial.situation, given | {n: Sized(v, "remedy") for n, v in remedy.changes})
    assert look(sizes).status == "pass"
    assert "plate_thickness to 5/16 in" in remedy.words(trial.standard)


def test_what_is_held_stays():
    _, _, remedy, _ = attempt({}, "56 kip", held=frozenset({"plate_thickness"}))
    assert remedy is None or all(name != "plate_thickness" for name, _ in remedy.changes)


def test_two_changes_where_one_will_not_do():
    _, _, remedy, _ = attempt({"rows": 4}, "75 kip")
    assert remedy is not None and len(remedy.changes) == 2


def test_no_remedy_for_a_beam_that_is_too_weak():
    assert attempt({}, "400 kip")[2] is None


def test_a_moment_that_no_size_carries():
    trial = read_trial(data(FLANGE, {}, actions=[{"name": "A", "V": "10 kip", "M": "20 kip*ft"}]))
    assert "carries M: release this end" in without_remedy(trial.run(), trial.standard)
    assert "no change" in without_remedy(read_trial(data(FLANGE, {}, actions=[{"V": "400 kip"}])).run(), trial.standard)


def test_remedies_are_ways_apart_the_cheapest_first():
    trial, given, judge, found, _ = tried({}, "56 kip")
    names = [frozenset(name for name, _ in r.changes) for r in found.remedies]
    assert len(found.remedies) > 1 and len(set(names)) == len(names)
    assert [r.cost for r in found.remedies] == sorted(r.cost for r in found.remedies)
    for remedy in found.remedies:
        judged = judge(
            trial.standard.complete(trial.situation, given | {n: Sized(v, "remedy") for n, v in remedy.changes})
        )
        assert judged.use[0] <= 1 and not judged.broken and judged.use[0] == remedy.utilisation
    assert not any(a < b for a in names for b in names)  # no change that does nothing beside one that does


def test_what_is_nearest_is_told_where_nothing_passes():
    trial, _, _, found, _ = tried({}, "400 kip")
    assert not found.remedies and found.nearest is not None and found.nearest[0] > 1
    words = without_remedy(trial.run(), trial.standard, found)
    assert "the nearest, " in words and f"at {found.nearest[0]:.2f}" in words


def test_what_passes_by_itself_has_no_remedy():
    """What fails it then is on the other side of a web: any change of its own would seem to help."""
    *_, found, _ = tried({}, "30 kip")
    assert found.passes and not found.remedies


def test_what_passes_over_the_target_has_a_remedy_that_comes_under_it():
    """50 of the plate's 52.2 kip is 0.958, over a target of 0.9: a pass; what is a remedy brings it under that, and no
    other change is one."""
    trial = read_trial(data(FLANGE, {}, actions=[{"name": "A", "V": "50 kip"}]))
    given = {n: s for n, s in trial.sizes.items() if s.source == "given"}
    judge = judged_by(trial)
    assert 0.9 < judge(trial.sizes).use[0] < 1.0
    found = find_remedies(trial.standard, trial.situation, given, frozenset(), judge, 1, target=0.9)[0]
    assert not found.passes and found.remedies
    for remedy in found.remedies:
        sizes = trial.standard.complete(trial.situation, given | {n: Sized(v, "remedy") for n, v in remedy.changes})
        assert judge(sizes).use[0] == remedy.utilisation <= 0.9
    none = find_remedies(
        trial.standard, trial.situation, given, frozenset(n for n in trial.sizes), judge, 1, target=0.9
    )[0]
    assert not none.remedies and "comes under the target 0.9" in without_remedy(
        trial.run(), trial.standard, none, target=0.9
    )
