"""Files that belong to decisions: sketches, calculations, mails. Kept in the records, their digest in the ledger."""

from __future__ import annotations

import hashlib
from typing import Any

from peewee import Expression, fn

from handrail.core.errors import InputError
from handrail.store import ledger
from handrail.store.database import rows, writing
from handrail.store.jobs import move
from handrail.store.models import Attachment, DesignFile, Job, Override

LARGEST = 10 * 1024**2  # bytes
MOST, TOGETHER, OF_JOB = 20, 50 * 1024**2, 2 * 1024**3  # files of an override; bytes of them, and of a job's


def checked(name: str, data: bytes) -> str:
    """The name that a file is kept by. Raises InputError for one without, an empty or too large one."""
    name = name.replace("\\", "/").rsplit("/", 1)[-1].strip()
    if not name or len(name) > 200 or not name.isprintable():
        raise InputError("file: its name is 1 to 200 characters that can be seen")
    if not data:
        raise InputError(f"file: {name} is empty")
    if len(data) > LARGEST:
        raise InputError(f"file: {name} is {len(data) / 1024**2:.1f} MB; at most {LARGEST // 1024**2} MB")
    return name


def room(of: type[Attachment | DesignFile], held: Expression, most: int, whose: str, size: int) -> None:
    """Raises InputError where those kept would take more than `most` bytes with `size` more."""
    kept = int(of.select(fn.SUM(of.size)).where(held).scalar() or 0)
    if kept + size > most:
        raise InputError(
            f"file: the files of {whose} take {kept / 1024**2:.0f} of {most // 1024**2} MB, and this one would take"
            f" {size / 1024**2:.1f} MB more"
        )


def add(job: Job, override: Override, name: str, media: str, data: bytes, author: str) -> Attachment:
    """Keep a file. Raises InputError for an empty or too large one, or too many."""
    name = checked(name, data)
    digest = hashlib.sha256(data).hexdigest()
    with writing():
        if Attachment.select().where(Attachment.override == override).count() >= MOST:
            raise InputError(f"override {override.id} has {MOST} files already")
        room(Attachment, Attachment.override == override, TOGETHER, f"override {override.id}", len(data))
        room(Attachment, Attachment.job == job, OF_JOB, f"job '{job.name}'", len(data))
        made = Attachment.create(
            job=job,
            override=override,
            name=name,
            media=media[:100],
            size=len(data),
            digest=digest,
            data=data,
            author=author,
        )
        ledger.append_one(
            job.id,
            override=override.id,
            connection=override.connection,
            parameter=override.parameter,
            event="attached",
            author=author,
            words=f"{override.parameter} = {override.shown}: {name}, {len(data)} bytes",
            data={"file": name, "sha256": digest},
        )
        move(job.id)
    return made


SAID = ("id", "name", "media", "size", "digest", "author", "made")  # of a file, without what is in it


def of_override(override: int) -> list[dict[str, Any]]:
    """The files of an override, without what is in them."""
    asked = f"SELECT {', '.join(SAID)} FROM attachment WHERE override_id = ? ORDER BY id"
    return [dict(zip(SAID, row, strict=True)) for row in rows(asked, override)]


def counts(job: Job) -> dict[int, int]:
    """override -> how many files it has."""
    return dict(rows("SELECT override_id, count(*) FROM attachment WHERE job_id = ? GROUP BY override_id", job.id))


def changed(job: Job) -> list[str]:
    """Files that are not what the ledger says was attached, in words."""
    wrong = []
    said = {
        (e["override"], e["data"].get("file"), e["data"].get("sha256"))
        for e in ledger.entries(job)
        if e["event"] == "attached"
    }
    for a in Attachment.select().where(Attachment.job == job).iterator():
        if hashlib.sha256(bytes(a.data)).hexdigest() != a.digest or (a.override_id, a.name, a.digest) not in said:
            wrong.append(f"file {a.name} of override {a.override_id}: is not the one that was attached")
    kept = {(o, n, d) for o, n, d in rows("SELECT override_id, name, digest FROM attachment WHERE job_id = ?", job.id)}
    wrong += [
        f"file {name} of override {number}: was attached and is not there any more"
        for number, name, digest in said - kept
    ]
    return wrong
