"""What stood in the last revision found again in the next one, with its sizes, and prepared on a sheet to stand."""

from __future__ import annotations

import json
from collections.abc import Callable, Collection, Mapping, Sequence
from typing import Any, Protocol

import numpy as np

from handrail.core.building.correcting import corrected
from handrail.core.building.framing import Framing
from handrail.core.building.model import Building
from handrail.core.building.nearest import nearest
from handrail.core.building.places import level_names, places
from handrail.core.joint.connection import Connection as Framed
from handrail.store import (
    bulk,
    connections,
    corrections,
    events,
    findings,
    overrides,
    packing,
    pattern_edits,
    queries,
    team,
)
from handrail.store.database import rows
from handrail.store.jobs import system_of
from handrail.store.models import Connection, ConnectionRow, GroupMember, Job, Revision
from handrail.store.sheets import Sheet

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
_AS_IT_STOOD = (  # what is stale already keeps what was known last
    "CASE WHEN stale != '' THEN was ELSE json_object('revision', {}, 'key', key, 'status', status, 'utilisation',"
    " utilisation, 'check', check_name, 'summary', summary, 'standard', standard, 'sizes', json(sizes), 'section',"
    " section, 'released', released) END"
)
_FELL = "what it rests on has moved, and the job's tolerance is nothing"


class Follows(Protocol):
    """What a revision makes of the results that are there: which `stand`, what those that it verified rested on
    (`seen`), and `why` others were not."""

    @property
    def stand(self) -> Mapping[str, str]: ...
    @property
    def seen(self) -> Mapping[str, str]: ...
    @property
    def why(self) -> Mapping[str, str]: ...
    def write(self, job: int, keys: Collection[str], sheet: int) -> None: ...


Stands = Callable[[Building, Framing, dict[str, dict[str, Any]], dict[str, str], Collection[str], int], Follows]


class Matching:
    """New connections, and those of the last revision kept with their sizes, to be looked at again.

    One is the same where its member's end stands where it stood, within a distance, whatever it is called; else where
    it has the same name. Worked out outside any lock and prepared on a sheet; `write` lets it stand, unless the job was
    changed under it meanwhile."""

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
        names = (Connection.joint, Connection.member)
        self.system = system_of(job)
        self.job, self.rows, self.seen, self.number = (
            job,
            {row["key"]: dict(row) for row in rows},
            *newest(job),
        )  # a next try begins with them as they were
        self.now = building.system
        self.rests = _rests(job) if stands else None
        self.tolerance = Job.select(Job.tolerance).where(Job.id == job.id).scalar()
        kept = list(Connection.select(*columns, *names).where(Connection.job == job).tuples())
        old = {key: (number, facts.get("place"), framing) for key, number, facts, framing, *_ in kept}
        self.within, self.was = within, _matched(old, rows, within)  # new key -> old key
        corrected_framing = self._correct(building, framing)
        self.follows = self._following(
            building, corrected_framing, {key: beside for key, _, _, _, beside, *_ in kept}, stands
        )
        self.ids = {key: number for key, (number, _, _) in old.items()}
        self.gone = sorted(self.ids[key] for key in set(old) - set(self.was.values()))
        again = {"overridden": 0}
        self.again = bulk.Changes(
            (*_FRAMED, *again), ((self.ids[old], self.rows[new] | again) for new, old in self.was.items()), "of"
        )
        self.places = {key: row["facts"]["place"] for key, row in self.rows.items()}
        self.called = {old: new for new, old in self.was.items()}
        self.moved = {old: (new, self.places[new]) for new, old in self.was.items()}
        self.joints, self.members = self._called({key: (joint, member) for key, *_, joint, member in kept})
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
                self.rows[after.id] |= row_of(building, framing, after, self.rows[after.id]["joint_number"])
        return framed

    def _called(self, stood: dict[str, tuple[str, str]]) -> tuple[dict[str, str], dict[str, str]]:
        """What joints and members are called now, old name to new, of those with connections (joint, member)."""
        joints: dict[str, str] = {}
        members: dict[str, str] = {}
        for old, new in self.called.items():
            joint, member = stood[old]
            joints[joint], members[member] = self.rows[new]["joint"], self.rows[new]["member"]
        return joints, members

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
        return newest(self.job)[0] != self.seen or [(r.id, r.connection) for r in overrides.framed(self.job)] != [
            (r.id, r.connection) for r in self.said
        ]

    def on_a_sheet(self, going_on: Callable[[], None]) -> Sheet:
        """A sheet beside what stands, to be prepared."""
        copied = {"key": "'~' || of", "was": _AS_IT_STOOD.format(self.number - 1)}  # names may be swapped
        return Sheet(self.job.id, self._prepare, copied, self.gone, going_on)

    def prepare(self, sheet: Sheet, going_on: Callable[[], None]) -> None:
        """Everything of it on its sheet; what `going_on` raises ends it."""
        sheet.fill(going_on)
        sheet.add(self.fresh, going_on)

    def write(self, sheet: Sheet, author: str) -> None:
        """Let it stand. Inside the caller's transaction. Raises sheets.Overtaken."""
        stood = overrides.applied(self.job)
        pattern_edits.follow(self.job, self.joints)
        findings.follow(self.job, self.joints, self.members)
        events.follow(self.job, self.called, self.places, self.within)
        queries.follow(self.job, {"connection": self.called, "joint": self.joints, "member": self.members})
        sheet.take_over()
        for start in range(0, len(self.gone), 500):
            GroupMember.delete().where(GroupMember.connection.in_(self.gone[start : start + 500])).execute()
        overrides.follow(self.job, self.moved, self.places, stood, author, self.within)
        for row, name in self.held:
            if row.id in self.supports and row.value["member"] != self.supports[row.id]:
                overrides.say_support(row, name, self.supports[row.id], author)
            if name in self.misfits:
                overrides.say_unfit(row, name, self.misfits[name], author)

    def _prepare(self, some: Sequence[tuple[int, str]], sheet: int) -> None:
        """Some connections on a sheet, of which they are copies, as they are to stand."""
        numbers = [number for number, _ in some]
        self.again.write(self.job.id, numbers, sheet)
        self._results(numbers, sheet)
        if self.system not in ("", self.now):
            connections.put_in_words_again(sheet, numbers, self.now)

    def _results(self, numbers: Sequence[int], sheet: int) -> None:
        """Those that were verified; what could not be is stale, as is what was made since that was worked out, unless
        it stands."""
        made = rows(
            "SELECT of, key, digest FROM connectionrow WHERE of IN (SELECT value FROM json_each(?)) AND sheet = ? AND"
            " (standard != '' OR digest != '')",
            json.dumps(numbers),
            sheet,
        )
        stand, seen = (self.follows.stand, self.follows.seen) if self.follows else ({}, {})
        kept = [(number, key, digest) for number, key, digest in made if not digest or stand.get(key) != digest]
        verified = {key: number for number, key, digest in kept if digest and seen.get(key) == digest}
        stale: dict[str, list[int]] = {}
        for number, key, _ in kept:
            if key not in verified:
                stale.setdefault(self.follows.why.get(key, "") if self.follows else "", []).append(number)
        for why, ids in stale.items():
            words = connections.stale(f"the model was revised{f': {why}' if why else ''}; run again")
            on = ConnectionRow.of.in_(ids) & (ConnectionRow.sheet == sheet)
            ConnectionRow.update(**words).where(on).execute()
        if self.follows:
            self.follows.write(self.job.id, verified.keys(), sheet)
        if not self.tolerance:
            team.let_fall(sheet, list(verified.values()), _FELL)


def _rests(job: Job) -> Any:
    """What tells, beside the model, which results stand."""
    of = (
        Job.select(Job.rulebook_version, Job.code, Job.method, Job.combination_set, Job.tolerance)
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


def newest(job: Job) -> tuple[int, int]:
    """The id of a job's newest revision (0 where there is none), and the number of the next."""
    found = (
        Revision.select(Revision.id, Revision.number)
        .where((Revision.job == job) & (Revision.number > 0))
        .order_by(Revision.number.desc())
        .first()
    )
    return (found.id, found.number + 1) if found else (0, 1)


def rows_of(building: Building, framing: Framing) -> list[dict[str, Any]]:
    numbers: dict[int, int] = {}
    named = list(zip(places(building), level_names(building), strict=True))
    return [
        row_of(building, framing, c, numbers.setdefault(c.node, len(numbers)))
        | dict(zip(("place", "level"), named[c.node], strict=True))
        for c in framing.connections
    ]


def row_of(building: Building, framing: Framing, c: Framed, number: int) -> dict[str, Any]:
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
