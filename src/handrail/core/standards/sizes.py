"""What can be chosen on a standard, and the value each choice has with the layer that gave it."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import lru_cache, partial
from typing import Any

from handrail.core.catalogue import angle, bars, bolt, electrode, faying, grade, hole, plate_grade, rod
from handrail.core.errors import InputError
from handrail.core.joint.situation import Situation
from handrail.core.parts.anchors.placing import at_places, at_points, written
from handrail.core.quantities import units
from handrail.core.quantities.words import held, said
from handrail.core.standards.formulas import USUAL, is_formula, worked_out

Value = float | int | str
BY_OTHER_SIDE = "opposite"  # the source of a size that bolts held in common with the other side ask for
NOT_CHOSEN = ("default", "geometry", BY_OTHER_SIDE)  # sources of sizes that nobody chose here

NAMED: dict[str, Callable[[str], Any]] = {
    "bolt": bolt,
    "angle_section": angle,
    "rod": rod,
    "bars": bars,
    "grade": grade,
    "plate_grade": plate_grade,
    "electrode": electrode,
}


PIECE = "piece"  # of the pieces that the shop makes and the bolts that hold them
MEMBERS = "members"  # of what is cut or drilled in the members, or stands in the concrete with them
GROUND = "ground"  # of what it stands on
SITE = "site"  # of how it is put up
METHOD = "method"  # by which it is judged, as may be chosen
KNOWN = "known"  # of the place or the product, and no choice: it is judged by that
ASKED = "asked"  # of it, besides what acts; no ladder finds it
PURPOSES = (PIECE, MEMBERS, GROUND, SITE, METHOD, KNOWN, ASKED)


@dataclass(frozen=True)
class Parameter:
    """One size or choice of a standard. `of` is what it is for (one of PURPOSES): connections that are alike in all of
    `piece` are one mark. `default` None means that the standard derives it from the others. `uses` name what practice
    may give it by, like `bolts.field`."""

    of: str
    name: str
    # length, force, number, count, choice, bolt, angle_section, rod, points, places, bars, grade, plate_grade,
    # electrode, hole
    kind: str
    label: str
    help: str
    default: str | int | None = None
    choices: tuple[str, ...] = ()
    low: float | None = None
    high: float | None = None
    uses: tuple[str, ...] = ()
    own: str = ""  # kind of the house's catalogue that adds to the choices

    @property
    def offered(self) -> tuple[str, ...]:
        """The choices that there are here, those of the house's catalogue among them."""
        return (*self.choices, *faying.offered()) if self.own else self.choices

    def read(self, value: Any, bare: float | None = None) -> Value:
        """The value in the core's units, or InputError that names the parameter."""
        try:
            return self.bounded(self._read(value, bare))
        except InputError as exc:
            raise InputError(f"{self.name}: {exc.words}") from exc

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
            if self.own:
                return faying.tightening(str(value))
            text = str(value).strip().lower()
            if text not in self.choices:
                raise InputError(f"'{value}' is none of {', '.join(self.choices)}")
            return text
        if self.kind == "hole":
            return hole(str(value), 19.05).type
        if self.kind in ("points", "places", "bars") and not str(value).strip():
            return ""  # none
        if self.kind == "points":
            return written(at_points(str(value), bare))
        if self.kind == "places":
            return "; ".join(f"{x:.10g} mm" for x in at_places(str(value), bare))
        return str(NAMED[self.kind](str(value)).name)

    def bounded(self, value: Value) -> Value:
        """The value where the parameter can have it. Raises InputError where it is too small, too large, or no whole
        count."""
        if isinstance(value, str):
            return value
        if self.kind == "count":
            if abs(value - round(value)) > 1e-6:
                raise InputError(f"{value:g} is not a whole number; use floor or ceil")
            value = round(value)
        for limit, beyond, word in ((self.low, -1, "less"), (self.high, 1, "more")):
            if limit is not None and (value - limit) * beyond > 1e-9:
                raise InputError(f"{self.in_words(value)} is {word} than {self.in_words(limit)}")
        return value

    def in_words(self, value: Value) -> str:
        """The value as it stands in words until they are said."""
        if isinstance(value, str) or self.kind not in units.CORE_UNITS or self.kind == "number":
            return value if isinstance(value, str) else f"{value:g}"
        return held(float(value), self.kind)

    def show(self, value: Value, system: str = "us") -> str:
        """The value as text, with its unit."""
        if isinstance(value, str) and self.kind in ("points", "places"):
            return _IN_MM.sub(lambda m: units.show(float(m[1]), "length", system), value)
        if isinstance(value, str) or self.kind == "count":
            return str(value)
        return units.show(float(value), self.kind, system)

    def explained(self, system: str) -> str:
        """What it is, its quantities in the units of `system`."""
        return said(self.help or self.label, system)

    def usual(self, system: str) -> str:
        """What it is where nobody says otherwise, as text; empty where it follows from others."""
        return "" if self.default is None else self.show(self.read(self.default), system)

    def given(self, value: Value) -> str | int:
        """The value as a change takes it, with all its digits: numbers in mm and kN, names and counts as they are."""
        if isinstance(value, str | int):
            return value
        unit, scale = units.SHOWN["si"].get(self.kind, ("", 1.0))
        return f"{value * scale:.10g} {unit}".strip()


def made_at(name: str, label: str, usual: str, use: str) -> Parameter:
    """Whether a weld is made in the shop or at the site."""
    return Parameter(SITE, name, "choice", label, "Where it is welded", usual, ("shop", "site"), uses=(f"welds.{use}",))


@dataclass(frozen=True)
class Sized:
    """A parameter's value with the layer that gave it: default, practice, rule, rung, override, given ...; and the
    `formula` that it follows, as text from its sign on, empty where it stands by itself."""

    value: Value
    source: str
    formula: str = ""

    @property
    def asked(self) -> str:
        """The formula to work out, empty where there is none; one that is just read is its own value."""
        return self.formula or (str(self.value) if is_formula(self.value) else "")


Sizes = dict[str, Sized]


def length(sizes: Sizes, name: str) -> float:
    """A size as a number, mm (or N)."""
    return float(sizes[name].value)


def text(sizes: Sizes, name: str) -> str:
    """A size as text: a bolt, a grade, a choice."""
    return str(sizes[name].value)


_IN_MM = re.compile(r"(-?[0-9.e+-]+) mm")  # of places as they are kept
Rule = Callable[[Situation, Sizes], Value]


class _Working(dict[str, Sized]):
    """Sizes of which those that follow from others, or are formulas, are worked out when they are first asked for."""

    def __init__(
        self, parameters: tuple[Parameter, ...], follows: Mapping[str, Rule], situation: Situation, given: Sizes
    ) -> None:
        super().__init__({n: s for n, s in given.items() if not s.asked})
        self.formulas = {n: s for n, s in given.items() if s.asked}
        self.parameters, self.follows, self.situation = {p.name: p for p in parameters}, follows, situation
        self.open: list[str] = []

    def __missing__(self, name: str) -> Sized:
        if name in self.open:
            raise InputError(
                f"{' -> '.join([*self.open[self.open.index(name) :], name])} goes in a circle; give one of them a value"
            )
        self.open.append(name)
        self[name] = (
            self._formula(name)
            if name in self.formulas
            else Sized(self.follows[name](self.situation, self), "geometry")
        )
        self.open.pop()
        return self[name]

    def _formula(self, name: str) -> Sized:
        parameter, given = self.parameters[name], self.formulas[name]
        try:
            value = parameter.bounded(worked_out(given.asked, partial(self._asked, name), self.situation))
        except InputError as exc:
            raise exc if str(exc).startswith(f"{name}: ") else InputError(f"{name}: {exc.words}") from exc
        return Sized(value, given.source, given.asked)

    def _asked(self, name: str, asked: str) -> Value:
        """What a formula for `name` asks for: another size, or what this one is where nobody says."""
        if asked != USUAL:
            return self[asked].value
        parameter = self.parameters[name]
        if parameter.default is not None:
            return _default(parameter).value
        return self.follows[name](self.situation, self)


@lru_cache(maxsize=4096)
def _default(parameter: Parameter) -> Sized:
    """A parameter as it is where nobody says otherwise."""
    return Sized(parameter.read(parameter.default), "default")


def completed(
    parameters: tuple[Parameter, ...], follows: Mapping[str, Rule], situation: Situation, given: Sizes
) -> Sizes:
    """Every parameter with its source: those given, the declared defaults, formulas, and those that follow from the
    rest, in the order of `follows`. Raises InputError where a formula goes in a circle, has no value, or one that the
    parameter cannot have."""
    sizes = _Working(parameters, follows, situation, given)
    for p in parameters:
        if p.name not in given and p.default is not None:
            sizes[p.name] = _default(p)
    for name in (*sizes.formulas, *follows):
        sizes[name]  # worked out
    return {p.name: sizes[p.name] for p in parameters}


def up_to(value: float, step: float) -> float:
    """The next whole number of `step` mm."""
    return math.ceil(value / step - 1e-6) * step


def down_to(value: float, step: float) -> float:
    """The last whole number of `step` mm."""
    return math.floor(value / step + 1e-6) * step
