"""Jobs, their model revisions and audits, their model as the console draws it."""

from __future__ import annotations

import json
from typing import Any

from flask import request

from handrail.core.building.combining import strength_set
from handrail.core.codes import code
from handrail.core.rulebook import Text
from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api import requests as s
from handrail.service.api.auth import administrator, caller, job_for
from handrail.service.api.jobs import requests as q
from handrail.service.api.long import long, sent
from handrail.service.api.models import answers as m
from handrail.service.api.models.survey import audited
from handrail.service.application import rulebooks, standing
from handrail.service.application.refused import Refused
from handrail.store import accounts, heads, jobs, listing, proving, removing, revisions
from handrail.store.database import reading, writing
from handrail.store.models import Job, Revision

api = blueprint("jobs", "jobs, their models and audits")


def _answer(job: Job) -> dict[str, object]:
    return jobs.summary(job) | {"role": accounts.role_in(caller(), job), "ledger_faults": heads.found_of(job.name)}


@api.get("/jobs", responses={200: a.Page[a.Job]})
def list_jobs() -> Reply:
    """The jobs that the caller can see."""
    user = caller()
    listed = [_answer(j) for j in jobs.listed() if accounts.role_in(user, j)]
    return {"items": listed, "total": len(listed), "next": None}


@api.post("/jobs", responses={201: a.Job})
def new_job(body: q.NewJob) -> Reply:
    """A new job; its maker is an administrator of the service."""
    user = administrator()
    with writing():
        made = jobs.add_job(body.name, body.title, user.name, body.code, body.method)
        if body.rulebook:
            text = f"rulebook: 1\ntitle: {json.dumps(made.title)}\ninherits: {json.dumps(body.rulebook)}\n"
            rulebooks.adopt(made, Text(text), f"from {body.rulebook}", user.name)
    return _answer(Job.get_by_id(made.id)), 201


@api.get("/jobs/<string:job>", responses={200: a.Job})
def get_job(path: s.JobPath) -> Reply:
    """A job, with how many connections stand how."""
    job = job_for(path.job)
    return _answer(job), 200, {"ETag": f'"{jobs.tag(job)}"'}


@api.patch("/jobs/<string:job>", responses={200: a.Job, 412: a.Problem})
@long(keeps=False, when=lambda: any(sent(name) for name in ("code", "method", "combination_set")))
def change_job(path: s.JobPath, body: q.JobChange) -> Reply:
    """Change the title, the firm, the code, the method or the set of combinations; results by the old one are marked
    to be run again."""
    job = job_for(path.job, "engineer")
    standing.settled(lambda: _change(Job.get_by_id(job.id), body))
    job = job_for(path.job)
    return _answer(job), 200, {"ETag": f'"{jobs.tag(job)}"'}


def _change(now: Job, body: q.JobChange) -> None:
    """Inside the transaction of the change, which is settled."""
    _expect(now)
    code(body.code or now.code, body.method or now.method)
    asked = (
        ("title", body.title),
        ("code", body.code),
        ("method", body.method),
        ("combination_set", body.combination_set),
        ("tolerance", body.tolerance),
        ("firm", body.firm),
    )
    changed: dict[str, Any] = {n: v for n, v in asked if v not in (None, "") and v != getattr(now, n)}
    if "combination_set" in changed and jobs.has_model(now):
        _known_set(now, changed["combination_set"])
    if changed.keys() & {"method", "combination_set"} and not body.anyway and jobs.has_model(now):
        _refuse_unjudged(now, changed.get("method", now.method), changed.get("combination_set", now.combination_set))
    if changed:
        jobs.set_fields(now, **changed)
        proving.of_settings(now.id, caller().name)
    if changed.keys() - {"title", "tolerance", "firm"} and jobs.has_model(now):
        standing.settle_results(now, "the code, method or set of combinations was changed", all_of_it=True)


def _refuse_unjudged(job: Job, method: str, wanted: str) -> None:
    """Raises Refused(409) that says what would become of the job, where its model has no combinations of a set and
    method."""
    building = revisions.head_of(revisions.latest(job))
    if strength_set(building, method, wanted).names:
        return
    there = sorted({f"{c.method} {c.set}" for c in building.combinations})
    now = jobs.summary(job)
    sized, released = sum(now["statuses"].get(s, 0) for s in ("pass", "fail")), now["released"]
    raise Refused(
        409,
        f"the model has no {wanted} combinations of {method} (it has {', '.join(there) or 'none'}): {sized} results"
        f" would be stale and could not be run again, {released} releases would fall; import or generate such"
        " combinations first, or say anyway",
    )


def _known_set(job: Job, name: str) -> None:
    """Raises Refused(422) where no combination of the model is of that set."""
    sets = sorted({c.set for c in revisions.head_of(revisions.latest(job)).combinations})
    if name not in sets:
        raise Refused(
            422, f"combination_set: the model has no combinations of set '{name}'; it has {', '.join(sets) or 'none'}"
        )


def _expect(job: Job) -> None:
    """Raises Refused(412) where the caller saw something else."""
    wanted = request.headers.get("If-Match", "").strip('"')
    if wanted and wanted != jobs.tag(job):
        raise Refused(412, f"job {job.name} was changed meanwhile; look again, nothing was lost")


def _revision(r: Revision) -> dict[str, object]:
    return {
        name: getattr(r, name) for name in ("number", "label", "title", "source", "dated", "author", "made", "audit")
    }


@api.get("/jobs/<string:job>/revisions", responses={200: a.Page[m.Revision]})
def list_revisions(path: s.JobPath) -> Reply:
    """The job's revisions, newest first."""
    job = job_for(path.job)
    fields = [f for name, f in Revision._meta.fields.items() if name not in ("model", "head", "drawn")]
    listed = [
        _revision(r)
        for r in (
            Revision.select(*fields)
            .where((Revision.job == job) & (Revision.number > 0))
            .order_by(Revision.number.desc())
        )
    ]
    return {"items": listed, "total": len(listed), "next": None}


@api.get("/jobs/<string:job>/audit", responses={200: m.Revision})
def get_audit(path: s.JobPath) -> Reply:
    """The audit of the current revision."""
    return audited(job_for(path.job))


@api.get("/jobs/<string:job>/model", responses={200: a.Model})
def get_model(path: s.JobPath) -> Reply:
    """Nodes (mm), members as node pairs, and each joint's connections: what the 3D view draws."""
    job = job_for(path.job)
    with reading():
        drawn = revisions.drawn_of(revisions.latest(job))
        states = listing.states(job)
    return drawn | {"connections": states}


@api.get("/jobs/<string:job>/without", responses={200: a.Page[a.Without]})
def get_without(path: s.JobPath) -> Reply:
    """Member ends that need no connection, each with the reason in words."""
    left_out = revisions.drawn_of(revisions.latest(job_for(path.job)))["without"]
    return {"items": left_out, "total": len(left_out), "next": None}


@api.delete("/jobs/<string:job>", responses={204: None, 412: a.Problem})
def delete_job(path: s.JobPath) -> Reply:
    """Remove a job and all its records, for administrators."""
    administrator()
    job = jobs.find_job(path.job)
    if job is None:
        raise Refused(404, f"there is no job '{path.job}'")
    with writing():
        _expect(Job.get_by_id(job.id))
        removing.remove(job, caller().name)
    return "", 204
