"""Where bars beside anchors stand when only their number is said."""

from __future__ import annotations

import math

import numpy as np

from handrail.core.errors import InputError

Point = tuple[float, float]
LAYERS = 2.0  # diameters clear between layers of legs


def around(rods: tuple[Point, ...], count: int, off: float) -> tuple[Point, ...]:
    """`count` upright bars, in turn one to each rod, `off` mm from it: first outwards along, then outwards across,
    inwards along, inwards across. Raises InputError where a rod would have more than four."""
    if count > 4 * len(rods):
        raise InputError(f"{count} bars are more than four a rod: give their places (tension_bar_points)")
    middle = np.mean(rods, axis=0)
    points = []
    for k in range(count):
        x, y = rods[k % len(rods)]
        turn = k // len(rods)
        out = math.copysign(1.0, (x, y)[turn % 2] - middle[turn % 2] + 1e-9) * (1 if turn < 2 else -1)
        points.append((x + off * out, y) if turn % 2 == 0 else (x, y + off * out))
    return tuple(points)


def beside(lines: list[float], count: int, off: float, depth: float, d: float) -> tuple[Point, ...]:
    """(place, depth) of `count` level legs of diameter `d`, in turn one to each of the `lines` in which rods stand,
    `off` mm beside it: first outside, then inside, then so again in a deeper layer."""
    middle = (min(lines) + max(lines)) / 2
    points = []
    for k in range(count):
        line, turn = lines[k % len(lines)], k // len(lines)
        out = math.copysign(1.0, line - middle + 1e-9) * (1 if turn % 2 == 0 else -1)
        points.append((line + off * out, depth + (turn // 2) * (1 + LAYERS) * d))
    return tuple(points)


def closest(points: tuple[Point, ...]) -> float:
    """Between the two of them that are nearest to each other, mm; without end of one."""
    at = np.array(points)
    apart = np.linalg.norm(at[:, None] - at[None], axis=-1)
    return float(apart[np.triu_indices(len(points), 1)].min(initial=math.inf))
