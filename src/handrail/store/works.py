"""Works: what waits, who has it, how far it is, and what becomes of one whose worker died. The records are the
queue."""

from __future__ import annotations

import time
from typing import Any

from peewee import fn

from handrail.store import alive
from handrail.store.database import rows, saying, writing
from handrail.store.models import Import, Job, Run, Work, now

KINDS: tuple[type[Work], ...] = (Import, Run)
OPEN = ("queued", "running")
HELD = "held"  # an import that somebody looks at before it is taken in
LEASE = 30.0  # seconds without a word from its worker
LONGEST = 600.0  # seconds after which one that lives and says nothing is taken for dead
MOST_TRIES = 3
DIED = "the service stopped during this, or its worker ended; nothing was kept, start it again"


_ANY = " UNION ALL ".join(
    f"SELECT 1 FROM \"{kind._meta.table_name}\" WHERE state = 'queued' OR (state = 'running' AND beat < ?)"
    for kind in KINDS
)


class Lost(Exception):
    """The work is not this worker's any more: cancelled, or taken for dead."""


def claim(owner: str) -> Work | None:
    """A work that waits, now `owner`'s: of the job that was served least lately, its oldest; of each kind one at a time
    for a job."""
    if not rows(_ANY, *[time.time() - LEASE] * len(KINDS)):
        return None
    with writing():
        give_up_lapsed()
        waiting = [taken for kind in KINDS if (taken := _next(kind)) is not None]
        if not waiting:
            return None
        taken = min(waiting, key=lambda work: (_served(work.job_id), KINDS.index(type(work))))
        taken.state, taken.owner, taken.beat, taken.tries, taken.started = (
            "running",
            owner,
            time.time(),
            taken.tries + 1,
            time.time(),
        )
        taken.save(only=("state", "owner", "beat", "tries", "started"))
        return taken


def _next(kind: type[Work]) -> Work | None:
    """The one of a kind whose turn it is."""
    busy = kind.select(kind.job).where(kind.state == "running")
    oldest = kind.select(fn.MIN(kind.id)).where((kind.state == "queued") & kind.job.not_in(busy)).group_by(kind.job)
    return min(kind.select().where(kind.id.in_(oldest)), key=lambda work: (_served(work.job_id), work.id), default=None)


def _served(job: int) -> float:
    """When a job's last work of any kind was taken (s)."""
    return max(kind.select(fn.MAX(kind.started)).where(kind.job == job).scalar() or 0.0 for kind in KINDS)


def beat(work: Work) -> None:
    """Say that the worker lives. Raises Lost."""
    with saying():
        if not type(work).update(beat=time.time()).where(_held(work)).execute():
            raise Lost


def progress(work: Work, done: int, total: int | None = None, message: str | None = None) -> None:
    """How far it is. Raises Lost."""
    values: dict[str, Any] = {"done": done, "beat": time.time()}
    values |= {"total": total} if total is not None else {}
    values |= {"message": message} if message is not None else {}
    with saying():
        if not type(work).update(**values).where(_held(work)).execute():
            raise Lost


def hold(work: Work) -> None:
    """Inside the transaction that writes what came out: raises Lost unless the work is still this worker's."""
    if not type(work).select().where(_held(work)).exists():
        raise Lost


def finish(work: Work, state: str, message: str = "", **more: Any) -> None:
    """Its end. Inside the caller's transaction, so that results and the word that they are there go together."""
    type(work).update(state=state, message=message, finished=now(), **more).where(_held(work)).execute()


def cancel(work: Work) -> None:
    """End it, whether it waits or is under way: whoever works at it finds out, and what it had is not kept."""
    with writing():
        ended = {"state": "cancelled", "finished": now(), "message": "stopped; nothing of it was kept"}
        type(work).update(**ended).where((type(work).id == work.id) & type(work).state.in_((*OPEN, HELD))).execute()


def release(owner: str | None = None) -> int:
    """The works of a worker that is gone, or of all: imports wait again, runs are `interrupted`. Inside the caller's
    transaction."""
    return sum(_give_up(kind, (kind.owner == owner) if owner is not None else (kind.id > 0)) for kind in KINDS)


def give_up_lapsed() -> int:
    """The works whose worker has not said a word for the lease. Inside the caller's transaction."""
    return sum(_give_up(kind, _lapsed(kind)) for kind in KINDS)


def _give_up(kind: type[Work], which: Any) -> int:
    running = (kind.state == "running") & which
    Job.update(copying=0).where(Job.id.in_(kind.select(kind.job).where(running)) & (Job.copying != 0)).execute()
    again = 0
    if kind is Import:  # what was sent is kept until it is read
        again = kind.update(state="queued", owner="", message="").where(running & (kind.tries < MOST_TRIES)).execute()
    return int(again + kind.update(state="interrupted", message=DIED, finished=now()).where(running).execute())


def _lapsed(kind: type[Work]) -> Any:
    silent = (kind.state == "running") & (kind.beat < time.time() - LEASE)
    dead = [work.id for work in kind.select(kind.id, kind.owner, kind.beat).where(silent) if _dead(work)]
    return kind.id.in_(dead)


def _dead(work: Work) -> bool:
    """Whether the worker of one that is running is gone. It may live and not be able to write that it does."""
    silent = time.time() - work.beat
    return silent > LEASE and (silent > LONGEST or not alive.lives(work.owner))


def _held(work: Work) -> Any:
    kind = type(work)
    return (kind.id == work.id) & (kind.state == "running") & (kind.owner == work.owner)


def time_left(work: Work) -> float | None:
    """Seconds that a running work will take yet, by how far it came in the time that it had; None where that is not
    known."""
    if work.state != "running" or not work.done or not work.started or work.done > work.total:
        return None
    return round((time.time() - work.started) / work.done * (work.total - work.done), 1)


def state_of(work: Work) -> tuple[str, str]:
    """(state, message) as they are to whoever asks: one whose lease is over is interrupted, though nobody wrote it
    yet."""
    if work.state == "running" and _dead(work):
        return "interrupted", DIED
    return work.state, work.message
