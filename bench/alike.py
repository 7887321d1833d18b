"""Patterns and their peaks over one NumPy pass of the same forces: a tower of 10,248 members under 100 combinations of
made-up forces."""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from pathlib import Path

import numpy as np
from tall_building import main as write

from handrail.core.building.framing import frame
from handrail.core.building.patterns import find_patterns, peaks_of
from handrail.interchange.bundle import read_bundle

FLOORS, COMBINATIONS = 8, 100


def figures(best: Callable[..., float]) -> list[tuple[str, float, float, str]]:
    """The one figure; forces are of every connection in every combination."""
    with tempfile.TemporaryDirectory() as scratch:
        write(Path(scratch), FLOORS)
        building = read_bundle(Path(scratch))
    framing = frame(building)
    table = np.random.default_rng(8).normal(size=(len(framing.connections), COMBINATIONS, 6))
    acting = {c.id: table[k] for k, c in enumerate(framing.connections)}
    names = tuple(f"combination {k}" for k in range(COMBINATIONS))

    def alike() -> None:
        for pattern in find_patterns(building, framing):
            for slot in range(len(pattern.slots)):
                peaks_of(pattern, slot, acting, names)

    both = best(alike), best(lambda: (table.max(axis=(0, 1)), table.min(axis=(0, 1))), 5)
    return [
        (
            "patterns and peaks of 10,248 members x 100 over one NumPy pass (largest, smallest)",
            both[0] / both[1],
            10.0,
            "time",
        )
    ]
