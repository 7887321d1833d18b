"""Reads the TOML of a column map, with every mistake told at its line."""

from __future__ import annotations

import difflib
from collections.abc import Mapping
from typing import Any

from handrail.core.errors import InputError
from handrail.core.quantities import units
from handrail.interchange.columnmap.language import (
    LAYOUTS,
    LOADS,
    LOOKUP,
    SHARES,
    STATED,
    TABLE,
    TAKEN,
    TOP,
    ColumnMap,
    Lookup,
    Pairs,
    TableMap,
    Taken,
)
from handrail.interchange.columnmap.toml import Lines, TomlReader, as_text, toml
from handrail.interchange.problems import MAP, Problems
from handrail.interchange.tables import TABLES, Column

CHOICES = {
    "delimiter": (",", ";", "\t", "|", " "),
    "decimal": (".", ","),
    "thousands": (",", ".", " ", "'"),
    "written": ("fixed", "delimited"),
}


def read_map(text: str) -> ColumnMap:
    """The map in TOML `text`. Raises BundleError with every problem found, each at its line."""
    problems = Problems()
    data = toml(text, problems)
    column_map = _Reader(Lines(text), problems).read(data, text)
    problems.raise_any()
    return column_map


class _Reader(TomlReader):
    def read(self, data: dict[str, Any], text: str) -> ColumnMap:
        self.known(data, TOP, "A map")
        if data.get("map") != 1:
            self.wrong("write 'map = 1'; this service reads version 1", "map")
        tables = data.get("tables")
        if not isinstance(tables, dict) or not tables:
            self.wrong("has no tables; give each as [tables.nodes] with its file and columns", "tables")
            tables = {}
        given = data.get("lookups", {})
        lookups = {
            str(n): own
            for n, node in (given.items() if isinstance(given, dict) else ())
            if (own := self._lookup(str(n), node))
        }
        read = [t for name, node in tables.items() if (t := self._table(str(name), node))]
        for table in read:
            for taken in table.taken:
                if taken.lookup and taken.lookup not in lookups:
                    self.problems.add(
                        MAP,
                        f"there is no look-up '{taken.lookup}'; give it as [lookups.{taken.lookup}] with its file"
                        " and key",
                        taken.line,
                    )
        return ColumnMap(self._stated(data), tuple(read), lookups, text)

    def _stated(self, data: dict[str, Any]) -> dict[str, Any]:
        given = data.get("units")
        stated = given if isinstance(given, dict) else {}
        for name in STATED:
            if name not in stated:
                if name != "stress":
                    self.wrong(
                        f"units.{name} is not stated; state it, like {units.SHOWN['si'][_kind(name)][0]}", "units"
                    )
                continue
            self.unit(str(stated[name]), _kind(name), "units", name)
        for name, choices in (("up", ("Z", "Y")), ("forces", ("internal", "on_member"))):
            if data.get(name) not in choices:
                self.wrong(f"{name} is {data.get(name)!r}; state {' or '.join(choices)}", name)
        return {name: data[name] for name in TOP if name in data and name not in ("map", "tables", "lookups")}

    def _lookup(self, name: str, node: Any) -> Lookup | None:
        path = ("lookups", name)
        if not isinstance(node, dict) or not isinstance(node.get("key"), str):
            self.wrong(
                f"lookups.{name} needs the key, the column with its codes, and the file that it is read from", *path
            )
            return None
        self.known(node, LOOKUP, "A look-up", *path)
        source = self._source(node, *path)
        return None if source is None else Lookup(name, self.lines.of(*path), key=node["key"], **source)

    def _table(self, name: str, node: Any) -> TableMap | None:
        path = ("tables", name)
        if name not in TABLES:
            near = difflib.get_close_matches(name, TABLES, 1)
            self.wrong(
                f"'{name}' is no table{f'; is {near[0]} meant?' if near else '.'} There is {', '.join(TABLES)}", *path
            )
            return None
        source = self._source(node, *path)
        if source is None:
            return None
        self.known(node, TABLE, "A table", *path)
        layout = str(node.get("layout", "rows"))
        if layout not in LAYOUTS.get(name, ("rows",)):
            self.wrong(f"layout '{layout}' is none of {', '.join(LAYOUTS.get(name, ('rows',)))}", *path, "layout")
        known = {c.name: c for c in TABLES[name].columns}
        if layout == "stations":
            known = {n: c for n, c in known.items() if n != "end"} | {
                "distance": Column("distance", "number", True, "length")
            }
        of_ends = {n: c for n, c in known.items() if n not in ("end", "member", "result")}
        ends = (
            {end: self._columns(node.get("ends", {}).get(end), of_ends, *path, "ends", end) for end in ("i", "j")}
            if layout == "ends"
            else {}
        )
        columns = self._columns(node.get("columns"), known, *path, "columns")
        across = self.texts(node.get("across", []), *path, "across")
        return TableMap(
            name,
            self.lines.of(*path),
            layout=layout,
            columns=columns,
            ends=ends,
            across=across,
            cases=dict(
                self.pairs(
                    node.get("cases", {}),
                    'source columns with the case that each is, like {"Dead" = "D"}',
                    *path,
                    "cases",
                )
            ),
            **source,
        )

    def _source(self, node: Any, *path: str) -> dict[str, Any] | None:
        """Where it stands and how it is written, but its name and line."""
        if not isinstance(node, dict) or not (file := self.texts(node.get("file", []), *path, "file")):
            self.wrong(f"{'.'.join(path)} needs the file that it is read from", *path)
            return None
        fields: dict[str, Any] = {"file": file, "sheet": self.texts(node.get("sheet", []), *path, "sheet")}
        for key, low, most, words in (
            ("skip", 0, 1000, "how many rows stand before the names of the columns"),
            ("head", 0, 10, "how many rows the names of the columns take"),
        ):
            number = node.get(key, low if key == "skip" else 1)
            if isinstance(number, bool) or not isinstance(number, int) or not low <= number <= most:
                self.wrong(f"{key} is {words}, {low} to {most}", *path, key)
                number = low
            fields[key] = number
        for key, choices in CHOICES.items():
            if key in node and node[key] not in choices:
                self.wrong(f"{key} is {node[key]!r}; it is one of {' '.join(map(repr, choices))}", *path, key)
            elif key in node:
                fields[key] = node[key]
        if fields.get("decimal", ".") == fields.get("thousands"):
            self.wrong(f"decimal and thousands are both {fields['thousands']!r}", *path, "thousands")
        for key in ("units_row", "turned"):
            if not isinstance(node.get(key, False), bool):
                self.wrong(f"{key} is true or false", *path, key)
            fields[key] = bool(node.get(key, False))
        starts = node.get("starts", [])
        if (
            not isinstance(starts, list)
            or any(isinstance(s, bool) or not isinstance(s, int) or s < 0 for s in starts)
            or sorted(set(starts)) != starts
        ):
            self.wrong(
                "starts are the characters that the columns begin at, each after the last, like [0, 9, 21]",
                *path,
                "starts",
            )
            starts = []
        if fields.get("written") == "fixed" and not starts:
            self.wrong(
                "a table of fixed width needs starts: the characters that its columns begin at, the first is 0",
                *path,
                "written",
            )
        fields |= {
            "starts": tuple(starts),
            **{key: self.texts(node.get(key, []), *path, key) for key in ("fill", "ignore", "after", "until")},
        }
        fields |= {key: str(node[key]) for key in ("encoding",) if key in node}
        fields["headings"] = self._headings(node.get("headings", {}), *path, "headings")
        fields["only"], fields["without"] = (self.rows(node.get(key, {}), key, *path) for key in ("only", "not"))
        return fields

    def _headings(self, node: Any, *path: str) -> Pairs:
        pairs = self.pairs(
            node, 'names with the line that gives each a value, its place a *, like {case = "LOAD CASE: *"}', *path
        )
        for name, pattern in pairs:
            if "*" not in pattern:
                self.wrong(f"headings.{name} has no * where its value stands", *path, name)
        return pairs

    def _columns(self, node: Any, known: Mapping[str, Column], *path: str) -> dict[str, Taken]:
        if not isinstance(node, dict):
            self.wrong(
                f'give the columns as [{".".join(path)}], like {next(iter(known))} = "its name in the file"', *path
            )
            return {}
        self.known(node, tuple(known), "It", *path)
        return {
            name: taken
            for name, given in node.items()
            if name in known and (taken := self._taken(given, known[name], *path, name))
        }

    def _taken(self, given: Any, column: Column, *path: str) -> Taken | None:
        line = self.lines.of(*path)
        if isinstance(given, str):
            return Taken(line, (given,))
        if not isinstance(given, dict):
            self.wrong(
                f"{path[-1]} is the name of a column in quotes, or {{column = ..., unit = ..., factor = ..., values ="
                " ...}",
                *path,
            )
            return None
        self.known(given, TAKEN, "A column", *path)
        columns = given.get("columns", [given["column"]] if "column" in given else [])
        flags = given.get("flags", {})
        if (
            sum((bool(columns), "value" in given, bool(flags))) != 1
            or not isinstance(columns, list)
            or not isinstance(flags, dict)
        ):
            self.wrong(f"{path[-1]} needs one of column, columns, value and flags", *path)
            return None
        factor = given.get("factor", 1.0)
        if isinstance(factor, bool) or not isinstance(factor, int | float) or not 0 < abs(factor) < 1e12:
            self.wrong(f"factor is a number other than 0, not {factor!r}", *path)
            factor = 1.0
        if given.get("others", "keep") != "keep":
            self.wrong("others is keep, for what none of values fits", *path)
        if ("from" in given) != ("by" in given):
            self.wrong(f"{path[-1]} needs from, the look-up, and by, the column with its code, together", *path)
        pick = str(given.get("pick", ""))
        if pick and "*" not in pick:
            self.wrong("pick has no * where its value stands", *path)
        unit = str(given.get("unit", ""))
        if unit:
            self._unit_of(unit, column, *path)
        return Taken(
            line,
            tuple(map(str, columns)),
            str(given.get("join", " ")),
            unit,
            float(factor),
            self.pairs(given.get("values", {}), 'what stands there with what it means, like {Pinned = "Mz My"}', *path),
            str(given.get("others", "")),
            as_text(given.get("blank", "")),
            as_text(given["value"]) if "value" in given else None,
            tuple((str(k), str(v)) for k, v in flags.items()),
            tuple(map(as_text, given.get("yes", ["yes", "true", "1"]))),
            pick,
            self.pairs(given.get("where", {}), 'source columns with what stands there, like {Component = "N"}', *path),
            str(given.get("from", "")),
            str(given.get("by", "")),
        )

    def _unit_of(self, unit: str, column: Column, *path: str) -> None:
        """A unit fits its column; a load on a member is a force, or a force on a length; a distance along a member may
        be a share of it."""
        if column.name in LOADS:
            try:
                units.factor(unit, "per_length")
            except InputError:
                self.unit(unit, "force", *path)
        elif not column.unit:
            self.wrong(f"{path[-1]} has no unit", *path)
        elif not (column.name == "distance" and unit in SHARES):
            self.unit(unit, _kind(column.unit), *path)


def _kind(unit: str) -> str:
    """The kind of quantity of one of the bundle's units."""
    return "length" if unit == "section" else unit
