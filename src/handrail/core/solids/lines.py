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


def seen(bodies: Sequence[Body], axes: Axes, cut: float | None = None) -> list[Run]:
    """Bodies along the z of `axes`, from its far end, x to the right and y up; what lies before a `cut` at that z is
    taken away, and what it goes through is outlined."""
    there = [(body, _turned(body.solid, axes)) for body in bodies]
    runs: list[Run] = []
    if cut is not None:
        for body, solid in there:
            outlines = solid.slice(cut).to_polygons()
            runs += [_run(body, "cut", [*map(tuple, o.tolist()), tuple(o[0].tolist())]) for o in outlines]
        there = [(body, solid.trim_by_plane((0.0, 0.0, -1.0), -cut)) for body, solid in there]
    there = [(body, solid) for body, solid in there if not solid.is_empty()]
    facets = [facet for _, solid in there for facet in _facets(solid)]
    edges = [(body, edge) for body, solid in there for edge in _edges(solid)]
    shown: dict[Body, list[BaseGeometry]] = {body: [] for body, _ in there}
    behind: dict[Body, list[BaseGeometry]] = {body: [] for body, _ in there}
    for (body, edge), covered in zip(edges, _hidden([edge for _, edge in edges], facets), strict=True):
        visible, hidden = _split(edge, covered)
        shown[body] += visible
        behind[body] += hidden
    return [*runs, *_told(shown, behind, [LineString(run.points) for run in runs])]


def _told(
    shown: dict[Body, list[BaseGeometry]], behind: dict[Body, list[BaseGeometry]], cut: Sequence[LineString]
) -> Iterator[Run]:
    """Each line once: a hidden one not under one that is seen, none along a cut."""
    over = unary_union([*cut, *(line for some in shown.values() for line in some)]).buffer(HAIR)
    edges = unary_union(list(cut)).buffer(HAIR) if cut else None
    for body, some in shown.items():
        lines = unary_union(some)
        yield from _runs(body, "outline", lines.difference(edges) if edges is not None else lines)
    for body, some in behind.items():
        yield from _runs(body, "hidden", unary_union(some).difference(over))


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


def _edges(solid: Manifold) -> Iterator[Edge]:
    """Sharp ones, and those where a body turns away from the eye."""
    faces = _faces(solid)
    for a, b, one, two in faces.edges:
        up, down = faces.normals[one], faces.normals[two]
        turns = (up[2] > FLAT) != (down[2] > FLAT) and (abs(up[2]) > FLAT or abs(down[2]) > FLAT)
        if up @ down < SHARP or (turns and up @ down < 1 - 1e-6):
            p, q = faces.places[a], faces.places[b]
            if math.hypot(p[0] - q[0], p[1] - q[1]) > HAIR:
                yield Edge((float(p[0]), float(p[1]), float(p[2])), (float(q[0]), float(q[1]), float(q[2])))


def _facets(solid: Manifold) -> Iterator[Facet]:
    """Its faces towards the eye, those in one plane as one."""
    faces = _faces(solid)
    planes: dict[tuple[float, ...], list[int]] = defaultdict(list)
    for k, (corners, normal) in enumerate(zip(faces.corners, faces.normals, strict=True)):
        if normal[2] > FLAT:
            planes[(*normal.round(4).tolist(), round(float(normal @ corners[0]), 2))].append(k)
    for some in planes.values():
        normal, at = faces.normals[some[0]], faces.corners[some[0]][0]
        a, b = -normal[0] / normal[2], -normal[1] / normal[2]
        plane = float(a), float(b), float(at[2] - a * at[0] - b * at[1])
        outline = unary_union([Polygon(faces.corners[k][:, :2]) for k in some])
        for part in getattr(outline, "geoms", [outline]):
            if part.area > LEAST:
                yield Facet(part, plane)


def _hidden(edges: Sequence[Edge], facets: Sequence[Facet]) -> list[list[tuple[float, float]]]:
    """Of each edge the shares of it over which some facet stands before it."""
    found: list[list[tuple[float, float]]] = [[] for _ in edges]
    if not edges or not facets:
        return found
    lines, outlines = shapely.linestrings([[e.a[:2], e.b[:2]] for e in edges]), [f.outline for f in facets]
    which, by = STRtree(outlines).query(lines, predicate="intersects")
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
    return found


def _split(edge: Edge, covered: Sequence[tuple[float, float]]) -> tuple[list[LineString], list[LineString]]:
    """(what of an edge is seen, what is hidden)."""
    shown, hidden, at = [], [], 0.0
    for start, end in _united(covered):
        if start > at:
            shown.append(_part(edge, at, start))
        hidden.append(_part(edge, start, end))
        at = max(at, end)
    if at < 1.0:
        shown.append(_part(edge, at, 1.0))
    return [s for s in shown if s.length > LEAST], [h for h in hidden if h.length > LEAST]


def _united(spans: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
    """Spans that overlap as one, in order."""
    found: list[tuple[float, float]] = []
    for start, end in sorted(spans):
        if found and start <= found[-1][1] + 1e-9:
            found[-1] = found[-1][0], max(found[-1][1], end)
        else:
            found.append((start, end))
    return found


def _part(edge: Edge, start: float, end: float) -> LineString:
    ends = [tuple(p + (q - p) * share for p, q in zip(edge.a[:2], edge.b[:2], strict=True)) for share in (start, end)]
    return LineString(ends)
