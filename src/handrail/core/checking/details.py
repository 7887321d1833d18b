"""A connection as a detail for a sheet: its views and what it is made of."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence

from handrail.core.drawing.sheets import Detail
from handrail.core.joint.situation import Situation
from handrail.core.quantities.units import show
from handrail.core.solids import words
from handrail.core.solids.pieces import Fastener, Piece, Rod, Solids
from handrail.core.standards import Standard
from handrail.core.standards.sizes import Sizes


def detail(
    name: str, standard: Standard, situation: Situation, sizes: Sizes, system: str, said: Sequence[str]
) -> Detail:
    """The views of one that a shop needs, called `name`; `said` stands under it."""
    solids = standard.solids(situation, sizes)
    views = tuple(view for view in standard.drawn(situation, sizes, solids, system) if view.shop)
    return Detail(name, standard.title, views, tuple(said), tuple(parts(solids, system)))


def parts(solids: Solids, system: str) -> Iterator[str]:
    """A line for each kind of piece, bolt, rod and weld: how many, and what they are."""
    for some in (solids.pieces, solids.bolts, solids.rods):
        counts: dict[str, int] = defaultdict(int)
        own: Sequence[Piece | Fastener | Rod] = some
        for solid in own:
            counts[words.said(solid, system)] += 1
        yield from (f"({count}) {what}" for what, count in counts.items())
    if solids.erection:
        yield f"({solids.erection}) erection bolts"
    lengths: dict[tuple[str, float, bool, str], float] = defaultdict(float)
    for weld in solids.welds:
        lengths[weld.kind, round(weld.size, 6), weld.field, weld.electrode] += weld.length
    for (kind, size, field, electrode), length in lengths.items():
        what = (
            f"fillet {show(size, 'length', system)}"
            if kind == "fillet"
            else f"{kind} weld, throat {show(size, 'length', system)}"
        )
        where = "at the site" if field else "in the shop"
        yield f"{what}, total length {show(length, 'length', system)}, {where}, {electrode}"
