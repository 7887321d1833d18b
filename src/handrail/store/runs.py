"""Runs: their records, their progress, and what becomes of one that was killed."""

from __future__ import annotations

from typing import Any

from handrail.store.database import writing
from handrail.store.models import Job, Run, now

OPEN = ("queued", "running")


def add(job: Job, mode: str, where: str, author: str) -> tuple[Run, bool]:
    """A new run and True; or the one of this job that is waiting or under way, and False. However many ask at once, one is made."""
    with writing():
        busy = Run.get_or_none((Run.job == job) & Run.state.in_(OPEN))
        return (busy, False) if busy else (Run.create(job=job, mode=mode, where=where, author=author), True)


def waiting() -> list[int]:
    """Runs that were accepted and have not begun."""
    return [r.id for r in Run.select(Run.id).where(Run.state == "queued").order_by(Run.id)]


def start(run_id: int, total: int) -> None:
    with writing():
        Run.update(state="running", total=total).where(Run.id == run_id).execute()


def progress(run_id: int, done: int) -> bool:
    """Note how far a run is; False where somebody asked it to stop."""
    with writing():
        Run.update(done=done).where(Run.id == run_id).execute()
    return not Run.get_by_id(run_id).cancel


def ask_to_stop(run: Run) -> None:
    with writing():
        Run.update(cancel=True).where(Run.id == run.id).execute()
        Run.update(state="cancelled", finished=now()).where((Run.id == run.id) & (Run.state == "queued")).execute()


def finish(run_id: int, state: str, message: str = "", counts: dict[str, int] | None = None) -> None:
    """Inside the caller's transaction, so that results and the word that they are there go together."""
    Run.update(state=state, message=message, counts=counts or {}, finished=now()).where(Run.id == run_id).execute()


def interrupt_left_over() -> int:
    """Runs that were under way when the service was killed: nothing of them was kept."""
    with writing():
        return (
            Run.update(state="interrupted", message="the service stopped during this run; nothing was kept, start it again", finished=now())
            .where(Run.state == "running")
            .execute()
        )


def as_dict(run: Run) -> dict[str, Any]:
    names = ("id", "mode", "where", "state", "total", "done", "counts", "message", "author", "made", "finished")
    return {name: getattr(run, name) for name in names}
