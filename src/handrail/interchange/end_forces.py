"""Member end forces: millions of rows into one array, a block of the file at a time."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import numpy as np
import polars as pl

from handrail.interchange.problems import MOST, Problems
from handrail.interchange.tables import LARGEST, TABLES, column_names, count_lines, present

BLOCK = 12 * 1024**2  # bytes read at a time
MOST_VALUES = 200_000_000  # of the array that is made: 1.6 GB
SPARSEST, FEW_VALUES = 20, 5_000_000  # an array of more than so many values, and more than so many times those that the rows give
SAMPLE = 1 << 18  # bytes by which the rows of a file are guessed
SPARE = 1000  # rows beyond those that there can be: blank ones
VALUES = ["Fx", "Fy", "Fz", "Mx", "My", "Mz"]


def read_end_forces(
    path: Path, members: list[str], results: list[str], scale: np.ndarray, problems: Problems
) -> tuple[tuple[str, ...], np.ndarray]:
    """(results met, forces (members, results, 2, 6)) with `scale` (6,) to the core's units; NaN where no row.

    Ids are read straight into codes. A file that does not go through that way is read again as text,
    to say at which rows and why.
    """
    table = TABLES["end_forces"]
    header = _header(path, problems)
    if header is None or present(table, header, path.name, problems) is None:
        return (), np.zeros((len(members), 0, 2, 6))
    if _does_not_fit(path, len(members), len(results), problems):
        return (), np.zeros((len(members), 0, 2, 6))
    for padded in (False, True):  # cells with blanks around them take a slower way
        try:
            return _fill(path, header, members, results, scale, problems, padded)
        except pl.exceptions.PolarsError:
            continue
    _explain(path, header, set(members), set(results), problems)
    return (), np.zeros((len(members), 0, 2, 6))


def _does_not_fit(path: Path, members: int, results: int, problems: Problems) -> bool:
    """Whether the array (members, results, 2, 6) would be too large, or out of all proportion to the rows; told before it is made."""
    values, most, about = members * results * 12, members * results * 2 + SPARE, _about(path)
    if values > MOST_VALUES:
        problems.add(path.name, f"{members} members in {results} cases and combinations would be {values / 1e6:.0f} million numbers; at most "
                     f"{MOST_VALUES / 1e6:.0f} million are taken: leave out results that nobody checks")  # fmt: skip
        return True
    if about <= 1.5 * most and values <= SPARSEST / 4 * about * 6:
        return False  # far from any limit
    rows = max(count_lines(path) - 1, 1)
    if values > max(SPARSEST * rows * 6, FEW_VALUES):
        problems.add(path.name, f"{rows} rows fill less than one in {SPARSEST} of {members} members' ends in {results} cases and combinations: "
                     "give every member its forces, or leave out results and members that nobody checks")  # fmt: skip
    elif rows > most:
        problems.add(path.name, f"has {rows} rows; {members} members' ends in {results} cases and combinations are {members * results * 2}: "
                     "some are given more than once")  # fmt: skip
    else:
        return False
    return True


def _about(path: Path) -> int:
    """About how many rows a file has, by the lines at its start."""
    with path.open("rb") as stream:
        start = stream.read(SAMPLE)
    return max(path.stat().st_size * start.count(b"\n") // max(len(start), 1), 1)


def _header(path: Path, problems: Problems) -> list[str] | None:
    try:
        return column_names(path, problems)
    except (pl.exceptions.PolarsError, OSError, UnicodeError) as exc:
        problems.add(path.name, f"cannot be read as UTF-8 CSV ({str(exc).splitlines()[0]})")
        return None


def _fill(
    path: Path, header: list[str], members: list[str], results: list[str], scale: np.ndarray, problems: Problems, padded: bool
) -> tuple[tuple[str, ...], np.ndarray]:
    """Block by block into (results, members, 2, 6); zeros are only given room once something is written there."""
    kinds: dict[str, Any] = {
        "member": pl.Enum(members),
        "end": pl.Enum(["i", "j"]),
        "result": pl.Enum(results),
        **dict.fromkeys(VALUES, pl.Float64),
    }
    schema = {name: pl.String if padded else kinds.get(name, pl.String) for name in header}
    forces = np.zeros((len(results), len(members), 2, 6))
    seen = np.zeros((len(results), len(members), 2), bool)
    flat, seen_flat = forces.reshape(-1, 6), seen.reshape(-1)
    row = 2

    def parsed(block: bytes) -> pl.DataFrame:
        batch = pl.read_csv(block, has_header=False, schema=schema, columns=[header.index(name) for name in kinds])
        return batch.select(pl.col(name).str.strip_chars().cast(kind) for name, kind in kinds.items()) if padded else batch

    for batch in _ahead(parsed, _blocks(path)):
        m, r, e = (_codes(batch[name]) for name in ("member", "result", "end"))
        at = (r * len(members) + m) * 2 + e
        values = batch.select(VALUES).to_numpy()
        if not np.abs(values).max(initial=0.0) <= LARGEST:  # nor where it is NaN
            raise pl.exceptions.ComputeError("a gap, or a number that is not finite or too large")
        before = np.count_nonzero(seen_flat)
        known = seen_flat[at]
        seen_flat[at] = True
        if np.count_nonzero(seen_flat) - before < len(at):
            _repeats(at, known, row, members, results, path.name, problems)
        flat[at] = values * scale
        row += batch.height
    met = np.nonzero(seen.any(axis=(1, 2)))[0]
    if len(met) and met[-1] - met[0] + 1 == len(met):
        met = slice(met[0], met[-1] + 1)  # type: ignore[assignment]  # a view, not a copy
    found, given = forces[met], seen[met]
    if not given.all():
        found[~given] = np.nan
    return tuple(np.array(results, dtype=object)[met]), found.transpose(1, 0, 2, 3)


def _ahead(parsed: Callable[[bytes], pl.DataFrame], blocks: Iterator[bytes]) -> Iterator[pl.DataFrame]:
    """Each block parsed, the next one while the last is worked on."""
    with ThreadPoolExecutor(1) as pool:
        coming = None
        for block in blocks:
            following = pool.submit(parsed, block)
            if coming is not None:
                yield coming.result()
            coming = following
        if coming is not None:
            yield coming.result()


def _blocks(path: Path) -> Iterator[bytes]:
    """The file after its header, in blocks of whole lines."""
    with path.open("rb") as stream:
        stream.readline()
        left = b""
        while block := stream.read(BLOCK):
            cut = block.rfind(b"\n") + 1
            if cut:
                yield left + block[:cut]
                left = block[cut:]
            elif left:
                raise pl.exceptions.ComputeError(f"a line of more than {BLOCK / 1e6:.0f} MB")
            else:
                left = block
        if left.strip():
            yield left


def _codes(column: pl.Series) -> np.ndarray:
    if column.null_count():
        raise pl.exceptions.ComputeError("a gap")
    return column.to_physical().to_numpy().astype(np.int64)


def _repeats(at: np.ndarray, known: np.ndarray, row: int, members: list[str], results: list[str], file: str, problems: Problems) -> None:
    """Name the rows that were given before, in this block (`at`) or an earlier one (`known`)."""
    order = np.argsort(at, kind="stable")
    again = known.copy()
    again[order[1:]] |= at[order[1:]] == at[order[:-1]]
    for k in np.nonzero(again)[0]:
        result, rest = divmod(int(at[k]), len(members) * 2)
        member, end = divmod(rest, 2)
        problems.add(file, f"member {members[member]} end {'ij'[end]} result {results[result]} was given before", row + int(k), "member")


def _explain(path: Path, header: list[str], members: set[str], results: set[str], problems: Problems) -> None:
    """Read the rows as text, a block at a time, and name each one that is wrong."""
    before, row = len(problems.found), 2
    try:
        for block in _blocks(path):
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
    for name, held, what in (("member", members, "members"), ("result", results, "cases or combinations"), ("end", {"i", "j"}, "i, j")):
        for row, text in rows.filter(~pl.col(name).is_in(list(held)).fill_null(False)).select("_row", name).head(500).iter_rows():
            problems.add(file, f"'{text or ''}' is not in {what}" if name != "end" else f"'{text or ''}' is neither i nor j", row, name)
    for name in VALUES:
        number = pl.col(name).str.strip_chars().cast(pl.Float64, strict=False)
        for row, text in rows.filter(number.is_null() | ~number.is_finite()).select("_row", name).head(500).iter_rows():
            problems.add(file, f"'{text or ''}' is not a finite number", row, name)
        for row, text in rows.filter(number.is_finite() & (number.abs() > LARGEST)).select("_row", name).head(500).iter_rows():
            problems.add(file, f"'{text}' is too large to be meant; at most {LARGEST:g}", row, name)
