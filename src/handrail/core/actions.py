"""What acts on a connection: N, V, Vw, M, Mw, T of every combination, and what belongs with them."""

from __future__ import annotations

import math
from collections.abc import Callable, Hashable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, TypeVar

import numpy as np

COMPONENTS = ("N", "V", "Vw", "M", "Mw", "T")
STEEL_SETS = ("strength", "overstrength")
Array = np.ndarray | float
Solution = TypeVar("Solution")


@dataclass(frozen=True)
class Turned:
    """Forces in the support's own axes, N: `along` its face (up), `normal` to it (+ pulls away), `across` it."""

    along: np.ndarray
    normal: np.ndarray
    across: Array = 0.0

    @cached_property
    def shear(self) -> np.ndarray:
        """|along|."""
        return np.abs(self.along)

    @cached_property
    def axial(self) -> np.ndarray:
        """|normal|."""
        return np.abs(self.normal)

    @cached_property
    def thrust(self) -> np.ndarray:
        """The force that presses on the face, else 0."""
        return np.maximum(-self.normal, 0.0)

    @cached_property
    def size(self) -> np.ndarray:
        """All of it together."""
        return np.sqrt(self.along**2 + self.normal**2 + np.square(self.across))


@dataclass(frozen=True)
class Forces:
    """What acts on another member at the connection, in the same combinations; N, V, Vw in N and M, Mw, T in N*mm."""

    N: Array = 0.0
    V: Array = 0.0
    Vw: Array = 0.0
    M: Array = 0.0
    Mw: Array = 0.0
    T: Array = 0.0

    def each(self, work: Callable[[Array], Array]) -> Forces:
        """With `work` done to each component."""
        return Forces(*(work(getattr(self, name)) for name in COMPONENTS))


@dataclass(frozen=True)
class Actions:
    """What the support does to the member's end; arrays of one shape, the last axis combinations.

    N, V, Vw in N and M, Mw, T in N*mm. `others` are those of other pieces by their role, in the same combination: of
    `opposite`, the beam on the other side, turned into the support's axes (N normal to its face, V along it); of
    `support` its own axial force (+ tension); NaN where not known. `names`, `sets` (method, set) and `seismic` (with an
    earthquake in it) belong to the combinations; no `sets` suits every limit state, no `seismic` says that none is. One
    set of actions that is looked at by itself is `part_of` the others, at an index: what goes by all combinations of a
    connection goes by those."""

    N: np.ndarray
    V: np.ndarray
    Vw: np.ndarray
    M: np.ndarray
    Mw: np.ndarray
    T: np.ndarray
    others: tuple[tuple[str, Forces], ...] = ()
    names: tuple[str, ...] = field(default=(), compare=False)
    sets: tuple[tuple[str, str], ...] = field(default=(), compare=False)
    seismic: tuple[bool, ...] = field(default=(), compare=False)
    part_of: tuple[Actions, tuple[int, ...]] | None = field(default=None, compare=False, repr=False)

    @classmethod
    def of(
        cls,
        table: np.ndarray,
        names: tuple[str, ...] = (),
        others: Mapping[str, Forces] | None = None,
        sets: tuple[tuple[str, str], ...] = (),
        seismic: tuple[bool, ...] = (),
    ) -> Actions:
        """From `(..., combinations, 6)` in the order of COMPONENTS, and the forces of `others` by role, arrays of
        `(..., combinations)`."""
        parts = dict(zip(COMPONENTS, np.ascontiguousarray(np.moveaxis(table, -1, 0)), strict=True))
        return cls(**parts, others=tuple((others or {}).items()), names=names, sets=sets, seismic=seismic)

    def of_role(self, role: str) -> Forces | None:
        """The forces of another piece at the connection; None where there is none, or none are known."""
        return dict(self.others).get(role)

    def _picked(self, index: Any) -> dict[str, Any]:
        """The arrays at `index`; numbers stay."""

        def at(v: Array) -> Array:
            return np.atleast_1d(v[index]) if isinstance(v, np.ndarray) else v

        parts: dict[str, Any] = {name: at(getattr(self, name)) for name in COMPONENTS}
        return parts | {"others": tuple((role, forces.each(at)) for role, forces in self.others)}

    def at(self, index: tuple[int, ...]) -> Actions:
        """The one set of actions at `index`, as arrays of one."""
        last = slice(index[-1], index[-1] + 1)
        return self.once(
            ("at", index),
            lambda: replace(
                self,
                **self._picked(index),
                names=self.names[last],
                sets=self.sets[last],
                seismic=self.seismic[last],
                part_of=(self, index),
            ),
        )

    def rows(self, rows: np.ndarray | None) -> Actions:
        """The connections `rows` of (k, combinations) actions; with np.newaxis the one of (combinations,) as the only
        one of (1, combinations)."""
        return replace(self, **self._picked(rows))

    def only(self) -> Actions:
        """The one connection of (1, combinations) actions as (combinations,)."""

        def first(value: Array) -> Array:
            return value[0] if isinstance(value, np.ndarray) else value

        own: dict[str, Any] = {name: first(getattr(self, name)) for name in COMPONENTS}
        return replace(self, **own, others=tuple((role, forces.each(first)) for role, forces in self.others))

    def columns(self, wanted: tuple[int, ...]) -> Actions:
        """The combinations numbered `wanted`."""
        if len(wanted) == self.V.shape[-1] and wanted == tuple(range(len(wanted))):
            return self
        names = tuple(self.names[k] for k in wanted) if self.names else ()
        seismic = tuple(self.seismic[k] for k in wanted) if self.seismic else ()
        return replace(
            self,
            **self._picked((..., list(wanted))),
            names=names,
            sets=tuple(self.sets[k] for k in wanted),
            seismic=seismic,
        )

    @cached_property
    def _kept(self) -> dict[Hashable, Any]:
        return {}

    def once(self, key: Hashable, work: Callable[[], Solution]) -> Solution:
        """What `work` gives for these actions, worked out at the first call with `key`: a solution that many limit
        states share."""
        if key not in self._kept:
            self._kept[key] = work()
        return self._kept[key]

    def judged(self, method: str, sets: tuple[str, ...]) -> tuple[int, ...]:
        """Numbers of the combinations that a limit state of `method` and `sets` is judged by."""
        return self.once(("judged", method, sets), lambda: self._judged(method, sets))

    def _judged(self, method: str, sets: tuple[str, ...]) -> tuple[int, ...]:
        every = range(self.V.shape[-1])
        return tuple(k for k in every if not self.sets or (self.sets[k][0] == method and self.sets[k][1] in sets))

    def turned(self, skew: float, slope: float) -> Turned:
        """The forces in the support's axes, of a member at `skew` and `slope` rad (+ rising away from its support).

        Along a column's face: V cos(slope) - N sin(slope). Level: N cos(slope) + V sin(slope), of which cos(skew)
        is normal to the face and sin(skew) across it.
        """
        if not skew and not slope:
            return self.once("straight", self._straight)
        return self.once(("turned", abs(skew), slope), lambda: self._turn(abs(skew), slope))

    def _straight(self) -> Turned:
        """A member square to its support has its own forces there: the same arrays, so that their peaks are searched
        once."""
        turned = Turned(self.V, self.N)
        turned.__dict__.update(shear=self.shear, axial=self.axial, thrust=self.thrust, size=self.resultant)
        return turned

    def _turn(self, skew: float, slope: float) -> Turned:
        along, level = self.V, self.N
        if slope:
            along = self.V * math.cos(slope) - self.N * math.sin(slope)
            level = self.N * math.cos(slope) + self.V * math.sin(slope)
        return Turned(along, level * math.cos(skew), level * math.sin(skew)) if skew else Turned(along, level)

    def opposite(self) -> Turned:
        """The opposed beam's forces along and normal to the support; none where none stands there."""
        other = self.of_role("opposite") or Forces()
        return Turned(np.broadcast_to(other.V, np.shape(self.V)), np.broadcast_to(other.N, np.shape(self.V)))

    @cached_property
    def shaken(self) -> np.ndarray:
        """(combinations,) whether an earthquake is in it."""
        return np.array(self.seismic, bool) if self.seismic else np.zeros(self.V.shape[-1], bool)

    @cached_property
    def both_shears(self) -> np.ndarray:
        """V and Vw together."""
        return np.hypot(self.V, self.Vw)

    @cached_property
    def shear(self) -> np.ndarray:
        """|V|."""
        return np.abs(self.V)

    @cached_property
    def axial(self) -> np.ndarray:
        """|N|."""
        return np.abs(self.N)

    @cached_property
    def pull(self) -> np.ndarray:
        """N where it pulls the end away, else 0."""
        return np.maximum(self.N, 0.0)

    @cached_property
    def thrust(self) -> np.ndarray:
        """-N where it presses the end on its support, else 0."""
        return np.maximum(-self.N, 0.0)

    @cached_property
    def resultant(self) -> np.ndarray:
        """Size of N with V, N."""
        return np.hypot(self.N, self.V)

    @cached_property
    def degrees(self) -> tuple[np.ndarray, np.ndarray]:
        """Direction of N with V as (whole degree from -180, remainder), for direction tables."""
        turned = np.degrees(np.arctan2(self.N, self.V)) + 180.0
        whole = np.fmin(turned, 359.0).astype(np.int32)  # a NaN stands anywhere: its remainder keeps it
        return whole, turned - whole


@dataclass(frozen=True)
class DirectionTable:
    """A value for each direction of N with V, a degree apart from -180 to 180, read in between linearly."""

    values: np.ndarray

    @cached_property
    def steps(self) -> np.ndarray:
        """From each value to the next."""
        return np.diff(self.values)

    def at(self, actions: Actions) -> np.ndarray:
        """The value for each of the actions, in their shape."""
        whole, rest = actions.degrees
        return self.values[whole] + self.steps[whole] * rest


class Directions:
    """The same, each value worked out by `work` (rows as integers from 0 for -180 degrees to 360) where it is first
    asked for."""

    def __init__(self, work: Callable[[np.ndarray], np.ndarray]) -> None:
        self._work, self._values, self._known = work, np.full(361, np.nan), np.zeros(361, bool)

    def at(self, actions: Actions) -> np.ndarray:
        """The value for each of the actions, in their shape."""
        whole, rest = actions.degrees
        if not self._known.all():
            asked = np.zeros(361, bool)
            asked[whole] = True
            asked[1:] |= asked[:-1]
            self._fill(asked)
        values = self._values
        return values[whole] + (values[whole + 1] - values[whole]) * rest

    def rows(self, rows: np.ndarray) -> np.ndarray:
        """The values of some rows."""
        asked = np.zeros(361, bool)
        asked[rows] = True
        self._fill(asked)
        return self._values[rows]

    def _fill(self, asked: np.ndarray) -> None:
        new = np.nonzero(asked & ~self._known)[0]
        if len(new):
            self._values[new] = self._work(new)
            self._known[new] = True
