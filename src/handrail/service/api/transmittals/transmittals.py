"""Transmittals: made, listed, handed out again as they were."""

from __future__ import annotations

from typing import Any

from flask import Response

from handrail.core.errors import InputError
from handrail.service.api import Reply, blueprint
from handrail.service.api import requests as s
from handrail.service.api.auth import caller, job_for
from handrail.service.api.long import long
from handrail.service.api.transmittals import answers as t
from handrail.service.api.transmittals import requests as q
from handrail.service.application import transmitting
from handrail.service.application.refused import Refused
from handrail.store import transmittals
from handrail.store.models import Job, Transmittal

api = blueprint("transmittals", "what leaves the house, frozen")
NAMED = 2000  # connections that an answer names


@api.post("/jobs/<string:job>/transmittals", responses={200: t.TransmittalInFull, 201: t.TransmittalInFull})
@long(keeps=False)
def transmit(path: s.JobPath, body: q.NewTransmittal) -> Reply:
    """Freeze what is released as a numbered zip: drawings with clouds, lists, what changed since each connection was
    last sent. What is not released goes along only `anyway`, with a reason, and is marked."""
    job = job_for(path.job, "detailer")
    wanted = transmitting.Asked(body.to.strip(), body.why.strip(), body.where, body.anyway.strip(), caller().name)
    if not (wanted.to and wanted.why):
        raise InputError("a transmittal says to whom it goes (to) and what for (why)")
    if body.preview:
        return _preview(transmitting.gather(job, wanted)), 200
    return _in_full(job, transmitting.make(job, wanted)), 201


@api.get("/jobs/<string:job>/transmittals", responses={200: t.Transmittals})
def list_transmittals(path: s.JobPath) -> Reply:
    """All of a job, the newest first."""
    job = job_for(path.job)
    later = transmittals.superseded(job)
    return {"items": [_shown(one, later) for one in transmittals.of_job(job)]}


@api.get("/jobs/<string:job>/transmittals/<int:number>", responses={200: t.TransmittalInFull})
def get_transmittal(path: q.TransmittalPath) -> Reply:
    """One of them, with what was new, changed or withdrawn in it."""
    job = job_for(path.job)
    return _in_full(job, _found(job, path.number))


@api.get("/jobs/<string:job>/transmittals/<int:number>/file", responses={200: None})
def transmittal_file(path: q.TransmittalPath) -> Response:
    """The zip as it was made."""
    job = job_for(path.job)
    found = _found(job, path.number, data=True)
    name = f"{job.name}-{transmittals.name_of(found.number)}.zip"
    return Response(
        bytes(found.data),
        mimetype="application/zip",
        headers={"Content-Disposition": f'attachment; filename="{name}"'},
    )


def _found(job: Job, number: int, data: bool = False) -> Transmittal:
    found = transmittals.find(job, number, data)
    if found is None:
        raise Refused(404, f"job {job.name} has no transmittal {transmittals.name_of(number)}")
    return found


def _shown(one: Transmittal, later: dict[int, int]) -> dict[str, Any]:
    names = ("number", "to", "why", "where", "anyway", "author", "made", "revision", "marks", "size", "digest")
    counts = {name: one.counts.get(name, 0) for name in ("new", "changed", "same", "withdrawn", "unreleased")}
    own = {name: getattr(one, name) for name in names}
    return own | counts | {"name": transmittals.name_of(one.number), "superseded": later.get(one.number, 0)}


def _in_full(job: Job, one: Transmittal) -> dict[str, Any]:
    sent = transmittals.sent_in(one, transmitting.CHANGES)[:NAMED]
    items = [{name: getattr(row, name) for name in t.SentConnection.model_fields} for row in sent]
    return _shown(one, transmittals.superseded(job)) | {"items": items, "left_out": []}


def _preview(it: transmitting.Gathered) -> dict[str, Any]:
    names = ("connection", "mark", "standard", "status", "utilisation", "change", "words", "before")
    items = [
        {name: getattr(row, name) for name in names}
        | {"place": row.state.place if row.state else "", "released": row.state.released if row.state else ""}
        for row in it.rows
        if row.change in transmitting.CHANGES
    ]
    asked = {name: getattr(it.asked, name) for name in ("to", "why", "where", "anyway", "author")}
    counts = {"new": 0, "changed": 0, "same": 0, "withdrawn": 0} | it.counts
    return (
        asked
        | counts
        | {
            "number": 0,
            "name": transmittals.name_of(it.number),
            "made": it.made,
            "revision": it.standing.seen.revision.number,
            "marks": len(it.marks),
            "superseded": 0,
            "size": 0,
            "digest": "",
            "items": items[:NAMED],
            "left_out": [{"why": why, "connections": count} for why, count in it.left_out.items()],
        }
    )
