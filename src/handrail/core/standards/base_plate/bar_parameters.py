"""Bars in the concrete that take the place of its breakout: how many, where, how long."""

from __future__ import annotations

from handrail.core.parts.anchors.reinforcement import ENDS
from handrail.core.parts.anchors.shear_bars import FORMS
from handrail.core.quantities.units import INCH
from handrail.core.quantities.words import held
from handrail.core.standards.sizes import MEMBERS, Parameter

WAYS = ("along", "across", "both")

BARS = (
    Parameter(
        MEMBERS,
        "tension_bars",
        "bars",
        "Bars for tension",
        "Upright anchor reinforcement in place of breakout in tension, like (8) No. 5; empty for none",
        "",
    ),
    Parameter(
        MEMBERS,
        "tension_bar_points",
        "points",
        "Bars by place",
        "x, y of each from the plate's centre, like rods; where not given, one to each rod in turn: "
        "outwards along, outwards across, inwards along, inwards across",
        "",
    ),
    Parameter(
        MEMBERS,
        "tension_bar_off",
        "length",
        "Bars off the rods",
        "From a rod to each of its bars, where they are not given by place",
        None,
        low=0,
        high=1000,
    ),
    Parameter(
        MEMBERS,
        "tension_bar_length",
        "length",
        "Their length",
        "From the upper end, under the cover, to the lower",
        None,
        low=0,
        high=5000,
    ),
    Parameter(
        MEMBERS,
        "shear_bars",
        "bars",
        "Bars for shear",
        "Legs of ties or hairpins across the breakout towards an edge, so many across "
        "each row's, like (4) No. 4; empty for none",
        "",
    ),
    Parameter(
        MEMBERS,
        "shear_bar_form",
        "choice",
        "Legs are of",
        "Ties developed on both sides of the breakout, or hairpins around the rods nearest to each edge",
        "ties",
        FORMS,
    ),
    Parameter(
        MEMBERS, "shear_bar_way", "choice", "Legs run", "Along the column's depth, across it, or both", "both", WAYS
    ),
    Parameter(
        MEMBERS,
        "shear_bars_along",
        "places",
        "Legs along, by place",
        f"Where each leg that runs along stands across, from the plate's centre, like {held(6 * INCH, 'length')}; "
        f"{held(-6 * INCH, 'length')}; where not given, one to each line of rods in turn: outside, inside, then deeper",
        "",
    ),
    Parameter(
        MEMBERS,
        "shear_bars_across",
        "places",
        "Legs across, by place",
        "Where each leg that runs across stands along",
        "",
    ),
    Parameter(
        MEMBERS,
        "shear_bar_off",
        "length",
        "Legs off the rods",
        "From a line of rods to each of its legs, where they are not given by place",
        None,
        low=0,
        high=1000,
    ),
    Parameter(
        MEMBERS,
        "shear_bar_length",
        "length",
        "Legs' length",
        "From the cover at the edge inwards; of hairpins from their rod inwards",
        None,
        low=0,
        high=10000,
    ),
    Parameter(MEMBERS, "bar_fy", "stress", "Bars' yield", "", "60 ksi", low=200, high=700),
    Parameter(
        MEMBERS,
        "bar_ends",
        "choice",
        "Bars' ends",
        "Straight, hooked at both, or hooked in the piece that would break out alone",
        "straight",
        ENDS,
    ),
    Parameter(
        MEMBERS,
        "bar_cover",
        "length",
        "Cover over bars",
        "At the top of the concrete, and at its edges before level bars",
        "2 in",
        low=0,
        high=300,
    ),
)
