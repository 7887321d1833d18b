"""A view of solids as lines on a sheet: outlines and hidden lines of what is whole or cut, bolts as a shop draws them,
members broken off where the view ends."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import replace
from functools import cached_property

import numpy as np
import shapely
from shapely import LinearRing, LineString, MultiLineString, MultiPoint, Polygon, box, line_merge, unary_union
from shapely.geometry.base import BaseGeometry

from handrail.core.drawing.scene import Circle, Shape
from handrail.core.solids import bodies
from handrail.core.solids.axes import Axes, Vector, dot
from handrail.core.solids.lines import Body, Run, Sight
from handrail.core.solids.pieces import Fastener, Hole, Piece, Plate, Point, Rod, Solids
from handrail.core.solids.washers import hole_at

BEYOND = 8.0  # mm of a centre line beyond what it is the middle of
CROSS = 0.9  # of a bolt's diameter, half of the cross on its end
PAST = 12.0  # mm of a break line beyond what it breaks off
ON_END = 1e-3  # between a bolt's line and the view's: it is seen on its end
RIM = np.array([(math.cos(a), math.sin(a), 0.0) for a in np.arange(24) * math.pi / 12])

Drawn = Shape | Circle
Window = tuple[float, float, float, float]
ALL: Window = (-1e4, -1e4, 1e4, 1e4)
NEAR = 60.0  # mm around what is of the connection, as far as others of its joint are drawn


class Seen:
    """A connection as it is seen along the z of `axes`, x to the right and y up, without what lies before a `cut` at
    that z, nor the hidden lines of what is `bare`; looked at when it is first drawn."""

    def __init__(
        self, solids: Solids, axes: Axes, cut: float | None = None, bare: frozenset[str] = frozenset()
    ) -> None:
        self.axes, self.cut, self.solids, self.bare = axes, cut, solids, bare
        self._within: dict[Window, list[Drawn]] = {}

    @cached_property
    def _members(self) -> list[Body]:
        return [Body(p.name, p.part, "member", bodies.uncut(p)) for p in self.solids.members]

    @cached_property
    def _pieces(self) -> list[Body]:
        return [Body(p.name, p.part, "piece", bodies.uncut(p)) for p in self.solids.pieces]

    @cached_property
    def _welds(self) -> list[Body]:
        return [Body(w.name, w.part, "weld", bodies.welded(w)) for w in self.solids.welds if w.kind == "fillet"]

    @cached_property
    def sight(self) -> Sight:
        """All bodies of it, as they are seen."""
        return Sight([*self._members, *self._pieces, *self._welds], self.axes, self.cut)

    @cached_property
    def _lines(self) -> list[Run]:
        return list(_lines(self.sight, self.bare | {weld.name for weld in self._welds}))

    @cached_property
    def _faces(self) -> list[tuple[Body, Polygon]]:
        return [(body, face) for body in self._pieces for face in self.sight.faced(body)]

    @cached_property
    def _broken(self) -> list[tuple[str, BaseGeometry]]:
        return _silhouettes(self.sight, self._members)

    @cached_property
    def _ground(self) -> list[tuple[str, Polygon]]:
        return [(g.part, _silhouette(self, g)) for g in self.solids.ground]

    @cached_property
    def _bolts(self) -> list[Drawn]:
        return [*_bars(self), *_rods(self), *_bolts(self)]

    @cached_property
    def _beside(self) -> list[Run]:
        return _others(self.solids, [*self._members, *self._pieces, *self._welds], self.axes, self.cut)

    def at(self, place: Vector) -> Point:
        """A place as it is seen."""
        x, y, _ = self.axes.seen(place)
        return x, y

    def seen(self, axes: Axes, places: np.ndarray) -> np.ndarray:
        """(n, 2) of (n, 3) places of axes, as they are seen."""
        sheet = np.array([self.axes.x, self.axes.y])
        off = sheet @ (np.array(axes.origin) - self.axes.origin)
        found: np.ndarray = places @ (sheet @ np.array([axes.x, axes.y, axes.z]).T).T + off
        return found

    def within(self, window: Window) -> list[Drawn]:
        """All that is drawn, what is behind first; what goes on beyond the `window` (x0, y0, x1, y1) is broken off. A
        view is lettered several times until it fits: what it shows is found once."""
        if window not in self._within:
            self._within[window] = self._drawn(window)
        return list(self._within[window])

    def _drawn(self, window: Window) -> list[Drawn]:
        inside = box(*window)
        own = self._own(window, inside)
        near = _around(own, inside)
        return [*(shape for run in self._beside for shape in _clipped(run, near)), *own]

    def _own(self, window: Window, inside: Polygon) -> list[Drawn]:
        return [
            *(_region(body.part, part, "face") for body, face in self._faces for part in _inside(face, inside)),
            *(
                _region(body.part, part, "hatch")
                for body, regions in self.sight.cuts
                for region in regions
                for part in _inside(region, inside)
            ),
            *(shape for run in self._lines for shape in _clipped(run, inside)),
            *(shape for part, whole in self._ground for shape in _outlined(part, whole, inside)),
            *(shape for part, whole in (*self._broken, *self._ground) for shape in _breaks(part, whole, window)),
            *self._bolts,
        ]


def _others(solids: Solids, own: list[Body], axes: Axes, cut: float | None) -> list[Run]:
    """What is seen of others of its joint; they hide nothing of the connection."""
    if not solids.beside:
        return []
    beside = [Body(f"beside {k}", "beside", "beside", body) for k, body in enumerate(solids.beside)]
    runs = Sight([*own, *beside], axes, cut).runs()
    return [replace(run, style="beside") for run in runs if run.kind == "beside" and run.style != "hidden"]


def _around(own: list[Drawn], window: Polygon) -> Polygon:
    """Where something is drawn of the connection, and a little around that."""
    points = [p for s in own if isinstance(s, Shape) and s.style != "centre" for p in s.points]
    if not points:
        return window
    low, high = np.min(points, axis=0), np.max(points, axis=0)
    near = box(*low - NEAR, *high + NEAR).intersection(window)
    return near if isinstance(near, Polygon) and not near.is_empty else window


def _inside(region: Polygon, window: Polygon) -> list[Polygon]:
    found = region.intersection(window)
    return [part for part in getattr(found, "geoms", [found]) if isinstance(part, Polygon) and not part.is_empty]


def _region(part: str, region: Polygon, style: str) -> Shape:
    outer, *inner = (
        [(float(x), float(y)) for x, y in ring.coords[:-1]] for ring in (region.exterior, *region.interiors)
    )
    return Shape(part, tuple(outer), style, True, tuple(tuple(ring) for ring in inner))


def _lines(sight: Sight, bare: frozenset[str]) -> Iterator[Run]:
    """Hidden ones first, what is cut last."""
    runs = [run for run in sight.runs() if not (run.name in bare and run.style == "hidden")]
    yield from sorted(runs, key=lambda run: ("hidden", "outline", "cut").index(run.style))


def _clipped(run: Run, window: Polygon) -> Iterator[Shape]:
    x0, y0, x1, y1 = window.bounds
    if all(x0 <= x <= x1 and y0 <= y <= y1 for x, y in run.points):
        yield Shape(run.part, run.points, run.style, False)
        return
    inside = LineString(run.points).intersection(window)
    for part in getattr(inside, "geoms", [inside]):
        if isinstance(part, LineString) and part.length > 0:
            yield Shape(run.part, tuple((float(x), float(y)) for x, y in part.coords), run.style, False)


def _silhouettes(sight: Sight, members: list[Body]) -> list[tuple[str, BaseGeometry]]:
    """What the members cover."""
    cut = {body.name: regions for body, regions in sight.cuts}
    return [
        (m.part, unary_union([*(f.outline for f in sight.faces.get(m, ())), *cut.get(m.name, ())])) for m in members
    ]


def _breaks(part: str, whole: BaseGeometry, window: Window) -> Iterator[Shape]:
    """Across a member, where it goes on beyond the view."""
    x0, y0, x1, y1 = window
    for line in (((x0, y0), (x0, y1)), ((x1, y0), (x1, y1)), ((x0, y0), (x1, y0)), ((x0, y1), (x1, y1))):
        for (ax, ay), (bx, by) in _crossed(whole, line):
            size = math.hypot(bx - ax, by - ay)
            ux, uy = (bx - ax) / size * PAST, (by - ay) / size * PAST
            yield Shape(part, ((ax - ux, ay - uy), (bx + ux, by + uy)), "break", False)


def _crossed(silhouette: BaseGeometry, line: tuple[Point, Point]) -> Iterator[tuple[Point, Point]]:
    """From where a line comes upon it to where it leaves it, all at once."""
    found = LineString(line).intersection(silhouette)
    if not found.is_empty and found.length > 1.0:
        xs0, ys0, xs1, ys1 = found.bounds
        yield (xs0, ys0), (xs1, ys1)


def _bolts(eye: Seen) -> Iterator[Drawn]:
    """Each outline once: what stands behind another bolt is not seen."""
    seen: set[tuple[object, ...]] = set()
    by_name = {piece.name: piece for piece in (*eye.solids.members, *eye.solids.pieces)}
    nearest = sorted(eye.solids.bolts, key=lambda bolt: -eye.axes.seen(bolt.axes.origin)[2])
    for bolt in nearest:
        z = eye.axes.seen(bolt.axes.origin)[2]
        if eye.cut is not None and min(z, z + bolt.grip * dot(bolt.axes.z, eye.axes.z)) > eye.cut + bolt.bolt.d / 2:
            continue
        for shape in _on_end(bolt, eye, by_name) if _ends(bolt.axes, eye) else _from_its_side(bolt, eye):
            mark = _mark(shape)
            if mark not in seen:
                seen.add(mark)
                yield shape


def _mark(shape: Drawn) -> tuple[object, ...]:
    if isinstance(shape, Circle):
        return (round(shape.centre[0], 1), round(shape.centre[1], 1), round(shape.radius, 1))
    return tuple(sorted((round(x, 1), round(y, 1)) for x, y in shape.points))


def _ends(axes: Axes, eye: Seen) -> bool:
    return abs(dot(axes.z, eye.axes.x)) < ON_END and abs(dot(axes.z, eye.axes.y)) < ON_END


def _on_end(bolt: Fastener, eye: Seen, by_name: dict[str, Piece]) -> Iterator[Drawn]:
    """Its shank, filled where it is put in at the site, a cross on its middle, and the hole that is seen where it is
    more than round."""
    x, y, z = eye.axes.seen(bolt.axes.origin)
    towards = dot(bolt.axes.z, eye.axes.z) > 0
    top = z + (bolt.grip if towards else 0.0)
    covered = eye.sight.hides(x, y, top + 1.0)
    ply = by_name[bolt.plies[-1 if towards else 0]]
    wide, long, along = hole_at(bolt, ply)
    r, c = bolt.bolt.d / 2, CROSS * bolt.bolt.d
    if long:
        way = dot(along, eye.axes.x), dot(along, eye.axes.y)
        outline = bodies.round_of(Hole(x, y, wide, long, math.atan2(way[1], way[0])))
        yield Shape(ply.part, tuple(outline), "hidden" if covered else "outline")
    yield Circle(bolt.part, (x, y), r, "hidden" if covered else "field" if bolt.field else "outline")
    yield from _cross(bolt.part, x, y, c)


def _cross(part: str, x: float, y: float, half: float) -> Iterator[Shape]:
    for dx, dy in ((half, 0.0), (0.0, half)):
        yield Shape(part, ((x - dx, y - dy), (x + dx, y + dy)), "centre", False)


def _from_its_side(bolt: Fastener, eye: Seen) -> Iterator[Drawn]:
    """Head, washers, nut and end, and its middle."""
    d, (first, last) = bolt.bolt.d, bolt.under
    wide, high = bodies.HEAD_WIDE * d * math.cos(math.pi / 6), bolt.grip + last + bodies.NUT * d
    end = max(bolt.length - first, high)
    parts = [(wide, -first - bodies.HEAD * d, -first), (wide, bolt.grip + last, high), (d / 2, high, end)]
    for washer, low in zip(bolt.washers, (-first, bolt.grip), strict=True):
        if washer:
            parts.append((washer.wide / 2, low, low + washer.thickness))
    for radius, low, top in parts:
        if top - low > 0.5:
            yield _prism(bolt.part, bolt.axes, eye, radius, low, top)
    ends = [eye.at(bolt.axes.at(z=at)) for at in (-first - bodies.HEAD * d - BEYOND, end + BEYOND)]
    yield Shape(bolt.part, (ends[0], ends[1]), "centre", False)


def _prism(part: str, axes: Axes, eye: Seen, radius: float, low: float, top: float, buried: bool = False) -> Shape:
    """Something round as it is seen."""
    corners = [eye.seen(axes, RIM * [radius, radius, 0.0] + [0.0, 0.0, at]) for at in (low, top)]
    hull = shapely.multipoints(np.concatenate(corners)).convex_hull
    x, y, z = eye.axes.seen(axes.at(z=(low + top) / 2))
    outline = tuple((float(x), float(y)) for x, y in hull.exterior.coords[:-1])
    return Shape(part, outline, "hidden" if buried or eye.sight.hides(x, y, z + radius) else "outline")


def _silhouette(eye: Seen, ground: Plate) -> Polygon:
    """What is cast is seen through: nothing is behind it."""
    corners = [eye.at(ground.axes.at(x, y, z)) for z in (0.0, ground.thickness) for x, y in ground.outline]
    hull = MultiPoint(corners).convex_hull
    return hull if isinstance(hull, Polygon) else Polygon()


def _outlined(part: str, whole: Polygon, window: Polygon) -> Iterator[Shape]:
    inside = whole.exterior.intersection(window)
    lines = line_merge(inside) if isinstance(inside, MultiLineString) else inside
    for line in getattr(lines, "geoms", [lines]):
        if isinstance(line, LineString | LinearRing) and line.length > 0:
            yield Shape(part, tuple((float(x), float(y)) for x, y in line.coords), "outline", False)


def _rods(eye: Seen) -> Iterator[Drawn]:
    """On end their shank with a cross; from the side with their nuts, dashed in plate and concrete."""
    seen: set[tuple[object, ...]] = set()
    for rod in sorted(eye.solids.rods, key=lambda rod: -eye.axes.seen(rod.axes.origin)[2]):
        shapes = _rod_on_end(rod, eye) if _ends(rod.axes, eye) else _rod_from_its_side(rod, eye)
        for shape in shapes:
            if (mark := _mark(shape)) not in seen:
                seen.add(mark)
                yield shape


def _rod_on_end(rod: Rod, eye: Seen) -> Iterator[Drawn]:
    x, y = eye.at(rod.axes.origin)
    yield Circle(rod.part, (x, y), rod.d / 2)
    yield from _cross(rod.part, x, y, CROSS * rod.d)


def _rod_from_its_side(rod: Rod, eye: Seen) -> Iterator[Drawn]:
    surface = [rod.axes.seen(g.axes.at(z=g.thickness))[2] for g in eye.solids.ground]
    nuts = [(low, low + high) for low, high in rod.nuts]
    ends = sorted({0.0, rod.length, *(end for nut in nuts for end in nut), *surface})
    ends = [end for end in ends if 0.0 <= end <= rod.length]
    buried = max(surface, default=math.inf)  # the deepest of them is the concrete's
    for low, top in zip(ends, ends[1:], strict=False):
        if not any(a <= low and top <= b for a, b in nuts):
            yield _prism(rod.part, rod.axes, eye, rod.d / 2, low, top, low >= buried - 1.0)
    for low, top in nuts:
        yield _prism(rod.part, rod.axes, eye, rod.flats / 2, low, top, low >= buried - 1.0)


def _bars(eye: Seen) -> Iterator[Drawn]:
    """Bars in concrete: dashed lines, filled where they are seen on end."""
    seen: set[tuple[object, ...]] = set()
    for bar in eye.solids.bars:
        points = tuple(eye.at(place) for place in bar.run)
        line = LineString(points)
        shape: Drawn = Shape(bar.part, points, "hidden", False)
        if line.length < bar.d:
            shape = Circle(bar.part, points[0], bar.d / 2, "field")
        if (mark := _mark(shape)) not in seen:
            seen.add(mark)
            yield shape
