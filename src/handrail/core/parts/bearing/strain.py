"""Bearing by a plane of strain: the plate stays flat, the concrete presses, the anchors pull; moments about both axes."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from handrail.core.parts.bearing.footprint import Footprint

STRIPS = 48  # of the plate each way
STEPS, HALVINGS = 80, 30
CHUNK = 400  # loads solved at once
CLOSE = 1e-5  # of the loads, left over where it is solved
FAR = 1.0  # a strain that no base reaches: the plate is too small


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
    """Fibres of concrete and anchors with their arms (1, x, y)."""

    fibres: np.ndarray
    area: float
    rods: np.ndarray
    rod: float
    limit: float
    Ec: float
    Es: float
    arms: np.ndarray

    @classmethod
    @lru_cache(maxsize=512)
    def of(cls, plate: Footprint, limit: float, Ec: float, Es: float) -> _Section:
        x = (np.arange(STRIPS) + 0.5) / STRIPS - 0.5
        gx, gy = np.meshgrid(x * plate.length, x * plate.width, indexing="ij")
        fibres = np.stack([np.ones(gx.size), gx.ravel(), gy.ravel()], axis=1)
        rods = np.column_stack([np.ones(len(plate.xy)), plate.xy])
        return cls(fibres, plate.length * plate.width / STRIPS**2, rods, plate.area, limit, Ec, Es,
                   np.array([1.0, plate.length / 2, plate.width / 2]))  # fmt: skip

    def state(self, u: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """(tensions (m, rods), largest pressure (m,), inner forces (m, 3)) of strains `u` (m, 3)."""
        pressed = np.clip(self.Ec * (u @ self.fibres.T), 0.0, self.limit)
        pulls = np.maximum(-(u @ self.rods.T), 0.0) * self.Es * self.rod
        corners = np.abs(u[:, 1]) * self.arms[1] + np.abs(u[:, 2]) * self.arms[2] + u[:, 0]
        return pulls, np.clip(self.Ec * corners, 0.0, self.limit), pressed @ self.fibres * self.area - pulls @ self.rods

    def energy(self, u: np.ndarray, loads: np.ndarray) -> np.ndarray:
        """(m,) N*mm a mm: what is strained less the work of the loads."""
        e = u @ self.fibres.T
        full = self.limit / self.Ec
        concrete = np.where(e <= 0, 0.0, np.where(e < full, self.Ec * e**2 / 2, self.limit * (e - full / 2))).sum(axis=1) * self.area
        steel = (np.maximum(-(u @ self.rods.T), 0.0) ** 2).sum(axis=1) * self.Es * self.rod / 2
        return concrete + steel - (u * loads).sum(axis=1)

    def stiffness(self, u: np.ndarray) -> np.ndarray:
        """(m, 3, 3): of the fibres that are pressed below their limit and the rods that pull."""
        e = u @ self.fibres.T
        on = ((e > 0) & (self.limit > self.Ec * e)) * (self.Ec * self.area)
        pulling = (u @ self.rods.T < 0) * (self.Es * self.rod)
        return np.einsum("mf,fi,fj->mij", on, self.fibres, self.fibres) + np.einsum("mr,ri,rj->mij", pulling, self.rods, self.rods)

    def solve(self, loads: np.ndarray) -> np.ndarray:
        """(m, 3) strains under `loads` (m, 3); what does not converge is left where it got to."""
        scale = np.diag(self.arms**-1.0)
        whole = (scale @ (self.fibres.T @ self.fibres * self.Ec * self.area) @ scale).diagonal().max()
        u = np.linalg.solve(self.fibres.T @ self.fibres * self.Ec * self.area, loads.T).T
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
