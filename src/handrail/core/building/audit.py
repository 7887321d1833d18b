"""Is the data right? Balance of every node, unknown names, missing forces, forces that a release denies."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.building.combining import strength_set
from handrail.core.building.model import ENDS, RELEASES, Building, NodeForces
from handrail.core.building.pieces import broken_pieces, find_pieces
from handrail.core.units import show

SEVERITIES = ("error", "warning", "note")
OUT_OF_BALANCE = 0.01
RELEASED = 0.01
AGREES = 0.005
UNSIGNED = {
    "spectrum": "a spectrum: its axial force and its other components are each taken with both signs",
    "envelope": "an envelope: shown, never checked",
}


@dataclass(frozen=True)
class Finding:
    """One thing that the audit saw. `severity` is error, warning or note; `value` is what it measured."""

    code: str
    severity: str
    message: str
    node: str = ""
    member: str = ""
    value: float = 0.0

    def as_dict(self) -> dict[str, Any]:
        return self.__dict__


@dataclass(frozen=True)
class Audit:
    counts: dict[str, int]
    balance: dict[str, Any]
    worst: list[dict[str, Any]]
    findings: list[Finding]


def audit(building: Building) -> Audit:
    """The audit of one revision; findings sorted warnings first."""
    residual, share = balance(building)
    findings = [
        *_pieces(building),
        *_names(building),
        *_forces(building),
        *_balance_findings(building, residual, share),
        *_stiff_floors(building),
        *_released(building),
        *_agreement(building),
    ]
    findings.sort(key=lambda f: (SEVERITIES.index(f.severity), f.code))
    worst = float(share.max()) if share.size else 0.0
    where = np.unravel_index(int(share.argmax()), share.shape) if share.size else (0, 0)
    return Audit(
        counts=_counts(building),
        balance={
            "worst_share": worst,
            "node": building.nodes[where[0]] if share.size else "",
            "result": building.results[where[1]] if share.size else "",
            "nodes_checked": int(share.shape[0]),
        },
        worst=_worst_forces(building),
        findings=findings,
    )


def _counts(building: Building) -> dict[str, int]:
    methods = Counter(f"{c.method} {c.set}" for c in building.combinations)
    return {
        "nodes": len(building.nodes),
        "members": len(building.members),
        "sections": len({m.section for m in building.members}),
        "supports": len(building.supports),
        **({"foundations": len(building.foundations)} if building.foundations else {}),
        "cases": len(building.cases),
        **{f"combinations, {name}": count for name, count in methods.items()},
    }


def balance(building: Building) -> tuple[np.ndarray, np.ndarray]:
    """(residual (nodes, results, 6), share (nodes, results)) of -on_member + load + reaction at every node.

    Zero for spectra and envelopes, which cannot balance.
    The share is the larger of force over the forces meeting there and moment over the moments, with a
    floor of 0.1 % of the building's largest so that idle nodes do not count.
    """
    n, r = len(building.nodes), len(building.results)
    total, met = np.zeros((n, r, 6)), np.zeros((n, r, 2))
    forces = np.nan_to_num(building.forces)
    turn = building.axes
    for end in (0, 1):
        at = np.array([m.node(end) for m in building.members])
        force = np.einsum("mrk,mkg->mrg", forces[:, :, end, :3], turn)
        moment = np.einsum("mrk,mkg->mrg", forces[:, :, end, 3:], turn)
        if building.forces_at == "offset":
            moment = moment + np.cross(_levers(building, end)[:, None, :], force)
        np.add.at(total, at, -np.concatenate([force, moment], axis=-1))
        np.add.at(met, at, np.stack([np.linalg.norm(force, axis=-1), np.linalg.norm(moment, axis=-1)], axis=-1))
    for given in (building.reactions, building.node_loads):
        _add(total, met, given)
    held = np.array([[building.supports.get(k, (False,) * 6)] for k in range(n)]).reshape(n, 1, 6)
    known = _has_reactions(building)[:, :, None] | ~held  # a held direction balances only where its reaction is given
    residual = np.where(known & _signed(building)[None, :, None], total, 0.0)
    size = np.stack([np.linalg.norm(residual[..., :3], axis=-1), np.linalg.norm(residual[..., 3:], axis=-1)], axis=-1)
    floor = np.maximum(met.max(axis=(0, 1), initial=0.0) * 1e-3, 1e-9)
    moment_floor = np.maximum(floor[1], floor[0] * float(np.median(building.lengths)) if len(building.members) else 1.0)
    scale = np.maximum(met, np.array([floor[0], moment_floor]))
    return residual, (size / scale).max(axis=-1)


def _signed(building: Building) -> np.ndarray:
    """(results,) whether a result balances at all: a spectrum or an envelope has lost its signs."""
    unsigned = {c.name for c in building.cases if c.kind in UNSIGNED}
    unsigned |= {c.name for c in building.combinations if any(case in unsigned for case, _ in c.terms)}
    return np.array([name not in unsigned for name in building.results], bool)


def _levers(building: Building, end: int) -> np.ndarray:
    """(members, 3) from the node to the face where the forces are given."""
    sense = -1.0 if end else 1.0
    offsets = np.array([m.end_offset_j if end else m.end_offset_i for m in building.members])
    return sense * offsets[:, None] * building.axes[:, 0, :]


def _add(total: np.ndarray, met: np.ndarray, given: NodeForces) -> None:
    np.add.at(total, (given.node, given.result), given.values)
    sizes = np.stack([np.linalg.norm(given.values[:, :3], axis=1), np.linalg.norm(given.values[:, 3:], axis=1)], axis=-1)
    np.add.at(met, (given.node, given.result), sizes)


def _has_reactions(building: Building) -> np.ndarray:
    found = np.zeros((len(building.nodes), len(building.results)), bool)
    found[building.reactions.node, building.reactions.result] = True
    return found


def _pieces(building: Building) -> Iterator[Finding]:
    """Ids of physical members that cannot be: their elements are framed one by one."""
    for name, why in broken_pieces(building, find_pieces(building)).items():
        own = [m.name for m in building.members if m.physical == name]
        yield Finding("physical_broken", "error", f"physical {name} {why} ({', '.join(own[:4])}{' ...' if len(own) > 4 else ''}): they are taken "
                      f"one by one", member=own[0], value=len(own))  # fmt: skip


def _names(building: Building) -> Iterator[Finding]:
    for name in sorted({m.section for m in building.members}):
        if building.section(name) is None:
            used = [m.name for m in building.members if m.section == name]
            yield Finding("unknown_section", "warning", f"section {name} is not in the catalogue: {_members(used)}, "
                          f"their connections stay unchecked", member=used[0], value=len(used))  # fmt: skip
    for name in sorted({m.grade for m in building.members}):
        if building.grade(name) is None:
            used = [m.name for m in building.members if m.grade == name]
            yield Finding("unknown_grade", "warning", f"grade {name} is not in the catalogue: {_members(used)}",
                          member=used[0], value=len(used))  # fmt: skip
    for name in building.own_sections:
        yield Finding("own_section", "note", f"section {name} is the job's own, not the catalogue's")
    for name in building.unread:
        what = f"file {name} is not listed in the manifest" if name.lower().endswith(".csv") else f"table {name} is not used yet"
        yield Finding("table_unread", "warning", f"{what}: what it says is left out")
    for index in sorted(building.foundations.keys() - building.supports.keys()):
        yield Finding("unused_foundation", "warning", f"node {building.nodes[index]} has a foundation and no support: it is not used",
                      node=building.nodes[index])  # fmt: skip
    for index in sorted(building.supports.keys() - building.foundations.keys()) if building.foundations else ():
        yield Finding("no_foundation", "warning", f"node {building.nodes[index]} has a support and no foundation: its base stays unchecked",
                      node=building.nodes[index])  # fmt: skip
    for index, why in building.unknown_splices.items():
        yield Finding("splice_unknown", "warning", f"splice {building.nodes[index]}: {why}", node=building.nodes[index])
    for index, node in enumerate(building.nodes):
        if index not in building.ends_at:
            yield Finding("unused_node", "warning", f"node {node} has no member", node=node)


def _members(names: list[str]) -> str:
    return f"{len(names)} members" if len(names) > 1 else f"member {names[0]}"


def _forces(building: Building) -> Iterator[Finding]:
    gone = np.isnan(building.forces).any(axis=-1)  # (m, r, 2)
    for k, member in enumerate(building.members):  # said of the splice itself
        for end in (0, 1):
            gone[k, :, end] &= member.node(end) not in building.unknown_splices
    for index in np.nonzero(gone.any(axis=(1, 2)))[0]:
        results = [building.results[k] for k in np.nonzero(gone[index].any(axis=1))[0]]
        name = building.members[index].name
        text = "all results" if len(results) == len(building.results) else f"{len(results)} results ({results[0]} ...)"
        yield Finding("forces_missing", "warning", f"member {name} has no forces for {text}", member=name, value=len(results))
    if not any(c.set == "strength" and c.method in ("LRFD", "ASD") for c in building.combinations):
        yield Finding("no_combinations", "error", "there is no strength combination of LRFD or ASD: nothing can be checked")
    for method in sorted({c.method for c in building.combinations if c.set == "strength"}):
        for wanted in ("strength", "overstrength"):
            for name, reason in strength_set(building, method, wanted).missing:
                yield Finding("combination_unformed", "warning", f"combination {name} cannot be formed: {reason}")
    yield from _collectors(building)
    for case in building.cases:
        if case.kind in UNSIGNED:
            yield Finding(case.kind, "note", f"case {case.name} is {UNSIGNED[case.kind]}; its nodes cannot balance")


def _collectors(building: Building) -> Iterator[Finding]:
    """Connections of collectors, and bases of the lateral system, need overstrength combinations of every method that has strength ones."""
    found = [m.name for m in building.members if m.seismic == "collector"]
    at_bases = {m for k in building.foundations for m, _ in building.ends_at.get(k, ()) if building.members[m].seismic in ("column", "brace")}
    at_bases |= {m for k in building.spliced for m, _ in building.ends_at.get(k, ()) if building.members[m].seismic == "column"}
    bases = sorted(building.members[m].name for m in at_bases)
    methods = {of: {c.method for c in building.combinations if c.set == of} for of in ("strength", "overstrength")}
    for method in sorted(methods["strength"] - methods["overstrength"]) if found else ():
        yield Finding("no_overstrength", "warning", f"{_members(found)}: collector, but there are no overstrength combinations of {method}; "
                      f"shear connections there stay unchecked", member=found[0], value=len(found))  # fmt: skip
    for method in sorted(methods["strength"] - methods["overstrength"]) if bases else ():
        yield Finding("no_overstrength_bases", "warning", f"{_members(bases)} of the lateral system at bases or splices, but there are no overstrength "
                      f"combinations of {method}; these stay unchecked", member=bases[0], value=len(bases))  # fmt: skip
    if building.foundations and not any(c.method == "LRFD" and c.set == "strength" for c in building.combinations):
        yield Finding("no_concrete_combinations", "warning", "there are no strength combinations of LRFD: anchors and concrete have no allowable "
                      "stress, and bases stay unchecked")  # fmt: skip


def _balance_findings(building: Building, residual: np.ndarray, share: np.ndarray) -> Iterator[Finding]:
    system = building.system
    for index in np.nonzero((share > OUT_OF_BALANCE).any(axis=1))[0]:
        node, k = building.nodes[index], int(share[index].argmax())
        force = residual[index, k]
        if index in building.diaphragms and abs(force[2]) <= OUT_OF_BALANCE * max(float(np.linalg.norm(force[:3])), 1e-9):
            yield Finding("diaphragm_transfer", "note", f"node {node} transfers {show(float(np.linalg.norm(force[:2])), 'force', system)} "
                          f"in plane to diaphragm {building.diaphragms[int(index)]} in {building.results[k]}", node=node,
                          value=float(share[index, k]))  # fmt: skip
            continue
        amounts = f"{show(float(np.linalg.norm(force[:3])), 'force', system)}, {show(float(np.linalg.norm(force[3:])), 'moment', system)}"
        yield Finding("out_of_balance", "warning", f"node {node} is out of balance by {share[index, k]:.1%} in {building.results[k]} ({amounts})",
                      node=node, value=float(share[index, k]))  # fmt: skip


def _stiff_floors(building: Building) -> Iterator[Finding]:
    """Beams on a rigid diaphragm have no axial force in the analysis: what they really carry is left out."""
    idle: dict[str, int] = {}
    for index, member in enumerate(building.members):
        floor = building.diaphragms.get(member.i)
        if (
            floor
            and floor == building.diaphragms.get(member.j)
            and np.abs(np.nan_to_num(building.forces[index, ..., 0])).max(initial=0.0) < 1.0
        ):
            idle[floor] = idle.get(floor, 0) + 1
    for floor, count in sorted(idle.items()):
        yield Finding("diaphragm_axial", "note", f"diaphragm {floor}: N = 0 in {count} beams on it, because it is rigid; collectors need "
                      f"their axial force from elsewhere", value=count)  # fmt: skip


def _released(building: Building) -> Iterator[Finding]:
    forces = np.abs(np.nan_to_num(building.forces)).max(axis=1, initial=0.0)  # (m, 2, 6)
    largest = np.array([forces[..., :3].max(initial=1e-9)] * 3 + [forces[..., 3:].max(initial=1e-9)] * 3)
    for index, member in enumerate(building.members):
        for end in (0, 1):
            for k, name in enumerate(RELEASES):
                own = max(forces[index, :, 3 * (k // 3) : 3 * (k // 3) + 3].max(), 1e-3 * largest[k])
                if name in member.release(end) and forces[index, end, k] > RELEASED * own:
                    amount = show(float(forces[index, end, k]), "force" if k < 3 else "moment", building.system)
                    yield Finding("release_denied", "warning", f"member {member.name} end {ENDS[end]} releases {name} but carries {amount}",
                                  member=member.name, value=float(forces[index, end, k]))  # fmt: skip


def _agreement(building: Building) -> Iterator[Finding]:
    """Where both cases and combinations are given, they agree to 0.5 % of the member's largest."""
    column = {name: k for k, name in enumerate(building.results)}
    linear = {c.name for c in building.cases if c.kind == "linear"}
    for combination in building.combinations:
        if combination.name not in column or not all(c in column and c in linear for c, _ in combination.terms):
            continue
        formed = sum(f * building.forces[:, column[c]] for c, f in combination.terms)
        given = building.forces[:, column[combination.name]]
        scale = np.stack([np.abs(given[..., :3]).max(axis=(1, 2)), np.abs(given[..., 3:]).max(axis=(1, 2))], axis=-1)
        scale = np.repeat(np.maximum(scale, 1e-3 * scale.max(axis=0)), 3, axis=1)
        off = np.nan_to_num(np.abs(formed - given) / np.maximum(scale, 1e-9)[:, None, :]).max(axis=(1, 2))
        for index in np.nonzero(off > AGREES)[0]:
            name = building.members[index].name
            yield Finding("combination_differs", "warning", f"member {name}: combination {combination.name} as given differs from its "
                          f"cases by {off[index]:.1%}", member=name, value=float(off[index]))  # fmt: skip


def _worst_forces(building: Building) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = []
    if not building.forces.size:
        return found
    forces = np.nan_to_num(building.forces)
    for k, name in enumerate(("Fx", "Fy", "Fz", "Mx", "My", "Mz")):
        at = np.unravel_index(int(np.abs(forces[..., k]).argmax()), forces.shape[:3])
        found.append({
            "component": name,
            "value": float(forces[(*at, k)]) * (1e-3 if k < 3 else 1e-6),
            "unit": "kN" if k < 3 else "kN*m",
            "member": building.members[at[0]].name,
            "end": ENDS[at[2]],
            "result": building.results[at[1]],
        })  # fmt: skip
    return found
