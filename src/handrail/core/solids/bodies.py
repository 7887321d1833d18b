"""Pieces as closed bodies, for what is asked of space: a kept library unites, cuts and measures them. Curves are
polygons there: 0.1 mm at a bolt."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np
from manifold3d import CrossSection, FillRule, Manifold

from handrail.core.solids.axes import Axes, Vector, combined, cross, dot, unit
from handrail.core.solids.pieces import (
    Bar,
    Bore,
    Cut,
    Fastener,
    Hole,
    Piece,
    Plate,
    Point,
    Rebar,
    Rod,
    Solids,
    Washer,
    Weld,
)

ROUND = 32  # sides of a circle
HAIR = 0.01  # mm
FAR = 2e4  # mm, beyond all that is near a joint
WIDE = 2e3  # mm, beyond all that is beside one web
HEAD, HEAD_WIDE, NUT, NUT_WIDE = 0.625, 0.96, 0.984, 0.96  # of a heavy hex bolt's head and nut over its diameter


@lru_cache(maxsize=8192)
def body(piece: Piece) -> Manifold:
    """A plate or a bar with its holes and cuts."""
    return _cut(_plate(piece) if isinstance(piece, Plate) else _bar(piece), piece.cuts)


@lru_cache(maxsize=8192)
def uncut(piece: Piece) -> Manifold:
    """The same with no holes."""
    if isinstance(piece, Plate):
        return _cut(placed_at(_extruded((piece.outline,), piece.thickness), piece.axes), piece.cuts)
    return _cut(placed_at(_extruded(piece.profile, piece.length), piece.axes), piece.cuts)


@lru_cache(maxsize=8192)
def fastened(bolt: Fastener) -> Manifold:
    """A bolt with its head, nut and washers."""
    d, grip, (first, last) = bolt.bolt.d, bolt.grip, bolt.under
    head = Manifold.cylinder(HEAD * d, HEAD_WIDE * d, HEAD_WIDE * d, 6).translate((0, 0, -HEAD * d - first))
    nut = Manifold.cylinder(NUT * d, NUT_WIDE * d, NUT_WIDE * d, 6).translate((0, 0, grip + last))
    long = max(bolt.length, first + grip + last + NUT * d)
    whole = head + shank_of(d, long).translate((0, 0, -first)) + nut
    for washer, low in zip(bolt.washers, (-first, grip), strict=True):
        if washer:
            whole += _washer(washer).translate((0, 0, low))
    return placed_at(whole, bolt.axes)


def _washer(washer: Washer) -> Manifold:
    if not washer.long:
        return shank_of(washer.wide, washer.thickness)
    x, y = (washer.wide, washer.long) if washer.upright else (washer.long, washer.wide)
    return Manifold.cube((x, y, washer.thickness)).translate((-x / 2, -y / 2, 0))


@lru_cache(maxsize=8192)
def shank(bolt: Fastener) -> Manifold:
    """What of a bolt is in its plies."""
    return placed_at(shank_of(bolt.bolt.d, bolt.grip), bolt.axes)


def shank_of(d: float, length: float) -> Manifold:
    """A cylinder along z."""
    return Manifold.cylinder(length, d / 2, d / 2, ROUND)


@lru_cache(maxsize=8192)
def welded(weld: Weld) -> Manifold:
    """A fillet as a three-sided prism."""
    (a, b), (one, other), w = weld.run, weld.legs, weld.size
    return Manifold.hull_points(
        np.array(
            [combined((1.0, end), (size, leg)) for end in (a, b) for size, leg in ((0.0, one), (w, one), (w, other))]
        )
    )


@lru_cache(maxsize=8192)
def rodded(rod: Rod) -> Manifold:
    """A rod with its nuts."""
    solid = shank_of(rod.d, rod.length)
    for at, high in rod.nuts:
        solid += Manifold.cylinder(high, rod.flats / math.sqrt(3), rod.flats / math.sqrt(3), 6).translate((0, 0, at))
    return placed_at(solid, rod.axes)


@lru_cache(maxsize=8192)
def barred(bar: Rebar) -> Manifold:
    """A bar, straight from place to place."""
    solid = Manifold()
    for a, b in zip(bar.run, bar.run[1:], strict=False):
        way = combined((1.0, b), (-1.0, a))
        out = unit(way)
        x = unit(cross(out, _aside(out)))
        solid += placed_at(shank_of(bar.d, math.sqrt(dot(way, way))), Axes(a, x, cross(out, x)))
    return solid


def all_bodies(solids: Solids) -> dict[str, Manifold]:
    """Name -> body of everything but the ground; a groove lies within what it joins and has none."""
    return (
        {p.name: body(p) for p in (*solids.members, *solids.pieces)}
        | {b.name: fastened(b) for b in solids.bolts}
        | {w.name: welded(w) for w in solids.welds if w.kind == "fillet"}
        | {r.name: rodded(r) for r in solids.rods}
        | {b.name: barred(b) for b in solids.bars}
    )


def shared(a: Manifold, b: Manifold) -> float:
    """How much two bodies have in common, mm^3."""
    both = shared_body(a, b)
    return float(both.volume()) if both is not None else 0.0


def shared_body(a: Manifold, b: Manifold) -> Manifold | None:
    """What two bodies have in common; None where they are apart."""
    p, q = a.bounding_box(), b.bounding_box()
    if any(p[k] > q[k + 3] or q[k] > p[k + 3] for k in range(3)):
        return None
    return a ^ b


def _plate(plate: Plate) -> Manifold:
    flat = CrossSection([list(plate.outline)], FillRule.Positive)
    for hole in plate.holes:
        flat -= CrossSection([round_of(hole)], FillRule.Positive)
    return placed_at(Manifold.extrude(flat, plate.thickness), plate.axes)


def _bar(bar: Bar) -> Manifold:
    solid = placed_at(_extruded(bar.profile, bar.length), bar.axes)
    for bore in bar.bores:
        solid -= _drilled(bore)
    return solid


def _drilled(bore: Bore) -> Manifold:
    """A hair longer than it is deep: one that ended in the very face would leave a skin without thickness."""
    flat = CrossSection([round_of(Hole(0.0, 0.0, bore.d, bore.long))], FillRule.Positive)
    return placed_at(Manifold.extrude(flat, bore.deep + 2 * HAIR).translate((0.0, 0.0, -HAIR)), bore.axes)


def _extruded(outlines: tuple[tuple[Point, ...], ...], length: float) -> Manifold:
    return Manifold.extrude(CrossSection([list(o) for o in outlines], FillRule.Positive), length)


def round_of(hole: Hole) -> list[Point]:
    """A hole's outline; a slot has two half circles."""
    half, r = max(hole.long - hole.d, 0.0) / 2, hole.d / 2 / math.cos(math.pi / ROUND)  # around the circle, not in it
    turns = [2 * math.pi * (k + 0.5) / ROUND for k in range(ROUND)]
    points = [(r * math.cos(a) + math.copysign(half, math.cos(a)), r * math.sin(a)) for a in turns]
    c, s = math.cos(hole.turned), math.sin(hole.turned)
    return [(hole.x + c * x - s * y, hole.y + s * x + c * y) for x, y in points]


def placed_at(solid: Manifold, axes: Axes) -> Manifold:
    """What is given in `axes`, in those that hold them."""
    o, x, y, z = axes.origin, axes.x, axes.y, axes.z
    return solid.transform([[x[k], y[k], z[k], o[k]] for k in range(3)])


def _cut(solid: Manifold, cuts: tuple[Cut, ...]) -> Manifold:
    for cut in cuts:
        if len(cut.planes) == 1:
            (plane,) = cut.planes
            inward = combined((-1.0, plane.out))
            solid = solid.trim_by_plane(inward, dot(inward, plane.at))
        elif cut.radius:
            solid -= beyond(cut) - _left_in(cut)
        else:
            solid -= beyond(cut)
    return solid


def _left_in(cut: Cut) -> Manifold:
    """What a round inner corner leaves of a notch between two planes."""
    one, other = cut.planes
    along = unit(combined((1.0, other.out), (-dot(one.out, other.out), one.out)))  # in the first plane, into the notch
    off = dot(other.out, combined((1.0, other.at), (-1.0, one.at))) / dot(other.out, along)
    corner = Axes(combined((1.0, one.at), (off, along)), along, one.out)
    way = unit(combined((1.0, one.out), (-dot(one.out, other.out), other.out)))  # and in the other
    opening = math.acos(max(-1.0, min(1.0, dot(along, way))))
    touching, middle = cut.radius / math.tan(opening / 2), cut.radius / math.sin(opening / 2)
    turns = [math.pi + opening / 2 + (math.pi - opening) * (k / ROUND - 0.5) for k in range(ROUND + 1)]
    x, y = middle * math.cos(opening / 2), middle * math.sin(opening / 2)
    arc = [(x + cut.radius * math.cos(a), y + cut.radius * math.sin(a)) for a in turns]
    c, s, deep = math.cos(opening), math.sin(opening), HAIR / math.tan(opening / 2)  # a hair into what it stands on
    outline = [(-deep, -HAIR), (touching, -HAIR), *reversed(arc), (touching * c - HAIR * s, touching * s + HAIR * c)]
    return placed_at(_extruded((tuple(outline),), 2 * WIDE).translate((0.0, 0.0, -WIDE)), corner)


def beyond(cut: Cut) -> Manifold:
    """All that lies beyond every plane of a cut, as far as anything reaches."""
    out = cut.planes[0].out
    x = unit(cross(out, _aside(out)))
    box = Manifold.cube((2 * FAR, 2 * FAR, FAR)).translate((-FAR, -FAR, 0.0))
    solid = placed_at(box, Axes(cut.planes[0].at, x, cross(out, x)))
    for plane in cut.planes[1:]:
        solid = solid.trim_by_plane(plane.out, dot(plane.out, plane.at))
    return solid


def _aside(way: Vector) -> Vector:
    """A direction that is not that one."""
    return (0.0, 0.0, 1.0) if abs(way[2]) < 0.9 else (1.0, 0.0, 0.0)
