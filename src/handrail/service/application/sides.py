"""How a connection stands, in the few figures that are kept of it beside a decision: before, after."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from handrail.core.checking.assigning import Assigned
from handrail.core.checking.batch import Outcome
from handrail.core.checking.result import CEILING
from handrail.store.models import Connection

Side = dict[str, Any]


def side_of(of: Outcome | Connection | Assigned, shown: str = "", also: Sequence[str] = ()) -> Side:
    """Status, utilisation, what governs; `shown` is the value of the parameter that is decided, `also` what is
    otherwise besides."""
    if isinstance(of, Assigned):
        return {
            "value": shown,
            "status": of.status,
            "utilisation": 0.0,
            "check": "",
            "clause": "",
            "action": "",
            "reason": of.reason,
        }
    check = of.check if isinstance(of, Outcome) else of.check_name
    side = {
        "value": shown,
        "status": of.status,
        "utilisation": round(min(of.utilisation, CEILING), 6),
        "check": check,
        "clause": of.clause,
        "action": of.action,
        "reason": of.reason,
        "over_target": bool(of.over_target),
    }
    return side | ({"also": list(also)} if also else {})
