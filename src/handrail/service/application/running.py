"""Does a run: worked out outside, written in one transaction, and only against what it was worked out from."""

from __future__ import annotations

import time
from collections import Counter
from dataclasses import dataclass, field
from typing import Any

from handrail.core.building.combining import Chosen
from handrail.core.checking.batch import Outcome
from handrail.core.checking.coverage import Stands, after
from handrail.core.checking.digests import grounds as grounds_of
from handrail.core.checking.plan import Plan
from handrail.core.checking.result import CEILING
from handrail.core.errors import InputError
from handrail.service.application import standing
from handrail.service.application.attempting import Overtaken, attempt
from handrail.service.application.plans import CORES, Seen, look_at, plan_of
from handrail.service.application.rulebooks import side, stands
from handrail.store import connections, jobs, listing, proving, runs, works
from handrail.store.database import rows, writing
from handrail.store.models import Job, Run

WORST = ("fail", "unchecked", "pass")
MOST_TOLD = 200
MOVED = 0.02  # of a utilisation
EVERY = 0.3  # seconds between words of progress


def do_run(run: Run) -> None:
    """Work out what is wanted; write what has not moved meanwhile; work out the rest again. Raises Lost where it was
    cancelled, InputError where the job cannot be run."""
    seen = look_at(run.job)
    wanted = _wanted(seen.job, run)
    if run.mode == "look":
        _look(run, seen, wanted)
        return
    changes = Changes()
    ahead = _Ahead(run, wanted, wanted, changes)
    try:
        attempt(run.job, ahead.work_out, _Worked.write, decided=False)
    except Overtaken:
        _give_up(run, seen, ahead.wanted, ahead.left, changes)


@dataclass
class _Ahead:
    """What a run still has to work out: `left` of what is `wanted`."""

    run: Run
    wanted: set[str]
    left: set[str]
    changes: Changes
    begun: bool = False

    def work_out(self) -> _Worked:
        """What is left, from how the job stands now."""
        run, seen = self.run, look_at(self.run.job)
        if self.begun and not run.where:
            self.wanted = _wanted(seen.job, run)
        self.begun = True
        before = stands(seen.job)
        plan = plan_of(seen).with_(cores=CORES)
        stored = connections.stood_sizes(seen.job, self.left) if run.mode == "verify" else None
        works.progress(run, 0, sum(len(m) for m in plan.families(self.left, stored).values()))
        outcomes = plan.work(self.left, stored, _Progress(run))
        _refuse_wrong_method(plan)
        results = standing.results(seen, plan, outcomes, grounds_of(plan, self.left, stored), self.left)
        return _Worked(self, seen, plan, before, outcomes, results)


@dataclass
class _Worked:
    """What a run found, and what it was found from."""

    ahead: _Ahead
    seen: Seen
    plan: Plan
    before: dict[str, Stands]
    outcomes: dict[int, Outcome]
    results: standing.Results
    now: Seen = field(init=False)

    @property
    def basis(self) -> _Worked:
        return self

    def stands(self) -> bool:
        """Whether all that it worked out may be written; else all is to be worked out again. Inside the transaction
        that writes."""
        works.hold(self.ahead.run)
        self.now = look_at(self.ahead.run.job)
        if self.now.stamp == self.seen.stamp:
            return True
        if not self.ahead.run.where:
            self.ahead.wanted = _wanted(self.now.job, self.ahead.run)
        self.ahead.left = self.ahead.wanted
        return False

    def write(self) -> bool | None:
        """What nobody decided about meanwhile; None where something is left."""
        ahead = self.ahead
        moved = self.plan.together(self.now.moved(self.seen)) & ahead.left
        self.results.write(self.seen.job.id, ahead.left - moved)
        ahead.changes.add(self.plan, self.before, self.outcomes, ahead.left - moved)
        jobs.move(self.seen.job.id)
        ahead.left = moved
        if moved:
            return None
        _finish(ahead.run, ahead.changes, counts=_counts(self.seen.job, ahead.wanted))
        return True


def _finish(run: Run, changes: Changes, message: str = "", **more: Any) -> None:
    """Its end, with what it changed. Inside the caller's transaction."""
    runs.keep_changes(
        run, [*changes.changed.values(), *(s for key, s in changes.shifted.items() if key not in changes.changed)]
    )
    told = {name: len(getattr(changes, name)) for name in ("changed", "fresh", "shifted")}
    keys = listing.keys(run.job, run.where) if run.where else None
    whole = keys is None
    if keys is None:
        keys = {key for (key,) in rows("SELECT key FROM connection WHERE job_id = ?", run.job_id)}
    proving.told(
        run.job_id,
        "run",
        f"run {run.id}, {run.mode}{f' where {run.where}' if run.where else ''}",
        run.author,
        run=run.id,
        whole=whole,
        keys=[] if whole else sorted(keys),
        results=proving.of_results(run.job_id, keys),
    )
    works.finish(run, "done", message, **told, **more)


class Changes:
    """What a run found otherwise, connection by connection: `changed` are other steel, another standard or judged
    otherwise; of the others `shifted` those whose utilisation moved by more than MOVED, and `fresh` those that were
    stale and are as they were."""

    def __init__(self) -> None:
        self.changed: dict[str, dict[str, Any]] = {}
        self.shifted: dict[str, dict[str, Any]] = {}
        self.fresh: set[str] = set()

    def add(self, plan: Plan, before: dict[str, Stands], outcomes: dict[int, Outcome], keys: set[str]) -> None:
        """What a plan made of `keys`, beside how they stood before."""
        system = plan.building.system
        for key in sorted(keys & before.keys() & plan.index.keys()):
            k, was = plan.index[key], before[key]
            now = after(plan.assigned[k], outcomes.get(k))
            sides = {"connection": key, "before": side(was, system), "after": side(now, system)}
            if not now.same(was):
                self.changed[key] = sides
                continue
            if abs(min(now.utilisation, CEILING) - min(was.utilisation, CEILING)) > MOVED:
                self.shifted[key] = sides
            if was.last:
                self.fresh.add(key)


def _look(run: Run, seen: Seen, wanted: set[str]) -> None:
    """Sizes as they stand under the combinations that were named; what comes out is told, and no result is touched by
    it."""
    plan = plan_of(seen).with_(chosen=Chosen(run.combination_set, frozenset(run.only), overstrength=False))
    _refuse_unformed(plan, run)
    stood = connections.stood_sizes(seen.job, wanted)
    families = plan.families(set(stood), stood)  # what has no sizes yet is not sized by a look
    works.progress(run, 0, sum(len(m) for m in families.values()))
    outcomes = {plan.assigned[k].connection.id: o for k, o in plan.batch(_Progress(run)).run(families)}
    counts = Counter(o.status for o in outcomes.values())
    bare = [a for a in plan.assigned if a.connection.id in wanted and a.connection.id not in outcomes]
    counts.update("unchecked" if a.rule else a.status for a in bare)
    worst = sorted(outcomes.items(), key=lambda item: (WORST.index(item[1].status), -item[1].utilisation))[:MOST_TOLD]
    shown = [
        {
            "connection": key,
            "status": o.status,
            "utilisation": min(o.utilisation, CEILING),
            "check": o.check,
            "clause": o.clause,
            "action": o.action,
            "reason": o.reason,
        }
        for key, o in worst
    ]
    names = f"{len(run.only)} of them" if run.only else "all of them"
    with writing():
        works.hold(run)
        works.finish(
            run,
            "done",
            f"looked at by combinations of set {run.combination_set}, {names}; no result was changed",
            counts=dict(counts),
            found=shown,
        )


def _refuse_unformed(plan: Plan, run: Run) -> None:
    """Raises InputError where nothing can be looked at by what was named."""
    if not plan.acting.names:
        missing = "; ".join(f"{name}: {why}" for name, why in plan.acting.strength.missing[:3])
        raise InputError(
            f"no combination of set {run.combination_set} and {plan.code.method} can be"
            f" formed{f' ({missing})' if missing else ''}"
        )


def _give_up(run: Run, seen: Seen, wanted: set[str], left: set[str], changes: Changes) -> None:
    """What was changed again and again under the run is stale; it is said, and never passes."""
    with writing():
        works.hold(run)
        connections.mark_stale(seen.job, "it was changed again and again during a run", left)
        words = f"{len(left)} connections were changed again and again meanwhile and are stale"
        _finish(run, changes, words, counts=_counts(seen.job, wanted))


def _wanted(job: Job, run: Run) -> set[str]:
    return listing.keys(job, run.where)


def _refuse_wrong_method(plan: Plan) -> None:
    if plan.acting.names:
        return
    wanted = plan.chosen.set
    other = {c.method for c in plan.building.combinations if c.set == wanted} - {plan.code.method}
    has = (
        f"it has {', '.join(sorted(other))}"
        if other
        else f"its sets are {', '.join(sorted({c.set for c in plan.building.combinations})) or 'none'}"
    )
    raise InputError(
        f"the model has no {wanted} combinations for {plan.code.method} ({has}); set the job's method or set to one"
        " that fits, or import combinations of this one"
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
    counts = Counter(
        status for key, status in rows("SELECT key, status FROM connection WHERE job_id = ?", job.id) if key in wanted
    )
    return dict(sorted(counts.items()))
