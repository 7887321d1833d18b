"""Our columns out of a source's: text as it is meant, numbers in the bundle's units."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

import polars as pl

from handrail.core import catalogue
from handrail.core.building.model import RELEASES
from handrail.core.errors import InputError
from handrail.core.quantities import units
from handrail.interchange.columnmap.body import OF, ROW
from handrail.interchange.columnmap.language import LOADS, SHARES, TableMap, Taken, is_pattern, picked, regex
from handrail.interchange.columnmap.shaping import under
from handrail.interchange.columnmap.sources import is_one
from handrail.interchange.columnmap.unit_words import read_unit
from handrail.interchange.problems import Problems
from handrail.interchange.tables import Column

# thousands that can be nothing else, and one mark with three digits behind it, which may be either
_GROUPED = {
    ".": r"^[-+]?\d{1,3}(,\d{3})+\.\d*$|^[-+]?\d{1,3}(,\d{3}){2,}$",
    ",": r"^[-+]?\d{1,3}(\.\d{3})+,\d*$|^[-+]?\d{1,3}(\.\d{3}){2,}$",
}
_DOUBTFUL = {".": r"^[-+]?\d{1,3},\d{3}$", ",": r"^[-+]?\d{1,3}\.\d{3}$"}
_FORTRAN = r"^([-+]?[\d.]+)[dD]([-+]?\d+)$"
MOST_TOLD = 20  # texts of a column that fit nothing
NAMES = (
    "node",
    "member",
    "i",
    "j",
    "result",
    "case",
    "combination",
    "grid",
    "level",
    "designation",
)  # what refers to nothing is told by who reads it
KNOWN = {"section": catalogue.section, "grade": catalogue.grade}


@dataclass
class Taker:
    """Takes the columns of one table, whose file says `said` of its columns' units."""

    table: TableMap
    stated: Mapping[str, str]
    said: Mapping[str, str]
    problems: Problems

    def columns(self, wanted: Mapping[str, Taken], known: Mapping[str, Column], frame: pl.DataFrame) -> pl.DataFrame:
        """ROW, OF and each of our columns, as text; what no entry of a column's values fits is a problem."""
        taken = {name: one for name, one in wanted.items() if name in known}
        for name, one in taken.items():
            self._refuse(known[name], one, frame)
        return frame.select(
            ROW, OF, *(self._where(one, self.column(known[name], one)).alias(name) for name, one in taken.items())
        )

    def _where(self, taken: Taken, expression: pl.Expr) -> pl.Expr:
        """Nothing but in the rows where the column stands."""
        if not taken.where:
            return expression
        return (
            pl.when(pl.all_horizontal(is_one(pl.col(name), pattern) for name, pattern in taken.where))
            .then(expression)
            .otherwise(None)
        )

    def column(self, column: Column, taken: Taken) -> pl.Expr:
        if taken.value is not None:
            return pl.lit(taken.value)
        if taken.flags:
            yes = [y.lower() for y in taken.yes]
            parts = [
                pl.when(self._cell(taken, source).str.to_lowercase().is_in(yes))
                .then(pl.lit(ours))
                .otherwise(pl.lit(""))
                for ours, source in taken.flags
            ]
            return pl.concat_str(parts, separator=" ").str.replace_all(r"\s+", " ").str.strip_chars()
        text = self._text(taken)
        if taken.values:
            text = _meant(text, taken.values)
        if taken.blank:
            text = pl.when(text == "").then(pl.lit(taken.blank)).otherwise(text)
        return text if column.kind != "number" else self._number(column, taken, text)

    def _cell(self, taken: Taken, source: str) -> pl.Expr:
        return pl.col(under(taken, source))

    def _text(self, taken: Taken) -> pl.Expr:
        """What stands in the source."""
        text = pl.concat_str(
            [self._cell(taken, name) for name in taken.columns], separator=taken.join
        ).str.strip_chars()
        return (
            text.str.extract(f"(?is){picked(taken.pick)}", 1).fill_null(text).str.strip_chars() if taken.pick else text
        )

    def _number(self, column: Column, taken: Taken, text: pl.Expr) -> pl.Expr:
        unit = self.unit(column, taken)
        plain = plain_number(text, self.table.decimal, self.table.thousands)
        for glued in {unit, self.said.get(taken.columns[0], "")} - {""}:
            plain = plain.str.replace(rf"(?i)([\d.])\s*{re.escape(glued)}$", "${1}")
        number = plain.cast(pl.Float64, strict=False) * (taken.factor * self._scale(column, unit))
        doubtful = text.str.contains(_DOUBTFUL[self.table.decimal]) if not self.table.thousands else pl.lit(False)
        return (
            pl.when(doubtful)
            .then(text + " (decimal or thousands?)")
            .when(number.is_null())
            .then(text)
            .otherwise(number.cast(pl.String))
        )

    def unit(self, column: Column, taken: Taken) -> str:
        """The unit that a number is in: the map's, else what the file itself says. Where the two are not one, that is a
        problem."""
        if not column.unit or taken.unit in SHARES:
            return taken.unit
        kind = kind_of(column)
        given = next(
            (
                u
                for name in taken.columns
                if (u := read_unit(self.said.get(name) or name, kind, bool(self.said.get(name))))
            ),
            "",
        )
        if (
            given
            and taken.unit
            and not math.isclose(units.factor(given, kind), units.factor(taken.unit, kind), rel_tol=1e-6)
        ):
            self.problems.add(
                self.table.shown,
                f"says that '{taken.columns[0]}' is in {given}, and the map (line {taken.line}) says {taken.unit}: "
                "make them one",
                None,
                taken.columns[0],
            )
        return taken.unit or given

    def scale(self, column: Column, taken: Taken) -> float:
        """What a number as it stands is times, in the bundle's unit."""
        return taken.factor * self._scale(column, self.unit(column, taken))

    def _scale(self, column: Column, unit: str) -> float:
        """From a unit to the one that the map states for the bundle."""
        if column.name in LOADS and unit:
            force, long = (
                units.factor(str(self.stated["force"]), "force"),
                units.factor(str(self.stated["length"]), "length"),
            )
            try:
                return units.factor(unit, "per_length") / (force / long)
            except InputError:
                return units.factor(unit, "force") / force
        if not unit or not column.unit or unit in SHARES:
            return 1.0
        to = math.pi / 180 if column.unit == "angle" else units.factor(str(self.stated[column.unit]), kind_of(column))
        return units.factor(unit, kind_of(column)) / to

    def _refuse(self, column: Column, taken: Taken, frame: pl.DataFrame) -> None:
        """Texts that `pick` or none of `values` fits, but for those that the column takes as they are, each with its
        rows."""
        if taken.value is not None or taken.flags or not (taken.pick or (taken.values and taken.others != "keep")):
            return
        raw = pl.concat_str([self._cell(taken, name) for name in taken.columns], separator=taken.join).str.strip_chars()
        here = frame.filter(pl.all_horizontal(is_one(pl.col(n), p) for n, p in taken.where)) if taken.where else frame
        texts = here.select(ROW, OF, raw.alias("raw"), self._text(taken).alias("text")).filter(pl.col("raw") != "")
        odd = texts.group_by("raw", "text", maintain_order=True).agg(pl.len(), pl.col(ROW).first(), pl.col(OF).first())
        told = 0
        for text, inner, count, row, of in odd.iter_rows():
            picks = not taken.pick or re.match(f"(?is){picked(taken.pick)}", text)
            meant = (
                not taken.values
                or taken.others == "keep"
                or any(_fits(p, inner) for p, _ in taken.values)
                or self._taken_as_is(column, inner)
            )
            if picks and meant:
                continue
            told += 1
            if told <= MOST_TOLD:
                rows = f"{count} rows" if count > 1 else "one row"
                meaning = f"is none of {', '.join(column.choices)}, and " if column.choices else ""
                keep = "" if column.choices else ', or others = "keep"'
                why = (
                    f"{meaning}fits none of the values that the map gives: write it there{keep}"
                    if picks
                    else f"is not as pick says, '{taken.pick}'"
                )
                self.problems.add(
                    of, f"'{text}' {why} (line {taken.line} of the map; {rows})", row, ", ".join(taken.columns)
                )
        if told > MOST_TOLD:
            self.problems.add(
                self.table.shown,
                f"and {told - MOST_TOLD} more texts of {', '.join(taken.columns)} (line {taken.line} of the map)",
            )

    def _taken_as_is(self, column: Column, text: str) -> bool:
        if column.kind == "choice":
            return text in column.choices
        if column.kind == "flag":
            return text in ("0", "1")
        if column.kind == "number":
            return bool(re.match(r"^[-+]?[\d.,'’ ]*\d[\d.,]*([eEdD][-+]?\d+)?(\s*[A-Za-z°].*)?$", text))
        if column.name in NAMES:
            return True
        if column.name.startswith("release_"):
            return set(text.split()) <= set(RELEASES)
        return column.name in KNOWN and is_known(column.name, text)


@lru_cache(maxsize=65536)
def is_known(what: str, name: str) -> bool:
    """Whether the catalogue holds a section or grade of that name."""
    try:
        KNOWN[what](name)
    except InputError:
        return False
    return True


def kind_of(column: Column) -> str:
    """The kind of quantity of one of our columns."""
    return "length" if column.unit == "section" else column.unit


def _fits(pattern: str, text: str) -> bool:
    return bool(re.match(regex(pattern), text, re.DOTALL)) if is_pattern(pattern) else pattern == text


def plain_number(text: pl.Expr, decimal: str, thousands: str = "") -> pl.Expr:
    """A number with a decimal point and no thousands."""
    text = text.str.replace("−", "-", literal=True).str.replace(_FORTRAN, "${1}e${2}")
    if thousands:
        marks = r"[\s\u00a0\u202f]" if thousands == " " else "['’]" if thousands == "'" else re.escape(thousands)
        plain = text.str.replace_all(marks, "")
    else:
        mark = "." if decimal == "," else ","
        plain = (
            pl.when(text.str.contains(_GROUPED[decimal]))
            .then(text.str.replace_all(mark, "", literal=True))
            .otherwise(text)
        )
    return plain.str.replace(",", ".", literal=True) if decimal == "," else plain


def _meant(text: pl.Expr, values: tuple[tuple[str, str], ...]) -> pl.Expr:
    """What stands there replaced by what it means: a text that is given, else the longest pattern that fits the whole
    of it; what fits none stays."""
    plain = {k: v for k, v in values if not is_pattern(k)}
    patterns = sorted(((k, v) for k, v in values if k not in plain), key=lambda pair: -len(pair[0]))
    meant = text
    for pattern, meaning in reversed(patterns):
        meant = pl.when(text.str.contains(f"(?s){regex(pattern)}")).then(pl.lit(meaning)).otherwise(meant)
    return pl.when(text.is_in(list(plain))).then(text.replace(plain)).otherwise(meant) if plain else meant
