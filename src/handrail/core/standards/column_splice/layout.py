"""The sized column splice as its parts: flange plates or grooves on each column, plates on the webs, contact between
milled ends."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property

from handrail.core.catalogue import Steel, bolt, electrode, grade, hole
from handrail.core.catalogue.lateral import KINDS
from handrail.core.codes.asked import NO_FILLER, Demand, Filler
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, never
from handrail.core.parts.bearing import Faces, Footprint, overlap, profile
from handrail.core.parts.bolt_group import Grid
from handrail.core.parts.splice import ColumnFlanges, Contact, FlangePlates, GrooveFlanges, WebSide
from handrail.core.quantities.units import INCH
from handrail.core.quantities.words import held
from handrail.core.remark import Remark
from handrail.core.standards.beam_splice.parameters import thickest_filler
from handrail.core.standards.erection import SPLICE, erection
from handrail.core.standards.laid_out import LaidOut
from handrail.core.standards.tightened import tightened

FAR_SIDE = "_far"  # of a check on the lower column
SAME = 0.5  # mm
FILLED = INCH / 16  # from here on there is a filler
ABOVE = 48 * INCH  # of a perimeter column's splice over its floor (OSHA 1926.756(e))


@dataclass(frozen=True)
class Layout(LaidOut):
    """A splice of `supported`, the upper column, on `support`, the lower; lengths mm."""

    @property
    def alike(self) -> bool:
        """Whether both are the same section and grade."""
        return self.pieces[0] == self.pieces[1]

    @property
    def milled(self) -> bool:
        """Whether the ends bear."""
        return self.choice("ends") == "milled"

    @property
    def plated(self) -> bool:
        """Whether flanges are joined by plates, not grooves."""
        return self.choice("flange_joint") == "plates"

    @cached_property
    def grid(self) -> Grid:
        """Web bolts on each column."""
        return Grid(int(self.of("rows")), int(self.of("columns")), self.of("pitch"), self.of("gauge"))

    @property
    def filler(self) -> float:
        """Beside each flange of the shallower column, mm."""
        a, b = (p.section.d for p in self.pieces)
        return abs(a - b) / 2

    @property
    def plate_end(self) -> float:
        """Outer web bolts to the plate's edge, as its depth leaves it."""
        return (self.of("plate_depth") - self.grid.depth) / 2

    @cached_property
    def flange_plates(self) -> FlangePlates:
        """Outside of each flange; none inside."""
        return FlangePlates(
            self.of("flange_plate_width"),
            self.of("flange_plate_thickness"),
            grade(self.choice("plate_grade")).at(self.of("flange_plate_thickness")),
        )

    def flange(self, steel: Steel) -> ColumnFlanges:
        """The flanges of one column."""
        own, depth = bolt(self.choice("flange_bolt")), min(p.section.d for p in self.pieces)
        filler = self.filler if steel.section.d == depth else 0.0
        return ColumnFlanges(
            steel=steel,
            plates=self.flange_plates,
            bolt=own,
            hole=hole(self.choice("flange_hole"), own.d),
            rows=int(self.of("flange_rows")),
            pitch=self.of("flange_pitch"),
            gage=self.of("flange_gage"),
            beam_edge=self.of("beam_edge_distance"),
            end=self.of("flange_end_distance"),
            half_gap=self.of("ends_gap") / 2,
            depth=depth,
            deformation=self.choice("deformation") == "considered",
            tightening=self.choice("tightening"),
            filler=Filler(filler, self.choice("fillers") == "developed"),
            faces=self.faces,
        )

    @cached_property
    def grooves(self) -> GrooveFlanges:
        """Between the flanges, on the lesser of both."""
        bare = self._bare_grooves
        return replace(bare, faces=self._between(*bare.ties())) if self.milled else bare

    @property
    def _bare_grooves(self) -> GrooveFlanges:
        sections = [p.section for p in self.pieces]
        return GrooveFlanges(
            width=min(s.bf for s in sections),
            t=min(s.tf for s in sections),
            throat=self.of("groove_throat"),
            depth=min(s.d for s in sections),
            electrode=electrode(self.choice("electrode")),
            faces=None,
        )

    @cached_property
    def faces(self) -> Faces | None:
        """The milled ends with what pulls on them: plates by their four lines of bolts, or grooves."""
        if not self.milled:
            return None
        if not self.plated:
            return self.grooves.faces
        x, y = min(p.section.d for p in self.pieces) / 2, self.of("flange_gage") / 2
        return self._between(tuple((i * x, j * y) for i in (-1, 1) for j in (-1, 1)), self.flange_plates.outer_area / 2)

    def _between(self, ties: tuple[tuple[float, float], ...], area: float) -> Faces:
        """What of the one stands on the other bears, all of the smaller where fillers are developed."""
        (a, b), small = (
            (p.section for p in self.pieces),
            min(self.pieces, key=lambda p: p.section.A * p.grade.Fy).section,
        )
        pads = profile(small) if self.choice("fillers") == "developed" else overlap(a, b)
        return Faces(Footprint(length=small.d, width=small.bf, points=ties, area=area, pads=pads))

    def web(self, steel: Steel) -> WebSide:
        """The web's side of one column."""
        own = bolt(self.choice("bolt"))
        plates = 2 if self.choice("web_plates") == "both" else 1
        return WebSide(
            steel=steel,
            bolt=own,
            grid=self.grid,
            holes=(hole(self.choice("hole"), own.d), hole(self.choice("web_hole"), own.d)),
            plates=plates,
            t=self.of("plate_thickness"),
            grade=grade(self.choice("plate_grade")).at(self.of("plate_thickness")),
            depth=self.of("plate_depth"),
            half_gap=self.of("ends_gap") / 2,
            beam_edge=self.of("beam_edge_distance"),
            edge=self.of("edge_distance"),
            end=self.plate_end,
            method=self.choice("bolt_method"),
            deformation=self.choice("deformation") == "considered",
            tightening=self.choice("tightening"),
            negligible=self.of("negligible_force"),
            share=0.0,
            filler=NO_FILLER,
        )

    @property
    def webbed(self) -> bool:
        """Whether there are web plates."""
        return self.choice("web_plates") != "none"

    @cached_property
    def contact(self) -> Contact:
        """Of the columns' ends."""
        return Contact(self.faces, min(p.grade.Fy for p in self.pieces), not self.webbed)

    def demands(self, code: Code) -> list[Demand]:
        """What the lateral system asks of it by itself."""
        s = self.situation
        if not self.asked(code) or any(True for _ in self.unstated(code)):
            return []
        assert s.storey is not None
        return code.lateral.of_splice(s.lateral, self.pieces, s.storey, s.clear)

    def asked(self, code: Code) -> bool:
        """Whether a least shear is asked of it."""
        return self.situation.seismic or code.lateral.asks_of_splices(self.situation.lateral, self.situation.category)

    def unstated(self, code: Code) -> Iterator[str]:
        """What has to be known of the lateral system and is not."""
        s = self.situation
        if s.seismic and not s.lateral:
            yield (
                "of the system that resists earthquakes, of which the kind is not stated: give it (lateral), like"
                " special_moment or ordinary_braced; splices are asked by it"
            )
        if self.asked(code) and not s.storey:
            yield (
                "the storey's height is not known, which gives the splice's least shear"
                f" ({code.clause('shear_of_splice')}): give the"
                " floors, or geometry.storey"
            )
        if s.storey and s.clear is None and code.lateral.clear_height(s.lateral):
            yield (
                "the height clear between the beams is not known, which gives the splice's least shear: give the"
                " floors' beams, or geometry.clear"
            )

    def states(self, code: Code, tracing: bool) -> Iterator[LimitState]:
        """Every limit state; of the lower column, where it is not alike, named `_far`; then under 300 lb while it
        stands alone."""
        states = list(self._states(code, tracing))
        yield from states
        yield erection(states, self.pieces[0].section, code, "column", SPLICE)

    def _states(self, code: Code, tracing: bool) -> Iterator[LimitState]:
        yield from self.contact.states(Under(code, "contact", tracing), code)
        if not self.plated:
            yield from self.grooves.states(Under(code, "weld", tracing), code)
        for k, steel in enumerate(self.pieces if not self.alike else self.pieces[:1]):
            states = list(self.flange(steel).states(code, tracing, with_plates=k == 0)) if self.plated else []
            if self.webbed:
                states += self.web(steel).states(code, tracing, with_plate=k == 0)
            yield from (states if k == 0 else (replace(s, check=s.check + FAR_SIDE) for s in states))

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """Every detailing rule, of both columns where they differ."""
        yield from tightened(self.situation, self.sizes, code)
        for k, steel in enumerate(self.pieces if not self.alike else self.pieces[:1]):
            rules = list(self.flange(steel).rules(code)) if self.plated else []
            if self.webbed:
                rules += self.web(steel).rules(code)
            if self.plated and self.situation.seismic:
                rules += self.flange(steel).seismic(code, min(code.splices.least_of_flange(p) for p in self.pieces))
            yield from (rules if k == 0 else (replace(r, rule=r.rule + FAR_SIDE) for r in rules))
        if not self.plated:
            yield from self.grooves.rules(code)
            braced = self.situation.lateral in ("special_braced", "buckling_restrained")
            yield never(
                "groove_in_lateral_system",
                "weld",
                self.situation.seismic,
                (
                    "grooves in special braced frames are of complete penetration: use plates"
                    if braced
                    else (
                        "partial-penetration grooves in the lateral system need twice the required strength, which is"
                        " not implemented: use plates"
                    )
                ),
                code.clause("braced_groove_in_lateral_system" if braced else "groove_in_lateral_system"),
            )
        plain = self.plated and self.choice("fillers") == "plain"
        yield never(
            "fillers_developed",
            "fillers",
            plain and self.filler > code.splices.thickest_filler + SAME,
            f"fillers of {held(self.filler, 'length')} are over"
            f" {held(code.splices.thickest_filler, 'length')}: develop them beyond the splice",
            code.clause("fillers_developed"),
        )
        if self.choice("fillers") == "developed":
            filler, beside = thickest_filler(self.situation, self.sizes)
            yield at_least(
                "filler_rows",
                "fillers",
                self.of("filler_rows"),
                code.splices.bolts_beyond(self.of("flange_rows"), filler, beside),
                code.clause("filler_rows"),
                "number",
            )
        yield never(
            "milled_ends_meet",
            "contact",
            self.milled and self.of("ends_gap") > SAME,
            "milled ends bear on each other: the gap is 0",
            "M2.6",
        )
        if self.situation.above_floor is not None:
            yield at_least(
                "splice_above_floor", "column", self.situation.above_floor, ABOVE, code.clause("splice_above_floor")
            )

    def notes(self, code: Code) -> Iterator[str]:
        """What a person should know."""
        small = min(p.section.A for p in self.pieces)
        if self.milled:
            yield (
                "ends milled: what meets presses, flange by flange and on the web, and what joins the flanges pulls, in"
                " balance with N, M and Mw by an elastic plane of strain"
            )
            if self.contact.area < 0.9 * small and self.choice("fillers") == "plain":
                yield Remark(
                    f"the columns' flanges stand only partly on each other: {self.contact.area / small:.0%} of the"
                    " smaller section bears"
                )
        else:
            yield "ends not milled: compression goes through the flange plates too"
        yield "shear by " + (
            f"web plates ({self.choice('web_plates')})"
            if self.webbed
            else "friction of what presses in the same combination"
        )
        if self.filler > SAME and self.plated:
            yield (
                f"fillers of {held(self.filler, 'length')} beside each flange of the shallower column,"
                f" {self.choice('fillers')}"
            )
        if self.situation.above_floor is None:
            yield Remark(
                f"the floor below is not known: splices of perimeter columns stand {held(48 * INCH, 'length')} over it"
                f" ({code.clause('splice_above_floor')})"
            )
        s = self.situation
        if s.seismic:
            yield (
                f"{KINDS[s.lateral]}: overstrength combinations, half of the smaller flange's expected strength"
                f" ({code.clause('seismic_flange_strength')}), and by themselves, each way:"
                f" {', '.join(d.name for d in self.demands(code))}"
            )
        elif self.asked(code):
            yield (
                "a column of a structure that is made for earthquakes: a least shear each way, Mpc/(alpha_s H)"
                f" ({code.clause('shear_of_splice')})"
            )
        elif not s.category and s.lateral != "not_detailed":
            yield Remark(
                "the structure's seismic design category is not stated:"
                f" {code.clause('shear_of_splice')}, asked of every column's splice"
                " in D to F, is not looked at"
            )
