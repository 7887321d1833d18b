"""What meets at every joint, and how: a framing condition with its facts and its reason in words."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np

from handrail.core.building.floors import above_floor, storey
from handrail.core.building.model import ENDS, Building
from handrail.core.building.pieces import End, Pieces, find_pieces, hinged, outward
from handrail.core.catalogue import Section
from handrail.core.parts.cope import copes_needed

SHEAR_ENDS = ("beam_to_column_flange", "beam_to_column_web", "beam_to_hollow_column", "beam_to_girder")
CONDITIONS = (
    *SHEAR_ENDS, "beam_over_column", "beam_splice", "column_splice", "column_base", "brace_at_corner", "brace_at_beam",
    "brace_at_base", "moment_to_column_flange", "moment_to_column_web", "column_on_beam", "column_to_rafter",
    "rafter_to_rafter", "unrecognised",
)  # fmt: skip
STRAIGHT = np.cos(np.radians(5.0))
OPPOSITE = np.cos(np.radians(10.0))
RAFTER = 5.0  # degrees


@dataclass(frozen=True)
class Connection:
    """One fastening: the end it belongs to, what holds it, the condition, its facts and why.

    Facts: `skew` and `slope` in degrees (slope + where the member rises away), `top_offset` mm, `cope`
    none/top/bottom/both, `released`, `opposed` the id of the connection on the other side of a shared web or empty, `across`
    the same across a column's flanges or a hollow column, `face` of a hollow rectangle (long, short), `support_end` where the
    column ends at the joint, `support_type` at bases, `above_floor` and `storey` mm of column splices, None where not known.
    """

    id: str
    node: int
    member: int
    end: int
    support: int | None
    framing: str
    reason: str
    facts: dict[str, Any] = field(default_factory=dict)


@dataclass(frozen=True)
class Framing:
    """All connections of a building, and the ends that need none, each with its word."""

    connections: tuple[Connection, ...]
    without: tuple[tuple[str, str], ...]
    pieces: Pieces


@dataclass
class _Joint:
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

    def section(self, member: int) -> Section | None:
        return self.building.section(self.building.members[member].section)

    def name(self, member: int) -> str:
        return f"{self.building.members[member].section} {self.building.members[member].name}"

    @property
    def column(self) -> int | None:
        """The column that beams and braces frame to: one that runs through, else the one below, else above.

        None where a beam runs over the column's top: the others frame to that beam.
        """
        if self.through_beams and not self.through_columns and not self.feet:
            return None
        for found in (self.through_columns, [m for m, _ in self.tops], [m for m, _ in self.feet]):
            if found:
                return found[0]
        return None

    def connection(self, end: End, support: int | None, framing: str, reason: str, **facts: Any) -> Connection:
        member = self.building.members[end[0]]
        rise = float(np.degrees(np.arcsin(np.clip(outward(self.building, end)[2], -1.0, 1.0))))
        common = {"skew": 0.0, "slope": round(rise, 4) if self.pieces.roles[end[0]] == "beam" else 0.0, "top_offset": 0.0,
                  "cope": "none", "released": hinged(member, end[1]), "opposed": "", "across": "",
                  "support_end": False, "face": ""}  # fmt: skip
        return Connection(f"{member.name}.{ENDS[end[1]]}", self.node, end[0], end[1], support, framing, reason, common | facts)


def frame(building: Building) -> Framing:
    """Frame every node; every end either has a connection or is named in `without`."""
    pieces = find_pieces(building)
    found: list[Connection] = []
    without: list[tuple[str, str]] = []
    for node in building.ends_at:
        joint = _Joint(building, pieces, node, without)
        own = [*_columns(joint), *_beams(joint), *_braces(joint)]
        found.extend(_opposed(building, own))
        if len(joint.through_beams) > 1 and not joint.through_columns:
            names = " and ".join(joint.name(m) for m in joint.through_beams)
            without.append((f"node {building.nodes[node]}", f"{names} cross and both run through: say which is one piece with `physical`"))
    return Framing(tuple(found), tuple(without), pieces)


def _columns(joint: _Joint) -> Iterator[Connection]:
    tops, feet = list(joint.tops), list(joint.feet)
    if joint.supported and feet:
        held = joint.building.supports[joint.node]
        kind = "fixed" if held[3] and held[4] else "pinned"
        for end in feet:
            yield joint.connection(end, None, "column_base", f"foot of {joint.name(end[0])} on a {kind} support", support_type=kind)
        feet = []
    while tops and feet:
        top, foot = tops.pop(0), feet.pop(0)
        yield joint.connection(foot, top[0], "column_splice", f"{joint.name(foot[0])} stands on {joint.name(top[0])}",
                               above_floor=above_floor(joint.building, joint.node), storey=storey(joint.building, joint.node))  # fmt: skip
    for end in feet:
        if joint.through_beams:
            yield joint.connection(end, joint.through_beams[0], "column_on_beam",
                                   f"{joint.name(end[0])} stands on {joint.name(joint.through_beams[0])}, no column below")  # fmt: skip
        else:
            yield joint.connection(
                end, None, "unrecognised", f"foot of {joint.name(end[0])} has no support, column or through beam below it"
            )
    for end in tops:
        if joint.through_beams:
            beam = joint.through_beams[0]
            yield joint.connection(end, beam, "beam_over_column", f"{joint.name(beam)} runs over the top of {joint.name(end[0])}")
        elif joint.beam_ends or joint.brace_ends:
            joint.without.append((_id(joint, end), f"top of {joint.name(end[0])}: beams and braces are fastened to it"))
        else:
            joint.without.append((_id(joint, end), f"free top of {joint.name(end[0])}"))


def _id(joint: _Joint, end: End) -> str:
    return f"{joint.building.members[end[0]].name}.{ENDS[end[1]]}"


def _beams(joint: _Joint) -> Iterator[Connection]:
    if joint.column is not None:
        for end in joint.beam_ends:
            yield _to_column(joint, end, joint.column)
    elif joint.through_beams:
        for end in joint.beam_ends:
            yield _to_girder(joint, end, joint.through_beams)
    elif tip := _tip(joint):
        joint.without.append((_id(joint, tip), f"free end of {joint.name(tip[0])}: it carries the others"))
        for end in joint.beam_ends:
            if end != tip:
                yield _to_girder(joint, end, [tip[0]])
    else:
        yield from _among_ends(joint)


def _to_column(joint: _Joint, end: End, column: int) -> Connection:
    section, way = joint.section(column), outward(joint.building, end)
    axes = joint.building.axes[column]
    along_web, across = abs(float(way @ axes[1])), abs(float(way @ axes[2]))
    ends = not joint.through_columns and not (joint.tops and joint.feet)
    released = hinged(joint.building.members[end[0]], end[1])
    name = joint.name(column)
    if section is not None and section.hollow:
        skew = float(np.degrees(np.arctan2(min(along_web, across), max(along_web, across)))) if section.family == "HSS_RECT" else 0.0
        return joint.connection(
            end, column, "beam_to_hollow_column", f"end at the wall of hollow column {name}", skew=round(skew, 4), support_end=ends,
            face=_face(section, along_web >= across),
        )  # fmt: skip
    face = "flange" if along_web >= across else "web"
    skew = float(np.degrees(np.arctan2(min(along_web, across), max(along_web, across))))
    rise = float(np.degrees(np.arcsin(min(1.0, abs(way[2])))))
    how = "hinged" if released else "not released"
    if released:
        return joint.connection(
            end, column, f"beam_to_column_{face}", f"hinged end at the {face} of column {name}", skew=round(skew, 4), support_end=ends
        )
    if rise > RAFTER:
        return joint.connection(
            end, column, "column_to_rafter", f"sloping beam, {how}, at column {name}", skew=round(skew, 4), support_end=ends
        )
    return joint.connection(
        end, column, f"moment_to_column_{face}", f"end {how} at the {face} of column {name}", skew=round(skew, 4), support_end=ends
    )


def _face(section: Section, along_depth: bool) -> str:
    """Which face of a hollow rectangle stands square to its depth or its width; empty where they are alike."""
    if section.round or section.bf == section.d:
        return ""
    width = section.bf if along_depth else section.d
    return "long" if width == max(section.bf, section.d) else "short"


def _tip(joint: _Joint) -> End | None:
    """The one end that is not released among hinged ones: the tip of a cantilever that carries them."""
    stiff = [e for e in joint.beam_ends if not hinged(joint.building.members[e[0]], e[1])]
    return stiff[0] if len(stiff) == 1 and len(joint.beam_ends) > 1 and not joint.supported else None


def _to_girder(joint: _Joint, end: End, through: list[int]) -> Connection:
    building = joint.building
    way = outward(building, end)
    crossing = [m for m in through if abs(way @ building.axes[m, 0]) < STRAIGHT]
    if not crossing:
        return joint.connection(end, None, "unrecognised", f"end lies along {joint.name(through[0])}, which would carry it")
    girder = max(crossing, key=lambda m: s.d if (s := joint.section(m)) else 0.0)
    flat = np.array([way[0], way[1], 0.0]) / max(np.hypot(way[0], way[1]), 1e-9)
    skew = float(np.degrees(np.arcsin(min(1.0, abs(float(flat @ building.axes[girder, 0]))))))
    offset = building.members[end[0]].top_offset - building.members[girder].top_offset
    own, other = joint.section(end[0]), joint.section(girder)
    cope = copes_needed(own, other, offset) if own and other else "none"
    how = "" if hinged(building.members[end[0]], end[1]) else ", not released"
    runs = "which runs through" if girder in joint.through_beams else "at its tip"
    return joint.connection(end, girder, "beam_to_girder", f"end at the web of {joint.name(girder)}, {runs}{how}",
                            skew=round(skew, 4), top_offset=offset, cope=cope, support_end=girder not in joint.through_beams)  # fmt: skip


def _among_ends(joint: _Joint) -> Iterator[Connection]:
    ends = joint.beam_ends
    if len(ends) == 2:
        a, b = ends
        bend = float(outward(joint.building, a) @ outward(joint.building, b))
        later = b if joint.building.members[b[0]].name > joint.building.members[a[0]].name else a
        first = a if later is b else b
        if bend < -STRAIGHT:
            yield joint.connection(later, first[0], "beam_splice", f"{joint.name(first[0])} and {joint.name(later[0])} meet in one line")
            joint.without.append((_id(joint, first), f"spliced with {joint.name(later[0])}"))
            return
        if bend < 0 and all(abs(outward(joint.building, e)[2]) > np.sin(np.radians(RAFTER)) for e in ends):
            yield joint.connection(later, first[0], "rafter_to_rafter", f"{joint.name(first[0])} and {joint.name(later[0])} meet at a bend")
            joint.without.append((_id(joint, first), f"joined to {joint.name(later[0])}"))
            return
    if len(ends) == 1 and not joint.brace_ends and not joint.supported:
        joint.without.append((_id(joint, ends[0]), f"free end of {joint.name(ends[0][0])}"))
        return
    why = "on a support without a column" if joint.supported else f"{len(ends)} beam ends meet and none runs through"
    for end in ends:
        yield joint.connection(end, None, "unrecognised", why)


def _braces(joint: _Joint) -> Iterator[Connection]:
    for end in joint.brace_ends:
        beams = joint.through_beams or [m for m, _ in joint.beam_ends]
        if joint.supported:
            yield joint.connection(end, joint.column, "brace_at_base", f"{joint.name(end[0])} lands on a support")
        elif joint.column is not None:
            yield joint.connection(end, joint.column, "brace_at_corner", f"{joint.name(end[0])} meets column {joint.name(joint.column)}")
        elif beams:
            yield joint.connection(end, beams[0], "brace_at_beam", f"{joint.name(end[0])} meets {joint.name(beams[0])} away from a column")
        else:
            yield joint.connection(end, None, "unrecognised", f"{joint.name(end[0])} meets neither column, beam nor support")


def _opposed(building: Building, found: list[Connection]) -> list[Connection]:
    """Mark beams that face each other through one web, or across one column."""
    beams = [c for c in found if c.framing in SHEAR_ENDS or c.framing.startswith("moment_to_column")]
    other: dict[str, str] = {}
    for k, a in enumerate(beams):
        for b in beams[k + 1 :]:
            across = outward(building, (a.member, a.end)) @ outward(building, (b.member, b.end))
            if a.support == b.support and across < -OPPOSITE:
                other.setdefault(a.id, b.id)
                other.setdefault(b.id, a.id)
    shared = ("beam_to_girder", "beam_to_column_web")
    return [replace(c, facts=c.facts | {"opposed" if c.framing in shared else "across": other[c.id]}) if c.id in other else c for c in found]
