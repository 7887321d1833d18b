"""What the house has beside the shipped tables of the catalogue: drafts until an administrator approves them."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from handrail.core.catalogue import own
from handrail.core.catalogue.anchors import rod
from handrail.core.catalogue.bolts import bolt
from handrail.core.catalogue.faying import tightening
from handrail.core.catalogue.grades import electrode, grade
from handrail.core.catalogue.sections import section
from handrail.core.catalogue.tables import key
from handrail.core.errors import InputError, UnknownName
from handrail.store.database import rows, writing
from handrail.store.models import HouseEntry, now

DRAFT, APPROVED, RETIRED = STATES = ("draft", "approved", "retired")
_SHIPPED: dict[str, Callable[[str], Any]] = {
    own.GRADE: grade,
    own.ELECTRODE: electrode,
    own.SECTION: section,
    own.BOLT: lambda name: bolt(f"3/4 {name}-N"),
    own.SURFACE: lambda name: tightening(f"slip_{name}"),
    own.ROD: lambda name: rod(f"3/4 {name}"),
}


def listed() -> list[HouseEntry]:
    """All of them, by kind and name."""
    return list(HouseEntry.select().order_by(HouseEntry.kind, HouseEntry.name))


def find(kind: str, name: str) -> HouseEntry | None:
    """The one of that name."""
    return HouseEntry.get_or_none((HouseEntry.kind == kind) & (HouseEntry.called == key(name)))


def put(kind: str, name: str, given: Mapping[str, Any], source: str, job: str, author: str) -> HouseEntry:
    """A draft; in place of a draft of that name. Raises InputError for what is wrong, for a name of the shipped tables,
    and for one that is approved already."""
    values = own.read(kind, name, given)
    if not source.strip():
        raise InputError("say where it comes from: a standard, a certificate, a maker's table")
    if _is_shipped(kind, name):
        raise InputError(f"{name} is in the shipped tables: take another name")
    with writing():
        there = find(kind, name)
        if there is not None and there.state != DRAFT:
            raise InputError(f"{kind} {name} is {there.state}: what it means stays; take another name")
        if there is not None:
            there.delete_instance()
        return HouseEntry.create(
            kind=kind, name=name, called=key(name), given=dict(given), values=values, source=source.strip(), job=job,
            author=author,
        )  # fmt: skip


def _is_shipped(kind: str, name: str) -> bool:
    there = own.find(kind, name)
    try:
        _SHIPPED[kind](name)
    except (UnknownName, InputError):
        return False
    return there is None


def review(entry: HouseEntry, state: str, by: str) -> bool:
    """Approve a draft, or retire what is approved: it is offered no more, what names it goes on and says so."""
    before = DRAFT if state == APPROVED else APPROVED
    with writing():
        where = (HouseEntry.id == entry.id) & (HouseEntry.state == before)
        return bool(HouseEntry.update(state=state, reviewer=by, reviewed=now()).where(where).execute())


def remove(entry: HouseEntry) -> None:
    """A draft is gone."""
    with writing():
        HouseEntry.delete().where((HouseEntry.id == entry.id) & (HouseEntry.state == DRAFT)).execute()


def stamp() -> str:
    """Another one whenever another entry is found: what is worked out rests on them."""
    return repr(_stands())


def _stands() -> tuple[Any, ...]:
    (found,) = rows(
        "SELECT COUNT(*), COALESCE(MAX(id), 0), COALESCE(MAX(reviewed), ''), COALESCE(SUM(state = 'retired'), 0) FROM"
        " houseentry WHERE state != 'draft'"
    )
    return tuple(found)


def stand(job: str = "") -> None:
    """Let those that were approved be found, in the name of a job where one is worked at."""
    own.here.set(job)
    found = _stands()
    version = hash(found) & 0x7FFFFFFF if found[0] else 0
    if version == own.version():
        return
    entries = [
        own.Entry(
            e.kind, e.name, e.values, e.source, "" if e.state == RETIRED else f"{e.reviewer} {e.reviewed[:10]}", e.job,
            e.state == RETIRED,
        )
        for e in HouseEntry.select().where(HouseEntry.state != DRAFT)
    ]  # fmt: skip
    own.stand(entries, version)
