"""Jobs and their rulebooks."""

from __future__ import annotations

import hashlib
import re
from typing import Any

from peewee import fn

from handrail.core.codes.aisc360 import code
from handrail.core.errors import InputError
from handrail.store.database import one, writing
from handrail.store.models import Connection, Job, Ledger, Override, Revision, Run

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
        return Job.create(name=name, title=title or name, author=author, code=code_name, method=method)


def find_job(name: str) -> Job | None:
    return one(Job, "WHERE name = ?", name)


def find_again(job: Job) -> Job | None:
    """The job as it stands now; None where it was deleted."""
    return one(Job, "WHERE id = ?", job.id)


def set_rulebook(job: Job, text: str) -> None:
    """Keep a rulebook that was read. Inside the caller's transaction; nothing else of the job is written."""
    Job.update(rulebook=text, rulebook_version=Job.rulebook_version + 1).where(Job.id == job.id).execute()


def set_takes(job: Job, found: dict[str, Any]) -> None:
    """What was counted of a rulebook. Inside the caller's transaction."""
    Job.update(takes=found).where(Job.id == job.id).execute()


def set_fields(job: Job, **fields: str) -> None:
    """Change a title, code or method, and nothing else. Inside the caller's transaction."""
    Job.update(**fields).where(Job.id == job.id).execute()


def tag(job: Job) -> str:
    """What a change of the job names as what it saw: title, code and method."""
    return hashlib.blake2b(repr((job.title, job.code, job.method)).encode(), digest_size=8).hexdigest()


def system_of(job: Job) -> str:
    """The units that people see, from the newest revision's: us or si."""
    own = Revision.select(Revision.system).where((Revision.job == job) & (Revision.number > 0))
    return own.order_by(Revision.number.desc()).scalar() or "us"


def _moved(job: Job, revision: int, run: Run | None) -> str:
    """Another word whenever anything of the job has changed that people see: they look again."""
    decided = Ledger.select(fn.MAX(Ledger.id)).where(Ledger.job == job).scalar()
    seen = (tag(job), job.rulebook_version, revision, run and (run.id, run.finished), decided)
    return hashlib.blake2b(repr(seen).encode(), digest_size=8).hexdigest()


def summary(job: Job) -> dict[str, Any]:
    """What a person sees of a job: its revision, and how many connections stand how."""
    by_status = Connection.select(Connection.status, fn.COUNT()).where(Connection.job == job).group_by(Connection.status)
    statuses = dict(by_status.tuples())
    framings = Connection.select(Connection.framing, fn.COUNT()).where(Connection.job == job).group_by(Connection.framing).tuples()
    own = Revision.select(Revision.number, Revision.label, Revision.system, Revision.joints).where((Revision.job == job) & (Revision.number > 0))
    revision = own.order_by(Revision.number.desc()).first()
    waiting = Override.select().where((Override.job == job) & (Override.state == "awaiting")).count()
    run = Run.select().where(Run.job == job).order_by(Run.id.desc()).first()
    return {
        "name": job.name,
        "tag": tag(job),
        "moved": _moved(job, revision.number if revision else 0, run),
        "title": job.title,
        "code": job.code,
        "method": job.method,
        "revision": {"number": revision.number, "label": revision.label} if revision else None,
        "system": revision.system if revision else "us",
        "rulebook_version": job.rulebook_version,
        "joints": revision.joints if revision else 0,
        "connections": sum(statuses.values()),
        "statuses": statuses,
        "framings": dict(framings),
        "overrides_awaiting": waiting,
        "last_run": run.id if run else None,
        "made": job.made,
        "author": job.author,
    }
