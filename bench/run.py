"""`make bench`: speed and memory as ratios taken in one run; prints a row a figure, writes bench/latest.json."""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
import time
import traceback
from collections.abc import Callable, Iterable, Iterator
from pathlib import Path

HERE = Path(__file__).parent
ROWS = 2_000_000
CONNECTIONS, COMBINATIONS = 10_000, 100


def best(work: Callable[[], object], times: int = 3) -> float:
    """The shortest of a few runs, s."""
    found = []
    for _ in range(times):
        begun = time.perf_counter()
        work()
        found.append(time.perf_counter() - begun)
    return min(found)


def import_figures() -> list[tuple[str, float, float, str]]:
    with tempfile.TemporaryDirectory() as scratch:
        folder = Path(scratch)
        subprocess.run([sys.executable, str(HERE / "big_bundle.py"), str(folder), str(ROWS)], check=True)
        words = {}
        for what in ("bare", "import", "mapped", "import", "bare", "mapped", "bare", "mapped", "import"):
            done = subprocess.run(
                [sys.executable, str(HERE / "one_import.py"), what, str(folder)],
                check=True,
                capture_output=True,
                text=True,
            )
            seconds, peak, size = map(float, done.stdout.split())
            kept = words.setdefault(what, [1e9, 1e12, size])
            kept[0], kept[1] = min(kept[0], seconds), min(kept[1], peak)
    return [
        (
            "import of 2,000,000 end-force rows over a bare polars.read_csv",
            words["import"][0] / words["bare"][0],
            1.5,
            "time",
        ),
        (
            "the same through a column map over a bare polars.read_csv",
            words["mapped"][0] / words["bare"][0],
            1.5,
            "time",
        ),
        (
            "peak memory of that import over the forces' float64 size",
            words["import"][1] / words["import"][2],
            3.0,
            "memory",
        ),
    ]


def check_figures() -> list[tuple[str, float, float, str]]:
    import numpy as np
    from checks import batch_of, one_pass, plain_loop

    table, batch, families = batch_of(CONNECTIONS, COMBINATIONS)
    bulk = best(lambda: dict(batch.run(families)))
    one = best(lambda: one_pass(table), 5)
    sample = 40
    loop = plain_loop(table, families, batch, sample) * CONNECTIONS / sample
    assert np.isfinite(table).all()
    return [
        (f"plain Python loop (from {sample} connections) over a batch of 10,000 x 100", loop / bulk, -100.0, "time"),
        ("that batch over one NumPy pass of the same array", bulk / one, 50.0, "time"),
    ]


def mixed_figures() -> list[tuple[str, float, float, str]]:
    """Every kind of shear connection at once."""
    from checks import SHEAR_ENDS, batch_of, one_pass

    table, verify, stood = batch_of(CONNECTIONS, COMBINATIONS, *SHEAR_ENDS)
    _, size, afresh = batch_of(CONNECTIONS, COMBINATIONS, *SHEAR_ENDS, afresh=True)
    verifying, sizing = best(lambda: dict(verify.run(stood))), best(lambda: dict(size.run(afresh)))
    return [
        ("10,000 mixed shear connections x 100 sized, over verifying them", sizing / verifying, 5.0, "time"),
        (
            "verifying them over one NumPy pass of their forces",
            verifying / best(lambda: one_pass(table), 5),
            50.0,
            "time",
        ),
    ]


def base_figures() -> list[tuple[str, float, float, str]]:
    from bases import figures

    return figures(best)


def alike_figures() -> list[tuple[str, float, float, str]]:
    from alike import figures

    return figures(best)


def rule_figures() -> list[tuple[str, float, float, str]]:
    from rules import figures

    return figures(best)


def remedy_figures() -> list[tuple[str, float, float, str]]:
    from remedies import figures

    return figures()


def service_figures() -> Iterator[tuple[str, float, float, str]]:
    from service import figures

    with tempfile.TemporaryDirectory() as scratch:
        yield from figures(Path(scratch))


def manners_figures() -> list[tuple[str, float, float, str]]:
    from manners import figures

    with tempfile.TemporaryDirectory() as scratch:
        return figures(Path(scratch))


def key_figures() -> Iterator[tuple[str, float, float, str]]:
    from keys import figures

    with tempfile.TemporaryDirectory() as scratch:
        yield from figures(Path(scratch))


PARTS: dict[str, Callable[[], Iterable[tuple[str, float, float, str]]]] = {
    "import": import_figures,
    "checks": check_figures,
    "mixed": mixed_figures,
    "bases": base_figures,
    "alike": alike_figures,
    "rules": rule_figures,
    "remedies": remedy_figures,
    "keys": key_figures,
    "manners": manners_figures,
    "service": service_figures,
}


def main(wanted: list[str]) -> int:
    """All parts, or those that are named, each figure as it is found. A part that does not come to its end says why,
    and the others go on."""
    rows: list[dict[str, object]] = []
    fell = []
    print(f"{'figure':72s} {'value':>9s} {'goal':>9s}", flush=True)
    for part in wanted or PARTS:
        begun = time.perf_counter()
        try:
            for figure in PARTS[part]():
                rows.append(_told(*figure))
                (HERE / "latest.json").write_text(json.dumps(rows, indent=1) + "\n")
        except Exception:
            fell.append(part)
            print(f"{part}: did not come to its end\n{traceback.format_exc()}", flush=True)
            continue
        print(f"  {part} took {time.perf_counter() - begun:.0f} s", flush=True)
    return 1 if fell else 0


def _told(name: str, value: float, goal: float, _: str) -> dict[str, object]:
    """The row of a figure, printed. A goal below zero is one to be reached at least."""
    met = value >= -goal if goal < 0 else value <= goal
    sign = ">=" if goal < 0 else "<="
    print(f"{name:72s} {value:8.2f}x {sign}{abs(goal):6.1f}x  {'met' if met else 'not met'}", flush=True)
    return {
        "name": name,
        "value": round(value, 3),
        "goal": abs(goal),
        "at_least": goal < 0,
        "unit": "x",
        "met": met,
    }


if __name__ == "__main__":
    sys.path.insert(0, str(HERE))
    sys.exit(main(sys.argv[1:]))
