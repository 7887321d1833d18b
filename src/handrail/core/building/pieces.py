"""Joins analysis elements into physical members: chains of collinear elements that are one piece of steel."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from handrail.core.building.model import Building, Member

COLLINEAR = np.cos(np.radians(1.0))
STRAIGHT = np.cos(np.radians(0.5))
IN_LINE = np.cos(np.radians(5.0))  # what somebody calls one piece may have a kink this large
STEEP, FLAT = np.radians(80.0), np.radians(30.0)
End = tuple[int, int]


@dataclass(frozen=True)
class Pieces:
    """`piece` of each member, and for each node the pieces that run through and the ends that stop there. `straight`
    (members, 3): each member's axis, as that of its whole piece where this is straight."""

    piece: tuple[int, ...]
    roles: tuple[str, ...]
    through: dict[int, dict[int, int]]  # node -> {piece: one member of it}
    ending: dict[int, list[End]]
    straight: np.ndarray = field(compare=False)
    long: dict[int, float] = field(default_factory=dict, compare=False)  # of each piece, along its elements, mm


def roles(building: Building) -> tuple[str, ...]:
    """beam, column or brace for each member: as the bundle says, else by its slope."""
    rise = np.arcsin(np.clip(np.abs(building.axes[:, 0, 2]), 0, 1))
    by_slope = np.where(rise >= STEEP, "column", np.where(rise <= FLAT, "beam", "brace"))
    return tuple(m.role or str(by_slope[k]) for k, m in enumerate(building.members))


def _straight(building: Building, pieces: tuple[int, ...]) -> np.ndarray:
    """(members, 3) axes by the whole piece: an element between two near nodes is turned by what these are off by, the
    piece is not."""
    axes = building.axes[:, 0].copy()
    members: dict[int, list[int]] = {}
    for k, piece in enumerate(pieces):
        members.setdefault(piece, []).append(k)
    for own in (np.array(of) for of in members.values() if len(of) > 1):
        points = building.xyz[[n for k in own for n in (building.members[k].i, building.members[k].j)]]
        far = points @ axes[own[0]]
        along = points[far.argmax()] - points[far.argmin()]
        along = along / np.linalg.norm(along)
        ways = axes[own] @ along
        if np.abs(ways).min() > STRAIGHT:
            axes[own] = np.sign(ways)[:, None] * along
    return axes


def _long(building: Building, pieces: tuple[int, ...]) -> dict[int, float]:
    """How long each piece is, along its elements, to a tenth of a mm."""
    long: dict[int, float] = {}
    for piece, own in zip(pieces, building.lengths.tolist(), strict=True):
        long[piece] = long.get(piece, 0.0) + own
    return {piece: round(length, 1) for piece, length in long.items()}


def outward(building: Building, end: End) -> np.ndarray:
    """Unit vector from an end into its member."""
    axis = building.axes[end[0], 0]
    return -axis if end[1] else axis


def hinged(member: Member, end: int) -> bool:
    """Whether the strong-axis moment is released."""
    return "Mz" in member.release(end)


def find_pieces(building: Building) -> Pieces:
    """Join elements node by node; a beam does not run through a column, but may run over its top."""
    kinds = roles(building)
    parent = list(range(len(building.members)))

    def root(k: int) -> int:
        while parent[k] != k:
            parent[k] = parent[parent[k]]
            k = parent[k]
        return k

    joined: dict[int, set[End]] = {}
    for node, ends in building.ends_at.items():
        if node in building.spliced:
            continue
        for a, b in _joins(building, kinds, ends):
            parent[root(a[0])] = root(b[0])
            joined.setdefault(node, set()).update((a, b))
    piece = tuple(root(k) for k in range(len(parent)))
    through = {n: {piece[m]: m for m, _ in sorted(ends)} for n, ends in joined.items()}
    ending = {n: [e for e in ends if e not in joined.get(n, ())] for n, ends in building.ends_at.items()}
    return Pieces(piece, kinds, through, ending, _straight(building, piece), _long(building, piece))


def _joins(building: Building, kinds: tuple[str, ...], ends: list[End]) -> list[tuple[End, End]]:
    columns = [e for e in ends if kinds[e[0]] == "column"]
    pairs: list[tuple[End, End]] = []
    used: set[End] = set()
    for k, a in enumerate(ends):
        for b in ends[k + 1 :]:
            if a in used or b in used or not _one_piece(building, kinds, a, b, columns):
                continue
            pairs.append((a, b))
            used |= {a, b}
    return pairs


def _one_piece(building: Building, kinds: tuple[str, ...], a: End, b: End, columns: list[End]) -> bool:
    first, second = building.members[a[0]], building.members[b[0]]
    if first.physical or second.physical:
        return (
            first.physical == second.physical
            and kinds[a[0]] == kinds[b[0]]
            and outward(building, a) @ outward(building, b) < -IN_LINE
        )
    if kinds[a[0]] != kinds[b[0]] or (first.section, first.grade) != (second.section, second.grade):
        return False
    if outward(building, a) @ outward(building, b) > -COLLINEAR:
        return False
    if hinged(first, a[1]) or hinged(second, b[1]):
        return False
    return kinds[a[0]] != "beam" or not columns or _runs_over(building, columns)


def _runs_over(building: Building, columns: list[End]) -> bool:
    """A beam carries a column that only stands on it; it runs over one that stops below on a hinge, or a hollow
    post."""
    standing = [outward(building, c)[2] > 0 for c in columns]
    if any(standing):
        return all(standing)
    tops = [(building.members[m], end) for m, end in columns]
    return all(hinged(member, end) or _hollow(building, member) for member, end in tops)


def _hollow(building: Building, member: Member) -> bool:
    section = building.section(member.section)
    return section is not None and section.hollow


def broken_pieces(building: Building, pieces: Pieces) -> dict[str, str]:
    """Physical ids that name no one piece of steel, each with why: several roles, not in one line, or in parts that do
    not touch."""
    named: dict[str, list[int]] = {}
    for k, member in enumerate(building.members):
        if member.physical:
            named.setdefault(member.physical, []).append(k)
    broken = {}
    for name, members in named.items():
        kinds = sorted({pieces.roles[k] for k in members})
        axis = building.axes[members, 0]
        if len(kinds) > 1:
            broken[name] = f"names {' and '.join(kinds)} members"
        elif np.abs(axis @ axis[0]).min() < IN_LINE:
            broken[name] = "names members that are not in one line"
        elif len({pieces.piece[k] for k in members}) > 1 and not building.spliced.intersection(
            n for k in members for n in _nodes(building, k)
        ):
            broken[name] = "names members that do not touch end to end"
    return broken


def _nodes(building: Building, member: int) -> tuple[int, int]:
    return building.members[member].i, building.members[member].j
