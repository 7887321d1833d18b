"""One node while it is being framed: what runs through and what ends there, and a connection's pieces and facts however
it was decided."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from handrail.core.building.floors import above_floor, clear, first_storey, storey
from handrail.core.building.model import ENDS, Building
from handrail.core.building.pieces import End, Pieces, hinged, outward
from handrail.core.catalogue import Section
from handrail.core.joint.connection import SUPPORT, SUPPORTED, Connection, Joined
from handrail.core.parts.cope import copes_needed

SHEAR_ENDS = ("beam_to_column_flange", "beam_to_column_web", "beam_to_hollow_column", "beam_to_girder")
TENTH = 1  # decimals of the degrees that members meet at: what a model's coordinates are off by turns nothing
AT_COLUMN = (
    "beam_to_column_flange",
    "beam_to_column_web",
    "beam_to_hollow_column",
    "moment_to_column_flange",
    "moment_to_column_web",
    "column_to_rafter",
)


@dataclass
class Joint:
    """One node while it is being framed."""

    building: Building
    pieces: Pieces
    node: int
    without: list[tuple[str, str]]

    def __post_init__(self) -> None:
        kinds = self.pieces.roles
        ending = self.pieces.ending.get(self.node, [])
        through = list(self.pieces.through.get(self.node, {}).values())
        self.beam_ends = [e for e in ending if kinds[e[0]] == "beam"]
        self.brace_ends = [e for e in ending if kinds[e[0]] == "brace"]
        self.tops = [e for e in ending if kinds[e[0]] == "column" and outward(self.building, e)[2] < 0]
        self.feet = [e for e in ending if kinds[e[0]] == "column" and outward(self.building, e)[2] >= 0]
        self.through_columns = [m for m in through if kinds[m] == "column"]
        self.through_beams = [m for m in through if kinds[m] == "beam"]
        self.supported = any(self.building.supports.get(self.node, ()))

    def way(self, end: End) -> np.ndarray:
        """Unit vector from an end into its piece of steel."""
        axis = self.pieces.straight[end[0]]
        return -axis if end[1] else axis

    def section(self, member: int) -> Section | None:
        return self.building.section(self.building.members[member].section)

    def name(self, member: int) -> str:
        return f"{self.building.members[member].section} {self.building.members[member].name}"

    @property
    def column(self) -> int | None:
        """The column that beams and braces frame to: one that runs through, else the one below, else above.

        None where a beam runs through and no column does, over a column's top or under the foot of one that it carries:
        the others frame to that beam."""
        if self.through_beams and not self.through_columns:
            return None
        for members in (self.through_columns, [m for m, _ in self.tops], [m for m, _ in self.feet]):
            if members:
                return members[0]
        return None

    def connection(self, end: End, support: int | None, framing: str, reason: str) -> Connection:
        """The connection of an end that is framed so: its pieces, and the facts that go with it."""
        member = self.building.members[end[0]]
        rise = float(np.degrees(np.arcsin(np.clip(self.way(end)[2], -1.0, 1.0))))
        slope = round(rise, TENTH) + 0.0 if self.pieces.roles[end[0]] == "beam" else 0.0  # -0 is written otherwise
        met = _MET[framing](self, end, support, framing) if framing in _MET else Met()
        pieces = [Joined(SUPPORTED, end[0], (end,), met.skew, slope, met.offset, met.face)]
        if support is not None:
            pieces.append(Joined(SUPPORT, support, self._ends_of(support), ends_here=met.support_ends))
        facts = {"cope": "none", "released": hinged(member, end[1])} | met.facts
        own = {"length": end[0], "support_length": support}
        facts |= {name: self.pieces.long.get(self.pieces.piece[k]) for name, k in own.items() if k is not None}
        return Connection(self.id_of(end), self.node, tuple(pieces), framing, reason, facts)

    def _ends_of(self, support: int) -> tuple[End, ...]:
        """The ends here of what supports others: of a column all of its elements', above and below."""
        kind = self.pieces.roles[support]
        ends = self.building.ends_at[self.node]
        return tuple(e for e in ends if self.pieces.roles[e[0]] == kind and (kind == "column" or e[0] == support))

    def id_of(self, end: End) -> str:
        return f"{self.building.members[end[0]].name}.{ENDS[end[1]]}"


@dataclass(frozen=True)
class Met:
    """How an end meets what supports it, as `Joined` has it, and facts."""

    skew: float = 0.0
    offset: float = 0.0
    face: str = ""
    support_ends: bool = False
    facts: dict[str, Any] = field(default_factory=dict)


def _at_column(joint: Joint, end: End, support: int | None, framing: str) -> Met:
    """Skew against the face that is met, which face of a hollow rectangle, and whether the column ends there."""
    assert support is not None
    section, way, axes = joint.section(support), joint.way(end), joint.building.axes[support]
    along_web, across = abs(float(way @ axes[1])), abs(float(way @ axes[2]))
    ends, face = not joint.through_columns and not (joint.tops and joint.feet), ""
    if section is not None and section.hollow:
        face = _face(section, along_web >= across)
        if section.family != "HSS_RECT":
            return Met(face=face, support_ends=ends)
    square, aside = max(along_web, across), min(along_web, across)
    if framing.endswith("_flange"):
        square, aside = along_web, across
    elif framing.endswith("_web"):
        square, aside = across, along_web
    return Met(round(float(np.degrees(np.arctan2(aside, square))), TENTH), face=face, support_ends=ends)


def _face(section: Section, along_depth: bool) -> str:
    """Which face of a hollow rectangle stands square to its depth or its width; empty where they are alike."""
    if section.round or section.bf == section.d:
        return ""
    width = section.bf if along_depth else section.d
    return "long" if width == max(section.bf, section.d) else "short"


def _at_girder(joint: Joint, end: End, support: int | None, framing: str) -> Met:
    """Skew in plan against the girder's web, how far its top is over or under the girder's, and the cope that this
    needs."""
    assert support is not None
    building, way = joint.building, joint.way(end)
    flat = np.array([way[0], way[1], 0.0]) / max(np.hypot(way[0], way[1]), 1e-9)
    skew = float(np.degrees(np.arcsin(min(1.0, abs(float(flat @ joint.pieces.straight[support]))))))
    offset = building.members[end[0]].top_offset - building.members[support].top_offset
    own, other = joint.section(end[0]), joint.section(support)
    cope = copes_needed(own, other, offset) if own and other else "none"
    runs_on = support in joint.through_beams
    return Met(round(skew, TENTH), offset + 0.0, support_ends=not runs_on, facts={"cope": cope})


def _at_base(joint: Joint, end: End, support: int | None, framing: str) -> Met:
    held = joint.building.supports[joint.node]
    fixity = "fixed" if held[3] and held[4] else "pinned"
    return Met(facts={"support_type": fixity, "storey": first_storey(joint.building, joint.node)})


def _at_splice(joint: Joint, end: End, support: int | None, framing: str) -> Met:
    building, node = joint.building, joint.node
    heights = {"above_floor": above_floor(building, node), "storey": storey(building, node)}
    return Met(facts=heights | {"clear": clear(building, node)})


_MET: dict[str, Callable[[Joint, End, int | None, str], Met]] = {
    **dict.fromkeys(AT_COLUMN, _at_column),
    "beam_to_girder": _at_girder,
    "column_base": _at_base,
    "column_splice": _at_splice,
}
