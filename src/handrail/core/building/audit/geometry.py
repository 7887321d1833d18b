"""Does the geometry hang together: members twice, nodes on members that do not stop there, nodes that should be one,
members that cross, parts apart?"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from functools import lru_cache

import numpy as np

from handrail.core.building.audit.finding import Finding, several
from handrail.core.building.model import Building
from handrail.core.building.pieces import roles
from handrail.core.quantities.units import show

ONE_POINT = 25.0  # mm: nodes so near should probably be one
ON = 5.0  # mm off a member's axis
CELL = 2500.0  # mm
MOST = 50  # of each kind told one by one
Cell = tuple[int, int, int]


def geometry(building: Building) -> Iterator[Finding]:
    """Everything that this module looks for."""
    yield from _twice(building)
    yield from _apart(building)
    cells = _cells(building)
    yield from _near(building)
    yield from _on_members(building, cells)
    yield from _crossing(building, cells)


def _twice(building: Building) -> Iterator[Finding]:
    seen: dict[frozenset[int], str] = {}
    for member in building.members:
        ends = frozenset((member.i, member.j))
        if ends in seen:
            yield Finding(
                "member_twice",
                "warning",
                f"members {seen[ends]} and {member.name} stand in one place: take one out",
                member=member.name,
            )
        else:
            seen[ends] = member.name


def _apart(building: Building) -> Iterator[Finding]:
    """Parts of the frame that nothing joins."""
    parent = list(range(len(building.nodes)))

    def root(k: int) -> int:
        while parent[k] != k:
            parent[k] = parent[parent[k]]
            k = parent[k]
        return k

    for member in building.members:
        parent[root(member.i)] = root(member.j)
    parts: dict[int, list[int]] = defaultdict(list)
    for k, member in enumerate(building.members):
        parts[root(member.i)].append(k)
    held = {root(node) for node in building.supports}
    largest = max(parts.values(), key=len, default=[])
    for part, own in sorted(parts.items(), key=lambda p: p[1][0]):
        names, first = several([building.members[k].name for k in own], 4), building.members[own[0]].name
        if part not in held:
            yield Finding(
                "part_unsupported",
                "warning",
                f"{len(own)} member(s) ({names}) are joined to no support",
                member=first,
                value=len(own),
            )
        elif own is not largest:
            yield Finding(
                "part_apart",
                "note",
                f"{len(own)} member(s) ({names}) are not joined to the rest of the frame",
                member=first,
                value=len(own),
            )


def _near(building: Building) -> Iterator[Finding]:
    """Nodes closer than ONE_POINT."""
    cells: dict[Cell, list[int]] = defaultdict(list)
    for k, place in enumerate(np.floor(building.xyz / ONE_POINT).astype(int).tolist()):
        cells[tuple(place)].append(k)
    pairs = []
    around = [(a, b, c) for a in (-1, 0, 1) for b in (-1, 0, 1) for c in (-1, 0, 1)]
    for place, own in cells.items():
        others = [k for a, b, c in around for k in cells.get((place[0] + a, place[1] + b, place[2] + c), ())]
        for k in own:
            pairs += [
                (k, j, d)
                for j in others
                if j > k and (d := float(np.linalg.norm(building.xyz[k] - building.xyz[j]))) < ONE_POINT
            ]
    for k, j, d in pairs[:MOST]:
        yield Finding(
            "nodes_near",
            "warning",
            f"nodes {building.nodes[k]} and {building.nodes[j]} are {show(d, 'length', building.system, False)} apart: "
            "should they be one?",
            node=building.nodes[j],
            value=d,
        )
    yield from _rest("nodes_near", len(pairs), "pairs of nodes that should probably be one")


def _rest(code: str, count: int, words: str) -> Iterator[Finding]:
    if count > MOST:
        yield Finding(code, "warning", f"and {count - MOST} more {words}", value=count)


def _cells(building: Building) -> dict[Cell, list[int]]:
    """Which members pass through or by each cell of a grid."""
    start = building.xyz[[m.i for m in building.members]].reshape(-1, 3)
    whole = building.xyz[[m.j for m in building.members]].reshape(-1, 3) - start
    steps = np.maximum((building.lengths / (CELL / 4)).astype(int), 1) + 1
    member = np.repeat(np.arange(len(start)), steps)
    number = np.arange(len(member)) - np.repeat(np.cumsum(steps) - steps, steps)
    along = start[member] + (number / (steps[member] - 1))[:, None] * whole[member]
    places = np.concatenate([np.floor((along + off) / CELL).astype(int) for off in (-ON, ON)])
    cells: dict[Cell, list[int]] = defaultdict(list)
    for x, y, z, k in _once(np.column_stack([places, np.tile(member, 2)])).tolist():
        cells[x, y, z].append(k)
    return cells


def _once(rows: np.ndarray) -> np.ndarray:
    """(k, n) whole numbers, each row once, in their order; as one number each where that is large enough for them."""
    low = rows.min(axis=0, initial=0)
    spans = rows.max(axis=0, initial=0) - low + 1
    if np.prod(spans.astype(float)) > 2.0**62:
        return np.asarray(np.unique(rows, axis=0))
    keys = np.sort(np.ravel_multi_index(tuple((rows - low).T), tuple(spans)))
    first = np.diff(keys, prepend=-1) > 0
    return np.stack(np.unravel_index(keys[first], tuple(spans)), axis=1) + low


def _on_members(building: Building, cells: dict[Cell, list[int]]) -> Iterator[Finding]:
    """Nodes on the axis of a member that goes on past them."""
    ends = [(m.i, m.j) for m in building.members]
    start, along, long = building.xyz[[m.i for m in building.members]], building.axes[:, 0], building.lengths
    pairs = []
    for node, place in enumerate(np.floor(building.xyz / CELL).astype(int).tolist()):
        if node not in building.ends_at or not (own := cells.get(tuple(place))):
            continue
        apart = building.xyz[node] - start[own]
        at = (apart * along[own]).sum(axis=1)
        off = np.linalg.norm(apart - at[:, None] * along[own], axis=1)
        for k in np.nonzero((off < ON) & (at > ONE_POINT) & (at < long[own] - ONE_POINT))[0]:
            if node not in ends[own[k]]:
                pairs.append((node, own[k]))
    for node, member in pairs[:MOST]:
        name = building.members[member].name
        yield Finding(
            "node_on_member",
            "warning",
            f"node {building.nodes[node]} lies on member {name}, which does not stop there: what ends at the node "
            "does not reach the member",
            node=building.nodes[node],
            member=name,
        )
    yield from _rest("node_on_member", len(pairs), "nodes on members that do not stop there")


def _crossing(building: Building, cells: dict[Cell, list[int]]) -> Iterator[Finding]:
    """Members whose axes meet away from any node of theirs; braces that pass each other are only noted."""
    kinds = roles(building)
    pairs = _near_pairs(building, cells)
    crossing = [(int(a), int(b)) for a, b in pairs[_meet(building, *pairs.T)]]
    braces = [pair for pair in crossing if all(kinds[k] == "brace" for k in pair)]
    if braces:
        names = several([f"{building.members[a].name} x {building.members[b].name}" for a, b in braces], 4)
        yield Finding(
            "braces_cross",
            "note",
            f"{len(braces)} pair(s) of braces pass each other without a node ({names})",
            member=building.members[braces[0][0]].name,
            value=len(braces),
        )
    others = [pair for pair in crossing if pair not in braces]
    for a, b in others[:MOST]:
        yield Finding(
            "members_cross",
            "warning",
            f"members {building.members[a].name} and {building.members[b].name} cross without a node: nothing "
            "joins them",
            member=building.members[a].name,
        )
    yield from _rest("members_cross", len(others), "pairs of members that cross without a node")


def _near_pairs(building: Building, cells: dict[Cell, list[int]]) -> np.ndarray:
    """(pairs, 2) of members that pass through one cell and have no node in common, in order."""
    count = len(building.members)
    pairs = []
    for own in cells.values():
        of = np.array(own, int)
        first, second = _two_of(len(of))
        pairs.append(of[first] * count + of[second])
    keys = np.unique(np.concatenate(pairs)) if pairs else np.zeros(0, int)
    a, b = keys // max(count, 1), keys % max(count, 1)
    ends = np.array([(m.i, m.j) for m in building.members], int).reshape(-1, 2)
    apart = (ends[a][:, :, None] != ends[b][:, None, :]).all(axis=(1, 2))
    return np.stack([a, b], axis=1)[apart]


@lru_cache(maxsize=256)
def _two_of(count: int) -> tuple[np.ndarray, np.ndarray]:
    """Every pair of so many."""
    first, second = np.triu_indices(count, 1)
    return first, second


def _meet(building: Building, a: np.ndarray, b: np.ndarray) -> np.ndarray:
    """(pairs,) whether the axes of members `a` and `b` come within ON of each other, away from both members' ends."""
    starts = np.array([m.i for m in building.members], int)
    lengths = np.asarray(building.lengths, float)
    u, v = building.axes[a, 0], building.axes[b, 0]
    across = np.cross(u, v)
    square = (across * across).sum(axis=1)
    slant = square >= 1e-4
    square = np.where(slant, square, 1.0)
    apart = building.xyz[starts[b]] - building.xyz[starts[a]]
    close = np.abs((apart * across).sum(axis=1)) / np.sqrt(square) <= ON
    s, t = ((np.cross(apart, way) * across).sum(axis=1) / square for way in (v, u))
    return (
        slant & close & (s > ONE_POINT) & (s < lengths[a] - ONE_POINT) & (t > ONE_POINT) & (t < lengths[b] - ONE_POINT)
    )
