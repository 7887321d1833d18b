"""Size tables: rows of sizes found by facts of a connection (exact, by the longest prefix, by range) or by a number
that a formula works out."""

from __future__ import annotations

import csv
import io
import re
from bisect import insort
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from handrail.core.catalogue.tables import key
from handrail.core.errors import InputError
from handrail.core.quantities.units import CORE_UNITS, parse
from handrail.core.rulebook.conditions import Test, quantity_test, read_range
from handrail.core.rulebook.facts import FACTS, Fact, fact
from handrail.core.standards.formulas import kind_of_unit

ROW_IN = "row_in"
MATCHES = ("exact", "prefix", "range")
MOST_ROWS, MOST_COLUMNS, MOST_SPANS = 5000, 40, 300
SEVERAL = ("group", "tag")  # facts that a connection has several of
NOTES = ("note", "remark", "remarks")  # columns that are for people
_HEAD = re.compile(r"^\s*(?P<name>[^\[\]]+?)\s*(?:\[\s*(?P<unit>[^\[\]]*?)\s*\])?\s*$")
_UNITLESS = re.compile(r"^[-+<>=.\d\s/]+$")
NAME = re.compile(r"^[a-z][a-z0-9_]{0,39}$")


@dataclass(frozen=True)
class Column:
    """A column by name; `unit` counts for cells that have none of their own, `kind` is that of the unit, empty for
    plain numbers and words."""

    name: str
    unit: str
    kind: str


@dataclass(frozen=True)
class Row:
    """One row: `said` is its key as it was written, `cells` its other columns that are not empty, with their units;
    `place` where it stands."""

    said: str
    keys: tuple[str, ...]
    cells: Mapping[str, str]
    place: Any


@dataclass(frozen=True)
class Key:
    """A column that rows are found by: a fact, or a number that formulas give (`fact` of kind number or a quantity's,
    not of a connection)."""

    column: Column
    match: str
    fact: Fact | None

    @property
    def kind(self) -> str:
        """Of a quantity that its cells are; empty for words."""
        of = self.fact.kind if self.fact else self.column.kind or "number"
        return of if of in CORE_UNITS else ""

    def plain(self, text: str) -> str:
        """A word as it is compared."""
        if self.fact is None or self.fact.kind == "name":
            return key(text)
        return text.strip().lower() if self.fact.kind == "flag" else text.strip().casefold()


@dataclass(frozen=True)
class Table:
    """Rows in their order; `columns` are those besides the keys."""

    name: str
    keys: tuple[Key, ...]
    columns: tuple[Column, ...]
    rows: tuple[Row, ...]
    place: Any = field(compare=False, default=None)

    @property
    def asks(self) -> tuple[str, ...]:
        """The facts that its rows are found by."""
        return tuple(k.fact.name for k in self.keys if k.fact)

    @property
    def by_number(self) -> Key | None:
        """Its key where a formula has to give it."""
        return next((k for k in self.keys if k.fact is None), None)

    @cached_property
    def _exactly(self) -> dict[tuple[str, ...], list[tuple[Row, tuple[str, ...], Test]]]:
        """By what has to be exact: the rows, their prefixes, their range's test."""
        exactly: dict[tuple[str, ...], list[tuple[Row, tuple[str, ...], Test]]] = {}
        for row in self.rows:
            exact = tuple(k.plain(said) for k, said in zip(self.keys, row.keys, strict=True) if k.match == "exact")
            prefixes = tuple(k.plain(said) for k, said in zip(self.keys, row.keys, strict=True) if k.match == "prefix")
            test = next(
                (_test(k, said) for k, said in zip(self.keys, row.keys, strict=True) if k.match == "range"),
                lambda given: True,
            )
            exactly.setdefault(exact, []).append((row, prefixes, test))
        return exactly

    def find(self, facts: Mapping[str, Any]) -> Row | None:
        """The row for a connection: of those that fit, the one with the longest prefix, and the first of these."""
        given = {k: facts.get(k.fact.name) for k in self.keys if k.fact}
        if any(value is None for value in given.values()):
            return None
        words = {k: k.plain(str(value)) for k, value in given.items() if k.match != "range"}
        exact = tuple(words[k] for k in self.keys if k.match == "exact")
        wanted = [words[k] for k in self.keys if k.match == "prefix"]
        number = next((value for k, value in given.items() if k.match == "range"), None)
        best: tuple[int, Row] | None = None
        for row, prefixes, test in self._exactly.get(exact, ()):
            if all(word.startswith(prefix) for word, prefix in zip(wanted, prefixes, strict=True)) and test(number):
                length = sum(map(len, prefixes))
                if best is None or length > best[0]:
                    best = (length, row)
        return best[1] if best else None

    def why_none(self, facts: Mapping[str, Any]) -> str:
        """In words, that there is no row for a connection."""
        given = ", ".join(
            f"{name} {facts.get(name) if facts.get(name) is not None else '(which it has not)'}" for name in self.asks
        )
        return f"table {self.name} has no row for {given}"

    def intervals(self, column: str) -> Iterator[tuple[float, float, str]]:
        """(low, high, value) of every row that has one in `column`, for a table by a number, in the core's unit of its
        key."""
        own = self.keys[0]
        for row in self.rows:
            if column in row.cells:
                yield (*_interval(own, row.keys[0]), row.cells[column])


@dataclass(frozen=True)
class HasRow:
    """The condition that a table has a row for the connection."""

    table: Table

    @property
    def facts(self) -> tuple[str, ...]:
        return self.table.asks

    def holds(self, facts: Mapping[str, Any]) -> bool:
        """Whether it has."""
        return self.table.find(facts) is not None

    def failing(self, facts: Mapping[str, Any]) -> list[HasRow]:
        """What of it does not hold."""
        return [] if self.holds(facts) else [self]

    def __str__(self) -> str:
        return f"{ROW_IN}: {self.table.name}"


def _test(own: Key, said: str) -> Test:
    return quantity_test(own.column.name, own.kind, said, _bare(own))


def _bare(own: Key) -> float | None:
    return parse(f"1 {own.column.unit}", own.kind) if own.column.unit else None


def _interval(own: Key, said: str) -> tuple[float, float]:
    """What a range's cell spans; open ends are far away."""
    name, far = own.column.name, 1e12
    if interval := read_range(name, own.kind, said, _bare(own)):
        return interval
    match = re.match(r"^\s*(<=|>=|<|>)\s*(.+)$", said)
    at = parse(match[2] if match else said, own.kind, _bare(own))
    if match is None:
        return at, at
    return (-far, at) if match[1].startswith("<") else (at, far)


Wrong = Callable[[Any, str], None]  # place of what is wrong, words


def read_table(name: str, node: Mapping[str, Any], files: Mapping[str, str], wrong: Wrong) -> Table | None:
    """The table `name` of a rulebook: its rows written out, as CSV in the rulebook, or as a file beside it. What is
    wrong is told to `wrong` with its place: a key of `node`, ("row", number from 0) of written rows, ("line", number
    from 1) of CSV."""
    if not NAME.match(name):
        wrong(None, f"'{name[:40]}' is no name for a table; use small letters, figures and _, like beams")
        return None
    given = [way for way in ("rows", "csv", "file") if way in node]
    if len(given) != 1:
        wrong(None, f"table {name}: give its rows, or csv, or the file that they are in; one of them")
        return None
    if "by" not in node:
        wrong(None, f"table {name}: say what its rows are found by, like by: supported.section")
        return None
    head, lines = _written(name, node, given[0], files, wrong)
    if head is None:
        return None
    try:
        keys = _keys(node, head)
        return _checked(
            Table(
                name,
                keys,
                tuple(c for c in head if c.name not in {k.column.name for k in keys}),
                _rows(head, keys, lines, wrong),
                node,
            ),
            wrong,
        )
    except InputError as exc:
        wrong("match" if "match" in exc.words and "match" in node else "by", f"table {name}: {exc.words}")
        return None


Lines = list[tuple[Any, dict[str, str]]]  # place of a row, its cells by column


def _written(
    name: str, node: Mapping[str, Any], way: str, files: Mapping[str, str], wrong: Wrong
) -> tuple[list[Column] | None, Lines]:
    """The columns and the rows as text."""
    if way == "rows":
        return _listed(name, node, wrong)
    if way == "file" and str(node["file"]) not in files:
        there = f"there is {', '.join(sorted(files))}" if files else "put it with the rulebook"
        wrong("file", f"table {name}: there is no file '{node['file']}' beside the rulebook; {there}")
        return None, []
    text = files[str(node["file"])] if way == "file" else str(node["csv"])
    return _comma_separated(name, text, lambda line, words: wrong(("line", line), f"table {name}: {words}"))


def _listed(name: str, node: Mapping[str, Any], wrong: Wrong) -> tuple[list[Column] | None, Lines]:
    rows, units = node["rows"], node.get("units") or {}
    if (
        not isinstance(rows, list)
        or not rows
        or len(rows) > MOST_ROWS
        or not all(isinstance(row, dict) and row for row in rows)
    ):
        wrong(
            "rows",
            f"table {name}: rows is a list of 1 to {MOST_ROWS} mappings, like - {{supported.section: W18X40, rows: 4}}",
        )
        return None, []
    if not isinstance(units, dict):
        wrong("units", f"table {name}: units is a mapping, like {{plate_thickness: in}}")
        return None, []
    names = list(dict.fromkeys(str(column) for row in rows for column in row))
    try:
        head = _head([(column, str(units.get(column, ""))) for column in names])
    except InputError as exc:
        wrong("rows", f"table {name}: {exc}")
        return None, []
    for column in units:
        if column not in names:
            wrong("units", f"table {name}: no row has a column '{column}'")
    return head, [
        (("row", k), {str(c): _cell(v) for c, v in row.items() if v is not None}) for k, row in enumerate(rows)
    ]


def _cell(value: Any) -> str:
    return str(value).lower() if isinstance(value, bool) else str(value).strip()


def _comma_separated(name: str, text: str, wrong: Callable[[int, str], None]) -> tuple[list[Column] | None, Lines]:
    lines = [
        (k, row)
        for k, row in enumerate(csv.reader(io.StringIO(text.lstrip("\ufeff")), skipinitialspace=True), 1)
        if any(cell.strip() for cell in row) and not row[0].lstrip().startswith("#")
    ]
    if len(lines) < 2 or len(lines) > MOST_ROWS + 1:
        wrong(
            1,
            f"CSV has a line of names and 1 to {MOST_ROWS} rows, like 'supported.section, rows, plate_thickness [in]'",
        )
        return None, []
    try:
        head = _head([_named(cell) for cell in lines[0][1]])
    except InputError as exc:
        wrong(lines[0][0], exc.words)
        return None, []
    rows: Lines = []
    for line, row in lines[1:]:
        if len(row) != len(head):
            wrong(line, f"the row has {len(row)} cells, the first line names {len(head)}")
            continue
        rows.append(
            (
                ("line", line),
                {column.name: cell.strip() for column, cell in zip(head, row, strict=True) if cell.strip()},
            )
        )
    return head, rows


def _named(cell: str) -> tuple[str, str]:
    match = _HEAD.match(cell)
    if match is None:
        raise InputError(f"'{cell.strip()[:60]}' is no name of a column; write it like plate_thickness [in]")
    return match["name"], match["unit"] or ""


def _head(named: list[tuple[str, str]]) -> list[Column]:
    if len(named) > MOST_COLUMNS:
        raise InputError(f"it has {len(named)} columns; at most {MOST_COLUMNS}")
    twice = [name for k, (name, _) in enumerate(named) if name in [n for n, _ in named[:k]]]
    if twice:
        raise InputError(f"column '{twice[0]}' is there twice")
    return [Column(name, unit, kind_of_unit(unit) if unit else "") for name, unit in named]


def _keys(node: Mapping[str, Any], head: list[Column]) -> tuple[Key, ...]:
    by = node["by"] if isinstance(node["by"], list) else [node["by"]]
    match = node.get("match", "exact")
    columns = {c.name: c for c in head}
    keys = []
    for name in map(str, by):
        if name not in columns:
            raise InputError(f"by: there is no column '{name}'; it has {', '.join(columns)}")
        how = match.get(name, "exact") if isinstance(match, dict) else match
        keys.append(_key(columns[name], how, len(by) == 1))
    if isinstance(match, dict) and (more := [str(n) for n in match if n not in {k.column.name for k in keys}]):
        raise InputError(f"match: '{more[0]}' is not among by")
    if not keys or sum(k.match == "range" for k in keys) > 1:
        raise InputError("by: one fact or several, at most one of them by range")
    return tuple(keys)


def _key(column: Column, how: Any, alone: bool) -> Key:
    if how not in MATCHES:
        raise InputError(f"match: '{how}' is none of {', '.join(MATCHES)}")
    action = column.name.partition("@")[0]
    of = fact(column.name) if column.name in FACTS or action in FACTS else None
    if of is None and not alone:
        raise InputError(f"by: '{column.name}' is not a fact; a table by a number that formulas give has this one key")
    own = Key(column, how if of is not None else "range", of)
    if of is not None and of.name in SEVERAL:
        raise InputError(f"by: a connection has several of {of.name}; ask for it in when")
    if of is not None and bool(own.kind) != (how == "range"):
        raise InputError(
            f"match: {column.name} is"
            f" {'a quantity: write match: range' if own.kind else 'no quantity: write match: exact or prefix'}"
        )
    if column.unit and own.kind != column.kind:
        raise InputError(f"by: [{column.unit}] is no unit of {column.name}")
    return own


def _rows(head: list[Column], keys: tuple[Key, ...], lines: Lines, wrong: Wrong) -> tuple[Row, ...]:
    units = {c.name: c.unit for c in head}
    own = [k.column.name for k in keys]
    rows = []
    for place, cells in lines:
        if missing := [name for name in own if name not in cells]:
            wrong(place, f"the row has no {missing[0]}, which it is found by")
            continue
        said = tuple(cells[name] for name in own)
        rest = {
            n: f"{c} {units[n]}" if units[n] and _UNITLESS.match(c) else c for n, c in cells.items() if n not in own
        }
        try:
            for k, text in zip(keys, said, strict=True):
                if k.match == "range":
                    _test(k, text)
                elif k.fact is not None and k.fact.choices and k.match == "exact" and text not in k.fact.choices:
                    raise InputError(f"{k.column.name}: '{text}' is none of {', '.join(k.fact.choices)}")
        except InputError as exc:
            wrong(place, exc.words)
            continue
        rows.append(Row(", ".join(said), said, rest, place))
    return tuple(rows)


def _checked(table: Table, wrong: Wrong) -> Table | None:
    """The table where no two rows are for the same; told where some are."""
    if table.by_number and len(table.rows) > MOST_SPANS:
        wrong("by", f"table {table.name}: one by a number has at most {MOST_SPANS} rows, it has {len(table.rows)}")
        return None
    spans: dict[tuple[str, ...], list[tuple[float, float, int]]] = {}
    for n, row in enumerate(table.rows):
        words = tuple(k.plain(said) for k, said in zip(table.keys, row.keys, strict=True) if k.match != "range")
        span = next(
            (_interval(k, said) for k, said in zip(table.keys, row.keys, strict=True) if k.match == "range"), (0.0, 0.0)
        )
        own = spans.setdefault(words, [])
        insort(own, (*span, n))
        if not any(k.match == "range" for k in table.keys) and len(own) > 1:
            wrong(row.place, f"{row.said} is there twice")
    for own in spans.values() if any(k.match == "range" for k in table.keys) else ():
        for (a, high, n), (low, b, m) in zip(own, own[1:], strict=False):
            if low < high - 1e-9 or (low, high) == (a, b):
                later = table.rows[max(n, m)]
                wrong(later.place, f"{later.said} overlaps {table.rows[min(n, m)].said}; ranges may touch, not overlap")
    return table
