"""Model revisions: a Building into the records and out of them, whole or the few members around one connection."""

from __future__ import annotations

import json
import secrets
import zlib
from collections.abc import Callable, Collection, Mapping
from functools import lru_cache
from typing import Any, Protocol

import numpy as np

from handrail.core.building.audit import Audit
from handrail.core.building.correcting import corrected
from handrail.core.building.framing import Framing, frame
from handrail.core.building.model import Building
from handrail.core.building.nearest import SAME, nearest
from handrail.core.building.pieces import Pieces
from handrail.core.building.places import level_names, places
from handrail.core.errors import InputError
from handrail.core.joint.connection import Connection as Framed
from handrail.core.joint.relations import Relation
from handrail.store import (
    bulk,
    connections,
    corrections,
    events,
    findings,
    overrides,
    packing,
    pattern_edits,
    proving,
    sheets,
    team,
)
from handrail.store.database import proxy, rows, writing
from handrail.store.jobs import move, system_of
from handrail.store.models import Connection, ConnectionRow, GroupMember, Job, MemberForces, Revision

PART = 2000  # members put aside at a time
TRIES = 5
_LIGHT = [f for name, f in Revision._meta.fields.items() if name not in ("model", "head", "drawn", "audit")]
_NEWEST = f"SELECT {', '.join(f.column_name for f in _LIGHT)} FROM revision"
_FRAMED = (
    "key",
    "joint",
    "joint_number",
    "framing",
    "words",
    "facts",
    "pieces",
    "relations",
    "at",
    "member",
    "section",
    "support",
    "support_section",
    "elevation",
    "place",
    "level",
)

_MADE_AGAIN = ("pieces", "relations", "facts", "at", "joint_number", "place", "level")
_AS_IT_STOOD = (  # what is stale already keeps what was known last
    "UPDATE connectionrow SET was = json_object('revision', ?, 'key', key, 'status', status, 'utilisation',"
    " utilisation, 'check', check_name, 'summary', summary, 'standard', standard, 'sizes', json(sizes), 'section',"
    " section, 'released', released) WHERE job_id = ? AND sheet = (SELECT sheet FROM job WHERE id = ?) AND stale = ''"
)


class Follows(Protocol):
    """What a revision makes of the results that are there: which `stand`, what those that it verified rested on
    (`seen`), and `why` others were not."""

    @property
    def stand(self) -> Mapping[str, str]: ...
    @property
    def seen(self) -> Mapping[str, str]: ...
    @property
    def why(self) -> Mapping[str, str]: ...
    def write(self, job: int, keys: Collection[str]) -> None: ...


Stands = Callable[[Building, Framing, dict[str, dict[str, Any]], dict[str, str], Collection[str], int], Follows]
_HOW = ("framing", "words", "facts", "pieces", "relations", "at", "support", "support_section")


def keep(
    job: Job,
    building: Building,
    audit: Audit,
    framing: Framing,
    author: str,
    going_on: Callable[[], None] = lambda: None,
    inside: Callable[[int], None] = lambda number: None,
    stands: Stands | None = None,
    within: float = SAME,
) -> Revision:
    """Store a revision whole, with its connections; `stands` says whose results it leaves standing and verifies the
    others, without it none. A member's end that stands `within` that distance (mm) of where one stood is that one,
    whatever it is called.

    It is put aside a part at a time, so that nobody waits long to write, and comes into force in one short transaction;
    killed before that, it was never there. `going_on` is called between the parts, `inside` that transaction with the
    revision's number; what they raise ends it all."""
    framed = _rows(building, framing)
    aside = _put_aside(job, building, audit, framing, author, going_on)
    try:
        digest = proving.of_model(aside)
        for left in reversed(range(TRIES)):
            matching = _Matching(job, building, framing, framed, stands if left else None, within)
            with writing():
                last = (
                    Revision.select(Revision.number).where(Revision.job == job).order_by(Revision.number.desc()).first()
                )
                if matching.overtaken():
                    continue
                number = max(last.number, 0) + 1
                inside(number)
                Revision.update(number=number, gone=matching.lost()).where(Revision.id == aside).execute()
                label = f" ({building.revision})" if building.revision else ""
                proving.told(
                    job.id,
                    "imported",
                    f"revision {number}{label}: {len(framed)} connections",
                    author,
                    number=number,
                    sha256=digest,
                )
                matching.write(author, building.system, number - 1)
                move(job.id)
                Job.update(look_due=True).where(Job.id == job.id).execute()
                return Revision.select(*_LIGHT, Revision.audit).where(Revision.id == aside).get()
        raise InputError("other revisions of this job came in again and again meanwhile; import it once more")
    except BaseException:
        with writing():
            Revision.delete().where(Revision.id == aside).execute()
        raise


def _put_aside(
    job: Job, building: Building, audit: Audit, framing: Framing, author: str, going_on: Callable[[], None]
) -> int:
    """The revision under a number below 0, which nobody sees; its id."""
    kept = {
        "counts": audit.counts,
        "balance": audit.balance,
        "worst": audit.worst,
        "findings": [f.as_dict() for f in audit.findings],
        "system": building.system,
    }
    parts = {"model": packing.pack(building), "head": packing.head(building), "drawn": packing.drawn(building, framing)}
    with writing():
        newest = Revision.select(Revision.id).order_by(Revision.id.desc()).first()
        revision = Revision.create(
            job=job,
            number=-(newest.id if newest else 0) - 1,
            label=building.revision,
            title=building.title,
            source=building.source,
            dated=building.date,
            author=author,
            audit=kept,
            system=building.system,
            joints=len({c.node for c in framing.connections}),
            connections=len(framing.connections),
            token=secrets.token_hex(12),
            **parts,
        )
    for start in range(0, len(building.members), PART):
        going_on()
        keep_members(
            revision.id, building, framing.pieces.roles, range(start, min(start + PART, len(building.members)))
        )
    return int(revision.id)


def keep_members(revision: int, building: Building, roles: tuple[str, ...], which: range) -> None:
    """Some members with their forces, in a transaction of their own."""
    rows = [
        {
            "revision": revision,
            "member": k,
            "facts": packing.member_facts(building, k, roles[k]),
            "data": np.ascontiguousarray(building.forces[k]).tobytes(),
        }
        for k in which
    ]
    ready = bulk.Additions(MemberForces, rows)
    with writing():
        ready.write()


def drop_left_over() -> int:
    """Revisions that were being put aside when the service was killed. Inside the caller's transaction."""
    return int(Revision.delete().where(Revision.number < 0).execute())


class _Matching:
    """New connections, and those of the last revision kept with their sizes, to be looked at again.

    One is the same where its member's end stands where it stood, within a distance, whatever it is called; else where
    it has the same name. Worked out outside any lock; `write` keeps it unless the job's connections were exchanged
    meanwhile."""

    def __init__(
        self,
        job: Job,
        building: Building,
        framing: Framing,
        rows: list[dict[str, Any]],
        stands: Stands | None,
        within: float,
    ) -> None:
        columns = (Connection.key, Connection.id, Connection.facts, Connection.framing, Connection.relations)
        self.system = system_of(job)
        self.job, self.rows, self.seen, self.number = (
            job,
            {row["key"]: dict(row) for row in rows},
            *_newest(job),
        )  # a next try begins with them as they were
        self.rests = _rests(job) if stands else None
        kept = list(Connection.select(*columns).where(Connection.job == job).tuples())
        old = {key: (number, facts.get("place"), framing) for key, number, facts, framing, _ in kept}
        self.within, self.was = within, _matched(old, rows, within)  # new key -> old key
        corrected_framing = self._correct(building, framing)
        self.follows = self._following(building, corrected_framing, {key: beside for key, *_, beside in kept}, stands)
        self.ids = {key: number for key, (number, _, _) in old.items()}
        self.gone = sorted(self.ids[key] for key in set(old) - set(self.was.values()))
        again = {"overridden": 0}
        self.again = bulk.Changes(
            (*_FRAMED, *again), ((self.ids[old], self.rows[new] | again) for new, old in self.was.items()), "of"
        )
        new = (row for key, row in self.rows.items() if key not in self.was)
        self.fresh = bulk.NewConnections({**row, "job": job.id, "reason": "not run yet"} for row in new)

    def _following(
        self, building: Building, framing: Framing, old: dict[str, list[dict[str, str]]], stands: Stands | None
    ) -> Follows | None:
        """What becomes of the results; None where nobody says, or people see other units now."""
        if stands is None or self.system not in ("", building.system):
            return None
        same = {  # results name whom they are related to
            new for new, was in self.was.items() if self.rows[new]["relations"] == old[was]
        }
        places = {key: row["facts"]["place"] for key, row in self.rows.items()}
        held: dict[str, dict[str, Any]] = {}
        for row, name in overrides.now_called(
            self.job, {was: new for new, was in self.was.items()}, places, self.within, framed=False
        ):
            held.setdefault(name, {})[row.parameter] = row.value
        return stands(building, framing, held, self.was, same, self.number)

    def _correct(self, building: Building, framing: Framing) -> Framing:
        """What people said of how connections are framed, on the connections as they are called now."""
        self.said = overrides.framed(self.job)
        places = {key: row["facts"]["place"] for key, row in self.rows.items()}
        self.held = overrides.now_called(self.job, {old: new for new, old in self.was.items()}, places, self.within)
        self.supports = corrections.called_now(building, self.held, self.within)
        framed, self.misfits = corrected(building, framing, corrections.together(self.held, self.supports))
        for before, after in zip(framing.connections, framed.connections, strict=True):
            if before is not after:
                self.rows[after.id] |= _row(building, framing, after, self.rows[after.id]["joint_number"])
        return framed

    def _called(self) -> tuple[dict[str, str], dict[str, str]]:
        """What joints and members are called now, old name to new, of those with connections. Inside the caller's
        transaction, before they are renamed."""
        stood = rows("SELECT key, joint, member FROM connection WHERE job_id = ?", self.job.id)
        now = {old: self.rows[new] for new, old in self.was.items()}
        there = [(joint, member, now[key]) for key, joint, member in stood if key in now]
        return {joint: row["joint"] for joint, _, row in there}, {member: row["member"] for _, member, row in there}

    def lost(self) -> list[dict[str, Any]]:
        """The connections that are not there any more, as they stood. Inside the caller's transaction."""
        names = (
            "key",
            "place",
            "framing",
            "section",
            "support_section",
            "status",
            "utilisation",
            "summary",
            "released",
        )
        missing: list[dict[str, Any]] = []
        for start in range(0, len(self.gone), 500):
            some = Connection.select(*(getattr(Connection, n) for n in names)).where(
                Connection.id.in_(self.gone[start : start + 500])
            )
            missing.extend(some.dicts())
        return missing

    def overtaken(self) -> bool:
        """Whether another revision came into force since, a correction of framing, or what tells which results
        stand."""
        if self.rests is not None and self.rests != _rests(self.job):
            return True
        return _newest(self.job)[0] != self.seen or [(r.id, r.connection) for r in overrides.framed(self.job)] != [
            (r.id, r.connection) for r in self.said
        ]

    def write(self, author: str, system: str, before: int) -> None:
        """Inside the caller's transaction; `before` is the number of the revision that it follows."""
        stood = overrides.applied(self.job)
        places = {key: row["facts"]["place"] for key, row in self.rows.items()}
        proxy.execute_sql(_AS_IT_STOOD, (before, self.job.id, self.job.id))
        joints, members = self._called()
        pattern_edits.follow(self.job, joints)
        findings.follow(self.job, joints, members)
        events.follow(self.job, {old: new for new, old in self.was.items()}, places, self.within)
        here = sheets.standing(self.job)
        for new, old in self.was.items():  # names may be swapped: none stands in another's way
            if new != old:
                ConnectionRow.update(key=f"~{self.ids[old]}").where(
                    here & (ConnectionRow.of == self.ids[old])
                ).execute()
        for start in range(0, len(self.gone), 500):
            some = self.gone[start : start + 500]
            ConnectionRow.delete().where(here & ConnectionRow.of.in_(some)).execute()
            GroupMember.delete().where(GroupMember.connection.in_(some)).execute()
        self.again.write(self.job.id)
        self._results()
        self.fresh.write(self.job.id)
        if self.system not in ("", system):
            connections.put_in_words_again(self.job, system)
        moved = {old: (new, places[new]) for new, old in self.was.items()}
        overrides.follow(self.job, moved, places, stood, author, self.within)
        for row, name in self.held:
            if row.id in self.supports and row.value["member"] != self.supports[row.id]:
                overrides.say_support(row, name, self.supports[row.id], author)
            if name in self.misfits:
                overrides.say_unfit(row, name, self.misfits[name], author)

    def _results(self) -> None:
        """Those that were verified; what could not be is stale, as is what was made since that was worked out, unless
        it stands."""
        made = Connection.select(Connection.id, Connection.key, Connection.digest)
        ran = (Connection.job == self.job) & ((Connection.standard != "") | (Connection.digest != ""))
        stand, seen = (self.follows.stand, self.follows.seen) if self.follows else ({}, {})
        kept = [
            (number, key, digest)
            for number, key, digest in made.where(ran).tuples()
            if not digest or stand.get(key) != digest
        ]
        verified = {key for _, key, digest in kept if digest and seen.get(key) == digest}
        stale: dict[str, list[int]] = {}
        for number, key, _ in kept:
            if key not in verified:
                stale.setdefault(self.follows.why.get(key, "") if self.follows else "", []).append(number)
        for why, ids in stale.items():
            words = connections.stale(f"the model was revised{f': {why}' if why else ''}; run again")
            for start in range(0, len(ids), 500):
                some = ConnectionRow.of.in_(ids[start : start + 500])
                ConnectionRow.update(**words).where(sheets.standing(self.job) & some).execute()
        if self.follows:
            self.follows.write(self.job.id, verified)
        if not Job.select(Job.tolerance).where(Job.id == self.job.id).scalar():
            team.let_fall(self.job, verified, "what it rests on has moved, and the job's tolerance is nothing")


def _rests(job: Job) -> Any:
    """What tells, beside the model, which results stand."""
    of = (
        Job.select(Job.rulebook_version, Job.code, Job.method, Job.combination_set)
        .where(Job.id == job.id)
        .tuples()
        .get()
    )
    labels = rows(
        "SELECT key, tags, sequence FROM connection WHERE job_id = ? AND (tags != '[]' OR sequence != '') ORDER BY key",
        job.id,
    )
    groups = rows(
        "SELECT m.connection_id, g.name FROM groupmember m JOIN gathering g ON g.id = m.group_id WHERE g.job_id = ?"
        " ORDER BY 1, 2",
        job.id,
    )
    return (
        of,
        overrides.holding(job),
        labels,
        groups,
        rows("SELECT joint, beside FROM patternedit WHERE job_id = ? ORDER BY joint", job.id),
    )


def _newest(job: Job) -> tuple[int, int]:
    """The id of a job's newest revision (0 where there is none), and the number of the next."""
    newest = (
        Revision.select(Revision.id, Revision.number)
        .where((Revision.job == job) & (Revision.number > 0))
        .order_by(Revision.number.desc())
        .first()
    )
    return (newest.id, newest.number + 1) if newest else (0, 1)


def _rows(building: Building, framing: Framing) -> list[dict[str, Any]]:
    numbers: dict[int, int] = {}
    named = list(zip(places(building), level_names(building), strict=True))
    return [
        _row(building, framing, c, numbers.setdefault(c.node, len(numbers)))
        | dict(zip(("place", "level"), named[c.node], strict=True))
        for c in framing.connections
    ]


def reframed(job: Job, building: Building, before: Framing, after: Framing) -> bulk.Changes:
    """What is to be written of the connections of a job that are framed otherwise `after`; made outside any lock."""
    changed = (
        (c.id, _row(building, after, c, 0))
        for was, c in zip(before.connections, after.connections, strict=True)
        if was != c
    )
    return bulk.Changes(_HOW, changed)


def _row(building: Building, framing: Framing, c: Framed, number: int) -> dict[str, Any]:
    member = building.members[c.member]
    support = building.members[c.support] if c.support is not None else None
    ends = [member.node(c.end), member.node(1 - c.end)]
    place = [round(float(v), 1) for v in building.xyz[ends].ravel()]
    return {
        "key": c.id,
        "joint": building.nodes[c.node],
        "joint_number": number,
        "framing": c.framing,
        "words": c.reason,
        "facts": {**c.facts, "place": place},
        "pieces": [packing.piece(building, p) for p in c.pieces],
        "relations": [dict(vars(r)) for r in c.relations],
        "member": member.name,
        "section": member.section,
        "at": {"node": c.node, **packing.beside(building, c)},
        "support": support.name if support else "",
        "support_section": support.section if support else "",
        "elevation": float(building.xyz[c.node, 2]),
    }


def _matched(
    old: dict[str, tuple[int, list[float] | None, str]], rows: list[dict[str, Any]], within: float
) -> dict[str, str]:
    """new key -> the key that it had before, of (id, place, framing) by old key: the same name within that distance
    (mm) of where it stood, else the nearest within it, rather one that is framed alike; else the same name."""
    names = [key for key, (_, place, _) in old.items() if place]
    here, there = (
        np.array([old[key][1] for key in names]).reshape(-1, 6),
        np.array([row["facts"]["place"] for row in rows]).reshape(-1, 6),
    )

    def rank(a: int, b: int) -> float:
        return 0.0 if names[a] == rows[b]["key"] else 1.0 if old[names[a]][2] == rows[b]["framing"] else 2.0

    pairs = {rows[b]["key"]: names[a] for a, b in nearest(here, there, within, rank).items()}
    taken = set(pairs.values())
    return pairs | {
        row["key"]: row["key"]
        for row in rows
        if row["key"] not in pairs and row["key"] in old and row["key"] not in taken
    }


def latest(job: Job, audit: bool = False) -> Revision:
    """The job's current revision, without its model, with its audit where wanted. Raises InputError where nothing was
    imported."""
    if audit:
        newest = (
            Revision.select(*_LIGHT, Revision.audit)
            .where((Revision.job == job) & (Revision.number > 0))
            .order_by(Revision.number.desc())
            .first()
        )
    else:
        newest = next(
            iter(Revision.raw(f"{_NEWEST} WHERE job_id = ? AND number > 0 ORDER BY number DESC LIMIT 1", job.id)), None
        )
    if newest is None:
        raise InputError(f"job '{job.name}' has no model yet; import a bundle")
    return newest


def building_of(revision: Revision) -> Building:
    """The building of a revision, read whole."""
    blob = Revision.select(Revision.model).where(Revision.id == revision.id).scalar()
    rows = (
        MemberForces.select(MemberForces.data)
        .where(MemberForces.revision == revision.id)
        .order_by(MemberForces.member)
        .tuples()
    )
    raw = [np.frombuffer(data) for (data,) in rows.iterator()]
    forces = np.stack(raw).reshape(len(raw), -1, 2, 6) if raw else np.zeros((0, 0, 2, 6))
    return packing.unpack(bytes(blob), forces)


def drawn_of(revision: Revision) -> dict[str, Any]:
    """Nodes, members and ends without a connection, as they are drawn."""
    return json.loads(zlib.decompress(Revision.select(Revision.drawn).where(Revision.id == revision.id).scalar()))


def renew(number: int) -> None:
    """What is kept beside the model of a revision, made again from it; of the job's connections where it is the current
    one. For records of an earlier version, inside the caller's transaction."""
    revision = Revision.get_by_id(number)
    building = building_of(revision)
    framing = frame(building)
    Revision.update(
        system=building.system,
        joints=len({c.node for c in framing.connections}),
        connections=len(framing.connections),
        head=packing.head(building),
        drawn=packing.drawn(building, framing),
    ).where(Revision.id == number).execute()
    for k, role in enumerate(framing.pieces.roles):
        here = (MemberForces.revision == number) & (MemberForces.member == k)
        MemberForces.update(facts=packing.member_facts(building, k, role)).where(here).execute()
    if _newest(revision.job)[0] == number:
        framing, _ = corrected(building, framing, corrections.standing(revision.job))
        for row in _rows(building, framing):
            here = sheets.standing(revision.job_id) & (ConnectionRow.key == row["key"])
            ConnectionRow.update(**{name: row[name] for name in _MADE_AGAIN}).where(here).execute()
        connections.put_in_words_again(revision.job, building.system)


def head_of(revision: Revision) -> Building:
    """The building of a revision without its nodes, members and forces: its cases, results and combinations."""
    return _head(revision.id, revision.token)


@lru_cache(maxsize=16)
def _head(revision: int, token: str) -> Building:
    blob = Revision.select(Revision.head).where(Revision.id == revision).scalar()
    return packing.unpack(bytes(blob), np.zeros((0, 0, 2, 6)))


def around(revision: Revision, record: Connection) -> tuple[Building, Framing]:
    """One connection, all that it is related to, however far, and the members that bear on them (of a base all that
    meet there, its foundation and reaction): all that its check needs, however large the building. The first connection
    is the one asked for."""
    records = connections.related(record)
    wanted = sorted(
        {k for r in records for k in (*(m for p in r.pieces for m in packing.members_of(p)), *r.at.get("meeting", ()))}
    )
    marks = ", ".join("?" * len(wanted))
    kept = rows(
        f"SELECT facts, data FROM memberforces WHERE revision_id = ? AND member IN ({marks}) ORDER BY member",
        revision.id,
        *wanted,
    )
    common = head_of(revision)
    building, roles, nodes = packing.assemble(common, [(json.loads(facts), data) for facts, data in kept])
    building = packing.with_beside(building, record.at, nodes)
    index = {k: n for n, k in enumerate(wanted)}
    near = tuple(
        Framed(
            r.key,
            nodes[r.at["node"]],
            tuple(packing.as_piece(p, index) for p in r.pieces),
            r.framing,
            r.words,
            r.facts,
            tuple(Relation(**of) for of in r.relations),
        )
        for r in records
    )
    return building, Framing(near, (), Pieces(tuple(range(len(wanted))), roles, {}, {}, building.axes[:, 0]))
