"""Rulebooks of the house: kept above its jobs, approved by an administrator, inherited by the rulebooks of jobs."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from handrail.core.rulebook import Text
from handrail.core.rulebook.differing import differences, line_by_line
from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api import requests as s
from handrail.service.api.auth import administrator, caller, house_user
from handrail.service.api.long import long
from handrail.service.api.rulebooks import answers as r
from handrail.service.api.rulebooks import house_answers as h
from handrail.service.api.rulebooks import requests as q
from handrail.service.application import rulebooks
from handrail.service.application.refused import Refused
from handrail.store import accounts, designs, house, jobs
from handrail.store.models import House

api = blueprint("house", "rulebooks above the jobs")


def _found(name: str, number: int) -> House:
    kept = House.get_or_none((House.name == name) & (House.number == number))
    if kept is None:
        raise Refused(404, f"the house has no rulebook '{name} R{number}'")
    return kept


def _listed() -> list[dict[str, Any]]:
    """Every revision with the jobs on it that the caller can see."""
    user = caller()
    seen = {job.name for job in jobs.listed() if accounts.role_in(user, job)}
    return [row | {"jobs": [name for name in row["jobs"] if name in seen]} for row in house.listed()]


def _answer(kept: House) -> dict[str, Any]:
    own = next(row for row in _listed() if row["called"] == house.called(kept))
    return own | {"text": kept.text, "files": kept.files}


@api.get("/house", responses={200: a.Page[h.KeptRulebook]})
def list_house() -> Reply:
    """Every rulebook of the house, revision by revision, with the jobs that stand on each."""
    house_user()
    listed = _listed()
    return {"items": listed, "total": len(listed), "next": None}


@api.get("/house/<string:name>/<int:number>", responses={200: h.WrittenRulebook, 404: a.Problem})
def get_house(path: q.HouseRevisionPath) -> Reply:
    """One revision as it is written."""
    house_user()
    return _answer(_found(path.name, path.number))


@api.put("/house/<string:name>", responses={201: h.WrittenRulebook})
@long(keeps=False)
def put_house(path: q.HousePath, body: q.HouseRulebook) -> Reply:
    """A new revision of a rulebook of the house, as a draft; one with errors is refused with their lines."""
    user = house_user(writes=True)
    given = Text(body.text, body.files)
    book = rulebooks.read(given)
    if book.inherits:
        house.refuse_unapproved(book.inherits, None)
    designs.refuse([rule.design for rule in book.rules if rule.design and not rule.origin], None)
    return _answer(house.put(path.name, given.text, given.files, book.inherits, body.note, user.name)), 201


@api.post("/house/<string:name>/<int:number>/review", responses={200: h.WrittenRulebook, 409: a.Problem})
def review_house(path: q.HouseRevisionPath, body: q.HouseReview) -> Reply:
    """Approve a draft, or retire what is approved: an administrator's word. Jobs that stand on what is retired go on
    standing on it."""
    user = administrator()
    kept = _found(path.name, path.number)
    if not house.review(kept, body.state, user.name):
        wanted = "a draft" if body.state == house.APPROVED else "approved"
        raise Refused(
            409,
            f"{house.called(kept)} is {_found(path.name, path.number).state}; only what is {wanted} can be"
            f" {body.state}",
        )
    return _answer(_found(path.name, path.number))


@api.get("/house/<string:name>/compare", responses={200: r.DifferingRulebooks})
@long(keeps=False)
def compare_house(path: q.HousePath, query: s.TwoRevisions) -> Reply:
    """What two revisions say differently; the last two unless they are named."""
    house_user()
    numbers = [row["number"] for row in house.listed() if row["name"] == path.name]
    new = query.new or max(numbers, default=1)
    old, now = _found(path.name, query.old or new - 1), _found(path.name, new)
    texts = Text(old.text, old.files), Text(now.text, now.files)
    names = (house.called(old), house.called(now))
    books = rulebooks.read(texts[0]), rulebooks.read(texts[1])
    return {
        "old": names[0],
        "new": names[1],
        "differences": [asdict(d) for d in differences(*books)],
        "lines": line_by_line(*texts, names),
    }
