"""A base from the side: column, plate, grout, rods in the concrete and how they break out of it, along its depth or
across."""

from __future__ import annotations

from dataclasses import dataclass

from handrail.core.drawing.lettering import Letter
from handrail.core.drawing.scene import Shape, View
from handrail.core.quantities.units import INCH
from handrail.core.solids.drawn import Seen
from handrail.core.standards.base_plate.layout import Layout

ALONG, ACROSS = 0, 1
CONE = 1.5  # hef each way


def drawn_to(edges: tuple[float, float], beyond: float) -> tuple[float, float]:
    """How far the concrete is drawn each way, mm: to its edge where that is near."""
    return min(edges[0], 2 * beyond), min(edges[1], 2 * beyond)


@dataclass(frozen=True)
class Side:
    """What is seen from one side: lengths on `axis` of the plan, mm; `half` of the plate and of the `column`."""

    layout: Layout
    axis: int

    @property
    def half(self) -> float:
        return (self.layout.footprint.length, self.layout.footprint.width)[self.axis] / 2

    @property
    def column(self) -> float:
        s = self.layout.situation.supported.section
        return (s.d if self.axis == ALONG or s.round else s.bf) / 2

    @property
    def middle(self) -> float:
        """Of the column, from the plate's."""
        return self.layout.column[self.axis]

    @property
    def edges(self) -> tuple[float, float]:
        return self.layout.edges[self.axis]

    @property
    def ends(self) -> tuple[float, float]:
        """How far the concrete is drawn."""
        return drawn_to(self.edges, self.half + 2 * INCH)

    @property
    def rods(self) -> list[float]:
        """Where lines of rods stand."""
        return sorted({round(p[self.axis], 3) for p in self.layout.placed.points})

    @property
    def head(self) -> float:
        """Half of what a rod's foot is wide: its head, or itself where it is drilled in."""
        rod = self.layout.rod
        return (rod.d if self.layout.installed else rod.flats) / 2


def elevation(layout: Layout, seen: Seen, letter: Letter, unit: str, t: float, axis: int) -> View:
    """Seen across `axis`; the top of the concrete at y = 0."""
    side, f = Side(layout, axis), layout.foundation
    top = layout.of("grout") + layout.of("plate_thickness")
    deepest = max(layout.of("embedment") + layout.rod.d, layout.pull_bars.bottom if layout.pull_bars else 0.0)
    deep = min(f.thickness, deepest + 6 * INCH)
    x0, x1 = side.ends
    high = top + 0.8 * layout.situation.supported.section.d
    view = View(f"Elevation {('along', 'across')[axis]}{unit}", t, seen.within((-x0, -deep, x1, high)))
    _cones(view, side)
    _levels(view, side, letter, top, deep)
    return view


def _cones(view: View, side: Side) -> None:
    """How the outer rods' cones break out, no farther than the concrete goes."""
    hef, xs = side.layout.of("embedment"), side.rods
    for x, way, edge in ((xs[0], -1, side.edges[0]), (xs[-1], 1, side.edges[1])):
        far = min(CONE * hef, max(edge - way * x, 0.0), side.ends[way > 0] - way * x)
        if far > side.head:
            ends = (x + way * side.head, -hef), (x + way * far, -hef * (1 - far / (CONE * hef)))
            view.line("breakout", *ends, style="hidden")


def _levels(view: View, side: Side, letter: Letter, top: float, deep: float) -> None:
    """Grout, embedment and the concrete's thickness; the plate and what is above noted."""
    layout, half = side.layout, side.half
    t, f, grout, hef = view.lettering, layout.foundation, layout.of("grout"), layout.of("embedment")
    right = max(p[0] for s in view.shapes if isinstance(s, Shape) for p in s.points)
    x = right + 1.6 * t
    view.upright((side.rods[-1] + side.head, -hef), (right, 0), x, letter(hef), "embedment")
    if grout:
        view.upright((right, 0), (half, grout), x, letter(grout), "grout", grout + 0.8 * t)
    left = min(p[0] for s in view.shapes if isinstance(s, Shape) for p in s.points)
    concrete = f"{f.kind}, {letter(f.thickness)} thick"
    s = layout.situation.supported.section
    high = max(p[1] for s_ in view.shapes if isinstance(s_, Shape) for p in s_.points)
    view.note((side.middle + side.column, top + 0.62 * s.d), (half + t, high - 0.2 * t), s.name, "column")
    view.note(
        (half, top - 0.3 * layout.of("plate_thickness")),
        (half + 2 * t, top + max(3.2 * t, 0.35 * s.d)),
        f"PL {letter(layout.of('plate_thickness'))}",
        "plate_thickness",
    )
    view.note(None, ((left + right) / 2, -deep - 1.6 * t), concrete, "concrete", "middle")
    y = -deep - 3.2 * t
    if layout.path == "lug":
        words = f"lug PL {letter(layout.lug.t)} x {letter(layout.lug.width)} x {letter(layout.lug.depth + grout)}"
        view.note(None, ((left + right) / 2, y), words, "lug", "middle")
        y -= 1.6 * t
    if layout.installed:
        view.note(None, ((left + right) / 2, y), f"{layout.installed.kind} anchors", "anchors", "middle")
