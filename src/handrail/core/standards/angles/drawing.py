"""Shear angles drawn: elevation on the beam's web, plan, and the angles seen along the beam, as a shop would letter
them."""

from __future__ import annotations

from handrail.core.drawing.lettering import Letter
from handrail.core.drawing.scene import Circle, Scene, Shape, View
from handrail.core.joint.situation import Situation
from handrail.core.standards.angles.layout import Angles
from handrail.core.standards.angles.parameters import drop
from handrail.core.standards.shear_end.drawing import beam_section, bolt_in_side_view
from handrail.core.standards.shear_end.elevation import Drawn, Fillet, Words
from handrail.core.standards.shear_end.plan import Plan, plan
from handrail.core.standards.shear_end.sheet import sheet
from handrail.core.standards.sizes import Sizes


def draw(n: int, situation: Situation, sizes: Sizes, system: str = "us") -> Scene:
    """Elevation, plan, and the angles seen along the beam; x from the support's face, y up from the beam's top of
    steel, mm."""
    return sheet(Angles(situation, sizes, n), _drawn, _plan, _section, system)


def _drawn(layout: Angles, letter: Letter) -> Drawn:
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
        parts=lambda view, right: _angle(view, layout),
        lengths=lengths,
        words=words,
        weld=weld,
        bolted=layout.on_beam or layout.bolted_to_support,
    )


def _angle(view: View, layout: Angles) -> None:
    leg, y0, y1 = layout.beam_leg, -layout.top, -layout.top - layout.depth
    view.box("angle", 0.0, y0, leg, y1)
    view.line("angle", (layout.t, y0), (layout.t, y1))
    rows = [-layout.of("first_bolt") - k * layout.of("pitch") for k in range(layout.beam_grid.rows)]
    if layout.on_beam:
        x, half = layout.of("beam_gauge"), layout.beam_bolt.d * 0.9
        for y in rows:
            view.shapes.append(Circle("bolts", (x, y), layout.beam_bolt.d / 2))
            view.line("bolts", (x - half, y), (x + half, y), style="centre")
        view.line("bolts", (x, y0 + 12), (x, y1 - 12), style="centre")
    if layout.bolted_to_support:
        for y in rows:
            bolt_in_side_view(
                view, layout.bolt.d, -layout.support_thickness, layout.t, y - drop(layout.sizes), "support bolts"
            )


def _bolts(layout: Angles, n: int, bolt: str, one: str, other: str, on: str, to: str) -> str:
    holes = layout.choice(one), layout.choice(other)
    hole = holes[0] if holes[0] == holes[1] else f"{holes[0]} {on}, {holes[1]} {to}"
    return f"({n}) {layout.choice(bolt)}, {hole} holes"


def _words(layout: Angles, letter: Letter) -> str:
    return f"{'2' if layout.n == 2 else ''}{layout.angle.name} x {letter(layout.depth)} {layout.grade.name}"


def _sides(layout: Angles) -> tuple[int, ...]:
    """The far side first; one angle stands there."""
    return (1, -1) if layout.n == 2 else (1,)


def _plan(layout: Angles, letter: Letter, unit: str, t: float) -> View:
    """From above, cut through the bolts."""
    drawn = plan(layout, layout.beam_leg, t, unit)
    for side in _sides(layout):
        _ell(drawn, layout, side)
    web, n = layout.tw / 2, layout.n
    if layout.on_beam:
        drawn.bolt_across(
            layout.beam_bolt.d, layout.of("beam_gauge"), -web - (layout.t if n == 2 else 0.0), web + layout.t
        )
    for side in _sides(layout) if layout.bolted_to_support else ():
        drawn.bolt_along(
            layout.bolt.d,
            side * (web + layout.of("support_gauge")),
            -layout.support_thickness,
            layout.t,
            "support bolts",
        )
    name = f"{'2' if n == 2 else ''}{layout.angle.name}"
    drawn.words(letter, name, (layout.beam_leg * 0.85, web + layout.t), "angle")
    return drawn.view


def _ell(drawn: Plan, layout: Angles, side: int) -> None:
    """An angle, its heel at the support's face beside the web, with its fillets."""
    web, t, out, leg = layout.tw / 2, layout.t, layout.support_leg, layout.beam_leg
    corners = [(0.0, web), (leg, web), (leg, web + t), (t, web + t), (t, web + out), (0.0, web + out)]
    drawn.view.shapes.append(Shape("angle", tuple(drawn.at(u, side * v) for u, v in corners), "cut"))
    welds = []
    if not layout.bolted_to_support:
        w = layout.of("support_weld")
        welds.append([(0.0, web + out), (w, web + out), (0.0, web + out + w)])
    if not layout.on_beam:
        w = layout.of("beam_weld")
        welds.append([(leg, web), (leg + w, web), (leg, web + w)])
    for weld in welds:
        drawn.view.shapes.append(Shape("weld", tuple(drawn.at(u, side * v) for u, v in weld), "cut"))


def _section(layout: Angles, letter: Letter, unit: str, t: float) -> View:
    """Looking along the beam at the legs on the support."""
    view = View(f"{'Angles' if layout.n == 2 else 'Angle'} seen along the beam{unit}", t)
    beam_section(view, layout.approach)
    web, out, top, foot = layout.tw / 2, layout.support_leg, -layout.top, -layout.top - layout.depth
    first, gauge = -layout.of("first_bolt") - drop(layout.sizes), layout.of("support_gauge")
    for side in _sides(layout):
        view.box("angle", side * web, top, side * (web + out), foot)
        view.line("angle", (side * (web + layout.t), top), (side * (web + layout.t), foot), style="hidden")
        if layout.bolted_to_support:
            x = side * (web + gauge)
            for row in range(layout.support_grid.rows):
                view.shapes.append(
                    Circle("support bolts", (x, first - row * layout.of("pitch")), layout.bolt.d / 2, "field")
                )
            view.line("support bolts", (x, top + 10), (x, foot - 10), style="centre")
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
