"""Does a run: worked out outside, written in one transaction, and only against what it was worked out from."""

from __future__ import annotations

import json
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
from handrail.store import connections, jobs, listing, overrides, proving, runs, works
from handrail.store.database import rows, writing
from handrail.store.models import Job, Run
from handrail.store.sheets import Overtaken as SheetOvertaken
from handrail.store.sheets import Sheet

WORST = ("fail", "unchecked", "pass")
MOST_TOLD = 200
MOVED = 0.02  # of a utilisation
MANY = 1000  # results that are prepared on a sheet of their own
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
        _give_up(run, seen, ahead, changes)
    finally:
        if ahead.sheet is not None:
            ahead.sheet.close()


@dataclass
class _Ahead:
    """What a run still has to work out: `left` of what is `wanted`."""

    run: Run
    wanted: set[str]
    left: set[str]
    changes: Changes
    begun: bool = False
    sheet: Sheet | None = None  # on which results were prepared

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
        outcomes = standing.work(seen, plan, self.left, stored, _Progress(run))
        _refuse_wrong_method(plan)
        results = standing.results(seen, plan, outcomes, grounds_of(plan, self.left, stored), self.left)
        mates = dict(results.mates.outcomes)
        others = {plan.assigned[k].connection.id for k in mates}
        found = Changes().of(plan, before, outcomes | mates, self.left | others)
        return _Worked(self, seen, plan, results, found, self._prepared(results), found.packed())

    def _prepared(self, results: standing.Results) -> _Aside | None:
        """Many results are prepared beside those that stand: in the order of work, so that nobody waits to write."""
        if self.sheet is not None:
            self.sheet.close()
        if len(self.left) < MANY:
            self.sheet = None
            return None
        job, told = self.run.job_id, _Progress(self.run, "writing down what came out")
        self.sheet = results.on_a_sheet(job, self.left, lambda: told(len(self.left)))
        self.sheet.fill(lambda: told(len(self.left)))
        return _Aside(self.sheet, proving.Seals().read(job, sheet=self.sheet.number))


@dataclass(frozen=True)
class _Aside:
    """Results as they are prepared, and their digests."""

    sheet: Sheet
    seals: proving.Seals

    def take_over(self, job: Job, without: set[str]) -> None:
        """Let them stand, but those `without`. Inside the caller's transaction. Raises sheets.Overtaken."""
        late = self.sheet.take_over(without)
        self.seals.read(job.id, late | overrides.hold_elsewhere(job.id))


@dataclass
class _Worked:
    """What a run found, and what it was found from."""

    ahead: _Ahead
    seen: Seen
    plan: Plan
    results: standing.Results
    found: Changes
    aside: _Aside | None
    packed: bytes  # of what was found, as it is kept where nothing is left
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
        job = self.seen.job
        said = self.plan.together(self.now.moved(self.seen)) | self.results.mates.moved(job)
        moved = self.plan.at_joint(said) & ahead.left
        if self.aside is None:
            self.results.write(job.id, ahead.left - moved)
        else:
            try:
                self.aside.take_over(job, moved)
            except SheetOvertaken:
                return None
            self.results.write_mates(job.id)
        first = not ahead.changes.keys()
        ahead.changes.take(self.found, moved)
        jobs.move(job.id)
        ahead.left = moved
        if moved:
            return None
        _finish(
            ahead.run,
            ahead.changes,
            self.aside.seals if self.aside else None,
            packed=self.packed if first else None,
            counts=_counts(job, ahead),
        )
        return True


def _finish(
    run: Run,
    changes: Changes,
    seals: proving.Seals | None = None,
    message: str = "",
    packed: bytes | None = None,
    **more: Any,
) -> None:
    """Its end, with what it changed. Inside the caller's transaction; `seals` and `packed` where they are made
    already."""
    runs.keep_changes(run, changes.packed() if packed is None else packed)
    told = {name: len(getattr(changes, name)) for name in ("changed", "fresh", "shifted")}
    keys = listing.keys(run.job, run.where) if run.where else None
    seals = proving.Seals().read(run.job_id, keys) if seals is None else seals
    proving.told(
        run.job_id,
        "run",
        f"run {run.id}, {run.mode}{f' where {run.where}' if run.where else ''}",
        run.author,
        run=run.id,
        whole=keys is None,
        keys=[] if keys is None else sorted(keys),
        results=seals.digest(keys),
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

    def keys(self) -> set[str]:
        """All of which something is said."""
        return self.changed.keys() | self.shifted.keys() | self.fresh

    def packed(self) -> bytes:
        """As it is kept."""
        return runs.packed([*self.changed.values(), *(s for k, s in self.shifted.items() if k not in self.changed)])

    def take(self, found: Changes, without: set[str]) -> None:
        """What was found, but of those `without`, in place of what was known of them."""
        self.changed |= {key: sides for key, sides in found.changed.items() if key not in without}
        self.shifted |= {key: sides for key, sides in found.shifted.items() if key not in without}
        self.fresh |= found.fresh - without

    def of(self, plan: Plan, before: dict[str, Stands], outcomes: dict[int, Outcome], keys: set[str]) -> Changes:
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
        return self


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


def _give_up(run: Run, seen: Seen, ahead: _Ahead, changes: Changes) -> None:
    """What was changed again and again under the run is stale; it is said, and never passes."""
    with writing():
        works.hold(run)
        connections.mark_stale(seen.job, "it was changed again and again during a run", ahead.left)
        words = f"{len(ahead.left)} connections were changed again and again meanwhile and are stale"
        _finish(run, changes, message=words, counts=_counts(seen.job, ahead))


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
    def __init__(self, run: Run, message: str = "") -> None:
        self.run, self.last, self.message = run, 0.0, message

    def __call__(self, done: int) -> None:
        if time.monotonic() - self.last < EVERY:
            return
        self.last = time.monotonic()
        works.progress(self.run, done, message=self.message)


def _counts(job: Job, ahead: _Ahead) -> dict[str, int]:
    """How many of those that were wanted stand how."""
    of_all = "SELECT status, count(*) FROM connection WHERE job_id = ?"
    if not ahead.run.where:
        return dict(rows(f"{of_all} GROUP BY status ORDER BY status", job.id))
    wanted = json.dumps(sorted(ahead.wanted))
    some = f"{of_all} AND key IN (SELECT value FROM json_each(?)) GROUP BY status ORDER BY status"
    return dict(rows(some, job.id, wanted))
