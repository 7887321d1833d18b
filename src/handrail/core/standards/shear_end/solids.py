"""The members of a shear end in place, and what every standard on a beam's web puts there. The joint's axes: the origin
where the beam's web and its top of steel meet the support's face, x out of the face, z up."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

from handrail.core.catalogue import Bolt, HoleSize, Section, Steel
from handrail.core.parts.bolt_group import Grid
from handrail.core.parts.cope import Cope
from handrail.core.solids.axes import Axes, X, Y, Z, combined, dot
from handrail.core.solids.holes import bores_at
from handrail.core.solids.pieces import Bar, Bore, Cut, Fastener, Plane, Point
from handrail.core.solids.profiles import profile
from handrail.core.standards.shear_end.layout import ShearEnd
from handrail.core.standards.shear_end.parameters import KINDS

ALONG = 0.02  # a beam that runs along its support comes to it at this much at least
SHOWN = 1.5  # of a beam's depth beyond the connection, and of a support's beyond the beam
Plies = tuple[tuple[str, float], ...]  # (name, thickness), from a bolt's head on
FACE = Axes(x=Y, y=Z)  # of what lies on the face: x along it, y up, z out of it


@dataclass(frozen=True)
class Place:
    """Where a beam stands at its support's face; what is fastened there stands `off` the middle of its web."""

    layout: ShearEnd
    off: float = 0.0

    @cached_property
    def wall(self) -> Plane:
        """What stands in the support, where it is met `off` the middle of the beam's web."""
        return self.wall_at(self.off)

    def wall_at(self, v: float, behind: float = 0.0) -> Plane:
        """The support's face at `v` across the web, a round one as it turns away there; or the one so far `behind` it,
        that way out."""
        s, way = self.layout.situation.carrier.section, 1.0 if behind else -1.0
        lean = math.asin(min(max(v / (s.d / 2), -0.9), 0.9)) if s.round else 0.0
        back = s.d / 2 * (1 - math.cos(lean)) if s.round else 0.0
        x = -behind + back if behind else -back
        return Plane((x, v if lean else 0.0, 0.0), (way * math.cos(lean), -math.sin(lean), 0.0))

    @cached_property
    def beam(self) -> Axes:
        """The beam's: x along it away from the support, y across its web, z up its depth; the origin on the face."""
        skew, slope = abs(self.layout.situation.skew), self.layout.situation.slope
        along = (math.cos(skew) * math.cos(slope), math.sin(skew) * math.cos(slope), math.sin(slope))
        return Axes(x=along, y=(-math.sin(skew), math.cos(skew), 0.0))

    def at_face(self, v: float, w: float) -> float:
        """How far along the beam the face is, at `v` across the web and `w` up from the top of steel."""
        return self.along(self.wall_at(v), v, w)

    def along(self, wall: Plane, v: float, w: float) -> float:
        """The same of any wall."""
        off, comes = combined((1.0, wall.at), (-v, self.beam.y), (-w, self.beam.z)), dot(wall.out, self.beam.x)
        return dot(wall.out, off) / math.copysign(max(abs(comes), ALONG), comes)

    @property
    def _square(self) -> float:
        """How far along the beam the face is where the gap of a square cut is measured: at the middle of its rows."""
        return self.at_face(0.0, -self.layout.approach.level)

    def end(self, along: float) -> Plane:
        """What of a beam lies before a cut `along` from the face: parallel with it, or square to the beam and so far at
        the middle of its rows."""
        if self.layout.approach.square:
            u = self._square + along
            return Plane(self.beam.at(u), combined((-1.0, self.beam.x)))
        return Plane(self.beam.at(along), combined((-1.0, X)))

    def begins(self, v: float, w: float) -> float:
        """How far along the beam its end is there."""
        comes = self.layout.approach
        return (self._square if comes.square else self.along(self.wall_at(0.0), v, w)) + comes.gap

    def member(self, reach: float, bores: tuple[Bore, ...] = ()) -> Bar:
        """The beam with its end, its copes and its holes, broken off beyond `reach` from the face."""
        comes, steel = self.layout.approach, self.layout.situation.supported
        far, half = reach + SHOWN * steel.section.d, comes.wide / 2
        start = min(self.begins(v, w) for v in (-half, half) for w in (0.0, -steel.section.d))
        cuts = [Cut((self.end(comes.gap),))]
        for cope, level, way in ((comes.top, 0.0, 1.0), (comes.bottom, -comes.beam.d, -1.0)):
            if cope:
                cuts.append(self._cope(cope, level - way * cope.depth, way))
        return Bar(
            name="beam",
            part="beam",
            axes=self.beam.moved(start).with_(Y, Z),
            section=steel.section.name,
            profile=_away(steel.section),
            length=far - start,
            cuts=tuple(cuts),
            bores=bores,
            grade=steel.grade.name,
            mass=steel.section.mass,
        )

    def _cope(self, cope: Cope, level: float, way: float) -> Cut:
        """What stands before its end and beyond its depth."""
        return Cut(
            (
                self.end(self.layout.approach.gap + cope.length),
                Plane(self.beam.at(0.0, 0.0, level), combined((way, self.beam.z))),
            ),
            self.layout.approach.radius,
        )

    def bolts(
        self,
        part: str,
        bolt: Bolt,
        grid: Grid,
        first: float,
        along: float,
        plies: Plies,
        v: float,
        field: bool,
    ) -> Iterator[Fastener]:
        """Square to the web: lines from `along` the face at the middle of the rows' depth, the first row `first` below
        the top of steel; `plies` (name, thickness) from the head, which stands at `v`, towards -y."""
        u0 = self.at_face(0.0, -first - grid.depth / 2) + along
        across, up = self.beam.x, self.beam.z
        for column in range(grid.columns):
            for row in range(grid.rows):
                axes = Axes(self.beam.at(u0 + column * grid.gauge, v, -first - row * grid.pitch), across, up)
                yield _bolt(part, column * grid.rows + row + 1, axes, bolt, plies, field)

    def drilled(self, bolts: list[Fastener], hole: HoleSize, deep: float, v: float) -> tuple[Bore, ...]:
        """The holes of such bolts in a web or a leg, `deep` thick from `v` on."""
        seen = (self.beam.seen(bolt.axes.origin) for bolt in bolts)
        return bores_at(self.beam, ((u, v, w) for u, _, w in seen), X, Z, hole, deep)


def _away(s: Section) -> tuple[tuple[Point, ...], ...]:
    """A beam's profile; a channel's flanges point away from the far side, where plates stand."""
    if not s.channel:
        return profile(s)
    return tuple(tuple((-x, y) for x, y in reversed(outline)) for outline in profile(s))


def support(layout: ShearEnd, low: float, bores: tuple[Bore, ...] = (), cuts: tuple[Cut, ...] = ()) -> Bar:
    """What the beam stands at, its face at x = 0, as far as the beam and a little beyond."""
    s = layout.situation
    steel, section = s.carrier, s.carrier.section
    beam = s.supported.section
    kind, past = KINDS[s.framing], SHOWN * beam.d
    if kind == "girder":
        half = SHOWN * max(beam.bf, section.bf) + beam.bf
        return _bar(steel, _girder(section, s.face, s.top_offset, half), 2 * half, bores, cuts)
    return _bar(steel, _column(section, kind, s.face, low - past, layout.off_middle), 2 * past - low, bores, cuts)


def _girder(s: Section, face: str, top: float, half: float) -> Axes:
    """Along the face; seen from its start with the beam on the right, or turned for a channel's back."""
    if s.channel and face == "back":
        return Axes((-s.tw / 2, -half, top), combined((-1.0, X)), Z)
    return Axes((-s.tw / 2, half, top), X, Z)


def _column(s: Section, kind: str, face: str, foot: float, off: float) -> Axes:
    """Upright; its depth across the face, or along it where the beam stands at its web or at a long wall. The beam
    comes `off` its middle."""
    turned = kind == "web" or (kind == "wall" and face == "long" and s.d > s.bf)
    if turned:  # the profile's x is out of the face; its middle is half of its depth along y
        back = s.tw / 2 if kind == "web" else s.bf / 2
        return Axes((-back, s.d / 2 - off, foot), X, Y)
    return Axes((0.0, -off, foot), combined((-1.0, Y)), X)


def _bar(steel: Steel, axes: Axes, length: float, bores: tuple[Bore, ...], cuts: tuple[Cut, ...]) -> Bar:
    section = steel.section
    return Bar(
        name="support",
        part="support",
        axes=axes,
        section=section.name,
        profile=profile(section),
        length=length,
        cuts=cuts,
        bores=bores,
        grade=steel.grade.name,
        mass=section.mass,
    )


def _bolt(part: str, number: int, axes: Axes, bolt: Bolt, plies: Plies, field: bool) -> Fastener:
    grip, names = sum(t for _, t in plies), tuple(name for name, _ in plies)
    return Fastener(name=f"{part} {number}", part=part, axes=axes, bolt=bolt, grip=grip, plies=names, field=field)


def face_bolts(
    part: str,
    bolt: Bolt,
    lines: list[float],
    first: float,
    grid: Grid,
    plies: Plies,
    out: float,
    field: bool,
) -> list[Fastener]:
    """Square to the face: rows from `first` below the top of steel on `lines` (y), heads `out` of the face, through
    `plies` (name, thickness) from the head on."""
    return [
        _bolt(part, line * grid.rows + row + 1, Axes((out, y, -first - row * grid.pitch), Z, Y), bolt, plies, field)
        for line, y in enumerate(lines)
        for row in range(grid.rows)
    ]


def into_support(bolts: list[Fastener], hole: HoleSize, deep: float, out: float = 0.0) -> tuple[Bore, ...]:
    """The holes of such bolts in what stands `out` of the support's face, `deep`."""
    places = ((out, *bolt.axes.origin[1:]) for bolt in bolts)
    return bores_at(Axes(), places, combined((-1.0, Y)), Z, hole, deep)
