"""Anchors at any positions in a block of concrete: their steel, edge distances, which act as one group, the areas that
break out."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from functools import cached_property, lru_cache

import numpy as np

from handrail.core.catalogue import Rod
from handrail.core.codes.concrete import ConcreteCode
from handrail.core.parts.anchors.installed import Installed
from handrail.core.quantities.lines import NULL, Trace

NEAR = 1.0  # mm: anchors that stand in one row
SIDES = ("-x", "+x", "-y", "+y")


@dataclass(frozen=True, kw_only=True)
class Concrete:
    """The block: `fc` MPa, `thickness` mm; from the plate's centre to its edges on the minus and the plus side, `along`
    x and `across` it, mm (without end where too far to count). `confined` says that supplementary reinforcement is
    there (17.5.3); `light` is lambda."""

    fc: float
    thickness: float
    along: tuple[float, float] = (math.inf, math.inf)
    across: tuple[float, float] = (math.inf, math.inf)
    cracked: bool = True
    confined: bool = False
    light: float = 1.0


@dataclass(frozen=True, kw_only=True)
class AnchorGroup:
    """Headed rods, or rods and anchors `installed` afterwards, all alike, at `points` (x, y) mm from the plate's
    centre, embedded `hef` mm.

    `grout` is a pad under the plate; `welded` says that plate washers welded to the plate let every rod take shear;
    `seismic` that 17.10 applies to it."""

    points: tuple[tuple[float, float], ...]
    rod: Rod
    hef: float
    concrete: Concrete
    grout: bool = True
    welded: bool = False
    seismic: bool = False
    installed: Installed | None = None
    code: ConcreteCode = field(kw_only=True)

    @property
    def category(self) -> int:
        """1 to 3 of post-installed anchors (17.5.3), 0 of cast-in rods."""
        return self.installed.category if self.installed else 0

    @property
    def light(self) -> float:
        """lambda_a of what breaks out (17.2.4.1)."""
        own, kind = self.concrete.light, self.installed.kind if self.installed else ""
        return own * self.code.installed.light(kind) if kind and own < 1.0 else own

    def steel_tension(self, trace: Trace = NULL) -> float:
        """Design strength of one anchor's steel, N (17.6.1): a report's is taken for brittle steel."""
        if self.installed and self.installed.steel_tension:
            Nsa = self.code.installed.steel(self.installed.steel_tension, trace)
            return self.code.available(Nsa, "steel_tension", False, trace)
        return self.code.tension.steel(self.rod, trace)

    def steel_shear(self, trace: Trace = NULL) -> float:
        """Design strength of one anchor's steel, N (17.7.1)."""
        if self.installed and self.installed.steel_shear:
            Vsa = self.code.shear.reported(self.installed.steel_shear, self.grout, trace)
            return self.code.available(Vsa, "steel_shear", False, trace, "V")
        return self.code.shear.steel(self.rod, self.grout, trace)

    def uncracked(self, nearest: float, hef: float) -> float:
        """psi_c,N psi_cp,N: what concrete without cracks gives, and what it may split by, with an edge `nearest` mm off
        (17.6.2.5, 17.6.2.6)."""
        if self.concrete.cracked:
            return 1.0
        if self.installed is None:
            return self.code.tension.uncracked
        return self.code.installed.uncracked(self.installed.kc) * self.splitting(nearest, 1.5 * hef)

    def splitting(self, nearest: float, least: float) -> float:
        """psi_cp of post-installed anchors in concrete without cracks or reinforcement that holds a split (17.6.2.6,
        17.6.5.5)."""
        if self.installed is None or self.concrete.cracked or self.concrete.confined:
            return 1.0
        return self.code.installed.splitting_factor(nearest, self.installed.critical_edge, least)

    @property
    def bearing_length(self) -> float:
        """le in shear, mm (17.7.2.2.1)."""
        return self.code.installed.bears(self.installed.kind, self.hef, self.rod.d) if self.installed else self.hef

    @property
    def n(self) -> int:
        """How many."""
        return len(self.points)

    @cached_property
    def xy(self) -> np.ndarray:
        """(n, 2) mm."""
        return np.array(self.points, float)

    @cached_property
    def edges(self) -> np.ndarray:
        """(n, 4) from each rod to the edges of SIDES, mm; below 0 where it stands outside."""
        c, (x, y) = self.concrete, self.xy.T
        return np.stack([x + c.along[0], c.along[1] - x, y + c.across[0], c.across[1] - y], axis=1)

    def groups(self, among: tuple[int, ...], reach: float) -> list[tuple[int, ...]]:
        """The rods of `among` by which break out together: those within twice `reach` of each other both ways, one by
        one (ACI 318-19 2.3: closer than the critical spacing)."""
        left, groups = list(among), []
        while left:
            own, new = [], [left.pop(0)]
            while new:
                own += new
                near = [k for k in left if any((np.abs(self.xy[k] - self.xy[j]) < 2 * reach).all() for j in new)]
                left = [k for k in left if k not in near]
                new = near
            groups.append(tuple(sorted(own)))
        return groups

    def spacing(self, among: tuple[int, ...]) -> float:
        """The largest between neighbouring rows or lines of `among`, mm; 0 of one rod."""
        return max(widest(self.xy[list(among), axis]) for axis in (0, 1))

    def effective_depth(self, among: tuple[int, ...]) -> float:
        """hef for breakout: less where three edges or more are within 1.5 hef (17.6.2.1.2), mm."""
        nearest = self.edges[list(among)].min(axis=0)
        close = nearest[nearest < 1.5 * self.hef]
        if len(close) < 3:
            return self.hef
        return min(self.hef, max(float(close.max()) / 1.5, self.spacing(among) / 3))

    def area(self, among: tuple[int, ...], reach: float) -> float:
        """ANc, mm^2 (17.6.2.1.1, `reach` 1.5 hef), and ANa (17.6.5.1.1, cNa): what squares of `reach` mm about the rods
        cover inside the concrete, each part once."""
        at, to = self.xy[list(among)], np.minimum(self.edges[list(among)], reach)
        boxes = np.stack([at[:, 0] - to[:, 0], at[:, 0] + to[:, 1], at[:, 1] - to[:, 2], at[:, 1] + to[:, 3]], axis=1)
        xs, ys = np.unique(boxes[:, :2]), np.unique(boxes[:, 2:])
        mx, my = (xs[1:] + xs[:-1]) / 2, (ys[1:] + ys[:-1]) / 2
        inside = (boxes[:, 0, None, None] < mx[:, None]) & (mx[:, None] < boxes[:, 1, None, None])
        inside = inside & (boxes[:, 2, None, None] < my) & (my < boxes[:, 3, None, None])
        return float((np.diff(xs)[:, None] * np.diff(ys) * inside.any(axis=0)).sum())

    def rows(self, side: int) -> list[tuple[int, ...]]:
        """The rods in rows along an edge of SIDES, the nearest row first."""
        distance = self.edges[:, side]
        if np.isinf(distance).any():
            return [tuple(range(self.n))]
        order = np.argsort(distance, kind="stable")
        rows: list[list[int]] = []
        for k in order:
            if rows and distance[k] - distance[rows[-1][0]] < NEAR:
                rows[-1].append(int(k))
            else:
                rows.append([int(k)])
        return [tuple(sorted(row)) for row in rows]


def widest(places: np.ndarray) -> float:
    """The largest gap between neighbours along one line, mm; 0 of one place."""
    return float(np.diff(np.sort(places)).max(initial=0.0))


@lru_cache(maxsize=4096)
def chosen(mask: int) -> tuple[int, ...]:
    """The numbers whose bits are set."""
    return tuple(k for k in range(mask.bit_length()) if mask >> k & 1)


def masks(on: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Of (m, n) booleans: (which rods, as bits, of each different row; which of these each of the m is)."""
    bits = (on * (1 << np.arange(on.shape[1], dtype=object))).sum(axis=1)
    return np.unique(bits.astype(object), return_inverse=True)
