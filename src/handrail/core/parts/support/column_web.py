"""A plate along a column's web, between its flanges."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import ClassVar

import numpy as np

from handrail.core.actions import Actions
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least
from handrail.core.parts.support.landing import Support
from handrail.core.quantities.lines import NULL, Trace


@dataclass(frozen=True)
class SharedWeb(Support):
    """A web with a plate on it, and perhaps another on its other side."""

    shared: ClassVar[bool] = True

    @property
    def thickness(self) -> float:
        """The web, mm."""
        return self.landing.steel.section.tw

    def out_of_plane(self, actions: Actions, t: Trace) -> np.ndarray:
        """What pushes the web out of plane: a pull on one side and a thrust on the other add up, N; of pulls, or
        thrusts, from both what passes straight on does not."""
        if not self.landing.opposed:
            return self.axial(actions, t)
        on = self.forces(actions)
        both = np.abs(on.normal - actions.opposite().normal)
        if self.landing.passing is None:
            return t("Nr", "max(|N|, |N - N opposed|)", np.maximum(on.axial, both), N=actions.N)
        common = self.common(actions, t)
        added = np.where(common == 0, both, 0.0)
        return t("Nr", "|N| less what passes, or |N - N opposed|", np.maximum(on.axial - common, added), N=actions.N)

    def _across(self, under: Under, code: Code) -> Iterator[LimitState]:
        """The web bent out of plane, by yield lines (J10.10)."""
        yield under.fixed("support_web_bending", "force", lambda t: self._bending(code, t), self.out_of_plane)

    def _bending(self, code: Code, trace: Trace = NULL) -> float:
        raise NotImplementedError


@dataclass(frozen=True)
class ColumnWeb(SharedWeb):
    """The plate runs along the column."""

    def _bending(self, code: Code, trace: Trace = NULL) -> float:
        s, fixed = self.landing.steel.section, self.landing
        return code.supports.web_bending_along(fixed.steel.grade.Fy, s.tw, s.T, fixed.depth, fixed.at_end, trace)

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """The plate and its fillets stand between the column's fillets."""
        yield at_least("plate_on_web", "support", self.landing.steel.section.T, self.landing.footprint)
