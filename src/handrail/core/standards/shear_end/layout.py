"""What every sized shear end has: its bolt, the beam before its support, the beam's end, the face that it lands on."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import ClassVar

from handrail.core.catalogue import Bolt, Electrode, Grade, bolt, electrode
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState
from handrail.core.parts.approach import Approach
from handrail.core.parts.beam_end import BeamEnd
from handrail.core.parts.bolt_group import Grid
from handrail.core.parts.bolted_plies import BoltedPlies, Ply
from handrail.core.parts.cope import Cope
from handrail.core.parts.support import ColumnFlange, ColumnWeb, GirderWeb, HollowWall, Landing, Support
from handrail.core.parts.web_fastening import BoltedWeb, WeldedWeb
from handrail.core.standards.laid_out import LaidOut
from handrail.core.standards.shear_end.judging import negligible
from handrail.core.standards.shear_end.parameters import KINDS, approach, support_thickness
from handrail.core.standards.standard import Examined
from handrail.core.standards.stated import B39, HELD, SHEAR_END, integrity
from handrail.core.standards.tightened import tightened

SUPPORTS: dict[str, type[Support]] = {"flange": ColumnFlange, "web": ColumnWeb, "girder": GirderWeb, "wall": HollowWall}


@dataclass(frozen=True)
class ShearEnd(LaidOut):
    """A shear connection in its situation; lengths mm. `GAP` names the size that keeps the beam's end off its
    support."""

    GAP: ClassVar[str] = "gap"

    @cached_property
    def bolt(self) -> Bolt:
        """What all of its bolts are, out of the catalogue."""
        return bolt(self.choice("bolt"))

    @cached_property
    def electrode(self) -> Electrode:
        """The welds'."""
        return electrode(self.choice("electrode"))

    @cached_property
    def approach(self) -> Approach:
        """The beam's end before its support."""
        return approach(self.situation, self.sizes, self.GAP)

    @property
    def top_cope(self) -> Cope:
        """Above."""
        return self.approach.top

    @property
    def bottom_cope(self) -> Cope:
        """Below."""
        return self.approach.bottom

    @property
    def support_thickness(self) -> float:
        """What is fastened to: a flange, a web or a wall."""
        return support_thickness(self.situation)

    @property
    def off_middle(self) -> float:
        """How far from the middle of a column's face a beam comes that is skew: its line goes through the column's
        axis."""
        s, kind = self.situation.carrier.section, KINDS[self.situation.framing]
        if s.round or kind == "girder":
            return 0.0
        along = s.bf if self.situation.face == "long" and s.d > s.bf else s.d
        return (s.tw if kind == "web" else along) / 2 * math.tan(abs(self.situation.skew))

    @property
    def negligible_N(self) -> float:
        """A force along slots, or on bolts that take shear only, counts from here on, N."""
        return negligible(self.situation, self.sizes)["N"].amount

    def states(self, code: Code, tracing: bool) -> Iterator[LimitState]:
        """Every limit state, part by part."""
        raise NotImplementedError

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """Every detailing rule that applies."""
        raise NotImplementedError

    def strengths(self, code: Code, tracing: bool) -> list[LimitState]:
        """Every limit state, with those of structural integrity where it is asked for."""
        states = list(self.states(code, tracing))
        if self.choice(HELD.name) == B39:
            states += integrity(list(self.states(code.nominally(), tracing)))
        return states

    def examined(self, code: Code, refusals: Iterable[str], notes: Callable[[], Iterable[str]]) -> Examined:
        """Its detailing rules and remarks, or why it cannot be checked."""
        if reasons := [*refusals, *SHEAR_END.refusals(self.sizes)]:
            return Examined([], reasons, [])
        return Examined(
            [*self.rules(code), *tightened(self.situation, self.sizes, code)],
            [],
            [*notes(), *SHEAR_END.notes(self.situation, self.sizes, code)],
        )

    def between(self, grid: Grid, plies: tuple[Ply, Ply], e: float, planes: int = 1, side: str = "") -> BoltedPlies:
        """Bolts between two plies, judged as the sizes say; `side` begins the names of those sizes where each side has
        its own."""
        return BoltedPlies(
            bolt=bolt(self.choice(f"{side}bolt")),
            grid=grid,
            plies=plies,
            e=e,
            method=self.choice("bolt_method"),
            deformation=self.choice("deformation") == "considered",
            tightening=self.choice(f"{side}tightening"),
            negligible=self.negligible_N,
            planes=planes,
        )

    def end_of_beam(self, fastened: BoltedWeb | WeldedWeb, gap: float, strip: float) -> BeamEnd:
        """The beam's web, held so, `gap` before the support."""
        return BeamEnd(
            steel=self.situation.supported,
            fastened=fastened,
            gap=gap,
            strip=strip,
            top=self.top_cope,
            bottom=self.bottom_cope,
        )

    def on_support(
        self,
        t: float,
        grade: Grade,
        depth: float,
        top: float,
        weld: float = 0.0,
        lever: float = 0.0,
        bolted: bool = False,
        width: float = 0.0,
        lines: float = 2.0,
        through: bool = False,
        beside: float = 0.0,
        passing: tuple[float, float] | None = None,
    ) -> Support:
        """The face with what lands on it: `depth` along V from `top` below the beam's top of steel, its middle `beside`
        the beam's web's; `passing` as a landing has it."""
        s, upright = self.situation, self.approach.upright
        landing = Landing(
            steel=s.carrier,
            t=t,
            grade=grade,
            depth=depth,
            weld=weld,
            top=s.top_offset + top * upright,
            extent=depth * upright,
            lever=lever,
            skew=s.skew,
            slope=s.slope,
            opposed=s.faced,
            at_end=s.support_end,
            face=s.face,
            bolted=bolted,
            width=width,
            lines=lines,
            through=through,
            aside=self.off_middle + beside / math.cos(s.skew),
            passing=passing,
            going_on=self.negligible_N if "transfer" in self.sizes and self.choice("transfer") == "none" else None,
        )
        return SUPPORTS[KINDS[s.framing]](landing)
