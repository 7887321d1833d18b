"""Ladders: candidates written out, or as values to climb through, in an order."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from itertools import product
from typing import Any

from handrail.core.errors import InputError
from handrail.core.joint.situation import Situation
from handrail.core.quantities.units import parse
from handrail.core.standards import Standard
from handrail.core.standards.formulas import is_formula
from handrail.core.standards.sizes import Sized, Sizes

MOST_RUNGS = 500
ORDERS = ("as_written", "lightest", "fewest_bolts")
_STEPS = re.compile(r"^\s*(?P<low>.+?)\s*\.\.\s*(?P<high>.+?)\s*(?:\bby\s+(?P<step>.+?)\s*)?$")


@dataclass(frozen=True)
class Ladder:
    """Rungs in the order in which they are tried; `order` says whether they are sorted first by what they are made
    of."""

    rungs: tuple[Sizes, ...]
    order: str = "as_written"

    @property
    def names(self) -> frozenset[str]:
        """All parameters that any rung sets."""
        return frozenset(name for rung in self.rungs for name in rung)

    def ordered(self, standard: Standard, situation: Situation, base: Sizes) -> list[Sizes]:
        """The rungs with the lightest first, or the one with fewest bolts; those that are as light in the order in
        which they were written, those that cannot be made last."""
        if self.order == "as_written":
            return list(self.rungs)
        return sorted(self.rungs, key=lambda rung: self._made_of(standard, situation, base | rung))

    def _made_of(self, standard: Standard, situation: Situation, sizes: Sizes) -> tuple[float, float]:
        try:
            made = standard.quantities(situation, standard.complete(situation, sizes))
        except InputError:
            return (float("inf"), float("inf"))
        bolts, mass = float(made.field_bolts + made.shop_bolts), round(made.steel + made.weld, 6)
        return (mass, bolts) if self.order == "lightest" else (bolts, mass)


def climbed(standard: Standard, entries: list[dict[str, Any]], rule: str) -> tuple[Sizes, ...]:
    """Every combination of the entries' values as rungs of a rule. Raises InputError."""
    rungs = combined(standard, entries, MOST_RUNGS, "rungs")
    return tuple(
        {n: Sized(v, f"rung {k} of rule '{rule}'") for n, v in rung.items()} for k, rung in enumerate(rungs, 1)
    )


def combined(standard: Standard, entries: list[dict[str, Any]], most: int, what: str) -> list[dict[str, Any]]:
    """Every combination of the entries' values, the first entry going fastest; what stands in one entry moves together.
    Raises InputError."""
    ways = [_together(standard, entry) for entry in entries]
    if (count := math.prod(len(way) for way in ways)) > most:
        raise InputError(f"there are {count} {what}; at most {most}")
    return [{n: v for part in reversed(chosen) for n, v in part.items()} for chosen in product(*reversed(ways))]


def _together(standard: Standard, entry: dict[str, Any]) -> list[dict[str, Any]]:
    """The steps of one entry: what all its parameters are at each."""
    values = {name: _values(standard, name, given) for name, given in entry.items()}
    counts = {name: len(v) for name, v in values.items() if len(v) > 1}
    if len(set(counts.values())) > 1:
        told = ", ".join(f"{name} has {n}" for name, n in counts.items())
        raise InputError(
            f"what is in one entry moves together and has as many values: {told}; give each an entry of its own, or as"
            " many"
        )
    length = max(counts.values(), default=1)
    return [{name: v[k] if len(v) > 1 else v[0] for name, v in values.items()} for k in range(length)]


def _values(standard: Standard, name: str, given: Any) -> list[Any]:
    """The values that a parameter goes through: a list, `start .. limit by step`, or one."""
    if isinstance(given, list):
        if not given or len(given) > MOST_RUNGS:
            raise InputError(f"{name}: a list of 1 to {MOST_RUNGS} values")
        return [standard.read_one(name, value) for value in given]
    match = _STEPS.match(str(given)) if isinstance(given, str) and ".." in given and not is_formula(given) else None
    return (
        [standard.read_one(name, given)]
        if match is None
        else steps(standard, name, match["low"], match["high"], match["step"])
    )


def steps(standard: Standard, name: str, low: str, high: str, step: str | None) -> list[Any]:
    """From `low` up or down to `high` by `step` (a count by 1 where it is left out), in core units of the parameter.
    Raises InputError."""
    parameter = standard.parameter(name)
    if parameter.kind not in ("count", "length", "force", "stress", "angle", "number"):
        raise InputError(f"{name}: {parameter.kind} has no steps; write a list of values")
    kind = "number" if parameter.kind == "count" else parameter.kind
    return [
        parameter.bounded(v)
        for v in spread(name, kind, low, high, step or ("1" if parameter.kind == "count" else None))
    ]


def spread(name: str, kind: str, low: str, high: str, step: str | None) -> list[float]:
    """Quantities of `kind` from `low` up or down to `high` by `step`. Raises InputError."""
    if step is None:
        raise InputError(
            f"{name}: say by which step, like {low} .. {high} by"
            f" {'1/16 in' if kind == 'length' else '5 kip' if kind == 'force' else '1'}"
        )
    unit = re.sub(r"^[-+\d./\s]*", "", high)
    if unit and re.fullmatch(r"[-+\d./\s]+", low):
        low = f"{low} {unit}"
    try:
        a, b, by = (parse(text, kind) for text in (low, high, step))
    except InputError as exc:
        raise InputError(f"{name}: {exc}") from exc
    if by <= 0:
        raise InputError(f"{name}: the step is more than nothing")
    count = int(abs(b - a) / by + 1e-6) + 1
    if count > MOST_RUNGS:
        raise InputError(f"{name}: {count} steps; at most {MOST_RUNGS}")
    return [a + (1.0 if b >= a else -1.0) * k * by for k in range(count)]
