"""What a code says stands in its own package: no clause outside it, none missing in it, and a family that says
something else is believed."""

from __future__ import annotations

import ast
import re
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path

import pytest

import handrail.core
from handrail.core.checking.trial import read_trial
from handrail.core.codes import code
from handrail.core.codes.aisc360 import Aisc360
from handrail.core.codes.aisc360.bolts import Bolts
from handrail.core.codes.naming import clause_of
from handrail.core.errors import InputError
from handrail.core.quantities.lines import Trace
from handrail.core.quantities.symbols import SYMBOLS

CORE = Path(handrail.core.__file__).parent
CLAUSE = re.compile(
    r"\b(AISC 3(41|60)\b(?!-)|ACI 318|Manual|Design Guide|OSHA \d|R?17\.\d|25\.\d\.\d|[A-HJK]\d{1,2}[.-]\d|K2\b)"
)
TRIAL = {
    "framing": "beam_to_column_flange",
    "standard": "single_plate",
    "supported": {"section": "W16X31", "grade": "A992"},
    "support": {"section": "W14X90", "grade": "A992"},
    "actions": [{"name": "1.2D+1.6L", "V": "30 kip", "N": "5 kip"}],
}


def texts(path: Path):
    """(line, text) of every string of a module that is no docstring."""
    tree = ast.parse(path.read_text(encoding="utf-8"))
    docs = {
        id(node.body[0].value)
        for node in ast.walk(tree)
        if isinstance(node, ast.Module | ast.ClassDef | ast.FunctionDef) and isinstance(node.body[0], ast.Expr)
    }
    for node in ast.walk(tree):
        if isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in docs:
            yield node.lineno, node.value


def test_no_clause_stands_outside_the_codes():
    found = [
        f"{path.relative_to(CORE)}:{line}: {text}"
        for path in sorted(CORE.rglob("*.py"))
        if path.relative_to(CORE).parts[0] not in ("codes", "catalogue")
        for line, text in texts(path)
        if CLAUSE.search(text)
    ]
    assert found == []


@pytest.mark.parametrize(
    ("what", "meant"), [("plate_shear_yield", "b"), ("shear_yield", "a"), ("bolt_bearing_web", "c")]
)
def test_a_clause_is_found_by_the_longest_name_that_fits(what, meant):
    assert clause_of({"shear_yield": "a", "*_shear_yield": "b", "*_yield": "x", "bolt_bearing_*": "c"}, what) == meant


def test_what_no_clause_is_held_of_is_no_ones_guess():
    with pytest.raises(KeyError, match="no clause is held of web_at_weld"):
        clause_of({"weld": "J2.4", "*_at_rods": "x"}, "web_at_weld")


def test_editions_number_alike_clauses_otherwise():
    assert [code(name).clause("bolt_shear") for name in ("AISC 360-22", "AISC 360-16")] == ["J3.7", "J3.6"]
    assert code("AISC 360-16").clause("cope") == "Manual 15th ed. Part 9"
    with pytest.raises(InputError, match="code 'EN 1993' is not held; use AISC 360-22 or AISC 360-16"):
        code("EN 1993")


def test_every_symbol_of_a_worked_line_is_held():
    """No unit is guessed by a letter: what a line's result or a value of it is has its kind."""
    missing = []
    for path in sorted(CORE.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if not (isinstance(node, ast.Call) and len(node.args) >= 3 and isinstance(node.func, ast.Name)):
                continue
            if node.func.id not in ("t", "trace", "lines", "whole", "s", "line", "plate"):
                continue
            names = [k.arg for k in node.keywords if k.arg and k.arg != "kind"]
            if isinstance(node.args[0], ast.Constant) and "kind" not in {k.arg for k in node.keywords}:
                names.append(node.args[0].value)
            missing += [f"{path.name}:{node.lineno}: {name}" for name in names if name not in SYMBOLS]
    assert missing == []


def test_a_symbol_that_is_not_held_is_refused():
    with pytest.raises(KeyError, match="'zeta' is no symbol that is held: say its kind"):
        Trace()("zeta", "1 + 1", 2.0)
    line = Trace()
    line("zeta", "1 + fc", 2.0, kind="number", fc=27.579)
    assert line.lines[0].text("us") == "zeta = 1 + fc = 2   (f'c = 4 ksi)"


class Half(Bolts):
    """Bolts of a code that lets them half."""

    def shear(self, *given, **more):
        return super().shear(*given, **more) / 2


@dataclass(frozen=True)
class Other(Aisc360):
    @cached_property
    def bolts(self):
        return Half(self)


def test_parts_believe_the_code_that_they_are_given():
    """Nothing of a limit state comes from elsewhere: with half of the bolts' shear, bolts and nothing but bolts
    differ."""
    given = read_trial(TRIAL)
    one, half = (
        {c.check: c.utilisation for c in type(given)(of, *parts(given)).run().checks} for of in (given.code, Other())
    )
    assert half["bolt_shear"] == pytest.approx(2 * one["bolt_shear"])
    differing = {check for check, use in one.items() if half[check] != pytest.approx(use)}
    assert "bolt_shear" in differing and all("bolt" in check for check in differing), differing


def parts(given):
    return given.standard, given.situation, given.sizes, given.actions
