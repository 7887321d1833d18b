"""Formulas that tie one size to others, like `= 2 * ceil(rows / 2)` or `= 3/8 in if rows > 6 else 5/16 in`.

A formula takes the standard's parameters that are numbers, `usual` (what the size would be without it), the depth,
width, web and flange of the members, quantities with their unit, + - * /, brackets, `x if a > b else y`, and the
functions of FUNCTIONS. Nothing else can be reached from it."""

from __future__ import annotations

import ast
import math
import operator
import re
from collections.abc import Callable, Mapping
from copy import deepcopy
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from typing import Any

from simpleeval import SimpleEval

from handrail.core.catalogue import bolt, rod
from handrail.core.errors import InputError
from handrail.core.joint.situation import Situation
from handrail.core.quantities import units

LONGEST, DEEPEST = 300, 30  # characters as they are written, and brackets in brackets
LONGEST_LOOKED_UP = 40_000  # the same with what tables gave
MEMBERS = {"supported": ("depth", "width", "web", "flange"), "support": ("depth", "width", "web", "flange")}
USUAL = "usual"  # in a formula: what the size is where nobody says
NUMBERS = ("length", "force", "stress", "angle", "number", "count")  # kinds of parameters that can be worked out
SIZED: dict[str, Callable[[str], Any]] = {"bolt": bolt, "rod": rod}  # kinds that have a diameter
OPERATORS = {
    ast.Add: operator.add,
    ast.Sub: operator.sub,
    ast.Mult: operator.mul,
    ast.Div: operator.truediv,
    ast.USub: operator.neg,
    ast.UAdd: operator.pos,
    ast.Not: operator.not_,
    ast.Lt: lambda a, b: a - b < -1e-9 * abs(b),
    ast.LtE: lambda a, b: a - b <= 1e-9 * abs(b),
    ast.Gt: lambda a, b: a - b > 1e-9 * abs(b),
    ast.GtE: lambda a, b: a - b >= -1e-9 * abs(b),
    ast.Eq: lambda a, b: abs(a - b) <= 1e-9 * abs(b),
    ast.NotEq: lambda a, b: abs(a - b) > 1e-9 * abs(b),
}
_QUANTITY = re.compile(
    r"(?<![\w.])(?P<size>(?:\d+[ -]+)?\d+/\d+|\d+\.?\d*|\.\d+)\s*"
    r"(?P<unit>(?!(?:if|else|and|or|not)\b)[A-Za-z]+(?:[*/][A-Za-z]+)?(?:\^[1-4])?|\"|')(?![\w(.])"
)
_FEET_AND_INCHES = re.compile(r"\d\s*(?:ft|'|′)\s*-?\s*\d[\d\s/-]*(?:in\b|\"|″)")
_QUOTED = re.compile(r"""("[A-Za-z*?][^"]*"|'[^']*[A-Za-z][^']*')""")  # words in quotes; 3" and 3' are quantities


def is_formula(value: Any) -> bool:
    """Whether a value is to be worked out from others."""
    return isinstance(value, str) and value.lstrip().startswith("=")


@dataclass(frozen=True)
class Formula:
    """`text` as written after its sign; `tree` of it, in which `held` are its quantities by name: (number with its unit
    as text, kind)."""

    text: str
    tree: Any
    held: Mapping[str, tuple[str, str]]

    @property
    def asks(self) -> frozenset[str]:
        """The names of parameters in it."""
        return self._names - {USUAL}

    @cached_property
    def _names(self) -> frozenset[str]:
        names = {node.id for node in ast.walk(self.tree) if isinstance(node, ast.Name)}
        return frozenset(names - set(self.held) - set(FUNCTIONS) - set(MEMBERS))

    def work_out(
        self, value_of: Callable[[str], Any], functions: Mapping[str, Any], quantity: Callable[[str, str], Any]
    ) -> Any:
        """Its value, where `value_of` gives each name's and `quantity(text, kind)` that of what was written with a
        unit."""

        def name(node: Any) -> Any:
            if node.id in self.held:
                return quantity(*self.held[node.id])
            return value_of(node.id)

        return SimpleEval(operators=OPERATORS, functions=dict(functions), names=name).eval(
            self.text, previously_parsed=self.tree
        )


@lru_cache(maxsize=512)
def formula(text: str) -> Formula:
    """The formula `= ...`. Raises InputError that says what is wrong with it."""
    body = text.lstrip().removeprefix("=").strip()
    if not body or len(body) > LONGEST_LOOKED_UP:
        raise InputError(f"a formula is 1 to {LONGEST} characters after its =, like '= 2 * ceil(rows / 2)'")
    written, held = held_quantities(body)
    try:
        tree = SimpleEval.parse(written)
    except Exception as exc:  # the parser and the evaluator raise many kinds
        open_ = "; inside { } one with commas goes in quotes" if body.count("(") > body.count(")") else ""
        raise InputError(
            f"'= {body}' cannot be read as a formula: names of parameters, numbers, quantities like 3 in, + - * / and"
            f" brackets{open_}"
        ) from exc
    _bounded(tree, body)
    return Formula(body, tree, held)


def held_quantities(body: str) -> tuple[str, dict[str, tuple[str, str]]]:
    """The text of a formula with a name in place of each quantity, and those: (as it is written, kind). What is in
    quotes stays. Raises InputError for a unit that there is not."""
    held: dict[str, tuple[str, str]] = {}
    if mixed := _FEET_AND_INCHES.search(body):
        raise InputError(f"'{mixed[0]}' in a formula may be feet less inches; write it like (8 ft + 6 in)")

    def hold(match: re.Match[str]) -> str:
        name = f"_{len(held)}"
        held[name] = (match[0], kind_of_unit(match["unit"]))
        return name

    parts = _QUOTED.split(body)
    return "".join(part if k % 2 else _QUANTITY.sub(hold, part) for k, part in enumerate(parts)), held


def kind_of_unit(unit: str) -> str:
    """Of a unit, the kind of quantity."""
    for kind in ("length", "force", "stress", "angle", "moment", "area"):
        try:
            units.factor(unit, kind)
        except InputError:
            continue
        return kind
    raise InputError(
        f"'{unit}' is not a unit; write quantities like 3 in, 20 mm, 5 kip; a number times a name has its sign: 2 *"
        f" {unit}"
    )


def _bounded(tree: ast.AST, body: str) -> None:
    def deep(node: ast.AST) -> int:
        return 1 + max((deep(child) for child in ast.iter_child_nodes(node)), default=0)

    if deep(tree) > DEEPEST:
        raise InputError(f"'= {body}' is nested too deep; at most {DEEPEST} levels")
    for node in ast.walk(tree):
        if not isinstance(node, _PARTS) and not _allowed(node):
            raise InputError(
                f"'= {body}': a formula takes names, numbers, quantities, + - * /, brackets, x if a > b else y, and"
                f" {', '.join(FUNCTIONS)}"
            )


_PARTS = ast.operator | ast.unaryop | ast.cmpop | ast.boolop | ast.Load | ast.Name


def _allowed(node: ast.AST) -> bool:
    if isinstance(node, ast.Expr | ast.IfExp | ast.BoolOp):
        return True
    if isinstance(node, ast.Compare):
        return all(type(op) in OPERATORS for op in node.ops)
    if isinstance(node, ast.BinOp | ast.UnaryOp):
        return type(node.op) in OPERATORS
    if isinstance(node, ast.Call):
        return isinstance(node.func, ast.Name) and node.func.id in FUNCTIONS and not node.keywords
    if isinstance(node, ast.Attribute):
        return isinstance(node.value, ast.Name) and node.attr in MEMBERS.get(node.value.id, ())
    return isinstance(node, ast.Constant) and isinstance(node.value, int | float) and not isinstance(node.value, bool)


def compared(node: ast.Compare, values: Mapping[str, float], body: str) -> bool:
    """Whether a comparison of numbers holds. Raises InputError."""
    try:
        return bool(SimpleEval(operators=OPERATORS, names=dict(values)).eval("", previously_parsed=node))
    except Exception as exc:
        raise InputError(f"'= {body}' compares what cannot be compared") from exc


def _up(value: Any, step: Any = 1) -> Any:
    """The next whole number of steps."""
    return math.ceil(float(value / step) - 1e-6) * step


def _down(value: Any, step: Any = 1) -> Any:
    return math.floor(float(value / step) + 1e-6) * step


def _near(value: Any, step: Any = 1) -> Any:
    """The nearest whole number of steps, halves up."""
    return math.floor(float(value / step) + 0.5 + 1e-9) * step


def _pick(value: Any, *spans: Any) -> Any:
    """Of spans (low, high, what it gives) the first that the value is in, ends counted in."""
    if not spans or len(spans) % 3:
        raise InputError("pick takes a value, then low, high and what it gives, of one span or more")
    slack = 1e-9 * max(1.0, abs(value))
    for low, high, given in zip(spans[::3], spans[1::3], spans[2::3], strict=True):
        if low - slack <= value <= high + slack:
            return given
    raise InputError(f"{value:.6g} is in none of the spans of pick")


def _alike(value: Any, *spans: Any) -> Any:
    """What pick gives, whatever the value: its first."""
    if not spans or len(spans) % 3:
        _pick(value, *spans)
    return [value <= spans[0], value <= spans[1], spans[2] + sum(spans[5::3], 0 * spans[2])][2]


def _whole(of: Callable[[float], int]) -> Callable[[Any], int]:
    return lambda value: of(float(value))


def diameter(name: Any) -> float:
    """Of a bolt or a rod, mm."""
    for find in SIZED.values():
        try:
            return float(find(str(name)).d)
        except InputError:
            continue
    raise InputError(f"diameter takes a bolt or a rod, like diameter(bolt); '{name}' is none")


FUNCTIONS: dict[str, Callable[..., Any]] = {
    "min": min,
    "max": max,
    "up": _up,
    "down": _down,
    "near": _near,
    "pick": _pick,
    "ceil": _whole(math.ceil),
    "floor": _whole(math.floor),
    "diameter": diameter,
}


HELP = {  # function: (what it gives, an example)
    "min": ("The least of its values", "min(supported.width, 10 in)"),
    "max": ("The largest of its values", "max(5/8 * plate_thickness, 3/16 in)"),
    "up": ("Up to the next whole step", "up(plate_depth / 2, 1/2 in)"),
    "down": ("Down to a whole step", "down(supported.depth - 4 in, 3 in)"),
    "near": ("To the nearest whole step", "near(supported.depth / 3, 1/4 in)"),
    "ceil": ("Up to the next whole number", "ceil(supported.depth / pitch)"),
    "floor": ("Down to a whole number", "floor((supported.depth - 6 in) / pitch)"),
    "pick": (
        "Of spans (low, high, value) the value of the first that the number is in",
        "pick(supported.depth, 8 in, 12 in, 2, 12 in, 24 in, 4)",
    ),
    "diameter": ("Diameter of a bolt or a rod", "2 * diameter(bolt)"),
}


def members(situation: Situation) -> dict[str, dict[str, float]]:
    """What formulas know of the members, mm."""
    members = {}
    for role, steel in (("supported", situation.supported), ("support", situation.support)):
        if steel is not None:
            s = steel.section
            members[role] = {
                "depth": s.d,
                "width": s.bf or s.d,
                "web": s.wall if s.hollow else s.tw,
                "flange": s.wall if s.hollow else s.tf,
            }
    return members


def worked_out(text: str, value_of: Callable[[str], Any], situation: Situation) -> float:
    """The value of the formula `text` in the core's units, with the situation's members. Raises InputError where it has
    none."""
    read = formula(text)
    known = members(situation)

    def name(asked: str) -> Any:
        if asked in MEMBERS:
            if asked not in known:
                raise InputError(f"'= {read.text}': there is no {asked} here")
            return known[asked]
        return value_of(asked)

    value = _tried(read, lambda: read.work_out(name, FUNCTIONS, units.parse))
    if isinstance(value, bool):
        raise InputError(f"'= {read.text}' gives true or false; write what it is then: 4 if {read.text} else 3")
    if not math.isfinite(value):
        raise InputError(f"'= {read.text}' gives {value}")
    return float(value)


def values_in(text: str, value_of: Callable[[str], Any], situation: Situation) -> dict[str, Any]:
    """What the formula `text` works with, by name: sizes as `value_of` gives them, and the members' measures, mm."""
    read, known = formula(text), members(situation)
    values = {name: value_of(name) for name in sorted(read.asks)}
    for node in ast.walk(read.tree):
        if isinstance(node, ast.Attribute) and isinstance(node.value, ast.Name) and node.value.id in known:
            values[f"{node.value.id}.{node.attr}"] = known[node.value.id][node.attr]
    return values


def kind_of(text: str, kinds: Mapping[str, str]) -> str:
    """The kind of quantity that the formula `text` gives, where `kinds` are those of the parameters. Raises InputError
    with what is wrong."""
    wrong: InputError | None = None
    for kind in ("number", "length", "force", "stress", "angle"):
        try:
            fits(text, kind, kinds)
        except InputError as exc:
            wrong = wrong or exc
            if "gives" not in str(exc):
                raise
            continue
        return kind
    raise wrong or InputError(f"'{text}' gives nothing that is known")


def _tried(read: Formula, work_out: Callable[[], Any]) -> Any:
    """What it gives. Raises InputError in the words of this module."""
    try:
        return work_out()
    except InputError:
        raise
    except ZeroDivisionError as exc:
        raise InputError(f"'= {read.text}' divides by nothing") from exc
    except Exception as exc:  # wrong arguments, units that do not go together, numbers too large
        raise InputError(f"'= {read.text}': {exc}") from exc


def fits(text: str, kind: str, kinds: Mapping[str, str]) -> None:
    """Whether the formula can give a quantity of `kind`, where `kinds` are those of the parameters by name. Raises
    InputError with what does not go: a name that is not there, units that cannot be added, the wrong kind of result."""
    if len(text) > LONGEST:
        raise InputError(f"a formula is 1 to {LONGEST} characters after its =, like '= 2 * ceil(rows / 2)'")
    read = formula(text)
    if kind not in NUMBERS:
        raise InputError(f"'= {read.text}': formulas give numbers; write the choice itself")
    registry = units.registry()

    def of(kind: str, number: float) -> Any:
        return number if kind in ("number", "count") else registry.Quantity(number, units.CORE_UNITS[kind])

    def name(asked: str) -> Any:
        if asked == USUAL:
            return of(kind, 37.0)
        if asked in MEMBERS:
            return {part: of("length", 400.0 + k) for k, part in enumerate(MEMBERS[asked])}
        if asked not in kinds:
            raise InputError(
                f"'= {read.text}': '{asked}' is no size; there is {', '.join((*_numbers(kinds), *MEMBERS))}"
            )
        if kinds[asked] in SIZED:
            return asked
        if kinds[asked] not in NUMBERS:
            raise InputError(
                f"'= {read.text}': {asked} is not a number; formulas can use {', '.join((*_numbers(kinds), *MEMBERS))}"
            )
        return of(kinds[asked], 37.0 + len(asked) / 7)

    every_side = {"either": _either, "every": _tests}
    dimensions = FUNCTIONS | {"diameter": lambda asked: of("length", 19.05), "pick": _alike} | every_side
    every = replace(read, tree=_Every().visit(deepcopy(read.tree)))
    try:
        value = _tried(
            read,
            lambda: every.work_out(name, dimensions, lambda text, of_kind: of(of_kind, units.parse(text, of_kind))),
        )
    except InputError as exc:
        if isinstance(exc.__cause__, ZeroDivisionError):
            return  # of the numbers that stand in here
        if isinstance(exc.__cause__, _NoTest):
            raise InputError(f"'= {read.text}': after if stands a comparison, like rows > 4") from exc
        if type(exc.__cause__).__name__ == "DimensionalityError":
            raise InputError(
                f"'= {read.text}': its units do not go together; numbers need theirs, like 3 in ({exc.__cause__})"
            ) from exc
        raise
    if isinstance(value, bool):
        raise InputError(f"'= {read.text}' gives true or false; write what it is then: 4 if {read.text} else 3")
    try:
        registry.Quantity(value).to(units.CORE_UNITS.get(kind) or "dimensionless")
    except Exception as exc:
        given = getattr(value, "units", "") or "a plain number"
        raise InputError(
            f"'= {read.text}' gives {given}, not a {kind}; numbers in it need their units, like 3 in"
        ) from exc


class _NoTest(Exception):
    """What stands after `if` is no comparison."""


class _Every(ast.NodeTransformer):
    """Both sides of what hangs on a condition, and all parts of it, so that the units of each are looked at."""

    def visit_IfExp(self, node: ast.IfExp) -> ast.AST:
        self.generic_visit(node)
        return ast.Call(ast.Name("either", ast.Load()), [node.test, node.body, node.orelse], [])

    def visit_BoolOp(self, node: ast.BoolOp) -> ast.AST:
        self.generic_visit(node)
        return ast.Call(ast.Name("every", ast.Load()), node.values, [])


def _tests(*tests: Any) -> bool:
    if not all(isinstance(test, bool) or type(test).__name__ == "bool" for test in tests):
        raise _NoTest
    return True


def _either(test: Any, one: Any, other: Any) -> Any:
    """One of both, which can be added to each other."""
    _tests(test)
    return one if isinstance(one, bool) else one + other - other


def _numbers(kinds: Mapping[str, str]) -> list[str]:
    return [name for name, kind in kinds.items() if kind in NUMBERS]
