"""A step down passes for all of those that are alike, saves something, and stays above what the shop has everywhere."""

from __future__ import annotations

from handrail.core.checking.reserve import step_down, worth_of
from handrail.core.checking.trial import read_trial
from handrail.core.standards.sizes import Sized
from tests.core.test_remedy import judged_by
from tests.worked.sheet import FLANGE, data


def attempt(parameters, shears, held=frozenset(), limit=1.0):
    trials = [read_trial(data(FLANGE, parameters, actions=[{"name": "A", "V": V}])) for V in shears]
    first = trials[0]
    given = {n: s for n, s in first.sizes.items() if s.source == "given"}

    judge = judged_by(*trials)
    return first, given, judge, step_down(first.standard, first.situation, given, held, judge, limit)


def test_what_is_left_passes_and_nothing_less_would():
    """3/8 in. where 1/4 in. has 52.2 kip in four rows; three bolts have 47.7 kip, two 31.8."""
    trial, given, judge, found = attempt({"rows": 4, "plate_thickness": "3/8 in"}, ["36 kip"])
    changes = dict(found.changes)
    assert changes["rows"] == 3
    sizes = trial.standard.complete(trial.situation, given | {n: Sized(v, "remedy") for n, v in found.changes})
    left = judge(sizes)
    assert left.use.max() <= 1 and not left.broken and found.utilisation == left.use.max()
    one_less = trial.standard.complete(
        trial.situation,
        given | {n: Sized(v, "remedy") for n, v in found.changes} | {"rows": Sized(changes["rows"] - 1, "remedy")},
    )
    worse = judge(one_less)
    assert worse.use.max() > 1 or worse.broken


def test_the_worst_of_all_counts():
    *_, light = attempt({"rows": 4, "plate_thickness": "3/8 in"}, ["20 kip"])
    *_, both = attempt({"rows": 4, "plate_thickness": "3/8 in"}, ["20 kip", "50 kip"])
    assert worth_of(both.saves, 1) < worth_of(light.saves, 1) and both.utilisation > light.utilisation


def test_what_is_held_and_the_target_stay():
    *_, found = attempt(
        {"rows": 4, "plate_thickness": "3/8 in"}, ["30 kip"], held=frozenset({"rows", "plate_thickness"})
    )
    assert found.changes == () and worth_of(found.saves, 1) == 0
    *_, found = attempt({"rows": 4, "plate_thickness": "3/8 in"}, ["30 kip"], limit=0.7)
    assert found.utilisation <= 0.7


def test_it_saves_what_the_pieces_weigh():
    """Of the plate, only its thickness less: 1/8 x 4.25 x 11.5 in. of steel, if nothing else is changed."""
    trial, given, _, found = attempt({"rows": 4, "plate_thickness": "3/8 in"}, ["50 kip"])
    assert [n for n, _ in found.changes] == ["plate_thickness"]
    before = trial.standard.quantities(trial.situation, trial.standard.complete(trial.situation, given))
    assert abs(found.saves["steel"] - before.steel / 3) < 1e-3 and found.saves["field_bolts"] == 0
