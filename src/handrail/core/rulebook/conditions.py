"""What a rule asks of a connection: facts compared with values, ranges and lists."""

from __future__ import annotations

import fnmatch
import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from handrail.core import units
from handrail.core.actions import COMPONENTS
from handrail.core.catalogue.tables import key
from handrail.core.errors import InputError

# fact -> kind: a quantity's kind, text, pattern (a section's name with * and ?), or flag
FACTS = {
    "framing": "text",
    "cope": "text",
    "released": "flag",
    "opposed": "flag",
    "skew": "angle",
    "slope": "angle",
    "top_offset": "length",
    "elevation": "length",
    "supported.section": "pattern",
    "supported.family": "text",
    "supported.depth": "length",
    "supported.width": "length",
    "supported.web": "length",
    "supported.grade": "text",
    "support.section": "pattern",
    "support.family": "text",
    "support.depth": "length",
    "support.width": "length",
    "support.web": "length",
    "face": "text",
    "fixity": "text",
    "braced": "flag",
    "seismic": "flag",
    "foundation.kind": "text",
    "foundation.fc": "stress",
    "foundation.thickness": "length",
    "foundation.edge": "length",
    "intent": "text",
    **{
        name + peak: "moment" if name in ("M", "Mw", "T") else "force" for name in COMPONENTS for peak in ("", ".max", ".min")
    },
}
LONGEST = 2000  # characters of one condition
_COMPARE: dict[str, Callable[[float, float], bool]] = {
    "<=": lambda a, b: a <= b + 1e-9,
    ">=": lambda a, b: a >= b - 1e-9,
    "<": lambda a, b: a < b - 1e-9,
    ">": lambda a, b: a > b + 1e-9,
}


@dataclass(frozen=True)
class Condition:
    """One line of `when`: the fact, the text as written, and the test."""

    fact: str
    text: str
    test: Callable[[Any], bool]

    def holds(self, facts: Mapping[str, Any]) -> bool:
        """Whether it holds; a fact that the connection does not have never does."""
        value = facts.get(self.fact)
        return value is not None and self.test(value)


def read_condition(fact: str, value: Any) -> Condition:
    """The condition `fact: value`. Raises InputError with what the fact takes."""
    if fact not in FACTS:
        raise InputError(f"'{fact}' is not a fact; rules can ask for {', '.join(FACTS)}")
    kind = FACTS[fact]
    if len(str(value)) > LONGEST:
        raise InputError(f"{fact}: the condition is {len(str(value))} characters long; at most {LONGEST}")
    wanted = value if isinstance(value, list) else [value]
    if not wanted:
        raise InputError(f"{fact}: the list is empty, so the rule never fires")
    tests = [_test(fact, kind, v) for v in wanted]
    return Condition(fact, str(value), lambda given: any(test(given) for test in tests))


def _test(fact: str, kind: str, value: Any) -> Callable[[Any], bool]:
    if kind == "flag":
        if not isinstance(value, bool):
            raise InputError(f"{fact}: write true or false, not '{value}'")
        return lambda given: bool(given) is value
    if kind == "text":
        return lambda given: str(given) == str(value)
    if kind == "pattern":
        pattern = "*".join(key(part) for part in str(value).split("*"))
        return lambda given: fnmatch.fnmatchcase(key(str(given)), pattern)
    return _quantity(fact, kind, str(value))


def _quantity(fact: str, kind: str, text: str) -> Callable[[Any], bool]:
    if ".." in text:
        low, high = (part.strip() for part in text.split("..", 1))
        unit = re.sub(r"^[-+\d./\s]*", "", high)
        if low and re.fullmatch(r"[-+\d./\s]+", low) and unit:
            low = f"{low} {unit}"  # `12 .. 18 in` has its unit once
        a, b = units.parse(low, kind), units.parse(high, kind)
        if a > b:
            raise InputError(f"{fact}: the range {text} runs backwards")
        return lambda given: a - 1e-9 <= given <= b + 1e-9
    match = re.match(r"^\s*(<=|>=|<|>)\s*(.+)$", text)
    if match:
        compare, limit = _COMPARE[match[1]], units.parse(match[2], kind)
        return lambda given: compare(given, limit)
    exact = units.parse(text, kind)
    return lambda given: abs(given - exact) <= 1e-6 + 1e-9 * abs(exact)
