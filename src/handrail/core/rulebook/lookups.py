"""`look_up(table, column)` in formulas: what tables give is put in its place, so that a size stands by itself wherever
it is kept."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from typing import Any

from handrail.core.errors import InputError
from handrail.core.rulebook.tables import Table
from handrail.core.standards.formulas import is_formula

MOST = 20  # look-ups in one formula
_BEGIN = re.compile(r"\blook_up\s*\(")
_ALONE = re.compile(r"^\s*=\s*look_up\s*\(\s*(?P<table>\w+)\s*,\s*(?P<column>\w+)\s*\)\s*$")
_NAMES = re.compile(r"^\s*(?P<table>\w+)\s*,\s*(?P<column>\w+)\s*(?:,(?P<key>.*))?$", re.DOTALL)
_NUMBER = re.compile(r"^\s*(?:(?:\d+[ -]+)?\d+/\d+|\d+\.?\d*|\.\d+)(?:\s*[A-Za-z\"'].*)?$")
Tables = Mapping[str, Table]


def looks_up(value: Any) -> bool:
    """Whether a value asks a table."""
    return is_formula(value) and _BEGIN.search(str(value)) is not None


def asked_of(value: Any, tables: Tables) -> list[tuple[Table, str]]:
    """(table, column) of every look-up in a value. Raises InputError for those that are not there."""
    asked: list[tuple[Table, str]] = []

    def note(table: Table, column: str) -> str:
        asked.append((table, column))
        return "1"

    if looks_up(value):
        _replaced(str(value), tables, note, lambda table, column: [note(table, column)])
    return asked


def looked_up(value: str, tables: Tables, facts: Mapping[str, Any]) -> tuple[str, list[str]]:
    """The value with what the tables give in place of each look-up, and what was found, in words. Raises InputError
    where there is no row, or it has nothing in that column."""
    words: list[str] = []

    def cell(table: Table, column: str) -> str:
        row = table.find(facts)
        if row is None:
            raise InputError(table.why_none(facts))
        if column not in row.cells:
            raise InputError(f"table {table.name} has no {column} for {row.said}")
        words.append(f"table {table.name}: {row.said}")
        return row.cells[column]

    def spans(table: Table, column: str) -> list[str]:
        words.append(f"table {table.name}")
        return _spans(table, column)

    alone = _ALONE.match(value)
    if alone and not _table(alone["table"], tables).by_number:
        return cell(_table(alone["table"], tables), _column(alone["column"], tables[alone["table"]])), words
    return _replaced(value, tables, lambda t, c: _as_number(t, c, cell(t, c)), spans), words


def sampled(value: str, tables: Tables) -> str:
    """The value with the first row's in place of each look-up: what it is, whatever the connection."""

    def first(table: Table, column: str) -> str:
        return next((row.cells[column] for row in table.rows if column in row.cells), "0")

    alone = _ALONE.match(value)
    if alone and not _table(alone["table"], tables).by_number:
        return first(_table(alone["table"], tables), _column(alone["column"], tables[alone["table"]]))
    return _replaced(value, tables, lambda t, c: _as_number(t, c, first(t, c)), lambda t, c: _spans(t, c)[:1])


Cell = Callable[[Table, str], str]
Spans = Callable[[Table, str], list[str]]


def _replaced(value: str, tables: Tables, cell: Cell, spans: Spans) -> str:
    for _ in range(MOST):
        begins = list(_BEGIN.finditer(value))
        if not begins:
            return value
        begin = begins[-1]  # no other is in its brackets
        end = _closing(value, begin.end())
        match = _NAMES.match(value[begin.end() : end])
        if match is None:
            raise InputError(
                "look_up takes a table and a column, like look_up(beams, rows); of a table by a number that number too"
            )
        table = _table(match["table"], tables)
        column = _column(match["column"], table)
        if (table.by_number is None) is (match["key"] is not None):
            example = (
                "look_up(beams, rows)"
                if table.by_number is None
                else f"look_up({table.name}, {column}, diameter(bolt))"
            )
            way = "by facts of the connection" if table.by_number is None else f"by {table.by_number.column.name}"
            raise InputError(f"table {table.name} is {way}: write it like {example}")
        given = (
            f"({cell(table, column)})"
            if match["key"] is None
            else f"pick({match['key'].strip()}, {', '.join(spans(table, column))})"
        )
        value = value[: begin.start()] + given + value[end + 1 :]
    raise InputError(f"a formula has at most {MOST} look-ups")


def _closing(value: str, begin: int) -> int:
    depth = 1
    for k in range(begin, len(value)):
        depth += {"(": 1, ")": -1}.get(value[k], 0)
        if depth == 0:
            return k
    raise InputError("look_up( has no closing bracket; inside { } a formula with commas goes in quotes")


def _table(name: str, tables: Tables) -> Table:
    if name not in tables:
        raise InputError(
            f"there is no table '{name}'; " + (f"there is {', '.join(tables)}" if tables else "write it under tables")
        )
    return tables[name]


def _column(name: str, table: Table) -> str:
    if name not in {c.name for c in table.columns}:
        raise InputError(
            f"table {table.name} has no column '{name}'; it has {', '.join(c.name for c in table.columns)}"
        )
    return name


def _as_number(table: Table, column: str, text: str) -> str:
    if not _NUMBER.match(text):
        raise InputError(f"table {table.name}: {column} '{text}' is no number that a formula can work with")
    return text


def _spans(table: Table, column: str) -> list[str]:
    """low, high and value of every row, as pick takes them."""
    own = table.by_number
    unit = {"length": " mm", "force": " N", "stress": " MPa", "angle": " rad", "moment": " N*mm", "area": " mm^2"}.get(
        own.kind if own else "", ""
    )
    return [
        f"{_plain(low)}{unit}, {_plain(high)}{unit}, {_as_number(table, column, value)}"
        for low, high, value in table.intervals(column)
    ]


def _plain(number: float) -> str:
    return f"{number:.8f}".rstrip("0").rstrip(".")
