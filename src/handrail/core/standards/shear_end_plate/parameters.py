"""What can be chosen on a shear end plate, and what follows when it is not chosen."""

from __future__ import annotations

from handrail.core.catalogue import electrode
from handrail.core.catalogue.bolts import HOLE_TYPES
from handrail.core.joint.situation import Situation
from handrail.core.quantities.units import INCH
from handrail.core.standards.shear_end.parameters import (
    BEAM_END,
    BOLTS,
    END_DISTANCE,
    JUDGED,
    ON_SUPPORT,
    across_edge,
    copes_follow,
    end_distance,
    first_bolt,
    group_depth,
    rows_opposite,
)
from handrail.core.standards.sizes import PIECE, Parameter, Rule, Sizes, completed, down_to, length, text, up_to
from handrail.core.standards.stated import SHEAR_END

LEAST_GAUGE, MOST_GAUGE = 3.5 * INCH, 5.5 * INCH  # Manual Part 10

PARAMETERS = (
    *BOLTS,
    Parameter(
        PIECE,
        "hole",
        "hole",
        "Hole in plate",
        "STD, OVS, or a slot across (SSLT, LSLT) or along (SSLP, LSLP) the shear",
        "STD",
        HOLE_TYPES,
        uses=("holes.plate",),
    ),
    Parameter(
        PIECE, "gauge", "length", "Gauge", "Across the web between the two lines of bolts", None, low=30, high=400
    ),
    END_DISTANCE,
    Parameter(
        PIECE,
        "edge_distance",
        "length",
        "Edge distance",
        "Bolt line to the plate's edge",
        None,
        low=5,
        high=200,
        uses=("edges.side",),
    ),
    Parameter(
        PIECE,
        "plate_thickness",
        "length",
        "Plate thickness",
        "Of the plate across the beam's end",
        "1/4 in",
        low=3,
        high=60,
    ),
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
    Parameter(PIECE, "weld_size", "length", "Weld size", "Fillet on each side of the web", None, low=2, high=40),
    Parameter(PIECE, "electrode", "electrode", "Electrode", "", "E70"),
    *ON_SUPPORT,
    *BEAM_END,
    *JUDGED,
    *SHEAR_END.parameters,
)


def complete(situation: Situation, given: Sizes) -> Sizes:
    """Every parameter with its source."""
    return completed(PARAMETERS, FOLLOWS, situation, given)


def _gauge(situation: Situation, sizes: Sizes) -> float:
    """5-1/2 in., or what the support's flange or its web between the fillets leaves room for; 3-1/2 in. at least."""
    s = situation.carrier.section
    room = {"beam_to_column_flange": s.bf, "beam_to_column_web": s.T}.get(situation.framing, MOST_GAUGE * 2)
    most = room - 2 * length(sizes, "edge_distance")
    return max(LEAST_GAUGE, down_to(min(MOST_GAUGE, most), situation.shop.width))


def _weld(situation: Situation, sizes: Sizes) -> float:
    """What brings the web to shear rupture beside it, at most 5/16 in. (one pass); the least size at least."""
    web, fill, shop = situation.supported, electrode(text(sizes, "electrode")), situation.shop
    develops = situation.code.welds.web_ruptures_with(web.section.tw, web.grade.Fu, fill)
    return max(
        min(up_to(develops, shop.weld), shop.one_pass),
        situation.code.welds.min_size(min(web.section.tw, length(sizes, "plate_thickness"))),
    )


FOLLOWS: dict[str, Rule] = {
    "weld_size": _weld,
    "end_distance": end_distance,
    "edge_distance": lambda situation, s: across_edge(situation, s, 1.25 * INCH),
    "gauge": _gauge,
    "plate_depth": lambda situation, s: group_depth(s) + 2 * length(s, "end_distance"),
    **copes_follow("plate_thickness"),
    "first_bolt": first_bolt,
    "rows_opposite": rows_opposite,
}
