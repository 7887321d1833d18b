"""A drawing without a file format: views of lines, shapes, dimensions and notes, in mm at full size.

Lettering has a height in mm too, chosen so that a view fits its sheet: whoever draws it scales everything alike.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace
from typing import Any, TypeVar

Point = tuple[float, float]
Line = tuple[Point, Point]
Box = tuple[float, float, float, float]
STEPS = 6  # to a height of the letters
WIDE = 0.56  # of a letter, against its height
GAP, OVER = (
    0.35,
    0.35,
)  # between an object and an extension line, and of that beyond the dimension line; heights of a letter


Points = TypeVar("Points", bound=tuple[Point, ...])


def _flipped(points: Points) -> Points:
    return tuple((-x, y) for x, y in points)  # type: ignore[return-value]


@dataclass(frozen=True)
class Shape:
    """A closed or open run of points belonging to `part`; `style` is outline, hidden, cut, centre, break, field (done
    at the site), beside (what is not of the connection); or a region with no line of its own, which may have `holes`:
    face (a surface that is seen), hatch (what is cut)."""

    part: str
    points: tuple[Point, ...]
    style: str = "outline"
    closed: bool = True
    holes: tuple[tuple[Point, ...], ...] = ()

    def mirrored(self) -> Shape:
        """With x the other way."""
        return replace(self, points=_flipped(self.points), holes=tuple(_flipped(hole) for hole in self.holes))


@dataclass(frozen=True)
class Circle:
    part: str
    centre: Point
    radius: float
    style: str = "outline"

    def mirrored(self) -> Circle:
        """With x the other way."""
        return replace(self, centre=(-self.centre[0], self.centre[1]))


@dataclass(frozen=True)
class Dimension:
    """A size as lettered on its line, with the extension lines that lead to it. `place` is the foot of the text,
    `anchor` its end there: start, middle or end."""

    line: Line
    extensions: tuple[Line, ...]
    text: str
    place: Point
    anchor: str
    parameter: str = ""


@dataclass(frozen=True)
class Note:
    """Lettering with its leader from what it names; none where the leader has no points. `part` is a part, or a size of
    one. A weld note carries its symbol's size (of a `groove`: empty where it is complete), its text in the tail,
    `arrow_side` where the weld is on one side only, `around` where it goes all around, and `field` with its flag;
    `dashed`, the other side has a line of its own above."""

    leader: tuple[Point, ...]
    text: str
    place: Point
    anchor: str = "start"
    part: str = ""
    weld: str = ""
    arrow_side: bool = False
    field: bool = False
    around: bool = False
    groove: bool = False
    dashed: bool = False

    def by_iso(self) -> Note:
        """A weld's symbol by ISO 2553, system A: a fillet's leg is z, a groove's depth s, and the side that the arrow
        does not point to has a dashed line."""
        if not (self.weld or self.groove):
            return self
        size = f"{'s' if self.groove else 'z'}{self.weld}" if self.weld else ""
        return replace(self, weld=size, dashed=self.arrow_side)


@dataclass
class View:
    """`lettering` is the height of the letters, mm."""

    title: str
    lettering: float
    shapes: list[Shape | Circle] = field(default_factory=list)
    dimensions: list[Dimension] = field(default_factory=list)
    notes: list[Note] = field(default_factory=list)
    clouds: list[Box] = field(default_factory=list)  # around what it says otherwise than when it was last issued

    def as_dict(self) -> dict[str, Any]:
        """Plain data; what stands in it is never changed, so that it need not be copied."""
        listed = ("shapes", "dimensions", "notes")
        return vars(self) | {name: [dict(vars(one)) for one in getattr(self, name)] for name in listed}

    def box(self, part: str, x0: float, y0: float, x1: float, y1: float, style: str = "outline") -> None:
        """Add a rectangle."""
        self.shapes.append(Shape(part, ((x0, y0), (x1, y0), (x1, y1), (x0, y1)), style))

    def line(self, part: str, *points: Point, style: str = "outline") -> None:
        """Add an open run of points."""
        self.shapes.append(Shape(part, points, style, closed=False))

    def across(self, a: Point, b: Point, y: float, text: str, parameter: str = "", side: str = "right") -> None:
        """Add a dimension between two points side by side, on a line at `y`; text that is too wide for it stands at its
        `side`, left, right or under."""
        t, (x0, x1) = self.lettering, sorted((a[0], b[0]))
        if self.fits(text, x1 - x0) or side == "under":
            place, anchor = ((x0 + x1) / 2, y + (0.3 if self.fits(text, x1 - x0) else -1.25) * t), "middle"
        else:
            place, anchor = (
                ((x1 + 0.6 * t, y - 0.36 * t), "start") if side == "right" else ((x0 - 0.6 * t, y - 0.36 * t), "end")
            )
        self.dimensions.append(
            Dimension(
                ((x0, y), (x1, y)), tuple(self._extension(p, (p[0], y)) for p in (a, b)), text, place, anchor, parameter
            )
        )

    def upright(
        self, a: Point, b: Point, x: float, text: str, parameter: str = "", middle: float | None = None
    ) -> None:
        """Add a dimension between two points one above the other, on a line at `x`, its text right of the line at the
        height `middle` (half-way)."""
        t, y = self.lettering, (a[1] + b[1]) / 2 if middle is None else middle
        self.dimensions.append(
            Dimension(
                ((x, a[1]), (x, b[1])),
                tuple(self._extension(p, (x, p[1])) for p in (a, b)),
                text,
                (x + 0.6 * t, y - 0.36 * t),
                "start",
                parameter,
            )
        )

    def _extension(self, of: Point, end: Point) -> Line:
        """From a gap beside the point to a little beyond the dimension line."""
        ways = [(e > o) - (e < o) for o, e in zip(of, end, strict=True)]
        t = self.lettering
        start = (of[0] + ways[0] * GAP * t, of[1] + ways[1] * GAP * t)
        return start, (end[0] + ways[0] * OVER * t, end[1] + ways[1] * OVER * t)

    def note(
        self,
        at: Point | None,
        place: Point,
        text: str,
        part: str = "",
        anchor: str = "start",
        weld: str = "",
        arrow_side: bool = False,
        field: bool = False,
        around: bool = False,
        groove: bool = False,
    ) -> None:
        """Add lettering, with a leader from `at` where that is given."""
        t, way = self.lettering, 1 if anchor == "start" else -1
        foot = (place[0] - way * 0.4 * t, place[1] + 0.36 * t)
        leader = (at, (foot[0] - way * 0.7 * t, foot[1]), foot) if at is not None else ()
        self.notes.append(Note(leader, text, place, anchor, part, weld, arrow_side, field, around, groove))

    def mirrored(self) -> View:
        """The same with x the other way; what is lettered is read as before."""
        turn = {"start": "end", "end": "start", "middle": "middle"}
        return View(
            self.title,
            self.lettering,
            [s.mirrored() for s in self.shapes],
            [
                replace(
                    d,
                    line=_flipped(d.line),
                    extensions=tuple(_flipped(e) for e in d.extensions),
                    place=(-d.place[0], d.place[1]),
                    anchor=turn[d.anchor],
                )
                for d in self.dimensions
            ],
            [
                replace(n, leader=_flipped(n.leader), place=(-n.place[0], n.place[1]), anchor=turn[n.anchor])
                for n in self.notes
            ],
            [(-x1, y0, -x0, y1) for x0, y0, x1, y1 in self.clouds],
        )

    def fits(self, text: str, room: float) -> bool:
        """Whether a text stands on a line of that length, mm."""
        return self.width(text) + 0.8 * self.lettering <= room

    def width(self, text: str) -> float:
        """Of a text, mm."""
        return WIDE * self.lettering * len(text)

    def lettered(self) -> Iterator[tuple[float, float, float, float]]:
        """The boxes (x0, y0, x1, y1) that texts and symbols take."""
        t = self.lettering
        for d in self.dimensions:
            yield self._around(d.text, d.place, d.anchor)
        for n in self.notes:
            if n.weld or n.groove:  # the symbol with a size above and below, and what stands in its tail
                tail = 0.8 * t + self.width(n.text)
                start = n.place[0] if n.anchor == "start" else n.place[0] - 4.8 * t - tail
                yield start, n.place[1] - 0.8 * t, start + 5.2 * t + tail, n.place[1] + 1.5 * t
            else:
                yield self._around(n.text, n.place, n.anchor)

    def _around(self, text: str, place: Point, anchor: str) -> tuple[float, float, float, float]:
        wide = self.width(text)
        x = place[0] - {"start": 0.0, "middle": wide / 2, "end": wide}[anchor]
        return x, place[1] - 0.1 * self.lettering, x + wide, place[1] + 0.8 * self.lettering

    def extent(self) -> tuple[float, float, float, float]:
        """(x0, y0, x1, y1) of everything drawn."""
        points = [p for s in self.shapes for p in (s.points if isinstance(s, Shape) else _corners(s))]
        points += [p for d in self.dimensions for line in (d.line, *d.extensions) for p in line]
        points += [p for x0, y0, x1, y1 in self.clouds for p in ((x0, y0), (x1, y1))]
        points += [p for n in self.notes for p in n.leader] + [
            p for x0, y0, x1, y1 in self.lettered() for p in ((x0, y0), (x1, y1))
        ]
        xs, ys = [p[0] for p in points], [p[1] for p in points]
        return min(xs), min(ys), max(xs), max(ys)


def _corners(circle: Circle) -> tuple[Point, Point]:
    (x, y), r = circle.centre, circle.radius
    return (x - r, y - r), (x + r, y + r)


@dataclass(frozen=True)
class Laid:
    """A view that can be drawn with letters of any height, mm; and the sheet, counted in heights of a letter, that it
    is fitted to where nobody says how high. One that shows how something is reckoned is not for the `shop`."""

    draw: Callable[[float], View]
    columns: float
    rows: float
    shop: bool = True

    def fitted(self) -> View:
        """With letters as high as its sheet allows."""
        return fitted(self.draw, self.columns, self.rows)

    def by_iso(self) -> Laid:
        """The same with weld symbols by ISO 2553."""

        def draw(letters: float) -> View:
            view = self.draw(letters)
            return replace(view, notes=[note.by_iso() for note in view.notes])

        return replace(self, draw=draw)

    def mirrored(self) -> Laid:
        """The same for the other hand."""
        return replace(self, draw=lambda letters: self.draw(letters).mirrored())


def fitted(draw: Callable[[float], View], columns: float, rows: float) -> View:
    """The view with letters of such a height, mm, that all of it just fits a sheet that is `columns` wide and `rows`
    high, counted in heights of a letter. What a view takes grows with its letters in lines that bend now and then: a
    few secants find the height."""

    def wanted(t: float) -> tuple[View, float]:
        view = draw(t)
        x0, y0, x1, y1 = view.extent()
        return view, max((x1 - x0) / columns, (y1 - y0) / rows)

    before, after = 20.0, wanted(20.0)[1]
    view, next_after = wanted(after)
    for _ in range(STEPS):
        if abs(next_after - after) < 0.01 * after or next_after - after == after - before:
            break
        slope = min((next_after - after) / (after - before), 0.9) if after != before else 0.0
        before, after = after, max((next_after - slope * after) / (1 - slope), 1.0)
        view, next_after = wanted(after)
    return view


@dataclass
class Scene:
    views: list[View]

    def as_dict(self) -> dict[str, Any]:
        """Plain data for JSON; a circle has `radius`, a shape has `points`; `extent` is the box of all that is
        drawn."""
        return {"views": [view.as_dict() | {"extent": view.extent()} for view in self.views]}
