"""Facts in formulas: `= 4 if V > 30 kip else 3`. What a connection has is put in the place of each fact, and of what
hangs on facts alone only the side that holds is left, so that a size stands by itself wherever it is kept."""

from __future__ import annotations

import ast
import re
from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass, field
from typing import Any

from handrail.core.errors import InputError
from handrail.core.quantities import units
from handrail.core.rulebook.conditions import read_asked
from handrail.core.rulebook.facts import FACTS, fact
from handrail.core.standards.formulas import FUNCTIONS, MEMBERS, USUAL, compared, held_quantities

LOOK_UP = "look_up"
_PLACE = re.compile(r"\b_\d+\b")
_UNIT = {kind: unit for kind, unit in units.CORE_UNITS.items() if unit}


@dataclass
class _Asked(ast.NodeTransformer):
    """Puts `value_of` each fact in its place; `parameters` are not facts. `holds` says whether a text fact is like what
    it is compared with."""

    body: str
    text: str  # with a name in place of each quantity
    held: dict[str, tuple[str, str]]
    parameters: Collection[str]
    value_of: Callable[[str], Any]
    holds: Callable[[str, Any], bool]
    words: list[str] = field(default_factory=list)
    touched: bool = False  # whether a fact is in it

    def visit_Call(self, node: ast.Call) -> ast.AST:
        """The table and the column of a look-up are no facts."""
        first = 2 if isinstance(node.func, ast.Name) and node.func.id == LOOK_UP else 0
        node.args = [*node.args[:first], *(self.visit(arg) for arg in node.args[first:])]
        return node

    def visit_Name(self, node: ast.Name) -> ast.AST:
        return self._fact(node, node.id) if self._is_fact(node) else node

    def visit_Attribute(self, node: ast.Attribute) -> ast.AST:
        return self._fact(node, ast.unparse(node)) if self._is_fact(node) else node

    def visit_BinOp(self, node: ast.BinOp) -> ast.AST:
        return self._fact(node, _of_set(node)) if self._is_fact(node) else self.generic_visit(node)

    def visit_Compare(self, node: ast.Compare) -> ast.AST:
        sides = [node.left, *node.comparators]
        if not any(self._is_fact(side) and fact(_name(side)).kind in ("text", "name", "words") for side in sides):
            self.generic_visit(node)
            return self._folded(node)
        if len(sides) != 2 or not isinstance(node.ops[0], ast.Eq | ast.NotEq | ast.In | ast.NotIn):
            raise InputError(f"'= {self.body}': names are compared with ==, != or in, one with one")
        asked, other = sides if self._is_fact(sides[0]) else sides[::-1]
        self.touched = True
        holds = self.holds(_name(asked), self._words(other))
        return self.settled(holds is isinstance(node.ops[0], ast.Eq | ast.In))

    def visit_BoolOp(self, node: ast.BoolOp) -> ast.AST:
        parts = [self.visit(part) for part in node.values]
        ends = isinstance(node.op, ast.Or)  # what settles it
        if any(_known(part) is ends for part in parts):
            return ast.Constant(ends)
        open_ = [part for part in parts if _known(part) is None]
        return ast.BoolOp(node.op, open_) if len(open_) > 1 else open_[0] if open_ else ast.Constant(not ends)

    def visit_UnaryOp(self, node: ast.UnaryOp) -> ast.AST:
        self.generic_visit(node)
        known = _known(node.operand)
        return ast.Constant(not known) if isinstance(node.op, ast.Not) and known is not None else node

    def visit_IfExp(self, node: ast.IfExp) -> ast.AST:
        asked = self.written(ast.get_source_segment(self.text, node.test) or "")
        test = self.visit(node.test)
        known = _known(test)
        if known is None:
            return ast.IfExp(test, self.visit(node.body), self.visit(node.orelse))
        joined = isinstance(node.test, ast.BoolOp)
        self.words.append(asked if known else f"not ({asked})" if joined else f"not {asked}")
        return self.visit(node.body if known else node.orelse)

    def settled(self, holds: bool) -> ast.AST:
        """What stands where it is known whether something holds."""
        return ast.Constant(holds)

    def written(self, text: str) -> str:
        """The text with its quantities."""
        return _PLACE.sub(lambda place: self.held[place[0]][0], text)

    def _is_fact(self, node: ast.AST) -> bool:
        if isinstance(node, ast.Name):
            return node.id in FACTS and node.id not in self.parameters
        if isinstance(node, ast.Attribute) and isinstance(node.value, ast.Name):
            return node.attr not in MEMBERS.get(node.value.id, ()) and _name(node) in FACTS
        return isinstance(node, ast.BinOp) and isinstance(node.op, ast.MatMult)

    def _fact(self, node: ast.AST, name: str) -> ast.AST:
        of = fact(name)
        if of.kind in ("text", "name", "words"):
            raise InputError(f"'= {self.body}': {name} is words; compare it, like {name} == {of.example.strip('[]')}")
        self.touched = True
        value = self.value_of(name)
        if value is None:
            raise InputError(f"'= {self.body}': it has no {name}")
        if of.kind == "flag":
            return self.settled(bool(value))
        if of.kind == "number":
            return ast.Constant(float(value))
        place = f"_{len(self.held)}"
        self.held[place] = (f"{float(value):.9f}".rstrip("0").rstrip(".") + f" {_UNIT[of.kind]}", of.kind)
        return ast.copy_location(ast.Name(place, ast.Load()), node)

    def _words(self, node: ast.AST) -> Any:
        if isinstance(node, ast.Tuple | ast.List):
            return [self._words(part) for part in node.elts]
        if isinstance(node, ast.Constant) and isinstance(node.value, str):
            return node.value
        if isinstance(node, ast.Name | ast.Attribute):
            return ast.unparse(node)
        raise InputError(f"'= {self.body}': a name stands as it is, or in quotes, like framing == beam_to_girder")

    def _folded(self, node: ast.Compare) -> ast.AST:
        """The comparison settled where only facts and numbers are in it."""
        names = {part.id for part in ast.walk(node) if isinstance(part, ast.Name)}
        open_ = any(isinstance(part, ast.Call | ast.Attribute) for part in ast.walk(node))
        if open_ or not names <= set(self.held):
            return node
        kinds = {self.held[name][1] for name in names}
        if len(kinds) > 1:
            raise InputError(f"'= {self.body}': its units do not go together: {' and '.join(sorted(kinds))}")
        return ast.Constant(compared(node, {name: units.parse(*self.held[name]) for name in names}, self.body))


class _Every(_Asked):
    """The same with every side of what hangs on a condition left as it is: whatever a connection has."""

    visit_BoolOp = visit_UnaryOp = visit_IfExp = ast.NodeTransformer.generic_visit

    def settled(self, holds: bool) -> ast.AST:
        return ast.Compare(ast.Constant(0), [ast.Lt()], [ast.Constant(1)])

    def _folded(self, node: ast.Compare) -> ast.AST:
        return node


def _name(node: ast.AST) -> str:
    return _of_set(node) if isinstance(node, ast.BinOp) else ast.unparse(node)


def _of_set(node: ast.BinOp) -> str:
    """An action over a set, `V.max@service`; the set in quotes where it is no plain word."""
    of = str(node.right.value) if isinstance(node.right, ast.Constant) else ast.unparse(node.right)
    return f"{ast.unparse(node.left)}@{of}"


def _known(node: ast.AST) -> bool | None:
    return node.value if isinstance(node, ast.Constant) and isinstance(node.value, bool) else None


def _parsed(text: str) -> tuple[str, ast.Expression, dict[str, tuple[str, str]]] | None:
    """Its text and tree with a name in place of each quantity, and those; None where it cannot be read, which is told
    where it is read as a formula."""
    try:
        written, held = held_quantities(text.lstrip().removeprefix("=").strip())
        return written, ast.parse(written, mode="eval"), held
    except (SyntaxError, ValueError, RecursionError, MemoryError, InputError):
        return None


def _put(
    text: str,
    parameters: Collection[str],
    value_of: Callable[[str], Any],
    holds: Callable[[str, Any], bool],
    how: type[_Asked] = _Asked,
) -> tuple[ast.AST | str, _Asked | None]:
    """The tree with what is asked put in, and what put it in; the text itself where it cannot be read."""
    parsed = _parsed(text)
    if parsed is None:
        return text, None
    written, tree, held = parsed
    body = text.lstrip().removeprefix("=").strip()
    own = how(body, written, held, {*parameters, *FUNCTIONS, USUAL}, value_of, holds)
    try:
        return own.visit(tree.body), own
    except RecursionError as exc:
        raise InputError(f"'= {body[:60]} ...' is nested too deep") from exc


def facts_in(text: str, parameters: Collection[str]) -> tuple[str, ...]:
    """The facts that a formula asks for; `parameters` are the sizes of its standard. Raises InputError."""
    found: dict[str, None] = {}

    def note(name: str) -> float:
        found[name] = None
        return 1.0

    def words(name: str, other: Any) -> bool:
        read_asked(name, other)
        found[name] = None
        return True

    _put(text, parameters, note, words, _Every)
    return tuple(found)


def with_facts(text: str, parameters: Collection[str], facts: Mapping[str, Any]) -> tuple[str, list[str]]:
    """The formula with what a connection has in place of each fact, and which conditions held, in words; a plain value
    where only words are left. Raises InputError where it lacks a fact."""
    made, own = _put(text, parameters, facts.get, lambda name, other: read_asked(name, other).holds(facts))
    if own is None or isinstance(made, str) or not own.touched:
        return text, []  # as it is written
    if _known(made) is not None:
        raise InputError(f"'= {own.body}' gives true or false; write what it is then: 4 if {own.body} else 3")
    if isinstance(made, ast.Constant) and isinstance(made.value, str):
        return made.value, own.words
    return f"= {own.written(ast.unparse(made))}", own.words


def sides(text: str, parameters: Collection[str]) -> list[str]:
    """What the formula may come to, whatever a connection has: to be read as formulas, or, of one that chooses between
    words, as values. Raises InputError."""
    made, own = _put(text, parameters, lambda name: 37.0, lambda name, other: True, _Every)
    if own is None or isinstance(made, str):
        return [text]
    ends = _ends(made)
    if not any(isinstance(end, ast.Constant) and isinstance(end.value, str) for end in ends):
        return [f"= {own.written(ast.unparse(made))}"]
    tests = [part.test for part in ast.walk(made) if isinstance(part, ast.IfExp)]
    if any(isinstance(part, ast.Name) and part.id not in own.held for test in tests for part in ast.walk(test)):
        raise InputError(f"'{text.strip()}' chooses between words, which goes by facts of the connection alone")
    return [
        end.value
        if isinstance(end, ast.Constant) and isinstance(end.value, str)
        else f"= {own.written(ast.unparse(end))}"
        for end in ends
    ]


def _ends(node: ast.AST) -> list[ast.AST]:
    return [*_ends(node.body), *_ends(node.orelse)] if isinstance(node, ast.IfExp) else [node]
