"""Reinforcing bars by their number (ASTM A615)."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache

from handrail.core.catalogue.tables import rows
from handrail.core.errors import UnknownName
from handrail.core.quantities.units import INCH

MOST = 200


@dataclass(frozen=True)
class Bars:
    """`count` bars of diameter `d` mm and `each` mm^2."""

    name: str
    count: int
    d: float
    each: float

    @property
    def area(self) -> float:
        """All together, mm^2."""
        return self.count * self.each


@lru_cache(maxsize=128)
def bars(name: str) -> Bars:
    """Bars like `(8) No. 5`, or `8 #5`. Raises UnknownName with what there is."""
    held = {r["number"]: r for r in rows("bars.csv")}
    match = re.fullmatch(r"\s*\(?\s*(\d{1,3})\s*\)?\s*(?:no\.?\s*|#\s*)(\d{1,2})\s*", name, re.IGNORECASE)
    if not match or not 1 <= int(match[1]) <= MOST:
        raise UnknownName(f"'{name}' is not a number of bars; write it like '(8) No. 5'")
    row = held.get(match[2])
    if row is None:
        raise UnknownName(f"bar No. {match[2]} is not in the catalogue; it has {', '.join(held)}")
    return Bars(
        f"({int(match[1])}) No. {match[2]}", int(match[1]), float(row["diameter"]) * INCH, float(row["area"]) * INCH**2
    )
