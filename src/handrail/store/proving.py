"""What the ledger says of a job beside its decisions: releases, rulebooks, models, runs and settings, and whether the
records say the same."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterable, Sequence
from typing import Any

from handrail.core import ledger as chain
from handrail.store import ledger
from handrail.store.alike import said
from handrail.store.bulk import sheet_of
from handrail.store.database import before_commit, proxy, rows
from handrail.store.models import Connection, Job, RulebookRevision

SETTINGS = ("title", "code", "method", "combination_set", "tolerance")
BY_ROWS = "rows:"  # what a digest begins with that is made of one of each connection
RESULT = "key, standard, rule, status, utilisation, check_name, sizes"
_RESULT_OF_ROWS = ", ".join(said(name, "r") for name in RESULT.split(", "))


def told(job: int, event: str, words: str, author: str, **data: Any) -> None:
    """An entry that is of the job and of no decision. Inside the caller's transaction."""
    ledger.append_one(job, connection="", event=event, words=words, author=author, data=data)


def of_releases(job: int, event: str, records: Sequence[Connection], words: str, author: str, at: str = "") -> None:
    """An entry for connections that were released, withdrawn, or whose release fell: which, and the digest of how they
    stand."""
    if records:
        which = [[c.id, c.key] for c in records]
        keys = {c.key for c in records}
        told(
            job,
            event,
            f"{len(records)} connections: {words}",
            author,
            connections=which,
            at=at,
            results=of_results(job, keys),
        )


class Seals:
    """The digest of standard, rule, verdict and sizes of connections, one by one and together."""

    def __init__(self) -> None:
        self._of: dict[str, bytes] = {}

    def read(self, job: int, keys: Iterable[str] | None = None, sheet: int | None = None) -> Seals:
        """Those of `keys`, or of all, as they stand or are prepared on a `sheet`."""
        some = ""
        values: list[Any] = [job, sheet_of(job) if sheet is None else sheet]
        if keys is not None:
            some, values = " AND key IN (SELECT value FROM json_each(?))", [*values, json.dumps(sorted(keys))]
        found = f"SELECT {_RESULT_OF_ROWS} FROM connectionrow r WHERE job_id = ? AND sheet = ?{some}"
        for row in proxy.execute_sql(found, values):
            self._of[row[0]] = hashlib.sha256(repr(row).encode()).digest()
        return self

    def digest(self, keys: Iterable[str] | None = None) -> str:
        """Of `keys`, or all, in the order of their names."""
        those = self._of.keys() if keys is None else self._of.keys() & set(keys)
        return BY_ROWS + hashlib.sha256(b"".join(self._of[key] for key in sorted(those))).hexdigest()


def of_results(job: int, keys: Iterable[str]) -> str:
    """The digest of standard, rule, verdict and sizes of these connections, in the order of their names."""
    return Seals().read(job, keys).digest()


def _in_one(job: int, keys: Iterable[str]) -> str:
    """The same as it was made until each connection had a digest of its own."""
    wanted, seal = set(keys), hashlib.sha256()
    for row in rows(f"SELECT {RESULT} FROM connection WHERE job_id = ? ORDER BY key", job):
        if row[0] in wanted:
            seal.update(repr(row).encode())
    return seal.hexdigest()


def of_rulebook(revision: RulebookRevision) -> str:
    """The digest of a rulebook as it was adopted."""
    return chain.digest_of([revision.text, revision.files, revision.inherits])


def of_model(revision: int) -> str:
    """The digest of a revision's model and of every member's forces."""
    ((model,),) = rows("SELECT model FROM revision WHERE id = ?", revision)
    seal = hashlib.sha256(bytes(model))
    last = -1
    while some := rows(
        "SELECT member, data FROM memberforces WHERE revision_id = ? AND member > ? ORDER BY member LIMIT 500",
        revision,
        last,
    ):
        for last, data in some:  # noqa: B007  where the next part begins
            seal.update(bytes(data))
    return seal.hexdigest()


def faults(job: Job) -> list[str]:
    """Where releases, rulebooks, models and settings are not what the ledger has, in words."""
    said = ledger.entries(job)
    return [
        *_releases(job, said),
        *_rulebooks(job, said),
        *_models(job, said),
        *_settings(job, said),
        *_transmittals(job, said),
    ]


def notes(job: Job) -> list[str]:
    """Whether the results are as the last run left them, in words."""
    runs = [e for e in ledger.entries(job) if e["event"] == "run"]
    if not runs:
        return []
    last = runs[-1]
    keys = (
        {key for (key,) in rows("SELECT key FROM connection WHERE job_id = ?", job.id)}
        if last["data"]["whole"]
        else set(last["data"]["keys"])
    )
    made = last["data"]["results"]
    same = made == (of_results if made.startswith(BY_ROWS) else _in_one)(job.id, keys)
    return [
        (
            f"results are as run {last['data']['run']} left them"
            if same
            else (
                f"results are other than run {last['data']['run']} left them (decisions, revisions or rules since, or a"
                " change of the records)"
            )
        )
    ]


def _releases(job: Job, said: list[dict[str, Any]]) -> list[str]:
    held: dict[int, tuple[str, str, int]] = {}
    for entry in said:
        if entry["event"] in ("released", "withdrawn", "fell"):
            for number, _ in entry["data"]["connections"]:
                held.pop(number, None)
                if entry["event"] == "released":
                    held[number] = (entry["author"], entry["data"]["at"], entry["number"])
    wrong = []
    for number, key, by, at in rows("SELECT id, key, released, released_at FROM connection WHERE job_id = ?", job.id):
        own = held.get(number)
        if (by, at) != (own[:2] if own else ("", "")):
            kept = f"is released by {by} at {at} in the records" if by else "is not released in the records"
            wrong.append(
                f"{key}: {kept}, by "
                + (f"entry {own[2]} {own[0]} released it at {own[1]}" if own else "no entry of the ledger")
            )
    return wrong


def _rulebooks(job: Job, said: list[dict[str, Any]]) -> list[str]:
    by_number = {e["data"]["number"]: e["data"]["sha256"] for e in said if e["event"] == "rulebook"}
    wrong, newest = [], None
    for revision in RulebookRevision.select().where(RulebookRevision.job == job).order_by(RulebookRevision.number):
        newest = revision
        digest = by_number.pop(revision.number, None)
        if digest is None:
            wrong.append(f"rulebook revision {revision.number}: no entry of the ledger adopted it")
        elif digest != of_rulebook(revision):
            wrong.append(f"rulebook revision {revision.number}: is not the one that was adopted")
    wrong += [f"rulebook revision {number}: was adopted and is not there any more" for number in by_number]
    own = Job.select(Job.rulebook, Job.rulebook_files, Job.rulebook_version).where(Job.id == job.id).get()
    if newest is not None and (own.rulebook, own.rulebook_files, own.rulebook_version) != (
        newest.text,
        newest.files,
        newest.number,
    ):
        wrong.append("rulebook: the one that holds is not the newest revision")
    return wrong


def _models(job: Job, said: list[dict[str, Any]]) -> list[str]:
    by_number = {e["data"]["number"]: e["data"]["sha256"] for e in said if e["event"] == "imported"}
    wrong = []
    for revision, number in rows(
        "SELECT id, number FROM revision WHERE job_id = ? AND number > 0 ORDER BY number", job.id
    ):
        digest = by_number.pop(number, None)
        if digest is None:
            wrong.append(f"revision {number}: no entry of the ledger brought it")
        elif digest != of_model(revision):
            wrong.append(f"revision {number}: its model or forces are not those that came in")
    return wrong + [f"revision {number}: came in and is not there any more" for number in by_number]


def _transmittals(job: Job, said: list[dict[str, Any]]) -> list[str]:
    told = {e["data"]["number"]: e["data"]["sha256"] for e in said if e["event"] == "transmittal"}
    wrong = []
    for number, data in rows("SELECT number, data FROM transmittal WHERE job_id = ?", job.id):
        if hashlib.sha256(bytes(data)).hexdigest() != told.pop(number, None):
            wrong.append(f"transmittal T{number:03d}: what is kept is not what the ledger has")
    return [*wrong, *(f"transmittal T{number:03d} is in the ledger and not in the records" for number in told)]


def _settings(job: Job, said: list[dict[str, Any]]) -> list[str]:
    last = [e["data"] for e in said if e["event"] == "settings"]
    own = Job.select(*(getattr(Job, n) for n in SETTINGS)).where(Job.id == job.id).dicts().get()
    return [
        f"{name}: is {own[name]} in the records, {last[-1][name]} by the ledger"
        for name in SETTINGS
        if last and own[name] != last[-1][name]
    ]


def of_settings(job: int, author: str) -> None:
    """An entry with the job's settings as they are. Inside the caller's transaction, which has changed them."""
    own = Job.select(*(getattr(Job, n) for n in SETTINGS)).where(Job.id == job).dicts().get()
    told(job, "settings", ", ".join(f"{name} {value}" for name, value in own.items()), author, **own)


def seal_falls() -> None:
    """Releases that fell in this transaction, whatever made them fall, come into the ledger."""
    fell = rows(
        "SELECT e.id, e.job_id, e.words, c.id, e.connection FROM event e LEFT JOIN connection c ON c.job_id = e.job_id"
        " AND c.key = e.connection WHERE e.kind = 'fell' AND NOT e.sealed ORDER BY e.id"
    )
    for job in dict.fromkeys(row[1] for row in fell):
        own = [row for row in fell if row[1] == job and row[3] is not None]
        keys = {row[4] for row in own}
        told(
            job,
            "fell",
            f"{len(own)} connections: their release fell",
            "",
            connections=[[row[3], row[4]] for row in own],
            why={row[4]: row[2] for row in own},
            results=of_results(job, keys),
        )
    if fell:
        rows("UPDATE event SET sealed = 1 WHERE kind = 'fell' AND NOT sealed")


before_commit.append(seal_falls)


def seal_old() -> None:
    """What was there before it came into the ledger, as it is. Inside the migration's transaction."""
    rows("UPDATE event SET sealed = 1")
    words = "as it was when this came into the ledger"
    for job in Job.select(Job.id):
        of_settings(job.id, "")
        for revision in (
            RulebookRevision.select().where(RulebookRevision.job == job.id).order_by(RulebookRevision.number)
        ):
            told(
                job.id,
                "rulebook",
                f"revision {revision.number}: {words}",
                revision.author,
                number=revision.number,
                sha256=of_rulebook(revision),
            )
        for revision, number in rows(
            "SELECT id, number FROM revision WHERE job_id = ? AND number > 0 ORDER BY number", job.id
        ):
            told(job.id, "imported", f"revision {number}: {words}", "", number=number, sha256=of_model(revision))
        for by, at in rows(
            "SELECT DISTINCT released, released_at FROM connection WHERE job_id = ? AND released != '' ORDER BY 2, 1",
            job.id,
        ):
            here = (Connection.job == job.id) & (Connection.released == by) & (Connection.released_at == at)
            of_releases(
                job.id, "released", list(Connection.select(Connection.id, Connection.key).where(here)), words, by, at
            )
