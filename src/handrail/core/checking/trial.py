"""A trial: one connection given whole in a file, checked without a building."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core import units
from handrail.core.actions import COMPONENTS, Actions
from handrail.core.catalogue import Steel, grade, grades_fit, section
from handrail.core.checking.asce7 import combinations
from handrail.core.checking.connection import check
from handrail.core.checking.result import Result
from handrail.core.codes.aisc360 import Code, code
from handrail.core.errors import InputError
from handrail.core.standards import STANDARDS, Standard, standard
from handrail.core.standards.situation import Foundation, Situation, faces_of
from handrail.core.standards.sizes import Sizes

KEYS = {"code", "method", "framing", "standard", "supported", "support", "foundation", "geometry", "parameters", "actions", "cases",
        "combinations"}  # fmt: skip
GEOMETRY = {"skew", "slope", "top_offset", "opposed", "support_end", "face"}
ASCE = "ASCE 7-22"
BESIDE = ("V_opposed", "N_opposed", "N_support")  # forces of the beam opposite, and the support's own
ROW = (*COMPONENTS, *BESIDE)
KIND = {name: "moment" if name in ("M", "Mw", "T") else "force" for name in ROW}


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
        """The trial checked; with its worked lines where `tracing`."""
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
    used = code(_text(data, "code", "AISC 360-22"), _text(data, "method", "LRFD").upper())
    chosen = standard(str(_need(data, "standard", f"one of {', '.join(STANDARDS)}")))
    if "cases" in data and "actions" in data:
        raise InputError("give actions (factored) or cases (unfactored), not both")
    if "combinations" in data and "cases" not in data:
        raise InputError("combinations go with cases (unfactored); actions are factored already: leave combinations out")
    if "cases" in data:
        places, names, table = _cases(data["cases"], data.get("combinations"), used.method)
    else:
        places, (names, table) = (), _actions(data.get("actions"))
    situation = _situation(data, chosen, table)
    if situation.framing != "beam_to_hollow_column" and not np.isnan(table[..., -1]).all():
        raise InputError("N_support is the own force of a hollow column; leave it out here")
    given = chosen.read(dict(_mapping(data.get("parameters"), "parameters")), "given")
    return Trial(used, chosen, situation, chosen.complete(situation, given), _acting(names, table), places)


def _acting(names: tuple[str, ...], table: np.ndarray) -> Actions:
    """Actions from (..., combinations, 9) in the order of ROW; NaN is not given."""
    opposed = table[..., len(COMPONENTS) : len(COMPONENTS) + 2]
    given = ~np.isnan(opposed).all(axis=-1, keepdims=True)  # one of the two: the other is nothing
    opposed = np.where(given, np.nan_to_num(opposed), np.nan)
    support: Any = table[..., -1]
    if np.isnan(support).all():
        support = float("nan")
    own = np.nan_to_num(table[..., : len(COMPONENTS)])
    return Actions.of(own, names, np.stack([opposed[..., 1], opposed[..., 0]], axis=-1), support)


def _situation(data: Mapping[str, Any], chosen: Standard, table: np.ndarray) -> Situation:
    framing = str(_need(data, "framing", f"one of {', '.join(chosen.framings)}"))
    if framing not in chosen.framings:
        raise InputError(f"framing: {chosen.name} goes with {', '.join(chosen.framings)}, not '{framing}'")
    geometry = _mapping(data.get("geometry"), "geometry")
    _known(geometry, GEOMETRY, "geometry")
    supported = _member(data, "supported")
    if "foundation" in data and (framing != "column_base" or "support" in data):
        raise InputError("foundation: it goes with framing column_base, instead of a support")
    support = _member(data, "support") if "foundation" not in data else None
    if support is not None and support.section.hollow != (framing == "beam_to_hollow_column"):
        raise InputError(f"support: {support.section.name} does not go with {framing}")
    return Situation(
        framing, supported, support, read_foundation(data["foundation"]) if support is None else None,
        skew=_quantity(geometry, "skew", "angle"), slope=_quantity(geometry, "slope", "angle"),
        top_offset=_quantity(geometry, "top_offset", "length"), opposed=_opposed(geometry, table),
        support_end=bool(_flag(geometry, "support_end")), face=_face(geometry, support),
    )  # fmt: skip


def _opposed(geometry: Mapping[str, Any], table: np.ndarray) -> bool:
    """Whether a beam stands opposite: as said, or because its forces are given."""
    said = _flag(geometry, "opposed")
    given = not np.isnan(table[..., len(COMPONENTS) : len(COMPONENTS) + 2]).all()
    if given and said is False:
        raise InputError("geometry.opposed is false, but the actions give V_opposed or N_opposed: leave out one of the two")
    return bool(said) or given


def _flag(geometry: Mapping[str, Any], name: str) -> bool | None:
    """true, false, or nothing said."""
    value = geometry.get(name)
    if name in geometry and not isinstance(value, bool):
        raise InputError(f"geometry.{name}: write true or false, not {value!r}")
    return value


def _face(geometry: Mapping[str, Any], support: Steel | None) -> str:
    if "face" not in geometry:
        return ""
    name, faces = str(geometry["face"]).strip().lower(), faces_of(support)
    if name not in faces:
        what = support.section.name if support else "a foundation"
        raise InputError(f"geometry.face: '{geometry['face']}' is none of {', '.join(faces)}" if faces else f"geometry.face: {what} has no "
                         f"faces to tell apart; leave it out")  # fmt: skip
    return name


def read_foundation(raw: Any) -> Foundation:
    """What a base stands on: kind, fc, thickness, edges, cracked. Raises InputError that names the entry."""
    entry = _mapping(raw, "foundation")
    _known(entry, {"kind", "fc", "thickness", "edges", "cracked"}, "foundation")
    kind = str(_need(entry, "kind", "pedestal, footing or slab"))
    if kind not in ("pedestal", "footing", "slab"):
        raise InputError(f"foundation.kind: '{kind}' is none of pedestal, footing, slab")
    sizes = {name: _quantity(entry, name, of, "foundation") for name, of in (("fc", "stress"), ("thickness", "length"))}
    if low := [name for name, value in sizes.items() if value <= 0]:
        raise InputError(f"foundation.{low[0]}: give one above 0")
    edges = _mapping(entry.get("edges", {}), "foundation.edges")
    _known(edges, {"along", "across"}, "foundation.edges")
    cracked = entry.get("cracked", True)
    if not isinstance(cracked, bool):
        raise InputError(f"foundation.cracked: write true or false, not {cracked!r}")
    return Foundation(kind, sizes["fc"], sizes["thickness"], _pair(edges, "along"), _pair(edges, "across"), cracked)


def _pair(edges: Mapping[str, Any], name: str) -> tuple[float, float]:
    """Distances to the minus and the plus edge; without end where they are left out."""
    given = edges.get(name)
    if given is None:
        return (np.inf, np.inf)
    if not isinstance(given, list) or len(given) != 2:
        raise InputError(f"foundation.edges.{name}: give the minus and the plus side, like [12 in, 20 in]")
    found = tuple(np.inf if v is None else _parsed(v, "length", f"foundation.edges.{name}") for v in given)
    if min(found) <= 0:
        raise InputError(f"foundation.edges.{name}: an edge is some way off the column's centre, above 0")
    return found[0], found[1]


def _member(data: Mapping[str, Any], name: str) -> Steel:
    entry = _mapping(_need(data, name, "{section: W16X31, grade: A992}"), name)
    _known(entry, {"section", "grade"}, name)
    try:
        found = section(str(_need(entry, "section", "a section's name"))), grade(str(_need(entry, "grade", "a grade's name")))
    except InputError as exc:
        raise InputError(f"{name}: {exc}") from exc
    if problem := grades_fit(*found):
        raise InputError(f"{name}: {problem}")
    return Steel(*found)


def _actions(entries: Any) -> tuple[tuple[str, ...], np.ndarray]:
    """Names and (combinations, 9) of the list of actions."""
    if not isinstance(entries, list) or not entries:
        raise InputError("actions: give a list, like - {name: 1.2D+1.6L, V: 42 kip}")
    table, names = [], []
    for row, raw in enumerate(entries):
        where = f"actions[{row + 1}]"
        entry = _mapping(raw, where)
        _known(entry, {"name", *ROW}, where)
        names.append(str(row + 1 if entry.get("name") is None else entry["name"]))
        table.append(_components(entry, f"{where} ({names[-1]})"))
    return tuple(names), np.array(table)


def _cases(entries: Any, combined: Any, method: str) -> tuple[tuple[str, ...], tuple[str, ...], np.ndarray]:
    """(places, combinations, (places, combinations, 9)) from unfactored cases at each place that shares the connection."""
    if str(combined).strip().upper() != ASCE:
        raise InputError(f"combinations: '{combined}' is not held; write {ASCE}")
    places = _mapping(entries, "cases")
    if not places:
        raise InputError("cases: give places with their cases, like {north: {D: {V: 15 kip}, L: {V: 15 kip}}}")
    tables = {
        name: {case: _components(_mapping(at, f"cases.{name}.{case}"), f"cases.{name}.{case}") for case, at in _mapping(of, f"cases.{name}").items()}
        for name, of in places.items()
    }  # fmt: skip
    if empty := [name for name, of in tables.items() if not of]:
        raise InputError(f"cases.{empty[0]}: no case is given, like {{D: {{V: 15 kip}}}}")
    found = combinations(method, {str(case) for of in tables.values() for case in of})
    table = np.zeros((len(tables), len(found), len(ROW)))
    for row, of in enumerate(tables.values()):
        for column, terms in enumerate(found.values()):
            table[row, column] = sum((factor * np.nan_to_num(of[case]) for case, factor in terms.items() if case in of), np.zeros(len(ROW)))
        beside = np.array([~np.isnan(at) for at in of.values()]).any(axis=0)
        table[row][:, ~beside] = np.nan
    return tuple(str(name) for name in tables), tuple(found), table


def _components(entry: Mapping[str, Any], where: str) -> np.ndarray:
    """(9,) of one set of actions in the order of ROW; NaN where not given. At least one of the member's own is."""
    _known(entry, {"name", *ROW}, where)
    if not any(name in entry for name in COMPONENTS):
        raise InputError(f"{where}: no action is given; write at least one of {', '.join(COMPONENTS)}, like V: 42 kip (V: 0 for none)")
    if empty := [name for name in ROW if name in entry and entry[name] is None]:
        raise InputError(f"{where}: {empty[0]} is empty; give its amount, or leave it out")
    return np.array([_parsed(entry[name], KIND[name], where) if name in entry else np.nan for name in ROW])


def _parsed(value: Any, kind: str, where: str) -> float:
    try:
        return units.parse(value, kind)
    except InputError as exc:
        raise InputError(f"{where}: {exc}") from exc


def _quantity(entry: Mapping[str, Any], name: str, kind: str, where: str = "geometry") -> float:
    if name in entry and entry[name] is None:
        raise InputError(f"{where}.{name} is empty; give its amount, or leave it out")
    return _parsed(entry.get(name, 0), kind, f"{where}.{name}")


def _text(data: Mapping[str, Any], name: str, default: str) -> str:
    if name in data and data[name] is None:
        raise InputError(f"{name} is empty; leave it out for {default}, or give it")
    return str(data.get(name, default))


def _mapping(value: Any, where: str) -> Mapping[str, Any]:
    if value is None and where in ("geometry", "parameters"):
        return {}
    if not isinstance(value, Mapping):
        raise InputError(f"{where}: expected a mapping, got {'nothing' if value is None else repr(value)}")
    return value


def _need(data: Mapping[str, Any], name: str, sample: str) -> Any:
    if data.get(name) is None:
        raise InputError(f"{name} is missing; give {sample}")
    return data[name]


def _known(data: Mapping[str, Any], names: set[str], where: str) -> None:
    if unknown := [str(k) for k in data if k not in names]:
        raise InputError(f"{where}: '{unknown[0]}' is not known; it takes {', '.join(sorted(names))}")
