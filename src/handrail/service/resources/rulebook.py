"""The rulebook of a job, and its dry run."""

from __future__ import annotations

from collections import Counter

from flask import request

from handrail.core.building.framing import SHEAR_ENDS
from handrail.core.rulebook import read_rulebook
from handrail.service import answers as a
from handrail.service import schemas as s
from handrail.service import standing
from handrail.service.auth import job_for
from handrail.service.plans import Seen, look_at, plan_of, rulebook_of, takes
from handrail.service.problems import Refused
from handrail.service.resources import blueprint
from handrail.store import connections, jobs
from handrail.store.database import writing
from handrail.store.models import Job

api = blueprint("rulebook", "shop practice and rules")


def _answer(job: Job) -> dict[str, object]:
    book = rulebook_of(job)
    taken = takes(look_at(job)) if jobs.has_model(job) else {}
    rules = [
        {"name": r.name, "use": r.use, "when": {c.fact: c.text for c in r.when}, "line": r.line, "takes": taken.get(r.name, 0)} for r in book.rules
    ]
    return {"text": job.rulebook, "version": job.rulebook_version, "target": book.target, "rules": rules}


@api.get("/jobs/<string:job>/rulebook", responses={200: a.Rulebook})
def get_rulebook(path: s.JobPath):
    """The rulebook's text, and how many connections each rule takes."""
    job = job_for(path.job)
    return _answer(job), 200, {"ETag": f'"{job.rulebook_version}"'}


@api.put("/jobs/<string:job>/rulebook", responses={200: a.Rulebook, 412: a.Problem})
def put_rulebook(path: s.JobPath, body: s.RulebookText):
    """Keep a rulebook; one with errors is refused with their lines. Sizes change with the next run."""
    job = job_for(path.job, "engineer")
    expected = request.headers.get("If-Match", "").strip('"')
    _put(job, body.text, expected)
    job = job_for(path.job, "engineer")
    return _answer(job), 200, {"ETag": f'"{job.rulebook_version}"'}


def _put(job: Job, text: str, expected: str) -> None:
    """Keep the text; what it gives other sizes or another standard is stale."""
    book = read_rulebook(text)
    for _ in range(standing.TRIES):
        fresh = Job.get_by_id(job.id)
        if expected and expected != str(fresh.rulebook_version):
            raise Refused(412, f"the rulebook is at version {fresh.rulebook_version}, not {expected}; read it again, nothing was lost")
        kept = connections.kept_grounds(job)
        seen = look_at(job) if jobs.has_model(job) else None
        stale = standing.no_longer(seen, book) if seen else set()
        with writing():
            now = Job.get_by_id(job.id)
            if now.rulebook_version != fresh.rulebook_version or (seen and _moved(seen)):
                continue
            if now.moves != fresh.moves and connections.kept_grounds(job) != kept:
                continue  # a run wrote results since their grounds were read
            jobs.set_rulebook(job, text)
            connections.mark_stale(job, "the rulebook was changed", stale)
            return
    raise Refused(409, "the job was changed again and again meanwhile; put the rulebook once more, nothing was changed")


def _moved(seen: Seen) -> bool:
    now = look_at(seen.job)
    return now.stamp != seen.stamp or bool(now.moved(seen))


@api.post("/jobs/<string:job>/rulebook/try", responses={200: a.RulebookTried})
def try_rulebook(path: s.JobPath, body: s.RulebookText):
    """Which rule would take which connections, which never fire, what nobody covers; nothing changes."""
    job = job_for(path.job)
    book = read_rulebook(body.text)
    plan = plan_of(look_at(job), rulebook=book)
    taken = Counter(a.rule.name for a in plan.assigned if a.rule)
    uncovered = [a.connection.id for a in plan.assigned if a.rule is None and a.connection.framing in SHEAR_ENDS]
    return {
        "rules": [{"name": r.name, "takes": taken[r.name], "line": r.line} for r in book.rules],
        "never": [r.name for r in book.rules if not taken[r.name]],
        "uncovered": uncovered[:500],
        "uncovered_total": len(uncovered),
    }
