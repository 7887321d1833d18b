"""Puts a column map on a folder of exports: each table of ours as a file of a bundle, and where each of its rows and
columns came from."""

from __future__ import annotations

import json
import re
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from pathlib import Path

import numpy as np
import polars as pl

from handrail.interchange.columnmap.body import OF, ROW, Opened
from handrail.interchange.columnmap.folder import LEFT, Folder
from handrail.interchange.columnmap.language import SHARES, ColumnMap, TableMap, Taken
from handrail.interchange.columnmap.shaping import across, combined, looked_up
from handrail.interchange.columnmap.sources import columns_there, opened
from handrail.interchange.columnmap.streaming import DISTANCE, Stream, falls_short, shares, streamed
from handrail.interchange.columnmap.taking import Taker
from handrail.interchange.problems import MAP, BundleError, Problem, Problems
from handrail.interchange.tables import SIX, TABLES, Column

ENDS = ("i", "j")
VALUES = tuple(c.name for c in SIX)
ALWAYS = "always "  # what a column is read from that the map gives one value


@dataclass
class Origin:
    """Where a made file came from: the source of each of its rows and the row there, its columns' names and the map's
    lines."""

    source: str
    of: pl.Series
    rows: np.ndarray
    columns: dict[str, tuple[str, int]]
    line: int

    def place(self, made: int) -> tuple[str, int]:
        """The source and its row of a row of the made file, both counted from 1 with the header."""
        return (
            (str(self.of[made - 2]), int(self.rows[made - 2]))
            if 2 <= made < len(self.rows) + 2
            else (self.source, made)
        )


@dataclass
class Bundled:
    """A bundle made by a map, and its `origins` by file; `unread` what of each source no column reads, `left` the files
    that no table reads."""

    folder: Path
    origins: dict[str, Origin] = field(default_factory=dict)
    unread: dict[str, list[str]] = field(default_factory=dict)
    left: tuple[str, ...] = ()
    stream: Stream | None = None  # of end forces that are not in the folder

    @property
    def flowing(self) -> list[str]:
        """The tables that the stream is."""
        return [] if self.stream is None else ["end_forces", *(["stations"] if self.stream.along else [])]

    def at_the_source(self, error: BundleError) -> BundleError:
        """The same problems, each at its place in the sources and the map."""
        return BundleError(list(dict.fromkeys(self._told(p) for p in error.problems)), error.more)

    def _told(self, problem: Problem) -> Problem:
        origin = self.origins.get(problem.file)
        if origin is None:
            words = problem.message.replace(" is missing from resources", " is read from no file yet")
            return replace(problem, file=MAP, message=words) if problem.file == "datapackage.json" else problem
        name, line = origin.columns.get(problem.column, ("", origin.line))
        if name.startswith(ALWAYS):  # said by the map for every row: told once
            return Problem(MAP, f"tables.{problem.file.removesuffix('.csv')}: {problem.column} {problem.message}", line)
        words = re.sub(r"\brow (\d+)", lambda m: f"row {origin.place(int(m[1]))[1]}", problem.message)
        if problem.row is None or problem.row < 2 or problem.row - 2 >= len(origin.rows):
            return Problem(
                MAP,
                f"tables.{problem.file.removesuffix('.csv')}:"
                f" {problem.column and problem.column + ' '}{problem.message}",
                line,
            )
        source, row = origin.place(problem.row)
        return Problem(source, f"{words} (line {line} of the map)", row, name or problem.column)


def bundled(column_map: ColumnMap, root: Path, into: Path, stream: bool = False, most: int | None = None) -> Bundled:
    """The bundle that the exports in `root` are through the map, in `into`; end forces as a `stream` where they can be,
    `most` bytes of each file where that is said. Raises BundleError where files or columns are not there."""
    problems, bundle = Problems(), Bundled(into)
    folder = Folder(root, problems, most)
    stated = column_map.stated["units"]
    lookups, read = {}, set()
    for name, lookup in column_map.lookups.items():
        called = folder.called(lookup)
        read |= set(called)
        if (whole := opened(lookup, folder, called)) is not None:
            lookups[name] = whole
    for table in column_map.tables:
        called = folder.called(table)
        read |= set(called)
        if stream and len(called) == 1 and (flow := streamed(table, folder.path(called[0]), stated)) is not None:
            bundle.stream = flow
            bundle.unread[flow.name] = flow.unread
            continue
        whole = opened(table, folder, called)
        if whole is None or not (parts := across(table, whole, folder)):
            continue
        taken = {name for part, _ in parts for name, _ in part.sources}
        for file in whole.frame[OF].unique(maintain_order=True).to_list() or [table.shown]:
            bundle.unread.setdefault(file, []).extend(
                n for n in whole.names if not n.startswith("@") and n not in taken
            )
        if not all(columns_there(part, rows, folder) for part, rows in parts):
            continue
        cases = (
            pl.read_csv(into / "cases.csv", infer_schema=False)["case"].to_list()
            if (into / "cases.csv").is_file()
            else []
        )
        made = [
            _made(part, looked_up(part, rows, lookups, column_map.lookups, problems), stated, problems, cases)
            for part, rows in parts
        ]
        for name in made[0]:
            rows = combined(table, pl.concat([one[name] for one in made], how="diagonal"), problems)
            if name == "combinations" and table.across:
                rows = rows.filter(~pl.col("factor").fill_null("").is_in(["", "0", "0.0", "-"]))
            _write(into / f"{name}.csv", rows)
            bundle.origins[f"{name}.csv"] = Origin(
                table.shown, rows[OF], rows[ROW].to_numpy(), _names(parts[0][0]), table.line
            )
    problems.raise_any()
    bundle.left = tuple(name for name in folder.files if name not in read and not name.lower().endswith(LEFT))
    _ends_by_node(bundle)
    if most is None:  # else rows were cut off
        _reach_the_ends(column_map, bundle)
    _flowing(column_map, bundle)
    _manifest(column_map, [Path(name).stem for name in bundle.origins] + bundle.flowing, into)
    return bundle


def _flowing(column_map: ColumnMap, made: Bundled) -> None:
    """The tables of a stream stand in the bundle without rows."""
    if made.stream is None:
        return
    splices = made.folder / "splices.csv"
    made.stream.kept = (
        frozenset(pl.read_csv(splices, infer_schema=False)["member"]) if splices.is_file() else frozenset()
    )
    made.stream.to_nodes = column_map.stated.get("forces_at", "node") == "node"
    for name in made.flowing:
        (made.folder / f"{name}.csv").touch()


def _ends_by_node(made: Bundled) -> None:
    """An end that is told by the node there is the member's i or j."""
    files = [made.folder / f"{name}.csv" for name in ("members", "end_forces")]
    if not all(path.is_file() and path.stat().st_size > 1 for path in files):
        return
    members, forces = (pl.read_csv(path, infer_schema=False) for path in files)
    if (
        "end" not in forces.columns
        or not {"member", "i", "j"} <= set(members.columns)
        or forces["end"].is_in(["i", "j"]).all()
    ):
        return
    own = forces.join(
        members.select("member", "i", "j").unique("member"), on="member", how="left", maintain_order="left"
    )
    end = pl.col("end")
    told = (
        pl.when(end.is_in(["i", "j"]))
        .then(end)
        .when(end == pl.col("i"))
        .then(pl.lit("i"))
        .when(end == pl.col("j"))
        .then(pl.lit("j"))
        .otherwise(end)
    )
    own.with_columns(told.alias("end")).select(forces.columns).write_csv(files[1])


def _reach_the_ends(column_map: ColumnMap, made: Bundled) -> None:
    """Rows along a member start at its i end and reach its j end, where forces are at the nodes; else what is taken for
    an end is none. Raises BundleError that names the rows. Distances that are shares of the member's length are told in
    the map's unit from here on."""
    table = next((t for t in column_map.tables if t.layout == "stations"), None)
    files = {name: made.folder / f"{name}.csv" for name in ("nodes", "members", "stations")}
    if table is None or not all(path.is_file() for path in files.values()):
        return
    nodes, members, stations = (
        pl.read_csv(path, infer_schema=False).with_row_index("_n", offset=2) for path in files.values()
    )
    at = nodes.select("node", *(pl.col(c).cast(pl.Float64, strict=False) for c in "xyz")).drop_nulls()
    ends = members.join(at, left_on="i", right_on="node").join(at, left_on="j", right_on="node", suffix="_j")
    long = ends.select(
        "member", pl.sum_horizontal((pl.col(c) - pl.col(f"{c}_j")).pow(2) for c in "xyz").sqrt().alias("long")
    )
    placed = stations.with_columns(pl.col("distance").cast(pl.Float64, strict=False).alias("at"))
    if table.columns["distance"].unit in SHARES:
        shares = placed.join(long, on="member", how="left", maintain_order="left")
        told = shares.with_columns(
            (pl.col("at") * pl.col("long")).cast(pl.String).fill_null(pl.col("distance")).alias("distance")
        )
        told.drop("_n", "at", "long").write_csv(files["stations"])
        placed = shares.with_columns(pl.col("at") * pl.col("long"))
    if column_map.stated.get("forces_at", "node") != "node":
        return
    placed = placed.drop_nulls("at")
    spans = placed.group_by("member", maintain_order=True).agg(
        pl.col("at").min().alias("first"), pl.col("at").max().alias("last"), pl.col("_n").first()
    )
    short = spans.join(long, on="member").filter(falls_short(pl.col("first"), pl.col("last"), pl.col("long")))
    problems = Problems()
    for member, first, last, row, length in short.select("member", "first", "last", "_n", "long").iter_rows():
        source, number = made.origins["stations.csv"].place(row)
        unit = column_map.stated["units"]["length"]
        problems.add(
            source,
            f"the rows along member {member} go from {first:.6g} to {last:.6g} {unit}, and it is {length:.6g} {unit}"
            f" long: its ends are not given (line {table.line} of the map); distances are from i, in the unit that the"
            " map says",
            number,
            "distance",
        )
    problems.raise_any()


def _manifest(column_map: ColumnMap, tables: list[str], into: Path) -> None:
    stated = dict(column_map.stated)
    title = str(stated.pop("title", ""))
    manifest = {
        "name": title,
        "title": title,
        "handrail": {"bundle": 1, **{k: v if isinstance(v, dict) else str(v) for k, v in stated.items()}},
        "resources": [{"name": name, "path": f"{name}.csv"} for name in tables],
    }
    (into / "datapackage.json").write_text(json.dumps(manifest), encoding="utf-8")


def _names(table: TableMap) -> dict[str, tuple[str, int]]:
    """Our column -> what it is called in the source, and the map's line."""
    names = {name: (_called(t), t.line) for name, t in table.columns.items()}
    for name in {name for end in table.ends.values() for name in end}:
        both = [t for end in table.ends.values() if (t := end.get(name))]
        names[name] = (", ".join(_called(t) for t in both), both[0].line)
    if table.cases:
        names |= dict.fromkeys(("case", "factor"), (", ".join(table.cases), table.line))
    return names


def _called(taken: Taken) -> str:
    if taken.value is not None:
        return f"{ALWAYS}{taken.value}"
    return ", ".join(taken.own) + (f" of {taken.lookup} by {taken.by}" if taken.lookup else "")


def _write(path: Path, frame: pl.DataFrame) -> None:
    frame.drop(ROW, OF).write_csv(path)


def _made(
    table: TableMap, whole: Opened, stated: Mapping[str, str], problems: Problems, cases: list[str]
) -> dict[str, pl.DataFrame]:
    """The tables that come of one: itself, and of rows along a member its ends and the stations between; `cases` those
    that are known by then."""
    columns = {c.name: c for c in TABLES[table.name].columns}
    taker = Taker(table, stated, whole.units, problems)
    if table.layout == "ends":
        parts = [
            taker.columns({**table.columns, **table.ends[end]}, columns, whole.frame).with_columns(
                pl.lit(end).alias("end")
            )
            for end in ENDS
        ]
        return {table.name: pl.concat(parts, how="diagonal")}
    if table.layout == "cases":
        return {table.name: _terms(table, columns, whole, taker)}
    if table.layout == "terms":
        return {
            table.name: _sums(
                table,
                taker.columns(table.columns, columns | {"factor": Column("factor")}, whole.frame),
                cases,
                problems,
            )
        }
    if table.layout == "stations":
        return _along(table, taker.columns(table.columns, {**columns, "distance": DISTANCE}, whole.frame))
    return {table.name: taker.columns(table.columns, columns, whole.frame)}


def _terms(table: TableMap, columns: Mapping[str, Column], whole: Opened, taker: Taker) -> pl.DataFrame:
    """Combinations in one row each, with a column a case: one row a term."""
    own = {name: taken for name, taken in table.columns.items() if name not in ("case", "factor")}
    parts = []
    for source, case in table.cases.items():
        wanted = {**own, "case": Taken(table.line, value=case), "factor": Taken(table.line, (source,))}
        part = taker.columns(wanted, columns, whole.frame)
        parts.append(
            part.filter(
                (pl.col("factor") != "") & (pl.col("factor").cast(pl.Float64, strict=False).fill_null(1.0) != 0)
            )
        )
    return pl.concat(parts).sort(OF, ROW, maintain_order=True) if parts else whole.frame.select(ROW, OF)


def _sums(table: TableMap, rows: pl.DataFrame, cases: list[str], problems: Problems) -> pl.DataFrame:
    """Combinations as sums of cases with their factors, `1.2*D + 1.6 L`: one row a term. What is no such sum is a
    problem."""
    lines: list[dict[str, object]] = []
    decimal = re.escape(table.decimal)
    names = "|".join(map(re.escape, sorted(cases, key=len, reverse=True)))
    number = rf"(?P<sign>[+-]?)\s*(?P<again>-?)\s*(?P<factor>\d*(?:{decimal}\d+)?)"
    term = re.compile(rf"\s*{number}\s*[*×x·]?\s*\(?(?P<case>{names})\)?(?![A-Za-z0-9])") if names else None
    for row in rows.iter_rows(named=True):
        text, at = str(row["factor"]), 0
        while term is not None and at < len(text) and (match := term.match(text, at)) and (match["sign"] or not at):
            factor = float(match["factor"].replace(table.decimal, ".") or 1) * (-1) ** (
                match["sign"] + match["again"]
            ).count("-")
            lines.append({**row, "case": match["case"], "factor": str(factor)})
            at = match.end()
        if at < len(text.rstrip()) or not text:
            problems.add(
                row[OF],
                f"'{text[at:]}' is no case with its factor, like 1.2*D (line {table.line} of the map); the cases are"
                f" {', '.join(cases[:12])}",
                row[ROW],
                table.columns["factor"].columns[0],
            )
    return (
        pl.DataFrame(lines, schema={**rows.schema, "case": pl.String})
        if lines
        else rows.with_columns(pl.lit("").alias("case"))[:0]
    )


def _along(table: TableMap, all_rows: pl.DataFrame) -> dict[str, pl.DataFrame]:
    """Rows along each member: the first is end i, the last end j; all of them are stations."""
    at = pl.col("distance").cast(pl.Float64, strict=False)
    if (unit := table.columns["distance"].unit) in ("percent", "steps"):
        all_rows = all_rows.with_columns(
            shares(at, unit).cast(pl.String).fill_null(pl.col("distance")).alias("distance")
        )
    ordered = all_rows.with_columns(at.alias("_at")).sort("member", "result", "_at", maintain_order=True)
    several = ordered.filter(pl.col("_at").n_unique().over("member", "result") > 1)  # one row is no end of both sides
    groups = several.group_by("member", "result", maintain_order=True)
    ends = [part.with_columns(pl.lit(end).alias("end")) for end, part in (("i", groups.first()), ("j", groups.last()))]
    values = [v for v in VALUES if v in all_rows.columns]
    forces = pl.concat(ends).select(ROW, OF, "member", "end", "result", *values)
    places = ordered.unique(["member", "result", "_at"], keep="first", maintain_order=True)
    stations = places.select(ROW, OF, "member", "distance", "result", *values)
    return {"end_forces": forces, "stations": stations}
