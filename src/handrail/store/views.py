"""Ways to look at the table of connections that people keep: filter, order, columns, grouping."""

from __future__ import annotations

from typing import Any

from handrail.core.errors import InputError
from handrail.store.database import writing
from handrail.store.models import Job, View

LONGEST, MOST = 60, 100


def listed(job: Job) -> list[dict[str, Any]]:
    """Every view of a job, by name."""
    return [
        {"name": v.name, "author": v.author, "made": v.made, **v.asks}
        for v in View.select().where(View.job == job).order_by(View.name)
    ]


def put(job: Job, name: str, asks: dict[str, Any], author: str) -> None:
    """Keep a view, in place of one of the same name. Raises InputError."""
    name = name.strip()
    if not 0 < len(name) <= LONGEST or not name.isprintable():
        raise InputError(f"name: a view has a name of 1 to {LONGEST} characters that can be seen")
    with writing():
        if View.select().where(View.job == job).count() >= MOST:
            raise InputError(f"job '{job.name}' has {MOST} views; take one away first")
        View.delete().where((View.job == job) & (View.name == name)).execute()
        View.create(job=job, name=name, asks=asks, author=author)


def drop(job: Job, name: str) -> bool:
    """Take a view away; False where it is not there."""
    with writing():
        return bool(View.delete().where((View.job == job) & (View.name == name)).execute())
