"""Overrides and the ledger of what became of them."""

from __future__ import annotations

from collections import Counter
from typing import Any

from handrail.store.database import rows
from handrail.store.jobs import move
from handrail.store.models import Connection, Job, Ledger, Override, now

HOLDING = ("awaiting", "accepted")
FRAMED = ("framing", "support")  # parameters that correct how a connection is framed, not a size of it
NEAR = 1.0  # mm


def holding(job: Job, only: list[str] | None = None) -> dict[str, dict[str, Any]]:
    """connection -> parameter -> value of every size's override that holds (of the connections `only`), where its member's end stands
    where it stood."""
    found: dict[str, dict[str, Any]] = {}
    for row in _standing(job, only):
        if row.parameter not in FRAMED:
            found.setdefault(row.connection, {})[row.parameter] = row.value
    return found


def framed(job: Job) -> list[Override]:
    """The corrections of framing that hold and stand on a connection now."""
    if not rows("SELECT 1 FROM override WHERE job_id = ? AND parameter IN ('framing', 'support') LIMIT 1", job.id):
        return []
    return [row for row in _standing(job) if row.parameter in FRAMED]


def at_place(one: list[float] | None, other: list[float] | None) -> bool:
    """Whether two places are the same end of the same member; one that was never kept is taken by its name."""
    return one is None or other is None or max(abs(a - b) for a, b in zip(one, other, strict=True)) <= NEAR


def applied(job: Job) -> set[int]:
    """Ids of the overrides that hold and stand on a connection now."""
    return {row.id for row in _standing(job)}


def _standing(job: Job, only: list[str] | None = None) -> list[Override]:
    marks = ", ".join("?" * len(only or ()))
    own = f" AND connection IN ({marks})" if only else ""
    if not rows(f"SELECT 1 FROM override WHERE job_id = ?{own} LIMIT 1", job.id, *(only or ())):
        return []
    some = [Override.connection.in_(only)] if only else []
    held = list(Override.select().where((Override.job == job) & Override.state.in_(HOLDING), *some).order_by(Override.id))
    places = _places(job, {row.connection for row in held})
    return [row for row in held if row.connection in places and at_place(row.place, places[row.connection])]


def _places(job: Job, keys: set[str]) -> dict[str, list[float] | None]:
    """Where the member's ends of these connections stand."""
    wanted, found = sorted(keys), {}
    for start in range(0, len(wanted), 500):
        some = Connection.key.in_(wanted[start : start + 500])
        for key, facts in Connection.select(Connection.key, Connection.facts).where((Connection.job == job) & some).tuples():
            found[key] = facts.get("place")
    return found


def follow(job: Job, moved: dict[str, tuple[str, list[float]]], names: dict[str, list[float]], stood: set[int], author: str) -> None:
    """After a revision: overrides go where their member's end is called now. Inside the caller's transaction.

    `moved` gives the new name and place of each connection that was there before and still is, `names` the place of every one that
    there is now, `stood` what was `applied` before. One whose end stands elsewhere under the same name asks to be looked at again;
    one whose member is gone waits, not applied and not counted, until it is back where it was.
    """
    for row in Override.select().where((Override.job == job) & Override.state.in_(HOLDING)):
        name, place = moved.get(row.connection, (None, None)) if row.id in stood else (_back(row, names), row.place)
        if name is None:
            other = row.connection in names
            words = f"another member is called {row.connection} now" if other else f"{row.connection} is not in this revision"
            if row.id in stood or other:
                _say(row, "waits", f"{words}: the override is not applied", author)
            continue
        if name != row.connection:
            _say(row, "moved", f"its member's end is called {name} now, {row.connection} before", author, name)
        elif place and not at_place(row.place, place):
            _say(row, "look", f"{name} stands elsewhere in this revision: look at it again", author)
        elif row.id not in stood:
            _say(row, "back", f"{name} is where it was: the override is applied again", author)
        Override.update(connection=name, place=place or row.place).where(Override.id == row.id).execute()
    for key, number in Counter(row.connection for row in _standing(job)).items():
        Connection.update(overridden=number).where((Connection.job == job) & (Connection.key == key)).execute()


def now_called(job: Job, moved: dict[str, str], names: dict[str, list[float]]) -> list[tuple[Override, str]]:
    """Every correction of framing that will hold after a revision, with what its connection is called then; `moved` as old name to new."""
    stood = applied(job)
    rows = Override.select().where((Override.job == job) & Override.state.in_(HOLDING) & Override.parameter.in_(FRAMED)).order_by(Override.id)
    found = ((row, moved.get(row.connection) if row.id in stood else _back(row, names)) for row in rows)
    return [(row, name) for row, name in found if name is not None]


def say_unfit(row: Override, name: str, why: str, author: str) -> None:
    """A correction cannot be applied in a new revision. Inside the caller's transaction."""
    _say(row, "look", f"it cannot be applied in this revision: {why}", author, name)


def _back(row: Override, names: dict[str, list[float]]) -> str | None:
    """The connection that stands where a waiting override was made; by its name where its place was never kept."""
    if row.place is None:
        return row.connection if row.connection in names else None
    here = [key for key, place in names.items() if place and at_place(row.place, place)]
    return row.connection if row.connection in here else (here or [None])[0]


def _say(row: Override, event: str, words: str, author: str, connection: str = "") -> None:
    Ledger.create(job=row.job_id, override=row, connection=connection or row.connection, event=event,
                  words=f"{row.parameter}: {words}", author=author)  # fmt: skip


def keep(job: Job, connection: str, parameter: str, value: Any, shown: str, reason: str, author: str, before: Any, after: Any,
         partner: str = "") -> tuple[Override, list[int]]:  # fmt: skip
    """A new override and the ids of those that it replaces: one on the same parameter that still holds, also that of a `partner` that shares
    it. Inside the caller's transaction."""
    own, theirs = _held(job, connection, parameter), _held(job, partner, parameter) if partner else []
    for old in own:
        _end(old, "cleared", "replaced by a new value", author)
    for old in theirs:
        _end(old, "cleared", f"replaced by a new value on {connection}, which shares it", author)
        _count(job, partner)
    facts = Connection.select(Connection.facts).where((Connection.job == job) & (Connection.key == connection)).scalar() or {}
    made = Override.create(job=job, place=facts.get("place"), connection=connection, parameter=parameter, value=value, shown=shown, reason=reason,
                           author=author, before=before, after=after)  # fmt: skip
    Ledger.create(job=job, override=made, connection=connection, event="set", words=f"{parameter} = {shown}: {reason}", author=author)
    _count(job, connection)
    return made, [old.id for old in (*own, *theirs)]


def clear(job: Job, override: Override, reason: str, author: str) -> bool:
    """End an override; False where somebody ended it before. Inside the caller's transaction."""
    if Override.select(Override.state).where(Override.id == override.id).scalar() not in HOLDING:
        return False
    _end(override, "cleared", reason, author)
    _count(job, override.connection)
    return True


def _end(override: Override, state: str, words: str, author: str) -> None:
    Override.update(state=state).where(Override.id == override.id).execute()
    Ledger.create(job=override.job_id, override=override, connection=override.connection, event=state,
                  words=f"{override.parameter}: {words}", author=author, made=now())  # fmt: skip


def _held(job: Job, connection: str, parameter: str) -> list[Override]:
    return list(Override.select().where((Override.job == job) & (Override.connection == connection)
                                        & (Override.parameter == parameter) & Override.state.in_(HOLDING)))  # fmt: skip


def _count(job: Job, connection: str) -> None:
    move(job.id)
    n = Override.select().where((Override.job == job) & (Override.connection == connection) & Override.state.in_(HOLDING)).count()
    Connection.update(overridden=n).where((Connection.job == job) & (Connection.key == connection)).execute()


def listed(job: Job, connection: str | None = None, state: str | None = None) -> list[Override]:
    if connection and not rows("SELECT 1 FROM override WHERE job_id = ? AND connection = ? LIMIT 1", job.id, connection):
        return []
    query = Override.select().where(Override.job == job)
    if connection:
        query = query.where(Override.connection == connection)
    if state:
        query = query.where(Override.state == state)
    return list(query.order_by(Override.id.desc()))


def history(job: Job, connection: str) -> list[Ledger]:
    return list(Ledger.raw("SELECT * FROM ledger WHERE job_id = ? AND connection = ? ORDER BY id", job.id, connection))
