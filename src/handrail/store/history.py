"""What happened to a connection: decisions from the ledger, and comments, tags and releases, in the order of time."""

from __future__ import annotations

from typing import Any

from handrail.store import ledger
from handrail.store.database import rows
from handrail.store.models import Job

QUIET = ("stands", "followed")  # what only the ledger tells
_EVENTS = (
    "SELECT kind, words, author, made, after FROM event WHERE job_id = ? AND connection = ? AND NOT gone ORDER BY id"
)


def of_connection(job: Job, key: str) -> list[dict[str, Any]]:
    """Every event, the first first."""
    decided = [
        (e["number"], {name: e[name] for name in ("event", "words", "author", "made", "override")})
        for e in ledger.of_connection(job, key)
        if e["event"] not in QUIET
    ]
    happened = [
        (after + 0.5, {"event": kind, "words": words, "author": author, "made": made, "override": None})
        for kind, words, author, made, after in rows(_EVENTS, job.id, key)
    ]
    return [event for _, event in sorted([*decided, *happened], key=lambda one: one[0])]
