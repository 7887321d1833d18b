"""Opens the tables that a map names: CSV in whatever way it is written, or a sheet of a workbook; all as text, each row with its number."""

from __future__ import annotations

import csv
import difflib
import io
from pathlib import Path, PurePosixPath
from typing import Any

import polars as pl

from handrail.interchange.columnmap.language import TableMap
from handrail.interchange.problems import MAP, Problems
from handrail.interchange.workbook import WORKBOOKS, sheets

ROW = "_row"
MOST_BYTES = 4 * 1024**3


def opened(table: TableMap, folder: Path, problems: Problems) -> pl.DataFrame | None:
    """The rows of a table's source as text, with ROW their numbers in the file, counted from 1; None where it is not there (and problems)."""
    path = _file(table, folder, problems)
    if path is None:
        return None
    frame = _sheet(table, path, problems) if path.suffix.lower() in WORKBOOKS else _csv(table, path, problems)
    if frame is None:
        return None
    names = [n for n in frame.columns if n != ROW]
    ok = True
    for name, line in table.sources:
        if name not in names:
            near = difflib.get_close_matches(name, names, 1)
            problems.add(MAP, f"'{name}' is no column of {table.file}{f'; is {near[0]} meant?' if near else '.'} It has {', '.join(names)}", line)
            ok = False
    return _kept(table, frame) if ok else None


def _kept(table: TableMap, frame: pl.DataFrame) -> pl.DataFrame:
    for name, values in table.only.items():
        frame = frame.filter(pl.col(name).is_in(list(values)))
    return frame


def _file(table: TableMap, folder: Path, problems: Problems) -> Path | None:
    place = PurePosixPath(table.file.replace("\\", "/"))
    if place.is_absolute() or ".." in place.parts:
        problems.add(MAP, f"file '{table.file}' leaves the folder", table.line)
        return None
    if (folder / place).is_file():
        return folder / place
    there = sorted(p.relative_to(folder).as_posix() for p in folder.rglob("*") if p.is_file())
    same = [name for name in there if name.lower() == str(place).lower() or PurePosixPath(name).name.lower() == place.name.lower()]
    if len(same) == 1:
        return folder / same[0]
    near = difflib.get_close_matches(table.file, there, 1)
    meant = f"; is {near[0]} meant?" if near else "."
    problems.add(MAP, f"tables.{table.name}: there is no file '{table.file}'{meant} There is {', '.join(there)}", table.line)
    return None


def _csv(table: TableMap, path: Path, problems: Problems) -> pl.DataFrame | None:
    try:
        raw = path.read_bytes()
        if table.encoding.lower() not in ("utf-8", "utf8"):
            raw = raw.decode(table.encoding).encode()
        start = _after(raw, table.skip)
        header = next(csv.reader(io.StringIO(raw[start:].split(b"\n", 1)[0].decode("utf-8-sig")), delimiter=table.delimiter), [])
        names = unlike([name.strip() for name in header])
        body = raw[start:].split(b"\n", 1)[1] if b"\n" in raw[start:] else b""
        frame = pl.DataFrame(schema=dict.fromkeys(names, pl.String))
        if body.strip():
            frame = pl.read_csv(body, has_header=False, new_columns=names, infer_schema=False, separator=table.delimiter)
    except (pl.exceptions.PolarsError, OSError, UnicodeError, LookupError, csv.Error) as exc:
        why = str(exc).splitlines()[0] if str(exc) else type(exc).__name__
        problems.add(path.name, f"cannot be read as a table ({why}); state its delimiter and encoding in the map (line {table.line})")
        return None
    return _rows(frame, table.skip + 2)


def _after(raw: bytes, lines: int) -> int:
    """Where the file goes on after so many lines."""
    at = 0
    for _ in range(lines):
        at = raw.find(b"\n", at) + 1
        if not at:
            return len(raw)
    return at


def _rows(frame: pl.DataFrame, first: int) -> pl.DataFrame:
    """Text without blanks around it, each row with its number; rows with nothing in them are left out."""
    named = frame.with_columns(pl.all().cast(pl.String).fill_null("").str.strip_chars()).with_row_index(ROW, offset=first)
    return named.filter(pl.any_horizontal(pl.exclude(ROW) != ""))


def _sheet(table: TableMap, path: Path, problems: Problems) -> pl.DataFrame | None:
    found: dict[str, list[list[str]]] | None = sheets(path, problems)
    if found is None:
        return None
    name = table.sheet or (next(iter(found)) if len(found) == 1 else "")
    if name not in found:
        problems.add(MAP, f"{table.file} has the sheets {', '.join(found)}: say which with sheet = ...", table.line)
        return None
    rows: list[Any] = found[name][table.skip :]
    if not rows:
        problems.add(MAP, f"sheet {name} of {table.file} has nothing after {table.skip} rows", table.line)
        return None
    names = unlike([cell.strip() for cell in rows[0]])
    columns = {n: [row[k] if k < len(row) else "" for row in rows[1:]] for k, n in enumerate(names)}
    return _rows(pl.DataFrame(columns, schema=dict.fromkeys(names, pl.String)), table.skip + 2)


def unlike(names: list[str]) -> list[str]:
    """Names told apart: the second of a name becomes `name (2)`; one without a name `column 3`."""
    found: list[str] = []
    for k, name in enumerate(names, 1):
        wanted = name or f"column {k}"
        times = sum(n == wanted or n.startswith(f"{wanted} (") for n in found)
        found.append(f"{wanted} ({times + 1})" if wanted in found else wanted)
    return found
