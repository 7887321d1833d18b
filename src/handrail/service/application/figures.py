"""How a connection works under each combination, as plain data: kN, kN*m, mm, MPa."""

from __future__ import annotations

from typing import Any

import numpy as np

from handrail.core.actions import COMPONENTS, Actions
from handrail.core.checking.assigning import Assigned
from handrail.core.checking.boundary import boundary
from handrail.core.checking.combinations import used_in_each
from handrail.core.checking.connection import limit_states, without_forces
from handrail.core.checking.plan import Plan
from handrail.core.checking.result import CEILING
from handrail.core.limit_state import LimitState
from handrail.core.standards import STANDARDS
from handrail.core.standards.figures import Bearing, Flow, Pressed
from handrail.core.standards.sizes import Sizes

SCALE = (1e-3, 1e-3, 1e-3, 1e-6, 1e-6, 1e-6)
DIGITS = 6


def of_connection(plan: Plan, assigned: Assigned, sizes: Sizes) -> dict[str, Any] | None:
    """The combinations with what governs in each, the base or the splice's parts under each, and the strength's
    boundary; None where the standard shows nothing, cannot be judged or has no forces."""
    situation = assigned.situation
    if assigned.rule is None or situation is None or assigned.reason:
        return None
    standard = STANDARDS[assigned.rule.use]
    if standard.figures is None or standard.examine(situation, sizes, plan.code).unchecked:
        return None
    actions = plan.acting.actions(np.array([plan.index[assigned.connection.id]]))
    if without_forces(situation, actions) or np.isnan(actions.N).any():
        return None
    states = limit_states(standard, situation, sizes, plan.code)
    shown = standard.figures(situation, sizes, plan.code, actions)
    combinations = _combinations(states, actions)
    for k, row in enumerate(combinations):
        row |= _of_base(shown.states[k]) if isinstance(shown, Bearing) else _of_splice(shown, k)
    steel, s = situation.supported.grade, situation.supported.section
    moments = {name: Z for name, Z in (("M", s.Zx), ("Mw", s.Zy)) if name in standard.carries} or {"M": s.Zx}
    axis = max(moments, key=lambda name: np.abs(getattr(actions, name)).max() / moments[name])
    reach = {axis: steel.Fy * moments[axis], "N": steel.Fy * s.A}
    lines = [
        {"method": by, "axis": axis, "points": _rounded((boundary(states, by, reach) * [1e-6, 1e-3]).tolist(), 3)}
        for by in dict.fromkeys(by for by, _ in actions.sets)
    ]
    rods = zip(shown.names, _rounded(shown.places, 2), strict=True) if isinstance(shown, Bearing) else ()
    return {"combinations": combinations, "rods": [{"name": n, "at": p} for n, p in rods], "boundary": lines}


def _of_base(at: Pressed) -> dict[str, Any]:
    return {
        "base": {
            "by": at.by,
            "solved": at.solved,
            "zone": _rounded(at.zone, 2),
            "pressure": round(at.pressure, DIGITS),
            "pulls": [round(v * 1e-3, DIGITS) for v in at.pulls],
            "shears": [round(v * 1e-3, DIGITS) for v in at.shears],
            "breaks": [
                {
                    "kind": b.kind,
                    "rods": list(b.rods),
                    "side": b.side,
                    "lines": [_rounded(line, 1) for line in b.lines],
                    "use": round(min(b.use, CEILING), 4),
                    "barred": b.barred,
                }
                for b in at.breaks
            ],
        }
    }


def _of_splice(flow: Flow, k: int) -> dict[str, Any]:
    return {"flow": [{"part": name, "force": round(values[k] * 1e-3, DIGITS)} for name, values in flow.parts]}


def _combinations(states: list[LimitState], actions: Actions) -> list[dict[str, Any]]:
    use, which = used_in_each(states, actions)
    rows = []
    for k, name in enumerate(actions.names):
        by, of = actions.sets[k]
        amounts = {c: round(float(getattr(actions, c)[0, k]) * SCALE[n], DIGITS) for n, c in enumerate(COMPONENTS)}
        known = which[k] >= 0 and not np.isnan(use[k])
        rows.append(
            {
                "action": name,
                "method": by,
                "set": of,
                **amounts,
                "utilisation": round(min(float(use[k]), CEILING), DIGITS) if known else None,
                "check": states[which[k]].check if which[k] >= 0 else "",
            }
        )
    return rows


def _rounded(points: Any, digits: int) -> list[list[float]]:
    return [[round(float(x), digits), round(float(y), digits)] for x, y in points]
