"""What would make connections pass as they stand, and what less of them would still pass; those alike at once."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from functools import partial

import numpy as np

from handrail.core.checking.batch import Family
from handrail.core.checking.families import chosen_of, frozen
from handrail.core.checking.plan import Plan
from handrail.core.checking.remedy import Found, Judge, Judged, find_remedies
from handrail.core.checking.reserve import Reserve, idle_parts, step_down
from handrail.core.errors import InputError
from handrail.core.progress import Progress, quiet
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import BY_OTHER_SIDE, Sized, Sizes

_Least = tuple[tuple[str, Sized], ...]


def remedies(plan: Plan, stood: Mapping[str, Sizes], beside: Mapping[str, Sizes] | None = None) -> dict[str, Found]:
    """The smallest changes that would make each of these connections, as they stand, pass under the target; those alike
    are tried at once. `beside` are the sizes of those that share bolts with them, which go along: what fails there is
    no remedy."""
    batch, by_key = plan.batch(), dict[str, Found]()
    for (family, held, _), keys in _alike(plan, stood).items():
        sharing = {key: [p for p in plan.partners(key) if p in (beside or {})] for key in keys}
        alone = [key for key in keys if not sharing[key]]
        for some in ([alone] if alone else []) + [[key] for key in keys if sharing[key]]:
            actions = batch.acted(family, np.array([plan.index[key] for key in some]))
            judge: Judge = partial(batch.judge, family, actions=actions)
            for partner in sharing[some[0]]:
                judge = partial(_with_partner, plan, some[0], partner, (beside or {})[partner], judge)
            given = dict(family.given)
            each = find_remedies(
                STANDARDS[family.standard], family.situation, given, held, judge, len(some), family.target
            )
            by_key |= dict(zip(some, each, strict=True))
    return by_key


def reserves(plan: Plan, stood: Mapping[str, Sizes], progress: Progress = quiet) -> list[tuple[list[str], Reserve]]:
    """What less would still pass for all of those among these connections that are alike, and the parts of them that
    hardly work; nothing of those that share their bolts with others."""
    batch, reserves = plan.batch(), []
    alone = {key: sizes for key, sizes in stood.items() if not plan.partners(key)}
    families = _alike(plan, alone)
    for number, ((family, held, least), keys) in enumerate(families.items()):
        progress(number, len(families))
        standard, given = STANDARDS[family.standard], dict(family.given)
        actions = batch.acted(family, np.array([plan.index[key] for key in keys]))
        judge = partial(batch.judge, family, actions=actions)
        down = step_down(standard, family.situation, given, held, judge, family.target, least)
        idle = idle_parts(batch, family, standard.complete(family.situation, given), actions)
        if down.changes or idle:
            reserves.append((keys, replace(down, idle=idle)))
    return reserves


def _alike(plan: Plan, stood: Mapping[str, Sizes]) -> dict[tuple[Family, frozenset[str], _Least], list[str]]:
    """Connections with the sizes that they stand with, those together that are the same piece of steel with the same
    decided by people and asked for at least."""
    alike: dict[tuple[Family, frozenset[str], _Least], list[str]] = {}
    for key, sizes in stood.items():
        assigned = plan.assigned[plan.index[key]]
        if assigned.rule is None or assigned.situation is None or assigned.reason:
            continue
        given = frozen(chosen_of(sizes))
        family = Family(assigned.rule.use, assigned.situation, given, ((),), target=plan.target([key]))
        least = tuple((n, s) for n, s in assigned.rule.added.least)
        alike.setdefault((family, frozenset(plan.decided(assigned)), least), []).append(key)
    return alike


def _with_partner(plan: Plan, key: str, partner: str, theirs: Sizes, judge: Judge, sizes: Sizes) -> Judged:
    """Sizes of a connection judged at its own end and, with the bolts that go along, at a partner's."""
    own = judge(sizes)
    if not plan.sharing.alike(key, partner) or own.broken or not own.use[0] <= 1.0:
        return own  # whatever is there
    one, other = (plan.assigned[plan.index[name]] for name in (key, partner))
    assert one.rule is not None and one.situation is not None and other.situation is not None
    standard, batch = STANDARDS[one.rule.use], plan.batch()
    if not standard.through(sizes):
        return own
    asked = (
        standard.opposite(one.situation, sizes, other.situation)
        if "rows" in plan.sharing.common(key)
        else standard.aligned(one.situation, sizes, other.situation, standard.renewed(other.situation, theirs))
    )
    given = chosen_of(theirs) | {n: Sized(v, BY_OTHER_SIDE) for n, v in asked.items()}
    family = Family(one.rule.use, other.situation, frozen(given), ((),))
    try:
        completed = standard.complete(other.situation, given)
        there = batch.judge(family, completed, batch.acted(family, np.array([plan.index[partner]])))
    except InputError:  # a formula that has no value with it
        return Judged(np.full(1, np.inf), own.check, own.broken)
    worse = bool(there.use[0] > own.use[0])
    return Judged(
        np.maximum(own.use, there.use),
        there.check if worse else own.check,
        tuple(dict.fromkeys((*own.broken, *there.broken))),
    )
