"""Jobs and their rulebooks."""

from __future__ import annotations

import hashlib
import re
from functools import lru_cache
from typing import Any

from handrail.core.codes import code
from handrail.core.errors import InputError
from handrail.store import proving
from handrail.store.database import one, reading, rows, writing
from handrail.store.models import Job, Revision, Run

GONE = "~"  # how the name of a job begins that is going; none that is there can
RESERVED = ("sign-in", "api", "assets", "healthz", "metrics", "jobs", "new")


def add_job(name: str, title: str, author: str, code_name: str = "AISC 360-22", method: str = "LRFD") -> Job:
    """A new job. Raises InputError for a bad or taken name, or a code that is not held."""
    if not re.fullmatch(r"[a-z0-9][a-z0-9-]{0,63}", name):
        raise InputError(f"job name '{name}': use small letters, digits and hyphens, like 'alder-street'")
    if name in RESERVED:
        raise InputError(f"job name '{name}' is an address of the console; take another")
    code(code_name, method)
    with writing():
        if Job.get_or_none(Job.name == name):
            raise InputError(f"job '{name}' exists")
        made = Job.create(name=name, title=title or name, author=author, code=code_name, method=method)
        proving.of_settings(made.id, author)
        return made


def find_job(name: str) -> Job | None:
    return None if name.startswith(GONE) else one(Job, "WHERE name = ?", name)


def listed() -> list[Job]:
    """Every job, by name."""
    return list(Job.select().where(~Job.name.startswith(GONE)).order_by(Job.name))


def find_again(job: Job) -> Job | None:
    """The job as it stands now; None where it was deleted."""
    return one(Job, "WHERE id = ?", job.id)


def set_takes(job: Job, takes: dict[str, Any]) -> None:
    """What was counted of a rulebook. Inside the caller's transaction."""
    Job.update(takes=takes).where(Job.id == job.id).execute()


def set_fields(job: Job, **fields: Any) -> None:
    """Change a title, code or method, and nothing else. Inside the caller's transaction."""
    Job.update(**fields, moves=Job.moves + 1, look_due=True).where(Job.id == job.id).execute()


def look_due(job: Job) -> bool:
    """Whether something that decisions rest on was changed since they were last looked at."""
    return bool(Job.select(Job.look_due).where(Job.id == job.id).scalar())


def looked(job: Job) -> None:
    """The job's decisions were looked at. Inside the caller's transaction."""
    Job.update(look_due=False).where(Job.id == job.id).execute()


def has_model(job: Job) -> bool:
    """Whether a revision was imported."""
    return bool(rows("SELECT 1 FROM revision WHERE job_id = ? AND number > 0 LIMIT 1", job.id))


def move(job: int) -> None:
    """Count a change that people see: results, decisions, a model. Inside the transaction that makes it."""
    Job.update(moves=Job.moves + 1).where(Job.id == job).execute()


def moves(job: Job) -> int:
    """How many changes that people see a job has had."""
    return int(Job.select(Job.moves).where(Job.id == job.id).scalar() or 0)


def stands(job: Job) -> str:
    """What is another text as soon as anything of a job that people see is otherwise: the same answers, the same
    text."""
    ((revision, let_stand, last),) = rows(
        "SELECT (SELECT token FROM revision WHERE job_id = ? AND number > 0 ORDER BY number DESC LIMIT 1), count(*),"
        " max(id) FROM acknowledged WHERE job_id = ?",
        job.id,
        job.id,
    )
    book = hashlib.blake2b(repr((job.rulebook, job.rulebook_files)).encode(), digest_size=8).hexdigest()
    return f"{job.id} {job.made} {job.moves} {job.rulebook_version} {book} {tag(job)} {revision} {let_stand} {last}"


def tag(job: Job) -> str:
    """What a change of the job names as what it saw: title, code, method, set of combinations, the firm."""
    return hashlib.blake2b(
        repr(
            (job.title, job.code, job.method, job.combination_set, job.tolerance, *((job.firm,) if job.firm else ()))
        ).encode(),
        digest_size=8,
    ).hexdigest()


def system_of(job: Job) -> str:
    """The units that people see, from the newest revision's: us or si."""
    own = Revision.select(Revision.system).where((Revision.job == job) & (Revision.number > 0))
    return own.order_by(Revision.number.desc()).scalar() or "us"


@lru_cache(maxsize=64)
def _framings(job: int, revision: str, moves: int) -> dict[str, int]:
    """framing -> how many; the same until the next change."""
    return framings(job)


def framings(job: int) -> dict[str, int]:
    """framing condition -> how many connections of a job have it now."""
    return dict(rows("SELECT framing, count(*) FROM connection WHERE job_id = ? GROUP BY framing", job))


@lru_cache(maxsize=64)
def _statuses(job: int, revision: str, moves: int) -> dict[str, int]:
    """status -> how many; the same until the next change."""
    return dict(rows("SELECT status, count(*) FROM connection WHERE job_id = ? GROUP BY status", job))


@lru_cache(maxsize=64)
def _counted(job: int, revision: str, moves: int) -> tuple[int, int, int, int]:
    """How many results are stale, how many connections released, how many pass over the target, how many with a remark;
    the same until the next change."""
    ((stale, released, over, remarks),) = rows(
        "SELECT count(*) FILTER (WHERE stale != ''), count(*) FILTER (WHERE released != ''), count(*) FILTER"
        " (WHERE status = 'pass' AND over_target), count(*) FILTER (WHERE status = 'pass' AND remarks != '[]') FROM"
        " connection WHERE job_id = ?",
        job,
    )
    return int(stale), int(released), int(over), int(remarks)


_DECIDED = (
    "SELECT coalesce(sum(state = 'awaiting'), 0), coalesce(sum(state IN ('awaiting', 'accepted') AND look != '[]'), 0)"
    " FROM override WHERE job_id = ?"
)


_PEOPLE = 'SELECT u.name FROM role r JOIN "user" u ON u.id = r.user_id WHERE r.job_id = ? ORDER BY u.name'
_LAST = (
    "SELECT 'revision R' || number, author, made FROM revision WHERE job_id = ? AND number > 0 ORDER BY number DESC"
    " LIMIT 1",
    "SELECT event, author, made FROM ledger WHERE job_id = ? ORDER BY number DESC LIMIT 1",
)


def last_change(job: Job, run: Run | None = None) -> dict[str, str]:
    """The newest of its making, its model, its last run and its ledger's last entry."""
    run = run or Run.select().where(Run.job == job).order_by(Run.id.desc()).first()
    found = [("made", job.author, job.made), *(row for asked in _LAST for row in rows(asked, job.id))]
    if run is not None:
        found.append((f"run {run.id}", run.author, run.finished or run.made))
    what, author, made = max(found, key=lambda change: str(change[2]))
    return {"what": what, "author": author, "made": made}


def summary(job: Job) -> dict[str, Any]:
    """What a person sees of a job: its revision, and how many connections stand how."""
    with reading():
        job = find_again(job) or job
        own = Revision.select(Revision.number, Revision.label, Revision.system, Revision.joints, Revision.token)
        revision = own.where((Revision.job == job) & (Revision.number > 0)).order_by(Revision.number.desc()).first()
        statuses = dict(_statuses(job.id, revision.token, job.moves)) if revision else {}
        framings = dict(_framings(job.id, revision.token, job.moves)) if revision else {}
        waiting, asking = rows(_DECIDED, job.id)[0]
        stale, released, over, remarks = _counted(job.id, revision.token, job.moves) if revision else (0, 0, 0, 0)
        run = Run.select().where(Run.job == job).order_by(Run.id.desc()).first()
        people = [name for (name,) in rows(_PEOPLE, job.id)]
        ((sent,),) = rows("SELECT coalesce(max(number), 0) FROM transmittal WHERE job_id = ?", job.id)
    return {
        "name": job.name,
        "tag": tag(job),
        "moved": f"{job.moves}.{run.id if run else 0}.{run.finished if run else ''}",
        "title": job.title,
        "code": job.code,
        "method": job.method,
        "firm": job.firm,
        "combination_set": job.combination_set,
        "revision": {"number": revision.number, "label": revision.label} if revision else None,
        "system": revision.system if revision else "us",
        "rulebook_version": job.rulebook_version,
        "joints": revision.joints if revision else 0,
        "connections": sum(statuses.values()),
        "statuses": statuses,
        "framings": framings,
        "stale": stale,
        "released": released,
        "over_target": over,
        "remarks": remarks,
        "tolerance": job.tolerance,
        "overrides_awaiting": waiting,
        "overrides_look": asking,
        "last_run": run.id if run else None,
        "last_change": last_change(job, run),
        "last_transmittal": sent,
        "people": people,
        "made": job.made,
        "author": job.author,
    }
