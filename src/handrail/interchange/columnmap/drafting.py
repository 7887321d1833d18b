"""Columns as a draft first says them: called as ours are, in the unit that the file says, their words told."""

from __future__ import annotations

from collections.abc import Callable

from handrail.interchange.columnmap.drafts import Draft, Spec
from handrail.interchange.columnmap.finding import Source
from handrail.interchange.columnmap.unit_words import read_unit
from handrail.interchange.columnmap.words import COMPONENTS, WORDS, is_called

UNIT_OF = {
    **dict.fromkeys(("x", "y", "z", "distance", "x1", "y1", "z1", "x2", "y2", "z2", "top", "from", "to"), "length"),
    "roll": "angle",
}


def named(source: Source, ours: str, taken: set[str], words: dict[str, str] | None = None) -> str:
    """The column of a source that is called what ours is."""
    pattern = ({**WORDS, **COMPONENTS} | (words or {}))[ours]
    return next((n for n in source.names if n not in taken and is_called(pattern, n)), "")


def plain(table: str, source: Source, used: dict[str, str]) -> Draft:
    """A draft of columns as they are, with the units that they say."""
    draft = Draft(table, source.map)
    for ours, theirs in used.items():
        draft.columns[ours] = column(source, ours, theirs)
    return draft


def column(source: Source, ours: str, theirs: str, kind: str = "") -> Spec:
    """A column of ours that is one of theirs, in the unit that the file says."""
    kind = kind or UNIT_OF.get(ours, "")
    unit = (read_unit(source.units.get(theirs, ""), kind, True) or read_unit(theirs, kind)) if kind else ""
    return {"column": theirs, "unit": unit} if unit else {"column": theirs}


def valued(theirs: str, values: list[str], meant: Callable[[str], str]) -> Spec:
    """A column whose values mean something else than they say."""
    pairs = {v: meant(v) for v in values if v}
    return {"column": theirs} if all(v == m for v, m in pairs.items()) else {"column": theirs, "values": pairs}
