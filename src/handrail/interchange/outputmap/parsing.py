"""Reads the TOML of an output map, with every mistake told at its line."""

from __future__ import annotations

import codecs
import difflib
import re
import tomllib
from typing import Any

from handrail.interchange.columnmap.toml import Lines, TomlReader, as_text, toml
from handrail.interchange.outputmap.language import GIVEN, ROWS, TABLE, TOP, Given, OutputMap, TableOut
from handrail.interchange.problems import Problems

FILE = re.compile(r"^[^/\\:*?\"<>|\x00-\x1f]{1,120}$")
ENDINGS = (".csv", ".txt", ".tsv", ".dat", ".xlsx", ".json")
OF_TEXT = ("delimiter", "decimal", "encoding", "head", "above")
MOST_TABLES, MOST_COLUMNS = 50, 1000
CHOICES = {"delimiter": (",", ";", "\t", "|", " "), "decimal": (".", ",")}


def is_output(text: str) -> bool:
    """Whether a map in TOML is one to write by."""
    try:
        return "output" in tomllib.loads(text)
    except (tomllib.TOMLDecodeError, RecursionError):
        return re.search(r"^\s*output\s*=", text, re.MULTILINE) is not None


def read_output(text: str) -> OutputMap:
    """The map in TOML `text`. Raises BundleError with every problem found, each at its line."""
    problems = Problems()
    data = toml(text, problems)
    found = _Reader(Lines(text), problems).read(data, text)
    problems.raise_any()
    return found


class _Reader(TomlReader):
    def read(self, data: dict[str, Any], text: str) -> OutputMap:
        self.known(data, TOP, "An output map")
        if data.get("output") != 1:
            self.wrong("write 'output = 1'; this service reads version 1", "output")
        if data.get("forces", "on_member") not in ("on_member", "internal"):
            self.wrong(f"forces is {data['forces']!r}; state on_member or internal", "forces")
        tables = data.get("tables")
        if not isinstance(tables, dict) or not 0 < len(tables) <= MOST_TABLES:
            self.wrong(
                f"give 1 to {MOST_TABLES} tables, each as [tables.results] with the file that it is written to",
                "tables",
            )
            tables = {}
        read = [t for name, node in tables.items() if (t := self._table(str(name), node)) is not None]
        self._apart(read)
        return OutputMap(str(data.get("title", "")), data.get("forces") == "internal", tuple(read), text)

    def _apart(self, tables: list[TableOut]) -> None:
        """No two tables are the same file, but the sheets of a workbook."""
        seen: dict[tuple[str, str], str] = {}
        for table in tables:
            own = table.file.lower(), table.sheet.lower() if table.kind == "xlsx" else ""
            if own in seen:
                what = f"sheet '{table.sheet}' of {table.file}" if own[1] else table.file
                self.wrong(f"{what} is written by tables.{seen[own]} already", "tables", table.name, "file")
            seen[own] = table.name

    def _table(self, name: str, node: Any) -> TableOut | None:
        path = ("tables", name)
        if not isinstance(node, dict):
            self.wrong(f"{'.'.join(path)} is a table with rows, file and columns", *path)
            return None
        self.known(node, TABLE, "A table", *path)
        rows = str(node.get("rows", name))
        if rows not in ROWS:
            near = difflib.get_close_matches(rows, ROWS, 1)
            self.wrong(
                f"there are no rows '{rows}'{f'; are {near[0]} meant?' if near else '.'} There are {', '.join(ROWS)}",
                *path,
                *(("rows",) if "rows" in node else ()),
            )
            return None
        file = node.get("file")
        if not isinstance(file, str) or not FILE.match(file) or not file.lower().endswith(ENDINGS):
            self.wrong(f"file is a name without a folder that ends in {', '.join(ENDINGS)}", *path, "file")
            return None
        fields: dict[str, Any] = {
            key: self.texts(node.get(key, []), *path, key) for key in ("above", "one_row")
        }  # fmt: skip
        for key, choices in CHOICES.items():
            if node.get(key, choices[0]) not in choices:
                self.wrong(f"{key} is {node[key]!r}; it is one of {' '.join(map(repr, choices))}", *path, key)
            fields[key] = node.get(key, choices[0])
        if fields["decimal"] == fields["delimiter"]:
            self.wrong("decimal and delimiter are both ','; write delimiter = \";\"", *path)
        beside = [key for key in OF_TEXT if key in node]
        if beside and file.lower().endswith((".xlsx", ".json")):
            self.wrong(f"{beside[0]} goes with text files, not with {file}; leave it out", *path, beside[0])
        for key in ("head", "units_row"):
            if not isinstance(node.get(key, False), bool):
                self.wrong(f"{key} is true or false", *path, key)
        fields["only"], fields["without"] = (self.rows(node.get(key, {}), key, *path) for key in ("only", "not"))
        return TableOut(
            name, self.lines.of(*path), rows, file, sheet=str(node.get("sheet", ""))[:31],
            encoding=self._encoding(node, *path), head=bool(node.get("head", True)),
            units_row=bool(node.get("units_row", False)), columns=self._columns(node.get("columns"), *path, "columns"),
            **fields,
        )  # fmt: skip

    def _encoding(self, node: dict[str, Any], *path: str) -> str:
        name = str(node.get("encoding", "utf-8"))
        try:
            if not getattr(codecs.lookup(name), "_is_text_encoding", True):
                raise LookupError
        except (LookupError, ValueError):
            self.wrong(f"there is no encoding '{name[:40]}'; write utf-8, utf-16 or cp1252", *path, "encoding")
            return "utf-8"
        return name

    def _columns(self, node: Any, *path: str) -> dict[str, Given]:
        if not isinstance(node, dict) or not 0 < len(node) <= MOST_COLUMNS:
            self.wrong(f'give the columns as [{".".join(path)}], theirs = ours, like Bar = "member"', *path)
            return {}
        return {
            str(name): given for name, own in node.items() if (given := self._given(own, *path, str(name))) is not None
        }

    def _given(self, given: Any, *path: str) -> Given | None:
        line = self.lines.of(*path)
        if isinstance(given, str) and given:
            return Given(line, (given,))
        if not isinstance(given, dict):
            self.wrong(
                f"{path[-1]} is one of our columns in quotes, or {{column = ..., unit = ..., factor = ..., values ="
                " ...}",
                *path,
            )
            return None
        self.known(given, GIVEN, "A column", *path)
        columns = given.get("columns", [given["column"]] if "column" in given else [])
        if not isinstance(columns, list) or (bool(columns) + ("value" in given)) != 1:
            self.wrong(f"{path[-1]} needs one of column, columns and value", *path)
            return None
        if len(columns) > 1 and {"unit", "factor", "decimals"} & given.keys():
            self.wrong(f"{path[-1]} is of several columns together, which have no unit, factor or decimals", *path)
        factor = given.get("factor", 1.0)
        if isinstance(factor, bool) or not isinstance(factor, int | float) or not 0 < abs(factor) < 1e12:
            self.wrong(f"factor is a number other than 0, not {factor!r}", *path)
            factor = 1.0
        decimals = given.get("decimals")
        if decimals is not None and (
            isinstance(decimals, bool) or not isinstance(decimals, int) or not 0 <= decimals <= 12
        ):
            self.wrong(f"decimals is 0 to 12, not {decimals!r}", *path)
            decimals = None
        if given.get("others", "keep") != "keep":
            self.wrong("others is keep, for what none of values fits", *path)
        within = str(given.get("within", ""))
        if within and within.count("*") != 1:
            self.wrong('within has one * where its value is written, like "Bar *"', *path)
        return Given(
            line, tuple(map(str, columns)), str(given.get("join", " ")), str(given.get("unit", "")), float(factor),
            decimals, self.pairs(given.get("values", {}), 'ours with theirs, like {single_plate = "SP"}', *path),
            str(given.get("others", "")), as_text(given.get("blank", "")), within,
            as_text(given["value"]) if "value" in given else None,
            self.pairs(given.get("where", {}), 'our columns with what stands there, like {end = "i"}', *path),
        )  # fmt: skip
