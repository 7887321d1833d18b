"""A plate along the wall of a hollow column."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue.steel import E
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least
from handrail.core.parts.support.landing import Support
from handrail.core.quantities.lines import Trace
from handrail.core.remark import Remark

MOST_ROUND = {False: 50.0, True: 40.0}  # D/t with a plate on one side, and with one across (Table K2.1A)
MOST_FLAT = 35.0  # B/t (Manual Part 9)


@dataclass(frozen=True)
class HollowWall(Support):
    """Punching, slenderness and bending of the wall that the plate lands on."""

    @property
    def thickness(self) -> float:
        """The design wall, mm."""
        return self.landing.steel.section.wall

    def _faces(self) -> tuple[float, float]:
        """(narrowest, widest) that the face may be, mm: one number where it is said or the same."""
        s = self.landing.steel.section
        short, long_ = sorted((s.bf, s.d))
        if s.round or not self.landing.face:
            return short, long_
        width = long_ if self.landing.face == "long" else short
        return width, width

    def notes(self) -> Iterator[str]:
        """What is taken where nobody said: the column's own force, the face."""
        if self.landing.through:
            yield "the plate passes through the column, slotted on both sides, and is welded to both walls"
        yield (
            "a force across the wall is judged with the column's own force where it is given (N_support), else as if it"
            " had none (Qf = 1)"
        )
        narrow, wide = self._faces()
        if narrow != wide:
            yield Remark("which face of the hollow column is not said: strength by the long one, fit by the short one")

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """The plate and its fillets stand on the flat of the face, or on the near half of a round one."""
        s = self.landing.steel.section
        flat = s.d / 2 if s.round else self._faces()[0] - 3 * s.wall
        yield at_least("plate_on_wall", "support", flat, self.landing.room)

    def _across(self, under: Under, code: Code) -> Iterator[LimitState]:
        s, grade, fixed = self.landing.steel.section, self.landing.steel.grade, self.landing

        def punching(t: Trace) -> float:
            return t(
                "tp max",
                "Fu t / Fyp",
                grade.Fu * s.wall / fixed.grade.Fy,
                code.clause("wall_slenderness"),
                kind="length",
                Fu=grade.Fu,
                t=s.wall,
                Fyp=fixed.grade.Fy,
            )

        def slender(t: Trace) -> float:
            if s.round:
                return t(
                    "lambda max",
                    "0.11 E/Fy",
                    0.11 * E / grade.Fy,
                    code.clause("wall_slenderness"),
                    kind="number",
                    Fy=grade.Fy,
                )
            return t(
                "lambda max",
                "1.40 sqrt(E/Fy)",
                1.40 * math.sqrt(E / grade.Fy),
                code.clause("wall_slenderness"),
                kind="number",
                Fy=grade.Fy,
            )

        wide = s.d if s.round else self._faces()[1] - 3 * s.wall
        if fixed.bends_wall:
            yield under.given("wall_punching", "length", fixed.t, punching)
            yield under.given("wall_slenderness", "number", wide / s.wall, slender)
        yield under.state(
            "wall_plastification",
            "force",
            lambda actions, t: self._plastification(actions, code, t),
            unknown=self._beyond(code) or "the column's own force is not known",
            of="round_wall_plastification" if s.round else "",
        )

    def _beyond(self, code: Code) -> str:
        """Why a force across this wall is not judged; empty where it is."""
        s = self.landing.steel.section
        slender = self._faces()[1] / s.wall
        most = MOST_ROUND[self.landing.opposed] if s.round else MOST_FLAT
        words = (
            f"{'D' if s.round else 'B'}/t of {slender:.1f} is over {most:g}"
            f" ({code.clause('round_wall_limits' if s.round else 'wall_plastification')})"
        )
        return words if slender > most else ""

    def _plastification(self, actions: Actions, code: Code, t: Trace) -> tuple[Any, Any]:
        """The force across the wall by K2 or the Manual's yield lines, under the column's own axial force where it is
        known (Qf; 1 where nobody gave it); NaN outside their limits."""
        s, grade, fixed = self.landing.steel.section, self.landing.steel.grade, self.landing
        on = self.forces(actions)
        level = np.hypot(on.normal, on.across) if fixed.skew else on.axial  # a skew turns none of it away from a wall
        demand = t("Nr", "force across the wall", level, N=actions.N)
        column = actions.of_role("support")
        own = np.where(demand > 0, column.N, 0.0) if column else 0.0
        U = code.supports.hollow_stress_ratio(grade.Fy, s.A, own, t)
        if s.round:
            strength = code.supports.round_wall_plastification(grade.Fy, s.wall, s.d, fixed.depth, U, t)
        else:
            strength = code.supports.hollow_wall_plastification(
                grade.Fy, s.wall, self._faces()[1], fixed.t, fixed.depth, U, t
            )
        if fixed.through and not s.round:  # the tables have none through a round one
            strength = t("phi Rn", "twice it: both walls", 2 * strength, "through-plate", kind="force")
        if fixed.at_end:
            strength = t(
                "phi Rn",
                "half of it near the column's end",
                strength / 2,
                code.clause("round_wall_end" if s.round else "wall_plastification"),
                kind="force",
            )
        return demand, np.where(demand > 0, np.nan, strength) if self._beyond(code) else strength
