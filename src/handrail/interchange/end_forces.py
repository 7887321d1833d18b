"""Member end forces: millions of rows into one array, a batch of rows at a time."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import polars as pl

from handrail.interchange.problems import Problems
from handrail.interchange.tables import TABLES, present

BATCH = 100_000
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
    try:
        return _fill(path, members, results, scale, problems)
    except pl.exceptions.PolarsError:
        _explain(path, set(members), set(results), problems)
        return (), np.zeros((len(members), 0, 2, 6))


def _header(path: Path, problems: Problems) -> list[str] | None:
    try:
        return pl.read_csv(path, n_rows=0, infer_schema=False).columns
    except (pl.exceptions.PolarsError, OSError, UnicodeError) as exc:
        problems.add(path.name, f"cannot be read as UTF-8 CSV ({str(exc).splitlines()[0]})")
        return None


def _fill(path: Path, members: list[str], results: list[str], scale: np.ndarray, problems: Problems) -> tuple[tuple[str, ...], np.ndarray]:
    met = _results_met(path, results)
    kinds = {"member": pl.Enum(members), "end": pl.Enum(["i", "j"]), "result": pl.Enum(met), **dict.fromkeys(VALUES, pl.Float64)}
    forces = np.full((len(members), len(met), 2, 6), np.nan)
    seen = np.zeros((len(members), len(met), 2), bool)
    flat, seen_flat = forces.reshape(-1, 6), seen.reshape(-1)
    row = 2
    for batch in pl.scan_csv(path, schema_overrides=kinds).select(list(kinds)).collect_batches(chunk_size=BATCH, maintain_order=True):
        values = np.stack([batch[name].to_numpy() for name in VALUES], axis=1)
        codes = [batch[name].to_physical() for name in ("member", "result", "end")]
        if any(c.null_count() for c in codes) or not np.isfinite(values).all():
            raise pl.exceptions.ComputeError("a gap or a number that is not finite")
        m, r, e = (c.to_numpy().astype(np.int64) for c in codes)
        at = (m * len(met) + r) * 2 + e
        _repeats(at, seen_flat, row, members, met, path.name, problems)
        seen_flat[at] = True
        flat[at] = values * scale
        row += batch.height
    return tuple(met), forces


def _results_met(path: Path, results: list[str]) -> list[str]:
    """Which of `results` the file holds, in their order; an unknown one raises from polars."""
    used = pl.scan_csv(path, schema_overrides={"result": pl.Enum(results)}).select(pl.col("result").unique()).collect()
    held = set(used["result"].to_list())
    return [name for name in results if name in held]


def _repeats(at: np.ndarray, seen: np.ndarray, row: int, members: list[str], met: list[str], file: str, problems: Problems) -> None:
    order = np.argsort(at, kind="stable")
    again = np.zeros(len(at), bool)
    again[order[1:]] = at[order[1:]] == at[order[:-1]]
    again |= seen[at]
    for k in np.nonzero(again)[0]:
        member, rest = divmod(int(at[k]), len(met) * 2)
        result, end = divmod(rest, 2)
        problems.add(file, f"member {members[member]} end {'ij'[end]} result {met[result]} was given before", row + int(k), "member")


def _explain(path: Path, members: set[str], results: set[str], problems: Problems) -> None:
    """Read the rows as text and name each one that is wrong."""
    try:
        frame = pl.read_csv(path, infer_schema=False)
    except (pl.exceptions.PolarsError, OSError, UnicodeError) as exc:
        problems.add(path.name, f"cannot be read as UTF-8 CSV ({str(exc).splitlines()[0]})")
        return
    rows = frame.with_row_index("_row", offset=2)
    for name, held, what in (("member", members, "members"), ("result", results, "cases or combinations"), ("end", {"i", "j"}, "i, j")):
        for row, text in rows.filter(~pl.col(name).is_in(list(held))).select("_row", name).head(500).iter_rows():
            problems.add(
                path.name, f"'{text or ''}' is not in {what}" if name != "end" else f"'{text or ''}' is neither i nor j", row, name
            )
    for name in VALUES:
        number = pl.col(name).str.strip_chars().cast(pl.Float64, strict=False)
        for row, text in rows.filter(number.is_null() | ~number.is_finite()).select("_row", name).head(500).iter_rows():
            problems.add(path.name, f"'{text or ''}' is not a finite number", row, name)
    if not problems.found:
        problems.add(path.name, "cannot be read; check that every row has the same columns")
