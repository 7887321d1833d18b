"""Opens the tables that a map names, in whatever way they are written: all as text, each row with its number and the
file it is in."""

from __future__ import annotations

import csv
import difflib
import io
from pathlib import Path, PurePosixPath

import polars as pl

from handrail.interchange.columnmap.body import LINE, OF, ROW, Head, Opened, body, renamed, spread, unlike
from handrail.interchange.columnmap.folder import GRIDS, Folder, Grid
from handrail.interchange.columnmap.language import FILE, SHEET, Lookup, SourceMap, TableMap, fits, is_pattern, regex
from handrail.interchange.columnmap.text import is_plain, start_of
from handrail.interchange.problems import MAP


def opened(source: SourceMap, folder: Folder, called: list[str]) -> Opened | None:
    """The rows of all the files and sheets that it is `called` by; None where something is not there (and problems)."""
    parts = [part for name in called for part in _parts(source, folder, name)]
    kept = [part for part in parts if part is not None]
    if not parts or len(kept) < len(parts):
        return None
    units: dict[str, str] = {}
    for part in kept:
        for name, unit in part.units.items():
            if units.setdefault(name, unit) != unit:
                where = part.frame[OF].first() or source.shown
                folder.problems.add(
                    str(where),
                    f"'{name}' is in {unit} here and in {units[name]} in the file before: give each its own table or"
                    " unit",
                )
    frame = pl.concat([part.frame for part in kept], how="diagonal").with_columns(pl.exclude(ROW).fill_null(""))
    whole = Opened(frame, units)
    return _chosen(source, whole) if _has(source, whole, folder) else None


def _has(source: SourceMap, whole: Opened, folder: Folder) -> bool:
    """Whether the columns that rows are chosen by, and a look-up's key, are there; the others are looked for where they
    are read."""
    wanted = [*source.filters, *([source.key] if isinstance(source, Lookup) else [])]
    missing = [name for name in wanted if name not in whole.names]
    for name in missing:
        not_there(name, source, source.line, whole.names, folder)
    return not missing


def not_there(name: str, source: SourceMap, line: int, names: list[str], folder: Folder) -> None:
    near = difflib.get_close_matches(name, names, 1)
    folder.problems.add(
        MAP,
        f"'{name}' is no column of {source.shown}{f'; is {near[0]} meant?' if near else '.'} It has"
        f" {', '.join(names[:60])}",
        line,
    )


def _chosen(source: SourceMap, whole: Opened) -> Opened:
    """With gaps filled from above, and the rows that the map keeps."""
    frame = whole.frame
    if source.fill:
        frame = frame.with_columns(
            pl.when(pl.col(n) == "").then(None).otherwise(pl.col(n)).forward_fill().over(OF).fill_null("").alias(n)
            for n in source.fill
        )
    for kept, columns in ((True, source.only), (False, source.without)):
        for name, values in columns.items():
            one = pl.any_horizontal(is_one(pl.col(name), value) for value in values) if values else pl.lit(False)
            frame = frame.filter(one if kept else ~one)
    return Opened(frame, whole.units)


def is_one(text: pl.Expr, pattern: str) -> pl.Expr:
    """Whether a text is as the pattern says."""
    return text.str.contains(f"(?is){regex(pattern)}") if is_pattern(pattern) else text == pattern


def _parts(source: SourceMap, folder: Folder, name: str) -> list[Opened | None]:
    path = folder.path(name)
    if path.suffix.lower() in GRIDS:
        return _of_grids(source, folder, name)
    try:
        whole = _plain(source, path, folder.most) if is_simple(source) and is_plain(path, source.encoding) else None
        parts = whole or _lines(source, folder.lines(name, source.encoding))
    except (pl.exceptions.PolarsError, OSError, UnicodeError, LookupError, csv.Error, ValueError) as exc:
        why = str(exc).splitlines()[0] if str(exc) else type(exc).__name__
        folder.problems.add(
            path.name,
            f"cannot be read as a table ({why}); state its delimiter and encoding in the map (line {source.line})",
        )
        return [None]
    if isinstance(parts, str):
        folder.problems.add(MAP, f"{name}: {parts}", source.line)
        return [None]
    return [_told(parts, name, "")]


def _told(opened: Opened, file: str, sheet: str) -> Opened:
    """With the columns that every source has: what its file and sheet are called."""
    label = file.rsplit("/", 1)[-1] + (f" sheet {sheet}" if sheet else "")
    own = {OF: label, FILE: PurePosixPath(file).stem, SHEET: sheet}
    return Opened(opened.frame.with_columns(pl.lit(text).alias(name) for name, text in own.items()), opened.units)


def is_simple(source: SourceMap) -> bool:
    """Whether a file of text is nothing but the names of its columns and its rows, behind some rows that are
    skipped."""
    lines = source.after or source.until or source.ignore or source.headings or source.turned or source.starts
    return not (lines or source.delimiter == " " or source.head != 1)


def _plain(source: SourceMap, path: Path, most: int | None) -> Opened | None:
    """A delimited file read whole by polars; None where it is not so plain after all."""
    raw = start_of(path, most)
    start = after(raw, source.skip)
    names, start = first_row(raw, start, source.delimiter)
    units: list[str] = []
    if source.units_row:
        units, start = first_row(raw, start, source.delimiter)
    names, rest = unlike([name.strip() for name in names]), raw[start:]
    frame = pl.DataFrame(schema=dict.fromkeys(names, pl.String))
    if rest.strip():
        try:
            frame = pl.read_csv(
                rest, has_header=False, new_columns=names, infer_schema=False, separator=source.delimiter
            )
        except pl.exceptions.PolarsError:
            return None
        if frame.width != len(names):
            return None
    rows = frame.with_columns(pl.all().cast(pl.String).fill_null("").str.strip_chars()).with_row_index(
        ROW, offset=source.skip + 2 + source.units_row
    )
    again = (
        pl.all_horizontal(pl.col(n) == (n if n in names else "") for n in frame.columns)
        if len(names) > 1
        else pl.lit(False)
    )
    return Opened(rows.filter(pl.any_horizontal(pl.exclude(ROW) != "") & ~again), renamed(names, units))


def after(raw: bytes, lines: int) -> int:
    """Where a file goes on after so many lines."""
    at = 0
    for _ in range(lines):
        at = raw.find(b"\n", at) + 1
        if not at:
            return len(raw)
    return at


def first_row(raw: bytes, start: int, delimiter: str) -> tuple[list[str], int]:
    """The cells of the line at `start`, and where the next begins."""
    end = raw.find(b"\n", start)
    end = len(raw) if end < 0 else end
    return next(csv.reader(io.StringIO(raw[start:end].decode("utf-8-sig")), delimiter=delimiter), []), end + 1


def _lines(source: SourceMap, lines: pl.Series) -> Opened | str:
    """A file of text line by line: fixed width, pages, sections, headings between the rows."""
    frame = pl.DataFrame({LINE: lines}).with_row_index(ROW, offset=1).with_columns(pl.col(ROW).cast(pl.Int64))
    opened = body(source, frame)
    if isinstance(opened, str):
        return opened

    def split(rows: pl.DataFrame) -> pl.DataFrame:
        return _fixed(rows, source.starts) if source.starts else _delimited(rows, source.delimiter)

    return spread(source, Head(split(opened.head), split(opened.units)), split(opened.rows))


def _fixed(rows: pl.DataFrame, starts: tuple[int, ...]) -> pl.DataFrame:
    ends = (*starts[1:], None)
    line = pl.col(LINE).str.replace_all("\t", "        ", literal=True)
    cells = [
        line.str.slice(a, None if b is None else b - a).str.strip_chars().alias(f"c{k}")
        for k, (a, b) in enumerate(zip(starts, ends))
    ]
    return rows.with_columns(cells).drop(LINE)


def _delimited(rows: pl.DataFrame, delimiter: str) -> pl.DataFrame:
    """Cells between delimiters; blanks count as one, however many they are."""
    lines = rows[LINE].to_list()
    cells = (
        [line.split() for line in lines]
        if delimiter == " "
        else list(csv.reader(lines, delimiter=delimiter))
        if lines
        else []
    )
    if len(cells) != len(lines):
        raise ValueError("a cell goes on over a line's end, or quotes are not closed")
    return _of_cells(rows.drop(LINE), cells)


def _of_cells(rows: pl.DataFrame, cells: Grid) -> pl.DataFrame:
    wide = max(map(len, cells), default=0)
    return rows.with_columns(
        pl.Series(f"c{k}", [row[k].strip() if k < len(row) else "" for row in cells], pl.String) for k in range(wide)
    )


def _of_grids(source: SourceMap, folder: Folder, name: str) -> list[Opened | None]:
    only = source.sheet[0] if len(source.sheet) == 1 and not is_pattern(source.sheet[0]) else ""
    grids = folder.grids(name, only)
    if grids is None:
        return [None]
    wanted = [sheet for sheet in grids if any(sheet == w or fits(w, sheet) for w in source.sheet)]
    if not source.sheet and len(grids) == 1:
        wanted = list(grids)
    if not wanted:
        folder.problems.add(MAP, f"{name} has {', '.join(grids) or 'nothing'}: say which with sheet = ...", source.line)
        return [None]
    return [_of_grid(source, folder, name, sheet, grids[sheet]) for sheet in wanted]


def _of_grid(source: SourceMap, folder: Folder, name: str, sheet: str, grid: Grid) -> Opened | None:
    rows = pl.DataFrame(
        {ROW: range(1, len(grid) + 1), LINE: [" ".join(c.strip() for c in row if c.strip()) for row in grid]},
        schema={ROW: pl.Int64, LINE: pl.String},
    )
    opened = body(source, _of_cells(rows, grid))
    if isinstance(opened, str):
        folder.problems.add(MAP, f"{name} sheet {sheet}: {opened}", source.line)
        return None
    return _told(
        spread(source, Head(opened.head.drop(LINE), opened.units.drop(LINE)), opened.rows.drop(LINE)), name, sheet
    )


def columns_there(table: TableMap, whole: Opened, folder: Folder) -> bool:
    """Whether every column that the table reads is there; problems where one is not."""
    ok = True
    for name, line in table.sources:
        if name not in whole.names:
            not_there(name, table, line, whole.names, folder)
            ok = False
    return ok
