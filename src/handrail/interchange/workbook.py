"""Workbooks: a bundle whose tables are sheets, its manifest the sheet `bundle` of keys and values; and any sheet as
text."""

from __future__ import annotations

import csv
import datetime
import json
import zipfile
from pathlib import Path
from typing import Any

from handrail.interchange.problems import BundleError, Problem, Problems
from handrail.interchange.tables import TABLES

MANIFEST = "bundle"
WORKBOOKS = (".xlsx", ".xlsm", ".xls", ".ods")
MOST_CELLS = 20_000_000
MOST_UNPACKED = 1024**3


def sheets(path: Path, problems: Problems) -> dict[str, list[list[str]]] | None:
    """Every sheet of a workbook as rows of text; None where it cannot be read (and problems)."""
    from python_calamine import CalamineWorkbook

    try:
        if zipfile.is_zipfile(path):
            with zipfile.ZipFile(path) as archive:
                if sum(e.file_size for e in archive.infolist()) > MOST_UNPACKED:
                    problems.add(path.name, f"unpacks to more than {MOST_UNPACKED / 1e9:.1f} GB")
                    return None
        book = CalamineWorkbook.from_path(str(path))
        sheets = {}
        for name in book.sheet_names:
            sheet = book.get_sheet_by_name(name)
            if sheet.total_height * max(sheet.total_width, 1) > MOST_CELLS:
                problems.add(
                    path.name, f"sheet {name} has more than {MOST_CELLS / 1e6:.0f} million cells: give it as CSV"
                )
                return None
            sheets[name] = [[_text(cell) for cell in row] for row in sheet.to_python(skip_empty_area=False)]
        return sheets
    except Exception as exc:  # the reader raises kinds of its own for files that are none
        problems.add(
            path.name, f"cannot be read as a workbook ({str(exc).splitlines()[0] if str(exc) else type(exc).__name__})"
        )
        return None


def is_bundle(path: Path) -> bool:
    """Whether it is a workbook with the sheet of a manifest, or one that cannot be read."""
    if path.suffix.lower() not in WORKBOOKS:
        return False
    grids = sheets(path, Problems())
    return grids is None or MANIFEST in grids


def in_folder(folder: Path) -> Path:
    """The one workbook in a folder."""
    return next(p for p in folder.rglob("*") if p.suffix.lower() in WORKBOOKS)


def _text(cell: Any) -> str:
    if isinstance(cell, bool):
        return str(int(cell))
    if isinstance(cell, float):
        return str(int(cell)) if cell.is_integer() and abs(cell) < 1e15 else repr(cell)
    if isinstance(cell, datetime.datetime):
        return cell.date().isoformat() if cell.time() == datetime.time() else cell.isoformat()
    return "" if cell is None else str(cell)


def unpacked(path: Path, into: Path) -> dict[str, str]:
    """The bundle in a workbook as a folder; (file -> what it is in the workbook) for telling where problems stand.
    Raises BundleError."""
    problems = Problems()
    grids = sheets(path, problems) or {}
    problems.raise_any()
    if MANIFEST not in grids:
        raise BundleError(
            [
                Problem(
                    path.name,
                    f"has no sheet '{MANIFEST}' with the manifest's keys and values; its sheets are {', '.join(grids)}."
                    " Other programs' workbooks need a column map",
                )
            ]
        )
    tables = [name for name in grids if name in TABLES]
    others = [name for name in grids if name not in TABLES and name != MANIFEST]
    manifest = _manifest(grids[MANIFEST]) | {
        "resources": (
            [{"name": n, "path": f"{n}.csv"} for n in tables]
            + [{"name": n, "path": f"sheet-{k}.csv"} for k, n in enumerate(others)]
        )
    }
    (into / "datapackage.json").write_text(json.dumps(manifest), encoding="utf-8")
    for k in range(len(others)):
        (into / f"sheet-{k}.csv").touch()  # named in the manifest, so that the audit says that it is not read
    for name in tables:
        with (into / f"{name}.csv").open("w", encoding="utf-8", newline="") as stream:
            csv.writer(stream).writerows(_trimmed(grids[name]))
    return {"datapackage.json": f"{path.name} sheet {MANIFEST}"} | {
        f"{n}.csv": f"{path.name} sheet {n}" for n in tables
    }


def _trimmed(rows: list[list[str]]) -> list[list[str]]:
    """Without empty columns at the right and empty rows at the foot."""
    wide = max((k + 1 for k, cell in enumerate(rows[0]) if cell), default=0) if rows else 0
    deep = max((k + 1 for k, row in enumerate(rows) if any(row)), default=0)
    return [row[:wide] for row in rows[:deep]]


def _manifest(rows: list[list[str]]) -> dict[str, Any]:
    """Keys and values: name, title; revision, date, source, up, forces, forces_at; units.length and so on."""
    given = {row[0].strip(): row[1].strip() for row in rows if len(row) > 1 and row[0].strip() and row[1].strip()}
    stated = {key.removeprefix("units."): value for key, value in given.items() if key.startswith("units.")}
    hand = {
        key: value
        for key, value in given.items()
        if not key.startswith("units.") and key not in ("name", "title", "key")
    }
    version = int(hand.get("bundle", "0")) if hand.get("bundle", "0").isdecimal() else 0
    return {
        "name": given.get("name", ""),
        "title": given.get("title", ""),
        "handrail": hand | {"bundle": version, "units": stated},
    }
