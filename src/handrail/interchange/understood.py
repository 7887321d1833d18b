"""What was understood of a model that somebody sent, before it is taken in: each table with its units and first rows,
and what is wrong."""

from __future__ import annotations

import json
import tempfile
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import polars as pl

from handrail.interchange import workbook
from handrail.interchange.archive import MANIFEST, manifest_in
from handrail.interchange.bundle import read_bundle
from handrail.interchange.columnmap import bundled, read_map
from handrail.interchange.columnmap.applying import Bundled
from handrail.interchange.columnmap.finding import LOOKED_IN, sources_in
from handrail.interchange.incoming import kind_of, opened
from handrail.interchange.problems import BundleError, Problem
from handrail.interchange.tables import TABLES, Column

SHOWN_ROWS = 5
WHOLE = 64 * 1024**2  # bytes up to which all of it is read at once


@dataclass
class Seen:
    """One table: where it comes from, how many rows, its columns with their source and unit, the first rows as text,
    what is not read."""

    table: str
    source: str
    rows: int
    columns: list[dict[str, str]]
    sample: list[list[str]]
    unread: list[str] = field(default_factory=list)


@dataclass
class Understood:
    """`kind` bundle, workbook or tables (through a map); what its author stated, its tables, files nobody reads, and
    problems; `whole` says whether all of it was read."""

    kind: str
    stated: dict[str, Any]
    tables: list[Seen]
    unread: list[str]
    problems: list[Problem]
    whole: bool = True


def understand(path: Path, column_map: str = "", name: str = "") -> Understood:
    """What is in what was sent, a folder or file; through `column_map` where there is one."""
    with tempfile.TemporaryDirectory(prefix="handrail-") as scratch, opened(path, name) as folder:
        made, kind, through = Path(scratch), "tables" if column_map else kind_of(folder), None
        problems: list[Problem] = []
        root, names = folder, {}
        try:
            if column_map:
                large = _size(folder) > WHOLE
                root, through = made, bundled(read_map(column_map), folder, made, most=LOOKED_IN if large else None)
            elif kind == "workbook":
                root, names = made, workbook.unpacked(workbook.in_folder(folder), made)
            elif kind == "bundle":
                root = manifest_in(folder) or folder
            else:
                return Understood(kind, {}, _raw(folder), [], [])
            whole = _size(folder) <= WHOLE and _size(root) <= WHOLE
            problems = _problems(root, through, names) if whole else []
        except BundleError as exc:
            return Understood(
                kind, {}, _raw(folder) if column_map else [], [] if column_map else _files(folder), exc.problems
            )
        stated, listed = _manifest(root)
        tables = [_seen(name, file, stated, through, names) for name, file in listed.items() if name in TABLES]
        return Understood(kind, stated, tables, list(through.left) if through else [], problems, whole)


def _raw(folder: Path) -> list[Seen]:
    """Every table in the files as it stands there, for who writes the map."""
    seen = []
    for s in sources_in(folder):
        where = f"sheet {', '.join(s.map.sheet)}" if s.map.sheet else "the file"
        seen.append(
            Seen(
                s.file,
                where,
                len(s.rows),
                [{"name": n, "source": "", "unit": ""} for n in s.names],
                s.rows[:SHOWN_ROWS],
            )
        )
    return seen


def _problems(root: Path, through: Bundled | None, names: dict[str, str]) -> list[Problem]:
    try:
        read_bundle(root)
    except BundleError as exc:
        problems = through.at_the_source(exc) if through else exc
        return [Problem(names.get(p.file, p.file), p.message, p.row, p.column) for p in problems.problems]
    return []


def _manifest(root: Path) -> tuple[dict[str, Any], dict[str, Path]]:
    """What it states, and its files by table; nothing where it cannot be read."""
    try:
        data = json.loads((root / MANIFEST).read_text(encoding="utf-8"))
        hand = dict(data["handrail"])
        listed = {str(r["name"]): root / str(r["path"]) for r in data["resources"]}
    except (OSError, ValueError, KeyError, TypeError, RecursionError):
        return {}, {}
    stated = {k: v for k, v in hand.items() if k not in ("bundle", "units")} | {
        "title": data.get("title", ""),
        "units": hand.get("units", {}),
    }
    return stated, {
        name: file for name, file in listed.items() if file.is_file() and file.resolve().is_relative_to(root.resolve())
    }


def _seen(name: str, file: Path, stated: dict[str, Any], through: Bundled | None, names: dict[str, str]) -> Seen:
    head = _head(file)
    origin = through.origins.get(file.name) if through else None
    known = {c.name: c for c in TABLES[name].columns}
    columns = [
        {"name": c, "source": origin.columns.get(c, ("", 0))[0] if origin else c, "unit": _unit(known.get(c), stated)}
        for c in head.columns
    ]
    unread = [c for c in head.columns if c not in known]
    if origin is not None and through is not None:
        unread = [n for of in origin.of.unique(maintain_order=True) for n in through.unread.get(of, [])]
    with file.open("rb") as stream:
        rows = max(sum(block.count(b"\n") for block in iter(lambda: stream.read(1 << 22), b"")) - 1, 0)
    source = origin.source if origin else names.get(file.name, file.name)
    return Seen(
        name, source, rows, columns, [[_short(v) for v in row] for row in head.rows()], list(dict.fromkeys(unread))
    )


def _short(cell: str | None) -> str:
    """A cell as people read it: no more digits than count."""
    text = cell or ""
    if "." in text or "e" in text:
        try:
            return f"{float(text):.6g}"
        except ValueError:
            pass
    return text


def _head(file: Path) -> pl.DataFrame:
    try:
        return pl.read_csv(file, infer_schema=False, n_rows=SHOWN_ROWS)
    except (pl.exceptions.PolarsError, OSError, UnicodeError):
        return pl.DataFrame()


def _unit(column: Column | None, stated: dict[str, Any]) -> str:
    if column is None or not column.unit:
        return ""
    units = stated.get("units")
    return "deg" if column.unit == "angle" else str(units.get(column.unit, "")) if isinstance(units, dict) else ""


def _size(folder: Path) -> int:
    return sum(p.stat().st_size for p in folder.rglob("*") if p.is_file())


def _files(folder: Path) -> list[str]:
    names = (p.relative_to(folder).as_posix() for p in folder.rglob("*") if p.is_file())
    return sorted(n for n in names if not n.startswith((".", "__MACOSX")) and not n.endswith(".toml"))
