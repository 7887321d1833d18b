"""Rolled and hollow sections, in mm, from the tables in `data/`."""

from __future__ import annotations

import difflib
import math
import re
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache

from handrail.core.catalogue.own import SECTION, Entry, find, those
from handrail.core.catalogue.shapes import properties
from handrail.core.catalogue.tables import key, rows
from handrail.core.errors import UnknownName
from handrail.core.quantities.units import INCH

OPEN = ("W", "M", "S", "HP", "IPE", "HEA", "HEB")
HOLLOW = ("HSS_RECT", "HSS_ROUND", "PIPE")
CHANNEL = ("C", "MC")
LB_PER_FT = 0.45359237 / 0.3048  # kg/m
SIXTEENTH = INCH / 16


@dataclass(frozen=True)
class Section:
    """One cross-section; lengths mm, A mm^2, moduli mm^3, inertias mm^4, mass kg/m.

    `k` is the design fillet distance (face of flange to toe of fillet), `k_detail` the larger
    one that parts must clear. `wall` is the design wall of a hollow section or the leg of an angle.
    """

    name: str
    family: str
    mass: float
    A: float
    d: float
    bf: float
    tw: float
    tf: float
    k: float
    k_detail: float
    k1: float
    gauge: float
    wall: float
    Ix: float
    Sx: float
    Zx: float
    rx: float
    Iy: float
    Sy: float
    Zy: float
    ry: float
    J: float
    Cw: float

    @property
    def hollow(self) -> bool:
        """A closed section."""
        return self.family in HOLLOW

    @property
    def open(self) -> bool:
        """An I-shaped section: two flanges and a web."""
        return self.family in OPEN

    @property
    def channel(self) -> bool:
        """Two flanges on one side of a web."""
        return self.family in CHANNEL

    @property
    def round(self) -> bool:
        """A hollow section with one curved wall."""
        return self.hollow and self.family != "HSS_RECT"

    @property
    def T(self) -> float:
        """Clear depth of web between the detailing fillets: the least that parts have room in."""
        return self.d - 2 * self.k_detail

    @property
    def most_T(self) -> float:
        """The largest that the clear depth can be, with the smallest fillets: what half of T is half of."""
        return self.d - 2 * self.k

    @property
    def h_tw(self) -> float:
        """Web slenderness, on the clear distance between design fillets."""
        return (self.d - 2 * self.k) / self.tw


def _number(text: str) -> float:
    return float(text) if text else 0.0


def _detail_k(family: str, k: float, k1: float, tw: float, tf: float) -> float:
    """The fillet distance that parts must clear.

    The tables give the design k, which is made with the smallest fillet; k1 is made with the largest and
    rounded, so flange thickness plus that fillet and 1/16 in., up to the next 1/16 in., stands for the
    detailing distance: within 1/16 in. of published T distances for most shapes, and up to 1/2 in. too long,
    which is safe, where the tables round k1 up (W24X68).
    """
    if family not in ("W", "M", "HP") or not k1:
        return _sixteenths(k)
    return _sixteenths(tf + max(k1 - tw / 2, k - tf) + SIXTEENTH)


def _sixteenths(value: float) -> float:
    return math.ceil(value / SIXTEENTH - 1e-9) * SIXTEENTH


def _leg(row: dict[str, str]) -> float:
    """An angle's thickness as its name says it, in.: the tables round sixteenths."""
    return sum(float(Fraction(part)) for part in row["designation"].rsplit("X", 1)[1].split("-"))


def _from_us(row: dict[str, str]) -> Section:
    value = {name: _number(text) for name, text in row.items() if name not in ("designation", "family")}
    k, k1, tw, tf = (value[n] * INCH for n in ("k", "k1", "tw", "tf"))
    return Section(
        name=row["designation"],
        family=row["family"],
        mass=value["mass"] * LB_PER_FT,
        A=value["A"] * INCH**2,
        d=value["d"] * INCH,
        bf=value["bf"] * INCH,
        tw=tw,
        tf=tf,
        k=k,
        k_detail=_detail_k(row["family"], k, k1, tw, tf),
        k1=k1,
        gauge=value["gage"] * INCH,
        wall=_leg(row) * INCH if row["family"] == "L" else value["wall"] * INCH,
        J=value["J"] * INCH**4,
        Cw=value["Cw"] * INCH**6,
        **{n: value[n] * INCH**4 for n in ("Ix", "Iy")},
        **{n: value[n] * INCH**3 for n in ("Sx", "Zx", "Sy", "Zy")},
        **{n: value[n] * INCH for n in ("rx", "ry")},
    )


def _from_eu(row: dict[str, str]) -> Section:
    value = {name: _number(text) for name, text in row.items() if name not in ("designation", "family")}
    k = value["tf"] + value["r"]
    return Section(
        name=row["designation"],
        family=row["family"],
        mass=value["mass"],
        A=value["A"] * 100,
        d=value["h"],
        bf=value["b"],
        tw=value["tw"],
        tf=value["tf"],
        k=k,
        k_detail=k,
        k1=value["tw"] / 2 + value["r"],
        gauge=0.0,
        wall=0.0,
        Ix=value["Iy"] * 1e4,
        Sx=value["Wely"] * 1e3,
        Zx=value["Wply"] * 1e3,
        rx=value["iy"] * 10,
        Iy=value["Iz"] * 1e4,
        Sy=value["Welz"] * 1e3,
        Zy=value["Wplz"] * 1e3,
        ry=value["iz"] * 10,
        J=value["It"] * 1e4,
        Cw=value["Iw"] * 1e6,
    )


@lru_cache(maxsize=1)
def _table() -> dict[str, Section]:
    sections = [_from_us(r) for r in rows("sections_us.csv")] + [_from_eu(r) for r in rows("sections_eu.csv")]
    return {key(s.name): s for s in sections}


def _made(own: Entry) -> Section:
    return Section(name=own.name, **properties(own.values))


def all_sections() -> list[Section]:
    """Every section of the catalogue, in the tables' order, then the house's own."""
    return [*_table().values(), *(_made(own) for own in those(SECTION))]


@lru_cache(maxsize=1)
def _by_size() -> dict[tuple[str, ...], Section]:
    """Hollow sections and angles by their sizes in hundredths of an inch: fractions and decimals are both written."""
    return {size: s for name, s in _table().items() if (size := _size(name))}


def _size(name: str) -> tuple[str, ...]:
    match = re.match(r"^(HSS|L)([\d./X-]+)$", name)
    if not match:
        return ()
    try:
        sizes = [sum(float(Fraction(part)) for part in text.split("-")) for text in match[2].split("X")]
    except (ValueError, ZeroDivisionError):
        return ()
    return (match[1], *(f"{size:.2f}" for size in sizes))


def section(name: str) -> Section:
    """The section called `name`, however it is spaced or cased; HSS and angles also with decimals for fractions; else
    the house's own.

    Raises UnknownName with the nearest.
    """
    if (own := find(SECTION, name)) is not None:
        return _made(own)
    return _shipped(name)


@lru_cache(maxsize=4096)
def _shipped(name: str) -> Section:
    table = _table()
    wanted = re.sub(r"^HE([AB])(\d+)$", r"HE\2\1", key(name))  # both ways of writing them are used
    if known := table.get(wanted) or _by_size().get(_size(wanted)):
        return known
    near = difflib.get_close_matches(wanted, table, n=3)
    hint = f"; nearest: {', '.join(table[n].name for n in near)}" if near else ""
    raise UnknownName(f"section '{name}' is not in the catalogue{hint}")


def angle(name: str) -> Section:
    """The angle called `name`, like `L4X3-1/2X5/16`: `d` and `bf` its legs, `wall` their thickness. Raises
    UnknownName."""
    own = section(name if name.strip().upper().startswith(("L", "2L")) else f"L{name.strip()}")
    if own.family != "L":
        raise UnknownName(f"'{name}' is not an angle; write its legs and thickness, like 'L4X3-1/2X5/16'")
    return own


def thicker_angles(name: str) -> tuple[Section, ...]:
    """The angles with the legs of the one called `name` that are thicker, the thinnest first. Raises UnknownName."""
    own = angle(name)
    legs = own.name.rsplit("X", 1)[0]
    thicker = (s for s in all_sections() if s.family == "L" and s.name.rsplit("X", 1)[0] == legs and s.wall > own.wall)
    return tuple(sorted(thicker, key=lambda s: s.wall))
