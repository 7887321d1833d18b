"""How far the connections at one place of a pattern go in two of the actions: by the sizes that they have, else by the
lightest and the heaviest that their rule would try."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping
from typing import Any

import numpy as np

from handrail.core.actions import COMPONENTS
from handrail.core.building.patterns import Pattern, points_of
from handrail.core.building.yielding import COMPONENTS as OF_MEMBER
from handrail.core.building.yielding import yields
from handrail.core.checking.assigning import Assigned
from handrail.core.checking.boundary import boundary
from handrail.core.checking.connection import limit_states
from handrail.core.checking.plan import Plan
from handrail.core.checking.result import CEILING
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import Sizes
from handrail.service.application.kept import kept_alone
from handrail.service.application.plans import Seen, assigned_of, look_at, plan_around
from handrail.store import connections
from handrail.store.database import reading
from handrail.store.models import Connection, Job

MOST_LINES, MOST_GOVERNING = 3, 12
SCALE = dict(zip(COMPONENTS, (1e-3, 1e-3, 1e-3, 1e-6, 1e-6, 1e-6), strict=True))
SAME, NOTHING = 1e-3, 1e-3  # of a largest or smallest action; kN or kN*m
TWIST = 0.1  # of the strong moment at yield: how far a line is looked for in T


def of_place(
    job: Job,
    pattern: Pattern,
    slot: int,
    pair: tuple[str, str],
    acting: Mapping[str, np.ndarray],
    names: tuple[str, ...],
) -> dict[str, Any]:
    """Lines, and the points that govern, in the pattern's axes; `acting` (combinations, 6) of connections by id, kN and
    kN*m."""
    signs = {m.connections[slot]: np.array(m.signs[slot]) for m in pattern.members if m.connections[slot] in acting}
    with reading():
        seen = look_at(job)
        records = [r for r in (connections.find(job, key) for key in signs) if r is not None]
        lines, reason = _lines(seen, records, pair, signs)
    return {"lines": lines, "reason": reason, "governing": _governing(pattern, slot, records, signs, acting, names)}


def _lines(
    seen: Seen, records: list[Connection], pair: tuple[str, str], signs: Mapping[str, np.ndarray]
) -> tuple[list[dict[str, Any]], str]:
    if pair[0] == pair[1]:
        return [], "two different actions are needed for it"
    alike: dict[Any, list[Connection]] = defaultdict(list)
    for record in records:
        if record.standard and record.sizes:
            alike[(record.standard, record.summary)].append(record)
    rows = []
    for (_, words), own in sorted(alike.items(), key=lambda item: -len(item[1]))[:MOST_LINES]:
        stands = kept_alone(seen, own[0])
        if stands.sizes:
            rows += _line(
                stands.plan,
                stands.assigned,
                own[0].standard,
                stands.sizes,
                f"{words}: {len(own)} of {len(records)}",
                pair,
                signs[own[0].key],
            )
    if rows or not records:
        return rows, "" if rows else "nothing is fastened at this place"
    return _of_rungs(seen, records[0], pair, signs[records[0].key])


def _of_rungs(
    seen: Seen, record: Connection, pair: tuple[str, str], sign: np.ndarray
) -> tuple[list[dict[str, Any]], str]:
    """Of a connection without sizes: the first and the last that its rule would try."""
    plan = plan_around(seen, record)
    assigned = assigned_of(plan, record.key)
    family = plan.family(assigned)
    if family is None or assigned.rule is None or assigned.situation is None:
        return [], f"no sizes yet: {assigned.reason or 'not run'}"
    if family.axes:
        return [], "no sizes yet: they are found step by step in a run"
    standard, rows = STANDARDS[family.standard], []
    for word, rung in (("lightest", family.rungs[0]), ("heaviest", family.rungs[-1])):
        sizes = standard.complete(family.situation, dict(rung) | dict(family.given))
        rows += _line(
            plan,
            assigned,
            family.standard,
            sizes,
            f"{word} that the rule tries: {standard.summary(sizes, plan.building.system)}",
            pair,
            sign,
        )
    return rows, "" if rows else "what the rule would try cannot be judged"


def _line(
    plan: Plan, assigned: Assigned, name: str, sizes: Sizes, words: str, pair: tuple[str, str], sign: np.ndarray
) -> list[dict[str, Any]]:
    standard, situation = STANDARDS[name], assigned.situation
    assert situation is not None
    if standard.examine(situation, sizes, plan.code).unchecked:
        return []
    strength = yields(plan.building, plan.building.members[assigned.connection.member])
    if strength is None:
        return []
    known = dict(zip(OF_MEMBER, strength.tolist(), strict=True))
    known["T"] = TWIST * known["M"]
    points = boundary(
        limit_states(standard, situation, sizes, plan.code), plan.code.method, {n: known[n] for n in pair}
    )
    turned = points * [SCALE[n] * sign[COMPONENTS.index(n)] for n in pair]
    return [{"words": words, "points": [[round(float(x), 3), round(float(y), 3)] for x, y in turned]}]


def _governing(
    pattern: Pattern,
    slot: int,
    records: list[Connection],
    signs: Mapping[str, np.ndarray],
    acting: Mapping[str, np.ndarray],
    names: tuple[str, ...],
) -> list[dict[str, Any]]:
    """What uses the connections most, of each combination and check the worst; and whether it is the largest or
    smallest of a single action too."""
    table = points_of(pattern, slot, dict(acting))[1]
    if not table.size:
        return []
    flat = np.nan_to_num(table.reshape(-1, len(COMPONENTS)))
    extremes = np.stack([flat.min(axis=0), flat.max(axis=0)])
    worst = sorted((r for r in records if r.utilisation > 0 and r.action in names), key=lambda r: r.utilisation)
    chosen = sorted({(r.action, r.check_name): r for r in worst}.values(), key=lambda r: -r.utilisation)
    rows = []
    for r in chosen[:MOST_GOVERNING]:
        values = acting[r.key][names.index(r.action)] * signs[r.key]
        peak = (np.abs(values - extremes) <= SAME * np.abs(extremes)) & (np.abs(extremes) > NOTHING)
        rows.append(
            {
                "connection": r.key,
                "combination": r.action,
                "check": r.check_name,
                "utilisation": min(r.utilisation, CEILING),
                "values": [float(v) for v in values],
                "peak": bool(peak.any()),
            }
        )
    return rows
