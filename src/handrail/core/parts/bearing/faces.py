"""Two steel faces that press on each other, and ties that hold them together: N, M and Mw in balance by an elastic
plane of strain."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Section
from handrail.core.catalogue.steel import E
from handrail.core.parts.bearing.footprint import Footprint, Pad
from handrail.core.parts.bearing.strain import Plane, strain

ELASTIC = 1e9  # MPa: no limit
SLICES = 24  # of a round wall


@dataclass(frozen=True)
class Faces:
    """`footprint` has the parts that meet as its pads, and the ties as its points; both stretch and shorten over the
    same length."""

    footprint: Footprint

    def held(self, actions: Actions) -> Plane:
        """What presses and what pulls, worked out once. It grows in proportion to the actions; nothing of it is solved
        where nothing could hold a pull."""
        return actions.once(
            ("faces", self),
            lambda: strain(self.footprint, -actions.N, -actions.M, -actions.Mw, ELASTIC, E, E),
        )

    def pulls(self, actions: Actions) -> np.ndarray:
        """(..., ties) N."""
        return self.held(actions).tensions

    def pressure(self, actions: Actions) -> np.ndarray:
        """The largest, MPa; without end where nothing balances, NaN where the actions are not known."""
        held = self.held(actions)
        known = np.isfinite(actions.N + actions.M + actions.Mw)
        return np.where(held.solved, held.pressure, np.where(known, np.inf, np.nan))


def profile(section: Section) -> tuple[Pad, ...]:
    """A section's metal as rectangles, x along its depth, mm: flanges and web, walls, or slices of a round wall."""
    d, b, t = section.d / 2, section.bf / 2, section.wall
    if section.round:
        return tuple(_slices(d, d - t))
    if section.hollow:
        return ((-d, -b, t - d, b), (d - t, -b, d, b), (t - d, -b, d - t, t - b), (t - d, b - t, d - t, b))
    return _i_shape(d, d - section.tf, b, section.tw)


def overlap(one: Section, other: Section) -> tuple[Pad, ...]:
    """Where two I-shapes meet, their middles in line, mm: flange by flange, and the webs."""
    outer, inner = min(one.d, other.d) / 2, max(one.d / 2 - one.tf, other.d / 2 - other.tf)
    web = min(one.d / 2 - one.tf, other.d / 2 - other.tf)
    pads = _i_shape(outer, inner, min(one.bf, other.bf) / 2, min(one.tw, other.tw))
    x0, y0, _, y1 = pads[2]
    return (*(pads[:2] if outer > inner else ()), (-web, y0, web, y1) if web < -x0 else pads[2])


def _i_shape(outer: float, inner: float, half: float, tw: float) -> tuple[Pad, ...]:
    return (-outer, -half, -inner, half), (inner, -half, outer, half), (-inner, -tw / 2, inner, tw / 2)


def _slices(outer: float, inner: float) -> list[Pad]:
    """A ring cut along y: two pieces a slice where it is hollow, each as deep as its own area asks for."""
    pads: list[Pad] = []
    edges = [-outer + 2 * outer * k / SLICES for k in range(SLICES + 1)]
    for x0, x1 in zip(edges, edges[1:], strict=False):
        high, low = (_area(r, x0, x1) / (x1 - x0) for r in (outer, inner))
        pads += [(x0, low, x1, high), (x0, -high, x1, -low)] if low > 0 else [(x0, -high, x1, high)]
    return pads


def _area(r: float, x0: float, x1: float) -> float:
    """Under a half circle from x0 to x1."""

    def to(x: float) -> float:
        x = min(max(x, -r), r)
        return float(x * np.sqrt(r**2 - x**2) + r**2 * np.arcsin(x / r)) / 2

    return to(x1) - to(x0)
