"""The single plate drawn: elevation on the beam's web and a section through it, as a shop would letter them."""

from __future__ import annotations

from handrail.core.drawing.scene import Circle, Dimension, Note, Point, Scene, Shape, View
from handrail.core.standards.shear_end.drawing import Letter, beam, i_shape, lettering, support, turned
from handrail.core.standards.single_plate.layout import Layout
from handrail.core.standards.situation import Situation
from handrail.core.standards.sizes import Sizes
from handrail.core.units import show


def draw(situation: Situation, sizes: Sizes, system: str = "us") -> Scene:
    """Elevation and section; x from the support's face, y up from the beam's top of steel, mm.

    Lettered in inches, or in mm where `system` is si (then the titles say so).
    """
    layout = Layout(situation, sizes)
    letter, unit = lettering(system)
    return Scene([_elevation(layout, letter, unit), _section(layout, letter, unit)])


def _elevation(layout: Layout, letter: Letter, unit: str) -> View:
    view = View(f"Elevation{unit}", [], [], [])
    d = layout.situation.supported.section.d
    right = layout.width + max(0.35 * d, 130.0)
    above, below = 0.12 * d + 40, 1.12 * d + 70
    support(view, layout.situation, above, -below)
    beam(view, layout.approach, right)
    _plate(view, layout)
    _elevation_dimensions(view, layout, letter)
    _elevation_notes(view, layout, right, letter)
    return view


def _plate(view: View, layout: Layout) -> None:
    y0 = -layout.plate_top
    view.box("plate", 0, y0, layout.width, y0 - layout.of("plate_depth"))
    for x, y in _bolt_centres(layout):
        view.shapes.append(Circle("bolts", (x, y), layout.bolt.d / 2))
        half = layout.bolt.d * 0.9
        view.line("bolts", (x - half, y), (x + half, y), style="centre")
    for column in range(layout.grid.columns):
        x = layout.a + column * layout.grid.gauge
        view.line("bolts", (x, y0 + 12), (x, y0 - layout.of("plate_depth") - 12), style="centre")


def _bolt_centres(layout: Layout) -> list[Point]:
    group = layout.grid
    return [
        (layout.a + column * group.gauge, -layout.of("first_bolt") - row * group.pitch)
        for column in range(group.columns)
        for row in range(group.rows)
    ]


def _elevation_dimensions(view: View, layout: Layout, letter: Letter) -> None:
    group, d = layout.grid, layout.situation.supported.section.d
    top, bottom = -layout.plate_top, -layout.plate_top - layout.of("plate_depth")
    first, last = -layout.of("first_bolt"), -layout.of("first_bolt") - layout.grid.depth
    x = layout.width
    rows = f"{group.rows - 1} @ {letter(group.pitch)} = {letter(layout.grid.depth)}" if group.rows > 2 else letter(layout.grid.depth)
    dims = view.dimensions
    dims.append(Dimension((x, top), (x, first), 38, letter(top - first), "end_distance"))
    if group.rows > 1:
        dims.append(Dimension((x, first), (x, last), 38, rows, "pitch"))
    dims.append(Dimension((x, last), (x, bottom), 38, letter(last - bottom), "end_distance"))
    dims.append(Dimension((x, 0.0), (x, first), 92, letter(layout.of("first_bolt")), "first_bolt"))
    low = -d
    dims.append(Dimension((0, low), (layout.of("gap"), low), -34, letter(layout.of("gap")), "gap", "left"))
    dims.append(Dimension((layout.of("gap"), low), (layout.a, low), -34, letter(layout.of("beam_edge_distance")), "beam_edge_distance"))
    if group.columns > 1:
        dims.append(Dimension((layout.a, low), (x - layout.of("edge_distance"), low), -34, letter(group.gauge), "gauge"))
    dims.append(Dimension((x - layout.of("edge_distance"), low), (x, low), -34, letter(layout.of("edge_distance")), "edge_distance", "right"))
    dims.append(Dimension((0, low), (layout.a, low), -72, f"a = {letter(layout.a)}", ""))
    if layout.top_cope:
        end = layout.of("gap") + layout.top_cope.length
        dims.append(Dimension((layout.of("gap"), 0.0), (end, 0.0), 34, letter(layout.top_cope.length), "cope_length"))
        dims.append(Dimension((end, 0.0), (end, -layout.top_cope.depth), 150, letter(layout.top_cope.depth), "cope_depth"))
    if layout.bottom_cope:
        end = layout.of("gap") + layout.bottom_cope.length
        dims.append(Dimension((end, -d + layout.bottom_cope.depth), (end, -d), 150, letter(layout.bottom_cope.depth), "bottom_cope_depth"))


def _elevation_notes(view: View, layout: Layout, right: float, letter: Letter) -> None:
    situation, sizes = layout.situation, layout.sizes
    plate = f"PL {letter(layout.of('plate_thickness'))} x {letter(layout.width)} x {letter(layout.of('plate_depth'))} {layout.grade.name}"
    hole = (
        layout.holes[0].type
        if layout.holes[0].type == layout.holes[1].type
        else f"{layout.holes[0].type} plate, {layout.holes[1].type} web"
    )
    bolts = f"({layout.grid.n}) {sizes['bolt'].value}, {hole} holes"
    y = -layout.plate_top
    view.notes.append(
        Note((layout.width * 0.6, y - layout.of("plate_depth") + layout.plate_end * 0.3), (right + 30, -situation.supported.section.d - 45), plate, "plate")
    )
    view.notes.append(Note((layout.a, -layout.of("first_bolt")), (right + 30, 40), bolts, "bolts"))
    view.notes.append(
        Note((right, -situation.supported.section.d * 0.7), (right + 30, -situation.supported.section.d * 0.7), situation.supported.section.name, "beam")
    )
    turned(view, situation, layout.approach, right)
    corner = (0.0, y - layout.of("plate_depth") * 0.75)
    left = -max(situation.carrier.section.d if situation.framing == "beam_to_column_flange" else situation.carrier.section.bf / 2, 100) - 60
    view.notes.append(
        Note(corner, (left, corner[1] - 40), f"{letter(layout.of('weld_size'))} {layout.choice('electrode')}", "weld", "end", letter(layout.of("weld_size")))
    )
    view.notes.append(
        Note((left + 45, -situation.supported.section.d - 60), (left, -situation.supported.section.d - 60), situation.carrier.section.name, "support", "end")
    )


def _section(layout: Layout, letter: Letter, unit: str) -> View:
    """Looking along the beam at its web, the plate on the right."""
    view = View(f"Section through bolts{unit}", [], [], [])
    beam, tp = layout.situation.supported.section, layout.of("plate_thickness")
    profile = i_shape(beam.d, beam.bf, beam.tw, beam.tf)
    view.shapes.append(Shape("beam", tuple(profile), "hidden" if layout.top_cope or layout.bottom_cope else "cut"))
    if layout.top_cope or layout.bottom_cope:
        view.box("beam", -beam.tw / 2, -layout.top_cope.depth, beam.tw / 2, -beam.d + layout.bottom_cope.depth, "cut")
    x0, x1 = beam.tw / 2, beam.tw / 2 + tp
    y0 = -layout.plate_top
    view.box("plate", x0, y0, x1, y0 - layout.of("plate_depth"), "cut")
    head, nut, d = 0.64 * layout.bolt.d, 0.9 * layout.bolt.d, layout.bolt.d
    for row in range(layout.grid.rows):
        y = -layout.of("first_bolt") - row * layout.grid.pitch
        view.box("bolts", x1, y - 0.85 * d, x1 + head, y + 0.85 * d)
        view.box("bolts", -x0 - nut, y - 0.85 * d, -x0, y + 0.85 * d)
        view.line("bolts", (-x0 - nut - 12, y), (x1 + head + 12, y), style="centre")
    view.dimensions.append(Dimension((x0, y0 - layout.of("plate_depth")), (x1, y0 - layout.of("plate_depth")), -46, letter(tp), "plate_thickness", "right"))
    view.dimensions.append(Dimension((beam.bf / 2, y0), (beam.bf / 2, y0 - layout.of("plate_depth")), 40, letter(layout.of("plate_depth")), "plate_depth"))
    thickness = f"{beam.tw:.1f}" if unit else show(beam.tw, "length", fractions=False)
    view.notes.append(Note((0, -beam.d), (0, -beam.d - 70), f"tw {thickness}", "beam", "middle"))
    return view
