"""Anchor rods with heavy hex heads or nuts: sizes and F1554 grades."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass, replace
from functools import lru_cache

from handrail.core.catalogue.own import ROD, find
from handrail.core.catalogue.tables import by_diameter, key, rows
from handrail.core.errors import UnknownName
from handrail.core.quantities.units import INCH, KSI

MOST_FUTA = 125 * KSI  # ACI 318-19 17.6.1.2


@dataclass(frozen=True)
class Rod:
    """One headed rod: diameter `d`, `pitch` of its thread and `flats` across its heavy hex head, mm; yield `fya` and
    tensile `futa`, MPa.

    `ductile` is steel that stretches 14 % and narrows 30 % before it breaks (ACI 318-19 2.3). `hole` is the one in a
    base plate, with a square plate washer of side `washer` and `washer_thickness` over it, mm (Manual Table 14-2; 0
    where it has none)."""

    name: str
    d: float
    pitch: float
    flats: float
    fya: float
    futa: float
    ductile: bool
    hole: float = 0.0
    washer: float = 0.0
    washer_thickness: float = 0.0

    @property
    def area(self) -> float:
        """Effective in tension and in shear, mm^2: pi/4 (d - 0.9743 pitch)^2 (ASME B1.1; ACI 318-19 R17.6.1.2)."""
        return math.pi / 4 * (self.d - 0.9743 * self.pitch) ** 2

    @property
    def bearing_area(self) -> float:
        """Of the head on the concrete, mm^2: the hexagon less the rod."""
        return math.sqrt(3) / 2 * self.flats**2 - math.pi / 4 * self.d**2

    @property
    def design_futa(self) -> float:
        """MPa: not over 1.9 fya nor 125 ksi (ACI 318-19 17.6.1.2)."""
        return min(self.futa, 1.9 * self.fya, MOST_FUTA)


@lru_cache(maxsize=1)
def _sizes() -> dict[float, dict[str, str]]:
    return {float(r["diameter"]): r for r in rows("anchor_rods.csv")}


@lru_cache(maxsize=1)
def _grades() -> dict[str, dict[str, str]]:
    return {key(r["grade"]): r for r in rows("anchor_grades.csv")}


def rod(name: str) -> Rod:
    """The rod called `name`, like `3/4 F1554-36`; else one of a grade of the house's own. Raises UnknownName with what
    there is."""
    try:
        return _shipped(name)
    except UnknownName:
        size, _, called = name.strip().replace(" in ", " ").partition(" ")
        own = find(ROD, called)
        if own is None:
            raise
        like = _shipped(f"{size} F1554-36")
        values = own.values
        return replace(like, name=f"{like.name.split(' ')[0]} {own.name}", fya=values["fya"], futa=values["futa"],
                       ductile=values["ductile"] == "yes")  # fmt: skip


@lru_cache(maxsize=256)
def _shipped(name: str) -> Rod:
    match = re.match(
        r"^(?P<size>.*?)[\s\"”]*(?:in\.?)?\s*(?P<grade>F1554\s*-?\s*(?:Gr\.?\s*)?\d+)$", name.strip(), re.IGNORECASE
    )
    if not match:
        raise UnknownName(f"'{name}' is not an anchor rod; write size and grade, like '3/4 F1554-36'")
    strong = _grades().get(key(re.sub(r"\s*-?\s*(?:Gr\.?\s*)?(\d+)$", r"-\1", match["grade"], flags=re.IGNORECASE)))
    if strong is None:
        raise UnknownName(
            f"anchor grade '{match['grade']}' is not in the catalogue; it has"
            f" {', '.join(r['grade'] for r in _grades().values())}"
        )
    size, row = by_diameter(_sizes(), match["size"], name, "anchor", "3/4 F1554-36")
    return Rod(
        f"{row['label']} {strong['grade']}",
        size * INCH,
        INCH / float(row["threads"]),
        float(row["flats"]) * INCH,
        float(strong["fya"]) * KSI,
        float(strong["futa"]) * KSI,
        strong["ductile"] == "yes",
        *(float(row[name] or 0) * INCH for name in ("hole", "washer", "washer_thickness")),
    )


def next_rod(name: str) -> str | None:
    """The next larger rod of the same grade that base plates have a hole for; None beyond the largest."""
    own = rod(name)
    grade = own.name.split(" ")[-1]
    larger = [r["label"] for size, r in _sizes().items() if size * INCH > own.d + 1e-6 and r["hole"]]
    return f"{larger[0]} {grade}" if larger else None
