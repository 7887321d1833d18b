"""The single plate in place: the plate with its holes, the bolts or the fillets on the beam's web, the fillets on the
support."""

from __future__ import annotations

import math
from collections.abc import Iterator

from handrail.core.quantities.units import INCH
from handrail.core.solids.axes import Axes, Vector, X, Z, combined, cross, unit
from handrail.core.solids.holes import holes_of
from handrail.core.solids.pieces import Cut, Fastener, Plane, Plate, Point, Solids, Weld
from handrail.core.standards.shear_end.solids import Place, support
from handrail.core.standards.single_plate.layout import Layout
from handrail.core.standards.single_plate.welded import Welded

PROUD = 2.0  # of the fillet's leg: how far a plate that runs through stands out behind
ROOM = INCH / 16  # of a slot around its plate


def solids(layout: Layout) -> Solids:
    """In the joint's axes."""
    tw, t = layout.situation.supported.section.tw, layout.of("plate_thickness")
    place = Place(layout, (tw + t) / 2)
    bolts = [] if isinstance(layout, Welded) else _bolts(layout, place)
    beam = place.member(layout.width, place.drilled(bolts, layout.holes[1], tw, tw / 2))
    low = -layout.situation.supported.section.d
    return Solids(
        members=(beam, support(layout, low, cuts=(_slot(layout, place.beam),) if layout.through else ())),
        pieces=(_plate(layout, place, bolts),),
        bolts=tuple(bolts),
        welds=(*_on_support(layout, place), *(_on_beam(layout, place) if isinstance(layout, Welded) else ())),
    )


def _bolts(layout: Layout, place: Place) -> list[Fastener]:
    """Heads on the plate's side."""
    tw, t = layout.situation.supported.section.tw, layout.of("plate_thickness")
    plies = (("plate", t), ("beam", tw))
    return list(
        place.bolts("bolts", layout.bolt, layout.grid, layout.of("first_bolt"), layout.a, plies, tw / 2 + t, True)
    )


def _plate(layout: Layout, place: Place, bolts: list[Fastener]) -> Plate:
    """On the web's far side, its edge cut to the face, or run through to the far wall."""
    tw, t = layout.situation.supported.section.tw, layout.of("plate_thickness")
    top, low = -layout.plate_top, -layout.plate_top - layout.of("plate_depth")
    axes = place.beam.moved(0.0, tw / 2 + t, 0.0).with_(X, Z)
    near = min(place.at_face(v, w) for v in (tw / 2, tw / 2 + t) for w in (top, low))
    far = place.at_face(0.0, (top + low) / 2) + layout.width
    outline: tuple[Point, ...] = ((near, low), (far, low), (far, top), (near, top))
    if layout.full_depth:
        outline = _between_flanges(layout, place, far)
    if layout.through:
        behind = (_at_back(layout, place, v, w) for v in (tw / 2, tw / 2 + t) for w in (top, low))
        back = min(behind) - PROUD * layout.of("weld_size")
        outline = ((back, low), (far, low), (far, top), (back, top))
    return Plate(
        name="plate",
        part="plate",
        axes=axes,
        outline=outline,
        thickness=t,
        holes=holes_of(bolts, axes, layout.holes[0]) if bolts else (),
        cuts=() if layout.through else (Cut((place.wall,)),),
        grade=layout.grade.name,
    )


def _between_flanges(layout: Layout, place: Place, far: float) -> tuple[Point, ...]:
    """From flange to flange of the girder as far as their tips, clipped at the fillets; then as deep as at the beam."""
    (upper, lower), tip, clip = _flanges(layout), _tip(layout, place), _clip(layout)
    top, low = -layout.plate_top, -layout.plate_top - layout.of("plate_depth")
    thick = layout.situation.supported.section.tw / 2 + layout.of("plate_thickness")
    web = min(place.at_face(v, 0.0) for v in (0.0, thick))
    inner = place.at_face(thick, 0.0) + clip
    return (
        (inner, lower), (tip, lower), (tip, low), (far, low), (far, top), (tip, top), (tip, upper), (inner, upper),
        (web, upper - clip), (web, lower + clip),
    )  # fmt: skip


def _flanges(layout: Layout) -> tuple[float, float]:
    """Inner faces of the girder's flanges below the beam's top of steel: (upper, lower)."""
    girder, top = layout.situation.carrier.section, layout.situation.top_offset
    return top - girder.tf, top - girder.d + girder.tf


def _tip(layout: Layout, place: Place) -> float:
    """Along the beam to the girder's flange tip."""
    return place.at_face(0.0, 0.0) + layout.approach.outstand / math.cos(layout.situation.skew)


def _clip(layout: Layout) -> float:
    girder = layout.situation.carrier.section
    return girder.k_detail - girder.tf


def _deep(layout: Layout) -> float:
    """Of a hollow column, from its face to the wall behind."""
    s = layout.situation.carrier.section
    return s.bf if layout.situation.face == "long" and s.d > s.bf else s.d


def _at_back(layout: Layout, place: Place, v: float, w: float) -> float:
    """How far along the beam the far wall's outside is, across the web and up."""
    return place.along(place.wall_at(v, _deep(layout)), v, w)


def _slot(layout: Layout, beam: Axes) -> Cut:
    """In both walls of a hollow column, around a plate that runs through, along the beam."""
    tw, t = layout.situation.supported.section.tw, layout.of("plate_thickness")
    low, top = -layout.plate_top - layout.of("plate_depth") - ROOM, -layout.plate_top + ROOM
    sides = (tw / 2 - ROOM, 0.0, beam.y), (tw / 2 + t + ROOM, 0.0, combined((-1.0, beam.y))), (0.0, low, beam.z)
    return Cut(tuple(Plane(beam.at(0.0, v, w), out) for v, w, out in (*sides, (0.0, top, combined((-1.0, beam.z))))))


def _on_support(layout: Layout, place: Place) -> Iterator[Weld]:
    """A fillet on both sides of the plate, along the web, wall or flange; of one that runs through at the far wall,
    too; of one from flange to flange on both of these."""
    tw, t = layout.situation.supported.section.tw, layout.of("plate_thickness")
    top, low, clip = -layout.plate_top, -layout.plate_top - layout.of("plate_depth"), 0.0
    if layout.full_depth:
        (top, low), clip = _flanges(layout), _clip(layout)
    for side, v, way in (("far", tw / 2 + t, 1.0), ("near", tw / 2, -1.0)):
        aside = combined((-way, cross(Z, place.wall_at(v).out)))
        ends = [place.beam.at(place.at_face(v, w), v, w) for w in (top - clip, low + clip)]
        yield _fillet(layout, f"weld {side}", (ends[0], ends[1]), aside, place.beam.x)
        if layout.through:
            behind = [place.beam.at(_at_back(layout, place, v, w), v, w) for w in (top, low)]
            back = combined((way, cross(Z, place.wall_at(v, _deep(layout)).out)))
            yield _fillet(layout, f"weld {side} behind", (behind[0], behind[1]), back, combined((-1.0, place.beam.x)))
        for name, w, up in (("top", top, -1.0), ("bottom", low, 1.0)) if layout.full_depth else ():
            run = place.beam.at(place.at_face(v, w) + clip, v, w), place.beam.at(_tip(layout, place), v, w)
            yield _fillet(layout, f"weld {side} {name}", run, combined((way, place.beam.y)), (0.0, 0.0, up))


def _fillet(layout: Layout, name: str, run: tuple[Vector, Vector], one: Vector, other: Vector) -> Weld:
    """In the shop, its legs square to its line."""
    along = unit(combined((1.0, run[1]), (-1.0, run[0])))
    return Weld(
        name=name,
        part="weld",
        run=run,
        legs=(_square(one, along), _square(other, along)),
        size=layout.of("weld_size"),
        joins=("plate", "support"),
        field=layout.choice("weld_at") == "site",
        electrode=layout.choice("electrode"),
    )


def _on_beam(layout: Welded, place: Place) -> Iterator[Weld]:
    """Down the plate's edge, and along both its ends back to the beam's end."""
    tw = layout.situation.supported.section.tw
    top, low = -layout.plate_top, -layout.plate_top - layout.of("plate_depth")
    far = place.at_face(0.0, (top + low) / 2) + layout.width
    corners = [(place.begins(tw / 2, low), low), (far, low), (far, top), (place.begins(tw / 2, top), top)]
    outward = ((0.0, 0.0, -1.0), X, (0.0, 0.0, 1.0))
    for number, (a, b, out) in enumerate(zip(corners, corners[1:], outward, strict=False)):
        yield Weld(
            name=f"beam weld {number + 1}",
            part="beam_weld",
            run=(place.beam.at(a[0], tw / 2, a[1]), place.beam.at(b[0], tw / 2, b[1])),
            legs=(place.beam.along(out), place.beam.y),
            size=layout.of("beam_weld"),
            joins=("plate", "beam"),
            field=layout.choice("beam_weld_at") == "site",
            electrode=layout.choice("electrode"),
        )


def _square(v: Vector, run: Vector) -> Vector:
    """A direction made square to a line."""
    return unit(combined((1.0, v), (-(v[0] * run[0] + v[1] * run[1] + v[2] * run[2]), run)))
