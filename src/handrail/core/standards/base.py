"""What a standard is: its declared parameters, its limit states, its detailing rules, its drawing."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from handrail.core import units
from handrail.core.catalogue import bolt, electrode, grade, hole
from handrail.core.checking.trace import NULL, Line, Trace
from handrail.core.codes.aisc360 import Code
from handrail.core.drawing.scene import Scene
from handrail.core.errors import InputError
from handrail.core.standards.situation import Actions, Situation

Value = float | int | str


@dataclass(frozen=True)
class Parameter:
    """One size or choice of a standard. `default` None means that the standard derives it from the others."""

    name: str
    kind: str  # length, force, count, choice, bolt, grade, electrode, hole
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
        if self.kind in units.CORE_UNITS:
            return units.parse(value, self.kind, bare)
        if self.kind == "count":
            if isinstance(value, bool) or not str(value).strip().lstrip("+").isdigit():
                raise InputError(f"'{value}' is not a whole number")
            return int(str(value).strip())
        if self.kind == "choice":
            text = str(value).strip().lower()
            if text not in self.choices:
                raise InputError(f"'{value}' is none of {', '.join(self.choices)}")
            return text
        if self.kind == "hole":
            return hole(str(value), 19.05).type
        find: dict[str, Callable[[str], Any]] = {"bolt": bolt, "grade": grade, "electrode": electrode}
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


@dataclass(frozen=True)
class LimitState:
    """One check, ready for any number of actions.

    `evaluate(actions, trace)` gives (demand, strength), each an array of the actions' shape or a number, in
    the core's unit of `kind`. A `limit` is held or not held: it counts when demand is over strength only.
    """

    check: str
    part: str
    clause: str
    kind: str
    evaluate: Callable[[Actions, Trace], tuple[Any, Any]]
    lines: tuple[Line, ...] = ()
    limit: bool = False

    def utilisation(self, actions: Actions) -> np.ndarray:
        """Demand over strength, in the actions' shape; without end where nothing is left to carry a demand."""
        return np.broadcast_to(_ratio(*self.evaluate(actions, NULL)), actions.V.shape)

    def worst(self, actions: Actions, peaks: Peaks) -> tuple[np.ndarray, np.ndarray]:
        """(utilisation, combination) that govern each of (k, combinations) actions, each (k,).

        Where the strength is one number, the largest demand governs, and limit states with that demand share the search.
        """
        demand, strength = self.evaluate(actions, NULL)
        if np.ndim(strength) == 0 and np.shape(demand) == actions.V.shape:
            most, where = peaks.of(demand)
            return _ratio(most, strength), where
        ratio = np.broadcast_to(_ratio(demand, strength), actions.V.shape)
        where = ratio.argmax(axis=1)
        return ratio[np.arange(len(where)), where], where


def _ratio(demand: Any, strength: Any) -> np.ndarray:
    demand, strength = np.asarray(demand, dtype=float), np.asarray(strength, dtype=float)
    if (strength > 0).all():
        return demand / strength
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.where(demand == 0, 0.0, np.where(strength > 0, demand / strength, np.inf))


class Peaks:
    """The largest of each demand over the combinations, looked for once however many limit states ask."""

    def __init__(self) -> None:
        self._found: dict[int, tuple[np.ndarray, np.ndarray, np.ndarray]] = {}

    def of(self, demand: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """(largest, where), each (k,), of a (k, combinations) demand."""
        if id(demand) not in self._found:
            where = demand.argmax(axis=1)
            self._found[id(demand)] = (demand, demand[np.arange(len(where)), where], where)
        return self._found[id(demand)][1:]


@dataclass(frozen=True)
class DetailingRule:
    """One rule of geometry: what is given and what is needed. `ok` says whether it holds."""

    rule: str
    part: str
    given: float
    limit: float
    ok: bool
    kind: str = "length"
    at_least: bool = True
    clause: str = ""


@dataclass
class Examined:
    """A sized connection's geometry: its detailing rules, why it cannot be checked, and remarks."""

    detailing: list[DetailingRule]
    unchecked: list[str] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)

    @property
    def sound(self) -> bool:
        return not self.unchecked and all(rule.ok for rule in self.detailing)


@dataclass(frozen=True)
class Standard:
    """One parametric connection. The functions are the standard's own; see its package."""

    name: str
    title: str
    help: str
    framings: tuple[str, ...]
    carries: tuple[str, ...]
    parameters: tuple[Parameter, ...]
    complete: Callable[[Situation, Sizes], Sizes]
    examine: Callable[[Situation, Sizes, Code], Examined]
    strengths: Callable[[Situation, Sizes, Code, bool], list[LimitState]]
    draw: Callable[..., Scene]  # (situation, sizes, system of units)
    ladder: Callable[[Situation, Sizes, frozenset[str]], list[dict[str, Value]]]

    def parameter(self, name: str) -> Parameter:
        """The parameter called `name`. Raises InputError with what there is."""
        for p in self.parameters:
            if p.name == name:
                return p
        raise InputError(f"{self.name} has no parameter '{name}'; it has {', '.join(p.name for p in self.parameters)}")

    def read(self, given: dict[str, Any], source: str, bare: float | None = None) -> Sizes:
        """Parameters from text or numbers, each marked with `source`."""
        return {name: Sized(self.parameter(name).read(value, bare), source) for name, value in given.items()}


def fixed(
    check: str,
    part: str,
    clause: str,
    kind: str,
    strength: Callable[[Trace], float],
    demand: Callable[[Actions, Trace], Any],
    tracing: bool,
    limit: bool = False,
) -> LimitState:
    """A limit state whose strength does not depend on the combination: worked out once, here."""
    trace = Trace() if tracing else NULL
    value = strength(trace)
    return LimitState(check, part, clause, kind, lambda actions, t: (demand(actions, t), value), tuple(trace.lines), limit)


def shear(actions: Actions, trace: Trace) -> np.ndarray:
    """Demand of the member's shear, whichever way it acts."""
    return trace("Vr", "|V|", actions.shear)


def tension(actions: Actions, trace: Trace) -> np.ndarray:
    """Demand of an axial force that pulls the end away."""
    return trace("Nr", "max(N, 0)", actions.pull)


def thrust(actions: Actions, trace: Trace) -> np.ndarray:
    """Demand of an axial force that presses the end on its support."""
    return trace("Nr", "max(-N, 0)", actions.thrust)


def axial(actions: Actions, trace: Trace) -> np.ndarray:
    """Demand of an axial force either way."""
    return trace("Nr", "|N|", actions.axial)
