"""One way to change what stands in a job: look, work it out, lock, look again; then write, or try again.

A new kind of change is a function that works it out (and has what it looked at as its `basis`), and one that writes
it: `attempt(job, work_out, write)`."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass, field
from functools import partial
from typing import Protocol, TypeVar

from handrail.service.application.looking import up_to_date
from handrail.service.application.plans import Seen, look_at
from handrail.service.application.refused import Refused
from handrail.service.application.standing import TRIES, settled
from handrail.store import connections, jobs, overrides
from handrail.store.models import Connection, Job, Override


@dataclass(frozen=True)
class Basis:
    """What something was worked out from: a job as it was `seen` (of `only` one connection and what it is related to),
    the versions of connections, the states of overrides; None or nothing where that has no say."""

    job: Job
    seen: Seen | None = None
    only: str | None = None
    versions: Mapping[str, int] = field(default_factory=dict)
    states: Mapping[int, str] = field(default_factory=dict)
    looked: bool = False  # what its decisions rest on has been looked at since anything changed
    moves: int | None = None  # how many changes the job had had

    @classmethod
    def of(
        cls,
        seen: Seen,
        records: Collection[Connection] = (),
        decided: Collection[Override] = (),
        only: str | None = None,
    ) -> Basis:
        """The job as it was seen, with connections and overrides as they were read."""
        versions, states = {r.key: r.version for r in records}, {o.id: o.state for o in decided}
        return cls(seen.job, seen, only, versions, states)

    def stands(self) -> bool:
        """Whether all of it is as it was. Inside the transaction that writes."""
        if self.moves is not None and jobs.moves(self.job) != self.moves:
            return False
        if self.looked and jobs.look_due(self.job):
            return False
        if self.seen is not None and look_at(self.job, self.only).differs(self.seen):
            return False
        if self.versions and connections.versions(self.job, self.versions) != self.versions:
            return False
        return {o.id: o.state for o in overrides.of_ids(list(self.states))} == self.states


class Worked(Protocol):
    """Something that was worked out, and knows from what."""

    @property
    def basis(self) -> Stands: ...


class Stands(Protocol):
    """Whether what something was worked out from is still so."""

    def stands(self) -> bool: ...


W = TypeVar("W", bound=Worked)
T = TypeVar("T")


def attempt(
    job: Job, work_out: Callable[[], W], write: Callable[[W], T | None], what: str = "it", decided: bool = True
) -> T:
    """What `write` gives of what `work_out` made, of a job whose decisions are up to date where it is `decided` by
    them.

    `work_out` reads and computes outside any lock, as long as it takes. `write` runs in one short transaction and only
    while the basis of the work stands; where it does not, or `write` gives None (something of it is left), all is
    worked out again. Raises Overtaken where `what` is changed under it TRIES times: what is left is not written."""
    for _ in range(TRIES):
        if decided:
            up_to_date(job)
        work = work_out()
        made = settled(partial(_written, work, write))
        if made is not None:
            return made
    raise Overtaken(409, f"{what} was changed again and again meanwhile; nothing was changed, try again")


def _written(work: W, write: Callable[[W], T | None]) -> T | None:
    return write(work) if work.basis.stands() else None


class Overtaken(Refused):
    """Others changed again and again what something was worked out from."""
