"""What docs/rulebook.md says is what the language is: every example reads, every word is in it, every mistake is told
so."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from handrail.core.rulebook import RulebookError, read_rulebook
from handrail.core.rulebook.also import ALSO_KEYS
from handrail.core.rulebook.facts import ACTIONS, FACTS, OF_RULE
from handrail.core.rulebook.language import TOP_KEYS
from handrail.core.rulebook.practice import USES
from handrail.core.rulebook.rules import LADDER_KEYS, RULE_KEYS
from handrail.core.standards.formulas import FUNCTIONS, HELP

DOCS = (Path(__file__).parents[2] / "docs" / "rulebook.md").read_text(encoding="utf-8")
EXAMPLES = re.findall(r"```yaml\n(rulebook: 1\n.*?)```", DOCS, re.DOTALL)


@pytest.mark.parametrize("text", EXAMPLES, ids=range(len(EXAMPLES)))
def test_every_example_reads(text: str) -> None:
    assert read_rulebook(text).rules


def test_every_word_is_there() -> None:
    names = [n for n in FACTS if n not in ACTIONS and not n.startswith("support.")]
    words = [
        *(f"`{n}`" for n in names),
        *(f"`{n}`" for n in FUNCTIONS),
        "`look_up`",
        *(f"`{u.group}: {{{u.name}" for u in USES),
    ]
    words += [*TOP_KEYS, *RULE_KEYS, *LADDER_KEYS, *(f"| `{key}`" for key in ALSO_KEYS if key not in ("name", "note"))]
    assert len(EXAMPLES) >= 6 and set(HELP) == set(FUNCTIONS)
    assert [word for word in words if word not in DOCS] == []


@pytest.mark.parametrize("name", [n for n in FACTS if n not in ACTIONS])
def test_every_example_of_a_fact_is_a_condition(name: str) -> None:
    when = f"    when:\n      {name}: {FACTS[name].example}\n"
    of_rule = f"also:\n  - name: B\n    set: {{rows: 4}}\n{when}" if name in OF_RULE else when
    read_rulebook(f"rulebook: 1\nrules:\n  - name: A\n    use: single_plate\n{of_rule}")


HEAD = "rulebook: 1\nrules:\n  - name: A\n    use: single_plate\n"


@pytest.mark.parametrize(
    ("written", "told"),
    [
        ("    when: {farming: beam_to_girder}\n", "did you mean framing"),
        ("    when: {framing: beam_to_girdr}\n", "did you mean beam_to_girder"),
        ("    when: {V: '> 20'}\n", "needs a unit of force, like '37 kip' or '180 kN'"),
        ("    when:\n      V: > 20 kip\n", "a comparison goes in quotes"),
        ("    when: {released: yes please}\n", "write true or false"),
        ("    set: {plate_depth: = pitch + 3}\n", "its units do not go together"),
        ("    set: {rows: = rows + 1}\n", "rows -> rows goes in a circle"),
        ("    set: {rows: = 4 if V > 30 else 3}\n", "its units do not go together"),
        ("    when: {standard: single_plate}\n", "is what an also-rule can ask for"),
        ("also:\n  - {name: B, least: {bolt: 7/8 A325-N}}\n", "is no number, so nothing is the least of it"),
        ("    set: {plate_depth: = max(3 in, 4 in)}\n", "inside { } one with commas goes in quotes"),
    ],
)
def test_the_table_of_mistakes(written: str, told: str) -> None:
    with pytest.raises(RulebookError, match=re.escape(told)):
        read_rulebook(HEAD + written)
