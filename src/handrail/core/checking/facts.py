"""What rules can ask of the connections of a building: from the model, its combinations, and what people put on
them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from typing import Any

import numpy as np

from handrail.core.actions import COMPONENTS
from handrail.core.building.model import Building
from handrail.core.building.places import grid_names, level_names
from handrail.core.checking.acting import Acting
from handrail.core.errors import InputError
from handrail.core.joint.connection import Connection
from handrail.core.joint.relations import SHARES
from handrail.core.joint.situation import Situation
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import length

Labels = Mapping[
    str, Mapping[str, Any]
]  # connection -> group, tag (both several), sequence, pattern, where it has them
COPED_BY = "single_plate"  # the standard with whose gap a cope would be made
SIGNED = ("", ".max", ".min")


@dataclass
class Facts:
    """The facts of `connections` that are in `asks`, or all of them where that is None; lengths mm, angles rad, forces
    N, moments N*mm. `N` is the largest size over the combinations, `N.max` and `N.min` keep their signs, 0 counted in;
    `N@service` is over another set, or, where there is none of that name, in one result of the analysis."""

    building: Building
    connections: Sequence[Connection]
    acting: Acting
    labels: Labels = field(default_factory=dict)
    asks: Sequence[str] | None = None

    def of(self, k: int, situation: Situation) -> dict[str, Any]:
        """The facts of connection `k`; what it does not have is left out, or None."""
        connection = self.connections[k]
        facts = self._of_the_end(connection) | _of_the_place(situation)
        if self._wants("cope_length") or self._wants("cope_depth"):
            facts |= copes(situation)
        peaks = self._peaks[k]
        for n, name in enumerate(COMPONENTS):
            low, high = peaks[n]
            facts |= {name: max(high, -low), f"{name}.max": high, f"{name}.min": low}
            if name != "T" and self._wants(f"{name}_share"):
                facts[f"{name}_share"] = facts[name] / self._available(situation, name)
        for name, (highs, lows) in self._other_sets.items():
            high, low = float(highs[k]), float(lows[k])
            ends = name.partition("@")[0]
            facts[name] = high if ends.endswith(".max") else low if ends.endswith(".min") else max(high, -low)
        if self._wants("level"):
            facts["level"] = self._levels[connection.node] or None
        if self._wants("grid"):
            facts["grid"] = self._grids[connection.node] or None
        facts["axis"] = _AXES.get(connection.framing)
        facts["deeper"] = _deeper(connection, situation)
        return facts | {name: value for name, value in self.labels.get(connection.id, {}).items() if value}

    def _available(self, situation: Situation, action: str) -> float:
        """What the supported member can take of one action by yielding, N or N*mm."""
        own = situation.supported
        return self.acting.code.members.available(own.section, own.grade.Fy, action)

    def _wants(self, name: str) -> bool:
        return self.asks is None or name in self.asks

    def _of_the_end(self, connection: Connection) -> dict[str, Any]:
        member, piece = self.building.members[connection.member], connection.supported
        facts: dict[str, Any] = {
            "framing": connection.framing,
            "connection": connection.id,
            "joint": self.building.nodes[connection.node],
            "cope": connection.facts["cope"],
            "released": connection.facts["released"],
            "opposed": bool(connection.others(SHARES)),
            "skew": float(np.radians(piece.skew)),
            "slope": abs(float(np.radians(piece.slope))),
            "top_offset": piece.offset,
            "elevation": float(self.building.xyz[connection.node, 2]),
            "supported.name": member.name,
            "supported.length": connection.facts.get("length"),
            "supported.section": member.section,
            "supported.grade": member.grade,
            "supported.role": self.acting.roles[connection.member],
            "supported.seismic": member.seismic or None,
            "intent": (member.intent_j if connection.end else member.intent_i) or None,
        }
        if connection.support is not None:
            support = self.building.members[connection.support]
            facts |= {
                "support.name": support.name,
                "support.length": connection.facts.get("support_length"),
                "support.section": support.section,
                "support.grade": support.grade,
                "support.role": self.acting.roles[connection.support],
            }
        return facts

    @cached_property
    def _peaks(self) -> list[list[tuple[float, float]]]:
        """(connections)(6)(low, high) over the combinations that are checked, 0 counted in."""
        return self.acting.peaks().tolist()

    @cached_property
    def _other_sets(self) -> dict[str, tuple[np.ndarray, np.ndarray]]:
        """Of each action that is asked for over a set of its own: (high, low), each (connections,)."""
        others = {}
        for name in [asked for asked in self.asks or () if "@" in asked]:
            action, _, of = name.partition("@")
            known = self._of_set(of)
            if known is not None:
                values = known[..., COMPONENTS.index(action.partition(".")[0])]
                others[name] = (values.max(axis=1, initial=0.0), values.min(axis=1, initial=0.0))
        return others

    def _of_set(self, name: str) -> np.ndarray | None:
        """(connections, combinations, 6) by one set; None where the model has none of it."""
        if name not in self._sets:
            self._sets[name] = self.acting.by_set(name)
        return self._sets[name]

    @cached_property
    def _sets(self) -> dict[str, np.ndarray | None]:
        return {}

    @cached_property
    def _levels(self) -> list[str]:
        return level_names(self.building)

    @cached_property
    def _grids(self) -> list[str]:
        return grid_names(self.building)


_AXES = {"beam_to_column_flange": "strong", "beam_to_column_web": "weak"}


def _deeper(connection: Connection, situation: Situation) -> bool | None:
    """Whether a beam's bottom lies below that of the girder that carries it; None where no girder does."""
    if connection.framing != "beam_to_girder" or situation.support is None:
        return None
    below = situation.top_offset + situation.supported.section.d - situation.support.section.d
    return below > 0.5  # mm


@lru_cache(maxsize=4096)
def copes(situation: Situation) -> Mapping[str, float]:
    """How long and how deep the larger of the copes of a beam would be, made with what is usual, mm; none where it
    meets no girder."""
    standard = STANDARDS[COPED_BY]
    if situation.framing not in standard.framings:
        return {}
    try:
        sizes = standard.complete(situation, {})
    except InputError:
        return {}
    return {name: max(length(sizes, name), length(sizes, f"bottom_{name}")) for name in ("cope_length", "cope_depth")}


def _of_the_place(situation: Situation) -> dict[str, Any]:
    facts: dict[str, Any] = {
        "face": situation.face or None,
        "fixity": situation.fixity or None,
        "braced": situation.braced,
        "seismic": situation.seismic,
    }
    if (below := situation.foundation) is not None:
        facts |= {"foundation.kind": below.kind, "foundation.fc": below.fc, "foundation.thickness": below.thickness}
        facts["foundation.edge"] = min(*below.along, *below.across)
    for name, steel in (("supported", situation.supported), ("support", situation.support)):
        if steel is not None:
            s = steel.section
            walls = (s.wall, s.wall) if s.hollow else (s.tw, s.tf)
            facts |= {
                f"{name}.family": s.family,
                f"{name}.depth": s.d,
                f"{name}.width": s.bf or s.d,
                f"{name}.web": walls[0],
                f"{name}.flange": walls[1],
            }
    return facts
