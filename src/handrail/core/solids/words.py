"""What a solid is, in the words of a parts list."""

from __future__ import annotations

from collections.abc import Callable

from handrail.core.quantities.units import show, worked
from handrail.core.solids.collisions import Solid
from handrail.core.solids.pieces import Bar, Fastener, Plate, Rebar, Rod, Washer, Weld


def said(solid: Solid | Rebar, system: str) -> str:
    """Its size, with units of `system`, and what it is made of."""

    def mm(value: float) -> str:
        return show(value, "length", system)

    def rough(value: float) -> str:
        return mm(worked(value, system) if system == "us" else round(value, 1))

    if isinstance(solid, Plate):
        short, long = (rough(side) for side in sorted(solid.sides))
        return _of(f"plate {mm(solid.thickness)} x {short} x {long}", solid.grade)
    if isinstance(solid, Bar):
        return _of(f"{solid.section}, {rough(solid.length)} long", solid.grade)
    if isinstance(solid, Fastener):
        return ordered(solid, system, f", grip {mm(solid.grip)}")
    if isinstance(solid, Weld):
        kind = f"{mm(solid.size)} fillet" if solid.kind == "fillet" else f"{solid.kind} weld"
        return _of(f"{kind}, {rough(solid.length)} long, {_where(solid.field)}", solid.electrode)
    if isinstance(solid, Rod):
        return _of(f"rod {mm(solid.d)}, {rough(solid.length)} long", solid.grade)
    return f"bar {mm(solid.d)}"


def ordered(bolt: Fastener, system: str, also: str = "") -> str:
    """A bolt as it is bought and put in, and what else is to be said of it."""

    def mm(value: float) -> str:
        return show(value, "length", system)

    washers = "".join(
        f", {_washer(washer, bolt, mm)} under its {end}"
        for washer, end in zip(bolt.washers, ("head", "nut"), strict=True)
        if washer
    )
    return f"{bolt.bolt.name}, {mm(bolt.length)} long{also}{washers}, {_where(bolt.field)}"


def _washer(washer: Washer, bolt: Fastener, mm: Callable[[float], str]) -> str:
    """Its size where it is not the usual one of such a bolt."""
    if washer.long:
        return f"plate washer {mm(washer.thickness)} x {mm(washer.wide)} x {mm(washer.long)}"
    return "washer" if washer.thickness == bolt.bolt.washer_thickness else f"washer {mm(washer.thickness)}"


def _where(field: bool) -> str:
    return "at the site" if field else "in the shop"


def _of(words: str, grade: str) -> str:
    return f"{words}, {grade}" if grade else words
