"""The anchors of a base at work: what each pulls and shears, every mode of failure, tension and shear together, bending
of the rods."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property, partial
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, at_most, never, ratio
from handrail.core.parts.anchors import bond, shear, tension
from handrail.core.parts.anchors.group import AnchorGroup
from handrail.core.parts.anchors.pull_bars import PullBars
from handrail.core.parts.anchors.shear_bars import ShearBars
from handrail.core.parts.bearing import Seat
from handrail.core.quantities.lines import NULL, Trace
from handrail.core.quantities.units import INCH

COVER, COVER_BELOW = 1.5 * INCH, 3 * INCH  # ACI 318-19 20.5.1.3: formed faces, and against the ground
TIGHT = 4  # diameters between cast-in rods that are not torqued (17.9.2)


@dataclass(frozen=True, kw_only=True)
class Anchorage:
    """A group under a base that rests as `seat` says. `shears`: whether the rods take the shear, all alike, and what
    turns the base about their middle; they bend then over `lever` mm (0 where they do not). `pull_bars` and
    `shear_bars` take the place of breakout, these towards the sides that they run to."""

    group: AnchorGroup
    seat: Seat
    shears: bool
    lever: float
    pull_bars: PullBars | None = None
    shear_bars: ShearBars | None = None

    def pulls(self, actions: Actions, t: Trace = NULL) -> np.ndarray:
        """(..., rods) tension of each, N."""
        return self.seat.rest(actions).tensions

    def shared(self, actions: Actions, t: Trace = NULL, way: float = 1.0) -> np.ndarray:
        """(..., rods, 2) shear of each on the concrete, N, along and across: V and Vw the same for all, and what turns
        the base by its distance from their middle; T acts `way` +1 or -1, its sign being left open."""
        each = np.stack([-actions.V, -actions.Vw], axis=-1) / self.group.n
        alike = np.broadcast_to(each[..., None, :], (*actions.V.shape, self.group.n, 2))
        turned = self.torsion(actions, t, way)
        if not np.any(turned):
            return alike
        with np.errstate(invalid="ignore"):
            return alike + np.where(turned[..., None, None] == 0, 0.0, turned[..., None, None] * self._turns)

    def torsion(self, actions: Actions, t: Trace = NULL, way: float = 1.0) -> np.ndarray:
        """About the rods' middle: T, and the shears that act at the column's, N*mm."""
        x, y = np.array(self.seat.column) - self.group.xy.mean(axis=0)
        twist = way * np.abs(actions.T) + (actions.V * y - actions.Vw * x)
        return (
            t("T", "T and the shears about the rods' middle", twist, kind="moment")
            if x or y or np.any(actions.T)
            else twist
        )

    @cached_property
    def _turns(self) -> np.ndarray:
        """(rods, 2): of one N*mm of torsion, by each rod's place about their middle; nothing of one rod, without end of
        none that turns."""
        xy = self.group.xy - self.group.xy.mean(axis=0)
        polar = float((xy**2).sum())
        return np.stack([-xy[:, 1], xy[:, 0]], axis=-1) / polar if polar > 1.0 else np.full_like(xy, np.inf)

    def largest_shear(self, actions: Actions) -> np.ndarray:
        """Of a rod, whichever way T acts, N."""
        return np.max(
            [np.linalg.norm(self.shared(actions, way=way), axis=-1).max(axis=-1) for way in self._ways(actions)], axis=0
        )

    @staticmethod
    def _ways(actions: Actions) -> tuple[float, ...]:
        return (1.0, -1.0) if np.any(actions.T) else (1.0,)

    def _sheared(self, under: Under) -> Iterator[LimitState]:
        """Every limit state in shear by the worse of both ways in which T may act."""
        ways = [list(self._sheared_one_way(under, partial(self.shared, way=way))) for way in (1.0, -1.0)]
        for one, other in zip(*ways, strict=True):

            def worse(actions: Actions, t: Trace, one: LimitState = one, other: LimitState = other) -> tuple[Any, Any]:
                if len(self._ways(actions)) == 1:
                    return one.evaluate(actions, t)
                mine, theirs = (
                    np.broadcast_arrays(*(np.asarray(v, float) for v in s.evaluate(actions, NULL)))
                    for s in (one, other)
                )
                more = np.nan_to_num(ratio(*theirs), nan=np.inf) > np.nan_to_num(ratio(*mine), nan=np.inf)
                (other if np.ravel(more)[0] else one).evaluate(actions, t)
                return np.where(more, theirs[0], mine[0]), np.where(more, theirs[1], mine[1])

            yield replace(one, evaluate=worse)

    def _sheared_one_way(self, under: Under, shears: shear.Shears) -> Iterator[LimitState]:
        barred = self.shear_bars.sides if self.shear_bars else ()
        yield from shear.states(self.group, under, shears, barred)
        if self.shear_bars and any(w.side in barred for w in shear.wedges(self.group)):
            yield self.shear_bars.state(under, shears)

    def modes(self, under: Under) -> tuple[list[LimitState], list[LimitState]]:
        """Limit states in tension and in shear, each apart; bars in place of the breakout that they replace."""
        held = bond.states if self.group.installed else tension.heads
        pulled = [*tension.states(self.group, under, self.pulls), *held(self.group, under, self.pulls)]
        if self.pull_bars:
            pulled = [s for s in pulled if s.check != "anchor_breakout_tension"] + [
                self.pull_bars.state(under, self.pulls)
            ]
        sheared = list(self._sheared(under)) if self.shears else []
        return pulled, sheared

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """Every limit state, each once; and both kinds together where the rods take shear."""
        pulled, sheared = self.modes(under)
        yield from pulled
        yield from sheared
        if not sheared:
            return

        def together(actions: Actions, t: Trace) -> tuple[Any, Any]:
            pull, push = (np.max([state.utilisation(actions) for state in of], axis=0) for of in (pulled, sheared))
            t("N", "the highest in tension", pull, self.group.code.clause("anchors_in_tension"), kind="number")
            t("V", "the highest in shear", push, self.group.code.clause("anchors_in_shear"), kind="number")
            return (
                t(
                    "both",
                    "(N + V)/1.2, or one alone up to a fifth of the other",
                    shear.interaction(pull, push),
                    self.group.code.clause("anchor_interaction"),
                    kind="number",
                ),
                1.0,
            )

        yield under.state("anchor_interaction", "number", together)
        if self.lever:
            yield under.state("anchor_bending", "number", lambda a, t: (self._bent(code, a, t), 1.0))

    def _bent(self, code: Code, actions: Actions, t: Trace) -> np.ndarray:
        """Rods between the washer and the concrete, held at both ends."""
        return code.bases.rods_bent(
            self.group.rod, self.pulls(actions).max(axis=-1), self.largest_shear(actions), self.lever, t
        )

    def rules(self, code: Code, washer: float) -> Iterator[DetailingRule]:
        """Rods in the plate and in the concrete; `washer` side of the plate washers, mm."""
        yield at_least("anchors_at_least", "anchors", self.group.n, 4, code.clause("anchors_at_least"), kind="number")
        yield from self._in_concrete()
        yield from self._in_plate(code, washer)
        if self.pull_bars:
            yield from self.pull_bars.rules()
        if self.shear_bars:
            yield from self.shear_bars.rules()
        yield never(
            "anchor_washers_welded",
            "anchors",
            self.shears and not self.group.welded,
            "anchors take the shear through holes that are "
            "larger than they are: weld the plate washers to the plate, or take the shear by friction or a lug",
            code.clause("anchor_washers_welded"),
        )

    def _in_concrete(self) -> Iterator[DetailingRule]:
        group, anchor, d = self.group, self.group.installed, self.group.rod.d
        nearest = float(group.edges.min())
        if math.isfinite(nearest):
            need = group.code.installed.edge(anchor.kind) * d if anchor else COVER + group.rod.flats / math.sqrt(3)
            yield at_least(
                "anchor_edge_in_concrete", "anchors", nearest, need, self.group.code.clause("anchor_edge_in_concrete")
            )
        if group.n > 1:
            yield at_least(
                "anchor_spacing",
                "anchors",
                self.closest,
                (group.code.installed.spacing if anchor else TIGHT) * d,
                self.group.code.clause("anchor_spacing"),
            )
        if anchor and not anchor.adhesive:
            yield at_most(
                "anchor_depth_in_concrete",
                "anchors",
                group.hef,
                group.code.installed.deepest(group.concrete.thickness),
                self.group.code.clause("anchor_depth_in_concrete"),
            )
            return
        yield at_most(
            "anchor_depth_in_concrete",
            "anchors",
            group.hef + d + COVER_BELOW,
            group.concrete.thickness,
            self.group.code.clause("anchor_cover_below"),
        )
        if anchor:
            yield at_least(
                "anchor_bond_least_depth",
                "anchors",
                group.hef,
                group.code.installed.depths[0] * d,
                self.group.code.clause("anchor_bond_least_depth"),
            )
            yield at_most(
                "anchor_bond_most_depth",
                "anchors",
                group.hef,
                group.code.installed.depths[1] * d,
                self.group.code.clause("anchor_bond_most_depth"),
            )

    @property
    def closest(self) -> float:
        """Between the two rods that are nearest to each other, mm."""
        apart = np.linalg.norm(self.group.xy[:, None] - self.group.xy[None], axis=-1)
        return float(apart[np.triu_indices(self.group.n, 1)].min(initial=math.inf))

    def _in_plate(self, code: Code, washer: float) -> Iterator[DetailingRule]:
        plate, rod = self.seat.plate, self.group.rod
        past = np.array([plate.length / 2, plate.width / 2]) - np.abs(self.group.xy)
        yield at_least(
            "anchor_edge_in_plate",
            "plate",
            float(past.min()),
            max(washer / 2, rod.hole / 2 + rod.d / 2),
            code.clause("anchor_edge_in_plate"),
        )
        if self.group.n > 1:
            yield at_least("anchor_washers_clear", "anchors", self.closest, washer, code.clause("anchor_washers_clear"))
