"""Solids in their own axes: what is alike anywhere in a building is one shape there."""

from __future__ import annotations

from dataclasses import replace

from handrail.core.solids.axes import Axes, Vector, combined, cross, dot, unit
from handrail.core.solids.collisions import Solid
from handrail.core.solids.pieces import Bar, Bore, Cut, Fastener, Plane, Plate, Weld

DIGITS = 4  # of mm and of directions: what is nearer is alike


def own(solid: Solid) -> tuple[Axes, Solid]:
    """Where it stands, and it without its name, in those axes."""
    if isinstance(solid, Weld):
        return _weld(solid)
    at, bare = solid.axes, replace(solid, name="", part="", axes=Axes())
    if isinstance(bare, Plate):
        return at, replace(
            bare,
            outline=tuple((round(x, DIGITS), round(y, DIGITS)) for x, y in bare.outline),
            cuts=_cuts(bare.cuts, at),
        )
    if isinstance(bare, Bar):
        bores = tuple(Bore(_seen(bore.axes, at), bore.deep, bore.d, bore.long) for bore in bare.bores)
        return at, replace(bare, length=round(bare.length, DIGITS), cuts=_cuts(bare.cuts, at), bores=bores)
    return at, replace(bare, plies=()) if isinstance(bare, Fastener) else bare


def _weld(weld: Weld) -> tuple[Axes, Weld]:
    start, stop = weld.run
    way = unit(combined((1.0, stop), (-1.0, start)))
    x = unit(combined((1.0, weld.legs[0]), (-dot(weld.legs[0], way), way)))
    at = Axes(start, x, cross(way, x))
    legs = _rounded(_turned(weld.legs[0], at)), _rounded(_turned(weld.legs[1], at))
    run = ((0.0, 0.0, 0.0), (0.0, 0.0, round(weld.length, DIGITS)))
    return at, replace(weld, name="", part="", run=run, legs=legs, joins=("", ""))


def _cuts(cuts: tuple[Cut, ...], at: Axes) -> tuple[Cut, ...]:
    return tuple(
        Cut(tuple(Plane(_rounded(at.seen(p.at)), _rounded(_turned(p.out, at))) for p in cut.planes), cut.radius)
        for cut in cuts
    )


def _seen(axes: Axes, at: Axes) -> Axes:
    return Axes(_rounded(at.seen(axes.origin)), _rounded(_turned(axes.x, at)), _rounded(_turned(axes.y, at)))


def _turned(way: Vector, at: Axes) -> Vector:
    return dot(way, at.x), dot(way, at.y), dot(way, at.z)


def _rounded(v: Vector) -> Vector:
    a, b, c = (round(x, DIGITS) + 0.0 for x in v)
    return a, b, c
