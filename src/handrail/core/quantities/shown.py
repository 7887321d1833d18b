"""Quantities as text, in the units of a system: inches and kip, or mm and kN."""

from __future__ import annotations

import math
from fractions import Fraction

INCH, FOOT = 25.4, 304.8
KIP = 4448.2216152605
KSI = KIP / INCH**2

# what weighs: kept in kg; system -> (unit shown, factor to it)
WEIGHT: dict[str, tuple[str, float]] = {"us": ("lb", 1 / 0.45359237), "si": ("kg", 1.0)}
HEAVY: dict[str, tuple[str, float]] = {"us": ("ton", 1 / 907.18474), "si": ("t", 1e-3)}  # the same of a whole building

# what is long or high: kept in mm; system -> (unit shown, factor to it)
LONG: dict[str, tuple[str, float]] = {"us": ("ft", 1 / FOOT), "si": ("m", 1e-3)}

# system -> kind -> (unit shown, factor from the core's unit to it)
SHOWN: dict[str, dict[str, tuple[str, float]]] = {
    "us": {
        "length": ("in", 1 / INCH),
        "force": ("kip", 1 / KIP),
        "moment": ("kip*in", 1 / (KIP * INCH)),
        "strip": ("kip*in/in", 1 / KIP),
        "per_length": ("kip/in", INCH / KIP),
        "stress": ("ksi", 1 / KSI),
        "angle": ("deg", 180 / math.pi),
        "area": ("in^2", 1 / INCH**2),
        "modulus": ("in^3", 1 / INCH**3),
        "inertia": ("in^4", 1 / INCH**4),
        "weight": WEIGHT["us"],
        "number": ("", 1.0),
    },
    # what the API and every --json output speak
    "si": {
        "length": ("mm", 1.0),
        "force": ("kN", 1e-3),
        "moment": ("kN*m", 1e-6),
        "strip": ("kN*m/m", 1e-3),
        "per_length": ("kN/m", 1.0),
        "stress": ("MPa", 1.0),
        "angle": ("deg", 180 / math.pi),
        "area": ("mm^2", 1.0),
        "modulus": ("mm^3", 1.0),
        "inertia": ("mm^4", 1.0),
        "weight": WEIGHT["si"],
        "number": ("", 1.0),
    },
}


def show(value: float, kind: str, system: str = "us", fractions: bool = True) -> str:
    """A quantity as text with its unit: inches in sixteenths where they are, else decimals."""
    unit, scale = SHOWN[system].get(kind, ("", 1.0))
    number = value * scale
    if math.isinf(number):
        return "without end"  # an edge that is too far to count
    if system == "us" and kind == "length" and fractions:
        text = inches(number)
        if text is not None:
            return f"{text} {unit}"
    return f"{significant(number)} {unit}".rstrip()


def worked(value: float, system: str) -> float:
    """A length, mm, to the workshop's rounding: 1/16 in., 1 mm where `system` is si."""
    step = INCH / 16 if system == "us" else 1.0
    return round(value / step) * step


def significant(number: float, digits: int = 4) -> str:
    """A number with `digits` significant digits and no exponent."""
    if number == 0 or not math.isfinite(number):
        return "0" if number == 0 else str(number)
    places = max(0, digits - 1 - math.floor(math.log10(abs(number))))
    text = f"{number:.{places}f}"
    return text.rstrip("0").rstrip(".") if "." in text else text


def inches(number: float, step: int = 16) -> str | None:
    """`2.75` as `2-3/4`; None where it is not a whole number of sixteenths."""
    nearest = Fraction(round(number * step), step)
    if abs(float(nearest) - number) > 2e-4:
        return None
    sign, size = ("-" if nearest < 0 else ""), abs(nearest)
    whole, part = divmod(size, 1)
    if part == 0:
        return f"{sign}{whole}"
    return f"{sign}{whole}-{part}" if whole else f"{sign}{part}"
