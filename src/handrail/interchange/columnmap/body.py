"""Which lines of a report or a sheet are the names of columns, which are rows, and which are titles, page headings,
totals and blank."""

from __future__ import annotations

import re
from dataclasses import dataclass, field

import polars as pl

from handrail.interchange.columnmap.language import SourceMap, picked, regex

ROW, LINE, HEADING = "_row", "_line", "_heading"
OF = "_of"  # the file (and sheet) that a row is of
LETTERS = 4  # that a line before the rows has at least, for one like it not to be a row
BARE = r"^[\s\-_=+|*.:~]*$"  # a rule, or nothing


@dataclass
class Opened:
    """A table's rows as text, with ROW their numbers in their file OF, counted from 1; and what the file itself says of
    its columns' units."""

    frame: pl.DataFrame
    units: dict[str, str] = field(default_factory=dict)

    @property
    def names(self) -> list[str]:
        return [n for n in self.frame.columns if n not in (ROW, OF)]


@dataclass
class Body:
    """The lines with the columns' names, with their units, and of the rows; each with ROW."""

    head: pl.DataFrame
    units: pl.DataFrame
    rows: pl.DataFrame


@dataclass
class Head:
    """The rows of cells that name the columns, and the one with their units."""

    names: pl.DataFrame
    units: pl.DataFrame


def body(source: SourceMap, frame: pl.DataFrame) -> Body | str:
    """What is what of (ROW, LINE, ...); or why nothing can be told."""
    stretch = frame = _with_headings(source, frame)
    if source.after:
        begins = _is(*source.after)
        if not frame.select(begins.any()).item():
            return f"no line is like {' or '.join(map(repr, source.after))}"
        inside = pl.when(begins).then(True).when(_is(*source.until)).then(False).otherwise(None).forward_fill()
        first = int(frame.select(begins.arg_max()).item())
        stretch = frame[first:].filter(inside.fill_null(False) | begins)
    elif source.until:
        ends = frame.select(_is(*source.until).arg_true().first()).item()
        stretch = frame if ends is None else frame[: int(ends)]
    skip = source.skip + bool(source.after)
    above, stretch = stretch[:skip], stretch[skip:]
    if stretch.height < source.head:
        return f"there is nothing after {source.skip} rows"
    if source.turned:
        head, units, rows = stretch[:0], stretch[:0], stretch
    else:
        head, units, rows = (
            stretch[: source.head],
            stretch[source.head : source.head + source.units_row],
            stretch[source.head + source.units_row :],
        )
    drop = (
        pl.col(LINE).str.contains(BARE)
        | pl.col(HEADING)
        | _form(pl.col(LINE)).is_in(_forms(pl.concat([above, head, units])[LINE].to_list()))
    )
    drop = drop | pl.col(LINE).is_in(pl.concat([head, units])[LINE].to_list())
    drop = drop | _is(*source.ignore)
    return Body(head.drop(HEADING), units.drop(HEADING), rows.filter(~drop).drop(HEADING))


def _with_headings(source: SourceMap, frame: pl.DataFrame) -> pl.DataFrame:
    """With a column `@name` of what the last heading of each kind said, and HEADING where a line is one."""
    line, of, is_one = pl.col(LINE).str.strip_chars(), [], pl.lit(False)
    for name, pattern in source.headings:
        title = line.str.extract(f"(?is){picked(pattern)}", 1)
        of.append(title.str.strip_chars().forward_fill().fill_null("").alias(f"@{name}"))
        is_one = is_one | title.is_not_null()
    return frame.with_columns(*of, is_one.alias(HEADING))


def _is(*patterns: str) -> pl.Expr:
    """Whether a line is as one of some patterns says."""
    line = pl.col(LINE).str.strip_chars()
    return pl.any_horizontal(line.str.contains(f"(?is){regex(p)}") for p in patterns) if patterns else pl.lit(False)


def _form(line: pl.Expr) -> pl.Expr:
    """A line with its numbers alike: that of the next page is the same."""
    return line.str.replace_all(r"\d+", "#").str.replace_all(r"\s+", " ").str.strip_chars()


def _forms(lines: list[str]) -> list[str]:
    forms = [re.sub(r"\s+", " ", re.sub(r"\d+", "#", line)).strip() for line in lines]
    return sorted({form for form in forms if sum(c.isalpha() for c in form) >= LETTERS})


def spread(source: SourceMap, head: Head, rows: pl.DataFrame) -> Opened:
    """The rows with their columns named."""
    cells = [n for n in rows.columns if re.fullmatch(r"c\d+", n)]
    if source.turned:
        return Opened(_turned(rows, cells))
    cells = sorted({*cells, *(n for n in head.names.columns if re.fullmatch(r"c\d+", n))}, key=lambda n: int(n[1:]))
    names = named([[str(v or "") for v in row] for row in _only(head.names, cells).rows()], len(cells))
    units = [str(v or "") for v in _only(head.units, cells).row(0)] if head.units.height else []
    opened = (
        _only(rows, cells, keep=True).with_columns(pl.col(cells).fill_null("").str.strip_chars()) if cells else rows
    )
    opened = opened.rename(dict(zip(cells, names, strict=True)))
    return Opened(opened.filter(pl.any_horizontal(pl.col(names) != "")) if names else opened, renamed(names, units))


def _only(frame: pl.DataFrame, cells: list[str], keep: bool = False) -> pl.DataFrame:
    """The frame with all of these cells, made where they are not there."""
    whole = frame.with_columns(pl.lit("").alias(n) for n in cells if n not in frame.columns)
    return whole.select([n for n in whole.columns if n not in cells] + cells) if keep else whole.select(cells)


def named(heads: list[list[str]], wide: int) -> list[str]:
    """The columns' names out of one or more rows of them; a cell of an upper row counts for those without one to its
    right, as merged cells do."""
    parts: list[list[str]] = []
    for level, cells in enumerate(heads):
        names, last = [], ""
        for k in range(wide):
            text = cells[k].strip() if k < len(cells) else ""
            last = text or last
            names.append(text if level == len(heads) - 1 else last)
        parts.append(names)
    return unlike([" ".join(dict.fromkeys(p[k] for p in parts if p[k])) for k in range(wide)])


def unlike(names: list[str]) -> list[str]:
    """Names told apart: the second of a name becomes `name (2)`; one without a name `column 3`."""
    words: list[str] = []
    for k, name in enumerate(names, 1):
        wanted = name or f"column {k}"
        times = sum(n == wanted or n.startswith(f"{wanted} (") for n in words)
        words.append(f"{wanted} ({times + 1})" if wanted in words else wanted)
    return words


def renamed(names: list[str], units: list[str]) -> dict[str, str]:
    """Name -> the unit in the row below, without brackets."""
    return {name: unit for name, text in zip(names, units) if (unit := text.strip().strip("[]()").strip())}


def _turned(rows: pl.DataFrame, cells: list[str]) -> pl.DataFrame:
    """Columns for rows: the first cell of each row names a column; the row that a value is told at is the first."""
    names = unlike([str(v or "").strip() for v in rows[cells[0]].to_list()]) if cells else []
    columns = {name: [str(rows[c][k] or "").strip() for c in cells[1:]] for k, name in enumerate(names)}
    first = int(rows[ROW][0]) if rows.height else 1
    return pl.DataFrame(
        {ROW: [first] * max(len(cells) - 1, 0), **columns}, schema={ROW: pl.Int64, **dict.fromkeys(names, pl.String)}
    )
