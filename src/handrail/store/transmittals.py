"""What left the house: transmittals with what they hold, never changed once they are made."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from dataclasses import dataclass
from typing import Any

from peewee import fn

from handrail.store import bulk, jobs, proving
from handrail.store.database import rows
from handrail.store.models import Job, Sent, Transmittal

_SHOWN = [field for name, field in Transmittal._meta.fields.items() if name != "data"]


@dataclass(frozen=True, slots=True)
class State:
    """How a connection stands that may be sent."""

    place: str
    check: str
    clause: str
    action: str
    released: str
    released_at: str
    stale: str
    overridden: int
    version: int


def states(job: Job, keys: Collection[str]) -> dict[str, State]:
    """connection -> how it stands."""
    found = rows(
        "SELECT key, place, check_name, clause, action, released, released_at, stale, overridden, version FROM"
        " connection WHERE job_id = ?",
        job.id,
    )
    return {key: State(*values) for key, *values in found if key in keys}


def of_job(job: Job) -> list[Transmittal]:
    """All of a job, the newest first, without what they hold."""
    return list(Transmittal.select(*_SHOWN).where(Transmittal.job == job).order_by(Transmittal.number.desc()))


def find(job: Job, number: int, data: bool = False) -> Transmittal | None:
    """One of them; with the zip where `data` is wanted."""
    chosen = Transmittal.select() if data else Transmittal.select(*_SHOWN)
    found: Transmittal | None = chosen.where(Transmittal.job == job, Transmittal.number == number).first()
    return found


def following(job: Job) -> int:
    """The number of the next."""
    last = Transmittal.select(fn.MAX(Transmittal.number)).where(Transmittal.job == job).scalar()
    return int(last or 0) + 1


Last = dict[str, tuple[int, Sent]]


def last_sent(job: Job) -> Last:
    """connection -> in which transmittal it was sent last, and how; without those that were withdrawn since."""
    newest = Sent.select(fn.MAX(Sent.id)).where(Sent.job == job).group_by(Sent.connection)
    numbers = dict(rows("SELECT id, number FROM transmittal WHERE job_id = ?", job.id))
    found = Sent.select().where(Sent.id.in_(newest), Sent.change != "withdrawn")
    return {sent.connection: (numbers[sent.transmittal_id], sent) for sent in found}


def sent_in(transmittal: Transmittal, changes: Collection[str] = ()) -> list[Sent]:
    """What one holds, in its order; of some `changes` only where they are named."""
    of = Sent.transmittal == transmittal
    return list(Sent.select().where(of & Sent.change.in_(list(changes)) if changes else of).order_by(Sent.id))


def superseded(job: Job) -> dict[int, int]:
    """number of a transmittal -> how many of its connections a later one has."""
    return dict(
        rows(
            "SELECT before, count(*) FROM sent WHERE job_id = ? AND before > 0 GROUP BY before",
            job.id,
        )
    )


def keep(job: Job, values: dict[str, Any], sent: Iterable[dict[str, Any]]) -> Transmittal:
    """Freeze one. Inside the caller's transaction."""
    made: Transmittal = Transmittal.create(job=job, **values)
    bulk.insert(Sent, ({"job": job.id, "transmittal": made.id, **one} for one in sent))
    total = sum(values["counts"].get(name, 0) for name in ("new", "changed", "same"))
    proving.told(
        job.id,
        "transmittal",
        f"{name_of(made.number)} to {made.to}: {made.why}; {total} connections in {made.marks} marks",
        made.author,
        number=made.number,
        sha256=made.digest,
    )
    jobs.move(job.id)
    return made


def name_of(number: int) -> str:
    """What a transmittal is called."""
    return f"T{number:03d}"
