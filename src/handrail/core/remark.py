"""A note that asks something of a person, told apart from those that only explain what was done."""

from __future__ import annotations

from collections.abc import Iterable


class Remark(str):
    """What was taken because nobody said otherwise, what is not looked at here, what somebody should be told."""

    __slots__ = ()


class Less(Remark):
    """That somebody states less than the analysis says: an engineer accepts it before anything is drawn."""

    __slots__ = ()


def remarks(notes: Iterable[str]) -> tuple[str, ...]:
    """Those of some notes that are remarks."""
    return tuple(note for note in notes if isinstance(note, Remark))
