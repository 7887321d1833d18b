"""A batch over two cores and more: its families are shared out, a part of them to a process of its own, where that is
faster."""

from __future__ import annotations

import multiprocessing
import os
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from multiprocessing.connection import Connection
from typing import Any

from handrail.core.checking.aside import end_with
from handrail.core.checking.batch import Batch, Family, Outcome

WORTH = 100.0  # of work: below, starting a process takes longer than it saves
STEPPED = 40.0  # what a family weighs that climbs step by step, beside one that climbs rungs
OF_STEPS, OF_RUNGS = 0.02, 0.005  # what each of its connections adds to that, on each of its rungs
Families = dict[Family, list[int]]


def spread(batch: Batch, families: Families, cores: int) -> Iterator[tuple[int, Outcome]]:
    """(index, outcome) of every connection, the same as the batch's own, over as many `cores`. What the batch's
    `progress` raises ends it all."""
    parts = _shared_out(families, cores)
    if len(parts) < 2 or "fork" not in multiprocessing.get_all_start_methods():
        yield from batch.run(families)
        return
    others = [_Other.start(batch, part) for part in parts[1:]]
    try:
        own = replace(batch, progress=lambda done: batch.progress(done + sum(other.heard() for other in others)))
        yield from own.run(parts[0])
        done = sum(map(len, parts[0].values()))
        for other in others:
            yield from other.outcomes(lambda: batch.progress(done + sum(one.heard() for one in others)))
    finally:
        for other in others:
            other.end()


def _shared_out(families: Families, cores: int) -> list[Families]:
    """The families in parts that weigh about as much; one part where it is too little to share."""
    weights = {
        family: STEPPED * (1 + OF_STEPS * len(members))
        if family.axes
        else 1 + OF_RUNGS * len(members) * max(len(family.rungs), 1)
        for family, members in families.items()
    }
    if cores < 2 or sum(weights.values()) < WORTH:
        return [families]
    parts: list[Families] = [{} for _ in range(cores)]
    loads = [0.0] * cores
    for family in sorted(families, key=lambda f: -weights[f]):
        least = loads.index(min(loads))
        parts[least][family] = families[family]
        loads[least] += weights[family]
    return [part for part in parts if part]


@dataclass
class _Other:
    """A process that works at a part, and what was heard of it."""

    batch: Batch
    part: Families
    process: Any
    ear: Connection
    done: int = 0
    found: list[tuple[int, Outcome]] | None = None

    @classmethod
    def start(cls, batch: Batch, part: Families) -> _Other:
        context = multiprocessing.get_context("fork")
        ear, mouth = context.Pipe(duplex=False)
        process = context.Process(target=_work, args=(batch, part, mouth, os.getpid()), daemon=True)
        process.start()
        mouth.close()
        return cls(batch, part, process, ear)

    @property
    def total(self) -> int:
        return sum(map(len, self.part.values()))

    def heard(self) -> int:
        """How many it has done, by what it has said."""
        while self.found is None and self.ear.poll():
            self._hear()
        return self.done

    def _hear(self) -> None:
        try:
            said = self.ear.recv()
        except (EOFError, OSError):  # it is gone: its part is done here
            said = list(self.batch.run(self.part))
        if isinstance(said, int):
            self.done = said
        else:
            self.found, self.done = said, self.total

    def outcomes(self, progress: Callable[[], None]) -> list[tuple[int, Outcome]]:
        """What it found, waited for; `progress` is told now and then."""
        while self.found is None:
            if self.ear.poll(0.2):
                self._hear()
            progress()
        return self.found

    def end(self) -> None:
        if self.found is None:
            self.process.kill()
        self.process.join()
        self.ear.close()


def _work(batch: Batch, part: Families, mouth: Connection, parent: int) -> None:
    """In the other process, which ends with the one that started it, however that goes."""
    end_with(parent)
    mouth.send(list(replace(batch, progress=mouth.send).run(part)))
