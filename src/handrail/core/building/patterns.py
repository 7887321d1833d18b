"""Joints that are alike up to turning about the vertical and mirroring: patterns, with each joint's member ends matched
to the pattern's slots."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.building.framing import Framing
from handrail.core.building.laying import ASKEW, Ends, Laid, Place
from handrail.core.building.model import Building
from handrail.core.joint.connection import Connection

MIRRORED = np.array(
    [1.0, 1.0, -1.0, 1.0, -1.0, -1.0]
)  # N, V, Vw, M, Mw, T of a joint that is a mirror image, seen as the pattern's
UPSIDE = np.array([1.0, -1.0, -1.0, -1.0, -1.0, 1.0])  # of a member whose web's axis points the other way
SIGNS = {(mirrored, turned): tuple(((MIRRORED if mirrored else 1.0) * (UPSIDE if turned else np.ones(6))).tolist())
         for mirrored in (False, True) for turned in (False, True)}  # fmt: skip
Alike = tuple[str, tuple[Place, ...], list[tuple[int, Laid]]]  # the pattern's name, its key, its joints


@dataclass(frozen=True)
class Member:
    """One joint of a pattern: its node, how it is laid on the pattern (turned by degrees, mirrored or not) and, slot by
    slot, the connection of the end there, empty where that end has none, with the signs (6,) that turn its actions into
    the pattern's. `ends` say which of the node's ends stands at each slot."""

    node: int
    turn: float
    mirrored: bool
    connections: tuple[str, ...]
    signs: tuple[tuple[float, ...], ...]
    ends: tuple[int, ...]


@dataclass(frozen=True)
class Pattern:
    """Joints that are alike. `slots` say in words what stands at each place of it, `framings` the framing condition
    there, empty for none."""

    name: str
    slots: tuple[str, ...]
    framings: tuple[str, ...]
    members: tuple[Member, ...]


def find_patterns(building: Building, framing: Framing) -> list[Pattern]:
    """Every joint that has a connection, in patterns; the one with most joints first."""
    return with_edits(building, framing, {})[0]


def with_edits(building: Building, framing: Framing, edits: Mapping[str, str]) -> tuple[list[Pattern], dict[str, str]]:
    """The same with what people said of joints: one goes beside another in its pattern, or (empty) out of its own and
    is one by itself, after the others. With it, why an edit could not be followed, by joint."""
    at: dict[int, list[Connection]] = defaultdict(list)
    for c in framing.connections:
        at[c.node].append(c)
    ends = Ends(building, framing, at)
    alike: dict[tuple[Place, ...], list[tuple[int, Laid]]] = defaultdict(list)
    for node in at:
        laid = ends.lay(node)
        alike[laid.key].append((node, laid))
    ranked = sorted(alike.items(), key=lambda item: (-len(item[1]), item[1][0][0]))
    patterns, misfits = _edited(ends, [(f"P{k}", key, joints) for k, (key, joints) in enumerate(ranked, 1)], at, edits)
    return [_pattern(ends, *one, at) for one in patterns if one[2]], misfits


def _edited(
    ends: Ends, patterns: list[Alike], at: Mapping[int, Any], edits: Mapping[str, str]
) -> tuple[list[Alike], dict[str, str]]:
    """Patterns with what people said of single joints; first those taken out, then those put beside others."""
    misfits: dict[str, str] = {}
    nodes = {ends.building.nodes[node]: node for node in at} if edits else {}
    for joint, beside in sorted(edits.items(), key=lambda item: (bool(item[1]), item[0])):
        gone = [name for name in (joint, beside) if name and name not in nodes]
        if gone:
            misfits[joint] = f"{gone[0]} is no joint with connections in this revision"
            continue
        node = nodes[joint]
        own = next(alike for alike in patterns if any(n == node for n, _ in alike[2]))
        if not beside:
            if len(own[2]) > 1:
                laid = next(laid for n, laid in own[2] if n == node)
                patterns.append((f"P{len(patterns) + 1}", own[1], [(node, laid)]))
                own[2][:] = [(n, laid) for n, laid in own[2] if n != node]
            continue
        other = next(alike for alike in patterns if any(n == nodes[beside] for n, _ in alike[2]))
        laid_on = ends.lay_on(node, other[1])
        if laid_on is None:
            misfits[joint] = (
                f"its members cannot be laid on those of {beside}: as many, of the same roles, within {ASKEW:g} degrees"
            )
        elif other is not own:
            own[2][:] = [(n, laid) for n, laid in own[2] if n != node]
            other[2].append((node, laid_on))
    return patterns, misfits


def _pattern(
    ends: Ends, name: str, key: tuple[Place, ...], joints: list[tuple[int, Laid]], at: Mapping[int, list[Connection]]
) -> Pattern:
    facts = [ends.facts[kind] for kind, *_ in key]
    words = tuple(f"{of[0]} {of[1]}" + (f", {of[3].replace('_', ' ')}" if of[3] else "") for of in facts)
    members, first = [], None
    for node, laid in joints:
        here = ends.building.ends_at[node]
        own = [here[k] for k in laid.ends]
        ids = {(c.member, c.end): c.id for c in at[node]}
        webs = [ends.up_on(end, laid) for end in own]
        first = first or webs
        mirrored = laid.mirrored != joints[0][1].mirrored
        signs = tuple(SIGNS[mirrored, _opposite(web, of)] for web, of in zip(webs, first, strict=True))
        members.append(
            Member(node, round(laid.turn, 3), mirrored, tuple(ids.get(end, "") for end in own), signs, laid.ends)
        )
    return Pattern(name, words, tuple(of[3] for of in facts), tuple(members))


def _opposite(web: tuple[float, float, float], first: tuple[float, float, float]) -> bool:
    return sum(a * b for a, b in zip(web, first, strict=True)) < 0


def peaks_of(
    pattern: Pattern, slot: int, acting: dict[str, np.ndarray], names: tuple[str, ...]
) -> list[dict[str, Any]]:
    """Of one slot: the largest and smallest of each action over its joints and combinations, with what acts at the same
    time. `acting` (combinations, 6) of connections by id, N, V, Vw, M, Mw, T."""
    ids, table = points_of(pattern, slot, acting)
    if not ids or not names:
        return []
    flat = table.reshape(-1, 6)
    known = flat if np.isfinite(flat).all() else np.nan_to_num(flat)
    peaks = []
    for k in range(6):
        for largest, at in ((True, known[:, k].argmax()), (False, known[:, k].argmin())):
            joint, combination = divmod(int(at), table.shape[1])
            peaks.append(
                {
                    "action": k,
                    "largest": largest,
                    "connection": ids[joint],
                    "combination": names[combination],
                    "values": [float(v) for v in table[joint, combination]],
                }
            )
    return peaks


def points_of(pattern: Pattern, slot: int, acting: dict[str, np.ndarray]) -> tuple[list[str], np.ndarray]:
    """(connections, (connections, combinations, 6)) of one slot, all turned into the pattern's axes."""
    ids = [(m.connections[slot], m.signs[slot]) for m in pattern.members if m.connections[slot] in acting]
    if not ids:
        return [], np.zeros((0, 0, 6))
    table = np.stack([acting[c] for c, _ in ids])
    table *= np.array([signs for _, signs in ids])[:, None, :]
    return [c for c, _ in ids], table
