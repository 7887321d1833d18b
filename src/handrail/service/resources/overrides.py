"""Decisions against the rules: overrides of sizes and standards, corrections of framing, alternatives, steps back and
forward."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from flask import request

from handrail.core.checking.assigning import ELSEWHERE
from handrail.core.errors import InputError
from handrail.service import answers as a
from handrail.service import changing, correcting, decided, earlier, looking, present, standing, stepping
from handrail.service import decision_answers as d
from handrail.service import schemas as s
from handrail.service.auth import caller, is_engineer, job_for
from handrail.service.kept import kept
from handrail.service.plans import assigned_of, look_at, plan_of
from handrail.service.problems import Refused
from handrail.service.resources import Reply, blueprint
from handrail.service.resources.connections import found as _found
from handrail.service.resources.patterns import connections_of
from handrail.service.reviewing import Act, act_on
from handrail.service.sides import side_of
from handrail.store import accounts, causes, overrides, steps
from handrail.store.database import reading, writing
from handrail.store.models import Connection, Job, Override
from handrail.store.overrides import Decision

api = blueprint("overrides", "overrides, corrections and alternatives")


def _reasoned(body: s.Decided) -> None:
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
    responses={200: d.Override, 201: d.Override, 412: a.Problem},
)
def set_override(path: s.ConnectionPath, body: s.NewOverride) -> Reply:
    """Set one parameter, or the `standard`; the connection is checked at once, and before and after are shown."""
    job = job_for(path.job, "detailer")
    _reasoned(body)
    if body.parameter in overrides.FRAMED:
        return _tried(job, path.connection, lambda: _try_correction(job, path.connection, body))
    made = _change(job, path.connection, {body.parameter: body.value}, body)
    return made["overrides"][0], 200 if body.preview else 201


@api.post(
    "/jobs/<string:job>/connections/<path:connection>/changes",
    responses={200: d.Changed, 201: d.Changed, 409: a.Problem, 412: a.Problem},
)
def change(path: s.ConnectionPath, body: s.NewChanges) -> Reply:
    """Set several parameters in one go with one reason, or take over those of another connection; checked at once, all
    kept or none."""
    job = job_for(path.job, "detailer")
    _reasoned(body)
    if bool(body.changes) == bool(body.take):
        raise Refused(422, "give either changes, or the connection to take them from")
    wanted = body.changes or changing.taken_from(job, path.connection, body.take)
    if framed := sorted(set(wanted) & set(overrides.FRAMED)):
        raise Refused(422, f"changes: {framed[0]} is corrected by itself, with an override")
    if body.hold:
        key = path.connection
        made = _tried(job, key, lambda: _try_change(job, key, changing.held_with(job, key, wanted), body))
    else:
        made = _change(job, path.connection, wanted, body)
    return made, 200 if body.preview else 201


@api.post("/jobs/<string:job>/connections/<path:connection>/alternatives", responses={200: d.Compared, 409: a.Problem})
def alternatives(path: s.ConnectionPath, body: s.Alternatives) -> Reply:
    """Other standards, or other sizes of one, side by side with what stands; nothing is kept. One that cannot be made
    says why."""
    job = job_for(path.job)
    record, _, plan = changing.looked_at(job, path.connection)
    found = []
    if (stands := kept(plan, record)).sizes:
        found.append(changing.side_by_side(stands, "as it stands"))
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
            found.append(changing.side_by_side(changing.work_out(job, record.key, wanted), name))
        except (Refused, InputError) as exc:
            raise Refused(422, f"{name}: {exc}") from exc
    return {"connection": record.key, "alternatives": found}


@api.get("/jobs/<string:job>/connections/<path:connection>/earlier", responses={200: d.EarlierDesigns})
def earlier_designs(path: s.ConnectionPath, query: s.EarlierQuery) -> Reply:
    """Designs that pass between like members, here and in other jobs that the caller sees, tried on this connection
    under its own forces; nothing is kept. `changes` takes one over; it counts as worked out here."""
    job = job_for(path.job)
    user, record = caller(), _found(job, path.connection)
    seen = [one for one in Job.select() if accounts.role_in(user, one)]
    found = earlier.designs(record, seen, query.exact)
    return {"connection": record.key, "looked": len(found), "items": earlier.tried(job, record, found)}


def _tried(job: Job, key: str, one_try: Callable[[], Any]) -> Any:
    """What a try gives once nothing moves under it."""
    for _ in range(standing.TRIES):
        looking.up_to_date(job)
        if (answer := one_try()) is not None:
            return answer
    raise Refused(409, f"connection {key} was changed again and again meanwhile; nothing was changed, try again")


def _change(job: Job, key: str, wanted: dict[str, Any], body: s.Decided) -> dict[str, Any]:
    """Changes worked out and kept, or shown."""
    return _tried(job, key, lambda: _try_change(job, key, wanted, body))


def _try_change(job: Job, key: str, wanted: dict[str, Any], body: s.Decided) -> dict[str, Any] | None:
    """The answer; None where something moved between working it out and writing it."""
    found = changing.work_out(job, key, wanted)
    _expect(found.record)
    if found.shared and not (body.both or body.preview):
        names = ", ".join(c.parameter for c in found.changes)
        raise Refused(
            409,
            f"{names}: the same bolts hold {found.record.key} and {found.shared} opposite: say both to change both; "
            "for one alone they cannot differ",
        )
    seen = [
        (c, side_of(found.record, c.stood), side_of(found.outcome or found.assigned, c.shown, found.also()))
        for c in found.changes
    ]
    if body.preview:
        return {
            "connection": key,
            "before": seen[0][1],
            "after": seen[0][2],
            "overrides": [
                present.preview(key, c.parameter, c.shown, body.reason, caller().name, before, after)
                for c, before, after in seen
            ],
        }
    results, grounds = found.results(), found.grounds()
    with writing():
        now, current = look_at(job, key), _found(job, key)
        _expect(current)
        if found.moved(now, current):
            return None
        step = steps.begin(job, caller().name)
        steps.made_many(
            step,
            overrides.keep(
                job,
                [
                    Decision(
                        key,
                        c.parameter,
                        c.value,
                        c.shown,
                        body.reason,
                        caller().name,
                        before,
                        after,
                        found.shared,
                        body.cause,
                        grounds[key, c.parameter],
                    )
                    for c, before, after in seen
                ],
            ),
        )
        overrides.rebase(job, grounds)
        results.write(job.id)
    made = [present.override(Override.get_by_id(k)) for k in step.made]
    return {"connection": key, "before": seen[0][1], "after": seen[0][2], "overrides": made}


def _try_correction(job: Job, key: str, body: s.NewOverride) -> Any:
    """The answer; None where something moved between working it out and writing it."""
    with reading():
        record, seen = _found(job, key), look_at(job)
    _expect(record)
    if not str(body.value).strip():
        what = "framing condition" if body.parameter == "framing" else "member that supports it"
        raise Refused(422, f"value: state the {what}; clear the override to go back")
    value, words = str(body.value).strip(), f"corrected by {caller().name} ({body.reason.strip() or body.cause})"
    found = correcting.reframe(seen, key, correcting.with_one(job, key, body.parameter, value, words))
    before = side_of(record, correcting.words_of(record))
    after = side_of(found.outcome or found.assigned, found.shown)
    if body.preview:
        return present.preview(key, body.parameter, value, body.reason, caller().name, before, after)
    grounds = looking.of_framing(seen, plan_of(seen), [(key, body.parameter)])[key, body.parameter]
    with writing():
        now, current = look_at(job), _found(job, key)
        _expect(current)
        if now.differs(seen) or current.version != record.version:
            return None
        kept = correcting.value_of(found.building, body.parameter, value)
        decision = Decision(
            key, body.parameter, kept, value, body.reason, caller().name, before, after, "", body.cause, grounds
        )
        ((made, _),) = overrides.keep(job, [decision])
        found.write(job.id)
        standing.settle(job, "pattern", "joints were framed otherwise, and rules ask for patterns")
    return present.override(Override.get_by_id(made)), 201


@api.get("/jobs/<string:job>/overrides", responses={200: d.Listed})
def list_overrides(path: s.JobPath, query: s.OverrideQuery) -> Reply:
    """The decisions of a job, newest first, filtered; with how many of the whole job are in which state."""
    job = job_for(path.job)
    looking.up_to_date(job)
    some = set(connections_of(job, query.pattern, None)) if query.pattern else None
    return decided.listed(job, query, some)


@api.delete("/jobs/<string:job>/overrides/<int:override>", responses={200: d.Override})
def clear_override(path: s.OverridePath) -> Reply:
    """Clear an override: the connection goes back to its rule, sized again at once. It stays in the ledger."""
    job = job_for(path.job, "detailer")
    found = of_job(job, path.override)
    wanted = request.headers.get("If-Match", "").strip('"')
    if wanted and wanted != found.state:
        raise Refused(412, f"override {found.id} is {found.state} now; look again, nothing was lost")
    done(job, Act("clear", request.args.get("reason", ""), caller().name, is_engineer(job)), [found.id])
    return present.override(Override.get_by_id(found.id))


def of_job(job: Job, number: int) -> Override:
    """An override of a job. Raises Refused(404)."""
    found = Override.get_or_none((Override.id == number) & (Override.job == job))
    if found is None:
        raise Refused(404, f"there is no override {number} in '{job.name}'")
    return found


def done(job: Job, act: Act, ids: list[int]) -> None:
    """An act on overrides, tried until nothing moves under it."""
    for _ in range(standing.TRIES):
        looking.up_to_date(job)
        if act_on(job, act, overrides.of_ids(ids)):
            return
    raise Refused(409, "it was changed again and again meanwhile; nothing was changed, try again")


@api.get("/jobs/<string:job>/steps", responses={200: d.Steps})
def get_steps(path: s.JobPath) -> Reply:
    """What the caller can go back over, and forward to, in words; null where there is nothing."""
    job = job_for(path.job)
    back, forward = (steps.last(job, caller().name, undone) for undone in (False, True))
    return {"back": back and stepping.words(back), "forward": forward and stepping.words(forward)}


@api.post("/jobs/<string:job>/steps/<string:way>", responses={200: d.Stepped, 409: a.Problem})
def step(path: s.StepPath) -> Reply:
    """Go `back` over the caller's last change of sizes or standards, or `forward` again: checked at once; the ledger
    shows both."""
    job = job_for(path.job, "detailer")
    return _tried(job, path.way, lambda: stepping.turn(job, caller().name, path.way == "forward", is_engineer(job)))
