"""What acts on a trial's connection: factored actions, of one place or several that share it, or unfactored cases."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.actions import COMPONENTS, Actions, Forces
from handrail.core.checking.trial.entries import choice, flag, known, mapping, parsed
from handrail.core.codes.family import Code
from handrail.core.errors import InputError

EARTHQUAKE = ("E", "Ev")
HAS_E = re.compile(r"(?<![A-Za-z])E[hmvxy]?(?![A-Za-z])")
ASKED = ("column_base", "column_splice")  # where an earthquake leaves no friction
# forces of other pieces, by role; in the short form each has a name of its own
BESIDE = {"V_opposed": ("opposite", "V"), "N_opposed": ("opposite", "N"), "N_support": ("support", "N")}
OF_ROLE = {role: tuple(n for r, n in BESIDE.values() if r == role) for role, _ in BESIDE.values()}
ROW = (*COMPONENTS, *BESIDE)
KIND = {name: "moment" if name in ("M", "Mw", "T") else "force" for name in ROW}
ENTRY = {"name", "set", "method", "seismic", *ROW, *OF_ROLE}
SETS = ("strength", "overstrength")


@dataclass(frozen=True)
class Given:
    """`table` (combinations, 9), or (places, combinations, 9) where several places share the connection, in the order
    of ROW; NaN is not given. `sets` (method, set) and `seismic` belong to the combinations."""

    names: tuple[str, ...]
    table: np.ndarray
    sets: tuple[tuple[str, str], ...]
    seismic: tuple[bool, ...]
    places: tuple[str, ...] = ()

    def actions(self) -> Actions:
        """Ready to be checked."""
        beside = {name: self.table[..., ROW.index(name)] for name in BESIDE}
        given = ~np.isnan(beside["V_opposed"])  # a shear without a pull beside it; a pull without a shear is not known
        V, N = (np.where(given, np.nan_to_num(beside[name]), np.nan) for name in ("V_opposed", "N_opposed"))
        others = {"opposite": Forces(N=N, V=V)}
        if not np.isnan(beside["N_support"]).all():
            others["support"] = Forces(N=beside["N_support"])
        own = np.nan_to_num(self.table[..., : len(COMPONENTS)])
        return Actions.of(own, self.names, others, self.sets, self.seismic)


def read_actions(data: Mapping[str, Any], code: Code, anchored: bool) -> Given:
    """The actions of a trial by a code; `anchored` in concrete, which unfactored cases are combined for too. Raises
    InputError."""
    if "cases" in data and "actions" in data:
        raise InputError("give actions (factored) or cases (unfactored), not both")
    if "combinations" in data and "cases" not in data:
        raise InputError(
            "combinations go with cases (unfactored); actions are factored already: leave combinations out"
        )
    if "cases" in data:
        return _cases(data["cases"], data.get("combinations"), code, anchored)
    asks = data.get("framing") in ASKED
    if isinstance(data.get("actions"), Mapping):
        return _places(data["actions"], code.method, asks)
    return _listed(data.get("actions"), code.method, "actions", asks)


def _listed(entries: Any, method: str, where: str, asks: bool) -> Given:
    """The list of actions; `asks` whether an earthquake is in one whose name has an E."""
    if not isinstance(entries, list) or not entries:
        raise InputError(f"{where}: give a list, like - {{name: 1.2D+1.6L, V: 37 kip}}")
    table, names, sets, seismic = [], [], [], []
    for row, raw in enumerate(entries):
        at = f"{where}[{row + 1}]"
        entry = mapping(raw, at)
        known(entry, ENTRY, at)
        names.append(str(row + 1 if entry.get("name") is None else entry["name"]))
        table.append(_components(entry, f"{at} ({names[-1]})"))
        sets.append(
            (choice(entry, "method", ("lrfd", "asd"), at).upper() or method, choice(entry, "set", SETS, at) or SETS[0])
        )
        if asks and "seismic" not in entry and sets[-1][1] != "overstrength" and HAS_E.search(names[-1]):
            raise InputError(
                f"{at} ({names[-1]}): its name has an E; say whether an earthquake is in it (seismic: true or false),"
                " for that leaves no friction"
            )
        seismic.append(bool(flag(entry, "seismic", at)) or sets[-1][1] == "overstrength")
    return Given(tuple(names), np.array(table), tuple(sets), tuple(seismic))


def _places(entries: Mapping[str, Any], method: str, asks: bool) -> Given:
    """Places that share the connection, each with its own list; a combination that a place does not have is its first
    again."""
    if not entries:
        raise InputError("actions: give a list, or places with their lists, like {A: [{name: 1.2D+1.6L, N: -400 kip}]}")
    each = {str(name): _listed(of, method, f"actions.{name}", asks) for name, of in entries.items()}
    told: dict[str, tuple[tuple[str, str], bool]] = {}
    for place, given in each.items():
        if again := [name for name in given.names if given.names.count(name) > 1]:
            raise InputError(
                f"actions.{place}: two actions are named {again[0]}; name each, alike at every place that has it"
            )
        for name, of in zip(given.names, zip(given.sets, given.seismic, strict=True), strict=True):
            if told.setdefault(name, of) != of:
                raise InputError(
                    f"actions.{place}: {name} has another set, method or seismic than at the places before"
                )
    if len({frozenset(s for s in g.sets) for g in each.values()}) > 1:
        raise InputError("actions: every place needs actions of the same methods and sets")
    rows = []
    for given in each.values():
        own = dict(zip(given.names, given.table, strict=True))
        first = {of: row for of, row in reversed(list(zip(given.sets, given.table, strict=True)))}
        rows.append([own.get(name, first[of]) for name, (of, _) in told.items()])
    sets, seismic = zip(*told.values(), strict=True)
    return Given(tuple(told), np.array(rows), sets, seismic, tuple(each))


def _cases(entries: Any, combined: Any, code: Code, anchored: bool) -> Given:
    """Unfactored cases at each place that shares the connection, combined."""
    situations = code.situations
    if str(combined).strip().upper() != situations.name:
        raise InputError(f"combinations: '{combined}' is not held; write {situations.name}")
    methods = dict.fromkeys((code.method, *((situations.concrete,) if anchored else ())))
    places = mapping(entries, "cases")
    if not places:
        raise InputError("cases: give places with their cases, like {north: {D: {V: 12 kip}, L: {V: 21 kip}}}")
    tables = {
        name: {
            case: _components(mapping(at, f"cases.{name}.{case}"), f"cases.{name}.{case}")
            for case, at in mapping(of, f"cases.{name}").items()
        }
        for name, of in places.items()
    }
    if empty := [name for name, of in tables.items() if not of]:
        raise InputError(f"cases.{empty[0]}: no case is given, like {{D: {{V: 15 kip}}}}")
    cases = {str(case) for of in tables.values() for case in of}
    formed = [(name, terms, by) for by in methods for name, terms in situations.combinations(by, cases).items()]
    table = np.zeros((len(tables), len(formed), len(ROW)))
    for row, of in enumerate(tables.values()):
        for column, (_, terms, _) in enumerate(formed):
            table[row, column] = sum(
                (factor * np.nan_to_num(of[case]) for case, factor in terms.items() if case in of), np.zeros(len(ROW))
            )
        beside = np.array([~np.isnan(at) for at in of.values()]).any(axis=0)
        table[row][:, ~beside] = np.nan
    return Given(
        tuple(name for name, _, _ in formed),
        table,
        tuple((by, SETS[0]) for _, _, by in formed),
        tuple(any(case in terms for case in EARTHQUAKE) for _, terms, _ in formed),
        tuple(str(name) for name in tables),
    )


def _components(entry: Mapping[str, Any], where: str) -> np.ndarray:
    """(9,) of one set of actions in the order of ROW; NaN where not given. At least one of the member's own is."""
    known(entry, ENTRY, where)
    if not any(name in entry for name in COMPONENTS):
        raise InputError(
            f"{where}: no action is given; write at least one of {', '.join(COMPONENTS)}, like V: 37 kip (V: 0 for"
            " none)"
        )
    given = {name: (entry[name], where) for name in ROW if name in entry} | _by_role(entry, where)
    if empty := [name for name, (value, _) in given.items() if value is None]:
        raise InputError(f"{where}: {empty[0]} is empty; give its amount, or leave it out")
    return np.array([parsed(given[name][0], KIND[name], given[name][1]) if name in given else np.nan for name in ROW])


def _by_role(entry: Mapping[str, Any], where: str) -> dict[str, tuple[Any, str]]:
    """The forces of other pieces that are written by role, `opposite: {V: 20 kip}`, by their short names, each with
    where it stands."""
    by_role: dict[str, tuple[Any, str]] = {}
    for short, (role, name) in BESIDE.items():
        if role not in entry:
            continue
        at = f"{where}.{role}"
        own = mapping(entry[role], at)
        known(own, set(OF_ROLE[role]), at)
        if name in own and short in entry:
            raise InputError(f"{where}: {short} is {role}'s {name}, which is given too; leave out one of the two")
        if name in own:
            by_role[short] = (own[name], f"{at}.{name}")
    return by_role
