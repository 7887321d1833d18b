"""A steel plate, or two crossed, welded under a base plate and standing in a pocket of the concrete: it takes the shear
(ACI 318-19 17.11)."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Electrode, Grade
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, at_most, never
from handrail.core.parts.anchors import AnchorGroup
from handrail.core.parts.bearing import Footprint
from handrail.core.quantities.lines import Trace
from handrail.core.quantities.units import INCH

ALONG, ACROSS = 0, 1
BELOW = 3 * INCH  # concrete under it
PAST = 0.01  # of what its edge bears: a solver's rest of shear past its face


@dataclass(frozen=True, kw_only=True)
class ShearLug:
    """`width` across its shear, `depth` below the concrete's face, `t` thick, mm, through `grout` mm; `ways` the axes
    whose shear its faces meet (0 along, 1 across); fillets of `weld` mm on both faces. It stands under the column, `at`
    mm from the middle of a plate that is `plate_t` thick. `pulls` gives (..., rods) N."""

    width: float
    depth: float
    t: float
    grade: Grade
    grout: float
    weld: float
    electrode: Electrode
    ways: tuple[int, ...]
    plate: Footprint
    group: AnchorGroup
    at: tuple[float, float] = (0.0, 0.0)
    plate_t: float = 0.0
    pulls: Callable[[Actions], np.ndarray] = field(
        default=lambda actions: np.zeros((*actions.V.shape, 1)), compare=False
    )

    @property
    def lever(self) -> float:
        """From the plate to where the concrete presses, mm: the middle of what bears."""
        return self.grout + self.bears / 2

    @property
    def bears(self) -> float:
        """How deep its face bears, mm."""
        return self.group.code.lugs.effective_depth(self.depth, self.t, self.grout)

    def _shear(self, actions: Actions, way: int) -> np.ndarray:
        """On the concrete, + towards the plus side, N."""
        return -(actions.V if way == ALONG else actions.Vw)

    def concrete(self, under: Under) -> Iterator[LimitState]:
        """Bearing and breakout, each way that it faces; shear that it does not face is carried by nothing."""
        yield under.state("lug_bearing", "force", self._bearing)
        if any(math.isfinite(e) for side in (self.group.concrete.along, self.group.concrete.across) for e in side):
            lines = under.trace()
            held = {(way, sign): self._breakout(way, sign, lines) for way in self.ways for sign in (-1, 1)}
            held |= {(way, 2 * sign): self._beside(way, sign, lines) for way in self.ways for sign in (-1, 1)}
            yield under.state("lug_breakout", "number", lambda a, t: (self._breaks(a, held, t), 1.0), lines)
        bears = PAST * self.group.code.lugs.bearing(self.group.concrete.fc, self.t * self.bears, 1.0)
        if len(self.ways) == 1:
            other = 1 - self.ways[0]
            yield under.state(
                "lug_faces_shear",
                "force",
                lambda a, t: (t("Vr", "shear past the lug's face", np.abs(self._shear(a, other)), kind="force"), bears),
                limit=True,
            )
        yield replace(
            under.state(
                "lug_torsion",
                "moment",
                lambda a, t: (t("T", "which a lug does not carry", np.abs(a.T), kind="moment"), bears * self.width / 2),
                limit=True,
            ),
            says=_turns,
        )

    def _bearing(self, actions: Actions, t: Trace) -> tuple[Any, Any]:
        steel = (self.pulls(actions) > 0).sum(axis=-1) * self.group.code.tension.nominal_steel(self.group.rod)
        factor = self.group.code.lugs.axial_factor(
            -actions.N, self.plate.length * self.plate.width, self.group.concrete.fc, steel, t
        )
        held = self.group.code.lugs.bearing(self.group.concrete.fc, self.width * self.bears, factor, t)
        most = np.max([np.abs(self._shear(actions, way)) for way in self.ways], axis=0)
        return t("Vr", "on one face", most, kind="force", V=actions.V), held

    def _breakout(self, way: int, sign: int, trace: Trace) -> float:
        """N, towards the edge on the `sign` side of `way`; without end where that is too far to count."""
        c = self.group.concrete
        own, beside = (c.along, c.across) if way == ALONG else (c.across, c.along)
        mine, other = self.at[way], self.at[1 - way]
        edge = own[sign > 0] - sign * mine - self.t / 2
        if not math.isfinite(edge):
            return math.inf
        ends = (beside[0] + other - self.width / 2, beside[1] - other - self.width / 2)
        return self.group.code.lugs.breakout(
            c.fc, edge, self.width, self.bears, ends, c.thickness, c.cracked, trace, light=c.light
        )

    def _beside(self, way: int, sign: int, trace: Trace) -> float:
        """N, of shear along an edge on the `sign` side across the shear; without end where that is too far to count."""
        c = self.group.concrete
        own, ends = (c.across, c.along) if way == ALONG else (c.along, c.across)
        mine, other = self.at[1 - way], self.at[way]
        edge = own[sign > 0] - sign * mine - self.width / 2
        if not math.isfinite(edge):
            return math.inf
        beside = (ends[0] + other - self.t / 2, ends[1] - other - self.t / 2)
        return self.group.code.lugs.breakout(
            c.fc, edge, self.t, self.bears, beside, c.thickness, c.cracked, trace, along=True, light=c.light
        )

    def _breaks(self, actions: Actions, held: dict[tuple[int, int], float], t: Trace) -> np.ndarray:
        most = np.zeros(actions.V.shape)
        for (way, sign), strength in held.items():  # sign 2: along an edge beside it, either way
            shear = self._shear(actions, way)
            towards = np.abs(shear) if abs(sign) > 1 else np.maximum(sign * shear, 0.0)
            with np.errstate(divide="ignore", invalid="ignore"):
                most = np.maximum(most, np.where(towards == 0, towards, towards / strength if strength else np.inf))
        return t("use", "the highest of all edges", most, kind="number")

    def steel(self, under: Under, code: Code) -> Iterator[LimitState]:
        """The lug as a cantilever from the plate, its shear and its fillets."""
        Fy = self.grade.Fy
        flexure = under.trace()
        Mn = code.plates.flexure_yield(Fy, self.width * self.t**2 / 4, flexure)

        def bent(actions: Actions, t: Trace) -> tuple[Any, Any]:
            return t("Mr", "V (grout + half of what bears)", self._most(actions) * self.lever, kind="moment"), Mn

        yield under.state("lug_flexure", "moment", bent, flexure)
        if self.plate_t:
            plate = under.trace()
            strip = code.bases.strip(Fy, self.plate_t, plate)
            yield under.state(
                "lug_bends_plate",
                "strip",
                lambda a, t: (
                    t(
                        "Mr",
                        "half of V (grout + half of what bears), on either side, over its width",
                        self._most(a) * self.lever / 2 / self.width,
                        kind="strip",
                    ),
                    strip,
                ),
                plate,
            )
        yield under.fixed(
            "lug_shear",
            "force",
            lambda t: code.plates.shear_yield(Fy, self.width * self.t, t),
            lambda a, t: self._most(a),
        )
        line = under.trace()
        each = code.welds.fillet(self.electrode, self.weld, line)

        def welded(actions: Actions, t: Trace) -> tuple[Any, Any]:
            V = self._most(actions)
            couple = V * self.lever / (self.t + self.weld) / self.width
            return (
                t(
                    "f",
                    "sqrt((M/(t + w)/b)^2 + (V/2b)^2), each mm",
                    np.hypot(couple, V / (2 * self.width)),
                    kind="per_length",
                ),
                each,
            )

        yield under.state("lug_weld", "per_length", welded, line)

    def _most(self, actions: Actions) -> np.ndarray:
        return np.max([np.abs(self._shear(actions, way)) for way in self.ways], axis=0)

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """It fits under the plate and in the concrete, clear of the rods."""
        half = self.width / 2
        room = [
            (self.plate.width if way == ALONG else self.plate.length) / 2 - abs(self.at[1 - way]) for way in self.ways
        ]
        yield at_most("lug_under_plate", "lug", half, min(room))
        yield at_most(
            "lug_in_concrete",
            "lug",
            self.depth + BELOW,
            self.group.concrete.thickness,
            self.group.code.clause("lug_in_concrete"),
        )
        yield at_least("lug_depth", "lug", self.bears, self.t / 2, self.group.code.clause("lug_depth"))
        yield at_least(
            "lug_above_anchors",
            "lug",
            self.group.hef,
            self.group.code.lugs.over_rods * self.depth,
            self.group.code.clause("lug_above_anchors"),
        )
        aside = max(float(np.abs(self.group.xy[:, way] - self.at[way]).min()) for way in self.ways)
        yield at_least(
            "lug_beside_anchors",
            "lug",
            self.group.hef,
            self.group.code.lugs.over_rods * aside,
            self.group.code.clause("lug_beside_anchors"),
        )
        if self.plate_t:
            yield at_most(
                "lug_no_thicker_than_plate", "lug", self.t, self.plate_t, code.clause("lug_no_thicker_than_plate")
            )
        lines = [(self.t / 2, half) if way == ALONG else (half, self.t / 2) for way in self.ways]
        hit = any(
            (np.abs(self.group.xy - np.array(self.at)) < np.array(size) + self.group.rod.d).all(axis=1).any()
            for size in lines
        )
        yield never(
            "lug_clear_of_anchors",
            "lug",
            bool(hit),
            "a rod stands where the lug is",
            self.group.code.clause("lug_clear_of_anchors"),
        )
        yield at_least("lug_weld_size", "lug", self.weld, code.welds.min_size(self.t), code.clause("lug_weld_size"))


def _turns(use: float, action: str, system: str) -> str:
    return f"T in {action}, which a lug does not carry (lug_torsion): take the shear by anchors or by friction"
