"""What acts on every connection of a building in the combinations that a run checks."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from handrail.core.building.actions import end_actions
from handrail.core.building.combining import CombinationSet, strength_set
from handrail.core.building.framing import Connection
from handrail.core.building.model import Building


@dataclass
class Acting:
    """The strength combinations of one method for all, and those of overstrength for collectors (ASCE 7 12.10.2.1)."""

    building: Building
    connections: tuple[Connection, ...]
    method: str

    @cached_property
    def strength(self) -> CombinationSet:
        return strength_set(self.building, self.method)

    @cached_property
    def overstrength(self) -> CombinationSet:
        return strength_set(self.building, self.method, "overstrength")

    @cached_property
    def names(self) -> tuple[str, ...]:
        """Strength, then overstrength; none where there is no strength combination."""
        return (*self.strength.names, *self.overstrength.names) if self.strength.names else ()

    @cached_property
    def collector(self) -> np.ndarray:
        """(connections,) whether the supported member is a collector."""
        return np.array([self.building.members[c.member].seismic == "collector" for c in self.connections], bool)

    @cached_property
    def _formed(self) -> np.ndarray:
        """(connections, combinations, 6) of every end in every combination."""
        ends = np.array([c.member for c in self.connections], int), np.array([c.end for c in self.connections], int)
        sets = (self.strength, self.overstrength) if self.names else (self.strength,)
        return np.concatenate([end_actions(self.building, found, *ends) for found in sets], axis=1)

    @cached_property
    def _other(self) -> np.ndarray:
        """(connections,) index of the beam opposite; -1 where there is none."""
        index = {c.id: k for k, c in enumerate(self.connections)}
        return np.array([index.get(c.facts.get("opposed", ""), -1) for c in self.connections], int)

    def _at(self, ends: np.ndarray, collector: np.ndarray) -> np.ndarray:
        """Actions of `ends`; where not `collector`, the first strength combination stands for each of overstrength."""
        found = self._formed[ends]
        counts = collector[:, None] | (np.arange(found.shape[1]) < len(self.strength.names))
        return found if counts.all() else np.where(counts[:, :, None], found, found[:, :1])

    @cached_property
    def all(self) -> np.ndarray:
        """(connections, combinations, 6) as N, V, Vw, M, Mw, T; NaN where forces are missing."""
        return self._at(np.arange(len(self.connections)), self.collector)

    def on(self, indices: np.ndarray) -> np.ndarray:
        return self.all[indices]

    def opposed(self, indices: np.ndarray) -> np.ndarray | None:
        """The actions of the beams opposite, zero where there is none; None where none has any."""
        other = self._other[indices]
        if (other < 0).all():
            return None
        return np.where((other >= 0)[:, None, None], np.nan_to_num(self._at(other, self.collector[indices])), 0.0)
