"""Plate washers welded to a base plate, which hand the shear from the plate to the rods."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Electrode, Grade, Rod
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_most
from handrail.core.quantities.lines import Trace
from handrail.core.quantities.units import INCH

FIT = INCH / 16  # of a washer's hole over its rod


@dataclass(frozen=True, kw_only=True)
class Washers:
    """Square ones of `side` and `t` mm over the rods, with fillets of `weld` mm around; `largest` gives the shear of
    the rod that takes most, N."""

    rod: Rod
    largest: Callable[[Actions], np.ndarray]
    side: float
    t: float
    weld: float
    grade: Grade
    electrode: Electrode

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """The rod on its washer, and the washer's weld."""
        lines = under.trace()
        clear = (self.side - self.rod.d - FIT) / 2
        held = min(
            code.bolts.bearing(self.rod.d, self.t, self.grade.Fu, trace=lines),
            float(code.bolts.tearout(np.array(clear), self.t, self.grade.Fu, trace=lines)),
        )
        yield under.state("washer_bearing", "force", lambda a, t: (self._each(a, t), held), lines)
        line = under.trace()
        each = code.welds.fillet(self.electrode, self.weld, line)

        def welded(actions: Actions, t: Trace) -> tuple[Any, Any]:
            return t("f", "V / 4 sides", self._each(actions, t) / (4 * self.side), kind="per_length"), each

        yield under.state("washer_weld", "per_length", welded, line)

    def _each(self, actions: Actions, t: Trace) -> np.ndarray:
        return t("V", "the largest of a rod", self.largest(actions), kind="force")

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """The fillet fits on the washer's edge."""
        most = self.t if self.t < INCH / 4 - 1e-6 else self.t - INCH / 16
        yield at_most("washer_weld_size", "washers", self.weld, most, code.clause("washer_weld_size"))
