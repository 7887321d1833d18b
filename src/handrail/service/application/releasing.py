"""An engineer's word that connections may be drawn."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from handrail.core.errors import InputError
from handrail.service.application.attempting import Basis, attempt
from handrail.store import jobs, team
from handrail.store.database import reading
from handrail.store.models import Connection, Job


@dataclass(frozen=True)
class _Releasing:
    basis: Basis
    ready: Sequence[Connection]
    why: dict[str, str]


def release(
    job: Job, keys: Sequence[str], author: str, word: str, skip: bool, under_target: bool
) -> tuple[int, dict[str, str]]:
    """Say that connections may be drawn; how many, and why not the others. Raises InputError where one cannot be and
    they are not to be skipped."""

    def worked() -> _Releasing:
        with reading():
            basis, records = Basis(job, moves=jobs.moves(job)), team.known(job, keys)
            why = team.unreleasable(job, records, under_target)
        if why and not skip:
            key, words = next(iter(why.items()))
            more = f" (and {len(why) - 1} more)" if len(why) > 1 else ""
            raise InputError(
                f"{key} cannot be released, {words}{more}; nothing was released: leave them out, or say skip"
            )
        return _Releasing(basis, [c for c in records if c.key not in why and not c.released], why)

    def write(releasing: _Releasing) -> tuple[int, dict[str, str]]:
        team.release(job, releasing.ready, author, word)
        return len(releasing.ready), releasing.why

    return attempt(job, worked, write, "the job", decided=False)
