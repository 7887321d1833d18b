"""Two hollow columns' end plates bolted face to face: bolts pulled with prying and sheared, plates that bear on each
other."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Bolt, Grade, HoleSize, Section
from handrail.core.codes.asked import Pried
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, at_most
from handrail.core.parts.bearing import Faces, Footprint, profile
from handrail.core.parts.bearing.rod_lines import RodLine, clear, rod_lines
from handrail.core.parts.face_bolts import LITTLE
from handrail.core.quantities.lines import NULL, Trace

FOUR = 4


@dataclass(frozen=True, kw_only=True)
class EndPlates:
    """Two plates as `plate` says, `t` thick, with bolts at its points through holes of `hole`; `section` is the column
    whose wall is farther from its bolts, of yield `wall_Fy` MPa."""

    section: Section
    plate: Footprint
    t: float
    grade: Grade
    bolt: Bolt
    hole: HoleSize
    deformation: bool
    wall_Fy: float
    snug: bool = False

    @property
    def n(self) -> int:
        """How many bolts."""
        return len(self.plate.points)

    @cached_property
    def lines(self) -> tuple[RodLine, ...]:
        """Where the plate bends for each bolt."""
        return tuple(rod_lines(self.plate, self.section))

    @cached_property
    def pried(self) -> tuple[Pried, ...]:
        """Each bolt in its plate."""
        pried = []
        for point, line in zip(self.plate.points, self.lines, strict=True):
            b = max(line.lever - self.section.wall / 2, 0.0)
            a = min(self.plate.length / 2 - abs(point[0]), self.plate.width / 2 - abs(point[1]))
            pried.append(Pried(t=self.t, Fu=self.grade.Fu, b=b, a=a, p=line.width, hole=self.hole.along, d=self.bolt.d))
        return tuple(pried)

    @cached_property
    def faces(self) -> Faces:
        """The plates press on each other under the column's wall, and bolts pull: a thrust holds no bolt down, a moment
        turns them about the wall that is pressed."""
        return Faces(replace(self.plate, area=self.bolt.area, pads=profile(self.section)))

    def pulls(self, actions: Actions, t: Trace = NULL) -> np.ndarray:
        """(..., bolts) N, at least 0: in balance with what presses under the wall."""
        return self.faces.pulls(actions)

    def shears(self, actions: Actions) -> np.ndarray:
        """Of the bolt that takes most, N: V and Vw alike, T by their places about their middle."""
        xy = self.plate.xy - self.plate.xy.mean(axis=0)
        turned = float(np.linalg.norm(xy, axis=1).max(initial=0.0)) / max(float((xy**2).sum()), 1e-9)
        return actions.both_shears / self.n + np.abs(actions.T) * turned

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """Tension with prying and shear, shear alone, bearing on the plates."""
        lines = under.trace()
        yield under.state("bolt_tension", "force", lambda a, t: self._tension(code, a, t), lines)
        if self.snug and not code.bolts.snug_in_tension(self.bolt):
            little = LITTLE * self.bolt.Fnt * self.bolt.area
            yield under.state(
                "snug_in_tension",
                "force",
                lambda a, t: (t("T", "the largest of a bolt", self.pulls(a).max(axis=-1), kind="force"), little),
                limit=True,
            )
        shear = under.trace()
        rn = code.bolts.shear(self.bolt, 1, shear)
        yield under.state(
            "bolt_shear",
            "force",
            lambda a, t: (t("Vr", "sqrt(V^2 + Vw^2)/n + |T| r/sum r^2", self.shears(a)), rn),
            shear,
        )
        wall = under.trace()
        squashed = code.plates.tension_yield(self.wall_Fy, 1.0, wall)
        yield under.state(
            "wall_pressure",
            "stress",
            lambda a, t: (
                t("fp", "the largest under the wall, elastically", self.faces.pressure(a), kind="stress", N=a.N, M=a.M),
                squashed,
            ),
            wall,
        )
        bearing = under.trace()
        held = self._bearing(code, bearing)
        yield under.state("bolt_bearing_plate", "force", lambda a, t: (self.shears(a), held), bearing)

    def _tension(self, code: Code, actions: Actions, t: Trace) -> tuple[Any, Any]:
        """The bolt that is nearest to its strength."""
        pulls, B = self.pulls(actions), code.prying.tension(self.bolt, self.shears(actions), t)
        shares = np.stack([code.prying.share(one, B) for one in self.pried], axis=-1)
        held = B[..., None] * shares
        with np.errstate(divide="ignore", invalid="ignore"):
            use = np.where(pulls == 0, 0.0, np.where(held > 0, pulls / held, np.inf))
        worst = use.argmax(axis=-1)[..., None]
        if t.on:
            k = int(np.ravel(worst)[0])
            code.prying.share(self.pried[k], B, t)
            t(
                "T",
                f"of bolt {k + 1}, in balance with what presses under the wall",
                np.ravel(pulls[..., k])[0],
                kind="force",
                N=actions.N,
                M=actions.M,
            )
        return np.take_along_axis(pulls, worst, -1)[..., 0], np.take_along_axis(held, worst, -1)[..., 0]

    def _bearing(self, code: Code, t: Trace) -> float:
        bear, tear = code.bolts.bearing_factors(self.hole, self.deformation)
        edge = min(one.a for one in self.pried) - self.hole.along / 2
        tearing = code.bolts.tearout(np.array(max(edge, 0.0)), self.t, self.grade.Fu, tear, t)
        return min(float(tearing), code.bolts.bearing(self.bolt.d, self.t, self.grade.Fu, bear, t))

    def rules(self, code: Code, weld: float, largest: Section) -> Iterator[DetailingRule]:
        """Four bolts, edges, spacing, and room beside the wall and its weld."""
        yield at_least("bolts_at_least", "bolts", self.n, FOUR, code.clause("bolts_at_least"), kind="number")
        least = code.bolts.min_edge(self.bolt, self.hole, False)
        yield at_least("edge_distance", "plate", min(one.a for one in self.pried), least, code.clause("edge_distance"))
        past = np.array([self.plate.length, self.plate.width]) / 2 - np.abs(self.plate.xy).max(axis=0)
        yield at_most(
            "max_edge_distance",
            "plate",
            float(past.max()),
            code.bolts.max_edge(self.t),
            code.clause("max_edge_distance"),
        )
        apart = np.linalg.norm(self.plate.xy[:, None] - self.plate.xy[None], axis=-1)[np.triu_indices(self.n, 1)]
        yield at_least(
            "spacing",
            "bolts",
            float(apart.min(initial=np.inf)),
            code.bolts.min_spacing(self.bolt.d),
            code.clause("spacing"),
        )
        room = min(clear(largest, p) for p in self.plate.points)
        yield at_least("bolt_tightening", "bolts", room - weld, self.bolt.tightening, code.clause("bolt_tightening"))
        if self.grade.max_thickness:
            yield at_most("plate_grade_thickness", "plate", self.t, self.grade.max_thickness, self.grade.standard)
