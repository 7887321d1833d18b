"""The single plate drawn: elevation on the beam's web, a plan and a section through it, as a shop would letter them."""

from __future__ import annotations

from handrail.core.drawing.lettering import Letter
from handrail.core.drawing.scene import Circle, Point, Scene, View
from handrail.core.joint.situation import Situation
from handrail.core.quantities.units import show
from handrail.core.standards.shear_end.drawing import beam_section
from handrail.core.standards.shear_end.elevation import Drawn, Fillet, Words
from handrail.core.standards.shear_end.plan import fillet_pair, plan
from handrail.core.standards.shear_end.sheet import sheet
from handrail.core.standards.single_plate.layout import Layout
from handrail.core.standards.single_plate.welded import Welded, laid_out
from handrail.core.standards.sizes import Sizes


def draw(situation: Situation, sizes: Sizes, system: str = "us") -> Scene:
    """Elevation, plan and section; x from the support's face, y up from the beam's top of steel, mm.

    Lettered in inches, or in mm where `system` is si (then the titles say so).
    """
    return sheet(laid_out(Layout(situation, sizes)), _drawn, _plan, _section, system)


def _drawn(layout: Layout, letter: Letter) -> Drawn:
    """What the elevation shows of it."""
    group, x, gap = layout.grid, layout.width, layout.of("gap")
    plate: Words = (
        (0.3 * min(layout.a, x), -layout.plate_top - 0.1 * layout.plate_end),
        _plate_words(layout, letter),
        "plate",
    )
    weld = Fillet(
        at=(0.0, -layout.plate_top - layout.of("plate_depth") * 0.6),
        size=letter(layout.of("weld_size")),
        electrode=layout.choice("electrode"),
        part="weld",
    )
    if isinstance(layout, Welded):
        corner = (x, -layout.plate_top - 0.1 * layout.of("plate_depth"))
        on_beam = Fillet(
            at=corner,
            size=letter(layout.of("beam_weld")),
            electrode=layout.choice("electrode"),
            part="beam_weld",
            arrow_side=True,
            field=layout.choice("beam_weld_at") == "site",
        )
        return Drawn(
            grid=group,
            width=x,
            top=layout.plate_top,
            depth=layout.of("plate_depth"),
            parts=lambda view, right: _plate(view, layout),
            lengths=[[(0.0, gap, "gap", "left", ""), (gap, x, "lap", "right", "")]],
            words=[on_beam, plate],
            weld=weld,
            bolted=False,
        )
    last = layout.a + group.width
    lengths = [[(0.0, gap, "gap", "left", ""), (last, x, "edge_distance", "right", "")]]
    if group.columns > 1:
        lengths.append([(layout.a, last, "gauge", "right", "")])
    lengths += [[(gap, layout.a, "beam_edge_distance", "right", "")], [(0.0, layout.a, "", "right", "a = ")]]
    words: list[Words] = [((last, -layout.of("first_bolt")), _bolts(layout), "bolts"), plate]
    return Drawn(
        grid=group,
        width=x,
        top=layout.plate_top,
        depth=layout.of("plate_depth"),
        parts=lambda view, right: _plate(view, layout),
        lengths=lengths,
        words=words,
        weld=weld,
    )


def _plate(view: View, layout: Layout) -> None:
    y0, depth = -layout.plate_top, layout.of("plate_depth")
    view.box("plate", 0, y0, layout.width, y0 - depth)
    if layout.full_depth:
        girder, off = layout.situation.carrier.section, layout.situation.top_offset
        edge = (girder.bf - girder.tw) / 2
        for near, far in ((y0, off - girder.tf), (y0 - depth, off - girder.d + girder.tf)):
            view.line("plate", (0, near), (0, far), (edge, far), (edge, near))
    if isinstance(layout, Welded):
        return
    for x, y in _bolt_centres(layout):
        view.shapes.append(Circle("bolts", (x, y), layout.bolt.d / 2, "field"))
        half = layout.bolt.d * 0.9
        view.line("bolts", (x - half, y), (x + half, y), style="centre")
    for column in range(layout.grid.columns):
        x = layout.a + column * layout.grid.gauge
        view.line("bolts", (x, y0 + 12), (x, y0 - depth - 12), style="centre")


def _bolt_centres(layout: Layout) -> list[Point]:
    group = layout.grid
    return [
        (layout.a + column * group.gauge, -layout.of("first_bolt") - row * group.pitch)
        for column in range(group.columns)
        for row in range(group.rows)
    ]


def _bolts(layout: Layout) -> str:
    types = [h.type for h in layout.holes]
    hole = types[0] if types[0] == types[1] else f"{types[0]} plate, {types[1]} web"
    return f"({layout.grid.n}) {layout.sizes['bolt'].value}, {hole} holes"


def _plate_words(layout: Layout, letter: Letter) -> str:
    return (
        f"PL {letter(layout.of('plate_thickness'))} x {letter(layout.width)} x {letter(layout.of('plate_depth'))}"
        f" {layout.grade.name}"
    )


def _plan(layout: Layout, letter: Letter, unit: str, t: float) -> View:
    """From above, cut through the bolts: the plate on the web's far side, skewed as it is."""
    tw, tp = layout.situation.supported.section.tw, layout.of("plate_thickness")
    drawn = plan(layout, layout.width, t, unit)
    drawn.box("plate", 0.0, tw / 2, layout.width, tw / 2 + tp, "cut")
    for column in range(0 if isinstance(layout, Welded) else layout.grid.columns):
        drawn.bolt_across(layout.bolt.d, layout.a + column * layout.grid.gauge, -tw / 2, tw / 2 + tp)
    fillet_pair(drawn, tw / 2, tw / 2 + tp, layout.of("weld_size"))
    drawn.words(letter, f"PL {letter(tp)}", (layout.width * 0.8, tw / 2 + tp), "plate_thickness")
    return drawn.view


def _section(layout: Layout, letter: Letter, unit: str, t: float) -> View:
    """Looking along the beam at its web, the plate on the right; letters `t` mm high."""
    view = View(f"Section through {'plate' if isinstance(layout, Welded) else 'bolts'}{unit}", t)
    beam, tp = layout.situation.supported.section, layout.of("plate_thickness")
    beam_section(view, layout.approach)
    x0, x1 = beam.tw / 2, beam.tw / 2 + tp
    y0, y1 = -layout.plate_top, -layout.plate_top - layout.of("plate_depth")
    view.box("plate", x0, y0, x1, y1, "cut")
    head, nut, d = 0.64 * layout.bolt.d, 0.9 * layout.bolt.d, layout.bolt.d
    bolted = not isinstance(layout, Welded)
    for row in range(layout.grid.rows if bolted else 0):
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
