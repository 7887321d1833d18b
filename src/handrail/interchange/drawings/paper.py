"""A view on paper: lines with the weights and dashes of a shop's drawings, lettering, dimensions, weld symbols; mm at
the scale of its sheet."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator

from reportlab import rl_config
from reportlab.graphics.shapes import Circle as Round
from reportlab.graphics.shapes import Group, Line, Path, Polygon, PolyLine, String
from reportlab.lib.colors import Color, HexColor, white

from handrail.core.drawing.clouds import cusps, outline
from handrail.core.drawing.scene import Circle, Dimension, Note, Point, Shape, View
from handrail.interchange.typeface import FONT

rl_config.shapeChecking = 0  # our own shapes: what each attribute may be is not looked at a hundred thousand times
rl_config.useA85 = 0  # a page is kept as bytes, not as letters
MM = 72 / 25.4  # points
INK, GREY, TINT, RED = HexColor("#14201c"), HexColor("#7d8884"), HexColor("#f1e3c4"), HexColor("#b0322a")
WEIGHT = {"outline": 0.35, "cut": 0.5, "field": 0.25, "hidden": 0.2, "centre": 0.13, "break": 0.2, "beside": 0.13}  # mm
DASH = {"hidden": (1.6, 0.9), "centre": (4.0, 0.9, 0.7, 0.9)}  # mm
THIN = 0.15
MADE = ("plate", "angle")  # what the shop makes for the connection is tinted
HATCH = 1.6  # mm between the lines of a cut


class Paper:
    """Where a view stands: its (0, 0) at `at` of the sheet, mm, drawn 1 : `scale`."""

    def __init__(self, at: Point, scale: float) -> None:
        self.at, self.scale = at, scale

    def put(self, point: Point) -> Point:
        """A place of the view, in points of the sheet."""
        return (self.at[0] + point[0] / self.scale) * MM, (self.at[1] + point[1] / self.scale) * MM

    def group(self, view: View) -> Group:
        """All of a view but its title."""
        made = Group()
        for shape in view.shapes:
            for part in self._shape(shape):
                made.add(part)
        letter = view.lettering / self.scale * MM
        for dim in view.dimensions:
            for part in self._dimension(dim, letter):
                made.add(part)
        for note in view.notes:
            for part in self._note(note, letter):
                made.add(part)
        for box in view.clouds:
            points = map(self.put, outline(cusps(box, view.lettering)))
            made.add(Polygon(_flat(points), fillColor=None, strokeColor=RED, strokeWidth=0.35 * MM))
        return made

    def _shape(self, shape: Shape | Circle) -> Iterator[object]:
        look = _look(shape.style)
        if isinstance(shape, Circle):
            x, y = self.put(shape.centre)
            fill = INK if shape.style == "field" else white if shape.style == "outline" else None
            yield Round(x, y, shape.radius / self.scale * MM, fillColor=fill, **look)
        elif shape.style in ("face", "hatch"):
            yield from self._region(shape)
        elif shape.style == "break":
            yield PolyLine(_flat(zigzag([self.put(p) for p in shape.points], MM)), **look)
        elif shape.closed:
            fill = INK if shape.style == "field" else white if "bolts" in shape.part else None
            yield Polygon(_flat(map(self.put, shape.points)), fillColor=fill, **look)
        else:
            yield PolyLine(_flat(map(self.put, shape.points)), **look)

    def _region(self, shape: Shape) -> Iterator[object]:
        rings = [[self.put(p) for p in ring] for ring in (shape.points, *shape.holes)]
        if any(part in shape.part for part in MADE):
            yield _filled(rings, TINT)
        if shape.style == "hatch":
            if "weld" in shape.part:
                yield _filled(rings, INK)
            else:
                yield _lines(_hatched(rings, HATCH * MM), 0.1, GREY)

    def _dimension(self, dim: Dimension, letter: float) -> Iterator[object]:
        yield _lines(((self.put(a), self.put(b)) for a, b in (dim.line, *dim.extensions)), THIN)
        tick, ends = 0.3 * letter, map(self.put, dim.line)
        yield _lines((((x - tick, y - tick), (x + tick, y + tick)) for x, y in ends), 0.35)
        yield _text(self.put(dim.place), dim.text, letter, dim.anchor)

    def _note(self, note: Note, letter: float) -> Iterator[object]:
        thin = {"strokeColor": INK, "strokeWidth": THIN * MM}
        if note.leader:
            points = [self.put(p) for p in note.leader]
            yield PolyLine(_flat(points), **thin)
            yield _arrow(points[0], points[1], letter)
        x, y = self.put(note.place)
        if note.weld or note.groove:
            yield from _weld(note, x, y + 0.36 * letter, letter)
        else:
            yield _text((x, y), note.text, letter, note.anchor)


def _weld(note: Note, x: float, y: float, letter: float) -> Iterator[object]:
    """A weld's symbol by AWS A2.4 or ISO 2553, a fillet's or a bevel groove's: its sizes left of it, below for the
    arrow's side, a flag where it is made at the site, the electrode in its tail."""
    start, sign = (x, 1) if note.anchor == "start" else (x - 4.8 * letter, -1)
    line = {"strokeColor": INK, "strokeWidth": 0.2 * MM}
    at, high = start + 3.2 * letter, 0.85 * letter
    yield Line(start - 0.4 * letter, y, start + 5.2 * letter, y, **line)
    for way in (-1,) if note.arrow_side else (-1, 1):
        if note.groove:  # square on one side, bevelled on the other
            yield PolyLine([at, y + way * high, at, y, at + high, y + way * high], **line)
        else:
            yield PolyLine([at, y, at, y + way * high, at + high, y], **line)
        below = y - 0.95 * letter if way < 0 else y + 0.3 * letter
        yield _text((at - 0.35 * letter, below), note.weld, letter, "end")
    if note.dashed:
        above = y + 0.4 * letter
        dashes = [0.5 * letter, 0.3 * letter]
        yield Line(start - 0.4 * letter, above, start + 5.2 * letter, above, strokeDashArray=dashes, **line)
    tail = start + 5.2 * letter if sign > 0 else start - 0.4 * letter
    for way in (-1, 1):
        yield Line(tail, y, tail + sign * 0.6 * letter, y + way * 0.6 * letter, **line)
    yield _text((tail + sign * 0.8 * letter, y - 0.36 * letter), note.text, letter, "start" if sign > 0 else "end")
    flag = start if sign > 0 else x
    if note.around:
        yield Round(flag, y, 0.4 * letter, fillColor=None, **line)
    if note.field:
        yield Polygon(
            [flag, y, flag, y + 2.2 * letter, flag + 0.9 * letter, y + 1.75 * letter, flag, y + 1.3 * letter],
            fillColor=INK,
            **line,
        )


def _look(style: str) -> dict[str, object]:
    look: dict[str, object] = {
        "strokeColor": GREY if style in ("centre", "beside") else INK,
        "strokeWidth": WEIGHT.get(style, 0.25) * MM,
        "fillColor": None,
        "strokeLineJoin": 1,
    }
    if style in DASH:
        look["strokeDashArray"] = [d * MM for d in DASH[style]]
    look.pop("fillColor")
    return look


def _text(at: Point, text: str, letter: float, anchor: str) -> String:
    return String(*at, text, fontName=FONT, fontSize=letter, textAnchor=anchor, fillColor=INK)


def _arrow(tip: Point, towards: Point, letter: float) -> Polygon:
    dx, dy = towards[0] - tip[0], towards[1] - tip[1]
    size = math.hypot(dx, dy) or 1.0
    ux, uy, long = dx / size, dy / size, 0.9 * letter
    back = tip[0] + ux * long, tip[1] + uy * long
    half = 0.16 * letter
    return Polygon(
        [*tip, back[0] - uy * half, back[1] + ux * half, back[0] + uy * half, back[1] - ux * half],
        fillColor=INK,
        strokeColor=None,
    )


def zigzag(ends: list[Point], step: float) -> list[Point]:
    """A break line: straight with one Z in its middle, two `step` long."""
    (ax, ay), (bx, by) = ends
    size = math.hypot(bx - ax, by - ay) or 1.0
    ux, uy, middle = (bx - ax) / size, (by - ay) / size, size / 2
    along = [(0, 0), (middle - step, 0), (middle - 0.4 * step, 1.2 * step), (middle + 0.4 * step, -1.2 * step)]
    along += [(middle + step, 0), (size, 0)]
    return [(ax + ux * t - uy * off, ay + uy * t + ux * off) for t, off in along]


def _lines(lines: Iterable[tuple[Point, Point]], weight: float, colour: Color = INK) -> Path:
    """Many as one: a file has fewer things in it."""
    path = Path(fillColor=None, strokeColor=colour, strokeWidth=weight * MM)
    for a, b in lines:
        path.moveTo(*a)
        path.lineTo(*b)
    return path


def _filled(rings: list[list[Point]], colour: Color) -> Path:
    path = Path(fillColor=colour, strokeColor=None, fillMode=0)  # what is inside twice is outside
    for first, *rest in rings:
        path.moveTo(*first)
        for point in rest:
            path.lineTo(*point)
        path.closePath()
    return path


def _hatched(rings: list[list[Point]], apart: float) -> Iterator[tuple[Point, Point]]:
    """Lines at 45 degrees through what is inside, even and odd."""
    edges = [(a, b) for ring in rings for a, b in zip(ring, (*ring[1:], ring[0]), strict=True)]
    offs = [y - x for ring in rings for x, y in ring]
    at = math.ceil(min(offs) / apart) * apart
    while at < max(offs):
        crossed = []
        for (ax, ay), (bx, by) in edges:
            p, q = ay - ax - at, by - bx - at
            if (p > 0) != (q > 0):
                share = p / (p - q)
                crossed.append(ax + (bx - ax) * share)
        crossed.sort()
        for x0, x1 in zip(crossed[::2], crossed[1::2], strict=False):
            yield (x0, x0 + at), (x1, x1 + at)
        at += apart


def _flat(points: Iterable[Point]) -> list[float]:
    return [value for point in points for value in point]
