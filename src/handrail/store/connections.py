"""Connections: one by one, and what a run or an override writes."""

from __future__ import annotations

import json
import re
from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import chain
from typing import Any

from peewee import Case

from handrail import __version__
from handrail.core.checking.assigning import DESIGNED
from handrail.core.checking.batch import Outcome
from handrail.core.checking.colliding import Colliding
from handrail.core.checking.digests import Grounds
from handrail.core.checking.result import CEILING
from handrail.core.joint.relations import reached
from handrail.core.remark import Less, remarks
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import Sized, Sizes, Value
from handrail.store import bulk, sheets
from handrail.store.alike import said
from handrail.store.database import one, proxy, rows
from handrail.store.jobs import move, system_of
from handrail.store.models import Connection, ConnectionRow, Job, as_text


def find(job: Job, key: str) -> Connection | None:
    """The connection called `key`, or None; of a member's piece, whose number came behind a stroke once, by the other
    way too."""
    found = one(Connection, "WHERE job_id = ? AND key = ?", job.id, key)
    other = _other_way(key)
    return (
        found if found is not None or other == key else one(Connection, "WHERE job_id = ? AND key = ?", job.id, other)
    )


def _other_way(key: str) -> str:
    """`G134/2.i` for `G134~2.i`, and the other way; any other name as it is."""
    return re.sub(r"([/~])(\d+)(\.[ij])$", lambda m: f"{'~' if m[1] == '/' else '/'}{m[2]}{m[3]}", key)


def of_keys(job: Job, keys: Iterable[str]) -> dict[str, Connection]:
    """The connections of these names that there are."""
    by_key: dict[str, Connection] = {}
    wanted = sorted(set(keys))
    for start in range(0, len(wanted), 500):
        by_key |= {
            c.key: c
            for c in Connection.select().where(
                (Connection.job == job) & Connection.key.in_(wanted[start : start + 500])
            )
        }
    return by_key


def passing(job: Job, below: float) -> list[Connection]:
    """Those that pass with a utilisation less than `below`."""
    return list(
        Connection.select().where(
            (Connection.job == job) & (Connection.status == "pass") & (Connection.utilisation < below)
        )
    )


def versions(job: Job, keys: Iterable[str]) -> dict[str, int]:
    """connection -> version, of those that there are."""
    by_key: dict[str, int] = {}
    wanted = sorted(set(keys))
    for start in range(0, len(wanted), 500):
        some = (Connection.job == job) & Connection.key.in_(wanted[start : start + 500])
        by_key |= dict(Connection.select(Connection.key, Connection.version).where(some).tuples())
    return by_key


def related(record: Connection) -> list[Connection]:
    """A connection, the others of its joint, and all that these are related to, however far: the nearest first."""
    joint = (Connection.job == record.job) & (Connection.joint == record.joint)
    by_key = {record.key: record} | {c.key: c for c in Connection.select().where(joint)}

    def onward(key: str) -> tuple[str, ...]:
        others = [r["other"] for r in by_key[key].relations if r["other"] not in by_key] if key in by_key else []
        by_key.update(of_keys(record.job, others) if others else {})
        return tuple(other for other in others if other in by_key)

    return [by_key[key] for key in reached(list(by_key), onward)]


def sizes_of(record: Connection) -> Sizes:
    """The kept sizes of a connection, each with its source."""
    return {name: Sized(*kept) for name, kept in (record.sizes or {}).items()}


def sizes_in(text: str) -> Sizes:
    """The same out of the text in which they are kept."""
    return {name: Sized(*kept) for name, kept in json.loads(text).items()}


def sizes_text(sizes: Sizes) -> str:
    """Sizes as the text in which they are kept."""
    return as_text({name: _kept(size) for name, size in sizes.items()})


@dataclass(frozen=True, slots=True)
class SizedConnection:
    """What a schedule says of a connection; `sizes` as they are kept."""

    standard: str
    status: str
    utilisation: float
    framing: str
    section: str
    support_section: str
    sizes: str


def sized(job: Job) -> dict[str, SizedConnection]:
    """connection -> what a schedule says of it, of those that have sizes, in the order of joints."""
    found = rows(
        "SELECT key, standard, status, utilisation, framing, section, support_section, sizes FROM connection WHERE"
        " job_id = ? AND standard != '' AND sizes != '{}' ORDER BY joint_number, key",
        job.id,
    )
    return {key: SizedConnection(*values) for key, *values in found}


def _kept(size: Sized) -> list[Any]:
    return [size.value, size.source, size.formula] if size.formula else [size.value, size.source]


_RESULT = (
    "standard",
    "rule",
    "sizes",
    "summary",
    "brief",
    "status",
    "utilisation",
    "check_name",
    "clause",
    "action",
    "reason",
    "notes",
    "remarks",
    "less",
    "broken",
    "collides",
    "remedy",
    "stale",
    "made",
    "digest",
    "engine",
    "asks",
    "over_target",
    "verified",
)


def results(
    job: Job,
    outcomes: Iterable[tuple[str, str, str, Outcome, Grounds]],
    bare: Iterable[tuple[str, str, str, str, Grounds]],
    verified: Mapping[str, dict[str, Any]] | None = None,
) -> bulk.Changes:
    """What is to be written of (key, standard, rule, outcome, grounds), and of (key, status, reason, rule, grounds)
    where no standard could be put on; of those that a revision alone had `verified`, by which and what was before. A
    remedy stays with a result that rests on what it rested on. Made outside any lock."""
    by = verified or {}
    those = "job_id = ? AND remedy != '' AND status != 'unchecked'"  # what could be judged asks more than it rests on
    remedied = {
        (key, digest): words
        for key, digest, words in rows(f"SELECT key, digest, remedy FROM connection WHERE {those}", job.id)
    }
    system = system_of(job)
    blank = {
        "standard": "",
        "sizes": {},
        "summary": "",
        "brief": {},
        "utilisation": 0.0,
        "check_name": "",
        "clause": "",
        "action": "",
        "notes": [],
        "remarks": [],
        "less": "",
        "broken": "",
        "collides": as_text([]),
        "remedy": "",
        "over_target": False,
        "verified": None,
    }
    of_sizes: dict[tuple[str, int], dict[str, Any]] = {}  # those that are alike have the same

    def sized(standard: str, sizes: Sizes) -> dict[str, Any]:
        if (standard, id(sizes)) not in of_sizes:
            words = in_words(standard, sizes, system)
            kept = as_text({n: _kept(s) for n, s in sizes.items()})
            of_sizes[standard, id(sizes)] = {
                "sizes": kept,
                "brief": as_text(words["brief"]),
                "summary": words["summary"],
            }
        return of_sizes[standard, id(sizes)]

    every = list(outcomes)  # so that no sizes go while they are told apart
    worked = (
        (
            key,
            {
                "standard": standard,
                "rule": rule,
                "status": o.status,
                "utilisation": min(o.utilisation, CEILING),
                "check_name": o.check,
                "clause": o.clause,
                "action": o.action,
                "reason": o.reason,
                "notes": list(o.notes),
                "remarks": list(remarks(o.notes)),
                "less": next((note for note in o.notes if isinstance(note, Less)), ""),
                "broken": ", ".join(o.broken),
                "collides": [c.as_dict() for c in o.collides],
                "remedy": remedied.get((key, grounds.digest), ""),
                **_rests(grounds),
                "over_target": o.over_target,
                "verified": by.get(key),
            }
            | sized(standard, o.sizes),
        )
        for key, standard, rule, o, grounds in every
    )
    others = (
        (key, blank | {"status": status, "reason": reason, "rule": rule} | _rests(grounds))
        for key, status, reason, rule, grounds in bare
    )
    return bulk.Changes(_RESULT, chain(worked, others))


def _rests(grounds: Grounds) -> dict[str, Any]:
    """Of a result that stands: how it was made, and on what it rests."""
    return {"made": grounds.made, "digest": grounds.digest, "engine": __version__, "stale": "", "asks": False}


def in_words(standard: str, sizes: Sizes, system: str) -> dict[str, Any]:
    """Sizes as lists show them: `summary` in the units of `system`, `brief` as numbers in mm and N."""
    known = STANDARDS.get(standard)
    if known is None or not sizes:
        return {"summary": "", "brief": {}}
    return {
        "summary": known.summary(sizes, system),
        "brief": {n: _plain(sizes[n].value) for n in known.brief if n in sizes},
    }


def _plain(value: Value) -> Value:
    """A size as lists show it, without what binary fractions add to it."""
    return round(value, 6) if isinstance(value, float) else value


def put_in_words_again(sheet: int, numbers: Collection[int], system: str) -> None:
    """The sizes of these connections, on a sheet, in the units of `system`. Inside the caller's transaction."""
    sized = rows(
        f"SELECT of, job_id, standard, {said('sizes', 'r')} FROM connectionrow r WHERE of IN (SELECT value FROM"
        " json_each(?)) AND sheet = ? AND standard != ''",
        json.dumps(list(numbers)),
        sheet,
    )
    words = ((of, in_words(standard, sizes_in(sizes), system)) for of, _, standard, sizes in sized)
    if sized:
        bulk.Changes(("summary", "brief"), words, "of").write(sized[0][1], sheet=sheet)


def stale(why: str) -> dict[str, Any]:
    """What is to be set of a result that does not stand any more; its last status is kept."""
    return {
        "status": "unchecked",
        "stale": why,
        "reason": f"stale: {why}",
        "digest": "",
        "asks": False,
        "remedy": "",
        "version": ConnectionRow.version + 1,
        "last": Case(None, [(ConnectionRow.stale != "", ConnectionRow.last)], ConnectionRow.status),
    }


_LEFT = (
    "SELECT id, key FROM connectionrow INDEXED BY connectionrow_counted WHERE job_id = ? AND sheet = ? AND stale != ?"
)
_RULED = (  # what forces and rules have a say in; of what no rule takes, another one may
    " AND (standard != '' OR rule != '' OR (status = 'unassigned' AND framing IN (SELECT value FROM json_each(?))))"
)


def mark_stale(job: Job, why: str, keys: Collection[str] | None = None) -> None:
    """Results that no longer stand on what is there: those of `keys`, or all that forces and rules have a say in;
    unchecked, to be run again. Inside the caller's transaction."""
    move(job.id)
    for some in sheets.parts(_unmarked(job, why, keys)):
        _mark(why, some)


def mark_ahead(job: Job, why: str, keys: Collection[str] | None = None) -> None:
    """The same of many before what makes them stale is done, a part at a time, so that nobody waits: `mark_stale` finds
    nothing left to do then. As few as one transaction marks are left to it. Outside any transaction."""

    def mark(some: list[int]) -> None:
        _mark(why, some)
        move(job.id)

    left = _unmarked(job, why, keys)
    if len(left) > sheets.PART:
        sheets.part_by_part(left, mark)


def _unmarked(job: Job, why: str, keys: Collection[str] | None) -> list[int]:
    """The rows that are not marked yet, in the order in which they are kept."""
    of = (job.id, bulk.sheet_of(job.id), _to_run(why))
    found = rows(_LEFT, *of) if keys is not None else rows(_LEFT + _RULED, *of, json.dumps(DESIGNED))
    return sorted(number for number, key in found if keys is None or key in keys)


def _mark(why: str, numbers: Sequence[int]) -> None:
    ConnectionRow.update(**stale(_to_run(why))).where(ConnectionRow.id.in_(numbers)).execute()


def _to_run(why: str) -> str:
    return f"{why}; run again"


def mark_other_engines(engine: str) -> int:
    """Results that another version of the engine made are stale. Inside the caller's transaction."""
    why = stale("another version of the checks made it; run again")
    made = (ConnectionRow.digest != "") & (ConnectionRow.engine != engine)
    stands = ConnectionRow.sheet == Job.select(Job.sheet).where(Job.id == ConnectionRow.job)
    count = int(ConnectionRow.update(**why).where(made & stands).execute())
    if count:
        Job.update(moves=Job.moves + 1, look_due=True).execute()
    return count


def kept_grounds(job: Job) -> dict[str, Grounds]:
    """connection -> what its kept result rests on, of those that have one."""
    columns = Connection.select(Connection.key, Connection.made, Connection.digest)
    kept = columns.where((Connection.job == job) & (Connection.digest != "")).tuples()
    return {key: Grounds(made, digest) for key, made, digest in kept}


def stand(job: Job) -> Iterator[tuple[str, str, str, str, Sizes, float, str, str]]:
    """(connection, status, standard, rule, sizes, utilisation, reason, of what is stale the status before that) of
    every connection."""
    found = proxy.execute_sql(
        "SELECT key, status, standard, rule, sizes, utilisation, reason, CASE WHEN stale != '' THEN last ELSE '' END"
        " FROM connection WHERE job_id = ?",
        (job.id,),
    )
    alike: dict[str, Sizes] = {}
    for key, status, standard, rule, sizes, use, reason, last in found:
        yield key, status, standard, rule, _once(sizes, alike), use, reason, last


def _once(text: str, known: dict[str, Sizes]) -> Sizes:
    """The sizes in a text, read once of those that are alike."""
    if text not in known:
        known[text] = sizes_in(text)
    return known[text]


@dataclass(frozen=True, slots=True)
class Standing:
    """A connection as it stands at its joint, with its `version`; `judged` where its result stands."""

    standard: str
    sizes: Sizes
    collides: tuple[Colliding, ...]
    grounds: Grounds
    judged: bool
    verified: Any
    version: int


def standing(job: Job, keys: Iterable[str]) -> dict[str, Standing]:
    """connection -> how it stands, of those of `keys` that have sizes."""
    found = proxy.execute_sql(
        "SELECT key, standard, sizes, collides, made, digest, status, verified, version FROM connection WHERE job_id ="
        " ? AND key IN (SELECT value FROM json_each(?)) AND sizes != '{}' AND standard != ''",
        (job.id, json.dumps(sorted(keys))),
    )
    alike: dict[str, Sizes] = {}
    return {
        key: Standing(
            standard,
            _once(sizes, alike),
            tuple(Colliding.of(c) for c in json.loads(collides)),
            Grounds(made, digest),
            bool(digest) and status in ("pass", "fail"),
            json.loads(verified) if verified else None,
            version,
        )
        for key, standard, sizes, collides, made, digest, status, verified, version in found
    }


def stood_sizes(job: Job, keys: Iterable[str]) -> dict[str, Sizes]:
    """connection -> its kept sizes, of `keys`."""
    found = proxy.execute_sql(
        "SELECT key, sizes FROM connection WHERE job_id = ? AND key IN (SELECT value FROM json_each(?)) AND sizes !="
        " '{}'",
        (job.id, json.dumps(sorted(keys))),
    )
    alike: dict[str, Sizes] = {}
    return {key: _once(sizes, alike) for key, sizes in found}
