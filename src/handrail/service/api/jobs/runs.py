"""Runs: start one, watch it, stop it, start an interrupted one again."""

from __future__ import annotations

from collections import Counter
from typing import Any

from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api import requests as s
from handrail.service.api.auth import caller, job_for
from handrail.service.api.jobs import requests as q
from handrail.service.api.long import long, sent
from handrail.service.api.rulebooks import answers as r
from handrail.service.application.patterns import connections_of
from handrail.service.application.refused import Refused
from handrail.store import listing, revisions, runs, works
from handrail.store.models import Job, Revision, Run

api = blueprint("runs", "batches over a job or a part of it")


def _start(job: Job, mode: str, where: str, wanted: str = "", only: list[str] | None = None) -> Run:
    revision = revisions.latest(job)
    if mode == "look":
        _known(revision, job, wanted or job.combination_set, only or [])
    listing.conditions(where)
    if not job.rulebook:
        raise Refused(409, f"job '{job.name}' has no rulebook; put one first (handrail rulebook put {job.name} FILE)")
    made, new = runs.add(job, mode, where, caller().name, wanted, only)
    if not new:
        raise Refused(409, f"run {made.id} of this job is {made.state}; wait for it or cancel it")
    return made


def _known(revision: Revision, job: Job, wanted: str, only: list[str]) -> None:
    """Raises Refused(422) where the model lacks the set, or what was named of it."""
    held = [c for c in revisions.head_of(revision).combinations if c.set == wanted]
    if not held:
        raise Refused(422, f"combination_set: the model has no combinations of set '{wanted}'")
    by_method = {c.name for c in held if c.method == job.method}
    if unknown := [name for name in only if name not in by_method]:
        other = " (it is of another method)" if unknown[0] in {c.name for c in held} else ""
        raise Refused(
            422,
            f"only: '{unknown[0]}' is no combination of set {wanted} by {job.method}{other}; there is"
            f" {', '.join(sorted(by_method)[:20])}",
        )


def _found(job: Job, number: int) -> Run:
    run = Run.get_or_none((Run.id == number) & (Run.job == job))
    if run is None:
        raise Refused(404, f"there is no run {number} in '{job.name}'")
    return run


@api.post("/jobs/<string:job>/runs", responses={202: a.Run, 409: a.Problem})
@long(keeps=False, when=lambda: bool(sent("pattern")) or listing.asks_for_facts(str(sent("where"))))
def start_run(path: s.JobPath, body: q.NewRun) -> Reply:
    """Start a run in the background: sizing, or verifying sizes as they stand; by another set or single combinations it
    only looks, and changes no result."""
    job = job_for(path.job, "detailer")
    look = bool(body.only) or body.combination_set not in ("", job.combination_set)
    mode = "look" if look else "verify" if body.verify else "size"
    where = _of_pattern(job, body) if body.pattern else body.where
    return runs.as_dict(_start(job, mode, where, body.combination_set, body.only)), 202


def _of_pattern(job: Job, body: q.NewRun) -> str:
    """The connections of a pattern as a filter. Raises Refused."""
    if body.where:
        raise Refused(422, "say which connections by a filter (where) or by a pattern, one of them")
    keys = connections_of(job, body.pattern, None)
    if any(sign in key for key in keys for sign in '|,"'):
        raise Refused(
            422,
            f"pattern: a connection of {body.pattern} has a name with a bar, a comma or a quote; run it by a filter",
        )
    return f"connection={'|'.join(keys)}" if len(keys) > 1 else f'connection="{keys[0]}"'


@api.get("/jobs/<string:job>/runs", responses={200: a.Page[a.Run]})
def list_runs(path: s.JobPath) -> Reply:
    """The job's runs, newest first."""
    listed = [
        runs.as_dict(one) for one in Run.select().where(Run.job == job_for(path.job)).order_by(Run.id.desc()).limit(100)
    ]
    return {"items": listed, "total": len(listed), "next": None}


@api.get("/jobs/<string:job>/runs/<int:run>", responses={200: a.Run})
def get_run(path: q.RunPath) -> Reply:
    """One run: state, progress, and what came out."""
    return runs.as_dict(_found(job_for(path.job), path.run))


@api.get("/jobs/<string:job>/runs/<int:run>/changes", responses={200: r.RunChanged})
def run_changes(path: q.RunPath) -> Reply:
    """What a run changed: connections that are other steel since, by another standard or judged otherwise, then those
    whose utilisation alone moved by more than 0.02; each before and after."""
    run = _found(job_for(path.job), path.run)
    items = runs.changes_of(run)
    counts = Counter(_kind(item) for item in items or [])
    return {"run": run.id, "counts": dict(counts.most_common()), "items": items or [], "kept": items is not None}


def _kind(item: dict[str, Any]) -> str:
    before, after = item["before"], item["after"]
    if before["status"] != after["status"]:
        return f"{before['status']} to {after['status']}"
    return "moved" if all(before[name] == after[name] for name in ("standard", "summary")) else "resized"


@api.post("/jobs/<string:job>/runs/<int:run>/cancel", responses={202: a.Run})
def cancel_run(path: q.RunPath) -> Reply:
    """End a run, whether it waits or is under way; nothing of it is kept."""
    job = job_for(path.job, "detailer")
    works.cancel(_found(job, path.run))
    return runs.as_dict(_found(job, path.run)), 202


@api.post("/jobs/<string:job>/runs/<int:run>/again", responses={202: a.Run, 409: a.Problem})
def run_again(path: q.RunPath) -> Reply:
    """Start an interrupted, cancelled or failed run again with what it was asked."""
    job = job_for(path.job, "detailer")
    old = _found(job, path.run)
    return (
        runs.as_dict(_start(job, old.mode, old.where, old.combination_set if old.mode == "look" else "", old.only)),
        202,
    )
