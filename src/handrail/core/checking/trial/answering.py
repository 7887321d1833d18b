"""Sizes for a trial: by the standard's own ladder to a target, some of them held; and what would make it pass that
fails. Of several places that share the connection, for all of them."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace

import numpy as np

from handrail.core.actions import Actions
from handrail.core.checking.batch import Batch, Family
from handrail.core.checking.families import frozen
from handrail.core.checking.remedy import Judged, Remedy, find_remedies
from handrail.core.checking.trial.trial import Given
from handrail.core.errors import InputError
from handrail.core.progress import Progress, quiet
from handrail.core.standards.quantities import Quantities
from handrail.core.standards.sizes import NOT_CHOSEN, Sized, Sizes, Value

MOST = 400  # rungs that are tried
FIRST, LIGHTEST, FEWEST = "first of the ladder", "lightest", "fewest bolts"


@dataclass(frozen=True)
class Answer:
    """One design: what it is among the others, the parameters that make it, all its sizes, how far it is used and by
    which check, whether it passes, what it takes."""

    names: tuple[str, ...]
    chosen: Sizes
    sizes: Sizes
    utilisation: float
    check: str
    passes: bool
    takes: Quantities


def answers(given: Given, held: frozenset[str], target: float, progress: Progress = quiet) -> list[Answer]:
    """Designs under `target` with the `held` of its sizes as they are given: the first that the standard's ladder has,
    the lightest, the one with the fewest bolts. Where none passes the one that is used least. Raises InputError."""
    every = [_answer(given, chosen, target) for chosen in _candidates(given, held, target, progress)]
    found = [answer for answer in every if answer is not None]
    passing = [answer for answer in found if answer.passes]
    if not passing:
        return [replace(min(found, key=lambda a: a.utilisation), names=("nearest",))] if found else []
    best = {
        FIRST: passing[0],
        LIGHTEST: min(passing, key=lambda a: (a.takes.steel + a.takes.weld, _bolts(a.takes))),
        FEWEST: min(passing, key=lambda a: (_bolts(a.takes), a.takes.steel + a.takes.weld)),
    }
    listed: list[Answer] = []
    for name, answer in best.items():
        same = next((k for k, one in enumerate(listed) if one.chosen == answer.chosen), None)
        if same is None:
            listed.append(replace(answer, names=(name,)))
        else:
            listed[same] = replace(listed[same], names=(*listed[same].names, name))
    return listed


def remedies(given: Given, target: float) -> list[Remedy]:
    """The changes of its sizes that make it pass at every place, one before two, the cheapest first. Raises
    InputError."""
    sizes = given.sized().sizes
    chosen = {name: size for name, size in sizes.items() if size.source not in NOT_CHOSEN}
    actions = acted(given, chosen)

    def judge(tried: Sizes) -> Judged:
        own = _judged(given, tried, actions)
        worst = int(np.nanargmax(own.use))
        return Judged(own.use[worst : worst + 1], (own.check[worst],), own.broken)

    return find_remedies(given.standard, given.situation, chosen, frozenset(), judge, 1, target)[0].remedies


def acted(given: Given, chosen: Sizes) -> Actions:
    """(places, combinations) of its actions, with what the sizes ask of them besides."""
    actions = given.actions if given.actions.V.ndim > 1 else given.actions.rows(np.newaxis)
    sizes = given.standard.complete(given.situation, chosen)
    return given.standard.acted(given.situation, sizes, given.code, actions)


def _judged(given: Given, sizes: Sizes, actions: Actions) -> Judged:
    family = Family(given.standard.name, given.situation, (), ((),))
    return Batch(given.code, lambda indices: actions).judge(family, sizes, actions)


def _candidates(given: Given, held: frozenset[str], target: float, progress: Progress) -> Iterator[Sizes]:
    """What the standard's ladder tries, on top of what is held and of what it does not climb; of one that climbs step
    by step what each place comes to."""
    standard, situation = given.standard, given.situation
    start = standard.complete(situation, given.sizes)
    if standard.changing.axes is not None:
        axes = standard.changing.axes(situation, start, held)
        climbed = {n for rungs in axes.values() for rung in rungs for n in rung} - held
        base = {name: size for name, size in given.sizes.items() if name not in climbed}
        steps = tuple((n, tuple(frozen(_rung(rung, held)) for rung in rungs)) for n, rungs in axes.items())
        family = Family(standard.name, situation, frozen(base), ((),), steps, target)
        actions = given.actions if given.actions.V.ndim > 1 else given.actions.rows(np.newaxis)
        outcomes = Batch(given.code, actions.rows).run({family: list(range(len(actions.V)))})
        for _, outcome in sorted(outcomes, key=lambda one: -one[1].utilisation):
            yield base | {name: size for name, size in outcome.sizes.items() if name in climbed}
        return
    rungs = standard.changing.ladder(situation, start, held)[:MOST]
    climbed = {n for rung in rungs for n in rung} - held
    base = {name: size for name, size in given.sizes.items() if name not in climbed}
    for number, rung in enumerate(rungs):
        progress(number, len(rungs))
        yield base | _rung(rung, held)


def _rung(rung: Mapping[str, Value], held: frozenset[str]) -> Sizes:
    return {n: Sized(v, "rung") for n, v in rung.items() if n not in held}


def _answer(given: Given, chosen: Sizes, target: float) -> Answer | None:
    """None where these sizes cannot be, or are not judged."""
    try:
        sizes = given.standard.complete(given.situation, chosen)
        actions = acted(given, chosen)
    except InputError:
        return None
    judged = _judged(given, sizes, actions)
    takes = given.standard.quantities(given.situation, sizes)
    worst = int(np.nanargmax(judged.use))
    use = float(judged.use[worst])
    if not np.isfinite(use):
        return None
    return Answer((), chosen, sizes, use, judged.check[worst], use <= target and not judged.broken, takes)


def _bolts(takes: Quantities) -> int:
    return takes.field_bolts + takes.shop_bolts + takes.rods
