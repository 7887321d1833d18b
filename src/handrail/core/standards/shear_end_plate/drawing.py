"""The shear end plate drawn: elevation on the beam's web, plan and a view of the plate, as a shop would letter them."""

from __future__ import annotations

from handrail.core.drawing.lettering import Letter
from handrail.core.drawing.scene import Laid, View
from handrail.core.joint.situation import Situation
from handrail.core.solids.drawn import ALL, Seen
from handrail.core.solids.pieces import Solids
from handrail.core.standards.shear_end.elevation import Drawn, Fillet, Words
from handrail.core.standards.shear_end.sheet import sheet
from handrail.core.standards.shear_end_plate.layout import Layout
from handrail.core.standards.sizes import Sizes


def draw(situation: Situation, sizes: Sizes, solids: Solids, system: str) -> list[Laid]:
    """Elevation, plan, and the plate seen along the beam."""
    return sheet(Layout(situation, sizes), solids, _drawn, _section, system)


def _drawn(layout: Layout, letter: Letter, unit: str) -> Drawn:
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
        lengths=[[(0.0, t, "plate_thickness", "right", "")]],
        words=words,
        plan=((t / 2, layout.width / 2), f"PL {letter(t)}", "plate_thickness"),
        section=head + layout.bolt.d,
    )


def _bolts(layout: Layout) -> str:
    holes = layout.choice("hole"), layout.choice("support_hole")
    hole = holes[0] if holes[0] == holes[1] else f"{holes[0]} plate, {holes[1]} support"
    return f"({layout.grid.n}) {layout.sizes['bolt'].value}, {hole} holes, field"


def _plate_words(layout: Layout, letter: Letter) -> str:
    return f"PL {letter(layout.t)} x {letter(layout.width)} x {letter(layout.depth)} {layout.grade.name}"


def _section(layout: Layout, seen: Seen, letter: Letter, unit: str, t: float) -> View:
    """Looking along the beam at the plate behind it."""
    view = View(f"Plate seen along the beam{unit}", t, seen.within(ALL))
    half, top, foot = layout.width / 2, -layout.plate_top, -layout.plate_top - layout.depth
    gauge = layout.of("gauge")
    low = -layout.situation.supported.section.d - 1.8 * t
    view.across((-gauge / 2, foot - 10), (gauge / 2, foot - 10), low, letter(gauge), "gauge", "left")
    view.across((gauge / 2, foot - 10), (half, foot), low - 1.5 * t, letter(half - gauge / 2), "edge_distance")
    out = max(half, layout.approach.beam.bf / 2)
    view.upright((half, top), (half, foot), out + 1.8 * t, letter(layout.depth), "plate_depth")
    return view
