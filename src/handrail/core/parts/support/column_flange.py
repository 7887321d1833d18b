"""A plate on a column's flange, over its web."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least
from handrail.core.parts.support.landing import Support
from handrail.core.quantities.lines import Trace
from handrail.core.quantities.units import INCH


@dataclass(frozen=True)
class ColumnFlange(Support):
    """The column's web behind the flange takes what comes across."""

    @property
    def thickness(self) -> float:
        """The flange, mm."""
        return self.landing.steel.section.tf

    def _across(self, under: Under, code: Code) -> Iterator[LimitState]:
        """Web local yielding, crippling, and buckling between thrusts on both flanges (J10.2, J10.3, J10.5)."""
        s, Fy, fixed = self.landing.steel.section, self.landing.steel.grade.Fy, self.landing
        yield under.fixed(
            "support_web_yield",
            "force",
            lambda t: code.supports.web_local_yield(Fy, s.tw, s.k, fixed.depth, fixed.at_end, t),
            self.axial,
        )
        yield under.fixed(
            "support_web_crippling",
            "force",
            lambda t: code.supports.web_crippling(Fy, s.d, s.tw, s.tf, fixed.depth, fixed.at_end, t),
            self.thrust,
        )
        if fixed.opposed:
            yield under.fixed(
                "support_web_buckling",
                "force",
                lambda t: code.supports.web_compression_buckling(Fy, s.tw, s.d - 2 * s.k, fixed.at_end, t),
                self._pressed,
                unknown="the force of the beam opposite is not known",
            )

    def _pressed(self, actions: Actions, t: Trace) -> Any:
        """The larger thrust where both sides press; nothing where one pulls."""
        own, other = self.forces(actions).thrust, actions.opposite().thrust
        return t(
            "Nr",
            "thrusts on both flanges",
            np.where((own == 0) | (other == 0), 0.0 * (own + other), np.maximum(own, other)),
        )

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """The plate and its fillets stand on the flange; what is bolted there has its edge distances."""
        if self.landing.bolted:
            return
        yield at_least("plate_on_flange", "support", self.landing.steel.section.bf, self.landing.room + INCH / 2)
