"""Passing connections with much in reserve: what a step down would save."""

from __future__ import annotations

from typing import Any

from handrail.core.checking.improving import reserves
from handrail.core.checking.reserve import Reserve, worth_of
from handrail.core.standards import STANDARDS
from handrail.service.application import effort
from handrail.service.application.kept import kept
from handrail.service.application.plans import look_at, plan_of
from handrail.store import connections, listing
from handrail.store.database import reading
from handrail.store.models import Connection, Job


def reserves_of(job: Job, below: float, where: str) -> tuple[int, list[dict[str, Any]]]:
    """How many pass with less than `below` used (of those that a filter takes), and those alike together: what less
    would pass for all of them, what that saves times their count, the most worth first. Raises InputError."""
    with reading():
        seen = look_at(job)
        wanted = listing.keys(job, where) if where else None
        records = {c.key: c for c in connections.passing(job, below) if wanted is None or c.key in wanted}
    plan = plan_of(seen)
    stood = {key: stands.sizes for key, c in records.items() if (stands := kept(plan, c)).ruled}
    items = [
        _item(keys, less, [records[key] for key in keys], plan.building.system)
        for keys, less in reserves(plan, stood, effort.step)
    ]
    return len(records), sorted(items, key=lambda item: -item["worth"])


def _item(keys: list[str], less: Reserve, records: list[Connection], system: str) -> dict[str, Any]:
    first = records[0]
    standard = STANDARDS[first.standard]
    return {
        "connections": keys,
        "standard": first.standard,
        "framing": first.framing,
        "section": first.section,
        "summary": first.summary,
        "utilisation": max(c.utilisation for c in records),
        "then": round(less.utilisation, 4),
        "changes": {name: standard.parameter(name).show(value, system) for name, value in less.changes},
        "saves": less.saves,
        "saves_all": {name: round(amount * len(keys), 3) for name, amount in less.saves.items()},
        "idle": list(less.idle),
        "worth": round(worth_of(less.saves, len(keys)), 3),
    }
