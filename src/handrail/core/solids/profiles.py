"""Profiles of rolled sections as polygons, mm: what a bar is drawn out of."""

from __future__ import annotations

import math
from functools import lru_cache

from handrail.core.catalogue import Section
from handrail.core.solids.pieces import Point

Profile = tuple[tuple[Point, ...], ...]
STEPS = 6  # to a quarter of a circle


@lru_cache(maxsize=1024)
def profile(s: Section) -> Profile:
    """The outline of a section: an I-shape or a channel centred on the middle of its web, a hollow one on its axis, its
    top at y = 0; an angle with its heel at the origin, its longer leg along y. Others are as wide and deep as they are
    said to be."""
    if s.open or s.channel:
        return (_flanged(s),)
    if s.round:
        return _ring(s.d / 2, 0.0, -s.d / 2), tuple(reversed(_ring(s.d / 2 - s.wall, 0.0, -s.d / 2)))
    if s.hollow:
        outer = _rounded(s.bf, s.d, 2 * s.wall)  # corners as the tables take them: twice the wall outside
        inner = tuple(reversed(_rounded(s.bf - 2 * s.wall, s.d - 2 * s.wall, s.wall)))
        return tuple((x, y - s.d / 2) for x, y in outer), tuple((x, y - s.d / 2) for x, y in inner)
    if s.family == "L":
        return (ell(min(s.d, s.bf), max(s.d, s.bf), s.wall),)
    half, deep = max(s.bf, s.wall, 1.0) / 2, max(s.d, 1.0)
    return (((-half, -deep), (half, -deep), (half, 0.0), (-half, 0.0)),)


def ell(along_x: float, along_y: float, t: float) -> tuple[Point, ...]:
    """An angle of two legs `t` thick, its heel at the origin."""
    return ((0.0, 0.0), (along_x, 0.0), (along_x, t), (t, t), (t, along_y), (0.0, along_y))


def _flanged(s: Section) -> tuple[Point, ...]:
    """With root fillets as the design k has them; a channel's flanges to the right."""
    w, r = s.tw / 2, max(min(s.k - s.tf, s.bf / 2 - s.tw), 0.0)
    left, right = (-w, s.bf - w) if s.channel else (-s.bf / 2, s.bf / 2)
    top, low = -s.tf, -s.d + s.tf
    side = [
        (right, 0.0), (right, top), *_arc((w + r, top - r), r, 90, 180),
        *_arc((w + r, low + r), r, 180, 270), (right, low), (right, -s.d),
    ]  # fmt: skip
    other = [(left, -s.d), (left, 0.0)]
    if not s.channel:
        other = [
            (left, -s.d), (left, low), *_arc((-w - r, low + r), r, 270, 360),
            *_arc((-w - r, top - r), r, 0, 90), (left, top), (left, 0.0),
        ]  # fmt: skip
    return tuple(reversed([*side, *other]))


def _arc(centre: Point, r: float, start: float, end: float) -> list[Point]:
    if r < 1e-6:
        return [centre]
    turns = [math.radians(start + (end - start) * k / STEPS) for k in range(STEPS + 1)]
    return [(centre[0] + r * math.cos(a), centre[1] + r * math.sin(a)) for a in turns]


def _ring(r: float, x: float, y: float) -> tuple[Point, ...]:
    turns = [2 * math.pi * k / (24 * STEPS) for k in range(24 * STEPS)]
    return tuple((x + r * math.cos(a), y + r * math.sin(a)) for a in turns)


def _rounded(wide: float, deep: float, r: float) -> tuple[Point, ...]:
    """A rectangle about the origin with round corners."""
    r = min(max(r, 0.0), wide / 2 - 1e-6, deep / 2 - 1e-6)
    x, y = wide / 2 - r, deep / 2 - r
    corners = ((x, y, 0), (-x, y, 90), (-x, -y, 180), (x, -y, 270))
    return tuple(p for cx, cy, a in corners for p in _arc((cx, cy), r, a, a + 90))
