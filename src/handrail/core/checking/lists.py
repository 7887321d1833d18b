"""What connections are made of, as lists that a shop buys and cuts by: plates and angles, bolts, rods, welds; counted
from the solids, bolts that hold two connections once."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from string import ascii_lowercase

from handrail.core.quantities.units import INCH, WEIGHT, worked
from handrail.core.solids.counting import weight
from handrail.core.solids.pieces import Bar, Fastener, Piece, Plate, Solids, Washer

Cell = str | float | int
Table = tuple[list[str], list[list[Cell]]]
DIGITS = 2  # of mm, within which pieces are alike
KINDS = ("plates", "bolts", "rods", "welds")


@dataclass(frozen=True)
class Made:
    """A connection as it is made: its mark, its level, and its solids with bolts that it shares counted here or not."""

    mark: str
    level: str
    solids: Solids


@dataclass(frozen=True)
class Cut:
    """A piece of steel of a mark, called `name`; `each` in a connection, `count` in all."""

    name: str
    mark: str
    piece: Piece
    each: int
    count: int


def cuts(made: Iterable[Made]) -> list[Cut]:
    """The different pieces of each mark: those of one mark are alike, so its first connection says what they are."""
    first: dict[str, Solids] = {}
    counts: Counter[str] = Counter()
    for one in made:
        first.setdefault(one.mark, one.solids)
        counts[one.mark] += 1
    found = []
    for mark, solids in first.items():
        alike: dict[tuple[object, ...], list[Piece]] = {}
        for piece in solids.pieces:
            alike.setdefault(_likeness(piece), []).append(piece)
        for number, some in enumerate(alike.values()):
            name = f"{mark}{_letter(number)}"
            found.append(Cut(name, mark, some[0], len(some), len(some) * counts[mark]))
    return found


def _letter(number: int) -> str:
    own = ascii_lowercase[number % 26]
    return own if number < 26 else f"{own}{number // 26}"


def _likeness(piece: Piece) -> tuple[object, ...]:
    """What makes a piece another one to cut: its outline and holes where they stand, or its section and length."""
    if isinstance(piece, Bar):
        holes = sorted((*_rounded(piece, bore.axes.origin), round(bore.d, DIGITS)) for bore in piece.bores)
        return piece.section, round(piece.length, DIGITS), piece.grade, tuple(holes), len(piece.cuts)
    x0, y0 = min(x for x, _ in piece.outline), min(y for _, y in piece.outline)
    outline = tuple((round(x - x0, DIGITS), round(y - y0, DIGITS)) for x, y in piece.outline)
    holes = sorted((round(h.x - x0, DIGITS), round(h.y - y0, DIGITS), h.d, h.long) for h in piece.holes)
    return outline, round(piece.thickness, DIGITS), piece.grade, tuple(holes), len(piece.cuts)


def _rounded(bar: Bar, place: tuple[float, float, float]) -> tuple[float, ...]:
    return tuple(round(v, DIGITS) for v in bar.axes.seen(place))


def plates(found: Sequence[Cut], system: str) -> Table:
    """A row a piece: sizes in in. or mm to the workshop's rounding, weights in lb or kg."""
    unit, (heavy, per) = length_unit(system), WEIGHT[system]
    sizes = (f"{name}, {unit}" for name in ("thickness", "width", "length"))
    head = ["piece", "mark", "what", "each", "count", *sizes, "grade", "holes", f"weight each, {heavy}",
            f"weight, {heavy}"]  # fmt: skip
    rows: list[list[Cell]] = []
    for cut in found:
        piece, mass = cut.piece, weight(cut.piece) * per
        own: tuple[Cell, ...]
        if isinstance(piece, Plate):
            own = exact(piece.thickness, system), *(_long(side, system) for side in sorted(piece.sides))
        else:
            own = "", "", _long(piece.length, system)
        what, holes = ("plate", len(piece.holes)) if isinstance(piece, Plate) else (piece.section, len(piece.bores))
        rows.append([cut.name, cut.mark, what, cut.each, cut.count, *own, piece.grade, holes, round(mass, 2),
                     round(mass * cut.count, 1)])  # fmt: skip
    return head, rows


def bolts(made: Iterable[Made], system: str) -> Table:
    """A row for what is alike of each mark and level: length as it is ordered, washers, where it is put in."""
    unit, counts = length_unit(system), Counter[tuple[Cell, ...]]()
    for one in made:
        for bolt in one.solids.bolts:
            counts[one.mark, one.level, *_bolt(bolt, system)] += 1
        if one.solids.erection:
            counts[one.mark, one.level, "", "erection bolt", "", "", "", "", "site"] += one.solids.erection
    head = ["mark", "level", f"diameter, {unit}", "bolt", f"length, {unit}", "under head", "under nut", "tightening",
            "where", "count"]  # fmt: skip
    return head, [[*key, count] for key, count in counts.items()]


def _bolt(bolt: Fastener, system: str) -> tuple[Cell, ...]:
    head, nut = (_washer(washer, system) for washer in bolt.washers)
    size, length = exact(bolt.bolt.d, system), _long(bolt.length, system)
    return size, bolt.bolt.name, length, head, nut, bolt.tightening, "site" if bolt.field else "shop"


def _washer(washer: Washer | None, system: str) -> str:
    if washer is None:
        return ""
    return f"plate washer {exact(washer.thickness, system):g}" if washer.long else "washer"


def rods(made: Iterable[Made], system: str) -> Table:
    """A row for what is alike of each mark: anchors with their whole length."""
    unit, counts = length_unit(system), Counter[tuple[Cell, ...]]()
    for one in made:
        for rod in one.solids.rods:
            own = exact(rod.d, system), rod.grade, _long(rod.length, system), len(rod.nuts)
            counts[one.mark, *own] += 1
    return ["mark", f"diameter, {unit}", "rod", f"length, {unit}", "nuts and heads", "count"], [
        [*key, count] for key, count in counts.items()
    ]


def welds(made: Iterable[Made], system: str) -> Table:
    """A row for what is alike of each mark: lengths in ft or m, of all of its connections."""
    lengths: dict[tuple[Cell, ...], float] = {}
    for one in made:
        for weld in one.solids.welds:
            key = (one.mark, weld.kind, exact(weld.size, system), weld.electrode, "site" if weld.field else "shop")
            lengths[key] = lengths.get(key, 0.0) + weld.length
    long, per = ("ft", 12 * INCH) if system == "us" else ("m", 1e3)
    head = ["mark", "weld", f"size, {length_unit(system)}", "electrode", "where", f"length, {long}"]
    return head, [[*key, round(value / per, 2)] for key, value in lengths.items()]


FINISHED = {"plates": "steel", "bolts": "bolts", "rods": "rods"}  # what of the shop's practice says their finish


def table(kind: str, made: Sequence[Made], system: str, finish: Mapping[str, str]) -> Table:
    """A list by its name, one of KINDS; with how what it lists is finished, where that is said of it."""
    if kind == "plates":
        head, rows = plates(cuts(made), system)
    else:
        head, rows = {"bolts": bolts, "rods": rods, "welds": welds}[kind](made, system)
    if kind in FINISHED:
        words = finish.get(FINISHED[kind], "")
        return [*head, "finish"], [[*row, words] for row in rows]
    return head, rows


def length_unit(system: str) -> str:
    """That lengths of the workshop come in."""
    return "in" if system == "us" else "mm"


def exact(value: float, system: str) -> float:
    """A length, mm, in that unit."""
    return round(value / INCH, 4) if system == "us" else round(value, 2)


def _long(value: float, system: str) -> float:
    return exact(worked(value, system), system) if system == "us" else round(value, 1)
