"""Shear angles drawn: elevation on the beam's web, plan, and the angles seen along the beam, as a shop would letter
them."""

from __future__ import annotations

from handrail.core.drawing.lettering import Letter
from handrail.core.drawing.scene import Laid, View
from handrail.core.joint.situation import Situation
from handrail.core.solids.drawn import ALL, Seen
from handrail.core.solids.pieces import Solids
from handrail.core.standards.angles.layout import Angles
from handrail.core.standards.angles.parameters import drop
from handrail.core.standards.shear_end.elevation import Drawn, Fillet, Words
from handrail.core.standards.shear_end.sheet import sheet
from handrail.core.standards.sizes import Sizes


def draw(n: int, situation: Situation, sizes: Sizes, solids: Solids, system: str) -> list[Laid]:
    """Elevation, plan, and the angles seen along the beam."""
    return sheet(Angles(situation, sizes, n), solids, _drawn, _section, system)


def _drawn(layout: Angles, letter: Letter, unit: str) -> Drawn:
    """What the elevation shows of it."""
    leg, gap, gauge, foot = layout.beam_leg, layout.of("gap"), layout.of("beam_gauge"), -layout.top - layout.depth
    lengths = [[(gauge, leg, "", "right", "")], [(0.0, gauge, "beam_gauge", "left", "")]]
    words: list[Words] = []
    if layout.on_beam:
        words.append(
            (
                (gauge, -layout.of("first_bolt")),
                _bolts(layout, layout.beam_grid.n, "beam_bolt", "hole", "web_hole", "leg", "web"),
                "bolts",
            )
        )
    else:
        lengths = [[(0.0, leg, "", "right", "")]]
        corner = (leg, -layout.top - 0.1 * layout.depth)
        words.append(
            Fillet(
                at=corner,
                size=letter(layout.of("beam_weld")),
                electrode=layout.choice("electrode"),
                part="beam_weld",
                arrow_side=True,
            )
        )
    if gap > gauge:
        lengths = lengths[1:]  # no such connection stands: what is left of it has room for no more
    lengths.insert(
        0 if gap < gauge else len(lengths), [(0.0, gap, "gap", "left", "")]
    )  # the longest lowest, so that none is crossed
    if layout.bolted_to_support:
        head = (layout.t + 0.64 * layout.bolt.d, -layout.of("first_bolt") - drop(layout.sizes) + 0.85 * layout.bolt.d)
        words.append(
            (
                head,
                f"{_bolts(layout, layout.support_grid.n, 'bolt', 'leg_hole', 'support_hole', 'leg', 'support')}, field",
                "support bolts",
            )
        )
    words.append(((0.3 * leg, -layout.top), _words(layout, letter), "angle"))
    weld = None
    if not layout.bolted_to_support:
        weld = Fillet(
            at=(0.0, foot + 0.12 * layout.depth),
            size=letter(layout.of("support_weld")),
            electrode=layout.choice("electrode"),
            part="support_weld",
            arrow_side=True,
            field=layout.choice("support_weld_at") == "site",
        )
    return Drawn(
        grid=layout.beam_grid,
        width=leg,
        top=layout.top,
        depth=layout.depth,
        lengths=lengths,
        words=words,
        plan=((0.85 * leg, layout.tw / 2 + layout.t), f"{'2' if layout.n == 2 else ''}{layout.angle.name}", "angle"),
        section=leg + 1.0,
        weld=weld,
        bolted=layout.on_beam or layout.bolted_to_support,
    )


def _bolts(layout: Angles, n: int, bolt: str, one: str, other: str, on: str, to: str) -> str:
    holes = layout.choice(one), layout.choice(other)
    hole = holes[0] if holes[0] == holes[1] else f"{holes[0]} {on}, {holes[1]} {to}"
    return f"({n}) {layout.choice(bolt)}, {hole} holes"


def _words(layout: Angles, letter: Letter) -> str:
    return f"{'2' if layout.n == 2 else ''}{layout.angle.name} x {letter(layout.depth)} {layout.grade.name}"


def _section(layout: Angles, seen: Seen, letter: Letter, unit: str, t: float) -> View:
    """Looking along the beam at the legs on the support."""
    view = View(f"{'Angles' if layout.n == 2 else 'Angle'} seen along the beam{unit}", t, seen.within(ALL))
    web, out, top, foot = layout.tw / 2, layout.support_leg, -layout.top, -layout.top - layout.depth
    first, gauge = -layout.of("first_bolt") - drop(layout.sizes), layout.of("support_gauge")
    low, d = foot - 10, layout.situation.supported.section.d
    y = -d - 1.8 * t
    if layout.bolted_to_support:
        view.across((web, -d), (web + gauge, low), y, letter(gauge), "support_gauge", "left")
        y -= 1.5 * t
        view.across((web + gauge, low), (web + out, foot), y, letter(out - gauge))
    else:
        view.across((web, foot), (web + out, foot), y, letter(out))
    column = max(web + out, layout.approach.beam.bf / 2) + 1.8 * t
    if drop(layout.sizes) and layout.bolted_to_support:
        view.upright((web + out, top), (web + gauge + layout.bolt.d, first), column, letter(top - first), "stagger")
        column += view.width(letter(top - first)) + 2 * t
    view.upright((web + out, top), (web + out, foot), column, letter(layout.depth), "angle_length")
    return view
