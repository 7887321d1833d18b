"""Quantities in and out. Inside the core everything is N, mm, MPa and rad, always."""

from __future__ import annotations

import math
import re
from fractions import Fraction
from functools import lru_cache
from typing import Any

from handrail.core.errors import InputError
from handrail.core.quantities.shown import (
    FOOT,
    HEAVY,
    INCH,
    KIP,
    KSI,
    LONG,
    SHOWN,
    WEIGHT,
    inches,
    show,
    significant,
    worked,
)

__all__ = [
    "CORE_UNITS",
    "FOOT",
    "HEAVY",
    "INCH",
    "KIP",
    "KSI",
    "LONG",
    "SHOWN",
    "USUAL",
    "WEIGHT",
    "factor",
    "inches",
    "parse",
    "show",
    "significant",
    "worked",
]

# kind -> the unit that the core holds it in
CORE_UNITS = {
    "length": "mm",
    "force": "N",
    "moment": "N*mm",
    "strip": "N*mm/mm",
    "per_length": "N/mm",
    "stress": "MPa",
    "angle": "rad",
    "area": "mm^2",
    "modulus": "mm^3",
    "inertia": "mm^4",
    "weight": "kg",
    "number": "",
}

# Units of most models, exact, so that the unit library (slow to start) is only asked for others.
USUAL = {
    "length": {"in": INCH, "ft": 12 * INCH, "mm": 1.0, "cm": 10.0, "m": 1000.0},
    "force": {"kip": KIP, "lbf": KIP / 1000, "N": 1.0, "kN": 1000.0},
    "moment": {
        "kip*ft": 12 * KIP * INCH,
        "kip*in": KIP * INCH,
        "N*mm": 1.0,
        "N*m": 1000.0,
        "kN*m": 1e6,
        "kN*mm": 1000.0,
    },
    "stress": {"ksi": KSI, "psi": KSI / 1000, "MPa": 1.0},
    "angle": {"deg": math.pi / 180, "rad": 1.0},
    "weight": {"lb": 0.45359237, "kg": 1.0},
}

_NUMBER = r"[-+]?(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][-+]?\d+)?"
_QUANTITY = re.compile(
    rf"^\s*(?:(?P<whole>[-+]?\d+)[\s-]+(?P<num1>\d+)/(?P<den1>\d+)"
    rf"|(?P<num2>[-+]?\d+)/(?P<den2>\d+)"
    rf"|(?P<plain>{_NUMBER}))\s*(?P<unit>.*?)\s*$"
)
_FEET = re.compile(
    r"^(?P<sign>[-+]?)\s*(?P<feet>\d+)\s*(?:ft|'|′)\s*-?\s*"
    r"(?P<inches>\d+\.?\d*|(?:\d+[\s-]+)?\d+/\d+)\s*(?:in|\"|″|”|'')$"
)
_UNIT = re.compile(r"^[A-Za-zµμ°%]{1,20}(\^[1-4])?([*/][A-Za-zµμ°]{1,20}(\^[1-4])?){0,3}$")
LONGEST = 64  # characters of a quantity
_MARKS = {'"': "in", "″": "in", "”": "in", "'": "ft", "′": "ft", "°": "deg"}


@lru_cache(maxsize=1)
def registry() -> Any:
    """The unit library's register of units."""
    import pint  # heavy, and only needed once a unit is met

    return pint.UnitRegistry(cache_folder=None)


@lru_cache(maxsize=512)
def factor(unit: str, kind: str) -> float:
    """What one `unit` is in the core's unit of `kind`. Raises InputError for a unit of another kind."""
    name = _MARKS.get(unit, unit).replace("·", "*").replace("-", "*").replace("²", "^2")
    if name in USUAL.get(kind, {}):
        return USUAL[kind][name]
    if kind not in CORE_UNITS:
        raise InputError(f"no unit goes with {kind}")
    if not _UNIT.match(name):  # names and small powers, nothing that the unit library would work out
        raise InputError(f"'{unit[:LONGEST]}' is not a unit of {kind}; try {_example(kind)}")
    try:
        quantity = registry().Quantity(1.0, name)
        return float(quantity.to(CORE_UNITS[kind] or "dimensionless").magnitude)
    except Exception as exc:  # the library raises many kinds for text that is no unit
        raise InputError(f"'{unit}' is not a unit of {kind}; try {_example(kind)}") from exc


def _example(kind: str) -> str:
    pair = (SHOWN["us"][kind][0], SHOWN["si"][kind][0])
    return " or ".join(dict.fromkeys(u for u in pair if u)) or "a plain number"


def parse(value: str | float | int, kind: str, bare: float | None = None) -> float:
    """A quantity in the core's unit of `kind`.

    Text may be decimal or in fractions (`3/4 in`, `1-1/2 in`, `37 kip`), a length in feet and inches (`8'-6 1/2"`,
    `8 ft 6 in`). A number without a unit is taken times `bare` when that is given, and refused otherwise.
    """
    if isinstance(value, bool):
        raise InputError(f"{value!r} is not a quantity")
    if isinstance(value, int | float):
        number, unit = float(value), ""
    else:
        if re.search(r"\d,\d", str(value)[:LONGEST]):
            raise InputError(
                f"'{str(value)[:LONGEST]}': write the number without commas, with a point for decimals, like"
                f" {_sample(kind)}"
            )
        text = str(value)
        if len(text) > LONGEST:
            raise InputError(f"'{text[:16]} ...' is no quantity: {len(text)} characters; write it like {_sample(kind)}")
        if kind == "length" and (mixed := _FEET.match(" ".join(text.split()))):
            return _feet_and_inches(mixed, text, bare)
        match = _QUANTITY.match(" ".join(text.split()))
        if not match:
            raise InputError(f"'{value}' is not a quantity; write it like {_sample(kind)}")
        number, unit = _magnitude(match), match["unit"]
    if not math.isfinite(number):
        raise InputError(f"'{value}' is not finite")
    if unit:
        amount = number * factor(unit, kind)
    elif kind == "number":
        return number
    elif bare is None and number != 0:
        raise InputError(f"'{value}' needs a unit of {kind}, like {_sample(kind)}")
    else:
        amount = number * (bare or 0.0)
    if not math.isfinite(amount):
        raise InputError(f"'{value}' is too large")
    return amount


def _feet_and_inches(match: re.Match[str], text: str, bare: float | None) -> float:
    inches = parse(f"{match['inches']} in", "length", bare)
    if inches >= FOOT - 1e-9:
        raise InputError(f"'{text}' has a foot or more in inches; write it as feet and less than 12 in")
    whole = int(match["feet"]) * FOOT + inches
    return -whole if match["sign"] == "-" else whole


def _magnitude(match: re.Match[str]) -> float:
    if match["plain"] is not None:
        return float(match["plain"])
    whole, num, den = match["whole"], match["num1"] or match["num2"], match["den1"] or match["den2"]
    if int(den) == 0:
        raise InputError(f"'{match[0]}' divides by nothing")
    part = Fraction(int(num), int(den))
    if whole is None:
        return float(part)
    sign = -1 if whole.startswith("-") else 1
    return float(int(whole) + sign * part)


def _sample(kind: str) -> str:
    return {
        "length": "'3/4 in' or '20 mm'",
        "force": "'37 kip' or '180 kN'",
        "moment": "'30 kip*ft' or '40 kN*m'",
        "stress": "'50 ksi' or '355 MPa'",
        "angle": "'15 deg'",
    }.get(kind, "'3'")
