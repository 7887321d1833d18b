"""Whether beams can be brought to their places one after the other: from a side along the face that they meet, from
above or below, or a little aside and then up or down, with what the shop fastened to each; along itself where its
support leaves it no other way."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from handrail.core.solids import bodies
from handrail.core.solids.axes import Vector, Y, Z, combined, cross, dot, unit
from handrail.core.solids.collisions import Collision, Solid, body_of, box, boxes, brought, overlapping
from handrail.core.solids.pieces import Bar, Fastener, Piece, Plate, Solids, Weld

WAY = "way"
PAST = 0.5  # mm by which two that pass may overlap: what lies on another slides along it
ASIDE = 10.0  # mm more than half of its flange that a beam is moved aside before it goes up or down
SHARES = np.linspace(0.0, 1.0, 5)
LINES = np.stack(np.meshgrid(SHARES, SHARES), axis=-1).reshape(-1, 2)  # where in a rectangle is looked
SIDES, UPRIGHT = (Y, combined((-1.0, Y))), (Z, combined((-1.0, Z)))
STRAIGHT = (*SIDES, *UPRIGHT)
PATHS: tuple[tuple[Vector, ...], ...] = (
    *((way,) for way in STRAIGHT),
    *((side, way) for side in SIDES for way in UPRIGHT),
)  # the ways that a beam goes, one after the other, in its connection's own axes; the last without end


@dataclass(frozen=True)
class Leaving:
    """PATHS as they are where a beam stands, and whether it leaves on one of them `alone`, by its number."""

    paths: Sequence[Sequence[Vector]]
    alone: Callable[[int], bool]


def leaves(solids: Solids, path: int) -> bool:
    """Whether a beam, in its connection's own axes, leaves its support and what the shop fastened there on a path."""
    moving = _moving(solids)
    there = [solid for solid in _waiting(solids) if solid not in moving]
    return _free(list(_steps(moving, PATHS[path])), there) is None


def shut_out(sets: Sequence[tuple[str, Solids]], ways: Mapping[int, Leaving]) -> list[Collision]:
    """Of connections, by their numbers, with the paths on which each one's beam may leave: those whose beams cannot,
    once all have left that can."""
    left, found = dict.fromkeys(ways), dict[int, Collision]()
    gone = True
    while gone and left:
        gone = False
        for number in list(left):
            beside = [one for n, one in enumerate(sets) if n != number and (n in left or n not in ways)]
            met = _shut(*sets[number], beside, ways[number])
            if met is None:
                del left[number]
                gone = True
            else:
                found[number] = met
    return [found[number] for number in left]


def _shut(key: str, solids: Solids, beside: Sequence[tuple[str, Solids]], may: Leaving) -> Collision | None:
    """What stands in the first of the paths on which a beam leaves alone; None if one is free."""
    others = [(name, solid) for name, theirs in beside for solid in _there(theirs, key)]
    if not others:
        return None
    moving, things = _moving(solids), [solid for _, solid in others]
    each = [boxes(solid) for solid in things]
    whose, every = np.repeat(np.arange(len(each)), [len(some) for some in each]), np.concatenate(each)
    straight = [_Step(moving, path[0]) for path in may.paths[: len(STRAIGHT)]]
    near = [[things[k] for k in dict.fromkeys(whose[step.near(every)].tolist())] for step in straight]
    if not any(near):
        return None
    found: list[tuple[Solid, float]] = []
    for k in sorted(range(len(may.paths)), key=lambda k: len(near[k]) if k < len(near) else len(things)):
        if may.alone(k):
            steps = [straight[k]] if k < len(near) else list(_steps(moving, may.paths[k]))
            if (met := _free(steps, near[k] if k < len(near) else things)) is None:
                return None
            found.append(met)
    if not found and (met := _free([_Step(moving, moving[0].axes.z)], things)):
        found.append(met)
    if not found:
        return None
    name = next(name for name, solid in others if solid is found[0][0])
    return _told(key, moving[0], name, *found[0])


def _there(solids: Solids, key: str) -> Iterator[Solid]:
    """What another connection brings, but for bolts that go in with the beam."""
    for solid in brought(solids):
        shared = isinstance(solid, Fastener) and any(ply.startswith(f"{key}: ") for ply in solid.plies)
        if not isinstance(solid, Weld) and not shared:
            yield solid


def _moving(solids: Solids) -> list[Piece]:
    """The beam, and all that the shop fastened to it."""
    held, names = ["beam"], {p.name for p in solids.pieces}
    joints = [w.joins for w in solids.welds if not w.field] + [b.plies for b in solids.bolts if not b.field]
    while more := {n for j in joints if set(j) & set(held) for n in j} & names - set(held):
        held += sorted(more)
    return [solids.named(name) for name in held]


def _waiting(solids: Solids) -> Iterator[Solid]:
    """What stands there before the beam comes: its support, and pieces that the shop fastened to that."""
    yield from solids.members[1:]
    there = {n for w in solids.welds if not w.field and "support" in w.joins for n in w.joins}
    yield from (p for p in solids.pieces if p.name in there)


def _steps(moving: Sequence[Piece], path: Sequence[Vector]) -> Iterator[_Step]:
    """A path's ways one after the other: the first of two is as long as takes the beam's flange off what stands beside
    its web."""
    start = np.zeros(3)
    wide = max(x for outline in moving[0].profile for x, _ in outline) if isinstance(moving[0], Bar) else 0.0
    for way in path[:-1]:
        long = wide / max(abs(dot(way, moving[0].axes.x)), 0.5) + ASIDE
        yield _Step(moving, way, long, start)
        start = start + long * np.array(way)
    yield _Step(moving, path[-1], np.inf, start)


def _free(steps: Sequence[_Step], there: Sequence[Solid]) -> tuple[Solid, float] | None:
    """(what is come upon first, how wide); None where all is passed by."""
    for step in steps:
        for solid in there:
            if wide := step.passed(solid):
                return solid, wide
    return None


class _Step:
    """Solids as they are looked at along a way, which is z, on which some of them move so far from where they have been
    moved to."""

    def __init__(
        self, moving: Sequence[Piece], way: Vector, long: float = np.inf, start: np.ndarray | None = None
    ) -> None:
        x = unit(cross(way, (1.0, 0.0, 0.0) if abs(way[0]) < 0.9 else (0.0, 1.0, 0.0)))
        self.rows, self.moving, self.long = np.array([x, cross(way, x), way]), moving, long
        self.off = self.rows @ (np.zeros(3) if start is None else start)
        self.swept = [self._turned(boxes(solid)) + self.off for solid in moving]
        for swept in self.swept:
            swept[:, 1, 2] += long

    def _turned(self, each: np.ndarray, less: float = 0.0) -> np.ndarray:
        """(n, 2, 3) boxes around boxes of the axes that hold it, `less` to every side."""
        middle = (each[:, 0] + each[:, 1]) / 2 @ self.rows.T
        half = (each[:, 1] - each[:, 0]) / 2 @ np.abs(self.rows).T - less
        return np.stack([middle - half, middle + half], axis=1)

    def near(self, each: np.ndarray) -> np.ndarray:
        """(n,) which of so many boxes may stand in the way."""
        return np.asarray(overlapping(np.concatenate(self.swept), self._turned(each, PAST)).any(axis=0))

    def passed(self, solid: Solid) -> float:
        """How wide, as their boxes are, what moves comes upon it, mm; 0 where all passes by: looked at on lines along
        the way."""
        there, wide = self._turned(boxes(solid), PAST), 0.0
        for one, swept in zip(self.moving, self.swept, strict=True):
            m, s = np.nonzero(overlapping(swept, there))
            if not len(m):
                continue
            low, high = np.maximum(swept[m, 0], there[s, 0])[:, :2], np.minimum(swept[m, 1], there[s, 1])[:, :2]
            lines = low[:, None] + PAST / 2 + (high - low - PAST)[:, None] * LINES  # none along what lies on another
            (a, b), (c, d) = self._depths(one, lines - self.off[:2]), self._depths(solid, lines)
            a, b = a + self.off[2], b + self.off[2]
            met = ((d > a + PAST) & (c - b < self.long - PAST)).any(axis=1)
            wide = max([wide, *(high - low)[met].min(axis=1)])
        return float(wide)

    def _depths(self, solid: Solid, lines: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Where along z each of (n, m, 2) lines goes into a solid first, and out of it last; never where it passes
        by."""
        corners = _triangles(solid) @ self.rows.T
        a, b, c = (corners[:, k] for k in range(3))
        twice = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0])
        seen = np.abs(twice) > 1e-9  # those along the way have no face there
        a, b, c, twice = a[seen], b[seen], c[seen], twice[seen]
        x, y = lines[..., None, 0] - a[:, 0], lines[..., None, 1] - a[:, 1]
        u = (x * (c[:, 1] - a[:, 1]) - y * (c[:, 0] - a[:, 0])) / twice
        v = (y * (b[:, 0] - a[:, 0]) - x * (b[:, 1] - a[:, 1])) / twice
        within = (u >= 0) & (v >= 0) & (u + v <= 1)
        z = a[:, 2] + u * (b[:, 2] - a[:, 2]) + v * (c[:, 2] - a[:, 2])
        low = np.where(within, z, np.inf).min(axis=-1, initial=np.inf)
        return low, np.where(within, z, -np.inf).max(axis=-1, initial=-np.inf)


@lru_cache(maxsize=4096)
def _triangles(solid: Solid) -> np.ndarray:
    """(n, 3, 3) its faces; holes of pieces are closed."""
    made = (bodies.uncut(solid) if isinstance(solid, Plate | Bar) else body_of(solid)).to_mesh()
    return np.asarray(made.vert_properties, float)[:, :3][np.asarray(made.tri_verts)]


def _told(key: str, beam: Piece, name: str, solid: Solid, wide: float) -> Collision:
    """How wide it stands in the way."""
    low, high = (np.array(corner) for corner in box(solid))
    x, y, z = (float(v) for v in (low + high) / 2)
    parts = (beam.part, solid.part)
    return Collision((key, beam.name), (name, solid.name), parts, 0.0, (x, y, z), (wide, wide, wide), WAY)
