"""How many mutants die: a sample of the changes that could be made to what judges connections, each tried against the
tests.

Run `make mutants`, or `python bench/mutants.py --sample 40 --seed 7 parts codes`. It works on a copy of the repository,
never on this one. Which mutants lived is told with the change; one that moves a strength, a demand or a verdict is a
test that is missing. It needs cosmic-ray, which makes the changes.
"""

from __future__ import annotations

import argparse
import os
import random
import shutil
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from cosmic_ray.commands.init import init
from cosmic_ray.mutating import mutate_and_test
from cosmic_ray.work_db import WorkDB, use_db
from cosmic_ray.work_item import MutationSpec

ROOT = Path(__file__).parent.parent
ROOMS = ("parts", "codes", "standards", "checking")
SHOWN = ("drawing", "figures", "elevation", "breakout", "present")  # modules that show and judge nothing
FIRST, THEN = ("tests/worked",), ("tests/core", "tests/guides")
TIMEOUT = 1200.0  # seconds: what takes longer loops


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("rooms", nargs="*", default=ROOMS, help=f"of core, like {' '.join(ROOMS)}")
    parser.add_argument("--sample", type=int, default=40, help="how many mutants, the same of each room")
    parser.add_argument("--seed", type=int, default=None, help="which sample; another each time")
    args = parser.parse_args()
    seed = args.seed if args.seed is not None else random.randrange(10_000)
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / "copy"
        for name in ("src", "tests", "docs", "pyproject.toml"):
            source = ROOT / name
            (shutil.copytree if source.is_dir() else shutil.copy)(source, copy / name)  # type: ignore[operator]
        os.chdir(copy)
        os.environ["PYTHONPATH"] = str(copy / "src")
        os.environ["PYTHONDONTWRITEBYTECODE"] = "1"  # a mutant's bytecode would outlive it
        if subprocess.run(_tests(FIRST), stdout=subprocess.DEVNULL, check=False).returncode:
            print("the tests fail without any change: nothing can be said of mutants", file=sys.stderr)
            return 1
        return _try(args.rooms, args.sample, seed)


def _tests(folders: tuple[str, ...]) -> list[str]:
    return [sys.executable, "-m", "pytest", "-x", "-q", "-n", "auto", "-p", "no:randomly", *folders]


def _try(rooms: list[str], sample: int, seed: int) -> int:
    dice, lived, tried = random.Random(seed), [], 0
    for room in rooms:
        every = _mutations(room)
        for mutation in dice.sample(every, min(len(every), max(sample // len(rooms), 1))):
            tried, began = tried + 1, time.monotonic()
            diff = _survives(mutation)
            print(
                f"{'LIVES' if diff else 'dies':<6}{mutation.module_path}:{mutation.start_pos[0]}"
                f" {mutation.operator_name.removeprefix('core/')} ({time.monotonic() - began:.0f} s)",
                flush=True,
            )
            lived += [diff] if diff else []
    for diff in lived:
        print(f"\n{diff}")
    print(f"\nsample {seed}: {tried - len(lived)} of {tried} mutants died")
    return 0


def _mutations(room: str) -> list[MutationSpec]:
    """Every change that could be made to the modules of a room of core, where they judge."""
    modules = [
        path
        for path in sorted(Path("src/handrail/core", room).rglob("*.py"))
        if path.stem not in SHOWN and path.stem != "__init__"
    ]
    with use_db("mutants.sqlite", WorkDB.Mode.create) as database:
        init(modules, database, {})
        return [mutation for item in database.pending_work_items for mutation in item.mutations]


def _survives(mutation: MutationSpec) -> str:
    """The change, where every test passes with it; nothing where one fails, or it cannot be made."""
    for folders in (FIRST, THEN):
        result = mutate_and_test([mutation], " ".join(_tests(folders)), TIMEOUT)
        if result.is_killed or result.diff is None:
            return ""
    return str(result.diff)


if __name__ == "__main__":
    sys.exit(main())
