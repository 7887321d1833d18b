"""What presses and what pulls by a plane of strain: the plate stays flat, what it stands on presses, ties pull; moments
about both axes."""

from __future__ import annotations

from dataclasses import dataclass, fields
from functools import lru_cache

import numpy as np

from handrail.core.parts.bearing.footprint import Footprint

TINY = 1e-100  # a strain in place of none, to divide by
STEPS, HALVINGS = 80, 30
CHUNK = 4000  # loads solved at once
CLOSE = 1e-9  # of the loads: where Newton stops
BALANCED = 1e-6  # of the loads: what is left over beyond this is no solution
FAR = 0.1  # a strain that no base reaches: the plate is too small
GAUSS = np.array([-1.0, 1.0]) / np.sqrt(3)  # two points, exact for what is cubic


@dataclass(frozen=True)
class Plane:
    """`strain` (..., 3): at the centre and its slopes along x and y, 1/mm, pressing +; `tensions` (..., ties) N;
    `pressure` the largest under the plate, MPa; `left` the share of the loads that is out of balance; `solved` where
    that is next to nothing."""

    strain: np.ndarray
    tensions: np.ndarray
    pressure: np.ndarray
    left: np.ndarray
    solved: np.ndarray


def strain(
    plate: Footprint, P: np.ndarray, Mx: np.ndarray, My: np.ndarray, limit: float, Ec: float, Es: float
) -> Plane:
    """Loads `P` (N, pressing +) with moments that press the + side of x (`Mx`) and of y (`My`), N*mm, all in one shape.

    What is pressed (all of the plate, or its pads): Ec times the strain, no more than `limit` MPa, nothing in tension.
    Ties: Es times theirs in tension (a stretch length other than what is pressed has belongs in Es), nothing pressing.
    The three unknowns are where the energy of all that is strained, less the work of the loads, is least: it is convex,
    so that Newton's steps, halved while they do not gain, find it from anywhere. N and both moments balance to one part
    in a million, or it is not solved."""
    loads = np.stack(np.broadcast_arrays(*(np.asarray(v, float) for v in (P, Mx, My))), axis=-1)
    flat = loads.reshape(-1, 3)
    known = np.isfinite(flat).all(axis=1)
    planes = np.zeros((len(flat), 3))
    section = _Section.of(plate, limit, Ec, Es)
    for start in range(0, len(flat), CHUNK):
        part = slice(start, start + CHUNK)
        planes[part] = section.solve(np.where(known[part, None], flat[part], 0.0))
    pulls, pressure = section.state(planes)
    inner = section.inner(planes, section.parts(planes))
    size = np.abs(flat) / section.arms
    left = (np.abs(inner - flat) / section.arms).max(axis=1) / np.maximum(size.max(axis=1), 1.0)
    solved = known & (left < BALANCED)
    pulls[~solved], pressure[~solved] = np.nan, np.nan
    shape = loads.shape[:-1]
    return Plane(
        planes.reshape(*shape, 3),
        pulls.reshape(*shape, -1),
        pressure.reshape(shape),
        left.reshape(shape),
        solved.reshape(shape),
    )


def pressed_moments(
    plate: Footprint, u: np.ndarray, limit: float, Ec: float, Es: float
) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """(force (m,), first moments (m, 2), polar second moment (m,)) of what presses under the strains `u` (m, 3), about
    the centre."""
    c = _Section.of(plate, limit, Ec, Es).parts(u)

    def of(power: int) -> np.ndarray:
        """The pressure times y to that power along each line."""
        soft = Ec * (
            c.at * (c.q ** (power + 1) - c.p ** (power + 1)) / (power + 1)
            + c.slope * (c.q ** (power + 2) - c.p ** (power + 2)) / (power + 2)
        )
        return (soft + limit * (c.s ** (power + 1) - c.r ** (power + 1)) / (power + 1)) * c.wide

    plain = of(0)
    first = np.stack([(plain * c.x).sum(axis=1), of(1).sum(axis=1)], axis=-1)
    return plain.sum(axis=1), first, (plain * c.x**2 + of(2)).sum(axis=1)


@dataclass(frozen=True, eq=False, kw_only=True)
class _Section:
    """Rectangles that can be pressed, `pads` (pads, 4) of x0, y0, x1, y1; ties with their arms (1, x, y) and stiffness
    `rod` mm^2. `arms` are half the plate's sides."""

    pads: np.ndarray
    rods: np.ndarray
    rod: float
    limit: float
    Ec: float
    Es: float
    arms: np.ndarray

    @classmethod
    @lru_cache(maxsize=512)
    def of(cls, plate: Footprint, limit: float, Ec: float, Es: float) -> _Section:
        rods = np.column_stack([np.ones(len(plate.xy)), plate.xy])
        return cls(
            pads=np.array(plate.pressed, float),
            rods=rods,
            rod=plate.area,
            limit=limit,
            Ec=Ec,
            Es=Es,
            arms=np.array([1.0, plate.length / 2, plate.width / 2]),
        )

    @property
    def full(self) -> float:
        """The strain at which what is pressed is at its limit."""
        return self.limit / self.Ec

    def parts(self, u: np.ndarray) -> _Parts:
        """Of strains `u` (m, 3): lines across the pads (along y) whose sum, weighted, is the integral over them,
        exactly.

        Along a line the strain is straight, and all is integrated in closed form. Between the places where a line of no
        strain or of the limit's leaves a pad by one of its long sides what a line gives is at most cubic in x: two of
        Gauss's points take each part."""
        x0, y0, x1, y1 = self.pads.T
        slope_x = np.where(
            np.abs(u[:, 1:2]) * self.arms[1] < TINY, np.copysign(TINY / self.arms[1], u[:, 1:2]), u[:, 1:2]
        )
        leaves = [(level - u[:, :1] - u[:, 2:] * y) / slope_x for level in (0.0, self.full) for y in (y0, y1)]
        ends = np.stack([np.broadcast_to(x0, leaves[0].shape), *leaves, np.broadcast_to(x1, leaves[0].shape)], axis=-1)
        ends = np.sort(np.clip(ends, x0[:, None], x1[:, None]), axis=-1)
        half, middle = (ends[..., 1:] - ends[..., :-1]) / 2, (ends[..., 1:] + ends[..., :-1]) / 2
        x = (middle[..., None] + half[..., None] * GAUSS).reshape(len(u), -1)
        wide = np.broadcast_to(half[..., None], (*half.shape, 2)).reshape(len(u), -1)
        each = x.shape[1] // len(self.pads)
        low, high = np.repeat(y0, each), np.repeat(y1, each)
        at = u[:, :1] + u[:, 1:2] * x
        slope = np.where(np.abs(u[:, 2:]) * self.arms[2] < TINY, np.copysign(TINY / self.arms[2], u[:, 2:]), u[:, 2:])
        none, full = (np.clip((s - at) / slope, low, high) for s in (0.0, self.full))
        up = slope > 0
        return _Parts(
            x=x,
            wide=wide,
            at=at,
            slope=slope,
            p=np.where(up, none, full),
            q=np.where(up, full, none),
            r=np.where(up, full, low),
            s=np.where(up, high, full),
        )

    def state(self, u: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """(tensions (m, ties), largest pressure (m,))."""
        x0, y0, x1, y1 = self.pads.T
        corner = np.max([u[:, :1] + u[:, 1:2] * x + u[:, 2:] * y for x in (x0, x1) for y in (y0, y1)], axis=0)
        return self._pulls(u), np.clip(self.Ec * corner.max(axis=1), 0.0, self.limit)

    def _pulls(self, u: np.ndarray) -> np.ndarray:
        return np.maximum(-(u @ self.rods.T), 0.0) * self.Es * self.rod

    def inner(self, u: np.ndarray, c: _Parts) -> np.ndarray:
        """(m, 3): the inner forces of the strains `u` with their parts."""
        force = (self.Ec * (c.at * (c.q - c.p) + c.slope * (c.q**2 - c.p**2) / 2) + self.limit * (c.s - c.r)) * c.wide
        about = (
            self.Ec * (c.at * (c.q**2 - c.p**2) / 2 + c.slope * (c.q**3 - c.p**3) / 3)
            + self.limit * (c.s**2 - c.r**2) / 2
        ) * c.wide
        pressed = np.stack([force.sum(axis=1), (force * c.x).sum(axis=1), about.sum(axis=1)], axis=1)
        return pressed - self._pulls(u) @ self.rods

    def energy(self, u: np.ndarray, c: _Parts, loads: np.ndarray) -> np.ndarray:
        """(m,) N: what is strained less the work of the loads."""
        soft = (
            self.Ec
            / 2
            * (c.at**2 * (c.q - c.p) + c.at * c.slope * (c.q**2 - c.p**2) + c.slope**2 * (c.q**3 - c.p**3) / 3)
        )
        hard = self.limit * ((c.at - self.full / 2) * (c.s - c.r) + c.slope * (c.s**2 - c.r**2) / 2)
        steel = (np.maximum(-(u @ self.rods.T), 0.0) ** 2).sum(axis=1) * self.Es * self.rod / 2
        return ((soft + hard) * c.wide).sum(axis=1) + steel - (u * loads).sum(axis=1)

    def stiffness(self, u: np.ndarray, c: _Parts) -> np.ndarray:
        """(m, 3, 3): of what is pressed below its limit and the ties that pull."""
        one, first, second = (self.Ec * c.wide * (c.q**k - c.p**k) / k for k in (1, 2, 3))
        stiff = np.empty((len(u), 3, 3))
        stiff[:, 0, 0], stiff[:, 2, 2] = one.sum(axis=1), second.sum(axis=1)
        stiff[:, 0, 1] = stiff[:, 1, 0] = (one * c.x).sum(axis=1)
        stiff[:, 1, 1] = (one * c.x**2).sum(axis=1)
        stiff[:, 0, 2] = stiff[:, 2, 0] = first.sum(axis=1)
        stiff[:, 1, 2] = stiff[:, 2, 1] = (first * c.x).sum(axis=1)
        pulling = (u @ self.rods.T < 0) * (self.Es * self.rod)
        return stiff + np.einsum("mr,ri,rj->mij", pulling, self.rods, self.rods)

    def solve(self, loads: np.ndarray) -> np.ndarray:
        """(m, 3) strains under `loads` (m, 3); what does not converge is left where it got to."""
        scale = np.diag(self.arms**-1.0)
        pressed = np.array([[self.full / 2, 0.0, 0.0]])
        elastic = self.stiffness(pressed, self.parts(pressed))[0]  # all of it pressed
        whole = (scale @ elastic @ scale).diagonal().max()
        u = np.linalg.solve(elastic, loads.T).T
        left, parts = np.arange(len(loads)), self.parts(u)
        for _ in range(STEPS):
            here, mine = u[left], loads[left]
            rest = mine - self.inner(here, parts)
            off = (np.abs(rest) / self.arms).max(axis=1)
            open_ = (off > CLOSE * np.maximum((np.abs(mine) / self.arms).max(axis=1), 1.0)) & (np.abs(here[:, 0]) < FAR)
            if not open_.any():
                break
            left, here, mine, rest, parts = left[open_], here[open_], mine[open_], rest[open_], parts.of(open_)
            soft = scale @ self.stiffness(here, parts) @ scale + np.eye(3) * whole * 1e-9
            step = np.linalg.solve(soft, (rest / self.arms)[..., None])[..., 0] / self.arms
            u[left], parts = self._gaining(here, parts, step, mine, rest)
        return u

    def _gaining(
        self, u: np.ndarray, parts: _Parts, step: np.ndarray, loads: np.ndarray, rest: np.ndarray
    ) -> tuple[np.ndarray, _Parts]:
        """Where each step leads, with its parts: halved until the energy falls by some of what the slope says."""
        before = self.energy(u, parts, loads)
        slope = (-rest * step).sum(axis=1)
        take = np.ones(len(u))
        for _ in range(HALVINGS):
            there = u + take[:, None] * step
            parts = self.parts(there)
            worse = self.energy(there, parts, loads) > before + 1e-4 * take * slope + 1e-12 * np.abs(before)
            if not worse.any():
                return there, parts
            take[worse] /= 2
        there = u + take[:, None] * step
        return there, self.parts(there)


@dataclass(frozen=True, eq=False, kw_only=True)
class _Parts:
    """Lines along y at `x`, each standing for `wide` mm, (m, lines): the strain at y = 0 and its slope; pressed below
    the limit from y = `p` to `q`, at the limit from `r` to `s`."""

    x: np.ndarray
    wide: np.ndarray
    at: np.ndarray
    slope: np.ndarray
    p: np.ndarray
    q: np.ndarray
    r: np.ndarray
    s: np.ndarray

    def of(self, which: np.ndarray) -> _Parts:
        """Those of some of the strains."""
        return _Parts(**{f.name: getattr(self, f.name)[which] for f in fields(self)})
