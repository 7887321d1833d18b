"""The plan of a job: its building framed and its rules applied, kept between requests."""

from __future__ import annotations

import copy
import threading
from collections import OrderedDict

from handrail.core.building.framing import frame
from handrail.core.checking.plan import Assigned, Overrides, Plan
from handrail.core.codes.aisc360 import code
from handrail.core.rulebook import Rulebook, read_rulebook
from handrail.store import overrides, revisions
from handrail.store.models import Job

KEPT = 4
_plans: OrderedDict[tuple[object, ...], Plan] = OrderedDict()
_lock = threading.Lock()


def plan_for(job: Job, extra: Overrides | None = None, rulebook: Rulebook | None = None) -> Plan:
    """The job's plan with the overrides that hold, and `extra` on top. Raises InputError before an import."""
    revision = revisions.latest(job)
    key = (revision.id, job.rulebook_version, job.code, job.method)
    with _lock:
        base = _plans.get(key)
        if base is None:
            building = next((p.building for k, p in _plans.items() if k[0] == revision.id), None) or revisions.building_of(revision)
            framing = next((p.framing for k, p in _plans.items() if k[0] == revision.id), None) or frame(building)
            base = Plan(building, framing, rulebook_of(job), code(job.code, job.method), {})
            _ = base.assigned
            _plans[key] = base
        _plans.move_to_end(key)
        while len(_plans) > KEPT:
            _plans.popitem(last=False)
    own = copy.copy(base)
    own.overrides = overrides.holding(job)
    for connection, values in (extra or {}).items():
        own.overrides[connection] = {**own.overrides.get(connection, {}), **values}
    if rulebook is not None:
        own.rulebook = rulebook
        own.__dict__.pop("assigned", None)
    return own


def rulebook_of(job: Job) -> Rulebook:
    """The job's rulebook; an empty one takes nothing."""
    return read_rulebook(job.rulebook) if job.rulebook else Rulebook("", {}, 1.0, ())


def assigned_of(plan: Plan, key: str) -> Assigned:
    return plan.assigned[plan.index[key]]
