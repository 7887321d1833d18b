"""What a rule asks of a connection: facts compared with values, ranges and lists, joined by all, any and not."""

from __future__ import annotations

import fnmatch
import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from difflib import get_close_matches
from typing import Any, Protocol

from handrail.core.catalogue.tables import key
from handrail.core.errors import InputError
from handrail.core.quantities import units
from handrail.core.rulebook.facts import Fact, fact

LONGEST = 2000  # characters of one test, and entries of a list
JOINED = ("all", "any", "not")
Facts = Mapping[str, Any]
Test = Callable[[Any], bool]
_COMPARE: dict[str, Callable[[float, float], bool]] = {
    "<=": lambda a, b: a <= b + 1e-9,
    ">=": lambda a, b: a >= b - 1e-9,
    "<": lambda a, b: a < b - 1e-9,
    ">": lambda a, b: a > b + 1e-9,
}


class Condition(Protocol):
    """What has to hold of a connection; as text it is what was written."""

    @property
    def facts(self) -> Iterable[str]:
        """The facts that it looks at."""

    def holds(self, facts: Facts) -> bool:
        """Whether it holds."""

    def failing(self, facts: Facts) -> list[Any]:
        """The conditions in it that do not hold."""


@dataclass(frozen=True)
class Asked:
    """One fact compared: `text` as it was written, and the test; `each` value that was written with its own."""

    fact: str
    text: str
    test: Test
    each: Mapping[str, Test] = field(default_factory=dict, compare=False)

    def holds(self, facts: Facts) -> bool:
        """Whether it holds; of a fact that the connection does not have, nothing does."""
        value = facts.get(self.fact)
        return value is not None and self.test(value)

    @property
    def facts(self) -> Iterable[str]:
        return (self.fact,)

    def failing(self, facts: Facts) -> list[Any]:
        """What of it does not hold."""
        return [] if self.holds(facts) else [self]

    def __str__(self) -> str:
        return f"{self.fact}: {self.text}"


@dataclass(frozen=True)
class Joined:
    """Conditions of which `all`, `any`, or `not` all hold."""

    how: str
    parts: tuple[Condition, ...]

    def holds(self, facts: Facts) -> bool:
        """Whether they hold, as they are joined."""
        if self.how == "any":
            return any(part.holds(facts) for part in self.parts)
        return all(part.holds(facts) for part in self.parts) is (self.how == "all")

    @property
    def facts(self) -> Iterable[str]:
        return tuple(name for part in self.parts for name in part.facts)

    def failing(self, facts: Facts) -> list[Any]:
        """What of it does not hold: of `all` the parts that do not, else it as a whole."""
        if self.holds(facts):
            return []
        return [part for own in self.parts for part in own.failing(facts)] if self.how == "all" else [self]

    def __str__(self) -> str:
        return f"{self.how} ({', '.join(map(str, self.parts))})"


def shown(name: str, value: Any, system: str = "us") -> str:
    """A fact's value as text with its unit; `none` where a connection has it not."""
    of = fact(name)
    if value is None:
        return "none"
    if of.kind == "flag":
        return "true" if value else "false"
    if of.kind in units.CORE_UNITS:
        return units.show(float(value), of.kind, system)
    return str(value) if isinstance(value, str) else ", ".join(map(str, value))


def read_asked(name: str, value: Any) -> Condition:
    """The condition `fact: value`; a value may be a list, of which one has to fit, or {not: value}. Raises InputError
    with what the fact takes."""
    of = fact(name)
    if isinstance(value, dict):
        if list(value) != ["not"]:
            raise InputError(f"{name}: write a value, a list of values, or {{not: value}}")
        return Joined("not", (read_asked(name, value["not"]),))
    if len(str(value)) > LONGEST:
        raise InputError(f"{name}: the condition is {len(str(value))} characters long; at most {LONGEST}")
    wanted = value if isinstance(value, list) else [value]
    if not wanted:
        raise InputError(f"{name}: the list is empty, so the rule never fires")
    tests = [_test(of, v) for v in wanted]
    return Asked(
        name,
        _shown(value),
        lambda given: any(test(given) for test in tests),
        dict(zip(map(str, wanted), tests, strict=True)),
    )


def _shown(value: Any) -> str:
    if isinstance(value, list):
        return f"[{', '.join(map(_shown, value))}]"
    return str(value).lower() if isinstance(value, bool) else str(value)


def _test(of: Fact, value: Any) -> Test:
    if isinstance(value, dict | list) or value is None:
        raise InputError(f"{of.name}: a list holds plain values, like {of.example}")
    if of.kind == "flag":
        if not isinstance(value, bool):
            raise InputError(f"{of.name}: write true or false, not '{value}'")
        return lambda given: bool(given) is value
    if of.kind == "text":
        return _text_test(of, str(value))
    if of.kind == "name":
        return _like(key_with_stars(str(value)), key)
    if of.kind == "words":
        like = _like(str(value).casefold(), str.casefold)
        return lambda given: any(like(word) for word in ((given,) if isinstance(given, str) else given))
    return quantity_test(of.name, of.kind, str(value))


def _text_test(of: Fact, wanted: str) -> Test:
    if of.choices and wanted not in of.choices:
        near = get_close_matches(wanted[:60], of.choices, 1, 0.6)
        raise InputError(
            f"{of.name}: '{wanted[:60]}' is none of"
            f" {', '.join(of.choices)}{f'; did you mean {near[0]}?' if near else ''}"
        )
    return lambda given: str(given) == wanted


def key_with_stars(text: str) -> str:
    """A name with * and ? as names are looked up."""
    return "*".join(key(part) for part in text.split("*"))


def _like(pattern: str, plain: Callable[[str], str]) -> Test:
    exact = re.compile(fnmatch.translate(pattern.replace("[", "[[]"))) if set(pattern) & set("*?") else None
    return lambda given: plain(str(given)) == pattern if exact is None else exact.match(plain(str(given))) is not None


def quantity_test(name: str, kind: str, text: str, bare: float | None = None) -> Test:
    """A range, a comparison or a value of a quantity, with its unit (or in `bare`). Raises InputError."""
    if interval := read_range(name, kind, text, bare):
        a, b = interval
        return lambda given: a - 1e-9 <= given <= b + 1e-9
    match = re.match(r"^\s*(<=|>=|<|>)\s*(.+)$", text)
    if match:
        compare, limit = _COMPARE[match[1]], _parsed(name, match[2], kind, bare)
        return lambda given: compare(given, limit)
    exact = _parsed(name, text, kind, bare)
    return lambda given: abs(given - exact) <= 1e-6 + 1e-9 * abs(exact)


def read_range(name: str, kind: str, text: str, bare: float | None = None) -> tuple[float, float] | None:
    """(low, high) of `low .. high`, both counted in; None where it is no range. Raises InputError."""
    if ".." not in text:
        return None
    low, high = (part.strip() for part in text.split("..", 1))
    unit = re.sub(r"^[-+\d./\s]*", "", high)
    if low and re.fullmatch(r"[-+\d./\s]+", low) and unit:
        low = f"{low} {unit}"  # `12 .. 18 in` has its unit once
    a, b = _parsed(name, low, kind, bare), _parsed(name, high, kind, bare)
    if a > b:
        raise InputError(f"{name}: the range {text} runs backwards")
    return a, b


def _parsed(name: str, text: str, kind: str, bare: float | None) -> float:
    try:
        return units.parse(text, kind, bare)
    except InputError as exc:
        raise InputError(f"{name}: {exc}") from exc
