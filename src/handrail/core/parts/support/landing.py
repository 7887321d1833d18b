"""A plate that lands on a support: its place, and the base metal beneath its fillets. Forces are the support's own
axes'."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, ClassVar

import numpy as np

from handrail.core.actions import Actions, Turned
from handrail.core.catalogue import Grade, Steel
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under
from handrail.core.quantities.lines import Trace


@dataclass(frozen=True, kw_only=True)
class Landing:
    """A plate `t` thick and `depth` along V with fillets of `weld` on both sides; `top` from the support's top of steel
    to the plate's (girders) and `extent` what it takes up from there, `lever` of V on the fillets where the plate is
    bent, mm.

    Its middle is `aside` of the middle of the face. Where it is `bolted` it lies on the face with nothing welded,
    `width` wide; else `lines` of its `depth` are welded; `through`: it passes through a hollow member and is welded to
    both its walls. The member comes at `skew` and `slope` rad; `opposed`: another stands across; `at_end`: the support
    ends here; `face`: which of a hollow rectangle's or a channel's faces it is (long, short, toe, back; empty where not
    said). An axial force that goes on to the member across does so in the shares `passing` of either side's that are in
    bolts which hold both; else through the metal, where as much as `going_on` may, N."""

    steel: Steel
    t: float
    grade: Grade
    depth: float
    weld: float
    top: float = 0.0
    extent: float = 0.0
    lever: float = 0.0
    skew: float = 0.0
    slope: float = 0.0
    opposed: bool = False
    at_end: bool = False
    face: str = ""
    bolted: bool = False
    width: float = 0.0
    lines: float = 2.0
    through: bool = False
    aside: float = 0.0
    passing: tuple[float, float] | None = None
    going_on: float | None = None

    @property
    def bends_wall(self) -> bool:
        """Whether a hollow member's wall turns with it: one plate, not a pair of legs and not one that passes
        through."""
        return not self.through and not self.width

    @property
    def footprint(self) -> float:
        """Width of the plate with its fillets, or of what lies on the face, mm."""
        return self.width or self.t / math.cos(self.skew) + 2 * self.weld

    @property
    def room(self) -> float:
        """Width of a face that has it in its middle's place: what it takes up, and as much again as it is aside, mm."""
        return self.footprint + 2 * self.aside


@dataclass(frozen=True)
class Support:
    """One face of a support with a plate on it. `shared`: a plate on the other side stands on the same metal."""

    landing: Landing
    shared: ClassVar[bool] = False

    @property
    def thickness(self) -> float:
        """The metal that the plate is welded to, mm."""
        raise NotImplementedError

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """Base metal, then what the force across the face does; nothing going on where it is not to."""
        if not self.landing.bolted:
            yield from self._base_metal(under, code)
        yield from self._across(under, code)
        most = self.landing.going_on
        if most is not None and self.landing.opposed:
            yield under.fixed("transfer", "force", lambda t: most, self.common, limit=True)

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """The plate fits on the face."""
        raise NotImplementedError

    def notes(self) -> Iterator[str]:
        """What a person should know of this support."""
        yield from ()

    def _across(self, under: Under, code: Code) -> Iterator[LimitState]:
        raise NotImplementedError

    def forces(self, actions: Actions) -> Turned:
        """The member's forces in the support's axes."""
        return actions.turned(self.landing.skew, self.landing.slope)

    def axial(self, actions: Actions, t: Trace) -> np.ndarray:
        """Demand of the force normal to the face, either way, N."""
        return t("Nr", "|normal to the support|", self.forces(actions).axial, N=actions.N)

    def thrust(self, actions: Actions, t: Trace) -> np.ndarray:
        """Demand of the force that presses on the face, N."""
        return t("Nr", "thrust on the support", self.forces(actions).thrust, N=actions.N)

    def common(self, actions: Actions, t: Trace) -> np.ndarray:
        """What both sides pull, or press, at once: it goes on from the one to the other, N."""
        own, other = self.forces(actions).normal, actions.opposite().normal
        shares = self.landing.passing or (1.0, 1.0)
        least = np.minimum(shares[0] * np.abs(own), shares[1] * np.abs(other))
        both = np.where(own * other > 0, least, 0.0 * own * other)
        return t("Nr", "the lesser of what both sides pull, or press", both, N=actions.N)

    def _on_metal(self, actions: Actions, t: Trace) -> np.ndarray:
        """Shear on the support's metal, the opposed member's with it where both stand on one web, N."""
        on = self.forces(actions)
        if not (self.shared and self.landing.opposed):
            return on.shear
        return t("V", "|V| + |V opposed| on the shared web", on.shear + actions.opposite().shear, V=actions.V)

    def _base_metal(self, under: Under, code: Code) -> Iterator[LimitState]:
        """Shear rupture of the support beside both fillets; an extended plate's moment on them besides, by stress
        blocks."""
        fixed, depth = self.landing, self.landing.depth
        lines = under.trace()
        strength = code.plates.shear_rupture(fixed.steel.grade.Fu, fixed.lines * self.thickness * depth, lines)

        def shear(actions: Actions, t: Trace) -> tuple[Any, Any]:
            on, along = self.forces(actions), self._on_metal(actions, t)
            size = on.size if along is on.shear else np.sqrt(along**2 + on.normal**2 + np.square(on.across))
            return t("Pr", "sqrt(V^2 + N^2), the support's axes", size, V=on.along, N=on.normal), strength

        def bent(actions: Actions, t: Trace) -> tuple[Any, Any]:
            on = self.forces(actions)
            couple = t(
                "4 M / l", "4 |V| a / l", 4 * actions.shear * fixed.lever / depth, kind="force", a=fixed.lever, l=depth
            )
            size = np.sqrt(self._on_metal(actions, t) ** 2 + (on.axial + couple) ** 2 + np.square(on.across))
            return t("Pr", "sqrt(V^2 + (N + 4 M/l)^2), the support's axes", size, V=on.along, N=on.normal), strength

        yield under.state("support_shear", "force", shear, lines)
        if fixed.lever:
            yield under.state("support_weld_moment", "force", bent, lines)
