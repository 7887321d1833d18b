"""What people decided, worked out and ready to be kept: overrides made and ended, and all that follows from them."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any, Generic, Protocol, TypeVar

from handrail.core.checking.grounds import Snapshot
from handrail.service.application import standing
from handrail.service.application.attempting import Basis, attempt
from handrail.store import overrides, steps
from handrail.store.models import Job, Override
from handrail.store.overrides import Decision


@dataclass(frozen=True)
class Said:
    """Who decides, why, and whether what shared bolts force on other connections may happen."""

    author: str
    reason: str
    cause: str = ""
    both: bool = False


class Writes(Protocol):
    """Rows that were worked out outside any lock."""

    def write(self, job: int) -> None: ...


@dataclass(frozen=True)
class ToKeep:
    """`decisions` that are made and overrides that are `ending` (`state` and `word` say how), by `author`; `rests` says
    what the decisions there rest on then, `rows` what of connections is written. It is a `step` that its author can go
    back over, with the ids of those that are ended by it; what is `framed` otherwise is none, and may have another
    pattern."""

    basis: Basis
    author: str
    decisions: Sequence[Decision] = ()
    ending: Sequence[Override] = ()
    state: str = "cleared"
    word: str = "cleared"
    rests: Mapping[tuple[str, str], Snapshot] = field(default_factory=dict)
    rows: Sequence[Writes] = ()
    framed: bool = False
    step: Sequence[int] | None = ()

    def __post_init__(self) -> None:
        """It stands on how others of the joints stand, too."""
        mates = [some.mates.versions for some in self.rows if isinstance(some, standing.Results)]
        versions = {key: version for own in mates for key, version in own.items()} | dict(self.basis.versions)
        object.__setattr__(self, "basis", replace(self.basis, versions=versions))

    def write(self) -> list[Override]:
        """The overrides that were made, all of it written. Inside the transaction that has seen that its basis
        stands."""
        job = self.basis.job
        step = steps.begin(job, self.author) if self.step is not None and not self.framed else None
        if self.ending:
            overrides.end(job, self.ending, self.state, self.word, self.author)
        made: list[tuple[int, list[int]]] = overrides.keep(job, self.decisions) if self.decisions else []
        overrides.rebase(job, self.rests)
        if step is not None:
            steps.made_many(step, made)
            steps.ended(step, sorted(self.step or ()))
        for some in self.rows:
            some.write(job.id)
        if self.framed:
            standing.settle(job, ("pattern",), "joints were framed otherwise, and rules ask for patterns")
        return overrides.of_ids([number for number, _ in made])


def decision(
    key: str,
    parameter: str,
    value: Any,
    shown: str,
    said: Said,
    sides: tuple[Any, Any],
    partners: Sequence[str] = (),
    grounds: Snapshot | None = None,
) -> Decision:
    """One override as it is to be kept; `sides` are how its connection stands before and after."""
    before, after = sides
    return Decision(
        key, parameter, value, shown, said.reason, said.author, before, after, tuple(partners), said.cause, grounds
    )


P = TypeVar("P")


@dataclass(frozen=True)
class _Ready(Generic[P]):
    """A proposal, and what is to be kept of it."""

    proposed: P
    to_keep: ToKeep

    @property
    def basis(self) -> Basis:
        return self.to_keep.basis


def keep(job: Job, propose: Callable[[], P], to_keep: Callable[[P], ToKeep], what: str) -> tuple[P, list[Override]]:
    """A proposal as it was kept, and the overrides that were made of it; tried until nothing moves under it."""

    def worked() -> _Ready[P]:
        ready = propose()
        return _Ready(ready, to_keep(ready))

    return attempt(job, worked, lambda ready: (ready.proposed, ready.to_keep.write()), what)
