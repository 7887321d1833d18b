"""Is the data right? Everything that is looked at in one revision, before anybody spends a day on details."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from handrail.core.building.audit.balance import balance, out_of_balance
from handrail.core.building.audit.causes import blamed_in
from handrail.core.building.audit.combinations import combinations
from handrail.core.building.audit.finding import SEVERITIES, Finding
from handrail.core.building.audit.forces import forces
from handrail.core.building.audit.geometry import geometry
from handrail.core.building.audit.names import names, on_grid, pieces
from handrail.core.building.model import ENDS, Building
from handrail.core.building.places import places

WORST_NODES = 20


@dataclass(frozen=True)
class Audit:
    counts: dict[str, int]
    balance: dict[str, Any]
    worst: list[dict[str, Any]]
    findings: list[Finding]


def audit(building: Building) -> Audit:
    """The audit of one revision; findings sorted, errors first."""
    balanced = balance(building)
    residual, share = balanced.residual, balanced.share
    findings = [
        *pieces(building),
        *names(building),
        *on_grid(building),
        *geometry(building),
        *combinations(building),
        *forces(building),
        *out_of_balance(building, balanced),
    ]
    blamed = {member for f in findings if f.code == "out_of_balance" for member in blamed_in(f.message)}
    findings = [
        f for f in findings if f.code != "member_does_not_close" or f.member not in blamed
    ]  # the same fault is told once
    where_is = dict(zip(building.nodes, places(building), strict=True))
    findings = [replace(f, place=where_is.get(f.node, "")) if f.node else f for f in findings]
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
            "worst": _worst_nodes(building, residual, share, where_is),
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


def _worst_nodes(
    building: Building, residual: np.ndarray, share: np.ndarray, where_is: dict[str, str]
) -> list[dict[str, Any]]:
    """The nodes that balance worst, each in its worst result; residuals kN and kN*m, global axes."""
    if not share.size:
        return []
    worst = share.max(axis=1)
    ranked = []
    for node in np.argsort(-worst, kind="stable")[:WORST_NODES]:
        result = int(share[node].argmax())
        values = residual[node, result] * np.array([1e-3] * 3 + [1e-6] * 3)
        name = building.nodes[node]
        ranked.append(
            {
                "node": name,
                "place": where_is[name],
                "result": building.results[result],
                "share": float(worst[node]),
                "residual": [float(v) for v in values],
            }
        )
    return ranked


def _worst_forces(building: Building) -> list[dict[str, Any]]:
    worst: list[dict[str, Any]] = []
    if not building.forces.size:
        return worst
    forces = np.nan_to_num(building.forces)
    for k, name in enumerate(("Fx", "Fy", "Fz", "Mx", "My", "Mz")):
        at = np.unravel_index(int(np.abs(forces[..., k]).argmax()), forces.shape[:3])
        worst.append(
            {
                "component": name,
                "value": float(forces[(*at, k)]) * (1e-3 if k < 3 else 1e-6),
                "unit": "kN" if k < 3 else "kN*m",
                "member": building.members[at[0]].name,
                "end": ENDS[at[2]],
                "result": building.results[at[1]],
            }
        )
    return worst
