"""How a base rests under every combination: by a block of pressure or a plane of strain, what presses and what pulls."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.codes.aisc360 import bases
from handrail.core.parts.bearing.block import block, lever
from handrail.core.parts.bearing.footprint import Footprint
from handrail.core.parts.bearing.strain import strain

METHODS = ("auto", "block", "strain")
POINTS = 24  # along a strip of plate under a plane of strain
ALONG, ACROSS = 0, 1


@dataclass(frozen=True)
class Rest:
    """All in the actions' shape: `by_strain` which method it was; `pressure` the largest, MPa; `depth` of the block, mm; `sign` of its
    edge on `axis` (0 along, 1 across); `plane` (..., 3) the strain; `use` of the concrete's limit, 1 where a block is at it, without
    end where nothing balances, NaN where the method has no answer; `tensions` (..., rods) N, 0 where nothing balances."""

    by_strain: np.ndarray
    pressure: np.ndarray
    depth: np.ndarray
    axis: np.ndarray
    sign: np.ndarray
    plane: np.ndarray
    use: np.ndarray
    tensions: np.ndarray


@dataclass(frozen=True)
class Seat:
    """A plate on concrete that bears `limit` MPa. `method` is one of METHODS: auto takes the block where moment is about one axis in
    all combinations, and strain elsewhere. Moments under `little` (along, across), N*mm, are left out. Shear that is taken `lug`
    mm below the plate adds its couple. `Ec` and `Es` MPa."""

    plate: Footprint
    limit: float
    method: str
    Ec: float
    Es: float
    little: tuple[float, float]
    lug: float = 0.0

    def blocks(self, axis: int) -> bool:
        """Whether the block method holds about one axis: anchors in two rows alike."""
        try:
            lever(self.plate, axis)
        except ValueError:
            return False
        return True

    def loads(self, actions: Actions) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """(P pressing +, moments that press the plus side along and across), with the couple of a lug's reaction (ACI 318-19
        17.11.1.1.9)."""
        along, across = -actions.M - self.lug * actions.V, -actions.Mw - self.lug * actions.Vw
        found = [np.where(np.abs(m) > least, m, m * 0.0) for m, least in zip((along, across), self.little, strict=True)]
        return -actions.N, found[0], found[1]

    def rest(self, actions: Actions) -> Rest:
        """The base under the actions, worked out once."""
        return actions.once(("rest", self), lambda: self._rest(actions))

    def _rest(self, actions: Actions) -> Rest:
        P, Mx, My = np.broadcast_arrays(*self.loads(actions))
        plain = ALONG if self.blocks(ALONG) or not self.blocks(ACROSS) else ACROSS  # where no moment says which
        axis = np.where(Mx != 0, ALONG, np.where(My != 0, ACROSS, plain))
        by_strain = self._by_strain(Mx, My)
        found = self._empty(P.shape)
        found.by_strain[...], found.axis[...] = by_strain, axis
        for way, M in ((ALONG, Mx), (ACROSS, My)):
            here = ~by_strain & (axis == way)
            if here.any() and not self.blocks(way):
                found.use[here], found.tensions[here] = np.nan, np.nan
            elif here.any():
                self._by_block(found, here, way, P[here], M[here])
        if by_strain.any():
            self._by_plane(found, by_strain, P[by_strain], Mx[by_strain], My[by_strain])
        unknown = np.isnan(P + Mx + My) | (~by_strain & (Mx != 0) & (My != 0))
        found.use[unknown] = np.nan
        found.tensions[unknown] = np.nan
        return found

    def _by_strain(self, Mx: np.ndarray, My: np.ndarray) -> np.ndarray:
        """Which actions are solved by a plane of strain: all combinations of a connection alike."""
        if self.method != "auto":
            return np.full(Mx.shape, self.method == "strain")
        bent = [np.nan_to_num(m).any(axis=-1, keepdims=True) for m in (Mx, My)]
        both = bent[0] & bent[1]
        along, across = self.blocks(ALONG), self.blocks(ACROSS)
        cannot = (bent[0] & (not along)) | (bent[1] & (not across)) | (~bent[0] & ~bent[1] & (not (along or across)))
        return np.broadcast_to(both | cannot, Mx.shape)

    def _empty(self, shape: tuple[int, ...]) -> Rest:
        zeros = np.zeros(shape)
        n = len(self.plate.xy)
        return Rest(np.zeros(shape, bool), zeros.copy(), zeros.copy(), np.zeros(shape, int), np.ones(shape), np.zeros((*shape, 3)),
                    zeros.copy(), np.zeros((*shape, n)))  # fmt: skip

    def _by_block(self, found: Rest, here: np.ndarray, axis: int, P: np.ndarray, M: np.ndarray) -> None:
        solved = block(self.plate, axis, P, M, self.limit)
        found.pressure[here], found.depth[here], found.sign[here] = solved.pressure, solved.length, solved.sign
        found.tensions[here] = np.where(solved.solved[:, None], solved.tensions, 0.0)
        found.use[here] = np.where(solved.solved, np.minimum(solved.pressure / self.limit, 1.0), np.inf)

    def _by_plane(self, found: Rest, here: np.ndarray, P: np.ndarray, Mx: np.ndarray, My: np.ndarray) -> None:
        solved = strain(self.plate, P, Mx, My, self.limit, self.Ec, self.Es)
        found.plane[here] = np.where(solved.solved[:, None], solved.strain, 0.0)
        found.pressure[here] = np.where(solved.solved, solved.pressure, self.limit)
        found.tensions[here] = np.where(solved.solved[:, None], solved.tensions, 0.0)
        found.use[here] = np.where(solved.solved, np.minimum(solved.pressure / self.limit, 1.0), np.inf)

    def strips(self, actions: Actions, over: bases.Overhang, relief: Any) -> np.ndarray:
        """The largest moment of one millimetre of plate that is bent up past the column, N*mm/mm, in the actions' shape; `relief(use)`
        is lambda of n' (Manual Part 14)."""
        rest = self.rest(actions)
        within = max(over.within, 0.0)
        found = rest.pressure * (relief(np.minimum(rest.use, 1.0)) * within) ** 2 / 2 if within else np.zeros(rest.pressure.shape)
        for axis, (own, other) in ((ALONG, (over.along, over.across)), (ACROSS, (over.across, over.along))):
            here = ~rest.by_strain & (rest.axis == axis)
            if here.any():
                p, deep = rest.pressure[here], rest.depth[here]
                bent = np.maximum(bases.pressed(p, deep, own), bases.pressed(p, deep, other))  # n in place of m (Design Guide 1)
                found[here] = np.maximum(found[here], bent)
        if rest.by_strain.any():
            bent = self._strips_of_plane(rest.plane[rest.by_strain], over)
            found[rest.by_strain] = np.maximum(found[rest.by_strain], bent)
        return found

    def _strips_of_plane(self, plane: np.ndarray, over: bases.Overhang) -> np.ndarray:
        """(m,) of planes (m, 3): on each side the strip that is pressed most, its pressure as the plane gives it."""
        most = np.zeros(len(plane))
        halves = (self.plate.length / 2, self.plate.width / 2)
        for axis, reach in ((ALONG, max(over.along, 0.0)), (ACROSS, max(over.across, 0.0))):
            step = reach / POINTS
            lever_ = (np.arange(POINTS) + 0.5) * step
            at = halves[axis] - reach + lever_
            beside = np.abs(plane[:, 2 - axis]) * halves[1 - axis]  # the corner that is pressed more
            for way in (1.0, -1.0):
                strained = plane[:, :1] + way * plane[:, 1 + axis : 2 + axis] * at + beside[:, None]
                pressure = np.clip(self.Ec * strained, 0.0, self.limit)
                most = np.maximum(most, (pressure * lever_).sum(axis=1) * step)
        return most
