"""One correction of framing for many connections: their joints framed again together, shown before and after, kept all
in one go or not at all."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, field, replace
from typing import Any

from handrail.core.building.correcting import Correction, corrected
from handrail.core.checking.digests import grounds as grounds_of
from handrail.service.application import correcting, looking, standing
from handrail.service.application.attempting import Basis
from handrail.service.application.keeping import Said, ToKeep, decision
from handrail.service.application.plans import Seen, look_at, plan_of, recognised
from handrail.service.application.sides import Side, side_of
from handrail.store import connections, revisions
from handrail.store.bulk import Changes
from handrail.store.database import reading
from handrail.store.models import Connection, Job


@dataclass
class Reframing:
    """What a correction makes of each connection; `refused` says of which it cannot be made, and why."""

    seen: Seen
    records: dict[str, Connection]
    parameter: str
    value: str
    refused: dict[str, str] = field(default_factory=dict)
    after: dict[str, Side] = field(default_factory=dict)
    rows: Changes | None = None
    results: standing.Results | None = None

    def was(self, key: str) -> Side:
        """A connection as it stands."""
        return side_of(self.records[key], correcting.words_of(self.records[key]))

    def shown(self, key: str) -> str:
        """What is wanted of it, in words."""
        return self.value

    def stood(self) -> dict[str, dict[str, int]]:
        """How they are framed as they stand -> how many are."""
        return {self.parameter: dict(Counter(self.was(key)["value"] for key in self.after))}


def propose(job: Job, keys: list[str], parameter: str, value: str, said: Said) -> Reframing:
    """Each of `keys` framed by another condition, or on another support; nothing is kept."""
    with reading():
        seen, records = look_at(job), connections.of_keys(job, keys)
    framing = Reframing(seen, records, parameter, value)
    framing.refused = {key: "there is no such connection" for key in keys if key not in records}
    if not value:
        framing.refused |= dict.fromkeys(records, f"state the {parameter}")
        return framing
    building, plain = recognised(seen)
    words = f"corrected by {said.author} ({said.reason or said.cause})"

    def wanted(some: list[str]) -> dict[str, Correction]:
        return dict(seen.corrections) | {
            key: replace(seen.corrections.get(key, Correction()), **{parameter: value}, words=words) for key in some
        }

    _, misfits = corrected(building, plain, wanted(list(records)))
    framing.refused |= {key: misfits[key] for key in records if key in misfits}
    good = [key for key in records if key not in framing.refused]
    before, _ = corrected(building, plain, seen.corrections)
    after, _ = corrected(building, plain, wanted(good))
    changed = {c.id for was, c in zip(before.connections, after.connections, strict=True) if was != c}
    outcomes, plan = correcting.checked(seen, building, after, changed)
    framing.after = {
        key: side_of(outcomes.get(plan.index[key]) or plan.assigned[plan.index[key]], value) for key in good
    }
    framing.rows, framing.results = (
        revisions.reframed(job, building, before, after),
        standing.results(seen, plan, outcomes, grounds_of(plan, changed), changed),
    )
    return framing


def to_keep(framing: Reframing, said: Said) -> ToKeep:
    """The corrections of a proposal, as they are to be kept."""
    keys, parameter = list(framing.after), framing.parameter
    building, _ = recognised(framing.seen)
    value: Any = correcting.value_of(building, parameter, framing.value)
    rests = looking.of_framing(framing.seen, plan_of(framing.seen), [(key, parameter) for key in keys])
    decisions = [
        decision(
            key,
            parameter,
            value,
            framing.value,
            said,
            (framing.was(key), framing.after[key]),
            grounds=rests[key, parameter],
        )
        for key in keys
    ]
    assert framing.rows is not None and framing.results is not None
    basis = Basis.of(framing.seen, [framing.records[key] for key in keys])
    return ToKeep(basis, said.author, decisions, rows=[framing.rows, framing.results], framed=True)
