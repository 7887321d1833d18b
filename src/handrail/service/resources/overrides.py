"""Decisions against the rules: overrides of sizes and standards, corrections of framing, alternatives, steps back and forward."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from flask import request

from handrail.core.checking.batch import Outcome
from handrail.core.checking.result import CEILING
from handrail.core.errors import InputError
from handrail.service import answers as a
from handrail.service import changing, correcting, present, standing, stepping
from handrail.service import schemas as s
from handrail.service.auth import caller, job_for
from handrail.service.plans import assigned_of, look_at, plan_around
from handrail.service.problems import Refused
from handrail.service.resources import blueprint
from handrail.service.resources.connections import found as _found
from handrail.store import connections, overrides, steps
from handrail.store.database import reading, writing
from handrail.store.models import Connection, Job, Override

api = blueprint("overrides", "overrides, corrections and alternatives")


def _summary(outcome: Outcome | Connection, shown: str) -> dict[str, Any]:
    check = outcome.check if isinstance(outcome, Outcome) else outcome.check_name
    return {"value": shown, "status": outcome.status, "utilisation": round(min(outcome.utilisation, CEILING), 6), "check": check,
            "clause": outcome.clause, "action": outcome.action, "reason": outcome.reason}  # fmt: skip


def _expect(record: Connection) -> None:
    wanted = request.headers.get("If-Match")
    if wanted and wanted.strip('"') != str(record.version):
        raise Refused(412, f"connection {record.key} was changed meanwhile (version {record.version}); look again, nothing was lost")


@api.post("/jobs/<string:job>/connections/<path:connection>/overrides", responses={200: a.Override, 201: a.Override, 412: a.Problem})
def set_override(path: s.ConnectionPath, body: s.NewOverride):
    """Set one parameter, or the `standard`; the connection is checked at once, and before and after are shown."""
    job = job_for(path.job, "detailer")
    if not body.preview and not body.reason.strip():
        raise Refused(422, "reason: an override needs a reason")
    if body.parameter in overrides.FRAMED:
        return _tried(path.connection, lambda: _try_correction(job, path.connection, body))
    made = _change(job, path.connection, {body.parameter: body.value}, body)
    return made["overrides"][0], 200 if body.preview else 201


@api.post("/jobs/<string:job>/connections/<path:connection>/changes", responses={200: a.Changed, 201: a.Changed, 409: a.Problem, 412: a.Problem})
def change(path: s.ConnectionPath, body: s.NewChanges):
    """Set several parameters in one go with one reason, or take over those of another connection; checked at once, all kept or none."""
    job = job_for(path.job, "detailer")
    if not body.preview and not body.reason.strip():
        raise Refused(422, "reason: changes need a reason")
    if bool(body.changes) == bool(body.take):
        raise Refused(422, "give either changes, or the connection to take them from")
    wanted = body.changes or changing.taken_from(job, path.connection, body.take)
    if framed := sorted(set(wanted) & set(overrides.FRAMED)):
        raise Refused(422, f"changes: {framed[0]} is corrected by itself, with an override")
    return _change(job, path.connection, wanted, body), 200 if body.preview else 201


@api.post("/jobs/<string:job>/connections/<path:connection>/alternatives", responses={200: a.Compared, 409: a.Problem})
def alternatives(path: s.ConnectionPath, body: s.Alternatives):
    """Other standards, or other sizes of one, side by side with what stands; nothing is kept. One that cannot be made says why."""
    job = job_for(path.job)
    record, _, plan = changing.looked_at(job, path.connection)
    found = []
    if record.sizes and record.standard:
        found.append(changing.side_by_side((record, plan, assigned_of(plan, record.key)), "as it stands"))
    for one in body.alternatives:
        name = one.name or ", ".join([one.standard or record.standard, *(f"{k} {v}" for k, v in one.parameters.items())])
        wanted = ({"standard": one.standard} if one.standard and one.standard != record.standard else {}) | one.parameters
        try:
            found.append(changing.side_by_side(changing.work_out(job, record.key, wanted), name))
        except (Refused, InputError) as exc:
            raise Refused(422, f"{name}: {exc}") from exc
    return {"connection": record.key, "alternatives": found}


def _tried(key: str, one_try: Callable[[], Any]) -> Any:
    """What a try gives once nothing moves under it."""
    for _ in range(standing.TRIES):
        if (answer := one_try()) is not None:
            return answer
    raise Refused(409, f"connection {key} was changed again and again meanwhile; nothing was changed, try again")


def _change(job: Job, key: str, wanted: dict[str, Any], body: s.Decided) -> dict[str, Any]:
    """Changes worked out and kept, or shown."""
    return _tried(key, lambda: _try_change(job, key, wanted, body))


def _try_change(job: Job, key: str, wanted: dict[str, Any], body: s.Decided) -> dict[str, Any] | None:
    """The answer; None where something moved between working it out and writing it."""
    found = changing.work_out(job, key, wanted)
    _expect(found.record)
    if found.shared and not (body.both or body.preview):
        names = ", ".join(c.parameter for c in found.changes)
        raise Refused(409, f"{names}: the same bolts hold {found.record.key} and {found.shared} opposite: say both to change both; "
                           "for one alone they cannot differ")  # fmt: skip
    seen = [(c, _summary(found.record, c.stood), _summary(found.outcome, c.shown)) for c in found.changes]
    if body.preview:
        return {"connection": key, "before": seen[0][1], "after": seen[0][2], "overrides": [
            {"id": None, "connection": key, "parameter": c.parameter, "value": c.shown, "reason": body.reason, "author": caller().name, "made": "",
             "state": "preview", "before": before, "after": after} for c, before, after in seen]}  # fmt: skip
    results = found.results()
    with writing():
        now, current = look_at(job, key), _found(job, key)
        _expect(current)
        if found.moved(now, current):
            return None
        step = steps.begin(job, caller().name)
        for c, before, after in seen:
            steps.made(step, *overrides.keep(job, key, c.parameter, c.value, c.shown, body.reason.strip(), caller().name, before, after, found.shared))
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
    value, words = str(body.value).strip(), f"corrected by {caller().name} ({body.reason.strip()})"
    found = correcting.reframe(seen, key, correcting.with_one(job, key, body.parameter, value, words))
    before = _summary(record, correcting.words_of(record))
    after = {"value": found.shown, "status": found.assigned.status, "utilisation": 0.0, "check": "", "clause": "", "action": "",
             "reason": found.assigned.reason} if found.outcome is None else _summary(found.outcome, found.shown)  # fmt: skip
    if body.preview:
        return {"id": None, "connection": key, "parameter": body.parameter, "value": value, "reason": body.reason,
                "author": caller().name, "made": "", "state": "preview", "before": before, "after": after}  # fmt: skip
    with writing():
        now, current = look_at(job), _found(job, key)
        _expect(current)
        if now.stamp != seen.stamp or now.moved(seen) or current.version != record.version:
            return None
        kept = correcting.value_of(found.building, body.parameter, value)
        made, _ = overrides.keep(job, key, body.parameter, kept, value, body.reason.strip(), caller().name, before, after)
        found.write(job.id)
    return present.override(Override.get_by_id(made.id)), 201


@api.get("/jobs/<string:job>/overrides", responses={200: a.Page[a.Override]})
def list_overrides(path: s.JobPath):
    """Every override of a job, newest first."""
    found = [present.override(o) for o in overrides.listed(job_for(path.job))]
    return {"items": found, "total": len(found), "next": None}


@api.delete("/jobs/<string:job>/overrides/<int:override>", responses={200: a.Override})
def clear_override(path: s.OverridePath):
    """Clear an override: the connection goes back to its rule, sized again at once. It stays in the ledger."""
    job = job_for(path.job, "detailer")
    found = Override.get_or_none((Override.id == path.override) & (Override.job == job))
    if found is None:
        raise Refused(404, f"there is no override {path.override} in '{job.name}'")
    _expect_override(found)
    one_try = _try_uncorrect if found.parameter in overrides.FRAMED else _try_clear
    for _ in range(standing.TRIES):
        if one_try(job, found, request.args.get("reason", "") or "cleared"):
            return present.override(Override.get_by_id(found.id))
    raise Refused(409, f"connection {found.connection} was changed again and again meanwhile; nothing was changed, try again")


def _try_clear(job: Job, found: Override, reason: str) -> bool:
    """End the override and size its connection by its rule again; False where something moved meanwhile."""
    with reading():
        seen, record = look_at(job, found.connection), connections.find(job, found.connection)
        plan = plan_around(seen, record, without=(found.connection, found.parameter)) if record else None
    results = None
    if record is not None and plan is not None and found.parameter in seen.overrides.get(record.key, {}):
        changed = plan.with_partners({record.key})
        results = standing.results(seen, plan, changing.recheck(plan, record.key, None), plan.grounds(changed), changed)
    with writing():
        now = look_at(job, found.connection)
        _expect_override(Override.get_by_id(found.id))
        if now.stamp != seen.stamp or now.moved(seen):
            return False
        if not overrides.clear(job, found, reason, caller().name):
            raise Refused(409, f"override {found.id} is cleared already")
        steps.ended(steps.begin(job, caller().name), found.id)
        if results is not None:
            results.write(job.id)
    return True


@api.get("/jobs/<string:job>/steps", responses={200: a.Steps})
def get_steps(path: s.JobPath):
    """What the caller can go back over, and forward to, in words; null where there is nothing."""
    job = job_for(path.job)
    back, forward = (steps.last(job, caller().name, undone) for undone in (False, True))
    return {"back": back and stepping.words(back), "forward": forward and stepping.words(forward)}


@api.post("/jobs/<string:job>/steps/<string:way>", responses={200: a.Stepped, 409: a.Problem})
def step(path: s.StepPath):
    """Go `back` over the caller's last change of sizes or standards, or `forward` again: checked at once; the ledger shows both."""
    job = job_for(path.job, "detailer")
    return _tried(path.way, lambda: stepping.turn(job, caller().name, path.way == "forward"))


def _try_uncorrect(job: Job, found: Override, reason: str) -> bool:
    """End a correction and frame its joint as without it; False where something moved meanwhile."""
    with reading():
        seen, record = look_at(job), connections.find(job, found.connection)
    made = None
    if record is not None and found.id in {row.id for row in overrides.framed(job)}:
        made = correcting.reframe(seen, record.key, correcting.without_one(job, record.key, found.parameter))
    with writing():
        now = look_at(job)
        _expect_override(Override.get_by_id(found.id))
        if now.stamp != seen.stamp or now.moved(seen):
            return False
        if not overrides.clear(job, found, reason, caller().name):
            raise Refused(409, f"override {found.id} is cleared already")
        if made is not None:
            made.write(job.id)
    return True


def _expect_override(current: Override) -> None:
    """Raises Refused(412) where the caller saw another state, Refused(409) where it has ended."""
    wanted = request.headers.get("If-Match", "").strip('"')
    if wanted and wanted != current.state:
        raise Refused(412, f"override {current.id} is {current.state} now; look again, nothing was lost")
    if current.state not in overrides.HOLDING:
        raise Refused(409, f"override {current.id} is {current.state} already")
