"""Patterns: joints that are alike, with the largest of everything that acts on them."""

from __future__ import annotations

import base64
import threading
from collections import OrderedDict
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.actions import COMPONENTS
from handrail.core.building.framing import Framing
from handrail.core.building.model import Building
from handrail.core.building.patterns import Pattern, find_patterns, peaks_of, points_of
from handrail.core.building.places import places
from handrail.core.checking.acting import Acting
from handrail.service import answers as a
from handrail.service import model_answers as m
from handrail.service import schemas as s
from handrail.service.auth import job_for
from handrail.service.plans import Seen, framed, look_at
from handrail.service.problems import Refused
from handrail.service.resources import blueprint
from handrail.store.models import Job

api = blueprint("patterns", "joints that are alike")
KEPT = 2
SCALE = np.array([1e-3] * 3 + [1e-6] * 3)  # kN and kN*m


@dataclass(frozen=True)
class _Found:
    building: Building
    framing: Framing
    patterns: dict[str, Pattern]
    acting: dict[str, np.ndarray]
    names: tuple[str, ...]
    places: list[str]


_kept: OrderedDict[Any, _Found] = OrderedDict()
_lock = threading.Lock()


def _of(job: Job) -> _Found:
    """Worked out once for a model, what was said of its framing, and a method."""
    seen = look_at(job)
    key = (seen.stamp[0], seen.stamp[-1], seen.job.method)
    with _lock:
        if key not in _kept:
            _kept[key] = _work_out(seen)
        _kept.move_to_end(key)
        while len(_kept) > KEPT:
            _kept.popitem(last=False)
        return _kept[key]


def _work_out(seen: Seen) -> _Found:
    building, framing = framed(seen)
    acting = Acting(building, framing.connections, seen.job.method, framing.pieces.roles)
    table = acting.all * SCALE
    forces = {c.id: table[k] for k, c in enumerate(framing.connections)}
    return _Found(building, framing, {p.name: p for p in find_patterns(building, framing)}, forces, acting.names,
                  places(building))  # fmt: skip


def _brief(pattern: Pattern) -> dict[str, Any]:
    return {"name": pattern.name, "joints": len(pattern.members), "mirrored": sum(m.mirrored for m in pattern.members), "slots": list(pattern.slots),
            "framings": [f for f in pattern.framings if f], "connections": sum(bool(c) for m in pattern.members for c in m.connections)}  # fmt: skip


@api.get("/jobs/<string:job>/patterns", responses={200: a.Page[m.Pattern]})
def list_patterns(path: s.JobPath):
    """Every pattern of the current revision, the one with most joints first."""
    found = [_brief(p) for p in _of(job_for(path.job)).patterns.values()]
    return {"items": found, "total": len(found), "next": None}


def _pattern(job: Job, name: str) -> tuple[_Found, Pattern]:
    found = _of(job)
    if name not in found.patterns:
        raise Refused(404, f"there is no pattern '{name}' in '{job.name}'; it has P1 to P{len(found.patterns)}")
    return found, found.patterns[name]


@api.get("/jobs/<string:job>/patterns/<string:pattern>", responses={200: m.PatternInFull})
def get_pattern(path: s.PatternPath):
    """One pattern: its joints with how each is laid on it, and at each place the largest and smallest of every action over all joints and strength
    combinations, with what acts at the same time, as the first joint's axes see it. kN, kN*m."""
    found, pattern = _pattern(job_for(path.job), path.pattern)
    members = [{"joint": found.building.nodes[m.node], "place": found.places[m.node], "turn": m.turn, "mirrored": m.mirrored,
                "connections": list(m.connections)} for m in pattern.members]  # fmt: skip
    places = []
    for slot, words in enumerate(pattern.slots):
        peaks = peaks_of(pattern, slot, found.acting, found.names)
        shown = [p | {"action": COMPONENTS[p["action"]]} for p in peaks]
        places.append({"words": words, "framing": pattern.framings[slot], "peaks": shown})
    return _brief(pattern) | {"members": members, "places": places, "actions": list(COMPONENTS)}


@api.get("/jobs/<string:job>/patterns/<string:pattern>/points", responses={200: m.PatternPoints})
def get_points(path: s.PatternPath, query: s.Slot):
    """Every action of one place of a pattern, each joint and combination a point: float32 numbers in base64, connection by connection, combination by
    combination, six actions each. kN, kN*m."""
    found, pattern = _pattern(job_for(path.job), path.pattern)
    if query.slot >= len(pattern.slots):
        raise Refused(422, f"slot {query.slot}: {pattern.name} has places 0 to {len(pattern.slots) - 1}")
    ids, table = points_of(pattern, query.slot, found.acting)
    data = base64.b64encode(table.astype("<f4").tobytes()).decode()
    return {"connections": ids, "combinations": list(found.names), "actions": list(COMPONENTS), "data": data}
