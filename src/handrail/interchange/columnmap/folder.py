"""The files of what was sent, and the grids of text in them: sheets of workbooks, lists in JSON, tables of SQLite; each
read once."""

from __future__ import annotations

import difflib
from dataclasses import dataclass, field
from pathlib import Path, PurePosixPath

import polars as pl

from handrail.interchange.columnmap.language import SourceMap, fits, is_pattern
from handrail.interchange.columnmap.records import JSON, SQLITE, json_tables, sqlite_tables
from handrail.interchange.columnmap.text import TEXTS, text_of
from handrail.interchange.ifc import ifc_tables
from handrail.interchange.problems import MAP, Problems
from handrail.interchange.workbook import WORKBOOKS, sheets

IFC = (".ifc",)
GRIDS = (*WORKBOOKS, *JSON, *SQLITE, *IFC)
REPORTS = 8  # how much more of a report is looked at: its sections follow each other
LEFT = (".toml", ".yaml", ".yml")  # beside the tables, and none of them
Grid = list[list[str]]


@dataclass
class Folder:
    """What was sent, unpacked at `root`."""

    root: Path
    problems: Problems
    most: int | None = None  # bytes of a file of text that are read
    _lines: dict[tuple[str, str], pl.Series] = field(default_factory=dict)
    _grids: dict[Path, dict[str, Grid] | None] = field(default_factory=dict)

    @property
    def files(self) -> list[str]:
        """Every file by its path, those of the system's own left out."""
        there = (p.relative_to(self.root) for p in self.root.rglob("*") if p.is_file())
        return sorted(p.as_posix() for p in there if not any(part.startswith((".", "__MACOSX")) for part in p.parts))

    @property
    def tables(self) -> list[str]:
        """The files that tables may be in."""
        return [name for name in self.files if Path(name).suffix.lower() in (*TEXTS, *GRIDS)]

    def path(self, name: str) -> Path:
        return self.root / name

    def called(self, source: SourceMap) -> list[str]:
        """The files that a table is read from; problems where one is not there."""
        names: list[str] = []
        for wanted in source.file:
            own = self._called(wanted, source)
            names += [name for name in own if name not in names]
        return names

    def _called(self, wanted: str, source: SourceMap) -> list[str]:
        place = PurePosixPath(wanted.replace("\\", "/"))
        if place.is_absolute() or ".." in place.parts:
            self.problems.add(MAP, f"file '{wanted}' leaves the folder", source.line)
            return []
        there = self.files
        if is_pattern(wanted) and wanted not in there:
            names = [name for name in there if fits(str(place), name) or fits(str(place), name.rsplit("/", 1)[-1])]
            if names:
                return names
        else:
            same = [name for name in there if name == str(place)] or [
                name
                for name in there
                if name.lower() == str(place).lower() or name.rsplit("/", 1)[-1].lower() == place.name.lower()
            ]
            if len(same) == 1:
                return same
            if (alone := self.alone(wanted)) is not None:
                return [alone]
        near = difflib.get_close_matches(wanted, there, 1)
        meant = f"; is {near[0]} meant?" if near else "."
        self.problems.add(
            MAP, f"{source.name}: there is no file '{wanted}'{meant} There is {', '.join(there)}", source.line
        )
        return []

    def alone(self, wanted: str) -> str | None:
        """The one file that was sent, by whatever name, where it is of the kind that is wanted: a lone workbook of the
        next revision."""
        tables = self.tables
        return tables[0] if len(tables) == 1 and Path(tables[0]).suffix.lower() == Path(wanted).suffix.lower() else None

    def lines(self, name: str, encoding: str = "") -> pl.Series:
        """The lines of a file of text; of a report that is looked at, more of it than of a table. Raises UnicodeError,
        LookupError."""
        if (name, encoding) not in self._lines:
            path, most = self.path(name), self.most and self.most * REPORTS
            lines = text_of(path, encoding, most).split("\n")
            if most and len(lines) > 1 and path.stat().st_size > most:
                lines.pop()  # it was cut
            self._lines = {(name, encoding): pl.Series(lines, dtype=pl.String)}
        return self._lines[name, encoding]

    def grids(self, name: str, only: str = "") -> dict[str, Grid] | None:
        """The sheets, lists or tables of a file that is no text; None where it cannot be read (and problems)."""
        path = self.path(name)
        if path not in self._grids:
            self._grids[path] = self._read(path, only)
        grids = self._grids[path]
        if grids is not None and path.suffix.lower() in SQLITE and only and not grids.get(only):
            self._grids[path] = grids = {**grids, **(self._read(path, only) or {})}
        return grids

    def _read(self, path: Path, only: str) -> dict[str, Grid] | None:
        suffix = path.suffix.lower()
        if suffix in WORKBOOKS:
            return sheets(path, self.problems)
        try:
            return (
                ifc_tables(path)
                if suffix in IFC
                else json_tables(path)
                if suffix in JSON
                else sqlite_tables(path, only)
            )
        except (ValueError, OSError, RecursionError) as exc:
            what = "IFC" if suffix in IFC else "JSON" if suffix in JSON else "SQLite"
            self.problems.add(path.name, f"cannot be read as {what} ({str(exc).splitlines()[0]})")
            return None
