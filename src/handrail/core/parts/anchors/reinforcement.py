"""Bars that take an anchor group's tension or shear in place of the concrete that would break out (ACI 318-19 17.5.2.1)."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue.bars import Bars
from handrail.core.codes.aci318 import bars as strength_of
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least
from handrail.core.parts.anchors.tension import Tensions
from handrail.core.trace import Trace


@dataclass(frozen=True)
class Reinforcement:
    """`bars` of yield `fy` MPa in concrete of `fc` MPa, `length` mm developed on the shorter side of the breakout surface, their ends
    `hooked` or straight."""

    bars: Bars
    fy: float
    fc: float
    length: float
    hooked: bool

    @property
    def needed(self) -> float:
        """The length that develops them, mm."""
        of = strength_of.hooked if self.hooked else strength_of.straight
        return of(self.bars, self.fy, self.fc)

    def tension(self, under: Under, tensions: Tensions) -> LimitState:
        """All rods that pull, on the bars."""
        lines = under.trace()
        held = strength_of.strength(self.bars, self.fy, lines)

        def pulled(actions: Actions, t: Trace) -> tuple[np.ndarray, float]:
            return t("Nua", "all rods that pull", tensions(actions, t).sum(axis=-1), kind="force"), held

        return under.state("anchor_bars_tension", "17.5.2.1", "force", pulled, lines)

    def shear(self, under: Under) -> LimitState:
        """All of the shear on the bars, whichever edge it goes to."""
        lines = under.trace()
        held = strength_of.strength(self.bars, self.fy, lines)
        return under.state("anchor_bars_shear", "17.5.2.1", "force", lambda a, t: (t("Vua", "sqrt(V^2 + Vw^2)", a.both_shears), held), lines)

    def rules(self, name: str) -> Iterator[DetailingRule]:
        """They are developed."""
        yield at_least(name, "anchors", self.length, self.needed, "ACI 318-19 25.4")
