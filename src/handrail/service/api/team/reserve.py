"""Connections with much in reserve: what a step down would save."""

from __future__ import annotations

from typing import Any

from handrail.core.checking.improving import reserves
from handrail.core.checking.reserve import Reserve, worth_of
from handrail.core.standards import STANDARDS
from handrail.service.api import Reply, blueprint
from handrail.service.api import requests as s
from handrail.service.api.auth import job_for
from handrail.service.api.team import answers as t
from handrail.service.api.team import requests as q
from handrail.service.application.kept import kept
from handrail.service.application.plans import look_at, plan_of
from handrail.store import listing
from handrail.store.database import reading
from handrail.store.models import Connection, Job

api = blueprint("reserve", "what would do with less")


@api.get("/jobs/<string:job>/reserve", responses={200: t.Reserves})
def get_reserve(path: s.JobPath, query: q.ReserveQuery) -> Reply:
    """Passing connections of which less than `below` is used, those alike together: what less would pass for all of
    them, what that saves times their count, and the parts that hardly work. Worked out as it is asked; nothing is kept.
    Those whose bolts hold the beam opposite too are left out."""
    job = job_for(path.job)
    with reading():
        seen = look_at(job)
        wanted = listing.keys(job, query.where) if query.where else None
        records = {c.key: c for c in _passing(job, query.below) if wanted is None or c.key in wanted}
    plan = plan_of(seen)
    stood = {key: stands.sizes for key, c in records.items() if (stands := kept(plan, c)).ruled}
    items = [
        _item(keys, found, [records[key] for key in keys], plan.building.system)
        for keys, found in reserves(plan, stood)
    ]
    items.sort(key=lambda item: -item["worth"])
    return {"connections": len(records), "items": items}


def _passing(job: Job, below: float) -> list[Connection]:
    return list(
        Connection.select().where(
            (Connection.job == job) & (Connection.status == "pass") & (Connection.utilisation < below)
        )
    )


def _item(keys: list[str], found: Reserve, records: list[Connection], system: str) -> dict[str, Any]:
    first = records[0]
    standard = STANDARDS[first.standard]
    return {
        "connections": keys,
        "standard": first.standard,
        "framing": first.framing,
        "section": first.section,
        "summary": first.summary,
        "utilisation": max(c.utilisation for c in records),
        "then": round(found.utilisation, 4),
        "changes": {name: standard.parameter(name).show(value, system) for name, value in found.changes},
        "saves": found.saves,
        "saves_all": {name: round(amount * len(keys), 3) for name, amount in found.saves.items()},
        "idle": list(found.idle),
        "worth": round(worth_of(found.saves, len(keys)), 3),
    }
