"""How a base rests under every combination: by a block of pressure or a plane of strain, what presses and what
pulls."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.codes.asked import Overhang
from handrail.core.parts.bearing.block import block, lever
from handrail.core.parts.bearing.footprint import Footprint
from handrail.core.parts.bearing.strain import pressed_moments, strain

METHODS = ("auto", "block", "strain")
NOISE = 1e-6  # of what the plate bears: a solver's rest of a moment
POINTS = 24  # along a strip of plate under a plane of strain
ALONG, ACROSS = 0, 1


@dataclass(frozen=True, kw_only=True)
class Rest:
    """All in the actions' shape: `by_strain` which method it was; `pressure` the largest, MPa; `depth` of the block,
    mm; `sign` of its edge on `axis` (0 along, 1 across); `plane` (..., 3) the strain; `use` of the concrete's limit, 1
    where a block is at it, without end where nothing balances, NaN where the method has no answer; `tensions` (...,
    rods) N, 0 where nothing balances."""

    by_strain: np.ndarray
    pressure: np.ndarray
    depth: np.ndarray
    axis: np.ndarray
    sign: np.ndarray
    plane: np.ndarray
    use: np.ndarray
    tensions: np.ndarray


@dataclass(frozen=True, kw_only=True)
class Seat:
    """A plate on concrete that bears `limit` MPa, under a `column` that stands so far from its middle, mm. `method` is
    one of METHODS: auto takes the block where moment is about one axis in all combinations and the rods are alike about
    both, and strain elsewhere. Shear that is taken `lug` mm below the plate adds its couple. `Ec` and `Es` MPa."""

    plate: Footprint
    limit: float
    method: str
    Ec: float
    Es: float
    column: tuple[float, float] = (0.0, 0.0)
    lug: float = 0.0

    @cached_property
    def little(self) -> tuple[float, float]:
        """Moments along and across that are none, N*mm."""
        L, B = self.plate.length, self.plate.width
        return NOISE * self.limit * B * L**2 / 6, NOISE * self.limit * L * B**2 / 6

    def blocks(self, axis: int) -> bool:
        """Whether the block method holds about one axis: anchors in two rows alike."""
        try:
            lever(self.plate, axis)
        except ValueError:
            return False
        return True

    def loads(self, actions: Actions) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """(P pressing +, moments about the plate's middle that press its plus side along and across), with N's own off
        the middle, and the couple of a lug's reaction (ACI 318-19 17.11.1.1.9)."""
        x, y = self.column
        along, across = (
            -actions.M - self.lug * actions.V - actions.N * x,
            -actions.Mw - self.lug * actions.Vw - actions.N * y,
        )
        moments = [
            np.where(np.abs(m) > least, m, m * 0.0) for m, least in zip((along, across), self.little, strict=True)
        ]
        return -actions.N, moments[0], moments[1]

    def rest(self, actions: Actions) -> Rest:
        """The base under the actions, worked out once."""
        return actions.once(("rest", self), lambda: self._rest(actions))

    def _rest(self, actions: Actions) -> Rest:
        P, Mx, My = np.broadcast_arrays(*self.loads(actions))
        plain = ALONG if self.blocks(ALONG) or not self.blocks(ACROSS) else ACROSS  # where no moment says which
        axis = np.where(Mx != 0, ALONG, np.where(My != 0, ACROSS, plain))
        by_strain = self._by_strain(Mx, My) if actions.part_of is None else self._as_whole(*actions.part_of)
        rest = self._empty(P.shape)
        rest.by_strain[...], rest.axis[...] = by_strain, axis
        for way, M in ((ALONG, Mx), (ACROSS, My)):
            here = ~by_strain & (axis == way)
            if here.any() and not self.blocks(way):
                rest.use[here], rest.tensions[here] = np.nan, np.nan
            elif here.any():
                self._by_block(rest, here, way, P[here], M[here])
        if by_strain.any():
            self._by_plane(rest, by_strain, P[by_strain], Mx[by_strain], My[by_strain])
        unknown = np.isnan(P + Mx + My) | (~by_strain & (Mx != 0) & (My != 0))
        rest.use[unknown] = np.nan
        rest.tensions[unknown] = np.nan
        return rest

    def _as_whole(self, whole: Actions, index: tuple[int, ...]) -> np.ndarray:
        """Whether one of a connection's combinations is: as all of them are."""
        return np.atleast_1d(self.rest(whole).by_strain[index])

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
        return Rest(
            by_strain=np.zeros(shape, bool),
            pressure=zeros.copy(),
            depth=zeros.copy(),
            axis=np.zeros(shape, int),
            sign=np.ones(shape),
            plane=np.zeros((*shape, 3)),
            use=zeros.copy(),
            tensions=np.zeros((*shape, n)),
        )

    def _by_block(self, rest: Rest, here: np.ndarray, axis: int, P: np.ndarray, M: np.ndarray) -> None:
        solved = block(self.plate, axis, P, M, self.limit)
        rest.pressure[here], rest.depth[here], rest.sign[here] = solved.pressure, solved.length, solved.sign
        rest.tensions[here] = np.where(solved.solved[:, None], solved.tensions, 0.0)
        rest.use[here] = np.where(solved.solved, np.minimum(solved.pressure / self.limit, 1.0), np.inf)

    def _by_plane(self, rest: Rest, here: np.ndarray, P: np.ndarray, Mx: np.ndarray, My: np.ndarray) -> None:
        solved = strain(self.plate, P, Mx, My, self.limit, self.Ec, self.Es)
        rest.plane[here] = np.where(solved.solved[:, None], solved.strain, 0.0)
        rest.pressure[here] = np.where(solved.solved, solved.pressure, self.limit)
        rest.tensions[here] = np.where(solved.solved[:, None], solved.tensions, 0.0)
        rest.use[here] = np.where(solved.solved, np.minimum(solved.pressure / self.limit, 1.0), np.inf)

    def strips(self, actions: Actions, over: Overhang, relief: Any) -> np.ndarray:
        """The largest moment of one millimetre of plate that is bent up past the column, N*mm/mm, in the actions'
        shape; `relief(use)` is lambda of n' (Manual Part 14)."""
        rest = self.rest(actions)
        within = max(over.within, 0.0)
        moment = (
            rest.pressure * (relief(np.minimum(rest.use, 1.0)) * within) ** 2 / 2
            if within
            else np.zeros(rest.pressure.shape)
        )
        reach = self.reaches(over)
        for axis in (ALONG, ACROSS):
            size, (minus, plus), other = (self.plate.length, self.plate.width)[axis], reach[axis], max(reach[1 - axis])
            for way, own, far in ((1.0, plus, minus), (-1.0, minus, plus)):
                here = ~rest.by_strain & (rest.axis == axis) & (rest.sign == way)
                if not here.any():
                    continue
                p, deep = rest.pressure[here], rest.depth[here]
                bent = np.maximum(pressed(p, deep, own), pressed(p, deep, other))  # n in place of m (Design Guide 1)
                behind = np.maximum(deep - (size - max(far, 0.0)), 0.0)  # of the block past the column's other line
                moment[here] = np.maximum.reduce([moment[here], bent, p * behind**2 / 2])
        if rest.by_strain.any():
            bent = self._strips_of_plane(rest.plane[rest.by_strain], over)
            moment[rest.by_strain] = np.maximum(moment[rest.by_strain], bent)
        return moment

    def reaches(self, over: Overhang) -> tuple[tuple[float, float], tuple[float, float]]:
        """How far the plate reaches past the column's lines on the minus and the plus side, along and across, mm."""
        (x, y), along, across = self.column, over.along, over.across
        return (along + x, along - x), (across + y, across - y)

    def grip(self, actions: Actions) -> tuple[np.ndarray, np.ndarray]:
        """(centre of the pressure from the column (..., 2), the arm by which its friction holds torsion about it
        (...)), mm, where something presses; else nothing. Friction may turn about the centre in proportion to the
        distance: with no more than its share anywhere it holds the pressure's second moment over its farthest point,
        which is on the safe side."""
        return actions.once(("grip", self), lambda: self._grip(actions))

    def _grip(self, actions: Actions) -> tuple[np.ndarray, np.ndarray]:
        rest = self.rest(actions)
        force, first, second = self._pressed_moments(rest)
        safe = np.where(force > 0, force, 1.0)
        centre = first / safe[..., None]
        polar = np.maximum(second / safe - (centre**2).sum(axis=-1), 0.0)
        half = np.array([self.plate.length / 2, self.plate.width / 2])
        farthest = np.linalg.norm(np.abs(centre) + half, axis=-1)
        pressing = force > 0
        return np.where(pressing[..., None], centre - np.array(self.column), 0.0), np.where(
            pressing, polar / farthest, 0.0
        )

    def _pressed_moments(self, rest: Rest) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """(force (...), its first moments (..., 2), its polar second moment (...)) of what presses, about the plate's
        middle."""
        axis_along = rest.axis == ALONG
        size, wide = (
            np.where(axis_along, self.plate.length, self.plate.width),
            np.where(axis_along, self.plate.width, self.plate.length),
        )
        force, at = rest.pressure * rest.depth * wide, rest.sign * (size - rest.depth) / 2
        first = np.stack([np.where(axis_along, force * at, 0.0), np.where(axis_along, 0.0, force * at)], axis=-1)
        second = force * (at**2 + rest.depth**2 / 12 + wide**2 / 12)
        if rest.by_strain.any():
            here = rest.by_strain
            force[here], first[here], second[here] = pressed_moments(
                self.plate, rest.plane[here], self.limit, self.Ec, self.Es
            )
        return force, first, second

    def _strips_of_plane(self, plane: np.ndarray, over: Overhang) -> np.ndarray:
        """(m,) of planes (m, 3): on each side the strip that is pressed most, its pressure as the plane gives it."""
        most = np.zeros(len(plane))
        halves = (self.plate.length / 2, self.plate.width / 2)
        for axis, sides in enumerate(self.reaches(over)):
            beside = np.abs(plane[:, 2 - axis]) * halves[1 - axis]  # the corner that is pressed more
            for way, reach in zip((-1.0, 1.0), sides, strict=True):
                step = max(reach, 0.0) / POINTS
                lever_ = (np.arange(POINTS) + 0.5) * step
                at = halves[axis] - max(reach, 0.0) + lever_
                strained = plane[:, :1] + way * plane[:, 1 + axis : 2 + axis] * at + beside[:, None]
                pressure = np.clip(self.Ec * strained, 0.0, self.limit)
                most = np.maximum(most, (pressure * lever_).sum(axis=1) * step)
        return most


def pressed(pressure: np.ndarray, block: np.ndarray, reach: float) -> np.ndarray:
    """Moment of one millimetre of plate that reaches `reach` past the column over a block of even `pressure` (MPa) that
    is `block` mm deep from the plate's edge, N*mm/mm (Design Guide 1): the pressure's own lever where the block ends
    sooner."""
    reach = max(reach, 0.0)
    deep = np.minimum(block, reach)
    return np.asarray(pressure) * deep * (reach - deep / 2)
