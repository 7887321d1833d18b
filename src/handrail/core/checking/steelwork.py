"""The building's members as pieces of steel, whole: from end to end, with what connections take off them and drill into
them. Exact, in the building's axes, mm."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from handrail.core.building.model import Building
from handrail.core.building.pieces import Pieces
from handrail.core.catalogue import Section
from handrail.core.joint.connection import SUPPORTED, Connection
from handrail.core.joint.situation import SUPPORT
from handrail.core.solids.axes import Axes, Vector, cross, dot
from handrail.core.solids.pieces import Bar, Bore, Point, Solids
from handrail.core.solids.profiles import Profile, profile

TENTH = 1  # decimals of mm: holes of two connections that are nearer are one
ENDS = ("start", "end")
PLUMB = 0.999  # of its way: what stands is built from its foot to its head
SQUARE = 0.2  # of its way: what is steeper cuts no end
SPLICED = ("beam_splice", "column_splice")
Standing = Iterable[tuple[str, Solids]]


@dataclass(frozen=True)
class Taken:
    """What a connection does to a piece of steel: at its `start`, its `end`, or somewhere `along` it."""

    connection: str
    where: str
    bar: Bar


@dataclass(frozen=True)
class End:
    """Where a piece of steel stops: the `node` that its analysed line goes to, the `connection` that is made there
    (none: empty), and how far before the node its top is cut in the middle of its web, mm; below 0 where it goes on
    past it; not known where no connection is made. `at` is where that is along the piece."""

    node: int
    connection: str = ""
    off: float | None = None
    at: float = 0.0


@dataclass(frozen=True)
class Steel:
    """A piece of steel called `name`, of these `members` of the building, the first at its start. `bar` is it as it is
    made; its axes' z goes from its start to its end, their y up its depth, its top at y = 0."""

    name: str
    role: str
    members: tuple[int, ...]
    section: Section
    bar: Bar
    ends: tuple[End, End]
    taken: tuple[Taken, ...]

    def along(self, place: Vector) -> Vector:
        """A place of the building as the piece has it: across, up its depth, and along it from its start."""
        return self.bar.axes.seen(place)


@dataclass(frozen=True)
class _Line:
    """A piece as it is analysed: its frame at its first node, how far it goes, the nodes at its ends."""

    members: tuple[int, ...]
    axes: Axes
    length: float
    nodes: tuple[int, int]


def steelwork(
    building: Building, pieces: Pieces, connections: Mapping[str, Connection], standing: Standing
) -> Iterator[Steel]:
    """Every piece of steel whose section is known, with what the connections that are `standing` (key, solids in the
    building's axes) do to it. An end where nothing stands goes to its node."""
    held: dict[int, list[tuple[Connection, Bar, Solids]]] = defaultdict(list)
    for key, solids in standing:
        for bar, number in bars(connections[key], solids):
            held[pieces.piece[number]].append((connections[key], bar, solids))
    of: dict[int, list[int]] = defaultdict(list)
    for number, piece in enumerate(pieces.piece):
        of[piece].append(number)
    names: set[str] = set()
    for piece, members in of.items():
        section = building.section(building.members[members[0]].section)
        if section is not None:
            steel = _steel(building, pieces, members, section, held.get(piece, []))
            named = _named(building, steel.members, names)
            names.add(named)
            yield replace(steel, name=named, bar=replace(steel.bar, name=named))


def bars(connection: Connection, solids: Solids) -> Iterator[tuple[Bar, int]]:
    """What a connection's solids have of members, and which of the building these are."""
    for bar, role in zip(solids.members, (SUPPORTED, SUPPORT), strict=False):
        number = next((p.member for p in connection.pieces if p.role == role), None)
        if number is not None:
            yield bar, number


def _steel(
    building: Building,
    pieces: Pieces,
    members: Sequence[int],
    section: Section,
    held: Sequence[tuple[Connection, Bar, Solids]],
) -> Steel:
    line = _line(building, pieces, members, section)
    ends = [End(line.nodes[0]), End(line.nodes[1])]
    stops = [0.0, line.length]
    taken = []
    for connection, bar, solids in held:
        where = _where(line, connection)
        taken.append(Taken(connection.id, ENDS[where] if where is not None else "along", bar))
        if where is None:
            continue
        way = (-1.0, 1.0)[where]
        if _stops(connection, bar):
            stops[where] = _near(line.axes, bar, way)
            at = _cut_at(line.axes, bar, way)
            ends[where] = End(line.nodes[where], connection.id, -way * (at - (0.0, line.length)[where]), at)
        elif not ends[where].connection:
            stops[where] = way * max(way * stops[where], *(way * s for s in _reached(line.axes, solids)))
    start, stop = stops
    ends = [
        replace(end, at=(end.at if end.connection else stop) - start) for end, stop in zip(ends, stops, strict=True)
    ]
    first = building.members[members[0]]
    bar = Bar(
        name="",
        part="member",
        axes=line.axes.moved(z=start),
        section=section.name,
        profile=_handed(section, line.axes, [bar for _, bar, _ in held]),
        length=stop - start,
        cuts=tuple(dict.fromkeys(cut for one in taken for cut in one.bar.cuts)),
        bores=_once(bore for one in taken for bore in one.bar.bores),
        grade=first.grade,
        mass=section.mass,
    )
    return Steel(bar.name, pieces.roles[members[0]], line.members, section, bar, (ends[0], ends[1]), tuple(taken))


def _line(building: Building, pieces: Pieces, members: Sequence[int], section: Section) -> _Line:
    """Beams have their top of steel a member's `top_offset` below its line, all else its middle on it."""
    way = pieces.straight[members[0]]
    if way[2] < -PLUMB:
        way = -way
    far = {n: float(building.xyz[n] @ way) for k in members for n in _nodes(building, k)}
    start, stop = min(far, key=lambda n: far[n]), max(far, key=lambda n: far[n])
    ordered = sorted(members, key=lambda k: min(far[n] for n in _nodes(building, k)))
    first = building.members[ordered[0]]
    up = building.axes[ordered[0], 1]
    up = up - (up @ way) * way
    up = up / np.linalg.norm(up)
    at = building.xyz[start]
    at = (
        at - first.top_offset * np.array([0.0, 0.0, 1.0])
        if pieces.roles[ordered[0]] == "beam"
        else at + up * _half(section)
    )
    z, y = _vector(way), _vector(up)
    return _Line(tuple(ordered), Axes(_vector(at), cross(y, z), y), far[stop] - far[start], (start, stop))


def _half(section: Section) -> float:
    return section.d / 2 if section.family != "L" else 0.0


def _nodes(building: Building, member: int) -> tuple[int, int]:
    return building.members[member].i, building.members[member].j


def _vector(v: np.ndarray) -> Vector:
    return float(v[0]), float(v[1]), float(v[2])


def _named(building: Building, members: Sequence[int], taken: set[str]) -> str:
    """As the bundle calls the piece, else by its first member; never as another."""
    first = building.members[members[0]]
    wanted = (first.physical, first.name, *(building.members[k].name for k in members), f"{first.name} ({len(taken)})")
    return next(name for name in wanted if name and name not in taken)


def _where(line: _Line, connection: Connection) -> int | None:
    """At its start, its end, or along it."""
    return line.nodes.index(connection.node) if connection.node in line.nodes else None


def _stops(connection: Connection, bar: Bar) -> bool:
    """Whether the piece's own end is made there: not where it only carries another."""
    return bar.name != SUPPORT or connection.framing in SPLICED


def _near(axes: Axes, bar: Bar, way: float) -> float:
    """How far along a piece its bar begins, on the side of its end."""
    ends = (axes.seen(bar.axes.at(z=s))[2] for s in (0.0, bar.length))
    return way * max(way * s for s in ends)


def _cut_at(axes: Axes, bar: Bar, way: float) -> float:
    """How far along a piece its end is at the top of its web: where an end cut meets its line, else where its bar
    begins."""
    for cut in bar.cuts:
        if len(cut.planes) == 1:
            at, out = axes.seen(cut.planes[0].at), turned_into(cut.planes[0].out, axes)
            if out[2] * way > SQUARE:
                return dot(at, out) / out[2]
    return _near(axes, bar, way)


def _reached(axes: Axes, solids: Solids) -> Iterator[float]:
    """How far along a piece that carries it what is brought there stands: its profile, and its plates."""
    bar = solids.members[0]
    near = min(
        (0.0, bar.length), key=lambda s: abs(axes.seen(bar.axes.at(z=s))[0]) + abs(axes.seen(bar.axes.at(z=s))[1])
    )
    for outline in bar.profile:
        for x, y in outline:
            yield axes.seen(bar.axes.at(x, y, near))[2]


def _handed(section: Section, axes: Axes, bars: Iterable[Bar]) -> Profile:
    """The profile, a channel's flanges as its connections have them."""
    own = profile(section)
    if not section.channel:
        return own
    for bar in bars:
        middle = _mean(bar.profile[0])
        if axes.seen(bar.axes.at(*middle))[0] * _mean(own[0])[0] < 0:
            return tuple(tuple((-x, y) for x, y in reversed(outline)) for outline in own)
    return own


def _mean(outline: tuple[Point, ...]) -> Point:
    """The middle of a box around it."""
    xs, ys = zip(*outline, strict=True)
    return (min(xs) + max(xs)) / 2, (min(ys) + max(ys)) / 2


def _once(bores: Iterable[Bore]) -> tuple[Bore, ...]:
    """Holes that two connections have from both sides are one."""
    found: dict[tuple[float, ...], Bore] = {}
    for bore in bores:
        middle = bore.axes.at(z=bore.deep / 2)
        found.setdefault((*(round(v, TENTH) + 0.0 for v in middle), bore.d, bore.long), bore)
    return tuple(found.values())


def weight(steel: Steel) -> float:
    """Of the piece as it is cut, holes not taken off, kg."""
    return steel.bar.mass * steel.bar.length / 1e3


def turned_into(way: Vector, axes: Axes) -> Vector:
    """A direction of the building as a piece has it: across, up its depth, along it."""
    return dot(way, axes.x), dot(way, axes.y), dot(way, axes.z)
