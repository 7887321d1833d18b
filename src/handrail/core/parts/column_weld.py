"""The weld between a column's foot and its base plate: fillets by their lines, elastically, or complete penetration."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Electrode, Steel
from handrail.core.codes.aisc360 import Code, plates, welds
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least
from handrail.core.trace import Trace

Line = tuple[float, float, float, float]  # x0, y0, x1, y1 mm; x along the column's depth
PATTERNS = ("all_around", "outside", "complete")
SEGMENTS = 48  # of a round column's line


@dataclass(frozen=True)
class ColumnWeld:
    """Fillets of `size` mm: `all_around` both faces of flanges and web, or `outside`, flanges' outer faces and both of the web; a hollow
    column's outside; or `complete` penetration of all of it (Table J2.5: the column's own metal). `milled`: compression goes through contact
    (J1.4, M2.6), else through the fillets."""

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
        found: list[Line] = [(-d, -b, -d, b), (d, -b, d, b), (-web, -s.tw / 2, web, -s.tw / 2), (-web, s.tw / 2, web, s.tw / 2)]
        if self.pattern == "all_around":
            k1 = max(s.k1, s.tw / 2)
            inner = s.d / 2 - s.tf
            found += [(way * inner, side * k1, way * inner, side * b) for way in (-1, 1) for side in (-1, 1)]
        return tuple(found)

    @cached_property
    def _properties(self) -> tuple[float, float, float, float, float]:
        """Length mm, moduli about both axes mm^2, and the lengths that run along and across."""
        ends = np.array(self.lines).reshape(-1, 2, 2)
        length = np.linalg.norm(ends[:, 1] - ends[:, 0], axis=1)
        second = [(length * (ends[:, 0, k] ** 2 + ends[:, 0, k] * ends[:, 1, k] + ends[:, 1, k] ** 2) / 3).sum() for k in (0, 1)]
        far = np.abs(ends).max(axis=(0, 1))
        runs = np.abs(ends[:, 1] - ends[:, 0]).sum(axis=0)
        return float(length.sum()), second[0] / far[0], second[1] / far[1], float(runs[0]), float(runs[1])

    @property
    def length(self) -> float:
        """All lines together, mm."""
        return self._properties[0]

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """The fillet at the farthest corner, with the column's flange or wall that pulls on it; or the metal of a groove."""
        s, lines = self.steel.section, under.trace()
        if self.pattern == "complete":
            held = code.available(self.steel.grade.Fy, "tension_yield", lines, "F")
            yield under.state("column_weld", "J2.6", "stress", lambda a, t: (self._stress(a, t), held), lines)
            return
        throat = welds.fillet(code, self.electrode, self.size, lines)
        faces = 2 if not s.hollow and self.pattern == "all_around" else 1
        metal = plates.tension_yield(code, self.steel.grade.Fy, (s.wall if s.hollow else s.tf) / faces)
        held = lines("held", "fillet, or its part of the column's metal in tension", min(throat, metal), "J4.1", kind="per_length")
        yield under.state("column_weld", "J2.4", "per_length", lambda a, t: (self._farthest(a, t), held), lines)

    def _farthest(self, actions: Actions, t: Trace) -> np.ndarray:
        length, Sx, Sy, along, across = self._properties
        bent = t("M/S", "|M|/Sx + |Mw|/Sy", np.abs(actions.M) / Sx + np.abs(actions.Mw) / Sy, kind="per_length", M=actions.M, Mw=actions.Mw)
        if self.milled:
            pull = np.maximum(actions.N / length + bent, 0.0)
            t("n", "max(N/L + M/S, 0): what presses goes through contact", pull, kind="per_length", N=actions.N, L=length)
        else:
            pull = t("n", "|N|/L + M/S", actions.axial / length + bent, kind="per_length", N=actions.N, L=length)
        v = t("v", "V along its lines, Vw along its own", np.hypot(actions.V / along, actions.Vw / across), kind="per_length", V=actions.V)
        return t("f", "sqrt(n^2 + v^2)", np.hypot(pull, v), kind="per_length")

    def _stress(self, actions: Actions, t: Trace) -> np.ndarray:
        """Of the column's own section beside a groove, as Mises has it, MPa."""
        s = self.steel.section
        pull = actions.pull if self.milled else actions.axial
        normal = t("f", "N/A + |M|/Zx + |Mw|/Zy", pull / s.A + np.abs(actions.M) / s.Zx + np.abs(actions.Mw) / s.Zy, kind="stress", N=actions.N,
                   M=actions.M)  # fmt: skip
        web, flanges = (s.A / 2, s.A / 2) if s.hollow else (s.d * s.tw, 2 * s.bf * s.tf)
        v = t("v", "V/Aw, Vw/Af", np.hypot(actions.V / web, actions.Vw / flanges), kind="stress", V=actions.V)
        return t("fe", "sqrt(f^2 + 3 v^2)", np.sqrt(normal**2 + 3 * v**2), kind="stress")

    def rules(self, plate: float) -> Iterator[DetailingRule]:
        """Least size by the thinner part joined; `plate` its thickness, mm."""
        s = self.steel.section
        if self.pattern == "complete":
            return
        yield at_least("weld_size", "weld", self.size, welds.min_size(min(s.wall if s.hollow else s.tf, plate)), "J2.2b")
