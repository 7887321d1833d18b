"""The lines that a base plate bends along where a rod pulls it: how far from the column's metal, and how wide."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from handrail.core.catalogue import Section
from handrail.core.parts.bearing.footprint import Footprint

Vector = tuple[float, float]


@dataclass(frozen=True)
class RodLine:
    """A rod at `lever` mm from the line, which is `width` mm long for it: at 45 degrees both ways, no farther than
    half-way to the next rod or the plate's edge (Design Guide 1). `metal` is what of the column stands there: flange,
    web or wall."""

    lever: float
    width: float
    metal: str = "flange"


def outline(section: Section) -> list[tuple[Vector, Vector]]:
    """The column's metal as segments on its middle lines (flanges and web, walls), mm, x along its depth."""
    d, b = section.d / 2, section.bf / 2
    if section.hollow:
        x, y = d - section.wall / 2, b - section.wall / 2
        corners = [(-x, -y), (x, -y), (x, y), (-x, y)]
        return list(zip(corners, corners[1:] + corners[:1], strict=True))
    x = d - section.tf / 2
    return [((-x, -b), (-x, b)), ((x, -b), (x, b)), ((-x, 0.0), (x, 0.0))]


def nearest(section: Section, point: Vector) -> tuple[Vector, float]:
    """(the point of the column's middle lines nearest to `point`, how far it is), mm."""
    if section.round:
        r = math.hypot(*point)
        middle = (section.d - section.wall) / 2
        way = (point[0] / r, point[1] / r) if r > 1e-9 else (1.0, 0.0)
        return (way[0] * middle, way[1] * middle), abs(r - middle)
    nearest_points = [_on(segment, point) for segment in outline(section)]
    best = min(nearest_points, key=lambda p: math.dist(p, point))
    return best, math.dist(best, point)


def clear(section: Section, point: Vector) -> float:
    """From `point` to the column's surface, mm; below 0 within its metal."""
    if section.round:
        return math.hypot(*point) - section.d / 2
    if section.hollow:
        dx, dy = abs(point[0]) - section.d / 2, abs(point[1]) - section.bf / 2
        return math.hypot(max(dx, 0.0), max(dy, 0.0)) if max(dx, dy) > 0 else max(dx, dy)
    x, b = section.d / 2 - section.tf / 2, section.bf / 2
    gaps = [math.dist(_on(((way * x, -b), (way * x, b)), point), point) - section.tf / 2 for way in (-1, 1)]
    return min(*gaps, math.dist(_on(((-x, 0.0), (x, 0.0)), point), point) - section.tw / 2)


def _on(segment: tuple[Vector, Vector], point: Vector) -> Vector:
    (x0, y0), (x1, y1) = segment
    length = math.dist(*segment)
    along = ((point[0] - x0) * (x1 - x0) + (point[1] - y0) * (y1 - y0)) / length
    part = min(max(along / length, 0.0), 1.0)
    return x0 + part * (x1 - x0), y0 + part * (y1 - y0)


def rod_lines(plate: Footprint, section: Section, column: Vector = (0.0, 0.0)) -> Iterator[RodLine]:
    """One for each rod of the plate, in their order; the `column` stands so far from the plate's middle, mm."""
    for k, point in enumerate(plate.points):
        own, lever = nearest(section, from_column(point, column))
        foot, metal = (own[0] + column[0], own[1] + column[1]), _metal(section, own)
        if lever < 1e-6:
            yield RodLine(0.0, 1.0, metal)
            continue
        out = ((point[0] - foot[0]) / lever, (point[1] - foot[1]) / lever)
        line = (-out[1], out[0])
        sides = [
            min(
                lever,
                _to_edge(plate, foot, point, (way * line[0], way * line[1])),
                _to_next(plate, k, (way * line[0], way * line[1])),
            )
            for way in (-1.0, 1.0)
        ]
        yield RodLine(lever, max(sum(sides), 1e-3), metal)


def from_column(point: Vector, column: Vector) -> Vector:
    """A place of the plate as the column sees it."""
    return point[0] - column[0], point[1] - column[1]


def _metal(section: Section, foot: Vector) -> str:
    if section.hollow:
        return "wall"
    return "flange" if abs(foot[0]) > section.d / 2 - section.tf - 1e-6 else "web"


def _to_edge(plate: Footprint, foot: Vector, point: Vector, way: Vector) -> float:
    """Along the line to the plate's edge, mm: from the rod or from the line, whichever is nearer."""
    return min(_ray(plate, foot, way), _ray(plate, point, way))


def _ray(plate: Footprint, start: Vector, way: Vector) -> float:
    lengths = [
        ((half if w > 0 else -half) - s) / w
        for s, w, half in zip(start, way, (plate.length / 2, plate.width / 2), strict=True)
        if abs(w) > 1e-9
    ]
    return max(min(lengths), 0.0)


def _to_next(plate: Footprint, k: int, way: Vector) -> float:
    """Half-way to the next rod along the line, mm: one that stands less aside than along."""
    rest = np.delete(plate.xy, k, axis=0) - plate.xy[k]
    along, aside = rest @ np.array(way), np.abs(rest @ np.array((-way[1], way[0])))
    near = along[(along > 1e-6) & (aside < along)]
    return float(near.min()) / 2 if near.size else math.inf
