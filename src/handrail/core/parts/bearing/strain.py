"""Bearing by a plane of strain: the plate stays flat, the concrete presses, the anchors pull; moments about both axes."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from handrail.core.parts.bearing.footprint import Footprint

STRIPS = 64  # of the plate
TINY = 1e-12  # a strain too small to count
STEPS, HALVINGS = 80, 30
CHUNK = 4000  # loads solved at once
CLOSE = 1e-5  # of the loads, left over where it is solved
FAR = 0.1  # a strain that no base reaches: the plate is too small


@dataclass(frozen=True)
class Plane:
    """`strain` (..., 3): at the centre and its slopes along x and y, 1/mm, pressing +; `tensions` (..., anchors) N; `pressure` the
    largest under the plate, MPa; `left` the share of the loads that is out of balance; `solved` where that is next to nothing."""

    strain: np.ndarray
    tensions: np.ndarray
    pressure: np.ndarray
    left: np.ndarray
    solved: np.ndarray


def strain(plate: Footprint, P: np.ndarray, Mx: np.ndarray, My: np.ndarray, limit: float, Ec: float, Es: float) -> Plane:
    """Loads `P` (N, pressing +) with moments that press the + side of x (`Mx`) and of y (`My`), N*mm, all in one shape.

    Concrete: Ec times the strain, no more than `limit` MPa, nothing in tension. Anchors: Es times theirs in tension (a stretch length
    other than the concrete's belongs in Es), nothing pressing. The three unknowns are where the energy of all that is strained, less
    the work of the loads, is least: it is convex, so that Newton's steps, halved while they do not gain, find it from anywhere.
    """
    loads = np.stack(np.broadcast_arrays(*(np.asarray(v, float) for v in (P, Mx, My))), axis=-1)
    flat = loads.reshape(-1, 3)
    known = np.isfinite(flat).all(axis=1)
    found = np.zeros((len(flat), 3))
    section = _Section.of(plate, limit, Ec, Es)
    for start in range(0, len(flat), CHUNK):
        part = slice(start, start + CHUNK)
        found[part] = section.solve(np.where(known[part, None], flat[part], 0.0))
    pulls, pressure, inner = section.state(found)
    size = np.abs(flat) / section.arms
    left = (np.abs(inner - flat) / section.arms).max(axis=1) / np.maximum(size.max(axis=1), 1.0)
    solved = known & (left < 100 * CLOSE)
    pulls[~solved], pressure[~solved] = np.nan, np.nan
    shape = loads.shape[:-1]
    return Plane(found.reshape(*shape, 3), pulls.reshape(*shape, -1), pressure.reshape(shape), left.reshape(shape), solved.reshape(shape))


@dataclass(frozen=True, eq=False)
class _Section:
    """The plate in strips along y at `x`, in which strain runs in a straight line and everything is integrated in closed form; rods with
    their arms (1, x, y). `arms` are half the plate's sides."""

    x: np.ndarray
    wide: float
    rods: np.ndarray
    rod: float
    limit: float
    Ec: float
    Es: float
    arms: np.ndarray

    @classmethod
    @lru_cache(maxsize=512)
    def of(cls, plate: Footprint, limit: float, Ec: float, Es: float) -> _Section:
        pairs = np.arange(STRIPS // 2)[:, None] + 0.5 + np.array([-0.5, 0.5]) / np.sqrt(3)  # Gauss's points, two in each pair of strips
        x = (pairs.ravel() / (STRIPS // 2) - 0.5) * plate.length
        rods = np.column_stack([np.ones(len(plate.xy)), plate.xy])
        return cls(x, plate.length / STRIPS, rods, plate.area, limit, Ec, Es, np.array([1.0, plate.length / 2, plate.width / 2]))

    @property
    def full(self) -> float:
        """The strain at which the concrete is at its limit."""
        return self.limit / self.Ec

    def parts(self, u: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray, np.ndarray, np.ndarray, np.ndarray]:
        """Of strains `u` (m, 3), in each strip (m, strips): its strain at y = 0 and its slope; where it is pressed below the limit, from y
        to y; and where at it, from y to y."""
        half = self.arms[2]
        at = u[:, :1] + u[:, 1:2] * self.x
        slope = np.where(np.abs(u[:, 2:]) * half < TINY, np.copysign(TINY / half, u[:, 2:]), u[:, 2:])
        none, full = (np.clip((s - at) / slope, -half, half) for s in (0.0, self.full))
        up = slope > 0
        return at, slope, np.where(up, none, full), np.where(up, full, none), np.where(up, full, -half), np.where(up, half, full)

    def state(self, u: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """(tensions (m, rods), largest pressure (m,), inner forces (m, 3))."""
        at, slope, p, q, r, s = self.parts(u)
        force = self.Ec * (at * (q - p) + slope * (q**2 - p**2) / 2) + self.limit * (s - r)
        about = self.Ec * (at * (q**2 - p**2) / 2 + slope * (q**3 - p**3) / 3) + self.limit * (s**2 - r**2) / 2
        inner = np.stack([force.sum(axis=1), (force * self.x).sum(axis=1), about.sum(axis=1)], axis=1) * self.wide
        pulls = np.maximum(-(u @ self.rods.T), 0.0) * self.Es * self.rod
        corner = u[:, 0] + np.abs(u[:, 1:]) @ self.arms[1:]
        return pulls, np.clip(self.Ec * corner, 0.0, self.limit), inner - pulls @ self.rods

    def energy(self, u: np.ndarray, loads: np.ndarray) -> np.ndarray:
        """(m,) N: what is strained less the work of the loads."""
        at, slope, p, q, r, s = self.parts(u)
        soft = self.Ec / 2 * (at**2 * (q - p) + at * slope * (q**2 - p**2) + slope**2 * (q**3 - p**3) / 3)
        hard = self.limit * ((at - self.full / 2) * (s - r) + slope * (s**2 - r**2) / 2)
        steel = (np.maximum(-(u @ self.rods.T), 0.0) ** 2).sum(axis=1) * self.Es * self.rod / 2
        return (soft + hard).sum(axis=1) * self.wide + steel - (u * loads).sum(axis=1)

    def stiffness(self, u: np.ndarray) -> np.ndarray:
        """(m, 3, 3): of the concrete that is pressed below its limit and the rods that pull."""
        _, _, p, q, _, _ = self.parts(u)
        one, first, second = (self.Ec * self.wide * (q**k - p**k) / k for k in (1, 2, 3))
        found = np.empty((len(u), 3, 3))
        found[:, 0, 0], found[:, 2, 2] = one.sum(axis=1), second.sum(axis=1)
        found[:, 0, 1] = found[:, 1, 0] = (one * self.x).sum(axis=1)
        found[:, 1, 1] = (one * self.x**2).sum(axis=1)
        found[:, 0, 2] = found[:, 2, 0] = first.sum(axis=1)
        found[:, 1, 2] = found[:, 2, 1] = (first * self.x).sum(axis=1)
        pulling = (u @ self.rods.T < 0) * (self.Es * self.rod)
        return found + np.einsum("mr,ri,rj->mij", pulling, self.rods, self.rods)

    def solve(self, loads: np.ndarray) -> np.ndarray:
        """(m, 3) strains under `loads` (m, 3); what does not converge is left where it got to."""
        scale = np.diag(self.arms**-1.0)
        elastic = self.stiffness(np.array([[self.full / 2, 0.0, 0.0]]))[0]  # all of it pressed
        whole = (scale @ elastic @ scale).diagonal().max()
        u = np.linalg.solve(elastic, loads.T).T
        left = np.arange(len(loads))
        for _ in range(STEPS):
            here, mine = u[left], loads[left]
            _, _, inner = self.state(here)
            rest = mine - inner
            off = (np.abs(rest) / self.arms).max(axis=1)
            open_ = (off > CLOSE * np.maximum((np.abs(mine) / self.arms).max(axis=1), 1.0)) & (np.abs(here[:, 0]) < FAR)
            if not open_.any():
                break
            left, here, mine, rest = left[open_], here[open_], mine[open_], rest[open_]
            soft = scale @ self.stiffness(here) @ scale + np.eye(3) * whole * 1e-9
            step = np.linalg.solve(soft, (rest / self.arms)[..., None])[..., 0] / self.arms
            u[left] = here + self._gaining(here, step, mine)[:, None] * step
        return u

    def _gaining(self, u: np.ndarray, step: np.ndarray, loads: np.ndarray) -> np.ndarray:
        """How much of each step to take: halved until the energy falls by some of what the slope says."""
        before = self.energy(u, loads)
        slope = ((self.state(u)[2] - loads) * step).sum(axis=1)
        take = np.ones(len(u))
        for _ in range(HALVINGS):
            worse = self.energy(u + take[:, None] * step, loads) > before + 1e-4 * take * slope + 1e-12 * np.abs(before)
            if not worse.any():
                break
            take[worse] /= 2
        return take
