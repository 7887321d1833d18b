"""Queries to the engineer of record: asked of joints, members, connections or findings, answered, closed; what is open
may hold a release."""

from __future__ import annotations

import uuid
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Any

from peewee import fn

from handrail.core.errors import InputError
from handrail.store import events
from handrail.store.database import rows, writing
from handrail.store.jobs import move
from handrail.store.models import Job, Query, now

OPEN, ANSWERED, CLOSED = STATES = ("open", "answered", "closed")
KINDS = ("connection", "joint", "member", "finding")
MOST, SUBJECTS = 5000, 200
LONGEST = {"title": 200, "words": 8000, "answer": 8000, "to": 200}
_CONCERNED = "SELECT key, joint, member, support FROM connection WHERE job_id = ?"
Subject = tuple[str, str]


@dataclass(frozen=True)
class Asked:
    """What somebody asks: `of` what (kind, name), `due` (ISO date, or empty), whether it `holds` the release of what it
    concerns, how it is looked at."""

    title: str
    words: str = ""
    to: str = ""
    due: str = ""
    of: tuple[Subject, ...] = ()
    holds: bool = False
    view: Mapping[str, Any] = field(default_factory=dict)


def name_of(number: int) -> str:
    """Q7."""
    return f"Q{number}"


def listed(job: Job, state: str = "") -> list[Query]:
    """All of a job, the newest first, or those of a state."""
    chosen = Query.select().where(Query.job == job)
    if state:
        chosen = chosen.where(Query.state == state)
    return list(chosen.order_by(Query.number.desc()))


def find(job: Job, number: int) -> Query | None:
    """The one of that number."""
    found: Query | None = Query.get_or_none((Query.job == job) & (Query.number == number))
    return found


def ask(job: Job, asked: Asked, author: str) -> Query:
    """Ask one. Raises InputError."""
    asked = checked(asked)
    with writing():
        made = _create(job, asked, author, str(uuid.uuid4()), now())
        _tell(job, made, "asked", asked.title, author)
        move(job.id)
    return made


def _create(job: Job, asked: Asked, author: str, guid: str, made: str, **more: Any) -> Query:
    last = Query.select(fn.MAX(Query.number)).where(Query.job == job).scalar() or 0
    if last >= MOST:
        raise InputError(f"the job has {MOST} queries, which is as many as there may be")
    return Query.create(
        job=job, number=last + 1, guid=guid, title=asked.title, words=asked.words, to=asked.to, due=asked.due,
        of=[list(one) for one in asked.of], holds=asked.holds, view=dict(asked.view), author=author, made=made, **more,
    )  # fmt: skip


def checked(asked: Asked) -> Asked:
    """With its texts trimmed. Raises InputError."""
    title = " ".join(asked.title.split())
    if not title:
        raise InputError("title: say what is asked, in a line")
    for name, text in (("title", title), ("words", asked.words), ("to", asked.to)):
        if len(text) > LONGEST[name]:
            raise InputError(f"{name}: {len(text)} letters; at most {LONGEST[name]}")
    if asked.due:
        try:
            date.fromisoformat(asked.due)
        except ValueError as exc:
            raise InputError(f"due: '{asked.due[:20]}' is no date like 2026-12-24") from exc
    if not asked.of or len(asked.of) > SUBJECTS:
        raise InputError(f"of: name one to {SUBJECTS} joints, members, connections or findings that it is about")
    return Asked(title, asked.words.strip(), asked.to.strip(), asked.due, tuple(dict.fromkeys(asked.of)), asked.holds,
                 asked.view)  # fmt: skip


def answer(job: Job, number: int, words: str, author: str) -> Query:
    """Answer an open one. Raises InputError."""
    if not words.strip() or len(words) > LONGEST["answer"]:
        raise InputError(f"answer: say something, at most {LONGEST['answer']} letters")
    return _move(job, number, (OPEN, ANSWERED), "answered", words.strip(), author, state=ANSWERED,
                 answer=words.strip(), answered_by=author, answered=now())  # fmt: skip


def close(job: Job, number: int, author: str, words: str = "") -> Query:
    """Close one: what it asked is settled. Raises InputError."""
    return _move(job, number, (OPEN, ANSWERED), "closed", words.strip(), author, state=CLOSED, closed_by=author,
                 closed=now())  # fmt: skip


def reopen(job: Job, number: int, author: str, words: str) -> Query:
    """Ask again what was answered or closed. Raises InputError."""
    if not words.strip():
        raise InputError("words: say why it is asked again")
    return _move(job, number, (ANSWERED, CLOSED), "asked again", words.strip(), author, state=OPEN, closed_by="",
                 closed="")  # fmt: skip


def _move(job: Job, number: int, of: Sequence[str], what: str, words: str, author: str, **values: Any) -> Query:
    with writing():
        kept = find(job, number)
        if kept is None:
            raise InputError(f"job {job.name} has no query {name_of(number)}")
        if kept.state not in of:
            raise InputError(f"{name_of(number)} is {kept.state}: it cannot be {what}")
        said = [*kept.said, {"what": what, "words": words, "author": author, "made": now()}]
        Query.update(said=said, **values).where(Query.id == kept.id).execute()
        _tell(job, kept, what, words or kept.title, author)
        move(job.id)
    found = find(job, number)
    assert found is not None
    return found


def _tell(job: Job, query: Query, what: str, words: str, author: str) -> None:
    """In the history of every connection that it concerns."""
    keys = concerned(job, [query]).get(query.number, ())
    events.add(job, [(key, "query", f"{name_of(query.number)} {what}: {words}") for key in keys], author)


def concerned(job: Job, queries: Collection[Query]) -> dict[int, tuple[str, ...]]:
    """number -> the connections that each of some queries is about."""
    if not queries:
        return {}
    by: dict[Subject, set[str]] = {}
    for key, joint, member, support in rows(_CONCERNED, job.id):
        for subject in (("connection", key), ("joint", joint), ("member", member), ("member", support)):
            by.setdefault(subject, set()).add(key)
    return {
        q.number: tuple(sorted(set().union(*(by.get((kind, name), set()) for kind, name in q.of)))) for q in queries
    }


def holding(job: Job) -> dict[str, str]:
    """connection -> why an open query holds its release."""
    found: dict[str, str] = {}
    holds = [q for q in listed(job, OPEN) if q.holds]
    keys = concerned(job, holds)
    for q in holds:
        for key in keys[q.number]:
            found.setdefault(key, f"{name_of(q.number)} is open and holds it: {q.title}")
    return found


def follow(job: Job, moved: Mapping[str, Mapping[str, str]]) -> None:
    """After a revision: queries are about what they were about as it is called now (kind -> old name -> new). Inside
    the caller's transaction."""
    for q in Query.select().where(Query.job == job):
        of = [[kind, moved.get(kind, {}).get(name, name)] for kind, name in q.of]
        if of != q.of:
            Query.update(of=of).where(Query.id == q.id).execute()


@dataclass(frozen=True)
class Came:
    """A query as it comes in from elsewhere."""

    guid: str
    asked: Asked
    author: str
    made: str
    state: str
    said: tuple[Mapping[str, str], ...]  # what, words, author, made


def take_in(job: Job, came: Sequence[Came], author: str, closes: bool) -> dict[str, list[int]]:
    """Queries from elsewhere: those that are known by their number of things get what was said of them since, the
    others are new. Who may not close a query (`closes`) does not by a file either. Inside one transaction. The numbers
    of both."""
    found: dict[str, list[int]] = {"new": [], "changed": [], "same": []}
    with writing():
        known = {q.guid: q for q in listed(job)}
        for one in came:
            kept = known.get(one.guid)
            if kept is None:
                made = _create(job, one.asked, one.author, one.guid, one.made, **_state(one))
                _tell(job, made, "came in", one.asked.title, author)
                found["new"].append(made.number)
                continue
            values = _since(kept, one, author if closes else "")
            found["changed" if values else "same"].append(kept.number)
            if values:
                Query.update(**values).where(Query.id == kept.id).execute()
                _tell(job, kept, values.get("state", "said more"), values.get("answer", kept.title), author)
        move(job.id)
    return found


def _state(one: Came) -> dict[str, Any]:
    last = next((s for s in reversed(one.said) if s["what"] == "answered"), None)
    values: dict[str, Any] = {"state": one.state, "said": [dict(s) for s in one.said]}
    if last is not None:
        values |= {"answer": last["words"], "answered_by": last["author"], "answered": last["made"]}
    return values


def _since(kept: Query, one: Came, closer: str) -> dict[str, Any]:
    """What of it is otherwise now: what was said elsewhere and is not here, and the state with it; closed by a
    `closer`, where there is one."""
    there = {(s["words"], s["author"]) for s in kept.said} | {(kept.answer, kept.answered_by)}
    new = [dict(s) for s in one.said if (s["words"], s["author"]) not in there and s["words"]]
    values: dict[str, Any] = {"said": [*kept.said, *new]} if new else {}
    if answers := [s for s in new if s["what"] == "answered"]:
        last = answers[-1]
        values |= {"answer": last["words"], "answered_by": last["author"], "answered": last["made"]}
        values |= {"state": ANSWERED} if kept.state == OPEN else {}
    if STATES.index(one.state) > STATES.index(values.get("state", kept.state)):
        if one.state != CLOSED:
            values["state"] = one.state
        elif closer:
            values |= {"state": CLOSED, "closed_by": closer, "closed": now()}
    return values
