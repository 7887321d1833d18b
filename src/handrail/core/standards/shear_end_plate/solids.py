"""The shear end plate in place: the plate on the support's face with its bolts, the fillets on both sides of the beam's
web."""

from __future__ import annotations

from handrail.core.solids.axes import X
from handrail.core.solids.holes import holes_of
from handrail.core.solids.pieces import Plate, Solids, Weld
from handrail.core.standards.shear_end.solids import FACE, Place, face_bolts, into_support, support
from handrail.core.standards.shear_end_plate.layout import Layout


def solids(layout: Layout) -> Solids:
    """In the joint's axes; the beam stands square to its support."""
    place, t, half, gauge = Place(layout), layout.t, layout.width / 2, layout.of("gauge") / 2
    top, low, depth = -layout.plate_top, -layout.plate_top - layout.depth, layout.situation.supported.section.d
    plies = (("plate", t), ("support", layout.support_thickness))
    bolts = face_bolts("bolts", layout.bolt, [gauge, -gauge], layout.of("first_bolt"), layout.grid, plies, t, True)
    plate = Plate(
        name="plate",
        part="plate",
        axes=FACE,
        outline=((-half, low), (half, low), (half, top), (-half, top)),
        thickness=t,
        holes=holes_of(bolts, FACE, layout.hole),
        grade=layout.grade.name,
    )
    bores = into_support(bolts, layout.face.hole, layout.support_thickness)
    return Solids(
        members=(place.member(t), support(layout, -depth, bores)),
        pieces=(plate,),
        bolts=tuple(bolts),
        welds=tuple(_weld(layout, side) for side in (1.0, -1.0)),
    )


def _weld(layout: Layout, side: float) -> Weld:
    """In the corner of web and plate, a leg short at either end."""
    y, w = side * layout.situation.supported.section.tw / 2, layout.of("weld_size")
    top = -layout.plate_top - w
    return Weld(
        name=f"weld {'far' if side > 0 else 'near'}",
        part="weld",
        run=((layout.t, y, top), (layout.t, y, top - layout.weld.length)),
        legs=((0.0, side, 0.0), X),
        size=w,
        joins=("plate", "beam"),
        field=False,
        electrode=layout.choice("electrode"),
    )
