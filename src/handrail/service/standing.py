"""Whether what is kept still stands: results are written only against what they were worked out from."""

from __future__ import annotations

from collections.abc import Collection

from handrail.core.building.audit.combinations import DOUBTS
from handrail.core.building.combining import Chosen
from handrail.core.building.framing import Framing
from handrail.core.building.model import Building
from handrail.core.checking.batch import Outcome
from handrail.core.checking.plan import Overrides, Plan
from handrail.core.codes.aisc360 import code
from handrail.core.rulebook import Rulebook
from handrail.service import labels
from handrail.service.plans import Seen, look_at, plan_of, rulebook_of
from handrail.store import connections, findings, jobs, overrides
from handrail.store.bulk import Changes
from handrail.store.models import Connection, Job

STALE = "stale: what it rests on was changed; run again"
TRIES = 5  # a change that meets others is worked out again so often


class Results:
    """The results of some connections as they are to be written."""

    def __init__(self, changes: Changes) -> None:
        self._changes = changes

    def write(self, job: int, keys: Collection[str] | None = None) -> None:
        """All of them, or of `keys`; what is elsewhere and asks to be looked at again does not count as done. Inside the caller's transaction."""
        self._changes.write(job, keys)
        overrides.hold_elsewhere(job)


def results(seen: Seen, plan: Plan, outcomes: dict[int, Outcome], grounds: dict[str, str], keys: set[str]) -> Results:
    """The results of `keys` as they are to be written, in a transaction that has seen that nothing moved."""
    worked = {plan.assigned[k].connection.id: (plan.assigned[k], o) for k, o in outcomes.items()}
    found = (
        (key, assigned.rule.use, assigned.rule.name, outcome, grounds[key])
        for key, (assigned, outcome) in worked.items() if key in keys and assigned.rule is not None
    )  # fmt: skip
    bare = (
        (a.connection.id, a.status, a.reason, a.rule.name if a.rule else "", grounds[a.connection.id])
        for a in plan.assigned if a.connection.id in keys and a.connection.id not in worked
    )  # fmt: skip
    return Results(connections.results(seen.job, found, bare))


def no_longer(seen: Seen, rulebook: Rulebook | None = None) -> set[str]:
    """Connections whose kept result rests on something else than what stands, or would stand by `rulebook`."""
    kept = connections.kept_grounds(seen.job)
    if not kept:
        return set()
    plan = plan_of(seen, rulebook=rulebook)
    stood = {key for key, grounds in kept.items() if ":stand:" in grounds}
    now = plan.grounds(set(kept) - stood)
    if stood:
        now |= plan.grounds(stood, connections.stood_sizes(seen.job, stood))
    return {key for key, grounds in kept.items() if now.get(key) != grounds}


def survivors(job: Job, building: Building, framing: Framing, held: Overrides, was: dict[str, str]) -> dict[str, str]:
    """Of connections in a model that is to be the job's (new name -> the name before), those whose result rests on nothing that it changes, with
    the grounds of it; `held` are the overrides by their new names."""
    kept, fresh = connections.kept_grounds(job), jobs.find_again(job)
    old = {new: kept[before] for new, before in was.items() if before in kept}
    if fresh is None or not old:
        return {}
    plan = Plan(building, framing, rulebook_of(fresh), code(fresh.code, fresh.method), held, Chosen(fresh.combination_set),
                _labels(fresh, building, framing, was), let_stand=findings.let_stand(fresh, DOUBTS))  # fmt: skip
    stood = {new for new, grounds in old.items() if ":stand:" in grounds}
    now = plan.grounds(set(old) - stood)
    if stood:
        sizes = connections.stood_sizes(job, {was[new] for new in stood})
        now |= plan.grounds(stood, {new: sizes[was[new]] for new in stood if was[new] in sizes})
    return {new: grounds for new, grounds in old.items() if now.get(new) == grounds}


def _labels(job: Job, building: Building, framing: Framing, was: dict[str, str]) -> labels.Labels:
    """What people put on connections, by the names that they are to have."""
    asks = rulebook_of(job).asks
    found, edits, _ = labels.read(job, asks)
    own = {new: found[before] for new, before in was.items() if before in found}
    if "pattern" not in asks:
        return own
    named = labels.patterns_of(building, framing, edits)
    return {key: own.get(key, {}) | ({"pattern": named[key]} if key in named else {}) for key in {*own, *named}}


def settle(job: Job, changed: str, why: str) -> None:
    """Where rules ask for the labels that were `changed` (group, tag, sequence, pattern): what they make otherwise now is stale. Inside the
    transaction of the change."""
    fresh = jobs.find_again(job)
    if fresh is None or changed not in rulebook_of(fresh).asks or not jobs.has_model(fresh):
        return
    jobs.set_fields(fresh)
    connections.mark_stale(fresh, why, no_longer(look_at(fresh)))


def still(plan: Plan, record: Connection) -> bool:
    """Whether one connection's kept result rests on what stands."""
    sizes = {record.key: connections.sizes_of(record)} if ":stand:" in record.digest else None
    return plan.grounds({record.key}, sizes).get(record.key) == record.digest
