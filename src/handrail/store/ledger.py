"""The ledger: entries are put at its end, each chained to the one before, and read; nothing else."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Any

from handrail.core import ledger as chain
from handrail.store import bulk
from handrail.store.database import proxy, rows
from handrail.store.models import Closed, Job, JSONField, Ledger, Override, now

_JSON = JSONField()


def append(job: int, entries: Sequence[dict[str, Any]]) -> None:
    """Put entries (connection, override, parameter, event, words, author, data) at the end of a job's ledger, those on
    overrides with the digest of every field of these. Inside the caller's transaction, which has changed them
    already."""
    if not entries:
        return
    fields = _fields({e["override"] for e in entries if e.get("override") is not None})
    ((name,),) = rows("SELECT name FROM job WHERE id = ?", job)
    last = rows("SELECT number, digest FROM ledger WHERE job_id = ? ORDER BY number DESC LIMIT 1", job)
    number, previous = last[0] if last else (0, chain.START)
    ready, made = [], now()
    for entry in entries:
        plain = {"job": name, "made": made, "override": None, "parameter": "", "words": "", "data": {}} | entry
        if plain["override"] in fields:
            plain["data"] = plain["data"] | {"record": fields[plain["override"]]}
        number += 1
        done = chain.sealed(plain, number, previous)
        previous = done["digest"]
        ready.append(done | {"job": job})
    bulk.insert(Ledger, ready)


def append_one(job: int, **entry: Any) -> None:
    """Put one entry at the end."""
    append(job, [entry])


def entries(job: Job, after: int = 0, limit: int | None = None) -> list[dict[str, Any]]:
    """A job's entries as plain data, in order, those numbered above `after`."""
    lines = rows(
        "SELECT number, made, author, connection, override_id, parameter, event, words, data, previous, digest FROM"
        " ledger WHERE job_id = ? AND number > ? ORDER BY number LIMIT ?",
        job.id,
        after,
        -1 if limit is None else limit,
    )
    return [{"job": job.name} | _plain(row) for row in lines]


def of_connection(job: Job, key: str) -> list[dict[str, Any]]:
    """What happened to the decisions on a connection, whatever it was called when they were made."""
    lines = rows(
        "SELECT number, made, author, connection, override_id, parameter, event, words, data, previous, digest FROM"
        " ledger WHERE job_id = ? AND (override_id IN (SELECT id FROM override WHERE job_id = ? AND connection = ?) OR"
        " (override_id IS NULL AND connection = ?)) ORDER BY number",
        job.id,
        job.id,
        key,
        key,
    )
    return [{"job": job.name} | _plain(row) for row in lines]


def _plain(row: Iterable[Any]) -> dict[str, Any]:
    entry = dict(
        zip(
            (
                "number",
                "made",
                "author",
                "connection",
                "override",
                "parameter",
                "event",
                "words",
                "data",
                "previous",
                "digest",
            ),
            row,
            strict=True,
        )
    )
    return entry | {"data": _JSON.python_value(entry["data"])}


def count(job: Job) -> int:
    """How many entries there are."""
    return int(rows("SELECT coalesce(max(number), 0) FROM ledger WHERE job_id = ?", job.id)[0][0])


SEALED = (
    "connection",
    "place",
    "parameter",
    "value",
    "shown",
    "reason",
    "author",
    "made",
    "cause",
    "state",
    "reviewer",
    "reviewed",
    "word",
    "before",
    "after",
    "grounds",
    "look",
    "replaces",
)
FOLLOWS = ("connection", "place")  # what a revision changes; of those that ended it is of no account


def _fields(overrides: Iterable[int]) -> dict[int, dict[str, str]]:
    """override -> field -> digest of what is kept there."""
    wanted, fields = sorted(overrides), {}
    names = ", ".join(f'"{name}"' for name in SEALED)
    for start in range(0, len(wanted), 500):
        some = wanted[start : start + 500]
        for number, *values in rows(
            f"SELECT id, {names} FROM override WHERE id IN ({', '.join('?' * len(some))})", *some
        ):
            fields[number] = {name: chain.digest_of(value)[:32] for name, value in zip(SEALED, values, strict=True)}
    return fields


def close(job: Job, author: str) -> None:
    """Keep the head of a job's ledger that is about to be deleted with it. Inside the caller's transaction."""
    ends = rows(
        "SELECT number, digest FROM ledger WHERE job_id = ? AND number IN (1, (SELECT max(number) FROM ledger WHERE"
        " job_id = ?)) ORDER BY number",
        job.id,
        job.id,
    )
    if ends:
        Closed.create(job=job.name, entries=ends[-1][0], first=ends[0][1], head=ends[-1][1], author=author)


STATES = {"set": "awaiting", "accepted": "accepted", "returned": "returned", "cleared": "cleared", "again": "accepted"}


def disagreements(job: Job) -> list[str]:
    """Where the records of overrides say something else than the ledger: any field, or an override that no entry
    made."""
    said: dict[int, dict[str, Any]] = {}
    for entry in entries(job):
        if entry["override"] is None:
            continue
        own = said.setdefault(entry["override"], {"state": None, "shown": None, "record": None})
        own["state"] = STATES.get(entry["event"], own["state"])
        own["record"] = entry["data"].get("record", own["record"])
        if entry["event"] == "set" and "value" in entry["data"]:
            own["shown"] = entry["data"]["value"]
    wrong = []
    kept = list(
        Override.select(Override.id, Override.connection, Override.parameter, Override.state, Override.shown).where(
            Override.job == job
        )
    )
    fields = _fields(o.id for o in kept)
    for o in kept:
        ruled = said.pop(o.id, None)
        where = f"override {o.id} ({o.parameter} of {o.connection})"
        if ruled is None:
            wrong.append(f"{where}: no entry of the ledger made it")
        elif ruled["state"] != o.state:
            wrong.append(f"{where}: is {o.state} in the records, {ruled['state']} by the ledger")
        elif ruled["shown"] is not None and ruled["shown"] != o.shown:
            wrong.append(f"{where}: is {o.shown} in the records, {ruled['shown']} by the ledger")
        elif ruled["record"] is not None:
            ended = o.state not in ("awaiting", "accepted")
            otherwise = [
                name
                for name, digest in fields[o.id].items()
                if ruled["record"].get(name) != digest and not (ended and name in FOLLOWS)
            ]
            if otherwise:
                wrong.append(
                    f"{where}: its {', '.join(otherwise)} in the records {'are' if len(otherwise) > 1 else 'is'} not"
                    " what the ledger has"
                )
    wrong += [f"override {number}: the ledger knows it, the records do not" for number in said]
    return wrong


def seal_old() -> None:
    """Overrides of before every field was in the ledger: what they are now. Inside the migration's transaction."""
    for (job,) in rows("SELECT id FROM job"):
        append(
            job,
            [
                {
                    "override": number,
                    "connection": connection,
                    "parameter": parameter,
                    "event": "stands",
                    "author": "",
                    "words": f"{parameter} = {shown}: as it was when every field came into the ledger",
                }
                for number, connection, parameter, shown in rows(
                    "SELECT id, connection, parameter, shown FROM override WHERE job_id = ? ORDER BY id", job
                )
            ],
        )


def chain_old() -> None:
    """Chain entries that were written before there was a chain. Inside the migration's transaction, the ledger
    unlocked."""
    for job, name in rows("SELECT id, name FROM job"):
        previous = chain.START
        for number, (key, *plain) in enumerate(
            rows(
                "SELECT id, made, author, connection, override_id, parameter, event, words FROM ledger "
                "WHERE job_id = ? ORDER BY id",
                job,
            ),
            1,
        ):
            entry = dict(
                zip(("made", "author", "connection", "override", "parameter", "event", "words"), plain, strict=True)
            )
            entry["parameter"] = entry["words"].split(" = ")[0].split(": ")[0] if entry["override"] else ""
            done = chain.sealed(entry | {"job": name, "data": {}}, number, previous)
            previous = done["digest"]
            proxy.execute_sql(
                "UPDATE ledger SET number = ?, parameter = ?, data = '{}', previous = ?, digest = ? WHERE id = ?",
                (number, done["parameter"], done["previous"], previous, key),
            )
