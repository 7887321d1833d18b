"""How a group of bolts or weld elements moves under a load in its plane, so that its forces run along that load."""

from __future__ import annotations

from collections.abc import Callable
from itertools import product
from typing import Any

import numpy as np

Resistance = Callable[[np.ndarray], np.ndarray]
ROUNDS = 80
SMALL = 1e-10
UNBALANCED = 1e-3  # of it: what is left beyond this has no answer
CLOSE = 1e-6  # of all elements' strength: what Newton may leave unbalanced


def balance(xy: np.ndarray, weight: np.ndarray, loads: np.ndarray, resist: Resistance) -> tuple[np.ndarray, np.ndarray]:
    """(factor (k,), forces (k, n, 2)): the load times its factor is what the elements reach; `forces` are theirs under
    the load. NaN where no balance is found.

    `xy` (n, 2) mm from the centroid by `weight` (n,); `loads` (k, 3) of Fx, Fy and M about it, none of them all zero;
    `resist` gives the elements' forces (k, n, 2) for their movements (k, n, 2), of which only the direction and the
    proportions count. Shift and turn are scaled alike (by the radius of gyration), so that the elastic movement has
    the load's own direction and the true one lies within a right angle of it, however far away the centre is;
    Newton's steps go from the one to the other, for all loads at once.
    """
    size = float(np.sqrt((weight[:, None] * xy**2).sum() / weight.sum()))
    turn = np.stack([-xy[:, 1], xy[:, 0]], axis=-1) / size
    scaled = loads * np.array([1.0, 1.0, 1 / size])
    length = np.linalg.norm(scaled, axis=1)
    q = scaled / length[:, None]
    e1, e2 = _square_to(q)

    def forces_at(step: np.ndarray, of: Any = ...) -> np.ndarray:
        d = q[of] + step[:, :1] * e1[of] + step[:, 1:] * e2[of]
        return resist(d[:, None, :2] + d[:, 2, None, None] * turn)

    def total(forces: np.ndarray) -> np.ndarray:
        return np.concatenate([forces.sum(axis=1), (turn * forces).sum(axis=(1, 2))[:, None]], axis=1)

    def residual(step: np.ndarray, of: Any = ...) -> np.ndarray:
        rest = total(forces_at(step, of))
        return np.stack([(rest * e1[of]).sum(axis=1), (rest * e2[of]).sum(axis=1)], axis=-1)

    step = np.zeros((len(loads), 2))
    now = residual(step)
    for _ in range(ROUNDS):
        if np.abs(now).max() < SMALL * weight.sum():
            break
        step, now = _newton(step, now, residual)
    far = np.abs(now).max(axis=1) > CLOSE * weight.sum()
    if far.any():
        step[far] = _search(step[far], now[far], lambda tried: residual(tried, far))
    forces = forces_at(step)
    reached = (total(forces) * q).sum(axis=1)
    reached[np.abs(residual(step)).max(axis=1) > UNBALANCED * weight.sum()] = np.nan
    return reached / length, forces * (length / reached)[:, None, None]


def _newton(step: np.ndarray, now: np.ndarray, residual: Resistance) -> tuple[np.ndarray, np.ndarray]:
    """One damped step for every load; a step that makes the balance worse is halved."""
    h = 1e-6
    columns = [(residual(step + h * unit) - now) / h for unit in np.eye(2)]
    jacobian = np.stack(columns, axis=-1)
    flat = np.abs(np.linalg.det(jacobian)) < 1e-14
    jacobian += np.where(flat, 1e-9, 0.0)[:, None, None] * np.eye(2)
    move = np.linalg.solve(jacobian, -now[..., None])[..., 0]
    move *= np.minimum(1.0, 0.5 / np.maximum(np.abs(move).max(axis=1), 1e-12))[:, None]
    before = np.linalg.norm(now, axis=1)
    after = residual(step + move)
    for _ in range(12):
        worse = np.linalg.norm(after, axis=1) > before
        if not worse.any():
            break
        move[worse] /= 2
        after = residual(step + move)
    return step + move, after


def _search(step: np.ndarray, now: np.ndarray, residual: Resistance) -> np.ndarray:
    """Where the curve has a corner (another element becomes the critical one) Newton's slope may mislead: a grid drawn
    closer and closer about its best point does not."""
    best, size, half = step.copy(), np.linalg.norm(now, axis=1), 1.5
    centre = np.zeros_like(step)
    for _ in range(24):
        for a, b in product(np.linspace(-half, half, 15), repeat=2):
            tried = centre + np.array((a, b))
            norm = np.linalg.norm(residual(tried), axis=1)
            better = norm < size
            best, size = np.where(better[:, None], tried, best), np.where(better, norm, size)
        centre, half = best, half * 0.45
    return best


def _square_to(q: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Two unit vectors (k, 3) square to each of `q` and to one another."""
    axis = np.eye(3)[np.abs(q).argmin(axis=1)]
    e1 = np.cross(q, axis)
    e1 /= np.linalg.norm(e1, axis=1, keepdims=True)
    return e1, np.cross(q, e1)
