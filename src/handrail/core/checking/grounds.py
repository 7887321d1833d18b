"""What a decision against the rules rests on, and what of it moved: the rule's value, members, actions, utilisation.

A snapshot is plain data: `rule`, `value` (what the parameter would be without the decision, in words), `status`,
`utilisation` and `check` without it; `with` the same with it; `members` (framing, then section and grade of each
member); `place` of the member's end (mm); `peaks` {component: [smallest, largest]} of the model's actions and `actions`
{component: value} in the combination that governs, kN and kN*m."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

import numpy as np

from handrail.core.actions import COMPONENTS
from handrail.core.building.nearest import SAME
from handrail.core.checking.assigning import ELSEWHERE, STANDARD, Assigned, members_of
from handrail.core.checking.batch import Outcome
from handrail.core.checking.plan import ACTIONS, Overrides, Plan
from handrail.core.checking.result import CEILING, share
from handrail.core.quantities.units import show
from handrail.core.standards import STANDARDS

FLOOR = 20.0  # kN, kN*m: a share of less than this says nothing
_SCALE = np.array([1e-3] * 3 + [1e-6] * 3)
_KINDS = dict(zip(COMPONENTS, ["force"] * 3 + ["moment"] * 3, strict=True))
Snapshot = dict[str, Any]


def snapshots(plan: Plan, wanted: Iterable[tuple[str, str]]) -> dict[tuple[str, str], Snapshot]:
    """(connection, parameter) -> snapshot, of overrides among the plan's; each is left out by itself while the others
    of its connection hold."""
    by_key: dict[str, list[str]] = {}
    for key, parameter in wanted:
        by_key.setdefault(key, []).append(parameter)
    keys = set(by_key)
    held = _worked(plan, keys)
    taken = {}
    for turn in range(max(map(len, by_key.values()), default=0)):
        left_out = {key: names[turn] for key, names in by_key.items() if turn < len(names)}
        worked = _worked(plan.with_(overrides=without(plan.overrides, left_out)), set(left_out))
        for key, parameter in left_out.items():
            taken[key, parameter] = _snapshot(plan, key, parameter, held[key], worked[key])
    return taken


def without(overrides: Overrides, left_out: Mapping[str, str]) -> dict[str, dict[str, Any]]:
    """Overrides but one parameter of each of these connections."""
    kept = {key: {n: v for n, v in own.items() if left_out.get(key) != n} for key, own in overrides.items()}
    return {key: own for key, own in kept.items() if own}


def _worked(plan: Plan, keys: set[str]) -> dict[str, tuple[Assigned, Outcome | None]]:
    """Each connection sized by its rule and what people decided."""
    outcomes = plan.work(plan.together(keys))
    return {key: (plan.assigned[plan.index[key]], outcomes.get(plan.index[key])) for key in keys}


def _snapshot(
    plan: Plan, key: str, parameter: str, held: tuple[Assigned, Outcome | None], plain: tuple[Assigned, Outcome | None]
) -> Snapshot:
    assigned, outcome = plain
    connection, index = assigned.connection, plan.index[key]
    side = _side(*held)
    table = plan.modelled.on(np.array([index]))[0] * _SCALE
    known = bool(len(table)) and not np.isnan(table).any()
    low, high = (table.min(axis=0), table.max(axis=0)) if known else (np.zeros(6), np.zeros(6))
    names = plan.modelled.names
    at = table[names.index(side["action"])] if known and side["action"] in names else None
    return _side(assigned, outcome) | {
        "rule": assigned.rule.name if assigned.rule else "",
        "value": _value(parameter, assigned, outcome, plan.building.system),
        "with": side,
        "members": list(members_of(plan.building, connection)),
        "place": _place(plan, assigned),
        "peaks": (
            {n: [round(float(a), 3), round(float(b), 3)] for n, a, b in zip(COMPONENTS, low, high, strict=True)}
            if known
            else {}
        ),
        "actions": {n: round(float(v), 3) for n, v in zip(COMPONENTS, at, strict=True)} if at is not None else {},
    }


def _place(plan: Plan, assigned: Assigned) -> list[float]:
    """Where the member's end stands, and its far end; mm."""
    connection = assigned.connection
    member = plan.building.members[connection.member]
    ends = [member.node(connection.end), member.node(1 - connection.end)]
    return [round(float(v), 1) for v in plan.building.xyz[ends].ravel()]


def _side(assigned: Assigned, outcome: Outcome | None) -> dict[str, Any]:
    if outcome is None:
        return {
            "status": "unchecked" if assigned.rule else assigned.status,
            "utilisation": 0.0,
            "check": "",
            "action": "",
        }
    return {
        "status": outcome.status,
        "utilisation": round(min(outcome.utilisation, CEILING), 4),
        "check": outcome.check,
        "action": outcome.action,
    }


def _value(parameter: str, assigned: Assigned, outcome: Outcome | None, system: str) -> str:
    """What the rule gives for the parameter, in words; empty where it gives nothing."""
    if parameter == STANDARD:
        return assigned.rule.use if assigned.rule else assigned.reason
    if parameter == ELSEWHERE:
        return assigned.rule.use if assigned.rule else assigned.reason
    if parameter == ACTIONS:
        return "as the model gives them"
    standard = STANDARDS[assigned.rule.use] if assigned.rule else None
    if standard is None or outcome is None or parameter not in outcome.sizes:
        return ""
    return standard.parameter(parameter).show(outcome.sizes[parameter].value, system)


def moved(then: Snapshot, now: Snapshot, tolerance: float, system: str = "us", within: float = SAME) -> list[str]:
    """What moved between two snapshots, in words; actions and moments by more than `tolerance` of their size then (of
    20 kN or 20 kN*m at least), utilisation by more than it, the place by more than `within` mm, anything else at
    all."""
    told = []
    if list(then["members"]) != list(now["members"]):
        before, after = (_members(s["members"]) for s in (then, now))
        told.append(f"members: {after} now, {before} then")
    if (
        then.get("place")
        and now.get("place")
        and max(abs(a - b) for a, b in zip(then["place"], now["place"], strict=True)) > within
    ):
        told.append("the member's end stands elsewhere now")
    if then["value"] != now["value"]:
        told.append(f"without it the rule gives {now['value'] or 'nothing'} now, {then['value'] or 'nothing'} then")
    told += _actions_moved(then["peaks"], now["peaks"], tolerance, system)
    told += _use_moved("with it", then["with"], now["with"], tolerance)
    told += _use_moved("without it", then, now, tolerance)
    return told


def _members(said: Sequence[str]) -> str:
    return ", ".join(said)


def _actions_moved(
    then: Mapping[str, list[float]], now: Mapping[str, list[float]], tolerance: float, system: str
) -> list[str]:
    told = []
    if bool(then) != bool(now):
        return ["there are forces now, and were none then" if now else "there are no forces now"]
    for name in then:
        for side, word in ((1, "largest"), (0, "smallest")):
            before, after = then[name][side], now[name][side]
            if abs(after - before) > tolerance * max(abs(before), FLOOR):
                scale, kind = (1e3, "force") if _KINDS[name] == "force" else (1e6, "moment")
                told.append(
                    f"{word} {name} {show(after * scale, kind, system)} now, {show(before * scale, kind, system)} then"
                )
    return told


def _use_moved(words: str, then: Mapping[str, Any], now: Mapping[str, Any], tolerance: float) -> list[str]:
    if then["status"] != now["status"]:
        return [f"{words} it is {now['status']} now, {then['status']} then"]
    if abs(then["utilisation"] - now["utilisation"]) > tolerance:
        return [f"{words} utilisation {share(now['utilisation'])} now, {share(then['utilisation'])} then"]
    return []


def marks(shown: str, parameter: str, now: Snapshot | None) -> list[str]:
    """What stands out of a decision: `agrees` (the rule gives the same now), `worse` (used more than without it),
    `carries` (passes by it only)."""
    if not now:
        return []
    said = []
    if now["value"] == shown and parameter != ACTIONS:
        said.append("agrees")
    if (
        now["with"]["status"] in ("pass", "fail")
        and now["status"] == "pass"
        and now["with"]["utilisation"] > now["utilisation"] + 1e-6
    ):
        said.append("worse")
    if now["with"]["status"] == "pass" and now["status"] != "pass":
        said.append("carries")
    return said
