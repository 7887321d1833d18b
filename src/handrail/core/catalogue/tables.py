"""Reads the catalogue's CSV files."""

from __future__ import annotations

import csv
import re
from collections.abc import Iterator, Mapping
from importlib.resources import files

from handrail.core.errors import InputError, UnknownName
from handrail.core.quantities.units import INCH, parse


def rows(name: str) -> Iterator[dict[str, str]]:
    """The rows of one data file, each as a dict of text."""
    with (files(__package__) / "data" / name).open(encoding="utf-8") as stream:
        yield from csv.DictReader(stream)


FRACTIONS = {"½": "1/2", "¼": "1/4", "¾": "3/4", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8"}


def key(name: str) -> str:
    """The name as it is looked up: case, spaces, the kind of multiplication sign and of fraction forgiven."""
    for sign, plain in FRACTIONS.items():
        if sign in name:
            name = re.sub(rf"(?<=\d){sign}", f"-{plain}", name).replace(sign, plain)
    return re.sub(r"[\s_]+", "", name).upper().replace("×", "X").replace("*", "X").replace("⁄", "/")


def by_diameter(
    held: Mapping[float, dict[str, str]], size: str, name: str, what: str, sample: str
) -> tuple[float, dict[str, str]]:
    """(diameter in inches, row) of `size`, the part of `name` that says it. Raises UnknownName with what there is."""
    try:
        inches = parse(size, "length", bare=INCH) / INCH
    except InputError as exc:
        raise UnknownName(f"'{name}' has no size; write it like '{sample}'") from exc
    row = held.get(round(inches, 6))
    if row is None:
        raise UnknownName(
            f"{what} diameter '{size}' is not in the catalogue; it has"
            f" {', '.join(r['label'] for r in held.values())} in"
        )
    return inches, row
