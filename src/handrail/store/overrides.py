"""Overrides and the ledger of what became of them."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from handrail.store import ledger, sheets
from handrail.store.database import proxy, rows
from handrail.store.jobs import move
from handrail.store.models import Connection, ConnectionRow, Job, Override, now

HOLDING = ("awaiting", "accepted")
FRAMED = ("framing", "support")  # parameters that correct how a connection is framed, not a size of it
NEAR = 1.0  # mm
ASKS = "what it was said of has changed, look at it again: "  # before the reason of a connection that is elsewhere
Held = dict[str, dict[str, Any]]  # connection -> parameter -> value


def holding(job: Job, only: list[str] | None = None) -> dict[str, dict[str, Any]]:
    """connection -> parameter -> value of every size's override that holds (of the connections `only`), where its
    member's end stands where it stood."""
    by_connection: dict[str, dict[str, Any]] = {}
    for row in _standing(job, only):
        if row.parameter not in FRAMED:
            by_connection.setdefault(row.connection, {})[row.parameter] = row.value
    return by_connection


def framed(job: Job) -> list[Override]:
    """The corrections of framing that hold and stand on a connection now."""
    if not rows("SELECT 1 FROM override WHERE job_id = ? AND parameter IN ('framing', 'support') LIMIT 1", job.id):
        return []
    return [row for row in _standing(job) if row.parameter in FRAMED]


def at_place(one: list[float] | None, other: list[float] | None, within: float = NEAR) -> bool:
    """Whether two places are the same end of the same member; one that was never kept is taken by its name."""
    return (
        one is None
        or other is None
        or max(math.dist(a, b) for a, b in zip(_points(one), _points(other), strict=True)) <= within
    )


def _points(place: list[float]) -> list[list[float]]:
    return [place[:3], place[3:]]


def applied(job: Job) -> set[int]:
    """Ids of the overrides that hold and stand on a connection now."""
    return {row.id for row in _standing(job)}


def _standing(job: Job, only: list[str] | None = None) -> list[Override]:
    marks = ", ".join("?" * len(only or ()))
    own = f" AND connection IN ({marks})" if only else ""
    if not rows(f"SELECT 1 FROM override WHERE job_id = ?{own} LIMIT 1", job.id, *(only or ())):
        return []
    some = [Override.connection.in_(only)] if only else []
    held = list(
        Override.select().where((Override.job == job) & Override.state.in_(HOLDING), *some).order_by(Override.id)
    )
    places = _places(job, {row.connection for row in held})
    return [row for row in held if row.connection in places and at_place(row.place, places[row.connection])]


def _places(job: Job, keys: set[str]) -> dict[str, list[float] | None]:
    """Where the member's ends of these connections stand."""
    wanted, by_key = sorted(keys), {}
    for start in range(0, len(wanted), 500):
        some = Connection.key.in_(wanted[start : start + 500])
        for key, facts in (
            Connection.select(Connection.key, Connection.facts).where((Connection.job == job) & some).tuples()
        ):
            by_key[key] = facts.get("place")
    return by_key


def follow(
    job: Job,
    moved: dict[str, tuple[str, list[float]]],
    names: dict[str, list[float]],
    stood: set[int],
    author: str,
    within: float,
) -> None:
    """After a revision: overrides go where their member's end is called now. Inside the caller's transaction.

    `moved` gives the new name and place of each connection that was there before and still is, `names` the place of
    every one that there is now, `stood` what was `applied` before. One whose end stands elsewhere (not `within` mm)
    under the same name asks to be looked at again; one whose member is gone waits, not applied and not counted, until
    it is back where it was."""
    _follow_ended(job, moved, names, within)
    for row in Override.select().where((Override.job == job) & Override.state.in_(HOLDING)):
        name, place = (
            moved.get(row.connection, (None, None))
            if row.id in stood
            else (back := _back(row, names, within), names.get(back or ""))
        )
        if name is None:
            other = row.connection in names
            words = (
                f"another member is called {row.connection} now"
                if other
                else f"{row.connection} is not in this revision"
            )
            if row.id in stood or other:
                _say(row, "waits", f"{words}: the override is not applied", author)
            continue
        Override.update(connection=name, place=place or row.place).where(Override.id == row.id).execute()
        if name != row.connection:
            _say(row, "moved", f"its member's end is called {name} now, {row.connection} before", author, name)
        elif place and not at_place(row.place, place, within):
            _say(row, "look", f"{name} stands elsewhere in this revision: look at it again", author)
        elif row.id not in stood:
            _say(row, "back", f"{name} is where it was: the override is applied again", author)
        elif place and place != row.place:
            _say(row, "followed", "its member's end stands a little aside of where it stood", author)
    for key, number in Counter(row.connection for row in _standing(job)).items():
        ConnectionRow.update(overridden=number).where(sheets.standing(job) & (ConnectionRow.key == key)).execute()


def _follow_ended(
    job: Job, moved: dict[str, tuple[str, list[float]]], names: dict[str, list[float]], within: float
) -> None:
    """Those that ended are of the history of their member's end: it is told under the name that this has now."""
    for row in Override.select(Override.id, Override.connection, Override.place).where(
        (Override.job == job) & Override.state.not_in(HOLDING)
    ):
        name = moved[row.connection][0] if row.connection in moved else _back(row, names, within)
        if name is not None and name != row.connection:
            Override.update(connection=name).where(Override.id == row.id).execute()


def now_called(
    job: Job, moved: dict[str, str], names: dict[str, list[float]], within: float, framed: bool = True
) -> list[tuple[Override, str]]:
    """Every correction of framing (or where not `framed` everything else) that will hold after a revision, with what
    its connection is called then; `moved` as old name to new."""
    stood = applied(job)
    which = Override.parameter.in_(FRAMED) if framed else Override.parameter.not_in(FRAMED)
    rows = Override.select().where((Override.job == job) & Override.state.in_(HOLDING) & which).order_by(Override.id)
    named = ((row, moved.get(row.connection) if row.id in stood else _back(row, names, within)) for row in rows)
    return [(row, name) for row, name in named if name is not None]


def say_unfit(row: Override, name: str, why: str, author: str) -> None:
    """A correction cannot be applied in a new revision. Inside the caller's transaction."""
    _say(row, "look", f"it cannot be applied in this revision: {why}", author, name)


def say_support(row: Override, name: str, member: str, author: str) -> None:
    """The member that a correction names as support is called otherwise. Inside the caller's transaction."""
    Override.update(value=row.value | {"member": member}).where(Override.id == row.id).execute()
    _say(row, "followed", f"its support is called {member} now, {row.value['member']} before", author, name)


def _back(row: Override, names: dict[str, list[float]], within: float) -> str | None:
    """The connection that stands where a waiting override was made; by its name where its place was never kept."""
    if row.place is None:
        return row.connection if row.connection in names else None
    here = [key for key, place in names.items() if place and at_place(row.place, place, within)]
    return row.connection if row.connection in here else next(iter(here), None)


def _say(row: Override, event: str, words: str, author: str, connection: str = "") -> None:
    ledger.append_one(
        row.job_id,
        override=row.id,
        connection=connection or row.connection,
        event=event,
        parameter=row.parameter,
        words=f"{row.parameter}: {words}",
        author=author,
    )


@dataclass(frozen=True)
class Decision:
    """An override as it is to be kept; `partners` share it, and lose their own on the same parameter."""

    connection: str
    parameter: str
    value: Any
    shown: str
    reason: str
    author: str
    before: Any
    after: Any
    partners: tuple[str, ...] = ()
    cause: str = ""
    grounds: dict[str, Any] | None = None


def keep(job: Job, decisions: Sequence[Decision]) -> list[tuple[int, list[int]]]:
    """New overrides: of each its id, and the ids of those that it replaces, which still held on the same parameter. One
    that takes the place of an accepted one names it. Inside the caller's transaction."""
    keys = {key for d in decisions for key in (d.connection, *d.partners)}
    held = _held(job, keys)
    places = _places(job, {d.connection for d in decisions})
    number = int(rows("SELECT coalesce(max(id), 0) FROM override")[0][0])
    made, entries, ready, gone = [], [], [], []
    for d in decisions:
        number += 1
        own, theirs = (
            held.pop((d.connection, d.parameter), []),
            [old for partner in d.partners for old in held.pop((partner, d.parameter), [])],
        )
        for old in own:
            entries.append(_entry(old, "cleared", "replaced by a new value", d.author))
        for old in theirs:
            entries.append(
                _entry(old, "cleared", f"replaced by a new value on {d.connection}, which shares it", d.author)
            )
        gone += [*own, *theirs]
        taken = (
            (old.id if old.state == "accepted" else old.replaces)
            for old in (*own, *theirs)
            if old.state == "accepted" or old.replaces
        )
        replaces = next(taken, None)
        ready.append(
            {
                "id": number,
                "job": job.id,
                "connection": d.connection,
                "parameter": d.parameter,
                "value": d.value,
                "shown": d.shown,
                "reason": d.reason,
                "author": d.author,
                "cause": d.cause,
                "before": d.before,
                "after": d.after,
                "grounds": d.grounds,
                "present": d.grounds,
                "replaces": replaces,
                "place": places.get(d.connection),
            }
        )
        said = ": ".join(words for words in (d.cause, d.reason) if words)
        entries.append(
            {
                "override": number,
                "connection": d.connection,
                "parameter": d.parameter,
                "event": "set",
                "author": d.author,
                "words": f"{d.parameter} = {d.shown}: {said}",
                "data": {
                    "value": d.shown,
                    "exact": d.value,
                    "reason": d.reason,
                    "cause": d.cause,
                    "before": d.before,
                    "after": d.after,
                    "grounds": d.grounds,
                },
            }
        )
        made.append((number, [old.id for old in (*own, *theirs)]))
    _set(gone, state="cleared")
    for start in range(0, len(ready), 100):
        Override.insert_many(ready[start : start + 100]).execute()
    ledger.append(job.id, entries)
    count(job, keys)
    _framed_anew(job, [d.parameter for d in decisions])
    return made


def end(job: Job, ended: Sequence[Override], state: str, words: str, author: str) -> list[Override]:
    """End overrides: `cleared` or `returned`, with what is said of it. The accepted ones whose place they took hold
    again, and are given back. Inside the caller's transaction, which has seen that they hold."""
    entries = [_entry(o, state, words, author) for o in ended]
    again = []
    for o in ended:
        for old in would_hold_again(job, [o]):
            if (
                not Override.select()
                .where(_on(job, old) & Override.state.in_(HOLDING) & (Override.id != o.id))
                .exists()
            ):
                again.append(old)
                entries.append(_entry(old, "again", f"holds again: what took its place was {state}", author))
    _set(ended, state=state, reviewer=author, reviewed=now(), word=words)
    _set(again, state="accepted")
    ledger.append(job.id, entries)
    count(job, {o.connection for o in (*ended, *again)})
    _framed_anew(job, [o.parameter for o in ended])
    return again


def _framed_anew(job: Job, parameters: list[str]) -> None:
    """Where a correction of framing was made or ended, what else was decided there may rest on other ground."""
    if set(parameters) & set(FRAMED):
        Job.update(look_due=True).where(Job.id == job.id).execute()


def would_hold_again(job: Job, ended: Sequence[Override]) -> list[Override]:
    """The accepted ones that would hold again if these ended."""
    wanted = [o.replaces for o in ended if o.replaces and o.state == "awaiting"]
    return (
        list(Override.select().where((Override.job == job) & Override.id.in_(wanted) & (Override.state == "cleared")))
        if wanted
        else []
    )


def after(
    held: Mapping[str, Mapping[str, Any]],
    ending: Sequence[Override],
    making: Sequence[Override] = (),
    again: Sequence[Override] = (),
) -> Held:
    """What holds after some end and others are made; those hold `again` whose place nothing has taken."""
    left = {key: dict(values) for key, values in held.items()}
    for o in ending:
        left.get(o.connection, {}).pop(o.parameter, None)
    for o in making:
        left.setdefault(o.connection, {})[o.parameter] = o.value
    for o in again:
        left.setdefault(o.connection, {}).setdefault(o.parameter, o.value)
    return {key: values for key, values in left.items() if values}


def accept(job: Job, decisions: Sequence[Override], words: str, author: str) -> None:
    """Accept overrides on what they rest on now. Inside the caller's transaction."""
    _set(decisions, state="accepted", reviewer=author, reviewed=now(), word=words)
    _stand_on_present(decisions)
    ledger.append(
        job.id, [_entry(o, "accepted", words, author, {"grounds": o.present or o.grounds}) for o in decisions]
    )
    move(job.id)


def confirm(job: Job, decisions: Sequence[Override], words: str, author: str) -> None:
    """Overrides that were looked at again stand on what there is now. Inside the caller's transaction."""
    _stand_on_present(decisions)
    ledger.append(
        job.id,
        [
            _entry(o, "confirmed", words, author, {"looked at": o.look, "grounds": o.present or o.grounds})
            for o in decisions
        ],
    )
    move(job.id)


def _stand_on_present(decisions: Sequence[Override]) -> None:
    for o in decisions:
        Override.update(grounds=o.present or o.grounds, look=[]).where(Override.id == o.id).execute()


def set_present(job: Job, decisions: Iterable[tuple[Override, dict[str, Any], list[str]]]) -> None:
    """What overrides rest on now, and what of it moved; new things to look at go into the ledger. Inside the caller's
    transaction."""
    entries = []
    for o, stands, look in decisions:
        values: dict[str, Any] = {"present": stands or None, "look": look} | (
            {"grounds": stands} if stands and not o.grounds else {}
        )
        Override.update(**values).where(Override.id == o.id).execute()
        if look and look != o.look:
            entries.append(_entry(o, "look", "; ".join(look), "", {"look": look}))
        elif look != o.look or "grounds" in values:
            words = "what it rests on is as it was" if o.look else "what it rests on is known now"
            entries.append(_entry(o, "stands", words, "", {"grounds": o.grounds or stands}))
    ledger.append(job.id, entries)
    if entries:
        move(job.id)


def rebase(job: Job, stands: Mapping[tuple[str, str], dict[str, Any]]) -> None:
    """What the overrides of a connection rest on after a person's decision there: none of them asks to be looked at for
    that; one that asks already is looked at anew. Inside the caller's transaction."""
    entries = []
    for own in _held(job, {key for key, _ in stands}).values():
        for o in own:
            now = stands.get((o.connection, o.parameter))
            if now is None or now == o.present:
                continue
            if o.look:
                Job.update(look_due=True).where(Job.id == job.id).execute()
            else:
                Override.update(present=now, grounds=now).where(Override.id == o.id).execute()
                entries.append(_entry(o, "stands", "on what there is after a decision here", "", {"grounds": now}))
    ledger.append(job.id, entries)


def _entry(o: Override, event: str, words: str, author: str, data: dict[str, Any] | None = None) -> dict[str, Any]:
    return {
        "override": o.id,
        "connection": o.connection,
        "parameter": o.parameter,
        "event": event,
        "words": f"{o.parameter} = {o.shown}: {words}",
        "author": author,
        "data": {"value": o.shown} | (data or {}),
    }


def _set(decisions: Sequence[Override], **values: Any) -> None:
    ids = [o.id for o in decisions]
    for start in range(0, len(ids), 500):
        Override.update(**values).where(Override.id.in_(ids[start : start + 500])).execute()


def _on(job: Job, o: Override) -> Any:
    return (Override.job == job) & (Override.connection == o.connection) & (Override.parameter == o.parameter)


def _held(job: Job, keys: set[str]) -> dict[tuple[str, str], list[Override]]:
    by_place: dict[tuple[str, str], list[Override]] = {}
    wanted = sorted(keys)
    for start in range(0, len(wanted), 500):
        own = (Override.job == job) & Override.state.in_(HOLDING) & Override.connection.in_(wanted[start : start + 500])
        for o in Override.select().where(own).order_by(Override.id):
            by_place.setdefault((o.connection, o.parameter), []).append(o)
    return by_place


def count(job: Job, keys: Iterable[str]) -> None:
    """How many overrides hold on each of these connections. Inside the caller's transaction."""
    move(job.id)
    wanted = sorted(keys)
    for start in range(0, len(wanted), 500):
        some = wanted[start : start + 500]
        marks = ", ".join("?" * len(some))
        proxy.execute_sql(
            "UPDATE connectionrow AS c SET overridden = (SELECT count(*) FROM override o WHERE o.job_id = c.job_id AND"
            " o.connection = c.key AND o.state IN ('awaiting', 'accepted')) WHERE job_id = ? AND sheet = (SELECT sheet"
            f" FROM job WHERE id = ?) AND key IN ({marks})",
            (job.id, job.id, *some),
        )


def hold_elsewhere(job: int) -> set[str]:
    """What is done by others is not done where it asks to be looked at again: unchecked until somebody confirms it. The
    connections of which somebody said so. Inside the caller's transaction."""
    asks = (
        "(SELECT o.connection FROM override o WHERE o.job_id = ? AND o.parameter = 'elsewhere' AND o.state IN"
        " ('awaiting', 'accepted') AND o.look != '[]')"
    )
    those = "WHERE job_id = ? AND sheet = (SELECT sheet FROM job WHERE id = ?)"
    proxy.execute_sql(
        "UPDATE connectionrow SET status = 'unchecked', asks = 1, reason = ? || reason, version = version + 1 "
        f"{those} AND status = 'elsewhere' AND key IN {asks}",
        (ASKS, job, job, job),
    )
    proxy.execute_sql(
        "UPDATE connectionrow SET status = 'elsewhere', asks = 0, reason = substr(reason, ?), version = version + 1 "
        f"{those} AND status = 'unchecked' AND asks AND key NOT IN {asks}",
        (len(ASKS) + 1, job, job, job),
    )
    said = "SELECT DISTINCT connection FROM override WHERE job_id = ? AND parameter = 'elsewhere'"
    return {key for (key,) in rows(said, job)}


def all_holding(job: Job) -> list[Override]:
    """Every override that holds, whether its connection is in the revision or not."""
    return list(Override.select().where((Override.job == job) & Override.state.in_(HOLDING)).order_by(Override.id))


def of_ids(ids: Sequence[int]) -> list[Override]:
    """Overrides in the order of `ids`, those that there are."""
    by_id: dict[int, Override] = {}
    for start in range(0, len(ids), 500):
        by_id |= {o.id: o for o in Override.select().where(Override.id.in_(ids[start : start + 500]))}
    return [by_id[k] for k in ids if k in by_id]


def listed(job: Job, connection: str | None = None, state: str | None = None) -> list[Override]:
    if connection and not rows(
        "SELECT 1 FROM override WHERE job_id = ? AND connection = ? LIMIT 1", job.id, connection
    ):
        return []
    query = Override.select().where(Override.job == job)
    if connection:
        query = query.where(Override.connection == connection)
    if state:
        query = query.where(Override.state == state)
    return list(query.order_by(Override.id.desc()))
