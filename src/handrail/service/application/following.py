"""What a revision of the model makes of the results that are there: they stand, or they are verified as they stand, at
once and together."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass, field
from typing import Any

from handrail.core.building.audit.combinations import DOUBTS
from handrail.core.building.combining import Chosen
from handrail.core.building.framing import Framing
from handrail.core.building.model import Building
from handrail.core.checking.assembled import Made
from handrail.core.checking.assigning import Assigned
from handrail.core.checking.batch import Family
from handrail.core.checking.digests import VERIFIED
from handrail.core.checking.digests import grounds as grounds_of
from handrail.core.checking.doubts import Errors
from handrail.core.checking.plan import Overrides, Plan
from handrail.core.codes import code
from handrail.core.errors import InputError
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import BY_OTHER_SIDE, Sizes
from handrail.service.application import labels
from handrail.service.application.plans import CORES, rulebook_of
from handrail.store import connections, findings, jobs
from handrail.store.bulk import Changes
from handrail.store.models import Job


@dataclass(frozen=True)
class Following:
    """`stand`: the connections (as they are called now) whose result rests on nothing that the revision changes;
    `seen`: what the results of the others rested on that were verified, in `results`; `why` the rest could not be, in
    words."""

    stand: dict[str, str] = field(default_factory=dict)
    seen: dict[str, str] = field(default_factory=dict)
    results: Changes | None = None
    why: dict[str, str] = field(default_factory=dict)

    def write(self, job: int, keys: Collection[str], sheet: int) -> None:
        """The results of `keys` onto a sheet. Inside the caller's transaction."""
        if self.results is not None:
            self.results.write(job, keys, sheet)


def follow(
    job: Job,
    building: Building,
    framing: Framing,
    held: Overrides,
    was: Mapping[str, str],
    same: Collection[str],
    number: int,
    errors: Errors = (),
) -> Following:
    """The results of a job in a model that is to be its revision `number` (`was`: new name -> the name before). `held`
    are the overrides by their new names; those not among `same` have another connection across the web, or it is called
    otherwise. `errors` are those of the model."""
    rested, fresh = connections.kept_grounds(job), jobs.find_again(job)
    old = {new: rested[before] for new, before in was.items() if before in rested}
    if fresh is None or not old:
        return Following()
    plan = Plan.of(
        building,
        framing,
        rulebook_of(fresh),
        code(fresh.code, fresh.method),
        held,
        Chosen(fresh.combination_set),
        _labels(fresh, building, framing, was),
        let_stand=findings.let_stand(fresh, DOUBTS),
        errors=errors,
        cores=CORES,
    )
    kept = _kept(fresh, was)
    stood = {
        new: kept[new].sizes
        for new, grounds in old.items()
        if grounds.made == VERIFIED and new in kept and kept[new].sizes
    }
    now = grounds_of(plan, set(old) - stood.keys()) | grounds_of(plan, set(stood), stood)
    stand = {new: grounds.digest for new, grounds in old.items() if now.get(new) == grounds and new in same}
    moved = _verifiable(plan, kept, set(old) - stand.keys())
    made = {new: (of.standard, of.sizes) for new, of in kept.items() if of.sizes and new in plan.index}
    stuck = _otherwise_collided(fresh, plan, made, set(stand), was)
    stand = {new: digest for new, digest in stand.items() if new not in stuck}
    bare = {
        new for new in set(old) - stand.keys() - moved if new in kept and not kept[new].sizes and _unjudged(plan, new)
    }
    why = {
        new: _otherwise(_assigned(plan, new), kept[new])
        for new in old.keys() - stand.keys() - moved - bare
        if new in kept and plan.acting.names
    } | dict.fromkeys(stuck, "what stands in it at its joint is other now")
    return Following(
        stand,
        {new: old[new].digest for new in moved | bare},
        _verified(fresh, plan, kept, made, moved, bare, number),
        why,
    )


def _otherwise_collided(
    job: Job, plan: Plan, made: Mapping[str, Made], stand: set[str], was: Mapping[str, str]
) -> set[str]:
    """Of connections that `stand` those in which other things stand in the model as it is now."""
    touched = plan.at_joint(plan.index.keys() - stand)
    before = connections.standing(job, {was[key] for key in stand})
    had = {key for key in stand if (b := before.get(was[key])) is not None and b.collides}
    those = touched | plan.at_joint(had)
    found = plan.collisions({}, {key: made[key] for key in those if key in made})
    return {
        key
        for key in stand & those
        if (b := before.get(was[key])) is not None and b.judged and found.get(key, ()) != b.collides
    }


def _verified(
    job: Job,
    plan: Plan,
    kept: Mapping[str, _Kept],
    made: Mapping[str, Made],
    moved: set[str],
    bare: set[str],
    number: int,
) -> Changes:
    """The results of those that `moved`, as they stand, and of those that nothing can be said of still."""
    stored = {new: kept[new].sizes for new in plan.together(moved) if new in kept and kept[new].sizes}
    grounds = grounds_of(plan, moved | bare, stored)
    beside = {key: made[key] for key in plan.at_joint(stored) if key in made}
    changes = (
        (key, a.rule.use, a.rule.name, outcome, grounds[key])
        for k, outcome in plan.work(set(stored), stored, beside=beside).items()
        if (key := (a := plan.assigned[k]).connection.id) in moved and a.rule is not None
    )
    others = (
        (key, a.status, a.reason, a.rule.name if a.rule else "", grounds[key])
        for key in sorted(bare)
        for a in [_assigned(plan, key)]
    )
    return connections.results(
        job,
        changes,
        others,
        {new: {"revision": number, "utilisation": round(kept[new].utilisation, 6)} for new in moved},
    )


def _otherwise(assigned: Assigned, kept: _Kept) -> str:
    """What the rules make of a connection now that it is not verified by."""
    if assigned.rule is None or assigned.reason:
        return assigned.reason
    if assigned.rule.use != kept.standard:
        return f"by rule '{assigned.rule.name}' it is {assigned.rule.use} now"
    return f"rule '{assigned.rule.name}' gives it, or what stands opposite, other sizes now"


@dataclass(frozen=True)
class _Kept:
    standard: str
    sizes: Sizes
    utilisation: float


def _kept(job: Job, was: Mapping[str, str]) -> dict[str, _Kept]:
    """new name -> how it was made."""
    kept = {key: _Kept(standard, sizes, use) for key, _, standard, _, sizes, use, _, _ in connections.stand(job)}
    return {new: kept[before] for new, before in was.items() if before in kept}


def _assigned(plan: Plan, key: str) -> Assigned:
    return plan.assigned[plan.index[key]]


def _unjudged(plan: Plan, key: str) -> bool:
    """Whether nothing can be said of a connection: no rule takes it, or something to judge it by is missing."""
    return plan.by_rule(_assigned(plan, key)) is None


def _verifiable(plan: Plan, kept: Mapping[str, _Kept], wanted: set[str]) -> set[str]:
    """Of `wanted` those that are made as their rule would still have them, and what shares their bolts with them."""
    if not plan.acting.names:
        return set()
    asked: dict[Any, bool] = {}

    def as_ruled(new: str) -> bool:
        assigned, own = _assigned(plan, new), kept[new]
        family = plan.by_rule(assigned)
        alike = (id(family), own.standard, tuple((n, s.value, s.source) for n, s in own.sizes.items()))
        if alike not in asked:
            asked[alike] = _as_ruled(assigned, family, own)
        return asked[alike]

    keys = {new for new in wanted if new in kept and as_ruled(new)}
    beside = {key for new in keys for key in plan.together({new}) - {new} if key in kept and kept[key].sizes}
    askew = {key for key in beside - keys if not as_ruled(key)}
    return keys - {new for new in keys if plan.together({new}) & askew}


def _as_ruled(assigned: Assigned, family: Family | None, kept: _Kept) -> bool:
    """Whether the rules still give a connection the standard that it has, and every size but those that a ladder climbs
    and those that the bolts of the side opposite ask for."""
    if (
        not kept.sizes
        or family is None
        or assigned.rule is None
        or assigned.situation is None
        or assigned.rule.use != kept.standard
    ):
        return False
    standard, given = STANDARDS[kept.standard], dict(family.given)
    chosen = {n: s for n, s in kept.sizes.items() if s.source not in ("geometry", "default")}
    try:
        asked = standard.complete(assigned.situation, chosen | given)
    except InputError:  # a formula that has no value there
        return False
    own = kept.sizes
    return all(
        name in own and (own[name].source == BY_OTHER_SIDE or _same(own[name].value, asked[name].value))
        for name in given
    )


def _same(one: Any, other: Any) -> bool:
    if isinstance(one, str) or isinstance(other, str):
        return bool(one == other)
    return abs(float(one) - float(other)) <= 1e-6 * max(1.0, abs(float(one)))


def _labels(job: Job, building: Building, framing: Framing, was: Mapping[str, str]) -> labels.Labels:
    """What people put on connections, by the names that they are to have."""
    asks = rulebook_of(job).asks
    known, edits, _ = labels.read(job, asks)
    own = {new: known[before] for new, before in was.items() if before in known}
    if "pattern" not in asks:
        return own
    named = labels.patterns_of(building, framing, edits)
    return {key: own.get(key, {}) | ({"pattern": named[key]} if key in named else {}) for key in {*own, *named}}
