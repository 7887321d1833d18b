"""The sized single plate as its parts: bolts between plate and web, the plate, its welds, the beam's end, the
support."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

from handrail.core.catalogue import Grade, HoleSize, grade, hole
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, at_most
from handrail.core.parts.beam_end import BeamEnd
from handrail.core.parts.bolt_group import Grid
from handrail.core.parts.bolted_plies import FAR, BoltedPlies, Ply, room_for_wrench
from handrail.core.parts.fillet_pair import FilletPair
from handrail.core.parts.plate import BoltedPlate
from handrail.core.parts.support import Support
from handrail.core.parts.web_fastening import UNDERRUN, BoltedWeb
from handrail.core.standards.shear_end.layout import ShearEnd
from handrail.core.standards.single_plate.part10 import Part10


@dataclass(frozen=True)
class Layout(ShearEnd):
    """A single plate in its situation; lengths mm."""

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
        return grade(self.choice("plate_grade")).at(self.of("plate_thickness"))

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
        return Part10(
            bolt=self.bolt,
            grid=self.grid,
            holes=(plate_hole, web_hole),
            t=self.of("plate_thickness"),
            tw=self.situation.supported.section.tw,
            grade=self.grade,
            depth=self.of("plate_depth"),
            edge=min(edges),
            a=self.a,
            reach=self.reach,
            asked=self.choice("configuration"),
        )

    @cached_property
    def plies(self) -> tuple[Ply, Ply]:
        """(plate, web)."""
        (plate_hole, web_hole), beam = self.holes, self.situation.supported
        half_depth, half_width = self.grid.depth / 2, self.grid.width / 2
        plate = Ply(
            name="plate",
            t=self.of("plate_thickness"),
            Fu=self.grade.Fu,
            hole=plate_hole,
            toward_support=FAR,
            away=half_width + self.of("edge_distance"),
            up=self.of("plate_depth") / 2,
            down=self.of("plate_depth") / 2,
            sense=-1.0,
        )
        end = self.beam_end
        web = Ply(
            name="web",
            t=beam.section.tw,
            Fu=beam.grade.Fu,
            hole=web_hole,
            toward_support=half_width + self.of("beam_edge_distance") - UNDERRUN,
            away=FAR,
            up=min(end.above + half_depth, FAR),
            down=min(end.below + half_depth, FAR),
            sense=1.0,
        )
        return plate, web

    @cached_property
    def bolts(self) -> BoltedPlies:
        """The bolts between plate and web."""
        return self.between(self.grid, self.plies, self.part10.e)

    @cached_property
    def plate(self) -> BoltedPlate:
        """The plate itself."""
        return BoltedPlate(
            t=self.of("plate_thickness"),
            grade=self.grade,
            depth=self.of("plate_depth"),
            end=self.plate_end,
            edge=self.of("edge_distance"),
            grid=self.grid,
            hole=self.holes[0],
            a=self.a,
            reach=self.reach,
            bent=not self.part10.conventional,
        )

    @cached_property
    def weld(self) -> FilletPair:
        """The fillets on both sides of the plate."""
        return FilletPair(
            size=self.of("weld_size"),
            length=self.of("plate_depth"),
            electrode=self.electrode,
            t=self.of("plate_thickness"),
            grade=self.grade,
            support_t=self.support_thickness,
            skew=self.situation.skew,
            slope=self.situation.slope,
        )

    @cached_property
    def beam_end(self) -> BeamEnd:
        """The beam's web."""
        edge = self.of("beam_edge_distance")
        bolted = BoltedWeb(self.grid, self.holes[1], self.of("first_bolt"), edge)
        return self.end_of_beam(bolted, self.a - edge, self.of("plate_depth"))

    @property
    def lever(self) -> float:
        """Of V on the weld and the metal behind it, where the plate is bent."""
        return 0.0 if self.part10.conventional else self.a

    @property
    def full_depth(self) -> bool:
        """Whether the plate is welded to both of the girder's flanges besides."""
        return self.situation.framing == "beam_to_girder" and self.choice("plate_fit") == "full_depth"

    @property
    def around(self) -> float:
        """Leg of the fillets around the plate on the web; none where it is bolted."""
        return 0.0

    @property
    def through(self) -> bool:
        """Whether the plate runs through a hollow column."""
        return self.choice("through_plate") == "yes"

    @property
    def stabilised(self) -> bool:
        """Whether something holds the plate's outer end sideways."""
        return self.full_depth or self.choice("stabiliser") == "provided"

    @cached_property
    def support(self) -> Support:
        """The face that the plate lands on."""
        return self.on_support(
            self.of("plate_thickness"),
            self.grade,
            self.of("plate_depth"),
            self.plate_top,
            self.of("weld_size"),
            self.lever,
            through=self.through,
            beside=(self.of("plate_thickness") + self.situation.supported.section.tw) / 2,
        )

    def states(self, code: Code, tracing: bool) -> Iterator[LimitState]:
        """Every limit state, part by part."""
        yield from self.on_web(code, tracing)
        yield from self.weld.states(Under(code, "weld", tracing), code)
        yield from self.beam_end.states(Under(code, "web", tracing), code)
        yield from self.support.states(Under(code, "support", tracing), code)

    def on_web(self, code: Code, tracing: bool) -> Iterator[LimitState]:
        """Of the bolts and the plate."""
        yield from self.bolts.states(Under(code, "bolts", tracing), code)
        plate = Under(code, "plate", tracing)
        yield from self.plate.states(plate, code)
        yield from self.part10.states(plate, code, self.choice("lateral_restraint") == "slab", self.stabilised)

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """Every detailing rule that applies, in the order a shop would look."""
        yield from self.web_rules(code)
        yield from self.plate.rules(code)
        yield from self.approach.fits(code, self.plate_top, self.of("plate_depth"), weld=self.around)
        yield from self._on_face(code)
        yield from self.weld.rules(code)
        before = self.approach.from_face(self.of("gap"), self.situation.supported.section.tw)
        yield at_least("weld_before_beam", "weld", before, self.of("weld_size"))
        yield from self.approach.rules(code)

    def _on_face(self, code: Code) -> Iterator[DetailingRule]:
        """A plate that runs from flange to flange is clipped at the fillets: its outer part has to pass between the
        flanges only."""
        if not self.full_depth:
            yield from self.support.rules(code)
            return
        girder, landing = self.situation.carrier.section, self.support.landing
        yield at_least("plate_in_girder_top", "plate", landing.top, girder.tf)
        yield at_most("plate_in_girder_bottom", "plate", landing.top + landing.extent, girder.d - girder.tf)
        comes, beam, off = self.approach, self.situation.supported.section, self.situation.top_offset
        for name, cope, low, high in (
            ("flange_beside_plate", comes.top, off, off + beam.tf),
            ("bottom_flange_beside_plate", comes.bottom, off + beam.d - beam.tf, off + beam.d),
        ):
            if high > girder.tf and low < girder.d - girder.tf:
                clear = comes.from_face(comes.begins(cope), comes.wide)
                yield at_least(name, "beam", clear, comes.outstand)

    def web_rules(self, code: Code) -> Iterator[DetailingRule]:
        """Of the bolts and their plies."""
        plate, web = self.plies
        yield from self.bolts.rules(code)
        edges = {"end_distance": (self.plate_end, "along"), "edge_distance": (self.of("edge_distance"), "across")}
        yield from self.bolts.edge_rules(code, plate, edges, plate.t)
        slant = (
            1.0 if self.approach.square else math.cos(self.situation.slope)
        )  # of an end that is parallel with the face
        own = {"beam_edge_distance": (self.of("beam_edge_distance") * slant, "across")}
        yield from self.bolts.edge_rules(code, web, own, web.t)
        yield from self.part10.rules(code)
        yield room_for_wrench(code, self._room(), self.bolt)
        yield from self.beam_end.rules(code, self.bolts)

    def _room(self) -> list[float]:
        """From a bolt's centre to what a wrench would hit: the support, a flange of the beam (beyond a cope,
        aslant)."""
        beam, end = self.situation.supported.section, self.beam_end.fastened
        s = self.situation
        rooms = [(self.a - self.reach) * math.cos(s.skew) * math.cos(s.slope)]
        last_line = self.of("beam_edge_distance") + self.grid.width
        for cope, up in ((self.top_cope, end.first - beam.tf), (self.bottom_cope, beam.d - beam.tf - end.last)):
            rooms.append(math.hypot(max(cope.length - last_line, 0.0) if cope else 0.0, up) if up > 0 else up)
        return rooms
