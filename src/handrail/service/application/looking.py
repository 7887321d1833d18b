"""Which decisions rest on something that has moved: looked at again after every change of a model, rulebook, code or
combinations."""

from __future__ import annotations

import logging
import secrets
from typing import Any

from peewee import PeeweeException

from handrail.core.building.correcting import corrected
from handrail.core.checking.grounds import Snapshot, moved, snapshots
from handrail.core.checking.plan import Plan
from handrail.service.application import standing
from handrail.service.application.plans import Seen, look_at, plan_of, recognised
from handrail.store import jobs, overrides
from handrail.store.database import reading, rows, writing
from handrail.store.models import Job, Override
from handrail.store.trouble import unwritable

NOT_COMPARED = {
    "status": "",
    "utilisation": 0.0,
    "check": "",
    "action": "",
}  # a correction is not judged by the sizes that people put on it
log = logging.getLogger("handrail.work")
_DUE = (
    "SELECT id FROM job WHERE look_due AND EXISTS (SELECT 1 FROM override o WHERE o.job_id = job.id AND o.state IN"
    " ('awaiting', 'accepted')) LIMIT 1"
)


def look_at_one() -> bool:
    """The decisions of one job that are still to be looked at; False where there is none."""
    due = rows(_DUE)
    if not due:
        return False
    if (job := Job.get_or_none(Job.id == due[0][0])) is not None:
        up_to_date(job)
    return True


def up_to_date(job: Job) -> None:
    """What the job's decisions rest on now, and what of it moved, unless nothing was changed since it was last looked
    at."""
    for _ in range(standing.TRIES):
        if not jobs.look_due(job):
            return
        try:
            if _one_try(job):
                return
        except PeeweeException:
            raise
        except Exception as exc:
            _give_up(job, exc)
            return
    log.warning("job %s was changed again and again while its decisions were looked at", job.name)


def up_to_date_where_it_can(job: Job) -> None:
    """The same for who only reads: where nothing can be written for now, decisions stay as they were last looked at."""
    try:
        up_to_date(job)
    except PeeweeException as exc:
        if not unwritable(exc):
            raise
        log.warning("what decisions of job %s rest on cannot be written down: %s", job.name, exc)


def _give_up(job: Job, exc: Exception) -> None:
    """What cannot be worked out is said on every decision: none of them counts as looked at."""
    reference = secrets.token_hex(4)
    log.exception("decisions could not be looked at, reference %s", reference)
    words = [
        f"what it rests on could not be worked out: unexpected error ({type(exc).__name__}), {reference} in the"
        " service's log"
    ]
    with writing():
        overrides.set_present(job, [(o, o.present or o.grounds or {}, words) for o in overrides.all_holding(job)])
        jobs.looked(job)
        jobs.move(job.id)


def _one_try(job: Job) -> bool:
    with reading():
        held = overrides.all_holding(job)
        standing_now = overrides.applied(job)
        seen = look_at(job) if held and jobs.has_model(job) else None
    moved = _found(seen, held, standing_now) if seen else []
    with writing():
        if seen is not None:
            now = look_at(job)
            if now.stamp != seen.stamp or now.moved(seen) or _as_kept(overrides.all_holding(job)) != _as_kept(held):
                return False
        overrides.set_present(job, moved)
        jobs.looked(job)
        jobs.move(job.id)
        overrides.hold_elsewhere(job.id)
    return True


def _as_kept(held: list[Override]) -> list[tuple[Any, ...]]:
    return [(o.id, o.connection, o.grounds, o.present, o.look) for o in held]


def _found(seen: Seen, held: list[Override], applied: set[int]) -> list[tuple[Override, Snapshot, list[str]]]:
    plan = plan_of(seen)
    here = [o for o in held if o.id in applied and o.connection in plan.index]
    sizes = [o for o in here if o.parameter not in overrides.FRAMED]
    stands: dict[Any, Snapshot] = dict(snapshots(plan, [(o.connection, o.parameter) for o in sizes]))
    framed = [o for o in here if o.parameter in overrides.FRAMED]
    if framed:
        stands |= of_framing(seen, plan, [(o.connection, o.parameter) for o in framed])
    system = plan.building.system
    in_the_way = []
    for o in here:
        now = stands[o.connection, o.parameter]
        look = moved(o.grounds, now, seen.job.tolerance, system, plan.rulebook.same_place) if o.grounds else []
        in_the_way.append((o, now, [*([now["misfit"]] if now.get("misfit") else []), *look]))
    for o in held:
        if o.id not in applied:
            there = o.connection in plan.index
            words = (
                f"another member is called {o.connection} now" if there else f"{o.connection} is not in this revision"
            )
            in_the_way.append((o, o.present or o.grounds or {}, [f"{words}: it is not applied"]))
    return in_the_way


def of_framing(seen: Seen, plan: Plan, wanted: list[tuple[str, str]]) -> dict[tuple[str, str], Snapshot]:
    """What corrections of framing (connection, `framing` or `support`) rest on: how it is recognised, and what comes of
    that without them."""
    building, plain = recognised(seen)
    _, misfits = corrected(building, plain, seen.corrections)
    by_name = {c.id: c for c in plain.connections}
    book, ruled = plan.rulebook, plan.ruled
    without = Plan.of(
        building, plain, book, plan.code, chosen=plan.chosen, let_stand=ruled.let_stand, errors=ruled.errors
    )
    table = snapshots(without, [(key, "framing") for key in {key for key, _ in wanted}])
    by_place = {}
    for key, parameter in wanted:
        connection = by_name[key]
        support = building.members[connection.support].name if connection.support is not None else ""
        snapshot = table[key, "framing"] | {
            "value": connection.framing if parameter == "framing" else support,
            "with": NOT_COMPARED,
        }
        by_place[key, parameter] = snapshot | (
            {"misfit": f"it cannot be applied: {misfits[key]}"} if key in misfits else {}
        )
    return by_place


def beside(plan: Plan, keys: set[str]) -> dict[tuple[str, str], Snapshot]:
    """What every override on these connections, and on those that share their bolts, rests on by a plan that a person's
    decision makes."""
    return snapshots(
        plan,
        [(key, name) for key in plan.together(keys & plan.index.keys()) for name in plan.overrides.get(key, {})],
    )
