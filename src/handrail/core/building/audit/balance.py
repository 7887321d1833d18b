"""Does every node balance, in every result?"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from handrail.core.building.audit.causes import general, likeliest
from handrail.core.building.audit.finding import Finding
from handrail.core.building.audit.wholes import levers, whole_causes
from handrail.core.building.model import Building, NodeForces
from handrail.core.building.precision import Precision, precision
from handrail.core.quantities.units import show

OUT_OF_BALANCE = 0.01
CAUSES = 50  # nodes, the worst first, whose likeliest cause is looked for
UNSIGNED = {
    "spectrum": "a spectrum: its axial force and its other components are each taken with both signs",
    "envelope": "an envelope: shown, never checked",
}


@dataclass(frozen=True)
class Balance:
    """`residual` (nodes, results, 6) of -on_member + load + reaction at every node, zero for spectra and envelopes,
    which cannot balance.

    `share` (nodes, results) is the larger of force over the forces meeting there and moment over the moments, with a
    floor of 0.1 % of the building's largest so that idle nodes do not count, and without what the figures' own rounding
    may leave. `loads` and `reactions` are those given, and of combinations that are given without, those of their
    cases; `known` (nodes, results, 6) the directions that can balance."""

    residual: np.ndarray
    share: np.ndarray
    loads: NodeForces
    reactions: NodeForces
    known: np.ndarray
    precise: Precision


def balance(building: Building) -> Balance:
    """Whether every node balances, in every result."""
    n, r = len(building.nodes), len(building.results)
    total, met = np.zeros((n, r, 6)), np.zeros((n, r, 2))
    reactions, loads, precise = (
        superposed(building, building.reactions),
        superposed(building, building.node_loads),
        precision(building),
    )
    forces = np.nan_to_num(building.forces)
    turn = building.axes
    for end in (0, 1):
        at = np.array([m.node(end) for m in building.members])
        force = np.einsum("mrk,mkg->mrg", forces[:, :, end, :3], turn)
        moment = np.einsum("mrk,mkg->mrg", forces[:, :, end, 3:], turn)
        if building.forces_at == "offset":
            moment = moment + np.cross(levers(building, end)[:, None, :], force)
        np.add.at(total, at, -np.concatenate([force, moment], axis=-1))
        np.add.at(met, at, np.stack([np.linalg.norm(force, axis=-1), np.linalg.norm(moment, axis=-1)], axis=-1))
    for given in (reactions, loads):
        _add(total, met, given)
    held = np.array([[building.supports.get(k, (False,) * 6)] for k in range(n)]).reshape(n, 1, 6)
    has = np.zeros((n, r), bool)
    has[reactions.node, reactions.result] = True
    known = (has[:, :, None] | ~held) & signed(building)[
        None, :, None
    ]  # a held direction balances only where its reaction is given
    residual = np.where(known, total, 0.0)
    size = np.stack([np.linalg.norm(residual[..., :3], axis=-1), np.linalg.norm(residual[..., 3:], axis=-1)], axis=-1)
    ends = np.bincount(np.array([(m.i, m.j) for m in building.members], int).ravel(), minlength=n) + 2
    slack = np.stack([np.asarray(v, float) for v in precise.left(ends)], axis=-1)[:, None, :]
    floor = np.maximum(met.max(axis=(0, 1), initial=0.0) * 1e-3, 1e-9)
    moment_floor = np.maximum(floor[1], floor[0] * float(np.median(building.lengths)) if len(building.members) else 1.0)
    scale = np.maximum(met, np.array([floor[0], moment_floor]))
    return Balance(residual, (np.where(size > slack, size, 0.0) / scale).max(axis=-1), loads, reactions, known, precise)


def superposed(building: Building, given: NodeForces) -> NodeForces:
    """Forces at nodes with those of combinations that are given without any: their cases' together, times their
    factors."""
    column = {name: k for k, name in enumerate(building.results)}
    linear = {c.name for c in building.cases if c.kind == "linear"}
    there = set(given.result.tolist())
    nodes, results, values = [given.node], [given.result], [given.values]
    for combination in building.combinations:
        index = column.get(combination.name, -1)
        if index < 0 or index in there or not all(case in linear for case, _ in combination.terms):
            continue
        for case, factor in combination.terms:
            rows = np.nonzero(given.result == column.get(case, -2))[0]
            nodes.append(given.node[rows])
            results.append(np.full(len(rows), index))
            values.append(factor * given.values[rows])
    return (
        NodeForces(np.concatenate(nodes).astype(int), np.concatenate(results).astype(int), np.concatenate(values))
        if len(given.node)
        else given
    )


def signed(building: Building) -> np.ndarray:
    """(results,) whether a result balances at all: a spectrum or an envelope has lost its signs."""
    unsigned = {c.name for c in building.cases if c.kind in UNSIGNED}
    unsigned |= {c.name for c in building.combinations if any(case in unsigned for case, _ in c.terms)}
    return np.array([name not in unsigned for name in building.results], bool)


def _add(total: np.ndarray, met: np.ndarray, given: NodeForces) -> None:
    np.add.at(total, (given.node, given.result), given.values)
    sizes = np.stack(
        [np.linalg.norm(given.values[:, :3], axis=1), np.linalg.norm(given.values[:, 3:], axis=1)], axis=-1
    )
    np.add.at(met, (given.node, given.result), sizes)


def out_of_balance(building: Building, balance: Balance) -> Iterator[Finding]:
    """One cause for the whole where there is one, then the nodes that it does not account for, each with its
    likeliest."""
    system, residual, share = building.system, balance.residual, balance.share
    wholes, accounted = whole_causes(building, share, balance.loads, balance.reactions, balance.known, balance.precise)
    yield from wholes
    worst = np.where(np.isin(np.arange(len(building.nodes)), list(accounted)), 0.0, share.max(axis=1, initial=0.0))
    told = set(np.argsort(-worst, kind="stable")[:CAUSES].tolist())  # looked at for what went wrong
    for index in np.nonzero(worst > OUT_OF_BALANCE)[0]:
        node, k = building.nodes[index], int(share[index].argmax())
        force = residual[index, k]
        if index in building.diaphragms and abs(force[2]) <= OUT_OF_BALANCE * max(
            float(np.linalg.norm(force[:3])), 1e-9
        ):
            yield Finding(
                "diaphragm_transfer",
                "note",
                f"node {node} transfers {show(float(np.linalg.norm(force[:2])), 'force', system)} "
                f"in plane to diaphragm {building.diaphragms[int(index)]} in {building.results[k]}",
                node=node,
                value=float(share[index, k]),
            )
            continue
        amounts = (
            f"{show(float(np.linalg.norm(force[:3])), 'force', system)},"
            f" {show(float(np.linalg.norm(force[3:])), 'moment', system)}"
        )
        out = (
            [int(r) for r in np.argsort(-share[index], kind="stable") if share[index, r] > OUT_OF_BALANCE]
            if index in told
            else []
        )
        cause = likeliest(building, int(index), out, residual) if out else ""
        yield Finding(
            "out_of_balance",
            "warning",
            f"node {node} is out of balance by {share[index, k]:.1%} in {building.results[k]} ({amounts})"
            + (f": {cause}" if cause else ""),
            node=node,
            value=float(share[index, k]),
            cause=general(cause),
        )
