"""Jobs and revisions that go: out of sight at once, out of the records a part at a time, so that nobody waits to
write."""

from __future__ import annotations

import time

from handrail.store import ledger, sheets
from handrail.store.database import passing, proxy, rows, writing
from handrail.store.jobs import GONE
from handrail.store.models import Import, Job, Role, Run

NOWHERE = -1  # the sheet of such a job: none of its connections stands
PART = 500  # members, or events, of a small transaction
_OF_REVISION = "DELETE FROM memberforces WHERE id IN (SELECT id FROM memberforces WHERE revision_id = ? LIMIT ?)"
_OF_JOB = "DELETE FROM event WHERE id IN (SELECT id FROM event WHERE job_id = ? LIMIT ?)"


def remove(job: Job, author: str) -> None:
    """A job is not there any more; its ledger's head is kept, and works at it end. Inside the caller's transaction."""
    ledger.close(job, author)
    for kind in (Role, Run, Import):
        kind.delete().where(kind.job == job.id).execute()
    gone = {"name": f"{GONE}{job.id}", "sheet": NOWHERE, "copying": 0, "look_due": False}
    Job.update(**gone).where(Job.id == job.id).execute()


def drop_some() -> bool:
    """The records of one job that is going; False where there is none."""
    going = rows("SELECT id FROM job WHERE name LIKE ? LIMIT 1", f"{GONE}%")
    if not going:
        return False
    job = int(going[0][0])
    sheets.drop_left_over(job)
    for (revision,) in rows("SELECT id FROM revision WHERE job_id = ?", job):
        drop_revision(revision)
    _in_parts(_OF_JOB, job)
    with writing():
        Job.delete().where(Job.id == job).execute()
    return True


def drop_revision(number: int) -> None:
    """A revision, by its id, with its members' forces."""
    _in_parts(_OF_REVISION, number)
    with writing():
        rows("DELETE FROM revision WHERE id = ?", number)


def _in_parts(statement: str, of: int) -> None:
    while True:
        with passing():
            gone = proxy.execute_sql(statement, (of, PART)).rowcount
        if gone < PART:
            return
        time.sleep(sheets.PAUSE)
