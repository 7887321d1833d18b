"""What can be chosen on a standard, and the value each choice has with the layer that gave it."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from handrail.core import units
from handrail.core.catalogue import bars, bolt, electrode, grade, hole, plate_grade, rod
from handrail.core.errors import InputError
from handrail.core.parts.anchors.placing import at_points, written
from handrail.core.standards.situation import Situation

Value = float | int | str


@dataclass(frozen=True)
class Parameter:
    """One size or choice of a standard. `default` None means that the standard derives it from the others."""

    name: str
    kind: str  # length, force, number, count, choice, bolt, rod, points, bars, grade, plate_grade, electrode, hole
    label: str
    help: str
    default: str | int | None = None
    choices: tuple[str, ...] = ()
    low: float | None = None
    high: float | None = None

    def read(self, value: Any, bare: float | None = None) -> Value:
        """The value in the core's units, or InputError that names the parameter."""
        try:
            return self._bounded(self._read(value, bare))
        except InputError as exc:
            raise InputError(f"{self.name}: {exc}") from exc

    def _read(self, value: Any, bare: float | None) -> Value:
        if value is None:
            raise InputError("nothing is given; leave it out, or give it a value")
        if self.kind in units.CORE_UNITS:
            return units.parse(value, self.kind, bare)
        if self.kind == "count":
            if isinstance(value, bool) or not re.fullmatch(r"\s*\+?[0-9]{1,9}\s*", str(value), re.ASCII):
                raise InputError(f"'{value}' is not a whole number")
            return int(str(value))
        if self.kind == "choice":
            text = str(value).strip().lower()
            if text not in self.choices:
                raise InputError(f"'{value}' is none of {', '.join(self.choices)}")
            return text
        if self.kind == "hole":
            return hole(str(value), 19.05).type
        if self.kind in ("points", "bars") and not str(value).strip():
            return ""  # none
        if self.kind == "points":
            return written(at_points(str(value), bare))
        find: dict[str, Callable[[str], Any]] = {"bolt": bolt, "rod": rod, "bars": bars, "grade": grade, "plate_grade": plate_grade, "electrode": electrode}
        return str(find[self.kind](str(value)).name)

    def _bounded(self, value: Value) -> Value:
        if isinstance(value, str):
            return value
        for limit, beyond, word in ((self.low, -1, "less"), (self.high, 1, "more")):
            if limit is not None and (value - limit) * beyond > 1e-9:
                text = units.show(limit, self.kind) if self.kind in units.CORE_UNITS else f"{limit:g}"
                raise InputError(f"{self.show(value)} is {word} than {text}")
        return value

    def show(self, value: Value, system: str = "us") -> str:
        """The value as text, with its unit."""
        if isinstance(value, str) or self.kind == "count":
            return str(value)
        return units.show(float(value), self.kind, system)


@dataclass(frozen=True)
class Sized:
    """A parameter's value with the layer that gave it: default, practice, rule, rung, override, given ..."""

    value: Value
    source: str


Sizes = dict[str, Sized]


def length(sizes: Sizes, name: str) -> float:
    """A size as a number, mm (or N)."""
    return float(sizes[name].value)


def text(sizes: Sizes, name: str) -> str:
    """A size as text: a bolt, a grade, a choice."""
    return str(sizes[name].value)


Rule = Callable[[Situation, Sizes], float]


def completed(parameters: tuple[Parameter, ...], follows: Mapping[str, Rule], situation: Situation, given: Sizes) -> Sizes:
    """Every parameter with its source: those given, the declared defaults, and those that follow from the rest, in the order of
    `follows`."""
    sizes = dict(given)
    for p in parameters:
        if p.name not in sizes and p.default is not None:
            sizes[p.name] = Sized(p.read(p.default), "default")
    for name, rule in follows.items():
        if name not in sizes:
            sizes[name] = Sized(rule(situation, sizes), "geometry")
    return {p.name: sizes[p.name] for p in parameters}


def up_to(value: float, step: float) -> float:
    """The next whole number of `step` mm."""
    return math.ceil(value / step - 1e-6) * step
