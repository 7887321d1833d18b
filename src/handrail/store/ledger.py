"""The ledger: entries are put at its end, each chained to the one before, and read; nothing else."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Any

from handrail.core import ledger as chain
from handrail.store import bulk
from handrail.store.database import proxy, rows
from handrail.store.models import Job, JSONField, Ledger, Override, now

_JSON = JSONField()


def append(job: int, entries: Sequence[dict[str, Any]]) -> None:
    """Put entries (connection, override, parameter, event, words, author, data) at the end of a job's ledger. Inside the caller's transaction."""
    if not entries:
        return
    ((name,),) = rows("SELECT name FROM job WHERE id = ?", job)
    last = rows("SELECT number, digest FROM ledger WHERE job_id = ? ORDER BY number DESC LIMIT 1", job)
    (number, previous) = last[0] if last else (0, chain.START)
    ready, made = [], now()
    for entry in entries:
        plain = {"job": name, "made": made, "override": None, "parameter": "", "words": "", "data": {}} | entry
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
    found = rows("SELECT number, made, author, connection, override_id, parameter, event, words, data, previous, digest FROM ledger "
                 "WHERE job_id = ? AND number > ? ORDER BY number LIMIT ?", job.id, after, -1 if limit is None else limit)  # fmt: skip
    return [{"job": job.name} | _plain(row) for row in found]


def of_connection(job: Job, key: str) -> list[dict[str, Any]]:
    """What happened to the decisions on a connection, whatever it was called when they were made."""
    found = rows("SELECT number, made, author, connection, override_id, parameter, event, words, data, previous, digest FROM ledger WHERE job_id = ? "
                 "AND (override_id IN (SELECT id FROM override WHERE job_id = ? AND connection = ?) OR (override_id IS NULL AND connection = ?)) "
                 "ORDER BY number", job.id, job.id, key, key)  # fmt: skip
    return [{"job": job.name} | _plain(row) for row in found]


def _plain(row: Iterable[Any]) -> dict[str, Any]:
    found = dict(zip(("number", "made", "author", "connection", "override", "parameter", "event", "words", "data", "previous", "digest"), row, strict=True))
    return found | {"data": _JSON.python_value(found["data"])}


def count(job: Job) -> int:
    """How many entries there are."""
    return int(rows("SELECT coalesce(max(number), 0) FROM ledger WHERE job_id = ?", job.id)[0][0])


STATES = {"set": "awaiting", "accepted": "accepted", "returned": "returned", "cleared": "cleared", "again": "accepted"}


def disagreements(job: Job) -> list[str]:
    """Where the records of overrides say something else than the ledger: a state, a value or an override that no entry made."""
    said: dict[int, dict[str, Any]] = {}
    for entry in entries(job):
        if entry["override"] is None:
            continue
        own = said.setdefault(entry["override"], {"state": None, "shown": None})
        own["state"] = STATES.get(entry["event"], own["state"])
        if entry["event"] == "set" and "value" in entry["data"]:
            own["shown"] = entry["data"]["value"]
    found = []
    for o in Override.select(Override.id, Override.connection, Override.parameter, Override.state, Override.shown).where(Override.job == job):
        own = said.pop(o.id, None)
        where = f"override {o.id} ({o.parameter} of {o.connection})"
        if own is None:
            found.append(f"{where}: no entry of the ledger made it")
        elif own["state"] != o.state:
            found.append(f"{where}: is {o.state} in the records, {own['state']} by the ledger")
        elif own["shown"] is not None and own["shown"] != o.shown:
            found.append(f"{where}: is {o.shown} in the records, {own['shown']} by the ledger")
    found += [f"override {number}: the ledger knows it, the records do not" for number in said]
    return found


def chain_old() -> None:
    """Chain entries that were written before there was a chain. Inside the migration's transaction, the ledger unlocked."""
    for job, name in rows("SELECT id, name FROM job"):
        previous = chain.START
        for number, (key, *plain) in enumerate(rows("SELECT id, made, author, connection, override_id, parameter, event, words FROM ledger "
                                                   "WHERE job_id = ? ORDER BY id", job), 1):  # fmt: skip
            entry = dict(zip(("made", "author", "connection", "override", "parameter", "event", "words"), plain, strict=True))
            entry["parameter"] = entry["words"].split(" = ")[0].split(": ")[0] if entry["override"] else ""
            done = chain.sealed(entry | {"job": name, "data": {}}, number, previous)
            previous = done["digest"]
            proxy.execute_sql("UPDATE ledger SET number = ?, parameter = ?, data = '{}', previous = ?, digest = ? WHERE id = ?",
                              (number, done["parameter"], done["previous"], previous, key))  # fmt: skip
