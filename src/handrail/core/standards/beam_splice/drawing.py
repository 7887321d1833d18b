"""The splice drawn: elevation on the webs, plan on the top flange where it has plates, a section beside the middle."""

from __future__ import annotations

from functools import partial

from handrail.core.drawing.lettering import Letter, lettering, shopwise, spaced
from handrail.core.drawing.scene import Laid, Point, Shape, View
from handrail.core.joint.situation import Situation
from handrail.core.quantities.units import INCH
from handrail.core.solids.axes import Axes, X, Y, Z, combined
from handrail.core.solids.drawn import ALL, Seen
from handrail.core.solids.pieces import Solids
from handrail.core.standards.beam_splice.layout import SAME, Layout
from handrail.core.standards.sizes import Sizes
from handrail.core.standards.spliced import on_flanges

LARGE, SMALL = (54.0, 43.0), (27.0, 21.0)  # the sheets, in heights of a letter
FAR = 1e4  # mm, beyond all that is drawn


def draw(situation: Situation, sizes: Sizes, solids: Solids, system: str) -> list[Laid]:
    """Laid out with x along the beams from the splice's middle to the piece that the forces are of, y up from its top
    of steel, mm; seen from the far side, where a single plate stands: that piece goes to the left.

    Lettered in inches, or in mm where `system` is si (then the titles say so).
    """
    layout = Layout(situation, sizes)
    letter, unit = lettering(system)
    beside = Seen(solids, Axes(x=combined((-1.0, X)), y=Z))
    views = [Laid(partial(_elevation, layout, beside, letter, unit), *LARGE)]
    if layout.flanged:
        above = Seen(on_flanges(solids), Axes(x=combined((-1.0, X)), y=combined((-1.0, Y))))
        views.append(Laid(partial(_plan, layout, above, letter, unit), *LARGE))
    through = Seen(solids, Axes(x=Y, y=Z), layout.of("gap") / 2 + layout.of("beam_edge_distance"))
    return [*views, Laid(partial(_section, layout, through, letter, unit), *SMALL)]


def _reach(layout: Layout) -> float:
    """From the middle to the end of the longest plate."""
    half = layout.of("gap") / 2 + layout.of("beam_edge_distance")
    web = half + layout.grid.width + layout.of("edge_distance")
    if not layout.flanged:
        return web
    side = layout.flange(layout.pieces[0])
    return max(web, half + side.length + side.end)


def _elevation(layout: Layout, seen: Seen, letter: Letter, unit: str, t: float) -> View:
    view = View(f"Elevation{unit}", t)
    far = _reach(layout) + 3.0 * INCH
    view.shapes = [shape.mirrored() for shape in seen.within((-far, -FAR, far, FAR))]
    half = layout.of("gap") / 2 + layout.of("beam_edge_distance") + layout.grid.width + layout.of("edge_distance")
    _heights(view, layout, letter, unit, far)
    _lengths(view, layout, letter, half)
    _notes(view, layout, letter, half, far)
    return view.mirrored()


def _extreme(view: View, axis: int, most: bool) -> float:
    places = [p[axis] for s in view.shapes if isinstance(s, Shape) for p in s.points]
    return max(places) if most else min(places)


def _heights(view: View, layout: Layout, letter: Letter, unit: str, far: float) -> None:
    """Right of the break: web rows and the plate's end below them; beyond these from the top of steel to the plate, and
    its depth."""
    t, y, grid, depth = view.lettering, layout.middle, layout.grid, layout.of("plate_depth")
    last = layout.of("gap") / 2 + layout.of("beam_edge_distance") + grid.width
    edge, x = last + layout.of("edge_distance"), far + 1.8 * t
    high, low, top, bottom = y + grid.depth / 2, y - grid.depth / 2, y + depth / 2, y - depth / 2
    rows = spaced(letter, grid.rows, grid.pitch)
    if grid.rows > 1:
        view.upright((last, high), (last, low), x, rows, "pitch")
    end = letter(layout.plate_end)
    view.upright((last, low), (edge, bottom), x, end, "end_distance", bottom - 0.5 * t)
    x += max(map(view.width, (rows, end))) + 1.8 * t
    view.upright((far, 0.0), (edge, top), x, shopwise(letter, unit)(-top))
    view.upright((edge, top), (edge, bottom), x, letter(depth), "plate_depth")


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
        view.across((a, low), (a + grid.width, low), y, spaced(letter, grid.columns, grid.gauge), "gauge")
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


def _plan(layout: Layout, seen: Seen, letter: Letter, unit: str, t: float) -> View:
    """From above on the top flange's plate."""
    view = View(f"Plan of the top flange{unit}", t)
    side, p = layout.flange(layout.pieces[0]), layout.flange_plates
    half = side.half_gap + side.beam_edge + side.length + side.end
    far = half + 3.0 * INCH
    view.shapes = [shape.mirrored() for shape in seen.within((-far, -FAR, far, FAR))]
    xs = [side.half_gap + side.beam_edge + k * side.pitch for k in range(side.rows)]
    low, y = -p.width / 2, _extreme(view, 1, False) - 1.4 * t
    view.across((half - side.end, low), (half, low), y, letter(side.end), "flange_end_distance")
    if side.rows > 1:
        y -= 1.5 * t
        view.across((xs[0], low), (xs[-1], low), y, spaced(letter, side.rows, side.pitch), "flange_pitch")
    view.across((side.half_gap, low), (xs[0], low), y - 1.5 * t, letter(side.beam_edge), "beam_edge_distance")
    x = far + 1.8 * t
    view.upright((xs[-1], side.gage / 2), (xs[-1], -side.gage / 2), x, letter(side.gage), "flange_gage")
    x += view.width(letter(side.gage)) + 1.8 * t
    view.upright(
        (half, p.width / 2), (half, -p.width / 2), x, letter(p.width), "flange_plate_width", p.width / 2 - 0.8 * t
    )
    return view.mirrored()


def _section(layout: Layout, seen: Seen, letter: Letter, unit: str, t: float) -> View:
    """Across the piece that the forces are of, through its first bolts, towards the other."""
    view = View(f"Section{unit}", t, seen.within(ALL))
    s, tp, y = layout.pieces[0].section, layout.of("plate_thickness"), layout.middle
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
