"""What can be chosen on a beam splice, and what follows when it is not chosen."""

from __future__ import annotations

import math

from handrail.core.catalogue import bolt
from handrail.core.catalogue.bolts import HOLE_TYPES
from handrail.core.catalogue.faying import TIGHTENING
from handrail.core.catalogue.own import SURFACE
from handrail.core.joint.situation import Situation
from handrail.core.quantities.units import INCH, KIP
from handrail.core.standards.sizes import (
    KNOWN,
    MEMBERS,
    METHOD,
    PIECE,
    Parameter,
    Rule,
    Sizes,
    completed,
    down_to,
    length,
    text,
    up_to,
)
from handrail.core.standards.stated import BEAM_FLANGE, BEAM_WEB
from handrail.core.standards.tightened import PRETENSION, TIGHTENED

WEB = (
    Parameter(
        PIECE, "bolt", "bolt", "Bolt", "Diameter, group and threads", "3/4 A325-N", uses=("bolts.field", "bolts.shear")
    ),
    Parameter(
        PIECE,
        "tightening",
        "choice",
        "Tightening",
        TIGHTENED,
        "pretensioned",
        TIGHTENING,
        own=SURFACE,
        uses=("tightened.splice",),
    ),
    PRETENSION,
    Parameter(
        PIECE,
        "hole",
        "hole",
        "Hole in plates",
        "STD, OVS, or a slot across (SSLT, LSLT) or along (SSLP, LSLP) the shear",
        "STD",
        HOLE_TYPES,
        uses=("holes.plate",),
    ),
    Parameter(MEMBERS, "web_hole", "hole", "Hole in web", "As for the plates", "STD", HOLE_TYPES, uses=("holes.web",)),
    Parameter(PIECE, "rows", "count", "Rows", "Web bolts in a vertical line", None, low=1, high=24),
    Parameter(PIECE, "columns", "count", "Columns", "Vertical lines of web bolts on each side", 1, low=1, high=3),
    Parameter(PIECE, "pitch", "length", "Pitch", "Web bolts' spacing along the shear", "3 in", low=10, high=300),
    Parameter(PIECE, "gauge", "length", "Gauge", "Spacing of the vertical lines", "3 in", low=10, high=300),
    Parameter(
        PIECE,
        "end_distance",
        "length",
        "End distance",
        "Outer web bolts to the plate's edge, along the shear",
        None,
        low=5,
        high=200,
        uses=("edges.end",),
    ),
    Parameter(
        PIECE,
        "edge_distance",
        "length",
        "Edge distance",
        "Last line of bolts to the plate's end",
        None,
        low=5,
        high=200,
        uses=("edges.side",),
    ),
    Parameter(
        PIECE,
        "beam_edge_distance",
        "length",
        "Beam edge distance",
        "Bolts to the end of each beam, web and flanges",
        None,
        low=5,
        high=200,
        uses=("edges.beam",),
    ),
    Parameter(
        PIECE, "gap", "length", "Gap", "Between the beams' ends", "1/2 in", low=0, high=300, uses=("clearances.splice",)
    ),
    Parameter(
        PIECE, "web_plates", "choice", "Web plates", "On both sides of the web, or on one", "both", ("both", "one")
    ),
    Parameter(PIECE, "plate_thickness", "length", "Web plate thickness", "Of each", "3/8 in", low=3, high=60),
    Parameter(PIECE, "plate_grade", "plate_grade", "Plate grade", "", "A36"),
    Parameter(
        PIECE,
        "plate_depth",
        "length",
        "Web plate depth",
        "Along the shear; rows and end distances give it",
        None,
        low=20,
        high=3000,
    ),
    Parameter(
        PIECE, "align", "choice", "Beams of unequal depth", "Tops in line, or middles in line", "top", ("top", "middle")
    ),
    Parameter(
        PIECE, "fillers", "choice", "Fillers", "Plain, or developed beyond the splice", "plain", ("plain", "developed")
    ),
    Parameter(
        METHOD,
        "bolt_method",
        "choice",
        "Eccentric bolts by",
        "Instantaneous centre, or the elastic method",
        "ic",
        ("ic", "elastic"),
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
    Parameter(
        KNOWN,
        "negligible_force",
        "force",
        "Negligible force",
        "An action that is not carried, or a force along slots, counts from here on",
        "2 kip",
        low=0,
        high=2 * KIP,
    ),
)
FLANGE = (
    Parameter(PIECE, "flange_bolt", "bolt", "Flange bolt", "", "3/4 A325-N", uses=("bolts.field", "bolts.moment")),
    Parameter(
        PIECE,
        "flange_hole",
        "hole",
        "Hole in flanges and their plates",
        "STD, or OVS with slip-critical bolts",
        "STD",
        ("STD", "OVS"),
        uses=("holes.flange",),
    ),
    Parameter(
        PIECE, "flange_rows", "count", "Flange rows", "Bolts in each of the two lines, on each side", 3, low=1, high=24
    ),
    Parameter(PIECE, "flange_pitch", "length", "Flange pitch", "Along the beam", "3 in", low=10, high=300),
    Parameter(PIECE, "flange_gage", "length", "Flange gage", "Between the two lines of bolts", None, low=20, high=500),
    Parameter(
        PIECE,
        "flange_end_distance",
        "length",
        "Flange end distance",
        "Last bolt to the plate's end",
        None,
        low=5,
        high=200,
        uses=("edges.end",),
    ),
    Parameter(PIECE, "flange_plate_width", "length", "Flange plate width", "", None, low=20, high=1000),
    Parameter(PIECE, "flange_plate_thickness", "length", "Flange plate thickness", "", "1/2 in", low=3, high=100),
    Parameter(
        PIECE,
        "filler_rows",
        "count",
        "Rows beyond the splice",
        "Of bolts that hold a developed filler of each flange, on its own length",
        None,
        low=0,
        high=24,
    ),
    Parameter(
        PIECE,
        "inside_plates",
        "choice",
        "Inside plates",
        "A pair inside each flange as well, so that bolts are in double shear",
        "none",
        ("none", "provided"),
    ),
    Parameter(PIECE, "inside_plate_width", "length", "Inside plate width", "Of each", None, low=10, high=500),
    Parameter(PIECE, "inside_plate_thickness", "length", "Inside plate thickness", "", "1/2 in", low=3, high=100),
)
BOTH = (*WEB, *FLANGE, *BEAM_FLANGE.parameters)
WEB_ALONE = (*WEB, *BEAM_WEB.parameters)


def complete_web(situation: Situation, given: Sizes) -> Sizes:
    """Every parameter of a web splice with its source."""
    return completed(WEB_ALONE, FOLLOWS, situation, given)


def complete_flange(situation: Situation, given: Sizes) -> Sizes:
    """Every parameter of a flange splice with its source."""
    return completed(BOTH, FOLLOWS | FLANGE_FOLLOWS, situation, given)


def largest_T(situation: Situation) -> float:
    """The largest clear depth that either web can have, mm: plates are half of it at least."""
    return max(situation.supported.section.most_T, situation.carrier.section.most_T)


def _rows(situation: Situation, sizes: Sizes) -> float:
    """As many as fill half of T with their end distances, two at least."""
    half = largest_T(situation) / 2 - 2 * length(sizes, "end_distance")
    return max(2, math.ceil(half / length(sizes, "pitch") - 1e-6) + 1)


def _edge(situation: Situation, sizes: Sizes) -> float:
    own = bolt(text(sizes, "bolt"))
    return up_to(max(1.5 * INCH, own.min_edge + INCH / 8), situation.shop.place)


def _flange_edge(situation: Situation, sizes: Sizes) -> float:
    own = bolt(text(sizes, "flange_bolt"))
    return up_to(max(1.5 * INCH, own.min_edge + INCH / 8), situation.shop.place)


def _beam_edge(situation: Situation, sizes: Sizes) -> float:
    names = [n for n in ("bolt", "flange_bolt") if n in sizes]
    return up_to(max(1.75 * INCH, *(2 * bolt(text(sizes, n)).d for n in names)), situation.shop.place)


def _gage(situation: Situation, sizes: Sizes) -> float:
    """The narrower flange's workable gage, else half its width."""
    narrow = min((situation.supported.section, situation.carrier.section), key=lambda s: s.bf)
    return narrow.gauge or up_to(narrow.bf / 2, situation.shop.place)


def _width(situation: Situation, sizes: Sizes) -> float:
    narrow = min(situation.supported.section.bf, situation.carrier.section.bf)
    return down_to(narrow, situation.shop.width)


def _inside_width(situation: Situation, sizes: Sizes) -> float:
    room = min(
        s.bf / 2 - max(s.k1, s.tw / 2 + INCH / 4) for s in (situation.supported.section, situation.carrier.section)
    )
    return max(down_to(room, situation.shop.place), INCH)


def thickest_filler(situation: Situation, sizes: Sizes) -> tuple[float, float]:
    """(filler, flange beside it) of the shallower piece, mm: all of the difference on one side where tops are in
    line."""
    pieces = sorted((p.section for p in (situation.supported, situation.carrier)), key=lambda s: s.d)
    apart = pieces[1].d - pieces[0].d
    return (apart if "align" in sizes and text(sizes, "align") == "top" else apart / 2), pieces[0].tf


def _filler_rows(situation: Situation, sizes: Sizes) -> float:
    """What develops the thickest filler, none where it is plain."""
    if text(sizes, "fillers") == "plain":
        return 0.0
    return math.ceil(
        situation.code.splices.bolts_beyond(length(sizes, "flange_rows"), *thickest_filler(situation, sizes)) - 1e-6
    )


FOLLOWS: dict[str, Rule] = {
    "end_distance": lambda situation, s: up_to(max(1.25 * INCH, bolt(text(s, "bolt")).min_edge), situation.shop.place),
    "edge_distance": _edge,
    "beam_edge_distance": _beam_edge,
    "rows": _rows,
    "plate_depth": lambda situation, s: (int(s["rows"].value) - 1) * length(s, "pitch") + 2 * length(s, "end_distance"),
}
FLANGE_FOLLOWS: dict[str, Rule] = {
    "filler_rows": _filler_rows,
    "flange_gage": _gage,
    "flange_end_distance": _flange_edge,
    "flange_plate_width": _width,
    "inside_plate_width": _inside_width,
}
