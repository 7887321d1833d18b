"""Records and results as the API's plain data."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from typing import Any

import numpy as np

from handrail.core.actions import COMPONENTS
from handrail.core.building.model import ENDS
from handrail.core.checking.assigning import Assigned
from handrail.core.checking.colliding import Colliding
from handrail.core.checking.grounds import marks
from handrail.core.checking.matrix import Matrix
from handrail.core.checking.plan import Plan
from handrail.core.checking.result import CEILING, Check, Result, rule_dict
from handrail.core.quantities.units import SHOWN
from handrail.core.quantities.words import all_said, said
from handrail.core.standards import STANDARDS, Standard
from handrail.core.standards.sizes import Parameter, Sizes
from handrail.store.models import Override
from handrail.store.overrides import HOLDING


def parameter(p: Parameter, system: str = "us") -> dict[str, Any]:
    return {
        "name": p.name,
        "kind": p.kind,
        "label": p.label,
        "help": said(p.help, system),
        "choices": list(p.offered),
        "default": p.default if p.default is None or p.kind == "count" else p.usual(system),
    }


def standard(s: Standard) -> dict[str, Any]:
    return {
        "name": s.name,
        "title": s.title,
        "help": s.help,
        "framings": list(s.framings),
        "carries": list(s.carries),
        "parameters": [parameter(p) for p in s.parameters],
    }


def piece(kept: dict[str, Any]) -> dict[str, Any]:
    """A member at a connection, by role."""
    ends = [ENDS[end] for _, end in kept["ends"]]
    return {name: value for name, value in kept.items() if name != "number"} | {"ends": ends}


def parameters(
    s: Standard, sizes: Sizes, system: str, partners: Sequence[str] = (), common: Collection[str] = ()
) -> list[dict[str, Any]]:
    """Each size with its text in the job's units, its number in mm or kN, its source, and the connections (`partners`)
    that have what is `common` with it."""
    listed = []
    for p in s.parameters:
        sized = sizes.get(p.name)
        if sized is None:
            continue
        unit, scale = SHOWN["si"].get(p.kind, ("", 1.0))
        number = float(sized.value) * scale if not isinstance(sized.value, str) else None
        listed.append(
            parameter(p, system)
            | {
                "choices": list(dict.fromkeys((*p.offered, str(sized.value)))) if p.choices else [],
                "text": p.show(sized.value, system),
                "number": number,
                "unit": unit,
                "source": sized.source,
                "formula": sized.formula,
                "shared_with": list(partners) if p.name in common else [],
            }
        )
    return listed


def peaks(plan: Plan, assigned: Assigned) -> list[dict[str, Any]]:
    """The largest and smallest of each action, with its combination; kN and kN*m."""
    table = plan.acting.on(np.array([plan.index[assigned.connection.id]]))[0]
    rows = []
    for column, name in enumerate(COMPONENTS):
        values = table[:, column] * (1e-3 if column < 3 else 1e-6)
        if not len(values) or np.isnan(values).any():
            continue
        high, low = int(values.argmax()), int(values.argmin())
        rows.append(
            {
                "action": name,
                "unit": "kN" if column < 3 else "kN*m",
                "max": float(values[high]),
                "max_in": plan.acting.names[high],
                "min": float(values[low]),
                "min_in": plan.acting.names[low],
                "carried": name in STANDARDS[assigned.rule.use].carries if assigned.rule else False,
            }
        )
    return rows


ENDLESS = 1e12  # N, N*mm: what is over it is shown without a number


def check(c: Check, system: str) -> dict[str, Any]:
    """One check with its lines in the job's units, beside its numbers."""
    unit, scale = SHOWN[system].get(c.kind, ("", 1.0))
    ends = abs(c.demand) < ENDLESS and abs(c.strength) < ENDLESS  # NaN does not
    shown = {"demand": c.demand * scale, "strength": c.strength * scale, "unit": unit} if ends else None
    return c.as_dict("si") | {"shown": shown, "lines": [line.text(system) for line in c.lines]}


def matrix(cells: Matrix) -> dict[str, Any]:
    """Every utilisation, null where a limit state is not judged by a combination or is not known."""
    checks = [
        {"check": s.check, "part": s.part, "clause": s.clause, "limit": s.limit, "governs": int(k)}
        for s, k in zip(cells.states, cells.row, strict=True)
    ]
    sets = cells.actions.sets or (("", ""),) * len(cells.actions.names)
    combinations = [
        {"action": name, "method": by, "set": of, "governs": int(k)}
        for name, (by, of), k in zip(cells.actions.names, sets, cells.column, strict=True)
    ]
    use = [[None if np.isnan(v) else round(min(float(v), CEILING), 6) for v in row] for row in cells.use]
    unknown = [[int(n), int(k)] for n, k in np.argwhere(cells.judged & np.isnan(cells.use))]
    return {"checks": checks, "combinations": combinations, "utilisations": use, "unknown": unknown}


def result(judged: Result, system: str) -> dict[str, Any]:
    """Checks with their lines in the job's units, beside their numbers."""
    return {
        "checks": [check(c, system) for c in sorted(judged.checks, key=lambda c: -c.counts)],
        "detailing": [rule_dict(r, system) for r in judged.detailing],
        "notes": list(all_said((*judged.unchecked, *judged.notes), system)),
    }


def collision(c: Colliding, framing: str, system: str) -> dict[str, Any]:
    """What of a connection stands in another one, where and how deep, mm in its own axes, and in words."""
    return c.as_dict() | {"fails": c.breaks, "words": said(c.words(framing), system)}


def override(o: Override) -> dict[str, Any]:
    """An override with what it rests on, what of that moved, and what stands out of it."""
    return {
        "id": o.id,
        "connection": o.connection,
        "parameter": o.parameter,
        "value": o.shown,
        "reason": o.reason,
        "cause": o.cause,
        "author": o.author,
        "made": o.made,
        "state": o.state,
        "reviewer": o.reviewer,
        "reviewed": o.reviewed,
        "word": o.word,
        "before": o.before,
        "after": o.after,
        "grounds": o.grounds,
        "look": o.look,
        "replaces": o.replaces,
        "marks": marks_of(o) if o.state in HOLDING else [],
    }


def marks_of(o: Override) -> list[str]:
    """What stands out of a decision by what it rests on now."""
    return marks(o.shown, o.parameter, o.present)


def preview(
    connection: str, parameter: str, value: str, reason: str, author: str, before: Any, after: Any
) -> dict[str, Any]:
    """An override that is not kept."""
    return {
        "id": None,
        "connection": connection,
        "parameter": parameter,
        "value": value,
        "reason": reason,
        "cause": "",
        "author": author,
        "made": "",
        "state": "preview",
        "reviewer": "",
        "reviewed": "",
        "word": "",
        "before": before,
        "after": after,
        "grounds": None,
        "look": [],
        "replaces": None,
        "marks": [],
    }
