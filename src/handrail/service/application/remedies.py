"""Looks for the remedies of what fails, passes over the target or cannot be judged, after the results are there: kept
with the result that they belong to."""

from __future__ import annotations

import logging
import secrets
from dataclasses import replace
from typing import Any

from peewee import PeeweeException

from handrail.core.checking import improving
from handrail.core.checking.plan import Plan
from handrail.core.checking.remedy import Found, Remedy, without_remedy
from handrail.core.standards import STANDARDS, Standard
from handrail.core.standards.sizes import Sizes
from handrail.service.application import standing
from handrail.service.application.checkable import checkable, clear
from handrail.service.application.kept import kept
from handrail.service.application.plans import Seen, assigned_of, look_at, overridden, plan_of
from handrail.store import connections, sheets
from handrail.store.database import reading, rows, writing
from handrail.store.models import Connection, ConnectionRow, Job

log = logging.getLogger("handrail.work")
SOON = "being looked for; look again in a moment"
AT_ONCE = 24  # connections of a job between two writings


_WAITING = (
    "SELECT job_id FROM connection WHERE (status = 'fail' OR (status = 'pass' AND over_target) OR (status = 'unchecked'"
    " AND standard != '')) AND remedy = '' AND digest != '' ORDER BY id LIMIT 1"
)


def _wants(of: type[Connection] | type[ConnectionRow]) -> Any:
    """What fails, passes over the target, or has a standard and cannot be judged."""
    over, bare = (of.status == "pass") & of.over_target, (of.status == "unchecked") & (of.standard != "")
    return (of.status == "fail") | over | bare


def look_for_some() -> bool:
    """Remedies that are still looked for, of one job; False where there are none."""
    waiting = rows(_WAITING)
    if not waiting:
        return False
    ((job,),) = waiting
    failing = (Connection.job == job) & _wants(Connection) & (Connection.remedy == "") & (Connection.digest != "")
    first = (Connection.status, Connection.standard, Connection.id)  # what fails before what passes over the target
    some = [key for (key,) in Connection.select(Connection.key).where(failing).order_by(*first).limit(AT_ONCE).tuples()]
    try:
        look_for(Job.get_by_id(job), some)
    except PeeweeException:
        raise
    except Exception as exc:
        reference = secrets.token_hex(4)
        log.exception("no remedy could be looked for, reference %s", reference)
        with writing():
            words = f"none: unexpected error ({type(exc).__name__}), {reference} in the service's log"
            those = sheets.standing(job) & _wants(ConnectionRow) & ConnectionRow.key.in_(some)
            ConnectionRow.update(remedy=words, remedies=[]).where(those & (ConnectionRow.remedy == "")).execute()
    return True


def look_for(job: Job, keys: list[str]) -> None:
    """The remedies of connections that fail, or pass over the target, into their records, unless their results moved
    meanwhile."""
    with reading():
        records = connections.of_keys(job, keys)
        seen = look_at(job)
    plan = plan_of(seen)
    stood: dict[str, Sizes] = {}
    for key, record in records.items():
        stands = kept(plan, record)
        if stands.ruled and not stands.assigned.reason and record.status != "unchecked":
            stood[key] = stands.sizes
    with reading():
        beside = connections.stood_sizes(job, {partner for key in stood for partner in plan.partners(key)})
    remedied = {
        key: _as_run(plan, seen, key, stood[key], one) for key, one in improving.remedies(plan, stood, beside).items()
    }
    ready = [
        (record, *_told(plan, seen, record, stood, remedied.get(key)))
        for key, record in records.items()
        if record.status != "unchecked"
    ]
    ready += checkable(plan, seen, [record for record in records.values() if record.status == "unchecked"])
    with writing():
        for record, words, remedies in ready:
            same = (ConnectionRow.of == record.id) & (ConnectionRow.digest == record.digest) & _wants(ConnectionRow)
            ConnectionRow.update(remedy=words, remedies=remedies).where(sheets.standing(job) & same).execute()


def _as_run(plan: Plan, seen: Seen, key: str, stood: Sizes, remedied: Found) -> Found:
    """Of the remedies of a connection those with which a run passes it, and what shares its bolts, too: with what else
    is sized otherwise then."""
    remedies = []
    for remedy in remedied.remedies:
        changes = dict(remedy.changes)
        then = plan.with_(
            overrides=plan.sharing.giving_way(overridden(seen, {key: changes}), plan.partners(key), changes)
        )
        outcomes = standing.work(seen, then, then.together({key}))
        own = outcomes.get(plan.index[key])
        if (
            own is not None
            and all(o.status == "pass" for o in outcomes.values())
            and (own.utilisation <= remedy.target or remedy.utilisation > remedy.target)
        ):
            remedies.append(
                replace(remedy, utilisation=own.utilisation, more=_more(plan, key, stood, own.sizes) or remedy.more)
            )
    return replace(remedied, remedies=remedies)


def _more(plan: Plan, key: str, stood: Sizes, then: Sizes) -> dict[str, float]:
    """What the sizes then take more than those that stand; empty where it is not counted."""
    assigned = assigned_of(plan, key)
    if assigned.rule is None or assigned.situation is None:
        return {}
    standard = STANDARDS[assigned.rule.use]
    was, now = (standard.quantities(assigned.situation, sizes) for sizes in (stood, then))
    return {
        name: round(getattr(now, name) - getattr(was, name), 4)
        for name in ("steel", "weld", "field_bolts", "shop_bolts")
    }


def _told(
    plan: Plan, seen: Seen, record: Connection, stood: dict[str, Sizes], remedies: Found | None
) -> tuple[str, list[dict[str, Any]]]:
    """The best remedy in words, or why there is none; and each as it is kept."""
    key = record.key
    if remedies is None:
        return "none was looked for: what it rests on was changed; run again", []
    assigned, system = assigned_of(plan, key), plan.building.system
    assert assigned.rule is not None
    standard = STANDARDS[assigned.rule.use]
    if remedies.passes and record.collides:
        return clear(plan, seen, record)
    if remedies.passes:
        return "no change of its own sizes helps: it passes by itself, and fails by what stands opposite", []
    if not remedies.remedies:
        return without_remedy(plan.look(assigned, stood[key]), standard, remedies, system, plan.target([key])), []
    return remedies.remedies[0].words(standard, system), [
        _kept(standard, remedy, system) for remedy in remedies.remedies
    ]


def _kept(standard: Standard, remedy: Remedy, system: str) -> dict[str, Any]:
    changes = {name: standard.parameter(name).show(value, system) for name, value in remedy.changes}
    return {
        "changes": changes,
        "utilisation": round(remedy.utilisation, 4),
        "over_target": remedy.utilisation > remedy.target,
        "cost": round(remedy.cost, 3),
        "more": remedy.more,
    }
