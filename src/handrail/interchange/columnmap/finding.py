"""The tables in a folder of exports as they are found: where each begins, how it is written, the names of its columns,
its first rows."""

from __future__ import annotations

import csv
import re
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from pathlib import Path

from handrail.interchange.columnmap.folder import GRIDS, Folder, Grid
from handrail.interchange.columnmap.language import SourceMap, common_start
from handrail.interchange.columnmap.reports import reports_in
from handrail.interchange.columnmap.sources import opened
from handrail.interchange.columnmap.text import TEXTS
from handrail.interchange.columnmap.unit_words import NUMBER, are_units
from handrail.interchange.columnmap.words import TOTALS, bare
from handrail.interchange.problems import BundleError, Problems

LOOKED_AT, LOOKED_IN = 20_000, 8 * 1024**2  # rows and bytes of each table
HEADS = 50  # rows in which the names of the columns are looked for
COMMA, POINT = re.compile(r"^[-+]?[\d.]*\d,\d+$"), re.compile(r"^[-+]?\d*\.\d+$")  # numbers with a fraction
THOUSAND = re.compile(r"^[-+]?\d{1,3}\.\d{3}$")  # what may be one, or not
GROUPED = {  # by what stands between thousands: that it does, and that it is nothing else
    group: (
        re.compile(rf"^[-+]?\d{{1,3}}(\{group}\d{{3}})+$"),
        re.compile(rf"^[-+]?\d{{1,3}}(\{group}\d{{3}})+\{point}\d+$|^[-+]?\d{{1,3}}(\{group}\d{{3}}){{2,}}$"),
    )
    for group, point in ((".", ","), (",", "."))
}


@dataclass
class Source:
    """One table as found: how a map says where it is, its columns' names and some of their values, what the file says
    of their units; `above` what stands over the names."""

    map: SourceMap
    names: list[str]
    rows: list[list[str]]
    units: dict[str, str] = field(default_factory=dict)
    above: str = ""
    used: dict[str, str] = field(default_factory=dict)  # ours -> theirs
    is_number: dict[str, bool] = field(default_factory=dict)

    @property
    def file(self) -> str:
        return ", ".join(self.map.file)

    @property
    def called(self) -> str:
        return (
            self.file
            + (f" sheet {', '.join(self.map.sheet)}" if self.map.sheet else "")
            + (f" after {', '.join(self.map.after)}" if self.map.after else "")
        )

    def column(self, name: str) -> list[str]:
        k = self.names.index(name)
        return [row[k] for row in self.rows]

    def numeric(self, name: str) -> bool:
        if name not in self.is_number:
            values = Counter(v for v in self.column(name) if v)
            numbers = sum(times for v, times in values.items() if NUMBER.match(v))
            self.is_number[name] = numbers > 0.9 * values.total()
        return self.is_number[name]

    def unique(self, name: str) -> bool:
        """Whether no value is there twice."""
        values = [v for v in self.column(name) if v]
        return bool(values) and len(values) == len(set(values))

    def held_in(self, name: str, ids: set[str]) -> float:
        values = [v for v in self.column(name) if v]
        return sum(v in ids for v in values) / len(values) if values else 0.0

    def distinct(self, name: str) -> list[str]:
        return list(dict.fromkeys(v for v in self.column(name) if v))


def sources_in(root: Path) -> list[Source]:
    """Every table in the files of a folder; several of one make (a file a case, a sheet a storey) are one."""
    folder = Folder(root, Problems(), LOOKED_IN)
    sources = [source for name in folder.tables for source in _in_file(folder, name)]
    return _together(folder, sources)


def _in_file(folder: Folder, name: str) -> Iterator[Source]:
    suffix = Path(name).suffix.lower()
    if suffix in GRIDS:
        for sheet, rows in (folder.grids(name) or {}).items():
            several = len(folder.grids(name) or {}) > 1 or suffix not in (".xlsx", ".xlsm", ".xls", ".ods")
            yield from _read(folder, _of_grid(SourceMap("", 0, (name,), (sheet,) if several else ()), rows[:LOOKED_AT]))
    elif suffix in TEXTS:
        yield from _of_text(folder, name)


def _of_text(folder: Folder, name: str) -> Iterator[Source]:
    encoding = ""
    try:
        every = folder.lines(name)
    except UnicodeError:  # neither UTF-8 nor UTF-16
        encoding = "cp1252"
        every = folder.lines(name, encoding)
    lines = every.head(LOOKED_AT).to_list()
    source = SourceMap("", 0, (name,), encoding=encoding)
    mark = delimiter_of(lines)
    if not mark:
        for report in reports_in(replace(source, written="fixed"), every.to_list()):
            yield from _read(folder, report)
        return
    rows = list(csv.reader((line for line in lines), delimiter=mark))
    sources = _of_grid(replace(source, delimiter=mark), rows)
    if sources is not None:
        decimal, thousands = _marks(Counter(c.strip() for r in rows for c in r), mark)
        sources = replace(sources, decimal=decimal, thousands=thousands)
    yield from _read(folder, sources)


def _marks(cells: Counter[str], delimiter: str) -> tuple[str, str]:
    """What stands before the fraction of numbers, and between their thousands; empty where nothing does."""
    comma = sum(times for c, times in cells.items() if COMMA.match(c))
    point = sum(times for c, times in cells.items() if POINT.match(c) and not THOUSAND.match(c))
    decimal = "," if delimiter != "," and comma > point else "."
    once, again = GROUPED["." if decimal == "," else ","]
    grouped = any(map(once.match, cells)) and any(map(again.match, cells))
    return decimal, ("." if decimal == "," else ",") if grouped else ""


def delimiter_of(lines: list[str]) -> str:
    """What the cells of most lines stand between; empty where nothing does so steadily (columns of fixed width)."""
    some = [line for line in lines[:400] if line.strip()]
    counts = {mark: _steady(some, mark) for mark in (";", "\t", "|", ",")}
    mark = max(counts, key=lambda m: counts[m])
    return mark if counts[mark][0] > 0.4 * len(some) else ""


def _steady(lines: list[str], delimiter: str) -> tuple[int, int]:
    """How many lines have as many of it as most have, and how many these are."""
    counts = [line.count(delimiter) for line in lines]
    usual = max(set(counts), key=lambda c: (counts.count(c) if c else 0, c), default=0)
    return (counts.count(usual) if usual else 0, usual)


def _of_grid(source: SourceMap, rows: Grid) -> SourceMap | None:
    """Where the names of the columns stand: the first row as wide as most that has no number in it, and the one above
    where it heads groups."""
    texts = [[c.strip() for c in row] for row in rows]
    wide = [sum(map(bool, row)) for row in texts]
    usual = max(set(wide), key=lambda n: (wide.count(n), n), default=0)
    for skip, row in enumerate(texts[:HEADS]):
        if wide[skip] < max(0.75 * usual, 2) or (any(NUMBER.match(t) for t in row if t) and not _numbered(texts, skip)):
            continue
        if are_units(row):
            continue
        head, first = 1, skip
        if skip and _heads_groups(texts[skip - 1], row):
            head, first = 2, skip - 1
        below = texts[skip + 1] if skip + 1 < len(texts) else []
        if (
            head == 1
            and below
            and wide[skip + 1] >= 2
            and not any(NUMBER.match(t) for t in below if t)
            and not are_units(below)
            and _heads_groups(row, below)
        ):
            head = 2
        units_row = first + head < len(texts) and are_units(texts[first + head])
        return replace(
            source, skip=first, head=head, units_row=units_row, until=_total(texts, first + head + units_row, usual)
        )
    return None


def _numbered(texts: Grid, at: int) -> bool:
    """Whether a row with a number in it still names columns: cases called 1, 2, 3 across, all unlike, and rows with
    fractions below."""
    row = [t for t in texts[at] if t]
    numbers = [t for t in row if NUMBER.match(t)]
    below = [t for later in texts[at + 1 : at + 6] for t in later if t]
    return (
        len(set(row)) == len(row)
        and len(numbers) < len(row)
        and all(t.isdecimal() for t in numbers)
        and any(re.search(r"\d[.,]\d", t) for t in below)
    )


def _heads_groups(upper: list[str], lower: list[str]) -> bool:
    """Whether a row heads groups of the columns named below: the names below need those above to be told apart, or each
    row has some alone."""
    said = [k for k, t in enumerate(upper) if t]
    under = [k for k, t in enumerate(lower) if t]
    if not said or said == [0] or any(NUMBER.match(upper[k]) for k in said if not upper[k].isdecimal()):
        return False
    again = len({lower[k] for k in under}) < len(under)
    return bool(set(under) - set(said)) and (again or bool(set(said) - set(under)))


def _total(texts: Grid, start: int, usual: int) -> tuple[str, ...]:
    """The pattern of the row that ends the table: a total, or words alone."""
    for row in reversed(texts[start:][-6:]):
        said = [t for t in row if t]
        if said and re.match(TOTALS, bare(said[0])) and len(said) < usual:
            return (re.split(r"[\s:;,]", said[0])[0] + "*",)
    return ()


def _read(folder: Folder, source: SourceMap | None) -> Iterator[Source]:
    """The table as a map would read it."""
    if source is None:
        return
    try:
        whole = opened(source, folder, list(source.file))
    except BundleError:
        return
    if whole is None or not whole.frame.height:
        return
    names = [n for n in whole.names if n not in ("@file", "@sheet")]
    rows = whole.frame.head(LOOKED_AT).select(names).rows()
    taken = Source(source, names, [[str(v) for v in row] for row in rows], whole.units)
    taken.map = replace(taken.map, fill=_gaps(taken))
    if taken.map.fill:
        again = opened(taken.map, folder, list(source.file))
        assert again is not None
        taken.rows = [[str(v) for v in row] for row in again.frame.head(LOOKED_AT).select(names).rows()]
    taken.above = _above(folder, source)
    yield taken


def _above(folder: Folder, source: SourceMap) -> str:
    """What stands over the names of the columns."""
    name = source.file[0]
    if Path(name).suffix.lower() in GRIDS:
        rows = (folder.grids(name) or {}).get(source.sheet[0] if source.sheet else "", []) or next(
            iter((folder.grids(name) or {"": []}).values())
        )
        return " ".join(c.strip() for row in rows[: source.skip] for c in row if c.strip())
    lines = folder.lines(name, source.encoding).head(60).to_list()
    return " ".join(lines[: source.skip] if not source.after else [line for line in lines if line.strip()][:12])


def _gaps(source: Source) -> tuple[str, ...]:
    """Columns whose value stands in the first row of several alone: mostly empty, never in the first row, and in
    blocks."""
    gaps = []
    for k, name in enumerate(source.names[:5]):
        values = source.column(name)
        empty = sum(not v for v in values)
        if (
            values
            and values[0]
            and 0.2 * len(values) < empty < len(values) - 1
            and not any(source.column(n)[0] == "" for n in source.names[:k])
        ):
            following = [
                later
                for later in source.names[k + 1 :]
                if sum(bool(v) for v in source.column(later)) > 0.95 * len(values)
            ]
            if len(following) >= 3:
                gaps.append(name)
    return tuple(gaps)


def _together(folder: Folder, parts: list[Source]) -> list[Source]:
    """Tables of several files or sheets with the same names of columns as one; the file's or sheet's name tells their
    rows apart."""
    groups: dict[tuple[object, ...], list[Source]] = {}
    for source in parts:
        own = replace(source.map, file=source.map.file if source.map.sheet else (), sheet=(), until=(), fill=())
        groups.setdefault(
            (tuple(source.names), repr(own), bool(source.map.sheet), repr(sorted(source.units.items()))), []
        ).append(source)
    whole = []
    for group in groups.values():
        if len(group) == 1 or not _of_one_make(group):
            whole += group
            continue
        first = group[0]
        kind = "@sheet" if first.map.sheet else "@file"
        texts = [s.map.sheet[0] if kind == "@sheet" else s.map.file[0] for s in group]
        pattern = _pattern(texts, [*(folder.grids(first.map.file[0]) or {})] if kind == "@sheet" else folder.files)
        place = first.map.file if kind == "@sheet" else pattern
        sheet = pattern if kind == "@sheet" else first.map.sheet
        rows = [
            [*row, Path(text).stem if kind == "@file" else text]
            for text, s in zip(texts, group, strict=True)
            for row in s.rows
        ]
        until = tuple(dict.fromkeys(u for s in group for u in s.map.until))
        fill = tuple(dict.fromkeys(f for s in group for f in s.map.fill))
        whole.append(
            Source(
                replace(first.map, file=place, sheet=sheet, until=until, fill=fill),
                [*first.names, kind],
                rows,
                first.units,
                first.above,
            )
        )
    return whole


def _of_one_make(group: list[Source]) -> bool:
    """Whether tables alike in their columns are parts of one: their names are alike too, but for a part."""
    texts = [s.map.sheet[0] if s.map.sheet else Path(s.map.file[0]).stem for s in group]
    begin, end = _common(texts)
    return sum(c.isalpha() for c in begin + end) >= 3


def _common(texts: list[str]) -> tuple[str, str]:
    """What texts begin and end with alike."""
    begin = common_start(texts)
    rest = [t[len(begin) :] for t in texts]
    end = common_start([t[::-1] for t in rest])[::-1]
    return begin, end


def _pattern(texts: list[str], there: list[str]) -> tuple[str, ...]:
    """A pattern that these and no others of those there fit; else the texts themselves."""
    begin, end = _common(texts)
    others = [
        t
        for t in there
        if t not in texts and t.startswith(begin) and t.endswith(end) and len(t) >= len(begin) + len(end)
    ]
    return (f"{begin}*{end}",) if len(begin) + len(end) >= 3 and not others else tuple(texts)
