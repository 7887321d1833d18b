"""One decision for many connections: worked out together, shown before and after, kept all in one go or not at all."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from handrail.core.checking.batch import Outcome
from handrail.core.checking.plan import Plan
from handrail.core.errors import InputError
from handrail.core.standards import STANDARDS
from handrail.service import changing, standing
from handrail.service.changing import Change
from handrail.service.looking import beside
from handrail.service.plans import Seen, assigned_of, look_at, overridden, plan_of
from handrail.service.problems import Refused
from handrail.service.sides import Side, side_of
from handrail.store import connections, overrides, steps
from handrail.store.database import reading, writing
from handrail.store.models import Connection, Job, Override
from handrail.store.overrides import Decision


@dataclass(frozen=True)
class Said:
    """Who decides, why, and whether what shared bolts force on the connection opposite may happen."""

    author: str
    reason: str
    cause: str = ""
    both: bool = False


@dataclass
class Proposed:
    """What a decision makes of each connection; `refused` says of which it cannot be made, and why."""

    seen: Seen
    plan: Plan
    records: dict[str, Connection]
    changes: dict[str, list[Change]] = field(default_factory=dict)
    partners: dict[str, str] = field(default_factory=dict)  # connection -> the one opposite that shares what is changed
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
        found: dict[str, Counter[str]] = {}
        for c in (c for changes in self.changes.values() for c in changes):
            found.setdefault(c.parameter, Counter())[c.stood] += 1
        return {name: dict(values.most_common()) for name, values in found.items()}


def propose(job: Job, keys: list[str], wanted: Mapping[str, Any], both: bool = False) -> Proposed:
    """Each of `keys` with the sizes (or standard, actions, elsewhere) that are wanted; nothing is kept."""
    with reading():
        seen = look_at(job)
        records = connections.of_keys(job, keys)
    plan = plan_of(seen)
    found = Proposed(seen, plan, records)
    for key in keys:
        if key not in records:
            found.refused[key] = "there is no such connection"
            continue
        try:
            _, found.changes[key] = changing.read_changes(records[key], plan, wanted)
        except (Refused, InputError) as exc:
            found.refused[key] = str(exc)
    _settle(found, both)
    return found


def _settle(found: Proposed, both: bool) -> None:
    """What comes of the changes that can be made."""
    plan, by_itself = found.plan, found.plan.overrides
    plan.overrides = overridden(
        found.seen, {key: {c.parameter: c.value for c in changes} for key, changes in found.changes.items()}
    )
    for key in list(found.changes):
        try:
            changing.refuse_unsized(assigned_of(plan, key))
            partner = _partner(found, key, both)
        except Refused as exc:
            found.refused[key] = str(exc)
            del found.changes[key]
            continue
        if partner:
            found.partners[key] = partner
            if partner in plan.overrides and partner not in found.changes:
                common = {c.parameter for c in found.changes[key]}
                plan.overrides = plan.overrides | {
                    partner: {n: v for n, v in plan.overrides[partner].items() if n not in common}
                }
    if found.refused:  # what cannot be made of them is not worked out
        plan.overrides = {k: v for k, v in plan.overrides.items() if k not in found.refused} | {
            k: by_itself[k] for k in found.refused if k in by_itself
        }
    keys = set(found.changes)
    outcomes = plan.work(plan.with_partners(keys))
    for key, changes in found.changes.items():
        outcome, assigned = outcomes.get(plan.index[key]), assigned_of(plan, key)
        besides = changing.also(
            found.records[key], assigned, outcome, {c.parameter for c in changes}, plan.building.system
        )
        found.after[key] = side_of(outcome or assigned, "", besides)
    found.outcomes = outcomes


def _partner(found: Proposed, key: str, both: bool) -> str:
    """The connection opposite that shares what is changed. Raises Refused where it is neither among those that change
    nor agreed to."""
    record, assigned = found.records[key], assigned_of(found.plan, key)
    if assigned.rule is None or assigned.rule.use != record.standard:
        return ""
    standard = STANDARDS[assigned.rule.use]
    common = {c.parameter for c in found.changes[key]} & set(standard.shared)
    partner = found.plan.partner(key) if common and standard.through(connections.sizes_of(record)) else ""
    if partner and partner not in found.changes and not both:
        raise Refused(409, f"the same bolts hold {partner} opposite: take it too, or say both")
    return partner


def keep(job: Job, found: Proposed, said: Said) -> list[Override] | None:
    """The overrides that were made of a proposal without anything refused; None where something moved meanwhile."""
    plan, keys = found.plan, set(found.changes)
    rests = beside(plan, keys)
    changed = plan.with_partners(keys)
    outcomes = found.outcomes
    results = standing.results(found.seen, plan, outcomes, plan.grounds(changed), changed)
    decisions, through = [], set[tuple[str, str]]()
    for key, changes in found.changes.items():
        before, partner = found.records[key], found.partners.get(key, "")
        for c in changes:
            if (key, c.parameter) in through:
                continue  # one set of bolts: said on the other side of the web already
            shared = partner if partner and c.parameter in STANDARDS[before.standard].shared else ""
            if shared:
                through.add((shared, c.parameter))
            sides = side_of(before, c.stood), found.after[key] | {"value": c.shown}
            decisions.append(
                Decision(
                    key,
                    c.parameter,
                    c.value,
                    c.shown,
                    said.reason,
                    said.author,
                    *sides,
                    shared,
                    said.cause,
                    rests[key, c.parameter],
                )
            )
    with writing():
        now = look_at(job)
        as_seen = {k: r.version for k, r in found.records.items() if k in keys}
        if now.differs(found.seen) or connections.versions(job, keys) != as_seen:
            return None
        step = steps.begin(job, said.author)
        made = overrides.keep(job, decisions)
        overrides.rebase(job, rests)
        steps.made_many(step, made)
        results.write(job.id)
    return overrides.of_ids([number for number, _ in made])
