"""Model revisions: a Building into the records and out of them, whole or the few members around one connection."""

from __future__ import annotations

import json
import secrets
import zlib
from collections.abc import Callable
from functools import lru_cache
from typing import Any

import numpy as np

from handrail.core.building.audit import Audit
from handrail.core.building.correcting import corrected
from handrail.core.building.framing import Framing, frame
from handrail.core.building.model import Building
from handrail.core.building.nearest import SAME
from handrail.core.building.pieces import Pieces
from handrail.core.errors import InputError
from handrail.core.joint.connection import Connection as Framed
from handrail.core.joint.relations import Relation
from handrail.store import bulk, connections, corrections, packing, proving, removing, sheets
from handrail.store.bulk import sheet_of
from handrail.store.database import passing, rows, writing
from handrail.store.jobs import move
from handrail.store.matching import Matching, Stands, newest, row_of, rows_of
from handrail.store.models import Connection, ConnectionRow, Job, MemberForces, Revision

PART = 2000  # members put aside at a time
TRIES = 5
_LIGHT = [f for name, f in Revision._meta.fields.items() if name not in ("model", "head", "drawn", "audit")]
_NEWEST = f"SELECT {', '.join(f.column_name for f in _LIGHT)} FROM revision"
_MADE_AGAIN = ("pieces", "relations", "facts", "at", "joint_number", "place", "level")
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
    framed = rows_of(building, framing)
    aside = _put_aside(job, building, audit, framing, author)
    try:
        _put_members(aside, building, framing, going_on)
        digest = proving.of_model(aside)
        for left in reversed(range(TRIES)):
            matching = Matching(job, building, framing, framed, stands if left else None, within)
            sheet = matching.on_a_sheet(going_on)
            try:
                matching.prepare(sheet, going_on)
                with writing():
                    if matching.overtaken():
                        continue
                    number = matching.number
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
                    matching.write(sheet, author)
                    move(job.id)
                    Job.update(look_due=True).where(Job.id == job.id).execute()
                    return Revision.select(*_LIGHT, Revision.audit).where(Revision.id == aside).get()
            except sheets.Overtaken:
                continue
            finally:
                sheet.close()
        raise InputError("other revisions of this job came in again and again meanwhile; import it once more")
    except BaseException:
        if rows("SELECT 1 FROM revision WHERE id = ? AND number < 0", aside):
            removing.drop_revision(aside)
        raise


def _put_aside(job: Job, building: Building, audit: Audit, framing: Framing, author: str) -> int:
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
    return int(revision.id)


def _put_members(revision: int, building: Building, framing: Framing, going_on: Callable[[], None]) -> None:
    """The members of one that is put aside."""
    for start in range(0, len(building.members), PART):
        going_on()
        keep_members(revision, building, framing.pieces.roles, range(start, min(start + PART, len(building.members))))


def keep_members(revision: int, building: Building, roles: tuple[str, ...], which: range) -> None:
    """Some members with their forces, in a transaction of their own."""
    rows = [
        {
            "revision": revision,
            "member": k,
            "about": packing.pack_facts(packing.member_facts(building, k, roles[k])),
            "data": packing.pack_forces(building.forces[k]),
            "packed": True,
        }
        for k in which
    ]
    ready = bulk.Additions(MemberForces, rows)
    with passing():
        ready.write()


def drop_left_over() -> int:
    """Revisions that were being put aside when the service was killed. Inside the caller's transaction."""
    return int(Revision.delete().where(Revision.number < 0).execute())


def reframed(job: Job, building: Building, before: Framing, after: Framing) -> bulk.Changes:
    """What is to be written of the connections of a job that are framed otherwise `after`; made outside any lock."""
    changed = (
        (c.id, row_of(building, after, c, 0))
        for was, c in zip(before.connections, after.connections, strict=True)
        if was != c
    )
    return bulk.Changes(_HOW, changed)


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
    kept = (
        MemberForces.select(MemberForces.data, MemberForces.packed)
        .where(MemberForces.revision == revision.id)
        .order_by(MemberForces.member)
        .tuples()
    )
    raw = [packing.unpack_forces(data, packed) for data, packed in kept.iterator()]
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
        facts = packing.pack_facts(packing.member_facts(building, k, role))
        MemberForces.update(about=facts, facts={}).where(here).execute()
    if newest(revision.job)[0] == number:
        framing, _ = corrected(building, framing, corrections.standing(revision.job))
        for row in rows_of(building, framing):
            here = sheets.standing(revision.job_id) & (ConnectionRow.key == row["key"])
            ConnectionRow.update(**{name: row[name] for name in _MADE_AGAIN}).where(here).execute()
        numbers = [number for (number,) in rows("SELECT id FROM connection WHERE job_id = ?", revision.job_id)]
        connections.put_in_words_again(sheet_of(revision.job_id), numbers, building.system)


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
        f"SELECT facts, about, data, packed FROM memberforces WHERE revision_id = ? AND member IN ({marks}) ORDER BY"
        " member",
        revision.id,
        *wanted,
    )
    common = head_of(revision)
    building, roles, nodes = packing.assemble(
        common,
        [
            (packing.unpack_facts(about) if about else json.loads(facts), packing.unpack_forces(data, packed))
            for facts, about, data, packed in kept
        ],
    )
    for r in records:
        building = packing.with_beside(building, r.at, nodes)
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
