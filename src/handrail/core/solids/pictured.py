"""A connection in space on paper: what is seen of it from one of its upper corners, nothing hidden drawn."""

from __future__ import annotations

from collections.abc import Iterator
from functools import cache, lru_cache

import numpy as np
from manifold3d import Manifold

from handrail.core.drawing.scene import Laid, Shape, View
from handrail.core.solids import bodies
from handrail.core.solids.axes import Axes, Vector, Z, cross, unit
from handrail.core.solids.lines import Body, Sight
from handrail.core.solids.pieces import Solids

EYES: tuple[Vector, ...] = tuple(  # towards it, from over the member
    unit((x, side * y, 0.42)) for x, y in ((0.62, 0.68), (0.86, 0.36)) for side in (-1.0, 1.0)
)
AROUND = 0.5  # of what a connection is long, wide or high: how far beyond it its members are shown
COLUMNS, ROWS = 60.0, 45.0


@lru_cache(maxsize=512)
def pictured(solids: Solids) -> Laid:
    """Its members as far as it has them, pieces, bolts, welds and rods; one of all that are made alike."""

    def draw(letters: float) -> View:
        return View("in space", letters, list(shapes()))

    @cache
    def shapes() -> tuple[Shape, ...]:
        return tuple(_drawn(solids))

    return Laid(draw, COLUMNS, ROWS, shop=False)


def _drawn(solids: Solids) -> Iterator[Shape]:
    """From where most of it is seen."""
    brought = [*(("piece", p.name, p.part, bodies.uncut(p)) for p in solids.pieces),
               *(("bolt", b.name, b.part, bodies.fastened(b)) for b in solids.bolts),
               *(("weld", w.name, w.part, bodies.welded(w)) for w in solids.welds if w.kind == "fillet"),
               *(("bolt", r.name, r.part, bodies.rodded(r)) for r in solids.rods)]  # fmt: skip
    corners = np.array([body.bounding_box() for *_, body in brought] or [(-300.0,) * 3 + (300.0,) * 3])
    low, high = corners[:, :3].min(axis=0), corners[:, 3:].max(axis=0)
    far = AROUND * float((high - low).max())
    room = Manifold.cube(tuple(high - low + 2 * far)).translate(tuple(low - far))
    members = [("member", p.name, p.part, bodies.body(p) ^ room) for p in solids.members]
    there = [Body(name, part, kind, body) for kind, name, part, body in (*members, *brought)]
    eye = _eye([body for body in there if body.kind in ("member", "piece")])
    sight = Sight(there, _facing(eye))
    for body in sight.faces:
        if body.kind == "piece":
            for face in sight.faced(body):
                outer = tuple((float(x), float(y)) for x, y in face.exterior.coords[:-1])
                holes = tuple(tuple((float(x), float(y)) for x, y in ring.coords[:-1]) for ring in face.interiors)
                yield Shape(body.part, outer, "face", True, holes)
    for run in sight.runs():
        if run.style == "outline":
            yield Shape(run.part, run.points, "outline", False)


def _facing(eye: Vector) -> Axes:
    right = unit(cross(Z, eye))
    return Axes((0.0, 0.0, 0.0), right, cross(eye, right))


def _eye(standing: list[Body]) -> Vector:
    """From where most of the pieces' faces is seen past members and other pieces."""

    def seen(eye: Vector) -> float:
        sight = Sight(standing, _facing(eye))
        return round(sum(face.area for body in standing if body.kind == "piece" for face in sight.faced(body)))

    return max(EYES, key=seen)
