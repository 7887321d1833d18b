"""What of a connection stands in another one of its joint, and what comes of that: both fail, unless a person lets it
stand."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import asdict, dataclass
from typing import Any

from handrail.core.building.joint import SHEAR_ENDS
from handrail.core.building.model import Building
from handrail.core.checking.assembled import Assembled, Made, assembled
from handrail.core.checking.assigning import Assigned
from handrail.core.limit_state import DetailingRule
from handrail.core.quantities.words import held
from handrail.core.remark import Remark
from handrail.core.solids.axes import Vector
from handrail.core.solids.collisions import Collision

COLLISION = "collision"  # the rule that a collision breaks; an override of this name lets some stand
CLAUSE = "joint"
MORE = 0.5  # mm by which a collision that stands may be deeper than it was
Stands = Mapping[str, Sequence[tuple[str, str, float]]]  # other connection -> (own part, its part, how deep, mm)
Overrides = Mapping[str, Mapping[str, Any]]


@dataclass(frozen=True)
class Colliding:
    """That a `piece` (a `part`) of a connection stands `depth` mm deep in `its` one (`its_part`) of the `other`
    connection, about the place `at` in its own axes, mm; `stands` where a person lets it."""

    piece: str
    part: str
    other: str
    its: str
    its_part: str
    depth: float
    at: Vector
    stands: bool = False

    @classmethod
    def of(cls, kept: Mapping[str, Any]) -> Colliding:
        """As it was kept by `as_dict`."""
        x, y, z = kept["at"]
        return cls(**{**kept, "at": (x, y, z)})

    def as_dict(self) -> dict[str, Any]:
        """As plain data, as it is kept."""
        return asdict(self) | {"at": list(self.at)}

    def words(self, framing: str) -> str:
        """In words, with quantities in them; `framing` of the connection that it is told of."""
        deep = held(self.depth, "length")
        return f"{self.piece} stands {deep} deep in {self.its} of {self.other}, {self._place(framing)}"

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
        return DetailingRule(COLLISION, self.part, self.depth, 0.0, self.stands, "length", False, CLAUSE, words)

    def note(self, framing: str) -> Remark:
        """That a person lets it stand."""
        return Remark(f"a collision that a person lets stand: {self.words(framing)}")


def colliding(
    building: Building,
    standing: Iterable[tuple[Assigned, Made]],
    overrides: Overrides,
    going: Callable[[], None] = lambda: None,
) -> dict[str, tuple[Colliding, ...]]:
    """connection -> what of it stands in others, of connections as they are made; the deepest first, each two parts of
    two connections once. `going` is told of each joint; what it raises ends it."""
    found: dict[str, dict[tuple[str, str, str], Colliding]] = defaultdict(dict)
    for joint in assembled(building, standing):
        going()
        for one in joint.collisions():
            for own, other in ((0, 1), (1, 0)):
                told = _told(joint, one, own, other, overrides)
                worst = found[(one.one, one.other)[own][0]].setdefault((told.part, told.other, told.its_part), told)
                if told.depth > worst.depth:
                    found[(one.one, one.other)[own][0]][told.part, told.other, told.its_part] = told
    return {key: tuple(sorted(some.values(), key=lambda c: -c.depth)) for key, some in found.items()}


def _told(joint: Assembled, one: Collision, own: int, other: int, overrides: Overrides) -> Colliding:
    """A collision as one of its two connections is told of it."""
    sides = (one.one, one.other)
    key, (its, piece) = sides[own][0], sides[other]
    parts, depth = (one.parts[own], one.parts[other]), round(one.depth, 2)
    x, y, z = (round(v, 1) + 0.0 for v in joint.seen(key, one.at))
    stands = _lets(overrides, key, its, parts, depth) or _lets(overrides, its, key, parts[::-1], depth)
    return Colliding(sides[own][1], parts[0], its, piece, parts[1], depth, (x, y, z), stands)


def _lets(overrides: Overrides, key: str, other: str, parts: tuple[str, str], depth: float) -> bool:
    """Whether a person said of `key` that its part may stand so deep in that of `other`."""
    said: Stands = overrides.get(key, {}).get(COLLISION, {})
    return any((own, its) == parts and depth <= most + MORE for own, its, most in said.get(other, ()))


def to_stand(some: Iterable[Colliding]) -> dict[str, list[tuple[str, str, float]]]:
    """What lets these stand, as it is kept."""
    kept: dict[str, list[tuple[str, str, float]]] = defaultdict(list)
    for one in some:
        kept[one.other].append((one.part, one.its_part, one.depth))
    return dict(kept)
