"""The tables in a folder of exports as they are found: where the names of their columns stand, how they are written, their first rows."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

from handrail.interchange.columnmap.body import unlike
from handrail.interchange.problems import Problems
from handrail.interchange.workbook import WORKBOOKS, sheets

LOOKED_AT, LOOKED_IN = 20_000, 8 * 1024**2  # rows and bytes of each table
NUMBER = re.compile(r"^[-+]?\d[\d.,]*(?:[eE][-+]?\d+)?$|^[-+]?[.,]\d+$")


@dataclass
class Source:
    """One table as found: its columns' names and some of their values."""

    file: str
    sheet: str
    skip: int
    delimiter: str
    decimal: str
    names: list[str]
    rows: list[list[str]]
    above: str = ""  # what stands over the names of the columns
    used: dict[str, str] = field(default_factory=dict)  # ours -> theirs

    def column(self, name: str) -> list[str]:
        k = self.names.index(name)
        return [row[k].strip() for row in self.rows if k < len(row)]

    def numeric(self, name: str) -> bool:
        values = [v for v in self.column(name) if v]
        return bool(values) and sum(bool(NUMBER.match(v)) for v in values) > 0.9 * len(values)

    def unique(self, name: str) -> bool:
        """Whether no value is there twice."""
        values = [v for v in self.column(name) if v]
        return bool(values) and len(values) == len(set(values))

    def held_in(self, name: str, ids: set[str]) -> float:
        values = [v for v in self.column(name) if v]
        return sum(v in ids for v in values) / len(values) if values else 0.0


def sources_in(folder: Path) -> Iterator[Source]:
    """Every table in the files of a folder."""
    for path in sorted(p for p in folder.rglob("*") if p.is_file() and not p.name.startswith(".") and "__MACOSX" not in p.parts):
        name = path.relative_to(folder).as_posix()
        if path.suffix.lower() in WORKBOOKS:
            for sheet, rows in (sheets(path, Problems()) or {}).items():
                if (found := _table(name, sheet, rows[:LOOKED_AT], "")) is not None:
                    yield found
        elif path.suffix.lower() in (".csv", ".txt", ".tsv", ".dat"):
            with path.open("rb") as stream:
                text = stream.read(LOOKED_IN).decode("utf-8-sig", errors="replace")
            lines = text.splitlines()[:LOOKED_AT]
            mark = max((";", "\t", "|", ","), key=lambda d: _steady(lines[:200], d))
            if (found := _table(name, "", list(csv.reader(io.StringIO("\n".join(lines)), delimiter=mark)), mark)) is not None:
                yield found


def _steady(lines: list[str], delimiter: str) -> tuple[int, int]:
    """How many lines have as many of it as most have, and how many these are."""
    counts = [line.count(delimiter) for line in lines if line.strip()]
    usual = max(set(counts), key=counts.count, default=0)
    return (counts.count(usual) if usual else 0, usual)


def _table(file: str, sheet: str, rows: list[list[str]], delimiter: str) -> Source | None:
    """Where the names of the columns stand: the first row as wide as most that has no number in it."""
    wide = [sum(bool(c.strip()) for c in row) for row in rows]
    usual = max(set(wide), key=wide.count, default=0)
    for skip, row in enumerate(rows[:50]):
        texts = [c.strip() for c in row]
        if wide[skip] >= max(usual, 2) and not any(NUMBER.match(t) for t in texts if t):
            body = [r for r in rows[skip + 1 :] if any(c.strip() for c in r)]
            cells = [c.strip() for r in body for c in r]
            comma = sum(bool(re.match(r"^[-+]?\d+,\d+$", c)) for c in cells)
            point = sum(bool(re.match(r"^[-+]?\d*\.\d+$", c)) for c in cells)
            return Source(file, sheet, skip, delimiter, "," if delimiter != "," and comma > point else ".", unlike(texts), body,
                          " ".join(c.strip() for r in rows[:skip] for c in r))  # fmt: skip
    return None
