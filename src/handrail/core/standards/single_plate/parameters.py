"""What can be chosen on a single plate, and what follows when it is not chosen."""

from __future__ import annotations

from handrail.core.catalogue import bolt, electrode, grade, hole
from handrail.core.catalogue.bolts import HOLE_TYPES
from handrail.core.codes.aisc360 import welds
from handrail.core.standards.shear_end import parameters as shear_end
from handrail.core.standards.shear_end.parameters import (
    BEAM_EDGE,
    BEAM_END,
    BOLTS,
    END_DISTANCE,
    GAP,
    JUDGED,
    WEB_HOLE,
    group_depth,
    support_thickness,
)
from handrail.core.standards.situation import Situation
from handrail.core.standards.sizes import Parameter, Sizes, completed, length, text, up_to
from handrail.core.units import INCH

PARAMETERS = (
    *BOLTS,
    WEB_HOLE,
    Parameter("hole", "hole", "Hole in plate", "As for the web", "STD", HOLE_TYPES),
    Parameter("columns", "count", "Columns", "Vertical lines of bolts", 1, low=1, high=3),
    Parameter("gauge", "length", "Gauge", "Spacing of the vertical lines", "3 in", low=10, high=300),
    END_DISTANCE,
    Parameter("edge_distance", "length", "Edge distance", "Bolt line to the plate's free edge", None, low=5, high=200),
    Parameter("plate_thickness", "length", "Plate thickness", "", "3/8 in", low=3, high=60),
    Parameter("plate_grade", "plate_grade", "Plate grade", "", "A36"),
    Parameter("plate_depth", "length", "Plate depth", "Along the shear; rows and end distances give it", None, low=20, high=3000),
    Parameter("weld_size", "length", "Weld size", "Fillet on each side of the plate", None, low=2, high=40),
    Parameter("electrode", "electrode", "Electrode", "", "E70"),
    Parameter("configuration", "choice", "Configuration", "auto takes conventional wherever its limits hold", "auto",
              ("auto", "conventional", "extended")),
    BEAM_EDGE,
    GAP,
    *BEAM_END,
    Parameter("lateral_restraint", "choice", "Lateral restraint", "What holds the beam's end sideways: a slab or deck, or nothing",
              "slab", ("slab", "none")),
    Parameter("stabiliser", "choice", "Stabiliser plates", "Provided where the extended plate needs them", "none", ("none", "provided")),
    *JUDGED,
)  # fmt: skip


def complete(situation: Situation, given: Sizes) -> Sizes:
    """Every parameter with its source."""
    return completed(PARAMETERS, FOLLOWS, situation, given)


def _edge(situation: Situation, sizes: Sizes) -> float:
    fastener = bolt(text(sizes, "bolt"))
    holes = hole(text(sizes, "hole"), fastener.d)
    extra = INCH / 8 if holes.across > holes.along else 0.0
    return max(up_to(2 * fastener.d, INCH / 4), up_to(fastener.min_edge + extra, INCH / 4))


def _weld(situation: Situation, sizes: Sizes) -> float:
    t = length(sizes, "plate_thickness")
    need = welds.develops_plate(t, grade(text(sizes, "plate_grade")).Fy, electrode(text(sizes, "electrode")))
    return max(up_to(need, INCH / 16), welds.min_size(min(t, support_thickness(situation))))


FOLLOWS = {
    **shear_end.FOLLOWS,
    "edge_distance": _edge,
    "weld_size": _weld,
    "plate_depth": lambda situation, s: group_depth(s) + 2 * length(s, "end_distance"),
}
