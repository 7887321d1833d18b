"""Steel grades and welding electrodes."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache

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
def grade(name: str) -> Grade:
    """The steel grade called `name`, also as `ASTM A572 Gr. 50`, `A992Fy50` or `S355J2`. Raises UnknownName."""
    held = _grades().get(_plain(name)) or _with_yield(_plain(name))
    if held is None:
        raise UnknownName(f"grade '{name}' is not in the catalogue; it has {', '.join(all_grades())}")
    return held


@lru_cache(maxsize=64)
def electrode(name: str) -> Electrode:
    """The electrode called `name` (`E70`, `E70XX`). Raises UnknownName."""
    held = _electrodes().get(key(name).removesuffix("XX"))
    if held is None:
        raise UnknownName(f"electrode '{name}' is not in the catalogue; it has {', '.join(_electrodes())}")
    return held


def all_grades() -> list[str]:
    return [g.name for g in _grades().values()]


def all_electrodes() -> list[str]:
    return list(_electrodes())
