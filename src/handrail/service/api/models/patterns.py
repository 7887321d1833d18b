"""Patterns: joints that are alike, with the largest of everything that acts on them."""

from __future__ import annotations

import base64
import threading
from dataclasses import dataclass
from typing import Any

import numpy as np
from cachetools import LRUCache, cached
from flask import Response

from handrail.core.actions import COMPONENTS
from handrail.core.building.framing import Framing
from handrail.core.building.model import Building
from handrail.core.building.patterns import Member, Pattern, peaks_of, points_of, with_edits
from handrail.core.building.places import places
from handrail.core.checking.acting import Acting
from handrail.core.codes import code
from handrail.interchange.handover import handover
from handrail.interchange.sheet import WORKBOOK
from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api import requests as s
from handrail.service.api.auth import caller, job_for
from handrail.service.api.models import answers as m
from handrail.service.api.models import requests as q
from handrail.service.application import boundaries, standing
from handrail.service.application.plans import Seen, framed, look_at
from handrail.service.application.refused import Refused
from handrail.store import pattern_edits
from handrail.store.database import writing
from handrail.store.models import Job

api = blueprint("patterns", "joints that are alike")
KEPT = 2
SCALE = np.array([1e-3] * 3 + [1e-6] * 3)  # kN and kN*m


@dataclass(frozen=True)
class _Found:
    building: Building
    framing: Framing
    patterns: dict[str, Pattern]
    misfits: dict[str, str]
    acting: dict[str, np.ndarray]
    names: tuple[str, ...]
    places: list[str]


MOVED = "patterns were changed, which rules ask for"


def _of(job: Job) -> _Found:
    """Worked out once for a model, what was said of its framing, and a method."""
    edits = {joint: e["beside"] for joint, e in pattern_edits.listed(job).items()}
    return _work_out(look_at(job), edits)


def _key(seen: Seen, edits: dict[str, str]) -> tuple[Any, ...]:
    return seen.stamp[0], seen.stamp[-1], seen.job.method, seen.job.combination_set, repr(sorted(edits.items()))


@cached(LRUCache(KEPT), key=_key, condition=threading.Condition())
def _work_out(seen: Seen, edits: dict[str, str]) -> _Found:
    building, framing = framed(seen)
    acting = Acting(
        building, framing.connections, code(seen.job.code, seen.job.method), framing.pieces.roles, seen.chosen
    )
    table = acting.all * SCALE
    forces = {c.id: table[k] for k, c in enumerate(framing.connections)}
    patterns, misfits = with_edits(building, framing, edits)
    return _Found(building, framing, {p.name: p for p in patterns}, misfits, forces, acting.names, places(building))


def connections_of(job: Job, name: str, slot: int | None) -> list[str]:
    """The connections of a pattern, all or those at one of its places. Raises Refused(404)."""
    _, pattern = _pattern(job, name)
    return [key for m in pattern.members for k, key in enumerate(m.connections) if key and (slot is None or k == slot)]


def _brief(found: _Found, pattern: Pattern) -> dict[str, Any]:
    return {
        "name": pattern.name,
        "at": [found.building.nodes[m.node] for m in pattern.members],
        "joints": len(pattern.members),
        "mirrored": sum(m.mirrored for m in pattern.members),
        "slots": list(pattern.slots),
        "framings": [f for f in pattern.framings if f],
        "connections": sum(bool(c) for m in pattern.members for c in m.connections),
    }


@api.get("/jobs/<string:job>/patterns", responses={200: a.Page[m.Pattern]})
def list_patterns(path: s.JobPath) -> Reply:
    """Every pattern of the current revision, the one with most joints first."""
    found = _of(job_for(path.job))
    listed = [_brief(found, p) for p in found.patterns.values()]
    return {"items": listed, "total": len(listed), "next": None}


def _pattern(job: Job, name: str) -> tuple[_Found, Pattern]:
    found = _of(job)
    if name not in found.patterns:
        raise Refused(404, f"there is no pattern '{name}' in '{job.name}'; it has P1 to P{len(found.patterns)}")
    return found, found.patterns[name]


def _said(found: _Found, edits: dict[str, Any], member: Member) -> str:
    """Who put a joint into its pattern or took it out of one, and why; empty where nobody did."""
    joint = found.building.nodes[member.node]
    if joint not in edits:
        return ""
    edit = edits[joint]
    did = f"put beside {edit['beside']}" if edit["beside"] else "taken out of its own"
    unfit = f"; not followed: {found.misfits[joint]}" if joint in found.misfits else ""
    return f"{did} by {edit['author']}: {edit['reason']}{unfit}"


@api.get("/jobs/<string:job>/patterns/<string:pattern>", responses={200: m.PatternInFull})
def get_pattern(path: q.PatternPath) -> Reply:
    """One pattern: its joints with how each is laid on it, and at each place the largest and smallest of every action
    over all joints and strength combinations, with what acts at the same time, as the first joint's axes see it. kN,
    kN*m."""
    job = job_for(path.job)
    found, pattern = _pattern(job, path.pattern)
    edits = pattern_edits.listed(job)
    members = [
        {
            "joint": found.building.nodes[m.node],
            "place": found.places[m.node],
            "turn": m.turn,
            "mirrored": m.mirrored,
            "connections": list(m.connections),
            "said": _said(found, edits, m),
        }
        for m in pattern.members
    ]
    places = []
    for slot, words in enumerate(pattern.slots):
        peaks = peaks_of(pattern, slot, found.acting, found.names)
        shown = [p | {"action": COMPONENTS[p["action"]]} for p in peaks]
        places.append({"words": words, "framing": pattern.framings[slot], "peaks": shown})
    return _brief(found, pattern) | {"members": members, "places": places, "actions": list(COMPONENTS)}


@api.get("/jobs/<string:job>/patterns/<string:pattern>/points", responses={200: m.PatternPoints})
def get_points(path: q.PatternPath, query: q.Slot) -> Reply:
    """Every action of one place of a pattern, each joint and combination a point: float32 numbers in base64, connection
    by connection, combination by combination, six actions each. kN, kN*m."""
    found, pattern = _pattern(job_for(path.job), path.pattern)
    if query.slot >= len(pattern.slots):
        raise Refused(422, f"slot {query.slot}: {pattern.name} has places 0 to {len(pattern.slots) - 1}")
    ids, table = points_of(pattern, query.slot, found.acting)
    data = base64.b64encode(table.astype("<f4").tobytes()).decode()
    return {"connections": ids, "combinations": list(found.names), "actions": list(COMPONENTS), "data": data}


@api.get("/jobs/<string:job>/patterns/<string:pattern>/boundary", responses={200: m.PatternBoundary})
def get_boundary(path: q.PatternPath, query: q.TwoActions) -> Reply:
    """How far the connections at one place of a pattern go in two actions, and the points that govern them. kN,
    kN*m."""
    job = job_for(path.job)
    found, pattern = _pattern(job, path.pattern)
    if query.slot >= len(pattern.slots):
        raise Refused(422, f"slot {query.slot}: {pattern.name} has places 0 to {len(pattern.slots) - 1}")
    return boundaries.of_place(job, pattern, query.slot, (query.x, query.y), found.acting, found.names)


@api.get(
    "/jobs/<string:job>/patterns/<string:pattern>/workbook",
    responses={200: {"content": {WORKBOOK: {"schema": {"type": "string", "format": "binary"}}}}},
)
def get_workbook(path: q.PatternPath) -> Reply:
    """A pattern for whoever designs it elsewhere: a reference joint with its sketch and axes, and the critical actions
    of all its joints turned and mirrored onto it, each with its joint and combination."""
    job = job_for(path.job)
    found, pattern = _pattern(job, path.pattern)
    content = handover(
        found.building, found.framing, pattern, found.acting, found.names, job.title or job.name, job.method
    )
    return Response(
        content,
        mimetype=WORKBOOK,
        headers={"Content-Disposition": f'attachment; filename="{job.name}-{pattern.name}.xlsx"'},
    )


@api.put("/jobs/<string:job>/joints/<path:joint>/pattern", responses={200: m.Pattern})
def edit_pattern(path: q.PatternJointPath, body: q.PatternEdit) -> Reply:
    """Put a joint into the pattern of another, or take it out of its own, with a reason; the answer is the pattern that
    it is in then."""
    job = job_for(path.job, "detailer")
    found = _of(job)
    for joint in (path.joint, body.beside):
        if joint and joint not in {n for p in found.patterns.values() for n in _brief(found, p)["at"]}:
            raise Refused(422, f"{joint} is no joint with connections in '{job.name}'")
    if body.beside == path.joint:
        raise Refused(422, "beside: name another joint, or leave it empty to take this one out of its pattern")
    edits = {joint: e["beside"] for joint, e in pattern_edits.listed(job).items()} | {path.joint: body.beside}
    _, misfits = with_edits(found.building, found.framing, edits)
    if path.joint in misfits:
        raise Refused(422, f"{path.joint}: {misfits[path.joint]}")
    with writing():
        pattern_edits.put(job, path.joint, body.beside, body.reason, caller().name)
        standing.settle(job, "pattern", MOVED)
    return _in(job, path.joint)


@api.delete("/jobs/<string:job>/joints/<path:joint>/pattern", responses={200: m.Pattern})
def take_back_edit(path: q.PatternJointPath) -> Reply:
    """The joint goes where it was found to belong."""
    job = job_for(path.job, "detailer")
    with writing():
        if not pattern_edits.drop(job, path.joint):
            raise Refused(404, f"nobody put {path.joint} into a pattern or took it out of one")
        standing.settle(job, "pattern", MOVED)
    return _in(job, path.joint)


def _in(job: Job, joint: str) -> dict[str, Any]:
    """The pattern that a joint is in."""
    found = _of(job)
    return next(b for p in found.patterns.values() if joint in (b := _brief(found, p))["at"])
