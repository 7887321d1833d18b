"""Member end forces: millions of rows into one array, a block of the file at a time."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from pathlib import Path
from typing import Any, Protocol, TypeVar

import numpy as np
import polars as pl

from handrail.interchange.blocks import about_rows, blocks, parsed_blocks
from handrail.interchange.problems import MOST, Problems
from handrail.interchange.tables import LARGEST, TABLES, column_names, count_lines, present

MOST_VALUES = 200_000_000  # of the array that is made: 1.6 GB
SPARSEST, FEW_VALUES = (
    20,
    5_000_000,
)  # an array of more than so many values, and more than so many times those that the rows give
NOT_FINITE = ("nan", "inf", "infinity")
SPARE = 1000  # rows beyond those that there can be: blank ones
T = TypeVar("T")
Given = tuple[np.ndarray, np.ndarray]  # where forces belong in (results, members, 2), flat (k,); the forces (k, 6)
VALUES = ["Fx", "Fy", "Fz", "Mx", "My", "Mz"]


class ForceRows(Protocol):
    """Rows of end forces that are read straight from where they are, and no file of the bundle."""

    name: str
    along: bool  # rows along the members, each `at` some distance, of which the first and the last are the ends

    def about(self) -> int:
        """About how many there are."""

    def blocks(
        self, members: list[str], results: list[str], then: Callable[[pl.DataFrame], T], padded: bool
    ) -> Iterator[T]:
        """What `then` makes of each block: member, result, end (or at) as codes of `members`, `results`, and VALUES; a
        slower way where cells are `padded`. Raises PolarsError where a row is no such."""

    def stations(self, lengths: Mapping[str, float]) -> pl.DataFrame:
        """Of the rows along the members those that splices need, as the bundle's table stations; `lengths` by
        member."""


def read_end_forces(
    path: Path, members: list[str], results: list[str], scale: np.ndarray, problems: Problems
) -> tuple[tuple[str, ...], np.ndarray]:
    """(results met, forces (members, results, 2, 6)) with `scale` (6,) to the core's units; NaN where no row.

    Ids are read straight into codes. A file that does not go through that way is read again as text,
    to say at which rows and why.
    """
    table = TABLES["end_forces"]
    header = column_names(path, problems)
    if not header or present(table, header, path.name, problems) is None:
        return (), np.zeros((len(members), 0, 2, 6))
    met = _met_in(path, len(members), results)
    if _does_not_fit(path, len(members), len(met), problems):
        return (), np.zeros((len(members), 0, 2, 6))
    for padded in (False, True):  # cells with blanks around them take a slower way
        try:
            return _fill(_blocks(path, header, members, met, scale, padded), members, met, path.name, problems)
        except pl.exceptions.PolarsError:
            continue
    _explain(path, header, set(members), set(results), problems)
    return (), np.zeros((len(members), 0, 2, 6))


def _met_in(path: Path, members: int, results: list[str]) -> list[str]:
    """Of `results` those that rows are of, where there are not rows enough for all: combinations are made of cases."""
    if about_rows(path) > 1.5 * members * len(results):
        return results
    try:
        column = pl.scan_csv(path, infer_schema=False).select(pl.col("result").str.strip_chars().unique())
        met = set(column.collect(engine="streaming")["result"])
    except (pl.exceptions.PolarsError, OSError):
        return results  # it is told when it is read
    return [name for name in results if name in met] or results


def stream_end_forces(
    rows: ForceRows, members: list[str], results: list[str], scale: np.ndarray
) -> tuple[tuple[str, ...], np.ndarray]:
    """As `read_end_forces`, of rows that are no file. Raises PolarsError where they are not all as they should be,
    without saying where."""
    if len(members) * len(results) * 12 > MOST_VALUES or rows.about() * 4 < len(members) * len(results):
        raise pl.exceptions.ComputeError("too many, or too few")
    try:
        return _streamed(rows, members, results, scale, False)
    except pl.exceptions.PolarsError:
        return _streamed(rows, members, results, scale, True)


def _streamed(
    rows: ForceRows, members: list[str], results: list[str], scale: np.ndarray, padded: bool
) -> tuple[tuple[str, ...], np.ndarray]:
    if rows.along:
        spans = rows.blocks(members, results, lambda frame: _spans(frame, len(members), scale), padded)
        return _fill_along(spans, len(members), results)
    problems = Problems()
    given = rows.blocks(members, results, lambda frame: _given(frame, len(members), scale), padded)
    filled = _fill(given, members, results, rows.name, problems)
    if problems.found:
        raise pl.exceptions.ComputeError("a row is given twice")
    return filled


def _does_not_fit(path: Path, members: int, results: int, problems: Problems) -> bool:
    """Whether the array (members, results, 2, 6) would be too large, or out of all proportion to the rows; told before
    it is made."""
    values, most, about = members * results * 12, members * results * 2 + SPARE, about_rows(path)
    if values > MOST_VALUES:
        problems.add(
            path.name,
            f"{members} members in {results} cases and combinations would be {values / 1e6:.0f} million numbers; at"
            f" most {MOST_VALUES / 1e6:.0f} million are taken: leave out results that nobody checks",
        )
        return True
    if about <= 1.5 * most and values <= SPARSEST / 4 * about * 6:
        return False  # far from any limit
    rows = max(count_lines(path) - 1, 1)
    if values > max(SPARSEST * rows * 6, FEW_VALUES):
        problems.add(
            path.name,
            f"{rows} rows fill less than one in {SPARSEST} of {members} members' ends in {results} cases and"
            " combinations: give every member its forces, or leave out results and members that nobody checks",
        )
    elif rows > most:
        problems.add(
            path.name,
            f"has {rows} rows; {members} members' ends in {results} cases and combinations are {members * results * 2}:"
            " some are given more than once",
        )
    else:
        return False
    return True


def _blocks(
    path: Path, header: list[str], members: list[str], results: list[str], scale: np.ndarray, padded: bool
) -> Iterator[Given]:
    """The file's rows."""
    kinds: dict[str, Any] = {
        "member": pl.Enum(members),
        "end": pl.Enum(["i", "j"]),
        "result": pl.Enum(results),
        **dict.fromkeys(VALUES, pl.Float64),
    }
    schema = {name: pl.String if padded else kinds.get(name, pl.String) for name in header}
    columns = [header.index(name) for name in kinds]

    def parsed(block: bytes) -> Given:
        batch = pl.read_csv(block, has_header=False, schema=schema, columns=columns)
        batch = (
            batch.select(pl.col(name).str.strip_chars().cast(kind) for name, kind in kinds.items()) if padded else batch
        )
        return _given(batch, len(members), scale)

    return parsed_blocks(path, parsed)


def _given(frame: pl.DataFrame, members: int, scale: np.ndarray) -> Given:
    """Where each row's forces belong in (results, members, 2), flat, and the forces."""
    m, r, e = (_codes(frame[column]) for column in ("member", "result", "end"))
    return (r * members + m) * 2 + e, np.multiply(
        _values(frame), scale, order="C"
    )  # each row together, as it is put away


def _fill(
    blocks: Iterator[Given], members: list[str], results: list[str], name: str, problems: Problems
) -> tuple[tuple[str, ...], np.ndarray]:
    """Block by block into (results, members, 2, 6); zeros are only given room once something is written there."""
    forces = np.zeros((len(results), len(members), 2, 6))
    seen = np.zeros((len(results), len(members), 2), bool)
    flat, seen_flat = forces.reshape(-1, 6), seen.reshape(-1)
    row, before = 2, np.intp(0)
    for at, values in blocks:
        known = seen_flat[at]
        seen_flat[at] = True
        now = np.count_nonzero(seen_flat)
        if now - before < len(at):
            _repeats(at, known, row, members, results, name, problems)
        flat[at] = values
        row, before = row + len(at), now
    return _met(forces, seen, results)


def _spans(frame: pl.DataFrame, members: int, scale: np.ndarray) -> list[tuple[np.ndarray, np.ndarray, np.ndarray]]:
    """For i and j: of which (result, member), flat, a block has rows, how far along the nearest to that end is, and its
    forces; of several at one place the first is of i, the last of j."""
    at = _codes(frame["result"]) * members + _codes(frame["member"])
    where, values = frame["at"].to_numpy(), _values(frame)
    if not np.isfinite(where).all():
        raise pl.exceptions.ComputeError("a distance that is none")
    order = np.lexsort((where, at))
    first = np.nonzero(np.diff(at[order], prepend=-1))[0]
    last = np.append(first[1:], len(order))[: len(first)] - 1
    return [(at[rows], where[rows], values[rows] * scale) for rows in (order[first], order[last])]


def _fill_along(
    blocks: Iterator[list[tuple[np.ndarray, np.ndarray, np.ndarray]]], members: int, results: list[str]
) -> tuple[tuple[str, ...], np.ndarray]:
    """Of rows along the members, the nearest to i and the farthest from it; one place alone is no end of both sides."""
    forces = np.zeros((len(results), members, 2, 6))
    flat = forces.reshape(-1, 2, 6)
    low, high = np.full(len(flat), np.inf), np.full(len(flat), -np.inf)
    for block in blocks:
        for end, bound, nearer in ((0, low, np.less), (1, high, np.greater_equal)):
            at, where, values = block[end]
            rows = nearer(where, bound[at])
            bound[at[rows]] = where[rows]
            flat[at[rows], end] = values[rows]
    seen = np.repeat((low < high)[:, None], 2, axis=1).reshape(len(results), members, 2)
    return _met(forces, seen, results)


def _values(batch: pl.DataFrame) -> np.ndarray:
    values = batch.select(VALUES).to_numpy()
    if not np.abs(values).max(initial=0.0) <= LARGEST:  # nor where it is NaN
        raise pl.exceptions.ComputeError("a gap, or a number that is not finite or too large")
    return values


def _met(forces: np.ndarray, seen: np.ndarray, results: list[str]) -> tuple[tuple[str, ...], np.ndarray]:
    """The results that rows were of, and (members, results, 2, 6) of them."""
    met = np.nonzero(seen.any(axis=(1, 2)))[0]
    if len(met) and met[-1] - met[0] + 1 == len(met):
        met = slice(met[0], met[-1] + 1)  # type: ignore[assignment]  # a view, not a copy
    placed, given = forces[met], seen[met]
    if not given.all():
        placed[~given] = np.nan
    return tuple(np.array(results, dtype=object)[met]), placed.transpose(1, 0, 2, 3)


def _codes(column: pl.Series) -> np.ndarray:
    if column.null_count():
        raise pl.exceptions.ComputeError("a gap")
    return column.to_physical().to_numpy().astype(np.int64)


def _repeats(
    at: np.ndarray, known: np.ndarray, row: int, members: list[str], results: list[str], file: str, problems: Problems
) -> None:
    """Name the rows that were given before, in this block (`at`) or an earlier one (`known`)."""
    order = np.argsort(at, kind="stable")
    again = known.copy()
    again[order[1:]] |= at[order[1:]] == at[order[:-1]]
    for k in np.nonzero(again)[0]:
        result, rest = divmod(int(at[k]), len(members) * 2)
        member, end = divmod(rest, 2)
        problems.add(
            file,
            f"member {members[member]} end {'ij'[end]} result {results[result]} was given before",
            row + int(k),
            "member",
        )


def _explain(path: Path, header: list[str], members: set[str], results: set[str], problems: Problems) -> None:
    """Read the rows as text, a block at a time, and name each one that is wrong."""
    before, row = len(problems.found), 2
    try:
        for block in blocks(path):
            frame = pl.read_csv(block, has_header=False, new_columns=header, infer_schema=False)
            rows = frame.with_columns(pl.all().str.strip_chars()).with_row_index("_row", offset=row)
            _explain_rows(path.name, rows, members, results, problems)
            if len(problems.found) >= MOST:
                return
            row += frame.height
    except (pl.exceptions.PolarsError, OSError, UnicodeError) as exc:
        problems.add(path.name, f"cannot be read as UTF-8 CSV after row {row - 1} ({str(exc).splitlines()[0]})")
        return
    if len(problems.found) == before:
        problems.add(path.name, "cannot be read; check that every row has the same columns")


def _explain_rows(file: str, rows: pl.DataFrame, members: set[str], results: set[str], problems: Problems) -> None:
    for name, held, what in (
        ("member", members, "members"),
        ("result", results, "cases or combinations"),
        ("end", {"i", "j"}, "i, j"),
    ):
        for row, text in (
            rows.filter(~pl.col(name).is_in(list(held)).fill_null(False)).select("_row", name).head(500).iter_rows()
        ):
            problems.add(
                file,
                f"'{text or ''}' is not in {what}" if name != "end" else f"'{text or ''}' is neither i nor j",
                row,
                name,
            )
    for name in VALUES:
        number = pl.col(name).str.strip_chars().cast(pl.Float64, strict=False)
        for row, text in rows.filter(number.is_null() | ~number.is_finite()).select("_row", name).head(500).iter_rows():
            problems.add(
                file,
                f"'{text or ''}' is not a {'finite ' if (text or '').lower().strip('+-') in NOT_FINITE else ''}number",
                row,
                name,
            )
        for row, text in (
            rows.filter(number.is_finite() & (number.abs() > LARGEST)).select("_row", name).head(500).iter_rows()
        ):
            problems.add(file, f"'{text}' is too large to be meant; at most {LARGEST:g}", row, name)
