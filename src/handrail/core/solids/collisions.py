"""What of one set of solids stands in another: boxes first, bodies where these meet."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from manifold3d import Manifold

from handrail.core.solids import bodies
from handrail.core.solids.axes import Axes, Vector, combined
from handrail.core.solids.pieces import Bar, Fastener, Plate, Rod, Solids, Weld

TOUCHING = 5.0  # mm^3 that bodies may share: curves are polygons
TOES = 2.0  # mm that two fillets may run into each other: their sizes are least ones
ALIKE = 4.0  # mm that the parts of one box may differ by
Solid = Plate | Bar | Fastener | Weld | Rod


@dataclass(frozen=True)
class Collision:
    """Two pieces that stand in each other, by (connection, name) and their parts, with the `volume` that they share,
    mm^3, in a box of a `size` about the place `at`, along the axes that they are given in. Or the other one stands in
    the `room` that work on the first needs."""

    one: tuple[str, str]
    other: tuple[str, str]
    parts: tuple[str, str]
    volume: float
    at: Vector
    size: Vector
    room: str = ""

    @property
    def depth(self) -> float:
        """How far one is to move to be out of the other, about, mm: the least side of the box."""
        return min(self.size)


def collisions(sets: Sequence[tuple[str, Solids]]) -> list[Collision]:
    """Between the solids of every two of the connections that are named, each with what it brings and its member's
    end."""
    every = [(number, solid) for number, (_, solids) in enumerate(sets) for solid in brought(solids)]
    whose = np.array([number for number, _ in every], int)
    boxes = np.array([box(solid) for _, solid in every]).reshape(-1, 2, 3)
    meet = overlapping(boxes, boxes) & (whose[:, None] < whose[None])
    found = (_between(sets, every[int(i)], every[int(j)]) for i, j in zip(*np.nonzero(meet), strict=True))
    return [one for one in found if one is not None]


def _between(
    sets: Sequence[tuple[str, Solids]], first: tuple[int, Solid], second: tuple[int, Solid]
) -> Collision | None:
    """What two solids, each of the set with its number, have in common."""
    (a, one), (b, two) = first, second
    key, other = sets[a][0], sets[b][0]
    if _holds(one, f"{other}: {two.name}") or not _near(one, two):
        return None
    both = bodies.shared_body(body_of(one), body_of(two))
    if both is None or (volume := float(both.volume())) <= TOUCHING:
        return None
    x, y, z, u, v, w = both.bounding_box()
    at, size = ((x + u) / 2, (y + v) / 2, (z + w) / 2), (u - x, v - y, w - z)
    met = Collision((key, one.name), (other, two.name), (one.part, two.part), volume, at, size)
    run_together = isinstance(one, Weld) and isinstance(two, Weld) and met.depth <= TOES
    return None if run_together else met


def _holds(one: Solid, ply: str) -> bool:
    """Whether it is a bolt through the hole of another connection's piece."""
    return isinstance(one, Fastener) and ply in one.plies


def _near(one: Solid, two: Solid) -> bool:
    """Whether any parts of the two may meet."""
    return bool(overlapping(boxes(one), boxes(two)).any())


def overlapping(one: np.ndarray, two: np.ndarray) -> np.ndarray:
    """(n, m) whether each of (n, 2, 3) boxes meets each of (m, 2, 3)."""
    low, high = one[:, None, 0] < two[None, :, 1], one[:, None, 1] > two[None, :, 0]
    return np.asarray((low & high).all(axis=-1))


def brought(solids: Solids) -> Iterator[Solid]:
    """The member's end, pieces, bolts, fillets and rods of a connection; what it stands on is others', too."""
    yield from solids.members[:1]
    yield from solids.pieces
    yield from solids.bolts
    yield from (weld for weld in solids.welds if weld.kind == "fillet")
    yield from solids.rods


def body_of(solid: Solid) -> Manifold:
    """Its closed body."""
    if isinstance(solid, Fastener):
        return bodies.fastened(solid)
    if isinstance(solid, Weld):
        return bodies.welded(solid)
    return bodies.rodded(solid) if isinstance(solid, Rod) else bodies.body(solid)


@lru_cache(maxsize=65536)
def box(solid: Solid) -> tuple[Vector, Vector]:
    """A box around it: (lowest, highest) along each axis."""
    points = list(_corners(solid))
    return (
        (min(p[0] for p in points), min(p[1] for p in points), min(p[2] for p in points)),
        (max(p[0] for p in points), max(p[1] for p in points), max(p[2] for p in points)),
    )


@lru_cache(maxsize=8192)
def boxes(solid: Solid) -> np.ndarray:
    """(n, 2, 3) boxes that hold it: of a rolled shape one for each part of its height that is as wide throughout."""
    if not isinstance(solid, Bar) or len(solid.profile) != 1:
        return np.array([box(solid)])
    found = []
    for outline in _strips(solid.profile[0]):
        points = np.array(list(_prism(solid.axes, outline, 0.0, solid.length)))
        found.append((points.min(axis=0), points.max(axis=0)))
    return np.array(found)


def _strips(outline: tuple[tuple[float, float], ...]) -> Iterator[tuple[tuple[float, float], tuple[float, float]]]:
    """Two corners of the box around each part of an outline between heights at which it turns; neighbours about as
    wide as each other are one."""
    levels = sorted({y for _, y in outline})
    sides = [(a, b) for a, b in zip(outline, (*outline[1:], outline[0]), strict=True) if a[1] != b[1]]
    kept: list[float] = []
    for low, high in zip(levels, levels[1:], strict=False):
        there = [(a, b) for a, b in sides if min(a[1], b[1]) <= low and max(a[1], b[1]) >= high]
        xs = [a[0] + (b[0] - a[0]) * (y - a[1]) / (b[1] - a[1]) for a, b in there for y in (low, high)]
        left, right = min(xs), max(xs)
        if kept and abs(left - kept[0]) < ALIKE and abs(right - kept[1]) < ALIKE:
            kept = [min(left, kept[0]), max(right, kept[1]), kept[2], high]
            continue
        if kept:
            yield (kept[0], kept[2]), (kept[1], kept[3])
        kept = [left, right, low, high]
    yield (kept[0], kept[2]), (kept[1], kept[3])


def _corners(solid: Solid) -> Iterator[Vector]:
    if isinstance(solid, Weld):
        for end in solid.run:
            yield end
            yield from (combined((1.0, end), (solid.size, leg)) for leg in solid.legs)
    elif isinstance(solid, Fastener):
        d, (first, last) = solid.bolt.d, solid.under
        r = max(bodies.HEAD_WIDE * d, *(max(w.wide, w.long) / 2 for w in solid.washers if w), 0.0)
        high = max(solid.length - first, solid.grip + last + bodies.NUT * d)
        yield from _prism(solid.axes, [(-r, -r), (r, r)], -bodies.HEAD * d - first, high)
    elif isinstance(solid, Rod):
        r = max(solid.d, solid.flats * 1.16) / 2
        yield from _prism(solid.axes, [(-r, -r), (r, r)], 0.0, solid.length)
    elif isinstance(solid, Plate):
        yield from _prism(solid.axes, solid.outline, 0.0, solid.thickness)
    else:
        yield from _prism(solid.axes, solid.profile[0], 0.0, solid.length)


def _prism(axes: Axes, outline: Iterable[tuple[float, float]], low: float, high: float) -> Iterator[Vector]:
    """The corners of the box around an outline that is drawn along z."""
    xs, ys = zip(*outline, strict=True)
    for x in (min(xs), max(xs)):
        for y in (min(ys), max(ys)):
            yield axes.at(x, y, low)
            yield axes.at(x, y, high)
