"""Shear angles in place: one or two of them, bolted or welded to the beam's web and to the support's face."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from handrail.core.solids.axes import Axes, Vector, X, Y, Z, combined
from handrail.core.solids.pieces import Bar, Fastener, Solids, Weld
from handrail.core.solids.profiles import ell
from handrail.core.standards.angles.layout import Angles
from handrail.core.standards.angles.parameters import drop
from handrail.core.standards.shear_end.solids import Place, face_bolts, into_support, support

FAR, NEAR = 1.0, -1.0  # sides of the web
Pair = tuple[Vector, Vector]
Runs = list[tuple[Pair, Pair]]  # the ends of a line, the directions of its legs


def solids(layout: Angles) -> Solids:
    """In the joint's axes; the beam stands square to its support."""
    place, sides = Place(layout), (FAR, NEAR) if layout.n == 2 else (FAR,)
    on_beam, on_support = _on_beam(layout, place), _on_support(layout, sides)
    beam = place.member(layout.beam_leg, place.drilled(on_beam, layout.hole("web_hole"), layout.tw, layout.tw / 2))
    bores = into_support(on_support, layout.face.hole, layout.support_thickness) if on_support else ()
    return Solids(
        members=(beam, support(layout, -layout.situation.supported.section.d, bores)),
        pieces=tuple(_angle(layout, place, side, on_beam, on_support) for side in sides),
        bolts=(*on_beam, *on_support),
        welds=tuple(weld for side in sides for weld in _welds(layout, side)),
        erection=0 if layout.bolted_to_support else int(layout.of("erection_bolts")),
    )


def _name(side: float) -> str:
    return "angle far" if side > 0 else "angle near"


def _on_beam(layout: Angles, place: Place) -> list[Fastener]:
    """Heads on the far side, through both legs and the web."""
    if not layout.on_beam:
        return []
    t, near = layout.t, (("angle near", layout.t),) if layout.n == 2 else ()
    plies = (("angle far", t), ("beam", layout.tw), *near)
    first, gauge, v = layout.of("first_bolt"), layout.of("beam_gauge"), layout.tw / 2 + t
    return list(place.bolts("bolts", layout.beam_bolt, layout.beam_grid, first, gauge, plies, v, False))


def _on_support(layout: Angles, sides: tuple[float, ...]) -> list[Fastener]:
    """Heads on the legs, a line a leg."""
    if not layout.bolted_to_support:
        return []
    first, y = layout.of("first_bolt") + drop(layout.sizes), layout.tw / 2 + layout.of("support_gauge")
    found: list[Fastener] = []
    for side in sides:
        plies = ((_name(side), layout.t), ("support", layout.support_thickness))
        line = face_bolts("support bolts", layout.bolt, [side * y], first, layout.support_grid, plies, layout.t, True)
        found += [_numbered(bolt, len(found) + k) for k, bolt in enumerate(line, 1)]
    return found


def _numbered(bolt: Fastener, number: int) -> Fastener:
    return replace(bolt, name=f"{bolt.part} {number}")


def _angle(layout: Angles, place: Place, side: float, on_beam: list[Fastener], on_support: list[Fastener]) -> Bar:
    """Its heel in the corner of face and web; on the far side it is drawn from the top down, so that its profile is the
    same."""
    top, low = -layout.top, -layout.top - layout.depth
    heel = side * layout.tw / 2
    axes = Axes((0.0, heel, low), X, Y) if side > 0 else Axes((0.0, heel, top), X, combined((-1.0, Y)))
    of_leg = [b for b in on_support if _name(side) in b.plies]
    v = layout.tw / 2 + layout.t if side > 0 else -layout.tw / 2
    bores = (
        *place.drilled(on_beam, layout.hole("hole"), layout.t, v),
        *(into_support(of_leg, layout.hole("leg_hole"), layout.t, layout.t) if of_leg else ()),
    )
    return Bar(
        name=_name(side),
        part="angle",
        axes=axes,
        section=layout.angle.name,
        profile=(ell(layout.beam_leg, layout.support_leg, layout.t),),
        length=layout.depth,
        bores=bores,
        grade=layout.grade.name,
        mass=layout.angle.mass,
    )


def _welds(layout: Angles, side: float) -> Iterator[Weld]:
    heel, top, low = side * layout.tw / 2, -layout.top, -layout.top - layout.depth
    out = (0.0, side, 0.0)
    if not layout.on_beam:
        leg, gap = layout.beam_leg, layout.of("gap")
        runs: Runs = [
            (((leg, heel, top), (leg, heel, low)), (X, out)),
            (((gap, heel, top), (leg, heel, top)), (Z, out)),
            (((gap, heel, low), (leg, heel, low)), (combined((-1.0, Z)), out)),
        ]
        at_site = layout.choice("beam_weld_at") == "site"
        yield from _all(layout, (_name(side), "beam"), "beam_weld", "beam_weld", runs, at_site)
    if not layout.bolted_to_support:
        toe = heel + side * layout.support_leg
        runs = [(((0.0, toe, top), (0.0, toe, low)), (out, X))]
        if layout.n == 1:  # and along its foot
            runs.append((((0.0, heel, low), (0.0, toe, low)), (combined((-1.0, Z)), X)))
        at_site = layout.choice("support_weld_at") == "site"
        yield from _all(layout, (_name(side), "support"), "weld", "support_weld", runs, at_site)


def _all(layout: Angles, joins: tuple[str, str], part: str, size: str, runs: Runs, field: bool) -> Iterator[Weld]:
    angle, to = joins
    for number, (run, legs) in enumerate(runs, 1):
        yield Weld(
            name=f"{to} weld {angle} {number}",
            part=part,
            run=run,
            legs=legs,
            size=layout.of(size),
            joins=joins,
            field=field,
            electrode=layout.choice("electrode"),
        )
