"""Where a connection sits: its two members, how they meet, and what acts on it."""

from __future__ import annotations

from dataclasses import dataclass, field, fields
from functools import cached_property

import numpy as np

from handrail.core.catalogue import Grade, Section

COMPONENTS = ("N", "V", "Vw", "M", "Mw", "T")


@dataclass(frozen=True)
class Situation:
    """The framing condition with its members; angles rad, lengths mm.

    `top_offset` is how far the supported member's top of steel lies below its support's; `support_end` says
    that the support ends here, like a column at the roof.
    """

    framing: str
    supported: Section
    supported_grade: Grade
    support: Section
    support_grade: Grade
    skew: float = 0.0
    slope: float = 0.0
    top_offset: float = 0.0
    opposed: bool = False
    support_end: bool = False


@dataclass(frozen=True)
class Actions:
    """What the support does to the member's end; arrays of one shape, the last axis combinations.

    N, V, Vw in N and M, Mw, T in N*mm; `V_opposed` and `N_opposed` are those of the beam on the
    other side of a shared web, in the same combination.
    """

    N: np.ndarray
    V: np.ndarray
    Vw: np.ndarray
    M: np.ndarray
    Mw: np.ndarray
    T: np.ndarray
    V_opposed: np.ndarray | float = 0.0
    N_opposed: np.ndarray | float = 0.0
    names: tuple[str, ...] = field(default=(), compare=False)

    @classmethod
    def of(cls, table: np.ndarray, names: tuple[str, ...] = (), opposed: np.ndarray | None = None) -> Actions:
        """From `(..., combinations, 6)` in the order of COMPONENTS, and the opposed beam's in the same shape."""
        parts = dict(zip(COMPONENTS, np.ascontiguousarray(np.moveaxis(table, -1, 0)), strict=True))
        if opposed is None:
            return cls(**parts, names=names)
        return cls(**parts, V_opposed=opposed[..., 1], N_opposed=opposed[..., 0], names=names)

    def at(self, index: tuple[int, ...]) -> Actions:
        """The one set of actions at `index`, as arrays of one."""
        taken = {}
        for f in fields(self):
            value = getattr(self, f.name)
            if f.name != "names":
                taken[f.name] = np.atleast_1d(value[index]) if isinstance(value, np.ndarray) else value
        return Actions(**taken, names=self.names[index[-1] : index[-1] + 1])

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
        whole = np.minimum(turned.astype(np.int32), 359)
        return whole, turned - whole


@dataclass(frozen=True)
class DirectionTable:
    """A value for each direction of load, a degree apart from -180 to 180, read in between linearly."""

    values: np.ndarray

    @cached_property
    def steps(self) -> np.ndarray:
        return np.diff(self.values)

    def at(self, actions: Actions) -> np.ndarray:
        whole, rest = actions.degrees
        return self.values[whole] + self.steps[whole] * rest
