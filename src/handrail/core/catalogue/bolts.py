"""Bolts and the holes made for them."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass, replace
from functools import lru_cache

from handrail.core.catalogue.own import BOLT, Entry, find
from handrail.core.catalogue.tables import by_diameter, key, rows
from handrail.core.errors import UnknownName
from handrail.core.quantities.units import INCH, KIP, KSI

HOLE_TYPES = ("STD", "SSLT", "SSLP", "OVS", "LSLT", "LSLP")
"""Standard; short slot across or along the member's shear; oversized; long slot across or along it."""


@dataclass(frozen=True)
class Bolt:
    """One bolt: diameter mm, strengths MPa (Table J3.2), pretension N (Table J3.1; 0 where not held), `tightening` the
    room from its centre that a wrench's socket needs, mm (Manual Part 7). It is `threaded` so far from its end (ASME
    B18.2.6), and is longer than its grip and washers by `beyond` at least, in quarter inches (bolting specification,
    Table C-2.2), a `metric` one by its nut and three threads, in steps of 5 mm. A hardened `washer` is so wide (ASTM
    F436) and counts as `washer_thickness` (5/32 in., 4.6 mm)."""

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
    metric: bool = False  # of Tables J3.1M to J3.5M

    @property
    def area(self) -> float:
        return math.pi * self.d**2 / 4

    def length(self, grip: float) -> float:
        """As it is ordered for a `grip` of so much, washers among it, mm."""
        step = 5.0 if self.metric else INCH / 4
        return math.ceil((grip + self.beyond) / step - 1e-6) * step

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
def _metric() -> dict[float, dict[str, str]]:
    return {float(r["diameter"]): r for r in rows("bolt_sizes_metric.csv")}


@lru_cache(maxsize=1)
def _groups() -> dict[str, dict[str, str]]:
    return {r["group"]: r for r in rows("bolts.csv")}


def bolt(name: str) -> Bolt:
    """The bolt called `name`, like `3/4 A325-N`, `7/8 in A490-X` or `M20 A325M-N`; else one of a group of the house's
    own. Raises UnknownName."""
    try:
        return _shipped(name)
    except UnknownName:
        match = re.fullmatch(r"(?P<size>\S+(?: in)?)\s+(?P<group>\S+?)(?:-(?P<threads>[NXnx]))?", name.strip())
        own = find(BOLT, match["group"]) if match else None
        if own is None or match is None:
            raise
        return _of_house(own, match["size"], (match["threads"] or "N").upper())


def _of_house(own: Entry, size: str, threads: str) -> Bolt:
    """A bolt of a group of the house's own: made like A325, with its own strengths."""
    metric = own.values["sizes"] == "mm"
    if metric is not size.upper().startswith("M"):
        raise UnknownName(f"bolts of group {own.name} are {'metric, like M20' if metric else 'in inches, like 3/4'}")
    like = _shipped(f"{size} {'A325M' if metric else 'A325'}-{threads}")
    group, pretension = own.values["pretension"], 0.0
    if group != "none":
        pretension = _shipped(f"{size} {group}{'M' if metric else ''}-{threads}").pretension
    name = f"{like.name.split(' ')[0]} {own.name}-{threads}"
    strengths = {"Fnt": own.values["Fnt"], "Fnv": own.values[f"Fnv_{threads}"]}
    return replace(like, name=name, group=own.name, strength_group=own.name, pretension=pretension, **strengths)


@lru_cache(maxsize=256)
def _shipped(name: str) -> Bolt:
    match = re.match(
        r"^(?P<size>.*?)[\s\"”]*(?:in\.?)?\s*(?P<group>[AF]\d{3,4}M?)\s*-?\s*(?P<threads>[NX])?$",
        name.strip(),
        re.IGNORECASE,
    )
    if not match:
        raise UnknownName(f"'{name}' is not a bolt; write size, group and threads, like '3/4 A325-N'")
    in_mm = match["size"].strip().upper().startswith("M")
    called = key(match["group"])
    group = _groups().get(f"{called}M" if in_mm and not called.endswith("M") else called)
    if group is None:
        metric = " of metric bolts" if in_mm else ""
        there = [g for g in _groups() if g.endswith("M") is in_mm or not in_mm]
        raise UnknownName(f"bolt group '{match['group']}'{metric} is not in the catalogue; it has {', '.join(there)}")
    threads = (match["threads"] or "N").upper()
    if group["group"].endswith("M"):
        return _in_mm(match["size"], name, group, threads)
    size, row = by_diameter(_sizes(), match["size"], name, "bolt", "3/4 A325-N")
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


def _in_mm(size: str, name: str, group: dict[str, str], threads: str) -> Bolt:
    """A metric bolt: Tables J3.1M, J3.2, J3.4M; ASME B18.2.6M; ASTM A563M, F436M."""
    match = re.fullmatch(r"\s*M?\s*(\d+)\s*(?:mm)?\s*", size, re.IGNORECASE)
    row = _metric().get(float(match[1])) if match else None
    if row is None:
        there = ", ".join(r["label"] for r in _metric().values())
        raise UnknownName(f"bolt diameter '{size.strip()}' of '{name}' is not in the catalogue; it has {there}")
    return Bolt(
        name=f"{row['label']} {group['group']}-{threads}",
        d=float(row["diameter"]),
        group=group["group"],
        strength_group=group["strength_group"],
        threads=threads,
        Fnt=float(group["Fnt"]),
        Fnv=float(group[f"Fnv_{threads}"]),
        pretension=float(row[f"pretension_{group['pretension']}"]) * 1000,
        min_edge=float(row["min_edge"]),
        tightening=float(row["socket"]) / 2 + INCH / 8,
        threaded=float(row["threaded"]),
        beyond=float(row["beyond"]),
        washer=float(row["washer"]),
        washer_thickness=4.6,
        metric=True,
    )


@lru_cache(maxsize=256)
def hole(type_: str, d: float) -> HoleSize:
    """Nominal hole sizes (Tables J3.3, J3.3M) for a bolt of `d` mm; `type_` is one of HOLE_TYPES."""
    wanted = key(type_)
    if wanted not in HOLE_TYPES:
        raise UnknownName(f"hole '{type_}' is none of {', '.join(HOLE_TYPES)}")
    row, unit = (_metric()[d], 1.0) if d in _metric() else (_sizes()[round(d / INCH, 6)], INCH)
    std, over, short, long_ = (float(row[n]) * unit for n in ("std", "oversized", "short_slot", "long_slot"))
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
    return [f"{r['label']} {g}-{t}" for g in _groups() for t in ("N", "X") for r in _of(g).values()]


def _of(group: str) -> dict[float, dict[str, str]]:
    """The sizes that bolts of a group are made in, by diameter."""
    return _metric() if group.endswith("M") else _sizes()


def _labels(metric: bool) -> list[tuple[float, str]]:
    """(diameter mm, as it is called) of the sizes, the smallest first."""
    sizes, unit = (_metric(), 1.0) if metric else (_sizes(), INCH)
    return [(size * unit, row["label"]) for size, row in sizes.items()]


def next_size(name: str) -> str | None:
    """The next larger bolt of the same group and threads; None after the largest."""
    now = bolt(name)
    larger = [label for d, label in _labels(now.metric) if d > now.d + 1e-6]
    return f"{larger[0]} {now.group}-{now.threads}" if larger else None


def size_before(name: str) -> str | None:
    """The next smaller bolt of the same group and threads; None before the smallest."""
    now = bolt(name)
    smaller = [label for d, label in _labels(now.metric) if d < now.d - 1e-6]
    return f"{smaller[-1]} {now.group}-{now.threads}" if smaller else None
