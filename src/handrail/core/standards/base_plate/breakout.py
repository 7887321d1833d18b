"""A base in the concrete from above: its rods, the bars beside them, and every surface along which the concrete may
break out."""

from __future__ import annotations

import math

import numpy as np

from handrail.core.drawing.lettering import Letter
from handrail.core.drawing.scene import Circle, Shape, View
from handrail.core.parts.anchors.surfaces import Surface, surfaces
from handrail.core.standards.base_plate.layout import Layout

MARGIN = 0.12  # of what is drawn


def breakout(layout: Layout, letter: Letter, unit: str, t: float) -> View:
    """With all rods: what comes out of the concrete about them, and towards each edge that is near."""
    view = View(f"Breakout{unit}", t)
    surfaces = _all(layout)
    low, high = _extent(layout, surfaces)
    _concrete(view, layout, low, high)
    half, wide = layout.footprint.length / 2, layout.footprint.width / 2
    view.box("plate", -half, -wide, half, wide)
    for surface in surfaces:
        for line in surface.lines:
            view.line("breakout", *line, style="hidden")
    _bars(view, layout)
    for at in layout.placed.points:
        view.shapes.append(Circle("anchors", at, layout.rod.d / 2))
    _words(view, layout, letter, surfaces)
    return view


def _all(layout: Layout) -> list[Surface]:
    """With every rod pulled, and sheared towards each side in turn where rods take the shear."""
    n = layout.group.n
    cones = list(surfaces(layout.group, np.ones(n) * 1e3, np.zeros((n, 2))))
    if layout.path == "anchors":
        for way in ((1, 0), (-1, 0), (0, 1), (0, -1)):
            side = ("-x", "+x")[way[0] > 0] if way[0] else ("-y", "+y")[way[1] > 0]
            every = surfaces(layout.group, np.zeros(n), np.array(way) * np.ones((n, 1)) * 1e3)
            cones += [s for s in every if s.side == side]
    return cones


def _extent(layout: Layout, surfaces: list[Surface]) -> tuple[np.ndarray, np.ndarray]:
    """What is drawn, mm: every surface and the plate, with a margin, no farther than the concrete goes."""
    half = np.array([layout.footprint.length / 2, layout.footprint.width / 2])
    points = np.array([p for s in surfaces for line in s.lines for p in line] or [(0.0, 0.0)])
    low, high = np.minimum(points.min(axis=0), -half), np.maximum(points.max(axis=0), half)
    margin = MARGIN * float((high - low).max())
    edges = np.array(layout.edges)
    return np.maximum(low - margin, -edges[:, 0]), np.minimum(high + margin, edges[:, 1])


def _concrete(view: View, layout: Layout, low: np.ndarray, high: np.ndarray) -> None:
    """Its edges; where it goes on it is broken off."""
    (x0, y0), (x1, y1) = ((float(a), float(b)) for a, b in (low, high))
    (left, right), (near, far) = layout.edges
    for a, b, edge in (
        ((x0, y0), (x0, y1), -left == x0),
        ((x1, y0), (x1, y1), right == x1),
        ((x0, y0), (x1, y0), -near == y0),
        ((x0, y1), (x1, y1), far == y1),
    ):
        view.line("concrete", a, b, style="outline" if edge else "break")


def _bars(view: View, layout: Layout) -> None:
    """Upright ones cut, level ones from end to end."""
    if upright := layout.pull_bars:
        for place in upright.places:
            view.shapes.append(Circle("bars", place, upright.steel.bars.d / 2, "field"))
    if level := layout.shear_bars:
        for axis in (0, 1):
            for at, _ in level.legs[axis]:
                for side in (2 * axis, 2 * axis + 1):
                    edge = layout.edges[axis][side % 2]
                    if math.isfinite(edge):
                        _leg(view, layout, side, at)


def _leg(view: View, layout: Layout, side: int, at: float) -> None:
    """One that runs from behind an edge inwards, `at` mm across."""
    level = layout.shear_bars
    assert level is not None
    axis, away = side // 2, 1 if side % 2 else -1
    begins = away * (layout.edges[axis][side % 2] - level.begins(side))
    ends = begins - away * level.length
    points = ((begins, at), (ends, at)) if axis == 0 else ((at, begins), (at, ends))
    view.line("bars", *points)


def _words(view: View, layout: Layout, letter: Letter, surfaces: list[Surface]) -> None:
    """Below: how far the surfaces reach, and what the bars are."""
    t = view.lettering
    points = [p for s in view.shapes if isinstance(s, Shape) for p in s.points]
    middle = (min(p[0] for p in points) + max(p[0] for p in points)) / 2
    y = min(p[1] for p in points) - 1.6 * t
    groups = sum(s.kind == "tension" for s in surfaces)
    lines = [
        (
            f"1.5 hef = {letter(1.5 * layout.of('embedment'))} about the rods"
            + (f", {groups} groups" if groups > 1 else ""),
            "breakout",
        )
    ]
    if upright := layout.pull_bars:
        lines.append(
            (
                (
                    f"{upright.steel.bars.name} upright, {letter(upright.bottom - upright.top)} long,"
                    f" {letter(upright.top)} down"
                ),
                "tension_bars",
            )
        )
    if level := layout.shear_bars:
        lines.append((f"{level.steel[0].bars.name} legs of {level.form}, {letter(level.length)} long", "shear_bars"))
    for text, part in lines:
        view.note(None, (middle, y), text, part, "middle")
        y -= 1.6 * t
