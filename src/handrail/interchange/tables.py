"""The bundle's tables as declared: columns, kinds, references; read with every problem collected."""

from __future__ import annotations

import csv
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import polars as pl

from handrail.core.catalogue.lateral import KINDS
from handrail.interchange.problems import Problems

Row = dict[str, Any]
MOST_ROWS, MOST_BYTES = 1_000_000, 256 * 1024**2  # of a table other than end_forces, looked at before it is read
LARGEST = 1e12  # of any number in its own unit; beyond it is a slip, and squares of it would overflow


@dataclass(frozen=True)
class Column:
    """One column: `kind` text, number, flag or choice; a number may carry a unit kind of the manifest."""

    name: str
    kind: str = "text"
    required: bool = True
    unit: str = ""
    choices: tuple[str, ...] = ()
    default: Any = None


@dataclass(frozen=True)
class Table:
    name: str
    columns: tuple[Column, ...]
    key: tuple[str, ...] = ()
    required: bool = True


def _n(name: str, unit: str = "", required: bool = True, default: Any = None) -> Column:
    return Column(name, "number", required, unit, (), default)


def _t(name: str, required: bool = True, default: str = "") -> Column:
    return Column(name, "text", required, "", (), default)


def _c(name: str, *choices: str, required: bool = True, default: str = "") -> Column:
    return Column(name, "choice", required, "", choices, default)


SIX = tuple(_n(n, "force") for n in ("Fx", "Fy", "Fz")) + tuple(_n(n, "moment") for n in ("Mx", "My", "Mz"))

TABLES = {
    t.name: t
    for t in (
        Table(
            "nodes",
            (_t("node"), _n("x", "length"), _n("y", "length"), _n("z", "length"), _t("diaphragm", False)),
            ("node",),
        ),
        Table(
            "members",
            (
                _t("member"),
                _t("i"),
                _t("j"),
                _t("section"),
                _t("grade"),
                _n("roll", "angle", False, 0.0),
                _c("role", "beam", "column", "brace", required=False),
                _t("physical", False),
                _t("release_i", False),
                _t("release_j", False),
                _n("top_offset", "length", False, 0.0),
                _t("intent_i", False),
                _t("intent_j", False),
                _n("end_offset_i", "length", False, 0.0),
                _n("end_offset_j", "length", False, 0.0),
                _c("seismic", "none", "collector", "column", "beam", "brace", required=False),
                _c("lateral", *KINDS, required=False),
            ),
            ("member",),
        ),
        Table("supports", (_t("node"), *(Column(n, "flag") for n in ("ux", "uy", "uz", "rx", "ry", "rz"))), ("node",)),
        Table(
            "sections",
            (
                _t("designation"),
                _t("shape"),
                _n("d", "section"),
                _n("bf", "section"),
                _n("tw", "section"),
                _n("tf", "section"),
                _n("k", "section", False, 0.0),
                _n("k1", "section", False, 0.0),
            ),
            ("designation",),
            required=False,
        ),
        Table(
            "foundations",
            (
                _t("node"),
                _c("kind", "pedestal", "footing", "slab"),
                _n("fc", "stress"),
                _n("thickness", "length"),
                *(_n(f"edge_{side}", "length", False, math.inf) for side in ("xm", "xp", "ym", "yp")),
                _n("turn", "angle", False, 0.0),
                _c("cracked", "yes", "no", required=False, default="yes"),
            ),
            ("node",),
            required=False,
        ),
        Table("grids", (_t("grid"), *(_n(name, "length") for name in ("x1", "y1", "x2", "y2"))), required=False),
        Table(
            "pieces",
            (
                _t("piece"),
                _t("section", False),
                *(_n(f"{c}{k}", "length") for k in (1, 2) for c in "xyz"),
                _n("top", "length", False),
            ),
            required=False,
        ),
        Table("levels", (_t("level"), _n("z", "length")), ("level",), required=False),
        Table(
            "cases",
            (
                _t("case"),
                _t("title", False),
                _c("nature", "dead", "live", "roof_live", "snow", "wind", "seismic", "temperature", "other"),
                _c("kind", "linear", "nonlinear", "spectrum", "envelope", required=False, default="linear"),
            ),
            ("case",),
        ),
        Table(
            "combinations",
            (
                _t("combination"),
                _t("set"),
                _c("method", "LRFD", "ASD", "none"),
                _t("case"),
                _n("factor"),
            ),
            ("combination", "case"),
        ),
        Table("end_forces", (_t("member"), _c("end", "i", "j"), _t("result"), *SIX)),
        Table(
            "splices",
            (_t("member"), _n("distance", "length"), _t("kind", False)),
            ("member", "distance"),
            required=False,
        ),
        Table(
            "stations",
            (_t("member"), _n("distance", "length"), _t("result"), *SIX),
            ("member", "distance", "result"),
            required=False,
        ),
        Table(
            "member_loads",
            (
                _t("member"),
                _t("case"),
                _c("kind", "point", "distributed"),
                _c("direction", "x", "y", "z", "X", "Y", "Z"),
                _n("from", "length", False, 0.0),
                _n("to", "length", False),
                _n("value"),
                _n("value_to", "", False),
            ),
            required=False,
        ),
        Table("reactions", (_t("node"), _t("result"), *SIX), ("node", "result"), required=False),
        Table("node_loads", (_t("node"), _t("result"), *SIX), required=False),
    )
}


def read_table(table: Table, path: Path, problems: Problems, scale: Mapping[str, float]) -> list[Row]:
    """The rows of one CSV as typed values, numbers in the core's units by `scale` of their kind, `_row` holding the row
    in the file. Problems are added, not raised."""
    if too_large(path, problems):
        return []
    try:
        frame = pl.read_csv(path, infer_schema=False, encoding="utf8", truncate_ragged_lines=False)
    except (pl.exceptions.PolarsError, OSError, UnicodeError) as exc:
        text = str(exc).splitlines()[0] if str(exc) else type(exc).__name__
        problems.add(path.name, f"cannot be read as UTF-8 CSV ({text})")
        return []
    names = column_names(path, problems)
    if not names:
        return []
    if len(names) != frame.width:
        problems.add(path.name, "has a first line that cannot be told from its rows: name every column on one line")
        return []
    columns = present(table, names, path.name, problems)
    if columns is None or len(names) != len(set(names)):
        return []
    frame = frame.rename(dict(zip(frame.columns, names, strict=True)))
    file = path.name
    fields: dict[str, Sequence[Any]] = {"_row": range(2, frame.height + 2)}
    for column in table.columns:
        fields[column.name] = (
            _values(column, frame, file, problems, scale.get(column.unit, 1.0))
            if column in columns
            else [column.default] * frame.height
        )
    rows = [dict(zip(fields, row, strict=True)) for row in zip(*fields.values(), strict=True)]
    if table.key and len(set(zip(*(fields[name] for name in table.key), strict=True))) < len(rows):
        _repeated(table, rows, file, problems)
    return rows


def too_large(path: Path, problems: Problems) -> bool:
    """Whether a file holds more than a table may, told before anything of it is made."""
    size = path.stat().st_size
    if size > MOST_BYTES:
        problems.add(
            path.name,
            f"is {size / 1e6:.0f} MB; at most {MOST_BYTES / 1e6:.0f} MB are taken in a table other than end_forces",
        )
    elif (lines := count_lines(path)) > MOST_ROWS:
        problems.add(path.name, f"has {lines} rows; at most {MOST_ROWS} are taken in a table other than end_forces")
    else:
        return False
    return True


def count_lines(path: Path) -> int:
    """How many lines a file has, counted a block at a time."""
    lines = 0
    with path.open("rb") as stream:
        while block := stream.read(1 << 22):
            lines += block.count(b"\n")
    return lines


def column_names(path: Path, problems: Problems) -> list[str]:
    """The names in a file's first line, blanks around them left out; one that is there twice is a problem. Empty
    where it cannot be read as text (and problems)."""
    with path.open("rb") as raw:
        begin = raw.read(1 << 16)
    if b"\r" in begin and b"\n" not in begin:
        problems.add(path.name, "ends its lines with CR alone: save it with LF, or CR and LF")
        return []
    try:
        with path.open(encoding="utf-8-sig", newline="") as stream:
            names = [name.strip() for name in next(csv.reader(stream), [])]
    except (UnicodeError, csv.Error) as exc:
        problems.add(path.name, f"cannot be read as UTF-8 CSV ({exc}); save it as CSV in UTF-8")
        return []
    if not any(names):
        problems.add(path.name, "is empty: its first line names the columns")
        return []
    for name in dict.fromkeys(n for n in names if names.count(n) > 1):
        problems.add(path.name, f"the column is there {names.count(name)} times; leave one", 1, name)
    return names


def _values(column: Column, frame: pl.DataFrame, file: str, problems: Problems, scale: float) -> list[Any]:
    given = frame[column.name].fill_null("").str.strip_chars()
    if column.kind == "number":
        numbers = given.cast(pl.Float64, strict=False)
        if not numbers.null_count() and bool((numbers.abs() <= LARGEST).all()):  # nor where one is NaN
            return (numbers * scale).to_list()
    texts = given.to_list()
    if column.kind == "text" and all(texts):
        return texts
    values = [_value(column, text, file, row, problems) for row, text in enumerate(texts, 2)]
    if column.kind != "number":
        return values
    return [None if value is None and not column.required else (value or 0.0) * scale for value in values]


def present(table: Table, names: list[str], file: str, problems: Problems) -> list[Column] | None:
    """The declared columns that the file has; None (and problems) where a required one is missing."""
    missing = [c.name for c in table.columns if c.required and c.name not in names]
    for name in missing:
        problems.add(
            file, f"missing; {table.name} needs {', '.join(c.name for c in table.columns if c.required)}", 1, name
        )
    return None if missing else [c for c in table.columns if c.name in names]


def _value(column: Column, text: str, file: str, row: int, problems: Problems) -> Any:
    if not text:
        if column.required:
            problems.add(file, f"is empty; {_expected(column)} is needed", row, column.name)
        return column.default
    if column.kind == "text":
        return text
    if column.kind == "choice":
        if text not in column.choices:
            problems.add(file, f"'{text}' is none of {', '.join(column.choices)}", row, column.name)
        return text
    if column.kind == "flag":
        if text not in ("0", "1", "0.0", "1.0"):
            problems.add(file, f"'{text}' is neither 1 (held) nor 0 (free)", row, column.name)
        return text.startswith("1")
    try:
        number = float(text)
    except ValueError:
        problems.add(file, f"'{text}' is not a number", row, column.name)
        return column.default or 0.0
    if not math.isfinite(number):
        problems.add(file, f"'{text}' is not finite", row, column.name)
        return 0.0
    if abs(number) > LARGEST:
        problems.add(file, f"'{text}' is too large to be meant; at most {LARGEST:g}", row, column.name)
        return 0.0
    return number


def _expected(column: Column) -> str:
    return {"number": "a number", "flag": "1 or 0", "choice": " or ".join(column.choices)}.get(column.kind, "text")


def _repeated(table: Table, rows: list[Row], file: str, problems: Problems) -> None:
    seen: dict[tuple[Any, ...], int] = {}
    for row in rows:
        key = tuple(row[name] for name in table.key)
        if key in seen:
            problems.add(file, f"{' '.join(map(str, key))} is already in row {seen[key]}", row["_row"], table.key[0])
        else:
            seen[key] = row["_row"]
