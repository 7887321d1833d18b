"""What can be chosen on a single plate, and what follows when it is not chosen."""

from __future__ import annotations

from handrail.core.catalogue import bolt, electrode, grade
from handrail.core.catalogue.bolts import HOLE_TYPES
from handrail.core.joint.situation import Situation
from handrail.core.quantities.units import INCH
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
from handrail.core.standards.sizes import (
    KNOWN,
    METHOD,
    PIECE,
    Parameter,
    Sizes,
    completed,
    down_to,
    length,
    made_at,
    text,
    up_to,
)
from handrail.core.standards.stated import SHEAR_END

PARAMETERS = (
    *BOLTS,
    WEB_HOLE,
    Parameter(PIECE, "hole", "hole", "Hole in plate", "As for the web", "STD", HOLE_TYPES, uses=("holes.plate",)),
    Parameter(PIECE, "columns", "count", "Columns", "Vertical lines of bolts", 1, low=1, high=3),
    Parameter(PIECE, "gauge", "length", "Gauge", "Spacing of the vertical lines", "3 in", low=10, high=300),
    END_DISTANCE,
    Parameter(
        PIECE,
        "edge_distance",
        "length",
        "Edge distance",
        "Bolt line to the plate's free edge",
        None,
        low=5,
        high=200,
        uses=("edges.side",),
    ),
    Parameter(PIECE, "plate_thickness", "length", "Plate thickness", "", "3/8 in", low=3, high=60),
    Parameter(PIECE, "plate_grade", "plate_grade", "Plate grade", "", "A36"),
    Parameter(
        PIECE,
        "plate_depth",
        "length",
        "Plate depth",
        "Along the shear; rows and end distances give it",
        None,
        low=20,
        high=3000,
    ),
    Parameter(PIECE, "weld_size", "length", "Weld size", "Fillet on each side of the plate", None, low=2, high=40),
    Parameter(PIECE, "electrode", "electrode", "Electrode", "", "E70"),
    made_at("weld_at", "Plate on its support", "shop", "plate"),
    made_at("beam_weld_at", "Plate on the beam", "site", "beam"),
    Parameter(
        METHOD,
        "configuration",
        "choice",
        "Configuration",
        "auto takes conventional wherever its limits hold",
        "auto",
        ("auto", "conventional", "extended"),
    ),
    Parameter(
        PIECE,
        "beam_side",
        "choice",
        "Beam side",
        "How the plate is held to the beam's web",
        "bolted",
        ("bolted", "welded"),
    ),
    Parameter(
        PIECE, "lap", "length", "Lap", "Of a welded plate over the beam's web, along the beam", None, low=20, high=600
    ),
    Parameter(
        PIECE,
        "beam_weld",
        "length",
        "Weld on the beam",
        "Fillet down a welded plate's edge and along both its ends",
        None,
        low=2,
        high=40,
    ),
    Parameter(
        PIECE,
        "plate_run",
        "choice",
        "Plate runs to",
        "The girder's web, the beam coped; or past the girder's flange tip, so that it needs no cope",
        "web",
        ("web", "flange_tip"),
    ),
    Parameter(
        PIECE,
        "plate_fit",
        "choice",
        "Plate in the girder",
        "As deep as at the beam, or from flange to flange and welded to both",
        "part_depth",
        ("part_depth", "full_depth"),
    ),
    Parameter(
        PIECE,
        "through_plate",
        "choice",
        "Through plate",
        "Slotted through a hollow column and welded to both its walls",
        "no",
        ("no", "yes"),
    ),
    BEAM_EDGE,
    GAP,
    *BEAM_END,
    Parameter(
        KNOWN,
        "lateral_restraint",
        "choice",
        "Lateral restraint",
        "What holds the beam's end sideways: a slab or deck, or nothing",
        "slab",
        ("slab", "none"),
    ),
    Parameter(
        PIECE,
        "stabiliser",
        "choice",
        "Stabiliser plates",
        "Provided where the extended plate needs them",
        "none",
        ("none", "provided"),
    ),
    *JUDGED,
    *SHEAR_END.parameters,
)


def complete(situation: Situation, given: Sizes) -> Sizes:
    """Every parameter with its source."""
    return completed(PARAMETERS, FOLLOWS, situation, given)


def _weld(situation: Situation, sizes: Sizes) -> float:
    t = length(sizes, "plate_thickness")
    need = situation.code.welds.develops_plate(
        t, grade(text(sizes, "plate_grade")).at(t).Fy, electrode(text(sizes, "electrode")), situation.skew
    )
    return max(up_to(need, situation.shop.weld), situation.code.welds.min_size(min(t, support_thickness(situation))))


def _gap(situation: Situation, sizes: Sizes) -> float:
    """Clear of the face and of the fillet there, or past the girder's flange tip."""
    if text(sizes, "plate_run") == "flange_tip" and situation.framing == "beam_to_girder":
        comes = shear_end.approach(situation, sizes)
        return up_to(comes.along_for(comes.outstand + length(sizes, "clearance"), comes.wide), situation.shop.place)
    comes = shear_end.approach(situation, sizes)
    before_weld = up_to(comes.along_for(length(sizes, "weld_size"), comes.beam.tw), situation.shop.fine)
    return max(shear_end.clear_gap(situation, sizes), before_weld)


def _beam_weld(situation: Situation, sizes: Sizes) -> float:
    """5/16 in. or what the plate's edge allows; the least size at least."""
    t = length(sizes, "plate_thickness")
    edge = down_to(situation.code.welds.max_size(t), situation.shop.weld)
    return max(
        min(edge, situation.shop.one_pass), situation.code.welds.min_size(min(t, situation.supported.section.tw))
    )


FOLLOWS = {
    "beam_weld": _beam_weld,
    "weld_size": _weld,
    **shear_end.FOLLOWS,
    "gap": _gap,
    "lap": lambda situation, s: up_to(3 * INCH, situation.shop.place),
    "edge_distance": lambda situation, s: shear_end.across_edge(situation, s, 2 * bolt(text(s, "bolt")).d),
    "plate_depth": lambda situation, s: group_depth(s) + 2 * length(s, "end_distance"),
}
