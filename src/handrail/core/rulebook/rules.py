"""Rules: which connections one takes, which standard it uses there, and with which sizes."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from difflib import get_close_matches
from functools import cached_property, lru_cache
from graphlib import CycleError, TopologicalSorter
from typing import Any

from handrail.core.errors import InputError
from handrail.core.rulebook.conditions import JOINED, Condition, Joined, read_asked
from handrail.core.rulebook.ladders import MOST_RUNGS, ORDERS, Ladder, climbed
from handrail.core.rulebook.lookups import Tables, looked_up, looks_up, sampled
from handrail.core.rulebook.reader import Reader, line_of, plain, tell_of_table
from handrail.core.rulebook.tables import ROW_IN, HasRow, Table
from handrail.core.standards import STANDARDS, Standard
from handrail.core.standards.formulas import LONGEST, formula, is_formula
from handrail.core.standards.sizes import Sized, Sizes

RULE_KEYS = ("name", "note", "when", "use", "sizes", "set", "hold", "ladder")
LADDER_KEYS = ("climb", "rungs", "order")
DEEPEST = 6  # conditions in conditions
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


@dataclass(frozen=True, eq=False)
class Rule:
    """One rule: when its conditions hold it takes the connection. `ladder` None climbs the standard's own, but not what
    is in `hold`.

    `base` are the sizes that practice, tables and `set` give together, as they are for one connection once it is
    `taken`; `problem` then says why there are none."""

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
    base: Sizes | None = None
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
        return self.hold | frozenset(self.set) | tabled | {name for name, size in base.items() if size.asked}

    def taken(self, practice: Sizes, tables: Tables, facts: Facts) -> Rule:
        """The rule for one connection, with all that tables give it."""
        try:
            sizes: Sizes = {}
            for of in self.tables:
                sizes |= of.find(facts)
            standard = STANDARDS[self.use]
            base = _resolved(standard, practice | sizes | self.set, tables, facts)
            ladder = self.ladder and replace(
                self.ladder, rungs=tuple(_resolved(standard, rung, tables, facts) for rung in self.ladder.rungs)
            )
        except InputError as exc:
            return replace(self, base=practice | self.set, problem=f"rule '{self.name}': {exc}")
        return replace(self, base=base, ladder=ladder)


def _resolved(standard: Standard, sizes: Sizes, tables: Tables, facts: Facts) -> Sizes:
    """Sizes with what tables give in place of look-ups."""
    if not any(looks_up(size.value) for size in sizes.values()):
        return sizes
    resolved = dict(sizes)
    for name, size in sizes.items():
        if looks_up(size.value):
            text, words = looked_up(str(size.value), tables, facts)
            value = text if is_formula(text) else standard.read_one(name, text)
            resolved[name] = Sized(value, "; ".join([size.source, *dict.fromkeys(words)]))
    return resolved


@lru_cache(maxsize=64)
def chosen(use: str) -> Rule:
    """The rule that stands in where a person chose the standard `use`."""
    return Rule("chosen by a person", Joined("all", ()), use, {}, None, -1 - list(STANDARDS).index(use))


@dataclass
class RuleReader:
    """Reads rules that may use `tables`, on top of `practice`."""

    reader: Reader
    tables: dict[str, Table]
    practice: dict[str, Sizes]
    read_already: dict[tuple[str, str], FromTable | None] = field(
        default_factory=dict
    )  # (table, standard), however many rules use it

    def rule(self, rules: Any, k: int) -> Rule | None:
        """Rule `k`; None where it cannot be read, which is told."""
        node, reader = rules[k], self.reader
        if not isinstance(node, dict):
            reader.wrong(rules, k, "a rule is a mapping with name, when and use")
            return None
        reader.keys(node, RULE_KEYS, "a rule")
        name = str(node.get("name") or f"rule {k + 1}")
        standard = self._standard(node, name)
        when = reader.mapping(node, "when", "when is a mapping of facts, like 'framing: beam_to_girder'")
        conditions = self._conditions(when, 0)
        if standard is None:
            return None
        tables = self._from_tables(node, standard)
        own = self.sizes(node, "set", standard, f"rule '{name}'")
        ladder, hold = self._ladder(node, standard, name), self._hold(node, standard)
        for held in sorted(hold & (ladder.names if ladder else frozenset())):
            reader.wrong(node, "hold", f"{held} is held, and a rung of the ladder sets it; take it out of one of them")
        rule = Rule(
            name,
            Joined("all", tuple(conditions)),
            standard.name,
            own,
            ladder,
            line_of(node),
            hold,
            tables,
            note=str(node.get("note") or ""),
        )
        self._circles(node, rule)
        return rule

    def _standard(self, node: dict[str, Any], name: str) -> Standard | None:
        standard = STANDARDS.get(str(node.get("use")))
        if standard is None and "use" in node:
            near = get_close_matches(str(node["use"])[:60], STANDARDS, 1, 0.6)
            self.reader.wrong(
                node,
                "use",
                f"'{str(node['use'])[:60]}' is not a standard{f'; did you mean {near[0]}?' if near else ''}; "
                f"there is {', '.join(STANDARDS)}",
            )
        elif standard is None:
            self.reader.wrong(node, None, f"rule '{name}' has no 'use'; name a standard: {', '.join(STANDARDS)}")
        return standard

    def _conditions(self, when: dict[str, Any], depth: int) -> list[Condition]:
        conditions: list[Condition] = []
        for name, value in when.items():
            part: Condition | None
            if name in JOINED:
                part = self._joined(when, name, value, depth + 1)
            elif name == ROW_IN:
                part = self._row_in(when, value)
            else:
                part = self.reader.attempt(when, name, read_asked, str(name), plain(value))
            if part is not None:
                conditions.append(part)
        return conditions

    def _joined(self, when: Any, how: str, value: Any, depth: int) -> Joined | None:
        if depth > DEEPEST:
            self.reader.wrong(when, how, f"conditions are nested deeper than {DEEPEST}")
            return None
        entries = value if isinstance(value, list) else [value]
        if not entries or not all(isinstance(entry, dict) and entry for entry in entries):
            self.reader.wrong(
                when,
                how,
                f"{how} takes facts, or a list of them, like {how}: [{{skew: '> 5 deg'}}, {{slope: '> 5 deg'}}]",
            )
            return None
        if how == "any" and not isinstance(value, list):  # any of these facts
            parts: list[Condition] = self._conditions(value, depth)
        else:
            parts = [
                Joined("all", own) if len(own) != 1 else own[0]
                for own in (tuple(self._conditions(entry, depth)) for entry in entries)
                if own
            ]
        if how == "not" and isinstance(value, list):  # none of these
            return Joined("all", tuple(Joined("not", (part,)) for part in parts))
        return Joined(how, tuple(parts))

    def _row_in(self, when: Any, value: Any) -> Condition | None:
        names = value if isinstance(value, list) else [value]
        for name in names:
            if not isinstance(name, str) or name not in self.tables:
                self.reader.wrong(when, ROW_IN, f"there is no table '{str(name)[:40]}'; {_there(self.tables)}")
                return None
            if self.tables[name].by_number:
                self.reader.wrong(when, ROW_IN, f"table {name} is not found by facts of a connection")
                return None
        parts = tuple(HasRow(self.tables[name]) for name in names)
        return parts[0] if len(parts) == 1 else Joined("any", parts)

    def _from_tables(self, node: dict[str, Any], standard: Standard) -> tuple[FromTable, ...]:
        given = node.get("sizes")
        names = given if isinstance(given, list) else [] if given is None else [given]
        picks = []
        for name in names:
            if not isinstance(name, str) or name not in self.tables:
                self.reader.wrong(node, "sizes", f"there is no table '{str(name)[:40]}'; {_there(self.tables)}")
            elif self.tables[name].by_number:
                self.reader.wrong(
                    node, "sizes", f"table {name} is not found by facts of a connection; a formula can look_up in it"
                )
            else:
                if (name, standard.name) not in self.read_already:
                    self.read_already[name, standard.name] = self._from_table(node, self.tables[name], standard)
                picks.append(self.read_already[name, standard.name])
        return tuple(f for f in picks if f is not None)

    def _from_table(self, node: dict[str, Any], table: Table, standard: Standard) -> FromTable | None:
        known = {p.name for p in standard.parameters}
        if not known & {c.name for c in table.columns}:
            self.reader.wrong(node, "sizes", f"table {table.name} has no column that is a parameter of {standard.name}")
            return None
        rows = []
        for row in table.rows:
            sizes: Sizes = {}
            for name in known & row.cells.keys():
                try:
                    sizes[name] = Sized(standard.read_one(name, row.cells[name]), f"table {table.name}: {row.said}")
                except InputError as exc:
                    self.table_wrong(table, row.place, exc.words)
            rows.append(sizes)
        return FromTable(table, tuple(rows))

    def table_wrong(self, table: Table, place: Any, words: str) -> None:
        """Something is wrong in a table, at the place of one of its rows."""
        tell_of_table(self.reader, table.place, place, f"table {table.name}: {words}")

    def sizes(self, node: Any, key: Any, standard: Standard, source: str) -> Sizes:
        """The sizes in the mapping at `key`."""
        given = node.get(key) if isinstance(node, dict) else node[key]
        if given is None:
            return {}
        if not isinstance(given, dict):
            self.reader.wrong(node, key, "expected a mapping of parameters, like {rows: 3}")
            return {}
        sizes: Sizes = {}
        for name, value in given.items():
            if (
                isinstance(value, dict)
                and (group := f"{name}_")
                and any(p.name.startswith(group) for p in standard.parameters)
            ):
                inner = {
                    f"{group}{entry}": (value, entry) for entry in value
                }  # foundation: {kind: ...} gives foundation_kind
            else:
                inner = {str(name): (given, name)}
            for whole, (where, at) in inner.items():
                size = self.reader.attempt(where, at, self.size, standard, whole, plain(where[at]), source)
                if size is not None:
                    sizes[whole] = size
        return sizes

    def size(self, standard: Standard, name: str, value: Any, source: str) -> Sized:
        """One size; what it looks up in tables is found when a connection is taken. Raises InputError."""
        if not looks_up(value):
            return Sized(standard.read_one(name, value), source)
        if len(str(value)) > LONGEST:
            raise InputError(f"{name}: a formula is 1 to {LONGEST} characters after its =, like '= 2 * ceil(rows / 2)'")
        standard.read_one(name, sampled(value, self.tables))
        return Sized(f"= {str(value).lstrip().removeprefix('=').strip()}", source)

    def _hold(self, node: dict[str, Any], standard: Standard) -> frozenset[str]:
        given = node.get("hold") or []
        names = given if isinstance(given, list) else [given]
        for name in names:
            self.reader.attempt(node, "hold", standard.parameter, str(name))
        return frozenset(map(str, names))

    def _ladder(self, node: dict[str, Any], standard: Standard, name: str) -> Ladder | None:
        given = node.get("ladder")
        if given is None:
            return None
        order = "as_written"
        if isinstance(given, dict):
            self.reader.keys(given, LADDER_KEYS, "a ladder")
            order = str(given.get("order", order))
            if order not in ORDERS:
                self.reader.wrong(given, "order", f"order is one of {', '.join(ORDERS)}")
            if ("climb" in given) is ("rungs" in given):
                self.reader.wrong(
                    node, "ladder", "a ladder has climb (values to go through) or rungs (candidates), one of them"
                )
                return None
        rungs = (
            self._climb(given, standard, name)
            if isinstance(given, dict) and "climb" in given
            else self._rungs(node, given, standard, name)
        )
        return Ladder(rungs, order) if rungs else None

    def _climb(self, given: dict[str, Any], standard: Standard, name: str) -> tuple[Sizes, ...]:
        entries = given["climb"]
        if isinstance(entries, dict):
            entries = [{n: v} for n, v in entries.items()]
        if not isinstance(entries, list) or not entries or not all(isinstance(e, dict) and e for e in entries):
            self.reader.wrong(given, "climb", "climb is a list of parameters with their values, like - rows: 3 .. 8")
            return ()
        for entry in entries:
            self._not_climbed(entry, standard, given, "climb")
        return self.reader.attempt(given, "climb", climbed, standard, [plain(e) for e in entries], name) or ()

    def _rungs(self, node: dict[str, Any], given: Any, standard: Standard, name: str) -> tuple[Sizes, ...]:
        at, key = (given, "rungs") if isinstance(given, dict) else (node, "ladder")
        rungs = at[key]
        if not isinstance(rungs, list) or not rungs or len(rungs) > MOST_RUNGS:
            self.reader.wrong(at, key, f"a ladder is a list of 1 to {MOST_RUNGS} rungs, each a mapping of parameters")
            return ()
        for k, rung in enumerate(rungs):
            self._not_climbed(rung, standard, rungs, k)
        return tuple(self.sizes(rungs, k, standard, f"rung {k + 1} of rule '{name}'") for k in range(len(rungs)))

    def _not_climbed(self, rung: Any, standard: Standard, node: Any, key: Any) -> None:
        for asked in [n for n in rung if n in standard.asked] if isinstance(rung, dict) else []:
            at = (rung, asked) if getattr(rung, "lc", None) is not None else (node, key)
            self.reader.wrong(
                *at, f"{asked} is what the connection has to hold, which no rung may change; put it under set"
            )

    def _circles(self, node: dict[str, Any], rule: Rule) -> None:
        """Tells of formulas that ask for each other, with what practice gives."""
        base = self.practice.get(rule.use, {}) | rule.set
        asks = {}
        for name, size in base.items():
            if is_formula(size.value):
                try:
                    asks[name] = (
                        formula(sampled(str(size.value), self.tables)).asks
                        if looks_up(size.value)
                        else formula(str(size.value)).asks
                    )
                except InputError:
                    continue  # told already
        if circle := _circle(asks):
            own = next((name for name in circle if name in rule.set), None)
            where, key = (node["set"], own) if own else (node, "use")
            self.reader.wrong(where, key, f"{' -> '.join(circle)} goes in a circle; give one of them a value")


def _there(tables: Mapping[str, Table]) -> str:
    return f"there is {', '.join(tables)}" if tables else "write it under tables"


def _circle(asks: Mapping[str, frozenset[str]]) -> list[str]:
    """The names of one circle of formulas, the first again at its end; empty where there is none."""
    try:
        TopologicalSorter(asks).prepare()
    except CycleError as exc:
        return [str(name) for name in reversed(exc.args[1])]
    return []
