"""Bodies as they are seen along a direction: their edges as lines, those that others hide told apart, and what a cut
goes through. Lines are exact; which are hidden is found facet by facet."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from manifold3d import Manifold
from shapely import LineString, MultiLineString, Polygon, STRtree, line_merge, unary_union
from shapely.geometry.base import BaseGeometry

from handrail.core.solids.axes import Axes
from handrail.core.solids.pieces import Point

SHARP = math.cos(math.radians(28.0))  # of the angle between two faces whose edge is drawn
FLAT = 1e-6  # of a unit normal along the view: a face on edge hides nothing
HAIR = 0.02  # mm: what lies so near before a line is on it
LEAST = 0.05  # mm that a line is long
LINE = 1  # shapely's number of that type
Spans = list[tuple[float, float]]  # shares of an edge
Segments = list[tuple[Point, Point]]


@dataclass(frozen=True)
class Body:
    """A closed body in the axes that hold all, with what it is called."""

    name: str
    part: str
    kind: str
    solid: Manifold


@dataclass(frozen=True)
class Run:
    """Lines of one body on the sheet, mm: `style` outline, hidden, or cut."""

    name: str
    part: str
    kind: str
    style: str
    points: tuple[Point, ...]


@dataclass(frozen=True)
class Facet:
    """A plane face towards the eye: its outline, and its height z = a x + b y + c."""

    outline: Polygon
    plane: tuple[float, float, float]


@dataclass(frozen=True)
class Edge:
    """From one place to another, (x, y, z)."""

    a: tuple[float, float, float]
    b: tuple[float, float, float]


class Sight:
    """Bodies along the z of `axes`, from its far end, x to the right and y up; what lies before a `cut` at that z is
    taken away, and what it goes through is outlined."""

    def __init__(self, bodies: Sequence[Body], axes: Axes, cut: float | None = None) -> None:
        there = [(body, _turned(body.solid, axes)) for body in bodies]
        self.cuts = [] if cut is None else [(body, _sliced(solid, cut)) for body, solid in there]
        if cut is not None:
            there = [(body, solid.trim_by_plane((0.0, 0.0, -1.0), -cut)) for body, solid in there]
        self._there = [(body, _faces(solid)) for body, solid in there if not solid.is_empty()]
        self.faces = {body: list(_facets(faces)) for body, faces in self._there}
        self._facets = [facet for some in self.faces.values() for facet in some]
        self._tree = STRtree([facet.outline for facet in self._facets])

    def runs(self) -> list[Run]:
        """All lines."""
        cut = [_run(body, "cut", ring) for body, regions in self.cuts for ring in _rings(regions)]
        edges = [(body, edge) for body, faces in self._there for edge in _edges(faces)]
        shown: dict[Body, Segments] = {body: [] for body, _ in self._there}
        behind: dict[Body, Segments] = {body: [] for body, _ in self._there}
        for (body, edge), covered in zip(edges, self._hidden([edge for _, edge in edges]), strict=True):
            visible, hidden = _split(edge, covered)
            shown[body] += visible
            behind[body] += hidden
        return [*cut, *_told(shown, behind, [LineString(run.points) for run in cut])]

    def hides(self, x: float, y: float, z: float) -> bool:
        """Whether something stands before a place."""
        found = self._tree.query(shapely.points(x, y), predicate="intersects")
        return any(a * x + b * y + c > z + HAIR for a, b, c in (self._facets[k].plane for k in found))

    def faced(self, body: Body) -> list[Polygon]:
        """What is seen of a body's faces."""
        own = self.faces.get(body, [])
        whole = unary_union([facet.outline for facet in own])
        before = self._before(own, whole)
        whole = whole.difference(unary_union([facet.outline for facet in before])) if before else whole
        return [part for part in getattr(whole, "geoms", [whole]) if part.area > LEAST and isinstance(part, Polygon)]

    def _before(self, own: Sequence[Facet], whole: BaseGeometry) -> list[Facet]:
        """The facets of others that stand before a body, which is as `whole`."""
        within = {id(facet) for facet in own}
        near = [self._facets[k] for k in self._tree.query(whole, predicate="intersects")]
        others = [facet for facet in near if id(facet) not in within]
        if not others:
            return []
        both = shapely.intersection(whole, np.array([facet.outline for facet in others]))
        x, y = shapely.get_coordinates(shapely.point_on_surface(both[~shapely.is_empty(both)])).T
        at = np.full((2, len(others)), np.nan)
        at[:, ~shapely.is_empty(both)] = x, y
        heights = np.full(len(others), -np.inf)
        for facet in own:
            inside = shapely.intersects_xy(facet.outline, *at)
            heights = np.maximum(heights, np.where(inside, _heights(facet.plane, at), -np.inf))
        planes = np.array([facet.plane for facet in others]).T
        stands = (shapely.area(both) > LEAST) & np.isfinite(heights) & (_heights(planes, at) > heights + HAIR)
        return [facet for facet, is_before in zip(others, stands, strict=True) if is_before]

    def _hidden(self, edges: Sequence[Edge]) -> list[Spans]:
        return _hidden(edges, self._facets, self._tree)


def seen(bodies: Sequence[Body], axes: Axes, cut: float | None = None) -> list[Run]:
    """The lines of a view."""
    return Sight(bodies, axes, cut).runs()


def _sliced(solid: Manifold, cut: float) -> list[Polygon]:
    """What a plane goes through."""
    rings = [Polygon(ring) for ring in solid.slice(cut).to_polygons()]
    whole = Polygon()
    for ring in sorted(rings, key=lambda r: -r.area):  # what lies in another is a hole in it, or stands in one
        whole = whole.symmetric_difference(ring)
    return [part for part in getattr(whole, "geoms", [whole]) if part.area > LEAST]


def _rings(regions: Sequence[Polygon]) -> Iterator[list[Point]]:
    for region in regions:
        yield from ([(x, y) for x, y in ring.coords] for ring in (region.exterior, *region.interiors))


def _heights(planes: Sequence[float] | np.ndarray, at: np.ndarray) -> np.ndarray:
    """Of one plane or of one each, at (2, n) places."""
    a, b, c = planes
    return np.asarray(a * at[0] + b * at[1] + c)


def _told(shown: dict[Body, Segments], behind: dict[Body, Segments], cut: Sequence[LineString]) -> Iterator[Run]:
    """Each line once: a hidden one not under one that is seen, none along a cut."""
    edges = _pieces(cut)
    over = np.concatenate([edges, *(np.array(some) for some in shown.values() if some)])
    for bodies, style, others in ((shown, "outline", edges), (behind, "hidden", over)):
        for body, some in bodies.items():
            if some:
                yield from _runs(body, style, _without(shapely.union_all(shapely.linestrings(np.array(some))), others))


def _pieces(lines: Sequence[BaseGeometry]) -> np.ndarray:
    """(n, 2, 2) the straight pieces of lines, from x, y to x, y."""
    points, of = shapely.get_coordinates(shapely.get_parts(np.array(lines, object)), return_index=True)
    on = of[1:] == of[:-1]
    return np.stack((points[:-1][on], points[1:][on]), axis=1)


def _without(lines: BaseGeometry, others: np.ndarray) -> BaseGeometry:
    """What is left of lines where none of others, in straight pieces, runs along them within a hair."""
    own = _pieces([lines])
    if not len(own) or not len(others):
        return lines
    near = STRtree(shapely.linestrings(others))
    which, by = near.query(shapely.linestrings(own), predicate="dwithin", distance=HAIR)
    run = own[which, 1] - own[which, 0]
    size = np.maximum(np.hypot(run[:, 0], run[:, 1]), 1e-12)
    x, y = (run / size[:, None]).T
    from_start = others[by] - own[which, 0][:, None]
    along = from_start[..., 0] * x[:, None] + from_start[..., 1] * y[:, None]
    beside = _on(others[by], own[which]) | _on(own[which], others[by])  # the shorter one says so better
    spans: list[Spans] = [[] for _ in own]
    starts, ends = (along.min(axis=1) - HAIR) / size, (along.max(axis=1) + HAIR) / size
    for k in np.nonzero(beside & (starts < 1) & (ends > 0))[0]:
        spans[which[k]].append((max(float(starts[k]), 0.0), min(float(ends[k]), 1.0)))
    left = [
        (p + (q - p) * start, p + (q - p) * end)
        for (p, q), covered in zip(own, spans, strict=True)
        for start, end in _gaps(covered)
    ]
    return shapely.multilinestrings(shapely.linestrings(np.array(left))) if left else MultiLineString()


def _on(these: np.ndarray, others: np.ndarray) -> np.ndarray:
    """Whether both ends of a piece are within a hair of where another one of the same number runs."""
    run = others[:, 1] - others[:, 0]
    size = np.maximum(np.hypot(run[:, 0], run[:, 1]), 1e-12)[:, None]
    off = these - others[:, :1]
    found: np.ndarray = (abs(off[..., 1] * run[:, :1] - off[..., 0] * run[:, 1:]) <= HAIR * size).all(axis=1)
    return found


def _gaps(covered: Spans) -> Iterator[tuple[float, float]]:
    """What of 0 to 1 nothing covers."""
    at = 0.0
    for start, end in _united(covered):
        if start > at:
            yield at, start
        at = max(at, end)
    if at < 1.0:
        yield at, 1.0


def _runs(body: Body, style: str, lines: BaseGeometry) -> Iterator[Run]:
    """Straight pieces joined end to end."""
    merged = line_merge(lines) if isinstance(lines, MultiLineString) else lines
    for line in getattr(merged, "geoms", [merged]):
        if isinstance(line, LineString) and line.length > LEAST:
            yield _run(body, style, list(line.simplify(HAIR / 2).coords))


def _run(body: Body, style: str, points: Sequence[Sequence[float]]) -> Run:
    return Run(body.name, body.part, body.kind, style, tuple((float(p[0]), float(p[1])) for p in points))


def _turned(solid: Manifold, axes: Axes) -> Manifold:
    """As the axes have it."""
    rows, origin = (axes.x, axes.y, axes.z), axes.origin
    return solid.transform([[*row, -sum(p * q for p, q in zip(row, origin, strict=True))] for row in rows])


@dataclass(frozen=True)
class _Faces:
    """(n, 3, 3) triangles with their normals, and the pairs of them at each edge."""

    corners: np.ndarray
    normals: np.ndarray
    edges: tuple[tuple[int, int, int, int], ...]  # two corners by number, two triangles
    places: np.ndarray


def _faces(solid: Manifold) -> _Faces:
    made = solid.to_mesh()
    points, tris = np.asarray(made.vert_properties, float)[:, :3], np.asarray(made.tri_verts)
    places, same = np.unique(points.round(4), axis=0, return_inverse=True)
    tris = same.reshape(-1)[tris]
    corners = places[tris]
    normals = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    size = np.linalg.norm(normals, axis=1)
    tris, corners, normals = tris[size > 1e-9], corners[size > 1e-9], normals[size > 1e-9] / size[size > 1e-9, None]
    at: dict[tuple[int, int], list[int]] = defaultdict(list)
    for k, tri in enumerate(tris.tolist()):
        for a, b in zip(tri, (tri[1], tri[2], tri[0]), strict=True):
            at[min(a, b), max(a, b)].append(k)
    edges = tuple((a, b, k[0], k[1]) for (a, b), k in at.items() if len(k) == 2)
    return _Faces(corners, normals, edges, places)


def _edges(faces: _Faces) -> Iterator[Edge]:
    """Sharp ones, and those where a body turns away from the eye."""
    if not faces.edges:
        return
    a, b, one, two = np.array(faces.edges).T
    up, down, p, q = faces.normals[one], faces.normals[two], faces.places[a], faces.places[b]
    turns = (up[:, 2] > FLAT) != (down[:, 2] > FLAT)
    turns &= (abs(up[:, 2]) > FLAT) | (abs(down[:, 2]) > FLAT)
    bend = np.einsum("ij,ij->i", up, down)
    told = (bend < SHARP) | (turns & (bend < 1 - 1e-6))
    told &= np.hypot(p[:, 0] - q[:, 0], p[:, 1] - q[:, 1]) > HAIR
    for start, end in zip(p[told].tolist(), q[told].tolist(), strict=True):
        yield Edge(tuple(start), tuple(end))


def _facets(faces: _Faces) -> Iterator[Facet]:
    """Those towards the eye, those in one plane as one."""
    planes: dict[tuple[float, ...], list[int]] = defaultdict(list)
    towards = np.nonzero(faces.normals[:, 2] > FLAT)[0]
    normals, corners = faces.normals[towards], faces.corners[towards]
    off = np.einsum("ij,ij->i", normals, corners[:, 0])
    for k, key in enumerate(np.column_stack((normals.round(4), off.round(2))).tolist()):
        planes[tuple(key)].append(k)
    triangles = shapely.polygons(corners[:, :, :2])
    for some in planes.values():
        normal, at = normals[some[0]], corners[some[0]][0]
        a, b = -normal[0] / normal[2], -normal[1] / normal[2]
        plane = float(a), float(b), float(at[2] - a * at[0] - b * at[1])
        outline = triangles[some[0]] if len(some) == 1 else shapely.union_all(triangles[some])
        for part in getattr(outline, "geoms", [outline]):
            if part.area > LEAST:
                yield Facet(part, plane)


def _hidden(edges: Sequence[Edge], facets: Sequence[Facet], tree: STRtree) -> list[Spans]:
    """Of each edge the shares of it over which some facet stands before it."""
    found: list[Spans] = [[] for _ in edges]
    if not edges or not facets:
        return found
    lines, outlines = shapely.linestrings([[e.a[:2], e.b[:2]] for e in edges]), [f.outline for f in facets]
    which, by = tree.query(lines, predicate="intersects")
    planes, ends = np.array([f.plane for f in facets])[by], np.array([(e.a, e.b) for e in edges])[which]
    gaps = planes[:, None, 0] * ends[..., 0] + planes[:, None, 1] * ends[..., 1] + planes[:, None, 2] - ends[..., 2]
    before = gaps.max(axis=1) > HAIR
    which, by, gaps = which[before], by[before], gaps[before]
    parts, of = shapely.get_parts(shapely.intersection(lines[which], np.array(outlines)[by]), return_index=True)
    long = (shapely.get_type_id(parts) == LINE) & (shapely.length(parts) > HAIR)
    parts, which, by, gaps = parts[long], which[of[long]], by[of[long]], gaps[of[long]]
    at = [shapely.line_locate_point(lines[which], shapely.get_point(parts, k), normalized=True) for k in (0, -1)]
    start, end = np.minimum(*at), np.maximum(*at)
    middles = shapely.line_interpolate_point(lines[which], (start + end) / 2, normalized=True)
    inside = shapely.distance(shapely.boundary(np.array(outlines)[by]), middles) >= HAIR  # not along its border
    with np.errstate(divide="ignore", invalid="ignore"):
        through = (HAIR - gaps[:, 0]) / (gaps[:, 1] - gaps[:, 0])  # where it goes through the facet's plane
    start = np.where(gaps[:, 0] <= HAIR, np.maximum(start, through), start)
    end = np.where(gaps[:, 1] <= HAIR, np.minimum(end, through), end)
    for k in np.nonzero(inside & (end > start))[0]:
        found[which[k]].append((float(start[k]), float(end[k])))
    for edge, spans in _between(lines, which, middles, by, outlines, start, end, ~inside & (end > start)).items():
        found[edge] += spans
    return found


def _between(
    lines: np.ndarray,
    which: np.ndarray,
    middles: np.ndarray,
    by: np.ndarray,
    outlines: Sequence[Polygon],
    start: np.ndarray,
    end: np.ndarray,
    along: np.ndarray,
) -> dict[int, Spans]:
    """Of edges that run along the borders of facets before them: the shares where one stands on either side."""
    sides: dict[int, tuple[Spans, Spans]] = defaultdict(lambda: ([], []))
    these = np.nonzero(along)[0]
    if not len(these):
        return {}
    ends = shapely.get_coordinates(lines[which[these]]).reshape(-1, 2, 2)
    run = ends[:, 1] - ends[:, 0]
    off = 3 * HAIR * np.column_stack((-run[:, 1], run[:, 0])) / np.hypot(run[:, 0], run[:, 1])[:, None]
    beside = shapely.get_coordinates(middles[these]) + off
    on_left = shapely.contains_xy(np.array(outlines)[by[these]], *beside.T)
    for k, left in zip(these, on_left, strict=True):
        sides[int(which[k])][0 if left else 1].append((float(start[k]), float(end[k])))
    return {k: _common(_united(left), _united(right)) for k, (left, right) in sides.items() if left and right}


def _common(one: Spans, other: Spans) -> Spans:
    both = [(max(a, c), min(b, d)) for a, b in one for c, d in other]
    return [(a, b) for a, b in both if b > a]


def _split(edge: Edge, covered: Spans) -> tuple[Segments, Segments]:
    """(what of an edge is seen, what is hidden)."""
    shown, hidden, at = [], [], 0.0
    for start, end in _united(covered):
        if start > at:
            shown.append(_part(edge, at, start))
        hidden.append(_part(edge, start, end))
        at = max(at, end)
    if at < 1.0:
        shown.append(_part(edge, at, 1.0))
    return [s for s in shown if math.dist(*s) > LEAST], [h for h in hidden if math.dist(*h) > LEAST]


def _united(spans: Spans) -> Spans:
    """Spans that overlap as one, in order."""
    found: Spans = []
    for start, end in sorted(spans):
        if found and start <= found[-1][1] + 1e-9:
            found[-1] = found[-1][0], max(found[-1][1], end)
        else:
            found.append((start, end))
    return found


def _part(edge: Edge, start: float, end: float) -> tuple[Point, Point]:
    (px, py, _), (qx, qy, _) = edge.a, edge.b
    return (px + (qx - px) * start, py + (qy - py) * start), (px + (qx - px) * end, py + (qy - py) * end)
