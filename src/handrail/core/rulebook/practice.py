"""Shop practice: what the shop does unless a rule says otherwise, for all standards, for one, or by what it is for."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

from handrail.core.standards import STANDARDS, Standard

PRACTICE = "practice"  # begins the source of a size that it gives
TARGET = "target_utilisation"
TARGET_HELP = "What sizing aims at; the verdict is by 1, whoever chose the sizes, with a remark over the target"
OVER = "over_target"
OVER_HELP = "Whether what passes over the target may be released: `remark`, or `no_release`"
OVER_CHOICES = ("remark", "no_release")
STOCK = "stock"
STOCK_HELP = "What plates are kept in, and sizes go by in steps: `in` for fractions of an inch, `mm`"
PLACE = "same_place"
PLACE_HELP = "How far a member's end may move from one revision to the next and be the same, under whatever name"
PLACE_MOST = 500.0  # mm
FINISH = "finish"
FINISHES = {  # what may have one, and what that is
    "steel": "How plates and angles are finished, like primed or galvanized: in lists and on drawings",
    "bolts": "How bolts are finished, like plain or hot-dip galvanized: in lists and on drawings",
    "rods": "How anchor rods are finished: in lists and on drawings",
}
FINISH_LONGEST = 60  # letters


@dataclass(frozen=True)
class Use:
    """One thing that practice can say by what it is for; the parameters that name it have it."""

    group: str
    name: str
    help: str

    @cached_property
    def parameters(self) -> tuple[tuple[str, str], ...]:
        """(standard, parameter) of all that it gives."""
        key = f"{self.group}.{self.name}"
        return tuple((s.name, p.name) for s in STANDARDS.values() for p in s.parameters if key in p.uses)


def _foundations() -> Iterator[Use]:
    for p in STANDARDS["base_plate"].parameters:
        for use in p.uses:
            group, _, name = use.partition(".")
            if group == "foundation":
                yield Use(group, name, f"What bases stand on: {p.label[0].lower()}{p.label[1:]}")


USES = (  # a later one holds over an earlier one that gives the same
    Use("bolts", "field", "Bolts put in at the site: of beams' ends on their supports, and of splices"),
    Use("bolts", "shop", "Bolts put in at the shop: of angles on the beam's web"),
    Use("bolts", "shear", "Bolts that work in shear: of beams' ends and of the webs of splices"),
    Use("bolts", "moment", "Bolts that hold a moment: of flange plates and of end plates between columns"),
    Use("tightened", "field", "Tightening at the site of beams' ends on their supports"),
    Use("tightened", "shop", "Tightening at the shop, of angles on the beam's web"),
    Use("tightened", "splice", "Tightening of splices with plates"),
    Use("holes", "plate", "Holes in plates, and in angles where they lie on the beam"),
    Use("holes", "web", "Holes in the beam's web"),
    Use("holes", "leg", "Holes in an angle's leg on the support"),
    Use("holes", "support", "Holes in the support"),
    Use("holes", "flange", "Holes in flanges and the plates on them"),
    Use("welds", "plate", "Where a plate is welded to what supports the beam: shop or site"),
    Use("welds", "beam", "Where a plate is welded to the beam's web"),
    Use("welds", "angle", "Where angles are welded to the beam's web"),
    Use("welds", "support", "Where angles are welded to the support"),
    Use("welds", "base", "Where a column is welded to its base plate"),
    Use("edges", "end", "Last bolt to the end of a plate or an angle, along the force"),
    Use("edges", "side", "Bolt line to the side of a plate"),
    Use("edges", "beam", "Bolts to the cut end of the beam's own web and flanges"),
    Use("clearances", "erection", "What a gap or a cope is made with, where it is not given"),
    Use("clearances", "gap", "Beam's end to the face of what it meets"),
    Use("clearances", "splice", "Between the ends of what is spliced"),
    *_foundations(),
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
