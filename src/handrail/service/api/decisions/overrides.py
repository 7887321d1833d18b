"""Decisions against the rules: overrides of sizes and standards, corrections of framing, alternatives, steps back and
forward."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from flask import g, request

from handrail.core.checking.assigning import ELSEWHERE
from handrail.core.errors import InputError
from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api import requests as s
from handrail.service.api.auth import caller, is_engineer, job_for
from handrail.service.api.connections.connections import found as _found
from handrail.service.api.decisions import answers as d
from handrail.service.api.decisions import requests as q
from handrail.service.api.long import long, sent
from handrail.service.application import changing, correcting, decided, earlier, looking, present, stepping
from handrail.service.application.keeping import Said, keep
from handrail.service.application.kept import kept
from handrail.service.application.plans import assigned_of
from handrail.service.application.refused import Refused, told
from handrail.service.application.reviewing import Act, act_on
from handrail.store import accounts, causes, jobs, overrides, steps
from handrail.store.models import Connection, Job, Override

api = blueprint("overrides", "overrides, corrections and alternatives")


def _reasoned(body: q.Decided) -> None:
    """Raises InputError where a decision that is to be kept has no reason."""
    if not body.preview:
        body.cause, body.reason = causes.check(body.cause, body.reason)


def _expect(record: Connection) -> None:
    wanted = request.headers.get("If-Match")
    if wanted and wanted.strip('"') != str(record.version):
        raise Refused(
            412,
            f"connection {record.key} was changed meanwhile (version {record.version}); look again, nothing was lost",
        )


@api.post(
    "/jobs/<string:job>/connections/<path:connection>/overrides",
    responses={200: d.MadeOverride, 201: d.MadeOverride, 412: a.Problem},
)
@long(keeps=False, when=lambda: g.job.look_due or sent("parameter") in overrides.FRAMED)
def set_override(path: s.ConnectionPath, body: q.NewOverride) -> Reply:
    """Set one parameter, or the `standard`; the connection is checked at once, and before and after are shown."""
    job = job_for(path.job, "detailer")
    _reasoned(body)
    if body.parameter in overrides.FRAMED:
        return _correct(job, path.connection, body)
    made = _change(job, path.connection, lambda: {body.parameter: body.value}, body)
    return made["overrides"][0] | {"beside": made["beside"], "drawing": made["drawing"]}, 200 if body.preview else 201


@api.post(
    "/jobs/<string:job>/connections/<path:connection>/changes",
    responses={200: d.Changed, 201: d.Changed, 409: a.Problem, 412: a.Problem},
)
@long(keeps=False, when=lambda: g.job.look_due)
def change(path: s.ConnectionPath, body: q.NewChanges) -> Reply:
    """Set several parameters in one go with one reason, or take over those of another connection; checked at once, all
    kept or none."""
    job = job_for(path.job, "detailer")
    _reasoned(body)
    if bool(body.changes) == bool(body.take):
        raise Refused(422, "give either changes, or the connection to take them from")
    wanted = body.changes or changing.taken_from(job, path.connection, body.take)
    if framed := sorted(set(wanted) & set(overrides.FRAMED)):
        raise Refused(422, f"changes: {framed[0]} is corrected by itself, with an override")
    key = path.connection
    made = _change(job, key, lambda: changing.held_with(job, key, wanted) if body.hold else wanted, body)
    return made, 200 if body.preview else 201


@api.post("/jobs/<string:job>/connections/<path:connection>/alternatives", responses={200: d.Compared, 409: a.Problem})
@long()
def alternatives(path: s.ConnectionPath, body: q.Alternatives) -> Reply:
    """Other standards, or other sizes of one, side by side with what stands; nothing is kept. One that cannot be made
    says why."""
    job = job_for(path.job)
    record, _, plan = changing.looked_at(job, path.connection)
    tried = []
    if (stands := kept(plan, record)).sizes:
        tried.append(changing.side_by_side(stands, "as it stands"))
    for one in body.alternatives:
        name = one.name or ", ".join(
            [one.standard or record.standard, *(f"{k} {v}" for k, v in one.parameters.items())]
        )
        if ELSEWHERE in one.parameters:
            raise Refused(422, f"{name}: a connection that is {ELSEWHERE} has nothing to set beside what stands")
        now = assigned_of(plan, record.key).rule
        wanted = (
            {"standard": one.standard} if one.standard and (now is None or one.standard != now.use) else {}
        ) | one.parameters
        try:
            tried.append(changing.side_by_side(changing.work_out(job, record.key, wanted), name))
        except (Refused, InputError) as exc:
            raise Refused(422, f"{name}: {told(exc, plan.building.system)}") from exc
    return {"connection": record.key, "alternatives": tried}


@api.get("/jobs/<string:job>/connections/<path:connection>/earlier", responses={200: d.EarlierDesigns})
@long(keeps=False)  # it is of all jobs that the caller may see
def earlier_designs(path: s.ConnectionPath, query: q.EarlierQuery) -> Reply:
    """Designs that pass between like members, here and in other jobs that the caller sees, tried on this connection
    under its own forces; nothing is kept. `changes` takes one over; it counts as worked out here."""
    job = job_for(path.job)
    user, record = caller(), _found(job, path.connection)
    seen = [one for one in jobs.listed() if accounts.role_in(user, one)]
    designs = earlier.designs(record, seen, query.exact)
    return {"connection": record.key, "looked": len(designs), "items": earlier.tried(job, record, designs)}


def _change(job: Job, key: str, wanted: Callable[[], Mapping[str, Any]], body: q.Changing) -> dict[str, Any]:
    """The changes that are wanted, shown or kept."""

    def worked() -> changing.Worked:
        work = changing.work_out(job, key, wanted())
        _expect(work.record)
        return work

    if body.preview:
        looking.up_to_date(job)
        answer = worked()
        shown = [
            present.preview(key, c.parameter, c.shown, body.reason, caller().name, *sides)
            for c, sides in zip(answer.changes, answer.sides, strict=True)
        ]
    else:
        answer, made = keep(job, worked, lambda answer: answer.to_keep(_said(body)), f"connection {key}")
        shown = [present.override(o) for o in made]
    before, after = answer.sides[0]
    drawing = answer.drawing() if body.preview and body.drawing else None
    changed = {"connection": key, "before": before, "after": after, "overrides": shown, "beside": answer.beside}
    return changed | {"drawing": drawing}


def _correct(job: Job, key: str, body: q.NewOverride) -> Reply:
    """A correction of framing, shown or kept."""
    value = str(body.value).strip()
    if not value:
        what = "framing condition" if body.parameter == "framing" else "member that supports it"
        raise Refused(422, f"value: state the {what}; clear the override to go back")

    def worked() -> correcting.Correcting:
        work = correcting.work_out(job, key, body.parameter, value, _said(body))
        _expect(work.record)
        return work

    if body.preview:
        looking.up_to_date(job)
        answer = worked()
        return present.preview(key, body.parameter, value, body.reason, caller().name, *answer.sides), 200
    _, made = keep(job, worked, lambda answer: answer.to_keep(_said(body)), f"connection {key}")
    return present.override(made[0]), 201


def _said(body: q.Decided) -> Said:
    return Said(caller().name, body.reason, body.cause, getattr(body, "both", False))


@api.get("/jobs/<string:job>/overrides", responses={200: d.Listed})
@long(keeps=False, when=lambda: g.job.look_due)
def list_overrides(path: s.JobPath, query: q.OverrideQuery) -> Reply:
    """The decisions of a job, newest first, filtered; with how many of the whole job are in which state."""
    job = job_for(path.job)
    looking.up_to_date_where_it_can(job)
    return decided.listed(job, decided.Wanted(**query.model_dump()))


@api.delete("/jobs/<string:job>/overrides/<int:override>", responses={200: d.Override})
@long(keeps=False)
def clear_override(path: q.OverridePath) -> Reply:
    """Clear an override: the connection goes back to its rule, sized again at once. It stays in the ledger."""
    job = job_for(path.job, "detailer")
    override = of_job(job, path.override)
    wanted = request.headers.get("If-Match", "").strip('"')
    if wanted and wanted != override.state:
        raise Refused(412, f"override {override.id} is {override.state} now; look again, nothing was lost")
    act_on(job, Act("clear", request.args.get("reason", ""), caller().name, is_engineer(job)), [override.id])
    return present.override(Override.get_by_id(override.id))


def of_job(job: Job, number: int) -> Override:
    """An override of a job. Raises Refused(404)."""
    override = Override.get_or_none((Override.id == number) & (Override.job == job))
    if override is None:
        raise Refused(404, f"there is no override {number} in '{job.name}'")
    return override


@api.get("/jobs/<string:job>/steps", responses={200: d.Steps})
def get_steps(path: s.JobPath) -> Reply:
    """What the caller can go back over, and forward to, in words; null where there is nothing."""
    job = job_for(path.job)
    back, forward = (steps.last(job, caller().name, undone) for undone in (False, True))
    return {"back": back and stepping.words(back), "forward": forward and stepping.words(forward)}


@api.post("/jobs/<string:job>/steps/<string:way>", responses={200: d.Stepped, 409: a.Problem})
@long(keeps=False)
def step(path: q.StepPath) -> Reply:
    """Go `back` over the caller's last change of sizes or standards, or `forward` again: checked at once; the ledger
    shows both."""
    job = job_for(path.job, "detailer")
    return stepping.turn(job, caller().name, path.way == "forward", is_engineer(job))
