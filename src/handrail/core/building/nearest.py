"""Which of two lists of places are the same: each with the nearest of the other within a distance, nobody taken
twice."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterator
from itertools import product

import numpy as np

SAME = 25.0  # mm that a member's end may move by from one revision to the next and be the same
_AROUND = tuple(product((-1, 0, 1), repeat=3))
Rank = Callable[[int, int], float]


def nearest(
    old: np.ndarray, new: np.ndarray, within: float, rank: Rank = lambda old, new: 0.0, either_way: bool = False
) -> dict[int, int]:
    """old -> new of places (k, 3 x points) mm: no point of a pair is further apart than `within`; of the pairs that
    could be, the one of the lowest `rank` comes first, then the nearest, then the one that was given first.
    `either_way`: members by both ends, whichever way they are drawn."""
    if not len(old) or not len(new) or within <= 0:
        return {}
    pairs = list(_pairs(old, new, within))
    if either_way:
        pairs += _pairs(old, new[:, [3, 4, 5, 0, 1, 2]], within)
    matched: dict[int, int] = {}
    taken: set[int] = set()
    for _, _, k, n in sorted((rank(k, n), apart, k, n) for apart, k, n in pairs):
        if k not in matched and n not in taken:
            matched[k] = n
            taken.add(n)
    return matched


def _pairs(old: np.ndarray, new: np.ndarray, within: float) -> Iterator[tuple[float, int, int]]:
    """(distance of the points that are furthest apart, old, new) of those within it."""
    cells: dict[tuple[int, ...], list[int]] = defaultdict(list)
    for n, cell in enumerate(np.floor(new[:, :3] / within).astype(int).tolist()):
        cells[tuple(cell)].append(n)
    for k, (x, y, z) in enumerate(np.floor(old[:, :3] / within).astype(int).tolist()):
        near = [n for a, b, c in _AROUND for n in cells.get((x + a, y + b, z + c), ())]
        if near:
            apart = np.linalg.norm((new[near] - old[k]).reshape(len(near), -1, 3), axis=2).max(axis=1)
            yield from ((float(d), k, n) for d, n in zip(apart, near, strict=True) if d <= within)
