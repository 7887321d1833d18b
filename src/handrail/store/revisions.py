"""Model revisions: a Building in and out of the records."""

from __future__ import annotations

import io
import json
import secrets
import zlib
from dataclasses import asdict
from typing import Any

import numpy as np

from handrail.core.building.audit import Audit
from handrail.core.building.framing import Connection as Framed
from handrail.core.building.framing import Framing
from handrail.core.building.model import Building, Case, Combination, Member, NodeForces
from handrail.core.catalogue import Section
from handrail.core.errors import InputError
from handrail.store import overrides
from handrail.store.database import writing
from handrail.store.models import Connection, Job, MemberForces, Revision

_PLAIN = ("name", "title", "revision", "date", "source", "units", "nodes", "results", "forces_at", "unread")


def pack(building: Building) -> bytes:
    """Everything but the member forces, compressed."""
    data: dict[str, Any] = {name: getattr(building, name) for name in _PLAIN}
    data["members"] = [{**asdict(m), "release_i": sorted(m.release_i), "release_j": sorted(m.release_j)} for m in building.members]
    data["supports"] = [[k, *map(int, v)] for k, v in building.supports.items()]
    data["cases"] = [asdict(c) for c in building.cases]
    data["combinations"] = [asdict(c) for c in building.combinations]
    data["own_sections"] = [asdict(s) for s in building.own_sections.values()]
    data["diaphragms"] = list(building.diaphragms.items())
    arrays = io.BytesIO()
    np.savez(arrays, xyz=building.xyz, **{
        f"{name}_{part}": getattr(getattr(building, name), part) for name in ("reactions", "node_loads") for part in ("node", "result", "values")
    })  # fmt: skip
    text = json.dumps(data, separators=(",", ":")).encode()
    return len(text).to_bytes(8, "big") + zlib.compress(text + arrays.getvalue(), 3)


def unpack(blob: bytes, forces: np.ndarray) -> Building:
    """The building again, with its member forces."""
    size, raw = int.from_bytes(blob[:8], "big"), zlib.decompress(blob[8:])
    data, arrays = json.loads(raw[:size]), np.load(io.BytesIO(raw[size:]))
    members = tuple(
        Member(**{**m, "release_i": frozenset(m["release_i"]), "release_j": frozenset(m["release_j"])}) for m in data["members"]
    )
    node_forces = {n: NodeForces(*(arrays[f"{n}_{p}"] for p in ("node", "result", "values"))) for n in ("reactions", "node_loads")}
    return Building(
        **{name: data[name] for name in _PLAIN if name not in ("nodes", "results", "unread")},
        nodes=tuple(data["nodes"]),
        results=tuple(data["results"]),
        unread=tuple(data.get("unread", ())),
        xyz=arrays["xyz"],
        members=members,
        supports={row[0]: tuple(bool(v) for v in row[1:]) for row in data["supports"]},
        cases=tuple(Case(**c) for c in data["cases"]),
        combinations=tuple(
            Combination(c["name"], c["set"], c["method"], tuple((n, f) for n, f in c["terms"])) for c in data["combinations"]
        ),
        forces=forces,
        own_sections={s["name"]: Section(**s) for s in data["own_sections"]},
        diaphragms={k: v for k, v in data["diaphragms"]},
        **node_forces,
    )


def keep(job: Job, building: Building, audit: Audit, framing: Framing, author: str) -> Revision:
    """Store a revision whole, with its connections. It is put aside a part at a time, so that nobody waits long to write, and
    comes into force in one short transaction; killed before that, it was never there."""
    rows = [_row(job, building, c) for c in framing.connections]
    aside = _put_aside(job, building, _audit(audit) | {"system": building.system}, author)
    try:
        with writing():
            last = Revision.select(Revision.number).where(Revision.job == job).order_by(Revision.number.desc()).first()
            Revision.update(number=max(last.number, 0) + 1).where(Revision.id == aside).execute()
            _keep_connections(job, rows, author)
    except BaseException:
        with writing():
            Revision.delete().where(Revision.id == aside).execute()
        raise
    return Revision.get_by_id(aside)


def _put_aside(job: Job, building: Building, audit: dict[str, Any], author: str) -> int:
    """The revision under a number below 0, which nobody sees; its id."""
    model = pack(building)
    with writing():
        newest = Revision.select(Revision.id).order_by(Revision.id.desc()).first()
        revision = Revision.create(
            job=job, number=-(newest.id if newest else 0) - 1, label=building.revision, title=building.title, source=building.source,
            dated=building.date, author=author, audit=audit, model=model, token=secrets.token_hex(12),
        )  # fmt: skip
    for start in range(0, len(building.members), 500):
        part = range(start, min(start + 500, len(building.members)))
        rows = [{"revision": revision.id, "member": k, "data": np.ascontiguousarray(building.forces[k]).tobytes()} for k in part]
        with writing():
            MemberForces.insert_many(rows).execute()
    return int(revision.id)


def drop_left_over() -> int:
    """Revisions that were being put aside when the service was killed. Inside the caller's transaction."""
    return int(Revision.delete().where(Revision.number < 0).execute())


def _audit(audit: Audit) -> dict[str, Any]:
    return {"counts": audit.counts, "balance": audit.balance, "worst": audit.worst, "findings": [f.as_dict() for f in audit.findings]}


def _keep_connections(job: Job, rows: list[dict[str, Any]], author: str) -> None:
    """New connections, and those of the last revision kept with their sizes, to be looked at again.

    One is the same where its member's end stands where it stood, whatever it is called; else where it has the same name.
    """
    old = {c.key: c for c in Connection.select().where(Connection.job == job)}
    stood = overrides.applied(job)
    by_key = {row["key"]: row for row in rows}
    before = _matched(old, rows)
    for record in before.values():  # names may be swapped: none stands in another's way
        Connection.update(key=f"~{record.id}").where(Connection.id == record.id).execute()
    gone = set(old) - {record.key for record in before.values()}
    for start in range(0, len(gone), 500):
        Connection.delete().where(Connection.id.in_([old[k].id for k in sorted(gone)[start : start + 500]])).execute()
    for key, record in before.items():
        row = by_key[key]
        ran = bool(record.standard or record.digest)
        again = {"status": "unchecked", "reason": "stale: the model was revised; run again", "digest": ""} if ran else {}
        Connection.update(**row, **again, overridden=0, version=record.version + 1).where(Connection.id == record.id).execute()
    fresh = [{**row, "reason": "not run yet"} for row in rows if row["key"] not in before]
    for start in range(0, len(fresh), 300):
        Connection.insert_many(fresh[start : start + 300]).execute()
    places = {row["key"]: row["facts"]["place"] for row in rows}
    overrides.follow(job, {record.key: (key, places[key]) for key, record in before.items()}, stood, author)


def _row(job: Job, building: Building, c: Framed) -> dict[str, Any]:
    member = building.members[c.member]
    support = building.members[c.support] if c.support is not None else None
    ends = [member.node(c.end), member.node(1 - c.end)]
    place = [round(float(v), 1) for v in building.xyz[ends].ravel()]
    return {
        "job": job.id, "key": c.id, "joint": building.nodes[c.node], "framing": c.framing, "words": c.reason,
        "facts": c.facts | {"place": place}, "member": member.name, "section": member.section,
        "support": support.name if support else "", "support_section": support.section if support else "",
        "elevation": float(building.xyz[c.node, 2]),
    }  # fmt: skip


def _matched(old: dict[str, Connection], rows: list[dict[str, Any]]) -> dict[str, Connection]:
    """new key -> the connection that it was before: by place, and of the rest by name."""
    at: dict[tuple[float, ...], list[Connection]] = {}
    for record in old.values():
        if place := record.facts.get("place"):
            at.setdefault(tuple(round(v) for v in place), []).append(record)
    found: dict[str, Connection] = {}
    taken: set[int] = set()
    for row in rows:
        here = at.get(tuple(round(v) for v in row["facts"]["place"]), [])
        same = next((r for r in here if r.key == row["key"]), here[0] if here else None)
        if same is not None and same.id not in taken:
            found[row["key"]] = same
            taken.add(same.id)
    for row in rows:
        named = old.get(row["key"])
        if row["key"] not in found and named is not None and named.id not in taken:
            found[row["key"]] = named
            taken.add(named.id)
    return found


def latest(job: Job) -> Revision:
    """The job's current revision, without its model. Raises InputError where nothing was imported."""
    found = (
        Revision.select(*[f for name, f in Revision._meta.fields.items() if name != "model"])
        .where((Revision.job == job) & (Revision.number > 0))
        .order_by(Revision.number.desc())
        .first()
    )
    if found is None:
        raise InputError(f"job '{job.name}' has no model yet; import a bundle")
    return found


def building_of(revision: Revision) -> Building:
    """The building of a revision, read whole."""
    blob = Revision.select(Revision.model).where(Revision.id == revision.id).scalar()
    rows = MemberForces.select(MemberForces.data).where(MemberForces.revision == revision.id).order_by(MemberForces.member).tuples()
    raw = [np.frombuffer(data) for (data,) in rows.iterator()]
    forces = np.stack(raw).reshape(len(raw), -1, 2, 6) if raw else np.zeros((0, 0, 2, 6))
    return unpack(bytes(blob), forces)
