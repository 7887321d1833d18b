"""Corrections of how a connection is framed: worked out at its joint, checked again at once, written only against what
was seen."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from handrail.core.building.correcting import Correction, corrected
from handrail.core.building.framing import Framing
from handrail.core.building.model import Building
from handrail.core.checking.assigning import Assigned
from handrail.core.checking.batch import Outcome
from handrail.core.checking.plan import Plan
from handrail.core.errors import InputError
from handrail.service import standing
from handrail.service.plans import Seen, planned, recognised
from handrail.store import corrections, overrides, revisions
from handrail.store.bulk import Changes
from handrail.store.models import Connection, Job


@dataclass(frozen=True)
class Reframed:
    """What a correction makes of a joint: the connection as it would be, what comes of it, and all that is to be
    written."""

    building: Building
    assigned: Assigned
    outcome: Outcome | None
    rows: Changes
    results: standing.Results

    @property
    def shown(self) -> str:
        """How the connection is framed then, in a few words."""
        framed = self.assigned.connection
        return framed.framing + (
            f" on {self.building.members[framed.support].name}" if framed.support is not None else ""
        )

    def write(self, job: int) -> None:
        """Inside a transaction that has seen that nothing moved."""
        self.rows.write(job)
        self.results.write(job)


def with_one(job: Job, key: str, parameter: str, value: str, words: str) -> dict[str, Correction]:
    """All corrections of a job with another `value` of one (framing or support) of connection `key`, said in
    `words`."""
    rest = without_one(job, key, parameter)
    return rest | {key: replace(rest.get(key, Correction()), **{parameter: value}, words=words)}


def without_one(job: Job, key: str, parameter: str) -> dict[str, Correction]:
    """All corrections of a job but one of connection `key`; what is left of it is said by who said that."""
    left = [
        (row, row.connection) for row in overrides.framed(job) if (row.connection, row.parameter) != (key, parameter)
    ]
    return corrections.together(left)


def reframe(seen: Seen, key: str, wanted: dict[str, Correction]) -> Reframed:
    """The joint of connection `key` by other corrections. Raises InputError where that of `key` cannot be."""
    building, plain = recognised(seen)
    node = next(c.node for c in plain.connections if c.id == key)
    here = replace(plain, connections=tuple(c for c in plain.connections if c.node == node))
    own = {k: c for k, c in wanted.items() if any(c2.id == k for c2 in here.connections)}
    before, _ = corrected(building, here, seen.corrections)
    after, misfits = corrected(building, here, own)
    if key in misfits and wanted.get(key) != seen.corrections.get(key):
        raise InputError(misfits[key])
    changed = {c.id for was, c in zip(before.connections, after.connections, strict=True) if was != c}
    outcomes, plan = checked(seen, building, after, changed)
    results = standing.results(seen, plan, outcomes, plan.grounds(changed), changed)
    index = plan.index[key]
    return Reframed(
        building,
        plan.assigned[index],
        outcomes.get(index),
        revisions.reframed(seen.job, building, before, after),
        results,
    )


def checked(seen: Seen, building: Building, framing: Framing, changed: set[str]) -> tuple[dict[int, Outcome], Plan]:
    """The connections that are framed otherwise, sized by their rules."""
    own = {k: v for k, v in seen.overrides.items() if k in changed}
    plan = planned(seen, building, framing, own)
    return plan.work(changed), plan


def words_of(record: Connection) -> str:
    """How a connection is framed as it is kept, in a few words."""
    return record.framing + (f" on {record.support}" if record.support else "")


def value_of(building: Building, parameter: str, value: str) -> Any:
    """What is kept of a correction."""
    return corrections.support_of(building, value) if parameter == "support" else value
