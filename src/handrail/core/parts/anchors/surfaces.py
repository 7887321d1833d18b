"""What may break out of the concrete under one combination, surface by surface, as it lies in plan."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from handrail.core.parts.anchors.group import SIDES, AnchorGroup
from handrail.core.parts.anchors.shear import Wedge, used, wedges
from handrail.core.parts.anchors.tension import Cone, cones, pulling, share

SLOPE = 1.5  # along the face for one into the concrete
Point = tuple[float, float]
Line = tuple[Point, Point]


@dataclass(frozen=True)
class Surface:
    """`kind` tension or shear; the numbers of the `rods` that come out with it; of shear the side of group.SIDES that
    it goes to; its outline in plan, mm; the share `use` of what the concrete holds."""

    kind: str
    rods: tuple[int, ...]
    side: str
    lines: tuple[Line, ...]
    use: float


def surfaces(group: AnchorGroup, pulls: np.ndarray, shears: np.ndarray, quake: bool = False) -> Iterator[Surface]:
    """Of rods that pull `pulls` (rods,) N: a cone for each group that comes out together; and of those that put
    `shears` (rods, 2) N on the concrete every wedge towards a side that the shear goes to or along; `quake` is in the
    combination."""
    left = group.code.in_earthquakes if quake and group.seismic else 1.0
    for cone in cones(group, pulling(pulls)):
        total, strength = share(cone, group, pulls[None, list(cone.rods)])
        use = float(total[0] / strength[0] / left) if strength[0] > 0 else np.inf
        yield Surface("tension", cone.rods, "", tuple(outline(_boxes(group, cone))), use)
    for w in wedges(group) if np.any(shears) else ():
        if use := float(used(group, w, shears[None])[0]):
            yield Surface("shear", w.rods, SIDES[w.side], _wedge(group, w), use)


def _boxes(group: AnchorGroup, cone: Cone) -> np.ndarray:
    """(rods, 4): x0, y0, x1, y1 of the square about each, no farther than the concrete goes, mm."""
    at, to = group.xy[list(cone.rods)], np.clip(group.edges[list(cone.rods)], 0.0, cone.reach)
    return np.stack([at[:, 0] - to[:, 0], at[:, 1] - to[:, 2], at[:, 0] + to[:, 1], at[:, 1] + to[:, 3]], axis=1)


def outline(boxes: np.ndarray) -> Iterator[Line]:
    """The edges of what `boxes` (n, 4) of x0, y0, x1, y1 cover together."""
    xs, ys = np.unique(boxes[:, [0, 2]]), np.unique(boxes[:, [1, 3]])
    mx, my = (xs[1:] + xs[:-1]) / 2, (ys[1:] + ys[:-1]) / 2
    inside = np.zeros((len(xs) + 1, len(ys) + 1), bool)
    for x0, y0, x1, y1 in boxes:
        inside[1:-1, 1:-1] |= ((x0 < mx) & (mx < x1))[:, None] & ((y0 < my) & (my < y1))
    for i, j in np.argwhere(inside[1:, 1:-1] != inside[:-1, 1:-1]):
        yield (float(xs[i]), float(ys[j])), (float(xs[i]), float(ys[j + 1]))
    for i, j in np.argwhere(inside[1:-1, 1:] != inside[1:-1, :-1]):
        yield (float(xs[i]), float(ys[j])), (float(xs[i + 1]), float(ys[j]))


def _wedge(group: AnchorGroup, w: Wedge) -> tuple[Line, ...]:
    """From the row to the edge, 1.5 aside for one out, no farther aside than the concrete goes."""
    axis, own = w.side // 2, group.xy[list(w.rods)]
    edge = float(group.edges[list(w.rods), w.side].min())
    away = 1 if w.side % 2 else -1
    row = float(own[:, axis].max() if away > 0 else own[:, axis].min())
    low, high = own[:, 1 - axis].min(), own[:, 1 - axis].max()
    sides = (2, 3) if axis == 0 else (0, 1)
    rooms = [float(group.edges[list(w.rods), s].min()) for s in sides]
    lines: list[Line] = [_turned((row, float(low)), (row, float(high)), axis)] if high > low else []
    for at, room, way in ((float(low), rooms[0], -1), (float(high), rooms[1], 1)):
        aside = min(SLOPE * edge, max(room, 0.0))
        lines.append(_turned((row, at), (row + away * aside / SLOPE, at + way * aside), axis))
    return tuple(lines)


def _turned(a: Point, b: Point, axis: int) -> Line:
    return (a, b) if axis == 0 else ((a[1], a[0]), (b[1], b[0]))
