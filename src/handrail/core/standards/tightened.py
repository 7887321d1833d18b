"""Where bolts may not be left snug tight, whatever their force: what a person or a shop's practice says of their
use."""

from __future__ import annotations

from collections.abc import Iterator

from handrail.core.catalogue.faying import is_slip_critical, surface
from handrail.core.codes.family import Code
from handrail.core.joint.situation import Situation
from handrail.core.limit_state import DetailingRule, at_least, never
from handrail.core.standards.sizes import KNOWN, Parameter, Sizes, text

WHY = {
    "reversal": "the bolting specification asks for pretension where loads turn round",
    "fatigue": "fatigue, by the bolting specification",
    "loosening": "vibration loosens snug bolts ({clause})",
    "built_up": "ends of built-up members (E6)",
    "tall_building": "the shop pretensions these in tall buildings",
    "cranes": "the shop pretensions what carries cranes",
}
TIGHTENED = "Snug tight, pretensioned, or slip-critical with faying surface A, B or one of the house's own"
PRETENSION = Parameter(
    KNOWN,
    "pretension",
    "choice",
    "Pretension asked for",
    "Why bolts may not be snug tight here: reversal, fatigue, loosening, built-up "
    "members, or the shop's practice (tall buildings, cranes)",
    "none",
    ("none", *WHY),
)
SIDES = ("tightening", "beam_tightening")


HOLES = ("hole", "web_hole", "leg_hole", "support_hole", "flange_hole")


def tightened(situation: Situation, sizes: Sizes, code: Code) -> Iterator[DetailingRule]:
    """Pretension where it is asked for, and how bolted joints of a system that is made for earthquakes are."""
    yield from pretensioned(sizes, code)
    if situation.detailed or situation.seismic:
        yield from of_the_system(sizes, code)


def of_the_system(sizes: Sizes, code: Code) -> Iterator[DetailingRule]:
    """Pretensioned bolts, in standard holes or short slots across the force (others slip-critical),
    bearing with deformation considered; faying surfaces are of class A at least."""
    clause = code.clause("system_bolts")
    for name in (n for n in SIDES if n in sizes):
        yield never(
            name.replace("tightening", "system_pretensioned"),
            "bolts",
            text(sizes, name) == "snug",
            "bolted joints of the system that resists "
            f"earthquakes are pretensioned, their surfaces of class A at least ({name})",
            clause,
        )
        if is_slip_critical(how := text(sizes, name)):
            yield at_least(
                name.replace("tightening", "system_friction"),
                "bolts",
                code.bolts.friction(surface(how)),
                code.bolts.friction("A"),
                clause,
                "number",
            )
    slip = all(is_slip_critical(text(sizes, name)) for name in SIDES if name in sizes)
    other = sorted({text(sizes, name) for name in HOLES if name in sizes} - {"STD", "SSLT"})
    yield never(
        "system_holes",
        "bolts",
        bool(other) and not slip,
        f"{', '.join(other)} holes in the system that resists earthquakes: standard ones, or short "
        "slots across the shear, else slip-critical bolts",
        clause,
    )
    if "deformation" in sizes:
        yield never(
            "system_bearing",
            "bolts",
            text(sizes, "deformation") != "considered",
            "bearing of joints of the system that resists earthquakes considers deformation at the hole",
            clause,
        )


def pretensioned(sizes: Sizes, code: Code) -> Iterator[DetailingRule]:
    """Of each side of a connection that is bolted: snug bolts fail where pretension is asked for."""
    why = text(sizes, PRETENSION.name)
    if why == "none":
        return
    for name in (n for n in SIDES if n in sizes):
        yield never(
            name.replace("tightening", "pretension_asked"),
            "bolts",
            text(sizes, name) == "snug",
            f"snug bolts ({name}): {WHY[why].format(clause=code.clause('tightening'))}",
            code.clause("tightening"),
        )
