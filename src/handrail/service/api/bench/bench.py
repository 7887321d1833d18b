"""Trials: one connection given whole, checked, sized, mended, drawn; nothing is kept."""

from __future__ import annotations

from typing import Any

from flask import Response, request

from handrail.core.errors import InputError
from handrail.core.rulebook.yaml import NotYaml, load
from handrail.interchange.drawings.files import KINDS
from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api import requests as s
from handrail.service.api.auth import caller, job_for
from handrail.service.api.bench import answers as b
from handrail.service.api.bench import requests as q
from handrail.service.api.connections import answers as c
from handrail.service.api.long import long
from handrail.service.application import trying
from handrail.service.application.refused import Refused

api = blueprint("bench", "one connection with no building")
BESIDE = ("trace", "units", "drawn", "hold", "target", "name", "address")


def _trial() -> dict[str, Any]:
    """The trial in the body, without what is asked of it."""
    return {k: v for k, v in (request.get_json(silent=True) or {}).items() if k not in BESIDE}


@api.post("/trial", responses={200: b.Trial, 422: a.Problem})
def try_one(body: q.TrialBody) -> Reply:
    """One connection given whole, as the trial file; nothing is kept."""
    caller()
    try:
        return trying.tried(_trial(), body.units, body.trace, body.drawn)
    except InputError as exc:
        raise Refused(422, exc.said(body.units)) from exc


@api.post("/trial/read", responses={200: b.ReadTrial, 422: a.Problem})
def read_file(body: q.ReadBody) -> Reply:
    """What a trial's file says, YAML or JSON; whether it can be tried is told by trying it."""
    caller()
    try:
        data = load(body.text)
    except NotYaml as exc:
        raise Refused(422, f"line {exc.line}: {exc.words.replace('not YAML', 'not YAML or JSON')}") from exc
    if not isinstance(data, dict):
        raise Refused(422, "a trial's file is a mapping with framing, standard, supported, support and actions")
    return {"trial": data}


@api.post("/trial/sized", responses={200: b.Designs, 422: a.Problem})
@long()
def size_trial(body: q.SizedBody) -> Reply:
    """Several designs of it by the standard's own ladder, under a target, with some sizes held; of several places that
    share it for all of them. Where none passes the one that is used least."""
    caller()
    try:
        return {"items": trying.sized(_trial(), body.hold, body.target, body.units)}
    except InputError as exc:
        raise Refused(422, exc.said(body.units)) from exc


@api.post("/trial/solids", responses={200: c.JointSolids, 422: a.Problem})
def trial_in_space(body: q.DrawnBody) -> Reply:
    """It in 3D: its members' ends, pieces, bolts and welds as solids, mm in the connection's own axes, z up; how far
    each part is used."""
    caller()
    try:
        return trying.solids(_trial(), body.units)
    except InputError as exc:
        raise Refused(422, exc.said(body.units)) from exc


@api.post("/trial/remedies", responses={200: b.TrialRemedies, 422: a.Problem})
@long()
def mend_trial(body: q.MendedBody) -> Reply:
    """The changes that make it pass: one size before two, the cheapest first."""
    caller()
    try:
        return {"items": trying.mended(_trial(), body.target, body.units)}
    except InputError as exc:
        raise Refused(422, exc.said(body.units)) from exc


@api.post("/trial/files/<string:kind>", responses={200: None, 422: a.Problem})
@long()
def trial_file(path: q.FilePath, body: q.FileBody) -> Response:
    """It as a file: its drawing as PDF, DXF or SVG; all of it on one page of PDF; or the trial itself as YAML."""
    caller()
    if path.kind not in (*KINDS, "page", "yaml"):
        raise Refused(404, f"a trial is written as {', '.join(KINDS)}, page or yaml, not {path.kind}")
    try:
        if path.kind == "yaml":
            content = trying.as_yaml(_trial())
            return _file(content, "application/yaml", body.name, "yaml")
        if path.kind == "page":
            content = trying.page(_trial(), body.units, body.name, body.address)
        else:
            content = trying.drawing(_trial(), path.kind, body.units, body.name)
    except InputError as exc:
        raise Refused(422, exc.said(body.units)) from exc
    kind = "pdf" if path.kind == "page" else path.kind
    return _file(content, KINDS[kind], body.name, kind)


def _file(content: bytes, mimetype: str, title: str, ends: str) -> Response:
    name = "".join(c if c.isalnum() or c in "-_." else "-" for c in title if c.isascii()) or "trial"
    return Response(
        content, mimetype=mimetype, headers={"Content-Disposition": f'attachment; filename="{name}.{ends}"'}
    )


@api.get("/jobs/<string:job>/connections/<path:connection>/trial", responses={200: b.OfConnection, 409: a.Problem})
@long(by_role=False)
def connection_as_trial(path: s.ConnectionPath) -> Reply:
    """A connection of a job as it stands in a trial's form, with its own actions: to be tried otherwise."""
    return trying.of_connection(job_for(path.job), path.connection)
