"""What can be chosen on a hollow column's end-plate splice, and what follows when it is not chosen."""

from __future__ import annotations

from handrail.core.catalogue import Shop, bolt
from handrail.core.joint.situation import Situation
from handrail.core.parts.anchors.placing import Placed, in_rows
from handrail.core.quantities.units import INCH
from handrail.core.standards.sizes import KNOWN, PIECE, Parameter, Rule, Sizes, completed, length, text, up_to
from handrail.core.standards.stated import COLUMN
from handrail.core.standards.tightened import PRETENSION

PARAMETERS = (
    Parameter(
        PIECE, "bolt", "bolt", "Bolt", "Diameter, group and threads", "3/4 A325-N", uses=("bolts.field", "bolts.moment")
    ),
    Parameter(
        PIECE,
        "tightening",
        "choice",
        "Tightening",
        "Bolts in tension are pretensioned, or snug tight",
        "pretensioned",
        ("snug", "pretensioned"),
    ),
    PRETENSION,
    Parameter(PIECE, "hole", "hole", "Holes", "", "STD", ("STD",), uses=("holes.plate",)),
    Parameter(
        PIECE,
        "bolts_along",
        "count",
        "Rows of bolts",
        "Along the column's depth; bolts stand around the plate's edge",
        2,
        low=2,
        high=8,
    ),
    Parameter(PIECE, "bolts_across", "count", "Bolts in a row", "Across the column's depth", 2, low=2, high=8),
    Parameter(
        PIECE, "spacing_along", "length", "Bolts apart, along", "Between the outermost rows", None, low=20, high=2000
    ),
    Parameter(
        PIECE,
        "spacing_across",
        "length",
        "Bolts apart, across",
        "Between the outermost bolts of a row",
        None,
        low=20,
        high=2000,
    ),
    Parameter(PIECE, "plate_length", "length", "Plate length", "Along the column's depth", None, low=50, high=2000),
    Parameter(PIECE, "plate_width", "length", "Plate width", "Across the column's depth", None, low=50, high=2000),
    Parameter(PIECE, "plate_thickness", "length", "Plate thickness", "Of each", "3/4 in", low=6, high=150),
    Parameter(PIECE, "plate_grade", "plate_grade", "Plate grade", "", "A36"),
    Parameter(PIECE, "weld_size", "length", "Column weld", "Fillet around each column", None, low=2, high=40),
    Parameter(PIECE, "electrode", "electrode", "Electrode", "", "E70"),
    Parameter(
        PIECE,
        "ends",
        "choice",
        "Columns' ends",
        "Milled: compression goes through contact",
        "milled",
        ("milled", "sawn"),
    ),
    Parameter(
        KNOWN,
        "deformation",
        "choice",
        "Hole deformation",
        "Whether deformation at service load is a consideration",
        "considered",
        ("considered", "not_considered"),
    ),
    *COLUMN.parameters,
)


def complete(situation: Situation, given: Sizes) -> Sizes:
    """Every parameter with its source."""
    return completed(PARAMETERS, FOLLOWS, situation, given)


def placed(sizes: Sizes) -> Placed:
    """Where the bolts stand and what they are called."""
    return in_rows(
        int(length(sizes, "bolts_along")),
        int(length(sizes, "bolts_across")),
        length(sizes, "spacing_along"),
        length(sizes, "spacing_across"),
    )


def edge(sizes: Sizes, shop: Shop) -> float:
    """From a bolt to the plate's edge, as usual, mm."""
    return up_to(max(1.25 * INCH, bolt(text(sizes, "bolt")).min_edge), shop.place)


def _weld(situation: Situation, sizes: Sizes) -> float:
    wall = min(s.section.wall for s in (situation.supported, situation.carrier))
    return max(situation.code.welds.min_size(min(wall, length(sizes, "plate_thickness"))), INCH / 4)


def _size(way: str) -> Rule:
    def rule(situation: Situation, sizes: Sizes) -> float:
        sections = [s.section for s in (situation.supported, situation.carrier)]
        wide = max(s.d if way == "along" or s.round else s.bf for s in sections)
        past = length(sizes, "weld_size") + bolt(text(sizes, "bolt")).tightening + edge(sizes, situation.shop)
        return up_to(wide + 2 * past, situation.shop.width)

    return rule


FOLLOWS: dict[str, Rule] = {
    "weld_size": _weld,
    "plate_length": _size("along"),
    "plate_width": _size("across"),
    "spacing_along": lambda situation, s: max(length(s, "plate_length") - 2 * edge(s, situation.shop), 1.0),
    "spacing_across": lambda situation, s: max(length(s, "plate_width") - 2 * edge(s, situation.shop), 1.0),
}
