"""The sized shear end plate as its parts: bolts between plate and support, the plate, its weld, the beam's end, the
support."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import cached_property
from typing import ClassVar

from handrail.core.actions import Actions
from handrail.core.catalogue import Grade, HoleSize, grade, hole
from handrail.core.codes.asked import Pried
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, at_most, under_part
from handrail.core.parts.beam_end import BeamEnd
from handrail.core.parts.bolt_group import Grid
from handrail.core.parts.bolted_plies import Ply
from handrail.core.parts.face_bolts import FaceBolts, tributary
from handrail.core.parts.fillet_pair import FilletPair
from handrail.core.parts.plate import BoltedPlate
from handrail.core.parts.support import Support
from handrail.core.parts.web_fastening import WeldedWeb
from handrail.core.parts.wrench import room_rule, socket_room
from handrail.core.quantities.units import INCH
from handrail.core.standards.shear_end.layout import ShearEnd
from handrail.core.standards.shear_end.on_face import OnFace
from handrail.core.standards.shear_end_plate.parameters import LEAST_GAUGE, MOST_GAUGE

THINNEST, THICKEST = INCH / 4, 3 / 8 * INCH


@dataclass(frozen=True)
class Layout(ShearEnd):
    """A shear end plate in its situation; lengths mm."""

    GAP: ClassVar[str] = "plate_thickness"

    @cached_property
    def grid(self) -> Grid:
        """The bolts: two lines across the web."""
        return Grid(int(self.of("rows")), 2, self.of("pitch"), self.of("gauge"))

    @cached_property
    def hole(self) -> HoleSize:
        """In the plate."""
        return hole(self.choice("hole"), self.bolt.d)

    @cached_property
    def grade(self) -> Grade:
        """The plate's."""
        return grade(self.choice("plate_grade")).at(self.of("plate_thickness"))

    @property
    def depth(self) -> float:
        """The plate's, along V."""
        return self.of("plate_depth")

    @property
    def t(self) -> float:
        """The plate's thickness."""
        return self.of("plate_thickness")

    @property
    def width(self) -> float:
        """The plate's, across the web."""
        return self.of("gauge") + 2 * self.of("edge_distance")

    @property
    def plate_end(self) -> float:
        """Last bolt to the plate's end, as its depth leaves it."""
        return (self.depth - self.grid.depth) / 2

    @property
    def plate_top(self) -> float:
        """Top of the beam's steel to the plate's top edge."""
        return self.of("first_bolt") - self.plate_end

    @cached_property
    def face(self) -> OnFace:
        """The support's face with the bolts through it."""
        return OnFace(end=self, grid=self.grid, top=self.plate_top, depth=self.depth, width=self.width, thick=self.t)

    @cached_property
    def bolts(self) -> FaceBolts:
        """Between plate and support."""
        web, edge = self.situation.supported.section.tw, self.of("edge_distance")
        b = (self.of("gauge") - web) / 2
        pried = Pried(
            t=self.t,
            Fu=self.grade.Fu,
            b=b,
            a=edge,
            p=tributary(b, self.of("pitch"), self.plate_end, self.grid.rows),
            hole=self.hole.along,
            d=self.bolt.d,
        )
        half = self.depth / 2
        ply = Ply(
            name="plate",
            t=self.t,
            Fu=self.grade.Fu,
            hole=self.hole,
            toward_support=self.width / 2,
            away=self.width / 2,
            up=half,
            down=half,
            sense=-1.0,
        )
        return self.face.bolts(ply, pried, self.t / 2)

    @cached_property
    def half(self) -> BoltedPlate:
        """The plate on one side of the web."""
        return BoltedPlate(
            t=self.t,
            grade=self.grade,
            depth=self.depth,
            end=self.plate_end,
            edge=self.of("edge_distance"),
            grid=Grid(self.grid.rows, 1, self.of("pitch"), 0.0),
            hole=self.hole,
            a=0.0,
            reach=0.0,
            bent=False,
        )

    @cached_property
    def _to_half(self) -> Callable[[Actions], Actions]:
        return lambda actions: replace(actions, V=actions.V / 2)

    @cached_property
    def weld(self) -> FilletPair:
        """The fillets on both sides of the web, a leg short at either end."""
        w, web = self.of("weld_size"), self.situation.supported
        return FilletPair(
            size=w,
            length=max(self.depth - 2 * w, 0.0),
            electrode=self.electrode,
            t=web.section.tw,
            grade=web.grade,
            support_t=self.t,
        )

    @cached_property
    def beam_end(self) -> BeamEnd:
        """The beam's web."""
        return self.end_of_beam(WeldedWeb(self.plate_top, self.depth, 0.0), self.t, self.weld.length)

    @cached_property
    def support(self) -> Support:
        """The face that the plate lies on."""
        return self.on_support(
            self.t, self.grade, self.depth, self.plate_top, bolted=True, width=self.width, passing=self.face.passing
        )

    def states(self, code: Code, tracing: bool) -> Iterator[LimitState]:
        """Every limit state, part by part."""
        yield from self.bolts.states(Under(code, "bolts", tracing), code)
        for state in self.half.sheared(Under(code, "plate", tracing), code):
            yield under_part(state, self._to_half)
        weld = Under(code, "weld", tracing)
        yield from self.weld.states(weld, code)
        yield from self.weld.base_metal(weld, code, "web_at_weld")
        yield from self.beam_end.states(Under(code, "web", tracing), code)
        yield from self.support.states(Under(code, "support", tracing), code)

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """Every detailing rule that applies."""
        plate = self.bolts.plies.plies[0]
        yield from self.bolts.rules(code)
        edges = {"end_distance": (self.plate_end, "along"), "edge_distance": (self.of("edge_distance"), "across")}
        yield from self.bolts.plies.edge_rules(code, plate, edges, plate.t)
        yield from self.half.rules(code)
        yield at_least("plate_least_thickness", "plate", self.t, THINNEST, code.clause("plate_least_thickness"))
        yield at_most("plate_rotation", "plate", self.t, THICKEST, code.clause("plate_rotation"))
        yield at_least("gauge_rotation", "bolts", self.of("gauge"), LEAST_GAUGE, code.clause("gauge_rotation"))
        yield at_most("gauge_most", "bolts", self.of("gauge"), MOST_GAUGE, code.clause("gauge_most"))
        yield from self.approach.fits(code, self.plate_top, self.depth)
        yield from self.face.rules(code)
        yield from self.support.rules(code)
        web = self.situation.supported.section.tw
        room = self.face.wrench((self.of("gauge") - web) / 2 - self.of("weld_size"))
        yield room_rule(code, "bolt_tightening", "bolts", room, socket_room(self.bolt, self.of("socket")))
        yield from self.weld.rules(code, develops=False)
        yield from self.approach.rules(code)

    def notes(self) -> Iterator[str]:
        """What a person should know."""
        yield from self.face.notes(self.t / 2)
        yield (
            "between two faces that do not give, a beam with end plates is cut short and shimmed: its length's"
            " tolerance is not looked at"
        )
