"""Room that connections of a joint leave each other: for a wrench on a bolt that is tightened at the site, and for its
entering; for the electrode along a weld. What a connection leaves itself is its own rules' business: told is of what
has room alone. What is done before the other comes has room, too: unless both need to be first, what stands there comes
with the support, or the bolt holds both."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
from manifold3d import Manifold

from handrail.core.quantities.units import INCH
from handrail.core.solids import bodies
from handrail.core.solids.axes import Axes, Vector, combined, cross, unit
from handrail.core.solids.collisions import TOUCHING, Collision, Solid, body_of, boxes, brought, overlapping
from handrail.core.solids.pieces import Fastener, Solids, Weld

REACH = 2.5 * INCH  # that a socket stands out from what its nut is on; what drives it may lean
STICK, ELECTRODE = 150.0, 6.0  # mm: how far an electrode stands out from its weld, how thick it is
LEANS = (1 / 3, 1 / 2, 2 / 3)  # of the angle between a fillet's legs: how it may be held
WRENCH, WELDING = "wrench", "electrode"
SIDES = 16  # of a circle around a socket
DEEP = 0.5  # mm that something may stand in a room: sockets and coordinates are no truer


@dataclass(frozen=True, eq=False)
class Room:
    """Round about the z of its axes, from `low` to `high` along it; or what its `corners` hold. What stands in it is
    looked at once."""

    axes: Axes
    low: float = 0.0
    high: float = 0.0
    radius: float = 0.0
    corners: tuple[Vector, ...] = ()
    seen: dict[int, tuple[float, Manifold] | None] = field(default_factory=dict)

    def box(self) -> tuple[list[float], list[float]]:
        """Around it."""
        if self.corners:
            points = list(zip(*self.corners, strict=True))
            return [min(p) for p in points], [max(p) for p in points]
        z, origin = self.axes.z, self.axes.origin
        aside = [self.radius * math.sqrt(max(1 - own**2, 0.0)) for own in z]
        ends = [(o + self.low * own, o + self.high * own) for o, own in zip(origin, z, strict=True)]
        return (
            [min(end) - off for end, off in zip(ends, aside, strict=True)],
            [max(end) + off for end, off in zip(ends, aside, strict=True)],
        )

    @cached_property
    def body(self) -> Manifold:
        """Closed; a round one within its circle."""
        if self.corners:
            return Manifold.hull_points(np.array(self.corners))
        round_one = Manifold.cylinder(self.high - self.low, self.radius, self.radius, SIDES)
        return bodies.placed_at(round_one.translate((0, 0, self.low)), self.axes)

    def within(self, solid: Solid) -> tuple[float, Manifold] | None:
        """(how deep, what) of a solid stands in it."""
        if id(solid) not in self.seen:
            self.seen[id(solid)] = self._within(solid)
        return self.seen[id(solid)]

    def _within(self, solid: Solid) -> tuple[float, Manifold] | None:
        both = bodies.shared_body(body_of(solid), self.body)
        if both is None or both.volume() <= TOUCHING:
            return None
        x, y, z, u, v, w = both.bounding_box()
        deep = min(u - x, v - y, w - z)
        return (deep, both) if deep > DEEP else None


Way = tuple[Room, ...]  # what has to be free, all of it


@dataclass(frozen=True)
class Work:
    """Something that is done at a joint: on what, the `room` that it needs, in any one of some `ways`, and whether that
    is in the shop."""

    on: Fastener | Weld
    room: str
    ways: tuple[Way, ...]
    shop: bool = False

    def holds(self, key: str) -> bool:
        """Whether it holds another connection, too."""
        return isinstance(self.on, Fastener) and any(ply.startswith(f"{key}: ") for ply in self.on.plies)


Standing = tuple[int, Solid]  # of which of the sets
Beside = dict[Room, list[Standing]]  # what may stand in it


def crowded(sets: Sequence[tuple[str, Solids]]) -> list[Collision]:
    """What of other connections stands in the room that one needs, and would have without them."""
    there: list[Standing] = [(n, solid) for n, (_, solids) in enumerate(sets) for solid in brought(solids)]
    from_shop = {(n, name) for n, (_, solids) in enumerate(sets) for name in _from_the_shop(solids)}
    found: list[Collision] = []
    waits: list[tuple[Collision, set[tuple[str, str]]]] = []  # with what is there once that work is done
    for number, (key, solids) in enumerate(sets):
        done = list(works(solids))
        beside = _beside(done, [one for one in there if one[0] != number])
        own: list[Standing] = [(number, solid) for solid in (*brought(solids), *solids.members[1:])]
        for work in done:
            near = {room: beside[room] for way in work.ways for room in way}
            if work.shop:
                near = {room: [o for o in some if (o[0], o[1].name) in from_shop] for room, some in near.items()}
                stays: Beside = {room: [] for room in near}
            else:
                both = [n for n, (other, _) in enumerate(sets) if work.holds(other)]
                stays = {
                    room: [o for o in some if o[0] in both or (o[0], o[1].name) in from_shop]
                    for room, some in near.items()
                }
            if met := _blocked(work, key, sets, own, stays):
                found.append(met)
            elif stays != near and (met := _blocked(work, key, sets, own, near)):
                waits.append((met, _put(work, key, solids, met, sets)))
    return found + [one for one, puts in waits if any(two.other in puts and one.other in its for two, its in waits)]


def _put(
    work: Work, key: str, solids: Solids, met: Collision, sets: Sequence[tuple[str, Solids]]
) -> set[tuple[str, str]]:
    """What is there once a work is done before what stands in its way comes: of two bolts the one, of pieces in the
    shop this one, before a member all of the connection."""
    if isinstance(work.on, Weld) and work.shop:
        return {(key, name) for name in work.on.joins}
    bolts = next(theirs.bolts for name, theirs in sets if name == met.other[0])
    if any(bolt.name == met.other[1] and bolt.field for bolt in bolts):
        return {(key, work.on.name)}
    return {(key, solid.name) for solid in brought(solids)}


def _beside(done: Sequence[Work], others: Sequence[Standing]) -> Beside:
    """What comes near each room, by boxes."""
    found: Beside = defaultdict(list)
    rooms = [room for work in done for way in work.ways for room in way]
    if not rooms or not others:
        return found
    of = [(one, part) for one in others for part in boxes(one[1])]
    meet = overlapping(np.array([room.box() for room in rooms]), np.array([part for _, part in of]))
    for r, o in zip(*np.nonzero(meet), strict=True):
        one = of[int(o)][0]
        if not found[rooms[r]] or found[rooms[r]][-1] is not one:
            found[rooms[r]].append(one)
    return found


def _blocked(
    work: Work, key: str, sets: Sequence[tuple[str, Solids]], own: Sequence[Standing], near: Beside
) -> Collision | None:
    """Nothing if one of the ways is free, or none would be without the others; else what stands deepest in the way in
    which it stands least."""
    stand = [[(*met, one) for room in way for one in near[room] if (met := room.within(one[1]))] for way in work.ways]
    if not any(stand):
        return None
    beside = _beside([work], [one for one in own if one[1] is not work.on])
    alone = [
        met
        for met, way in zip(stand, work.ways, strict=True)
        if not any(room.within(solid) for room in way for _, solid in beside[room])
    ]
    if not alone or not all(alone):
        return None
    _, both, (number, solid) = min((max(met, key=lambda m: m[0]) for met in alone), key=lambda m: m[0])
    x, y, z, u, v, w = both.bounding_box()
    at, size = ((x + u) / 2, (y + v) / 2, (z + w) / 2), (u - x, v - y, w - z)
    other, parts = (sets[number][0], solid.name), (work.on.part, solid.part)
    return Collision((key, work.on.name), other, parts, float(both.volume()), at, size, work.room)


def _from_the_shop(solids: Solids) -> set[str]:
    """The pieces that come welded to what supports the connection."""
    return {name for weld in solids.welds if not weld.field and "support" in weld.joins for name in weld.joins}


def works(solids: Solids) -> Iterator[Work]:
    """The bolts that are put in at the site, fillets there, and those in the shop by which pieces come with their
    support."""
    for bolt in solids.bolts:
        if bolt.field:
            yield Work(bolt, WRENCH, tuple(_sockets(bolt)))
    for weld in solids.welds:
        if weld.kind == "fillet" and (weld.field or "support" in weld.joins):
            yield Work(weld, WELDING, tuple((_electrode(weld, lean),) for lean in LEANS), not weld.field)


def _sockets(bolt: Fastener) -> Iterator[Way]:
    """Its nut on the one side, its head coming in from the other; and the other way round."""
    grip, socket, head, long = bolt.grip, bolt.bolt.tightening, bodies.HEAD_WIDE * bolt.bolt.d, bolt.length
    yield Room(bolt.axes, grip, grip + REACH, socket), Room(bolt.axes, -long, 0.0, head)
    yield Room(bolt.axes, -REACH, 0.0, socket), Room(bolt.axes, grip, grip + long, head)


def _electrode(weld: Weld, lean: float) -> Room:
    """Along all of a fillet, from its face on, leaning so far from its first leg to its other."""
    (a, b), (one, other) = weld.run, weld.legs
    along = unit(combined((1.0, b), (-1.0, a)))
    angle = math.acos(max(-1.0, min(1.0, sum(p * q for p, q in zip(one, other, strict=True)))))
    parts = math.sin((1 - lean) * angle) / math.sin(angle), math.sin(lean * angle) / math.sin(angle)
    way = combined((parts[0], one), (parts[1], other))
    aside = cross(along, way)
    corners = tuple(
        combined((1.0, end), (far, way), (side * ELECTRODE / 2, aside))
        for end in (a, b)
        for far in (weld.size, weld.size + STICK)
        for side in (-1.0, 1.0)
    )
    return Room(Axes(), corners=corners)
