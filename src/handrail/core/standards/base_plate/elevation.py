"""A base from the side: column, plate, grout, rods in the concrete and how they break out of it, along its depth or
across."""

from __future__ import annotations

import math
from dataclasses import dataclass

from handrail.core.drawing.lettering import Letter
from handrail.core.drawing.scene import Circle, Shape, View
from handrail.core.quantities.units import INCH
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


def elevation(layout: Layout, letter: Letter, unit: str, t: float, axis: int) -> View:
    """Seen across `axis`; the top of the concrete at y = 0."""
    side, f = Side(layout, axis), layout.foundation
    view = View(f"Elevation {('along', 'across')[axis]}{unit}", t)
    grout, tp, half = layout.of("grout"), layout.of("plate_thickness"), side.half
    deep = min(
        f.thickness,
        max(layout.of("embedment") + layout.rod.d, layout.pull_bars.bottom if layout.pull_bars else 0.0) + 6 * INCH,
    )
    x0, x1 = side.ends
    view.line("concrete", (-x0, 0), (x1, 0))
    for x, edge in ((-x0, side.edges[0]), (x1, side.edges[1])):
        view.line("concrete", (x, -deep), (x, 0), style="outline" if abs(x) == edge else "break")
    view.line("concrete", (-x0, -deep), (x1, -deep), style="outline" if deep == f.thickness else "break")
    if grout:
        view.shapes.append(
            Shape("grout", ((-half - grout, 0), (-half, grout), (half, grout), (half + grout, 0)), closed=False)
        )
    view.box("plate", -half, grout, half, grout + tp, "cut")
    _column_up(view, side, grout + tp)
    _rods_down(view, side, grout + tp)
    if layout.path == "lug":
        _lug(view, side)
    _bars(view, side)
    _levels(view, side, letter, grout + tp, deep)
    return view


def _column_up(view: View, side: Side, top: float) -> None:
    """Its outline broken off above, flanges or walls along, the web's edge across."""
    s, x = side.layout.situation.supported.section, side.column
    high = top + 0.8 * s.d
    for way in (-1, 1):
        outer = side.middle + way * x
        view.line("column", (outer, top), (outer, high))
        if side.axis == ALONG or s.hollow:
            inner = side.middle + way * (x - (s.wall if s.hollow else s.tf))
            view.line("column", (inner, top), (inner, high), style="hidden" if s.hollow else "outline")
        else:
            web = side.middle + way * s.tw / 2
            view.line("column", (web, top), (web, high), style="hidden")
    view.line("column", (side.middle - x - 15, high), (side.middle + x + 15, high), style="break")


def _rods_down(view: View, side: Side, top: float) -> None:
    """Rods, nuts, washers, heads; and how their cones break out, no farther than the concrete goes."""
    layout = side.layout
    rod, hef, xs = layout.rod, layout.of("embedment"), side.rods
    washer, thick = layout.of("washer") / 2, layout.rod.washer_thickness or 6.0
    for x in xs:
        r, nut = rod.d / 2, rod.flats / 2
        view.box("anchors", x - washer, top, x + washer, top + thick)
        view.box("anchors", x - nut, top + thick, x + nut, top + thick + rod.d)
        high, nuts = top + thick + rod.d, layout.choice("nuts")
        if nuts == "lock":
            view.box("anchors", x - nut, high, x + nut, high + 0.6 * rod.d)
            high += 0.6 * rod.d
        view.line("anchors", (x - r, high), (x - r, high + 0.6 * rod.d), (x + r, high + 0.6 * rod.d), (x + r, high))
        if nuts == "levelling":
            under = layout.of("grout")
            view.box("anchors", x - nut, under - rod.d, x + nut, under)
        for line in (x - r, x + r):
            view.line("anchors", (line, 0), (line, -hef), style="hidden")
        if layout.installed:
            view.line("anchors", (x - r, -hef), (x + r, -hef), style="hidden")
        else:
            view.box("anchors", x - nut, -hef - rod.d, x + nut, -hef)
    for x, way, edge in ((xs[0], -1, side.edges[0]), (xs[-1], 1, side.edges[1])):
        far = min(CONE * hef, max(edge - way * x, 0.0), side.ends[way > 0] - way * x)
        if far > side.head:
            view.line(
                "breakout",
                (x + way * side.head, -hef),
                (x + way * far, -hef * (1 - far / (CONE * hef))),
                style="hidden",
            )


def _bars(view: View, side: Side) -> None:
    """Bars beside the rods: upright ones with their hooks, legs from the side or cut."""
    layout, axis = side.layout, side.axis
    if upright := layout.pull_bars:
        ends = upright.steel.ends
        for x in sorted({round(p[axis], 3) for p in upright.places}):
            hook = min(6 * upright.steel.bars.d, 100.0) * (1 if x < 0 else -1)
            run = [(x, -upright.top), (x, -upright.bottom)]
            run = [(x + hook, -upright.top), *run] if ends != "straight" else run
            view.line("bars", *([*run, (x + hook, -upright.bottom)] if ends == "hooked" else run), style="hidden")
    if level := layout.shear_bars:
        for at, depth in level.legs[1 - axis]:
            view.shapes.append(Circle("bars", (at, -depth), level.steel[0].bars.d / 2, "field"))
        for way, edge in ((-1, side.edges[0]), (1, side.edges[1])):
            if math.isfinite(edge):
                begins = way * (edge - level.begins(2 * axis + (way > 0)))
                for depth in sorted({z for _, z in level.legs[axis]}):
                    view.line("bars", (begins, -depth), (begins - way * level.length, -depth), style="hidden")


def _lug(view: View, side: Side) -> None:
    lug = side.layout.lug
    half, at = lug.t / 2 if side.axis in lug.ways else lug.width / 2, side.middle
    if len(lug.ways) > 1:  # the other of two crossed plates behind
        view.box("lug", at - lug.width / 2, -lug.depth, at + lug.width / 2, side.layout.of("grout"), "hidden")
    view.box("lug", at - half, -lug.depth, at + half, side.layout.of("grout"), "cut")


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
