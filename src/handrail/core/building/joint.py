"""One node while it is being framed: what runs through and what ends there, and the facts of a connection however it
was decided."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from handrail.core.building.floors import above_floor, clear, first_storey, storey
from handrail.core.building.model import ENDS, Building
from handrail.core.building.pieces import End, Pieces, hinged, outward
from handrail.core.catalogue import Section
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


@dataclass(frozen=True)
class Connection:
    """One fastening: the end it belongs to, what holds it, the condition, its facts and why.

    Facts: `skew` and `slope` in degrees, to a tenth (slope + where the member rises away), `top_offset` mm, `cope`
    none/top/bottom/both, `released`, `opposed` the id of the connection on the other side of a shared web or empty,
    `across` the same across a column's flanges or a hollow column, `face` of a hollow rectangle (long, short),
    `support_end` where the column ends at the joint, `support_type` at bases, `above_floor`, `storey` and `clear` mm of
    column splices, None where not known."""

    id: str
    node: int
    member: int
    end: int
    support: int | None
    framing: str
    reason: str
    facts: dict[str, Any] = field(default_factory=dict)


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
        for found in (self.through_columns, [m for m, _ in self.tops], [m for m, _ in self.feet]):
            if found:
                return found[0]
        return None

    def connection(self, end: End, support: int | None, framing: str, reason: str) -> Connection:
        """The connection of an end that is framed so, with the facts that go with it."""
        member = self.building.members[end[0]]
        rise = float(np.degrees(np.arcsin(np.clip(self.way(end)[2], -1.0, 1.0))))
        common = {
            "skew": 0.0,
            "slope": round(rise, TENTH) if self.pieces.roles[end[0]] == "beam" else 0.0,
            "top_offset": 0.0,
            "cope": "none",
            "released": hinged(member, end[1]),
            "opposed": "",
            "across": "",
            "support_end": False,
            "face": "",
        }
        more = _FACTS[framing](self, end, support, framing) if framing in _FACTS else {}
        return Connection(
            f"{member.name}.{ENDS[end[1]]}",
            self.node,
            end[0],
            end[1],
            support,
            framing,
            reason,
            without_minus_zero(common | more),
        )

    def id_of(self, end: End) -> str:
        return f"{self.building.members[end[0]].name}.{ENDS[end[1]]}"


def without_minus_zero(facts: dict[str, Any]) -> dict[str, Any]:
    """Facts in which nothing has a sign: 0 and -0 are equal and are written differently, so that what rests on one
    would not on the other."""
    return {name: value + 0.0 if isinstance(value, float) else value for name, value in facts.items()}


def _at_column(joint: Joint, end: End, support: int | None, framing: str) -> dict[str, Any]:
    """Skew against the face that is met, which face of a hollow rectangle, and whether the column ends there."""
    assert support is not None
    section, way, axes = joint.section(support), joint.way(end), joint.building.axes[support]
    along_web, across = abs(float(way @ axes[1])), abs(float(way @ axes[2]))
    found: dict[str, Any] = {"support_end": not joint.through_columns and not (joint.tops and joint.feet)}
    if section is not None and section.hollow:
        found["face"] = _face(section, along_web >= across)
        if section.family != "HSS_RECT":
            return found
    square, aside = max(along_web, across), min(along_web, across)
    if framing.endswith("_flange"):
        square, aside = along_web, across
    elif framing.endswith("_web"):
        square, aside = across, along_web
    return found | {"skew": round(float(np.degrees(np.arctan2(aside, square))), TENTH)}


def _face(section: Section, along_depth: bool) -> str:
    """Which face of a hollow rectangle stands square to its depth or its width; empty where they are alike."""
    if section.round or section.bf == section.d:
        return ""
    width = section.bf if along_depth else section.d
    return "long" if width == max(section.bf, section.d) else "short"


def _at_girder(joint: Joint, end: End, support: int | None, framing: str) -> dict[str, Any]:
    """Skew in plan against the girder's web, how far its top is over or under the girder's, and the cope that this
    needs."""
    assert support is not None
    building, way = joint.building, joint.way(end)
    flat = np.array([way[0], way[1], 0.0]) / max(np.hypot(way[0], way[1]), 1e-9)
    skew = float(np.degrees(np.arcsin(min(1.0, abs(float(flat @ joint.pieces.straight[support]))))))
    offset = building.members[end[0]].top_offset - building.members[support].top_offset
    own, other = joint.section(end[0]), joint.section(support)
    return {
        "skew": round(skew, TENTH),
        "top_offset": offset,
        "cope": copes_needed(own, other, offset) if own and other else "none",
        "support_end": support not in joint.through_beams,
    }


def _at_base(joint: Joint, end: End, support: int | None, framing: str) -> dict[str, Any]:
    held = joint.building.supports[joint.node]
    return {
        "support_type": "fixed" if held[3] and held[4] else "pinned",
        "storey": first_storey(joint.building, joint.node),
    }


def _at_splice(joint: Joint, end: End, support: int | None, framing: str) -> dict[str, Any]:
    return {
        "above_floor": above_floor(joint.building, joint.node),
        "storey": storey(joint.building, joint.node),
        "clear": clear(joint.building, joint.node),
    }


_FACTS: dict[str, Callable[[Joint, End, int | None, str], dict[str, Any]]] = {
    **dict.fromkeys(AT_COLUMN, _at_column),
    "beam_to_girder": _at_girder,
    "column_base": _at_base,
    "column_splice": _at_splice,
}
