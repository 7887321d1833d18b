"""One check of a connection, ready for any number of combinations; and the rules of geometry beside it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any, Protocol

import numpy as np

from handrail.core.actions import STEEL_SETS, Actions
from handrail.core.quantities.lines import NULL, Line, Trace

Demand = Callable[[Actions, Trace], Any]
Evaluation = Callable[[Actions, Trace], tuple[Any, Any]]
NOT_A_NUMBER = "an input is missing or not a number"


@dataclass(frozen=True)
class LimitState:
    """One check, ready for any number of actions.

    `evaluate(actions, trace)` gives (demand, strength), each an array of the actions' shape or a number, in
    the core's unit of `kind`. A `limit` is held or not held: it counts when demand is over strength only.
    It is judged under `code` by the combinations of `method` and `sets`. NaN in either leaves the connection
    unchecked, with `unknown` as the reason.
    """

    check: str
    part: str
    clause: str
    kind: str
    evaluate: Evaluation
    lines: tuple[Line, ...] = ()
    limit: bool = False
    code: str = ""
    method: str = ""
    sets: tuple[str, ...] = STEEL_SETS
    unknown: str = NOT_A_NUMBER
    says: Callable[[float, str, str], str] | None = (
        None  # (utilisation, combination, system) in words, where it has its own
    )

    def columns(self, actions: Actions) -> tuple[int, ...]:
        """Numbers of the combinations that this limit state is judged by."""
        return actions.judged(self.method, self.sets) if self.method else tuple(range(actions.V.shape[-1]))

    @property
    def no_combinations(self) -> str:
        """In words that nothing is there to judge it by."""
        return f"{self.check} needs {' or '.join(self.sets)} combinations of {self.method}"

    @property
    def cannot(self) -> str:
        """In words why it cannot be judged."""
        return f"{self.check}: {self.unknown}"

    def utilisation(self, actions: Actions) -> np.ndarray:
        """Demand over strength, in the actions' shape; without end where nothing is left to carry a demand, NaN where
        not known."""
        return np.broadcast_to(ratio(*self.evaluate(actions, NULL)), actions.V.shape)

    def worst(self, actions: Actions, peaks: Peaks) -> tuple[np.ndarray, np.ndarray]:
        """(utilisation, combination) that govern each of (k, combinations) actions, each (k,); NaN where not known.

        Where the strength is one number, the largest demand governs, and limit states with that demand share the
        search."""
        columns = self.columns(actions)
        if not columns:
            return np.full(len(actions.V), np.nan), np.zeros(len(actions.V), int)
        if len(columns) < actions.V.shape[-1]:
            use, where = self._worst(actions.columns(columns), Peaks())
            return use, np.array(columns)[where]
        return self._worst(actions, peaks)

    def _worst(self, actions: Actions, peaks: Peaks) -> tuple[np.ndarray, np.ndarray]:
        demand, strength = self.evaluate(actions, NULL)
        if np.ndim(strength) == 0 and np.shape(demand) == actions.V.shape:
            most, where = peaks.of(demand)
            return ratio(most, strength), where
        uses = np.broadcast_to(ratio(demand, strength), actions.V.shape)
        where = uses.argmax(axis=1)  # NaN counts as the largest
        return uses[np.arange(len(where)), where], where


def ratio(demand: Any, strength: Any) -> np.ndarray:
    """Demand over strength: 0 where nothing is asked, without end where no strength is left, NaN where either is
    NaN."""
    if isinstance(strength, float) and strength > 0:
        return np.asarray(demand, dtype=float) / strength
    demand, strength = np.asarray(demand, dtype=float), np.asarray(strength, dtype=float)
    if (strength > 0).all():
        return demand / strength
    with np.errstate(divide="ignore", invalid="ignore"):
        quotient = np.where(demand == 0, 0.0, np.where(strength > 0, demand / strength, np.inf))
        return np.where(np.isnan(demand) | np.isnan(strength), np.nan, quotient)


class Peaks:
    """The largest of each demand over the combinations, looked for once however many limit states ask."""

    def __init__(self) -> None:
        self._found: dict[int, tuple[np.ndarray, np.ndarray, np.ndarray]] = {}

    def of(self, demand: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """(largest, where), each (k,), of a (k, combinations) demand; a NaN is the largest."""
        if id(demand) not in self._found:
            where = demand.argmax(axis=1)
            self._found[id(demand)] = (demand, demand[np.arange(len(where)), where], where)
        return self._found[id(demand)][1:]


class NamedCode(Protocol):
    """What a limit state needs to know of its code."""

    @property
    def name(self) -> str: ...
    @property
    def method(self) -> str: ...
    def clause(self, what: str) -> str: ...


@dataclass(frozen=True)
class Under:
    """Makes the limit states of one part under one code; with `tracing` their strengths keep their worked lines."""

    code: NamedCode
    part: str
    tracing: bool = False

    def trace(self) -> Trace:
        """A trace for strengths worked out once."""
        return Trace() if self.tracing else NULL

    def state(
        self,
        check: str,
        kind: str,
        evaluate: Evaluation,
        lines: Trace = NULL,
        limit: bool = False,
        unknown: str = NOT_A_NUMBER,
        of: str = "",
    ) -> LimitState:
        """A limit state whose strength depends on the combination; its clause is that of its name, or of `of`."""
        return LimitState(
            check,
            self.part,
            self.code.clause(of or check),
            kind,
            evaluate,
            tuple(lines.lines),
            limit,
            self.code.name,
            self.code.method,
            unknown=unknown,
        )

    def fixed(
        self,
        check: str,
        kind: str,
        strength: Callable[[Trace], float],
        demand: Demand,
        limit: bool = False,
        unknown: str = NOT_A_NUMBER,
        of: str = "",
    ) -> LimitState:
        """A limit state whose strength does not depend on the combination: worked out once, here."""
        trace = self.trace()
        value = strength(trace)
        return self.state(check, kind, lambda actions, t: (demand(actions, t), value), trace, limit, unknown, of)

    def given(self, check: str, kind: str, value: float, most: Callable[[Trace], float]) -> LimitState:
        """A limit on a size or a ratio, the same in every combination."""
        return self.fixed(
            check,
            kind,
            most,
            lambda actions, t: t("given", "as it is", np.full_like(actions.V, value), kind=kind),
            limit=True,
        )


def under_part(state: LimitState, change: Callable[[Actions], Actions], **more: Any) -> LimitState:
    """The limit state under what `change` leaves of the actions, worked out once for all states that share it; `more`
    fields changed."""

    def evaluate(actions: Actions, trace: Trace) -> tuple[Any, Any]:
        return state.evaluate(actions.once(("part", change), lambda: change(actions)), trace)

    return replace(state, evaluate=evaluate, **more)


def shear(actions: Actions, trace: Trace) -> np.ndarray:
    """Demand of the member's shear, whichever way it acts, N."""
    return trace("Vr", "|V|", actions.shear)


def tension(actions: Actions, trace: Trace) -> np.ndarray:
    """Demand of an axial force that pulls the end away, N."""
    return trace("Nr", "max(N, 0)", actions.pull)


def thrust(actions: Actions, trace: Trace) -> np.ndarray:
    """Demand of an axial force that presses the end on its support, N."""
    return trace("Nr", "max(-N, 0)", actions.thrust)


def axial(actions: Actions, trace: Trace) -> np.ndarray:
    """Demand of an axial force either way, N."""
    return trace("Nr", "|N|", actions.axial)


def together(actions: Actions, trace: Trace) -> np.ndarray:
    """Demand of N with V, N."""
    return trace("Pr", "sqrt(N^2 + V^2)", actions.resultant, N=actions.N, V=actions.V)


@dataclass(frozen=True)
class DetailingRule:
    """A rule of geometry: what is given and what is needed, in the core's unit of `kind`; `says` it in words where
    numbers do not."""

    rule: str
    part: str
    given: float
    limit: float
    ok: bool
    kind: str = "length"
    at_least: bool = True
    clause: str = ""
    says: str = ""


def at_least(rule: str, part: str, given: float, limit: float, clause: str = "", kind: str = "length") -> DetailingRule:
    """A rule that `given` is not under `limit`; NaN does not hold it."""
    return DetailingRule(rule, part, given, limit, given >= limit - 1e-6, kind, True, clause)


def at_most(rule: str, part: str, given: float, limit: float, clause: str = "", kind: str = "length") -> DetailingRule:
    """A rule that `given` is not over `limit`; NaN does not hold it."""
    return DetailingRule(rule, part, given, limit, given <= limit + 1e-6, kind, False, clause)


def never(rule: str, part: str, broken: bool, says: str, clause: str) -> DetailingRule:
    """A rule that something is not there at all: 0 of it is allowed."""
    return DetailingRule(rule, part, float(broken), 0.0, not broken, "number", False, clause, says)
