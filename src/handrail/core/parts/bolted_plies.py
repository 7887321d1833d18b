"""A group of bolts between two plies: shear, bearing and tearout on each, slip, holes and spacing.

V acts in a line `e` to the support's side of the group's centroid, N through it. Forces are those on the member.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from handrail.core.actions import Actions, Directions, DirectionTable
from handrail.core.catalogue import Bolt, HoleSize, faying
from handrail.core.codes.asked import NO_FILLER, Filler
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, at_most, never, together
from handrail.core.parts.bolt_group import ByDirection, Grid, by_direction, load_vectors
from handrail.core.quantities.lines import NULL, Trace
from handrail.core.quantities.units import KIP

NOTHING = 1e9  # the utilisation by a load of one of what carries nothing
FAR = 1e6  # mm: no edge this way
TOWARDS_CENTRE = (0.0, 0.5, 0.75)
NONE_AT_ALL = KIP / 1000  # N: what is left of a force that is not there


@dataclass(frozen=True, kw_only=True)
class Ply:
    """What the bolts bear on: its edges from the group's centroid (mm; FAR where there is none).

    `sense` is +1 where the bolts' forces on the member act on this ply, -1 where their opposites do.
    """

    name: str
    t: float
    Fu: float
    hole: HoleSize
    toward_support: float
    away: float
    up: float
    down: float
    sense: float


@dataclass(frozen=True, kw_only=True)
class BoltedPlies:
    """The bolts, their grid and both plies. `tightening` is as catalogue.faying has it; a force along a slot
    counts from `negligible` N. Each bolt is sheared in `planes`; `filler` is what it goes through besides;
    `apart`: each line of bolts goes through a piece of its own."""

    bolt: Bolt
    grid: Grid
    plies: tuple[Ply, Ply]
    e: float
    method: str
    deformation: bool
    tightening: str
    negligible: float
    planes: int = 1
    filler: Filler = NO_FILLER
    apart: bool = False

    @property
    def slip_critical(self) -> bool:
        """Whether the bolts hold by friction."""
        return faying.is_slip_critical(self.tightening)

    @cached_property
    def found(self) -> ByDirection:
        """The bolts' forces in every direction of load, shared by all limit states."""
        return by_direction(self.grid.group, self.e, self.method)

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """`bolt_shear`, `bolt_bearing_...` for each ply, `slip` or `slot_along_...`."""
        yield self._shear(under, code)
        shared = self._directions(lambda at: self._shared_by_strength(code, at))
        for ply in self.plies:
            yield self._bearing(under, code, ply, shared)
        yield from self._slip(under, code)

    def clear_distances(self, ply: Ply, forces: np.ndarray) -> np.ndarray:
        """(t, n) clear distance, mm, in the direction of each bolt's force (J3.11): to an edge or the next hole."""
        hole = ply.hole
        size = np.maximum(np.hypot(forces[..., 0], forces[..., 1]), 1e-12)
        ux, uy = forces[..., 0] / size, forces[..., 1] / size
        half = np.hypot(hole.across / 2 * ux, hole.along / 2 * uy) if hole.slotted else hole.along / 2
        (clear_y, halves_y), (clear_x, halves_x) = self._reaches[ply]

        def reach(u: np.ndarray, clear: np.ndarray, halves: np.ndarray) -> np.ndarray:
            """To the next hole or the edge, whichever is ahead or behind."""
            ahead = u >= 0
            return (
                np.where(ahead, clear[0], clear[1]) / np.maximum(np.abs(u), 1e-9)
                - np.where(ahead, halves[0], halves[1]) * half
            )

        return np.clip(np.minimum(reach(uy, clear_y, halves_y), reach(ux, clear_x, halves_x)), 0.0, FAR)

    @cached_property
    def _reaches(self) -> dict[Ply, tuple[tuple[np.ndarray, np.ndarray], tuple[np.ndarray, np.ndarray]]]:
        """Of each ply, along and across it: (2, n) what is clear ahead and behind of each bolt, and how many half holes
        are in it."""
        xy, next_to = self.grid.group.coordinates, self.grid.group.neighbours
        reaches = {}
        for ply in self.plies:
            edges = (
                (next_to[:, 2:], [ply.up - xy[:, 1], ply.down + xy[:, 1]]),
                (next_to[:, :2], [ply.away - xy[:, 0], ply.toward_support + xy[:, 0]]),
            )
            ways = [
                (np.where(np.isfinite(spacing).T, spacing.T, edge), np.where(np.isfinite(spacing).T, 2, 1))
                for spacing, edge in edges
            ]
            reaches[ply] = (ways[0], ways[1])
        return reaches

    def _on_ply(self, code: Code, ply: Ply, forces: np.ndarray) -> np.ndarray:
        """(t, n) available bearing or tearout of each bolt on `ply` in its own direction, N."""
        bear, tear = code.bolts.bearing_factors(ply.hole, self.deformation)
        lc = self.clear_distances(ply, ply.sense * forces)
        return np.minimum(
            code.bolts.tearout(lc, ply.t, ply.Fu, tear), code.bolts.bearing(self.bolt.d, ply.t, ply.Fu, bear)
        )

    def _least(self, code: Code, forces: np.ndarray) -> np.ndarray:
        shear = np.full(
            forces.shape[:-1], code.splices.filler_factor(self.filler) * code.bolts.shear(self.bolt, self.planes)
        )
        return np.minimum.reduce([self._on_ply(code, p, forces) for p in self.plies] + [shear])

    def _directions(self, use: Callable[[np.ndarray], np.ndarray]) -> Directions:
        """A utilisation worked out by `use` for rows of directions; where bolts and plies are alike top and bottom, V
        down is V up."""
        if self.grid.group.mirror is None or any(p.up != p.down for p in self.plies):
            return Directions(use)

        def upward(rows: np.ndarray) -> np.ndarray:
            folded, back = np.unique(
                np.where(rows < 90, 180 - rows, np.where(rows > 270, 540 - rows, rows)), return_inverse=True
            )
            return use(folded)[back]

        return Directions(upward)

    def _shared_by_strength(self, code: Code, at: np.ndarray) -> np.ndarray:
        """(t,) utilisation for a load of one in the directions `at` when bolts share it by their strengths (J3 user
        note).

        Each bolt takes its part of the direct load in proportion to the least of its shear, bearing and
        tearout, and its part of the moment elastically; or it stands part of the way from there to its force
        about the instantaneous centre. Each is in balance, so the best of them is a lower bound.
        """
        centre, xy = self.found.forces[at], self.grid.group.coordinates
        load = load_vectors(self.found.theta[at])
        strength = self._least(code, np.broadcast_to(load[:, None, :], centre.shape))
        total = strength.sum(axis=1, keepdims=True)
        forces = (strength / np.maximum(total, 1e-9))[..., None] * load[:, None]
        about = (xy[:, 0] * forces[..., 1] - xy[:, 1] * forces[..., 0]).sum(axis=1)
        rest = (-self.e * load[:, 1] - about) / (float((xy**2).sum()) or 1.0)
        forces = forces + rest[:, None, None] * np.stack([-xy[:, 1], xy[:, 0]], axis=-1)
        between = np.concatenate([forces + part * (centre - forces) for part in TOWARDS_CENTRE])
        taken = np.hypot(between[..., 0], between[..., 1]) / np.maximum(self._least(code, between), 1e-9)
        use = taken.max(axis=1).reshape(len(TOWARDS_CENTRE), -1).min(axis=0)  # the best of them, its busiest bolt
        return np.where(total[:, 0] > 1.0, use, NOTHING)  # no bolt has any strength in this direction

    @property
    def effective(self) -> float:
        """C under V alone: V over it is the shear of the busiest bolt."""
        return float(np.interp(0.0, self.found.theta, self.found.C))

    @cached_property
    def _one_over_C(self) -> DirectionTable:
        return DirectionTable(1 / np.maximum(self.found.C, 1e-9))

    def _shear(self, under: Under, code: Code) -> LimitState:
        lines = under.trace()
        rn = code.bolts.shear(self.bolt, self.planes, lines)
        if (left := code.splices.filler_factor(self.filler)) < 1:
            rn = lines("phi r_n", f"{left:.3f} of it through fillers", left * rn, code.clause("fillers"))

        def evaluate(actions: Actions, t: Trace) -> tuple[Any, Any]:
            C = t(
                "C",
                "effective bolts at this direction and lever",
                1 / self._one_over_C.at(actions),
                code.clause("eccentric_bolts"),
                e=self.e,
            )
            return together(actions, t), t(
                "phi Rn", "C r_n, available", C * rn, code.clause("bolt_shear"), kind="force"
            )

        return under.state("bolt_shear", "force", evaluate, lines)

    def _bearing(self, under: Under, code: Code, ply: Ply, shared: Directions) -> LimitState:
        state = self.found

        def about_centre(at: np.ndarray) -> np.ndarray:
            forces = state.forces[at]
            return (np.hypot(forces[..., 0], forces[..., 1]) / np.maximum(self._on_ply(code, ply, forces), 1e-9)).max(
                axis=1
            )

        by_centre = self._directions(about_centre)
        table = Directions(lambda rows: np.minimum(by_centre.rows(rows), shared.rows(rows)))

        def explain(t: Trace, row: int) -> None:
            forces = state.forces[row : row + 1]
            lc, strengths = self.clear_distances(ply, ply.sense * forces)[0], self._on_ply(code, ply, forces)[0]
            for i, share in enumerate(np.linalg.norm(forces[0], axis=-1)):
                values: dict[str, Any] = {"lc": float(lc[i])} if lc[i] < FAR / 2 else {}
                values["phi r_n"] = float(strengths[i])
                t(
                    f"k_{i + 1}",
                    "bolt's own share of a load of one, over its strength in that direction",
                    float(share),
                    kind="number",
                    **values,
                )
            here = np.array([row])
            if shared.rows(here)[0] < by_centre.rows(here)[0]:
                t(
                    "phi Rn",
                    "1 / max(share/strength), best sharing in balance",
                    1 / float(shared.rows(here)[0]),
                    code.clause("bolts_together"),
                    kind="force",
                )

        def evaluate(actions: Actions, t: Trace) -> tuple[Any, Any]:
            if t.on:
                explain(t, int(np.ravel(actions.degrees[0])[0]))
            strength = t(
                "phi Rn",
                "load at which the first bolt reaches its strength",
                1 / table.at(actions),
                code.clause("bolt_bearing"),
                kind="force",
            )
            return together(actions, t), strength

        return Under(under.code, ply.name, under.tracing).state(f"bolt_bearing_{ply.name}", "force", evaluate)

    def _along_V(self) -> list[HoleSize]:
        return [p.hole for p in self.plies if p.hole.along > p.hole.across]

    def _along_N(self) -> list[HoleSize]:
        return [p.hole for p in self.plies if p.hole.across > p.hole.along]

    def _slip(self, under: Under, code: Code) -> Iterator[LimitState]:
        """Friction of slip-critical bolts (J3.9); else no force along a slot (J3.3), whichever ply has it."""
        if self.slip_critical:
            yield self._friction(under, code)
            return
        if self._along_V():
            yield under.state(
                "slot_along_V",
                "force",
                lambda actions, t: (t("Vr", "|V| along the slots of bolts in bearing", actions.shear), NONE_AT_ALL),
                limit=True,
            )
        if self._along_N():
            yield under.state(
                "slot_along_N",
                "force",
                lambda actions, t: (t("Nr", "|N| along the slots of bolts in bearing", actions.axial), self.negligible),
                limit=True,
            )

    def _friction(self, under: Under, code: Code) -> LimitState:
        holes = [p.hole for p in self.plies]
        loose = bool(self._along_V()) or any(h.type == "OVS" for h in holes)
        surface, lines = faying.surface(self.tightening), under.trace()

        def least(along: bool, t: Trace) -> float:
            worst = min(holes, key=lambda h: code.bolts.slip(self.bolt, h, surface, along))
            each = code.bolts.slip(self.bolt, worst, surface, along, t)
            return each if self.planes == 1 else t("phi r_n", f"{self.planes} planes", self.planes * each, kind="force")

        square, turned = least(loose, lines), least(True, NULL)

        def evaluate(actions: Actions, t: Trace) -> tuple[Any, Any]:
            each = np.where(actions.axial > 1e-3 * actions.shear, turned, square)
            strength = t(
                "phi Rn", "C r_n, available", each / self._one_over_C.at(actions), code.clause("slip"), kind="force"
            )
            return together(actions, t), strength

        return under.state("slip", "force", evaluate, lines)

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """Count, spacing, clear distance and largest spacing, and the holes that go with the bolts' tightening."""
        grid, d = self.grid, self.bolt.d
        apart, most = code.bolts.min_spacing(d), code.bolts.max_spacing(min(p.t for p in self.plies))
        near, wide = code.clause("spacing"), code.clause("max_spacing")
        yield at_least("bolt_count", "bolts", grid.n, 2, "", "number")
        if grid.rows > 1:
            yield at_least("spacing", "bolts", grid.pitch, apart, near)
            yield at_least("clear_spacing", "bolts", grid.pitch - max(p.hole.along for p in self.plies), d, near)
            yield at_most("max_spacing", "bolts", grid.pitch, most, wide)
        if grid.columns > 1:
            yield at_least("gauge", "bolts", grid.gauge, apart, near)
            yield at_least("clear_gauge", "bolts", grid.gauge - max(p.hole.across for p in self.plies), d, near)
            if not self.apart:
                yield at_most("max_gauge", "bolts", grid.gauge, most, wide)
        outer = [self.plies[0].t / self.planes] if self.planes > 1 else [p.t for p in self.plies]
        washers = self.tightening != "snug" or any(p.hole.type != "STD" for p in self.plies)
        grip = sum(p.t for p in self.plies)
        yield from threads(code, "threads_excluded", self.bolt, grip, outer, self.planes > 1, washers)
        yield from self._holes(code)

    def _holes(self, code: Code) -> Iterator[DetailingRule]:
        clause = code.clause("slots")
        holes = [p.hole for p in self.plies]
        if any(h.type == "OVS" for h in holes):
            yield never(
                "oversized_in_bearing",
                "bolts",
                not self.slip_critical,
                "oversized holes need slip-critical bolts",
                clause,
            )
        if any(h.type.startswith("LS") for h in holes):
            both = all(h.type.startswith("LS") for h in holes)
            yield never(
                "long_slots_in_one_ply", "bolts", both, "long slots may be in one of the two plies only", clause
            )

    def edge_rules(
        self, code: Code, ply: Ply, edges: dict[str, tuple[float, str]], thickness: float
    ) -> Iterator[DetailingRule]:
        """Least and largest edge distances of a ply: `edges` gives (distance, along or across V) by rule name; FAR is
        none."""
        clause, wide = code.clause("edge_distance"), code.clause("max_edge_distance")
        given = {rule: edge for rule, edge in edges.items() if edge[0] < FAR / 2}
        for rule, (distance, way) in given.items():
            slot = ply.hole.along > ply.hole.across if way == "along" else ply.hole.across > ply.hole.along
            yield at_least(rule, ply.name, distance, code.bolts.min_edge(self.bolt, ply.hole, slot), clause)
        if given:
            name = "max_edge_distance" if ply.name == "plate" else f"max_{ply.name}_edge_distance"
            yield at_most(
                name, ply.name, max(distance for distance, _ in given.values()), code.bolts.max_edge(thickness), wide
            )


def threads(
    code: Code, name: str, bolt: Bolt, grip: float, outer: list[float], every: bool, washers: bool
) -> Iterator[DetailingRule]:
    """Threads that are counted as excluded are out of the shear planes: the ply under the nut is thick enough,
    whichever of `outer` it is; of `every` outer ply where each has a plane beside it."""
    if bolt.threads == "X":
        yield at_least(
            name,
            "bolts",
            min(outer) if every else max(outer),
            bolt.excluded_from(grip, washers),
            code.clause("threads_excluded"),
        )


def room_for_wrench(code: Code, distances: list[float], bolt: Bolt) -> DetailingRule:
    """A socket fits between a bolt's centre and what stands nearest to it, mm (Manual Part 7)."""
    return at_least("bolt_tightening", "bolts", min(distances), bolt.tightening, code.clause("bolt_tightening"))
