"""Solids moved to where they stand: turned, or mirrored for the other hand."""

from __future__ import annotations

from dataclasses import replace
from typing import TypeVar

from handrail.core.solids.axes import Axes, Vector, combined
from handrail.core.solids.pieces import Bar, Bore, Cut, Fastener, Plane, Plate, Rebar, Rod, Solids, Weld

P = TypeVar("P", Plate, Bar)


def placed(solids: Solids, at: Axes, mirrored: bool = False) -> Solids:
    """The same in the axes that hold `at`; `mirrored` first, its y the other way."""
    put = _Put(at, mirrored)
    return replace(
        solids,
        members=tuple(put.bar(m) for m in solids.members),
        pieces=tuple(put.plate(p) if isinstance(p, Plate) else put.bar(p) for p in solids.pieces),
        bolts=tuple(put.bolt(b) for b in solids.bolts),
        welds=tuple(put.weld(w) for w in solids.welds),
        rods=tuple(put.rod(r) for r in solids.rods),
        bars=tuple(put.rebar(b) for b in solids.bars),
        ground=tuple(put.plate(g) for g in solids.ground),
    )


class _Put:
    """How places and directions become those of the axes that hold them."""

    def __init__(self, at: Axes, mirrored: bool) -> None:
        self.at, self.mirrored = at, mirrored

    def place(self, v: Vector) -> Vector:
        return self.at.at(v[0], -v[1] if self.mirrored else v[1], v[2])

    def way(self, v: Vector) -> Vector:
        return self.at.along((v[0], -v[1] if self.mirrored else v[1], v[2]))

    def axes(self, axes: Axes, deep: float = 0.0) -> Axes:
        """What is drawn along z for `deep` begins at its other end where it is mirrored: its outline stays the same."""
        if not self.mirrored:
            return Axes(self.place(axes.origin), self.way(axes.x), self.way(axes.y))
        return Axes(self.place(axes.at(z=deep)), self.way(axes.x), self.way(axes.y))

    def cuts(self, cuts: tuple[Cut, ...]) -> tuple[Cut, ...]:
        return tuple(
            Cut(tuple(Plane(self.place(p.at), self.way(p.out)) for p in cut.planes), cut.radius) for cut in cuts
        )

    def plate(self, plate: Plate) -> Plate:
        return replace(plate, axes=self.axes(plate.axes, plate.thickness), cuts=self.cuts(plate.cuts))

    def bar(self, bar: Bar) -> Bar:
        bores = tuple(Bore(self.axes(b.axes, b.deep), b.deep, b.d, b.long) for b in bar.bores)
        return replace(bar, axes=self.axes(bar.axes, bar.length), cuts=self.cuts(bar.cuts), bores=bores)

    def bolt(self, bolt: Fastener) -> Fastener:
        """A bolt is alike all around: it keeps its head where it is."""
        return replace(bolt, axes=self._round(bolt.axes))

    def rod(self, rod: Rod) -> Rod:
        return replace(rod, axes=self._round(rod.axes))

    def _round(self, axes: Axes) -> Axes:
        x, z = self.way(axes.x), self.way(axes.z)
        y = self.way(axes.y)
        return Axes(self.place(axes.origin), x, combined((-1.0, y)) if self.mirrored else y) if z else axes

    def weld(self, weld: Weld) -> Weld:
        a, b = weld.run
        one, other = weld.legs
        return replace(weld, run=(self.place(a), self.place(b)), legs=(self.way(one), self.way(other)))

    def rebar(self, bar: Rebar) -> Rebar:
        return replace(bar, run=tuple(self.place(v) for v in bar.run))
