"""How far a job is: how many connections are done, failing, awaiting, released; by level, sequence and person; and day
by day."""

from __future__ import annotations

from typing import Any

from handrail.store.database import reading, rows, writing
from handrail.store.models import Job, Progress, now

BY = ("level", "sequence", "person")
_HOW = {
    "total": "count(*)",
    "pass": "sum(status = 'pass')",
    "fail": "sum(status = 'fail')",
    "unchecked": "sum(status = 'unchecked')",
    "remarks": "sum(status = 'pass' AND remarks != '[]')",
    "over_target": "sum(status = 'pass' AND over_target)",
    "stale": "sum(stale != '')",
    "unassigned": "sum(status = 'unassigned')",
    "elsewhere": "sum(status = 'elsewhere')",
    "overridden": "sum(overridden > 0)",
    "released": "sum(released != '')",
    "fell": "sum(fell != '')",
    "awaiting": "sum(coalesce(o.awaiting, 0))",
    "look": "sum(coalesce(o.look, 0))",
    "done": "sum(status IN ('pass', 'elsewhere') AND NOT coalesce(o.awaiting, 0) AND NOT coalesce(o.look, 0))",
}
_COUNTED = ", ".join(f"coalesce({sql}, 0)" for sql in _HOW.values())
_FROM = (  # each connection once, with what is still to be decided on it
    "FROM connection LEFT JOIN (SELECT connection, max(state = 'awaiting') AS awaiting, max(state IN ('awaiting',"
    " 'accepted') AND look != '[]') AS look FROM override WHERE job_id = ? GROUP BY connection) o ON o.connection = key"
    " WHERE job_id = ?"
)


def counted(job: Job) -> dict[str, int]:
    """How many connections are how, now. Done: pass or elsewhere, and no decision on it is awaiting or asks to be
    looked at again."""
    ((*counts,),) = rows(f"SELECT {_COUNTED} {_FROM}", job.id, job.id)
    return dict(zip(_HOW, counts, strict=True))


def by(job: Job, what: str) -> list[dict[str, Any]]:
    """The same for each `level` (from the lowest), `sequence` or `person`; the name is empty where a connection has
    none."""
    order = "min(elevation)" if what == "level" else what
    lines = rows(f"SELECT {what}, {_COUNTED} {_FROM} GROUP BY {what} ORDER BY {order}", job.id, job.id)
    return [{"name": name} | dict(zip(_HOW, counts, strict=True)) for name, *counts in lines]


def over_time(job: Job) -> list[dict[str, Any]]:
    """How it stood at the end of each day on which something changed, the first first; of today how it stands."""
    today, (noted, moves) = now()[:10], Job.select(Job.noted, Job.moves).where(Job.id == job.id).tuples().get()
    days = {p.day: p.counts for p in Progress.select().where(Progress.job == job).order_by(Progress.day)}
    if noted != moves or not days:
        days[today] = counted(job)
    return [{"day": day, **counts} for day, counts in days.items()]


def note(job: Job) -> None:
    """Keep how the job stands as that of today."""
    with reading():
        moves, counts = Job.select(Job.moves).where(Job.id == job.id).scalar(), counted(job)
    if not counts["total"]:
        return
    with writing():
        Progress.insert(job=job.id, day=now()[:10], counts=counts).on_conflict(
            conflict_target=[Progress.job, Progress.day], update={Progress.counts: counts}
        ).execute()
        Job.update(noted=moves).where(Job.id == job.id).execute()


def note_one() -> bool:
    """Note one job that has changed since; False where none has."""
    due = rows(
        "SELECT id FROM job WHERE noted != moves AND EXISTS (SELECT 1 FROM connection c WHERE c.job_id = job.id)"
        " LIMIT 1"
    )
    if due and (job := Job.get_or_none(Job.id == due[0][0])) is not None:
        note(job)
    return bool(due)
