"""Puts a column map on a folder of exports: each table of ours as a file of a bundle, and where each of its rows and columns came from."""

from __future__ import annotations

import fnmatch
import json
import math
import re
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from pathlib import Path

import numpy as np
import polars as pl

from handrail.core import units
from handrail.core.errors import InputError
from handrail.interchange.columnmap.language import LOADS, ColumnMap, TableMap, Taken
from handrail.interchange.columnmap.sources import ROW, opened
from handrail.interchange.problems import MAP, BundleError, Problem, Problems
from handrail.interchange.tables import SIX, TABLES, Column

ENDS = ("i", "j")
# thousands that can be nothing else, and one mark with three digits behind it, which may be either
_GROUPED = {".": r"^[-+]?\d{1,3}(,\d{3})+\.\d*$|^[-+]?\d{1,3}(,\d{3}){2,}$", ",": r"^[-+]?\d{1,3}(\.\d{3})+,\d*$|^[-+]?\d{1,3}(\.\d{3}){2,}$"}
_DOUBTFUL = {".": r"^[-+]?\d{1,3},\d{3}$", ",": r"^[-+]?\d{1,3}\.\d{3}$"}
REACH = 0.01  # of a member's length that its first and last rows may be off its ends
VALUES = tuple(c.name for c in SIX)


@dataclass
class Origin:
    """Where a made file came from: the source's name, the row of each of its rows, its columns' names and the map's lines."""

    source: str
    rows: np.ndarray
    columns: dict[str, tuple[str, int]]
    line: int

    def row(self, made: int) -> int:
        """The source's row of a row of the made file, both counted from 1 with the header."""
        return int(self.rows[made - 2]) if 2 <= made < len(self.rows) + 2 else made


@dataclass
class Bundled:
    """A bundle made by a map, and its `origins` by file; `unread` what of each source no column reads."""

    folder: Path
    origins: dict[str, Origin] = field(default_factory=dict)
    unread: dict[str, list[str]] = field(default_factory=dict)

    def at_the_source(self, error: BundleError) -> BundleError:
        """The same problems, each at its place in the sources and the map."""
        return BundleError([self._told(p) for p in error.problems], error.more)

    def _told(self, problem: Problem) -> Problem:
        origin = self.origins.get(problem.file)
        if origin is None:
            return replace(problem, file=MAP) if problem.file == "datapackage.json" else problem
        name, line = origin.columns.get(problem.column, ("", origin.line))
        words = re.sub(r"\brow (\d+)", lambda m: f"row {origin.row(int(m[1]))}", problem.message)
        if problem.row is None or problem.row < 2 or problem.row - 2 >= len(origin.rows):
            return Problem(MAP, f"tables.{problem.file.removesuffix('.csv')}: {problem.column and problem.column + ' '}{problem.message}", line)
        return Problem(origin.source, f"{words} (line {line} of the map)", origin.row(problem.row), name or problem.column)


def bundled(column_map: ColumnMap, folder: Path, into: Path) -> Bundled:
    """The bundle that the exports in `folder` are through the map, in `into`. Raises BundleError where files or columns are not there."""
    problems, found = Problems(), Bundled(into)
    stated = column_map.stated["units"]
    for table in column_map.tables:
        frame = opened(table, folder, problems)
        if frame is None:
            continue
        read = {name for name, _ in table.sources}
        found.unread.setdefault(table.file, []).extend(n for n in frame.columns if n != ROW and n not in read)
        made = _made(table, frame, stated)
        for name, rows in made.items():
            _write(into / f"{name}.csv", rows)
            source = table.file + (f" sheet {table.sheet}" if table.sheet else "")
            found.origins[f"{name}.csv"] = Origin(source, rows[ROW].to_numpy(), _names(table), table.line)
    problems.raise_any()
    _reach_the_ends(column_map, found)
    _manifest(column_map, [Path(name).stem for name in found.origins], into)
    return found


def _reach_the_ends(column_map: ColumnMap, made: Bundled) -> None:
    """Rows along a member start at its i end and reach its j end, where forces are at the nodes; else what is taken for an end is none. Raises
    BundleError that names the rows."""
    table = next((t for t in column_map.tables if t.layout == "stations"), None)
    files = {name: made.folder / f"{name}.csv" for name in ("nodes", "members", "stations")}
    if table is None or column_map.stated.get("forces_at", "node") != "node" or not all(path.is_file() for path in files.values()):
        return
    nodes, members, stations = (pl.read_csv(path, infer_schema=False).with_row_index("_n", offset=2) for path in files.values())
    at = nodes.select("node", *(pl.col(c).cast(pl.Float64, strict=False) for c in "xyz")).drop_nulls()
    ends = members.join(at, left_on="i", right_on="node").join(at, left_on="j", right_on="node", suffix="_j")
    long = ends.select("member", pl.sum_horizontal((pl.col(c) - pl.col(f"{c}_j")).pow(2) for c in "xyz").sqrt().alias("long"))
    placed = stations.with_columns(pl.col("distance").cast(pl.Float64, strict=False).alias("at")).drop_nulls("at")
    spans = placed.group_by("member", maintain_order=True).agg(pl.col("at").min().alias("first"), pl.col("at").max().alias("last"), pl.col("_n").first())
    slack = REACH * pl.col("long")
    short = spans.join(long, on="member").filter((pl.col("first").abs() > slack) | ((pl.col("last") - pl.col("long")).abs() > slack))
    problems = Problems()
    for member, first, last, row, length in short.select("member", "first", "last", "_n", "long").iter_rows():
        origin = made.origins["stations.csv"]
        unit = column_map.stated["units"]["length"]
        problems.add(origin.source, f"the rows along member {member} go from {first:.6g} to {last:.6g} {unit}, and it is {length:.6g} {unit} long: "
                     f"its ends are not given (line {table.line} of the map); distances are from i, in the unit that the map says",
                     origin.row(row), "distance")  # fmt: skip
    problems.raise_any()


def _manifest(column_map: ColumnMap, tables: list[str], into: Path) -> None:
    stated = dict(column_map.stated)
    title = str(stated.pop("title", ""))
    manifest = {"name": title, "title": title, "handrail": {"bundle": 1, **{k: v if isinstance(v, dict) else str(v) for k, v in stated.items()}},
                "resources": [{"name": name, "path": f"{name}.csv"} for name in tables]}  # fmt: skip
    (into / "datapackage.json").write_text(json.dumps(manifest), encoding="utf-8")


def _names(table: TableMap) -> dict[str, tuple[str, int]]:
    """Our column -> what it is called in the source, and the map's line."""
    found = {name: (", ".join(t.sources) if t.value is None else f"always {t.value}", t.line) for name, t in table.columns.items()}
    for name in {name for end in table.ends.values() for name in end}:
        both = [t for end in table.ends.values() if (t := end.get(name))]
        found[name] = (", ".join(source for t in both for source in t.sources), both[0].line)
    if table.cases:
        found |= dict.fromkeys(("case", "factor"), (", ".join(table.cases), table.line))
    return found


def _write(path: Path, frame: pl.DataFrame) -> None:
    frame.drop(ROW).write_csv(path)


def _made(table: TableMap, frame: pl.DataFrame, stated: Mapping[str, str]) -> dict[str, pl.DataFrame]:
    """The tables that come of one: itself, and of rows along a member its ends and the stations between."""
    columns = {c.name: c for c in TABLES[table.name].columns}
    if table.layout == "ends":
        parts = []
        for end in ENDS:
            own = _columns({**table.columns, **table.ends[end]}, columns, frame, stated, table.decimal)
            parts.append(own.with_columns(pl.lit(end).alias("end")))
        return {table.name: pl.concat(parts, how="diagonal")}
    if table.layout == "cases":
        return {table.name: _terms(table, columns, frame, stated)}
    if table.layout == "stations":
        return _along(table, columns, frame, stated)
    return {table.name: _columns(table.columns, columns, frame, stated, table.decimal)}


def _columns(wanted: Mapping[str, Taken], columns: Mapping[str, Column], frame: pl.DataFrame, stated: Mapping[str, str], decimal: str) -> pl.DataFrame:
    """ROW and each of our columns, as text."""
    return frame.select(pl.col(ROW), *(_column(columns[name], taken, stated, decimal).alias(name) for name, taken in wanted.items() if name in columns))


def _column(column: Column, taken: Taken, stated: Mapping[str, str], decimal: str) -> pl.Expr:
    if taken.value is not None:
        return pl.lit(taken.value)
    if taken.flags:
        yes = [y.lower() for y in taken.yes]
        parts = [pl.when(pl.col(source).str.to_lowercase().is_in(yes)).then(pl.lit(ours)).otherwise(pl.lit("")) for ours, source in taken.flags]
        return pl.concat_str(parts, separator=" ").str.replace_all(r"\s+", " ").str.strip_chars()
    text = pl.concat_str([pl.col(name) for name in taken.columns], separator=taken.join).str.strip_chars()
    if taken.values:
        text = _meant(text, taken.values)
    if taken.blank:
        text = pl.when(text == "").then(pl.lit(taken.blank)).otherwise(text)
    if column.kind != "number":
        return text
    number = _plain(text, decimal).cast(pl.Float64, strict=False) * (taken.factor * _scale(column, taken, stated))
    doubtful = text.str.contains(_DOUBTFUL[decimal])
    return pl.when(doubtful).then(text + " (decimal or thousands?)").when(number.is_null()).then(text).otherwise(number.cast(pl.String))


def _plain(text: pl.Expr, decimal: str) -> pl.Expr:
    """A number with a decimal point and no thousands."""
    mark = "." if decimal == "," else ","
    grouped = text.str.replace_all(mark, "", literal=True)
    found = pl.when(text.str.contains(_GROUPED[decimal])).then(grouped).otherwise(text)
    return found.str.replace(",", ".", literal=True) if decimal == "," else found


def _meant(text: pl.Expr, values: tuple[tuple[str, str], ...]) -> pl.Expr:
    """What stands there replaced by what it means; the first pattern that fits, and what fits none stays."""
    plain = {k: v for k, v in values if not set(k) & set("*?[")}
    found = text.replace(plain) if plain else text
    for pattern, meaning in ((k, v) for k, v in values if k not in plain):
        fits = text.str.contains(fnmatch.translate(pattern).replace("\\Z", "$"))
        if plain:
            fits = fits & ~text.is_in(list(plain))
        found = pl.when(fits & (found == text)).then(pl.lit(meaning)).otherwise(found)
    return found


def _scale(column: Column, taken: Taken, stated: Mapping[str, str]) -> float:
    """From the source's unit to the one that the map states for the bundle."""
    if column.name in LOADS and taken.unit:
        force, long = units.factor(str(stated["force"]), "force"), units.factor(str(stated["length"]), "length")
        try:
            return units.factor(taken.unit, "per_length") / (force / long)
        except InputError:
            return units.factor(taken.unit, "force") / force
    if not taken.unit or not column.unit:
        return 1.0
    kind = "length" if column.unit == "section" else column.unit
    to = math.pi / 180 if column.unit == "angle" else units.factor(str(stated[column.unit]), kind)
    return units.factor(taken.unit, kind) / to


def _terms(table: TableMap, columns: Mapping[str, Column], frame: pl.DataFrame, stated: Mapping[str, str]) -> pl.DataFrame:
    """Combinations in one row each, with a column a case: one row a term."""
    own = {name: taken for name, taken in table.columns.items() if name not in ("case", "factor")}
    parts = []
    for source, case in table.cases.items():
        factor = _column(columns["factor"], Taken(table.line, (source,)), stated, table.decimal)
        part = frame.select(pl.col(ROW), *(_column(columns[n], t, stated, table.decimal).alias(n) for n, t in own.items()), pl.lit(case).alias("case"),
                            factor.alias("factor"))  # fmt: skip
        parts.append(part.filter((pl.col("factor") != "") & (pl.col("factor").cast(pl.Float64, strict=False).fill_null(1.0) != 0)))
    return pl.concat(parts).sort(ROW, maintain_order=True) if parts else frame.select(ROW)


def _along(table: TableMap, columns: Mapping[str, Column], frame: pl.DataFrame, stated: Mapping[str, str]) -> dict[str, pl.DataFrame]:
    """Rows along each member: the first is end i, the last end j; all of them are stations."""
    distance = Column("distance", "number", True, "length")
    all_rows = _columns(table.columns, {**columns, "distance": distance}, frame, stated, table.decimal)
    at = pl.col("distance").cast(pl.Float64, strict=False)
    ordered = all_rows.with_columns(at.alias("_at")).sort("member", "result", "_at", maintain_order=True)
    several = ordered.filter(pl.col("_at").n_unique().over("member", "result") > 1)  # one row is no end of both sides
    groups = several.group_by("member", "result", maintain_order=True)
    ends = [part.with_columns(pl.lit(end).alias("end")) for end, part in (("i", groups.first()), ("j", groups.last()))]
    values = [v for v in VALUES if v in all_rows.columns]
    forces = pl.concat(ends).select(ROW, "member", "end", "result", *values)
    places = ordered.unique(["member", "result", "_at"], keep="first", maintain_order=True)
    stations = places.select(ROW, "member", "distance", "result", *values)
    return {"end_forces": forces, "stations": stations}
