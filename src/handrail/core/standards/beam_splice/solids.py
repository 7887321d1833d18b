"""The beam splice in place: plates on the webs and, where it has them, on the flanges."""

from __future__ import annotations

from handrail.core.solids.axes import Axes
from handrail.core.solids.pieces import Solids
from handrail.core.standards.beam_splice.layout import Layout
from handrail.core.standards.spliced import Line, flanges_of, solids_of, webs_of


def solids(layout: Layout) -> Solids:
    """x along the beams towards the piece that the forces are of, z up from its top of steel."""
    line = Line(at=Axes(), pieces=layout.pieces, tops=layout.tops, half_gap=layout.of("gap") / 2)
    own = layout.pieces[0]
    flanges = flanges_of(line, layout.flange(own), int(layout.of("filler_rows"))) if layout.flanged else None
    return solids_of(line, webs_of(line, layout.web(own), layout.middle), flanges)
