"""Any rulebook is read or refused in words, in little time, and reaches nothing but what it may; TRIES=5000 in the
environment looks further."""

from __future__ import annotations

import contextlib
import os
import random
import re
from pathlib import Path

import pytest

from handrail.core.errors import InputError
from handrail.core.rulebook import RulebookError, read_rulebook
from handrail.core.standards import STANDARDS
from tests.bundles import DEMO, plan_of

DOCS = (Path(__file__).parents[2] / "docs/rulebook.md").read_text()
SEEDS = [*re.findall(r"```yaml\n(rulebook: 1\n.*?)```", DOCS, re.DOTALL), (DEMO / "rulebook.yaml").read_text()]
ODD = [
    "= __import__('os')",
    "= (lambda: 1)()",
    "= rows ** 99999",
    "= 9" * 20,
    "{not: {not: x}}",
    "[]",
    "{}",
    "null",
    "true",
    "-1",
    "1e999",
    ".nan",
    "&a [*a]",
    "*a",
    "= look_up(beams, rows)",
    "= look_up(look_up(a, b), c)",
    "= pick(1, 2)",
    "= up(1, 0)",
    "= 1/0",
    "'",
    '"',
    "|",
    "0 .. 1e99 in",
    "9 .. 8",
    "> ",
    "\t",
    "\x00",
    "= '' * 9",
    "= max()",
    "= ''.join(rows)",
    "= rows.__class__",
    "= [1 for x in rows]",
    "\u2028",
    "W" * 3000,
    "= " + "(" * 400,
    "!!python/object:os.system x",
]
TRIES = int(os.environ.get("TRIES", "200"))


def spoilt(dice: random.Random) -> str:
    """A rulebook with a few things wrong in it, or odd."""
    lines = dice.choice(SEEDS).splitlines()
    for _ in range(dice.choice((1, 1, 2, 3, 6))):
        k = dice.randrange(len(lines))
        act = dice.randrange(7)
        if act == 0:
            lines.insert(k, dice.choice(lines))
        elif act == 1:
            lines[k] = re.sub(r":.*", lambda m: f": {dice.choice(ODD)}", lines[k], count=1)
        elif act == 2:
            del lines[k]
            lines = lines or ["rulebook: 1"]
        elif act == 3:
            lines[k] = " " * dice.randint(0, 12) + lines[k].strip()
        elif act == 4:
            other = re.search(r"[\w.@]+:", dice.choice(dice.choice(SEEDS).splitlines()))
            lines[k] = re.sub(r"\w+:", other[0], lines[k], count=1) if other else lines[k]
        elif act == 5:
            at = dice.randrange(len(lines[k]) + 1)
            lines[k] = lines[k][:at] + dice.choice(ODD) + lines[k][at:]
        else:
            lines[k], lines[-1] = lines[-1], lines[k]
    return "\n".join(lines) + "\n"


@pytest.fixture(scope="module")
def plan(demo_folder):
    return plan_of(demo_folder)


def test_any_rulebook_is_read_or_refused(plan) -> None:
    """What is read takes connections of the demo, and sizes them or says why not; what is refused has a line that is
    there."""
    read = 0
    for seed in range(TRIES):
        text = spoilt(random.Random(seed))
        try:
            book = read_rulebook(text)
        except RulebookError as exc:
            lines = text.count("\n") + 1
            assert exc.problems and all(
                1 <= line <= lines + 1 and column >= 1 and words for line, column, words in exc.problems
            ), (seed, exc.problems)
            continue
        read += 1
        own = plan_of_book(plan, book)
        for k in range(0, len(own.assigned), 97):
            assigned = own.assigned[k]
            if assigned.rule is not None and not assigned.reason:
                family = own.family(assigned)
                assert family is not None
                for rung in family.rungs[:2]:
                    with contextlib.suppress(InputError):
                        STANDARDS[family.standard].complete(family.situation, dict(rung) | dict(family.given))
    assert read > TRIES / 20, "most are refused, some have to be read"


def plan_of_book(plan, book):
    return plan.with_(rulebook=book)
