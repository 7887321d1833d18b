"""A fillet along each side of a plate's edge."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Electrode, Grade
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, together
from handrail.core.quantities.lines import Trace


@dataclass(frozen=True, kw_only=True)
class FilletPair:
    """Legs of `size` on both sides of a plate `t` thick over `length`, on a support `support_t` thick, mm; the plate
    stands at `skew` and the force comes at `slope`, rad."""

    size: float
    length: float
    electrode: Electrode
    t: float
    grade: Grade
    support_t: float
    skew: float = 0.0
    slope: float = 0.0

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """Shear and the force across it (J2.4); a moment is carried where the fillets develop the plate (`rules`)."""
        lines = under.trace()
        acute, obtuse = code.welds.throats(self.size, self.skew)
        throat = lines(
            "throat",
            (
                "w cos(45 - skew/2) + w cos(45 + skew/2), less the root's loss in an angle under 60 deg"
                if self.skew
                else "2 x 0.707 w"
            ),
            acute + obtuse,
            code.clause("throat"),
            w=self.size,
            acute=acute,
            obtuse=obtuse,
        )
        along = code.welds.line_strength(self.electrode, throat, self.length, lines)

        def evaluate(actions: Actions, t: Trace) -> tuple[Any, Any]:
            on = actions.turned(self.skew, self.slope)
            across = np.hypot(on.normal, on.across) if self.skew else on.axial
            sine = across / np.maximum(on.size, 1e-9)
            kds = t(
                "kds",
                "1 + 0.5 sin^1.5(theta)",
                code.welds.directional_increase(sine),
                code.clause("directional_increase"),
                theta=np.arcsin(sine) if t.on else 0.0,
            )
            return t("Pr", "sqrt(N^2 + V^2)", on.size), t(
                "phi Rn", "kds phi Rn", kds * along, code.clause("weld"), kind="force"
            )

        yield under.state("weld", "force", evaluate, lines)

    def base_metal(self, under: Under, code: Code, check: str) -> Iterator[LimitState]:
        """The metal between the fillets, sheared off beside them by V and N together (J4.2)."""
        yield under.fixed(
            check,
            "force",
            lambda t: code.plates.shear_rupture(self.grade.Fu, self.t * self.length, t),
            together,
        )

    def rules(self, code: Code, develops: bool = True) -> Iterator[DetailingRule]:
        """The fillets develop the plate where they carry its moment, and are of the least size and length."""
        if develops:
            need = code.welds.develops_plate(self.t, self.grade.Fy, self.electrode, self.skew)
            yield at_least("weld_develops_plate", "weld", self.size, need, code.clause("weld_develops_plate"))
        yield at_least(
            "weld_size", "weld", self.size, code.welds.min_size(min(self.t, self.support_t)), code.clause("weld_size")
        )
        yield at_least("weld_length", "weld", self.length, 4 * self.size, code.clause("weld_length"))
