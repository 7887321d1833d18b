"""Whether what is kept still stands: results are written only against what they were worked out from."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from contextvars import ContextVar
from dataclasses import dataclass, field
from typing import TypeVar

from handrail.core.checking.assembled import Made
from handrail.core.checking.batch import Outcome
from handrail.core.checking.digests import VERIFIED, Grounds
from handrail.core.checking.digests import grounds as grounds_of
from handrail.core.checking.plan import Plan
from handrail.core.rulebook import Rulebook
from handrail.core.standards.sizes import Sizes
from handrail.service.application.plans import Seen, look_at, plan_of, rulebook_of
from handrail.service.application.refused import Refused
from handrail.store import connections, jobs, overrides
from handrail.store.bulk import Changes
from handrail.store.database import writing
from handrail.store.models import Connection, Job
from handrail.store.sheets import Sheet

STALE = "stale: what it rests on was changed; run again"
TRIES = 5  # a change that meets others is worked out again so often
T = TypeVar("T")


class Results:
    """The results of some connections as they are to be written; and of others of their joints (`mates`) those that
    come out otherwise by what stands in them now, worked out from mates of these `versions`."""

    def __init__(self, changes: Changes, mates: Mates | None = None) -> None:
        self._changes, self.mates = changes, mates or Mates()

    def on_a_sheet(self, job: int, keys: Collection[str], going_on: Callable[[], None]) -> Sheet:
        """Those of `keys` on a sheet beside what stands, to be filled."""

        def prepare(some: Sequence[tuple[int, str]], sheet: int) -> None:
            self._changes.write(job, {key for _, key in some}.intersection(keys), sheet)

        return Sheet(job, prepare, going_on=going_on)

    def write(self, job: int, keys: Collection[str] | None = None) -> None:
        """All of them, or of `keys`; what is elsewhere and asks to be looked at again does not count as done. Inside
        the caller's transaction."""
        self._changes.write(job, keys)
        self.write_mates(job)
        overrides.hold_elsewhere(job)

    def write_mates(self, job: int) -> None:
        """Those of the others, of which none moved meanwhile. Inside the caller's transaction."""
        if self.mates.changes is not None:
            self.mates.changes.write(job)


@dataclass(frozen=True)
class Mates:
    """Others of the joints of some connections: `outcomes` and `changes` of those that come out otherwise by what
    stands in them now, `versions` of all."""

    outcomes: Mapping[int, Outcome] = field(default_factory=dict)
    changes: Changes | None = None
    versions: Mapping[str, int] = field(default_factory=dict)

    def moved(self, job: Job) -> set[str]:
        """Those that are not as they were."""
        if not self.versions:
            return set()
        now = connections.versions(job, self.versions)
        return {key for key, version in self.versions.items() if now.get(key) != version}


def work(
    seen: Seen,
    plan: Plan,
    keys: Collection[str],
    stored: Mapping[str, Sizes] | None = None,
    progress: Callable[[int], None] = lambda done: None,
) -> dict[int, Outcome]:
    """What a plan makes of connections, sized afresh or as `stored`, beside what stands at their joints."""
    others = connections.standing(seen.job, plan.at_joint(keys).difference(keys))
    return plan.work(set(keys), stored, progress, {key: (s.standard, s.sizes) for key, s in others.items()})


def _mates(seen: Seen, plan: Plan, outcomes: Mapping[int, Outcome], keys: set[str]) -> Mates:
    """The others of the joints of `keys`, with these as they came out."""
    others = connections.standing(seen.job, plan.at_joint(keys) - keys)
    if not others:
        return Mates()
    beside: dict[str, Made] = {key: (s.standard, s.sizes) for key, s in others.items()}
    for k, outcome in outcomes.items():
        assigned = plan.assigned[k]
        if assigned.connection.id in keys and assigned.rule is not None and outcome.sizes:
            beside[assigned.connection.id] = assigned.rule.use, outcome.sizes
    found = plan.collisions({}, beside)
    judged, rows = dict[int, Outcome](), []
    for key, s in others.items():
        assigned = plan.assigned[plan.index[key]]
        ruled = assigned.rule is not None and assigned.rule.use == s.standard and not assigned.reason
        if s.judged and ruled and found.get(key, ()) != s.collides:
            (again,) = plan.work({key}, {key: s.sizes}, beside=beside).items()
            judged |= [again]
            rows.append((key, s.standard, assigned.rule.name if assigned.rule else "", again[1], s.grounds))
    changes = connections.results(seen.job, rows, (), {key: others[key].verified for key, *_ in rows}) if rows else None
    return Mates(judged, changes, {key: s.version for key, s in others.items()})


def results(
    seen: Seen, plan: Plan, outcomes: dict[int, Outcome], grounds: dict[str, Grounds], keys: set[str]
) -> Results:
    """The results of `keys` as they are to be written, in a transaction that has seen that nothing moved."""
    worked = {plan.assigned[k].connection.id: (plan.assigned[k], o) for k, o in outcomes.items()}
    rows = (
        (key, assigned.rule.use, assigned.rule.name, outcome, grounds[key])
        for key, (assigned, outcome) in worked.items()
        if key in keys and assigned.rule is not None
    )
    bare = (
        (a.connection.id, a.status, a.reason, a.rule.name if a.rule else "", grounds[a.connection.id])
        for a in plan.assigned
        if a.connection.id in keys and a.connection.id not in worked
    )
    return Results(connections.results(seen.job, rows, bare), _mates(seen, plan, outcomes, keys))


def no_longer(seen: Seen, rulebook: Rulebook | None = None, kept: Mapping[str, Grounds] | None = None) -> set[str]:
    """Connections whose result, as it is `kept`, rests on something else than what stands, or would stand by
    `rulebook`."""
    kept = connections.kept_grounds(seen.job) if kept is None else kept
    if not kept:
        return set()
    plan = plan_of(seen, rulebook=rulebook)
    stood = {key for key, grounds in kept.items() if grounds.made == VERIFIED}
    now = grounds_of(plan, set(kept) - stood)
    if stood:
        now |= grounds_of(plan, stood, connections.stood_sizes(seen.job, stood))
    return {key for key, grounds in kept.items() if now.get(key) != grounds}


@dataclass(frozen=True)
class _Ready:
    """What a change makes stale, of results as they are `kept` in a job that would be `then`: marked before."""

    then: Seen
    kept: Mapping[str, Grounds]
    stale: Collection[str] | None

    def holds(self, now: Seen) -> bool:
        """Whether nothing else came between. Inside the transaction of the change."""
        same = now.stamp == self.then.stamp and not now.moved(self.then)
        return same and connections.kept_grounds(now.job) == self.kept


class _Unsettled(Exception):
    """What a change makes stale is to be worked out before it is made: how the job would be `then`, and `why`."""

    def __init__(self, then: Seen, why: str, all_of_it: bool) -> None:
        super().__init__(why)
        self.then, self.why, self.all = then, why, all_of_it

    def work_out(self) -> _Ready:
        """It, outside any transaction, and marked a part at a time."""
        job, kept = self.then.job, connections.kept_grounds(self.then.job)
        stale = None if self.all else no_longer(self.then, kept=kept)
        connections.mark_ahead(job, self.why, stale)
        return _Ready(self.then, still_kept(job, kept, stale), stale)


def still_kept(job: Job, kept: Mapping[str, Grounds], stale: Collection[str] | None) -> dict[str, Grounds]:
    """Of results as they were `kept` those that have not been marked since; what came meanwhile is another result, and
    is not among them as it is now."""
    now = connections.kept_grounds(job)
    if stale is None:
        return now
    return {key: grounds for key, grounds in kept.items() if key in now or key not in stale}


_ready: ContextVar[_Ready | None] = ContextVar("ready", default=None)


def settled(act: Callable[[], T]) -> T:
    """What `act` gives, done in one short transaction. What it makes stale by `settle` is worked out before it is done:
    it is done and undone first, to see how the job would be. Raises Refused(409) where others change it again and
    again."""
    ready = None
    for _ in range(TRIES):
        token = _ready.set(ready)
        try:
            with writing():
                return act()
        except _Unsettled as change:
            ready = change.work_out()
        finally:
            _ready.reset(token)
    raise Refused(409, "the job was changed again and again meanwhile; nothing was changed, try again")


def settle(job: Job, changed: Collection[str], why: str) -> None:
    """Where rules ask for any of the labels that were `changed` (group, tag, sequence, pattern): what they make
    otherwise now is stale. Inside the transaction of the change, which is `settled`, once."""
    fresh = jobs.find_again(job)
    if fresh is None or set(rulebook_of(fresh).asks).isdisjoint(changed) or not jobs.has_model(fresh):
        return
    jobs.set_fields(fresh)
    settle_results(fresh, why)


def settle_results(job: Job, why: str, all_of_it: bool = False) -> None:
    """Results that rest on something else now are stale, or all of them. Inside the transaction of the change, which is
    `settled`."""
    now, ready = look_at(job), _ready.get()
    if ready is None or not ready.holds(now):
        raise _Unsettled(now, why, all_of_it)
    connections.mark_stale(job, why, ready.stale)


def still(plan: Plan, record: Connection) -> bool:
    """Whether one connection's kept result rests on what stands."""
    sizes = {record.key: connections.sizes_of(record)} if record.made == VERIFIED else None
    return grounds_of(plan, {record.key}, sizes).get(record.key) == Grounds(record.made, record.digest)
