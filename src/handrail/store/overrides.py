"""Overrides and the ledger of what became of them."""

from __future__ import annotations

from typing import Any

from handrail.store.models import Connection, Job, Ledger, Override, now

HOLDING = ("awaiting", "accepted")


def holding(job: Job, connection: str | None = None) -> dict[str, dict[str, Any]]:
    """connection -> parameter -> value of every override that holds."""
    query = Override.select().where((Override.job == job) & Override.state.in_(HOLDING))
    if connection is not None:
        query = query.where(Override.connection == connection)
    found: dict[str, dict[str, Any]] = {}
    for row in query.order_by(Override.id):
        found.setdefault(row.connection, {})[row.parameter] = row.value
    return found


def keep(job: Job, connection: str, parameter: str, value: Any, shown: str, reason: str, author: str, before: Any, after: Any) -> Override:
    """A new override; one on the same parameter that still holds is replaced. Inside the caller's transaction."""
    for old in _held(job, connection, parameter):
        _end(old, "cleared", "replaced by a new value", author)
    made = Override.create(job=job, connection=connection, parameter=parameter, value=value, shown=shown, reason=reason,
                           author=author, before=before, after=after)  # fmt: skip
    Ledger.create(job=job, override=made, connection=connection, event="set", words=f"{parameter} = {shown}: {reason}", author=author)
    _count(job, connection)
    return made


def clear(job: Job, override: Override, reason: str, author: str) -> None:
    """End an override. Inside the caller's transaction."""
    _end(override, "cleared", reason, author)
    _count(job, override.connection)


def _end(override: Override, state: str, words: str, author: str) -> None:
    Override.update(state=state).where(Override.id == override.id).execute()
    Ledger.create(job=override.job_id, override=override, connection=override.connection, event=state,
                  words=f"{override.parameter}: {words}", author=author, made=now())  # fmt: skip


def _held(job: Job, connection: str, parameter: str) -> list[Override]:
    return list(Override.select().where((Override.job == job) & (Override.connection == connection)
                                        & (Override.parameter == parameter) & Override.state.in_(HOLDING)))  # fmt: skip


def _count(job: Job, connection: str) -> None:
    n = Override.select().where((Override.job == job) & (Override.connection == connection) & Override.state.in_(HOLDING)).count()
    Connection.update(overridden=n).where((Connection.job == job) & (Connection.key == connection)).execute()


def listed(job: Job, connection: str | None = None, state: str | None = None) -> list[Override]:
    query = Override.select().where(Override.job == job)
    if connection:
        query = query.where(Override.connection == connection)
    if state:
        query = query.where(Override.state == state)
    return list(query.order_by(Override.id.desc()))


def history(job: Job, connection: str) -> list[Ledger]:
    return list(Ledger.select().where((Ledger.job == job) & (Ledger.connection == connection)).order_by(Ledger.id))
