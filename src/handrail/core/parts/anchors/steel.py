"""The rods as threaded parts of the steel (AISC 360-22 J9, Table J3.2), beside the concrete code's own steel
strength."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Rod
from handrail.core.codes.family import Code
from handrail.core.limit_state import LimitState, Under
from handrail.core.quantities.lines import Trace

TENSION, SHEAR, WITH_SHEAR = 0.75, 0.450, 1.3  # of Fu (Table J3.2, threads in the shear plane); of F'nt (J3.8)


@dataclass(frozen=True)
class RodSteel:
    """`pulls` gives (..., rods) N, `shears` the largest shear of a rod (...), N, None where the rods take none."""

    rod: Rod
    pulls: Callable[[Actions], np.ndarray]
    shears: Callable[[Actions], np.ndarray] | None

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """Tension, with the shear that there is (J3.8), and shear alone, on the gross area."""
        area, factor = math.pi / 4 * self.rod.d**2, code.factor("bolt")
        Fnt, Fnv = TENSION * self.rod.futa, SHEAR * self.rod.futa

        def pulled(actions: Actions, t: Trace) -> tuple[Any, Any]:
            used = self.shears(actions) / area if self.shears else 0.0 * actions.V
            stress = np.clip(WITH_SHEAR * Fnt - Fnt / (factor * Fnv) * used, 0.0, Fnt)
            stress = t(
                "F'nt",
                "1.3 Fnt - Fnt frv/(available Fnv) <= Fnt",
                stress,
                code.clause("bolt_tension_with_shear"),
                kind="stress",
                Fnt=Fnt,
                Fnv=Fnv,
            )
            held = t(
                "held", "available F'nt Ab", factor * area * stress, code.clause("rod_tension"), kind="force", Ab=area
            )
            return t("T", "the largest of a rod", self.pulls(actions).max(axis=-1), kind="force"), held

        yield under.state("rod_tension", "force", pulled)
        if self.shears:
            shears = self.shears
            lines = under.trace()
            held = code.available(
                lines("Rn", "0.450 Fu Ab", Fnv * area, code.clause("rod_strength"), Fu=self.rod.futa, Ab=area),
                "bolt",
                lines,
            )
            yield under.state(
                "rod_shear",
                "force",
                lambda a, t: (t("V", "the largest of a rod", shears(a), kind="force"), held),
                lines,
            )
