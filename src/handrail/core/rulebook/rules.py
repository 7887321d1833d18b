"""Rules as they are written: read, each mistake told at its place."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from difflib import get_close_matches
from graphlib import CycleError, TopologicalSorter
from typing import Any

from handrail.core.errors import InputError
from handrail.core.rulebook.asking import Conditions, there_is
from handrail.core.rulebook.conditional import facts_in, sides
from handrail.core.rulebook.conditions import Joined
from handrail.core.rulebook.design import BY_PRACTICE, DESIGN, Design, read_design
from handrail.core.rulebook.facts import OF_RULE
from handrail.core.rulebook.ladders import MOST_RUNGS, ORDERS, Ladder, climbed
from handrail.core.rulebook.lookups import looks_up, sampled
from handrail.core.rulebook.practice import TARGET
from handrail.core.rulebook.reader import Reader, line_of, plain, tell_of_table
from handrail.core.rulebook.rule import FromTable, Rule
from handrail.core.rulebook.tables import Table
from handrail.core.standards import STANDARDS, Standard
from handrail.core.standards.formulas import LONGEST, formula, is_formula
from handrail.core.standards.sizes import Sized, Sizes

RULE_KEYS = ("name", "note", "when", "use", "fields", "by_practice", "sizes", "set", "hold", "ladder", TARGET)
LADDER_KEYS = ("climb", "rungs", "order")


@dataclass
class RuleReader:
    """Reads rules that may use `tables`, on top of `practice`."""

    reader: Reader
    tables: dict[str, Table]
    practice: dict[str, Sizes]
    layered: bool = False  # also-rules, that ask which rule took it too
    designs: Callable[[str], str] | None = None  # the text of a design of the house by `NAME R2`; raises InputError
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
        design = self._design(node, name)
        standard = design[1].standard if design else None
        if standard is None and "use" in node and not self._names_design(node):
            standard = self.standard_of(node, node["use"])
        if "use" not in node:
            reader.wrong(node, None, f"rule '{name}' has no 'use'; name a standard: {', '.join(STANDARDS)}")
        when = reader.mapping(node, "when", "when is a mapping of facts, like 'framing: beam_to_girder'")
        conditions = Conditions(reader, self.tables, self.layered).read(when)
        if design:
            conditions += design[1].when.parts
        if standard is None:
            return None
        tables = self.from_tables(node, standard)
        own = (design[2] if design else {}) | self.sizes(node, "set", standard, f"rule '{name}'")
        ladder, hold = self._ladder(node, standard, name), self._hold(node, standard)
        if design:
            ladder = Ladder(({},))  # a piece as it is: nothing climbs
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
            target=read_target(reader, node),
            design=design[0] if design else "",
        )
        self._circles(node, rule)
        return rule

    def _names_design(self, node: dict[str, Any]) -> bool:
        return str(node.get("use")).startswith(DESIGN)

    def _design(self, node: dict[str, Any], name: str) -> tuple[str, Design, Sizes] | None:
        """What the rule's design is called, it, and its sizes there; None where it uses none, or one that there is
        not, which is told."""
        if not self._names_design(node):
            for key in [k for k in ("fields", "by_practice") if k in node]:
                self.reader.wrong(node, key, f"{key} goes with a design of the house: use: design NAME R1")
            return None
        for climbs in [k for k in ("ladder", "hold") if k in node]:
            self.reader.wrong(node, climbs, f"rule '{name}' uses a design, which is a piece as it is: nothing climbs")
        called = str(node["use"]).removeprefix(DESIGN).strip()
        practice = node.get("by_practice") or []
        practice = tuple(str(one) for one in (practice if isinstance(practice, list) else [practice]))
        if wrong := [one for one in practice if one not in BY_PRACTICE]:
            self.reader.wrong(node, "by_practice", f"'{wrong[0][:40]}' is none of {', '.join(BY_PRACTICE)}")
            return None
        fields = plain(self.reader.mapping(node, "fields", "fields is a mapping of what the design asks"))
        return self.reader.attempt(node, "use", self._found, called, fields, practice)

    def _found(self, called: str, fields: dict[str, Any], practice: tuple[str, ...]) -> tuple[str, Design, Sizes]:
        if self.designs is None:
            raise InputError("only a rulebook of a job, or of the house, uses designs of the house")
        design = read_design(self.designs(called))
        return called, design, design.sizes(f"design {called}", fields, practice)

    def standard_of(self, node: dict[str, Any], use: Any) -> Standard | None:
        """The standard that a rule uses; None where there is none of that name, which is told."""
        standard = STANDARDS.get(str(use))
        if standard is None:
            near = get_close_matches(str(use)[:60], STANDARDS, 1, 0.6)
            self.reader.wrong(
                node,
                "use",
                f"'{str(use)[:60]}' is not a standard{f'; did you mean {near[0]}?' if near else ''}; "
                f"there is {', '.join(STANDARDS)}",
            )
        return standard

    def from_tables(self, node: dict[str, Any], standard: Standard, must: bool = True) -> tuple[FromTable, ...]:
        """The tables that give a standard's sizes, as `sizes` names them; whether each `must` have some for it."""
        given = node.get("sizes")
        names = given if isinstance(given, list) else [] if given is None else [given]
        picks = []
        for name in names:
            if not isinstance(name, str) or name not in self.tables:
                self.reader.wrong(node, "sizes", f"there is no table '{str(name)[:40]}'; {there_is(self.tables)}")
            elif self.tables[name].by_number:
                self.reader.wrong(
                    node, "sizes", f"table {name} is not found by facts of a connection; a formula can look_up in it"
                )
            else:
                if (name, standard.name) not in self.read_already:
                    self.read_already[name, standard.name] = self._from_table(node, self.tables[name], standard, must)
                picks.append(self.read_already[name, standard.name])
        return tuple(f for f in picks if f is not None)

    def _from_table(self, node: dict[str, Any], table: Table, standard: Standard, must: bool) -> FromTable | None:
        known = standard.names
        if not known & {c.name for c in table.columns}:
            if must:
                words = f"table {table.name} has no column that is a parameter of {standard.name}"
                self.reader.wrong(node, "sizes", words)
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
        for name in given:
            sizes |= self.entry(given, name, standard, source)
        return sizes

    def entry(self, given: dict[str, Any], name: Any, standard: Standard, source: str) -> Sizes:
        """The size, or those of a group, that one entry of a mapping gives."""
        sizes: Sizes = {}
        value = given[name]
        if (
            isinstance(value, dict)
            and (group := f"{name}_")
            and any(p.name.startswith(group) for p in standard.parameters)
        ):
            inner = {f"{group}{entry}": (value, entry) for entry in value}  # foundation: {kind: ...}: foundation_kind
        else:
            inner = {str(name): (given, name)}
        for whole, (where, at) in inner.items():
            size = self.reader.attempt(where, at, self.size, standard, whole, plain(where[at]), source)
            if size is not None:
                sizes[whole] = size
        return sizes

    def size(self, standard: Standard, name: str, value: Any, source: str) -> Sized:
        """One size; what it asks of a connection, and looks up in tables, is found when one is taken. Raises
        InputError."""
        may = sides(str(value), standard.names) if is_formula(value) else []
        if not (looks_up(value) or (may and self._facts_in(standard, name, value))):
            return Sized(standard.read_one(name, value), source)
        if len(str(value)) > LONGEST:
            raise InputError(f"{name}: a formula is 1 to {LONGEST} characters after its =, like '= 2 * ceil(rows / 2)'")
        for side in may:
            sample = sampled(side, self.tables) if looks_up(side) else side
            try:
                standard.read_one(name, sample)
            except InputError as exc:  # in the words that are written, not in those that stand in for facts
                body = str(value).lstrip().removeprefix("=").strip()
                stood_in = sample.removeprefix("= ")
                raise InputError(exc.words.replace(stood_in, body) if is_formula(sample) else exc.words) from exc
        return Sized(f"= {str(value).lstrip().removeprefix('=').strip()}", source)

    def _facts_in(self, standard: Standard, name: str, value: str) -> tuple[str, ...]:
        try:
            asked = facts_in(value, standard.names)
        except InputError as exc:
            raise InputError(f"{name}: {exc.words}") from exc
        if wrong := [of for of in asked if of in OF_RULE and not self.layered]:
            raise InputError(f"{name}: '{wrong[0]}' is what an also-rule can ask for")
        return asked

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
                    may = sides(str(size.value), STANDARDS[rule.use].names)
                    texts = [sampled(side, self.tables) if looks_up(side) else side for side in may]
                    asks[name] = frozenset().union(*(formula(text).asks for text in texts if is_formula(text)))
                except InputError:
                    continue  # told already
        if circle := _circle(asks):
            own = next((name for name in circle if name in rule.set), None)
            where, key = (node["set"], own) if own else (node, "use")
            self.reader.wrong(where, key, f"{' -> '.join(circle)} goes in a circle; give one of them a value")


def read_target(reader: Reader, node: dict[str, Any]) -> float | None:
    """What sizing aims at, where it is said."""
    target = node.get(TARGET)
    if target is None:
        return None
    if isinstance(target, bool) or not isinstance(target, int | float) or not 0.1 <= target <= 1.0:
        reader.wrong(node, TARGET, f"{TARGET} is a number from 0.1 to 1.0")
        return None
    return float(target)


def _circle(asks: Mapping[str, frozenset[str]]) -> list[str]:
    """The names of one circle of formulas, the first again at its end; empty where there is none."""
    try:
        TopologicalSorter(asks).prepare()
    except CycleError as exc:
        return [str(name) for name in reversed(exc.args[1])]
    return []
