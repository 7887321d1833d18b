"""How far a job is, and what a revision of its model left standing."""

from __future__ import annotations

from collections import Counter

from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api import requests as s
from handrail.service.api.auth import job_for
from handrail.service.api.long import long
from handrail.service.api.team import answers as t
from handrail.service.api.team import requests as q
from handrail.service.application import revised
from handrail.store import progress, revisions
from handrail.store.database import reading

api = blueprint("progress", "how far a job is, what a revision changed")


@api.get("/jobs/<string:job>/progress", responses={200: t.Progress})
@long(by_role=False)
def get_progress(path: s.JobPath) -> Reply:
    """How many connections are done, failing, awaiting, released: now, by level, sequence and person, and day by
    day."""
    job = job_for(path.job)
    with reading():
        return {
            "now": progress.counted(job),
            **{what: progress.by(job, what) for what in progress.BY},
            "days": progress.over_time(job),
        }


@api.get("/jobs/<string:job>/revised", responses={200: t.Revised, 422: a.Problem})
def get_revised(path: s.JobPath, query: q.RevisedQuery) -> Reply:
    """What the newest revision left standing: what still passes as it stood, what was resized, what fails, what is
    stale, new and gone."""
    job = job_for(path.job)
    with reading():
        revision = revisions.latest(job)
        items = revised.items(job, revision)
    counts = Counter(item["what"] for item in items)
    shown = [item for item in items if not query.what or item["what"] == query.what]
    before = [item["before"]["revision"] for item in items if item["before"] and "revision" in item["before"]]
    for item in items:
        if item["before"]:
            item["before"].pop("revision", None)
    return {"revision": revision.number, "before": max(before, default=None), "counts": dict(counts), "items": shown}
