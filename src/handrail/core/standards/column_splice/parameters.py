"""What can be chosen on a column splice, and what follows when it is not chosen."""

from __future__ import annotations

from handrail.core.joint.situation import Situation
from handrail.core.quantities.units import INCH
from handrail.core.standards.beam_splice.parameters import FLANGE, FLANGE_FOLLOWS, FOLLOWS, WEB
from handrail.core.standards.sizes import PIECE, Parameter, Rule, Sizes, completed
from handrail.core.standards.stated import COLUMN

_OWN = (
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
        PIECE,
        "flange_joint",
        "choice",
        "Flanges joined by",
        "Bolted plates outside, or partial-penetration grooves",
        "plates",
        ("plates", "grooves"),
    ),
    Parameter(PIECE, "groove_throat", "length", "Groove throat", "Effective", None, low=2, high=100),
    Parameter(PIECE, "electrode", "electrode", "Electrode", "", "E70"),
    Parameter(
        PIECE,
        "web_plates",
        "choice",
        "Web plates",
        "None (shear by friction of what presses), on one side or on both",
        "none",
        ("none", "one", "both"),
    ),
    Parameter(
        PIECE,
        "ends_gap",
        "length",
        "Gap",
        "Between the columns' ends; 0 where they are milled",
        "0 in",
        low=0,
        high=100,
        uses=("clearances.splice",),
    ),
)
_LEFT_OUT = {"web_plates", "gap", "align", "inside_plates", "inside_plate_width", "inside_plate_thickness"}
PARAMETERS = _OWN + tuple(p for p in WEB + FLANGE if p.name not in _LEFT_OUT) + COLUMN.parameters


def complete(situation: Situation, given: Sizes) -> Sizes:
    """Every parameter with its source."""
    return completed(PARAMETERS, _FOLLOWS, situation, given)


def _throat(situation: Situation, sizes: Sizes) -> float:
    thin = min(situation.supported.section.tf, situation.carrier.section.tf)
    return max(situation.code.welds.min_throat(thin), INCH / 4)


_FOLLOWS: dict[str, Rule] = {
    name: rule for name, rule in (FOLLOWS | FLANGE_FOLLOWS).items() if name not in _LEFT_OUT
} | {"groove_throat": _throat}
