"""What is in the model, and what it is judged by: the survey, the combinations, findings that are let stand."""

from __future__ import annotations

import io
import json
import secrets
from dataclasses import asdict
from functools import lru_cache
from math import isnan
from pathlib import Path
from typing import Any

from flask import Response, current_app

from handrail.core.building.audit.combinations import DOUBTS
from handrail.core.building.combining import strength_set
from handrail.core.building.compare import compare
from handrail.core.building.framing import frame
from handrail.core.building.generating import Basis, generated, left_out
from handrail.core.building.model import Building, Combination
from handrail.core.building.survey import Survey, asked, survey
from handrail.interchange.printed.survey import Surveyed, write_survey
from handrail.service.api import Reply, blueprint
from handrail.service.api import requests as s
from handrail.service.api.auth import HOME, caller, job_for
from handrail.service.api.long import long
from handrail.service.api.models import answers as m
from handrail.service.api.models import requests as q
from handrail.service.application import drawn, letterhead, standing
from handrail.service.application.importing import COMBINATIONS, UPLOADS
from handrail.service.application.plans import recognised_in
from handrail.service.application.refused import Refused
from handrail.store import findings, jobs, revisions, runs
from handrail.store.models import Job, Revision

api = blueprint("survey", "what is in the model and what it is judged by")


@lru_cache(maxsize=2)
def _surveyed(revision: int, token: str, method: str, wanted: str) -> Survey:
    """Worked out once for a revision and a method; joints by kind as they are recognised."""
    building, framing = recognised_in(revision, token)
    return survey(building, framing, strength_set(building, method, wanted))


@api.get("/jobs/<string:job>/model/asked", responses={200: m.ModelAsked})
@long(by_role=False)
def get_asked(path: s.JobPath) -> Reply:
    """What share of its own section each member end is asked for, by the strength combinations of the job's method:
    what there is to see of a model before anything is designed."""
    job = job_for(path.job)
    revision = revisions.latest(job)
    building, _ = recognised_in(revision.id, revision.token)
    shares = asked(building, strength_set(building, job.method, job.combination_set))
    by_name = {member.name: own for member, own in zip(building.members, shares.tolist(), strict=True)}
    ends = (share for name in drawn.names(job)["members"] for share in by_name[name])
    return {"share": [None if isnan(share) else round(share, 3) for share in ends]}


@api.get("/jobs/<string:job>/survey", responses={200: m.Survey})
@long(by_role=False)
def get_survey(path: s.JobPath) -> Reply:
    """Sections with their weight, joints by kind, the largest forces, and what share of its own section each member end
    is asked for, by the strength combinations of the job's method. Kilograms, mm, kN, kN*m."""
    job = job_for(path.job)
    revision = revisions.latest(job)
    survey = _surveyed(revision.id, revision.token, job.method, job.combination_set)
    peaks = [
        p
        | {
            "value": p["value"] * (1e-3 if p["component"] in ("N", "V", "Vw") else 1e-6),
            "unit": "kN" if p["component"] in ("N", "V", "Vw") else "kN*m",
        }
        for p in survey.peaks
    ]
    return asdict(survey) | {
        "framings": jobs.framings(job.id),
        "peaks": peaks,
        "system": revision.system,
        "number": revision.number,
        "method": job.method,
    }


@api.get("/jobs/<string:job>/survey.pdf", responses={200: None})
@long(by_role=False)
def survey_on_paper(path: s.JobPath) -> Response:
    """The survey on two pages, for people who do not sign in: what is in the model, what it asks of its members, what
    the audit found."""
    job = job_for(path.job)
    revision = revisions.latest(job)
    building, framing = recognised_in(revision.id, revision.token)
    combined = strength_set(building, job.method, job.combination_set)
    surveyed = Surveyed(
        building,
        _surveyed(revision.id, revision.token, job.method, job.combination_set),
        asked(building, combined),
        audited(job)["audit"]["findings"],
        len({connection.node for connection in framing.connections}),
        f"{len(combined.names)} strength combinations of {job.method}",
    )
    label = f" ({revision.label})" if revision.label else ""
    from_ = f"model R{revision.number}{label}, imported by {revision.author} {revision.made[:10]}"
    head = letterhead.head(job, "Survey", from_, revision.system)
    stream = io.BytesIO()
    write_survey(surveyed, head, stream)
    name = f'attachment; filename="{job.name}-survey.pdf"'
    return Response(stream.getvalue(), mimetype="application/pdf", headers={"Content-Disposition": name})


@lru_cache(maxsize=4)
def _compared(old: int, old_token: str, new: int, new_token: str, method: str) -> dict[str, Any]:
    """Worked out once for two revisions and a method."""
    was, now = revisions.building_of(Revision.get_by_id(old)), recognised_in(new, new_token)
    return compare(was, now[0], frame(was), now[1], method).as_dict()


@api.get("/jobs/<string:job>/compare", responses={200: m.Comparison})
@long()
def get_comparison(path: s.JobPath, query: s.TwoRevisions) -> Reply:
    """What changed from one revision to another, the last two unless named: members new, gone, moved, renamed, resized,
    released and framed otherwise; member ends loaded otherwise in the combinations that both have, worst first."""
    job = job_for(path.job)
    newest = revisions.latest(job)
    if newest.number == 1 and not query.old:
        raise Refused(409, f"'{job.name}' has one revision yet: there is nothing to compare it with")
    numbers = (query.old or newest.number - 1, query.new or newest.number)
    pair = [
        Revision.select(Revision.id, Revision.token, Revision.number)
        .where((Revision.job == job) & (Revision.number == n) & (Revision.number > 0))
        .first()
        for n in numbers
    ]
    for number, revision in zip(numbers, pair, strict=True):
        if revision is None:
            raise Refused(
                404, f"there is no revision R{number} of '{job.name}' to compare; it has R1 to R{newest.number}"
            )
    old, new = pair
    return _compared(old.id, old.token, new.id, new.token, job.method) | {"old": numbers[0], "new": numbers[1]}


def _shown(combination: Combination) -> dict[str, Any]:
    return {
        "name": combination.name,
        "set": combination.set,
        "method": combination.method,
        "terms": [list(term) for term in combination.terms],
    }


def _building(job: Job) -> Building:
    """Its cases and combinations."""
    return revisions.head_of(revisions.latest(job))


@api.get("/jobs/<string:job>/combinations", responses={200: m.Combinations})
def get_combinations(path: s.JobPath) -> Reply:
    """The cases of the current revision and its combinations."""
    building = _building(job_for(path.job))
    return _answer(building, building.combinations)


def _answer(building: Building, compared: Any) -> dict[str, Any]:
    cases = [{"name": c.name, "title": c.title, "nature": c.nature, "kind": c.kind} for c in building.cases]
    return {"cases": cases, "combinations": [_shown(c) for c in compared], "left_out": left_out(building.cases)}


@api.post("/jobs/<string:job>/combinations/generate", responses={200: m.Combinations})
def generate(path: s.JobPath, body: q.Basis) -> Reply:
    """Combinations made from the natures of the cases by ASCE 7; nothing is kept."""
    building = _building(job_for(path.job))
    basis = Basis(
        body.edition,
        tuple(body.methods),
        body.S_DS,
        body.rho,
        body.omega,
        body.category,
        frozenset(body.one_way),
        body.service,
    )
    return _answer(building, generated(building.cases, basis))


@api.put("/jobs/<string:job>/combinations", responses={202: m.Import})
def keep(path: s.JobPath, body: q.NewCombinations) -> Reply:
    """Keep these combinations in place of the model's own: they make its next revision, read in the background like an
    import."""
    job = job_for(path.job, "engineer")
    building = _building(job)
    cases = {c.name for c in building.cases}
    names = [c.name for c in body.combinations]
    for number, c in enumerate(body.combinations, 1):
        if unknown := [case for case, _ in c.terms if case not in cases]:
            raise Refused(
                422, f"combination {number} ({c.name}): '{unknown[0]}' is no case; there is {', '.join(sorted(cases))}"
            )
        if names.count(c.name) > 1:
            raise Refused(422, f"combination {number}: the name {c.name} is there twice")
        if not c.terms:
            raise Refused(422, f"combination {number} ({c.name}) has no terms")
    file = secrets.token_hex(12) + COMBINATIONS
    target = Path(current_app.config[HOME]) / UPLOADS / file
    target.parent.mkdir(mode=0o700, exist_ok=True)
    target.write_text(json.dumps([c.model_dump() for c in body.combinations]), encoding="utf-8")
    return runs.import_as_dict(runs.add_import(job, file, f"{len(names)} combinations", caller().name)), 202


@api.put("/jobs/<string:job>/audit/acknowledged", responses={200: m.Revision})
@long(keeps=False)
def acknowledge(path: s.JobPath, body: q.Acknowledgement) -> Reply:
    """Let a finding of the audit stand, with a reason; it stays so in later revisions that find it again."""
    job = job_for(path.job, "detailer")
    keys = [(body.code, body.node, body.member)]
    if body.all:
        own = [f for f in audited(job)["audit"]["findings"] if f["code"] == body.code and not f["acknowledged"]]
        keys = [findings.key_of(f) for f in own if not body.cause or f.get("cause", "") == body.cause]
        if not keys:
            raise Refused(404, f"no finding of {body.code} is open")

    def let_stand() -> None:
        findings.acknowledge(job, keys, body.reason, caller().name)
        _settle(job, body.code)

    standing.settled(let_stand)
    return audited(job)


@api.delete("/jobs/<string:job>/audit/acknowledged", responses={200: m.Revision})
@long(keeps=False)
def take_back(path: s.JobPath, query: q.FindingKey) -> Reply:
    """A finding that was let stand counts again."""
    job = job_for(path.job, "detailer")

    def back() -> None:
        if not findings.take_back(job, (query.code, query.node, query.member)):
            raise Refused(404, "this finding was not acknowledged")
        _settle(job, query.code)

    standing.settled(back)
    return audited(job)


def _settle(job: Job, code: str) -> None:
    """Results that rest on what somebody lets stand now, or no more, are stale."""
    if code in DOUBTS:
        standing.settle_results(job, "a finding of the audit was let stand, or not any more")


def audited(job: Job) -> dict[str, Any]:
    """The current revision with its audit, each finding with who let it stand."""
    revision = revisions.latest(job, audit=True)
    shown = {
        name: getattr(revision, name)
        for name in ("number", "label", "title", "source", "dated", "author", "made", "audit")
    }
    return shown | {"audit": shown["audit"] | {"findings": findings.with_words(job, shown["audit"]["findings"])}}
