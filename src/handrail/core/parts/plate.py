"""A plate fixed along one edge and bolted near the other: yielding, rupture, blocks, buckling, bending."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Grade, HoleSize
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_most, ratio, shear, tension, thrust
from handrail.core.parts import blocks
from handrail.core.parts.bolt_group import Grid
from handrail.core.quantities.lines import NULL, Trace

BUCKLING_CB = 1.84  # Manual Part 9, as for a beam coped at both flanges
COLUMN_K = 1.2


@dataclass(frozen=True, kw_only=True)
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

    def An(self, code: Code) -> float:
        """Net area along a line of bolts, mm^2."""
        return self.t * (self.depth - self._rows * self._net(code))

    @property
    def _rows(self) -> int:
        return self.grid.rows if self.grid else 0

    def _net(self, code: Code) -> float:
        """What a hole takes along V, mm."""
        return code.plates.net_hole(self.hole.along) if self.hole else 0.0

    def _block_V(self, code: Code, trace: Trace = NULL) -> float:
        """The shear that tears the first block out, N."""
        assert self.grid and self.hole
        strength = blocks.along_V(code, self.t, self.grid, self.hole, self.end, self.edge)
        return blocks.least(code, self.grade, strength, trace)

    def _block_N(self, code: Code, trace: Trace = NULL) -> float:
        """The pull that tears the first block out, N."""
        assert self.grid and self.hole
        strength = blocks.along_N(code, self.t, self.grid, self.hole, self.edge, (self.end,))
        return blocks.least(code, self.grade, strength, trace)

    def rules(self, code: Code) -> Iterator[DetailingRule]:
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
        yield under.fixed(f"{name}_shear_yield", "force", lambda t: code.plates.shear_yield(Fy, self.Ag, t), shear)
        yield under.fixed(
            f"{name}_shear_rupture", "force", lambda t: code.plates.shear_rupture(Fu, self.An(code), t), shear
        )
        if self.grid:
            yield under.fixed(
                f"{name}_block_shear",
                "force",
                lambda t: self._block_V(code, t),
                shear,
            )

    def pulled(self, under: Under, code: Code) -> Iterator[LimitState]:
        """By N alone, either way."""
        Fy, Fu, name = self.grade.Fy, self.grade.Fu, self.name
        yield under.fixed(f"{name}_axial_yield", "force", lambda t: code.plates.tension_yield(Fy, self.Ag, t), tension)
        yield under.fixed(
            f"{name}_axial_rupture",
            "force",
            lambda t: code.plates.tension_rupture(Fu, self.An(code), t),
            tension,
        )
        if self.grid:
            yield under.fixed(
                f"{name}_axial_block_shear",
                "force",
                lambda t: self._block_N(code, t),
                tension,
            )
        check = f"{name}_axial_buckling" if self.bent else f"{name}_buckling"
        yield under.fixed(check, "force", lambda t: self._compression(code, t), thrust)

    def _both_blocks(self, under: Under, code: Code) -> LimitState:
        Vc, Nc = self._block_V(code), self._block_N(code)
        return block_interaction(under, f"{self.name}_block_shear_interaction", lambda actions: Vc, Nc)

    def _compression(self, code: Code, trace: Trace = NULL) -> float:
        r = self.t / math.sqrt(12)
        return code.plates.compression(self.grade.Fy, self.Ag, COLUMN_K * (self.a + self.reach), r, trace)

    def _bending(self, under: Under, code: Code) -> Iterator[LimitState]:
        """Flexure by V a (Manual Part 10, J4.5, F11)."""
        t, depth, Fy, Fu = self.t, self.depth, self.grade.Fy, self.grade.Fu
        Znet = code.plates.net_plastic_modulus(
            t, depth, self._rows, self.grid.pitch if self.grid else 0.0, self._net(code)
        )

        def moment(actions: Actions, trace: Trace) -> np.ndarray:
            return trace("Mr", "|V| a", actions.shear * self.a, code.clause("plate_moment"), V=actions.V, a=self.a)

        yield under.fixed(
            f"{self.name}_flexure_yield",
            "moment",
            lambda s: code.plates.flexure_yield(Fy, t * depth**2 / 4, s),
            moment,
        )
        yield under.fixed(
            f"{self.name}_flexure_rupture",
            "moment",
            lambda s: code.plates.flexure_rupture(Fu, Znet, s),
            moment,
        )
        yield under.fixed(
            f"{self.name}_buckling", "moment", lambda s: self._lateral(code, s), moment, of="lateral_buckling"
        )

    def _lateral(self, code: Code, trace: Trace = NULL) -> float:
        return code.plates.bar_flexure(self.grade.Fy, self.t, self.depth, self.a + self.reach, BUCKLING_CB, trace)

    def _interaction(self, under: Under, code: Code) -> LimitState:
        """Shear with axial force and, where bent, moment (Manual Part 10 with H1.1); the square root, so that it
        grows in proportion to the load."""
        Fy = self.grade.Fy
        Vc, Nt, Nb = (
            code.plates.shear_yield(Fy, self.Ag),
            code.plates.tension_yield(Fy, self.Ag),
            self._compression(code),
        )
        Mc = min(code.plates.flexure_yield(Fy, self.t * self.depth**2 / 4), self._lateral(code))

        def evaluate(actions: Actions, t: Trace) -> tuple[Any, Any]:
            n = t("u_N", "N/Nc", np.maximum(actions.N / Nt, -actions.N / Nb), kind="number", Nt=Nt, Nb=Nb)
            if not self.bent:
                used, formula = n, "sqrt((V/Vc)^2 + (N/Nc)^2)"
            else:
                m = t("u_M", "|V| a / Mc", actions.shear * self.a / Mc, kind="number", a=self.a, Mc=Mc)
                used = np.where(n < 0.2, n / 2 + m, np.maximum(n + 8 / 9 * m, n / 2 + m))
                used = t(
                    "u_NM",
                    "N/2Nc + M/Mc, or N/Nc + 8/9 M/Mc from N/Nc = 0.2",
                    used,
                    code.clause("axial_with_bending"),
                    kind="number",
                )
                formula = "sqrt((V/Vc)^2 + u_NM^2)"
            return t("u", formula, np.hypot(actions.V / Vc, used), code.clause("plate_moment"), V=actions.V, Vc=Vc), 1.0

        return under.state(f"{self.name}_interaction", "number", evaluate)


def block_interaction(under: Under, check: str, Vc: Any, Nc: float) -> LimitState:
    """Blocks under V and a pull together (J4.3): `Vc(actions)` the strength along V, `Nc` along N, N."""

    def evaluate(actions: Actions, t: Trace) -> tuple[Any, Any]:
        used = np.hypot(ratio(actions.V, Vc(actions)), ratio(actions.pull, Nc))
        return t(
            "u",
            "sqrt((V/Vc)^2 + (N/Nc)^2), block shear",
            used,
            under.code.clause("block_shear"),
            V=actions.V,
            N=actions.N,
            Nc=Nc,
        ), 1.0

    return under.state(check, "number", evaluate)
