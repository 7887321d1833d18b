"""Bars that take an anchor group's pull or shear in place of the concrete that would break out (ACI 318-19 17.5.2.1):
what each holds where it stands, and how rods hand their forces to the bars that each can reach."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from itertools import product

import numpy as np

from handrail.core.catalogue.bars import Bars
from handrail.core.codes.concrete import ConcreteCode
from handrail.core.limit_state import ratio

ENDS = ("straight", "hooked", "hooked_in")
SLOPE = 1.5  # of the breakout surface: along the face for one into it
MANY = 10  # rods: of more, each bar serves the nearest alone


@dataclass(frozen=True, kw_only=True)
class BarSteel:
    """`bars` of yield `fy` MPa in concrete of `fc` MPa and lightweight factor `light`; their `ends` straight, hooked,
    or hooked in the piece that would break out alone. `clear` mm between neighbours' faces, `beside` mm from their
    faces to the nearest face of the concrete."""

    bars: Bars
    fy: float
    fc: float
    ends: str
    clear: float
    beside: float
    light: float = 1.0
    top: bool = False
    code: ConcreteCode = field(kw_only=True)

    @cached_property
    def each(self) -> float:
        """Design strength of one, N."""
        return self.code.bars.strength(self.bars.each, self.fy)

    @cached_property
    def within(self) -> float:
        """What develops one in the piece that would break out, mm."""
        return self._straight if self.ends == "straight" else self._hooked

    @cached_property
    def beyond(self) -> float:
        """What develops one behind it, mm."""
        return self._hooked if self.ends == "hooked" else self._straight

    @property
    def _straight(self) -> float:
        d = self.bars.d
        return self.code.bars.straight(
            d,
            self.fy,
            self.fc,
            self.clear >= self.code.bars.roomy * d - 1e-6 and self.beside >= d - 1e-6,
            self.top,
            self.light,
        )

    @property
    def _hooked(self) -> float:
        d = self.bars.d
        apart, covered = (
            self.clear + d >= self.code.bars.hooks_apart * d - 1e-6,
            self.beside >= self.code.bars.hooks_apart * d - 1e-6,
        )
        return self.code.bars.hooked(d, self.fy, self.fc, apart, covered, self.light)


def handed(asked: np.ndarray, reached: np.ndarray, each: float) -> tuple[np.ndarray, np.ndarray]:
    """(asked, held) of the rods whose bars are used most, each (m,) N, where every bar takes what is best of those it
    serves.

    `asked` (m, rods) N; `reached` (rods, bars) which bars serve which rod; `each` N of a bar. Bars can take all that is
    asked where no set of rods asks more than all bars that serve any of it hold (Hall's theorem); the set with the
    highest share is given."""
    sets = _sets(reached.shape, reached.tobytes())
    total, held = asked @ sets.T, each * (sets @ reached > 0).sum(axis=1)
    use = np.nan_to_num(ratio(total, np.broadcast_to(held, total.shape)), nan=np.inf)
    worst = use.argmax(axis=1)
    return total[np.arange(len(total)), worst], held[worst]


@lru_cache(maxsize=512)
def _sets(shape: tuple[int, int], reached: bytes) -> np.ndarray:
    """(sets, rods) of 0 and 1: those sets of rods that can govern. Of sets that the same bars serve the largest asks
    most; one that falls apart into two that share no bar is never used more than both."""
    served = np.frombuffer(reached, bool).reshape(shape)
    n = shape[0]
    if n > MANY:
        return np.eye(n)
    largest: dict[bytes, np.ndarray] = {}
    if (alone := ~served.any(axis=1)).any():
        largest[b""] = alone.astype(int)  # rods that no bar serves
    for chosen in product((0, 1), repeat=n):
        own = np.array(chosen)
        if own.any() and served[own > 0].any() and _hangs_together(served[own > 0]):
            key = (own @ served > 0).tobytes()
            if key not in largest or own.sum() > largest[key].sum():
                largest[key] = own
    return np.array(list(largest.values()), float)


def _hangs_together(served: np.ndarray) -> bool:
    """Whether rods (rods, bars) share bars with each other, one by one."""
    met, new = served[0], np.zeros_like(served[0])
    while (met != new).any():
        met, new = served[(served & met).any(axis=1)].any(axis=0), met
    return bool((served & met).any(axis=1).all()) or len(served) == 1


def nearest_alone(apart: np.ndarray, reached: np.ndarray) -> np.ndarray:
    """What is `reached`, (rods, bars), where there are many rods: each bar by the rod that is nearest of those, `apart`
    mm (rods, bars)."""
    if len(reached) <= MANY:
        return reached
    own = np.where(reached, apart, np.inf)
    return reached & (own <= own.min(axis=0) + 1e-6) & (own.argmin(axis=0) == np.arange(len(reached))[:, None])
