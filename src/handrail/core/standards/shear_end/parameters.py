"""Sizes that any shear end has: its bolts, the beam's end with its copes, and how they are judged; and what follows for
them."""

from __future__ import annotations

import math
from dataclasses import replace

from handrail.core.catalogue import bolt, hole
from handrail.core.catalogue.bolts import HOLE_TYPES
from handrail.core.catalogue.faying import TIGHTENING
from handrail.core.catalogue.own import SURFACE
from handrail.core.joint.situation import Situation
from handrail.core.parts.approach import Approach
from handrail.core.parts.cope import Cope, clear_of
from handrail.core.quantities.units import INCH, KIP
from handrail.core.standards.sizes import (
    KNOWN,
    MEMBERS,
    METHOD,
    PIECE,
    SITE,
    Parameter,
    Rule,
    Sizes,
    length,
    text,
    up_to,
)
from handrail.core.standards.tightened import PRETENSION, TIGHTENED

KINDS = {
    "beam_to_column_flange": "flange",
    "beam_to_column_web": "web",
    "beam_to_girder": "girder",
    "beam_to_hollow_column": "wall",
}

USUAL = 3 * INCH  # to the first bolt, where it is not known yet
BOLTS = (
    Parameter(
        PIECE, "bolt", "bolt", "Bolt", "Diameter, group and threads", "3/4 A325-N", uses=("bolts.field", "bolts.shear")
    ),
    Parameter(
        PIECE,
        "tightening",
        "choice",
        "Tightening",
        TIGHTENED,
        "snug",
        TIGHTENING,
        own=SURFACE,
        uses=("tightened.field",),
    ),
    PRETENSION,
    Parameter(PIECE, "rows", "count", "Rows", "Bolts in a vertical line", 3, low=1, high=24),
    Parameter(PIECE, "pitch", "length", "Pitch", "Bolt spacing along the shear", "3 in", low=10, high=300),
)
WEB_HOLE = Parameter(
    MEMBERS,
    "web_hole",
    "hole",
    "Hole in web",
    "STD, OVS, or a slot across (SSLT, LSLT) or along (SSLP, LSLP) the shear",
    "STD",
    HOLE_TYPES,
    uses=("holes.web",),
)
END_DISTANCE = Parameter(
    PIECE,
    "end_distance",
    "length",
    "End distance",
    "Last bolt to the end of the plate or angle, along the shear",
    None,
    low=5,
    high=200,
    uses=("edges.end",),
)
GAP = Parameter(
    PIECE,
    "gap",
    "length",
    "Gap",
    "Beam end to the face of the support, along the beam",
    None,
    low=0,
    high=800,
    uses=("clearances.gap",),
)
BEAM_EDGE = Parameter(
    PIECE,
    "beam_edge_distance",
    "length",
    "Beam edge distance",
    "Bolt line to the end of the beam's web, where it is least",
    None,
    low=5,
    high=200,
    uses=("edges.beam",),
)
BEAM_END = (
    Parameter(
        KNOWN,
        "clearance",
        "length",
        "Clearance",
        "That a gap or a cope is made with, where it is not given",
        "1/2 in",
        low=0,
        high=100,
        uses=("clearances.erection",),
    ),
    Parameter(
        MEMBERS,
        "end_cut",
        "choice",
        "End cut",
        "Beam end and copes cut parallel with the support's face, or square to the beam",
        "parallel",
        ("parallel", "square"),
    ),
    Parameter(
        MEMBERS,
        "first_bolt",
        "length",
        "First bolt",
        "Top of the beam's steel to the first row",
        None,
        low=10,
        high=2500,
    ),
    Parameter(
        MEMBERS, "cope_length", "length", "Top cope length", "From the beam's end; 0 for none", None, low=0, high=1500
    ),
    Parameter(MEMBERS, "cope_depth", "length", "Top cope depth", "", None, low=0, high=800),
    Parameter(
        MEMBERS,
        "bottom_cope_length",
        "length",
        "Bottom cope length",
        "From the beam's end; 0 for none",
        None,
        low=0,
        high=1500,
    ),
    Parameter(MEMBERS, "bottom_cope_depth", "length", "Bottom cope depth", "", None, low=0, high=800),
    Parameter(MEMBERS, "cope_radius", "length", "Cope radius", "Of a cope's inner corner", "1/2 in", low=5, high=50),
)
JUDGED = (
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

ON_SUPPORT = (
    Parameter(
        MEMBERS,
        "support_hole",
        "hole",
        "Hole in support",
        "As for what is bolted to it",
        "STD",
        HOLE_TYPES,
        uses=("holes.support",),
    ),
    Parameter(
        KNOWN,
        "support_bolts",
        "choice",
        "Support bolts take",
        "Shear alone, or shear with tension and prying",
        "shear_and_tension",
        ("shear_and_tension", "shear"),
    ),
    Parameter(
        KNOWN,
        "offset_moment",
        "choice",
        "Offset moment",
        "What V makes by the thickness it is off the bolts: neglected with its size shown, or taken as their tension",
        "neglected",
        ("neglected", "bolt_tension"),
    ),
    Parameter(
        KNOWN,
        "socket",
        "length",
        "Socket",
        "Diameter of the shop's own: impact, twist-off; 0 for the usual one's",
        "0 in",
        low=0,
        high=150,
    ),
    Parameter(
        KNOWN,
        "rows_opposite",
        "count",
        "Rows opposite",
        "Rows of the beam opposite, where the same bolts hold both: as many as here, or some of these, or more",
        None,
        low=1,
        high=24,
    ),
    Parameter(
        METHOD,
        "transfer",
        "choice",
        "Axial force going on",
        "What takes the part of an axial force that goes on to a beam opposite: the support's web, each side by itself;"
        " the bolts that hold both; or nothing, and none may",
        "web",
        ("web", "bolts", "none"),
    ),
    Parameter(
        SITE,
        "erection",
        "choice",
        "Erection",
        "What holds the first beam while a beam opposite shares its bolts: a seat, a bolt of its own, or nothing",
        "none",
        ("none", "seat", "own_bolt"),
    ),
)


def approach(situation: Situation, sizes: Sizes, gap: str = "gap") -> Approach:
    """How the beam comes to its support, with the sizes that are known so far; `gap` names the one that keeps it
    off."""

    def cope(side: str) -> Cope:
        names = (f"{side}cope_length", f"{side}cope_depth")
        return Cope(*(length(sizes, n) for n in names)) if all(n in sizes for n in names) else Cope(0, 0)

    return Approach(
        kind=KINDS.get(situation.framing, "flange"),
        beam=situation.supported.section,
        support=situation.carrier.section,
        gap=length(sizes, gap) if gap in sizes else 0.0,
        top=cope(""),
        bottom=cope("bottom_"),
        square=text(sizes, "end_cut") == "square",
        skew=situation.skew,
        slope=situation.slope,
        top_offset=situation.top_offset,
        face=situation.face,
        radius=length(sizes, "cope_radius") if "cope_radius" in sizes else 0.0,
        level=(length(sizes, "first_bolt") if "first_bolt" in sizes else USUAL) + group_depth(sizes) / 2,
    )


def support_thickness(situation: Situation) -> float:
    """What the plate is welded to, mm: a flange, a web or a hollow wall."""
    support = situation.carrier.section
    if support.hollow:
        return support.wall
    return support.tf if situation.framing == "beam_to_column_flange" else support.tw


def end_distance(situation: Situation, sizes: Sizes, name: str = "bolt") -> float:
    """The usual end distance along the force of the bolt called `name`, mm: 1-1/4 in., or Table J3.4's, in the shop's
    steps."""
    return up_to(max(1.25 * INCH, bolt(text(sizes, name)).min_edge), situation.shop.place)


def across_edge(situation: Situation, sizes: Sizes, least: float) -> float:
    """The usual edge distance across the force of what is bolted with `bolt` through `hole`, mm: `least`, or Table
    J3.4's with a slot's increment."""
    fastener = bolt(text(sizes, "bolt"))
    holes = hole(text(sizes, "hole"), fastener.d)
    slotted = INCH / 8 if holes.across > holes.along else 0.0
    return up_to(max(least, fastener.min_edge + slotted), situation.shop.place)


def _beam_edge(situation: Situation, sizes: Sizes) -> float:
    return up_to(2 * bolt(text(sizes, "bolt")).d, situation.shop.place) + situation.shop.place


def clear_gap(situation: Situation, sizes: Sizes) -> float:
    """Clear of the face; past a column's flange tips where the beam does not fit between them."""
    comes = approach(situation, sizes)
    beyond = comes.kind == "web" and comes.swept > comes.between_flanges
    return up_to(
        comes.along_for((comes.outstand if beyond else 0.0) + length(sizes, "clearance"), comes.wide),
        situation.shop.place if beyond else situation.shop.fine,
    )


def _cope_length(situation: Situation, sizes: Sizes, gap: str) -> float:
    comes = approach(situation, sizes, gap)
    past = comes.along_for(comes.outstand + length(sizes, "clearance"), comes.wide) - comes.gap
    return up_to(max(past, 0.0), situation.shop.place)


def _cope_depth(situation: Situation, sizes: Sizes, side: str, gap: str) -> float:
    """Deep enough to clear the girder's fillet and the beam's own; none where nothing is in the way and no length is
    given."""
    wanted = f"{side}cope_length" in sizes
    if wanted and not length(sizes, f"{side}cope_length"):
        return 0.0
    comes = approach(situation, sizes, gap)
    uncut = replace(comes, top=Cope(0, 0), bottom=Cope(0, 0))
    need = uncut.bottom_needs_cope if side else uncut.top_needs_cope
    return up_to(max(need, comes.beam.k_detail), situation.shop.place) if need or wanted else 0.0


def first_bolt(situation: Situation, sizes: Sizes) -> float:
    beam, end = situation.supported.section, length(sizes, "end_distance")
    around = "beam_weld" in sizes and "beam_side" in sizes and text(sizes, "beam_side") == "welded"
    top = max(length(sizes, "cope_depth"), beam.k_detail) + (length(sizes, "beam_weld") if around else 0.0)
    if situation.framing == "beam_to_girder":
        upright = 1 / math.cos(situation.slope)
        top = max(top, (clear_of(situation.carrier.section, situation.face) - situation.top_offset) / upright)
    usual = up_to(max(USUAL, top + end), situation.shop.place)
    group = group_depth(sizes)
    bottom = max(length(sizes, "bottom_cope_depth"), beam.k_detail)
    if usual + group + end > beam.d - bottom:  # too low: as high as it goes
        return max(end, min(usual, up_to(top + end, situation.shop.fine)))
    return usual


def copes_follow(gap: str) -> dict[str, Rule]:
    """The rules for copes, where the size called `gap` keeps the beam off its support."""
    return {
        "cope_depth": lambda situation, s: _cope_depth(situation, s, "", gap),
        "cope_length": lambda situation, s: _cope_length(situation, s, gap) if length(s, "cope_depth") else 0.0,
        "bottom_cope_depth": lambda situation, s: _cope_depth(situation, s, "bottom_", gap),
        "bottom_cope_length": lambda situation, s: (
            _cope_length(situation, s, gap) if length(s, "bottom_cope_depth") else 0.0
        ),
    }


def rows_opposite(situation: Situation, sizes: Sizes) -> int:
    """As many as here, where nobody knows better."""
    return int(length(sizes, "rows"))


def group_depth(sizes: Sizes) -> float:
    """First row to last, mm."""
    return (int(length(sizes, "rows")) - 1) * length(sizes, "pitch")


FOLLOWS: dict[str, Rule] = {
    "end_distance": end_distance,
    "beam_edge_distance": _beam_edge,
    "gap": clear_gap,
    **copes_follow("gap"),
    "first_bolt": first_bolt,
}
