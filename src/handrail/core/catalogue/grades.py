"""Steel grades and welding electrodes."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from functools import lru_cache

from handrail.core.catalogue.own import ELECTRODE, GRADE, find, those
from handrail.core.catalogue.tables import key, rows
from handrail.core.errors import UnknownName
from handrail.core.quantities.units import KSI


@dataclass(frozen=True)
class Grade:
    """A structural steel: yield and tensile strength in MPa."""

    name: str
    Fy: float
    Fu: float
    standard: str
    use: str = "any"
    max_thickness: float = 0.0  # mm; 0 where the grade has no limit here
    steps: tuple[tuple[float, float, float], ...] = ()  # up to a thickness, mm: Fy, Fu; the thinnest first

    def at(self, thickness: float) -> Grade:
        """As strong as it is in a piece so thick, mm; beyond its last step as it is in general."""
        step = next((s for s in self.steps if thickness <= s[0] + 1e-6), None)
        return self if step is None else replace(self, Fy=step[1], Fu=step[2], steps=())


@dataclass(frozen=True)
class Electrode:
    """A filler metal: its classification strength FEXX in MPa."""

    name: str
    FEXX: float


def _plain(name: str) -> str:
    """The name without what people write around it: ASTM, grade, an EN quality like J2."""
    text = re.sub(r"^ASTM|GRADE|GR|[-.]", "", key(name))
    return re.sub(r"^(S\d{3})(JR|J0|J2|K2|M|N|ML|NL)(\+\w+)?$", r"\1", text)


def _with_yield(text: str) -> Grade | None:
    """The grade of a name that ends in its yield stress in ksi, like A992Fy50 or A500GrB42."""
    match = re.match(r"^(.+?)(?:FY)?(\d\d)$", text)
    held = [_grades().get(match[1] + shape) for shape in ("", "ROUND")] if match else []
    return next((g for g in held if g and match and round(g.Fy / KSI, 1) == float(match[2])), None)


@lru_cache(maxsize=1)
def _grades() -> dict[str, Grade]:
    grades = {}
    for row in rows("grades.csv"):
        scale = KSI if row["unit"] == "ksi" else 1.0
        grades[_plain(row["grade"])] = Grade(
            name=row["grade"],
            Fy=float(row["Fy"]) * scale,
            Fu=float(row["Fu"]) * scale,
            standard=row["standard"],
            use=row["use"],
            max_thickness=float(row["max_thickness_mm"] or 0),
        )
    return grades


@lru_cache(maxsize=1)
def _electrodes() -> dict[str, Electrode]:
    return {r["electrode"]: Electrode(r["electrode"], float(r["FEXX"]) * KSI) for r in rows("electrodes.csv")}


@lru_cache(maxsize=256)
def _shipped(name: str) -> Grade | None:
    return _grades().get(_plain(name)) or _with_yield(_plain(name))


def grade(name: str) -> Grade:
    """The steel grade called `name`, also as `ASTM A572 Gr. 50`, `A992Fy50` or `S355J2`; else the house's own. Raises
    UnknownName."""
    held = _shipped(name)
    if held is not None:
        return held
    if (own := find(GRADE, name)) is not None:
        values = own.values
        steps = tuple((to, Fy, Fu) for to, Fy, Fu in values["steps"])
        thickest = float(values.get("max_thickness", 0.0))
        return Grade(own.name, values["Fy"], values["Fu"], own.source, values["use"], thickest, steps)
    raise UnknownName(f"grade '{name}' is not in the catalogue; it has {', '.join(all_grades())}")


def electrode(name: str) -> Electrode:
    """The electrode called `name` (`E70`, `E70XX`); else the house's own. Raises UnknownName."""
    held = _electrodes().get(key(name).removesuffix("XX"))
    if held is not None:
        return held
    if (own := find(ELECTRODE, name)) is not None:
        return Electrode(own.name, own.values["FEXX"])
    raise UnknownName(f"electrode '{name}' is not in the catalogue; it has {', '.join(all_electrodes())}")


def all_grades() -> list[str]:
    return [*(g.name for g in _grades().values()), *(own.name for own in those(GRADE))]


def all_electrodes() -> list[str]:
    return [*_electrodes(), *(own.name for own in those(ELECTRODE))]
