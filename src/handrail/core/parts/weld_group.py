"""A group of fillet welds under forces in its plane: instantaneous centre of rotation, or the elastic method.

Axes and signs are the bolt group's: x away from the support, y up, M from x to y, about the centroid of the lines.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from handrail.core.parts.balance import balance
from handrail.core.parts.bolt_group import Distribution

Line = tuple[float, float, float, float]  # x0, y0, x1, y1, mm
ELEMENTS = 40  # of each line
# of the largest movement: an element that hardly moves carries less, so that none jumps from one side to the other
STILL = 0.02
CHUNK = 5_000  # loads solved at once


@dataclass(frozen=True)
class WeldGroup:
    """Fillets of one size along straight `lines`, mm, from any origin."""

    lines: tuple[Line, ...]

    @property
    def length(self) -> float:
        """All lines together, mm."""
        return float(self.element_lengths.sum())

    @cached_property
    def _elements(self) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """Middles (n, 2), lengths (n,) and directions (n,) rad of the elements."""
        middles, lengths, angles = [], [], []
        part = (np.arange(ELEMENTS) + 0.5) / ELEMENTS
        for x0, y0, x1, y1 in self.lines:
            middles.append(np.stack([x0 + part * (x1 - x0), y0 + part * (y1 - y0)], axis=-1))
            lengths.append(np.full(ELEMENTS, np.hypot(x1 - x0, y1 - y0) / ELEMENTS))
            angles.append(np.full(ELEMENTS, np.arctan2(y1 - y0, x1 - x0)))
        return np.concatenate(middles), np.concatenate(lengths), np.concatenate(angles)

    @property
    def element_lengths(self) -> np.ndarray:
        """(n,) mm."""
        return self._elements[1]

    @property
    def element_angles(self) -> np.ndarray:
        """(n,) directions of the elements' lines, rad from x."""
        return self._elements[2]

    @cached_property
    def centroid(self) -> np.ndarray:
        """(2,) of the lines, mm from their origin."""
        middles, lengths, _ = self._elements
        return (middles * lengths[:, None]).sum(axis=0) / lengths.sum()

    @cached_property
    def coordinates(self) -> np.ndarray:
        """(n, 2) middles of the elements from the centroid, mm."""
        return self._elements[0] - self.centroid


def line(length: float) -> WeldGroup:
    """One vertical line."""
    return WeldGroup(((0.0, 0.0, 0.0, length),))


def parallel(length: float, apart: float) -> WeldGroup:
    """Two vertical lines."""
    return WeldGroup(((0.0, 0.0, 0.0, length), (apart, 0.0, apart, length)))


def ell(vertical: float, horizontal: float) -> WeldGroup:
    """A vertical line and one along its foot, away from the support."""
    return WeldGroup(((0.0, 0.0, 0.0, vertical), (0.0, 0.0, horizontal, 0.0)))


def channel(vertical: float, horizontal: float) -> WeldGroup:
    """A vertical line with a line away from the support at both its ends."""
    return WeldGroup(((0.0, 0.0, 0.0, vertical), (0.0, 0.0, horizontal, 0.0), (0.0, vertical, horizontal, vertical)))


def solve(group: WeldGroup, loads: np.ndarray, method: str = "ic") -> Distribution:
    """The force of every element under `loads` (k, 3) of Fx, Fy in N and M in N*mm about the centroid.

    `factor` brings the group to its strength where one mm of fillet loaded along its line carries one N;
    `method` is ic (Manual Part 8, with the directional increase of J2.4) or elastic (without it).
    """
    loads = np.asarray(loads, float)
    if method == "elastic":
        return _elastic(group, loads)
    factor, forces = np.full(len(loads), np.nan), np.full((len(loads), len(group.element_lengths), 2), np.nan)
    idle = (loads == 0).all(axis=1)
    factor[idle], forces[idle] = np.inf, 0.0
    todo = np.nonzero(np.isfinite(loads).all(axis=1) & ~idle)[0]
    for k in range(0, len(todo), CHUNK):
        at = todo[k : k + CHUNK]
        factor[at], forces[at] = balance(
            group.coordinates, group.element_lengths, loads[at], lambda move: _resist(group, move)
        )
    return Distribution(factor, forces)


def _resist(group: WeldGroup, move: np.ndarray) -> np.ndarray:
    """Element forces for movements (k, n, 2): Part 8's curve, the first element that would tear at its limit.

    R = (1 + 0.5 sin^1.5 theta) (p (1.9 - 0.9 p))^0.3, p = delta/delta_m; delta_m = 0.209 (theta + 2)^-0.32 w and
    delta_u = 1.087 (theta + 6)^-0.65 w <= 0.17 w, theta in degrees from the line to the force.
    """
    size = np.maximum(np.linalg.norm(move, axis=-1), 1e-12)
    across = np.abs(np.sin(np.arctan2(move[..., 1], move[..., 0]) - group.element_angles))
    theta = np.degrees(np.arcsin(np.clip(across, 0, 1)))
    most = 0.209 * (theta + 2) ** -0.32
    last = np.minimum(1.087 * (theta + 6) ** -0.65, 0.17)
    scale = (last / size).min(axis=1, keepdims=True)
    p = scale * size / most
    R = (1 + 0.5 * across**1.5) * np.maximum(p * (1.9 - 0.9 * p), 0.0) ** 0.3
    R *= np.minimum(size / (STILL * size.max(axis=1, keepdims=True)), 1.0)
    return (R * group.element_lengths / size)[..., None] * move


def _elastic(group: WeldGroup, loads: np.ndarray) -> Distribution:
    """The elastic method: the largest force of any point, at a line's end, without directional increase."""
    xy, lengths = group.coordinates, group.element_lengths
    ends = np.array([(x, y) for x0, y0, x1, y1 in group.lines for x, y in ((x0, y0), (x1, y1))]) - group.centroid
    L = lengths.sum()
    own = lengths**3 / 12  # of each element about its own middle
    J = float((lengths * (xy**2).sum(axis=1)).sum() + own.sum())

    def flow(at: np.ndarray) -> np.ndarray:
        turn = np.stack([-at[:, 1], at[:, 0]], axis=-1)
        return loads[:, None, :2] / L + loads[:, 2, None, None] * turn[None] / J

    most = np.linalg.norm(flow(ends), axis=-1).max(axis=1)
    with np.errstate(divide="ignore"):
        factor = np.where(most > 0, 1 / most, np.inf)
    return Distribution(factor, flow(xy) * lengths[None, :, None])
