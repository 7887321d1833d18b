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
Solid = Plate | Bar | Fastener | Weld | Rod


@dataclass(frozen=True)
class Collision:
    """Two pieces that stand in each other, by (connection, name) and (connection, part), with the `volume` that they
    share, mm^3, about the place `at`."""

    one: tuple[str, str]
    other: tuple[str, str]
    parts: tuple[str, str]
    volume: float
    at: Vector


def collisions(sets: Sequence[tuple[str, Solids]]) -> list[Collision]:
    """Between the solids of every two of the connections that are named, each with what it brings and its member's
    end."""
    every = [(key, solid) for key, solids in sets for solid in brought(solids)]
    boxes = np.array([box(solid) for _, solid in every]).reshape(-1, 2, 3)
    low, high = boxes[:, 0], boxes[:, 1]
    meet = ((low[:, None] < high[None]) & (high[:, None] > low[None])).all(axis=-1)
    found = []
    for i, j in zip(*np.nonzero(np.triu(meet, 1)), strict=True):
        (key, one), (other, two) = every[int(i)], every[int(j)]
        if key == other:
            continue
        both = bodies.shared_body(body_of(one), body_of(two))
        if both is not None and (volume := float(both.volume())) > TOUCHING:
            lowest = both.bounding_box()
            middle = tuple((lowest[k] + lowest[k + 3]) / 2 for k in range(3))
            found.append(
                Collision(
                    (key, one.name), (other, two.name), (one.part, two.part), volume, (middle[0], middle[1], middle[2])
                )
            )
    return found


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


def _corners(solid: Solid) -> Iterator[Vector]:
    if isinstance(solid, Weld):
        for end in solid.run:
            yield end
            yield from (combined((1.0, end), (solid.size, leg)) for leg in solid.legs)
    elif isinstance(solid, Fastener):
        r, d = bodies.HEAD_WIDE * solid.bolt.d, solid.bolt.d
        yield from _prism(
            solid.axes, [(-r, -r), (r, r)], -bodies.HEAD * d, max(solid.length, solid.grip + bodies.NUT * d)
        )
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
