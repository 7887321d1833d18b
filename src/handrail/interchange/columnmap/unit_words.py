"""Units and numbers as programs write them."""

from __future__ import annotations

import re
from functools import lru_cache

from handrail.core.errors import InputError
from handrail.core.quantities import units

NUMBER = re.compile(r"^[-+−]?\d[\d.,'’ ]*(?:[eEdD][-+]?\d+)?$|^[-+−]?[.,]\d+$")
DEGREES = dict.fromkeys(
    ("grados", "gradi", "grad", "Grad", "degree", "degrees", "degre", "degres", "degré", "degrés", "graden", "graus"),
    "deg",
)


def read_unit(text: str, kind: str, whole: bool = False) -> str:
    """The unit of a kind that a text says: the whole of it, else what stands in brackets or behind the last blank,
    comma or underscore; empty where none is."""
    parts = [text] if whole else [m[1] for m in re.finditer(r"[\[(<{]\s*([^\])>}]+?)\s*[\])>}]", text)]
    if not whole and not parts and (match := re.search(r"[\s_,/]\s*([A-Za-z'\"°]+(?:[*·.\-/]?[A-Za-z]+)?)\s*$", text)):
        parts = [match[1]]
    for part in parts:
        for one in re.split(r"\s*[,;]\s*", part):
            if is_unit(written := as_written(one), kind):
                return written
    return ""


@lru_cache(maxsize=65536)
def is_unit(text: str, kind: str) -> bool:
    """Whether a text is a unit of a kind."""
    try:
        units.factor(text, kind)
    except InputError:
        return False
    return True


def as_written(unit: str) -> str:
    """A unit as the library knows it: kips, k-ft, kNm, kN.m, N·mm, feet."""
    text = unit.strip().replace("·", "*").replace("-", "*").replace(" ", "*")
    text = re.sub(r"(?<=[A-Za-z])\.(?=[A-Za-z])", "*", text)
    text = re.sub(r"(?i)\bkips?\b", "kip", text)
    text = re.sub(r"(?i)^k(?=\*(ft|in))", "kip", text)
    text = re.sub(r"^(k?N|MN)(m|mm|cm)$", r"\1*\2", text)
    plain = {
        "kn": "kN",
        "mn": "MN",
        "knm": "kN*m",
        "nmm": "N*mm",
        "kip": "kip",
        "meter": "m",
        "meters": "m",
        "metre": "m",
        "metres": "m",
        "millimeter": "mm",
        "millimeters": "mm",
        "millimetre": "mm",
        "millimetres": "mm",
        "foot": "ft",
        "newton": "N",
        "kilonewton": "kN",
        "kn*m": "kN*m",
        "mm": "mm",
        "cm": "cm",
        "ft": "ft",
        "kip*ft": "kip*ft",
        "kip*in": "kip*in",
    }
    if text.lower() in plain:
        return plain[text.lower()]
    return {
        "'": "ft",
        '"': "in",
        "feet": "ft",
        "inch": "in",
        "inches": "in",
        "lbs": "lbf",
        "lb": "lbf",
        "K": "kip",
        "k": "kip",
        "°": "deg",
        **DEGREES,
    }.get(text, text)


def are_units(row: list[str]) -> bool:
    """Whether every cell that says something says a unit, or stands in brackets as one does."""
    bracketed = [t.strip() for t in row if t.strip(" -–")]
    if bracketed and all(re.fullmatch(r"\[[^\]\d]{0,12}\]|\([^)\d]{0,12}\)", t) for t in bracketed):
        return any(t.strip("[]() ") for t in bracketed)
    said = [t.strip("[]() ") for t in row if t.strip("[]()-– ")]
    return bool(said) and all(
        any(is_unit(as_written(t), kind) for kind in ("length", "force", "moment", "angle", "stress", "per_length"))
        for t in said
    )
