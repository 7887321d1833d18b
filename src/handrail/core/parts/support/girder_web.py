"""A plate across a girder's web, from top to bottom."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, at_least, at_most
from handrail.core.parts.cope import clear_of
from handrail.core.parts.support.column_web import SharedWeb
from handrail.core.quantities.lines import NULL, Trace
from handrail.core.remark import Remark


@dataclass(frozen=True)
class GirderWeb(SharedWeb):
    """The web of a rolled shape, or a channel on its toe side or its back."""

    @property
    def room(self) -> tuple[float, float]:
        """From where to where below the girder's top a plate may stand, mm."""
        s = self.landing.steel.section
        reach = clear_of(s, self.landing.face)
        return reach, s.d - reach

    def _bending(self, code: Code, trace: Trace = NULL) -> float:
        s, fixed = self.landing.steel.section, self.landing
        above = fixed.top - s.k_detail
        below = s.T - above - fixed.depth
        return code.supports.web_bending_across(fixed.steel.grade.Fy, s.tw, s.T, above, below, fixed.at_end, trace)

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """The plate stands between the girder's fillets."""
        top, bottom = self.room
        yield at_least("plate_in_girder_top", "plate", self.landing.top, top)
        yield at_most("plate_in_girder_bottom", "plate", self.landing.top + self.landing.extent, bottom)

    def notes(self) -> Iterator[str]:
        """Which side of a channel was taken where nobody said."""
        if self.landing.steel.section.channel and not self.landing.face:
            yield Remark("which side of the channel is not said: its toe side is taken, with flanges to clear")
