"""Bolts and the holes made for them."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from functools import lru_cache

from handrail.core.catalogue.tables import by_diameter, key, rows
from handrail.core.errors import UnknownName
from handrail.core.quantities.units import INCH, KIP, KSI, inches

HOLE_TYPES = ("STD", "SSLT", "SSLP", "OVS", "LSLT", "LSLP")
"""Standard; short slot across or along the member's shear; oversized; long slot across or along it."""


@dataclass(frozen=True)
class Bolt:
    """One bolt: diameter mm, strengths MPa (Table J3.2), pretension N (Table J3.1; 0 where not held), `tightening` the
    room from its centre that a wrench's socket needs, mm (Manual Part 7). It is `threaded` so far from its end (ASME
    B18.2.6), and is longer than its grip and washers by `beyond` at least, in quarter inches (bolting specification,
    Table C-2.2). A hardened `washer` is so wide (ASTM F436) and counts as `washer_thickness` (5/32 in.)."""

    name: str
    d: float
    group: str
    strength_group: str
    threads: str
    Fnt: float
    Fnv: float
    pretension: float
    min_edge: float
    tightening: float
    threaded: float
    beyond: float
    washer: float
    washer_thickness: float = 5 / 32 * INCH
    edition_from: str = ""

    @property
    def area(self) -> float:
        return math.pi * self.d**2 / 4

    def length(self, grip: float) -> float:
        """As it is ordered for a `grip` of so much, washers among it, mm."""
        return math.ceil((grip + self.beyond) / (INCH / 4) - 1e-6) * INCH / 4

    def excluded_from(self, grip: float, washers: bool = False) -> float:
        """The least ply under the nut, mm, with which no thread of a bolt with this `grip` reaches the shear plane.
        With `washers`, wherever they are, it stands out by what it must and no more."""
        return max(self.threaded - (self.beyond if washers else self.length(grip) - grip), 0.0)


@dataclass(frozen=True)
class HoleSize:
    """A hole: `along` is its size in the direction of the member's shear V, `across` at right angles."""

    type: str
    along: float
    across: float

    @property
    def slotted(self) -> bool:
        return self.along != self.across


@lru_cache(maxsize=1)
def _sizes() -> dict[float, dict[str, str]]:
    return {float(r["diameter"]): r for r in rows("bolt_sizes.csv")}


@lru_cache(maxsize=1)
def _groups() -> dict[str, dict[str, str]]:
    return {r["group"]: r for r in rows("bolts.csv")}


@lru_cache(maxsize=256)
def bolt(name: str) -> Bolt:
    """The bolt called `name`, like `3/4 A325-N` or `7/8 in A490-X`. Raises UnknownName."""
    match = re.match(
        r"^(?P<size>.*?)[\s\"”]*(?:in\.?)?\s*(?P<group>[AF]\d{3,4})\s*-?\s*(?P<threads>[NX])?$",
        name.strip(),
        re.IGNORECASE,
    )
    if not match:
        raise UnknownName(f"'{name}' is not a bolt; write size, group and threads, like '3/4 A325-N'")
    group = _groups().get(key(match["group"]))
    if group is None:
        raise UnknownName(f"bolt group '{match['group']}' is not in the catalogue; it has {', '.join(_groups())}")
    size, row = by_diameter(_sizes(), match["size"], name, "bolt", "3/4 A325-N")
    threads = (match["threads"] or "N").upper()
    pretension = row.get(f"pretension_{group['pretension']}") if group["pretension"] else None
    return Bolt(
        name=f"{row['label']} {group['group']}-{threads}",
        d=size * INCH,
        group=group["group"],
        strength_group=group["strength_group"],
        threads=threads,
        Fnt=float(group["Fnt"]) * KSI,
        Fnv=float(group[f"Fnv_{threads}"]) * KSI,
        pretension=float(pretension or 0) * KIP,
        min_edge=float(row["min_edge"]) * INCH,
        tightening=(float(row["socket"]) / 2 + 1 / 8) * INCH,
        threaded=float(row["threaded"]) * INCH,
        beyond=float(row["beyond"]) * INCH,
        washer=float(row["washer"]) * INCH,
        edition_from="" if group["editions"] == "both" else group["editions"],
    )


@lru_cache(maxsize=256)
def hole(type_: str, d: float) -> HoleSize:
    """Nominal hole sizes (Table J3.3) for a bolt of `d` mm; `type_` is one of HOLE_TYPES."""
    wanted = key(type_)
    if wanted not in HOLE_TYPES:
        raise UnknownName(f"hole '{type_}' is none of {', '.join(HOLE_TYPES)}")
    row = _sizes()[round(d / INCH, 6)]
    std, over, short, long_ = (float(row[n]) * INCH for n in ("std", "oversized", "short_slot", "long_slot"))
    return {
        "STD": HoleSize("STD", std, std),
        "OVS": HoleSize("OVS", over, over),
        "SSLT": HoleSize("SSLT", std, short),
        "SSLP": HoleSize("SSLP", short, std),
        "LSLT": HoleSize("LSLT", std, long_),
        "LSLP": HoleSize("LSLP", long_, std),
    }[wanted]


def all_bolts() -> list[str]:
    """Every bolt of the catalogue by name."""
    return [f"{r['label']} {g}-{t}" for g in _groups() for t in ("N", "X") for r in _sizes().values()]


def next_size(name: str) -> str | None:
    """The next larger bolt of the same group and threads; None after the largest."""
    now = bolt(name)
    larger = [s for s in _sizes() if s * INCH > now.d + 1e-6]
    return f"{inches(min(larger))} {now.group}-{now.threads}" if larger else None


def size_before(name: str) -> str | None:
    """The next smaller bolt of the same group and threads; None before the smallest."""
    now = bolt(name)
    smaller = [s for s in _sizes() if s * INCH < now.d - 1e-6]
    return f"{inches(max(smaller))} {now.group}-{now.threads}" if smaller else None
