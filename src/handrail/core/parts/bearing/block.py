"""Bearing as a block of even pressure at its limit, anchors by equilibrium: moment about one axis (AISC Design Guide
1)."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from handrail.core.parts.bearing.footprint import Footprint

ROW = 1.0  # mm: anchors of one row
ALIKE = 1e-6  # mm: what two places may differ by
NO_ROWS = "the block method takes anchors in two rows, alike about both of the plate's middle lines"


@dataclass(frozen=True)
class Block:
    """`length` of the block, mm, from the edge that is pressed (`sign` +1 or -1 of the axis), and its `pressure`, MPa;
    `tensions` (..., anchors) N; `solved` where equilibrium is found, else the plate is too small. All in the loads'
    shape."""

    length: np.ndarray
    pressure: np.ndarray
    sign: np.ndarray
    tensions: np.ndarray
    solved: np.ndarray


def lever(plate: Footprint, axis: int) -> float:
    """From the middle to either row of anchors along `axis` (0 x, 1 y), mm. Raises ValueError where there are not two
    rows, each the other's mirror image, each alike on both sides of its own middle: what pulls would turn the plate
    about the other axis."""
    at, beside = plate.xy[:, axis], plate.xy[:, 1 - axis]
    far = float(np.abs(at).max(initial=0.0))
    if far < ROW or not np.all(np.abs(np.abs(at) - far) < ALIKE) or plate.pads:
        raise ValueError(NO_ROWS)
    plus, minus = np.sort(beside[at > 0]), np.sort(beside[at < 0])
    if (
        len(plus) != len(minus)
        or np.abs(plus - minus).max(initial=0.0) > ALIKE
        or np.abs(plus + plus[::-1]).max(initial=0.0) > ALIKE
    ):
        raise ValueError(NO_ROWS)
    return far


def block(plate: Footprint, axis: int, P: np.ndarray, M: np.ndarray, limit: float) -> Block:
    """Loads `P` (N, pressing +) with `M` (N*mm, + presses the + side of `axis`), in one shape, on concrete that bears
    `limit` MPa.

    While the resultant is within the kern of a block at its limit, the pressure is even over Y = N - 2 e and nothing
    pulls. Beyond, the block is at its limit and Y follows from moments about the anchors that pull: q Y (f + N/2 - Y/2)
    = P f + M, T = q Y - P. Where that has no root the plate is too small. Where nothing presses (P f + |M| <= 0) the
    anchors share the pull in a straight line."""
    f, (long, wide) = lever(plate, axis), (plate.length, plate.width) if axis == 0 else (plate.width, plate.length)
    P, M = np.broadcast_arrays(np.asarray(P, float), np.asarray(M, float))
    sign, moment, q = np.where(M >= 0, 1.0, -1.0), np.abs(M), limit * wide
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        e = np.where(P > 0, moment / P, np.inf)
        small = (P > 0) & (e <= long / 2 - P / (2 * q))
        crushed = (P > 0) & ~small & (e <= 1e-9 * long)  # more than the whole plate bears, with no moment
        even = np.where(P > 0, long - 2 * e, 0.0)
        about = P * f + moment
        inside = (f + long / 2) ** 2 - 2 * about / q
        deep = f + long / 2 - np.sqrt(np.maximum(inside, 0.0))
        lifted = ~small & (about <= 0)
        pulled = ~small & ~lifted & ~crushed
        Y = np.select([small | crushed, pulled], [even, deep], 0.0)
        solved = np.isfinite(P + M) & ~crushed & (lifted | small | (pulled & (inside >= 0) & (deep <= long)))
        pressure = np.select([small | crushed, pulled], [P / (even * wide), limit], 0.0)
        T = np.where(pulled, q * Y - P, 0.0)
    tensions = _shared(plate, axis, T, sign) + np.where(lifted[..., None], _straight(plate, axis, f, P, M), 0.0)
    solved = solved & ~(pulled & (T < 0))
    return Block(Y, pressure, sign, np.where(solved[..., None], tensions, np.nan), solved)


def _shared(plate: Footprint, axis: int, T: np.ndarray, sign: np.ndarray) -> np.ndarray:
    """A tension among the row away from the side that is pressed."""
    at = plate.xy[:, axis]
    pulls = at * sign[..., None] < 0
    return T[..., None] * pulls / (len(at) / 2)


def _straight(plate: Footprint, axis: int, f: float, P: np.ndarray, M: np.ndarray) -> np.ndarray:
    """Uplift and moment among all anchors, as their places in a straight line give it; none is below 0 where |M| <= -P
    f."""
    at = plate.xy[:, axis]
    return -P[..., None] / len(at) - M[..., None] * at / (len(at) * f**2)
