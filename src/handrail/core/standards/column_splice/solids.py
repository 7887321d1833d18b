"""The column splice in place: plates or grooves on the flanges, plates on the webs."""

from __future__ import annotations

from collections.abc import Iterator

from handrail.core.solids.axes import Axes, Y, Z, combined
from handrail.core.solids.pieces import Solids, Weld
from handrail.core.standards.column_splice.layout import Layout
from handrail.core.standards.spliced import NAMES, Line, flanges_of, solids_of, webs_of

UPRIGHT = Axes(x=Z, y=combined((-1.0, Y)))  # a line that goes up; its z is the joint's x


def solids(layout: Layout) -> Solids:
    """z up from the joint, x along the columns' depth, from their middle."""
    upper, lower = (p.section.d / 2 for p in layout.pieces)
    line = Line(at=UPRIGHT, pieces=layout.pieces, tops=(upper, lower), half_gap=layout.of("ends_gap") / 2)
    own = layout.pieces[0]
    webs = webs_of(line, layout.web(own), 0.0) if layout.webbed else None
    if not layout.plated:
        return solids_of(line, webs, None, tuple(_grooves(layout)))
    return solids_of(line, webs, flanges_of(line, layout.flange(own), int(layout.of("filler_rows"))))


def _grooves(layout: Layout) -> Iterator[Weld]:
    """Between the flanges, as wide as the narrower."""
    own = layout.grooves
    for side, x in (("front", own.depth / 2), ("back", -own.depth / 2)):
        yield Weld(
            name=f"weld {side}",
            part="weld",
            run=((x, -own.width / 2, 0.0), (x, own.width / 2, 0.0)),
            legs=(Z, combined((-1.0, Z))),
            size=own.throat,
            joins=NAMES,
            field=True,
            electrode=layout.choice("electrode"),
            kind="groove",
        )
