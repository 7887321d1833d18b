"""A trial: one connection given whole in a file, checked without a building."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core import units
from handrail.core.catalogue import Grade, Section, grade, section
from handrail.core.checking.asce7 import combinations
from handrail.core.checking.connection import check, grades_fit
from handrail.core.checking.result import Result
from handrail.core.codes.aisc360 import Code, code
from handrail.core.errors import InputError
from handrail.core.standards import STANDARDS, Standard, standard
from handrail.core.standards.base import Sizes
from handrail.core.standards.situation import COMPONENTS, Actions, Situation

KEYS = {"code", "method", "framing", "standard", "supported", "support", "geometry", "parameters", "actions", "cases", "combinations"}
ASCE = "ASCE 7-22"
KIND = {name: "moment" if name in ("M", "Mw", "T") else "force" for name in COMPONENTS}


@dataclass(frozen=True)
class Trial:
    """A trial as read: what, where, how big, and under which actions."""

    code: Code
    standard: Standard
    situation: Situation
    sizes: Sizes
    actions: Actions
    places: tuple[str, ...] = ()

    def run(self, tracing: bool = False) -> Result:
        return check(self.standard, self.situation, self.sizes, self.code, self.actions, tracing)

    def answer(self, result: Result, system: str = "si", trace: bool = False) -> dict[str, Any]:
        """The result as `handrail trial --json` prints it; with cases, what governs names its place."""
        found = result.as_dict(self.standard, system, trace)
        if self.places and result.governing:
            found["governing"]["place"] = self.places[result.governing.place]
        return found


def read_trial(data: Any) -> Trial:
    """The trial in parsed YAML or JSON. Raises InputError that names the entry and what it should be."""
    if not isinstance(data, Mapping):
        raise InputError("a trial is a mapping with code, method, framing, standard, supported, support and actions")
    _known(data, KEYS, "the trial")
    used = code(str(data.get("code", "AISC 360-22")), str(data.get("method", "LRFD")).upper())
    chosen = standard(str(_need(data, "standard", f"one of {', '.join(STANDARDS)}")))
    situation = _situation(data, chosen)
    given = chosen.read(dict(_mapping(data.get("parameters"), "parameters")), "given")
    sizes = chosen.complete(situation, given)
    if "cases" not in data:
        return Trial(used, chosen, situation, sizes, _actions(data.get("actions")))
    if "actions" in data:
        raise InputError("give actions (factored) or cases (unfactored), not both")
    places, actions = _cases(data["cases"], data.get("combinations"), used.method)
    return Trial(used, chosen, situation, sizes, actions, places)


def _situation(data: Mapping[str, Any], chosen: Standard) -> Situation:
    framing = str(_need(data, "framing", f"one of {', '.join(chosen.framings)}"))
    if framing not in chosen.framings:
        raise InputError(f"framing: {chosen.name} goes with {', '.join(chosen.framings)}, not '{framing}'")
    geometry = _mapping(data.get("geometry"), "geometry")
    _known(geometry, {"skew", "slope", "top_offset", "opposed", "support_end"}, "geometry")
    supported, supported_grade = _member(data, "supported")
    support, support_grade = _member(data, "support")
    hollow = framing == "beam_to_hollow_column"
    if support.hollow != hollow:
        raise InputError(f"support: {support.name} does not go with {framing}")
    return Situation(
        framing, supported, supported_grade, support, support_grade,
        skew=_quantity(geometry, "skew", "angle"), slope=_quantity(geometry, "slope", "angle"),
        top_offset=_quantity(geometry, "top_offset", "length"), opposed=geometry.get("opposed") is True,
        support_end=geometry.get("support_end") is True,
    )  # fmt: skip


def _member(data: Mapping[str, Any], name: str) -> tuple[Section, Grade]:
    entry = _mapping(_need(data, name, "{section: W16X31, grade: A992}"), name)
    _known(entry, {"section", "grade"}, name)
    try:
        found = section(str(_need(entry, "section", "a section's name"))), grade(str(_need(entry, "grade", "a grade's name")))
    except InputError as exc:
        raise InputError(f"{name}: {exc}") from exc
    if problem := grades_fit(*found):
        raise InputError(f"{name}: {problem}")
    return found


def _actions(entries: Any) -> Actions:
    if not isinstance(entries, list) or not entries:
        raise InputError("actions: give a list, like - {name: 1.2D+1.6L, V: 42 kip}")
    table = np.zeros((len(entries), 6))
    opposed = np.zeros((len(entries), 6))
    names = []
    for row, raw in enumerate(entries):
        where = f"actions[{row + 1}]"
        entry = _mapping(raw, where)
        _known(entry, {"name", *COMPONENTS, "V_opposed", "N_opposed"}, where)
        names.append(str(entry.get("name", row + 1)))
        try:
            for column, component in enumerate(COMPONENTS):
                table[row, column] = units.parse(entry.get(component, 0), KIND[component])
                if column < 2:
                    opposed[row, column] = units.parse(entry.get(f"{component}_opposed", 0), "force")
        except InputError as exc:
            raise InputError(f"{where} ({names[-1]}): {exc}") from exc
    return Actions.of(table, tuple(names), opposed if opposed.any() else None)


def _cases(entries: Any, combined: Any, method: str) -> tuple[tuple[str, ...], Actions]:
    """(places, actions (places, combinations)) from unfactored cases at each place that shares the connection."""
    if str(combined).strip().upper() != ASCE:
        raise InputError(f"combinations: '{combined}' is not held; write {ASCE}")
    places = _mapping(entries, "cases")
    if not places:
        raise InputError("cases: give places with their cases, like {north: {D: {V: 15 kip}, L: {V: 15 kip}}}")
    tables = {
        name: {case: _components(at, f"cases.{name}.{case}") for case, at in _mapping(of, f"cases.{name}").items()}
        for name, of in places.items()
    }
    found = combinations(method, {str(case) for of in tables.values() for case in of})
    table = np.zeros((len(tables), len(found), 6))
    for row, of in enumerate(tables.values()):
        for column, terms in enumerate(found.values()):
            table[row, column] = sum((factor * of[case] for case, factor in terms.items() if case in of), np.zeros(6))
    return tuple(str(name) for name in tables), Actions.of(table, tuple(found))


def _components(raw: Any, where: str) -> np.ndarray:
    entry = _mapping(raw, where)
    _known(entry, set(COMPONENTS), where)
    try:
        return np.array([units.parse(entry.get(name, 0), KIND[name]) for name in COMPONENTS])
    except InputError as exc:
        raise InputError(f"{where}: {exc}") from exc


def _quantity(entry: Mapping[str, Any], name: str, kind: str) -> float:
    try:
        return units.parse(entry.get(name, 0), kind)
    except InputError as exc:
        raise InputError(f"geometry.{name}: {exc}") from exc


def _mapping(value: Any, where: str) -> Mapping[str, Any]:
    if value is None:
        return {}
    if not isinstance(value, Mapping):
        raise InputError(f"{where}: expected a mapping, got {value!r}")
    return value


def _need(data: Mapping[str, Any], name: str, sample: str) -> Any:
    if data.get(name) is None:
        raise InputError(f"{name} is missing; give {sample}")
    return data[name]


def _known(data: Mapping[str, Any], names: set[str], where: str) -> None:
    if unknown := [str(k) for k in data if k not in names]:
        raise InputError(f"{where}: '{unknown[0]}' is not known; it takes {', '.join(sorted(names))}")
