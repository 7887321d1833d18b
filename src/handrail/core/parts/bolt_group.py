"""An eccentrically loaded bolt group: instantaneous centre of rotation, or the elastic method.

A load of any direction is given by its angle theta = atan2(N, V): 0 is the member's shear up, 90 degrees
its tension. V acts in a line `e` to the support's side of the group's centroid, N through the centroid.
Forces are those on the member's web; those on the plate are their opposites. x points away from
the support, y up.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from handrail.core.units import INCH

DELTA_MAX = 0.34  # in., the bolt farthest from the centre
AT_MAX = (1 - np.exp(-10 * DELTA_MAX)) ** 0.55
RAMP = 1.0 * INCH  # below this lever the factor runs back to n bolts at no lever
STEP = np.radians(1.0)


@dataclass(frozen=True)
class BoltGroup:
    """`rows` lines along V at `pitch`, `columns` across at `gauge`, mm, centred."""

    rows: int
    columns: int
    pitch: float
    gauge: float

    @property
    def n(self) -> int:
        return self.rows * self.columns

    @property
    def coordinates(self) -> np.ndarray:
        """(n, 2) mm from the centroid; column by column from the support, each from the top down."""
        x = (np.arange(self.columns) - (self.columns - 1) / 2) * self.gauge
        y = ((self.rows - 1) / 2 - np.arange(self.rows)) * self.pitch
        return np.array([(cx, cy) for cx in x for cy in y])


@dataclass(frozen=True)
class Distribution:
    """Bolt forces for loads of many directions.

    `theta` (t,) rad; `C` (t,) effective bolts; `forces` (t, n, 2): each bolt's force on the web for a
    load of one in that direction.
    """

    theta: np.ndarray
    C: np.ndarray
    forces: np.ndarray


def directions() -> np.ndarray:
    """The angles of every direction table, a degree apart, from -180 to 180 degrees, rad."""
    return np.radians(np.arange(-180, 181, dtype=float))


def load_vectors(theta: np.ndarray) -> np.ndarray:
    """(t, 2) load on the web of one in direction theta: tension draws the web toward the support (-x)."""
    return np.stack([-np.sin(theta), np.cos(theta)], axis=-1)


@lru_cache(maxsize=1024)
def distribute(group: BoltGroup, e: float, method: str = "ic") -> Distribution:
    """The distribution over all directions; one quadrant is solved, the others are its mirror images."""
    quadrant = np.radians(np.arange(0, 91, dtype=float))
    solve = instantaneous_centre if method == "ic" else elastic
    C, forces = solve(group, e, quadrant)
    flip = np.arange(group.n).reshape(group.columns, group.rows)[:, ::-1].ravel()
    mirrored = forces[:, flip] * np.array([1.0, -1.0])  # V down, N pulling
    # theta: -180..-90 is (-V, -N), -90..0 (+V, -N), 0..90 (+V, +N), 90..180 (-V, +N)
    parts = (-forces[:-1], -mirrored[::-1][:-1], forces[:-1], mirrored[::-1])
    factors = (C[:-1], C[::-1][:-1], C[:-1], C[::-1])
    return Distribution(directions(), np.concatenate(factors), np.concatenate(parts))


def elastic(group: BoltGroup, e: float, theta: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """(C, forces) by the elastic method (Manual Part 7): direct share plus moment over polar inertia."""
    xy = group.coordinates
    load = load_vectors(theta)
    moment = -e * load[:, 1]
    J = float((xy**2).sum()) or 1.0
    turn = np.stack([-xy[:, 1], xy[:, 0]], axis=-1) / J
    forces = load[:, None, :] / group.n + moment[:, None, None] * turn[None]
    return 1 / np.linalg.norm(forces, axis=-1).max(axis=1), forces


def instantaneous_centre(group: BoltGroup, e: float, theta: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """(C, forces) by the instantaneous centre (Manual Part 7): R = Rult (1 - exp(-10 delta))^0.55.

    The farthest bolt is at 0.34 in., where R is 0.9815 Rult. A concentric group carries n Rult; below
    a lever of 1 in. the factor runs linearly from one to the other, so nothing jumps at no lever.
    """
    load = load_vectors(theta)
    moment = -e * load[:, 1]
    C = np.full(theta.shape, group.n * AT_MAX)
    forces = np.broadcast_to(load[:, None, :] / group.n, (len(theta), group.n, 2)).copy()
    turned = np.abs(moment) > 1e-6 * max(1.0, group.pitch)
    if group.n > 1 and turned.any():
        C[turned], forces[turned] = _solve(group.coordinates, load[turned], moment[turned])
    elif turned.any():
        C[turned] = 0.0  # one bolt has no resistance to a moment
    ramp = np.clip(1 - np.abs(moment) / RAMP, 0, 1)
    return C * (1 + (1 / AT_MAX - 1) * ramp), forces


def _solve(xy: np.ndarray, load: np.ndarray, moment: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Turn and shift the group until its bolts balance the load; Newton in two angles, all loads at once.

    The displacement is cos(psi) of a shift at beta to the load and sin(psi) of a turn, so that a centre
    far away (a load through the centroid, nearly) is as well conditioned as a near one.
    """
    n, J = len(xy), float((xy**2).sum())
    size = np.sqrt(J / n)
    turn = np.stack([-xy[:, 1], xy[:, 0]], axis=-1) / size
    across = np.stack([-load[:, 1], load[:, 0]], axis=-1)

    def bolts(psi: np.ndarray, beta: np.ndarray) -> np.ndarray:
        shift = np.cos(psi)[:, None] * (np.cos(beta)[:, None] * load + np.sin(beta)[:, None] * across)
        move = shift[:, None] + np.sin(psi)[:, None, None] * turn
        d = np.maximum(np.linalg.norm(move, axis=-1), 1e-12)
        R = (1 - np.exp(-10 * DELTA_MAX * d / d.max(axis=1, keepdims=True))) ** 0.55
        return (R / d)[..., None] * move

    def residual(psi: np.ndarray, beta: np.ndarray) -> np.ndarray:
        forces = bolts(psi, beta)
        total = forces.sum(axis=1)
        about = (xy[:, 0] * forces[..., 1] - xy[:, 1] * forces[..., 0]).sum(axis=1)
        along = (total * load).sum(axis=1)
        return np.stack([(total * across).sum(axis=1), (about - moment * along) / size], axis=-1)

    x = np.stack([np.arctan2(moment * size / J, 1 / n), np.zeros(len(load))], axis=-1)
    now = residual(x[:, 0], x[:, 1])
    for _ in range(60):
        if np.abs(now).max() < 1e-10 * n:
            break
        h = 1e-7
        by_psi = (residual(x[:, 0] + h, x[:, 1]) - now) / h
        by_beta = (residual(x[:, 0], x[:, 1] + h) - now) / h
        step = np.linalg.solve(np.stack([by_psi, by_beta], axis=-1), -now[..., None])[..., 0]
        step *= np.minimum(1.0, 0.5 / np.maximum(np.abs(step).max(axis=1), 1e-12))[:, None]
        for _ in range(8):  # halve a step that makes the balance worse
            trial = residual(x[:, 0] + step[:, 0], x[:, 1] + step[:, 1])
            worse = np.linalg.norm(trial, axis=1) > np.linalg.norm(now, axis=1)
            if not worse.any():
                break
            step[worse] /= 2
        x, now = x + step, residual(x[:, 0] + step[:, 0], x[:, 1] + step[:, 1])
    forces = bolts(x[:, 0], x[:, 1])
    C = (forces.sum(axis=1) * load).sum(axis=1)
    return C, forces / C[:, None, None]
