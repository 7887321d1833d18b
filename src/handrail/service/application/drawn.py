"""A model as it is drawn, column by column, in parts: its shape, which lines and dots need; how its connections stand;
what everything is called. A large one's shape and state are a tenth of all of it."""

from __future__ import annotations

from collections.abc import Iterable
from functools import lru_cache
from typing import Any

from handrail.store import revisions
from handrail.store.database import reading, rows
from handrail.store.models import Job, Revision

Words = dict[str, list[Any]]
_STATES = (
    "SELECT key, member, joint, framing, status, utilisation, json_array_length(remarks), stale FROM connection WHERE"
    " job_id = ? ORDER BY id"
)


def shape(job: Job) -> dict[str, Any]:
    """What lines need: where nodes are, which each member joins, its section."""
    return _of(job).shape


def names(job: Job) -> dict[str, Any]:
    """What nodes and members are called, in the same order, and what else is told of them."""
    return _of(job).names


def states(job: Job) -> dict[str, Any]:
    """How every connection stands: of which member's end it is, by index."""
    with reading():
        drawn = _of(job)
        found = rows(_STATES, job.id)
    members, ends = [drawn.members[member] for _, member, *_ in found], []
    called: dict[int, str] = {}
    at: dict[int, int] = {}
    for k, (key, member, joint, *_) in enumerate(found):
        ends.append(int(key != f"{member}.i"))
        if key not in (f"{member}.i", f"{member}.j"):
            called[k] = key
        if drawn.shape["members"]["ends"][2 * members[k] + ends[k]] != drawn.nodes[joint]:
            at[k] = drawn.nodes[joint]
    return {
        "member": members,
        "end": ends,
        "called": called,
        "at": at,
        "framing": _words(framing for _, _, _, framing, *_ in found),
        "status": _words(status for *_, status, _, _, _ in found),
        "utilisation": [round(use, 3) for *_, use, _, _ in found],
        "remarks": {k: many for k, (*_, many, _) in enumerate(found) if many},
        "stale": [k for k, (*_, stale) in enumerate(found) if stale],
    }


class _Drawn:
    """The parts of one revision, and where each node and member stands in them."""

    def __init__(self, drawn: dict[str, Any]) -> None:
        nodes, members = drawn["nodes"], drawn["members"]
        self.nodes = {n["node"]: k for k, n in enumerate(nodes)}
        self.members = {m["member"]: k for k, m in enumerate(members)}
        sections = {m["section"]: {name: m[name] for name in ("section", "shape", "depth", "width")} for m in members}
        place = {name: k for k, name in enumerate(sections)}
        self.shape = {
            **{name: drawn[name] for name in ("title", "system", "grids", "levels", "north")},
            "nodes": {
                "xyz": [int(v) if v == int(v) else v for n in nodes for v in n["xyz"]],
                "support": _words(n["support"] for n in nodes),
            },
            "members": {
                "ends": [k for m in members for k in (m["i"], m["j"])],
                "section": [place[m["section"]] for m in members],
                "role": _words(m["role"] for m in members),
                "up": _words(tuple(m["up"]) for m in members),
            },
            "sections": list(sections.values()),
        }
        self.names = {
            "nodes": list(self.nodes),
            "place": _words(n["place"] for n in nodes),
            "level": _words(n["level"] for n in nodes),
            "members": list(self.members),
            "grade": _words(m["grade"] for m in members),
            "piece": [m["piece"] for m in members],
            "without": drawn["without"],
        }


def _words(values: Iterable[Any]) -> Words:
    """What is said, each once, and which of them each of the values is."""
    known: dict[Any, int] = {}
    of = [known.setdefault(value, len(known)) for value in values]
    return {"words": list(known), "of": of}


def _of(job: Job) -> _Drawn:
    revision = revisions.latest(job)
    return _parts(revision.id, revision.token)


@lru_cache(maxsize=2)
def _parts(revision: int, _: str) -> _Drawn:
    return _Drawn(revisions.drawn_of(Revision.get_by_id(revision)))
