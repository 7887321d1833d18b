"""End forces of another program read straight into the building's array, a block of the file at a time: what a map says
of a plain table of them needs each row alone."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, TypeVar

import polars as pl

from handrail.interchange.blocks import about_rows, parsed_blocks
from handrail.interchange.columnmap.body import renamed, unlike
from handrail.interchange.columnmap.language import FILE, SHARES, SHEET, TableMap, Taken
from handrail.interchange.columnmap.sources import after, first_row, is_simple
from handrail.interchange.columnmap.taking import Taker
from handrail.interchange.columnmap.text import LOOKED_AT, is_plain
from handrail.interchange.problems import Problems
from handrail.interchange.tables import SIX, TABLES, Column

T = TypeVar("T")
DISTANCE = Column("distance", "number", True, "length")
REACH = 0.01  # of a member's length that its first and last rows may be off its ends
COLUMNS = {c.name: c for c in TABLES["end_forces"].columns} | {"distance": DISTANCE}
VALUES = [c.name for c in SIX]
IDS = ("member", "result", "end")


def streamed(table: TableMap, path: Path, stated: Mapping[str, str]) -> Stream | None:
    """The rows of a plain delimited table of end forces; None where it has to be read whole."""
    ends = table.layout == "ends"
    taken = [*table.columns.values(), *(t for own in table.ends.values() for t in own.values())]
    needed = {"member", "result"} | ({"distance"} if table.layout == "stations" else set() if ends else {"end"})
    given = [{**table.columns, **own} for own in table.ends.values()] if ends else [table.columns]
    whole = all(needed | set(VALUES) <= set(columns) for columns in given)
    apart = (
        table.across or table.fill or table.only or table.without or any(t.where or t.lookup or t.pick for t in taken)
    )
    if table.name != "end_forces" or apart or not whole or not is_simple(table) or not is_plain(path, table.encoding):
        return None
    with path.open("rb") as stream:
        start = stream.read(LOOKED_AT)
    try:
        names, at = first_row(start, after(start, table.skip), table.delimiter)
        units: list[str] = []
        if table.units_row:
            units, at = first_row(start, at, table.delimiter)
    except UnicodeError:
        return None
    if at >= len(start) and path.stat().st_size > at:
        return None
    names = unlike([name.strip() for name in names])
    reads = {name for t in taken for name in t.sources}
    return (
        Stream(path.name, table.layout == "stations", table, path, names, at, stated, renamed(names, units))
        if reads <= {*names, FILE, SHEET}
        else None
    )


@dataclass
class Stream:
    """The rows of one file; `kept` names members whose rows along them are put by, as stations."""

    name: str
    along: bool
    table: TableMap
    path: Path
    header: list[str]
    start: int
    stated: Mapping[str, str]
    said: Mapping[str, str]
    kept: frozenset[str] = frozenset()
    to_nodes: bool = True  # whether the first and last rows have to be at the ends
    _put_by: list[pl.DataFrame] = field(default_factory=list)
    _spans: list[pl.DataFrame] = field(default_factory=list)

    def about(self) -> int:
        return about_rows(self.path) * (2 if self.table.layout == "ends" else 1)

    @property
    def unread(self) -> list[str]:
        read = {name for t in self.table.taken for name in t.sources}
        return [name for name in self.header if name not in read]

    def blocks(
        self, members: list[str], results: list[str], then: Callable[[pl.DataFrame], T], padded: bool
    ) -> Iterator[T]:
        """As ForceRows says; `padded` reads all as text first: blanks around cells, thousands, units glued to
        numbers."""
        plain = _Plain(self, members, results)
        self._put_by.clear()
        self._spans.clear()

        def parsed(raw: bytes) -> tuple[T, pl.DataFrame, pl.DataFrame]:
            frame = plain.text_block(raw) if padded else plain.block(raw)
            if not self.along:
                return then(frame), frame[:0], frame[:0]
            own = frame.filter(pl.col("member").cast(pl.String).is_in(list(self.kept))) if self.kept else frame[:0]
            return (
                then(frame),
                own,
                frame.group_by("member").agg(pl.col("at").min().alias("first"), pl.col("at").max().alias("last")),
            )

        for block, own, spans in parsed_blocks(self.path, parsed, self.start):
            self._put_by.append(own)
            self._spans.append(spans)
            yield block

    def stations(self, lengths: Mapping[str, float]) -> pl.DataFrame:
        """The rows that were put by, as the bundle's stations; `lengths` of the members in the map's unit. Raises
        PolarsError where rows along a member do not reach its ends."""
        self._reach(lengths)
        frame = pl.concat(self._put_by) if self.along and self._put_by else pl.DataFrame()
        if not frame.height:
            return pl.DataFrame()
        member, at = pl.col("member").cast(pl.String), pl.col("at")
        if self.table.columns["distance"].unit in SHARES:
            at = shares(at, self.table.columns["distance"].unit) * member.replace_strict(lengths, default=1.0)
        told = frame.select(member, at.alias("distance"), pl.col("result").cast(pl.String), *VALUES)
        return told.unique(["member", "distance", "result"], keep="first", maintain_order=True)

    def _reach(self, lengths: Mapping[str, float]) -> None:
        unit = self.table.columns["distance"].unit if self.along else "steps"
        if not self._spans or not self.to_nodes or unit == "steps":
            return
        spans = (
            pl.concat(self._spans)
            .group_by(pl.col("member").cast(pl.String))
            .agg(pl.col("first").min(), pl.col("last").max())
        )
        whole = {"share": 1.0, "percent": 100.0}.get(unit)
        long = (
            pl.lit(whole) if whole else pl.col("member").replace_strict(lengths, default=None, return_dtype=pl.Float64)
        )
        if spans.select(falls_short(pl.col("first"), pl.col("last"), long).any()).item():
            raise pl.exceptions.ComputeError("rows along a member do not reach its ends")


def falls_short(first: pl.Expr, last: pl.Expr, long: pl.Expr) -> pl.Expr:
    """Whether rows along a member of some length are off its ends."""
    return (first.abs() > REACH * long) | ((last - long).abs() > REACH * long)


def shares(at: pl.Expr, unit: str) -> pl.Expr:
    """Places along a member as shares of its length: given so, in percent, or as numbers of equal steps."""
    if unit == "share":
        return at
    first, last = (
        (at.min().over("member"), at.max().over("member")) if unit == "steps" else (pl.lit(0.0), pl.lit(100.0))
    )
    return (at - first) / (last - first)


class _Plain:
    """How a block of a stream's file becomes codes and numbers."""

    def __init__(self, stream: Stream, members: list[str], results: list[str]) -> None:
        self.stream = stream
        self.kinds: dict[str, Any] = {
            "member": pl.Enum(members),
            "result": pl.Enum(results),
            "end": pl.Enum(["i", "j"]),
        }
        table = stream.table
        self.taker = Taker(table, stream.stated, stream.said, Problems())
        both = [{**table.columns, **own, "end": Taken(table.line, value=end)} for end, own in table.ends.items()]
        self.sides = both if table.layout == "ends" else [table.columns]
        self.read = list(
            dict.fromkeys(
                name for side in self.sides for t in side.values() for name in t.sources if not name.startswith("@")
            )
        )
        self.schema = {name: self._kind(name) for name in stream.header}

    def _kind(self, name: str) -> Any:
        """What a column is read as at once: an id that needs no other words, a number that stands as such; else
        text."""
        users = [(ours, t) for side in self.sides for ours, t in side.items() if name in t.sources]
        if users and all(t.columns == (name,) and not t.values and not t.blank for _, t in users):
            if len({ours for ours, _ in users}) == 1 and users[0][0] in IDS:
                return self.kinds[users[0][0]]
            if all(ours in VALUES or ours == "distance" for ours, _ in users) and not self.stream.table.thousands:
                return pl.Float64
        return pl.String

    def block(self, raw: bytes) -> pl.DataFrame:
        table = self.stream.table
        columns = [self.stream.header.index(name) for name in self.read]
        frame = pl.read_csv(
            raw,
            has_header=False,
            schema=self.schema,
            columns=columns,
            separator=table.delimiter,
            decimal_comma=table.decimal == ",",
        )
        return self._sided(frame, self.schema)

    def text_block(self, raw: bytes) -> pl.DataFrame:
        """Where a block does not go through so: all as text, blanks left out."""
        schema = dict.fromkeys(self.stream.header, pl.String)
        frame = pl.read_csv(raw, has_header=False, schema=schema, separator=self.stream.table.delimiter)
        return self._sided(frame.with_columns(pl.all().fill_null("").str.strip_chars()), schema)

    def _sided(self, frame: pl.DataFrame, schema: Mapping[str, Any]) -> pl.DataFrame:
        stem = Path(self.stream.name).stem
        told = frame.with_columns(pl.lit(stem).alias(FILE), pl.lit("").alias(SHEET))
        return pl.concat(
            [told.select(self._column(name, t, schema) for name, t in self._wanted(side)) for side in self.sides]
        )

    def _wanted(self, side: Mapping[str, Taken]) -> Iterator[tuple[str, Taken]]:
        place = "distance" if self.stream.along else "end"
        for name in ("member", "result", place, *VALUES):
            yield name, side[name]

    def _column(self, name: str, taken: Taken, schema: Mapping[str, Any]) -> pl.Expr:
        column, ours = COLUMNS[name], "at" if name == "distance" else name
        if taken.columns and schema.get(taken.columns[0]) not in (None, pl.String):
            own = pl.col(taken.columns[0])
            return (own if name in self.kinds else own * self.taker.scale(column, taken)).alias(ours)
        if name in self.kinds:
            return self.taker.column(column, taken).cast(self.kinds[name]).alias(ours)
        if taken.value is not None:
            return pl.lit(float(taken.value)).alias(ours)
        return self.taker.column(column, taken).cast(pl.Float64).alias(ours)
