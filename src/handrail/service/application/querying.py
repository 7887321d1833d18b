"""Queries to the engineer of record: what they are about in the model that stands, how that is looked at, and as files
that others read and write."""

from __future__ import annotations

import io
import math
import uuid
from collections.abc import Mapping, Sequence
from datetime import date
from typing import Any

import numpy as np

from handrail.core.building.model import Building
from handrail.core.errors import InputError
from handrail.interchange.bcf.reading import read_bcf
from handrail.interchange.bcf.topic import VERSIONS, Comment, Look, Place, Topic
from handrail.interchange.bcf.writing import write_bcf
from handrail.interchange.printed.coloured import pointed_at
from handrail.interchange.printed.queries import Row, write_queries
from handrail.interchange.steel_model.numbers import number
from handrail.service.application import letterhead
from handrail.service.application.plans import look_at, plan_of
from handrail.service.application.refused import Refused
from handrail.store import queries
from handrail.store.database import reading
from handrail.store.models import Job, Query
from handrail.store.queries import Asked, Came

COMMENTS, NAME = 200, 200  # of a topic from elsewhere: the last comments, and letters of who said them
AWAY = 6.0  # m from which something is looked at, at least
VIEW = ("eye", "way", "up")
KINDS = {"pdf": "application/pdf", "bcf": "application/octet-stream"}


class Model:
    """The model that stands, by what queries name."""

    def __init__(self, job: Job) -> None:
        with reading():
            self.seen = look_at(job)
        plan = plan_of(self.seen)
        self.building: Building = plan.building
        self.nodes = {name: k for k, name in enumerate(self.building.nodes)}
        self.members = {m.name: k for k, m in enumerate(self.building.members)}
        self.connections = {c.id: c for c in plan.framing.connections}
        self.pieces = plan.framing.pieces.piece

    def missing(self, of: Sequence[Sequence[str]]) -> list[str]:
        """What of these is not in it."""
        there: dict[str, Mapping[str, Any]] = {
            "joint": self.nodes, "member": self.members, "connection": self.connections
        }  # fmt: skip
        return [f"{kind} {name}" for kind, name in of if kind in there and name not in there[kind]]

    def picked(self, of: Sequence[Sequence[str]]) -> tuple[set[int], set[int]]:
        """(members, nodes) that these are."""
        members, nodes = set(), set()
        for kind, name in of:
            if kind == "member" and name in self.members:
                members.add(self.members[name])
            elif kind == "joint" and name in self.nodes:
                nodes.add(self.nodes[name])
            elif kind == "connection" and name in self.connections:
                members.add(self.connections[name].member)
                nodes.add(self.connections[name].node)
            elif kind == "finding":
                words = name.split()
                members |= {self.members[w] for w in words[1:] if w in self.members}
                nodes |= {self.nodes[w] for w in words[1:] if w in self.nodes}
        return members, nodes

    def look(self, job: Job, query: Query) -> Look | None:
        """As somebody looked at it who asked, else from over it; None where nothing of it is in the model."""
        members, nodes = self.picked(query.of)
        picked = [number(job.name, "member", self._steel(k)) for k in sorted(members)]
        picked += [number(job.name, "connection", name) for kind, name in query.of if kind == "connection"]
        ends = nodes or {n for k in members for n in (self.building.members[k].i, self.building.members[k].j)}
        seen = _given(query) or (self._from_over(ends) if ends else None)
        if seen is None:
            return None
        return Look(str(_own(query.guid, "look")), *seen, tuple(dict.fromkeys(picked)), self.picture(query))

    def _from_over(self, nodes: set[int]) -> tuple[Place, Place, Place]:
        """The eye, the way that it looks, and up, m: over some nodes, beside them."""
        places = np.array([self.building.xyz[n] for n in nodes]) / 1000
        middle, far = places.mean(axis=0), max(float(np.ptp(places, axis=0).max()), AWAY)
        off = np.array([0.8, -0.8, 0.5]) * far
        way = -off / np.linalg.norm(off)
        side = np.cross(way, [0.0, 0.0, 1.0])
        return _place(middle + off), _place(way), _place(np.cross(side / np.linalg.norm(side), way))

    def picture(self, query: Query) -> bytes:
        """The building with what it is about, as PNG."""
        members, nodes = self.picked(query.of)
        title = f"{queries.name_of(query.number)}: {query.title}"
        return pointed_at(self.building, members, nodes, title, ", ".join(f"{k} {n}" for k, n in query.of))

    def _steel(self, member: int) -> str:
        """The name of the piece of steel that a member is of, as the IFC file has it where this is plain."""
        first = min(k for k, piece in enumerate(self.pieces) if piece == self.pieces[member])
        return self.building.members[first].physical or self.building.members[first].name


def _place(v: np.ndarray) -> Place:
    return float(v[0]), float(v[1]), float(v[2])


def _given(query: Query) -> tuple[Place, Place, Place] | None:
    """As somebody looked at it who asked."""
    if any(len(query.view.get(name, ())) != 3 for name in VIEW):
        return None
    eye, way, up = (_place(np.array(query.view[name], float)) for name in VIEW)
    return eye, way, up


def _own(guid: str, what: str) -> uuid.UUID:
    try:
        return uuid.uuid5(uuid.UUID(guid), what)
    except ValueError:
        return uuid.uuid5(uuid.NAMESPACE_OID, guid + what)


def refuse_unknown(job: Job, of: Sequence[Sequence[str]]) -> None:
    """Raises InputError where something that a query is about is not in the model."""
    if wrong := [kind for kind, _ in of if kind not in queries.KINDS]:
        raise InputError(f"of: '{wrong[0]}' is nothing that is asked about; there are {', '.join(queries.KINDS)}")
    if missing := Model(job).missing(of):
        raise InputError(f"of: the model has no {missing[0]}")


def as_file(job: Job, kind: str, version: str, state: str) -> bytes:
    """The queries of a state, or all, as a list to print or as BCF. Raises Refused, InputError."""
    if kind not in KINDS:
        raise Refused(404, f"queries are {', '.join(KINDS)}, not {kind}")
    if version not in VERSIONS:
        raise InputError(f"version: BCF is written as {' or '.join(VERSIONS)}")
    model = Model(job)
    with reading():
        found = list(reversed(queries.listed(job, state)))
        keys = queries.concerned(job, found)
    if kind == "bcf":
        topics = [_topic(job, model, q) for q in found]
        return write_bcf(topics, job.name, job.title or job.name, version)
    stream = io.BytesIO()
    rows = [Row(queries.name_of(q.number), q.title, q.words, q.state, q.author, q.made, q.to, q.due, q.holds,
                ", ".join(f"{k} {n}" for k, n in q.of), q.answer, q.answered_by, q.answered,
                len(keys[q.number]), model.picture(q)) for q in found]  # fmt: skip
    revision = model.seen.revision
    made_from = f"model R{revision.number}{f' ({revision.label})' if revision.label else ''}"
    write_queries(rows, letterhead.head(job, "Queries", made_from, model.building.system), stream)
    return stream.getvalue()


def _topic(job: Job, model: Model, q: Query) -> Topic:
    comments = tuple(
        Comment(str(_own(q.guid, f"{k} {s['made']}")), s["author"], _utc(s["made"]), s["words"])
        for k, s in enumerate(q.said)
        if s["words"]
    )
    labels = tuple(f"{kind} {name}" for kind, name in q.of)
    return Topic(q.guid, q.title, q.words, q.state, q.author, _utc(q.made), q.due, q.to, labels, comments,
                 model.look(job, q), q.number)  # fmt: skip


def _utc(made: str) -> str:
    return made if made.endswith("Z") or "+" in made[10:] else f"{made}Z"


def take_in(job: Job, data: bytes, author: str, closes: bool) -> dict[str, list[int]]:
    """Queries of a BCF file: those that are known get what was said of them, the others are new. Raises InputError."""
    topics = read_bcf(data)
    model = Model(job)
    of = {number(job.name, "member", name): ("member", name) for name in model.members}
    of |= {number(job.name, "connection", key): ("connection", key) for key in model.connections}
    return queries.take_in(job, [_came(topic, of) for topic in topics], author, closes)


def _came(topic: Topic, of: Mapping[str, tuple[str, str]]) -> Came:
    labelled = (label.partition(" ") for label in topic.labels)
    named = [(kind, name) for kind, _, name in labelled if kind in queries.KINDS and name]
    look, longest = topic.look, queries.LONGEST
    picked = [of[number_] for number_ in (look.picked if look else ()) if number_ in of]
    view = {"eye": look.eye, "way": look.way, "up": look.up} if look and _finite(look) else {}
    title = " ".join(topic.title.split())[: longest["title"]] or "untitled"
    subjects = tuple(dict.fromkeys(named or picked))[: queries.SUBJECTS]
    words, to = topic.words[: longest["words"]], topic.to[: longest["to"]]
    asked = Asked(title, words, to, _due(topic.due), subjects, False, view)
    said = tuple(_said(comment, topic) for comment in topic.comments[-COMMENTS:] if comment.words)
    return Came(topic.guid[:64], asked, topic.author[:NAME], topic.made[:40], topic.state, said)


def _said(comment: Comment, topic: Topic) -> dict[str, str]:
    """What another than who asked says is an answer."""
    what = "said" if comment.author == topic.author else "answered"
    words = comment.words[: queries.LONGEST["answer"]]
    return {"what": what, "words": words, "author": comment.author[:NAME] or "unknown", "made": comment.made}


def _due(text: str) -> str:
    try:
        return date.fromisoformat(text[:10]).isoformat() if text else ""
    except ValueError:
        return ""


def _finite(look: Look) -> bool:
    return all(math.isfinite(v) for place in (look.eye, look.way, look.up) for v in place)
