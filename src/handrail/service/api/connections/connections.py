"""Joints and connections."""

from __future__ import annotations

import json
from typing import Any

from flask import Response, request

from handrail.core.building.correcting import may_be
from handrail.core.checking.matrix import Matrix
from handrail.core.codes import code
from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api import requests as s
from handrail.service.api.auth import job_for
from handrail.service.api.connections import answers as c
from handrail.service.api.connections import requests as q
from handrail.service.api.long import long
from handrail.service.application import figures, joints, pages, present, remedies, standing
from handrail.service.application.kept import Kept, kept_alone
from handrail.service.application.plans import look_at
from handrail.service.application.refused import Refused
from handrail.store import connections, events, history, listing, overrides
from handrail.store.database import reading
from handrail.store.models import Connection, Job

api = blueprint("connections", "joints and connections")


def _by_facts() -> bool:
    """Whether the list is filtered by what the whole building says."""
    return listing.asks_for_facts(request.args.get("where", ""))


@api.get("/jobs/<string:job>/connections", responses={200: a.Page[c.ConnectionRow]})
@long(when=_by_facts)
def list_connections(path: s.JobPath, query: q.ListQuery) -> Reply:
    """Connections, filtered, sorted and paged."""
    return _page(query, *listing.page(job_for(path.job), query.where, query.sort, query.limit, query.cursor))


@api.get("/jobs/<string:job>/joints", responses={200: a.Page[c.JointRow]})
@long(when=_by_facts)
def list_joints(path: s.JobPath, query: q.ListQuery) -> Reply:
    """Joints, each with the worst status of its connections."""
    return _page(query, *listing.joints(job_for(path.job), query.where, query.limit, query.cursor))


def _page(query: q.ListQuery, lines: list[str], total: int) -> Response:
    """A page out of lines that are JSON already."""
    after = query.cursor + query.limit
    following = after if lines and after < total else None
    return Response(
        f'{{"items":[{",".join(lines)}],"total":{total},"next":{json.dumps(following)}}}', mimetype="application/json"
    )


def found(job: Job, key: str) -> Connection:
    record = connections.find(job, key)
    if record is None:
        raise Refused(404, f"there is no connection '{key}' in '{job.name}'")
    return record


def _wants_remedy(line: dict[str, Any]) -> bool:
    """Whether remedies are looked for: of what fails, is over the target, or has a standard and cannot be judged."""
    return bool(
        line["status"] == "fail"
        or line["over_target"]
        or (line["status"] == "unchecked" and line["standard"] and not line["stale"])
    )


@api.get("/jobs/<string:job>/connections/<path:connection>", responses={200: c.Connection})
def get_connection(path: s.ConnectionPath) -> Reply:
    """One connection in full: sizes with sources, checks with worked lines, peaks, drawing, history."""
    job = job_for(path.job)
    with reading():
        record = found(job, path.connection)
        seen = look_at(job, record.key)
        stale, worked = pages.worked(seen, record)
        beside = listing.at_joint(job, record.joint_number)
        decided, happened = overrides.listed(job, record.key), history.of_connection(job, record.key)
        note = events.notes(job).get(record.key, "")
    own = next(r for r in beside if r["connection"] == record.key)
    if stale:
        own |= {"status": "unchecked", "reason": standing.STALE, "stale": True, "over_target": False, "remarks": []}
    used, wanting = code(seen.job.code, seen.job.method), _wants_remedy(own)
    body = own | {
        "words": record.words,
        "pieces": [present.piece(p) for p in record.pieces],
        "facts": record.facts,
        "may_be": may_be(record.framing),
        "system": seen.revision.system,
        "code": used.name,
        "method": used.method,
        "edition": used.manual,
        "remedies": record.remedies if wanting and record.remedy else [],
        "remedy": (record.remedy or remedies.SOON) if wanting else "",
        "overrides": [present.override(o) for o in decided],
        "history": happened,
        "shop_note": note,
        "neighbours": [r for r in beside if r is not own],
    }
    text = json.dumps(body)[:-1] + "," + worked[1:]
    return Response(text, mimetype="application/json", headers={"ETag": f'"{record.version}"'})


@api.get("/jobs/<string:job>/connections/<path:connection>/figures", responses={200: c.Figures, 404: a.Problem})
def get_figures(path: s.ConnectionPath) -> Reply:
    """How a base or a splice works under each combination: pressure and rods, or what its parts take; what governs, and
    how far its strength goes."""
    stands = _stands(path)
    shown = figures.of_connection(stands.plan, stands.assigned, stands.sizes) if stands.sizes else None
    if shown is None:
        raise Refused(
            404,
            f"connection '{stands.record.key}' has no figures: they are made for bases and splices that are sized and"
            " have forces",
        )
    return shown


@api.get("/jobs/<string:job>/connections/<path:connection>/joint", responses={200: c.JointSolids, 404: a.Problem})
@long(by_role=False)
def get_solids(path: s.ConnectionPath) -> Reply:
    """The whole joint of a connection as solids: what its connections are made of, how far each part is used, what
    stands in what."""
    job = job_for(path.job)
    with reading():
        record = found(job, path.connection)
        return joints.of_connection(look_at(job, record.key), record)


@api.post("/jobs/<string:job>/connections/<path:connection>/joint", responses={200: c.JointSolids, 404: a.Problem})
@long(keeps=False)
def solids_with(path: s.ConnectionPath, body: q.OtherSizes) -> Reply:
    """The same with other sizes of the connection; nothing is kept."""
    job = job_for(path.job)
    return joints.with_changes(job, path.connection, body.changes)


@api.get("/jobs/<string:job>/connections/<path:connection>/parts", responses={200: c.Parts, 404: a.Problem})
def get_parts(path: s.ConnectionPath) -> Reply:
    """What each part of a connection is made with: which of its sizes change it."""
    return {"connection": path.connection, "sizes": joints.made_with(_stands(path))}


@api.get("/jobs/<string:job>/connections/<path:connection>/drawing", responses={200: a.Drawing, 404: a.Problem})
@long(by_role=False)
def get_drawing(path: s.ConnectionPath) -> Reply:
    """The views of a connection with the others of its joint dimmed."""
    job = job_for(path.job)
    with reading():
        record = found(job, path.connection)
        return joints.drawing(look_at(job, record.key), record)


def _stands(path: s.ConnectionPath) -> Kept:
    """A connection as it stands."""
    job = job_for(path.job)
    with reading():
        record = found(job, path.connection)
        return kept_alone(look_at(job, record.key), record)


def _every(path: s.ConnectionPath) -> tuple[Matrix, str]:
    """The matrix of a connection's checks and combinations, and its units. Raises Refused(404) with the reason where
    there is none."""
    stands = _stands(path)
    if not stands.sizes:
        raise Refused(404, f"connection '{stands.record.key}' is not sized: {stands.record.reason}")
    matrix = stands.plan.every(stands.assigned, stands.sizes)
    if isinstance(matrix, str):
        raise Refused(404, f"connection '{stands.record.key}' cannot be judged: {matrix}")
    return matrix, stands.plan.building.system


@api.get("/jobs/<string:job>/connections/<path:connection>/matrix", responses={200: c.Matrix, 404: a.Problem})
def get_matrix(path: s.ConnectionPath) -> Reply:
    """Every check at every combination, with the combination that governs each check and the check that governs each
    combination."""
    return present.matrix(_every(path)[0])


@api.get("/jobs/<string:job>/connections/<path:connection>/matrix/check", responses={200: c.ShownCheck, 404: a.Problem})
def get_cell(path: s.ConnectionPath, query: q.Cell) -> Reply:
    """One check at one combination of the matrix, with its worked lines."""
    matrix, system = _every(path)
    if query.check >= len(matrix.states) or query.combination >= len(matrix.actions.names):
        raise Refused(
            404,
            f"the matrix has checks 0 to {len(matrix.states) - 1} and combinations 0 to"
            f" {len(matrix.actions.names) - 1}",
        )
    if not matrix.judged[query.check, query.combination]:
        raise Refused(
            404, f"{matrix.states[query.check].check} is not judged by {matrix.actions.names[query.combination]}"
        )
    return present.check(matrix.check(query.check, query.combination), system)
