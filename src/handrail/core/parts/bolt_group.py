"""A bolt group at any positions under forces in its plane: instantaneous centre of rotation, or the elastic method.

Loads are (Fx, Fy, M) on the ply that the forces are given for: x points away from the support, y up, M turns
from x to y, about the group's centroid. Forces on the other ply are their opposites.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np

from handrail.core.parts.balance import balance
from handrail.core.quantities.units import INCH

DELTA_MAX = 0.34  # in., the bolt farthest from the centre
AT_MAX = float((1 - np.exp(-10 * DELTA_MAX)) ** 0.55)
RAMP = 1.0 * INCH  # below this lever the factor runs back to n bolts at no lever
CHUNK = 50_000  # loads solved at once
NEAR = 1e-6


@dataclass(frozen=True)
class BoltGroup:
    """Bolts at `points` (x, y), mm, from any origin."""

    points: tuple[tuple[float, float], ...]

    @property
    def n(self) -> int:
        """How many bolts."""
        return len(self.points)

    @cached_property
    def coordinates(self) -> np.ndarray:
        """(n, 2) mm from the centroid, in the order of `points`."""
        xy = np.array(self.points, float)
        return xy - xy.mean(axis=0)

    @cached_property
    def neighbours(self) -> np.ndarray:
        """(n, 4) mm to the next bolt right and left in its row, up and down in its column; without end where there is
        none."""
        xy = self.coordinates
        apart = xy[None] - xy[:, None]  # from each to each
        near = np.full((self.n, 4), np.inf)
        for side, (axis, sign) in enumerate(((0, 1), (0, -1), (1, 1), (1, -1))):
            inline = np.abs(apart[..., 1 - axis]) < NEAR
            steps = np.where(inline & (sign * apart[..., axis] > NEAR), sign * apart[..., axis], np.inf)
            near[:, side] = steps.min(axis=1)
        return near

    @cached_property
    def mirror(self) -> np.ndarray | None:
        """(n,) the bolt that each lies on when the group is turned over top to bottom; None where it is not alike."""
        xy = self.coordinates
        apart = np.abs(xy[:, None] * np.array([1.0, -1.0]) - xy[None]).max(axis=-1)
        return apart.argmin(axis=1) if bool((apart.min(axis=1) < NEAR).all()) else None


@dataclass(frozen=True)
class Grid:
    """`rows` bolts along V at `pitch`, in `columns` lines at `gauge`, mm."""

    rows: int
    columns: int
    pitch: float
    gauge: float

    @property
    def n(self) -> int:
        """How many bolts."""
        return self.rows * self.columns

    @property
    def depth(self) -> float:
        """First row to last, mm."""
        return (self.rows - 1) * self.pitch

    @property
    def width(self) -> float:
        """First line to last, mm."""
        return (self.columns - 1) * self.gauge

    @cached_property
    def group(self) -> BoltGroup:
        """Its bolts, line by line from the support, each from the top down; the same for all grids that are alike."""
        return _group(self)


@lru_cache(maxsize=4096)
def _group(grid: Grid) -> BoltGroup:
    x = (np.arange(grid.columns) - (grid.columns - 1) / 2) * grid.gauge
    y = ((grid.rows - 1) / 2 - np.arange(grid.rows)) * grid.pitch
    return BoltGroup(tuple((float(cx), float(cy)) for cx in x for cy in y))


@dataclass(frozen=True)
class Distribution:
    """Bolt forces under k loads.

    `factor` (k,): the load times this brings the busiest bolt to a strength of one. `forces` (k, n, 2): each
    bolt's force under the load itself.
    """

    factor: np.ndarray
    forces: np.ndarray


def solve(group: BoltGroup, loads: np.ndarray, method: str = "ic") -> Distribution:
    """The forces of every bolt under `loads` (k, 3) of Fx, Fy in N and M in N*mm about the centroid, all at once.

    `method` is ic (Manual Part 7, instantaneous centre) or elastic.
    """
    loads = np.asarray(loads, float)
    one = elastic if method == "elastic" else instantaneous_centre
    parts = [one(group, loads[k : k + CHUNK]) for k in range(0, len(loads), CHUNK)]
    if not parts:
        return Distribution(np.zeros(0), np.zeros((0, group.n, 2)))
    return Distribution(np.concatenate([f.factor for f in parts]), np.concatenate([f.forces for f in parts]))


def elastic(group: BoltGroup, loads: np.ndarray) -> Distribution:
    """The elastic method (Manual Part 7): direct share plus moment over polar inertia."""
    xy = group.coordinates
    J = float((xy**2).sum())
    turn = np.stack([-xy[:, 1], xy[:, 0]], axis=-1) / (J or 1.0)
    forces = loads[:, None, :2] / group.n + loads[:, 2, None, None] * turn[None]
    factor = _over(forces)
    if not J:
        factor[np.abs(loads[:, 2]) > NEAR * np.hypot(loads[:, 0], loads[:, 1])] = 0.0  # one bolt resists no moment
    return Distribution(factor, forces)


def _over(forces: np.ndarray) -> np.ndarray:
    """(k,) one over the largest force."""
    most = np.linalg.norm(forces, axis=-1).max(axis=1)
    with np.errstate(divide="ignore"):
        return np.where(most > 0, 1 / most, np.inf)


def instantaneous_centre(group: BoltGroup, loads: np.ndarray) -> Distribution:
    """The instantaneous centre (Manual Part 7): R = Rult (1 - exp(-10 delta))^0.55.

    The farthest bolt is at 0.34 in., where R is 0.9815 Rult. A concentric group carries n Rult; below a lever
    of 1 in. the factor runs linearly from one to the other, so nothing jumps at no lever.
    """
    direct = np.hypot(loads[:, 0], loads[:, 1])
    moment = np.abs(loads[:, 2])
    with np.errstate(divide="ignore", invalid="ignore"):
        factor = np.where(direct > 0, group.n * AT_MAX / direct, np.inf)
        lever = np.where(moment > 0, moment / direct, 0.0)
    forces = np.repeat(loads[:, None, :2] / group.n, group.n, axis=1)
    turned = moment > NEAR * np.maximum(direct, 1e-12) * INCH
    known = np.isfinite(loads).all(axis=1)
    if group.n > 1 and (turned & known).any():
        factor[turned & known], forces[turned & known] = balance(
            group.coordinates, np.ones(group.n), loads[turned & known], _resist
        )
    elif turned.any():
        factor[turned] = 0.0  # one bolt has no resistance to a moment
    factor[~known], forces[~known] = np.nan, np.nan
    ramp = np.clip(1 - lever / RAMP, 0, 1)
    return Distribution(factor * (1 + (1 / AT_MAX - 1) * ramp), forces)


def _resist(move: np.ndarray) -> np.ndarray:
    """Bolt forces for movements (k, n, 2), by the load-deformation curve, the farthest at DELTA_MAX."""
    size = np.maximum(np.linalg.norm(move, axis=-1), 1e-12)
    R = (1 - np.exp(-10 * DELTA_MAX * size / size.max(axis=1, keepdims=True))) ** 0.55
    return (R / size)[..., None] * move


@dataclass(frozen=True)
class ByDirection:
    """A group under V in a line `e` to the support's side of its centroid and N through it, for a load of one in
    each direction theta = atan2(N, V), a degree apart from -180 to 180.

    `theta` (361,) rad; `C` (361,) effective bolts; `forces` (361, n, 2) on the member.
    """

    theta: np.ndarray
    C: np.ndarray
    forces: np.ndarray
    e: float


def directions() -> np.ndarray:
    """The angles of every direction table, rad."""
    return np.radians(np.arange(-180, 181, dtype=float))


def load_vectors(theta: np.ndarray) -> np.ndarray:
    """(t, 2) load on the member of one in direction theta: tension draws it toward the support (-x)."""
    return np.stack([-np.sin(theta), np.cos(theta)], axis=-1)


def eccentric_loads(theta: np.ndarray, e: float) -> np.ndarray:
    """(t, 3) loads of one in directions theta, V at a lever `e` mm."""
    return np.concatenate([load_vectors(theta), -e * np.cos(theta)[:, None]], axis=1)


@lru_cache(maxsize=1024)
def by_direction(group: BoltGroup, e: float, method: str = "ic") -> ByDirection:
    """The distribution over all directions; where the group is alike top and bottom one quadrant is solved and
    the others are its mirror images."""
    theta = directions()
    if group.mirror is None:
        solved = solve(group, eccentric_loads(theta, e), method)
        return ByDirection(theta, solved.factor, solved.forces, e)
    solved = solve(group, eccentric_loads(np.radians(np.arange(0, 91, dtype=float)), e), method)
    C, forces = solved.factor, solved.forces
    mirrored = forces[:, group.mirror] * np.array([1.0, -1.0])  # V down, N pulling
    # theta: -180..-90 is (-V, -N), -90..0 (+V, -N), 0..90 (+V, +N), 90..180 (-V, +N)
    parts = (-forces[:-1], -mirrored[::-1][:-1], forces[:-1], mirrored[::-1])
    return ByDirection(theta, np.concatenate([C[:-1], C[::-1][:-1], C[:-1], C[::-1]]), np.concatenate(parts), e)
