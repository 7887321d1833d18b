"""The sized splice as its parts: web plates and, where it has them, flange plates, on each of the two pieces."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Steel, bolt, grade, hole
from handrail.core.codes.asked import Filler
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, at_most, never, under_part
from handrail.core.parts.bolt_group import Grid
from handrail.core.parts.splice import FlangePlates, FlangeSide, WebSide
from handrail.core.quantities.units import INCH
from handrail.core.quantities.words import held
from handrail.core.standards.beam_splice.parameters import thickest_filler
from handrail.core.standards.laid_out import LaidOut
from handrail.core.standards.tightened import tightened

FAR_SIDE = "_far"  # of a check on the piece that holds the other
SAME = 0.5  # mm
FILLED = INCH / 16  # from here on there is a filler


@dataclass(frozen=True)
class Layout(LaidOut):
    """A splice of `supported` and `support`; lengths mm."""

    @property
    def flanged(self) -> bool:
        """Whether it has flange plates, and so carries moment."""
        return "flange_rows" in self.sizes

    @property
    def alike(self) -> bool:
        """Whether both pieces are the same section and grade."""
        return self.pieces[0] == self.pieces[1]

    @cached_property
    def grid(self) -> Grid:
        """Web bolts on each side."""
        return Grid(int(self.of("rows")), int(self.of("columns")), self.of("pitch"), self.of("gauge"))

    @property
    def plates(self) -> int:
        """On the web."""
        return 2 if self.choice("web_plates") == "both" else 1

    @property
    def web_filler(self) -> float:
        """Between the thinner web and each plate, mm."""
        a, b = (p.section.tw for p in self.pieces)
        return abs(a - b) / 2

    @property
    def flange_fillers(self) -> tuple[float, float]:
        """(top, bottom) between the shallower piece's flange and its outer plate, mm."""
        a, b = (p.section.d for p in self.pieces)
        apart = abs(a - b)
        return (0.0, apart) if self.choice("align") == "top" else (apart / 2, apart / 2)

    @property
    def tops(self) -> tuple[float, float]:
        """Where both pieces' tops of steel lie, the first one's at 0."""
        own, other = (p.section.d for p in self.pieces)
        return 0.0, 0.0 if self.choice("align") == "top" else (other - own) / 2

    @property
    def _webs(self) -> tuple[float, float]:
        """(upper, lower) end of what both webs have between their fillets."""
        both = list(zip(self.tops, (p.section for p in self.pieces), strict=True))
        return min(top - s.k_detail for top, s in both), max(top - s.d + s.k_detail for top, s in both)

    @property
    def middle(self) -> float:
        """Of the plates on the webs."""
        return sum(self._webs) / 2

    @cached_property
    def off(self) -> tuple[float, float]:
        """(from one piece's middle to the other's, from either to the web plates' where that is more), mm."""
        own, other = (top - p.section.d / 2 for top, p in zip(self.tops, self.pieces, strict=True))
        return abs(own - other), max(abs(self.middle - own), abs(self.middle - other))

    def filler(self, thickness: float) -> Filler:
        """One of a thickness, mm."""
        return Filler(thickness, self.choice("fillers") == "developed")

    def web(self, steel: Steel) -> WebSide:
        """The web's side of one piece."""
        own = bolt(self.choice("bolt"))
        s = steel.section
        share = 1 - 2 * s.bf * s.tf / s.A if self.flanged else 1.0
        thin = steel.section.tw == min(p.section.tw for p in self.pieces)
        return WebSide(
            steel=steel,
            bolt=own,
            grid=self.grid,
            holes=(hole(self.choice("hole"), own.d), hole(self.choice("web_hole"), own.d)),
            plates=self.plates,
            t=self.of("plate_thickness"),
            grade=grade(self.choice("plate_grade")).at(self.of("plate_thickness")),
            depth=self.of("plate_depth"),
            half_gap=self.of("gap") / 2,
            beam_edge=self.of("beam_edge_distance"),
            edge=self.of("edge_distance"),
            end=self.plate_end,
            method=self.choice("bolt_method"),
            deformation=self.choice("deformation") == "considered",
            tightening=self.choice("tightening"),
            negligible=self.of("negligible_force"),
            share=share,
            filler=self.filler(self.web_filler if thin else 0.0),
        )

    @property
    def plate_end(self) -> float:
        """Outer web bolts to the plate's edge, as its depth leaves it."""
        return (self.of("plate_depth") - self.grid.depth) / 2

    @cached_property
    def flange_plates(self) -> FlangePlates:
        """Outside of one flange, and inside of it where they are provided."""
        inside = (
            (self.of("inside_plate_width"), self.of("inside_plate_thickness"))
            if self.choice("inside_plates") == "provided"
            else None
        )
        return FlangePlates(
            self.of("flange_plate_width"),
            self.of("flange_plate_thickness"),
            grade(self.choice("plate_grade")).at(max(self.of("flange_plate_thickness"), inside[1] if inside else 0.0)),
            inside,
        )

    def flange(self, steel: Steel) -> FlangeSide:
        """The flanges' side of one piece: the flange with the thicker filler stands for both."""
        own = bolt(self.choice("flange_bolt"))
        depth = min(p.section.d for p in self.pieces)
        shallow = steel.section.d == depth
        filler = max(self.flange_fillers) if shallow else 0.0
        if self.flange_plates.inside:
            filler = max(filler, abs(self.pieces[0].section.tf - self.pieces[1].section.tf) + filler)
        return FlangeSide(
            steel=steel,
            plates=self.flange_plates,
            bolt=own,
            hole=hole(self.choice("flange_hole"), own.d),
            rows=int(self.of("flange_rows")),
            pitch=self.of("flange_pitch"),
            gage=self.of("flange_gage"),
            beam_edge=self.of("beam_edge_distance"),
            end=self.of("flange_end_distance"),
            half_gap=self.of("gap") / 2,
            depth=depth,
            deformation=self.choice("deformation") == "considered",
            tightening=self.choice("tightening"),
            filler=self.filler(filler),
        )

    def states(self, code: Code, tracing: bool) -> Iterator[LimitState]:
        """Every limit state of the first piece and the plates; of the other where it is not alike, named `_far`."""
        for k, steel in enumerate(self.pieces if not self.alike else self.pieces[:1]):
            states = list(self.web(steel).states(code, tracing, with_plate=k == 0))
            if self.flanged:
                flanges = self.flange(steel).states(code, tracing, with_plates=k == 0)
                states += [under_part(s, self.bent) for s in flanges]
            elif self.off[1] > SAME:
                states.append(self._out_of_line(Under(code, "plate", tracing), steel))
            yield from (states if k == 0 else (replace(s, check=s.check + FAR_SIDE) for s in states))

    @cached_property
    def bent(self) -> Callable[[Actions], Actions]:
        """N bends pieces that are not in line, and those whose web plates are not in their middle: that goes to the
        flanges, the way that M does already."""
        apart, web = self.off if self.off[1] > SAME else (0.0, 0.0)
        lever = apart + web * max(self.web(steel).share for steel in self.pieces)

        def bent(actions: Actions) -> Actions:
            way = np.where(actions.M < 0, -1.0, 1.0)
            return replace(actions, M=actions.M + way * np.abs(actions.N) * lever) if lever else actions

        return bent

    def _out_of_line(self, under: Under, steel: Steel) -> LimitState:
        """Web plates alone, off the middle of a piece, have nothing for N times that."""
        most = min(self.of("negligible_force"), 0.05 * steel.grade.Fy * steel.section.A)
        return under.state(
            "axial_out_of_line",
            "force",
            lambda actions, t: (t("Nr", "|N|, off the web plates' middle", np.abs(actions.N), N=actions.N), most),
            limit=True,
            of="not_carried",
        )

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """Every detailing rule, of both pieces where they differ."""
        upper, lower = self._webs
        if self.off[1] > SAME:
            yield at_most("plate_on_both_webs", "plate", self.of("plate_depth"), upper - lower)
        yield from tightened(self.situation, self.sizes, code)
        for k, steel in enumerate(self.pieces if not self.alike else self.pieces[:1]):
            rules = list(self.web(steel).rules(code))
            if self.flanged:
                rules += self.flange(steel).rules(code)
            yield from (rules if k == 0 else (replace(r, rule=r.rule + FAR_SIDE) for r in rules))
        if self.flanged:
            yield from self._fillers(code)

    def _fillers(self, code: Code) -> Iterator[DetailingRule]:
        most = max(*self.flange_fillers, self.web_filler)
        plain = self.choice("fillers") == "plain"
        yield never(
            "fillers_developed",
            "fillers",
            plain and most > code.splices.thickest_filler + SAME,
            f"fillers of {held(most, 'length')} are over {held(code.splices.thickest_filler, 'length')}: develop them"
            " beyond the splice",
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
        if self.flange_plates.inside:
            room = self.pieces[0].section.T
            yield at_least("web_plate_clear_of_inside_plates", "plate", (room - self.of("plate_depth")) / 2, 0.0)

    def notes(self) -> Iterator[str]:
        """What a person should know."""
        if not self.flanged:
            yield (
                "web plates alone: the splice is a hinge at its middle; each side's bolts take V with their lever from"
                " there, and N"
            )
            return
        if self.off[1] > SAME:
            yield (
                f"the pieces' middles, or the web plates, are up to {held(max(self.off), 'length')} apart: N times that"
                " is added to M"
            )
        side = self.flange(self.pieces[0])
        yield (
            f"flange forces from M over {held(side.bolt_lever, 'length')} for bolts and"
            f" {held(side.plate_lever, 'length')} for plates, and {side.share:.3f} of N in each flange by area; the web"
            " plates take V with its lever and the rest of N"
        )
        fillers = [f for f in self.flange_fillers if f > SAME]
        if fillers or self.web_filler > INCH / 32:
            words = ", ".join(
                held(f, "length") for f in (*fillers, *([self.web_filler] if self.web_filler > INCH / 32 else []))
            )
            yield f"fillers of {words} on the smaller piece, {self.choice('fillers')}"
