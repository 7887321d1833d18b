"""The single plate drawn: elevation on the beam's web, a plan and a section through it, as a shop would letter them."""

from __future__ import annotations

from functools import partial

from handrail.core.drawing.lettering import Letter, shopwise
from handrail.core.drawing.scene import Laid, Shape, View
from handrail.core.joint.situation import Situation
from handrail.core.quantities.units import show
from handrail.core.solids.drawn import ALL, Seen
from handrail.core.solids.pieces import Plate, Solids
from handrail.core.standards.shear_end.drawing import rounded
from handrail.core.standards.shear_end.elevation import Drawn, Fillet, Words
from handrail.core.standards.shear_end.sheet import sheet
from handrail.core.standards.single_plate.layout import Layout
from handrail.core.standards.single_plate.welded import Welded, laid_out
from handrail.core.standards.sizes import Sizes


def draw(situation: Situation, sizes: Sizes, solids: Solids, system: str) -> list[Laid]:
    """Elevation, plan and section."""
    plate = next(piece for piece in solids.pieces if isinstance(piece, Plate))
    return sheet(laid_out(Layout(situation, sizes)), solids, partial(_drawn, plate), _section, system)


def _drawn(plate: Plate, layout: Layout, letter: Letter, unit: str) -> Drawn:
    """What the elevation shows of it."""
    group, x, gap, thick = layout.grid, layout.width, layout.of("gap"), layout.of("plate_thickness")
    plan = (0.8 * x, layout.situation.supported.section.tw / 2 + thick), f"PL {letter(thick)}", "plate_thickness"
    named: Words = (
        (0.3 * min(layout.a, x), -layout.plate_top - 0.1 * layout.plate_end),
        _plate_words(layout, plate, letter, unit),
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
            lengths=[[(0.0, gap, "gap", "left", ""), (gap, x, "lap", "right", "")]],
            words=[on_beam, named],
            plan=plan,
            section=gap + 0.5 * (x - gap),
            weld=weld,
            bolted=False,
        )
    last = layout.a + group.width
    lengths = [[(0.0, gap, "gap", "left", ""), (last, x, "edge_distance", "right", "")]]
    if group.columns > 1:
        lengths.append([(layout.a, last, "gauge", "right", "")])
    lengths += [[(gap, layout.a, "beam_edge_distance", "right", "")], [(0.0, layout.a, "", "right", "a = ")]]
    words: list[Words] = [((last, -layout.of("first_bolt")), _bolts(layout), "bolts"), named]
    return Drawn(
        grid=group,
        width=x,
        top=layout.plate_top,
        depth=layout.of("plate_depth"),
        lengths=lengths,
        words=words,
        plan=plan,
        section=layout.a,
        weld=weld,
    )


def _bolts(layout: Layout) -> str:
    types = [h.type for h in layout.holes]
    hole = types[0] if types[0] == types[1] else f"{types[0]} plate, {types[1]} web"
    return f"({layout.grid.n}) {layout.sizes['bolt'].value}, {hole} holes"


def _plate_words(layout: Layout, plate: Plate, letter: Letter, unit: str) -> str:
    """The piece that it is cut from."""
    across, up = plate.sides
    wide = rounded(layout.situation, letter, unit)(across)
    deep = shopwise(letter, unit)(up) if layout.full_depth else letter(layout.of("plate_depth"))
    return f"PL {letter(plate.thickness)} x {wide} x {deep} {layout.grade.name}"


def _section(layout: Layout, seen: Seen, letter: Letter, unit: str, t: float) -> View:
    """Looking along the beam at its web, the plate on the right; letters `t` mm high."""
    bolted = not isinstance(layout, Welded)
    view = View(f"Section through {'bolts' if bolted else 'plate'}{unit}", t)
    view.shapes = seen.within(ALL)
    beam, tp = layout.situation.supported.section, layout.of("plate_thickness")
    x0, x1 = beam.tw / 2, beam.tw / 2 + tp
    y0, y1 = -layout.plate_top, -layout.plate_top - layout.of("plate_depth")
    out = (
        max(x for s in view.shapes if s.part == "bolts" and isinstance(s, Shape) for x, _ in s.points) if bolted else x1
    )
    name, at = f"PL {letter(tp)}", out + 1.6 * t
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
