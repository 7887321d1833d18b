"""What a column map says: which files each of our tables is in, how they are written, and where its columns come from;
see docs/column-maps.md."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Any

STATED = ("length", "section", "force", "moment", "stress")
TOP = (
    "map",
    "title",
    "revision",
    "date",
    "source",
    "up",
    "vertical_y",
    "north",
    "seismic_design_category",
    "forces",
    "forces_at",
    "units",
    "lookups",
    "tables",
)
SOURCE = (
    "file",
    "sheet",
    "after",
    "skip",
    "until",
    "head",
    "units_row",
    "ignore",
    "written",
    "starts",
    "delimiter",
    "decimal",
    "thousands",
    "encoding",
    "turned",
    "fill",
    "headings",
    "only",
    "not",
)
TABLE = (*SOURCE, "layout", "across", "columns", "ends", "cases")
LOOKUP = (*SOURCE, "key")
TAKEN = (
    "column",
    "columns",
    "join",
    "unit",
    "factor",
    "values",
    "others",
    "blank",
    "value",
    "flags",
    "yes",
    "pick",
    "where",
    "from",
    "by",
)
LOADS = ("value", "value_to")  # of member_loads: a force, or a force on a length
LAYOUTS = {"end_forces": ("rows", "ends", "stations"), "combinations": ("rows", "cases", "terms")}
SHARES = ("share", "percent", "steps")  # of a distance along a member, instead of a unit
FILE, SHEET = "@file", "@sheet"  # columns that every source has
ASK = "?"  # stands in a proposed map where the files do not say
Pairs = tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class Taken:
    """Where one of our columns comes from: source `columns` joined, or one `value` for all rows, or `flags` (ours ->
    source column) of which those that say one of `yes` count. `pick` takes what the * of a pattern stands for; `values`
    map what stands there (patterns with *), what fits none is refused unless `others` is keep; `blank` fills gaps;
    numbers are times `factor` in `unit`. `where` (source column -> pattern) says in which rows it stands; `lookup` that
    the columns are those of a look-up's row whose key is in column `by`."""

    line: int
    columns: tuple[str, ...] = ()
    join: str = " "
    unit: str = ""
    factor: float = 1.0
    values: Pairs = ()
    others: str = ""
    blank: str = ""
    value: str | None = None
    flags: Pairs = ()
    yes: tuple[str, ...] = ()
    pick: str = ""
    where: Pairs = ()
    lookup: str = ""
    by: str = ""

    @property
    def own(self) -> tuple[str, ...]:
        """Every column that its values stand in, of the source or of the look-up."""
        return (*self.columns, *(column for _, column in self.flags))

    @property
    def sources(self) -> tuple[str, ...]:
        """Every source column that it reads."""
        return (*((self.by,) if self.lookup else self.own), *(name for name, _ in self.where))


@dataclass(frozen=True)
class SourceMap:
    """Where a table stands and how it is written. `file` and `sheet` are names or patterns with *; `after` are patterns
    of the line that it begins behind, `until` of the one that it ends before, as often as they come; `skip` rows more
    stand before the `head` rows of its columns' names, and a `units_row` behind those. `ignore` are patterns of lines
    that are none of its rows; what comes again of all that stands before the rows is none either. `starts` are the
    columns' first characters where it is `written` fixed. `fill` names columns whose gaps repeat what is above;
    `headings` lines between the rows that give a column of their own (`@name`) a value; `only` and `without` the rows
    that are kept and left out, by patterns."""

    name: str
    line: int
    file: tuple[str, ...]
    sheet: tuple[str, ...] = ()
    after: tuple[str, ...] = ()
    skip: int = 0
    until: tuple[str, ...] = ()
    head: int = 1
    units_row: bool = False
    ignore: tuple[str, ...] = ()
    written: str = ""
    starts: tuple[int, ...] = ()
    delimiter: str = ","
    decimal: str = "."
    thousands: str = ""
    encoding: str = ""
    turned: bool = False
    fill: tuple[str, ...] = ()
    headings: Pairs = ()
    only: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    without: Mapping[str, tuple[str, ...]] = field(default_factory=dict)

    @property
    def filters(self) -> tuple[str, ...]:
        """The source columns that rows are chosen by, or filled in."""
        return (*self.only, *self.without, *self.fill)

    @property
    def shown(self) -> str:
        """What it is called where something is wrong with it."""
        return ", ".join(self.file)


@dataclass(frozen=True)
class TableMap(SourceMap):
    """One of our tables: its source, its layout, and where its columns come from; `ends` of a row that has both ends,
    `cases` (source column -> case) of a combination in one row. `across` names parts of the columns' names, written
    {name} in them, each of whose values is a row."""

    layout: str = "rows"
    across: tuple[str, ...] = ()
    columns: Mapping[str, Taken] = field(default_factory=dict)
    ends: Mapping[str, Mapping[str, Taken]] = field(default_factory=dict)
    cases: Mapping[str, str] = field(default_factory=dict)

    @property
    def taken(self) -> Iterator[Taken]:
        yield from self.columns.values()
        for end in self.ends.values():
            yield from end.values()

    @property
    def sources(self) -> list[tuple[str, int]]:
        """Every source column that is read, with the map's line."""
        names = [(name, t.line) for t in self.taken for name in t.sources]
        return names + [(name, self.line) for name in (*self.filters, *self.cases)]


@dataclass(frozen=True)
class Lookup(SourceMap):
    """A table that others look up in: materials, sections, releases by code. `key` is the column with its codes."""

    key: str = ""


@dataclass(frozen=True)
class ColumnMap:
    """What the manifest of a bundle states, the tables and what they look up in."""

    stated: Mapping[str, Any]
    tables: tuple[TableMap, ...]
    lookups: Mapping[str, Lookup]
    text: str


def is_pattern(text: str) -> bool:
    """Whether a text has a * or ? that stands for others."""
    return "*" in text or "?" in text


@lru_cache(maxsize=4096)
def regex(pattern: str) -> str:
    """A pattern with * and ? as a regular expression that fits a whole text."""
    parts = {"*": ".*", "?": "."}
    return "^" + "".join(parts.get(c) or re.escape(c) for c in pattern) + "$"


def fits(pattern: str, text: str) -> bool:
    """Whether the whole text is as the pattern says, in whatever case."""
    return re.match(regex(pattern), text, re.IGNORECASE | re.DOTALL) is not None


def picked(pattern: str) -> str:
    """The regular expression of a pattern whose first * is what is wanted (the first group)."""
    before, _, after = pattern.partition("*")
    inner = "(.*)" if not after else "(.*?)"
    return (
        "^"
        + re.escape(before).replace(r"\ ", r"\s*")
        + r"\s*"
        + inner
        + r"\s*"
        + regex(after)[1:-1].replace(r"\ ", r"\s*")
        + "$"
    )


def common_start(texts: list[str]) -> str:
    """What texts begin with alike."""
    first, last = min(texts, default=""), max(texts, default="")
    alike = next((k for k, (a, b) in enumerate(zip(first, last)) if a != b), min(len(first), len(last)))
    return first[:alike]
