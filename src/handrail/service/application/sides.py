"""How a connection stands, in the few figures that are kept of it beside a decision: before, after."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from handrail.core.checking.assigning import Assigned
from handrail.core.checking.batch import Outcome
from handrail.core.checking.result import CEILING
from handrail.store.models import Connection

Side = dict[str, Any]


def side_of(found: Outcome | Connection | Assigned, shown: str = "", also: Sequence[str] = ()) -> Side:
    """Status, utilisation, what governs; `shown` is the value of the parameter that is decided, `also` what is
    otherwise besides."""
    if isinstance(found, Assigned):
        return {
            "value": shown,
            "status": found.status,
            "utilisation": 0.0,
            "check": "",
            "clause": "",
            "action": "",
            "reason": found.reason,
        }
    check = found.check if isinstance(found, Outcome) else found.check_name
    side = {
        "value": shown,
        "status": found.status,
        "utilisation": round(min(found.utilisation, CEILING), 6),
        "check": check,
        "clause": found.clause,
        "action": found.action,
        "reason": found.reason,
        "over_target": bool(found.over_target),
    }
    return side | ({"also": list(also)} if also else {})
