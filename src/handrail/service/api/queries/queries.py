"""Queries to the engineer of record: asked, answered, closed; out as a list or BCF, and in again."""

from __future__ import annotations

from collections.abc import Collection
from datetime import date
from typing import Any

from flask import Response, request

from handrail.core.errors import InputError
from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api import requests as s
from handrail.service.api.auth import caller, is_engineer, job_for
from handrail.service.api.long import long
from handrail.service.api.queries import answers as t
from handrail.service.api.queries import requests as q
from handrail.service.application import querying
from handrail.service.application.refused import Refused
from handrail.store import queries
from handrail.store.models import Job, Query

api = blueprint("queries", "queries to the engineer of record")


def _found(job: Job, number: int) -> Query:
    kept = queries.find(job, number)
    if kept is None:
        raise Refused(404, f"job {job.name} has no query {queries.name_of(number)}")
    return kept


def _shown(job: Job, some: Collection[Query]) -> list[dict[str, Any]]:
    keys, today = queries.concerned(job, some), date.today().isoformat()
    fields = ("number", "guid", "title", "words", "to", "due", "holds", "state", "author", "made", "answer",
              "answered_by", "answered", "closed_by", "closed", "said")  # fmt: skip
    return [
        {name: getattr(one, name) for name in fields}
        | {
            "name": queries.name_of(one.number),
            "late": bool(one.due) and one.state == queries.OPEN and one.due < today,
            "of": [{"kind": kind, "name": name} for kind, name in one.of],
            "missing": [],
            "connections": list(keys[one.number]),
        }
        for one in some
    ]


def _one(job: Job, kept: Query) -> dict[str, Any]:
    return _shown(job, [kept])[0] | {"missing": querying.Model(job).missing(kept.of)}


@api.get("/jobs/<string:job>/queries", responses={200: t.EngineerQueries})
def list_queries(path: s.JobPath, query: q.QueriesOf) -> Reply:
    """All of a job, the newest first; those of a state, or that concern a connection."""
    job = job_for(path.job)
    every = _shown(job, queries.listed(job))
    chosen = [
        one
        for one in every
        if query.state in ("", one["state"]) and (not query.connection or query.connection in one["connections"])
    ]
    waiting = [one for one in every if one["state"] == queries.OPEN]
    return {"items": chosen, "total": len(chosen), "open": len(waiting), "late": sum(one["late"] for one in waiting)}


@api.post("/jobs/<string:job>/queries", responses={201: t.EngineerQuery})
@long(keeps=False)
def ask_query(path: s.JobPath, body: q.NewQuery) -> Reply:
    """Ask the engineer of record something of joints, members, connections or findings."""
    job = job_for(path.job, "detailer")
    of = tuple((one.kind, one.name.strip()) for one in body.of)
    if wrong := [name for name, place in body.view.items() if name not in querying.VIEW or len(place) != 3]:
        raise InputError(f"view: '{wrong[0]}' is not x, y, z of {', '.join(querying.VIEW)}")
    asked = queries.checked(queries.Asked(body.title, body.words, body.to, body.due, of, body.holds, body.view))
    querying.refuse_unknown(job, of)
    return _one(job, queries.ask(job, asked, caller().name)), 201


@api.get("/jobs/<string:job>/queries/<int:number>", responses={200: t.EngineerQuery, 404: a.Problem})
def get_query(path: q.QueryPath) -> Reply:
    """One of them."""
    job = job_for(path.job)
    return _one(job, _found(job, path.number))


@api.get("/jobs/<string:job>/queries/<int:number>/picture.png", responses={200: None})
@long(by_role=False)
def query_picture(path: q.QueryPath) -> Response:
    """The building with what it is about."""
    job = job_for(path.job)
    return Response(querying.Model(job).picture(_found(job, path.number)), mimetype="image/png")


@api.post("/jobs/<string:job>/queries/<int:number>/answer", responses={200: t.EngineerQuery})
def answer_query(path: q.QueryPath, body: q.QueryWords) -> Reply:
    """What the engineer of record answered, as somebody writes it down."""
    job = job_for(path.job, "detailer")
    _found(job, path.number)
    return _one(job, queries.answer(job, path.number, body.words, caller().name))


@api.post("/jobs/<string:job>/queries/<int:number>/close", responses={200: t.EngineerQuery})
def close_query(path: q.QueryPath, body: q.QueryWords) -> Reply:
    """What it asked is settled: an engineer's word. It holds nothing any more."""
    job = job_for(path.job, "engineer")
    _found(job, path.number)
    return _one(job, queries.close(job, path.number, caller().name, body.words))


@api.post("/jobs/<string:job>/queries/<int:number>/again", responses={200: t.EngineerQuery})
def ask_again(path: q.QueryPath, body: q.QueryWords) -> Reply:
    """Ask again what was answered or closed, with a reason."""
    job = job_for(path.job, "detailer")
    _found(job, path.number)
    return _one(job, queries.reopen(job, path.number, caller().name, body.words))


@api.get("/jobs/<string:job>/queries.<string:kind>", responses={200: None})
@long(by_role=False)
def queries_file(path: q.QueriesPath, query: q.QueriesFile) -> Response:
    """The queries as a list to print (pdf), or as BCF with a viewpoint and a picture each."""
    job = job_for(path.job)
    body = querying.as_file(job, path.kind, query.version, query.state)
    name = f'attachment; filename="{job.name}-queries.{path.kind}"'
    return Response(body, mimetype=querying.KINDS[path.kind], headers={"Content-Disposition": name})


@api.post("/jobs/<string:job>/queries.bcf", responses={200: t.TakenQueries})
@long(keeps=False)
def take_in_queries(path: s.JobPath) -> Reply:
    """Take in a BCF file (the body): queries that are known get what was said of them since, the others are new. One
    that is closed there is closed here where an engineer takes it in."""
    job, user = job_for(path.job, "detailer"), caller()
    return querying.take_in(job, request.get_data(cache=True), user.name, is_engineer(job))
