"""A plate fixed along one edge and bolted near the other: yielding, rupture, blocks, buckling, bending."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Grade, HoleSize
from handrail.core.codes.aisc360 import Code, plates
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_most, ratio, shear, tension, thrust
from handrail.core.parts import blocks
from handrail.core.parts.bolt_group import Grid
from handrail.core.trace import NULL, Trace

BUCKLING_CB = 1.84  # Manual Part 9, as for a beam coped at both flanges
COLUMN_K = 1.2


@dataclass(frozen=True)
class BoltedPlate:
    """`t` thick and `depth` along V; `end` and `edge` from the outer bolts to its end (along V) and free edge; `a` from
    its fixed edge to the first line of bolts and `reach` to the farthest bolt of that line, mm. `bent`: V bends it over
    `a`. One that is welded in place of bolted has no `grid` and no `hole`. Its limit states and rules begin with its
    `name`."""

    t: float
    grade: Grade
    depth: float
    end: float
    edge: float
    grid: Grid | None
    hole: HoleSize | None
    a: float
    reach: float
    bent: bool
    name: str = "plate"

    @property
    def Ag(self) -> float:
        """Gross area across the plate, mm^2."""
        return self.t * self.depth

    @property
    def An(self) -> float:
        """Net area along a line of bolts, mm^2 (B4.3b)."""
        return self.t * (self.depth - self._rows * self._net)

    @property
    def _rows(self) -> int:
        return self.grid.rows if self.grid else 0

    @property
    def _net(self) -> float:
        """What a hole takes along V, mm."""
        return plates.net_hole(self.hole.along) if self.hole else 0.0

    @cached_property
    def _blocks_V(self) -> list[blocks.Block]:
        return blocks.along_V(self.t, self.grid, self.hole, self.end, self.edge) if self.grid and self.hole else []

    @cached_property
    def _blocks_N(self) -> list[blocks.Block]:
        return blocks.along_N(self.t, self.grid, self.hole, self.edge, (self.end,)) if self.grid and self.hole else []

    def rules(self) -> Iterator[DetailingRule]:
        """The grade exists in this thickness."""
        if self.grade.max_thickness:
            yield at_most(
                f"{self.name}_grade_thickness", self.name, self.t, self.grade.max_thickness, self.grade.standard
            )

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """Every limit state of the plate itself."""
        yield from self.sheared(under, code)
        yield from self.pulled(under, code)
        if self.grid:
            yield self._both_blocks(under, code)
        if self.bent:
            yield from self._bending(under, code)
        yield self._interaction(under, code)

    def sheared(self, under: Under, code: Code) -> Iterator[LimitState]:
        """By V alone."""
        Fy, Fu, name = self.grade.Fy, self.grade.Fu, self.name
        yield under.fixed(
            f"{name}_shear_yield", "J4.2", "force", lambda t: plates.shear_yield(code, Fy, self.Ag, t), shear
        )
        yield under.fixed(
            f"{name}_shear_rupture", "J4.2", "force", lambda t: plates.shear_rupture(code, Fu, self.An, t), shear
        )
        if self.grid:
            yield under.fixed(
                f"{name}_block_shear",
                "J4.3",
                "force",
                lambda t: blocks.least(code, self.grade, self._blocks_V, t),
                shear,
            )

    def pulled(self, under: Under, code: Code) -> Iterator[LimitState]:
        """By N alone, either way."""
        Fy, Fu, name = self.grade.Fy, self.grade.Fu, self.name
        yield under.fixed(
            f"{name}_axial_yield", "J4.1", "force", lambda t: plates.tension_yield(code, Fy, self.Ag, t), tension
        )
        yield under.fixed(
            f"{name}_axial_rupture", "J4.1", "force", lambda t: plates.tension_rupture(code, Fu, self.An, t), tension
        )
        if self.grid:
            yield under.fixed(
                f"{name}_axial_block_shear",
                "J4.3",
                "force",
                lambda t: blocks.least(code, self.grade, self._blocks_N, t),
                tension,
            )
        check = f"{name}_axial_buckling" if self.bent else f"{name}_buckling"
        yield under.fixed(check, "J4.4", "force", lambda t: self._compression(code, t), thrust)

    def _both_blocks(self, under: Under, code: Code) -> LimitState:
        Vc, Nc = blocks.least(code, self.grade, self._blocks_V), blocks.least(code, self.grade, self._blocks_N)
        return block_interaction(under, f"{self.name}_block_shear_interaction", lambda actions: Vc, Nc)

    def _compression(self, code: Code, trace: Trace = NULL) -> float:
        r = self.t / math.sqrt(12)
        return plates.compression(code, self.grade.Fy, self.Ag, COLUMN_K * (self.a + self.reach), r, trace)

    def _bending(self, under: Under, code: Code) -> Iterator[LimitState]:
        """Flexure by V a (Manual Part 10, J4.5, F11)."""
        t, depth, Fy, Fu = self.t, self.depth, self.grade.Fy, self.grade.Fu
        Znet = plates.net_plastic_modulus(t, depth, self._rows, self.grid.pitch if self.grid else 0.0, self._net)

        def moment(actions: Actions, trace: Trace) -> np.ndarray:
            return trace("Mr", "|V| a", actions.shear * self.a, "Manual Part 10", V=actions.V, a=self.a)

        yield under.fixed(
            f"{self.name}_flexure_yield",
            "J4.5",
            "moment",
            lambda s: plates.flexure_yield(code, Fy, t * depth**2 / 4, s),
            moment,
        )
        yield under.fixed(
            f"{self.name}_flexure_rupture",
            "J4.5",
            "moment",
            lambda s: plates.flexure_rupture(code, Fu, Znet, s),
            moment,
        )
        yield under.fixed(f"{self.name}_buckling", "F11", "moment", lambda s: self._lateral(code, s), moment)

    def _lateral(self, code: Code, trace: Trace = NULL) -> float:
        return plates.bar_flexure(code, self.grade.Fy, self.t, self.depth, self.a + self.reach, BUCKLING_CB, trace)

    def _interaction(self, under: Under, code: Code) -> LimitState:
        """Shear with axial force and, where bent, moment (Manual Part 10 with H1.1); the square root, so that it
        grows in proportion to the load."""
        Fy = self.grade.Fy
        Vc, Nt, Nb = (
            plates.shear_yield(code, Fy, self.Ag),
            plates.tension_yield(code, Fy, self.Ag),
            self._compression(code),
        )
        Mc = min(plates.flexure_yield(code, Fy, self.t * self.depth**2 / 4), self._lateral(code))

        def evaluate(actions: Actions, t: Trace) -> tuple[Any, Any]:
            n = t("u_N", "N/Nc", np.maximum(actions.N / Nt, -actions.N / Nb), kind="number", Nt=Nt, Nb=Nb)
            if not self.bent:
                used, formula = n, "sqrt((V/Vc)^2 + (N/Nc)^2)"
            else:
                m = t("u_M", "|V| a / Mc", actions.shear * self.a / Mc, kind="number", a=self.a, Mc=Mc)
                used = np.where(n < 0.2, n / 2 + m, np.maximum(n + 8 / 9 * m, n / 2 + m))
                used = t("u_NM", "N/2Nc + M/Mc, or N/Nc + 8/9 M/Mc from N/Nc = 0.2", used, "H1.1", kind="number")
                formula = "sqrt((V/Vc)^2 + u_NM^2)"
            return t("u", formula, np.hypot(actions.V / Vc, used), "Manual Part 10", V=actions.V, Vc=Vc), 1.0

        return under.state(f"{self.name}_interaction", "Manual Part 10", "number", evaluate)


def block_interaction(under: Under, check: str, Vc: Any, Nc: float) -> LimitState:
    """Blocks under V and a pull together (J4.3): `Vc(actions)` the strength along V, `Nc` along N, N."""

    def evaluate(actions: Actions, t: Trace) -> tuple[Any, Any]:
        used = np.hypot(ratio(actions.V, Vc(actions)), ratio(actions.pull, Nc))
        return t("u", "sqrt((V/Vc)^2 + (N/Nc)^2), block shear", used, "J4.3", V=actions.V, N=actions.N, Nc=Nc), 1.0

    return under.state(check, "J4.3", "number", evaluate)
