"""The worked lines of a calculation, collected by the same code that works it out."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import lru_cache
from typing import Any, TypeVar

import numpy as np

from handrail.core.quantities.symbols import symbol as symbol_of
from handrail.core.quantities.units import show
from handrail.core.quantities.words import said

Number = TypeVar("Number", float, np.ndarray)


@dataclass(frozen=True)
class Line:
    """`symbol = formula = result`, with the values that went in; numbers in the core's units."""

    symbol: str
    formula: str
    result: float
    kind: str
    clause: str = ""
    values: tuple[tuple[str, float, str], ...] = ()

    def text(self, system: str = "us") -> str:
        """The line in words, in the units of `system`."""
        return _in_words(self, system)


@lru_cache(maxsize=20_000)  # many connections of a building share their strengths
def _in_words(line: Line, system: str) -> str:
    given = ", ".join(f"{s} = {show(v, k, system)}" for s, v, k in line.values)
    result, where = show(line.result, line.kind, system), f"   [{line.clause}]" if line.clause else ""
    return f"{line.symbol} = {said(line.formula, system)} = {result}" + (f"   ({given})" if given else "") + where


@dataclass
class Trace:
    """Collects lines; call it with the value, and it gives the value back."""

    lines: list[Line] = field(default_factory=list)
    on: bool = True

    def __call__(
        self, symbol: str, formula: str, value: Number, clause: str = "", kind: str = "", **values: Any
    ) -> Number:
        """Note `symbol = formula = value`, with the `values` that go in, and return `value` unchanged. What is no
        symbol of quantities.symbols says its `kind`; raises KeyError."""
        given = tuple((letters, _scalar(v), of) for s, v in values.items() for letters, of in [symbol_of(s)])
        self.lines.append(Line(symbol, formula, _scalar(value), kind or symbol_of(symbol)[1], clause, given))
        return value


class NullTrace(Trace):
    """The trace of a batch: notes nothing and costs nothing."""

    def __call__(
        self, symbol: str, formula: str, value: Number, clause: str = "", kind: str = "", **values: Any
    ) -> Number:
        return value


NULL = NullTrace(on=False)


def _scalar(value: Any) -> float:
    flat = np.asarray(value, dtype=float).ravel()
    return float(flat[0]) if flat.size else float("nan")
