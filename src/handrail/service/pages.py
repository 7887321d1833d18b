"""What is worked out for a connection's page, as JSON text: kept while what it rests on stands."""

from __future__ import annotations

import json
import threading
from collections import OrderedDict
from typing import Any

from handrail.core.standards import STANDARDS
from handrail.service import present, standing
from handrail.service.kept import kept_alone
from handrail.service.plans import Seen
from handrail.store.models import Connection

KEPT = 1000
_pages: OrderedDict[Any, tuple[bool, str]] = OrderedDict()
_lock = threading.Lock()


def worked(seen: Seen, record: Connection) -> tuple[bool, str]:
    """Whether the kept result is stale, and peaks, parameters, checks, detailing, notes and drawing as the text of a JSON object.
    Inside the transaction that read `seen` and `record`."""
    key = (seen.stamp, record.id, record.version, record.digest, repr(seen.overrides))
    with _lock:
        if key in _pages:
            _pages.move_to_end(key)
            return _pages[key]
    found = _worked(seen, record)
    with _lock:
        _pages[key] = found
        while len(_pages) > KEPT:
            _pages.popitem(last=False)
    return found


def _worked(seen: Seen, record: Connection) -> tuple[bool, str]:
    stands = kept_alone(seen, record)
    plan, assigned, sizes = stands.plan, stands.assigned, stands.sizes
    system = plan.building.system
    body: dict[str, Any] = {"peaks": present.peaks(plan, assigned), "parameters": [], "checks": [], "detailing": [], "notes": record.notes,
                            "drawing": None}  # fmt: skip
    if sizes and assigned.situation is not None:
        standard = STANDARDS[record.standard]
        looked = plan.look(assigned, sizes, tracing=True)
        partner = plan.partner(record.key) if stands.ruled and standard.through(sizes) else ""
        body["parameters"] = present.parameters(standard, sizes, system, partner)
        body["drawing"] = standard.draw(assigned.situation, sizes, system).as_dict()
        if looked is not None:
            body |= present.result(looked, system)
            body["notes"] = [*body["notes"], *(n for n in record.notes if n not in body["notes"])]  # what only both sides together say
    if stands.otherwise:
        body["notes"] = [stands.otherwise, *body["notes"]]
    stale = bool(record.digest) and not standing.still(plan, record)
    return stale, json.dumps(body, allow_nan=False, separators=(",", ":"))
