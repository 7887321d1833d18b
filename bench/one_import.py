"""One import in a process of its own: prints seconds, peak bytes over the start, bytes of the forces as float64."""

from __future__ import annotations

import resource
import sys
import time
from pathlib import Path

import polars as pl

from handrail.core import catalogue
from handrail.interchange.bundle import read_bundle
from handrail.interchange.incoming import read_model


def peak() -> float:
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss * 1024.0


def main(what: str, folder: Path) -> None:
    pl.read_csv(b"a\n1\n")  # the reader's own start is not counted, nor the catalogue's: a service has both behind it
    catalogue.section("W12X26")
    before, begun = peak(), time.perf_counter()
    if what == "bare":
        size = pl.read_csv(folder / "end_forces.csv").height * 48.0
    elif what == "mapped":
        size = float(read_model(folder, (folder / "map.toml").read_text()).forces.nbytes)
    else:
        size = float(read_bundle(folder).forces.nbytes)
    print(time.perf_counter() - begun, peak() - before, size)


if __name__ == "__main__":
    main(sys.argv[1], Path(sys.argv[2]))
