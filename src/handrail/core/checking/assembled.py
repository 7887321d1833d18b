"""Joints as one: the solids of all connections of a node in the building's axes, bolts that hold two of them once, and
what of one stands in another or in its way."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from functools import lru_cache, partial

from manifold3d import Manifold

from handrail.core.building.joint import SHEAR_ENDS
from handrail.core.building.model import Building
from handrail.core.building.standing import stands
from handrail.core.checking.assigning import Assigned
from handrail.core.joint.connection import Connection
from handrail.core.joint.relations import SHARES
from handrail.core.joint.situation import Situation
from handrail.core.solids.access import crowded
from handrail.core.solids.axes import Axes, Vector, combined, dot
from handrail.core.solids.bringing import PATHS, Leaving, leaves, shut_out
from handrail.core.solids.collisions import Collision, collisions
from handrail.core.solids.pieces import Fastener, Solids
from handrail.core.solids.placed import placed
from handrail.core.solids.washers import under
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import Sized, Sizes

ONE = 1.0  # mm that two bolts of one line may be apart
SUPPORT = "support"
PLACES, TURNS = 3, 6  # decimals of mm, and of directions, within which joints are alike


@dataclass(frozen=True)
class Stood:
    """A connection as it stands: what it is made by and of, in its own axes, which stand `at` others; `mirrored` for
    the other hand."""

    standard: str
    situation: Situation
    sizes: tuple[tuple[str, Sized], ...]
    at: Axes
    mirrored: bool

    def solids(self) -> Solids:
        """In the axes that hold its own."""
        return placed(_made(self.standard, self.situation, self.sizes), self.at, self.mirrored)


Likeness = tuple[tuple[Stood, ...], tuple[tuple[int, int], ...]]


@dataclass(frozen=True)
class Assembled:
    """The connections of one node that have sizes; `pairs` of them (by their numbers here) may have bolts in common."""

    node: int
    keys: tuple[str, ...]
    stood: tuple[Stood, ...]
    pairs: tuple[tuple[int, int], ...]

    def solids(self) -> list[tuple[str, Solids]]:
        """Each connection with its solids in the building's axes; bolts that hold two are the first one's, its plies
        behind named by their connection."""
        return list(zip(self.keys, _solids(self.stood, self.pairs, self.keys), strict=True))

    def alone(self, key: str) -> Solids:
        """One of them as it stands here, with all of its bolts."""
        return _handed(self.stood, self.pairs)[self.keys.index(key)][1]

    def hands(self) -> dict[str, bool]:
        """Each connection, and whether it is of the other hand."""
        return dict(zip(self.keys, (one.mirrored for one, _ in _handed(self.stood, self.pairs)), strict=True))

    def seen(self, key: str, place: Vector) -> Vector:
        """A place of the building as one of its connections has it in its own axes."""
        stood = self.stood[self.keys.index(key)]
        x, y, z = stood.at.seen(place)
        return (x, -y if stood.mirrored else y, z)

    def place(self, key: str, seen: Vector) -> Vector:
        """The other way: a place of one of its connections in the building."""
        stood = self.stood[self.keys.index(key)]
        x, y, z = seen
        return stood.at.at(x, -y if stood.mirrored else y, z)

    def seen_body(self, key: str, body: Manifold) -> Manifold:
        """A body in the building as one of its connections has it in its own axes."""
        stood = self.stood[self.keys.index(key)]
        at, hand = stood.at, -1.0 if stood.mirrored else 1.0
        rows = (at.x, combined((hand, at.y)), at.z)
        return body.transform([[*row, -dot(row, at.origin)] for row in rows])

    def collisions(self) -> list[Collision]:
        """What of one connection stands in another, or in the room that work on it needs: looked for once in joints
        that are alike."""
        if len(self.keys) < 2:
            return []
        first = self.stood[0].at
        alike = tuple(replace(one, at=_rounded(first, one.at)) for one in self.stood)
        return [
            replace(
                one,
                one=(self.keys[int(one.one[0])], one.one[1]),
                other=(self.keys[int(one.other[0])], one.other[1]),
                at=first.at(*one.at),
            )
            for one in _collided((alike, self.pairs))
        ]


@lru_cache(maxsize=4096)
def _collided(alike: Likeness) -> tuple[Collision, ...]:
    numbers = tuple(map(str, range(len(alike[0]))))
    sets = list(zip(numbers, _solids(*alike, numbers), strict=True))
    met = collisions(sets)
    of = {frozenset((one.one[0], one.other[0])) for one in met}  # what stands in another is in its way, too
    ways = [one for one in shut_out(sets, _ways(alike[0])) if frozenset((one.one[0], one.other[0])) not in of]
    return (*met, *crowded(sets), *ways)


def _ways(stood: tuple[Stood, ...]) -> dict[int, Leaving]:
    """Of beams at their supports, by number: on what ways they may leave, in the axes in which they stand."""
    return {
        number: Leaving(
            [[one.at.along((x, -y if one.mirrored else y, z)) for x, y, z in path] for path in PATHS],
            partial(_leaves, one.standard, one.situation, one.sizes),
        )
        for number, one in enumerate(stood)
        if one.situation.framing in SHEAR_ENDS
    }


@lru_cache(maxsize=16384)
def _leaves(standard: str, situation: Situation, sizes: tuple[tuple[str, Sized], ...], path: int) -> bool:
    return leaves(_made(standard, situation, sizes), path)


@lru_cache(maxsize=1024)
def _made(standard: str, situation: Situation, sizes: tuple[tuple[str, Sized], ...]) -> Solids:
    """In their own axes; of what is alike once."""
    return STANDARDS[standard].solids(situation, dict(sizes))


def _solids(stood: tuple[Stood, ...], pairs: tuple[tuple[int, int], ...], keys: tuple[str, ...]) -> list[Solids]:
    made = [solids for _, solids in _handed(stood, pairs)]
    for a, b in pairs:
        made[a], made[b] = _merged(made[a], made[b], keys[b])
    return made


def _handed(stood: tuple[Stood, ...], pairs: tuple[tuple[int, int], ...]) -> list[tuple[Stood, Solids]]:
    """As they stand to each other: what stands on one side of a web only stands on that side of both."""
    there = [(one, one.solids()) for one in stood]
    for a, b in pairs:
        (_, one), (other, theirs) = there[a], there[b]
        all_of_it = sum(SUPPORT in bolt.plies for bolt in one.bolts)
        if other.situation.skew or (common := _in_common(one, theirs)) == all_of_it:
            continue
        turned = replace(other, mirrored=not other.mirrored)
        if _in_common(one, otherwise := turned.solids()) > common:
            there[b] = turned, otherwise
    return there


def _rounded(first: Axes, at: Axes) -> Axes:
    """Axes as another's have them, without what coordinates are off by."""
    ways = [_digits(tuple(dot(way, own) for own in (first.x, first.y, first.z)), TURNS) for way in (at.x, at.y)]
    return Axes(_digits(first.seen(at.origin), PLACES), *ways)


def _digits(v: tuple[float, ...], digits: int) -> Vector:
    a, b, c = (round(x, digits) + 0.0 for x in v)  # -0 is another text
    return (a, b, c)


Made = tuple[str, Sizes]  # a standard, and the sizes of what is made by it


def assembled(building: Building, standing: Iterable[tuple[Assigned, Made]]) -> Iterator[Assembled]:
    """The joints of connections as they are made, by node."""
    joints: dict[int, list[tuple[Connection, Stood]]] = defaultdict(list)
    alike: dict[int, tuple[Sizes, tuple[tuple[str, Sized], ...]]] = {}  # a building has a few hundred of them
    for assigned, (standard, sizes) in standing:
        if assigned.situation is None or not sizes or assigned.situation.framing not in STANDARDS[standard].framings:
            continue
        where = stands(building, assigned.connection)
        if where is not None:
            _, ordered = alike.setdefault(id(sizes), (sizes, tuple(sorted(sizes.items()))))
            own = Stood(standard, assigned.situation, ordered, *where)
            joints[assigned.connection.node].append((assigned.connection, own))
    for node, there in joints.items():
        yield _joint(node, there)


def _joint(node: int, there: list[tuple[Connection, Stood]]) -> Assembled:
    number = {connection.id: k for k, (connection, _) in enumerate(there)}
    pairs = tuple(
        (k, number[other])
        for k, (connection, _) in enumerate(there)
        for other in connection.others(SHARES)
        if k < number.get(other, -1)
    )
    return Assembled(node, tuple(number), tuple(stood for _, stood in there), pairs)


def _in_common(one: Solids, two: Solids) -> int:
    """How many bolts hold both."""
    return sum(any(_in_line(bolt, other) for other in two.bolts) for bolt in one.bolts if SUPPORT in bolt.plies)


def _merged(one: Solids, two: Solids, other: str) -> tuple[Solids, Solids]:
    """The bolts of one as long as both have them; the other's without these."""
    bolts, left = [], list(two.bolts)
    for bolt in one.bolts:
        same = next((b for b in left if _in_line(bolt, b)), None) if SUPPORT in bolt.plies else None
        if same is not None:
            left.remove(same)
            behind = tuple(f"{other}: {ply}" for ply in reversed(same.plies) if ply != SUPPORT)
            grip = dot(combined((1.0, same.axes.origin), (-1.0, bolt.axes.origin)), bolt.axes.z)
            far = under(bolt, two.named(same.plies[0]), bolt.tightening != "snug")
            bolt = replace(bolt, grip=grip, plies=(*bolt.plies, *behind), washers=(bolt.washers[0], far))
        bolts.append(bolt)
    return replace(one, bolts=tuple(bolts)), replace(two, bolts=tuple(left))


def _in_line(a: Fastener, b: Fastener) -> bool:
    """Whether two are one: on one line, through one piece of steel, from opposite sides."""
    off = combined((1.0, b.axes.origin), (-1.0, a.axes.origin))
    along = dot(off, a.axes.z)
    aside = combined((1.0, off), (-along, a.axes.z))
    opposite = dot(a.axes.z, b.axes.z) < -0.999
    return opposite and dot(aside, aside) < ONE**2 and a.bolt == b.bolt and 0 < along < a.grip + b.grip
