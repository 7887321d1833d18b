"""A sweep: one connection tried over lists of values, in a stated order, to the first that passes or all of them."""

from __future__ import annotations

import multiprocessing
from collections.abc import Callable, Mapping
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.checking.batch import evaluate
from handrail.core.checking.connection import limit_states, why_unknown, without_forces
from handrail.core.checking.result import CEILING, broken_rule, over_strength
from handrail.core.checking.trial import Given, read_given
from handrail.core.codes.family import Code
from handrail.core.errors import InputError
from handrail.core.joint.situation import Situation
from handrail.core.progress import Progress, quiet
from handrail.core.quantities.words import said
from handrail.core.rulebook.ladders import ORDERS, Ladder, combined
from handrail.core.standards import Standard
from handrail.core.standards.quantities import Quantities
from handrail.core.standards.sizes import Sized, Sizes

MOST = 20_000  # candidates
WORTH = 150  # of them: fewer are tried sooner than a process starts
KEYS = ("values", "order", "stop")
STOPS = ("first", "all")


@dataclass(frozen=True)
class Asked:
    """What is to be tried: `rungs` in their order, the parameters that `vary`, and whether to stop at the `first` that
    passes."""

    rungs: tuple[Sizes, ...]
    vary: tuple[str, ...]
    order: str
    first: bool


@dataclass(frozen=True)
class Swept:
    """One candidate: its values of what varies, how it is judged, and what it is made of where its standard counts
    that."""

    number: int
    sizes: Sizes
    status: str
    utilisation: float
    check: str
    action: str
    reason: str
    made: Quantities | None


@dataclass(frozen=True)
class Sweep:
    """What was tried of `total` candidates; `winner` is the index of the first that passes, None where none does."""

    rows: tuple[Swept, ...]
    vary: tuple[str, ...]
    total: int
    winner: int | None


def read_asked(standard: Standard, node: Any) -> Asked:
    """The `sweep` of a file: values by parameter, order, and where to stop. Raises InputError."""
    if not isinstance(node, Mapping):
        raise InputError(
            "sweep: a mapping with values, like {values: [{rows: 3 .. 8}, {plate_thickness: [1/4 in, 3/8 in]}], order:"
            " lightest, stop: first}"
        )
    if unknown := [str(key) for key in node if key not in KEYS]:
        raise InputError(f"sweep: '{unknown[0]}' is not known; it takes {', '.join(KEYS)}")
    values = node.get("values")
    entries = [{name: value} for name, value in values.items()] if isinstance(values, Mapping) else values
    if (
        not isinstance(entries, list)
        or not entries
        or not all(isinstance(entry, Mapping) and entry for entry in entries)
    ):
        raise InputError("sweep.values: a list of parameters with their values, like - rows: 3 .. 8")
    order, stop = str(node.get("order", "as_written")), str(node.get("stop", "all"))
    if order not in ORDERS:
        raise InputError(f"sweep.order: '{order}' is none of {', '.join(ORDERS)}")
    if stop not in STOPS:
        raise InputError(f"sweep.stop: '{stop}' is none of {', '.join(STOPS)}")
    names = [str(name) for entry in entries for name in entry]
    if twice := [name for k, name in enumerate(names) if name in names[:k]]:
        raise InputError(f"sweep.values: {twice[0]} is there twice")
    try:
        rungs = combined(standard, [dict(entry) for entry in entries], MOST, "candidates")
    except InputError as exc:
        raise InputError(f"sweep.values: {exc.words}") from exc
    return Asked(
        tuple({n: Sized(v, "sweep") for n, v in rung.items()} for rung in rungs), tuple(names), order, stop == "first"
    )


def read_sweep(data: Any) -> tuple[Given, Asked]:
    """A sweep in parsed YAML or JSON: a trial, and what of it is to be tried. Raises InputError."""
    if not isinstance(data, Mapping) or "sweep" not in data:
        raise InputError("a sweep is a trial with an entry sweep besides, like sweep: {values: [{rows: 3 .. 8}]}")
    given = read_given({key: value for key, value in data.items() if key != "sweep"})
    return given, read_asked(given.standard, data["sweep"])


def run(
    standard: Standard,
    situation: Situation,
    base: Sizes,
    code: Code,
    actions: Actions,
    asked: Asked,
    cores: int = 1,
    progress: Progress = quiet,
) -> Sweep:
    """Every candidate on top of the `base` sizes, judged just as one connection by itself; all of them over as many
    `cores`, where that is faster. What `progress` raises ends it."""
    if actions.V.ndim == 1:
        actions = actions.rows(np.newaxis)
    rungs = Ladder(asked.rungs, asked.order).ordered(
        standard, situation, {n: s for n, s in base.items() if n not in asked.vary}
    )

    def tried(k: int) -> Swept:
        progress(k, len(rungs))
        swept = _tried(k + 1, standard, situation, base | rungs[k], code, actions)
        return replace(swept, sizes={n: swept.sizes[n] for n in asked.vary})

    if asked.first:
        rows = []
        for k in range(len(rungs)):
            rows.append(tried(k))
            if rows[-1].status == "pass":
                break
    else:
        rows = _over_cores(tried, len(rungs), cores)
    winner = next((k for k, row in enumerate(rows) if row.status == "pass"), None)
    return Sweep(tuple(rows), asked.vary, len(rungs), winner)


def _over_cores(tried: Callable[[int], Swept], count: int, cores: int) -> list[Swept]:
    """All candidates in their order, in processes of their own where there are enough of them."""
    if cores < 2 or count < WORTH or "fork" not in multiprocessing.get_all_start_methods():
        return [tried(k) for k in range(count)]
    with ProcessPoolExecutor(cores, multiprocessing.get_context("fork"), _begin, (tried,)) as pool:
        parts = list(pool.map(_part, [range(k, count, cores) for k in range(cores)]))
    rows = {k: row for part in parts for k, row in part}
    return [rows[k] for k in range(count)]


_trying: list[Callable[[int], Swept]] = []  # of a process of its own


def _begin(tried: Callable[[int], Swept]) -> None:
    _trying[:] = [tried]


def _part(numbers: range) -> list[tuple[int, Swept]]:
    return [(k, _trying[0](k)) for k in numbers]


def _tried(number: int, standard: Standard, situation: Situation, given: Sizes, code: Code, actions: Actions) -> Swept:
    """One candidate, judged as `check` would; only what governs is worked out in full."""
    try:
        sizes = standard.complete(situation, given)
    except InputError as exc:  # a formula without a value, or one that the parameter cannot have
        return Swept(number, given, "unchecked", 0.0, "", "", exc.words, None)
    examined = standard.examine(situation, sizes, code)
    if reasons := examined.unchecked or without_forces(situation, actions):
        return Swept(number, sizes, "unchecked", 0.0, "", "", "; ".join(reasons), None)
    acting = standard.acted(situation, sizes, code, actions)
    states = limit_states(standard, situation, sizes, code)
    use, which, at = evaluate(states, acting)
    place = int(np.argmax(use))  # NaN counts as the largest
    state, worst = states[int(which[place])], float(use[place])
    if np.isnan(worst):
        return Swept(number, sizes, "unchecked", 0.0, "", "", why_unknown(state, acting), None)
    action, broken = acting.names[int(at[place])], [broken_rule(rule) for rule in examined.detailing if not rule.ok]
    words = (
        [over_strength(state.check, state.clause, worst, action, state.says, "us"), *broken] if worst > 1 else broken
    )
    made = standard.quantities(situation, sizes)
    return Swept(
        number, sizes, "fail" if words else "pass", min(worst, CEILING), state.check, action, "; ".join(words), made
    )


def as_dict(sweep: Sweep, standard: Standard, system: str = "si") -> dict[str, Any]:
    """Plain data, as `handrail sweep --json` and the API give it: values as text in the units of `system`, weights in
    kg; `changes` are what makes a connection the winner, as they are given: numbers in mm and kN, names, formulas."""
    won = sweep.rows[sweep.winner] if sweep.winner is not None else None
    return {
        "standard": standard.name,
        "vary": list(sweep.vary),
        "total": sweep.total,
        "tried": len(sweep.rows),
        "winner": sweep.winner,
        "changes": (
            {n: won.sizes[n].formula or standard.parameter(n).given(won.sizes[n].value) for n in sweep.vary}
            if won
            else {}
        ),
        "rows": [_row(row, sweep.vary, standard, system) for row in sweep.rows],
    }


def _row(row: Swept, vary: tuple[str, ...], standard: Standard, system: str) -> dict[str, Any]:
    shown = {n: standard.parameter(n).show(row.sizes[n].value, system) for n in vary}
    made = row.made
    return {
        "number": row.number,
        "values": shown,
        "status": row.status,
        "utilisation": round(row.utilisation, 6),
        "check": row.check,
        "action": row.action,
        "reason": said(row.reason, system),
        "steel": round(made.steel, 3) if made else None,
        "weld": round(made.weld, 4) if made else None,
        "bolts": made.field_bolts + made.shop_bolts + made.rods if made else None,
    }
