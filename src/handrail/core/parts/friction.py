"""Shear that the pressure under a base takes by friction, in the same combination."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.codes.aci318 import Code
from handrail.core.codes.aci318.lugs import FRICTION
from handrail.core.limit_state import LimitState, Under
from handrail.core.trace import Trace
from handrail.core.units import KSI

MOST_SHARE, MOST_STRESS = 0.2, 0.8 * KSI  # of fc', and 800 psi, over the plate (22.9.4.4)


@dataclass(frozen=True)
class Friction:
    """A plate of `area` mm^2 on concrete of `fc` MPa with the coefficient `mu`; none in a combination with an earthquake where the base
    is `seismic`, or with any earthquake."""

    mu: float
    area: float
    fc: float

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """Friction against both shears together."""
        yield under.state("friction", "22.9.4", "force", self._slides)

    def _slides(self, actions: Actions, t: Trace) -> tuple[Any, Any]:
        most = min(MOST_SHARE * self.fc, MOST_STRESS) * self.area
        held = FRICTION * np.minimum(self.mu * actions.thrust, most)
        t("P", "least compression: of the same combination", actions.thrust, kind="force", N=actions.N)
        t("most", "min(0.2 fc', 800 psi) A1", most, "22.9.4.4", kind="force", Fc=self.fc, A1=self.area)
        held = t("phi Vn", "0.75 mu P, none with an earthquake", np.where(actions.shaken, 0.0, held), "22.9.4.2", kind="force", mu=self.mu)
        return t("Vr", "sqrt(V^2 + Vw^2)", actions.both_shears, V=actions.V), held
