"""The single plate that is lapped on the beam's web and welded there in place of bolted."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under
from handrail.core.parts.beam_end import BeamEnd
from handrail.core.parts.leg_welds import WebWeld
from handrail.core.parts.plate import BoltedPlate
from handrail.core.parts.web_fastening import WeldedWeb
from handrail.core.parts.weld_group import solve
from handrail.core.quantities.lines import Trace
from handrail.core.standards.single_plate.layout import Layout


@dataclass(frozen=True)
class Welded(Layout):
    """V comes at the welds' middle, bends the plate from there to the support, and the welds from the support to
    there."""

    @property
    def reach(self) -> float:
        """No bolt is farther away than another."""
        return 0.0

    @property
    def a(self) -> float:
        """Support to the middle of the welds: the lever of V on the plate."""
        return self.beam_weld.e

    @property
    def around(self) -> float:
        """Leg of the fillets around the plate on the web."""
        return self.of("beam_weld")

    @property
    def width(self) -> float:
        """The plate's size from its weld to its free edge."""
        return self.of("gap") + self.of("lap")

    @cached_property
    def beam_weld(self) -> WebWeld:
        """The plate on the web."""
        beam = self.situation.supported
        return WebWeld(
            size=self.of("beam_weld"),
            length=self.of("plate_depth"),
            reach=self.width,
            gap=self.of("gap"),
            sides=1,
            t=self.of("plate_thickness"),
            tw=beam.section.tw,
            web=beam.grade,
            electrode=self.electrode,
            method=self.choice("bolt_method"),
        )

    @cached_property
    def plate(self) -> BoltedPlate:
        """The plate itself, with no holes."""
        return BoltedPlate(
            t=self.of("plate_thickness"),
            grade=self.grade,
            depth=self.of("plate_depth"),
            end=0.0,
            edge=0.0,
            grid=None,
            hole=None,
            a=self.a,
            reach=0.0,
            bent=True,
        )

    @property
    def lever(self) -> float:
        """Always: this plate turns by bending."""
        return self.a

    @cached_property
    def beam_end(self) -> BeamEnd:
        """The beam's web."""
        lapped = WeldedWeb(self.plate_top, self.of("plate_depth"), self.of("lap"))
        return self.end_of_beam(lapped, self.of("gap"), self.of("plate_depth"))

    def on_web(self, code: Code, tracing: bool) -> Iterator[LimitState]:
        """Of the welds and the plate."""
        weld, plate = Under(code, "weld", tracing), Under(code, "plate", tracing)
        yield from self.beam_weld.states(weld, code)
        yield from self.plate.states(plate, code)
        yield plate.given(
            "plate_ductility", "length", self.of("plate_thickness"), lambda t: self._most_thickness(code, t)
        )
        yield from self.part10.held(plate, code, self.choice("lateral_restraint") == "slab", self.stabilised)

    def _most_thickness(self, code: Code, t: Trace) -> float:
        """The plate yields in bending before the welds tear under a moment alone."""
        worth = t(
            "L m",
            "length of fillet times lever, moment only",
            float(solve(self.beam_weld.group, np.array([[0.0, 0.0, 1.0]])).factor[0]),
            code.clause("eccentric_welds"),
            kind="area",
        )
        Mmax = t(
            "Mmax",
            "0.60 FEXX 0.707 w L m",
            worth * code.welds.nominal(self.electrode, self.of("beam_weld")),
            code.clause("weld"),
            w=self.of("beam_weld"),
        )
        Fy, depth = self.grade.Fy, self.of("plate_depth")
        return t("tmax", "6 Mmax / (Fy l^2)", 6 * Mmax / (Fy * depth**2), code.clause("plate_moment"), Fy=Fy, l=depth)

    def web_rules(self, code: Code) -> Iterator[DetailingRule]:
        """Of the welds on the web."""
        yield from self.beam_weld.rules(code)


def laid_out(layout: Layout) -> Layout:
    """The layout, as it is held to the beam."""
    return Welded(layout.situation, layout.sizes) if layout.choice("beam_side") == "welded" else layout
