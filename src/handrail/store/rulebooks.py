"""The rulebook of a job, revision by revision."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from handrail.store import proving
from handrail.store.models import Job, RulebookRevision


def adopt(job: Job, text: str, files: Mapping[str, str], inherits: str, name: str, author: str) -> None:
    """Keep a rulebook that was read as the job's next revision. Inside the caller's transaction."""
    number = Job.get_by_id(job.id).rulebook_version + 1
    made = RulebookRevision.create(
        job=job, number=number, name=name.strip(), text=text, files=dict(files), inherits=inherits, author=author
    )
    words = f"revision {number}{f', {made.name}' if made.name else ''}"
    proving.told(job.id, "rulebook", words, author, number=number, sha256=proving.of_rulebook(made))
    values = {
        "rulebook": text,
        "rulebook_files": dict(files),
        "rulebook_version": number,
        "moves": Job.moves + 1,
        "look_due": True,
    }
    Job.update(**values).where(Job.id == job.id).execute()


def listed(job: Job) -> list[dict[str, Any]]:
    """All revisions, newest first, without what they say."""
    return [
        as_dict(revision)
        for revision in (
            RulebookRevision.select().where(RulebookRevision.job == job).order_by(RulebookRevision.number.desc())
        )
    ]


def find(job: Job, number: int) -> RulebookRevision | None:
    return RulebookRevision.get_or_none((RulebookRevision.job == job) & (RulebookRevision.number == number))


def as_dict(revision: RulebookRevision) -> dict[str, Any]:
    """A revision as it is listed."""
    return {name: getattr(revision, name) for name in ("number", "name", "inherits", "author", "made")}
