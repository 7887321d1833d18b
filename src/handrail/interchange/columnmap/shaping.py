"""Tables that stand another way round: parts of columns' names as rows, rows that are columns, and columns looked up in
other tables."""

from __future__ import annotations

import itertools
import re
from collections.abc import Mapping
from dataclasses import replace

import polars as pl

from handrail.interchange.columnmap.body import OF, ROW, Opened
from handrail.interchange.columnmap.folder import Folder
from handrail.interchange.columnmap.language import Lookup, Pairs, TableMap, Taken
from handrail.interchange.problems import MAP, Problems

MOST_PARTS = 2000  # cases (and ends) across in one table
MOST_TOLD = 20


def across(table: TableMap, whole: Opened, folder: Folder) -> list[tuple[TableMap, Opened]]:
    """The table for each set of values that its `across` have in the columns' names, with these as columns `@name`;
    itself where it has none. Empty (and problems) where no column is named so."""
    if not table.across:
        return [(table, whole)]
    patterns = [
        name for taken in table.taken for name in taken.sources if any(f"{{{a}}}" in name for a in table.across)
    ]
    plain = {name for name, _ in table.sources if name not in patterns}
    columns: dict[tuple[str, ...], None] = {}
    for pattern, name in itertools.product(patterns, whole.names):
        if (
            name not in plain
            and not name.startswith("@")
            and (match := re.match(_named(pattern, table.across), name, re.IGNORECASE))
        ):
            parts = match.groupdict()
            if set(parts) == set(table.across):
                columns[tuple(parts[a].strip() for a in table.across)] = None
    if not columns or len(columns) > MOST_PARTS:
        words = (
            f"no column of {table.shown} is named like {' or '.join(map(repr, patterns[:3]))}"
            if not columns
            else f"{len(columns)} columns across are too many"
        )
        folder.problems.add(MAP, f"{words}; it has {', '.join(whole.names[:60])}", table.line)
        return []
    return [_part(table, whole, dict(zip(table.across, values, strict=True))) for values in columns]


def _named(pattern: str, names: tuple[str, ...]) -> str:
    """A regular expression of the columns that a name with {parts} stands for."""
    name, seen = "", set()
    for text in re.split(r"(\{\w+\})", pattern):
        if text[1:-1] in names and text.startswith("{"):
            name += f"(?P={text[1:-1]})" if text in seen else f"(?P<{text[1:-1]}>.+?)"
            seen.add(text)
        else:
            name += re.escape(text).replace(r"\ ", r"\s+")
    return f"^{name}$"


def _part(table: TableMap, whole: Opened, values: dict[str, str]) -> tuple[TableMap, Opened]:
    """The table for one set of values: each name with {parts} is the column that it stands for; one that is not there
    is empty."""
    by_name = {name.lower(): name for name in whole.names}
    missing: set[str] = set()

    def named(name: str) -> str:
        if not any(f"{{{part}}}" in name for part in values):
            return name
        wanted = _named(_filled(name, values), ())
        heading = next((own for low, own in by_name.items() if re.match(wanted, low, re.IGNORECASE)), None)
        heading = heading or next(
            (
                own
                for own in whole.names
                if (m := re.match(_named(name, tuple(values)), own, re.IGNORECASE))
                and all(m[p].strip() == v for p, v in values.items() if f"{{{p}}}" in name)
            ),
            None,
        )
        if heading is None:
            missing.add(_filled(name, values))
        return heading or _filled(name, values)

    def of(taken: Taken) -> Taken:
        return replace(
            taken,
            columns=tuple(map(named, taken.columns)),
            flags=_renamed(taken.flags),
            by=named(taken.by) if taken.by else "",
            where=tuple((named(n), p) for n, p in taken.where),
        )

    def _renamed(flags: Pairs) -> Pairs:
        return tuple((ours, named(theirs)) for ours, theirs in flags)

    part = replace(
        table,
        columns={n: of(t) for n, t in table.columns.items()},
        ends={e: {n: of(t) for n, t in own.items()} for e, own in table.ends.items()},
    )
    frame = whole.frame.with_columns(
        *(pl.lit("").alias(n) for n in sorted(missing)), *(pl.lit(v).alias(f"@{n}") for n, v in values.items())
    )
    return part, Opened(frame, whole.units)


def _filled(name: str, values: Mapping[str, str]) -> str:
    for part, value in values.items():
        name = name.replace(f"{{{part}}}", value)
    return name


def under(taken: Taken, name: str) -> str:
    """What a column is called in the frame: its name, or that of the look-up's."""
    return f"{taken.lookup}\x1f{taken.by}\x1f{name}" if taken.lookup else name


def looked_up(
    table: TableMap, whole: Opened, frames: Mapping[str, Opened], lookups: Mapping[str, Lookup], problems: Problems
) -> Opened:
    """With the columns of every look-up that the table uses, beside its own; codes that a look-up does not have, or has
    twice, are problems."""
    frame = whole.frame
    pairs = dict.fromkeys((t.lookup, t.by) for t in table.taken if t.lookup in frames)
    for name, by in pairs:
        own, lookup = frames[name], lookups[name]
        wanted = dict.fromkeys(c for t in table.taken if (t.lookup, t.by) == (name, by) for c in t.own)
        line = next(t.line for t in table.taken if (t.lookup, t.by) == (name, by))
        if missing := [c for c in wanted if c not in own.names]:
            problems.add(MAP, f"'{missing[0]}' is no column of look-up {name}; it has {', '.join(own.names)}", line)
            frame = frame.with_columns(pl.lit("").alias(_under(name, by, c)) for c in wanted)
            continue
        codes = own.frame.filter(pl.col(lookup.key) != "")
        again = codes.filter(pl.col(lookup.key).is_duplicated()).unique(lookup.key, keep="last", maintain_order=True)
        for code, row, of in again.select(lookup.key, ROW, OF).head(MOST_TOLD).iter_rows():
            problems.add(
                of, f"'{code}' is there more than once, and the map looks it up (line {lookup.line})", row, lookup.key
            )
        codes = codes.unique(lookup.key, keep="first").select(
            pl.col(lookup.key).alias("_code"), *(pl.col(c).alias(_under(name, by, c)) for c in wanted)
        )
        frame = frame.join(codes, left_on=by, right_on="_code", how="left", maintain_order="left")
        gone = frame.filter((pl.col(by) != "") & pl.col(_under(name, by, next(iter(wanted)))).is_null()).unique(
            by, maintain_order=True
        )
        for code, row, of in gone.select(by, ROW, OF).head(MOST_TOLD).iter_rows():
            problems.add(of, f"'{code}' is not in look-up {name} (line {line} of the map)", row, by)
        frame = frame.with_columns(pl.col(_under(name, by, c)).fill_null("") for c in wanted)
    return Opened(frame, whole.units)


def _under(name: str, by: str, column: str) -> str:
    return under(Taken(0, lookup=name, by=by), column)


def combined(table: TableMap, frame: pl.DataFrame, problems: Problems) -> pl.DataFrame:
    """Rows that each have some of the columns (by `where`) put together into one for what they have in common; a column
    given twice is a problem."""
    apart = list(dict.fromkeys(name for name, t in table.columns.items() if t.where and name in frame.columns))
    if not apart:
        return frame
    common = [n for n in frame.columns if n not in (ROW, OF, *apart)]
    some = frame.filter(pl.any_horizontal(pl.col(apart).is_not_null()))
    twice = some.group_by(common, maintain_order=True).agg(
        pl.col(ROW).last(), pl.col(OF).last(), *(pl.col(n).count().alias(n) for n in apart)
    )
    for row in twice.filter(pl.any_horizontal(pl.col(apart) > 1)).head(MOST_TOLD).iter_rows(named=True):
        name = next(n for n in apart if row[n] > 1)
        which, line = " ".join(str(row[c]) for c in common), table.columns[name].line
        problems.add(row[OF], f"{which}: {name} is given {row[name]} times (line {line} of the map)", row[ROW])
    whole = some.group_by(common, maintain_order=True).agg(
        pl.col(ROW).first(), pl.col(OF).first(), *(pl.col(n).drop_nulls().first() for n in apart)
    )
    return whole.with_columns(pl.col(apart).fill_null("")).select(frame.columns)
