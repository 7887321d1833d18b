"""What of a connection stands in another one of its joint, or in the room that work there needs, and what comes of
that: both fail, unless a person lets it stand."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import asdict, dataclass, replace
from typing import Any

from handrail.core.building.joint import SHEAR_ENDS
from handrail.core.building.model import Building
from handrail.core.checking.assembled import Assembled, Made, assembled
from handrail.core.checking.assigning import Assigned
from handrail.core.limit_state import DetailingRule
from handrail.core.quantities.words import held
from handrail.core.remark import Remark
from handrail.core.solids.access import WELDING, WRENCH
from handrail.core.solids.axes import Vector
from handrail.core.solids.bringing import WAY
from handrail.core.solids.collisions import Collision

ROOMS = {WRENCH: "a wrench", WELDING: "an electrode", WAY: "its way in"}
COLLISION = "collision"  # the rule that a collision breaks; an override of this name lets some stand
CLAUSE = "joint"
MORE = 0.5  # mm by which a collision that stands may be deeper than it was
Stands = Mapping[str, Sequence[tuple[str, str, float]]]  # other connection -> (own part, its part, how deep, mm)
Overrides = Mapping[str, Mapping[str, Any]]


@dataclass(frozen=True)
class Colliding:
    """That a `piece` (a `part`) of a connection stands `depth` mm deep in `its` one (`its_part`) of the `other`
    connection, about the place `at` in its own axes, mm; `stands` where a person lets it. With a `room` (of ROOMS) that
    work on one of the two needs, it is that which the other one stands in: `own` where the work is on this one."""

    piece: str
    part: str
    other: str
    its: str
    its_part: str
    depth: float
    at: Vector
    stands: bool = False
    room: str = ""
    own: bool = False

    @classmethod
    def of(cls, kept: Mapping[str, Any]) -> Colliding:
        """As it was kept by `as_dict`."""
        x, y, z = kept["at"]
        return cls(**{**kept, "at": (x, y, z)})

    def as_dict(self) -> dict[str, Any]:
        """As plain data, as it is kept."""
        return asdict(self) | {"at": list(self.at)}

    @property
    def stand_parts(self) -> tuple[str, str]:
        """(own part, its part) by which a person lets it stand; where it is about room, with which room of whose."""
        named = f" {self.room}" if self.room else ""
        return (f"{self.part}{named}", self.its_part) if self.own else (self.part, f"{self.its_part}{named}")

    @property
    def breaks(self) -> bool:
        """Whether it fails both. Ways on which nothing comes in straight are told for people to look at: they turn and
        tilt beams."""
        return not self.stands and self.room != WAY

    def words(self, framing: str) -> str:
        """In words, with quantities in them; `framing` of the connection that it is told of."""
        deep, place, its = held(self.depth, "length"), self._place(framing), f"{self.its} of {self.other}"
        if not self.room:
            return f"{self.piece} stands {deep} deep in {its}, {place}"
        if self.room == WAY and self.own:
            return f"{self.piece} cannot be brought in straight past {its}: that stands {deep} in the way, {place}"
        if self.room == WAY:
            return f"{self.piece} stands {deep} in the way on which {its} is brought in, {place}"
        if self.own:
            return f"{self.piece} has no room for {ROOMS[self.room]}: {its} stands {deep} deep in it, {place}"
        return f"{self.piece} stands {deep} deep in the room for {ROOMS[self.room]} at {its}, {place}"

    def _place(self, framing: str) -> str:
        x, _, z = self.at
        up = "above" if z > 0 else "below"
        if framing in SHEAR_ENDS:
            return f"{held(x, 'length')} from the face that it meets, {held(abs(z), 'length')} {up} its top of steel"
        if framing == "beam_splice":
            return f"{held(abs(x), 'length')} from the splice's middle, {held(abs(z), 'length')} {up} its top of steel"
        return f"{held(abs(z), 'length')} {up} the joint"

    def rule(self, framing: str) -> DetailingRule:
        """As a rule of detailing that it breaks, or that a person lets be broken."""
        words = self.words(framing) + (": a person lets it stand" if self.stands else "")
        return DetailingRule(COLLISION, self.part, self.depth, 0.0, not self.breaks, "length", False, CLAUSE, words)

    def note(self, framing: str) -> Remark:
        """That a person lets it stand, or should look at it."""
        if self.room == WAY and not self.stands:
            return Remark(self.words(framing))
        return Remark(f"a collision that a person lets stand: {self.words(framing)}")


def colliding(
    building: Building,
    standing: Iterable[tuple[Assigned, Made]],
    overrides: Overrides,
    going: Callable[[], None] = lambda: None,
) -> dict[str, tuple[Colliding, ...]]:
    """connection -> what of it stands in others, of connections as they are made; the deepest first, each two parts of
    two connections once. `going` is told of each joint; what it raises ends it."""
    found: dict[str, dict[tuple[str, ...], Colliding]] = defaultdict(dict)
    for joint in assembled(building, standing):
        going()
        for one in joint.collisions():
            for own, other in ((0, 1), (1, 0)):
                told = _told(joint, one, own, other, overrides)
                there, of = found[(one.one, one.other)[own][0]], (*told.stand_parts, told.other)
                if told.depth >= there.setdefault(of, told).depth:
                    there[of] = told
    return {key: tuple(sorted(some.values(), key=lambda c: -c.depth)) for key, some in found.items()}


def _told(joint: Assembled, one: Collision, own: int, other: int, overrides: Overrides) -> Colliding:
    """A collision as one of its two connections is told of it."""
    sides = (one.one, one.other)
    key, (its, piece) = sides[own][0], sides[other]
    parts, depth = (one.parts[own], one.parts[other]), round(one.depth, 2)
    x, y, z = (round(v, 1) + 0.0 for v in joint.seen(key, one.at))
    told = Colliding(
        sides[own][1], parts[0], its, piece, parts[1], depth, (x, y, z), False, one.room, bool(one.room) and own == 0
    )
    said = told.stand_parts
    stands = _lets(overrides, key, its, said, depth) or _lets(overrides, its, key, said[::-1], depth)
    return replace(told, stands=stands)


def _lets(overrides: Overrides, key: str, other: str, parts: tuple[str, str], depth: float) -> bool:
    """Whether a person said of `key` that its part may stand so deep in that of `other`."""
    said: Stands = overrides.get(key, {}).get(COLLISION, {})
    return any((own, its) == parts and depth <= most + MORE for own, its, most in said.get(other, ()))


def to_stand(some: Iterable[Colliding]) -> dict[str, list[tuple[str, str, float]]]:
    """What lets these stand, as it is kept."""
    kept: dict[str, list[tuple[str, str, float]]] = defaultdict(list)
    for one in some:
        kept[one.other].append((*one.stand_parts, one.depth))
    return dict(kept)
