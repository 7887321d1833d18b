"""The single plate in place: the plate with its holes, the bolts or the fillets on the beam's web, the fillets on the
support."""

from __future__ import annotations

from collections.abc import Iterator

from handrail.core.solids.axes import Vector, X, Z, combined, cross, unit
from handrail.core.solids.holes import holes_of
from handrail.core.solids.pieces import Cut, Fastener, Plate, Solids, Weld
from handrail.core.standards.shear_end.solids import Place, support
from handrail.core.standards.single_plate.layout import Layout
from handrail.core.standards.single_plate.welded import Welded


def solids(layout: Layout) -> Solids:
    """In the joint's axes."""
    tw, t = layout.situation.supported.section.tw, layout.of("plate_thickness")
    place = Place(layout, (tw + t) / 2)
    bolts = [] if isinstance(layout, Welded) else _bolts(layout, place)
    beam = place.member(layout.width, place.drilled(bolts, layout.holes[1], tw, tw / 2))
    plate = _plate(layout, place, bolts)
    on_beam = _on_beam(layout, place) if isinstance(layout, Welded) else ()
    return Solids(
        members=(beam, support(layout, -layout.situation.supported.section.d)),
        pieces=(plate,),
        bolts=tuple(bolts),
        welds=(*_on_support(layout, place, t), *on_beam),
    )


def _bolts(layout: Layout, place: Place) -> list[Fastener]:
    """Heads on the plate's side."""
    tw, t = layout.situation.supported.section.tw, layout.of("plate_thickness")
    plies = (("plate", t), ("beam", tw))
    return list(
        place.bolts("bolts", layout.bolt, layout.grid, layout.of("first_bolt"), layout.a, plies, tw / 2 + t, True)
    )


def _plate(layout: Layout, place: Place, bolts: list[Fastener]) -> Plate:
    """On the web's far side, its edge cut to the face."""
    tw, t = layout.situation.supported.section.tw, layout.of("plate_thickness")
    top, depth = -layout.plate_top, layout.of("plate_depth")
    axes = place.beam.moved(0.0, tw / 2 + t, 0.0).with_(X, Z)
    near = min(place.at_face(v, w) for v in (tw / 2, tw / 2 + t) for w in (top, top - depth))
    far = place.at_face(0.0, top - depth / 2) + layout.width
    return Plate(
        name="plate",
        part="plate",
        axes=axes,
        outline=((near, top - depth), (far, top - depth), (far, top), (near, top)),
        thickness=t,
        holes=holes_of(bolts, axes, layout.holes[0]) if bolts else (),
        cuts=(Cut((place.wall,)),),
        grade=layout.grade.name,
    )


def _on_support(layout: Layout, place: Place, t: float) -> Iterator[Weld]:
    """A fillet on both sides of the plate."""
    tw, top, low = (
        layout.situation.supported.section.tw,
        -layout.plate_top,
        -layout.plate_top - layout.of("plate_depth"),
    )
    for side, v, way in (("far", tw / 2 + t, 1.0), ("near", tw / 2, -1.0)):
        start, end = (place.beam.at(place.at_face(v, w), v, w) for w in (top, low))
        run = unit(combined((1.0, end), (-1.0, start)))
        yield Weld(
            name=f"weld {side}",
            part="weld",
            run=(start, end),
            legs=(_square(combined((-way, cross(Z, place.wall.out))), run), _square(place.beam.x, run)),
            size=layout.of("weld_size"),
            field=False,
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
            field=True,
            electrode=layout.choice("electrode"),
        )


def _square(v: Vector, run: Vector) -> Vector:
    """A direction made square to a line."""
    return unit(combined((1.0, v), (-(v[0] * run[0] + v[1] * run[1] + v[2] * run[2]), run)))
