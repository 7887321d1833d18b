"""What the words of a column mean, as far as they are known: proposed where a column is chosen for a field of which
only some words are taken."""

from __future__ import annotations

from collections.abc import Callable

from handrail.core.building.model import RELEASES
from handrail.interchange.columnmap.beside import direction
from handrail.interchange.columnmap.language import ASK
from handrail.interchange.columnmap.recognising import held, held_by_word, releases_meant
from handrail.interchange.columnmap.taking import KNOWN, is_known
from handrail.interchange.columnmap.words import (
    FIRST_END,
    FOUNDATIONS,
    KINDS_OF_LOAD,
    LAST_END,
    METHODS,
    NATURES,
    NO,
    ROLES,
    SETS,
    YES,
    bare,
    meaning,
)
from handrail.interchange.tables import TABLES, Column

MOST_WORDS = 200
HELD = ("ux", "uy", "uz", "rx", "ry", "rz")
HOLDS = {
    "fixed": "111111",
    "pinned": "111000",
    "roller": "001000",
    "free": "000000",
}  # how a support holds, each of HELD: 1 held, 0 free
OF_KINDS = {
    ("cases", "nature"): NATURES,
    ("combinations", "set"): SETS,
    ("combinations", "method"): METHODS,
    ("members", "role"): ROLES,
    ("member_loads", "kind"): KINDS_OF_LOAD,
    ("foundations", "kind"): FOUNDATIONS,
}


def meant(table: str, ours: str, words: list[str]) -> dict[str, str] | None:
    """What each word means, a question where nobody knows it; None where they are taken as they are, or the field takes
    any."""
    column = next((c for c in TABLES[table].columns if c.name == ours), None)
    guess = _guesser(table, column) if column else None
    if column is None or guess is None or len(words) > MOST_WORDS:
        return None
    if all(_is_taken(column, word) for word in words):
        return None
    return {word: word if _is_taken(column, word) else guess(word) for word in words}


def _guesser(table: str, column: Column) -> Callable[[str], str] | None:
    if kinds := OF_KINDS.get((table, column.name)):
        return lambda word: meaning(kinds, word) or ASK
    if column.name in HELD and table == "supports":
        return lambda word: held(word) if held(word) != ASK else held_by_word(word, column.name)
    if column.name.startswith("release_"):
        return releases_meant
    if column.name == "end":
        return lambda word: "i" if bare(word) in FIRST_END else "j" if bare(word) in LAST_END else ASK
    if column.name == "direction":
        return direction
    if column.name == "cracked":
        return lambda word: "yes" if bare(word) in YES else "no" if bare(word) in NO else ASK
    return (lambda _: ASK) if column.choices else None


def _is_taken(column: Column, word: str) -> bool:
    if column.kind == "choice":
        return word in column.choices
    if column.kind == "flag":
        return word in ("0", "1", "0.0", "1.0")
    if column.name.startswith("release_"):
        return set(word.split()) <= set(RELEASES)
    if column.name == "set":
        return meaning(SETS, word) == word
    return column.name in KNOWN and is_known(column.name, word)


def holds(words: dict[str, str]) -> dict[str, dict[str, str]]:
    """Each of HELD with what the words of one column mean for it: a word's support is one of HOLDS, six marks, or a
    question."""
    return {
        name: {word: ASK if kind == ASK else HOLDS.get(kind, kind)[k] for word, kind in words.items()}
        for k, name in enumerate(HELD)
    }


def kind_of_support(word: str) -> str:
    """How a support holds by a word about it; a question where it says nothing that is known."""
    marks = "".join(held_by_word(word, name) for name in HELD)
    return next((kind for kind, own in HOLDS.items() if own == marks), ASK)
