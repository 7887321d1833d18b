"""Sizing step by step: from the least of every axis, whatever governs says which axis goes up; then each goes down as
far as it may."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field

import numpy as np

from handrail.core.standards.sizes import Sized

Rung = tuple[tuple[str, Sized], ...]
Axes = tuple[tuple[str, tuple[Rung, ...]], ...]  # name, and what each step of it sets, the least first
Place = tuple[int, ...]
PASSED, FAILED, BROKEN, UNKNOWN, OPEN = 0, 1, 2, 3, 9


@dataclass
class Tried:
    """One place on the axes for all connections of a family, (k,): `rank` PASSED to UNKNOWN, OPEN where not tried; the
    `use`, and what to raise: checks and broken rules, the worst first."""

    rank: np.ndarray
    use: np.ndarray
    state: np.ndarray
    action: np.ndarray
    wants: list[tuple[str, ...]]

    @classmethod
    def of(cls, k: int) -> Tried:
        return cls(np.full(k, OPEN), np.full(k, np.inf), np.zeros(k, int), np.zeros(k, int), [()] * k)


Try = Callable[[Rung, np.ndarray, Tried], None]  # sizes of a place, which connections, where it goes


@dataclass
class Climb:
    """`attempt` fills a Tried for some connections at one place; `steps` names, by check or rule, the axes that help,
    the first first."""

    axes: Axes
    steps: Mapping[str, tuple[str, ...]]
    attempt: Try
    k: int
    tried: dict[Place, Tried] = field(default_factory=dict)

    def run(self) -> list[Place]:
        """The place that each connection comes to: the first that passes, each axis as low as it may be; else the best
        one met."""
        at: list[Place] = [tuple(0 for _ in self.axes)] * self.k
        places: list[Place] = list(at)
        left = list(range(self.k))
        while left:
            self._try((n, at[n]) for n in left)
            going = []
            for n in left:
                places[n] = min(places[n], at[n], key=lambda place, n=n: self._order(place, n))  # type: ignore[misc]
                higher = self._higher(n, at[n])
                if higher is not None:
                    at[n] = higher
                    going.append(n)
            left = going
        return self._lowered(places)

    def _order(self, place: Place, n: int) -> tuple[int, float]:
        """Better is less: passed before failed, then the lower utilisation."""
        tried = self.tried.get(place)
        return (OPEN, np.inf) if tried is None else (int(tried.rank[n]), float(tried.use[n]))

    def _try(self, wanted: Iterable[tuple[int, Place]]) -> None:
        by_place: dict[Place, list[int]] = {}
        for n, place in wanted:
            if place not in self.tried or self.tried[place].rank[n] == OPEN:
                by_place.setdefault(place, []).append(n)
        for place, members in by_place.items():
            tried = self.tried.setdefault(place, Tried.of(self.k))
            self.attempt(self.sizes(place), np.array(members), tried)

    def sizes(self, place: Place) -> Rung:
        """What a place sets."""
        return tuple(sorted(size for (_, rungs), step in zip(self.axes, place, strict=True) for size in rungs[step]))

    def _higher(self, n: int, place: Place) -> Place | None:
        """One step up the first axis that helps; None where it passed or nothing helps any more."""
        tried = self.tried[place]
        if tried.rank[n] == PASSED:
            return None
        for what in tried.wants[n]:
            for axis in self.steps.get(what, ()):
                for index, (name, rungs) in enumerate(self.axes):
                    if name == axis and place[index] + 1 < len(rungs):
                        return (*place[:index], place[index] + 1, *place[index + 1 :])
        return None

    def _lowered(self, places: list[Place]) -> list[Place]:
        """Each axis in turn as low as still passes: what an early step raised may not be needed after a later one."""
        for index in range(len(self.axes)):
            left = [n for n in range(self.k) if self.tried[places[n]].rank[n] == PASSED and places[n][index]]
            while left:
                lower = {n: (*places[n][:index], places[n][index] - 1, *places[n][index + 1 :]) for n in left}
                self._try(lower.items())
                left = [n for n in left if self.tried[lower[n]].rank[n] == PASSED]
                for n in left:
                    places[n] = lower[n]
                left = [n for n in left if places[n][index]]
        return places
