"""What the Manual's Part 10 asks of a single plate: conventional or extended, the lever, ductility, torsion,
stabilisers."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Bolt, Grade, HoleSize
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, shear
from handrail.core.parts.bolt_group import DELTA_MAX, Grid
from handrail.core.quantities.lines import Trace
from handrail.core.quantities.units import INCH, KSI
from handrail.core.quantities.words import held

CONVENTIONAL_A = 3.5 * INCH
SIXTEENTH = INCH / 16


@dataclass(frozen=True, kw_only=True)
class Part10:
    """The plate (`t` thick, `depth` along V) and the web (`tw`); `edge` the lesser horizontal edge distance of the two,
    `a` from weld to bolt line and `reach` to the farthest bolt of the line, mm; `asked` auto, conventional or
    extended."""

    bolt: Bolt
    grid: Grid
    holes: tuple[HoleSize, HoleSize]
    t: float
    tw: float
    grade: Grade
    depth: float
    edge: float
    a: float
    reach: float
    asked: str

    @property
    def _slotted(self) -> bool:
        return any(h.type == "SSLT" for h in self.holes)

    @property
    def _thickness_limit(self) -> float:
        """Largest of the lesser of plate and web in the conventional configuration, mm (Table 10-9)."""
        if self.grid.rows <= 5:
            return math.inf if self._slotted else self.bolt.d / 2 + SIXTEENTH
        return self.bolt.d / 2 + (SIXTEENTH if self._slotted else -SIXTEENTH)

    @property
    def problem(self) -> str:
        """Why this is no conventional plate; empty where every limit holds."""
        tests = (
            (self.grid.columns > 1, "more than one line of bolts"),
            (not 2 <= self.grid.rows <= 12, "rows outside 2 to 12"),
            (self.a + self.reach > CONVENTIONAL_A + 1e-6, f"weld to bolt line over {held(CONVENTIONAL_A, 'length')}"),
            (self.edge < 2 * self.bolt.d - 1e-6, "horizontal edge distance under 2 d"),
            (not {h.type for h in self.holes} <= {"STD", "SSLT"}, "holes neither standard nor short slots"),
            (
                min(self.t, self.tw) > self._thickness_limit + 1e-6,
                "plate and web both thicker than the bolts can rotate",
            ),
        )
        return "; ".join(text for failed, text in tests if failed)

    @property
    def conventional(self) -> bool:
        """Whether it is taken as conventional."""
        return self.asked == "conventional" or (self.asked == "auto" and not self.problem)

    @property
    def e(self) -> float:
        """The lever of V on the bolts, mm: a/2 or a (Table 10-9), or support face to centroid when extended."""
        if self.conventional:
            return self.a if self.grid.rows > 5 and not self._slotted else self.a / 2
        return self.a + self.grid.width / 2

    @property
    def ductile_by_thickness(self) -> bool:
        """The exceptions to the thickness limit: thin plies with 2 d to the edges."""
        if self.edge < 2 * self.bolt.d - 1e-6 or self.grid.columns > 2:
            return False
        thick = (min if self.grid.columns == 1 else max)(self.t, self.tw)
        return thick <= self.bolt.d / 2 + SIXTEENTH + 1e-6

    def states(self, under: Under, code: Code, restrained: bool, stabilised: bool) -> Iterator[LimitState]:
        """Of an extended plate: ductility, torsion where nothing holds the beam sideways, the need for stabilisers."""
        if self.conventional:
            return
        if not self.ductile_by_thickness:
            yield under.given("plate_ductility", "length", self.t, lambda t: self._most_thickness(code, t))
        yield from self.held(under, code, restrained, stabilised)

    def held(self, under: Under, code: Code, restrained: bool, stabilised: bool) -> Iterator[LimitState]:
        """Torsion where nothing holds the beam sideways, the need for stabilisers."""
        if not restrained:
            yield self._torsion(under, code)
        if not stabilised:
            yield under.fixed("stabiliser", "force", lambda t: self._unstabilised(code, t), shear)

    def _most_thickness(self, code: Code, t: Trace) -> float:
        d = np.linalg.norm(self.grid.group.coordinates, axis=1)
        R = (1 - np.exp(-10 * DELTA_MAX * d / max(d.max(), 1e-9))) ** 0.55
        C = t("C'", "sum of R d, moment only", float((R * d).sum()), code.clause("eccentric_bolts"), kind="length")
        Mmax = t(
            "Mmax",
            "Fnv/0.90 Ab C'",
            self.bolt.Fnv / 0.90 * self.bolt.area * C,
            code.clause("plate_moment"),
            Fnv=self.bolt.Fnv,
            Ab=self.bolt.area,
        )
        return t(
            "tmax",
            "6 Mmax / (Fy l^2)",
            6 * Mmax / (self.grade.Fy * self.depth**2),
            code.clause("plate_moment"),
            Fy=self.grade.Fy,
            l=self.depth,
        )

    def _torsion(self, under: Under, code: Code) -> LimitState:
        """Lap eccentricity against the plate's torsion; the slab's and the beam's part is left out."""

        def strength(t: Trace) -> float:
            Rn = t(
                "Rn",
                "0.60 Fy l tp",
                0.60 * self.grade.Fy * self.depth * self.t,
                code.clause("plate_moment"),
                Fy=self.grade.Fy,
                l=self.depth,
                tp=self.t,
            )
            return t(
                "Mc", "phi Rn tp/2", code.available(Rn, "shear_yield", t) * self.t / 2, code.clause("plate_moment")
            )

        def demand(actions: Actions, t: Trace) -> np.ndarray:
            return t(
                "Mr",
                "V (tw + tp)/2 + V tp/2",
                actions.shear * (self.tw + 2 * self.t) / 2,
                code.clause("plate_moment"),
                V=actions.V,
                tw=self.tw,
                tp=self.t,
            )

        return under.fixed("plate_torsion", "moment", strength, demand)

    def _unstabilised(self, code: Code, trace: Trace) -> float:
        a = self.a + self.reach
        Rn = trace(
            "Rn",
            "1500 pi l tp^3 / a^2",
            1500 * KSI * math.pi * self.depth * self.t**3 / a**2,
            code.clause("plate_moment"),
            l=self.depth,
            tp=self.t,
            a=a,
        )
        return code.available(Rn, "flexure", trace)

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """A conventional plate's edges."""
        if self.conventional:
            yield at_least("conventional_edge", "plate", self.edge, 2 * self.bolt.d, code.clause("conventional_edge"))
