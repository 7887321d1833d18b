"""Plates on one or both sides of a web, bolted to one of the two pieces: the bolts, the plate, the web. Moment is
nothing at the splice's middle; each piece's bolts take V with its lever from there."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Bolt, Grade, HoleSize, Steel
from handrail.core.codes.asked import Filler
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, at_most, under_part
from handrail.core.parts.beam_end import BeamEnd
from handrail.core.parts.bolt_group import Grid
from handrail.core.parts.bolted_plies import FAR, BoltedPlies, Ply
from handrail.core.parts.cope import Cope
from handrail.core.parts.plate import BoltedPlate
from handrail.core.parts.web_fastening import UNDERRUN, BoltedWeb
from handrail.core.quantities.lines import Trace

FREE = 1.2  # K of a plate whose ends may shift


@dataclass(frozen=True, kw_only=True)
class WebSide:
    """One piece of `steel`. `plates` of `t` mm and `depth` along V stand on its web; `half_gap` from the splice's
    middle to the piece's end, `beam_edge` from there to the first line of bolts, `edge` from the last line to the
    plate's end, `end` from the outer rows to its edges along V, mm. `share` is the part of N that the web takes;
    `filler` what the bolts go through besides."""

    steel: Steel
    bolt: Bolt
    grid: Grid
    holes: tuple[HoleSize, HoleSize]  # plate, web
    plates: int
    t: float
    grade: Grade
    depth: float
    half_gap: float
    beam_edge: float
    edge: float
    end: float
    method: str
    deformation: bool
    tightening: str
    negligible: float
    share: float
    filler: Filler

    @property
    def a(self) -> float:
        """From the splice's middle to the first line of bolts."""
        return self.half_gap + self.beam_edge

    @property
    def e(self) -> float:
        """From the splice's middle to the bolts' centroid: the lever of V on them."""
        return self.a + self.grid.width / 2

    @cached_property
    def web(self) -> BeamEnd:
        """The piece's own web."""
        top = self.steel.section.d / 2 - self.grid.depth / 2
        return BeamEnd(
            steel=self.steel,
            fastened=BoltedWeb(self.grid, self.holes[1], top, self.beam_edge),
            gap=self.half_gap,
            strip=self.depth,
            top=Cope(0, 0),
            bottom=Cope(0, 0),
        )

    @cached_property
    def bolts(self) -> BoltedPlies:
        """Between the plates together and the web."""
        half_depth, half_width = self.grid.depth / 2, self.grid.width / 2
        plate = Ply(
            name="plate",
            t=self.plates * self.t,
            Fu=self.grade.Fu,
            hole=self.holes[0],
            toward_support=FAR,
            away=half_width + self.edge,
            up=half_depth + self.end,
            down=half_depth + self.end,
            sense=-1.0,
        )
        web = Ply(
            name="web",
            t=self.steel.section.tw,
            Fu=self.steel.grade.Fu,
            hole=self.holes[1],
            toward_support=half_width + self.beam_edge - UNDERRUN,
            away=FAR,
            up=FAR,
            down=FAR,
            sense=1.0,
        )
        return BoltedPlies(
            bolt=self.bolt,
            grid=self.grid,
            plies=(plate, web),
            e=self.e,
            method=self.method,
            deformation=self.deformation,
            tightening=self.tightening,
            negligible=self.negligible,
            planes=self.plates,
            filler=self.filler,
        )

    @cached_property
    def plate(self) -> BoltedPlate:
        """One of the plates on the web, with the bolts of one side."""
        return BoltedPlate(
            t=self.t,
            grade=self.grade,
            depth=self.depth,
            end=self.end,
            edge=self.edge,
            grid=self.grid,
            hole=self.holes[0],
            a=self.a,
            reach=0.0,
            bent=True,
        )

    @cached_property
    def _on_web(self) -> Callable[[Actions], Actions]:
        return _shared(1.0, self.share)

    @cached_property
    def _on_plate(self) -> Callable[[Actions], Actions]:
        return _shared(1.0 / self.plates, self.share / self.plates)

    def states(self, code: Code, tracing: bool, with_plate: bool = True) -> Iterator[LimitState]:
        """Bolts, plate (the same for both pieces) and web, each under its part of the actions."""
        for state in self.bolts.states(Under(code, "bolts", tracing), code):
            yield under_part(state, self._on_web)
        if with_plate:
            plate = Under(code, "plate", tracing)
            for state in self.plate.states(plate, code):
                yield under_part(state, self._on_plate)
            if self.plates == 1:
                yield under_part(self._off_the_web(plate, code), self._on_plate)
        for state in self.web.states(Under(code, "web", tracing), code):
            yield under_part(state, self._on_web)

    def _off_the_web(self, under: Under, code: Code) -> LimitState:
        """One plate beside the web that is pressed is bent by N at half of both thicknesses, over its free length
        (J4.4, H1.1)."""
        lines = under.trace()
        e = (self.t + self.steel.section.tw) / 2
        Pc = code.plates.compression(
            self.grade.Fy, self.depth * self.t, FREE * 2 * self.a, self.t / math.sqrt(12), lines
        )
        Mc = code.plates.flexure_yield(self.grade.Fy, self.depth * self.t**2 / 4, lines)

        def evaluate(actions: Actions, t: Trace) -> tuple[Any, Any]:
            P = t("Pr", "max(-N, 0)", actions.thrust, N=actions.N)
            bent = t("Mr", "Pr e", P * e, kind="moment", e=e)
            share = P / Pc
            both = np.where(share >= 0.2, share + 8 / 9 * bent / Mc, share / 2 + bent / Mc)
            return t(
                "u", "P/Pc + 8/9 M/Mc, or P/(2 Pc) + M/Mc", both, code.clause("axial_with_bending"), kind="number"
            ), 1.0

        return under.state("plate_off_the_web", "number", evaluate, lines)

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """Bolts, edges, and the plate between the fillets, over half of that depth."""
        plate, web = self.bolts.plies
        yield from self.bolts.rules(code)
        edges = {"end_distance": (self.end, "along"), "edge_distance": (self.edge, "across")}
        yield from self.bolts.edge_rules(code, replace(plate, name="plate"), edges, self.t)
        yield from self.bolts.edge_rules(code, web, {"beam_edge_distance": (self.beam_edge, "across")}, web.t)
        yield from self.plate.rules(code)
        T = self.steel.section.T
        yield at_most("plate_between_fillets", "plate", self.depth, T)
        yield at_least(
            "plate_half_depth", "plate", self.depth, self.steel.section.most_T / 2, code.clause("plate_half_depth")
        )


def _shared(of_V: float, of_N: float) -> Callable[[Actions], Actions]:
    def change(actions: Actions) -> Actions:
        return replace(actions, V=of_V * actions.V, N=of_N * actions.N)

    return change
