"""The sized single plate as its parts: bolts between plate and web, the plate, its welds, the beam's end, the support."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

from handrail.core.catalogue import Bolt, Grade, HoleSize, bolt, electrode, grade, hole
from handrail.core.codes.aisc360 import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under
from handrail.core.parts.approach import Approach
from handrail.core.parts.beam_end import BeamEnd
from handrail.core.parts.bolt_group import Grid
from handrail.core.parts.bolted_plies import FAR, BoltedPlies, Ply, room_for_wrench
from handrail.core.parts.cope import Cope
from handrail.core.parts.fillet_pair import FilletPair
from handrail.core.parts.plate import BoltedPlate
from handrail.core.parts.support import ColumnFlange, ColumnWeb, GirderWeb, HollowWall, Landing, Support
from handrail.core.standards.laid_out import LaidOut
from handrail.core.standards.shear_end.judging import negligible
from handrail.core.standards.shear_end.parameters import KINDS, approach, support_thickness
from handrail.core.standards.single_plate.part10 import Part10

SUPPORTS: dict[str, type[Support]] = {"flange": ColumnFlange, "web": ColumnWeb, "girder": GirderWeb, "wall": HollowWall}


@dataclass(frozen=True)
class Layout(LaidOut):
    """A single plate in its situation; lengths mm."""

    @cached_property
    def bolt(self) -> Bolt:
        """The bolt."""
        return bolt(self.choice("bolt"))

    @cached_property
    def grid(self) -> Grid:
        """The bolts' rows and lines."""
        return Grid(int(self.of("rows")), int(self.of("columns")), self.of("pitch"), self.of("gauge"))

    @cached_property
    def holes(self) -> tuple[HoleSize, HoleSize]:
        """In the plate and in the web."""
        return hole(self.choice("hole"), self.bolt.d), hole(self.choice("web_hole"), self.bolt.d)

    @cached_property
    def grade(self) -> Grade:
        """The plate's."""
        return grade(self.choice("plate_grade"))

    @cached_property
    def approach(self) -> Approach:
        """The beam's end before its support."""
        return approach(self.situation, self.sizes)

    @property
    def top_cope(self) -> Cope:
        """Above."""
        return self.approach.top

    @property
    def bottom_cope(self) -> Cope:
        """Below."""
        return self.approach.bottom

    @property
    def reach(self) -> float:
        """How much farther from the support a slope puts the farthest row than the middle of the line."""
        return self.grid.depth / 2 * math.tan(abs(self.situation.slope))

    @property
    def a(self) -> float:
        """Weld to the first line of bolts, at the middle of its depth."""
        return self.of("gap") + self.of("beam_edge_distance") + (0.0 if self.approach.square else self.reach)

    @property
    def width(self) -> float:
        """The plate's size from its weld to its free edge."""
        return self.a + self.grid.width + self.of("edge_distance")

    @property
    def plate_top(self) -> float:
        """Top of the beam's steel to the plate's top edge; what plate depth has over its rows is shared."""
        return self.of("first_bolt") + self.grid.depth / 2 - self.of("plate_depth") / 2

    @property
    def plate_end(self) -> float:
        """Last bolt to the plate's end, as the plate's depth leaves it."""
        return (self.of("plate_depth") - self.grid.depth) / 2

    @cached_property
    def part10(self) -> Part10:
        """Conventional or extended, and what the Manual asks of each."""
        plate_hole, web_hole = self.holes
        edges = (self.of("edge_distance"), self.of("beam_edge_distance"))
        return Part10(self.bolt, self.grid, (plate_hole, web_hole), self.of("plate_thickness"), self.situation.supported.section.tw,
                      self.grade, self.of("plate_depth"), min(edges), self.a, self.reach, self.choice("configuration"))  # fmt: skip

    @cached_property
    def plies(self) -> tuple[Ply, Ply]:
        """(plate, web)."""
        (plate_hole, web_hole), beam = self.holes, self.situation.supported
        half_depth, half_width = self.grid.depth / 2, self.grid.width / 2
        plate = Ply("plate", self.of("plate_thickness"), self.grade.Fu, plate_hole, FAR, half_width + self.of("edge_distance"),
                    self.of("plate_depth") / 2, self.of("plate_depth") / 2, -1.0)  # fmt: skip
        end = self.beam_end
        web = Ply("web", beam.section.tw, beam.grade.Fu, web_hole, half_width + end.short_edge, FAR,
                  min(end.above + half_depth, FAR), min(end.below + half_depth, FAR), 1.0)  # fmt: skip
        return plate, web

    @cached_property
    def bolts(self) -> BoltedPlies:
        """The bolts between plate and web."""
        return BoltedPlies(self.bolt, self.grid, self.plies, self.part10.e, self.choice("bolt_method"),
                           self.choice("deformation") == "considered", self.choice("tightening"),
                           negligible(self.situation, self.sizes)["N"].amount)  # fmt: skip

    @cached_property
    def plate(self) -> BoltedPlate:
        """The plate itself."""
        return BoltedPlate(self.of("plate_thickness"), self.grade, self.of("plate_depth"), self.plate_end, self.of("edge_distance"),
                           self.grid, self.holes[0], self.a, self.reach, not self.part10.conventional)  # fmt: skip

    @cached_property
    def weld(self) -> FilletPair:
        """The fillets on both sides of the plate."""
        return FilletPair(self.of("weld_size"), self.of("plate_depth"), electrode(self.choice("electrode")), self.of("plate_thickness"),
                          self.grade, support_thickness(self.situation), self.situation.skew, self.situation.slope)  # fmt: skip

    @cached_property
    def beam_end(self) -> BeamEnd:
        """The beam's web."""
        edge = self.of("beam_edge_distance")
        return BeamEnd(self.situation.supported, self.grid, self.holes[1], self.of("first_bolt"), edge, self.a - edge,
                       self.of("plate_depth"), self.top_cope, self.bottom_cope)  # fmt: skip

    @cached_property
    def support(self) -> Support:
        """The face that the plate lands on."""
        s, upright = self.situation, self.approach.upright
        landing = Landing(s.carrier, self.of("plate_thickness"), self.grade, self.of("plate_depth"), self.of("weld_size"),
                          s.top_offset + self.plate_top * upright, self.of("plate_depth") * upright,
                          0.0 if self.part10.conventional else self.a, s.skew, s.slope, s.opposed, s.support_end, s.face)  # fmt: skip
        return SUPPORTS[KINDS[s.framing]](landing)

    def states(self, code: Code, tracing: bool) -> Iterator[LimitState]:
        """Every limit state, part by part."""
        yield from self.bolts.states(Under(code, "bolts", tracing), code)
        plate = Under(code, "plate", tracing)
        yield from self.plate.states(plate, code)
        restrained = self.choice("lateral_restraint") == "slab"
        yield from self.part10.states(plate, code, restrained, self.choice("stabiliser") == "provided")
        yield from self.weld.states(Under(code, "weld", tracing), code)
        yield from self.beam_end.states(Under(code, "web", tracing), code)
        yield from self.support.states(Under(code, "support", tracing), code)

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """Every detailing rule that applies, in the order a shop would look."""
        plate, web = self.plies
        yield from self.bolts.rules(code)
        edges = {"end_distance": (self.plate_end, "along"), "edge_distance": (self.of("edge_distance"), "across")}
        yield from self.bolts.edge_rules(code, plate, edges, plate.t)
        own = {"beam_edge_distance": (self.of("beam_edge_distance"), "across")}
        yield from self.bolts.edge_rules(code, web, own, web.t)
        yield from self.plate.rules()
        yield from self.part10.rules()
        yield from self.part10.fit(self.situation.supported.section, self.plate_top, self.top_cope, self.bottom_cope)
        yield from self.support.rules(code)
        yield room_for_wrench(self._room(), self.bolt)
        yield from self.weld.rules()
        yield from self.approach.rules()
        yield from self.beam_end.rules(code, self.bolts)

    def _room(self) -> list[float]:
        """From a bolt's centre to what a wrench would hit: the support, a flange of the beam (beyond a cope, aslant)."""
        beam, end = self.situation.supported.section, self.beam_end
        s = self.situation
        found = [(self.a - self.reach) * math.cos(s.skew) * math.cos(s.slope)]
        last_line = self.of("beam_edge_distance") + self.grid.width
        for cope, up in ((self.top_cope, end.first_bolt - beam.tf), (self.bottom_cope, beam.d - beam.tf - end.last_bolt)):
            found.append(math.hypot(max(cope.length - last_line, 0.0) if cope else 0.0, up) if up > 0 else up)
        return found
