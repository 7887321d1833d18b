"""What people said of single joints: that one goes with another one's pattern, or with none."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from handrail.core.errors import InputError
from handrail.store.database import rows, writing
from handrail.store.jobs import move
from handrail.store.models import Job, PatternEdit


def listed(job: Job) -> dict[str, dict[str, Any]]:
    """joint -> beside which other (empty: out of its own), who said so and why."""
    if not rows("SELECT 1 FROM patternedit WHERE job_id = ? LIMIT 1", job.id):
        return {}
    return {
        e.joint: {"beside": e.beside, "reason": e.reason, "author": e.author, "made": e.made}
        for e in PatternEdit.select().where(PatternEdit.job == job)
    }


def put(job: Job, joint: str, beside: str, reason: str, author: str) -> None:
    """Keep what somebody says of a joint, in place of what was said before. Raises InputError without a reason."""
    if not reason.strip():
        raise InputError("reason: say why the joint goes there")
    with writing():
        _drop(job, joint)
        PatternEdit.create(job=job, joint=joint, beside=beside, reason=reason.strip(), author=author)
        move(job.id)


def drop(job: Job, joint: str) -> bool:
    """The joint goes where it was found to belong; False where nothing was said of it."""
    with writing():
        edit = _drop(job, joint)
        if edit:
            move(job.id)
    return bool(edit)


def follow(job: Job, joints: Mapping[str, str]) -> None:
    """After a revision: what was said goes with the joints, old name to new. Inside the caller's transaction."""
    said = [
        (e, joints.get(e.joint, e.joint), joints.get(e.beside, e.beside))
        for e in PatternEdit.select().where(PatternEdit.job == job)
    ]
    said = [(e, joint, beside) for e, joint, beside in said if (joint, beside) != (e.joint, e.beside)]
    for e, _, _ in said:  # names may be swapped: none stands in another's way
        PatternEdit.update(joint=f"~{e.id}").where(PatternEdit.id == e.id).execute()
    for e, joint, beside in said:
        PatternEdit.update(joint=joint, beside=beside).where(PatternEdit.id == e.id).execute()


def _drop(job: Job, joint: str) -> int:
    return int(PatternEdit.delete().where((PatternEdit.job == job) & (PatternEdit.joint == joint)).execute())
