"""YAML from a stranger: read within bounds, or refused in words and at once."""

from __future__ import annotations

import pytest

from handrail.core.rulebook import RulebookError, read_rulebook
from handrail.core.rulebook.yaml import LARGEST, NotYaml, load

LAUGHS = "a: &a [x, x, x, x, x, x, x, x, x, x]\n" + "".join(
    f"{name}: &{name} [{', '.join([f'*{before}'] * 10)}]\n" for before, name in zip("abcdefgh", "bcdefghi", strict=True)
)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        (LAUGHS, "its aliases stand for more than"),
        ("a: &a [*a]\n", "its aliases stand for more than"),
        ("[" * 300 + "]" * 300, "nested deeper than"),
        ("[" * 20000, "nested deeper than"),
        ("x" * (LARGEST + 1), "at most"),
        ("a: 1\na: 2\n", "not YAML"),
        ("a: [", "not YAML"),
        ("\x00", "not YAML"),
        ("a: !!python/object:os.system x", "not YAML"),
        ("a: 2026-99-99", "not YAML"),
    ],
)
def test_refused_in_words(text, words):
    for comments in (False, True):
        try:
            load(text, comments)
        except NotYaml as exc:
            assert words in exc.words or "nested" in exc.words
        else:
            assert comments  # what keeps its lines is kept as it is written
    with pytest.raises(RulebookError):
        read_rulebook(text)


def test_aliases_within_reason():
    found = load("base: &b {rows: 3, bolt: 3/4 A325-N}\nrules: [*b, *b, {rows: 4}]\n")
    assert found["rules"][1] == {"rows": 3, "bolt": "3/4 A325-N"}
