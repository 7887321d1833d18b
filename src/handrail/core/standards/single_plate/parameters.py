"""What can be chosen on a single plate, and what follows when it is not chosen."""

from __future__ import annotations

import math

from handrail.core.catalogue import HoleSize, bolt, electrode, grade, hole
from handrail.core.catalogue.bolts import HOLE_TYPES
from handrail.core.codes.aisc360 import welds
from handrail.core.parts.cope import bottom_clash, top_clash
from handrail.core.standards.base import Parameter, Sized, Sizes
from handrail.core.standards.situation import Situation
from handrail.core.units import INCH

CONVENTIONAL_A = 3.5 * INCH
CLEARANCE = 0.5 * INCH

PARAMETERS = (
    Parameter("bolt", "bolt", "Bolt", "Diameter, group and threads", "3/4 A325-N"),
    Parameter("tightening", "choice", "Tightening", "Snug tight, pretensioned, or slip-critical with faying surface A or B",
              "snug", ("snug", "pretensioned", "slip_a", "slip_b")),
    Parameter("hole", "hole", "Hole in plate", "STD, or a slot across (SSLT) or along (SSLP) the shear", "STD", HOLE_TYPES),
    Parameter("web_hole", "hole", "Hole in web", "As for the plate", "STD", HOLE_TYPES),
    Parameter("rows", "count", "Rows", "Bolts in a vertical line", 3, low=1, high=24),
    Parameter("columns", "count", "Columns", "Vertical lines of bolts", 1, low=1, high=3),
    Parameter("pitch", "length", "Pitch", "Bolt spacing along the shear", "3 in", low=10, high=300),
    Parameter("gauge", "length", "Gauge", "Spacing of the vertical lines", "3 in", low=10, high=300),
    Parameter("end_distance", "length", "End distance", "Last bolt to the plate's end, along the shear", None, low=5, high=200),
    Parameter("edge_distance", "length", "Edge distance", "Bolt line to the plate's free edge", None, low=5, high=200),
    Parameter("beam_edge_distance", "length", "Beam edge distance", "Bolt line to the end of the beam's web", None, low=5, high=200),
    Parameter("gap", "length", "Gap", "Beam end to the face of the support", None, low=0, high=800),
    Parameter("plate_thickness", "length", "Plate thickness", "", "3/8 in", low=3, high=60),
    Parameter("plate_grade", "grade", "Plate grade", "", "A36"),
    Parameter("plate_depth", "length", "Plate depth", "Along the shear; rows and end distances give it", None, low=20, high=3000),
    Parameter("weld_size", "length", "Weld size", "Fillet on each side of the plate", None, low=2, high=40),
    Parameter("electrode", "electrode", "Electrode", "", "E70"),
    Parameter("first_bolt", "length", "First bolt", "Top of the beam's steel to the first row", None, low=10, high=2500),
    Parameter("configuration", "choice", "Configuration", "auto takes conventional wherever its limits hold", "auto",
              ("auto", "conventional", "extended")),
    Parameter("cope_length", "length", "Top cope length", "From the beam's end; 0 for none", None, low=0, high=1500),
    Parameter("cope_depth", "length", "Top cope depth", "", None, low=0, high=800),
    Parameter("bottom_cope_length", "length", "Bottom cope length", "From the beam's end; 0 for none", None, low=0, high=1500),
    Parameter("bottom_cope_depth", "length", "Bottom cope depth", "", None, low=0, high=800),
    Parameter("bolt_method", "choice", "Eccentric bolts by", "Instantaneous centre, or the elastic method", "ic", ("ic", "elastic")),
    Parameter("deformation", "choice", "Hole deformation", "Whether deformation at service load is a consideration (J3.11)",
              "considered", ("considered", "not_considered")),
    Parameter("lateral_restraint", "choice", "Lateral restraint", "What holds the beam's end sideways: a slab or deck, or nothing",
              "slab", ("slab", "none")),
    Parameter("stabiliser", "choice", "Stabiliser plates", "Provided where the extended plate needs them", "none", ("none", "provided")),
    Parameter("negligible_force", "force", "Negligible force", "An action that is not carried counts from here on", "2 kip", low=0),
)  # fmt: skip


def up_to(value: float, step: float) -> float:
    """The next whole number of `step` mm."""
    return math.ceil(value / step - 1e-6) * step


def complete(situation: Situation, given: Sizes) -> Sizes:
    """Every parameter with its source: those given, the declared defaults, and those that follow from the rest."""
    sizes = dict(given)
    for p in PARAMETERS:
        if p.name not in sizes and p.default is not None:
            sizes[p.name] = Sized(p.read(p.default), "default")
    for name, rule in FOLLOWS.items():
        if name not in sizes:
            sizes[name] = Sized(rule(situation, sizes), "geometry")
    return {p.name: sizes[p.name] for p in PARAMETERS}


def length(sizes: Sizes, name: str) -> float:
    return float(sizes[name].value)


def _edge(situation: Situation, sizes: Sizes) -> float:
    fastener = bolt(str(sizes["bolt"].value))
    holes: HoleSize = hole(str(sizes["hole"].value), fastener.d)
    extra = INCH / 8 if holes.across > holes.along else 0.0
    return max(up_to(2 * fastener.d, INCH / 4), up_to(fastener.min_edge + extra, INCH / 4))


def _end(situation: Situation, sizes: Sizes) -> float:
    return max(1.25 * INCH, up_to(bolt(str(sizes["bolt"].value)).min_edge, INCH / 4))


def _beam_edge(situation: Situation, sizes: Sizes) -> float:
    return up_to(2 * bolt(str(sizes["bolt"].value)).d, INCH / 4) + INCH / 4


def clear_between_flanges(situation: Situation) -> float:
    """Room between a column's flanges for a beam that frames to its web, mm."""
    return situation.support.d - 2 * situation.support.tf - CLEARANCE


def _gap(situation: Situation, sizes: Sizes) -> float:
    if situation.framing == "beam_to_column_web" and situation.supported.bf > clear_between_flanges(situation):
        return up_to(outstand(situation) + CLEARANCE, INCH / 4)
    return CLEARANCE


def _weld(situation: Situation, sizes: Sizes) -> float:
    t = length(sizes, "plate_thickness")
    plate = grade(str(sizes["plate_grade"].value))
    need = welds.develops_plate(t, plate.Fy, electrode(str(sizes["electrode"].value)))
    return max(up_to(need, INCH / 16), welds.min_size(min(t, support_thickness(situation))))


def support_thickness(situation: Situation) -> float:
    """What the plate is welded to, mm: a flange, a web or a hollow wall."""
    support = situation.support
    if support.hollow:
        return support.wall
    return support.tf if situation.framing == "beam_to_column_flange" else support.tw


def _top_clash(situation: Situation) -> float:
    girder = situation.framing == "beam_to_girder"
    return top_clash(situation.supported, situation.support, situation.top_offset) if girder else 0.0


def _bottom_clash(situation: Situation) -> float:
    girder = situation.framing == "beam_to_girder"
    return bottom_clash(situation.supported, situation.support, situation.top_offset) if girder else 0.0


def outstand(situation: Situation) -> float:
    """From the face of the support's web to the tip of its flange, mm."""
    return (situation.support.bf - situation.support.tw) / 2


def _reaches_flange(situation: Situation, sizes: Sizes) -> bool:
    """Whether the beam's end lies under the girder's flange, so that it must be coped to come in."""
    return length(sizes, "gap") < outstand(situation)


def _cope_length(situation: Situation, sizes: Sizes) -> float:
    reach = outstand(situation) + CLEARANCE - length(sizes, "gap")
    return up_to(reach, INCH / 4)


def _top_cope_depth(situation: Situation, sizes: Sizes) -> float:
    clash = _top_clash(situation)
    return up_to(clash, INCH / 4) if clash and _reaches_flange(situation, sizes) else 0.0


def _bottom_cope_depth(situation: Situation, sizes: Sizes) -> float:
    clash = _bottom_clash(situation)
    return up_to(clash, INCH / 4) if clash and _reaches_flange(situation, sizes) else 0.0


def _first_bolt(situation: Situation, sizes: Sizes) -> float:
    beam, end = situation.supported, length(sizes, "end_distance")
    cope = length(sizes, "cope_depth")
    top = max(cope if cope else beam.k_detail, _top_clash(situation), 0.0)
    if situation.framing == "beam_to_girder" and situation.support.open:
        top = max(top, situation.support.k_detail - situation.top_offset)
    usual = max(3 * INCH, up_to(top + end, INCH / 4))
    group = (int(sizes["rows"].value) - 1) * length(sizes, "pitch")
    bottom = length(sizes, "bottom_cope_depth") or beam.k_detail
    if usual + group + end > beam.d - bottom:  # too low: as high as it goes
        return max(end, min(usual, up_to(top + end, INCH / 16)))
    return usual


FOLLOWS = {
    "end_distance": _end,
    "edge_distance": _edge,
    "beam_edge_distance": _beam_edge,
    "gap": _gap,
    "weld_size": _weld,
    "plate_depth": lambda situation, s: (int(s["rows"].value) - 1) * length(s, "pitch") + 2 * length(s, "end_distance"),
    "cope_depth": lambda situation, s: _top_cope_depth(situation, s) if length_or(s, "cope_length", 1) else 0.0,
    "cope_length": lambda situation, s: _cope_length(situation, s) if length(s, "cope_depth") else 0.0,
    "bottom_cope_depth": lambda situation, s: _bottom_cope_depth(situation, s) if length_or(s, "bottom_cope_length", 1) else 0.0,
    "bottom_cope_length": lambda situation, s: _cope_length(situation, s) if length(s, "bottom_cope_depth") else 0.0,
    "first_bolt": _first_bolt,
}


def length_or(sizes: Sizes, name: str, default: float) -> float:
    return float(sizes[name].value) if name in sizes else default
