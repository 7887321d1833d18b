"""The queue of runs and its one task, the same for the server that fills it and the worker that empties it."""

from __future__ import annotations

from pathlib import Path

from huey import SqliteHuey

QUEUE = "queue.sqlite"
RECORDS = "records.sqlite"


def queue(home: Path) -> SqliteHuey:
    """The queue of runs in `home`, with its one task."""
    found = SqliteHuey(name="handrail", filename=str(home / QUEUE), fsync=True)

    @found.task(name="run")
    def run(run_id: int) -> None:
        from handrail.service.running import do_run
        from handrail.store.database import proxy

        with proxy.connection_context():
            do_run(run_id)

    found.enqueue_run = run  # type: ignore[attr-defined]
    return found
