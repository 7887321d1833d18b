"""What happens to connections beside decisions on their sizes: comments, tags, who works on them, releases. They follow
the member's end."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from handrail.core.building.nearest import nearest
from handrail.store import bulk
from handrail.store.database import rows
from handrail.store.models import Connection, Event, Job, now

NOTE = "note to the shop"


def add(job: Job, said: Iterable[tuple[str, str, str]], author: str) -> None:
    """(connection, kind, words) of each. Inside the caller's transaction."""
    events = list(said)
    places = _places(job, {key for key, _, _ in events})
    made, ((after,),) = now(), rows("SELECT coalesce(max(number), 0) FROM ledger WHERE job_id = ?", job.id)
    of = {"job": job.id, "author": author, "made": made, "after": after}
    bulk.insert(
        Event,
        (
            of | {"connection": key, "kind": kind, "words": words, "place": places.get(key), "sealed": kind != "fell"}
            for key, kind, words in events
        ),
    )


def notes(job: Job) -> dict[str, str]:
    """connection -> its note to the shop, the last that was said of it."""
    said = rows(
        "SELECT connection, words FROM event WHERE job_id = ? AND kind = ? AND NOT gone ORDER BY id", job.id, NOTE
    )
    return {key: words for key, words in dict(said).items() if words}


def _places(job: Job, keys: set[str]) -> dict[str, list[float] | None]:
    by_key: dict[str, list[float] | None] = {}
    wanted = sorted(keys)
    for start in range(0, len(wanted), 500):
        some = (Connection.job == job) & Connection.key.in_(wanted[start : start + 500])
        by_key |= {
            key: facts.get("place")
            for key, facts in Connection.select(Connection.key, Connection.facts).where(some).tuples()
        }
    return by_key


def follow(job: Job, moved: dict[str, str], names: dict[str, list[float]], within: float) -> None:
    """After a revision: events go where their member's end is called now (`moved`, old name to new); those of one that
    is gone wait until one stands at its place again (`names` gives where each stands), within that distance (mm).
    Inside the caller's transaction."""
    if not Event.select(Event.id).where(Event.job == job).exists():
        return
    events = list(Event.select(Event.id, Event.connection, Event.place, Event.gone).where(Event.job == job).tuples())
    there = _there({tuple(place) for _, _, place, gone in events if gone and place}, names, within)
    changed: dict[tuple[str, bool], list[int]] = {}
    for number, key, place, gone in events:
        name = moved.get(key) if not gone else there.get(tuple(place)) if place else None
        if (name or key, name is None) != (key, gone):
            changed.setdefault((name or key, name is None), []).append(number)
    for (name, gone), ids in changed.items():
        for start in range(0, len(ids), 500):
            Event.update(connection=name, gone=gone).where(Event.id.in_(ids[start : start + 500])).execute()


def _there(
    waiting: set[tuple[float, ...]], names: dict[str, list[float]], within: float
) -> dict[tuple[float, ...], str]:
    """place -> the connection that stands there, of those that events wait for."""
    places, keys = sorted(waiting), list(names)
    pairs = nearest(
        np.array(places, float).reshape(-1, 6), np.array([names[k] for k in keys], float).reshape(-1, 6), within
    )
    return {places[a]: keys[b] for a, b in pairs.items()}
