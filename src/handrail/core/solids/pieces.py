"""What a connection is made of, each piece in place: plain data, exact, in the axes of its joint; lengths mm."""

from __future__ import annotations

from dataclasses import dataclass

from manifold3d import Manifold

from handrail.core.catalogue import Bolt
from handrail.core.solids.axes import Axes, Vector, combined, dot

Point = tuple[float, float]


@dataclass(frozen=True)
class Plane:
    """What lies beyond it, on the side that `out` (a unit vector) points to, is outside."""

    at: Vector
    out: Vector


@dataclass(frozen=True)
class Cut:
    """What is taken off a piece: all that lies beyond every one of `planes`. One plane is an end cut or a bevel,
    several are a notch, with `radius` in its corner."""

    planes: tuple[Plane, ...]
    radius: float = 0.0


@dataclass(frozen=True)
class Hole:
    """Through a plate at (`x`, `y`) of its plane: round of `d`, or a slot `long` overall in a direction `turned` rad
    from the plate's x."""

    x: float
    y: float
    d: float
    long: float = 0.0
    turned: float = 0.0

    @property
    def slotted(self) -> bool:
        """Whether it is longer than it is wide."""
        return self.long > self.d


@dataclass(frozen=True)
class Bore:
    """A hole drilled into a bar from the origin of its axes along their z, `deep` mm; a slot is `long` along their
    x."""

    axes: Axes
    deep: float
    d: float
    long: float = 0.0


@dataclass(frozen=True, kw_only=True)
class Plate:
    """A flat piece: `outline` (counter-clockwise) in the plane of x and y of its axes, `thickness` along z. `part` is
    what checks, drawings and clicks call it, `name` tells it from others of its connection."""

    name: str
    part: str
    axes: Axes
    outline: tuple[Point, ...]
    thickness: float
    holes: tuple[Hole, ...] = ()
    cuts: tuple[Cut, ...] = ()
    grade: str = ""

    @property
    def area(self) -> float:
        """Of its outline, mm^2: as it is cut from a larger plate, holes and bevels not taken off."""
        return abs(shoelace(self.outline))

    @property
    def sides(self) -> tuple[float, float]:
        """Of the rectangle that it is cut from, along x and y of its axes, mm."""
        xs, ys = zip(*self.outline, strict=True)
        return max(xs) - min(xs), max(ys) - min(ys)


@dataclass(frozen=True, kw_only=True)
class Bar:
    """A rolled piece: its section's profile in the plane of x and y of its axes, `length` along z. A member is one,
    broken off where it goes on."""

    name: str
    part: str
    axes: Axes
    section: str
    profile: tuple[tuple[Point, ...], ...]  # its outline counter-clockwise; what is hollow in it the other way
    length: float
    cuts: tuple[Cut, ...] = ()
    bores: tuple[Bore, ...] = ()
    grade: str = ""
    mass: float = 0.0  # kg/m


@dataclass(frozen=True)
class Washer:
    """A round one of `wide` mm, or a plate `long` in the direction of its bolt's x, or of its y where it is
    `upright`."""

    thickness: float
    wide: float
    long: float = 0.0
    upright: bool = False


@dataclass(frozen=True, kw_only=True)
class Fastener:
    """A bolt: its plies begin at the origin of its axes, its shank goes along their z through a `grip` of `plies` (by
    their names, from the head on) to its nut; `washers` lie under the head and under the nut."""

    name: str
    part: str
    axes: Axes
    bolt: Bolt
    grip: float
    plies: tuple[str, ...]
    field: bool
    tightening: str = "snug"
    washers: tuple[Washer | None, Washer | None] = (None, None)

    @property
    def under(self) -> tuple[float, float]:
        """How thick the washers under head and nut are, mm."""
        head, nut = self.washers
        return head.thickness if head else 0.0, nut.thickness if nut else 0.0

    @property
    def length(self) -> float:
        """As it is ordered, mm."""
        return self.bolt.length(self.grip + sum(self.under))


@dataclass(frozen=True, kw_only=True)
class Weld:
    """A fillet of `size` along `run`, from one place to another, its two legs in the directions `legs` (unit vectors on
    the surfaces that it joins, away from their common line); or a groove of a throat of `size`, which lies within what
    it joins: two by their names."""

    name: str
    part: str
    run: tuple[Vector, Vector]
    legs: tuple[Vector, Vector]
    size: float
    joins: tuple[str, str]
    field: bool
    electrode: str = ""
    kind: str = "fillet"

    @property
    def length(self) -> float:
        """Of its line, mm."""
        way = combined((1.0, self.run[1]), (-1.0, self.run[0]))
        return float(dot(way, way) ** 0.5)


@dataclass(frozen=True, kw_only=True)
class Rod:
    """A round rod from the origin of its axes along their z, with `nuts` (how far along they begin, how high they are,
    mm) of so many `flats` across; the head of an anchor is the last of them."""

    name: str
    part: str
    axes: Axes
    d: float
    length: float
    flats: float
    nuts: tuple[tuple[float, float], ...]
    grade: str = ""


@dataclass(frozen=True, kw_only=True)
class Rebar:
    """A bar in concrete along a `run` of places."""

    name: str
    part: str
    run: tuple[Vector, ...]
    d: float


Piece = Plate | Bar


@dataclass(frozen=True)
class Solids:
    """A connection: the `members` that it holds, as far as they are near, its own pieces, bolts and welds; rods, and
    `bars` in concrete; the `ground` that it stands on, which is cast around what stands in it. `erection` bolts hold it
    until it is welded, wherever the shop puts them. `beside` are bodies of others at its joint, only seen."""

    members: tuple[Bar, ...]
    pieces: tuple[Piece, ...]
    bolts: tuple[Fastener, ...] = ()
    welds: tuple[Weld, ...] = ()
    rods: tuple[Rod, ...] = ()
    bars: tuple[Rebar, ...] = ()
    ground: tuple[Plate, ...] = ()
    erection: int = 0
    beside: tuple[Manifold, ...] = ()

    def named(self, name: str) -> Piece:
        """A member or a piece by its name."""
        return next(p for p in (*self.members, *self.pieces) if p.name == name)


def shoelace(outline: tuple[Point, ...]) -> float:
    """Area of a polygon, + where it goes round counter-clockwise, mm^2."""
    turned = (*outline[1:], outline[0])
    return sum(x0 * y1 - x1 * y0 for (x0, y0), (x1, y1) in zip(outline, turned, strict=True)) / 2
