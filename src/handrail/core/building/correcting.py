"""What a person says of a connection in place of what was recognised: its framing condition, the member that supports
it, or both."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass, replace

from handrail.core.building.framing import CONDITIONS, STRAIGHT, Framing, at_column, crosses, related
from handrail.core.building.joint import AT_COLUMN, Joint
from handrail.core.building.model import Building
from handrail.core.building.pieces import End, outward
from handrail.core.joint.connection import Connection

# framing condition -> (role of the end, role of what supports it; empty: nothing does)
MEETS = {
    **{name: ("beam", "column") for name in AT_COLUMN},
    "beam_to_girder": ("beam", "beam"),
    "beam_splice": ("beam", "beam"),
    "rafter_to_rafter": ("beam", "beam"),
    "beam_over_column": ("column", "beam"),
    "column_on_beam": ("column", "beam"),
    "column_splice": ("column", "column"),
    "column_base": ("column", ""),
    "brace_at_corner": ("brace", "column"),
    "brace_at_beam": ("brace", "beam"),
    "brace_at_base": ("brace", ""),
}


def may_be(framing: str) -> list[str]:
    """The framing conditions that one of this condition can be corrected to: those of the same role, all where it was
    not recognised."""
    role = MEETS.get(framing, ("",))[0]
    return [name for name in CONDITIONS if name in MEETS and role in ("", MEETS[name][0])]


@dataclass(frozen=True)
class Correction:
    """The framing condition, the supporting member's name, or both; empty leaves what was recognised. `words` say who
    corrected it and why."""

    framing: str = ""
    support: str = ""
    words: str = ""


def corrected(
    building: Building, framing: Framing, corrections: Mapping[str, Correction]
) -> tuple[Framing, dict[str, str]]:
    """The framing with `corrections` (by connection) in place of what was recognised, and of those that cannot be, why;
    they are left as recognised.

    What stands opposite is found again at the joints that they are at.
    """
    if not corrections:
        return framing, {}
    at: dict[int, list[Connection]] = defaultdict(list)
    nodes = {c.node for c in framing.connections if c.id in corrections}
    misfits: dict[str, str] = {}
    for c in framing.connections:
        if c.node not in nodes:
            continue
        joint = Joint(building, framing.pieces, c.node, [])
        if c.id in corrections:
            why, kind = _corrected(joint, c, corrections[c.id])
            if why:
                misfits[c.id] = why
            c = kind
        at[c.node].append(c)
    own = {c.id: c for some in at.values() for c in related(building, framing.pieces, some)}
    return replace(framing, connections=tuple(own.get(c.id, c) for c in framing.connections)), misfits


def _corrected(joint: Joint, c: Connection, correction: Correction) -> tuple[str, Connection]:
    """Why it cannot be, empty where it can; and the connection."""
    end = (c.member, c.end)
    try:
        support = _support(joint, end, correction.support)
        framing, support = _decided(joint, c, correction.framing, support)
    except ValueError as exc:
        return str(exc), replace(
            c, reason=f"{c.reason} (corrected to {correction.framing or correction.support}, which cannot be: {exc})"
        )
    made = joint.connection(end, support, framing, f"{correction.words}; recognised as {c.framing}: {c.reason}")
    return "", made


def _support(joint: Joint, end: End, name: str) -> int | None:
    """The member of that name that meets at the joint, its column or beam that runs through where that is the same
    piece."""
    if not name:
        return None
    here = {joint.building.members[m].name: m for m, _ in joint.building.ends_at[joint.node] if m != end[0]}
    if name not in here:
        raise ValueError(
            f"{name} does not meet it at {joint.building.nodes[joint.node]}; there is"
            f" {', '.join(sorted(here)) or 'no other member'}"
        )
    return here[name]


def _decided(joint: Joint, c: Connection, framing: str, support: int | None) -> tuple[str, int | None]:
    """The framing condition and the support, what is not given of them by what fits. Raises ValueError in words."""
    end, kinds = (c.member, c.end), joint.pieces.roles
    if framing and framing not in MEETS:
        raise ValueError(
            f"'{framing}' is no framing condition to correct to; there is"
            f" {', '.join(n for n in CONDITIONS if n in MEETS)}"
        )
    if not framing:
        framing = _by_support(joint, c, support)
    role, carried_by = MEETS[framing]
    name = joint.name(c.member)
    if kinds[c.member] != role:
        raise ValueError(f"{name} is a {kinds[c.member]}, and {framing} is of a {role}")
    if not carried_by:
        if not joint.supported:
            raise ValueError(f"{framing} needs a support at node {joint.building.nodes[joint.node]}, and there is none")
        if framing == "column_base" and end not in joint.feet:
            raise ValueError(f"the end of {name} is its top, not its foot")
        if support is not None and not (framing == "brace_at_base" and kinds[support] == "column"):
            raise ValueError(
                f"{framing} is on the support at the node, not on {joint.name(support)}: leave the supporting"
                " member out"
            )
        return framing, (joint.column if support is None else support) if framing == "brace_at_base" else None
    others = [m for m, _ in joint.building.ends_at[joint.node] if m != c.member and kinds[m] == carried_by]
    if support is None:
        fitting = [c.support] if c.support in others else others
        support = next(
            (m for m in fitting if m is not None and not _unfit(joint, end, framing, m)),
            fitting[0] if fitting else None,
        )
    if support is None:
        raise ValueError(
            f"{framing} needs a {carried_by} at node {joint.building.nodes[joint.node]}, and there is no other"
        )
    if kinds[support] != carried_by:
        raise ValueError(f"{joint.name(support)} is a {kinds[support]}, and {framing} needs a {carried_by}")
    if why := _unfit(joint, end, framing, support):
        raise ValueError(why)
    return framing, support


def _by_support(joint: Joint, c: Connection, support: int | None) -> str:
    """The framing condition that goes with another support."""
    assert support is not None
    kinds = joint.pieces.roles
    pair = (kinds[c.member], kinds[support])
    if MEETS.get(c.framing) == pair and c.framing not in AT_COLUMN:
        return c.framing
    if pair == ("beam", "column"):
        return at_column(joint, (c.member, c.end), support)[0]
    framings = {
        ("beam", "beam"): "beam_to_girder",
        ("column", "beam"): "column_on_beam" if (c.member, c.end) in joint.feet else "beam_over_column",
        ("column", "column"): "column_splice",
        ("brace", "column"): "brace_at_corner",
        ("brace", "beam"): "brace_at_beam",
    }.get(pair)
    if framings is None:
        raise ValueError(f"a {pair[0]} is not supported by a {pair[1]} in any framing condition that there is")
    return framings


def _unfit(joint: Joint, end: End, framing: str, support: int) -> str:
    """Why an end cannot meet a support so, by what stands there; empty where it can."""
    name, other, section = joint.name(end[0]), joint.name(support), joint.section(support)
    if (
        framing in AT_COLUMN
        and framing != "column_to_rafter"
        and section is not None
        and section.hollow != (framing == "beam_to_hollow_column")
    ):
        return f"{other} is {'hollow' if section.hollow else 'not hollow'}"
    if framing in ("beam_to_girder", "brace_at_beam") and not crosses(joint, end, support):
        return f"{name} lies along {other}"
    way = outward(joint.building, end)
    facing = max(
        (-float(way @ outward(joint.building, e)) for e in joint.building.ends_at[joint.node] if e[0] == support),
        default=0.0,
    )
    if framing == "beam_splice" and facing < STRAIGHT:
        return f"{name} and {other} are not in one line"
    if framing in ("column_on_beam", "column_splice") and end not in joint.feet:
        return f"the end of {name} is its top, not its foot"
    if framing == "beam_over_column" and end in joint.feet:
        return f"the end of {name} is its foot, not its top"
    if framing == "column_splice" and facing < STRAIGHT:
        return f"{name} does not stand on {other}"
    return ""
