"""Two pieces in one line in place, with the plates on their webs and flanges. The axes of the line: x along it towards
the piece that the forces are of, y across the webs, z up the depth; the origin in the middle of the gap."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property

from handrail.core.catalogue import Bolt, HoleSize, Steel
from handrail.core.parts.bolt_group import Grid
from handrail.core.parts.splice import FlangeSide, WebSide
from handrail.core.quantities.units import INCH
from handrail.core.solids.axes import Axes, X, Y, Z, combined
from handrail.core.solids.holes import bores_at, holes_of
from handrail.core.solids.pieces import Bar, Bore, Fastener, Plate, Point, Solids, Weld
from handrail.core.solids.profiles import profile

SHOWN = 1.0  # of the deeper piece's depth beyond the plates
NAMES = ("beam", "support")  # the piece that the forces are of, and the other
WAYS = (1.0, -1.0)
THIN = INCH / 16  # drawn together by the bolts: no filler up to here


@dataclass(frozen=True, kw_only=True)
class Line:
    """Both pieces with their tops of steel, `half_gap` from their ends to the middle, in the axes `at`."""

    at: Axes
    pieces: tuple[Steel, Steel]
    tops: tuple[float, float]
    half_gap: float

    def members(self, reach: float, bores: tuple[list[Bore], list[Bore]]) -> tuple[Bar, Bar]:
        """Broken off beyond `reach`."""
        far = reach + SHOWN * max(p.section.d for p in self.pieces)
        made = []
        for name, way, steel, top, own in zip(NAMES, WAYS, self.pieces, self.tops, bores, strict=True):
            start = self.half_gap if way > 0 else -far
            made.append(
                Bar(
                    name=name,
                    part="beam",
                    axes=self.at.moved(start, 0.0, top).with_(Y, Z),
                    section=steel.section.name,
                    profile=profile(steel.section),
                    length=far - self.half_gap,
                    bores=tuple(own),
                    grade=steel.grade.name,
                    mass=steel.section.mass,
                )
            )
        return made[0], made[1]


@dataclass(frozen=True, kw_only=True)
class Webs:
    """Plates `t` thick and `deep` on one side of the webs or on both, their middle at `middle`; `grid` of bolts on each
    piece from `first` of the middle of the line on, `end` from the last to the plates' ends."""

    line: Line
    sides: int
    t: float
    deep: float
    middle: float
    grid: Grid
    first: float
    end: float
    bolt: Bolt
    holes: tuple[HoleSize, HoleSize]
    grade: str

    @cached_property
    def thick(self) -> float:
        """Of the thicker web."""
        return max(p.section.tw for p in self.line.pieces)

    @property
    def half(self) -> float:
        """Of the plates' length."""
        return self.first + self.grid.width + self.end

    @property
    def reach(self) -> float:
        """Of all that it has on a piece."""
        return self.half

    def filler(self, k: int) -> float:
        """On each side of a piece's web."""
        return (self.thick - self.line.pieces[k].section.tw) / 2

    @cached_property
    def bolts(self) -> list[list[Fastener]]:
        """Of each piece; heads on the far side."""
        return [list(self._bolts(k)) for k in (0, 1)]

    def _bolts(self, k: int) -> Iterator[Fastener]:
        name, way, web, filled = NAMES[k], WAYS[k], self.line.pieces[k].section.tw, self.filler(k) > THIN
        far = [("web plate far", self.t)] + ([(f"web filler {name} far", self.filler(k))] if filled else [])
        near = [(n.replace("far", "near"), t) for n, t in reversed(far)] if self.sides == 2 else []
        plies = (*far, (name, web), *near)
        gaps = 0.0 if filled else self.filler(k) * self.sides
        for column in range(self.grid.columns):
            for row in range(self.grid.rows):
                x, z = (
                    way * (self.first + column * self.grid.gauge),
                    self.middle + self.grid.depth / 2 - row * self.grid.pitch,
                )
                yield Fastener(
                    name=f"bolts {name} {column * self.grid.rows + row + 1}",
                    part="bolts",
                    axes=self.line.at.moved(x, self.thick / 2 + self.t, z).with_(X, Z),
                    bolt=self.bolt,
                    grip=sum(t for _, t in plies) + gaps,
                    plies=tuple(n for n, _ in plies),
                    field=True,
                )

    @cached_property
    def plates(self) -> list[Plate]:
        """Over both pieces, and fillers on the thinner web."""
        every = [b for own in self.bolts for b in own]
        low, high = self.middle - self.deep / 2, self.middle + self.deep / 2
        made = []
        for side, y in (("far", self.thick / 2 + self.t), ("near", -self.thick / 2))[: self.sides]:
            axes = self.line.at.moved(0.0, y, 0.0).with_(X, Z)
            made.append(
                self._plate(f"web plate {side}", "plate", axes, (-self.half, low, self.half, high), self.t, every)
            )
            for k in (0, 1):
                if (t := self.filler(k)) > THIN:
                    inner = axes.moved(0.0, 0.0, self.t) if side == "far" else axes.moved(0.0, 0.0, -t)
                    x0, x1 = sorted((WAYS[k] * self.line.half_gap, WAYS[k] * self.half))
                    made.append(
                        self._plate(
                            f"web filler {NAMES[k]} {side}", "fillers", inner, (x0, low, x1, high), t, self.bolts[k]
                        )
                    )
        return made

    def _plate(
        self, name: str, part: str, axes: Axes, box: tuple[float, ...], t: float, bolts: list[Fastener]
    ) -> Plate:
        holes = holes_of(bolts, axes, self.holes[0])
        return Plate(name=name, part=part, axes=axes, outline=outline(*box), thickness=t, holes=holes, grade=self.grade)

    def bores(self, k: int) -> list[Bore]:
        """In a piece's web."""
        at, web = self.line.at, self.line.pieces[k].section.tw
        seen = (at.seen(bolt.axes.origin) for bolt in self.bolts[k])
        return list(bores_at(at, ((x, web / 2, z) for x, _, z in seen), X, Z, self.holes[1], web))


@dataclass(frozen=True, kw_only=True)
class Flanges:
    """Plates `wide` by `t` outside of both flanges, `inside` (wide, t) of each of two inside of each, or nothing; two
    lines of bolts `gage` apart, `rows` on each piece from `first` on at `pitch`, `end` from the last to the plates'
    ends; `beyond` them more rows through fillers alone."""

    line: Line
    wide: float
    t: float
    inside: tuple[float, float] | None
    rows: int
    beyond: int
    first: float
    pitch: float
    gage: float
    end: float
    bolt: Bolt
    hole: HoleSize
    grade: str

    @property
    def half(self) -> float:
        """Of the plates' length."""
        return self.first + (self.rows - 1) * self.pitch + self.end

    @property
    def past(self) -> float:
        """How far fillers that are developed go on behind the plates."""
        return self.end + self.beyond * self.pitch if self.beyond else 0.0

    @property
    def reach(self) -> float:
        """Of all that it has on a piece."""
        return self.half + self.past

    @cached_property
    def outer(self) -> tuple[float, float]:
        """Where the outer plates lie: (above, below)."""
        lows = [top - p.section.d for top, p in zip(self.line.tops, self.line.pieces, strict=True)]
        return max(self.line.tops), min(lows)

    @cached_property
    def inner(self) -> tuple[float, float]:
        """Where the inner plates lie on the flanges."""
        both = list(zip(self.line.tops, (p.section for p in self.line.pieces), strict=True))
        return min(top - s.tf for top, s in both), max(top - s.d + s.tf for top, s in both)

    def _steel(self, k: int, side: int) -> tuple[float, float]:
        """(outer face, inner face) of a piece's flange: 0 above, 1 below."""
        s, top = self.line.pieces[k].section, self.line.tops[k]
        return (top, top - s.tf) if side == 0 else (top - s.d, top - s.d + s.tf)

    def _plies(self, k: int, side: int, y: float) -> list[tuple[str, float]]:
        """(name, thickness) from the outer plate on, at one line of bolts; what is too thin for a filler is a gap."""
        where, (out, in_) = ("top", "bottom")[side], self._steel(k, side)
        hand = "far" if y > 0 else "near"
        plies = [
            (f"flange plate {where}", self.t),
            (f"filler {NAMES[k]} {where}", abs(self.outer[side] - out)),
            (NAMES[k], self.line.pieces[k].section.tf),
        ]
        if self.inside:
            plies.append((f"inner filler {NAMES[k]} {where} {hand}", abs(in_ - self.inner[side])))
            plies.append((f"inner plate {where} {hand}", self.inside[1]))
        return plies

    def _places(self, k: int) -> list[tuple[float, bool]]:
        """(along the line, whether it is beyond the plates) of a piece's rows."""
        last = self.half + self.end
        rows = [(self.first + n * self.pitch, False) for n in range(self.rows)]
        return [(WAYS[k] * x, past) for x, past in rows + [(last + n * self.pitch, True) for n in range(self.beyond)]]

    @cached_property
    def bolts(self) -> list[list[Fastener]]:
        """Of each piece, heads outside."""
        return [list(self._bolts(k)) for k in (0, 1)]

    def _bolts(self, k: int) -> Iterator[Fastener]:
        number = 0
        for side in (0, 1):
            for y in (self.gage / 2, -self.gage / 2):
                every = self._plies(k, side, y)
                for x, past in self._places(k):
                    plies = [p for p in every if p[0].startswith(("filler", *NAMES))] if past else every
                    if past and plies[0][1] <= THIN:
                        continue  # nothing to be developed there
                    number += 1
                    out = self.outer[side] + (0.0 if past else (self.t if side == 0 else -self.t))
                    at = self.line.at.moved(x, y, out)
                    yield Fastener(
                        name=f"flange bolts {NAMES[k]} {number}",
                        part="flange_bolts",
                        axes=at.with_(Y, X) if side == 0 else at.with_(X, Y),
                        bolt=self.bolt,
                        grip=sum(t for _, t in plies),
                        plies=tuple(name for name, t in plies if t > THIN),
                        field=True,
                    )

    @cached_property
    def plates(self) -> list[Plate]:
        """Outer and inner ones over both pieces, fillers on one."""
        made: dict[str, Plate] = {}
        for k in (0, 1):
            for side in (0, 1):
                for y in (self.gage / 2, -self.gage / 2):
                    z = self.outer[side] + (self.t if side == 0 else -self.t)
                    for name, t in self._plies(k, side, y):
                        if t > THIN and name not in NAMES and name not in made:
                            made[name] = self._plate(name, k, side, y, z, t)
                        z -= t if side == 0 else -t
        return list(made.values())

    def _plate(self, name: str, k: int, side: int, y: float, z: float, t: float) -> Plate:
        """One from the height `z` inwards."""
        part = "fillers" if "filler" in name else "flange_plate" if name.startswith("flange") else "inner_plate"
        low = -self.half
        high = self.half
        if part == "fillers":
            past = self.past if name.startswith("filler") else 0.0
            low, high = sorted((WAYS[k] * self.line.half_gap, WAYS[k] * (self.half + past)))
        y0, y1 = -self.wide / 2, self.wide / 2
        if name.startswith("inner"):
            tip = min(p.section.bf for p in self.line.pieces) / 2
            wide = self.inside[0] if self.inside else 0.0
            y0, y1 = (tip - wide, tip) if y > 0 else (-tip, wide - tip)
        axes = self.line.at.moved(0.0, 0.0, min(z, z - t if side == 0 else z + t))
        through = [b for own in self.bolts for b in own if name in b.plies]
        holes = holes_of(through, axes, self.hole, "x")
        return Plate(
            name=name,
            part=part,
            axes=axes,
            outline=outline(low, y0, high, y1),
            thickness=t,
            holes=holes,
            grade=self.grade,
        )

    def bores(self, k: int) -> list[Bore]:
        """In a piece's flanges, from outside."""
        at = self.line.at
        found: list[Bore] = []
        seen = [at.seen(bolt.axes.origin) for bolt in self.bolts[k]]
        for side, across in ((0, Y), (1, combined((-1.0, Y)))):
            out, in_ = self._steel(k, side)
            own = ((x, y, out) for x, y, z in seen if (z < sum(self.outer) / 2) is bool(side))
            found += bores_at(at, own, across, X, self.hole, abs(out - in_))
        return found


def webs_of(line: Line, own: WebSide, middle: float) -> Webs:
    """The plates on the webs, as they are on one piece."""
    return Webs(
        line=line,
        sides=own.plates,
        t=own.t,
        deep=own.depth,
        middle=middle,
        grid=own.grid,
        first=own.half_gap + own.beam_edge,
        end=own.edge,
        bolt=own.bolt,
        holes=own.holes,
        grade=own.grade.name,
    )


def flanges_of(line: Line, own: FlangeSide, beyond: int) -> Flanges:
    """The plates on the flanges, as they are on one piece."""
    return Flanges(
        line=line,
        wide=own.plates.width,
        t=own.plates.t,
        inside=own.plates.inside,
        rows=own.rows,
        beyond=beyond,
        first=own.half_gap + own.beam_edge,
        pitch=own.pitch,
        gage=own.gage,
        end=own.end,
        bolt=own.bolt,
        hole=own.hole,
        grade=own.plates.grade.name,
    )


def solids_of(line: Line, webs: Webs | None, flanges: Flanges | None, welds: tuple[Weld, ...] = ()) -> Solids:
    """Both pieces with what joins them."""
    parts = [one for one in (webs, flanges) if one is not None]
    bores: tuple[list[Bore], list[Bore]] = ([], [])
    for k in (0, 1):
        for part in parts:
            bores[k].extend(part.bores(k))
    return Solids(
        members=line.members(max((part.reach for part in parts), default=0.0), bores),
        pieces=tuple(plate for part in parts for plate in part.plates),
        bolts=tuple(bolt for part in parts for own in part.bolts for bolt in own),
        welds=welds,
    )


def on_flanges(solids: Solids) -> Solids:
    """The same without what stands on the webs."""
    return replace(
        solids,
        pieces=tuple(p for p in solids.pieces if p.part in ("flange_plate", "inner_plate", "fillers")),
        bolts=tuple(b for b in solids.bolts if b.part == "flange_bolts"),
    )


def outline(x0: float, y0: float, x1: float, y1: float) -> tuple[Point, ...]:
    """A rectangle."""
    return ((x0, y0), (x1, y0), (x1, y1), (x0, y1))
