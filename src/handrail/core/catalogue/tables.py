"""Reads the catalogue's CSV files."""

from __future__ import annotations

import csv
import re
from collections.abc import Iterator
from importlib.resources import files


def rows(name: str) -> Iterator[dict[str, str]]:
    """The rows of one data file, each as a dict of text."""
    with (files(__package__) / "data" / name).open(encoding="utf-8") as stream:
        yield from csv.DictReader(stream)


def key(name: str) -> str:
    """The name as it is looked up: case, spaces and the kind of multiplication sign forgiven."""
    return re.sub(r"[\s_]+", "", name).upper().replace("×", "X").replace("*", "X")
