"""Shop practice: what the shop does unless a rule says otherwise, for all standards, for one, or by what it is for."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from handrail.core.standards import STANDARDS, Standard
from handrail.core.standards.base_plate.ground import PARAMETERS as GROUND

PRACTICE = "practice"  # begins the source of a size that it gives
TARGET = "target_utilisation"
TARGET_HELP = "What sizing aims at; the verdict is by 1, whoever chose the sizes, with a remark over the target"
OVER = "over_target"
OVER_HELP = "Whether what passes over the target may be released: `remark`, or `no_release`"
OVER_CHOICES = ("remark", "no_release")
PLACE = "same_place"
PLACE_HELP = "How far a member's end may move from one revision to the next and be the same, under whatever name"
PLACE_MOST = 500.0  # mm


@dataclass(frozen=True)
class Use:
    """One thing that practice can say by what it is for: which parameter of which standards it gives."""

    group: str
    name: str
    help: str
    parameters: tuple[tuple[str, str], ...]  # (standard, parameter)


def _of(*names: str, but: tuple[str, ...] = (), only: tuple[str, ...] = ()) -> tuple[tuple[str, str], ...]:
    return tuple(
        (s.name, p.name)
        for s in STANDARDS.values()
        if s.name not in but and (not only or s.name in only)
        for p in s.parameters
        if p.name in names
    )


_SPLICES = ("beam_web_splice", "beam_flange_splice", "column_flange_splice")
_IN_TENSION = ("column_end_plate_splice",)
USES = (  # a later one holds over an earlier one that gives the same
    Use(
        "bolts",
        "field",
        "Bolts put in at the site: of beams' ends on their supports, and of splices",
        _of("bolt", "flange_bolt"),
    ),
    Use("bolts", "shop", "Bolts put in at the shop: of angles on the beam's web", _of("beam_bolt")),
    Use(
        "bolts",
        "shear",
        "Bolts that work in shear: of beams' ends and of the webs of splices",
        _of("bolt", but=_IN_TENSION),
    ),
    Use(
        "bolts",
        "moment",
        "Bolts that hold a moment: of flange plates and of end plates between columns",
        _of("flange_bolt") + _of("bolt", only=_IN_TENSION),
    ),
    Use(
        "tightened",
        "field",
        "Tightening at the site of beams' ends on their supports",
        _of("tightening", but=(*_SPLICES, *_IN_TENSION)),
    ),
    Use("tightened", "shop", "Tightening at the shop, of angles on the beam's web", _of("beam_tightening")),
    Use("tightened", "splice", "Tightening of splices with plates", _of("tightening", only=_SPLICES)),
    Use("holes", "plate", "Holes in plates, and in angles where they lie on the beam", _of("hole")),
    Use("holes", "web", "Holes in the beam's web", _of("web_hole")),
    Use("holes", "leg", "Holes in an angle's leg on the support", _of("leg_hole")),
    Use("holes", "support", "Holes in the support", _of("support_hole")),
    Use("holes", "flange", "Holes in flanges and the plates on them", _of("flange_hole")),
    Use(
        "edges",
        "end",
        "Last bolt to the end of a plate or an angle, along the force",
        _of("end_distance", "flange_end_distance"),
    ),
    Use("edges", "side", "Bolt line to the side of a plate", _of("edge_distance")),
    Use("edges", "beam", "Bolts to the cut end of the beam's own web and flanges", _of("beam_edge_distance")),
    Use("clearances", "erection", "What a gap or a cope is made with, where it is not given", _of("clearance")),
    Use("clearances", "gap", "Beam's end to the face of what it meets", _of("gap", but=_SPLICES)),
    Use("clearances", "splice", "Between the ends of what is spliced", _of("gap", "ends_gap", only=_SPLICES)),
    *(
        Use(
            "foundation",
            p.name.removeprefix("foundation_"),
            f"What bases stand on: {p.label[0].lower()}{p.label[1:]}",
            _of(p.name),
        )
        for p in GROUND
    ),
)
GROUPS = tuple(dict.fromkeys(use.group for use in USES))


def said(source: str, parameter: str) -> str:
    """The entry of a rulebook's own practice that gave a parameter, like `bolt`, `bolts.moment`, `double_angle.bolt`;
    empty where it was not that."""
    where = source.removeprefix(PRACTICE).strip()
    if not source.startswith(PRACTICE) or where.startswith("of ") or " of " in where:
        return ""
    return f"{where}.{parameter}" if where in STANDARDS else where or parameter


def having(name: str) -> Iterator[Standard]:
    """The standards that have a parameter of this name."""
    return (s for s in STANDARDS.values() if any(p.name == name for p in s.parameters))
