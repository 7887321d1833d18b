"""The decisions of a job as the Ledger lists them: filtered, with how their connections stand, and what is left to
do."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from typing import Any

from handrail.core.errors import InputError
from handrail.service.application import present
from handrail.service.application.patterns import connections_of
from handrail.store import attachments, listing, overrides
from handrail.store.database import rows
from handrail.store.models import Job, Override

STATES = ("awaiting", "accepted", "returned", "cleared")


def _is(state: str, o: Override) -> bool:
    return bool(o.state == state)


ASKED: dict[str, Callable[[Override], bool]] = {
    "holding": lambda o: o.state in overrides.HOLDING,
    "look": lambda o: o.state in overrides.HOLDING and bool(o.look),
    **{state: partial(_is, state) for state in STATES},
}


@dataclass(frozen=True, kw_only=True)
class Wanted:
    """Which decisions, and which page of them: everything said holds, and what is empty takes all."""

    state: str = ""
    author: str = ""
    cause: str = ""
    level: str = ""
    where: str = ""  # a filter on their connections
    connection: str = ""
    pattern: str = ""
    mark: str = ""
    limit: int = 5000
    cursor: int = 0


def listed(job: Job, query: Wanted) -> dict[str, Any]:
    """A page of decisions, newest first, with counts and the choices of each filter over the whole job. Raises
    InputError, Refused(404) of a pattern that there is not."""
    if query.state and query.state not in ASKED:
        raise InputError(f"state: '{query.state}' is none of {', '.join(ASKED)}")
    every = overrides.listed(job)
    where = {
        key: (level, section, status, use)
        for key, level, section, status, use in rows(
            "SELECT key, level, section, status, utilisation FROM connection WHERE job_id = ? AND key IN (SELECT"
            " connection FROM override WHERE job_id = ?)",
            job.id,
            job.id,
        )
    }
    on = _on(job, query)
    files = attachments.counts(job)

    def wanted(o: Override) -> bool:
        return (
            (not query.state or ASKED[query.state](o))
            and (not query.author or o.author == query.author)
            and (not query.cause or o.cause == query.cause)
            and (not query.connection or o.connection == query.connection)
            and (not query.level or where.get(o.connection, ("",))[0] == query.level)
            and (on is None or o.connection in on)
            and (not query.mark or (o.state in overrides.HOLDING and query.mark in present.marks_of(o)))
        )

    listed = [o for o in every if wanted(o)]
    page = listed[query.cursor : query.cursor + query.limit]
    after = query.cursor + query.limit
    return {
        "items": [present.override(o) | _beside(where.get(o.connection), files.get(o.id, 0)) for o in page],
        "total": len(listed),
        "next": after if after < len(listed) else None,
        "counts": counts(every),
        "authors": sorted({o.author for o in every}),
        "causes": sorted({o.cause for o in every if o.cause}),
        "levels": sorted({level for level, *_ in where.values() if level}),
    }


def _on(job: Job, query: Wanted) -> set[str] | None:
    """The connections on which decisions are asked for; None: on any."""
    asked = [set(listing.keys(job, query.where))] if query.where else []
    if query.pattern:
        asked.append(set(connections_of(job, query.pattern, None)))
    return set.intersection(*asked) if asked else None


def counts(every: list[Override]) -> dict[str, int]:
    """How many are in each state that leaves something to do."""
    return {
        "awaiting": sum(o.state == "awaiting" for o in every),
        "accepted": sum(o.state == "accepted" for o in every),
        "returned": sum(o.state == "returned" for o in every),
        "look": sum(ASKED["look"](o) for o in every),
    }


def _beside(at: tuple[str, str, str, float] | None, files: int) -> dict[str, Any]:
    level, section, status, use = at or ("", "", "", 0.0)
    return {"level": level, "section": section, "status": status, "utilisation": round(use, 6), "attachments": files}
