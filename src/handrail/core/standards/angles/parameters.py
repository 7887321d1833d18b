"""What can be chosen on shear angles, and what follows when it is not chosen."""

from __future__ import annotations

from dataclasses import replace

from handrail.core.catalogue import angle, bolt, electrode
from handrail.core.catalogue.bolts import HOLE_TYPES
from handrail.core.catalogue.faying import TIGHTENING
from handrail.core.catalogue.own import SURFACE
from handrail.core.joint.situation import Situation
from handrail.core.quantities.units import INCH
from handrail.core.standards.angles.wrenching import fits
from handrail.core.standards.shear_end.parameters import (
    BEAM_END,
    BOLTS,
    END_DISTANCE,
    GAP,
    JUDGED,
    ON_SUPPORT,
    WEB_HOLE,
    clear_gap,
    copes_follow,
    end_distance,
    first_bolt,
    group_depth,
    rows_opposite,
    support_thickness,
)
from handrail.core.standards.sizes import (
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
from handrail.core.standards.stated import SHEAR_END

WORKABLE = (
    (8.0, 4.5),
    (7.0, 4.0),
    (6.0, 3.5),
    (5.0, 3.0),
    (4.0, 2.5),
    (3.5, 2.0),
    (3.0, 1.75),
    (2.5, 1.375),
    (2.0, 1.125),
)  # leg, gauge; in.
SIDES = ("bolted", "welded")
ERECTION = 2  # bolts until it is welded (OSHA 1926.756(a)(1))

PARAMETERS = (
    *BOLTS,
    Parameter(
        PIECE,
        "beam_bolt",
        "bolt",
        "Bolt on the beam",
        "Of the beam's web, put in at the shop; as the support's where it is not given",
        None,
        uses=("bolts.shop",),
    ),
    Parameter(
        PIECE,
        "beam_tightening",
        "choice",
        "Tightening on the beam",
        "As for the support's bolts where it is not given",
        None,
        TIGHTENING,
        own=SURFACE,
        uses=("tightened.shop",),
    ),
    Parameter(PIECE, "angle", "angle_section", "Angle", "Its legs and thickness", "L4X3-1/2X5/16"),
    Parameter(PIECE, "angle_grade", "plate_grade", "Angle grade", "", "A36"),
    Parameter(
        PIECE,
        "leg_on_beam",
        "choice",
        "Leg on the beam",
        "Which leg lies on the beam's web",
        "short",
        ("short", "long"),
    ),
    Parameter(PIECE, "beam_side", "choice", "Beam side", "How the angle is held to the beam's web", "bolted", SIDES),
    Parameter(PIECE, "support_side", "choice", "Support side", "How the angle is held to the support", "bolted", SIDES),
    WEB_HOLE,
    Parameter(PIECE, "hole", "hole", "Hole in beam leg", "As for the web", "STD", HOLE_TYPES, uses=("holes.plate",)),
    Parameter(
        PIECE, "leg_hole", "hole", "Hole in support leg", "As for the web", "STD", HOLE_TYPES, uses=("holes.leg",)
    ),
    Parameter(
        PIECE,
        "beam_gauge",
        "length",
        "Gauge on the beam leg",
        "Heel of the angle to the bolt line on the beam's web",
        None,
        low=15,
        high=200,
    ),
    Parameter(
        PIECE,
        "support_gauge",
        "length",
        "Gauge on the support leg",
        "Heel of the angle to the bolt line on the support",
        None,
        low=15,
        high=200,
    ),
    Parameter(
        PIECE,
        "stagger",
        "choice",
        "Stagger",
        "The support's bolts stand half a pitch lower than the beam's",
        None,
        ("none", "half_pitch"),
    ),
    END_DISTANCE,
    Parameter(
        PIECE,
        "angle_length",
        "length",
        "Angle length",
        "Along the shear; rows and end distances give it",
        None,
        low=20,
        high=3000,
    ),
    Parameter(
        PIECE,
        "beam_weld",
        "length",
        "Weld on the beam",
        "Fillet down the leg's edge and along both its ends",
        None,
        low=2,
        high=40,
    ),
    Parameter(
        PIECE,
        "support_weld",
        "length",
        "Weld on the support",
        "Fillet along the toe; of one angle along its foot besides",
        None,
        low=2,
        high=40,
    ),
    Parameter(PIECE, "electrode", "electrode", "Electrode", "", "E70"),
    made_at("beam_weld_at", "Angles on the beam", "shop", "angle"),
    made_at("support_weld_at", "Angles on the support", "site", "support"),
    Parameter(
        PIECE,
        "erection_bolts",
        "count",
        "Erection bolts",
        "That hold angles which are welded to the support until they are",
        None,
        low=0,
        high=12,
    ),
    *ON_SUPPORT,
    GAP,
    *BEAM_END,
    *JUDGED,
    *SHEAR_END.parameters,
)
ONE = tuple(replace(p, default="L4X3-1/2X3/8") if p.name == "angle" else p for p in PARAMETERS)


def complete(situation: Situation, given: Sizes) -> Sizes:
    """Every parameter of a pair with its source."""
    return completed(PARAMETERS, FOLLOWS, situation, given)


def complete_one(situation: Situation, given: Sizes) -> Sizes:
    """Every parameter of one angle with its source."""
    return completed(ONE, FOLLOWS, situation, given)


def legs(sizes: Sizes) -> tuple[float, float]:
    """(on the beam, on the support), mm."""
    own = angle(text(sizes, "angle"))
    short, long_ = sorted((own.d, own.bf))
    return (short, long_) if text(sizes, "leg_on_beam") == "short" else (long_, short)


def workable(leg: float) -> float:
    """The usual gauge of a leg, mm (Manual Table 1-7A)."""
    return next((gauge for at_least, gauge in WORKABLE if leg >= at_least * INCH - 1), leg / INCH / 2) * INCH


def drop(sizes: Sizes) -> float:
    """How much lower the support's bolts stand than the beam's, mm."""
    both = text(sizes, "beam_side") == text(sizes, "support_side") == "bolted"
    return length(sizes, "pitch") / 2 if both and text(sizes, "stagger") == "half_pitch" else 0.0


def _weld(situation: Situation, sizes: Sizes, other: float) -> float:
    """5/16 in. or what the leg's edge allows; the least size at least."""
    t = angle(text(sizes, "angle")).wall
    edge = down_to(situation.code.welds.max_size(t), situation.shop.weld)
    return max(min(edge, situation.shop.one_pass), situation.code.welds.min_size(min(t, other)))


def _beam_weld(situation: Situation, sizes: Sizes) -> float:
    """Besides, no more than the web can take where that is above the least size."""
    web, fill, most = (
        situation.supported,
        electrode(text(sizes, "electrode")),
        _weld(situation, sizes, situation.supported.section.tw),
    )
    least = situation.code.welds.min_size(min(angle(text(sizes, "angle")).wall, web.section.tw))
    return max(
        min(
            most,
            up_to(situation.code.welds.web_ruptures_with(web.section.tw, web.grade.Fu, fill), situation.shop.weld),
        ),
        least,
    )


def _support_gauge(situation: Situation, sizes: Sizes) -> float:
    """The usual one; wider, step by step as far as the leg's edge lets, where no wrench goes in there, level or
    staggered."""
    leg, own = legs(sizes)[1], workable(legs(sizes)[1])
    half = length(sizes, "pitch") / 2
    least = bolt(text(sizes, "bolt")).min_edge
    step = situation.shop.place
    wider = (own + k * step for k in range(int((leg - least - own) // step) + 1))
    return next((g for g in wider if fits(situation, sizes, g, 0.0) or fits(situation, sizes, g, half)), own)


def _end_distance(situation: Situation, sizes: Sizes) -> float:
    """As the larger of its bolts asks."""
    return max(end_distance(situation, sizes, name) for name in ("bolt", "beam_bolt"))


FOLLOWS: dict[str, Rule] = {
    "beam_weld": _beam_weld,
    "support_weld": lambda situation, s: _weld(situation, s, support_thickness(situation)),
    "beam_bolt": lambda situation, s: s["bolt"].value,
    "beam_tightening": lambda situation, s: s["tightening"].value,
    "end_distance": _end_distance,
    "beam_gauge": lambda situation, s: workable(legs(s)[0]),
    "support_gauge": _support_gauge,
    "stagger": lambda situation, s: "none" if fits(situation, s, length(s, "support_gauge"), 0.0) else "half_pitch",
    "erection_bolts": lambda situation, s: 0 if text(s, "support_side") == "bolted" else ERECTION,
    "angle_length": lambda situation, s: group_depth(s) + drop(s) + 2 * length(s, "end_distance"),
    "gap": clear_gap,
    **copes_follow("gap"),
    "first_bolt": first_bolt,
    "rows_opposite": rows_opposite,
}
