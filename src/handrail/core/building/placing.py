"""Where pieces of steel really are, of a building model beside the analysis: matched to members by place, for tops of
steel and what is one piece."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, replace

import numpy as np

from handrail.core.building.model import Building, Member
from handrail.core.catalogue import section
from handrail.core.errors import UnknownName

AWAY = 750.0  # mm that a piece may be off the line that it was analysed on
PAST = 50.0  # mm that a member's middle may be past a piece's end
ALONG = 0.9994  # cosine of 2 degrees
CELL = 3000.0
LEVEL = 0.02  # slope of what lies level


@dataclass(frozen=True)
class Piece:
    """One piece: from `start` to `end` (3,) mm, its section by name, its top of steel (mm) where it is known."""

    name: str
    section: str
    start: np.ndarray
    end: np.ndarray
    top: float | None = None


def placed(building: Building, pieces: list[Piece]) -> Building:
    """The building with what its pieces say: the top of steel of members that lie level, which members are one piece,
    where sections differ."""
    cells = _cells(pieces)
    of: dict[int, int] = {}
    for k, member in enumerate(building.members):
        if (best := _nearest(building, k, member, pieces, cells)) is not None:
            of[k] = best
    counts: dict[int, int] = defaultdict(int)
    for p in of.values():
        counts[p] += 1
    members, apart = list(building.members), []
    for k, p in of.items():
        member, piece = building.members[k], pieces[p]
        run = building.xyz[member.j] - building.xyz[member.i]
        changes: dict[str, object] = {}
        if counts[p] > 1 and not member.physical:
            changes["physical"] = piece.name
        if piece.top is not None and not member.top_offset and abs(run[2]) < LEVEL * np.linalg.norm(run):
            changes["top_offset"] = float((building.xyz[member.i][2] + building.xyz[member.j][2]) / 2 - piece.top)
        if piece.section and _other(piece.section, member.section):
            apart.append(
                f"piece {piece.name} is {piece.section} in the building model, {member.section} in the analysis (member"
                f" {member.name})"
            )
        members[k] = replace(member, **changes) if changes else member  # type: ignore[arg-type]
    alone = [pieces[p].name for p in range(len(pieces)) if p not in counts]
    return replace(building, members=tuple(members), pieces_differ=tuple(apart), pieces_alone=tuple(alone))


def _other(one: str, other: str) -> bool:
    """Whether two names are of different sections of the catalogue."""
    try:
        return section(one).name != section(other).name
    except UnknownName:
        return False


def _cells(pieces: list[Piece]) -> dict[tuple[int, ...], list[int]]:
    cells: dict[tuple[int, ...], list[int]] = defaultdict(list)
    for k, piece in enumerate(pieces):
        steps = max(int(np.linalg.norm(piece.end - piece.start) / (CELL / 2)), 1) + 1
        along = piece.start + np.linspace(0, 1, steps)[:, None] * (piece.end - piece.start)
        for cell in {tuple(c) for c in np.floor(along / CELL).astype(int).tolist()}:
            cells[cell].append(k)
    return cells


def _nearest(
    building: Building, k: int, member: Member, pieces: list[Piece], cells: dict[tuple[int, ...], list[int]]
) -> int | None:
    """The piece that a member's middle lies along, the nearest of several."""
    middle, axis = (building.xyz[member.i] + building.xyz[member.j]) / 2, building.axes[k, 0]
    a, b, c = np.floor(middle / CELL).astype(int).tolist()
    near = {
        p
        for x in (a - 1, a, a + 1)
        for y in (b - 1, b, b + 1)
        for z in (c - 1, c, c + 1)
        for p in cells.get((x, y, z), ())
    }
    candidates = []
    for p in near:
        run = pieces[p].end - pieces[p].start
        long = float(np.linalg.norm(run))
        if long < 1.0 or abs(float(axis @ run)) < ALONG * long:
            continue
        at = float((middle - pieces[p].start) @ run) / long
        off = float(np.linalg.norm(middle - pieces[p].start - at * run / long))
        if off <= AWAY and -PAST <= at <= long + PAST:
            candidates.append((off, p))
    return min(candidates)[1] if candidates else None
