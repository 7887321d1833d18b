"""Washers under heads and nuts, as the bolting specification asks (RCSC, section 6): over oversized and slotted holes
of outer plies, under the nut of what is pretensioned, under both of the strongest bolts in soft steel."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import replace

from handrail.core.catalogue import Bolt, grade, hole
from handrail.core.quantities.units import INCH, KSI
from handrail.core.solids.axes import dot
from handrail.core.solids.pieces import Fastener, Piece, Plate, Solids, Washer

PLATE = 5 / 16 * INCH  # thickness over a long slot, and of hardened ones of thick strong bolts
SOFT = 40 * KSI
HAIR = 1e-6
ON = 1.0  # mm, a hole's middle off its bolt
STRONG = ("A490", "A490M", "F2280")


def washered(solids: Solids, tightening: Mapping[str, str]) -> Solids:
    """The same with each bolt tightened as its part is (snug where `tightening` does not say), and its washers."""
    by_name = {piece.name: piece for piece in (*solids.members, *solids.pieces)}
    bolts = []
    for bolt in solids.bolts:
        how = tightening.get(bolt.part, "snug")
        plies = [by_name[name] for name in bolt.plies]
        soft = how != "snug" and bolt.bolt.group in STRONG and any(_soft(ply) for ply in plies)
        own = replace(bolt, tightening=how)
        washers = under(own, plies[0], soft), under(own, plies[-1], how != "snug")
        bolts.append(replace(own, washers=washers) if any(washers) else own)
    return replace(solids, bolts=tuple(bolts))


def under(bolt: Fastener, ply: Piece, hardened: bool) -> Washer | None:
    """The washer on an outer ply."""
    wide, long, along = hole_at(bolt, ply)
    thick = thickness(bolt.bolt, max(wide, long), bolt.tightening, hardened)
    if not thick:
        return None
    if _long(bolt.bolt, long):  # the bolt stands anywhere in its slot
        return Washer(thick, bolt.bolt.washer, 2 * long - bolt.bolt.d, abs(dot(along, bolt.axes.y)) > 0.5)
    return Washer(thick, bolt.bolt.washer)


def thickness(bolt: Bolt, opening: float, tightening: str, hardened: bool) -> float:
    """Of the washer over a hole of so much at its longest, mm; 0 where none is asked for. `hardened` where there is one
    on any hole: under what is turned, the nut."""
    larger = opening > hole("STD", bolt.d).along + HAIR
    strong = tightening != "snug" and bolt.group in STRONG and bolt.d > (24.0 if bolt.metric else INCH) + HAIR
    if _long(bolt, opening) or (larger and strong):
        return PLATE
    return bolt.washer_thickness if larger or hardened else 0.0


def _long(bolt: Bolt, opening: float) -> bool:
    return opening > hole("SSLT", bolt.d).across + HAIR


def hole_at(bolt: Fastener, ply: Piece) -> tuple[float, float, tuple[float, float, float]]:
    """(width, length or nothing, direction of its length) of a bolt's hole in a ply; no hole has nothing."""
    if isinstance(ply, Plate):
        x, y, _ = ply.axes.seen(bolt.axes.origin)
        for one in ply.holes:
            if abs(one.x - x) < ON and abs(one.y - y) < ON:
                return one.d, one.long, ply.axes.along((math.cos(one.turned), math.sin(one.turned), 0.0))
        return 0.0, 0.0, ply.axes.x
    for bore in ply.bores:
        x, y, _ = bore.axes.seen(bolt.axes.origin)
        if abs(x) < ON and abs(y) < ON and abs(dot(bore.axes.z, bolt.axes.z)) > 0.99:
            return bore.d, bore.long, bore.axes.x
    return 0.0, 0.0, ply.axes.x


def _soft(ply: Piece) -> bool:
    return bool(ply.grade) and grade(ply.grade).Fy < SOFT - HAIR
