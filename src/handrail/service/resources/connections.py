"""Joints and connections, and overrides set on them."""

from __future__ import annotations

import json
from typing import Any

from flask import Response, request

from handrail.core.building.correcting import may_be
from handrail.core.checking.assigning import Assigned
from handrail.core.checking.batch import Outcome
from handrail.core.checking.matrix import Matrix
from handrail.core.checking.plan import Plan
from handrail.core.checking.result import CEILING
from handrail.core.codes.aisc360 import code
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import Sizes
from handrail.service import answers as a
from handrail.service import correcting, figures, pages, present, remedies, standing
from handrail.service import schemas as s
from handrail.service.auth import caller, job_for
from handrail.service.plans import assigned_of, look_at, overridden, plan_around, rulebook_of
from handrail.service.problems import Refused
from handrail.service.resources import blueprint
from handrail.store import connections, listing, overrides
from handrail.store.database import reading, writing
from handrail.store.models import Connection, Job, Override

api = blueprint("connections", "joints, connections and overrides")


@api.get("/jobs/<string:job>/connections", responses={200: a.Page[a.ConnectionRow]})
def list_connections(path: s.JobPath, query: s.ListQuery):
    """Connections, filtered, sorted and paged."""
    return _page(query, *listing.page(job_for(path.job), query.where, query.sort, query.limit, query.cursor))


@api.get("/jobs/<string:job>/joints", responses={200: a.Page[a.JointRow]})
def list_joints(path: s.JobPath, query: s.ListQuery):
    """Joints, each with the worst status of its connections."""
    return _page(query, *listing.joints(job_for(path.job), query.where, query.limit, query.cursor))


def _page(query: s.ListQuery, lines: list[str], total: int) -> Response:
    """A page out of lines that are JSON already."""
    after = query.cursor + query.limit
    following = after if lines and after < total else None
    return Response(f'{{"items":[{",".join(lines)}],"total":{total},"next":{json.dumps(following)}}}', mimetype="application/json")


def _found(job: Job, key: str) -> Connection:
    record = connections.find(job, key)
    if record is None:
        raise Refused(404, f"there is no connection '{key}' in '{job.name}'")
    return record


@api.get("/jobs/<string:job>/connections/<path:connection>", responses={200: a.Connection})
def get_connection(path: s.ConnectionPath):
    """One connection in full: sizes with sources, checks with worked lines, peaks, drawing, history."""
    job = job_for(path.job)
    with reading():
        record = _found(job, path.connection)
        seen = look_at(job, record.key)
        stale, worked = pages.worked(seen, record)
        beside = listing.at_joint(job, record.joint_number)
        decided, happened = overrides.listed(job, record.key), overrides.history(job, record.key)
    own = next(r for r in beside if r["connection"] == record.key)
    if stale:
        own |= {"status": "unchecked", "reason": standing.STALE}
    used = code(seen.job.code, seen.job.method)
    body = own | {
        "words": record.words, "facts": record.facts, "may_be": may_be(record.framing),
        "system": seen.revision.system, "code": used.name, "method": used.method,
        "edition": used.manual, "target": rulebook_of(seen.job).target,
        "remedy": (record.remedy or remedies.SOON) if own["status"] == "fail" else "",
        "overrides": [present.override(o) for o in decided],
        "history": [{"event": h.event, "words": h.words, "author": h.author, "made": h.made} for h in happened],
        "neighbours": [r for r in beside if r is not own],
    }  # fmt: skip
    text = json.dumps(body)[:-1] + "," + worked[1:]
    return Response(text, mimetype="application/json", headers={"ETag": f'"{record.version}"'})


@api.get("/jobs/<string:job>/connections/<path:connection>/figures", responses={200: a.Figures, 404: a.Problem})
def get_figures(path: s.ConnectionPath):
    """How a base or a splice works under each combination: pressure and rods, or what its parts take; what governs, and how far its strength goes."""
    record, plan, assigned, sizes = _sized(path)
    found = figures.of_connection(plan, assigned, sizes) if sizes else None
    if found is None:
        raise Refused(404, f"connection '{record.key}' has no figures: they are made for bases and splices that are sized and have forces")
    return found


def _sized(path: s.ConnectionPath) -> tuple[Connection, Plan, Assigned, Sizes]:
    """A connection with its plan and its kept sizes, none where it has no standard."""
    job = job_for(path.job)
    with reading():
        record = _found(job, path.connection)
        plan = plan_around(look_at(job, record.key), record)
    assigned = assigned_of(plan, record.key)
    if not (record.sizes and record.standard and assigned.situation is not None):
        return record, plan, assigned, {}
    return record, plan, assigned, STANDARDS[record.standard].renewed(assigned.situation, connections.sizes_of(record))


def _every(path: s.ConnectionPath) -> tuple[Matrix, str]:
    """The matrix of a connection's checks and combinations, and its units. Raises Refused(404) with the reason where there is none."""
    record, plan, assigned, sizes = _sized(path)
    if not sizes:
        raise Refused(404, f"connection '{record.key}' is not sized: {record.reason}")
    found = plan.every(assigned, sizes)
    if isinstance(found, str):
        raise Refused(404, f"connection '{record.key}' cannot be judged: {found}")
    return found, plan.building.system


@api.get("/jobs/<string:job>/connections/<path:connection>/matrix", responses={200: a.Matrix, 404: a.Problem})
def get_matrix(path: s.ConnectionPath):
    """Every check at every combination, with the combination that governs each check and the check that governs each combination."""
    return present.matrix(_every(path)[0])


@api.get("/jobs/<string:job>/connections/<path:connection>/matrix/check", responses={200: a.ShownCheck, 404: a.Problem})
def get_cell(path: s.ConnectionPath, query: s.Cell):
    """One check at one combination of the matrix, with its worked lines."""
    found, system = _every(path)
    if query.check >= len(found.states) or query.combination >= len(found.actions.names):
        raise Refused(404, f"the matrix has checks 0 to {len(found.states) - 1} and combinations 0 to {len(found.actions.names) - 1}")
    if not found.judged[query.check, query.combination]:
        raise Refused(404, f"{found.states[query.check].check} is not judged by {found.actions.names[query.combination]}")
    return present.check(found.check(query.check, query.combination), system)


def _summary(outcome: Outcome | Connection, shown: str) -> dict[str, Any]:
    check = outcome.check if isinstance(outcome, Outcome) else outcome.check_name
    return {"value": shown, "status": outcome.status, "utilisation": round(min(outcome.utilisation, CEILING), 6), "check": check,
            "clause": outcome.clause, "action": outcome.action, "reason": outcome.reason}  # fmt: skip


def _shared_with(plan: Plan, assigned: Assigned, record: Connection, parameter: str) -> str:
    """The connection opposite that is held by the same bolts, where `parameter` is one of theirs; empty where there is none."""
    assert assigned.rule is not None
    standard = STANDARDS[assigned.rule.use]
    return plan.partner(record.key) if parameter in standard.shared and standard.through(connections.sizes_of(record)) else ""


def _recheck(plan: Plan, key: str, stood: dict[str, Sizes] | None) -> dict[int, Outcome]:
    """A connection worked out with the sizes that stood, or afresh; and the one that shares its bolts."""
    keys = plan.with_partners({key})
    return plan.work(keys, stood)


def _expect(record: Connection) -> None:
    wanted = request.headers.get("If-Match")
    if wanted and wanted.strip('"') != str(record.version):
        raise Refused(412, f"connection {record.key} was changed meanwhile (version {record.version}); look again, nothing was lost")


@api.post("/jobs/<string:job>/connections/<path:connection>/overrides", responses={200: a.Override, 201: a.Override, 412: a.Problem})
def set_override(path: s.ConnectionPath, body: s.NewOverride):
    """Set one parameter; the connection is checked at once, and before and after are shown."""
    job = job_for(path.job, "detailer")
    if not body.preview and not body.reason.strip():
        raise Refused(422, "reason: an override needs a reason")
    one_try = _try_correction if body.parameter in overrides.FRAMED else _try_override
    for _ in range(standing.TRIES):
        if (answer := one_try(job, path.connection, body)) is not None:
            return answer
    raise Refused(409, f"connection {path.connection} was changed again and again meanwhile; nothing was changed, try again")


def _try_override(job: Job, key: str, body: s.NewOverride) -> Any:
    """The answer; None where something moved between working it out and writing it."""
    with reading():
        record = _found(job, key)
        seen = look_at(job, key)
        plan = plan_around(seen, record)
    _expect(record)
    if not record.standard or not record.sizes:
        raise Refused(409, f"connection {record.key} has no standard ({record.reason}); there is nothing to override")
    standard = STANDARDS[record.standard]
    parameter = standard.parameter(body.parameter)
    value = standard.read_one(parameter.name, body.value, bare=1000.0 if parameter.kind == "force" else 1.0)
    plan.overrides = overridden(seen, {record.key: {parameter.name: value}})
    system = plan.building.system
    assigned = assigned_of(plan, record.key)
    if assigned.rule is None or assigned.reason:
        raise Refused(409, f"connection {record.key} cannot be sized now ({assigned.reason}); nothing was changed")
    partner = _shared_with(plan, assigned, record, parameter.name)
    if partner and not (body.both or body.preview):
        raise Refused(409, f"{parameter.name} is of bolts that hold {record.key} and {partner} opposite: say both to change it for both; "
                           "for one alone they cannot differ")  # fmt: skip
    kept = connections.stood_sizes(job, plan.with_partners({record.key}))
    outcomes = _recheck(plan, record.key, kept)
    outcome, stood = outcomes[plan.index[record.key]], kept[record.key].get(parameter.name)
    before, shown = _summary(record, parameter.show(stood.value, system) if stood else ""), parameter.show(value, system)
    after = _summary(outcome, shown)
    if body.preview:
        return {"id": None, "connection": record.key, "parameter": parameter.name, "value": shown, "reason": body.reason,
                "author": caller().name, "made": "", "state": "preview", "before": before, "after": after}  # fmt: skip
    changed = {plan.assigned[k].connection.id for k in outcomes}
    grounds = plan.grounds(changed, {plan.assigned[k].connection.id: o.sizes for k, o in outcomes.items()})
    results = standing.results(seen, plan, outcomes, grounds, changed)
    with writing():
        now, current = look_at(job, key), _found(job, key)
        _expect(current)
        if now.stamp != seen.stamp or now.moved(seen) or current.version != record.version:
            return None
        made = overrides.keep(job, record.key, parameter.name, value, shown, body.reason.strip(), caller().name, before, after, partner)
        results.write(job.id)
    return present.override(Override.get_by_id(made.id)), 201


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
        made = overrides.keep(job, key, body.parameter, kept, value, body.reason.strip(), caller().name, before, after)
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
        results = standing.results(seen, plan, _recheck(plan, record.key, None), plan.grounds(changed), changed)
    with writing():
        now = look_at(job, found.connection)
        _expect_override(Override.get_by_id(found.id))
        if now.stamp != seen.stamp or now.moved(seen):
            return False
        if not overrides.clear(job, found, reason, caller().name):
            raise Refused(409, f"override {found.id} is cleared already")
        if results is not None:
            results.write(job.id)
    return True


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
