"""What is done to members, as lists for the saw and the drill line: at their ends, and holes by face."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from handrail.core.checking.lists import Cell, Table, exact, length_unit
from handrail.core.checking.steelwork import ENDS, Steel, Taken, turned_into
from handrail.core.solids.axes import Vector, combined, dot
from handrail.core.solids.pieces import Bore, Cut

SQUARE = 0.05  # degrees that a square cut may be off
BEVEL = 0.2  # of its way: a cut across a piece looks along it so far at least
NONE = ""


@dataclass(frozen=True)
class Holes:
    """Holes of one size in one `face` of a piece of steel, made for one connection: each (along from the piece's start,
    across its face), mm. Across a web or a wall it is below the top; across a flange beside the web, + to the left as
    one looks along the piece."""

    connection: str
    where: str
    face: str
    d: float
    long: float
    places: tuple[tuple[float, float], ...]


def ends(steel: Sequence[Steel], marks: Mapping[str, str], shown: Mapping[str, str], system: str) -> Table:
    """A row for each end of a piece at which one of the `shown` connections is (key -> level): what its line is
    shortened by, how it is cut, how far that is off square, copes (length at the middle of the web, depth, radius), how
    many holes."""
    unit = length_unit(system)
    copes = [f"{side} cope {what}, {unit}" for side in ("top", "bottom") for what in ("length", "depth", "radius")]
    head = ["member", "section", "grade", f"length, {unit}", "end", "level", "connection", "mark",
            f"taken off, {unit}", "end cut", "off square across the flanges, deg", "off square across the web, deg",
            *copes, "other cuts", "holes"]  # fmt: skip
    rows: list[list[Cell]] = []
    for one in steel:
        for end, name in zip(one.ends, ENDS, strict=True):
            if end.connection not in shown:
                continue
            taken = next(t for t in one.taken if t.connection == end.connection and t.where == name)
            cuts = _cuts(one, taken, system)
            holes = sum(len(h.places) for h in holes_of(one) if (h.connection, h.where) == (end.connection, name))
            own = (one.name, one.section.name, one.bar.grade, exact(one.bar.length, system), name)
            assert end.off is not None
            rows.append([*own, shown[end.connection], end.connection, marks.get(end.connection, ""),
                         exact(end.off, system) + 0.0, *cuts, holes])  # fmt: skip
    return head, rows


def holes(steel: Sequence[Steel], marks: Mapping[str, str], shown: Mapping[str, str], system: str) -> Table:
    """A row for each face of a piece and each connection that it is drilled for: sizes and places of the holes."""
    unit = length_unit(system)
    head = ["member", "section", "where", "level", "connection", "mark", "face", "count", f"diameter, {unit}",
            f"slot, {unit}", f"from the start, {unit}", f"across, {unit}"]  # fmt: skip
    rows: list[list[Cell]] = []
    for one in steel:
        for some in holes_of(one):
            if some.connection not in shown:
                continue
            along = sorted({round(a, 2) for a, _ in some.places})
            across = sorted({round(b, 2) for _, b in some.places})
            rows.append([one.name, one.section.name, some.where, shown[some.connection], some.connection,
                         marks.get(some.connection, ""), some.face, len(some.places), exact(some.d, system),
                         exact(some.long, system) if some.long > some.d else "",
                         _each(along, system), _each(across, system)])  # fmt: skip
    return head, rows


def _each(values: Sequence[float], system: str) -> str:
    return "; ".join(f"{exact(v, system) + 0.0:g}" for v in values)


def holes_of(steel: Steel) -> list[Holes]:
    """By connection, face and size; what two connections have in common is the first one's."""
    found: dict[tuple[str, str, str, float, float], list[tuple[float, float]]] = defaultdict(list)
    left = list(steel.bar.bores)
    for taken in steel.taken:
        for bore in taken.bar.bores:
            if bore in left:
                left.remove(bore)
                face, place = _on_face(steel, bore)
                found[taken.connection, taken.where, face, bore.d, bore.long].append(place)
    return [Holes(*key, tuple(sorted(places))) for key, places in found.items()]


def _on_face(steel: Steel, bore: Bore) -> tuple[str, tuple[float, float]]:
    """Which face a hole goes through, and where."""
    x, y, z = steel.along(bore.axes.at(z=bore.deep / 2))
    across, up, _ = turned_into(bore.axes.z, steel.bar.axes)
    if abs(up) > abs(across):
        return _faced(steel, "flange", (0.0, 1.0 if y > -steel.section.d / 2 else -1.0)), (z, x)
    if steel.section.hollow:
        return _faced(steel, "wall", (1.0 if x > 0 else -1.0, 0.0)), (z, -y)
    return "web", (z, -y)


def _faced(steel: Steel, what: str, out: tuple[float, float]) -> str:
    """A face by where it looks: up, down, or a direction of the plan."""
    way = combined((out[0], steel.bar.axes.x), (out[1], steel.bar.axes.y))
    if abs(way[2]) > math.sqrt(0.5):
        return f"{'top' if way[2] > 0 else 'bottom'} {what}"
    return f"{what} to {_way(way)}"


def _way(way: Vector) -> str:
    """A direction of the plan: one of its axes, or how far it is turned from x to y."""
    degrees = math.degrees(math.atan2(way[1], way[0])) % 360
    nearest = round(degrees / 90) % 4
    if abs((degrees - 90 * nearest + 180) % 360 - 180) < 1:
        return ("+x", "+y", "-x", "-y")[nearest]
    return f"{degrees:.0f} deg from x"


def _cuts(steel: Steel, taken: Taken, system: str) -> list[Cell]:
    """The end cut in words and in degrees off square, the copes at the top and the bottom, what else is cut."""
    way = -1.0 if taken.where == ENDS[0] else 1.0
    flange, web = 0.0, 0.0
    copes: dict[bool, list[Cell]] = {True: ["", "", ""], False: ["", "", ""]}
    other = 0
    for cut in taken.bar.cuts:
        planes = [(steel.along(p.at), turned_into(p.out, steel.bar.axes)) for p in cut.planes]
        if len(planes) == 1:
            flange, web = _angles(planes[0][1], way)
            continue
        cope = _cope(steel, cut, planes, way, system)
        if cope is None:
            other += 1
        else:
            copes[cope[0]] = cope[1]
    words = " and ".join(
        name for name, angle in (("the flanges", flange), ("the web", web)) if abs(angle) > SQUARE
    )  # fmt: skip
    return [f"askew across {words}" if words else "square", round(flange, 2) + 0.0, round(web, 2) + 0.0, *copes[True],
            *copes[False], f"{other} notch{'es' if other > 1 else ''}" if other else NONE]  # fmt: skip


def _angles(out: Vector, way: float) -> tuple[float, float]:
    """How an end cut is turned from square, degrees: in plan of the flanges, and in the plane of the web."""
    return math.degrees(math.atan2(out[0], way * out[2])), math.degrees(math.atan2(out[1], way * out[2]))


def _cope(
    steel: Steel, cut: Cut, planes: Sequence[tuple[Vector, Vector]], way: float, system: str
) -> tuple[bool, list[Cell]] | None:
    """Of a cope whether it is at the top, and how long it is at the middle of the web from the end of the steel there,
    how deep, its radius; None where a cut is none."""
    sides = [(at, out) for at, out in planes if abs(out[1]) > math.sqrt(0.5)]
    ends = [(at, out) for at, out in planes if (at, out) not in sides and way * out[2] > BEVEL]
    if len(ends) != 1 or len(sides) != 1:
        return None
    (at, out), (level, up) = ends[0], sides[0]
    long = way * (steel.ends[0 if way < 0 else 1].at - dot(at, out) / out[2])
    deep = -level[1] if up[1] > 0 else level[1] + steel.section.d
    return up[1] > 0, [exact(long, system), exact(deep, system), exact(cut.radius, system)]
