"""The shear end plate drawn: elevation on the beam's web, plan and a view of the plate, as a shop would letter them."""

from __future__ import annotations

from handrail.core.drawing.lettering import Letter
from handrail.core.drawing.scene import Circle, Scene, Shape, View
from handrail.core.joint.situation import Situation
from handrail.core.standards.shear_end.drawing import beam_section, bolt_in_side_view
from handrail.core.standards.shear_end.elevation import Drawn, Fillet, Words
from handrail.core.standards.shear_end.plan import plan
from handrail.core.standards.shear_end.sheet import sheet
from handrail.core.standards.shear_end_plate.layout import Layout
from handrail.core.standards.sizes import Sizes


def draw(situation: Situation, sizes: Sizes, system: str = "us") -> Scene:
    """Elevation, plan, and the plate seen along the beam; x from the support's face, y up from the beam's top of steel,
    mm."""
    return sheet(Layout(situation, sizes), _drawn, _plan, _section, system)


def _drawn(layout: Layout, letter: Letter) -> Drawn:
    """What the elevation shows of it."""
    t, head = layout.t, layout.t + 0.64 * layout.bolt.d
    corner = -layout.plate_top - 0.25 * layout.plate_end
    words: list[Words] = [
        ((head, -layout.of("first_bolt")), _bolts(layout), "bolts"),
        Fillet(at=(t, corner), size=letter(layout.of("weld_size")), electrode=layout.choice("electrode"), part="weld"),
        ((0.5 * t, -layout.plate_top), _plate_words(layout, letter), "plate"),
    ]
    return Drawn(
        grid=layout.grid,
        width=head,
        top=layout.plate_top,
        depth=layout.depth,
        parts=lambda view, right: _plate(view, layout),
        lengths=[[(0.0, t, "plate_thickness", "right", "")]],
        words=words,
    )


def _plate(view: View, layout: Layout) -> None:
    view.box("plate", 0.0, -layout.plate_top, layout.t, -layout.plate_top - layout.depth, "cut")
    for row in range(layout.grid.rows):
        bolt_in_side_view(
            view, layout.bolt.d, -layout.support_thickness, layout.t, -layout.of("first_bolt") - row * layout.grid.pitch
        )


def _bolts(layout: Layout) -> str:
    holes = layout.choice("hole"), layout.choice("support_hole")
    hole = holes[0] if holes[0] == holes[1] else f"{holes[0]} plate, {holes[1]} support"
    return f"({layout.grid.n}) {layout.sizes['bolt'].value}, {hole} holes, field"


def _plate_words(layout: Layout, letter: Letter) -> str:
    return f"PL {letter(layout.t)} x {letter(layout.width)} x {letter(layout.depth)} {layout.grade.name}"


def _plan(layout: Layout, letter: Letter, unit: str, t: float) -> View:
    """From above, cut through the bolts."""
    drawn = plan(layout, layout.t, t, unit)
    half, gauge, web, w = (
        layout.width / 2,
        layout.of("gauge"),
        layout.situation.supported.section.tw,
        layout.of("weld_size"),
    )
    drawn.box("plate", 0.0, -half, layout.t, half, "cut")
    for v in (-gauge / 2, gauge / 2):
        drawn.bolt_along(layout.bolt.d, v, -layout.support_thickness, layout.t)
    for v, way in ((-web / 2, -1), (web / 2, 1)):
        corners = ((layout.t, v), (layout.t + w, v), (layout.t, v + way * w))
        drawn.view.shapes.append(Shape("weld", tuple(drawn.at(*c) for c in corners), "cut"))
    drawn.words(letter, f"PL {letter(layout.t)}", (layout.t / 2, half), "plate_thickness")
    return drawn.view


def _section(layout: Layout, letter: Letter, unit: str, t: float) -> View:
    """Looking along the beam at the plate behind it."""
    view = View(f"Plate seen along the beam{unit}", t)
    beam_section(view, layout.approach)
    half, top, foot = layout.width / 2, -layout.plate_top, -layout.plate_top - layout.depth
    view.box("plate", -half, top, half, foot)
    gauge = layout.of("gauge")
    for x in (-gauge / 2, gauge / 2):
        for row in range(layout.grid.rows):
            view.shapes.append(
                Circle("bolts", (x, -layout.of("first_bolt") - row * layout.grid.pitch), layout.bolt.d / 2, "field")
            )
        view.line("bolts", (x, top + 10), (x, foot - 10), style="centre")
    low = -layout.situation.supported.section.d - 1.8 * t
    view.across((-gauge / 2, foot - 10), (gauge / 2, foot - 10), low, letter(gauge), "gauge", "left")
    view.across((gauge / 2, foot - 10), (half, foot), low - 1.5 * t, letter(half - gauge / 2), "edge_distance")
    out = max(half, layout.approach.beam.bf / 2)
    view.upright((half, top), (half, foot), out + 1.8 * t, letter(layout.depth), "plate_depth")
    return view
