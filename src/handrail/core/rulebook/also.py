"""Also-rules: a second list of rules, each of which adds to whatever rule took a connection: what has to be at least,
what is so there, what sizing aims at."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from difflib import get_close_matches
from typing import Any

from handrail.core.errors import InputError
from handrail.core.rulebook.asking import Conditions
from handrail.core.rulebook.conditions import Joined
from handrail.core.rulebook.lookups import Tables
from handrail.core.rulebook.practice import TARGET
from handrail.core.rulebook.reader import line_of
from handrail.core.rulebook.rule import Added, Failing, FromTable, resolved
from handrail.core.rulebook.rules import RuleReader, read_target
from handrail.core.standards import STANDARDS, Standard
from handrail.core.standards.formulas import NUMBERS
from handrail.core.standards.sizes import Sized, Sizes

ALSO_KEYS = ("name", "note", "when", "use", "sizes", "set", "least", "hold", TARGET)
GIVES = ("sizes", "set", "least", "hold", TARGET)  # of which it has to have one
Facts = Mapping[str, Any]


@dataclass(frozen=True, eq=False)
class Also:
    """One also-rule. `use` are the standards that it adds to, all where it is empty; `set` and `least` are what it
    gives by standard, as far as that has such parameters."""

    name: str
    when: Joined
    use: tuple[str, ...]
    set: Mapping[str, Sizes]
    least: Mapping[str, Sizes]
    hold: frozenset[str]
    target: float | None
    line: int
    tables: Mapping[str, tuple[FromTable, ...]] = field(default_factory=dict)
    origin: str = ""
    note: str = ""

    @property
    def source(self) -> str:
        """What stands as the source of the sizes that it gives."""
        return f"also '{self.name}'"

    def gives(self, standard: str) -> bool:
        """Whether there is anything in it for a standard."""
        if self.use and standard not in self.use:
            return False
        own = {p.name for p in STANDARDS[standard].parameters}
        given = self.set.get(standard) or self.least.get(standard) or self.tables.get(standard) or self.hold & own
        return bool(given) or self.target is not None

    def adds(self, standard: str, facts: Facts) -> bool:
        """Whether it adds something to what took a connection with these facts."""
        return self.gives(standard) and self.when.holds(facts)

    def failing(self, standard: str, facts: Facts) -> list[Failing]:
        """Why it adds nothing to what took a connection with these facts; nothing where it does."""
        own = []
        if self.use and standard not in self.use:
            own = [Failing(f"{self.name} adds to {', '.join(self.use)}", ("standard",))]
        elif not self.gives(standard):
            own = [Failing(f"{self.name} has nothing for {standard}", ("standard",))]
        return own + [Failing(str(part), tuple(dict.fromkeys(part.facts))) for part in self.when.failing(facts)]

    def sizes_in_it(self, standard: str) -> list[Sized]:
        """All that it says itself of a standard's sizes."""
        return [*self.set.get(standard, {}).values(), *self.least.get(standard, {}).values()]


def added(layers: tuple[Also, ...], use: str, tables: Tables, facts: Facts) -> Added:
    """What these also-rules give a connection of the standard `use`, a later one over an earlier one; of what is at
    least so, all hold. Raises InputError where a table has no row for it."""
    standard, over = STANDARDS[use], Sizes()
    least: list[tuple[str, Sized]] = []
    for also in layers:
        try:
            for of in also.tables.get(use, ()):
                over |= {n: Sized(s.value, f"{also.source}, {s.source}") for n, s in of.find(facts).items()}
            over |= resolved(standard, also.set.get(use, {}), tables, facts)
            least += resolved(standard, also.least.get(use, {}), tables, facts).items()
        except InputError as exc:
            raise InputError(f"{also.source}: {exc.words}") from exc
    hold = frozenset().union(*(also.hold for also in layers))
    target = next((also.target for also in reversed(layers) if also.target is not None), None)
    return Added(tuple(also.name for also in layers), over, tuple(least), hold, target)


@dataclass
class AlsoReader:
    """Reads also-rules, with what `rules`, `layered`, know of tables."""

    rules: RuleReader

    def also(self, nodes: Any, k: int) -> Also | None:
        """Also-rule `k`; None where it cannot be read, which is told."""
        node, reader = nodes[k], self.rules.reader
        if not isinstance(node, dict):
            reader.wrong(nodes, k, "an also-rule is a mapping with name, when and what it adds")
            return None
        reader.keys(node, ALSO_KEYS, "an also-rule")
        name = str(node.get("name") or f"also-rule {k + 1}")
        when = reader.mapping(node, "when", "when is a mapping of facts, like 'group: Stair core'")
        conditions = Conditions(reader, self.rules.tables, layered=True).read(when)
        use = self._use(node)
        if not any(key in node for key in GIVES):
            reader.wrong(node, None, f"also-rule '{name}' adds nothing; it takes {', '.join(GIVES)}")
        given = self._sizes(node, "set", use, f"also '{name}'")
        least = self._sizes(node, "least", use, f"also '{name}': at least")
        tables = {}
        if node.get("sizes") is not None:
            standards = [STANDARDS[n] for n in use or STANDARDS]
            tables = {s.name: own for s in standards if (own := self.rules.from_tables(node, s, bool(use)))}
            named = node["sizes"] if isinstance(node["sizes"], list) else [node["sizes"]]
            if not tables and not use and all(name in self.rules.tables for name in named if isinstance(name, str)):
                reader.wrong(node, "sizes", "no column of it is a parameter of any standard")
        return Also(
            name,
            Joined("all", tuple(conditions)),
            use,
            given,
            least,
            self._hold(node, use),
            read_target(reader, node),
            line_of(node),
            tables,
            note=str(node.get("note") or ""),
        )

    def _use(self, node: dict[str, Any]) -> tuple[str, ...]:
        given = node.get("use")
        names = given if isinstance(given, list) else [] if given is None else [given]
        found = [self.rules.standard_of(node, name) for name in names]
        return tuple(s.name for s in found if s is not None)

    def _having(self, name: str, use: tuple[str, ...]) -> list[Standard]:
        """The standards that have a parameter, or a group of them, of this name."""
        among = [STANDARDS[n] for n in use or STANDARDS]
        own = [s for s in among if any(p.name == name for p in s.parameters)]
        return own or [s for s in among if any(p.name.startswith(f"{name}_") for p in s.parameters)]

    def _sizes(self, node: dict[str, Any], key: str, use: tuple[str, ...], source: str) -> dict[str, Sizes]:
        """What stands in the mapping at `key`, by standard."""
        reader = self.rules.reader
        given = reader.mapping(node, key, f"{key} is a mapping of parameters, like {{rows: 3}}")
        found: dict[str, Sizes] = {}
        for name in given:
            standards = self._having(str(name), use)
            if not standards:
                words = f"no standard {_of(use)}has a parameter '{str(name)[:60]}'{_near(str(name), use)}"
                reader.wrong(given, name, words, of_value=False)
            for standard in standards:
                told = len(reader.problems)
                sizes = self.rules.entry(given, name, standard, source)
                if not use and len(standards) > 1:
                    reader.problems[told:] = [
                        (line, column, f"{words} of {standard.name}; `use` names the standards that are meant")
                        for line, column, words in reader.problems[told:]
                    ]
                for whole in sizes if key == "least" else ():
                    if standard.parameter(whole).kind not in NUMBERS:
                        reader.wrong(
                            given, name, f"{whole} is no number, so nothing is the least of it; put it under set"
                        )
                found.setdefault(standard.name, {}).update(sizes)
        return found

    def _hold(self, node: dict[str, Any], use: tuple[str, ...]) -> frozenset[str]:
        given = node.get("hold") or []
        names = [str(name) for name in (given if isinstance(given, list) else [given])]
        for name in names:
            if not self._having(name, use):
                self.rules.reader.wrong(node, "hold", f"no standard {_of(use)}has a parameter '{name[:60]}'")
        return frozenset(names)


def _of(use: tuple[str, ...]) -> str:
    return f"of {', '.join(use)} " if use else ""


def _near(name: str, use: tuple[str, ...]) -> str:
    known = [p.name for n in use or STANDARDS for p in STANDARDS[n].parameters]
    near = get_close_matches(name[:60], known, 1, 0.6)
    return f"; did you mean {near[0]}?" if near else ""
