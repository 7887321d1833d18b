"""One decision for many connections: worked out together, shown before and after, kept all in one go or not at all."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from handrail.core.checking.batch import Outcome
from handrail.core.checking.digests import grounds as grounds_of
from handrail.core.checking.plan import Overrides, Plan
from handrail.core.errors import InputError
from handrail.core.standards import STANDARDS
from handrail.service.application import changing, effort, standing
from handrail.service.application.attempting import Basis
from handrail.service.application.changing import Change
from handrail.service.application.keeping import Said, ToKeep, decision
from handrail.service.application.looking import beside
from handrail.service.application.plans import Seen, assigned_of, look_at, overridden, plan_of
from handrail.service.application.refused import Refused, told
from handrail.service.application.sides import Side, side_of
from handrail.store import connections
from handrail.store.database import reading
from handrail.store.models import Connection, Job


@dataclass
class Proposed:
    """What a decision makes of each connection; `refused` says of which it cannot be made, and why."""

    seen: Seen
    plan: Plan
    records: dict[str, Connection]
    changes: dict[str, list[Change]] = field(default_factory=dict)
    partners: dict[str, tuple[str, ...]] = field(default_factory=dict)  # connection -> those that share what is changed
    refused: dict[str, str] = field(default_factory=dict)
    after: dict[str, Side] = field(default_factory=dict)
    outcomes: dict[int, Outcome] = field(default_factory=dict)

    def was(self, key: str) -> Side:
        """A connection as it stands."""
        return side_of(self.records[key], ", ".join(c.stood for c in self.changes[key]))

    def shown(self, key: str) -> str:
        """What is wanted of it, in words."""
        return ", ".join(c.shown for c in self.changes[key])

    def stood(self) -> dict[str, dict[str, int]]:
        """parameter -> value as it stands -> how many have it: one value where they have it in common."""
        uses: dict[str, Counter[str]] = {}
        for c in (c for changes in self.changes.values() for c in changes):
            uses.setdefault(c.parameter, Counter())[c.stood] += 1
        return {name: dict(values.most_common()) for name, values in uses.items()}


def propose(job: Job, keys: list[str], wanted: Mapping[str, Any], both: bool = False) -> Proposed:
    """Each of `keys` with the sizes (or standard, actions, elsewhere) that are wanted; nothing is kept."""
    with reading():
        seen = look_at(job)
        records = connections.of_keys(job, keys)
    plan = plan_of(seen)
    proposed = Proposed(seen, plan, records)
    for key in keys:
        if key not in records:
            proposed.refused[key] = "there is no such connection"
            continue
        try:
            _, proposed.changes[key] = changing.read_changes(records[key], plan, wanted)
        except (Refused, InputError) as exc:
            proposed.refused[key] = told(exc, plan.building.system)
    _settle(proposed, both)
    return proposed


def _settle(proposed: Proposed, both: bool) -> None:
    """What comes of the changes that can be made."""
    held = proposed.plan.overrides
    proposed.plan = plan = proposed.plan.with_(
        overrides=overridden(
            proposed.seen, {key: {c.parameter: c.value for c in changes} for key, changes in proposed.changes.items()}
        )
    )
    left: Overrides = plan.overrides
    for key in list(proposed.changes):
        try:
            changing.refuse_unsized(assigned_of(plan, key))
            partners, common = _sharing(proposed, key, both)
        except Refused as exc:
            proposed.refused[key] = told(exc, plan.building.system)
            del proposed.changes[key]
            continue
        proposed.partners[key] = partners
        left = plan.sharing.giving_way(left, [p for p in partners if p not in proposed.changes], common)
    for key in proposed.refused:  # what cannot be made of them is not worked out
        left = {k: v for k, v in left.items() if k != key} | ({key: held[key]} if key in held else {})
    proposed.plan = plan = plan.with_(overrides=left)
    together = plan.together(set(proposed.changes))
    proposed.outcomes = outcomes = standing.work(
        proposed.seen, plan, together, progress=lambda done: effort.step(done, len(together))
    )
    for key, changes in proposed.changes.items():
        outcome, assigned = outcomes.get(plan.index[key]), assigned_of(plan, key)
        besides = changing.also(
            proposed.records[key], assigned, outcome, {c.parameter for c in changes}, plan.building.system
        )
        proposed.after[key] = side_of(outcome or assigned, "", besides)


def _sharing(proposed: Proposed, key: str, both: bool) -> tuple[tuple[str, ...], set[str]]:
    """The connections that share what is changed, and the names of that. Raises Refused where one is neither among
    those that change nor agreed to."""
    record, assigned = proposed.records[key], assigned_of(proposed.plan, key)
    if assigned.rule is None or assigned.rule.use != record.standard:
        return (), set()
    standard = STANDARDS[assigned.rule.use]
    common = {c.parameter for c in proposed.changes[key]} & proposed.plan.sharing.common(key)
    partners = proposed.plan.partners(key) if common and standard.through(connections.sizes_of(record)) else ()
    if (left := [p for p in partners if p not in proposed.changes]) and not both:
        raise Refused(409, f"the same bolts hold {' and '.join(left)} opposite: take it too, or say both")
    return partners, common


def to_keep(proposed: Proposed, said: Said) -> ToKeep:
    """The overrides of a proposal of which nothing is refused, as they are to be kept."""
    plan, keys = proposed.plan, set(proposed.changes)
    rests, changed = beside(plan, keys), plan.together(keys)
    results = standing.results(proposed.seen, plan, proposed.outcomes, grounds_of(plan, changed), changed)
    decisions, through = [], set[tuple[str, str]]()
    for key, changes in proposed.changes.items():
        before, partners = proposed.records[key], proposed.partners.get(key, ())
        for c in changes:
            if (key, c.parameter) in through:
                continue  # one set of bolts: said on the other side of the web already
            shared = partners if partners and c.parameter in plan.sharing.common(key) else ()
            through |= {(partner, c.parameter) for partner in shared}
            sides = side_of(before, c.stood), proposed.after[key] | {"value": c.shown}
            decisions.append(decision(key, c.parameter, c.value, c.shown, said, sides, shared, rests[key, c.parameter]))
    basis = Basis.of(proposed.seen, [proposed.records[key] for key in keys])
    return ToKeep(basis, said.author, decisions, rests=rests, rows=[results])
