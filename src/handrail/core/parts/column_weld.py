"""The weld between a column's foot and its base plate: fillets by their lines, elastically, or complete penetration."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Electrode, Steel
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least
from handrail.core.parts.bearing.rod_lines import RodLine
from handrail.core.quantities.lines import Trace

Pulls = Callable[[Actions], np.ndarray]
Line = tuple[float, float, float, float]  # x0, y0, x1, y1 mm; x along the column's depth
PATTERNS = ("all_around", "outside", "complete")
SEGMENTS = 48  # of a round column's line


@dataclass(frozen=True)
class ColumnWeld:
    """Fillets of `size` mm: `all_around` both faces of flanges and web, or `outside`, flanges' outer faces and both of
    the web; a hollow column's outside; or `complete` penetration of all of it (Table J2.5: the column's own metal).
    `milled`: compression goes through contact (J1.4, M2.6), else through the fillets."""

    steel: Steel
    size: float
    pattern: str
    electrode: Electrode
    milled: bool

    @cached_property
    def lines(self) -> tuple[Line, ...]:
        """The fillets' lines."""
        s = self.steel.section
        if s.round:
            turns = [2 * math.pi * k / SEGMENTS for k in range(SEGMENTS + 1)]
            points = [(s.d / 2 * math.cos(a), s.d / 2 * math.sin(a)) for a in turns]
            return tuple((*p, *q) for p, q in zip(points, points[1:], strict=False))
        if s.hollow:
            x, y, r = s.d / 2, s.bf / 2, 2 * s.wall  # straight parts, within the corners
            return ((-x, r - y, -x, y - r), (x, r - y, x, y - r), (r - x, -y, x - r, -y), (r - x, y, x - r, y))
        d, b, web = s.d / 2, s.bf / 2, s.d / 2 - s.k_detail
        lines: list[Line] = [
            (-d, -b, -d, b),
            (d, -b, d, b),
            (-web, -s.tw / 2, web, -s.tw / 2),
            (-web, s.tw / 2, web, s.tw / 2),
        ]
        if self.pattern == "all_around":
            k1 = max(s.k1, s.tw / 2)
            inner = s.d / 2 - s.tf
            lines += [(way * inner, side * k1, way * inner, side * b) for way in (-1, 1) for side in (-1, 1)]
        return tuple(lines)

    @cached_property
    def _properties(self) -> tuple[float, float, float, float, float]:
        """Length mm, moduli about both axes mm^2, and the lengths that run along and across."""
        ends = np.array(self.lines).reshape(-1, 2, 2)
        length = np.linalg.norm(ends[:, 1] - ends[:, 0], axis=1)
        second = [
            (length * (ends[:, 0, k] ** 2 + ends[:, 0, k] * ends[:, 1, k] + ends[:, 1, k] ** 2) / 3).sum()
            for k in (0, 1)
        ]
        far = np.abs(ends).max(axis=(0, 1))
        runs = np.abs(ends[:, 1] - ends[:, 0]).sum(axis=0)
        return float(length.sum()), second[0] / far[0], second[1] / far[1], float(runs[0]), float(runs[1])

    @cached_property
    def _turning(self) -> float:
        """r/J of the lines about their middle, 1/mm^2: the farthest end's shear from one N*mm of torsion."""
        _, Sx, Sy, _, _ = self._properties
        far = np.abs(np.array(self.lines).reshape(-1, 2, 2))
        x, y = far.max(axis=(0, 1))
        return float(np.hypot(far[..., 0], far[..., 1]).max() / (Sx * x + Sy * y))

    @property
    def length(self) -> float:
        """All lines together, mm."""
        return self._properties[0]

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """The fillet at the farthest corner, with the column's flange or wall that pulls on it; or the metal of a
        groove."""
        s, lines = self.steel.section, under.trace()
        if self.pattern == "complete":
            held = code.available(self.steel.grade.Fy, "tension_yield", lines, "F")
            yield under.state(
                "column_weld", "stress", lambda a, t: (self._stress(a, t), held), lines, of="complete_column_weld"
            )
            return
        throat = code.welds.fillet(self.electrode, self.size, lines)
        faces = 2 if not s.hollow and self.pattern == "all_around" else 1
        metal = code.plates.tension_yield(self.steel.grade.Fy, (s.wall if s.hollow else s.tf) / faces)
        held = lines(
            "held",
            "fillet, or its part of the column's metal in tension",
            min(throat, metal),
            code.clause("tension_yield"),
            kind="per_length",
        )
        yield under.state("column_weld", "per_length", lambda a, t: (self._farthest(a, t), held), lines)

    def at_rods(self, under: Under, code: Code, pulls: Pulls, lines: tuple[RodLine, ...]) -> LimitState:
        """Each rod's pull over its own width of the weld (Design Guide 1), with the shear there; `pulls` gives (...,
        rods) N."""
        held = np.array([self._beside(code, line.metal) for line in lines])
        widths = np.array([line.width for line in lines])
        _, _, _, along, across = self._properties

        def pulled(actions: Actions, t: Trace) -> tuple[Any, Any]:
            tensions = pulls(actions)
            v = np.hypot(actions.V / along, actions.Vw / across) + np.abs(actions.T) * self._turning
            v = v if self.pattern != "complete" else np.zeros(actions.V.shape)
            f = np.hypot(tensions / widths, v[..., None]) * (tensions > 0)
            worst = (f / held).argmax(axis=-1)[..., None]
            if t.on:
                k = int(np.ravel(worst)[0])
                t("T", "of the rod whose weld is nearest to its strength", np.ravel(tensions[..., k])[0], kind="force")
                t("be", "width that carries it", widths[k], code.clause("column_weld_width"), kind="length")
                t(
                    "held",
                    f"the weld on the {lines[k].metal} there",
                    held[k],
                    code.clause("column_weld_and_metal"),
                    kind="per_length",
                )
            return (
                np.take_along_axis(f, worst, -1)[..., 0],
                np.take_along_axis(np.broadcast_to(held, f.shape), worst, -1)[..., 0],
            )

        return under.state("column_weld_at_rods", "per_length", pulled)

    def _beside(self, code: Code, metal: str) -> float:
        """What one millimetre of the weld beside a rod holds, N/mm: the fillets that reach the flange or the wall, half
        of the web's; no more than the metal."""
        s = self.steel.section
        t = {"flange": s.tf, "web": s.tw / 2, "wall": s.wall if s.hollow else 0.0}[metal]
        own = code.plates.tension_yield(self.steel.grade.Fy, t)
        if self.pattern == "complete":
            return own
        faces = 2 if metal == "flange" and self.pattern == "all_around" else 1
        return min(faces * code.welds.fillet(self.electrode, self.size), own)

    def _farthest(self, actions: Actions, t: Trace) -> np.ndarray:
        length, Sx, Sy, along, across = self._properties
        turned = t("T/J", "|T| r/J", np.abs(actions.T) * self._turning, kind="per_length", torsion=actions.T)
        bent = t(
            "M/S",
            "|M|/Sx + |Mw|/Sy",
            np.abs(actions.M) / Sx + np.abs(actions.Mw) / Sy,
            kind="per_length",
            M=actions.M,
            Mw=actions.Mw,
        )
        if self.milled:
            pull = np.maximum(actions.N / length + bent, 0.0)
            t(
                "n",
                "max(N/L + M/S, 0): what presses goes through contact",
                pull,
                kind="per_length",
                N=actions.N,
                L=length,
            )
        else:
            pull = t("n", "|N|/L + M/S", actions.axial / length + bent, kind="per_length", N=actions.N, L=length)
        v = t(
            "v",
            "V along its lines, Vw along its own",
            np.hypot(actions.V / along, actions.Vw / across),
            kind="per_length",
            V=actions.V,
        )
        return t("f", "sqrt(n^2 + (v + T/J)^2)", np.hypot(pull, v + turned), kind="per_length")

    def _stress(self, actions: Actions, t: Trace) -> np.ndarray:
        """Of the column's own section beside a groove, as Mises has it, MPa."""
        s = self.steel.section
        pull = actions.pull if self.milled else actions.axial
        normal = t(
            "f",
            "N/A + |M|/Zx + |Mw|/Zy",
            pull / s.A + np.abs(actions.M) / s.Zx + np.abs(actions.Mw) / s.Zy,
            kind="stress",
            N=actions.N,
            M=actions.M,
        )
        web, flanges = (s.A / 2, s.A / 2) if s.hollow else (s.d * s.tw, 2 * s.bf * s.tf)
        v = t("v", "V/Aw, Vw/Af", np.hypot(actions.V / web, actions.Vw / flanges), kind="stress", V=actions.V)
        v = v + t(
            "vT",
            "T by the flanges' couple, or around the walls",
            np.abs(actions.T) * self._torsional,
            kind="stress",
            torsion=actions.T,
        )
        return t("fe", "sqrt(f^2 + 3 v^2)", np.sqrt(normal**2 + 3 * v**2), kind="stress")

    @property
    def _torsional(self) -> float:
        """Shear stress of one N*mm of torsion in the column's own metal, 1/mm^3: 1.5 of the flanges' couple, or around
        the walls."""
        s = self.steel.section
        if s.round:
            return 2 / (math.pi * (s.d - s.wall) ** 2 * s.wall)
        if s.hollow:
            return 1 / (2 * (s.d - s.wall) * (s.bf - s.wall) * s.wall)
        return 1.5 / ((s.d - s.tf) * s.bf * s.tf)

    def rules(self, code: Code, plate: float) -> Iterator[DetailingRule]:
        """Least size by the thinner part joined; `plate` its thickness, mm."""
        s = self.steel.section
        if self.pattern == "complete":
            return
        yield at_least(
            "weld_size",
            "weld",
            self.size,
            code.welds.min_size(min(s.wall if s.hollow else s.tf, plate)),
            code.clause("weld_size"),
        )
