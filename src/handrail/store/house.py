"""Rulebooks that the house keeps above its jobs: numbered revisions of each, draft until an administrator approves
them, then perhaps retired."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from peewee import fn

from handrail.core.errors import InputError
from handrail.core.rulebook import Text
from handrail.store.database import rows, writing
from handrail.store.models import House, Job, RulebookRevision, now

DRAFT, APPROVED, RETIRED = STATES = ("draft", "approved", "retired")
_CALLED = re.compile(r"^(?P<name>[a-z0-9][a-z0-9-]{0,63}) R(?P<number>\d{1,6})$")


def text_of(called: str) -> Text:
    """The rulebook called `NAME R2`. Raises InputError where there is none."""
    kept = revision(called)
    return Text(kept.text, kept.files)


def revision(called: str) -> House:
    """One revision by `NAME R2`. Raises InputError with what there is."""
    match = _CALLED.match(called.strip())
    if match is None:
        newest = _newest(called.strip())
        raise InputError(
            f"'{called[:60]}': say which revision, like {newest.name if newest else 'shop-practice'}"
            f" R{newest.number if newest else 1}"
        )
    kept = House.get_or_none((House.name == match["name"]) & (House.number == int(match["number"])))
    if kept is None:
        newest = _newest(match["name"])
        there = f"its newest is R{newest.number}" if newest else _there()
        raise InputError(f"the house has no rulebook '{called[:60]}'; {there}")
    return kept


def _newest(name: str) -> House | None:
    return (
        House.select().where(House.name == name).order_by((House.state == APPROVED).desc(), House.number.desc()).first()
    )


def _there() -> str:
    names = [name for (name,) in rows("SELECT DISTINCT name FROM house ORDER BY name LIMIT 20")]
    return f"it has {', '.join(names)}" if names else "it has none yet"


def listed() -> list[dict[str, Any]]:
    """Every revision of every rulebook, newest first by name, with the jobs that stand on it."""
    used: dict[str, list[str]] = {}
    for job, inherits in rows(
        "SELECT j.name, r.inherits FROM job j JOIN rulebookrevision r ON r.job_id = j.id AND r.number ="
        " j.rulebook_version WHERE r.inherits != '' AND j.sheet >= 0 ORDER BY j.name"
    ):
        used.setdefault(inherits, []).append(job)
    listed = House.select().order_by(House.name, House.number.desc())
    return [as_dict(h) | {"jobs": used.get(called(h), [])} for h in listed]


def called(kept: House) -> str:
    """A revision as rulebooks name it."""
    return f"{kept.name} R{kept.number}"


def as_dict(kept: House) -> dict[str, Any]:
    """A revision as it is shown, without what it says."""
    names = ("name", "number", "note", "inherits", "state", "author", "made", "reviewer", "reviewed")
    return {"called": called(kept), **{name: getattr(kept, name) for name in names}}


def put(name: str, text: str, files: Mapping[str, str], inherits: str, note: str, author: str) -> House:
    """A new revision, a draft. Raises InputError for a name that cannot be."""
    if not re.fullmatch(r"[a-z0-9][a-z0-9-]{0,63}", name):
        raise InputError(f"'{name[:60]}': use small letters, figures and hyphens, like shop-practice")
    with writing():
        number = (House.select(fn.MAX(House.number)).where(House.name == name).scalar() or 0) + 1
        return House.create(
            name=name, number=number, text=text, files=dict(files), inherits=inherits, note=note.strip(), author=author
        )


def review(kept: House, state: str, reviewer: str) -> bool:
    """Approve a draft, or retire what is approved; False where it is not in a state for it any more."""
    before = DRAFT if state == APPROVED else APPROVED
    with writing():
        return bool(
            House.update(state=state, reviewer=reviewer, reviewed=now())
            .where((House.id == kept.id) & (House.state == before))
            .execute()
        )


def refuse_unapproved(inherits: str, job: Job | None) -> None:
    """Raises InputError where a job is to stand on what is a draft, or anew on what is retired."""
    if not inherits:
        return
    kept = revision(inherits)
    if kept.state == DRAFT:
        raise InputError(f"{inherits} is a draft: an administrator has to approve it before a job stands on it")
    stands = job and RulebookRevision.get_or_none(
        (RulebookRevision.job == job) & (RulebookRevision.number == job.rulebook_version)
    )
    if kept.state == RETIRED and not (stands and stands.inherits == inherits):
        newest = _newest(kept.name)
        raise InputError(
            f"{inherits} is retired" + (f"; take {called(newest)}" if newest and newest.state == APPROVED else "")
        )
