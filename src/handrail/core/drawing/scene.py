"""A drawing without a file format: views of lines, shapes, dimensions and notes, in mm at full size."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

Point = tuple[float, float]


@dataclass(frozen=True)
class Shape:
    """A closed or open run of points belonging to `part`; `style` is outline, hidden, cut, centre or break."""

    part: str
    points: tuple[Point, ...]
    style: str = "outline"
    closed: bool = True


@dataclass(frozen=True)
class Circle:
    part: str
    centre: Point
    radius: float
    style: str = "outline"


@dataclass(frozen=True)
class Dimension:
    """A dimension line from `a` to `b`, drawn `offset` to its side; `text` is the size as lettered.

    Where the text is wider than its line it stands at `side`: left, right or below.
    """

    a: Point
    b: Point
    offset: float
    text: str
    parameter: str = ""
    side: str = "below"


@dataclass(frozen=True)
class Note:
    """Lettering at the end of a leader from `at`; `align` start or end. A weld note carries its symbol's size."""

    at: Point
    to: Point
    text: str
    part: str = ""
    align: str = "start"
    weld: str = ""


@dataclass
class View:
    title: str
    shapes: list[Shape | Circle]
    dimensions: list[Dimension]
    notes: list[Note]

    def box(self, part: str, x0: float, y0: float, x1: float, y1: float, style: str = "outline") -> None:
        """Add a rectangle."""
        self.shapes.append(Shape(part, ((x0, y0), (x1, y0), (x1, y1), (x0, y1)), style))

    def line(self, part: str, *points: Point, style: str = "outline") -> None:
        """Add an open run of points."""
        self.shapes.append(Shape(part, points, style, closed=False))


@dataclass
class Scene:
    views: list[View]

    def as_dict(self) -> dict[str, Any]:
        """Plain data for JSON; a circle has `radius`, a shape has `points`."""
        return {"views": [{
            "title": view.title, "shapes": [dict(s.__dict__) for s in view.shapes], "dimensions": [dict(d.__dict__) for d in view.dimensions],
            "notes": [dict(n.__dict__) for n in view.notes],
        } for view in self.views]}  # fmt: skip
