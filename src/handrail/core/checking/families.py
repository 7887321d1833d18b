"""The family that one connection is sized or verified in: its standard, where it sits, what is given, what may vary."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from handrail.core.checking.assigning import Assigned
from handrail.core.checking.batch import Family, Rungs
from handrail.core.errors import InputError
from handrail.core.quantities.units import CORE_UNITS
from handrail.core.rulebook import Rulebook
from handrail.core.standards import STANDARDS, Standard
from handrail.core.standards.formulas import USUAL
from handrail.core.standards.sizes import Sized, Sizes

FOLLOWS = ("geometry", "default")  # sources of sizes that come of themselves


def chosen_of(sizes: Sizes) -> Sizes:
    """Those that somebody, a rule or another connection's bolts asked for; the rest follows from them."""
    return {n: s for n, s in sizes.items() if s.source not in FOLLOWS}


def target_of(rulebook: Rulebook, assigned: Assigned) -> float:
    """What sizing a connection aims at, by also-rules, its rule, its standard, the whole rulebook."""
    own = assigned.rule.target if assigned.rule else None
    return rulebook.target if own is None else own


def standing(rulebook: Rulebook, assigned: Assigned, sizes: Sizes, decided: Mapping[str, Any]) -> Family | None:
    """The family of a connection with `sizes` as they stand, and what people `decided`; None where no standard is on
    it."""
    if assigned.rule is None or assigned.situation is None or assigned.reason:
        return None
    standard = STANDARDS[assigned.rule.use]
    own = _overrides(standard, decided)
    known = {p.name for p in standard.parameters}
    given = {n: s for n, s in chosen_of(sizes).items() if n in known} | own
    return Family(standard.name, assigned.situation, frozen(given), ((),), target=target_of(rulebook, assigned))


def sizing(rulebook: Rulebook, assigned: Assigned, decided: Mapping[str, Any]) -> Family | None:
    """The family that a connection's rule and what people `decided` make of it: its ladder, or the axes that its sizes
    climb."""
    if assigned.rule is None or assigned.situation is None or assigned.reason:
        return None
    rule, situation, standard = assigned.rule, assigned.situation, STANDARDS[assigned.rule.use]
    own = _overrides(standard, decided)
    base = rule.base if rule.base is not None else rulebook.practice.get(standard.name, {}) | rule.set
    held = rule.held | frozenset(own)
    least = Least(standard, tuple((n, s) for n, s in rule.added.least if n not in own))
    target = target_of(rulebook, assigned)
    try:
        start = standard.complete(situation, least.raised(base, least.names) | own)
    except InputError:  # a formula without a value: the batch says so
        given = least.raised(base, least.names) | own
        return Family(standard.name, situation, frozen(given), ((),), target=target)
    if rule.ladder is None and standard.changing.axes is not None:
        axes = standard.changing.axes(situation, start, held)
        climbed = {n for rungs in axes.values() for rung in rungs for n in rung}
        given = least.raised({n: s for n, s in base.items() if n not in climbed}, least.names - climbed) | own
        steps = tuple((name, least.rungs(_rung(rung) for rung in rungs)) for name, rungs in axes.items())
        return Family(standard.name, situation, frozen(given), ((),), steps, target)
    if rule.ladder is None:
        rungs = [_rung(rung) for rung in standard.changing.ladder(situation, start, held)]
    else:
        said = own.keys() | rule.set.keys() | rule.added.over.keys()  # no rung changes these
        left = tuple({n: s for n, s in rung.items() if n not in said} for rung in rule.ladder.rungs)
        rungs = replace(rule.ladder, rungs=left).ordered(standard, situation, base | own)
    climbed = {n for rung in rungs for n in rung}
    given = least.raised({n: s for n, s in base.items() if n not in climbed}, least.names - climbed) | own
    lower = {n: s for n, s in base.items() if n in climbed and n not in own}
    whole = (least.raised(lower | rung, least.names & climbed) for rung in rungs)
    return Family(standard.name, situation, frozen(given), _once(whole), target=target)


@dataclass(frozen=True)
class Least:
    """What sizes of a standard have to be at least, by also-rules."""

    standard: Standard
    of: tuple[tuple[str, Sized], ...]

    @property
    def names(self) -> frozenset[str]:
        return frozenset(name for name, _ in self.of)

    def raised(self, sizes: Sizes, missing: Collection[str] = ()) -> Sizes:
        """Sizes as large as they have to be; those that are `missing` too, which follow from others then, unless that
        is too small."""
        own = dict(sizes)
        for name, least in self.of:
            if (now := own.get(name)) is not None:
                own[name] = self._larger(name, now, least)
            elif name in missing:
                own[name] = Sized(f"= max({USUAL}, {self._text(name, least)})", least.source)
        return own

    def rungs(self, rungs: Iterable[Sizes]) -> Rungs:
        """Steps of an axis, none of them too small."""
        return _once(self.raised(rung) for rung in rungs)

    def _larger(self, name: str, one: Sized, other: Sized) -> Sized:
        if isinstance(one.value, str) or isinstance(other.value, str):
            both = f"= max({self._text(name, one)}, {self._text(name, other)})"
            return Sized(both, f"{one.source}; at least by {other.source}")
        return other if one.value < other.value else one

    def _text(self, name: str, size: Sized) -> str:
        if isinstance(size.value, str):
            return f"({size.value.lstrip().removeprefix('=').strip()})"
        unit = CORE_UNITS.get(self.standard.parameter(name).kind, "")
        return f"{size.value:.9f}".rstrip("0").rstrip(".") + f" {unit}" if unit else str(size.value)


def _once(rungs: Iterable[Sizes]) -> Rungs:
    """Rungs as a family keeps them, each once."""
    return tuple(dict.fromkeys(frozen(rung) for rung in rungs))


def _overrides(standard: Standard, decided: Mapping[str, Any]) -> Sizes:
    known = {p.name for p in standard.parameters}
    return {n: Sized(v, "override") for n, v in decided.items() if n in known}


def _rung(rung: Mapping[str, Any]) -> Sizes:
    return {n: Sized(v, "rung") for n, v in rung.items()}


def frozen(sizes: Sizes) -> tuple[tuple[str, Sized], ...]:
    """Sizes as a family keeps them."""
    return tuple(sorted(sizes.items()))
