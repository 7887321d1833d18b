"""A base plate: what presses on it from below, what its rods pull, and how it bends under both (Manual Part 14, Design
Guide 1)."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property, partial
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Grade, Section
from handrail.core.codes.asked import Overhang
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, at_most
from handrail.core.parts.bearing.rod_lines import RodLine, rod_lines
from handrail.core.parts.bearing.seat import Seat
from handrail.core.quantities.lines import Trace

NOT_BOTH = (
    "the block method takes moment about one axis, with rods in two rows across it: use bearing_method strain for"
    " moment about both axes, which a plate off the column's middle has too"
)


@dataclass(frozen=True)
class BasePlate:
    """A plate `t` mm thick of `grade` under a column of `section`, resting as `seat` says."""

    section: Section
    seat: Seat
    t: float
    grade: Grade

    def overhang(self, code: Code) -> Overhang:
        """Past the column's lines."""
        return code.bases.overhang(self.section, self.seat.plate.length, self.seat.plate.width)

    @cached_property
    def lines(self) -> tuple[RodLine, ...]:
        """Where the plate bends for each rod."""
        return tuple(rod_lines(self.seat.plate, self.section, self.seat.column))

    def states(self, under: Under, code: Code, fc: float) -> Iterator[LimitState]:
        """Bearing, and the plate's bending on both sides."""
        yield from self.bearing(under, code, fc)
        strip = under.trace()
        held = code.bases.strip(self.grade.Fy, self.t, strip)
        yield under.state("plate_bending_bearing", "strip", lambda a, t: (self._bent_up(code, a, t), held), strip)
        yield under.state("plate_bending_tension", "strip", lambda a, t: (self._bent_down(code, a, t), held), strip)

    def bearing(self, under: Under, code: Code, fc: float) -> Iterator[LimitState]:
        """The concrete: the whole plate against P, and the largest pressure under P with its moments."""
        plate, area = self.seat.plate, self.seat.plate.length * self.seat.plate.width
        whole = under.trace()
        limit = code.bases.bearing_limit(fc, plate.confinement(), whole, plate.grout)
        Pp = whole("Pp", "Fp A1", limit * area, code.clause("bearing"), kind="force", A1=area)

        def on_all(actions: Actions, t: Trace) -> tuple[Any, Any]:
            return t("Pr", "max(-N, 0)", actions.thrust, N=actions.N), Pp

        yield under.state("bearing", "force", on_all, whole)
        lines = under.trace()
        code.bases.bearing_limit(fc, plate.confinement(), lines, plate.grout)
        yield replace(
            under.state(
                "bearing_pressure", "stress", partial(self._pressure, code), lines, limit=True, unknown=NOT_BOTH
            ),
            says=_too_small,
        )

    def _pressure(self, code: Code, actions: Actions, t: Trace) -> tuple[Any, Any]:
        rest = self.seat.rest(actions)
        self._say(code, actions, t)
        return t("fp", "the largest under the plate", rest.use * self.seat.limit, kind="stress"), self.seat.limit

    def _say(self, code: Code, actions: Actions, t: Trace) -> None:
        """The solution in lines."""
        if not t.on:
            return
        rest = self.seat.rest(actions)
        P, Mx, My = self.seat.loads(actions)
        method = "plane of strain" if rest.by_strain.ravel()[0] else "block of even pressure"
        t("P", f"-N; by {method}", P, kind="force", N=actions.N)
        t("Mx", "pressing the plus side along", Mx, kind="moment")
        t("My", "pressing the plus side across", My, kind="moment")
        if rest.by_strain.ravel()[0]:
            t(
                "Ec",
                "57000 sqrt(fc') psi; of lightweight concrete by its weight",
                self.seat.Ec,
                code.concrete.clause("modulus"),
                kind="stress",
            )
            t("Es/Ec", "rods stretch as long as the concrete yields", self.seat.Es / self.seat.Ec, kind="number")
        else:
            t("Y", "depth of the block", rest.depth, code.clause("plate_bending_bearing"), kind="length")
        t("T", "rods together", rest.tensions.sum(axis=-1), kind="force")

    def _bent_up(self, code: Code, actions: Actions, t: Trace) -> np.ndarray:
        over = self.overhang(code)
        self._say(code, actions, t)
        t("fp", "the largest under the plate", self.seat.rest(actions).pressure, kind="stress")
        along, across = self.seat.reaches(over)
        t("m", "past the column, along", max(along), code.clause("base_plate_cantilevers"), kind="length")
        t("n", "past the column, across", max(across), code.clause("base_plate_cantilevers"), kind="length")
        if over.within:
            words = "yield lines between the walls" if self.section.hollow else "sqrt(d bf)/4"
            t(
                "n'",
                words,
                over.within,
                "" if self.section.hollow else code.clause("base_plate_cantilevers"),
                kind="length",
            )
        bent = self.seat.strips(actions, over, lambda use: code.bases.relief(self.section, use))
        return t("Mr", "the strip that is bent most", bent, code.clause("plate_bending_bearing"), kind="strip")

    def _bent_down(self, code: Code, actions: Actions, t: Trace) -> np.ndarray:
        tensions = self.seat.rest(actions).tensions
        each = np.stack(
            [pulled(tensions[..., k], line.lever, line.width) for k, line in enumerate(self.lines)], axis=-1
        )
        if t.on:
            k = int(np.ravel(each).argmax()) if each.size else 0
            t("T", "of the rod that bends it most", np.ravel(tensions)[k], kind="force")
            t(
                "x",
                "rod to the column's metal",
                self.lines[k].lever,
                code.clause("plate_bending_bearing"),
                kind="length",
            )
            t("be", "width that carries it", self.lines[k].width, code.clause("plate_bending_bearing"), kind="length")
        return t("Mr", "T x / be", each.max(axis=-1), code.clause("plate_bending_bearing"), kind="strip")

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """The plate on the concrete and around the column; its grade is made in this thickness."""
        plate = self.seat.plate
        if self.grade.max_thickness:
            yield at_most("plate_grade_thickness", "plate", self.t, self.grade.max_thickness, self.grade.standard)
        for name, size, edges in (
            ("plate_on_concrete_along", plate.length, plate.along),
            ("plate_on_concrete_across", plate.width, plate.across),
        ):
            if np.isfinite(edges).any():
                yield at_most(name, "plate", size / 2, min(edges))
        (x, y), s = self.seat.column, self.section
        yield at_least("plate_past_column", "plate", plate.length - 2 * abs(x), s.d)
        yield at_least("plate_past_column_across", "plate", plate.width - 2 * abs(y), s.bf if not s.round else s.d)


def _too_small(use: float, action: str, system: str) -> str:
    return (
        f"the plate is too small in {action}: nothing balances its forces on this concrete (bearing_pressure); make the"
        " plate larger, spread the rods, or take bearing_method strain"
    )


def pulled(tension: np.ndarray, lever: float, width: float) -> np.ndarray:
    """Moment of one millimetre of plate about the column's face under a rod's `tension`, N, at `lever` mm, spread over
    `width` mm."""
    return np.asarray(tension) * max(lever, 0.0) / width
