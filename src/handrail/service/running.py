"""Does a run: worked out outside, written in one transaction, and only against what it was worked out from."""

from __future__ import annotations

import time
from collections import Counter

from handrail.core.checking.plan import Plan
from handrail.core.errors import InputError
from handrail.service import standing
from handrail.service.plans import Seen, look_at, plan_of
from handrail.store import connections, jobs, listing, works
from handrail.store.database import rows, writing
from handrail.store.models import Job, Run

EVERY = 0.3  # seconds between words of progress


def do_run(run: Run) -> None:
    """Work out what is wanted; write what has not moved meanwhile; work out the rest again. Raises Lost where it was cancelled,
    InputError where the job cannot be run."""
    seen = look_at(run.job)
    wanted = _wanted(seen.job, run)
    left = wanted
    for attempt in range(standing.TRIES):
        if attempt:
            seen = look_at(run.job)
            wanted = _wanted(seen.job, run) if not run.where else wanted
        plan = plan_of(seen)
        stored = connections.stood_sizes(seen.job, left) if run.mode == "verify" else None
        families = plan.families(left, stored)
        works.progress(run, 0, sum(len(m) for m in families.values()))
        outcomes = dict(plan.batch(_Progress(run)).run(families))
        _refuse_wrong_method(plan)
        found = standing.results(seen, plan, outcomes, plan.grounds(left, stored), left)
        with writing():
            works.hold(run)
            now = look_at(run.job)
            if now.stamp != seen.stamp:  # everything moved
                left = wanted = _wanted(now.job, run) if not run.where else wanted
                continue
            moved = now.moved(seen) & left
            found.write(seen.job.id, left - moved)
            jobs.move(seen.job.id)
            left = moved
            if not left:
                works.finish(run, "done", counts=_counts(seen.job, wanted))
                return
    _give_up(run, seen, wanted, left)


def _give_up(run: Run, seen: Seen, wanted: set[str], left: set[str]) -> None:
    """What was changed again and again under the run is stale; it is said, and never passes."""
    with writing():
        works.hold(run)
        connections.mark_stale(seen.job, "it was changed again and again during a run", left)
        words = f"{len(left)} connections were changed again and again meanwhile and are stale"
        works.finish(run, "done", words, counts=_counts(seen.job, wanted))


def _wanted(job: Job, run: Run) -> set[str]:
    return listing.keys(job, run.where)


def _refuse_wrong_method(plan: Plan) -> None:
    if plan.acting.names:
        return
    other = {c.method for c in plan.building.combinations if c.set == "strength"} - {plan.code.method}
    has = f"it has {', '.join(sorted(other))}" if other else "it has none"
    raise InputError(
        f"the model has no strength combinations for {plan.code.method} ({has}); set the job's method to one that fits, or import combinations of this one"
    )


class _Progress:
    def __init__(self, run: Run) -> None:
        self.run, self.last = run, 0.0

    def __call__(self, done: int) -> None:
        if time.monotonic() - self.last < EVERY:
            return
        self.last = time.monotonic()
        works.progress(self.run, done)


def _counts(job: Job, wanted: set[str]) -> dict[str, int]:
    return dict(Counter(status for key, status in rows("SELECT key, status FROM connection WHERE job_id = ?", job.id) if key in wanted))
