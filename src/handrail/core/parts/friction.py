"""Shear and torsion that the pressure under a base takes by friction, in the same combination."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.codes.concrete import ConcreteCode
from handrail.core.limit_state import LimitState, Under
from handrail.core.parts.bearing import Seat
from handrail.core.quantities.lines import Trace


@dataclass(frozen=True)
class Friction:
    """A plate that rests as `seat` says on concrete of `fc` MPa with the coefficient `mu`; none in a combination with
    an earthquake."""

    mu: float
    seat: Seat
    fc: float
    code: ConcreteCode

    def states(self, under: Under) -> Iterator[LimitState]:
        """Friction against both shears together, and what turns the plate about the middle of its pressure."""
        yield under.state("friction", "force", self._slides)

    def _slides(self, actions: Actions, t: Trace) -> tuple[Any, Any]:
        area = self.seat.plate.length * self.seat.plate.width
        t("P", "least compression: of the same combination", actions.thrust, kind="force", N=actions.N)
        held = self.code.lugs.slides(self.mu, actions.thrust, area, self.fc, actions.shaken, t)
        centre, arm = self.seat.grip(actions)
        turned = np.abs(actions.T) + np.abs(actions.V * centre[..., 1] - actions.Vw * centre[..., 0])
        turned = t("T", "|T| + the shears about the middle of the pressure", turned, kind="moment", torsion=actions.T)
        with np.errstate(divide="ignore", invalid="ignore"):
            round_ = np.where(turned == 0, 0.0, np.where(arm > 0, turned / arm, np.inf))
        round_ = t(
            "T/r", "as friction holds it, in proportion to the distance from that middle", round_, kind="force", r=arm
        )
        return t("Vr", "sqrt(V^2 + Vw^2) + T/r", actions.both_shears + round_, V=actions.V), held
