"""Runs and imports as records: asked for, and as they are shown."""

from __future__ import annotations

import json
import zlib
from typing import Any

from handrail.store import works
from handrail.store.database import writing
from handrail.store.models import Import, Job, Run, RunChanges

KEPT = 20  # runs of a job whose changes are kept


def add(
    job: Job, mode: str, where: str, author: str, combination_set: str = "", only: list[str] | None = None
) -> tuple[Run, bool]:
    """A new run and True; or the one of this job that is waiting or under way, and False. However many ask at once, one
    is made."""
    with writing():
        works.give_up_lapsed()
        busy = Run.get_or_none((Run.job == job) & Run.state.in_(works.OPEN))
        if busy:
            return busy, False
        by = {"combination_set": combination_set or job.combination_set, "only": only or []}
        return Run.create(job=job, mode=mode, where=where, author=author, **by), True


def add_import(job: Job, file: str, name: str, author: str, column_map: str = "", held: bool = False) -> Import:
    """A model that was sent whole, waiting to be read, or `held` until it was looked at. Those of a job are read in the
    order in which they came."""
    with writing():
        return Import.create(
            job=job, file=file, name=name, author=author, column_map=column_map, state=works.HELD if held else "queued"
        )


def set_map(one: Import, column_map: str) -> bool:
    """Another map for an import that is held; False where it is not held any more."""
    with writing():
        return bool(
            Import.update(column_map=column_map).where((Import.id == one.id) & (Import.state == works.HELD)).execute()
        )


def confirm(one: Import) -> bool:
    """An import that was held is taken in next; False where it is not held any more."""
    with writing():
        return bool(Import.update(state="queued").where((Import.id == one.id) & (Import.state == works.HELD)).execute())


def as_dict(run: Run) -> dict[str, Any]:
    """A run as it is shown."""
    names = (
        "id",
        "mode",
        "where",
        "combination_set",
        "only",
        "found",
        "total",
        "done",
        "counts",
        "changed",
        "fresh",
        "shifted",
        "author",
        "made",
        "finished",
    )
    state, message = works.state_of(run)
    return {name: getattr(run, name) for name in names} | {
        "state": state,
        "message": message,
        "left": works.time_left(run),
    }


def packed(changes: list[dict[str, Any]]) -> bytes:
    """What a run changed, as it is kept: made outside any lock."""
    return zlib.compress(json.dumps(changes, separators=(",", ":")).encode(), 1)


def keep_changes(run: Run, changes: bytes) -> None:
    """What a run changed; those of the job's older runs go. Inside the transaction that ends it."""
    RunChanges.insert(run=run.id, packed=changes).on_conflict_replace().execute()
    older = Run.select(Run.id).where(Run.job == run.job_id).order_by(Run.id.desc()).offset(KEPT)
    RunChanges.delete().where(RunChanges.run.in_([r.id for r in older])).execute()


def changes_of(run: Run) -> list[dict[str, Any]] | None:
    """What a run changed; None where that is not kept any more."""
    kept = RunChanges.get_or_none(RunChanges.run == run.id)
    if kept is None:
        return None
    return json.loads(zlib.decompress(kept.packed)) if kept.packed else kept.data


def import_as_dict(one: Import) -> dict[str, Any]:
    """An import as it is shown."""
    names = ("id", "name", "total", "done", "problems", "revision", "author", "made", "finished")
    state, message = works.state_of(one)
    return {name: getattr(one, name) for name in names} | {"state": state, "message": message}
