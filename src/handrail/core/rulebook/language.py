"""Reads a rulebook: YAML with shop practice and ordered rules; every error at its line and column."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from handrail.core.errors import InputError
from handrail.core.rulebook.conditions import Condition, read_condition
from handrail.core.rulebook.yaml import NotYaml, load
from handrail.core.standards import STANDARDS, Standard
from handrail.core.standards.sizes import Sizes

TARGET = "target_utilisation"
RULE_KEYS = ("name", "when", "use", "set", "ladder")
TOP_KEYS = ("rulebook", "title", "practice", "rules")
MOST_RUNGS = 500


@dataclass(frozen=True)
class Rule:
    """One rule: when all its conditions hold it takes the connection. `ladder` None climbs the standard's own."""

    name: str
    when: tuple[Condition, ...]
    use: str
    set: Sizes
    ladder: tuple[Sizes, ...] | None
    line: int

    def takes(self, facts: dict[str, Any]) -> bool:
        """Whether its standard goes with the framing, and every condition holds."""
        return facts["framing"] in STANDARDS[self.use].framings and all(condition.holds(facts) for condition in self.when)


@dataclass(frozen=True)
class Rulebook:
    """Shop practice by standard, the target utilisation, and the rules in their order."""

    title: str
    practice: dict[str, Sizes]
    target: float
    rules: tuple[Rule, ...]

    @cached_property
    def asks(self) -> tuple[str, ...]:
        """The facts that any of the rules asks for, and the framing, which its standard goes with or not."""
        return tuple(sorted({condition.fact for rule in self.rules for condition in rule.when} | {"framing"}))

    def rule_for(self, facts: dict[str, Any]) -> Rule | None:
        """The first rule that takes a connection with these facts."""
        return next((rule for rule in self.rules if rule.takes(facts)), None)


class RulebookError(InputError):
    """Everything that is wrong in a rulebook: `problems` of (line, column, message), counted from 1."""

    def __init__(self, problems: list[tuple[int, int, str]]) -> None:
        self.problems = problems
        line, column, text = problems[0]
        more = f" (and {len(problems) - 1} more)" if len(problems) > 1 else ""
        super().__init__(f"line {line} column {column}: {text}{more}")


@dataclass
class _Reader:
    problems: list[tuple[int, int, str]] = field(default_factory=list)

    def wrong(self, node: Any, key: Any, text: str, of_value: bool = True) -> None:
        line = column = 0
        lc = getattr(node, "lc", None)
        if lc is not None and lc.data and key in lc.data:
            line, column = (lc.value(key) if of_value else lc.key(key)) if isinstance(node, dict) else lc.item(key)
        elif lc is not None:
            line, column = lc.line, lc.col
        self.problems.append((line + 1, column + 1, text))

    @staticmethod
    def line_of(node: Any) -> int:
        return int(node.lc.line) + 1

    def attempt(self, node: Any, key: Any, read: Callable[..., Any], *given: Any) -> Any:
        try:
            return read(*given)
        except InputError as exc:
            self.wrong(node, key, str(exc))
            return None


def read_rulebook(text: str) -> Rulebook:
    """The rulebook in YAML `text`. Raises RulebookError with every problem found."""
    data = _yaml(text)
    reader = _Reader()
    if not isinstance(data, dict):
        raise RulebookError([(1, 1, "a rulebook is a mapping with practice and rules")])
    _keys(reader, data, TOP_KEYS, "a rulebook")
    if data.get("rulebook") != 1:
        reader.wrong(data, "rulebook", "write 'rulebook: 1'; this service reads version 1")
    target, practice = _practice(reader, data)
    rules = data.get("rules")
    if not isinstance(rules, list) or not rules:
        reader.wrong(data, "rules", "rules must be a list with at least one rule")
        rules = []
    found = [_rule(reader, rules, k) for k in range(len(rules))]
    names = [r.name for r in found if r]
    for k, rule in enumerate(found):
        if rule and rule.name in names[:k]:
            reader.wrong(rules[k], "name", f"'{rule.name}' is the name of an earlier rule")
    if reader.problems:
        raise RulebookError(sorted(reader.problems))
    return Rulebook(str(data.get("title", "")), practice, target, tuple(r for r in found if r))


def _yaml(text: str) -> Any:
    try:
        return load(text, comments=True)
    except NotYaml as exc:
        raise RulebookError([(exc.line, exc.column, exc.words)]) from exc


def _keys(reader: _Reader, node: dict[str, Any], known: tuple[str, ...], what: str) -> None:
    for name in node:
        if name not in known:
            reader.wrong(node, name, f"'{name}' is not known; {what} takes {', '.join(known)}", of_value=False)


def _practice(reader: _Reader, data: dict[str, Any]) -> tuple[float, dict[str, Sizes]]:
    given = data.get("practice") or {}
    if not isinstance(given, dict):
        reader.wrong(data, "practice", "practice is a mapping of parameters")
        return 1.0, {}
    target = given.get(TARGET, 1.0)
    if isinstance(target, bool) or not isinstance(target, int | float) or not 0.1 <= target <= 1.0:
        reader.wrong(given, TARGET, f"{TARGET} is a number from 0.1 to 1.0")
        target = 1.0
    practice: dict[str, Sizes] = {name: {} for name in STANDARDS}
    for name, value in given.items():
        if name == TARGET:
            continue
        having = [s for s in STANDARDS.values() if any(p.name == name for p in s.parameters)]
        if not having:
            reader.wrong(given, name, f"no standard has a parameter '{name}'", of_value=False)
        for standard in having:
            sizes = reader.attempt(given, name, standard.read, {name: value}, "practice")
            practice[standard.name].update(sizes or {})
    return float(target), practice


def _rule(reader: _Reader, rules: Any, k: int) -> Rule | None:
    node = rules[k]
    if not isinstance(node, dict):
        reader.wrong(rules, k, "a rule is a mapping with name, when and use")
        return None
    _keys(reader, node, RULE_KEYS, "a rule")
    name = str(node.get("name") or f"rule {k + 1}")
    standard = STANDARDS.get(str(node.get("use")))
    if standard is None:
        if "use" in node:
            reader.wrong(node, "use", f"'{node['use']}' is not a standard; there is {', '.join(STANDARDS)}")
        else:
            reader.wrong(node, None, f"rule '{name}' has no 'use'; name a standard: {', '.join(STANDARDS)}")
        return None
    when = node.get("when") or {}
    if not isinstance(when, dict):
        reader.wrong(node, "when", "when is a mapping of facts, like 'framing: beam_to_girder'")
        when = {}
    conditions = [reader.attempt(when, fact, read_condition, fact, _plain(value)) for fact, value in when.items()]
    fixed = _sizes(reader, node, "set", standard, f"rule '{name}'")
    return Rule(name, tuple(c for c in conditions if c), standard.name, fixed, _ladder(reader, node, standard, name), reader.line_of(node))


def _plain(value: Any) -> Any:
    return [_plain(v) for v in value] if isinstance(value, list) else value


def _sizes(reader: _Reader, node: Any, key: Any, standard: Standard, source: str) -> Sizes:
    given = node.get(key) if isinstance(node, dict) else node[key]
    if given is None:
        return {}
    if not isinstance(given, dict):
        reader.wrong(node, key, "expected a mapping of parameters, like {rows: 3}")
        return {}
    found: Sizes = {}
    for name, value in given.items():
        found.update(reader.attempt(given, name, standard.read, {name: value}, source) or {})
    return found


def _ladder(reader: _Reader, node: dict[str, Any], standard: Standard, name: str) -> tuple[Sizes, ...] | None:
    given = node.get("ladder")
    if given is None:
        return None
    if not isinstance(given, list) or not given or len(given) > MOST_RUNGS:
        reader.wrong(node, "ladder", f"a ladder is a list of 1 to {MOST_RUNGS} rungs, each a mapping of parameters")
        return None
    for k, rung in enumerate(given):
        for asked in [n for n in rung if n in standard.not_climbed] if isinstance(rung, dict) else []:
            reader.wrong(rung, asked, f"{asked} is what the connection has to hold, which no rung may change; put it under set, rung {k + 1}")
    return tuple(_sizes(reader, given, k, standard, f"rung {k + 1} of rule '{name}'") for k in range(len(given)))
