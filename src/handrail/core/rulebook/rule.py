"""A rule as it was read: which connections it takes, which standard it uses there, and with which sizes."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property, lru_cache
from typing import Any

from handrail.core.errors import InputError
from handrail.core.rulebook.conditional import with_facts
from handrail.core.rulebook.conditions import Joined
from handrail.core.rulebook.ladders import Ladder
from handrail.core.rulebook.lookups import Tables, looked_up, looks_up
from handrail.core.rulebook.tables import Table
from handrail.core.standards import STANDARDS, Standard
from handrail.core.standards.formulas import is_formula
from handrail.core.standards.sizes import Sized, Sizes

Facts = Mapping[str, Any]


@dataclass(frozen=True)
class FromTable:
    """A table whose rows give a standard's sizes; `sizes` row by row."""

    table: Table
    sizes: tuple[Sizes, ...]

    @cached_property
    def _by_row(self) -> dict[int, Sizes]:
        return {id(row): sizes for row, sizes in zip(self.table.rows, self.sizes, strict=True)}

    def find(self, facts: Facts) -> Sizes:
        """The sizes for a connection. Raises InputError where the table has no row for it."""
        row = self.table.find(facts)
        if row is None:
            raise InputError(self.table.why_none(facts))
        return self._by_row[id(row)]


@dataclass(frozen=True)
class Failing:
    """What a rule asked that a connection has not, as it is written, and the facts that this looks at."""

    asked: str
    facts: tuple[str, ...]


@dataclass(frozen=True)
class Added:
    """What the also-rules that add to a connection come to, by their names: `over` holds over rule and ladder, `least`
    is what sizes have to be at least, each of it, `target` what sizing aims at, where one of them says."""

    layers: tuple[str, ...] = ()
    over: Sizes = field(default_factory=dict)
    least: tuple[tuple[str, Sized], ...] = ()
    hold: frozenset[str] = frozenset()
    target: float | None = None


NOTHING = Added()


@dataclass(frozen=True, eq=False)
class Rule:
    """One rule: when its conditions hold it takes the connection. `ladder` None climbs the standard's own, but not what
    is in `hold`.

    `base` are the sizes that practice, tables, `set` and what also-rules set give together, as they are for one
    connection once it is `taken`, `added` what also-rules came to there, `target` what sizing aims at; `problem` then
    says why there are none."""

    name: str
    when: Joined
    use: str
    set: Sizes
    ladder: Ladder | None
    line: int
    hold: frozenset[str] = frozenset()
    tables: tuple[FromTable, ...] = ()
    origin: str = ""  # the rulebook that it is inherited from
    note: str = ""
    target: float | None = None
    design: str = ""  # of the house that it uses, by `NAME R2`
    base: Sizes | None = None
    added: Added = NOTHING
    problem: str = ""

    def takes(self, facts: Facts) -> bool:
        """Whether its standard goes with the framing, and every condition holds."""
        return facts["framing"] in STANDARDS[self.use].framings and self.when.holds(facts)

    def failing(self, facts: Facts) -> list[Failing]:
        """Why it passes a connection by; nothing where it takes it."""
        framings = STANDARDS[self.use].framings
        own = (
            []
            if facts["framing"] in framings
            else [Failing(f"{self.use} goes with {', '.join(framings)}", ("framing",))]
        )
        return own + [Failing(str(part), tuple(dict.fromkeys(part.facts))) for part in self.when.failing(facts)]

    @property
    def sizes_in_it(self) -> list[Sized]:
        """All that it sets itself, in its ladder too."""
        return [
            *self.set.values(),
            *(size for rung in (self.ladder.rungs if self.ladder else ()) for size in rung.values()),
        ]

    @property
    def held(self) -> frozenset[str]:
        """What a standard's own ladder leaves as it is."""
        base = self.base or {}
        tabled = {
            name
            for of in self.tables
            for name, size in base.items()
            if size.source.startswith(f"table {of.table.name}:")
        }
        own = self.hold | frozenset(self.set) | tabled | {name for name, size in base.items() if size.asked}
        return own | self.added.hold | frozenset(self.added.over)

    def taken(self, practice: Sizes, tables: Tables, facts: Facts, added: Added = NOTHING) -> Rule:
        """The rule for one connection, with all that tables and also-rules give it."""
        try:
            sizes: Sizes = {}
            for of in self.tables:
                sizes |= of.find(facts)
            standard = STANDARDS[self.use]
            base = resolved(standard, practice | sizes | self.set, tables, facts) | added.over
            ladder = self.ladder and replace(
                self.ladder, rungs=tuple(resolved(standard, rung, tables, facts) for rung in self.ladder.rungs)
            )
        except InputError as exc:
            return replace(self, base=practice | self.set, problem=f"rule '{self.name}': {exc}")
        return replace(self, base=base, ladder=ladder, added=added)


def resolved(standard: Standard, sizes: Sizes, tables: Tables, facts: Facts) -> Sizes:
    """Sizes with what the connection has in place of facts, and what tables give in place of look-ups. Raises
    InputError where there is none."""
    own: Sizes = {}
    for name, size in sizes.items():
        if not is_formula(size.value):
            own[name] = size
            continue
        text, held = with_facts(str(size.value), standard.names, facts)
        words = [f"as {condition}" for condition in held]
        if looks_up(text):
            text, found = looked_up(text, tables, facts)
            words += found
        value = text if is_formula(text) else standard.read_one(name, text)
        own[name] = Sized(value, "; ".join([size.source, *dict.fromkeys(words)]))
    return own


@lru_cache(maxsize=64)
def chosen(use: str) -> Rule:
    """The rule that stands in where a person chose the standard `use`."""
    return Rule("chosen by a person", Joined("all", ()), use, {}, None, -1 - list(STANDARDS).index(use))
