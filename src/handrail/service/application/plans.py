"""The plan of a job as it stands at one moment: its building framed and its rules applied, kept between requests."""

from __future__ import annotations

import os
import threading
from collections import Counter
from dataclasses import dataclass
from functools import lru_cache

from cachetools import LRUCache, cached
from peewee import PeeweeException

from handrail.core.building.audit.combinations import DOUBTS
from handrail.core.building.combining import Chosen
from handrail.core.building.correcting import Correction, corrected
from handrail.core.building.framing import Framing, frame
from handrail.core.building.model import Building
from handrail.core.checking.assigning import Assigned
from handrail.core.checking.coverage import adding
from handrail.core.checking.doubts import Errors, errors_of
from handrail.core.checking.plan import Overrides, Plan
from handrail.core.codes import code
from handrail.core.errors import UnknownName
from handrail.core.rulebook import Rulebook, read_rulebook
from handrail.service.application import labels
from handrail.service.application.labels import Labels
from handrail.store import connections, corrections, designs, entries, findings, jobs, overrides, revisions
from handrail.store.database import reading, writing
from handrail.store.models import Connection, Job, Revision
from handrail.store.trouble import unwritable

KEPT = 2
CORES = min(os.cpu_count() or 1, 4)  # that one run, or one import, uses
Stamp = tuple[tuple[int, str], int, str, str, str, str, str]
_lock = threading.Lock()


@dataclass(frozen=True)
class Seen:
    """A job read whole at one moment: what every result rests on. `stamp` changes with revision, corrections of how
    connections are framed, rulebook, code, method, set of combinations, and labels that rules ask for."""

    job: Job
    revision: Revision
    overrides: Overrides
    corrections: dict[str, Correction]
    labels: Labels  # as far as rules ask for them
    edits: dict[str, str]  # of patterns, where rules ask for these
    labelled: str  # digest of both
    let_stand: tuple[tuple[str, str], ...] = ()  # findings that hold designs back, and that somebody lets stand
    errors: Errors = ()  # of the model, by its audit

    @property
    def stamp(self) -> Stamp:
        """Revision, version of the rulebook, code, method, set of combinations, labels that rules ask for, and
        corrections."""
        return (
            (self.revision.id, self.revision.token),
            self.job.rulebook_version,
            self.job.code,
            self.job.method,
            self.job.combination_set,
            f"{self.labelled}{self.let_stand or ''}",
            repr(sorted(self.corrections.items())) if self.corrections else "",
        )

    @property
    def chosen(self) -> Chosen:
        """The combinations that the job's results are by."""
        return Chosen(self.job.combination_set)

    def differs(self, before: Seen) -> bool:
        """Whether anything that decisions are worked out from is not as it was `before`, or what they rest on has not
        been looked at since."""
        return self.stamp != before.stamp or bool(self.moved(before)) or bool(self.job.look_due)

    def moved(self, before: Seen) -> set[str]:
        """Connections whose overrides are not what they were `before`."""
        keys = self.overrides.keys() | before.overrides.keys()
        return {k for k in keys if self.overrides.get(k) != before.overrides.get(k)}


def look_at(job: Job, connection: str | None = None, rulebook: Rulebook | None = None) -> Seen:
    """The job as it stands now, with all its overrides or those of one `connection` and of what it is related to, and
    with the labels that its rules ask for, or those of a `rulebook` that is tried. Raises InputError before an
    import."""
    with reading():
        entries.stand(job.name)
        fresh = jobs.find_again(job)
        if fresh is None:
            raise UnknownName(f"there is no job '{job.name}' any more")
        record = connections.find(fresh, connection) if connection else None
        only = [r.key for r in connections.related(record)] if record else [connection] if connection else None
        asks = {*rulebook_of(fresh).asks, *(rulebook.asks if rulebook else ())}
        revision = revisions.latest(fresh)
        return Seen(
            fresh,
            revision,
            overrides.holding(fresh, only),
            corrections.standing(fresh),
            *labels.read(fresh, asks),
            findings.let_stand(fresh, DOUBTS),
            _errors(revision.id, revision.token),
        )


@lru_cache(maxsize=64)
def _errors(revision: int, token: str) -> Errors:
    """The errors of a revision's model that hold designs back; it never changes."""
    return errors_of(Revision.select(Revision.audit).where(Revision.id == revision).get().audit["findings"])


def takes(seen: Seen) -> tuple[dict[str, int], dict[str, int]]:
    """(rule -> how many connections it takes, also-rule -> to how many it adds); counted once for what they stand on,
    and kept."""
    of = repr(seen.stamp)
    if seen.job.takes.get("of") != of or "also" not in seen.job.takes:
        plan = plan_of(seen)
        counts, adds = dict(Counter(a.rule.name for a in plan.by_rules if a.rule)), adding(plan)
        try:
            with writing():
                jobs.set_takes(seen.job, {"of": of, "rules": counts, "also": adds})
        except PeeweeException as exc:
            if not unwritable(exc):
                raise
        return counts, adds
    return dict(seen.job.takes["rules"]), dict(seen.job.takes["also"])


@lru_cache(maxsize=KEPT)
def _recognised(revision: int, token: str) -> tuple[Building, Framing]:
    building = revisions.building_of(Revision.get_by_id(revision))
    return building, frame(building)


def recognised_in(revision: int, token: str) -> tuple[Building, Framing]:
    """The building of a revision, by its id and token, and how it is framed as far as nobody corrected it."""
    with _lock:
        return _recognised(revision, token)


def recognised(seen: Seen) -> tuple[Building, Framing]:
    """The same of a job's revision."""
    return recognised_in(*seen.stamp[0])


def framed(seen: Seen) -> tuple[Building, Framing]:
    """A job's building, and how it is framed with what people said of it."""
    building, framing = recognised(seen)
    return building, corrected(building, framing, seen.corrections)[0]


def plan_of(
    seen: Seen, extra: Overrides | None = None, without: tuple[str, str] | None = None, rulebook: Rulebook | None = None
) -> Plan:
    """The plan of a job as it was seen, with `extra` overrides on top, `without` one (connection, parameter), by
    another `rulebook`."""
    base, own = _base(seen), overridden(seen, extra, without)
    if rulebook is None:
        return base.with_(overrides=own)
    if rulebook.lateral != base.rulebook.lateral:  # then other demands act
        return planned(seen, *framed(seen), own, rulebook)
    return base.with_(overrides=own, rulebook=rulebook, labels=labels_of(seen, rulebook))


def labels_of(seen: Seen, rulebook: Rulebook) -> Labels:
    """What people put on connections, as far as a rulebook asks for it, in the model as it is framed."""
    return labels.with_patterns(
        seen.labels, rulebook.asks, seen.edits, lambda: framed(seen), (seen.stamp[0], seen.stamp[-1])
    )


def plan_around(
    seen: Seen,
    record: Connection,
    extra: Overrides | None = None,
    without: tuple[str, str] | None = None,
    rulebook: Rulebook | None = None,
) -> Plan:
    """The plan of one connection alone (and of what stands opposite): the same answers as the whole plan's, however
    large the building; by another `rulebook`. Inside the transaction that read `seen`."""
    building, framing = revisions.around(seen.revision, record)
    return planned(seen, building, framing, overridden(seen, extra, without), rulebook)


def planned(seen: Seen, building: Building, framing: Framing, own: Overrides, rulebook: Rulebook | None = None) -> Plan:
    """The plan of a building or a part of it by what the job was seen to be designed by, or by another `rulebook`."""
    book = rulebook or rulebook_of(seen.job)
    return Plan.of(
        building,
        framing,
        book,
        code(seen.job.code, seen.job.method),
        own,
        seen.chosen,
        labels_of(seen, book),
        let_stand=seen.let_stand,
        errors=seen.errors,
    )


def overridden(seen: Seen, extra: Overrides | None = None, without: tuple[str, str] | None = None) -> Overrides:
    """The overrides as they were seen, with `extra` on top and `without` one (connection, parameter)."""
    held = {key: dict(values) for key, values in seen.overrides.items()}
    for connection, values in (extra or {}).items():
        held[connection] = {**held.get(connection, {}), **values}
    if without and without[0] in held:
        held[without[0]].pop(without[1], None)
        if not held[without[0]]:
            del held[without[0]]
    return held


@cached(LRUCache(KEPT), key=lambda seen: seen.stamp, condition=threading.Condition())
def _base(seen: Seen) -> Plan:
    """What rules make of a job, worked out once for how it stands, before any override."""
    base = planned(seen, *framed(seen), {})
    _ = base.by_rules
    return base


def rulebook_of(job: Job) -> Rulebook:
    """The job's rulebook; an empty one takes nothing."""
    return _read(job.rulebook, tuple(sorted(job.rulebook_files.items()))) if job.rulebook else Rulebook("", {}, 1.0, ())


@lru_cache(maxsize=16)
def _read(text: str, files: tuple[tuple[str, str], ...]) -> Rulebook:
    return read_rulebook(text, dict(files), designs.library)


def assigned_of(plan: Plan, key: str) -> Assigned:
    """A connection with the rule that takes it."""
    return plan.assigned[plan.index[key]]
