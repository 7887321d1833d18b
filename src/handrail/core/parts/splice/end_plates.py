"""Two hollow columns' end plates bolted face to face: bolts pulled with prying and sheared, plates that bear on each other."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Bolt, Grade, HoleSize, Section
from handrail.core.codes.aisc360 import Code, bolts
from handrail.core.codes.aisc360.prying import Pried, bolt_tension
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, at_most
from handrail.core.parts.bearing.footprint import Footprint
from handrail.core.parts.bearing.rod_lines import clear, rod_lines
from handrail.core.trace import NULL, Trace

FOUR = 4


@dataclass(frozen=True)
class EndPlates:
    """Two plates as `plate` says, `t` thick, with bolts at its points through holes of `hole`; `section` is the column whose wall is
    farther from its bolts."""

    section: Section
    plate: Footprint
    t: float
    grade: Grade
    bolt: Bolt
    hole: HoleSize
    deformation: bool

    @property
    def n(self) -> int:
        """How many bolts."""
        return len(self.plate.points)

    @cached_property
    def pried(self) -> tuple[Pried, ...]:
        """Each bolt in its plate."""
        found = []
        for point, line in zip(self.plate.points, rod_lines(self.plate, self.section), strict=True):
            b = max(line.lever - self.section.wall / 2, 0.0)
            a = min(self.plate.length / 2 - abs(point[0]), self.plate.width / 2 - abs(point[1]))
            found.append(Pried(self.t, self.grade.Fu, b, a, line.width, self.hole.along, self.bolt.d))
        return tuple(found)

    def pulls(self, actions: Actions, t: Trace = NULL) -> np.ndarray:
        """(..., bolts) N, at least 0: N, M and Mw as the bolts' places in a straight line give them, about their middle."""
        xy = self.plate.xy - self.plate.xy.mean(axis=0)
        Ix, Iy = (max(float((xy[:, k] ** 2).sum()), 1e-9) for k in (0, 1))
        bent = np.abs(actions.M)[..., None] * np.abs(xy[:, 0]) / Ix + np.abs(actions.Mw)[..., None] * np.abs(xy[:, 1]) / Iy
        return np.maximum(actions.N[..., None] / self.n + bent, 0.0)

    def shears(self, actions: Actions) -> np.ndarray:
        """Of each bolt, N: all alike."""
        return actions.both_shears / self.n

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """Tension with prying and shear, shear alone, bearing on the plates."""
        lines = under.trace()
        yield under.state("bolt_tension", code.clause("J3.7"), "force", lambda a, t: self._tension(code, a, t), lines)
        shear = under.trace()
        rn = bolts.shear(code, self.bolt, 1, shear)
        yield under.state("bolt_shear", code.clause("J3.7"), "force", lambda a, t: (t("Vr", "sqrt(V^2 + Vw^2)/n", self.shears(a)), rn), shear)
        bearing = under.trace()
        held = self._bearing(code, bearing)
        yield under.state("bolt_bearing_plate", code.clause("J3.11"), "force", lambda a, t: (self.shears(a), held), bearing)

    def _tension(self, code: Code, actions: Actions, t: Trace) -> tuple[Any, Any]:
        """The bolt that is nearest to its strength."""
        pulls, B = self.pulls(actions), bolt_tension(code, self.bolt, self.shears(actions), t)
        shares = np.stack([one.share(code, B) for one in self.pried], axis=-1)
        held = B[..., None] * shares
        with np.errstate(divide="ignore", invalid="ignore"):
            use = np.where(pulls == 0, 0.0, np.where(held > 0, pulls / held, np.inf))
        worst = use.argmax(axis=-1)[..., None]
        if t.on:
            k = int(np.ravel(worst)[0])
            self.pried[k].share(code, B, t)
            t("T", f"of bolt {k + 1}: N/n + |M| x/sum x^2 + |Mw| y/sum y^2", np.ravel(pulls[..., k])[0], kind="force", N=actions.N, M=actions.M)
        return np.take_along_axis(pulls, worst, -1)[..., 0], np.take_along_axis(held, worst, -1)[..., 0]

    def _bearing(self, code: Code, t: Trace) -> float:
        bear, tear = bolts.bearing_factors(self.hole, self.deformation)
        edge = min(one.a for one in self.pried) - self.hole.along / 2
        found = bolts.tearout(code, np.array(max(edge, 0.0)), self.t, self.grade.Fu, tear, t)
        return min(float(found), bolts.bearing(code, self.bolt.d, self.t, self.grade.Fu, bear, t))

    def rules(self, code: Code, weld: float, largest: Section) -> Iterator[DetailingRule]:
        """Four bolts, edges, spacing, and room beside the wall and its weld."""
        yield at_least("bolts_at_least", "bolts", self.n, FOUR, "OSHA 1926.756(d)", kind="number")
        least = bolts.min_edge(self.bolt, self.hole, False)
        yield at_least("edge_distance", "plate", min(one.a for one in self.pried), least, code.clause("J3.5"))
        past = np.array([self.plate.length, self.plate.width]) / 2 - np.abs(self.plate.xy).max(axis=0)
        yield at_most("max_edge_distance", "plate", float(past.max()), bolts.max_edge(self.t), code.clause("J3.6"))
        apart = np.linalg.norm(self.plate.xy[:, None] - self.plate.xy[None], axis=-1)[np.triu_indices(self.n, 1)]
        yield at_least("spacing", "bolts", float(apart.min(initial=np.inf)), bolts.min_spacing(self.bolt.d), code.clause("J3.4"))
        room = min(clear(largest, p) for p in self.plate.points)
        yield at_least("bolt_tightening", "bolts", room - weld, self.bolt.tightening, "Manual Part 7")
        if self.grade.max_thickness:
            yield at_most("plate_grade_thickness", "plate", self.t, self.grade.max_thickness, self.grade.standard)
