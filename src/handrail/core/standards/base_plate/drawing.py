"""The base drawn: plan with its anchors named, both elevations through plate, grout and concrete, and what breaks out
of it."""

from __future__ import annotations

import math
from dataclasses import replace
from functools import partial

from handrail.core.catalogue import Section
from handrail.core.drawing.lettering import Letter, lettering
from handrail.core.drawing.scene import Laid, Shape, View
from handrail.core.joint.situation import Situation
from handrail.core.quantities.units import INCH
from handrail.core.solids.axes import Axes, X, Y, Z
from handrail.core.solids.drawn import Seen
from handrail.core.solids.pieces import Solids
from handrail.core.standards.base_plate.breakout import breakout
from handrail.core.standards.base_plate.elevation import ACROSS, ALONG, drawn_to, elevation
from handrail.core.standards.base_plate.ground import foundation
from handrail.core.standards.base_plate.layout import Layout
from handrail.core.standards.sizes import Sizes

PLAN, ELEVATION, BREAKOUT = (54.0, 43.0), (54.0, 43.0), (54.0, 43.0)  # the sheets, in heights of a letter
CLEAR = 1.0  # mm from the rods' ends to the cut above them
APART = 2.4  # heights of a letter between the column's name and the weld's


def draw(situation: Situation, sizes: Sizes, solids: Solids, system: str) -> list[Laid]:
    """Plan, elevations along and across, breakout; x along the column's depth, y across it (plan), or either with the
    height over the concrete (elevations), mm.

    Lettered in inches, or in mm where `system` is si (then the titles say so). Nothing is drawn
    without a foundation.
    """
    if foundation(situation, sizes) is None:
        return []
    layout = Layout(situation, sizes)
    letter, unit = lettering(system)
    above = Seen(
        replace(solids, bars=()),
        Axes(),
        max(rod.axes.origin[2] for rod in solids.rods) + CLEAR if solids.rods else None,
    )
    along, across = Seen(solids, Axes(x=X, y=Z)), Seen(solids, Axes(x=Y, y=Z))
    views = (
        (partial(_plan, layout, above, letter, unit), PLAN),
        (partial(elevation, layout, along, letter, unit, axis=ALONG), ELEVATION),
        (partial(elevation, layout, across, letter, unit, axis=ACROSS), ELEVATION),
        (partial(breakout, layout, letter, unit), BREAKOUT),
    )
    return [Laid(of, *sheet, shop=of.func is not breakout) for of, sheet in views]


def _plan(layout: Layout, seen: Seen, letter: Letter, unit: str, t: float) -> View:
    """From above, the column cut over its rods."""
    half, wide = layout.footprint.length / 2, layout.footprint.width / 2
    along, across = layout.edges
    (x0, x1), (y0, y1) = drawn_to(along, half + 2 * INCH), drawn_to(across, wide + 2 * INCH)
    view = View(f"Plan{unit}", t, seen.within((-x0, -y0, x1, y1)))
    _names(view, layout)
    _lengths(view, layout, letter)
    _widths(view, layout, letter)
    _notes(view, layout, letter)
    return view


def _names(view: View, layout: Layout) -> None:
    """Of each rod: beside the plate for the outermost rows, on the side of the plate's middle for others."""
    side, t = layout.of("washer") / 2, view.lettering
    half, far = layout.footprint.length / 2, max((abs(x) for x, _ in layout.placed.points), default=0.0)
    for (x, y), name in zip(layout.placed.points, layout.placed.names, strict=True):
        if abs(x) > far - 1.0:
            way = 1 if x > 0 else -1
            place = (way * (half + 0.5 * t), y - 1.1 * t if y > 1 else y + 0.3 * t)
            view.note(None, place, name, "anchors", "start" if way > 0 else "end")
        else:
            view.note(None, (x, y - side - 1.1 * t if y > -1 else y + side + 0.4 * t), name, "anchors", "middle")


def _low(view: View) -> float:
    return min(p[1] for s in view.shapes if isinstance(s, Shape) for p in s.points)


def _right(view: View) -> float:
    return max(p[0] for s in view.shapes if isinstance(s, Shape) for p in s.points)


def _lengths(view: View, layout: Layout, letter: Letter) -> None:
    """Below everything: rods, plate, concrete."""
    along, t, half = layout.edges[0], view.lettering, layout.footprint.length / 2
    xs = sorted({round(x, 3) for x, _ in layout.placed.points})
    y = _low(view) - 1.6 * t
    low = -layout.footprint.width / 2
    for a, b in zip(xs, xs[1:], strict=False):
        view.across(
            (a, min(v for u, v in layout.placed.points if abs(u - a) < 1)), (b, low), y, letter(b - a), "spacing_along"
        )
    if len(xs) > 1:
        y -= 1.6 * t
    view.across((-half, low), (half, low), y, letter(2 * half), "plate_length")
    if cx := layout.column[0]:
        y -= 1.6 * t
        view.across((min(cx, 0.0), low), (max(cx, 0.0), low), y, letter(abs(cx)), "offset_along")
    if math.isfinite(sum(along)) and max(along) <= drawn_to(along, half + 2 * INCH)[0] + 1:
        view.across((-along[0], low), (along[1], low), y - 1.6 * t, letter(sum(along)))


def _widths(view: View, layout: Layout, letter: Letter) -> None:
    """Right of everything, as the lengths."""
    across, t, wide = layout.edges[1], view.lettering, layout.footprint.width / 2
    ys = sorted({round(y, 3) for _, y in layout.placed.points})
    x, right = _right(view) + 1.6 * t, layout.footprint.length / 2
    texts = [letter(b - a) for a, b in zip(ys, ys[1:], strict=False)]
    for a, b, text in zip(ys, ys[1:], texts, strict=False):
        view.upright(
            (max(u for u, v in layout.placed.points if abs(v - a) < 1), a), (right, b), x, text, "spacing_across"
        )
    if texts:
        x += max(view.width(text) for text in texts) + 1.8 * t
    view.upright((right, -wide), (right, wide), x, letter(2 * wide), "plate_width", wide - 0.8 * t if texts else None)
    if cy := layout.column[1]:
        x += view.width(letter(2 * wide)) + 1.8 * t
        view.upright((right, min(cy, 0.0)), (right, max(cy, 0.0)), x, letter(abs(cy)), "offset_across")
    if math.isfinite(sum(across)) and max(across) <= drawn_to(across, wide + 2 * INCH)[0] + 1:
        x += view.width(letter(2 * wide)) + 1.8 * t
        view.upright((right, -across[0]), (right, across[1]), x, letter(sum(across)), "", across[1] - 0.8 * t)


def _notes(view: View, layout: Layout, letter: Letter) -> None:
    """Above everything, from the right to the left, so that no leader crosses another."""
    t, s, pattern = view.lettering, layout.situation.supported.section, layout.choice("weld_pattern")
    complete, whole = pattern == "complete", s.hollow or pattern != "outside"
    half, wide = layout.footprint.length / 2, layout.footprint.width / 2
    top = max(layout.placed.points, key=lambda p: (p[1], p[0]), default=(0.0, 0.0))
    plate = " x ".join(letter(layout.of(n)) for n in ("plate_thickness", "plate_length", "plate_width"))
    rods = f"({len(layout.placed.points)}) {layout.rod.name}, holes {letter(layout.rod.hole)}"
    washer = layout.of("washer")
    washers = (
        f"PL washers {letter(layout.rod.washer_thickness)} x {letter(washer)} x {letter(washer)},"
        f" {layout.choice('washers')}"
    )
    words = (
        ((half - 0.25 * washer, wide), f"PL {plate} {layout.choice('plate_grade')}", "plate"),
        ((top[0], top[1] + layout.rod.d / 2), rods, "anchors"),
        (None, washers, "washer"),
        *([] if whole else [(None, "column weld: outside flanges, both sides of web", "weld")]),
    )
    x, y = half + t, max(p[1] for s_ in view.shapes if isinstance(s_, Shape) for p in s_.points) + 0.6 * t
    for at, text, part in words:
        view.note(at, (x, y), text, part)
        y += 1.6 * t
    left = min(p[0] for s_ in view.shapes if isinstance(s_, Shape) for p in s_.points) - 1.2 * t
    high, low = _free(layout, t)
    cx, cy = layout.column
    view.note((cx - s.d / 2 * _reach(s, high), cy + high), (left, cy + high - 0.36 * t), s.name, "column", "end")
    view.note(
        (cx - s.d / 2 * _reach(s, low), cy + low),
        (left, cy + low - 0.36 * t),
        f"{'CJP ' if complete else ''}{layout.choice('electrode')}",
        "weld",
        "end",
        "" if complete else letter(layout.of("weld_size")),
        arrow_side=True,
        field=layout.choice("weld_at") == "site",
        around=whole and not complete,
        groove=complete,
    )


def _reach(section: Section, y: float) -> float:
    """Where a column's face stands at `y`, as a share of half its depth: less on a round one."""
    return math.sqrt(max(1 - (2 * y / section.d) ** 2, 0.0)) if section.round else 1.0


def _free(layout: Layout, t: float) -> tuple[float, float]:
    """Two heights on the column's left face, apart from each other, whose leaders miss the rods there and their
    names."""
    s, rods = (
        layout.situation.supported.section,
        [y - layout.column[1] for x, y in layout.placed.points if x < layout.column[0]],
    )
    half = (s.d if s.round else s.bf) / 2
    places = [half * k / 10 for k in range(-9, 10)]

    def clear(y: float) -> float:
        """How far the leader passes from the nearest name."""
        return min((abs(y - r - math.copysign(0.7 * t, 1.0 - r)) for r in rods), default=math.inf)

    pairs = [(high, low) for high in places for low in places if high - low > APART * t] or [(places[-1], places[0])]
    return max(pairs, key=lambda pair: min(map(clear, pair)))
