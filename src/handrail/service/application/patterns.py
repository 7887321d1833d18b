"""The patterns of a job, worked out once for how it stands; what people say of single joints is changed here."""

from __future__ import annotations

import threading
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from cachetools import LRUCache, cached

from handrail.core.actions import COMPONENTS
from handrail.core.building.framing import Framing
from handrail.core.building.model import Building
from handrail.core.building.patterns import Member, Pattern, peaks_of, points_of, with_edits
from handrail.core.building.places import places
from handrail.core.checking.acting import Acting
from handrail.core.codes import code
from handrail.core.errors import InputError
from handrail.interchange.handover import handover
from handrail.service.application import boundaries, standing
from handrail.service.application.attempting import attempt
from handrail.service.application.plans import Seen, framed, look_at
from handrail.service.application.refused import Refused
from handrail.store import pattern_edits
from handrail.store.database import reading
from handrail.store.models import Job

KEPT = 2
SCALE = np.array([1e-3] * 3 + [1e-6] * 3)  # kN and kN*m
MOVED = "patterns were changed, which rules ask for"


@dataclass(frozen=True)
class Patterns:
    """Every pattern of a job by its name, and the actions of every connection, kN and kN*m, a row a combination."""

    building: Building
    framing: Framing
    named: dict[str, Pattern]
    misfits: dict[str, str]  # joint -> why what was said of it is not followed
    acting: dict[str, np.ndarray]
    combinations: tuple[str, ...]
    places: list[str]

    def brief(self, pattern: Pattern) -> dict[str, Any]:
        return {
            "name": pattern.name,
            "at": [self.building.nodes[m.node] for m in pattern.members],
            "joints": len(pattern.members),
            "mirrored": sum(m.mirrored for m in pattern.members),
            "slots": list(pattern.slots),
            "framings": [f for f in pattern.framings if f],
            "connections": sum(bool(c) for m in pattern.members for c in m.connections),
        }

    def joints(self) -> set[str]:
        """Every joint that has connections."""
        return {self.building.nodes[m.node] for p in self.named.values() for m in p.members}


def patterns_of(job: Job) -> Patterns:
    """Worked out once for a model, what was said of its framing, and a method."""
    with reading():
        seen, beside = look_at(job), _beside(job)
    return _work_out(seen, beside)


def _beside(job: Job) -> dict[str, str]:
    """joint -> beside which other it was put; nothing: out of its own."""
    return {joint: edit["beside"] for joint, edit in pattern_edits.listed(job).items()}


def _key(seen: Seen, beside: dict[str, str]) -> tuple[Any, ...]:
    job = seen.job
    return seen.stamp[0], seen.stamp[-1], job.code, job.method, job.combination_set, repr(sorted(beside.items()))


@cached(LRUCache(KEPT), key=_key, condition=threading.Condition())
def _work_out(seen: Seen, beside: dict[str, str]) -> Patterns:
    building, framing = framed(seen)
    acting = Acting(
        building, framing.connections, code(seen.job.code, seen.job.method), framing.pieces.roles, seen.chosen
    )
    table = acting.all * SCALE
    forces = {c.id: table[k] for k, c in enumerate(framing.connections)}
    patterns, misfits = with_edits(building, framing, beside)
    return Patterns(building, framing, {p.name: p for p in patterns}, misfits, forces, acting.names, places(building))


def connections_of(job: Job, name: str, slot: int | None) -> list[str]:
    """The connections of a pattern, all or those at one of its places. Raises Refused(404)."""
    _, pattern = _one(job, name)
    return [key for m in pattern.members for k, key in enumerate(m.connections) if key and (slot is None or k == slot)]


def listed(job: Job) -> list[dict[str, Any]]:
    """Every pattern, the one with most joints first."""
    of_job = patterns_of(job)
    return [of_job.brief(p) for p in of_job.named.values()]


def _one(job: Job, name: str) -> tuple[Patterns, Pattern]:
    of_job = patterns_of(job)
    if name not in of_job.named:
        raise Refused(404, f"there is no pattern '{name}' in '{job.name}'; it has P1 to P{len(of_job.named)}")
    return of_job, of_job.named[name]


def _at_slot(job: Job, name: str, slot: int) -> tuple[Patterns, Pattern]:
    of_job, pattern = _one(job, name)
    if slot >= len(pattern.slots):
        raise Refused(422, f"slot {slot}: {pattern.name} has places 0 to {len(pattern.slots) - 1}")
    return of_job, pattern


def in_full(job: Job, name: str) -> dict[str, Any]:
    """One pattern: its joints, and the peaks at each of its places. Raises Refused(404)."""
    of_job, pattern = _one(job, name)
    edits = pattern_edits.listed(job)
    members = [
        {
            "joint": of_job.building.nodes[m.node],
            "place": of_job.places[m.node],
            "turn": m.turn,
            "mirrored": m.mirrored,
            "connections": list(m.connections),
            "said": _said(of_job, edits, m),
        }
        for m in pattern.members
    ]
    at = []
    for slot, words in enumerate(pattern.slots):
        peaks = peaks_of(pattern, slot, of_job.acting, of_job.combinations)
        shown = [p | {"action": COMPONENTS[p["action"]]} for p in peaks]
        at.append({"words": words, "framing": pattern.framings[slot], "peaks": shown})
    return of_job.brief(pattern) | {"members": members, "places": at, "actions": list(COMPONENTS)}


def _said(of_job: Patterns, edits: dict[str, Any], member: Member) -> str:
    """Who put a joint into its pattern or took it out of one, and why; empty where nobody did."""
    joint = of_job.building.nodes[member.node]
    if joint not in edits:
        return ""
    edit = edits[joint]
    did = f"put beside {edit['beside']}" if edit["beside"] else "taken out of its own"
    unfit = f"; not followed: {of_job.misfits[joint]}" if joint in of_job.misfits else ""
    return f"{did} by {edit['author']}: {edit['reason']}{unfit}"


def points(job: Job, name: str, slot: int) -> tuple[list[str], np.ndarray, tuple[str, ...]]:
    """The connections at one place of a pattern, their actions (connection, combination, action) in kN and kN*m, and
    the combinations. Raises Refused(404, 422)."""
    of_job, pattern = _at_slot(job, name, slot)
    return *points_of(pattern, slot, of_job.acting), of_job.combinations


def boundary(job: Job, name: str, slot: int, actions: tuple[str, str]) -> dict[str, Any]:
    """How far the connections at one place of a pattern go in two actions. Raises Refused(404, 422)."""
    of_job, pattern = _at_slot(job, name, slot)
    return boundaries.of_place(job, pattern, slot, actions, of_job.acting, of_job.combinations)


def workbook(job: Job, name: str, picked: Sequence[str] = ()) -> tuple[str, bytes]:
    """A pattern for whoever designs it elsewhere: the file's name and what is in it; with the points that somebody
    `picked`, each `CONNECTION~NUMBER` of a combination. Raises Refused(404), InputError."""
    of_job, pattern = _one(job, name)
    points = [_point(of_job, pattern, one) for one in picked]
    content = handover(
        of_job.building,
        of_job.framing,
        pattern,
        of_job.acting,
        of_job.combinations,
        job.title or job.name,
        job.method,
        points,
    )
    return f"{job.name}-{pattern.name}.xlsx", content


def _point(of_job: Patterns, pattern: Pattern, picked: str) -> tuple[str, int]:
    key, _, number = picked.rpartition("~")
    if key not in of_job.acting or not any(key in m.connections for m in pattern.members):
        raise InputError(f"picked: '{picked[:60]}': pattern {pattern.name} has no connection '{key[:40]}'")
    if not number.isdigit() or int(number) >= len(of_job.combinations):
        raise InputError(f"picked: '{picked[:60]}': there are combinations 0 to {len(of_job.combinations) - 1}")
    return key, int(number)


@dataclass(frozen=True)
class _Stands:
    """A job as it was seen, with what was said of its joints."""

    seen: Seen
    beside: dict[str, str]

    def stands(self) -> bool:
        job = self.seen.job
        return look_at(job).stamp == self.seen.stamp and _beside(job) == self.beside


@dataclass(frozen=True)
class _Fits:
    basis: _Stands


def put_beside(job: Job, joint: str, beside: str, reason: str, author: str) -> dict[str, Any]:
    """Put a joint into the pattern of another, or take it out of its own (`beside` is empty); the pattern that it is in
    then. Raises Refused(422) where it does not fit."""

    def fits() -> _Fits:
        with reading():
            seen, said = look_at(job), _beside(job)
        of_job = _work_out(seen, said)
        for named in (joint, beside):
            if named and named not in of_job.joints():
                raise Refused(422, f"{named} is no joint with connections in '{job.name}'")
        if beside == joint:
            raise Refused(422, "beside: name another joint, or leave it empty to take this one out of its pattern")
        _, misfits = with_edits(of_job.building, of_job.framing, said | {joint: beside})
        if joint in misfits:
            raise Refused(422, f"{joint}: {misfits[joint]}")
        return _Fits(_Stands(seen, said))

    def write(_: _Fits) -> bool:
        pattern_edits.put(job, joint, beside, reason, author)
        standing.settle(job, ("pattern",), MOVED)
        return True

    attempt(job, fits, write, joint, decided=False)
    return _with(job, joint)


def take_back(job: Job, joint: str) -> dict[str, Any]:
    """The joint goes where it was found to belong; the pattern that it is in then. Raises Refused(404)."""

    def drop() -> None:
        if not pattern_edits.drop(job, joint):
            raise Refused(404, f"nobody put {joint} into a pattern or took it out of one")
        standing.settle(job, ("pattern",), MOVED)

    standing.settled(drop)
    return _with(job, joint)


def _with(job: Job, joint: str) -> dict[str, Any]:
    """The pattern that a joint is in."""
    return next(brief for brief in listed(job) if joint in brief["at"])
