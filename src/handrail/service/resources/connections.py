"""Joints and connections, and overrides set on them."""

from __future__ import annotations

from typing import Any

from flask import request

from handrail.core.checking.batch import Outcome
from handrail.core.checking.plan import Assigned, Plan
from handrail.core.checking.remedy import without_remedy
from handrail.core.checking.result import CEILING
from handrail.core.standards import STANDARDS
from handrail.service import answers as a
from handrail.service import present
from handrail.service import schemas as s
from handrail.service.auth import caller, job_for
from handrail.service.plans import assigned_of, plan_for
from handrail.service.problems import Refused
from handrail.service.resources import blueprint
from handrail.store import connections, overrides
from handrail.store.database import writing
from handrail.store.jobs import system_of
from handrail.store.models import Connection, Job, Override

api = blueprint("connections", "joints, connections and overrides")


@api.get("/jobs/<string:job>/connections", responses={200: a.Page[a.ConnectionRow]})
def list_connections(path: s.JobPath, query: s.ListQuery):
    """Connections, filtered, sorted and paged."""
    job = job_for(path.job)
    found, system = connections.select(job, query.where, query.sort), system_of(job)
    total = found.count()
    items = [present.row(c, system) for c in found.limit(query.limit).offset(query.cursor)]
    after = query.cursor + len(items)
    return {"items": items, "total": total, "next": after if after < total else None}


@api.get("/jobs/<string:job>/joints", responses={200: a.Page[a.JointRow]})
def list_joints(path: s.JobPath, query: s.ListQuery):
    """Joints, each with the worst status of its connections."""
    found = connections.joints(job_for(path.job), query.where)
    after = query.cursor + query.limit
    return {"items": found[query.cursor : after], "total": len(found), "next": after if after < len(found) else None}


def _found(job: Job, key: str) -> Connection:
    record = connections.find(job, key)
    if record is None:
        raise Refused(404, f"there is no connection '{key}' in '{job.name}'")
    return record


@api.get("/jobs/<string:job>/connections/<string:connection>", responses={200: a.Connection})
def get_connection(path: s.ConnectionPath):
    """One connection in full: sizes with sources, checks with worked lines, peaks, drawing, history."""
    job = job_for(path.job)
    record = _found(job, path.connection)
    plan = plan_for(job)
    assigned = assigned_of(plan, record.key)
    body = present.row(record, plan.building.system) | {
        "words": record.words, "facts": record.facts, "system": plan.building.system, "code": plan.code.name,
        "method": plan.code.method, "edition": plan.code.manual, "target": plan.rulebook.target,
        "peaks": present.peaks(plan, assigned), "parameters": [], "checks": [], "detailing": [], "notes": record.notes, "remedy": "", "drawing": None,
        "overrides": [present.override(o) for o in overrides.listed(job, record.key)],
        "history": [{"event": h.event, "words": h.words, "author": h.author, "made": h.made} for h in overrides.history(job, record.key)],
        "neighbours": [present.row(c, plan.building.system) for c in connections.select(job, f"joint={record.joint}") if c.key != record.key],
    }  # fmt: skip
    if record.sizes and record.standard and assigned.situation is not None:
        standard, system = STANDARDS[record.standard], plan.building.system
        sizes = standard.renewed(assigned.situation, connections.sizes_of(record))
        looked = plan.look(assigned, sizes, tracing=True)
        body["parameters"] = present.parameters(standard, sizes, system)
        body["drawing"] = standard.draw(assigned.situation, sizes, system).as_dict()
        if looked is not None:
            body |= present.result(looked, system)
        if record.status == "fail":
            remedy = plan.remedy(assigned, sizes)
            body["remedy"] = remedy.words(standard, system) if remedy else without_remedy(looked)
    return body, 200, {"ETag": f'"{record.version}"'}


def _summary(outcome: Outcome | Connection, shown: str) -> dict[str, Any]:
    check = outcome.check if isinstance(outcome, Outcome) else outcome.check_name
    return {"value": shown, "status": outcome.status, "utilisation": round(min(outcome.utilisation, CEILING), 6), "check": check,
            "clause": outcome.clause, "action": outcome.action, "reason": outcome.reason}  # fmt: skip


def _recheck(plan: Plan, assigned: Assigned, sizes: Any) -> Outcome:
    family = plan.family(assigned, sizes)
    assert family is not None
    index = plan.index[assigned.connection.id]
    return dict(plan.batch().run({family: [index]}))[index]


def _expect(record: Connection) -> None:
    wanted = request.headers.get("If-Match")
    if wanted and wanted.strip('"') != str(record.version):
        raise Refused(412, f"connection {record.key} was changed meanwhile (version {record.version}); look again, nothing was lost")


@api.post("/jobs/<string:job>/connections/<string:connection>/overrides", responses={200: a.Override, 201: a.Override, 412: a.Problem})
def set_override(path: s.ConnectionPath, body: s.NewOverride):
    """Set one parameter; the connection is checked at once, and before and after are shown."""
    job = job_for(path.job, "detailer")
    record = _found(job, path.connection)
    _expect(record)
    if not record.standard or not record.sizes:
        raise Refused(409, f"connection {record.key} has no standard ({record.reason}); there is nothing to override")
    if not body.preview and not body.reason.strip():
        raise Refused(422, "reason: an override needs a reason")
    standard = STANDARDS[record.standard]
    parameter = standard.parameter(body.parameter)
    value = parameter.read(body.value, bare=1000.0 if parameter.kind == "force" else 1.0)
    plan = plan_for(job, {record.key: {parameter.name: value}})
    system = plan.building.system
    assigned = assigned_of(plan, record.key)
    if assigned.rule is None or assigned.reason:
        raise Refused(409, f"connection {record.key} cannot be sized now ({assigned.reason}); nothing was changed")
    outcome = _recheck(plan, assigned, connections.sizes_of(record))
    stood = record.sizes.get(parameter.name)
    before = _summary(record, parameter.show(stood[0], system) if stood else "")
    shown = parameter.show(value, system)
    after = _summary(outcome, shown)
    if body.preview:
        return {"id": None, "connection": record.key, "parameter": parameter.name, "value": shown, "reason": body.reason,
                "author": caller().name, "made": "", "state": "preview", "before": before, "after": after}  # fmt: skip
    with writing():
        _expect(_found(job, record.key))
        made = overrides.keep(job, record.key, parameter.name, value, shown, body.reason.strip(), caller().name, before, after)
        connections.write_outcomes(job, [(record.key, record.standard, assigned.rule.name, outcome, plan.digest(assigned, outcome))])
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
    if found.state not in overrides.HOLDING:
        raise Refused(409, f"override {found.id} is {found.state} already")
    reason = request.args.get("reason", "")
    record = connections.find(job, found.connection)
    with writing():
        overrides.clear(job, found, reason or "cleared", caller().name)
        if record is not None and record.standard:
            plan = plan_for(job)
            assigned = assigned_of(plan, record.key)
            if assigned.rule is not None and not assigned.reason:
                outcome = _recheck(plan, assigned, None)
                connections.write_outcomes(
                    job, [(record.key, record.standard, assigned.rule.name, outcome, plan.digest(assigned, outcome))]
                )
    return present.override(Override.get_by_id(found.id))
