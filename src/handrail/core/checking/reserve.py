"""The way down from connections with much in reserve: what less would still pass for all of some that are alike, and
which parts hardly work."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.checking.batch import Batch, Family
from handrail.core.checking.connection import limit_states
from handrail.core.checking.remedy import PRICES, Changes, Judged
from handrail.core.errors import InputError
from handrail.core.joint.situation import Situation
from handrail.core.limit_state import Peaks
from handrail.core.standards import STANDARDS, Standard
from handrail.core.standards.sizes import Sized, Sizes, Value

STEPS, IDLE = 12, 0.05  # steps down at most; a part whose every check is under this share hardly works
OF_MEMBERS = ("support", "web", "flange", "member", "concrete")  # parts that nobody could leave out


@dataclass(frozen=True)
class Reserve:
    """Of connections that are alike: what to change, the worst utilisation then, what one of them saves (steel and weld
    in kg, bolts; empty where that is not counted), and the parts of which less than `IDLE` is used as they stand."""

    changes: Changes
    utilisation: float
    saves: dict[str, float]
    idle: tuple[str, ...]


def step_down(
    standard: Standard,
    situation: Situation,
    given: Sizes,
    held: frozenset[str],
    judge: Callable[[Sizes], Judged],
    limit: float,
    least: Iterable[tuple[str, Sized]] = (),
) -> Reserve:
    """Sizes lessened one step at a time, each time the one that saves most, as long as all of them pass under `limit`;
    `held` ones stay, none goes below the least that the standard sizes with, or that is asked for, and the bolt stays
    the shop's."""
    floor = _least(standard, situation)
    for name, size in least:
        if isinstance(size.value, str):
            held |= {name}  # a formula: as it came out
        else:
            floor[name] = max(size.value, floor.get(name, size.value))
    base = standard.complete(situation, given)
    now, taken, use = base, dict[str, Sized](), float(judge(base).use.max())
    for _ in range(STEPS):
        tries = []
        for move in standard.changing.moves:
            for value in () if move.odd or move.parameter in held else move.less(now, situation.shop):
                if _under(value, floor.get(move.parameter, value)):
                    continue
                try:
                    sizes = standard.complete(situation, given | taken | {move.parameter: Sized(value, "remedy")})
                except InputError:
                    continue
                judged = judge(sizes)
                worst = float(judged.use.max())
                if not judged.broken and worst <= limit:
                    tries.append(
                        (_worth(_saved(standard, situation, now, sizes)), -worst, move.parameter, value, sizes)
                    )
        better = [one for one in tries if one[0] > 0]
        if not better:
            break
        _, worst, name, value, now = max(better, key=lambda one: one[:2])
        taken[name], use = Sized(value, "remedy"), -worst
    return Reserve(tuple((n, s.value) for n, s in taken.items()), use, _saved(standard, situation, base, now), ())


def _least(standard: Standard, situation: Situation) -> dict[str, Value]:
    """The least value of each size: what the standard has where nobody says, or a ladder of its own begins with."""
    start = standard.complete(situation, {})
    least = {name: size.value for name, size in start.items()}
    rungs = standard.changing.ladder(situation, start, frozenset())
    if standard.changing.axes is not None:
        rungs = [rung for steps in standard.changing.axes(situation, start, frozenset()).values() for rung in steps]
    for rung in rungs:
        for name, value in rung.items():
            if not isinstance(value, str) and _under(value, least.get(name, value)):
                least[name] = value
    return least


def _under(value: Value, least: Value) -> bool:
    return not isinstance(value, str) and not isinstance(least, str) and value < least - 1e-6


def _saved(standard: Standard, situation: Situation, one: Sizes, other: Sizes) -> dict[str, float]:
    a, b = standard.quantities(situation, one), standard.quantities(situation, other)
    return {
        name: round(getattr(a, name) - getattr(b, name), 4) for name in ("steel", "weld", "field_bolts", "shop_bolts")
    }


def _worth(saved: dict[str, float]) -> float:
    return sum(PRICES[name] * amount for name, amount in saved.items())


def idle_parts(batch: Batch, family: Family, sizes: Sizes, actions: Actions) -> tuple[str, ...]:
    """The parts of which no check reaches `IDLE` for any of the connections."""
    most: dict[str, float] = {}
    for state in limit_states(STANDARDS[family.standard], family.situation, sizes, batch.code):
        if not state.limit and state.part not in OF_MEMBERS:
            worst, _ = state.worst(actions, Peaks())
            most[state.part] = max(most.get(state.part, 0.0), float(np.max(np.nan_to_num(worst, nan=1.0))))
    return tuple(part for part, use in most.items() if use < IDLE)


def worth_of(saves: dict[str, Any], count: int) -> float:
    """What that many save, by the prices of remedies."""
    return count * _worth(saves)
