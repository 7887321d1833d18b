"""The house's catalogue: what it has beside the shipped tables."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any, Literal

from pydantic import BaseModel, Field

from handrail.core.catalogue import own
from handrail.core.errors import InputError
from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api.auth import administrator, caller, house_user, job_for
from handrail.service.api.requests import Body
from handrail.service.application.refused import Refused
from handrail.store import entries
from handrail.store.models import HouseEntry

api = blueprint("catalogue-own", "grades, bolts, rods, electrodes, faying surfaces and sections of the house's own")


class EntryPath(BaseModel):
    kind: str = Field(description="grade, bolt, rod, electrode, surface or section")
    name: str


class NewEntry(Body):
    values: dict[str, Any] = Field(max_length=20, description="its values, with units")
    source: str = Field(max_length=1000, description="where it comes from")
    job: str = Field("", description="that alone may use it; all where empty")


class EntryReview(Body):
    state: Literal["approved", "retired"]


class CatalogueEntry(BaseModel):
    kind: str
    name: str
    values: dict[str, Any] = Field(description="as they were typed")
    source: str
    job: str
    state: Literal["draft", "approved", "retired"]
    author: str
    made: str
    reviewer: str
    reviewed: str


class EntryValue(BaseModel):
    name: str
    quantity: str = Field(description="stress, length or number; empty for words")
    help: str
    needed: bool
    choices: list[str]


class CatalogueEntries(BaseModel):
    items: list[CatalogueEntry]
    kinds: dict[str, list[EntryValue]] = Field(description="what each kind takes")


def _as_dict(entry: HouseEntry) -> dict[str, Any]:
    names = ("kind", "name", "source", "job", "state", "author", "made", "reviewer", "reviewed")
    return {"values": entry.given, **{name: getattr(entry, name) for name in names}}


def _found(path: EntryPath) -> HouseEntry:
    entry = entries.find(path.kind, path.name)
    if entry is None:
        raise Refused(404, f"the house has no {path.kind} '{path.name}' of its own")
    return entry


@api.get("/catalogue", responses={200: CatalogueEntries})
def list_entries() -> Reply:
    """What the house has beside the shipped tables, with its source and who approved it."""
    caller()
    kinds = {kind: [asdict(value) for value in values] for kind, values in own.VALUES.items()}
    return {"items": [_as_dict(entry) for entry in entries.listed()], "kinds": kinds}


@api.put("/catalogue/<string:kind>/<string:name>", responses={201: CatalogueEntry, 422: a.Problem})
def put_entry(path: EntryPath, body: NewEntry) -> Reply:
    """A draft, which nothing finds until an administrator has approved it."""
    user = house_user(writes=True)
    if body.job:
        job_for(body.job, "engineer")
    try:
        entry = entries.put(path.kind, path.name, body.values, body.source, body.job, user.name)
    except InputError as exc:
        raise Refused(422, exc.words) from exc
    return _as_dict(entry), 201


@api.post("/catalogue/<string:kind>/<string:name>/review", responses={200: CatalogueEntry, 409: a.Problem})
def review_entry(path: EntryPath, body: EntryReview) -> Reply:
    """Approve a draft, so that rules, decisions and models may name it; or retire it: it is offered no
    more, and each result that has it says so."""
    user, entry = administrator(), _found(path)
    if not entries.review(entry, body.state, user.name):
        raise Refused(409, f"{entry.kind} {entry.name} is {entry.state}")
    return _as_dict(_found(path))


@api.delete("/catalogue/<string:kind>/<string:name>", responses={204: None, 409: a.Problem})
def remove_entry(path: EntryPath) -> Reply:
    """Take a draft away."""
    user, entry = house_user(writes=True), _found(path)
    if entry.state != entries.DRAFT or (entry.author != user.name and not user.admin):
        raise Refused(409, f"{entry.kind} {entry.name} is {entry.state}: a draft of one's own can be taken away")
    entries.remove(entry)
    return "", 204
