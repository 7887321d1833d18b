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
from handrail.core.checking.digests import grounds as grounds_of
from handrail.core.checking.plan import Plan
from handrail.core.errors import InputError
from handrail.service.application import looking, standing
from handrail.service.application.attempting import Basis
from handrail.service.application.keeping import Said, ToKeep, decision
from handrail.service.application.plans import Seen, look_at, plan_of, planned, recognised
from handrail.service.application.refused import Refused
from handrail.service.application.sides import Side, side_of
from handrail.store import connections, corrections, overrides, revisions
from handrail.store.bulk import Changes
from handrail.store.database import reading
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


@dataclass(frozen=True)
class Correcting:
    """A correction of one connection's framing, and what comes of it."""

    record: Connection
    seen: Seen
    parameter: str
    value: str
    reframed: Reframed

    @property
    def basis(self) -> Basis:
        """What it was worked out from."""
        return Basis.of(self.seen, [self.record])

    @property
    def sides(self) -> tuple[Side, Side]:
        """How the connection stands, and how it would."""
        after = self.reframed.outcome or self.reframed.assigned
        return side_of(self.record, words_of(self.record)), side_of(after, self.reframed.shown)

    def to_keep(self, said: Said) -> ToKeep:
        """As it is to be kept."""
        key, parameter = self.record.key, self.parameter
        grounds = looking.of_framing(self.seen, plan_of(self.seen), [(key, parameter)])[key, parameter]
        kept = value_of(self.reframed.building, parameter, self.value)
        made = decision(key, parameter, kept, self.value, said, self.sides, grounds=grounds)
        return ToKeep(self.basis, said.author, [made], rows=[self.reframed], framed=True)


def work_out(job: Job, key: str, parameter: str, value: str, said: Said) -> Correcting:
    """Connection `key` framed by another condition, or on another support. Raises Refused, InputError."""
    with reading():
        record = connections.find(job, key)
        if record is None:
            raise Refused(404, f"there is no connection '{key}' in '{job.name}'")
        seen = look_at(job)
    words = f"corrected by {said.author} ({said.reason.strip() or said.cause})"
    return Correcting(record, seen, parameter, value, reframe(seen, key, with_one(job, key, parameter, value, words)))


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
    results = standing.results(seen, plan, outcomes, grounds_of(plan, changed), changed)
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
    return standing.work(seen, plan, changed), plan


def words_of(record: Connection) -> str:
    """How a connection is framed as it is kept, in a few words."""
    return record.framing + (f" on {record.support}" if record.support else "")


def value_of(building: Building, parameter: str, value: str) -> Any:
    """What is kept of a correction."""
    return corrections.support_of(building, value) if parameter == "support" else value
