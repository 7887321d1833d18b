"""Joints that are alike up to turning about the vertical and mirroring: patterns, with each joint's member ends matched to the pattern's slots."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.building.framing import Connection, Framing
from handrail.core.building.model import Building
from handrail.core.building.pieces import End, outward

TURN = 2.0  # degrees that directions may differ by and be alike
ASIDE = 0.385  # of a step
ASKEW = 20.0  # degrees that a joint's members may differ by from a pattern's that somebody puts it in
OFFSET = 1.5  # mm
MIRRORED = np.array([1.0, 1.0, -1.0, 1.0, -1.0, -1.0])  # N, V, Vw, M, Mw, T of a joint that is a mirror image, seen as the pattern's
UPSIDE = np.array([1.0, -1.0, -1.0, -1.0, -1.0, 1.0])  # of an upright member whose web's axis points the other way
Slot = tuple[Any, ...]


@dataclass(frozen=True)
class Member:
    """One joint of a pattern: its node, how it is laid on the pattern (turned by degrees, mirrored or not) and, slot by slot, the connection of
    the end there, empty where that end has none, with the signs (6,) that turn its actions into the pattern's. `ends` say which of the node's ends
    stands at each slot."""

    node: int
    turn: float
    mirrored: bool
    connections: tuple[str, ...]
    signs: tuple[tuple[float, ...], ...]
    ends: tuple[int, ...]


@dataclass(frozen=True)
class Pattern:
    """Joints that are alike. `slots` say in words what stands at each place of it, `framings` the framing condition there, empty for none."""

    name: str
    slots: tuple[str, ...]
    framings: tuple[str, ...]
    members: tuple[Member, ...]


@dataclass(frozen=True)
class _Laid:
    """A joint laid so that one of its ends points along x: a key, and its ends in the key's order."""

    key: tuple[Slot, ...]
    ends: tuple[int, ...]
    turn: float
    mirrored: bool


def find_patterns(building: Building, framing: Framing) -> list[Pattern]:
    """Every joint that has a connection, in patterns; the one with most joints first."""
    return with_edits(building, framing, {})[0]


def with_edits(building: Building, framing: Framing, edits: Mapping[str, str]) -> tuple[list[Pattern], dict[str, str]]:
    """The same with what people said of joints: one goes beside another in its pattern, or (empty) out of its own and is one by itself, after the
    others. With it, why an edit could not be followed, by joint.
    """
    at: dict[int, list[Connection]] = defaultdict(list)
    for c in framing.connections:
        at[c.node].append(c)
    alike: dict[tuple[Slot, ...], list[tuple[int, _Laid]]] = defaultdict(list)
    for node, own in at.items():
        laid = _laid(building, framing, node, {(c.member, c.end): c for c in own})
        alike[laid.key].append((node, laid))
    found = [(f"P{k}", key, joints) for k, (key, joints) in enumerate(sorted(alike.items(), key=lambda item: (-len(item[1]), item[1][0][0])), 1)]
    found, misfits = _edited(building, framing, found, at, edits)
    return [_pattern(building, name, key, joints, at) for name, key, joints in found if joints], misfits


Alike = tuple[str, tuple[Slot, ...], list[tuple[int, "_Laid"]]]  # the pattern's name, its key, its joints


def _edited(building: Building, framing: Framing, found: list[Alike], at: dict[int, list[Connection]],
            edits: Mapping[str, str]) -> tuple[list[Alike], dict[str, str]]:  # fmt: skip
    """Patterns with what people said of single joints; first those taken out, then those put beside others."""
    misfits: dict[str, str] = {}
    nodes = {building.nodes[node]: node for node in at}
    for joint, beside in sorted(edits.items(), key=lambda item: (bool(item[1]), item[0])):
        gone = [name for name in (joint, beside) if name and name not in nodes]
        if gone:
            misfits[joint] = f"{gone[0]} is no joint with connections in this revision"
            continue
        node = nodes[joint]
        own = next(alike for alike in found if any(n == node for n, _ in alike[2]))
        if not beside:
            if len(own[2]) > 1:
                laid = next(laid for n, laid in own[2] if n == node)
                found.append((f"P{len(found) + 1}", own[1], [(node, laid)]))
                own[2][:] = [(n, laid) for n, laid in own[2] if n != node]
            continue
        other = next(alike for alike in found if any(n == nodes[beside] for n, _ in alike[2]))
        laid_on = _laid_on(building, framing, node, other[1])
        if laid_on is None:
            misfits[joint] = f"its members cannot be laid on those of {beside}: as many, of the same roles, within {ASKEW:g} degrees"
        elif other is not own:
            own[2][:] = [(n, laid) for n, laid in own[2] if n != node]
            other[2].append((node, laid_on))
    return found, misfits


def _laid_on(building: Building, framing: Framing, node: int, key: tuple[Slot, ...]) -> _Laid | None:
    """A joint laid on a pattern that it is not quite like, the way that turns its ends least; None where it cannot be."""
    ends = building.ends_at[node]
    if len(ends) != len(key):
        return None
    ways = np.array([outward(building, e) for e in ends])
    webs = np.array([building.axes[m, 1] for m, _ in ends])
    roles = [framing.pieces.roles[m] for m, _ in ends]
    best, least = None, ASKEW / TURN
    for first in [k for k in range(len(ends)) if np.hypot(*ways[k, :2]) > 0.05] or [-1]:
        along = ways[first] if first >= 0 else webs[0]
        turn = float(np.degrees(np.arctan2(along[1], along[0])))
        for mirrored in (False, True):
            seen = [_seen(ways[k], webs[k], turn, mirrored) for k in range(len(ends))]
            order = _matched(seen, roles, key)
            worst = max(_apart(seen[k], slot) for k, slot in zip(order, key, strict=True)) if order else np.inf
            if order and worst <= least:
                best, least = _Laid(key, tuple(order), turn, mirrored), worst - 1e-9
    return best


def _matched(seen: list[tuple[int, int, int]], roles: list[str], key: tuple[Slot, ...]) -> list[int]:
    """The end at each slot, nearest first; empty where one finds none of its role."""
    order = [-1] * len(key)
    pairs = sorted((_apart(seen[k], slot), n, k) for n, slot in enumerate(key) for k in range(len(seen)) if roles[k] == slot[0])
    for _, n, k in pairs:
        if order[n] < 0 and k not in order:
            order[n] = k
    return order if -1 not in order else []


def _apart(seen: tuple[int, int, int], slot: Slot) -> float:
    """By how many steps of TURN the direction of an end differs from a slot's."""
    azimuth, rise, _ = slot[-3:]
    around = abs(seen[0] - azimuth) % round(360 / TURN)
    return float(max(min(around, round(360 / TURN) - around), abs(seen[1] - rise)))


def _laid(building: Building, framing: Framing, node: int, own: dict[End, Connection]) -> _Laid:
    """The least of all ways to lay it: each end in turn along x, and its mirror image."""
    ends = building.ends_at[node]
    ways = np.array([outward(building, e) for e in ends])
    webs = np.array([building.axes[m, 1] for m, _ in ends])
    facts = [_facts(building, framing, e, own.get(e), node) for e in ends]
    flat = [k for k in range(len(ends)) if np.hypot(*ways[k, :2]) > 0.05] or [-1]
    best: _Laid | None = None
    for first in flat:
        along = ways[first] if first >= 0 else webs[0]
        turn = float(np.degrees(np.arctan2(along[1], along[0])))
        for mirrored in (False, True):
            rows = [(*facts[k], *_seen(ways[k], webs[k], turn, mirrored)) for k in range(len(ends))]
            order = sorted(range(len(ends)), key=lambda k: repr(rows[k]))
            key = tuple(rows[k] for k in order)
            if best is None or repr(key) < repr(best.key):
                best = _Laid(key, tuple(order), turn, mirrored)
    assert best is not None
    return best


def _facts(building: Building, framing: Framing, end: End, connection: Connection | None, node: int) -> Slot:
    """What an end is, wherever it points."""
    member = building.members[end[0]]
    own = (connection.framing, round(connection.facts.get("top_offset", 0.0) / OFFSET), bool(connection.facts.get("opposed"))) if connection else ("", 0, False)
    below = building.foundations.get(node)
    stands = (tuple(building.supports.get(node, ())), (below.kind, round(below.fc, 2), round(below.thickness)) if below else ())
    return (framing.pieces.roles[end[0]], member.section, member.grade, *own, " ".join(sorted(member.release(end[1]) - {"T"})), member.seismic,
            round(member.top_offset / OFFSET), stands)  # fmt: skip


def _seen(way: np.ndarray, web: np.ndarray, turn: float, mirrored: bool) -> tuple[int, int, int]:
    """(azimuth, rise, how its web stands), in steps of TURN, of an end in a joint that is turned back by `turn` degrees and perhaps mirrored."""
    side = -1 if mirrored else 1
    level = float(np.hypot(way[0], way[1]))
    azimuth = (np.degrees(np.arctan2(way[1], way[0])) - turn) * side % 360 if level > 0.05 else 0.0
    across = (np.degrees(np.arctan2(web[1], web[0])) - turn) * side % 180 if level <= 0.05 else np.degrees(np.arccos(np.clip(web[2], -1, 1)))
    rise = np.degrees(np.arcsin(np.clip(way[2], -1, 1)))
    return _step(azimuth) % round(360 / TURN), _step(rise), _step(across) % round(180 / TURN)


def _step(degrees: float) -> int:
    """Which step of TURN; the steps meet at odd angles, which nobody builds, so that no noise parts what is alike."""
    return math.floor(degrees / TURN + ASIDE)


def _pattern(building: Building, name: str, key: tuple[Slot, ...], joints: list[tuple[int, _Laid]], at: dict[int, list[Connection]]) -> Pattern:
    words = tuple(f"{slot[0]} {slot[1]}" + (f", {slot[3].replace('_', ' ')}" if slot[3] else "") for slot in key)
    members = []
    first = None
    for node, laid in joints:
        ends = [building.ends_at[node][k] for k in laid.ends]
        ids = {(c.member, c.end): c.id for c in at[node]}
        webs = [_web(building, end, laid) for end in ends]
        first = first or webs
        mirrored = laid.mirrored != joints[0][1].mirrored
        signs = tuple(tuple((_sign(mirrored, web, own)).tolist()) for web, own in zip(webs, first, strict=True))
        members.append(Member(node, round(laid.turn, 3), mirrored, tuple(ids.get(end, "") for end in ends), signs, laid.ends))
    return Pattern(name, words, tuple(slot[3] for slot in key), tuple(members))


def _web(building: Building, end: End, laid: _Laid) -> np.ndarray | None:
    """Where an upright member's web axis points, laid on the pattern; None of others, whose web stands up."""
    if np.hypot(*outward(building, end)[:2]) > 0.05:
        return None
    y = building.axes[end[0], 1]
    angle = np.radians(laid.turn)
    turned = np.array([y[0] * np.cos(angle) + y[1] * np.sin(angle), y[1] * np.cos(angle) - y[0] * np.sin(angle)])
    return turned * (np.array([1, -1]) if laid.mirrored else 1)


def _sign(mirrored: bool, web: np.ndarray | None, first: np.ndarray | None) -> np.ndarray:
    found = MIRRORED if mirrored else np.ones(6)
    if web is not None and first is not None and float(web @ first) < 0:
        found = found * UPSIDE
    return found


def peaks_of(pattern: Pattern, slot: int, acting: dict[str, np.ndarray], names: tuple[str, ...]) -> list[dict[str, Any]]:
    """Of one slot: the largest and smallest of each action over its joints and combinations, with what acts at the same time. `acting` (combinations, 6)
    of connections by id, N, V, Vw, M, Mw, T."""
    ids, table = points_of(pattern, slot, acting)
    if not ids or not names:
        return []
    found = []
    for k in range(6):
        own = np.where(np.isnan(table[..., k]), 0.0, table[..., k])
        for largest, at in ((True, own.argmax()), (False, own.argmin())):
            joint, combination = np.unravel_index(int(at), own.shape)
            found.append({"action": k, "largest": largest, "connection": ids[joint], "combination": names[combination],
                          "values": [float(v) for v in table[joint, combination]]})  # fmt: skip
    return found


def points_of(pattern: Pattern, slot: int, acting: dict[str, np.ndarray]) -> tuple[list[str], np.ndarray]:
    """(connections, (connections, combinations, 6)) of one slot, all turned into the pattern's axes."""
    ids = [(m.connections[slot], np.array(m.signs[slot])) for m in pattern.members if m.connections[slot] in acting]
    if not ids:
        return [], np.zeros((0, 0, 6))
    return [c for c, _ in ids], np.stack([acting[c] * sign for c, sign in ids])
