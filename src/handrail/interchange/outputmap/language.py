"""What an output map says: which of our rows a table is written of, how, and what its columns are; see
docs/output-maps.md."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from handrail.core.errors import InputError
from handrail.core.quantities.units import factor
from handrail.interchange.columnmap.language import Pairs

TOP = ("output", "title", "forces", "tables")
TABLE = ("rows", "file", "sheet", "delimiter", "decimal", "encoding", "head", "units_row", "above", "one_row", "only",
         "not", "columns")  # fmt: skip
GIVEN = ("column", "columns", "join", "unit", "factor", "decimals", "values", "others", "blank", "within", "value",
         "where")  # fmt: skip
ROWS = {
    "results": "a row a member end: standard, status, utilisation, what governs, actions designed for",
    "sizes": "a row a member end: the sizes of its connection, a column each",
    "forces": "a row a member end and result of the model: Fx to Mz in the member's axes",
    "ends": "a row an end of a piece of steel: what is taken off, cuts, copes, holes",
    "holes": "a row a face of a piece of steel and connection: sizes and places of holes",
    "marks": "a row a mark: how many, sizes, bolts, weights",
    "parts": "a row for each kind of piece, bolt, rod and weld of a mark",
    "plates": "a row a kind of piece: thickness, width, length, weight",
    "bolts": "a row for what is alike of each mark and level",
    "rods": "a row for what is alike of each mark",
    "welds": "a row for what is alike of each mark",
}
BRACES = re.compile(r"\{([^{}]+)\}")
KINDS = ("length", "force", "moment", "stress", "angle", "weight")
_UNIT = re.compile(r"^(?P<name>.+?)(?:, (?P<after>\S+)| \((?P<within>\S+)\))$")


@dataclass(frozen=True)
class Column:
    """One of our columns: its name, and the unit of its numbers."""

    name: str
    unit: str = ""
    kind: str = ""


def columns_of(head: Sequence[str]) -> list[Column]:
    """Names and units of a list's columns, which are headed like `length, in` or `steel (lb)`."""
    return [_column(text) for text in head]


def _column(text: str) -> Column:
    match = _UNIT.match(text)
    if match is not None:
        unit = match["after"] or match["within"]
        for kind in KINDS:
            try:
                factor(unit, kind)
            except InputError:
                continue
            return Column(match["name"], unit, kind)
    return Column(text)


@dataclass(frozen=True)
class Given:
    """Where one of their columns comes from: our `columns` joined, or one `value` for all rows. Numbers come in `unit`
    times `factor`, to `decimals`; `values` map what stands there (patterns with *), what fits none is refused unless
    `others` is keep; the text is written in place of the * of `within`; `blank` fills gaps. `where` (our column ->
    pattern) says of which of the rows that are put into one it is."""

    line: int
    columns: tuple[str, ...] = ()
    join: str = " "
    unit: str = ""
    factor: float = 1.0
    decimals: int | None = None
    values: Pairs = ()
    others: str = ""
    blank: str = ""
    within: str = ""
    value: str | None = None
    where: Pairs = ()


@dataclass(frozen=True)
class TableOut:
    """A table of theirs: of our `rows`, in `file` (and `sheet`); where either has a column of ours in braces, like
    `Forces {result}.csv`, each of its values has one of its own. `above` are lines before its columns' names. Rows that
    agree in the `one_row` columns are one row; `only` and `without` choose rows by patterns."""

    name: str
    line: int
    rows: str
    file: str
    sheet: str = ""
    delimiter: str = ","
    decimal: str = "."
    encoding: str = "utf-8"
    head: bool = True
    units_row: bool = False
    above: tuple[str, ...] = ()
    one_row: tuple[str, ...] = ()
    only: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    without: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    columns: Mapping[str, Given] = field(default_factory=dict)

    @property
    def apart(self) -> tuple[str, ...]:
        """Our columns by which it is parted into files or sheets."""
        return tuple(dict.fromkeys(BRACES.findall(self.file) + BRACES.findall(self.sheet)))

    @property
    def kind(self) -> str:
        """csv, xlsx or json, by the ending of its file."""
        ending = self.file.rpartition(".")[2].lower()
        return ending if ending in ("xlsx", "json") else "csv"


@dataclass(frozen=True)
class OutputMap:
    """Its tables; `internal`: their forces are the section's, not the node's on the member, so that those of an i end
    have the other sign."""

    title: str
    internal: bool
    tables: tuple[TableOut, ...]
    text: str
