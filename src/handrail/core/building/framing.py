"""What meets at every joint, and how: a framing condition with its facts and its reason in words."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np

from handrail.core.building.joint import SHEAR_ENDS, Joint
from handrail.core.building.model import Building
from handrail.core.building.pieces import End, Pieces, find_pieces, hinged, outward
from handrail.core.joint.connection import Connection
from handrail.core.joint.relations import OPPOSITE, OTHER_SIDE, SHARES, Relation

__all__ = ["CONDITIONS", "SHEAR_ENDS", "Framing", "frame"]

CONDITIONS = (
    *SHEAR_ENDS, "beam_over_column", "beam_splice", "column_splice", "column_base", "brace_at_corner", "brace_at_beam",
    "brace_at_base", "moment_to_column_flange", "moment_to_column_web", "column_on_beam", "column_to_rafter",
    "rafter_to_rafter", "unrecognised",
)  # fmt: skip
STRAIGHT = np.cos(np.radians(5.0))
OPPOSED = np.cos(np.radians(10.0))
ASIDE = 0.1  # of a beam's direction that points away from a web on whose side it stands
ONE_WEB = ("beam_to_girder", "beam_to_column_web")  # whose bolts go through what supports them
RAFTER = 5.0  # degrees


@dataclass(frozen=True)
class Framing:
    """All connections of a building, and the ends that need none, each with its word."""

    connections: tuple[Connection, ...]
    without: tuple[tuple[str, str], ...]
    pieces: Pieces


def frame(building: Building) -> Framing:
    """Frame every node; every end either has a connection or is named in `without`."""
    pieces = find_pieces(building)
    connections: list[Connection] = []
    without: list[tuple[str, str]] = []
    for node in building.ends_at:
        joint = Joint(building, pieces, node, without)
        own = [*_columns(joint), *_beams(joint), *_braces(joint)]
        connections.extend(related(building, pieces, own))
        if len(joint.through_beams) > 1 and not joint.through_columns:
            names = " and ".join(joint.name(m) for m in joint.through_beams)
            without.append(
                (
                    f"node {building.nodes[node]}",
                    f"{names} cross and both run through: say which is one piece with `physical`",
                )
            )
    return Framing(tuple(connections), tuple(without), pieces)


def _columns(joint: Joint) -> Iterator[Connection]:
    tops, feet = list(joint.tops), list(joint.feet)
    if joint.supported and feet:
        for end in feet:
            base = joint.connection(end, None, "column_base", "")
            yield replace(base, reason=f"foot of {joint.name(end[0])} on a {base.facts['support_type']} support")
        feet = []
    while tops and feet:
        top, foot = tops.pop(0), feet.pop(0)
        yield joint.connection(foot, top[0], "column_splice", f"{joint.name(foot[0])} stands on {joint.name(top[0])}")
    for end in feet:
        if joint.through_beams:
            yield joint.connection(
                end,
                joint.through_beams[0],
                "column_on_beam",
                f"{joint.name(end[0])} stands on {joint.name(joint.through_beams[0])}, no column below",
            )
        else:
            yield joint.connection(
                end,
                None,
                "unrecognised",
                f"foot of {joint.name(end[0])} has no support, column or through beam below it",
            )
    for end in tops:
        if joint.through_beams:
            beam = joint.through_beams[0]
            yield joint.connection(
                end, beam, "beam_over_column", f"{joint.name(beam)} runs over the top of {joint.name(end[0])}"
            )
        elif joint.beam_ends or joint.brace_ends:
            joint.without.append(
                (joint.id_of(end), f"top of {joint.name(end[0])}: beams and braces are fastened to it")
            )
        else:
            joint.without.append((joint.id_of(end), f"free top of {joint.name(end[0])}"))


def _beams(joint: Joint) -> Iterator[Connection]:
    if joint.column is not None:
        for end in joint.beam_ends:
            yield _to_column(joint, end, joint.column)
    elif joint.through_beams:
        for end in joint.beam_ends:
            yield _to_girder(joint, end, joint.through_beams)
    elif tip := _tip(joint):
        yield from _at_tip(joint, tip)
    else:
        yield from _among_ends(joint)


def _to_column(joint: Joint, end: End, column: int) -> Connection:
    framing, words = at_column(joint, end, column)
    return joint.connection(end, column, framing, words)


def at_column(joint: Joint, end: End, column: int) -> tuple[str, str]:
    """How a beam's end meets a column, and why: by the column's face that it points at, by its release and its
    slope."""
    section, way, axes = joint.section(column), outward(joint.building, end), joint.building.axes[column]
    name = joint.name(column)
    if section is not None and section.hollow:
        return "beam_to_hollow_column", f"end at the wall of hollow column {name}"
    face = "flange" if abs(float(way @ axes[1])) >= abs(float(way @ axes[2])) else "web"
    if hinged(joint.building.members[end[0]], end[1]):
        return f"beam_to_column_{face}", f"hinged end at the {face} of column {name}"
    if np.degrees(np.arcsin(min(1.0, abs(way[2])))) > RAFTER:
        return "column_to_rafter", f"sloping beam, not released, at column {name}"
    return f"moment_to_column_{face}", f"end not released at the {face} of column {name}"


def _tip(joint: Joint) -> End | None:
    """The one end that is not released among hinged ones: the tip of a cantilever that carries them."""
    stiff = [e for e in joint.beam_ends if not hinged(joint.building.members[e[0]], e[1])]
    return stiff[0] if len(stiff) == 1 and len(joint.beam_ends) > 1 and not joint.supported else None


def _at_tip(joint: Joint, tip: End) -> Iterator[Connection]:
    """Beams at the tip of a cantilever: one goes on in its line behind a hinge, the others end at its web."""
    others = [end for end in joint.beam_ends if end != tip]
    onward = [end for end in others if _bend(joint, tip, end) < -STRAIGHT]
    goes_on = len(onward) == 1
    words = (
        f"spliced with {joint.name(onward[0][0])}"
        if goes_on
        else f"free end of {joint.name(tip[0])}: it carries the others"
    )
    joint.without.append((joint.id_of(tip), words))
    for end in others:
        if goes_on and end == onward[0]:
            yield joint.connection(
                end,
                tip[0],
                "beam_splice",
                f"{joint.name(end[0])} goes on behind a hinge in the line of {joint.name(tip[0])}",
            )
        else:
            yield _to_girder(joint, end, [tip[0]])


def _bend(joint: Joint, a: End, b: End) -> float:
    """-1 where two ends point away from each other in one line, 1 where they lie on each other."""
    return float(outward(joint.building, a) @ outward(joint.building, b))


def _to_girder(joint: Joint, end: End, through: list[int]) -> Connection:
    crossing = [m for m in through if crosses(joint, end, m)]
    if not crossing:
        return joint.connection(
            end, None, "unrecognised", f"end lies along {joint.name(through[0])}, which would carry it"
        )
    girder = max(crossing, key=lambda m: s.d if (s := joint.section(m)) else 0.0)
    how = "" if hinged(joint.building.members[end[0]], end[1]) else ", not released"
    runs = "which runs through" if girder in joint.through_beams else "which ends there"
    return joint.connection(end, girder, "beam_to_girder", f"end at the web of {joint.name(girder)}, {runs}{how}")


def crosses(joint: Joint, end: End, other: int) -> bool:
    """Whether an end does not lie along another member."""
    return bool(abs(outward(joint.building, end) @ joint.building.axes[other, 0]) < STRAIGHT)


def _among_ends(joint: Joint) -> Iterator[Connection]:
    ends = joint.beam_ends
    if (pair := _pair(joint)) and (joined := _joined(joint, *pair)):
        yield joined
        for end in ends:
            if end not in pair:
                yield _to_girder(joint, end, [m for m, _ in pair])
        return
    if len(ends) == 1 and not joint.brace_ends and not joint.supported:
        joint.without.append((joint.id_of(ends[0]), f"free end of {joint.name(ends[0][0])}"))
        return
    why = "on a support without a column" if joint.supported else f"{len(ends)} beam ends meet and none runs through"
    for end in ends:
        yield joint.connection(end, None, "unrecognised", why)


def _pair(joint: Joint) -> tuple[End, End] | None:
    """The two ends that may be one line: all that meet, or the only two that are not hinged."""
    stiff = [e for e in joint.beam_ends if not hinged(joint.building.members[e[0]], e[1])]
    ends = joint.beam_ends if len(joint.beam_ends) == 2 else stiff
    return (ends[0], ends[1]) if len(ends) == 2 else None


def _joined(joint: Joint, a: End, b: End) -> Connection | None:
    """The splice or the ridge of two ends; None where they are neither."""
    bend = _bend(joint, a, b)
    later = b if joint.building.members[b[0]].name > joint.building.members[a[0]].name else a
    first = a if later is b else b
    if bend < -STRAIGHT:
        joint.without.append((joint.id_of(first), f"spliced with {joint.name(later[0])}"))
        return joint.connection(
            later, first[0], "beam_splice", f"{joint.name(first[0])} and {joint.name(later[0])} meet in one line"
        )
    if bend < 0 and all(abs(outward(joint.building, e)[2]) > np.sin(np.radians(RAFTER)) for e in (a, b)):
        joint.without.append((joint.id_of(first), f"joined to {joint.name(later[0])}"))
        return joint.connection(
            later, first[0], "rafter_to_rafter", f"{joint.name(first[0])} and {joint.name(later[0])} meet at a bend"
        )
    return None


def _braces(joint: Joint) -> Iterator[Connection]:
    for end in joint.brace_ends:
        beams = joint.through_beams or [m for m, _ in joint.beam_ends]
        rises = outward(joint.building, end)[2] > 0
        if joint.supported:
            yield joint.connection(end, joint.column, "brace_at_base", f"{joint.name(end[0])} lands on a support")
        elif joint.column is not None:
            yield joint.connection(
                end, joint.column, "brace_at_corner", f"{joint.name(end[0])} meets column {joint.name(joint.column)}"
            )
        elif rises and joint.feet:
            post = joint.feet[0][0]
            yield joint.connection(
                end,
                post,
                "brace_at_corner",
                f"{joint.name(end[0])} meets the foot of {joint.name(post)}, which stands on a beam",
            )
        elif beams:
            yield joint.connection(
                end, beams[0], "brace_at_beam", f"{joint.name(end[0])} meets {joint.name(beams[0])} away from a column"
            )
        else:
            yield joint.connection(
                end, None, "unrecognised", f"{joint.name(end[0])} meets neither column, beam nor support"
            )


def related(building: Building, pieces: Pieces, connections: list[Connection]) -> list[Connection]:
    """The connections of one node with the relations that they stand in: beams that face each other across one column,
    or through one web, where the same bolts may hold both; beams on the two sides of one web that are in no line."""
    beams = [c for c in connections if c.framing in SHEAR_ENDS or c.framing.startswith("moment_to_column")]
    other: dict[str, str] = {}
    beside: dict[str, list[Relation]] = defaultdict(list)
    for k, a in enumerate(beams):
        for b in beams[k + 1 :]:
            across = outward(building, (a.member, a.end)) @ outward(building, (b.member, b.end))
            if _same(pieces, a.support, b.support) and across < -OPPOSED:
                other.setdefault(a.id, b.id)
                other.setdefault(b.id, a.id)
            elif _same(pieces, a.support, b.support) and _on_both_sides(building, a, b):
                beside[a.id].append(Relation(OTHER_SIDE, b.id))
                beside[b.id].append(Relation(OTHER_SIDE, a.id))
    return [
        c.with_relations(
            (
                *(
                    Relation(kind, other[c.id])
                    for kind in (OPPOSITE, SHARES)[: 1 + (c.framing in ONE_WEB)]
                    if c.id in other
                ),
                *beside[c.id],
            )
        )
        for c in connections
    ]


def _on_both_sides(building: Building, a: Connection, b: Connection) -> bool:
    """Whether two beams stand on one web, each on a side of it."""
    if a.framing != b.framing or a.framing not in ONE_WEB or a.support is None:
        return False
    axes = building.axes[a.support]
    square = np.array([-axes[0][1], axes[0][0], 0.0]) if a.framing == "beam_to_girder" else axes[2]
    sides = [float(outward(building, (c.member, c.end)) @ square) for c in (a, b)]
    return min(sides) < -ASIDE and max(sides) > ASIDE


def _same(pieces: Pieces, a: int | None, b: int | None) -> bool:
    """Whether two members are of one piece of steel."""
    return a == b or (a is not None and b is not None and pieces.piece[a] == pieces.piece[b])
