"""Joints laid so that they can be compared: turned about the vertical until one of their ends points along x, and
perhaps mirrored."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.building.end_actions import end_axes
from handrail.core.building.framing import Framing
from handrail.core.building.model import Building
from handrail.core.building.pieces import End
from handrail.core.joint.connection import Connection
from handrail.core.joint.relations import SHARES

TURN = 2.0  # degrees that directions may differ by and be alike
ASIDE = 0.385  # of a step
ASKEW = 20.0  # degrees that a joint's members may differ by from a pattern's that somebody puts it in
OFFSET = 1.5  # mm
LEVEL = 0.05  # of a unit vector in plan: less is upright
AROUND, HALF = round(360 / TURN), round(180 / TURN)
Place = tuple[
    int, int, int, int
]  # what an end is (a number of `Ends.facts`), its azimuth, rise and how its web stands, in steps of TURN
Facts = tuple[Any, ...]


@dataclass(frozen=True)
class Laid:
    """A joint laid so that one of its ends points along x: its places in order, and which end of the node stands at
    each."""

    key: tuple[Place, ...]
    ends: tuple[int, ...]
    turn: float
    mirrored: bool


class Ends:
    """Every member end as its joint sees it: what it is, and where it points (degrees)."""

    def __init__(self, building: Building, framing: Framing, nodes: Iterable[int]) -> None:
        self.building, self.roles = building, framing.pieces.roles
        every = np.arange(len(building.members))
        ends = [end_axes(building, every, np.full(len(every), end)) for end in (0, 1)]
        both, up = [of[:, 0] for of in ends], ends[0][:, 1]
        self.azimuth = [np.degrees(np.arctan2(way[:, 1], way[:, 0])).tolist() for way in both]
        self.rise = [
            np.floor(np.degrees(np.arcsin(np.clip(way[:, 2], -1, 1))) / TURN + ASIDE).astype(int).tolist()
            for way in both
        ]
        self.level = (np.hypot(both[0][:, 0], both[0][:, 1]) > LEVEL).tolist()
        self.up = up.tolist()
        self.web_azimuth = np.degrees(np.arctan2(up[:, 1], up[:, 0])).tolist()
        self.tilt = [_tilt(of).tolist() for of in ends]
        own = {(c.member, c.end): c for c in framing.connections}
        seen = {end: self._facts(end, own.get(end), node) for node in nodes for end in building.ends_at[node]}
        self.facts: list[Facts] = sorted(set(seen.values()), key=repr)
        number = {facts: k for k, facts in enumerate(self.facts)}
        self.kind = {end: number[facts] for end, facts in seen.items()}
        self._laid: dict[Any, tuple[tuple[Place, ...], tuple[int, ...], float, bool]] = {}

    def _facts(self, end: End, connection: Connection | None, node: int) -> Facts:
        """What an end is, wherever it points: role, section, grade, how it is framed, released, of the lateral system,
        what stands there."""
        building, member = self.building, self.building.members[end[0]]
        own: Facts = ("", 0, False)
        if connection:
            step = round(connection.supported.offset / OFFSET)
            own = (connection.framing, step, bool(connection.others(SHARES)))
        below = building.foundations.get(node)
        stands = (
            tuple(building.supports.get(node, ())),
            (below.kind, round(below.fc, 2), round(below.thickness)) if below else (),
        )
        return (
            self.roles[end[0]],
            member.section,
            member.grade,
            *own,
            " ".join(sorted(member.release(end[1]) - {"T"})),
            member.seismic,
            round(member.top_offset / OFFSET),
            stands,
        )

    def along(self, end: End) -> float:
        """The azimuth that an end, or an upright one's web, points to."""
        return float(self.azimuth[end[1]][end[0]] if self.level[end[0]] else self.web_azimuth[end[0]])

    def seen(self, end: End, turn: float, mirrored: bool) -> Place:
        """An end in a joint that is turned back by `turn` degrees and perhaps mirrored."""
        member, which = end
        side = -1 if mirrored else 1
        level = self.level[member]
        azimuth = _step((self.azimuth[which][member] - turn) * side % 360) % AROUND if level else 0
        across = _step((self.tilt[which][member] if level else self.web_azimuth[member] - turn) * side % 180) % HALF
        return self.kind[end], azimuth, self.rise[which][member], across

    def lay(self, node: int) -> Laid:
        """The least of all ways to lay a joint: each end in turn along x, and its mirror image."""
        ends = self.building.ends_at[node]
        like = tuple(
            (
                self.kind[e],
                round(self.along(e), 4),
                self.rise[e[1]][e[0]],
                round(self.tilt[e[1]][e[0]], 4),
                self.level[e[0]],
            )
            for e in ends
        )
        if like not in self._laid:
            self._laid[like] = self._least(ends)
        return Laid(*self._laid[like])

    def _least(self, ends: list[End]) -> tuple[tuple[Place, ...], tuple[int, ...], float, bool]:
        best: tuple[tuple[Place, ...], tuple[int, ...], float, bool] | None = None
        for turn in self.turns(ends):
            for mirrored in (False, True):
                rows = [self.seen(e, turn, mirrored) for e in ends]
                order = sorted(range(len(ends)), key=rows.__getitem__)
                key = tuple(rows[k] for k in order)
                if best is None or key < best[0]:
                    best = (key, tuple(order), turn, mirrored)
        assert best is not None
        return best

    def turns(self, ends: list[End]) -> list[float]:
        """What a joint may be turned by: each level end along x; where there is none, the first one's web."""
        return [self.along(e) for e in ends if self.level[e[0]]] or [self.along(ends[0])]

    def lay_on(self, node: int, key: tuple[Place, ...]) -> Laid | None:
        """A joint laid on places that it is not quite like, the way that turns its ends least; None where it cannot
        be."""
        ends = self.building.ends_at[node]
        if len(ends) != len(key):
            return None
        best, least = None, ASKEW / TURN
        for turn in self.turns(ends):
            for mirrored in (False, True):
                seen = [self.seen(e, turn, mirrored) for e in ends]
                order = self._matched(seen, key)
                worst = (
                    max((_apart(seen[k], place) for k, place in zip(order, key, strict=True)), default=math.inf)
                    if order
                    else math.inf
                )
                if worst <= least:
                    best, least = Laid(key, tuple(order), turn, mirrored), worst - 1e-9
        return best

    def _matched(self, seen: list[Place], key: tuple[Place, ...]) -> list[int]:
        """The end at each place, nearest first; empty where one finds none of its role."""
        order = [-1] * len(key)
        pairs = (
            (n, k)
            for n in range(len(key))
            for k in range(len(seen))
            if self.facts[seen[k][0]][0] == self.facts[key[n][0]][0]
        )
        for n, k in sorted(pairs, key=lambda pair: _apart(seen[pair[1]], key[pair[0]])):
            if order[n] < 0 and k not in order:
                order[n] = k
        return order if -1 not in order else []

    def up_on(self, end: End, laid: Laid) -> tuple[float, float, float]:
        """The axis along an end's web, its V's, laid."""
        x, y, z = self.up[end[0]]
        cos, sin = math.cos(math.radians(laid.turn)), math.sin(math.radians(laid.turn))
        across = y * cos - x * sin
        return x * cos + y * sin, -across if laid.mirrored else across, z


def _tilt(axes: np.ndarray) -> np.ndarray:
    """(k,) degrees that the webs of ends with `axes` (k, 3, 3) lean to the right of upright, seen along them from their
    support; of use for level ends only."""
    out, up = axes[:, 0], axes[:, 1]
    right = np.stack([out[:, 1], -out[:, 0]], axis=1) / np.maximum(np.hypot(out[:, 0], out[:, 1]), LEVEL)[:, None]
    return np.asarray(np.degrees(np.arctan2((up[:, :2] * right).sum(axis=1), up[:, 2])))


def _step(degrees: float) -> int:
    """Which step of TURN; the steps meet at odd angles, which nobody builds, so that no noise parts what is alike."""
    return math.floor(degrees / TURN + ASIDE)


def _apart(seen: Place, place: Place) -> float:
    """By how many steps of TURN the direction of an end differs from a place's."""
    around = abs(seen[1] - place[1]) % AROUND
    return float(max(min(around, AROUND - around), abs(seen[2] - place[2])))
