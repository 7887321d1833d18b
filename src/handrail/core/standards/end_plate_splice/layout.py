"""The sized end-plate splice as its parts: both plates with their bolts, each column's weld, contact."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property

from handrail.core.catalogue import Steel, bolt, electrode, grade, hole
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least
from handrail.core.parts.bearing.footprint import Footprint
from handrail.core.parts.column_weld import ColumnWeld
from handrail.core.parts.splice.column import Contact
from handrail.core.parts.splice.end_plates import EndPlates
from handrail.core.standards.column_splice.layout import ABOVE, FAR_SIDE
from handrail.core.standards.end_plate_splice.parameters import placed
from handrail.core.standards.erection import SPLICE, erection
from handrail.core.standards.laid_out import LaidOut
from handrail.core.standards.tightened import tightened


@dataclass(frozen=True)
class Layout(LaidOut):
    """A splice of `supported`, the upper hollow column, on `support`, the lower; lengths mm."""

    @property
    def milled(self) -> bool:
        """Whether the columns' ends bear on their plates."""
        return self.choice("ends") == "milled"

    @cached_property
    def plates(self) -> EndPlates:
        """Both, with the bolts; the smaller column's wall is the farther one."""
        own = bolt(self.choice("bolt"))
        small = min((p.section for p in self.pieces), key=lambda s: (s.d + s.bf, s.wall))
        print_ = Footprint(
            length=self.of("plate_length"), width=self.of("plate_width"), points=placed(self.sizes).points
        )
        return EndPlates(
            section=small,
            plate=print_,
            t=self.of("plate_thickness"),
            grade=grade(self.choice("plate_grade")).at(self.of("plate_thickness")),
            bolt=own,
            hole=hole(self.choice("hole"), own.d),
            deformation=self.choice("deformation") == "considered",
            wall_Fy=min(p.grade.Fy for p in self.pieces),
            snug=self.choice("tightening") == "snug",
        )

    def weld(self, steel: Steel) -> ColumnWeld:
        """Around one column."""
        return ColumnWeld(steel, self.of("weld_size"), "outside", electrode(self.choice("electrode")), self.milled)

    def states(self, code: Code, tracing: bool) -> Iterator[LimitState]:
        """Every limit state; the lower column's weld, where it is not alike, named `_far`; then under 300 lb while it
        stands alone."""
        states = list(self.plates.states(Under(code, "bolts", tracing), code))
        upper, lower = self.pieces
        if self.milled:
            steel = min(self.pieces, key=lambda p: p.section.A * p.grade.Fy)
            states += Contact(self.plates.faces, steel.grade.Fy, False).states(Under(code, "contact", tracing), code)
        states += self._welded(upper, code, tracing)
        if upper != lower:
            states += [replace(s, check=s.check + FAR_SIDE) for s in self._welded(lower, code, tracing)]
        yield from states
        yield erection(states, upper.section, code, "column", SPLICE)

    def _welded(self, steel: Steel, code: Code, tracing: bool) -> Iterator[LimitState]:
        """One column's weld: all of it, and what each bolt pulls beside it, on the walls that have bolts alone."""
        under, weld = Under(code, "weld", tracing), self.weld(steel)
        yield from weld.states(under, code)
        yield weld.at_rods(under, code, self.plates.pulls, self.plates.lines)

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """Every detailing rule."""
        yield from tightened(self.situation, self.sizes, code)
        largest = max((p.section for p in self.pieces), key=lambda s: s.d + s.bf)
        yield from self.plates.rules(code, self.of("weld_size"), largest)
        for name, size, wide in (
            ("plate_past_column", "plate_length", largest.d),
            ("plate_past_column_across", "plate_width", largest.d if largest.round else largest.bf),
        ):
            yield at_least(name, "plate", self.of(size), wide + 2 * self.of("weld_size"))
        upper, lower = self.pieces
        yield from self.weld(upper).rules(code, self.of("plate_thickness"))
        if upper != lower:
            yield from (
                replace(r, rule=r.rule + FAR_SIDE) for r in self.weld(lower).rules(code, self.of("plate_thickness"))
            )
        if self.situation.above_floor is not None:
            yield at_least(
                "splice_above_floor", "column", self.situation.above_floor, ABOVE, code.clause("splice_above_floor")
            )

    def notes(self) -> Iterator[str]:
        """What a person should know."""
        yield (
            "plates press on each other under the columns' walls and bolts pull, in balance with N, M and Mw by an"
            " elastic plane of strain, with prying of the plate"
            f" ({self.situation.code.clause('prying')}); all take shear alike"
        )
        yield "bolts named from the minus side along the column's depth: " + ", ".join(placed(self.sizes).names)
