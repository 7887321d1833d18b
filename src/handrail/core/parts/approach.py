"""How a beam comes to its support: what its end and its copes must clear, at any skew and slope."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from handrail.core.catalogue import Section
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, at_least, at_most
from handrail.core.parts.cope import Cope, bottom_clash, clear_of, top_clash
from handrail.core.quantities.units import INCH

CLEAR = INCH / 4  # least room between the beam's end and what stands before it
BETWEEN = INCH / 2  # room in all for a beam between a column's flanges
KINDS = ("flange", "web", "girder", "wall")


@dataclass(frozen=True, kw_only=True)
class Approach:
    """A beam's end before its support, mm and rad.

    `kind` is one of KINDS, `face` a channel girder's side. `gap` runs along the beam from its end to the support's
    face; `square`: end and copes are cut square to the beam, the gap so far at `level` below the top of steel, else
    parallel with the face. `skew` is taken either way;
    `slope` is + where the beam rises away; `radius` of the inner corners of its copes."""

    kind: str
    beam: Section
    support: Section
    gap: float
    top: Cope
    bottom: Cope
    square: bool = False
    skew: float = 0.0
    slope: float = 0.0
    top_offset: float = 0.0
    face: str = ""
    level: float = 0.0
    radius: float = 0.0

    @property
    def _off_level(self) -> float:
        """From where the gap is measured to the corner of a square cut that comes nearest: above where the beam rises
        away, else below."""
        return max(self.level if self.slope > 0 else self.beam.d - self.level, 0.0)

    @property
    def outstand(self) -> float:
        """From the face to the tip of the support's flange on the beam's side."""
        s = self.support
        if self.kind not in ("web", "girder") or s.hollow or (s.channel and self.face == "back"):
            return 0.0
        return s.bf - s.tw if s.channel else (s.bf - s.tw) / 2

    @property
    def upright(self) -> float:
        """What a depth of the beam measures on the support's face, over that depth."""
        return 1 / math.cos(self.slope)

    def from_face(self, along: float, width: float) -> float:
        """Least distance from the face, square to it, of a part `width` wide that begins `along` from it."""
        corner = 0.0
        if self.square:
            corner = width / 2 * math.tan(abs(self.skew)) / math.cos(self.slope) + self._off_level * math.tan(
                abs(self.slope)
            )
        return (along - corner) * math.cos(self.skew) * math.cos(self.slope)

    def along_for(self, from_face: float, width: float) -> float:
        """How far along the beam a part `width` wide must begin to stand `from_face`."""
        return (from_face - self.from_face(0.0, width)) / (math.cos(self.skew) * math.cos(self.slope))

    @property
    def wide(self) -> float:
        """Twice what the beam reaches to one side of its web's middle: its flanges' width, and more of a channel."""
        return 2 * self.beam.bf - self.beam.tw if self.beam.channel else self.beam.bf

    @property
    def _end_width(self) -> float:
        """Width of what the beam's end shows: its flanges, or the web where both are cut."""
        return self.beam.tw if self.top and self.bottom else self.wide

    def begins(self, cope: Cope) -> float:
        """Where a flange begins, along the beam from the face."""
        return self.gap + (cope.length if cope else 0.0)

    def within(self, cope: Cope) -> bool:
        """Whether a flange reaches in between the support's flange tips, or touches them."""
        return self.outstand > 0 and self.from_face(self.begins(cope), self.wide) < self.outstand + CLEAR - 1e-6

    @property
    def rise(self) -> float:
        """How much the beam rises from the face to the support's flange tip."""
        return self.outstand * math.tan(self.slope)

    @property
    def top_needs_cope(self) -> float:
        """Depth of the beam's top that must be cut away to come in, 0 where none is in the way."""
        if self.kind != "girder" or not self.within(Cope(0, 0)):
            return 0.0
        return top_clash(self.support, self.top_offset - max(self.rise, 0.0), self.face)

    @property
    def bottom_needs_cope(self) -> float:
        """As `top_needs_cope`, at the girder's lower flange."""
        if self.kind != "girder" or not self.within(Cope(0, 0)):
            return 0.0
        return bottom_clash(self.beam.d * self.upright, self.support, self.top_offset + max(-self.rise, 0.0), self.face)

    @property
    def between_flanges(self) -> float:
        """Room for the beam between a column's flanges."""
        return self.support.d - 2 * self.support.tf - BETWEEN

    @property
    def swept(self) -> float:
        """Width that the beam takes up between a column's flanges, at their tips: its own, and what the skew adds."""
        return 2 * (
            (self.outstand + self.support.tw / 2) * math.tan(abs(self.skew)) + self.wide / (2 * math.cos(self.skew))
        )

    def fits(
        self, code: Code, top: float, depth: float, name: str = "plate", weld: float = 0.0
    ) -> Iterator[DetailingRule]:
        """What stands on the web `depth` deep from `top` below the top of steel, with the `weld` around it: between the
        beam's fillets, below the deeper of cope and fillet, at least half of the beam's T, also where it is coped."""
        least, most = max(self.top.depth, self.beam.k_detail), self.beam.d - max(self.bottom.depth, self.beam.k_detail)
        yield at_least(f"{name}_below_fillet", name, top - weld, least)
        yield at_most(f"{name}_above_fillet", name, top + depth + weld, most)
        yield at_least(f"{name}_half_depth", name, depth, self.beam.most_T / 2, code.clause(f"{name}_half_depth"))

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """Room at the end, at the flange tips, between the flanges; copes long and deep enough."""
        yield at_least("gap_clear", "beam", self.from_face(self.gap, self._end_width), CLEAR)
        if self.kind == "web" and self.outstand and (self.within(self.top) or self.within(self.bottom)):
            yield from self._in_column()
        if self.kind == "girder" and clear_of(self.support, self.face):
            yield from self._copes(code)

    def _in_column(self) -> Iterator[DetailingRule]:
        nearest = min(self.from_face(self.begins(c), self.wide) for c in (self.top, self.bottom))
        if nearest < self.outstand or self.swept <= self.between_flanges:
            yield at_most("beam_in_column", "beam", self.swept, self.between_flanges)
        else:
            yield at_least("flange_clear", "beam", nearest - self.outstand, CLEAR)

    def _copes(self, code: Code) -> Iterator[DetailingRule]:
        """Where a flange meets the girder's: cut back beyond the tip, and deeper than both fillets."""
        reach, k, girder = clear_of(self.support, self.face), self.beam.k, self.support
        clear = self.outstand + CLEAR
        if self.top_needs_cope:
            yield at_least("cope_length", "web", self.from_face(self.begins(self.top), self.wide), clear)
            yield at_least("cope_depth", "web", self.top.depth + self.top_offset - max(self.rise, 0.0), reach)
            yield at_least("cope_through_flange", "web", self.top.depth, k)
            above = self.top.depth + self.top_offset - max(self.rise, 0.0)
            yield self._rounded(code, "cope_radius", self.top, above - girder.tf)
        if self.bottom_needs_cope:
            yield at_least("bottom_cope_length", "web", self.from_face(self.begins(self.bottom), self.wide), clear)
            below = self.top_offset + max(-self.rise, 0.0) + self.beam.d * self.upright - self.bottom.depth
            yield at_most("bottom_cope_depth", "web", below, girder.d - reach)
            yield at_least("bottom_cope_through_flange", "web", self.bottom.depth, k)
            yield self._rounded(code, "bottom_cope_radius", self.bottom, girder.d - girder.tf - below)

    def _rounded(self, code: Code, name: str, cope: Cope, beyond: float) -> DetailingRule:
        """What stands in a cope's inner corner is clear of the girder's flange, whose corner is `beyond` its level."""
        beside = self.from_face(self.begins(cope), self.wide) - self.outstand
        off = math.hypot(max(self.radius - beside, 0.0), max(self.radius - beyond, 0.0))
        return at_least(name, "web", self.radius - off, 0.0, code.clause("cope_corners"))
