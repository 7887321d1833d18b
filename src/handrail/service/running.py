"""Does a run: all of it is worked out first, then kept in one transaction."""

from __future__ import annotations

import logging
import time
from collections import Counter

from handrail.core.checking.batch import Cancelled, Outcome
from handrail.core.checking.plan import Plan
from handrail.core.errors import InputError
from handrail.service.plans import plan_for
from handrail.store import connections, runs
from handrail.store.database import writing
from handrail.store.models import Connection, Job, Run

log = logging.getLogger("handrail.run")
EVERY = 0.3  # seconds between words of progress


def do_run(run_id: int) -> None:
    """Run `run_id` to its end: done, cancelled or failed, said in its record."""
    run = Run.get_or_none(Run.id == run_id)
    if run is None or run.state != "queued":
        return
    try:
        _do(run, Job.get_by_id(run.job_id))
    except Cancelled:
        with writing():
            runs.finish(run_id, "cancelled", "stopped; nothing of it was kept")
    except InputError as exc:
        with writing():
            runs.finish(run_id, "failed", str(exc))
    except Exception as exc:
        log.exception("run %s failed", run_id)
        with writing():
            runs.finish(run_id, "failed", f"unexpected error ({type(exc).__name__}); nothing was kept, the log has it")


def _do(run: Run, job: Job) -> None:
    plan = plan_for(job)
    wanted = {key for (key,) in connections.select(job, run.where).select(Connection.key).tuples()}
    stored = None
    if run.mode == "verify":
        stored = {c.key: connections.sizes_of(c) for c in connections.select(job, run.where) if c.sizes}
    families = plan.families(wanted, stored)
    runs.start(run.id, sum(len(m) for m in families.values()))
    outcomes = dict(plan.batch(_Progress(run.id)).run(families))
    _refuse_wrong_method(plan)
    with writing():
        connections.write_outcomes(job, _rows(plan, outcomes))
        connections.write_unassigned(job, _without(plan, outcomes, wanted))
        runs.finish(run.id, "done", counts=_counts(job, wanted))


def _refuse_wrong_method(plan: Plan) -> None:
    if plan.acting.names:
        return
    other = {c.method for c in plan.building.combinations if c.set == "strength"} - {plan.code.method}
    has = f"it has {', '.join(sorted(other))}" if other else "it has none"
    raise InputError(
        f"the model has no strength combinations for {plan.code.method} ({has}); set the job's method to one that fits, or import combinations of this one"
    )


class _Progress:
    def __init__(self, run_id: int) -> None:
        self.run_id, self.last = run_id, 0.0

    def __call__(self, done: int) -> None:
        if time.monotonic() - self.last < EVERY:
            return
        self.last = time.monotonic()
        if not runs.progress(self.run_id, done):
            raise Cancelled


def _rows(plan: Plan, outcomes: dict[int, Outcome]):  # type: ignore[no-untyped-def]
    for k, outcome in outcomes.items():
        assigned = plan.assigned[k]
        rule = assigned.rule
        yield assigned.connection.id, rule.use, rule.name, outcome, plan.digest(assigned, outcome)


def _without(plan: Plan, outcomes: dict[int, Outcome], wanted: set[str]):  # type: ignore[no-untyped-def]
    for k, assigned in enumerate(plan.assigned):
        if k not in outcomes and assigned.connection.id in wanted:
            yield assigned.connection.id, assigned.status, assigned.reason, assigned.rule.name if assigned.rule else ""


def _counts(job: Job, wanted: set[str]) -> dict[str, int]:
    found = Connection.select(Connection.key, Connection.status).where(Connection.job == job)
    return dict(Counter(c.status for c in found if c.key in wanted))
