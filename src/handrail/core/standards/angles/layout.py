"""Sized shear angles as their parts: the beam side and the support side, each bolted or welded, both legs, the beam's
end, the support."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import cached_property

from handrail.core.actions import Actions
from handrail.core.catalogue import Bolt, Grade, HoleSize, Section, angle, bolt, grade, hole
from handrail.core.codes.asked import Pried
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, at_most, under_part
from handrail.core.parts.beam_end import BeamEnd
from handrail.core.parts.bolt_group import Grid
from handrail.core.parts.bolted_plies import FAR, BoltedPlies, Ply, room_for_wrench
from handrail.core.parts.face_bolts import FaceBolts, tributary
from handrail.core.parts.leg_welds import EllWeld, ToeWelds, WebWeld
from handrail.core.parts.plate import BoltedPlate
from handrail.core.parts.support import Support
from handrail.core.parts.web_fastening import UNDERRUN, BoltedWeb, WeldedWeb
from handrail.core.parts.wrench import room_rule, socket_room
from handrail.core.quantities.lines import Trace
from handrail.core.quantities.units import INCH
from handrail.core.quantities.words import held
from handrail.core.standards.angles.parameters import ERECTION, drop, legs
from handrail.core.standards.angles.wrenching import rooms
from handrail.core.standards.shear_end.layout import ShearEnd
from handrail.core.standards.shear_end.on_face import OnFace

NEGLECTED = 3 * INCH  # a gauge on the beam up to here bends no bolts (Manual Part 10)
THICKEST = 5 / 8 * INCH  # that still turns (Manual Part 10)
ON_BEAM = ("hole", "web_hole")  # holes of the bolts on the beam


@dataclass(frozen=True)
class Angles(ShearEnd):
    """`n` angles on a beam's web; lengths mm."""

    n: int = 2

    @cached_property
    def angle(self) -> Section:
        """The section that it is cut from, out of the catalogue."""
        return angle(self.choice("angle"))

    @property
    def t(self) -> float:
        """Thickness of its legs."""
        return self.angle.wall

    @cached_property
    def grade(self) -> Grade:
        """The angles'."""
        return grade(self.choice("angle_grade")).at(self.t)

    @property
    def tw(self) -> float:
        """The beam's web."""
        return self.situation.supported.section.tw

    @property
    def on_beam(self) -> bool:
        """Whether the beam side is bolted."""
        return self.choice("beam_side") == "bolted"

    @property
    def bolted_to_support(self) -> bool:
        """Whether the support side is."""
        return self.choice("support_side") == "bolted"

    @property
    def beam_leg(self) -> float:
        """Length of the leg on the beam."""
        return legs(self.sizes)[0]

    @property
    def support_leg(self) -> float:
        """Length of the leg on the support."""
        return legs(self.sizes)[1]

    @property
    def depth(self) -> float:
        """The angles' length, along V."""
        return self.of("angle_length")

    @property
    def group(self) -> float:
        """First row to last."""
        return (int(self.of("rows")) - 1) * self.of("pitch")

    @property
    def end(self) -> float:
        """Outer bolts to the angle's ends; what its length has over its rows is shared."""
        return (self.depth - self.group - drop(self.sizes)) / 2

    @property
    def top(self) -> float:
        """Top of the beam's steel to the angles' top."""
        return self.of("first_bolt") - self.end

    @property
    def width(self) -> float:
        """What lies on the face, both sides of the beam's middle counted alike."""
        return 2 * self.support_leg + self.tw

    @property
    def beam_grid(self) -> Grid:
        """The bolts on the web."""
        return Grid(int(self.of("rows")), 1, self.of("pitch"), 0.0)

    @cached_property
    def support_grid(self) -> Grid:
        """The bolts on the support."""
        lines = 2 * self.of("support_gauge") + self.tw
        return (
            Grid(int(self.of("rows")), 2, self.of("pitch"), lines)
            if self.n == 2
            else Grid(int(self.of("rows")), 1, self.of("pitch"), 0.0)
        )

    @property
    def off(self) -> float:
        """From the beam's middle to the middle of the support's bolts: nothing for a pair."""
        return 0.0 if self.n == 2 else self.of("support_gauge") + self.tw / 2

    @property
    def eccentricity(self) -> float:
        """The lever of V on the beam's bolts: none up to a gauge of 3 in."""
        gauge = self.of("beam_gauge")
        return gauge if gauge > NEGLECTED + 1e-6 else 0.0

    @cached_property
    def beam_bolt(self) -> Bolt:
        """The bolt on the beam's web; `bolt` is the support's."""
        return bolt(self.choice("beam_bolt"))

    def hole(self, name: str) -> HoleSize:
        """One of the holes."""
        return hole(self.choice(name), self.beam_bolt.d if name in ON_BEAM else self.bolt.d)

    @property
    def beam_edge(self) -> float:
        """Bolt line to the end of the beam's web."""
        return self.of("beam_gauge") - self.of("gap")

    @cached_property
    def beam_bolts(self) -> BoltedPlies:
        """Between the legs together and the web."""
        half, below = self.group / 2, drop(self.sizes)
        leg = Ply(
            name="leg",
            t=self.n * self.t,
            Fu=self.grade.Fu,
            hole=self.hole("hole"),
            toward_support=FAR,
            away=self.beam_leg - self.of("beam_gauge"),
            up=half + self.end,
            down=half + self.end + below,
            sense=-1.0,
        )
        end, beam = self.beam_end, self.situation.supported
        web = Ply(
            name="web",
            t=self.tw,
            Fu=beam.grade.Fu,
            hole=self.hole("web_hole"),
            toward_support=self.beam_edge - UNDERRUN,
            away=FAR,
            up=min(end.above + half, FAR),
            down=min(end.below + half, FAR),
            sense=1.0,
        )
        return self.between(self.beam_grid, (leg, web), self.eccentricity, self.n, "beam_")

    @cached_property
    def beam_weld(self) -> WebWeld:
        """The legs on the web."""
        beam = self.situation.supported
        return WebWeld(
            size=self.of("beam_weld"),
            length=self.depth,
            reach=self.beam_leg,
            gap=self.of("gap"),
            sides=self.n,
            t=self.t,
            tw=self.tw,
            web=beam.grade,
            electrode=self.electrode,
            method=self.choice("bolt_method"),
        )

    @cached_property
    def face(self) -> OnFace:
        """The support's face with the bolts through it."""
        return OnFace(
            end=self,
            grid=self.support_grid,
            top=self.top,
            depth=self.depth,
            width=self.width,
            off=self.off,
            prefix="support_",
        )

    @cached_property
    def support_bolts(self) -> FaceBolts:
        """Between the legs and the support."""
        gauge, grid, half = self.of("support_gauge"), self.support_grid, self.group / 2
        edge, b, holes = self.support_leg - gauge, gauge - self.t / 2, self.hole("leg_hole")
        pried = Pried(
            t=self.t,
            Fu=self.grade.Fu,
            b=b,
            a=edge,
            p=tributary(b, self.of("pitch"), self.end, grid.rows),
            hole=holes.along,
            d=self.bolt.d,
            levered=self.n == 1,
        )
        side = grid.width / 2 + edge if self.n == 2 else edge
        ply = Ply(
            name="leg",
            t=self.t,
            Fu=self.grade.Fu,
            hole=holes,
            toward_support=side if self.n == 2 else FAR,
            away=side,
            up=half + self.end + drop(self.sizes),
            down=half + self.end,
            sense=-1.0,
        )
        bolts = self.face.bolts(ply, pried, self.of("beam_gauge") if self.on_beam else self.beam_weld.e, self.off)
        return replace(bolts, plies=replace(bolts.plies, apart=self.n == 2))

    @cached_property
    def support_weld(self) -> ToeWelds | EllWeld:
        """The legs on the support."""
        size, support_t = self.of("support_weld"), self.support_thickness
        if self.n == 2:
            return ToeWelds(
                size=size,
                length=self.depth,
                leg=self.support_leg,
                t=self.t,
                grade=self.grade,
                electrode=self.electrode,
                support_t=support_t,
            )
        return EllWeld(
            size=size,
            length=self.depth,
            leg=self.support_leg,
            off=self.tw / 2,
            t=self.t,
            grade=self.grade,
            electrode=self.electrode,
            support_t=support_t,
            negligible=self.negligible_N,
            method=self.choice("bolt_method"),
        )

    def leg(self, name: str, of: float, gauge: float, bolted: bool, hole_name: str, lever: float) -> BoltedPlate:
        """A leg `of` its length as a plate."""
        grid, holes = (self.beam_grid, self.hole(hole_name)) if bolted else (None, None)
        return BoltedPlate(
            t=self.t,
            grade=self.grade,
            depth=self.depth,
            end=self.end,
            edge=of - gauge,
            grid=grid,
            hole=holes,
            a=lever or gauge,
            reach=0.0,
            bent=lever > 0,
            name=name,
        )

    @cached_property
    def legs(self) -> tuple[BoltedPlate, BoltedPlate]:
        """(on the beam, on the support), of one angle."""
        return (
            self.leg(
                "beam_leg",
                self.beam_leg,
                self.of("beam_gauge"),
                self.on_beam,
                "hole",
                self.eccentricity if self.on_beam else 0.0,
            ),
            self.leg(
                "support_leg", self.support_leg, self.of("support_gauge"), self.bolted_to_support, "leg_hole", 0.0
            ),
        )

    @cached_property
    def _each(self) -> Callable[[Actions], Actions]:
        return lambda actions: replace(actions, V=actions.V / self.n, N=actions.N / self.n)

    @cached_property
    def beam_end(self) -> BeamEnd:
        """The beam's web."""
        if self.on_beam:
            bolted = BoltedWeb(self.beam_grid, self.hole("web_hole"), self.of("first_bolt"), self.beam_edge)
            return self.end_of_beam(bolted, self.of("gap"), self.depth)
        return self.end_of_beam(
            WeldedWeb(self.top, self.depth, self.beam_leg - self.of("gap")), self.of("gap"), self.depth
        )

    @cached_property
    def support(self) -> Support:
        """The face that the legs lie on."""
        lines = 2.0 if self.n == 2 else 1.0 + self.support_leg / self.depth
        weld = 0.0 if self.bolted_to_support else self.of("support_weld")
        return self.on_support(
            self.t,
            self.grade,
            self.depth,
            self.top,
            weld,
            bolted=self.bolted_to_support,
            width=self.width + 2 * weld,
            lines=lines,
            passing=self.face.passing if self.bolted_to_support else None,
        )

    def states(self, code: Code, tracing: bool) -> Iterator[LimitState]:
        """Every limit state, part by part."""
        yield from self._beam_side(code, tracing)
        on_beam, on_support = self.legs
        angles = Under(code, "angle", tracing)
        for state in (*on_beam.states(angles, code), *on_support.sheared(angles, code)):
            yield under_part(state, self._each)
        if self.n == 1:
            yield from self._turned(angles, code)
        if self.bolted_to_support:
            yield from self.support_bolts.states(Under(code, "support bolts", tracing), code)
        else:
            yield from self.support_weld.states(Under(code, "weld", tracing), code)
        yield from self.beam_end.states(Under(code, "web", tracing), code)
        yield from self.support.states(Under(code, "support", tracing), code)

    def _beam_side(self, code: Code, tracing: bool) -> Iterator[LimitState]:
        if self.on_beam:
            yield from self.beam_bolts.states(Under(code, "bolts", tracing), code)
        else:
            yield from self.beam_weld.states(Under(code, "weld", tracing), code)

    def _turned(self, under: Under, code: Code) -> Iterator[LimitState]:
        """One angle's support leg bent in its plane by V from the beam's web to the bolts, or to the weld at its toe
        (J4.5)."""
        Fy, Fu, t, L = self.grade.Fy, self.grade.Fu, self.t, self.depth
        e = self.off if self.bolted_to_support else self.support_leg + self.tw / 2

        def moment(actions: Actions, trace: Trace) -> object:
            return trace("Mr", "|V| e", actions.shear * e, code.clause("plate_moment"), V=actions.V, e=e)

        yield under.fixed(
            "support_leg_flexure_yield",
            "moment",
            lambda s: code.plates.flexure_yield(Fy, t * L**2 / 4, s),
            moment,
        )
        if self.bolted_to_support:
            Z = code.plates.net_plastic_modulus(
                t, L, self.support_grid.rows, self.of("pitch"), code.plates.net_hole(self.hole("leg_hole").along)
            )
            yield under.fixed(
                "support_leg_flexure_rupture",
                "moment",
                lambda s: code.plates.flexure_rupture(Fu, Z, s),
                moment,
            )

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """Every detailing rule that applies."""
        yield at_most("angle_rotation", "angle", self.t, THICKEST, code.clause("angle_rotation"))
        if self.on_beam:
            yield from self._on_beam(code)
        else:
            yield from self.beam_weld.rules(code)
        if self.bolted_to_support:
            yield from self._on_support(code)
        else:
            yield from self.support_weld.rules(code)
            yield at_least(
                "erection_bolts", "angle", self.of("erection_bolts"), ERECTION, code.clause("erection_bolts"), "number"
            )
        around = 0.0 if self.on_beam else self.of("beam_weld")
        yield from self.approach.fits(code, self.top, self.depth, "angle", around)
        for rule in self.support.rules(code):
            yield replace(rule, rule=rule.rule.replace("plate_", "angle_"))
        yield from self.approach.rules(code)

    def _on_beam(self, code: Code) -> Iterator[DetailingRule]:
        leg, web = self.beam_bolts.plies
        yield from self.beam_bolts.rules(code)
        edges = {"end_distance": (self.end, "along"), "edge_distance": (leg.away, "across")}
        yield from self.beam_bolts.edge_rules(code, leg, edges, self.t)
        yield from self.beam_bolts.edge_rules(code, web, {"beam_edge_distance": (self.beam_edge, "across")}, web.t)
        yield from self.beam_end.rules(code, self.beam_bolts)
        beam, held = self.situation.supported.section, self.beam_end.fastened
        room = [held.first - beam.tf, beam.d - beam.tf - held.last]
        yield replace(room_for_wrench(code, [self.of("beam_gauge") - self.t, *room], self.beam_bolt), part="bolts")

    def _on_support(self, code: Code) -> Iterator[DetailingRule]:
        leg = self.support_bolts.plies.plies[0]
        yield from self.support_bolts.rules(code)
        edges = {
            "support_end_distance": (self.end, "along"),
            "support_edge_distance": (self.support_leg - self.of("support_gauge"), "across"),
        }
        yield from self.support_bolts.plies.edge_rules(code, replace(leg, name="support_leg"), edges, self.t)
        least = code.bolts.ductile_diameter(self.t, self.grade.Fy, self.of("support_gauge") - self.t, self.depth)
        yield at_least("bolt_rotation", "support bolts", self.bolt.d, least, code.clause("bolt_rotation"))
        yield from self.face.rules(code)
        room = min(room for room, _, _ in self._rooms)
        yield room_rule(
            code, "support_bolt_tightening", "support bolts", room, socket_room(self.bolt, self.of("socket"))
        )

    @cached_property
    def _rooms(self) -> tuple[tuple[float, str, str], ...]:
        """Of each line of the support's bolts: room for a wrench, on which side, and what stands near there."""
        (above, below), lower = self.face.to_flanges, drop(self.sizes)
        return tuple(
            rooms(self.situation, self.sizes, self.n, self.of("support_gauge"), lower, above + lower, below - lower)
        )

    def _tightened(self, room: float, side: str, near: str) -> str:
        """In words where the wrench goes for a line of the support's bolts."""
        needed = held(socket_room(self.bolt, self.of("socket")), "length")
        if side == "neither":
            return "the support's bolts go in from neither side"
        free = "nothing near" if room > 24 * INCH else f"{held(room, 'length')} clear"
        stands = near if near == "the web" else f"the {near} of its bolts"
        where = f"the beam's side, past {stands}" if side == "near" else "the far side of the support"
        return (
            f"a line of the support's bolts is tightened from {where}: {free}, {needed} needed; it goes in from the"
            " other"
        )

    def notes(self) -> Iterator[str]:
        """What a person should know."""
        gauge = self.of("beam_gauge")
        if self.on_beam and not self.eccentricity:
            yield (
                f"V's moment over the gauge of {held(gauge, 'length')} on the beam's bolts is neglected (up to"
                f" {held(3 * INCH, 'length')},"
                f" {self.situation.code.clause('plate_moment')})"
            )
        if self.bolted_to_support:
            yield from self.face.notes(gauge if self.on_beam else self.beam_weld.e)
            yield from (self._tightened(*one) for one in self._rooms)
        else:
            yield (
                f"{int(self.of('erection_bolts'))} erection bolts hold the beam until the angles are welded; they are"
                " not drawn"
            )
        if not (self.on_beam and self.bolted_to_support):
            yield "room for the electrode at the angles' fillets, past flanges and copes, is not looked at"
        if self.n == 1:
            yield "one angle: its support leg and what holds it are turned by V from the beam's web"
