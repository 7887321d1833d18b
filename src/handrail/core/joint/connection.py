"""One fastening of a building: the members that meet there by role, the condition, its facts, its relations and why."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any

from handrail.core.joint.relations import Relation, others
from handrail.core.joint.situation import SUPPORT, SUPPORTED


@dataclass(frozen=True)
class Joined:
    """A member at a connection by its `role`: its number in the building, and `ends`, the (member, end) of each
    element of it that ends there.

    `skew` and `slope` degrees, to a tenth (slope + where it rises away), `offset` mm that its top lies below that of
    what it meets, `face` of what it meets where these can be told apart (long, short), `ends_here` where the piece
    does not run on, though others stand on it."""

    role: str
    member: int
    ends: tuple[tuple[int, int], ...] = ()
    skew: float = 0.0
    slope: float = 0.0
    offset: float = 0.0
    face: str = ""
    ends_here: bool = False


@dataclass(frozen=True)
class Connection:
    """A connection is called by the end of the member that it fastens, the first of its `pieces`.

    Facts: `cope` none/top/bottom/both, `released`, `length` and `support_length` of the members as whole pieces, mm,
    `support_type` at bases, `above_floor`, `storey` and `clear` mm of column splices, None where not known."""

    id: str
    node: int
    pieces: tuple[Joined, ...]
    framing: str
    reason: str
    facts: Mapping[str, Any] = field(default_factory=dict)
    relations: tuple[Relation, ...] = ()

    @cached_property
    def supported(self) -> Joined:
        """The piece whose end it is."""
        return self.pieces[0]

    @cached_property
    def carrier(self) -> Joined | None:
        """What it is fastened to; None where that is no member."""
        return next((p for p in self.pieces if p.role == SUPPORT), None)

    @property
    def member(self) -> int:
        """The number of the member whose end it is."""
        return self.supported.member

    @property
    def end(self) -> int:
        """Which end of it: 0 for i, 1 for j."""
        return self.supported.ends[0][1]

    @cached_property
    def support(self) -> int | None:
        """The number of the member that it is fastened to; None where that is none."""
        return self.carrier.member if self.carrier else None

    def others(self, *kinds: str) -> tuple[str, ...]:
        """The connections that it has to do with, by relations of some `kinds` or of any."""
        return others(self.relations, *kinds)

    def with_relations(self, relations: tuple[Relation, ...]) -> Connection:
        """The same with other relations."""
        return self if relations == self.relations else replace(self, relations=relations)


__all__ = ["SUPPORT", "SUPPORTED", "Connection", "Joined"]
