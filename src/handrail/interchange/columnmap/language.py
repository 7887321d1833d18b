"""Reads a column map: TOML that says what each table and column of ours is called in somebody's exports; see docs/column-maps.md."""

from __future__ import annotations

import difflib
import re
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from handrail.core import units
from handrail.core.errors import InputError
from handrail.interchange.problems import MAP, Problems
from handrail.interchange.tables import TABLES, Column

STATED = ("length", "section", "force", "moment", "stress")
TOP = ("map", "title", "revision", "date", "source", "up", "vertical_y", "north", "forces", "forces_at", "units", "tables")
TABLE = ("file", "sheet", "skip", "delimiter", "decimal", "encoding", "layout", "only", "columns", "ends", "cases")
TAKEN = ("column", "columns", "join", "unit", "factor", "values", "blank", "value", "flags", "yes")
LOADS = ("value", "value_to")  # of member_loads: a force, or a force on a length
LAYOUTS = {"end_forces": ("rows", "ends", "stations"), "combinations": ("rows", "cases")}
LONGEST = 512 * 1024


@dataclass(frozen=True)
class Taken:
    """Where one of our columns comes from: source `columns` joined, or one `value` for all rows, or `flags` (ours -> source column) of which
    those that say one of `yes` count. `values` map what stands there (patterns with *), `blank` fills gaps; numbers are times `factor` in `unit`."""

    line: int
    columns: tuple[str, ...] = ()
    join: str = " "
    unit: str = ""
    factor: float = 1.0
    values: tuple[tuple[str, str], ...] = ()
    blank: str = ""
    value: str | None = None
    flags: tuple[tuple[str, str], ...] = ()
    yes: tuple[str, ...] = ()

    @property
    def sources(self) -> tuple[str, ...]:
        """Every source column that it reads."""
        return (*self.columns, *(column for _, column in self.flags))


@dataclass(frozen=True)
class TableMap:
    """One table: its file (and sheet of a workbook), how that is written, its layout, and where its columns come from; `ends` of a row that
    has both ends, `cases` (source column -> case) of a combination in one row. `only` keeps rows that hold one of some values."""

    name: str
    line: int
    file: str
    sheet: str = ""
    skip: int = 0
    delimiter: str = ","
    decimal: str = "."
    encoding: str = "utf-8"
    layout: str = "rows"
    only: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    columns: Mapping[str, Taken] = field(default_factory=dict)
    ends: Mapping[str, Mapping[str, Taken]] = field(default_factory=dict)
    cases: Mapping[str, str] = field(default_factory=dict)

    @property
    def sources(self) -> list[tuple[str, int]]:
        """Every source column that is read, with the map's line."""
        taken = [*self.columns.values(), *(t for end in self.ends.values() for t in end.values())]
        found = [(name, t.line) for t in taken for name in t.sources]
        return found + [(name, self.line) for name in (*self.only, *self.cases)]


@dataclass(frozen=True)
class ColumnMap:
    """What the manifest of a bundle states, and the tables."""

    stated: Mapping[str, Any]
    tables: tuple[TableMap, ...]
    text: str


def read_map(text: str) -> ColumnMap:
    """The map in TOML `text`. Raises BundleError with every problem found, each at its line."""
    problems = Problems()
    reader = _Reader(_Lines(text), problems)
    data = _toml(text, problems)
    found = reader.read(data, text)
    problems.raise_any()
    return found


def _toml(text: str, problems: Problems) -> dict[str, Any]:
    if len(text) > LONGEST:
        problems.add(MAP, f"is {len(text)} characters long; at most {LONGEST}")
        problems.raise_any()
    try:
        return tomllib.loads(text)
    except (tomllib.TOMLDecodeError, RecursionError) as exc:
        place = re.search(r"at line (\d+)", str(exc))
        problems.add(MAP, f"is not TOML: {exc}", int(place[1]) if place else None)
        problems.raise_any()
        raise


class _Lines:
    """Where each key of a TOML text stands."""

    def __init__(self, text: str) -> None:
        self.found: dict[tuple[str, ...], int] = {}
        header: tuple[str, ...] = ()
        for number, line in enumerate(text.splitlines(), 1):
            if match := re.match(r"^\s*\[+\s*([^\]]+?)\s*\]+", line):
                header = _keys(match[1])
                self.found.setdefault(header, number)
            elif match := re.match(r"""^\s*((?:"[^"]*"|'[^']*'|[\w-]+)(?:\s*\.\s*(?:"[^"]*"|'[^']*'|[\w-]+))*)\s*=""", line):
                self.found.setdefault((*header, *_keys(match[1])), number)

    def of(self, *path: str) -> int:
        """The line of a key, or of what it is in."""
        for length in range(len(path), 0, -1):
            if path[:length] in self.found:
                return self.found[path[:length]]
        return 1


def _keys(dotted: str) -> tuple[str, ...]:
    return tuple((a or b or c) for a, b, c in re.findall(r"""\s*(?:"([^"]*)"|'([^']*)'|([\w-]+))\s*\.?""", dotted))


@dataclass
class _Reader:
    lines: _Lines
    problems: Problems

    def wrong(self, words: str, *path: str) -> None:
        self.problems.add(MAP, words, self.lines.of(*path))

    def read(self, data: dict[str, Any], text: str) -> ColumnMap:
        self._known(data, TOP, "A map")
        if data.get("map") != 1:
            self.wrong("write 'map = 1'; this service reads version 1", "map")
        tables = data.get("tables")
        if not isinstance(tables, dict) or not tables:
            self.wrong("has no tables; give each as [tables.nodes] with its file and columns", "tables")
            tables = {}
        found = [t for name, node in tables.items() if (t := self._table(str(name), node))]
        return ColumnMap(self._stated(data), tuple(found), text)

    def _known(self, node: Mapping[str, Any], known: tuple[str, ...], what: str, *path: str) -> None:
        for name in node:
            if name not in known:
                near = difflib.get_close_matches(str(name), known, 1)
                self.wrong(f"'{name}' is not known{f'; is {near[0]} meant?' if near else '.'} {what} takes {', '.join(known)}", *path, str(name))

    def _stated(self, data: dict[str, Any]) -> dict[str, Any]:
        given = data.get("units")
        stated = given if isinstance(given, dict) else {}
        for name in STATED:
            if name not in stated:
                if name != "stress":
                    self.wrong(f"units.{name} is not stated; state it, like {units.SHOWN['si'][_kind(name)][0]}", "units")
                continue
            self._unit(str(stated[name]), _kind(name), "units", name)
        for name, choices in (("up", ("Z", "Y")), ("forces", ("internal", "on_member"))):
            if data.get(name) not in choices:
                self.wrong(f"{name} is {data.get(name)!r}; state {' or '.join(choices)}", name)
        return {name: data[name] for name in TOP if name in data and name not in ("map", "tables")}

    def _unit(self, unit: str, kind: str, *path: str) -> None:
        try:
            units.factor(unit, kind)
        except InputError as exc:
            self.wrong(str(exc), *path)

    def _table(self, name: str, node: Any) -> TableMap | None:
        path = ("tables", name)
        if name not in TABLES:
            near = difflib.get_close_matches(name, TABLES, 1)
            self.wrong(f"'{name}' is no table{f'; is {near[0]} meant?' if near else '.'} There is {', '.join(TABLES)}", *path)
            return None
        if not isinstance(node, dict) or not isinstance(node.get("file"), str):
            self.wrong(f"tables.{name} needs the file that it is read from", *path)
            return None
        self._known(node, TABLE, "A table", *path)
        layout = str(node.get("layout", "rows"))
        if layout not in LAYOUTS.get(name, ("rows",)):
            self.wrong(f"layout '{layout}' is none of {', '.join(LAYOUTS.get(name, ('rows',)))}", *path, "layout")
        skip = node.get("skip", 0)
        if isinstance(skip, bool) or not isinstance(skip, int) or not 0 <= skip <= 1000:
            self.wrong("skip is how many rows stand before the names of the columns, 0 to 1000", *path, "skip")
            skip = 0
        for key, choices in (("delimiter", (",", ";", "\t", "|", " ")), ("decimal", (".", ","))):
            if key in node and node[key] not in choices:
                self.wrong(f"{key} is {node[key]!r}; it is one of {' '.join(map(repr, choices))}", *path, key)
        known = {c.name: c for c in TABLES[name].columns}
        if layout == "stations":
            known = {n: c for n, c in known.items() if n != "end"} | {"distance": Column("distance", "number", True, "length")}
        ends = {end: self._columns(node.get("ends", {}).get(end), {n: c for n, c in known.items() if n not in ("end", "member", "result")}, *path, "ends", end)
                for end in ("i", "j")} if layout == "ends" else {}  # fmt: skip
        columns = self._columns(node.get("columns"), known, *path, "columns")
        written = {key: str(node[key]) for key in ("sheet", "delimiter", "decimal", "encoding") if key in node}
        return TableMap(name, self.lines.of(*path), node["file"], skip=skip, layout=layout, only=self._only(node.get("only", {}), *path, "only"),
                        columns=columns, ends=ends, cases=self._names(node.get("cases", {}), *path, "cases"), **written)  # fmt: skip

    def _unit_of(self, unit: str, column: Column, *path: str) -> None:
        """A unit fits its column; a load on a member is a force, or a force on a length."""
        if column.name in LOADS:
            try:
                units.factor(unit, "per_length")
            except InputError:
                self._unit(unit, "force", *path)
        elif not column.unit:
            self.wrong(f"{path[-1]} has no unit", *path)
        else:
            self._unit(unit, _kind(column.unit), *path)

    def _only(self, node: Any, *path: str) -> dict[str, tuple[str, ...]]:
        if not isinstance(node, dict):
            self.wrong("only is a table of columns with the values that are kept, like {Kind = [\"Beam\"]}", *path)
            return {}
        return {str(name): tuple(map(str, values if isinstance(values, list) else [values])) for name, values in node.items()}

    def _names(self, node: Any, *path: str) -> dict[str, str]:
        if not isinstance(node, dict):
            self.wrong("cases is a table of source columns with the case that each is, like {\"Dead\" = \"D\"}", *path)
            return {}
        return {str(name): str(case) for name, case in node.items()}

    def _columns(self, node: Any, known: Mapping[str, Column], *path: str) -> dict[str, Taken]:
        if not isinstance(node, dict):
            self.wrong(f"give the columns as [{'.'.join(path)}], like {next(iter(known))} = \"its name in the file\"", *path)
            return {}
        self._known(node, tuple(known), "It", *path)
        return {name: taken for name, given in node.items() if name in known and (taken := self._taken(given, known[name], *path, name))}

    def _taken(self, given: Any, column: Column, *path: str) -> Taken | None:
        line = self.lines.of(*path)
        if isinstance(given, str):
            return Taken(line, (given,))
        if not isinstance(given, dict):
            self.wrong(f"{path[-1]} is the name of a column in quotes, or {{column = ..., unit = ..., factor = ..., values = ...}}", *path)
            return None
        self._known(given, TAKEN, "A column", *path)
        columns = given.get("columns", [given["column"]] if "column" in given else [])
        flags = given.get("flags", {})
        if sum((bool(columns), "value" in given, bool(flags))) != 1 or not isinstance(columns, list) or not isinstance(flags, dict):
            self.wrong(f"{path[-1]} needs one of column, columns, value and flags", *path)
            return None
        factor, values = given.get("factor", 1.0), given.get("values", {})
        if isinstance(factor, bool) or not isinstance(factor, int | float) or not 0 < abs(factor) < 1e12:
            self.wrong(f"factor is a number other than 0, not {factor!r}", *path)
            factor = 1.0
        if not isinstance(values, dict):
            self.wrong("values is a table of what stands there with what it means, like {Pinned = \"Mz My\"}", *path)
            values = {}
        unit = str(given.get("unit", ""))
        if unit:
            self._unit_of(unit, column, *path)
        return Taken(
            line, tuple(map(str, columns)), str(given.get("join", " ")), unit, float(factor), tuple((str(k), _text(v)) for k, v in values.items()),
            _text(given.get("blank", "")), _text(given["value"]) if "value" in given else None, tuple((str(k), str(v)) for k, v in flags.items()),
            tuple(map(_text, given.get("yes", ["yes", "true", "1"]))),
        )  # fmt: skip


def _kind(unit: str) -> str:
    """The kind of quantity of one of the bundle's units."""
    return "length" if unit == "section" else unit


def _text(value: Any) -> str:
    if isinstance(value, bool):
        return str(int(value))
    return str(value)
