"""A design of the house: one connection as a piece, with what it fits and the few sizes that it leaves open.

Written as a mapping: `design: 1`, `standard`, `fits` (conditions as in a rule), `fields` (what is asked where it is
used, each with label, low, high, usual or choices), `parameters` (sizes, formulas of fields among them), and `on`, the
trial without its actions on which it was made."""

from __future__ import annotations

import json
import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from handrail.core.errors import InputError
from handrail.core.quantities import units
from handrail.core.rulebook.asking import Conditions
from handrail.core.rulebook.conditions import Joined
from handrail.core.rulebook.facts import FACTS
from handrail.core.rulebook.reader import Reader, RulebookError, plain
from handrail.core.rulebook.yaml import NotYaml, load
from handrail.core.standards import STANDARDS, Standard
from handrail.core.standards.formulas import FUNCTIONS, is_formula, kind_of_unit
from handrail.core.standards.sizes import Sized, Sizes

KEYS = ("design", "standard", "fits", "fields", "parameters", "on", "code", "method")
FIELD_KEYS = ("label", "help", "low", "high", "usual", "choices")
MOST_FIELDS = 12
DESIGN = "design "  # before the name of one, where a rule says what it uses
BOLTS, GRADES = "bolts", "grades"
BY_PRACTICE = {BOLTS: ("bolt", "rod"), GRADES: ("grade", "plate_grade", "electrode")}  # kinds of parameters
_NAME = re.compile(r"[a-z][a-z0-9_]{0,30}$")
_UNIT = re.compile(r"[\d\s/.-]+(?P<unit>[A-Za-z*^\"'′″]+\d?)\s*$")


@dataclass(frozen=True)
class Open:
    """A size, or what sizes follow from, that is asked where a design is used. `kind` is count, a kind of quantity, or
    words, of which `choices` are all; bounds and `usual` as they are written."""

    name: str
    kind: str
    label: str
    help: str
    usual: str
    low: str = ""
    high: str = ""
    choices: tuple[str, ...] = ()

    def read(self, value: Any) -> str:
        """The value as it goes into a formula. Raises InputError."""
        text = str(value).strip()
        if self.kind == "words":
            if text not in self.choices:
                raise InputError(f"{self.name}: '{text[:40]}' is none of {', '.join(self.choices)}")
            return text
        given = self._number(text)
        for limit, sign, word in ((self.low, 1, "less"), (self.high, -1, "more")):
            if limit and (given - self._number(limit)) * sign < -1e-9:
                raise InputError(f"{self.name}: {text} is {word} than {limit}")
        return text

    def _number(self, text: str) -> float:
        if self.kind == "count":
            if not re.fullmatch(r"\d{1,4}", text):
                raise InputError(f"{self.name}: '{text[:40]}' is not a whole number")
            return float(text)
        try:
            return units.parse(text, self.kind)
        except InputError as exc:
            raise InputError(f"{self.name}: {exc.words}") from exc


@dataclass(frozen=True)
class Design:
    """One as it was read. `when` is what it fits beside the framings of its standard; `parameters` as they are
    written."""

    standard: Standard
    when: Joined
    fields: tuple[Open, ...]
    parameters: Mapping[str, Any]
    on: Mapping[str, Any] = field(default_factory=dict)
    code: str = ""
    method: str = ""

    def given(self, asked: Mapping[str, Any] | None = None) -> dict[str, Any]:
        """Its parameters with the fields as they are `asked`, each where it is not as it usually is. Raises
        InputError."""
        known = {of.name: of for of in self.fields}
        if unknown := sorted(set(asked or {}) - set(known)):
            there = f"it asks {', '.join(known)}" if known else "it leaves nothing open"
            raise InputError(f"the design has no field '{unknown[0][:40]}'; {there}")
        values = {name: of.read((asked or {}).get(name, of.usual)) for name, of in known.items()}
        return {name: _put(value, values, known) for name, value in self.parameters.items()}

    def sizes(self, source: str, asked: Mapping[str, Any] | None = None, practice: tuple[str, ...] = ()) -> Sizes:
        """Its sizes from `source`; those whose kinds are by `practice` (bolts, grades) left out. Raises InputError."""
        left = {kind for name in practice for kind in BY_PRACTICE[name]}
        return {
            name: Sized(self.standard.read_one(name, value), source)
            for name, value in self.given(asked).items()
            if self.standard.parameter(name).kind not in left
        }


def _put(value: Any, values: Mapping[str, str], known: Mapping[str, Open]) -> Any:
    """A parameter with the fields' values in their places."""
    if not is_formula(value):
        return value
    text = str(value)
    alone = text.lstrip().removeprefix("=").strip()
    if alone in values:
        return values[alone]
    for name, of in known.items():
        if of.kind != "words":
            text = re.sub(rf"(?<![\w.]){name}(?![\w.(])", f"({values[name]})", text)
    return text


def read_design(text: str) -> Design:
    """The design in YAML, or JSON, `text`. Raises RulebookError with every problem found."""
    reader = Reader()
    data = _loaded(text)
    if not isinstance(data, dict):
        raise RulebookError([(1, 1, "a design is a mapping with design, standard, fits and parameters")])
    try:
        json.dumps(plain(data))
    except (TypeError, ValueError) as exc:  # a date, a set, a number without end
        raise RulebookError(
            [(1, 1, "a design holds words, numbers, lists and mappings; put others in quotes")]
        ) from exc
    reader.keys(data, KEYS, "a design")
    if data.get("design") != 1:
        reader.wrong(data, "design", "write 'design: 1'; this service reads version 1")
    standard = STANDARDS.get(str(data.get("standard")))
    if standard is None:
        reader.wrong(data, "standard", f"'{str(data.get('standard'))[:60]}' is not a standard; {', '.join(STANDARDS)}")
    fits = reader.mapping(data, "fits", "fits is a mapping of facts, like 'skew: \"< 1 deg\"'")
    when = Conditions(reader, {}).read(fits)
    fields = _fields(reader, data, standard)
    given = reader.mapping(data, "parameters", "parameters is a mapping of sizes")
    on = reader.mapping(data, "on", "on is a trial without actions")
    design = None
    if standard is not None and not reader.problems:
        said = {"code": str(data.get("code") or ""), "method": str(data.get("method") or "")}
        design = Design(standard, Joined("all", tuple(when)), fields, plain(given), plain(on), **said)
        for name, value in given.items():
            reader.attempt(given, name, _tried, design, standard, str(name), value)
    if reader.problems or design is None:
        raise RulebookError(sorted(set(reader.problems)))
    return design


def _loaded(text: str) -> Any:
    """What the text says; what we wrote ourselves is JSON, which is read many times faster."""
    try:
        return json.loads(text)
    except (ValueError, RecursionError):
        pass
    try:
        return load(text, comments=True)
    except NotYaml as exc:
        raise RulebookError([(exc.line, exc.column, exc.words)]) from exc


def _tried(design: Design, standard: Standard, name: str, value: Any) -> None:
    """Whether a parameter can be read with the fields as they usually are."""
    known = {of.name: of for of in design.fields}
    standard.read_one(name, _put(value, {of.name: of.usual for of in design.fields}, known))


def _fields(reader: Reader, data: dict[str, Any], standard: Standard | None) -> tuple[Open, ...]:
    given = reader.mapping(data, "fields", "fields is a mapping of what is asked, each with usual")
    if len(given) > MOST_FIELDS:
        reader.wrong(data, "fields", f"{len(given)} fields; at most {MOST_FIELDS}")
    taken = {*(standard.names if standard else ()), *FUNCTIONS, *FACTS, "usual", "supported", "support"}
    found = []
    for name, node in given.items():
        if not isinstance(name, str) or not _NAME.match(name) or name in taken:
            words = "cannot be a field's name: small letters, like n or wide, that no parameter, fact or function has"
            reader.wrong(given, name, f"'{str(name)[:40]}' {words}", of_value=False)
            continue
        if not isinstance(node, dict):
            node = {"usual": node}
        else:
            reader.keys(node, FIELD_KEYS, "a field")
        own = reader.attempt(given, name, _field, name, node)
        if own is not None:
            found.append(own)
    return tuple(found)


def _field(name: str, node: Mapping[str, Any]) -> Open:
    choices = tuple(str(one) for one in node.get("choices") or ())
    usual = str(node.get("usual") if node.get("usual") is not None else (choices[0] if choices else "")).strip()
    if not usual:
        raise InputError(f"{name}: say what it usually is, like usual: 3")
    kind = "words" if choices else _kind(usual)
    low, high = (str(node[key]).strip() if node.get(key) is not None else "" for key in ("low", "high"))
    own = Open(name, kind, str(node.get("label") or name), str(node.get("help") or ""), usual, low, high, choices)
    for value in (usual, *(v for v in (low, high) if v)):
        own.read(value)
    return own


def _kind(usual: str) -> str:
    match = _UNIT.match(usual)
    if match:
        return kind_of_unit(match["unit"])
    return "count" if re.fullmatch(r"\d+", usual) else "number"
