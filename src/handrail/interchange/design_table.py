"""Published tables of ready designs: CSV or a workbook, a row each, in one documented form (docs/designs.md)."""

from __future__ import annotations

import csv
import io
import re
import tempfile
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from handrail.core.errors import InputError
from handrail.core.quantities.units import parse
from handrail.core.standards import STANDARDS
from handrail.interchange.problems import Problems
from handrail.interchange.workbook import WORKBOOKS, sheets

MOST_ROWS = 20_000
ABOUT = ("name", "title", "note", "tags")
MEMBERS = {"supported": "supported", "support": "support"}
GEOMETRY = ("skew", "slope", "top_offset")
HOLDS = {
    "V": "V",
    "N pull": "N.max",
    "N push": "N.min",
    "M": "M.max",
    "M top": "M.max",
    "M bottom": "M.min",
}
_HEAD = re.compile(r"^(?P<name>.*?)\s*(?:\[(?P<unit>[^\]]*)\])?$")


@dataclass(frozen=True)
class Row:
    """One design as it is published: what it is called, its trial without actions, and what it is said to hold, N and
    N*mm."""

    name: str
    title: str
    note: str
    tags: tuple[str, ...]
    trial: dict[str, Any]
    stated: dict[str, float] = field(default_factory=dict)


def read_designs(content: bytes, name: str, usual: Mapping[str, str] | None = None) -> list[Row]:
    """The designs of a table; `usual` is said of every row that does not say it. Raises InputError with the row."""
    head, rows = _table(content, name)
    columns = [_HEAD.match(" ".join(str(cell).split())) for cell in head]
    names = [(m["name"].strip(), (m["unit"] or "").strip()) if m else ("", "") for m in columns]
    _refuse_unknown(names)
    found: list[Row] = []
    for number, cells in rows:
        if len(found) >= MOST_ROWS:
            raise InputError(f"{name}: more than {MOST_ROWS} rows; give it in parts")
        values = {
            column: f"{text} {unit}".strip() if unit and not re.search(r"[A-Za-z\"']", text) else text
            for (column, unit), text in zip(names, cells, strict=False)
            if column and text
        }
        if values:
            try:
                found.append(_row({**(usual or {}), **values}, f"{Path(name).stem}-{number}"))
            except InputError as exc:
                raise InputError(f"{name} row {number}: {exc.words}") from exc
    if not found:
        raise InputError(f"{name}: no row says a design")
    return found


def _table(content: bytes, name: str) -> tuple[Sequence[str], Iterator[tuple[int, list[str]]]]:
    """Its head and its rows, numbered as they are in the file."""
    if name.lower().endswith(WORKBOOKS):
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / f"table{Path(name).suffix.lower()}"
            path.write_bytes(content)
            problems = Problems()
            grids = sheets(path, problems)
        if not grids:
            raise InputError(
                f"{name} cannot be read as a workbook; {problems.found[0].message if problems.found else ''}"
            )
        table = next(iter(grids.values()))
    else:
        try:
            text = content.decode("utf-8-sig")
        except UnicodeDecodeError as exc:
            raise InputError(f"{name} is not UTF-8 text; save it as CSV in UTF-8, or as a workbook") from exc
        first = text.partition("\n")[0]
        table = list(csv.reader(io.StringIO(text), delimiter=";" if first.count(";") > first.count(",") else ","))
    numbered = [(k, [c.strip() for c in row]) for k, row in enumerate(table, 1) if any(c.strip() for c in row)]
    numbered = [(k, row) for k, row in numbered if not row[0].startswith("#")]
    if not numbered:
        raise InputError(f"{name} is empty")
    return numbered[0][1], iter(numbered[1:])


def _refuse_unknown(names: Sequence[tuple[str, str]]) -> None:
    parameters = {name for standard in STANDARDS.values() for name in standard.names}
    known = {*ABOUT, *MEMBERS, *(f"{m} grade" for m in MEMBERS), *GEOMETRY, "standard", "framing", "code", "method"}
    known |= {f"holds {name}" for name in HOLDS} | parameters
    if unknown := [name for name, _ in names if name and name not in known]:
        raise InputError(f"column '{unknown[0][:40]}' is not known; it takes {', '.join(sorted(known - parameters))}"
                         " and the parameters of standards")  # fmt: skip


def _row(values: Mapping[str, str], name: str) -> Row:
    standard = STANDARDS.get(values.get("standard", ""))
    if standard is None:
        raise InputError(f"standard '{values.get('standard', '')}' is none of {', '.join(STANDARDS)}")
    trial: dict[str, Any] = {
        "code": values.get("code", "AISC 360-22"),
        "method": values.get("method", "LRFD"),
        "framing": values.get("framing", standard.framings[0]),
        "standard": standard.name,
    }
    for role in MEMBERS:
        if role in values:
            trial[role] = {"section": values[role], "grade": values.get(f"{role} grade", "A992")}
    if "supported" not in trial:
        raise InputError("no supported section")
    if geometry := {key: values[key] for key in GEOMETRY if key in values}:
        trial["geometry"] = geometry
    trial["parameters"] = {key: values[key] for key in values if key in standard.names}
    if wrong := [key for key in values if key in _parameters() and key not in standard.names]:
        raise InputError(f"{standard.name} has no parameter {wrong[0]}")
    stated = {}
    for said, action in HOLDS.items():
        if f"holds {said}" in values:
            stated[action] = abs(parse(values[f"holds {said}"], "moment" if said.startswith("M") else "force"))
    nothing = {"name": "alone", "V": "0 kN"}
    if trial["framing"] == "beam_to_hollow_column":
        nothing["N_support"] = "0 kN"
    trial["actions"] = [nothing]
    called = re.sub(r"[^a-z0-9-]+", "-", values.get("name", name).lower()).strip("-")[:64]
    tags = tuple(" ".join(tag.split()) for tag in re.split(r"[;|]", values.get("tags", "")) if tag.strip())
    return Row(called, values.get("title", ""), values.get("note", ""), tags, trial, stated)


def _parameters() -> set[str]:
    return {name for standard in STANDARDS.values() for name in standard.names}
