"""Does every node balance, in every result?"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from handrail.core.building.audit.causes import likeliest
from handrail.core.building.audit.finding import Finding
from handrail.core.building.model import Building, NodeForces
from handrail.core.units import show

OUT_OF_BALANCE = 0.01
CAUSES = 50  # nodes, the worst first, whose likeliest cause is looked for
UNSIGNED = {
    "spectrum": "a spectrum: its axial force and its other components are each taken with both signs",
    "envelope": "an envelope: shown, never checked",
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
    residual = np.where(known & signed(building)[None, :, None], total, 0.0)
    size = np.stack([np.linalg.norm(residual[..., :3], axis=-1), np.linalg.norm(residual[..., 3:], axis=-1)], axis=-1)
    floor = np.maximum(met.max(axis=(0, 1), initial=0.0) * 1e-3, 1e-9)
    moment_floor = np.maximum(floor[1], floor[0] * float(np.median(building.lengths)) if len(building.members) else 1.0)
    scale = np.maximum(met, np.array([floor[0], moment_floor]))
    return residual, (size / scale).max(axis=-1)


def signed(building: Building) -> np.ndarray:
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


def out_of_balance(building: Building, residual: np.ndarray, share: np.ndarray) -> Iterator[Finding]:
    system = building.system
    worst = share.max(axis=1, initial=0.0)
    told = set(np.argsort(-worst, kind="stable")[:CAUSES].tolist())  # looked at for what went wrong
    for index in np.nonzero(worst > OUT_OF_BALANCE)[0]:
        node, k = building.nodes[index], int(share[index].argmax())
        force = residual[index, k]
        if index in building.diaphragms and abs(force[2]) <= OUT_OF_BALANCE * max(float(np.linalg.norm(force[:3])), 1e-9):
            yield Finding("diaphragm_transfer", "note", f"node {node} transfers {show(float(np.linalg.norm(force[:2])), 'force', system)} "
                          f"in plane to diaphragm {building.diaphragms[int(index)]} in {building.results[k]}", node=node,
                          value=float(share[index, k]))  # fmt: skip
            continue
        amounts = f"{show(float(np.linalg.norm(force[:3])), 'force', system)}, {show(float(np.linalg.norm(force[3:])), 'moment', system)}"
        out = [int(r) for r in np.argsort(-share[index], kind="stable") if share[index, r] > OUT_OF_BALANCE] if index in told else []
        cause = likeliest(building, int(index), out, residual[index]) if out else ""
        yield Finding("out_of_balance", "warning", f"node {node} is out of balance by {share[index, k]:.1%} in {building.results[k]} ({amounts})"
                      + (f": {cause}" if cause else ""), node=node, value=float(share[index, k]))  # fmt: skip


