"""The splice drawn: elevation on the webs, plan on the top flange where it has plates, a section beside the middle."""

from __future__ import annotations

from handrail.core.catalogue import Steel
from handrail.core.drawing.lettering import Letter, lettering
from handrail.core.drawing.scene import Circle, Point, Scene, Shape, View, fitted
from handrail.core.joint.situation import Situation
from handrail.core.quantities.units import INCH
from handrail.core.standards.beam_splice.layout import SAME, Layout
from handrail.core.standards.shear_end.drawing import i_shape
from handrail.core.standards.sizes import Sizes

LARGE, SMALL = (54.0, 43.0), (27.0, 21.0)  # the sheets, in heights of a letter


def draw(situation: Situation, sizes: Sizes, system: str = "us") -> Scene:
    """x along the beams from the splice's middle, the piece that the forces are of on the right; y up from its top of
    steel, mm.

    Lettered in inches, or in mm where `system` is si (then the titles say so).
    """
    layout = Layout(situation, sizes)
    letter, unit = lettering(system)
    views = [fitted(lambda t: _elevation(layout, letter, unit, t), *LARGE)]
    if layout.flanged:
        views.append(fitted(lambda t: _plan(layout, letter, unit, t), *LARGE))
    return Scene([*views, fitted(lambda t: _section(layout, letter, unit, t), *SMALL)])


def _reach(layout: Layout) -> float:
    """From the middle to the end of the longest plate."""
    half = layout.of("gap") / 2 + layout.of("beam_edge_distance")
    web = half + layout.grid.width + layout.of("edge_distance")
    if not layout.flanged:
        return web
    side = layout.flange(layout.pieces[0])
    return max(web, half + side.length + side.end)


def _web_bolts(layout: Layout) -> list[Point]:
    """Of both sides, from the middle of the web's plates."""
    a, grid = layout.of("gap") / 2 + layout.of("beam_edge_distance"), layout.grid
    return [
        (way * (a + column * grid.gauge), grid.depth / 2 - row * grid.pitch)
        for way in (-1, 1)
        for column in range(grid.columns)
        for row in range(grid.rows)
    ]


def _elevation(layout: Layout, letter: Letter, unit: str, t: float) -> View:
    view = View(f"Elevation{unit}", t)
    far = _reach(layout) + 3.0 * INCH
    for steel, top, way in zip(layout.pieces, layout.tops, (1, -1), strict=True):
        _beam(view, steel, top, way * layout.of("gap") / 2, way * far)
    half = layout.of("gap") / 2 + layout.of("beam_edge_distance") + layout.grid.width + layout.of("edge_distance")
    y = layout.middle
    view.box("plate", -half, y - layout.of("plate_depth") / 2, half, y + layout.of("plate_depth") / 2)
    own = layout.web(layout.pieces[0]).bolt
    for x, up in _web_bolts(layout):
        view.shapes.append(Circle("bolts", (x, y + up), own.d / 2))
        view.line("bolts", (x - 0.9 * own.d, y + up), (x + 0.9 * own.d, y + up), style="centre")
        view.line("bolts", (x, y + up - 0.9 * own.d), (x, y + up + 0.9 * own.d), style="centre")
    if layout.flanged:
        _flange_plates(view, layout)
    _heights(view, layout, letter, far)
    _lengths(view, layout, letter, half)
    _notes(view, layout, letter, half, far)
    return view


def _beam(view: View, steel: Steel, top: float, start: float, far: float) -> None:
    """One beam from its end to where it is broken off."""
    s = steel.section
    for y in (top, top - s.tf, top - s.d + s.tf, top - s.d):
        view.line("beam", (start, y), (far, y))
    view.line("beam", (start, top), (start, top - s.d))
    view.line("beam", (far, top + 20.0), (far, top - s.d - 20.0), style="break")


def _flange_plates(view: View, layout: Layout) -> None:
    """Outer plates, inner ones, fillers on the smaller piece; bolts as centre lines."""
    plates, side = layout.flange_plates, layout.flange(layout.pieces[0])
    half = side.half_gap + side.beam_edge + side.length + side.end
    tops, sections = layout.tops, [p.section for p in layout.pieces]
    up, down = max(tops), min(top - s.d for top, s in zip(tops, sections, strict=True))
    view.box("flange_plate", -half, up, half, up + plates.t)
    view.box("flange_plate", -half, down - plates.t, half, down)
    for top, s, way in zip(tops, sections, (1, -1), strict=True):
        near, ends = way * side.half_gap, way * half
        for y0, y1 in ((top, up), (down, top - s.d)):
            if y1 - y0 > SAME:
                view.box("fillers", min(near, ends), y0, max(near, ends), y1)
        if plates.inside:
            thick = plates.inside[1]
            for y0 in (top - s.tf - thick, top - s.d + s.tf):
                view.box("inner_plate", min(near, ends), y0, max(near, ends), y0 + thick, "hidden")
    d = side.bolt.d
    for way in (-1, 1):
        for k in range(side.rows):
            x = way * (side.half_gap + side.beam_edge + k * side.pitch)
            for y0, y1 in (
                (up + plates.t, max(tops) - 1.2 * sections[0].tf),
                (down + 1.2 * sections[0].tf, down - plates.t),
            ):
                view.line("flange_bolts", (x, y0 + 0.7 * d), (x, y1 - 0.7 * d), style="centre")
            for y in (up + plates.t, down - plates.t - 0.65 * d):
                view.box("flange_bolts", x - 0.85 * d, y, x + 0.85 * d, y + 0.65 * d)


def _extreme(view: View, axis: int, most: bool) -> float:
    places = [p[axis] for s in view.shapes if isinstance(s, Shape) for p in s.points]
    return max(places) if most else min(places)


def _heights(view: View, layout: Layout, letter: Letter, far: float) -> None:
    """Right of the break: web rows, and the plate's depth beyond them."""
    t, y, grid = view.lettering, layout.middle, layout.grid
    last = layout.of("gap") / 2 + layout.of("beam_edge_distance") + grid.width
    edge = last + layout.of("edge_distance")
    x = far + 1.8 * t
    if grid.rows > 1:
        text = f"{grid.rows - 1} @ {letter(grid.pitch)} = {letter(grid.depth)}" if grid.rows > 2 else letter(grid.depth)
        view.upright((last, y + grid.depth / 2), (last, y - grid.depth / 2), x, text, "pitch")
        x += view.width(text) + 1.8 * t
    depth = layout.of("plate_depth")
    view.upright((edge, y + depth / 2), (edge, y - depth / 2), x, letter(depth), "plate_depth", y + depth / 2 - 0.8 * t)


def _lengths(view: View, layout: Layout, letter: Letter, half: float) -> None:
    """A line each below everything."""
    t, grid = view.lettering, layout.grid
    gap, edge, a = (
        layout.of("gap") / 2,
        layout.of("edge_distance"),
        layout.of("gap") / 2 + layout.of("beam_edge_distance"),
    )
    y, low = _extreme(view, 1, False) - 1.4 * t, layout.middle - layout.of("plate_depth") / 2
    view.across((half - edge, low), (half, low), y, letter(edge), "edge_distance")
    view.across((-gap, low), (gap, low), y, letter(2 * gap), "gap", "left")
    if grid.columns > 1:
        y -= 1.5 * t
        text = letter(grid.gauge) if grid.columns == 2 else f"2 @ {letter(grid.gauge)} = {letter(grid.width)}"
        view.across((a, low), (a + grid.width, low), y, text, "gauge")
    view.across((gap, low), (a, low), y - 1.5 * t, letter(layout.of("beam_edge_distance")), "beam_edge_distance")


def _notes(view: View, layout: Layout, letter: Letter, half: float, far: float) -> None:
    """Plates and bolts above everything, from the right to the left; each beam beyond its break, low on the right, high
    on the left."""
    t, y0 = view.lettering, layout.middle
    count = "(2) " if layout.plates == 2 else ""
    plate = (
        f"{count}PL {letter(layout.of('plate_thickness'))} x {letter(2 * half)} x {letter(layout.of('plate_depth'))}"
        f" {layout.choice('plate_grade')}"
    )
    grid = layout.grid
    last = layout.of("gap") / 2 + layout.of("beam_edge_distance") + grid.width
    words: list[tuple[Point | None, str, str]] = [
        ((last, y0 + grid.depth / 2), f"({grid.n}) {layout.choice('bolt')} a side, web", "bolts"),
        ((0.6 * last, y0 + grid.depth / 2 + 0.4 * layout.plate_end), plate, "plate"),
    ]
    x, y = last + 2.5 * t, _extreme(view, 1, True) + 0.6 * t
    for at, text, part in words:
        view.note(at, (x, y), text, part)
        y += 1.6 * t
    own, other = (piece.section for piece in layout.pieces)
    view.note((far - 0.5 * t, own.tf - own.d), (far + 1.2 * t, -own.d - 1.0 * t), own.name, "beam")
    left, top = -far - 1.2 * t, layout.tops[1] - 0.3 * other.d
    view.note((-far + 0.5 * t, layout.tops[1] - other.tf), (left, top), other.name, "support", "end")
    if layout.flanged:
        _flange_words(view, layout, letter, -far)


def _flange_words(view: View, layout: Layout, letter: Letter, left: float) -> None:
    """Below everything: what stands on the flanges."""
    t, p, side = view.lettering, layout.flange_plates, layout.flange(layout.pieces[0])
    length = 2 * (side.half_gap + side.beam_edge + side.length + side.end)
    words = [
        f"flanges PL {letter(p.t)} x {letter(p.width)} x {letter(length)}",
        f"({side.n}) {layout.choice('flange_bolt')} a side, each flange",
    ]
    if p.inside:
        words.append(f"inside (2) PL {letter(p.inside[1])} x {letter(p.inside[0])} each flange")
    fillers = [f for f in layout.flange_fillers if f > SAME]
    if fillers:
        words.append(f"fillers {letter(max(fillers))}, {layout.choice('fillers')}")
    low = min(p[1] for d in view.dimensions for p in d.line) - 1.2 * t
    for k, text in enumerate(words):
        view.note(
            None, (left, low - 1.5 * t * (k + 1)), text, "inner_plate" if text.startswith("inside") else "flange_plate"
        )


def _plan(layout: Layout, letter: Letter, unit: str, t: float) -> View:
    """From above on the top flange's plate."""
    view = View(f"Plan of the top flange{unit}", t)
    side, p = layout.flange(layout.pieces[0]), layout.flange_plates
    half = side.half_gap + side.beam_edge + side.length + side.end
    far = half + 3.0 * INCH
    for steel, way in zip(layout.pieces, (1, -1), strict=True):
        b = steel.section.bf / 2
        for y in (-b, b):
            view.line("beam", (way * side.half_gap, y), (way * far, y))
        view.line("beam", (way * side.half_gap, -b), (way * side.half_gap, b), style="hidden")
        view.line("beam", (way * far, -b - 15), (way * far, b + 15), style="break")
    view.box("flange_plate", -half, -p.width / 2, half, p.width / 2)
    xs = [side.half_gap + side.beam_edge + k * side.pitch for k in range(side.rows)]
    for x in (*xs, *(-x for x in xs)):
        for y in (-side.gage / 2, side.gage / 2):
            view.shapes.append(Circle("flange_bolts", (x, y), side.bolt.d / 2))
            view.line("flange_bolts", (x - 0.9 * side.bolt.d, y), (x + 0.9 * side.bolt.d, y), style="centre")
            view.line("flange_bolts", (x, y - 0.9 * side.bolt.d), (x, y + 0.9 * side.bolt.d), style="centre")
    low, y = -p.width / 2, _extreme(view, 1, False) - 1.4 * t
    view.across((half - side.end, low), (half, low), y, letter(side.end), "flange_end_distance")
    text = f"{side.rows - 1} @ {letter(side.pitch)} = {letter(side.length)}" if side.rows > 2 else letter(side.length)
    if side.rows > 1:
        y -= 1.5 * t
        view.across((xs[0], low), (xs[-1], low), y, text, "flange_pitch")
    view.across((side.half_gap, low), (xs[0], low), y - 1.5 * t, letter(side.beam_edge), "beam_edge_distance")
    x = far + 1.8 * t
    view.upright((xs[-1], side.gage / 2), (xs[-1], -side.gage / 2), x, letter(side.gage), "flange_gage")
    x += view.width(letter(side.gage)) + 1.8 * t
    view.upright(
        (half, p.width / 2), (half, -p.width / 2), x, letter(p.width), "flange_plate_width", p.width / 2 - 0.8 * t
    )
    return view


def _section(layout: Layout, letter: Letter, unit: str, t: float) -> View:
    """Across the right piece beside the middle."""
    view = View(f"Section{unit}", t)
    s, tp = layout.pieces[0].section, layout.of("plate_thickness")
    view.shapes.append(Shape("beam", tuple(i_shape(s.d, s.bf, s.tw, s.tf)), "cut"))
    y, depth = layout.middle, layout.of("plate_depth")
    for way in (1, -1)[: layout.plates]:
        x0, x1 = sorted((way * s.tw / 2, way * (s.tw / 2 + tp)))
        view.box("plate", x0, y - depth / 2, x1, y + depth / 2, "cut")
    if layout.flanged:
        p = layout.flange_plates
        for y0 in (0.0, -s.d - p.t):
            view.box("flange_plate", -p.width / 2, y0, p.width / 2, y0 + p.t, "cut")
        if p.inside:
            wide, thick = p.inside
            tip = s.bf / 2
            for way in (-1, 1):
                x0, x1 = sorted((way * tip, way * (tip - wide)))
                for low in (-s.tf - thick, -s.d + s.tf):
                    view.box("inner_plate", x0, low, x1, low + thick, "cut")
    edge = _extreme(view, 0, True) + 1.6 * t
    view.note((s.tw / 2 + tp, y), (edge, y - 0.36 * t), f"PL {letter(tp)}", "plate_thickness")
    if layout.flanged:
        view.note(
            (layout.flange_plates.width / 2, layout.flange_plates.t / 2),
            (edge, layout.flange_plates.t + 0.6 * t),
            f"PL {letter(layout.flange_plates.t)}",
            "flange_plate_thickness",
        )
    return view
