"""Proposes an output map: the column map that a model came in through, turned round."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from handrail.interchange.columnmap.drafts import quoted, spec_of, value_of
from handrail.interchange.columnmap.language import SHARES, ColumnMap, TableMap, Taken, is_pattern
from handrail.interchange.outputmap.language import columns_of
from handrail.interchange.outputmap.parsing import ENDINGS, FILE, OF_TEXT

Spec = dict[str, Any]
HEAD = "# Proposed: theirs = ours. Take away what is not wanted; `handrail output JOB --map FILE` shows the first rows."
ALONG = {"distance": "along"}  # what a column map calls otherwise
AT_FILE = "@file"
OWN = ("member", "node", "section")  # of the members' table: what any row of a member may be called by


@dataclass
class _Table:
    rows: str
    file: str
    written: Spec = field(default_factory=dict)
    columns: dict[str, Spec] = field(default_factory=dict)
    notes: list[str] = field(default_factory=list)
    name: str = ""

    def text(self) -> str:
        return "\n".join(
            [
                f"[tables.{self.name or self.rows}]",
                *([f"rows = {quoted(self.rows)}"] if self.name else []),
                f"file = {quoted(self.file)}",
                *(f"{key} = {value_of(value)}" for key, value in self.written.items()),
                *(f"# {note}" for note in self.notes),
                f"[tables.{self.name or self.rows}.columns]",
                *(f"{_key(theirs)} = {spec_of(spec)}" for theirs, spec in self.columns.items()),
            ]
        )


def turned(
    column_map: ColumnMap | None, heads: Mapping[str, Sequence[str]], title: str, results: Sequence[str] = ()
) -> str:
    """An output map in TOML: of the tables in `heads` (rows -> names of our columns), members, nodes and sections as
    the column map calls them, forces in its units; of the end forces themselves, by their `results`, as they came in.
    Without a column map all is called as it is here."""
    lines = [HEAD, "output = 1", f"title = {quoted(title)}"]
    tables = [_listed(rows, head, column_map) for rows, head in heads.items()]
    if column_map is not None:
        lines.append(f"forces = {quoted(str(column_map.stated['forces']))}")
        tables += [one for t in column_map.tables if t.name == "end_forces" for one in _forces(t, column_map, results)]
    return "\n\n".join(["\n".join(lines), *(table.text() for table in tables)]) + "\n"


def _listed(rows: str, head: Sequence[str], column_map: ColumnMap | None) -> _Table:
    """One of our lists, its members under their names."""
    found = _Table(rows, f"{rows}.csv")
    members = next((t for t in column_map.tables if t.name == "members"), None) if column_map else None
    units = _units(column_map)
    if members is not None:
        found.written = _as_there(members)
    for column in columns_of(head):
        taken = members.columns.get(column.name) if members and column.name in OWN else None
        spec: Spec = {"column": column.name}
        if column.kind in units:
            spec["unit"] = units[column.kind]
        if taken is None or len(taken.columns) != 1:
            found.columns[column.name] = spec
        else:
            found.columns[taken.columns[0]] = spec | _codes(taken, found.notes)
    return found


def _forces(table: TableMap, column_map: ColumnMap, results: Sequence[str]) -> list[_Table]:
    """The end forces as they came in; several tables, where the file says what its rows are of."""
    found = _Table("forces", _file(table))
    found.written = _as_there(table) | (
        {"sheet": table.sheet[0]} if table.sheet and not is_pattern(table.sheet[0]) else {}
    )
    text = not found.file.lower().endswith((".xlsx", ".json"))
    if not text:
        found.written = {key: value for key, value in found.written.items() if key not in OF_TEXT}
    if table.skip and text:
        found.written["above"] = [str(column_map.stated.get("title") or "Forces"), *["-"] * (table.skip - 1)]
    if not table.head and text:
        found.written["head"] = False
    if table.units_row:
        found.written["units_row"] = True
    if table.layout == "ends":
        found.written["one_row"] = ["member", "result"]
    if table.across:
        _spread(table, results, found)
        return [found]
    for ours, taken in table.columns.items():
        _turn(ours, taken, {}, found)
    for end, columns in table.ends.items():
        for ours, taken in columns.items():
            _turn(ours, taken, {"where": {"end": end}}, found)
    return _apart(table, found)


def _file(table: TableMap) -> str:
    """What it is called: a part of the name that says what the rows are of is that of ours."""
    name = table.file[0]
    for ours, taken in table.columns.items():
        if taken.columns == (AT_FILE,) and taken.pick and not taken.values and is_pattern(name):
            name = taken.pick.replace("*", "{" + ours + "}", 1) + name[name.rfind(".") :]
    fits_us = name.lower().endswith(ENDINGS) and FILE.match(name) is not None and not is_pattern(name)
    return name if fits_us else "forces.csv"


def _apart(table: TableMap, whole: _Table) -> list[_Table]:
    """The table; one for each file, where the files' names are codes of a column of ours."""
    for ours, taken in table.columns.items():
        if taken.columns == (AT_FILE,) and taken.values and not any(is_pattern(theirs) for theirs, _ in taken.values):
            ending = table.file[0][table.file[0].rfind(".") :]
            return [
                replace(
                    whole,
                    name=f"forces_{k}",
                    file=f"{theirs}{ending}",
                    written=whole.written | {"only": {ALONG.get(ours, ours): [meant]}},
                )
                for k, (theirs, meant) in enumerate(taken.values, 1)
            ]
    return [whole]


def _spread(table: TableMap, results: Sequence[str], found: _Table) -> None:
    """A column a result and component, where these are in the names of the columns."""
    found.written["one_row"] = ["member", "end"]
    if table.head > 1:
        found.notes.append(f"there the names of the columns take {table.head} rows; here one")
    for ours, taken in table.columns.items():
        name = taken.columns[0] if len(taken.columns) == 1 else ""
        if "{" not in name:
            if not name.startswith("@"):
                _turn(ours, taken, {}, found)
            continue
        if len(table.across) > 1:
            found.notes.append(f"{ours} is in columns by {' and '.join(table.across)} there: write them")
            continue
        spec: Spec = {"column": ours} | ({"unit": taken.unit} if taken.unit else {})
        if taken.factor != 1:
            spec["factor"] = _inverse(taken.factor)
        for result in results:
            found.columns[name.replace("{" + table.across[0] + "}", result)] = spec | {"where": {"result": result}}


def _turn(ours: str, taken: Taken, where: Spec, found: _Table) -> None:
    """One column, from theirs to ours turned into from ours to theirs."""
    if taken.value is not None:
        return  # one for all rows of ours: they have none
    if taken.flags or taken.lookup or taken.where or any("{" in name for name in taken.columns):
        found.notes.append(f"{ours} is put together of {', '.join(taken.own) or 'others'} there: write its column")
        return
    if taken.unit in SHARES:
        found.notes.append(f"{ours} is a share of the length there: not written")
        return
    first, *rest = taken.columns
    if first == AT_FILE and ("{" + ours + "}" in found.file or taken.values):
        return  # each file is of one of them
    if first in found.columns or first.startswith("@"):
        found.notes.append(f"{ours} is not in a column of its own there: not written")
        return
    spec: Spec = {"column": ALONG.get(ours, ours)}
    if taken.unit:
        spec["unit"] = taken.unit
    if taken.factor != 1:
        spec["factor"] = _inverse(taken.factor)
    if taken.pick:
        spec["within"] = taken.pick
    found.columns[first] = spec | _codes(taken, found.notes) | where
    if rest:
        found.columns |= {name: {"value": ""} for name in rest}
        if taken.join.strip():
            found.notes.append(f"{ours} is {', '.join(taken.columns)} together there; here all of it is {first}")


def _codes(taken: Taken, notes: list[str]) -> Spec:
    """Their codes for what we call otherwise; where several mean the same, the first."""
    codes: dict[str, str] = {}
    for theirs, ours in taken.values:
        if is_pattern(theirs):
            notes.append(f"'{theirs}' is {ours} there: write what it is to be called")
        else:
            codes.setdefault(ours, theirs)
    return {"values": codes, "others": "keep"} if codes else {}


def _inverse(factor: float) -> float:
    turned = 1 / factor
    return int(turned) if turned == int(turned) else turned


def _as_there(table: TableMap) -> Spec:
    usual: Spec = {"delimiter": ",", "decimal": "."}
    own: Spec = {"delimiter": table.delimiter, "decimal": table.decimal}
    if table.encoding:
        own["encoding"] = table.encoding
    return {key: value for key, value in own.items() if value != usual.get(key)}


def _units(column_map: ColumnMap | None) -> dict[str, str]:
    """What forces and moments come in there, where the map says so of the end forces."""
    found: dict[str, str] = {}
    for table in column_map.tables if column_map else ():
        if table.name == "end_forces":
            of = dict(table.columns) | dict(table.ends.get("i", {}))
            for ours, kind in (("Fx", "force"), ("Mz", "moment")):
                if ours in of and of[ours].unit:
                    found[kind] = of[ours].unit
    return found


def _key(name: str) -> str:
    bare = name.isascii() and name.replace("_", "").replace("-", "").isalnum()
    return name if bare else quoted(name)
