"""Patterns: joints that are alike, with the largest of everything that acts on them."""

from __future__ import annotations

import base64

from flask import Response

from handrail.core.actions import COMPONENTS
from handrail.interchange.sheet import WORKBOOK
from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api import requests as s
from handrail.service.api.auth import caller, job_for
from handrail.service.api.long import long
from handrail.service.api.models import answers as m
from handrail.service.api.models import requests as q
from handrail.service.application import patterns

api = blueprint("patterns", "joints that are alike")


@api.get("/jobs/<string:job>/patterns", responses={200: a.Page[m.Pattern]})
@long(by_role=False)
def list_patterns(path: s.JobPath) -> Reply:
    """Every pattern of the current revision, the one with most joints first."""
    listed = patterns.listed(job_for(path.job))
    return {"items": listed, "total": len(listed), "next": None}


@api.get("/jobs/<string:job>/patterns/<string:pattern>", responses={200: m.PatternInFull})
@long()
def get_pattern(path: q.PatternPath) -> Reply:
    """One pattern: its joints with how each is laid on it, and at each place the largest and smallest of every action
    over all joints and strength combinations, with what acts at the same time, as the first joint's axes see it. kN,
    kN*m."""
    return patterns.in_full(job_for(path.job), path.pattern)


@api.get("/jobs/<string:job>/patterns/<string:pattern>/points", responses={200: m.PatternPoints})
@long()
def get_points(path: q.PatternPath, query: q.Slot) -> Reply:
    """Every action of one place of a pattern, each joint and combination a point: float32 numbers in base64, connection
    by connection, combination by combination, six actions each. kN, kN*m."""
    ids, table, combinations = patterns.points(job_for(path.job), path.pattern, query.slot)
    data = base64.b64encode(table.astype("<f4").tobytes()).decode()
    return {"connections": ids, "combinations": list(combinations), "actions": list(COMPONENTS), "data": data}


@api.get("/jobs/<string:job>/patterns/<string:pattern>/boundary", responses={200: m.PatternBoundary})
@long()
def get_boundary(path: q.PatternPath, query: q.TwoActions) -> Reply:
    """How far the connections at one place of a pattern go in two actions, and the points that govern them. kN,
    kN*m."""
    return patterns.boundary(job_for(path.job), path.pattern, query.slot, (query.x, query.y))


@api.get(
    "/jobs/<string:job>/patterns/<string:pattern>/workbook",
    responses={200: {"content": {WORKBOOK: {"schema": {"type": "string", "format": "binary"}}}}},
)
@long()
def get_workbook(path: q.PatternPath, query: q.PickedPoints) -> Reply:
    """A pattern for whoever designs it elsewhere: a reference joint with its sketch and axes and what runs through it,
    and the critical actions of all its joints turned and mirrored onto it, each with its joint and combination; and
    those of points that are `picked`."""
    name, content = patterns.workbook(job_for(path.job), path.pattern, query.picked)
    return Response(content, mimetype=WORKBOOK, headers={"Content-Disposition": f'attachment; filename="{name}"'})


@api.put("/jobs/<string:job>/joints/<path:joint>/pattern", responses={200: m.Pattern})
@long(keeps=False)
def edit_pattern(path: q.PatternJointPath, body: q.PatternEdit) -> Reply:
    """Put a joint into the pattern of another, or take it out of its own, with a reason; the answer is the pattern that
    it is in then."""
    job = job_for(path.job, "detailer")
    return patterns.put_beside(job, path.joint, body.beside, body.reason, caller().name)


@api.delete("/jobs/<string:job>/joints/<path:joint>/pattern", responses={200: m.Pattern})
@long(keeps=False)
def take_back_edit(path: q.PatternJointPath) -> Reply:
    """The joint goes where it was found to belong."""
    return patterns.take_back(job_for(path.job, "detailer"), path.joint)
