"""The single plate drawn: elevation on the beam's web and a section through it, as a shop would letter them."""

from __future__ import annotations

from handrail.core.drawing.lettering import Letter, lettering
from handrail.core.drawing.scene import Circle, Point, Scene, Shape, View, fitted
from handrail.core.parts.cope import Cope
from handrail.core.standards.shear_end.drawing import beam, i_shape, support, support_left, turned
from handrail.core.standards.single_plate.layout import Layout
from handrail.core.standards.situation import Situation
from handrail.core.standards.sizes import Sizes
from handrail.core.units import show

ELEVATION, SECTION = (54.0, 43.0), (27.0, 21.0)  # the sheets, in heights of a letter


def draw(situation: Situation, sizes: Sizes, system: str = "us") -> Scene:
    """Elevation and section; x from the support's face, y up from the beam's top of steel, mm.

    Lettered in inches, or in mm where `system` is si (then the titles say so).
    """
    layout = Layout(situation, sizes)
    letter, unit = lettering(system)
    return Scene([fitted(lambda t: _elevation(layout, letter, unit, t), *ELEVATION), fitted(lambda t: _section(layout, letter, unit, t), *SECTION)])


def _elevation(layout: Layout, letter: Letter, unit: str, t: float) -> View:
    """Seen along the support, the beam's end cut off where its dimensions have room; letters `t` mm high."""
    view = View(f"Elevation{unit}", t)
    d = layout.situation.supported.section.d
    above, below = 0.1 * d + 30, 1.06 * d + 40
    cope_end = layout.of("gap") + max(layout.top_cope.length if layout.top_cope else 0.0, layout.bottom_cope.length if layout.bottom_cope else 0.0)
    within = 3.0 * t + max(view.width(letter(layout.plate_end)), view.width(letter(layout.of("first_bolt") - layout.plate_top)))
    right = max(layout.width + 0.25 * d, layout.width + within, cope_end + within - 0.6 * t)
    support(view, layout.situation, above, -below)
    beam(view, layout.approach, right)
    _plate(view, layout, right)
    _heights(view, layout, letter, right)
    _lengths(view, layout, letter)
    _notes(view, layout, letter, cope_end)
    return view


def _plate(view: View, layout: Layout, right: float) -> None:
    y0, depth = -layout.plate_top, layout.of("plate_depth")
    view.box("plate", 0, y0, layout.width, y0 - depth)
    for x, y in _bolt_centres(layout):
        view.shapes.append(Circle("bolts", (x, y), layout.bolt.d / 2))
        half = layout.bolt.d * 0.9
        view.line("bolts", (x - half, y), (x + half, y), style="centre")
    for column in range(layout.grid.columns):
        x = layout.a + column * layout.grid.gauge
        view.line("bolts", (x, y0 + 12), (x, y0 - depth - 12), style="centre")
    for y in {-layout.of("first_bolt"), -layout.of("first_bolt") - layout.grid.depth}:
        view.line("bolts", (layout.width + 0.35 * view.lettering, y), (right - 0.35 * view.lettering, y), style="centre")


def _bolt_centres(layout: Layout) -> list[Point]:
    group = layout.grid
    return [
        (layout.a + column * group.gauge, -layout.of("first_bolt") - row * group.pitch)
        for column in range(group.columns)
        for row in range(group.rows)
    ]


def _heights(view: View, layout: Layout, letter: Letter, right: float) -> None:
    """Edges beside the plate; rows and the top of steel beyond the cut."""
    group, t = layout.grid, view.lettering
    top, bottom = -layout.plate_top, -layout.plate_top - layout.of("plate_depth")
    first = -layout.of("first_bolt")
    last = first - group.depth
    x = layout.width
    for y0, y1, cope in ((first, top, layout.top_cope), (last, bottom, layout.bottom_cope)):
        near = max(x + 1.6 * t, layout.of("gap") + cope.length + t) if cope else x + 1.6 * t  # beside the cope's end, not on it
        away = max(abs(y1 - y0) / 2, 0.65 * t) * (1 if y1 > y0 else -1)
        view.upright((x, y1), (x, y0), near, letter(abs(y1 - y0)), "end_distance", y0 + away)
    column = right + 1.8 * t
    view.upright((right, 0.0), (right, first), column, letter(-first), "first_bolt")
    if group.rows > 1:
        rows = f"{group.rows - 1} @ {letter(group.pitch)} = {letter(group.depth)}" if group.rows > 2 else letter(group.depth)
        view.upright((right, first), (right, last), column, rows, "pitch")


def _lengths(view: View, layout: Layout, letter: Letter) -> None:
    """A line each below everything, so that none has to share its room."""
    group, t, x, low = layout.grid, view.lettering, layout.width, -layout.situation.supported.section.d
    gap, edge = layout.of("gap"), layout.of("edge_distance")
    y = min(p[1] for s in view.shapes if isinstance(s, Shape) for p in s.points) - 1.4 * t
    view.across((0, low), (gap, low), y, letter(gap), "gap", "left")
    view.across((x - edge, low), (x, low), y, letter(edge), "edge_distance")
    if group.columns > 1:
        y -= 1.5 * t
        view.across((layout.a, low), (x - edge, low), y, letter(group.gauge), "gauge")
    view.across((gap, low), (layout.a, low), y - 1.5 * t, letter(layout.of("beam_edge_distance")), "beam_edge_distance")
    view.across((0, low), (layout.a, low), y - 3.0 * t, f"a = {letter(layout.a)}")


def _notes(view: View, layout: Layout, letter: Letter, cope_end: float) -> None:
    """Above everything from the right to the left, so that no leader crosses another; support and weld on the left."""
    situation, t = layout.situation, view.lettering
    x = max(layout.width + 3 * t, cope_end + 2.5 * t)
    last = layout.a + (layout.grid.columns - 1) * layout.grid.gauge
    words = (
        ((x - 2 * t, 0.0), situation.supported.section.name, "beam"),
        ((layout.of("gap") + layout.top_cope.length, -layout.top_cope.depth), _cope(layout.top_cope, letter), "cope_length"),
        ((last, -layout.of("first_bolt")), _bolts(layout), "bolts"),
        ((0.3 * layout.a, -layout.plate_top - 0.3 * layout.plate_end), _plate_words(layout, letter), "plate"),
        (None, turned(situation, layout.approach), "beam"),
    )
    y = max(p[1] for s in view.shapes if isinstance(s, Shape) for p in s.points) + 0.6 * t
    for at, text, part in words:
        if text:
            view.note(at, (x, y), text, part)
            y += 1.6 * t
    if layout.bottom_cope:
        low = -situation.supported.section.d
        corner = (layout.of("gap") + layout.bottom_cope.length, low + layout.bottom_cope.depth)
        view.note(corner, (max(x, layout.width + 7 * t), low - 20 - 1.5 * t), _cope(layout.bottom_cope, letter), "bottom_cope_length")
    left = min(p[0] for s in view.shapes if isinstance(s, Shape) and s.part == "support" for p in s.points) - 1.2 * t
    corner = (0.0, -layout.plate_top - layout.of("plate_depth") * 0.6)
    view.note(corner, (left, corner[1] - 0.36 * t), layout.choice("electrode"), "weld", "end", letter(layout.of("weld_size")))
    far, y = support_left(situation)
    y = min(y, corner[1] - 4.5 * t)
    view.note((far, y + 0.36 * t), (left, y), situation.carrier.section.name, "support", "end")


def _cope(cope: Cope, letter: Letter) -> str:
    return f"cope {letter(cope.length)} x {letter(cope.depth)}" if cope else ""


def _bolts(layout: Layout) -> str:
    types = [h.type for h in layout.holes]
    hole = types[0] if types[0] == types[1] else f"{types[0]} plate, {types[1]} web"
    return f"({layout.grid.n}) {layout.sizes['bolt'].value}, {hole} holes"


def _plate_words(layout: Layout, letter: Letter) -> str:
    return f"PL {letter(layout.of('plate_thickness'))} x {letter(layout.width)} x {letter(layout.of('plate_depth'))} {layout.grade.name}"


def _section(layout: Layout, letter: Letter, unit: str, t: float) -> View:
    """Looking along the beam at its web, the plate on the right; letters `t` mm high."""
    view = View(f"Section through bolts{unit}", t)
    beam, tp = layout.situation.supported.section, layout.of("plate_thickness")
    profile = i_shape(beam.d, beam.bf, beam.tw, beam.tf)
    coped = layout.top_cope or layout.bottom_cope
    view.shapes.append(Shape("beam", tuple(profile), "hidden" if coped else "cut"))
    if coped:
        view.box("beam", -beam.tw / 2, -layout.top_cope.depth, beam.tw / 2, -beam.d + layout.bottom_cope.depth, "cut")
    x0, x1 = beam.tw / 2, beam.tw / 2 + tp
    y0, y1 = -layout.plate_top, -layout.plate_top - layout.of("plate_depth")
    view.box("plate", x0, y0, x1, y1, "cut")
    head, nut, d = 0.64 * layout.bolt.d, 0.9 * layout.bolt.d, layout.bolt.d
    for row in range(layout.grid.rows):
        y = -layout.of("first_bolt") - row * layout.grid.pitch
        view.box("bolts", x1, y - 0.85 * d, x1 + head, y + 0.85 * d)
        view.box("bolts", -x0 - nut, y - 0.85 * d, -x0, y + 0.85 * d)
        view.line("bolts", (-x0 - nut - 12, y), (x1 + head + 12, y), style="centre")
    name, at = f"PL {letter(tp)}", x1 + head + 12 + 1.6 * t
    if layout.grid.rows > 1:
        between = -layout.of("first_bolt") - layout.grid.pitch / 2
        view.note((x1, between), (at, between - 0.36 * t), name, "plate_thickness")
    else:  # from below, where no bolt is in the way
        view.note(((x0 + x1) / 2, y1), (at, y1 - 1.6 * t), name, "plate_thickness")
    column = max(at + view.width(name), beam.bf / 2) + 1.6 * t
    view.upright((x1, y0), (x1, y1), column, letter(layout.of("plate_depth")), "plate_depth")
    thickness = f"{beam.tw:.1f}" if unit else show(beam.tw, "length", fractions=False)
    view.note(None, (0, -beam.d - 1.6 * t), f"tw {thickness}", "beam", "middle")
    return view
