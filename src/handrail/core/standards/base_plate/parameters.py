"""What can be chosen on a base plate, and what follows when it is not chosen."""

from __future__ import annotations

import math

from handrail.core.catalogue import Shop, bars, rod
from handrail.core.joint.situation import Situation
from handrail.core.parts.anchors.placing import Placed, at_points, in_rows
from handrail.core.parts.bearing.seat import METHODS
from handrail.core.parts.column_weld import PATTERNS
from handrail.core.quantities.units import INCH
from handrail.core.quantities.words import held
from handrail.core.standards.base_plate.anchor_parameters import ANCHORS
from handrail.core.standards.base_plate.bar_parameters import BARS, WAYS
from handrail.core.standards.base_plate.ground import PARAMETERS as GROUND
from handrail.core.standards.base_plate.ground import foundation
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
    made_at,
    text,
    up_to,
)
from handrail.core.standards.stated import BASE

PATHS = ("friction", "anchors", "lug")
NUTS = ("one", "lock", "levelling")

PAST = INCH / 4  # of the plate beyond what stands on it
LIKE = f"{held(6 * INCH, 'length')}, {held(4 * INCH, 'length')}"
PARAMETERS = (
    Parameter(
        PIECE,
        "offset_along",
        "length",
        "Plate off the column, along",
        "From the column's middle to the plate's, + towards the plus side of its depth",
        "0 in",
        low=-1500,
        high=1500,
    ),
    Parameter(
        PIECE,
        "offset_across",
        "length",
        "Plate off the column, across",
        "The same across its depth",
        "0 in",
        low=-1500,
        high=1500,
    ),
    Parameter(PIECE, "plate_length", "length", "Plate length", "Along the column's depth", None, low=50, high=3000),
    Parameter(PIECE, "plate_width", "length", "Plate width", "Across the column's depth", None, low=50, high=3000),
    Parameter(PIECE, "plate_thickness", "length", "Plate thickness", "", "1 in", low=6, high=300),
    Parameter(PIECE, "plate_grade", "plate_grade", "Plate grade", "", "A36"),
    Parameter(
        PIECE, "rod", "rod", "Anchor rod", "Diameter and grade; headed, or with a nut at its foot", "3/4 F1554-36"
    ),
    Parameter(
        PIECE,
        "rods_along",
        "count",
        "Rows of rods",
        "Along the column's depth; rods stand around the plate's edge",
        2,
        low=1,
        high=12,
    ),
    Parameter(PIECE, "rods_across", "count", "Rods in a row", "Across the column's depth", 2, low=1, high=12),
    Parameter(
        PIECE, "spacing_along", "length", "Rods apart, along", "Between the outermost rows", None, low=0, high=3000
    ),
    Parameter(
        PIECE,
        "spacing_across",
        "length",
        "Rods apart, across",
        "Between the outermost rods of a row",
        None,
        low=0,
        high=3000,
    ),
    Parameter(
        PIECE,
        "rod_points",
        "points",
        "Rods by place",
        "In place of rows: x, y from the plate's centre along and across the column's depth, "
        f"like {LIKE}; {held(-6 * INCH, 'length')}, {held(4 * INCH, 'length')}; a name may go before (N1: {LIKE})",
        "",
    ),
    Parameter(
        PIECE,
        "embedment",
        "length",
        "Embedment",
        "Top of concrete to the bearing face of the head",
        None,
        low=20,
        high=5000,
    ),
    *ANCHORS,
    Parameter(
        PIECE, "washer", "length", "Plate washer", "Side of the square washer over each hole", None, low=10, high=300
    ),
    Parameter(
        PIECE,
        "washers",
        "choice",
        "Washers",
        "Welded to the plate, so that every rod takes shear, or plain",
        "plain",
        ("plain", "welded"),
    ),
    Parameter(
        PIECE,
        "washer_weld",
        "length",
        "Washer weld",
        "Fillet around each washer, where they are welded",
        None,
        low=2,
        high=40,
    ),
    Parameter(
        PIECE,
        "nuts",
        "choice",
        "Nuts",
        "One over each washer; with a lock nut on it; or with a levelling nut under the plate as well",
        "one",
        NUTS,
    ),
    Parameter(MEMBERS, "grout", "length", "Grout", "Pad under the plate; 0 for none", "1-1/2 in", low=0, high=200),
    Parameter(
        MEMBERS,
        "grout_strength",
        "stress",
        "Grout's strength",
        "0: at least twice the concrete's, so that the concrete governs",
        "0 ksi",
        low=0,
        high=140,
    ),
    Parameter(
        MEMBERS, "grout_most", "length", "Grout at most", "The thickest pad that is let stand", "3 in", low=0, high=200
    ),
    Parameter(
        PIECE,
        "shear_path",
        "choice",
        "Shear goes by",
        "One path: friction, anchors (washers welded), or a lug under the plate",
        "friction",
        PATHS,
    ),
    Parameter(
        KNOWN,
        "friction",
        "number",
        "Friction coefficient",
        "Steel on grout 0.55, on concrete 0.70",
        None,
        low=0,
        high=1,
    ),
    Parameter(
        KNOWN,
        "supplementary",
        "choice",
        "Supplementary reinforcement",
        "Holds the breakout together (phi)",
        "none",
        ("none", "provided"),
    ),
    *BARS,
    Parameter(
        PIECE,
        "lug_way",
        "choice",
        "Lug faces shear",
        "Along the column's depth, across it, or both (crossed plates)",
        "along",
        WAYS,
    ),
    Parameter(PIECE, "lug_width", "length", "Lug width", "", None, low=10, high=2000),
    Parameter(PIECE, "lug_depth", "length", "Lug depth", "In the concrete, below the grout", "3 in", low=5, high=1500),
    Parameter(PIECE, "lug_thickness", "length", "Lug thickness", "", "1-1/2 in", low=5, high=200),
    Parameter(PIECE, "lug_weld", "length", "Lug weld", "Fillet on both faces of the lug", "1/2 in", low=2, high=60),
    Parameter(PIECE, "weld_size", "length", "Column weld", "Fillet between column and plate", None, low=2, high=40),
    Parameter(
        PIECE,
        "weld_pattern",
        "choice",
        "Column weld goes",
        "Fillets around all of the column, or outside its flanges and both sides of its web; or complete penetration",
        "outside",
        PATTERNS,
    ),
    Parameter(PIECE, "electrode", "electrode", "Electrode", "", "E70"),
    made_at("weld_at", "Column on its plate", "shop", "base"),
    Parameter(
        PIECE,
        "foot",
        "choice",
        "Column's foot",
        "Milled: compression goes through contact",
        "milled",
        ("milled", "sawn"),
    ),
    Parameter(
        METHOD,
        "bearing_method",
        "choice",
        "Bearing by",
        "block of even pressure (moment about one axis), plane of strain (any), or auto",
        "auto",
        METHODS,
    ),
    Parameter(PIECE, "stiffeners", "choice", "Stiffeners on the plate", "", "none", ("none", "provided")),
    *GROUND,
    Parameter(KNOWN, "post", "choice", "A post", "A post is let stand on fewer than four rods", "no", ("no", "yes")),
    *BASE.parameters,
)


def complete(situation: Situation, given: Sizes) -> Sizes:
    """Every parameter with its source."""
    return completed(PARAMETERS, FOLLOWS, situation, given)


def rods(sizes: Sizes) -> Placed:
    """Where the rods stand and what they are called."""
    points = text(sizes, "rod_points")
    if points:
        return at_points(points)
    return in_rows(
        int(length(sizes, "rods_along")),
        int(length(sizes, "rods_across")),
        length(sizes, "spacing_along"),
        length(sizes, "spacing_across"),
    )


def edge(sizes: Sizes, shop: Shop) -> float:
    """From the rod to the plate's edge, as usual, mm."""
    return up_to(max(1.5 * INCH, length(sizes, "washer") / 2 + PAST), shop.place)


def _washer(situation: Situation, sizes: Sizes) -> float:
    own = rod(text(sizes, "rod"))
    return own.washer or up_to(3 * own.d, situation.shop.width)


def _washer_weld(situation: Situation, sizes: Sizes) -> float:
    t = rod(text(sizes, "rod")).washer_thickness
    return min(INCH / 4, down_to(situation.code.welds.max_size(t), situation.shop.weld)) if t else INCH / 4


def _weld(situation: Situation, sizes: Sizes) -> float:
    s = situation.supported.section
    return max(
        situation.code.welds.min_size(min(s.wall if s.hollow else s.tf, length(sizes, "plate_thickness"))), INCH / 4
    )


def _past(sizes: Sizes, shop: Shop) -> float:
    """How far the plate reaches past the column where a rod stands outside of it, mm."""
    return length(sizes, "weld_size") + length(sizes, "washer") / 2 + PAST + edge(sizes, shop)


def _plate_length(situation: Situation, sizes: Sizes) -> float:
    shop = situation.shop
    deep = situation.supported.section.d + 2 * (_past(sizes, shop) + abs(length(sizes, "offset_along")))
    return up_to(deep, shop.large)


def _plate_width(situation: Situation, sizes: Sizes) -> float:
    s, shop, off = situation.supported.section, situation.shop, 2 * abs(length(sizes, "offset_across"))
    if s.hollow:
        return up_to((s.d if s.round else s.bf) + 2 * _past(sizes, shop) + off, shop.large)
    return up_to(s.bf + 2 * INCH + off, shop.large)


def _spacing(of: str) -> Rule:
    return lambda situation, sizes: max(length(sizes, of) - 2 * edge(sizes, situation.shop), 0.0)


def _lug_width(situation: Situation, sizes: Sizes) -> float:
    side = min(length(sizes, "plate_length"), length(sizes, "plate_width"))
    return max(down_to(side / 2, situation.shop.large), situation.shop.large)


def _bar(sizes: Sizes, kind: str) -> float:
    """Diameter of a bar, mm; 0 where there is none."""
    name = text(sizes, f"{kind}_bars")
    return bars(name).d if name else 0.0


def _tension_bar_off(situation: Situation, sizes: Sizes) -> float:
    """Its face an inch, and its own diameter, from the head."""
    d, own = _bar(sizes, "tension"), rod(text(sizes, "rod"))
    return up_to(own.flats / math.sqrt(3) + d / 2 + max(INCH, d), situation.shop.place)


def _shear_bar_off(situation: Situation, sizes: Sizes) -> float:
    """On the rod."""
    return (rod(text(sizes, "rod")).d + _bar(sizes, "shear")) / 2


def _straight(situation: Situation, sizes: Sizes, kind: str, top: bool) -> float:
    """What develops a straight bar with room about it, mm."""
    own, d = foundation(situation, sizes), _bar(sizes, kind)
    return (
        situation.code.concrete.bars.straight(
            d, length(sizes, "bar_fy"), own.fc, True, top, length(sizes, "foundation_lambda")
        )
        if own and d
        else 0.0
    )


def _tension_bar_length(situation: Situation, sizes: Sizes) -> float:
    """Developed below the deepest that the surface crosses it, the rod's own head."""
    below = _straight(situation, sizes, "tension", False)
    return (
        up_to(length(sizes, "embedment") - length(sizes, "bar_cover") + below, situation.shop.large) if below else 0.0
    )


def _shear_bar_length(situation: Situation, sizes: Sizes) -> float:
    """Developed behind the farthest rod from an edge that is near, where the concrete has the room; of hairpins behind
    their rod."""
    own, behind = foundation(situation, sizes), _straight(situation, sizes, "shear", True)
    if own is None or not behind:
        return 0.0
    if text(sizes, "shear_bar_form") == "hairpins":
        return up_to(behind, situation.shop.large)
    points, cover = rods(sizes).points, length(sizes, "bar_cover")
    off = (length(sizes, "offset_along"), length(sizes, "offset_across"))
    far = [
        edge + way * (off[axis] + p[axis])
        for axis, edges in enumerate((own.along, own.across))
        for edge, way in zip(edges, (1, -1), strict=True)
        for p in points
    ]
    room = min((sum(edges) for edges in (own.along, own.across)), default=math.inf) - 2 * cover
    reach = max((f for f in far if math.isfinite(f)), default=0.0) + behind - cover
    return max(min(up_to(reach, situation.shop.large), room), 0.0)


FOLLOWS = {
    "weld_size": _weld,
    "washer": _washer,
    "washer_weld": _washer_weld,
    "plate_length": _plate_length,
    "plate_width": _plate_width,
    "spacing_along": _spacing("plate_length"),
    "spacing_across": _spacing("plate_width"),
    "embedment": lambda situation, sizes: up_to(12 * rod(text(sizes, "rod")).d, situation.shop.large),
    "critical_edge": lambda situation, sizes: (
        situation.code.concrete.installed.critical(text(sizes, "anchor_kind")) * length(sizes, "embedment")
    ),
    "friction": lambda situation, sizes: situation.code.concrete.lugs.friction(
        bool(length(sizes, "grout")), length(sizes, "foundation_lambda")
    ),
    "lug_width": _lug_width,
    "tension_bar_off": _tension_bar_off,
    "shear_bar_off": _shear_bar_off,
    "tension_bar_length": _tension_bar_length,
    "shear_bar_length": _shear_bar_length,
}
