"""The family that one connection is sized or verified in: its standard, where it sits, what is given, what may vary."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from handrail.core.checking.assigning import Assigned
from handrail.core.checking.batch import Family
from handrail.core.errors import InputError
from handrail.core.joint.situation import Situation
from handrail.core.rulebook import Rulebook
from handrail.core.standards import STANDARDS, Standard
from handrail.core.standards.sizes import Sized, Sizes

FOLLOWS = ("geometry", "default")  # sources of sizes that come of themselves


def chosen_of(sizes: Sizes) -> Sizes:
    """Those that somebody, a rule or another connection's bolts asked for; the rest follows from them."""
    return {n: s for n, s in sizes.items() if s.source not in FOLLOWS}


def standing(assigned: Assigned, sizes: Sizes, decided: Mapping[str, Any]) -> Family | None:
    """The family of a connection with `sizes` as they stand, and what people `decided`; None where no standard is on
    it."""
    if assigned.rule is None or assigned.situation is None or assigned.reason:
        return None
    standard = STANDARDS[assigned.rule.use]
    own = _overrides(standard, decided)
    known = {p.name for p in standard.parameters}
    given = {n: s for n, s in chosen_of(sizes).items() if n in known} | own
    return Family(standard.name, assigned.situation, frozen(given), ((),))


def sizing(rulebook: Rulebook, assigned: Assigned, decided: Mapping[str, Any]) -> Family | None:
    """The family that a connection's rule and what people `decided` make of it: its ladder, or the axes that its sizes
    climb."""
    if assigned.rule is None or assigned.situation is None or assigned.reason:
        return None
    rule, situation, standard = assigned.rule, assigned.situation, STANDARDS[assigned.rule.use]
    own = _overrides(standard, decided)
    base = rule.base if rule.base is not None else rulebook.practice.get(standard.name, {}) | rule.set
    held = rule.held | frozenset(own)
    try:
        start = standard.complete(situation, base | own)
    except InputError:  # a formula without a value: the batch says so
        return Family(standard.name, situation, frozen(base | own), ((),))
    if rule.ladder is None and standard.changing.axes is not None:
        axes = standard.changing.axes(situation, start, held)
        climbed = {n for rungs in axes.values() for rung in rungs for n in rung}
        given = {n: s for n, s in base.items() if n not in climbed} | own
        steps = tuple((name, tuple(frozen(_rung(rung)) for rung in rungs)) for name, rungs in axes.items())
        return Family(standard.name, situation, frozen(given), ((),), steps)
    if rule.ladder is None:
        rungs = [_rung(rung) for rung in standard.changing.ladder(situation, start, held)]
    else:
        said = own.keys() | rule.set.keys()  # no rung changes these
        left = tuple({n: s for n, s in rung.items() if n not in said} for rung in rule.ladder.rungs)
        rungs = replace(rule.ladder, rungs=left).ordered(standard, situation, base | own)
    return _laddered(standard, situation, base, own, rungs)


def _laddered(standard: Standard, situation: Situation, base: Sizes, own: Sizes, rungs: list[Sizes]) -> Family:
    climbed = {n for rung in rungs for n in rung}
    given = {n: s for n, s in base.items() if n not in climbed} | own
    lower = {n: s for n, s in base.items() if n in climbed and n not in own}
    return Family(standard.name, situation, frozen(given), tuple(frozen(lower | rung) for rung in rungs))


def _overrides(standard: Standard, decided: Mapping[str, Any]) -> Sizes:
    known = {p.name for p in standard.parameters}
    return {n: Sized(v, "override") for n, v in decided.items() if n in known}


def _rung(rung: Mapping[str, Any]) -> Sizes:
    return {n: Sized(v, "rung") for n, v in rung.items()}


def frozen(sizes: Sizes) -> tuple[tuple[str, Sized], ...]:
    """Sizes as a family keeps them."""
    return tuple(sorted(sizes.items()))
