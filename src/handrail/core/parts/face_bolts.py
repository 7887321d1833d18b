"""Bolts through a plate or legs into the face of a support: shear in the face, and tension with prying of what they
hold.

V may turn about them in the face; N is across it. Forces are the support's own axes'.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.codes.asked import Pried
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, ratio, under_part
from handrail.core.parts.bolted_plies import BoltedPlies
from handrail.core.quantities.lines import NULL, Trace

LITTLE = 0.005  # of a bolt's nominal tension: what is no pull


def tributary(b: float, pitch: float, end: float, rows: int) -> float:
    """The length of plate that goes with a bolt, mm: 2 b, at most the pitch (Manual Part 9), and at an end no more than
    is there."""
    return min(b, pitch / 2 if rows > 1 else end) + min(b, end, pitch / 2 if rows > 1 else end)


@dataclass(frozen=True, kw_only=True)
class FaceBolts:
    """`plies` (what is bolted, then the support) carry V in the face; `pried` is what bends as the bolts pull: legs or
    plate, and the support's flange where there is one. `shared`: a beam opposite pulls and shears through the same
    bolts and web, and each of these has `more` of what it brings than each of a group like this would. `tension`:
    whether the bolts may pull; `arm` mm of V that they hold by pulling (0: neglected)."""

    plies: BoltedPlies
    pried: tuple[Pried, ...]
    shared: bool
    tension: bool
    arm: float = 0.0
    more: float = 1.0
    prefix: str = ""

    @property
    def n(self) -> int:
        """How many bolts."""
        return self.plies.grid.n

    @cached_property
    def _in_face(self) -> Callable[[Actions], Actions]:
        return lambda actions: replace(actions, N=0.0 * actions.N)

    @cached_property
    def _on_support(self) -> Callable[[Actions], Actions]:
        """Both sides' shears, where both bear on one web."""
        return lambda actions: replace(
            actions, V=actions.shear + self.more * actions.opposite().shear, N=0.0 * actions.N
        )

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """Shear and bearing, slip with tension, tension with shear and prying."""
        support = f"bolt_bearing_{self.plies.plies[1].name}"
        for state in self.plies.states(under, code):
            both = self.shared and state.check == support
            judged = under_part(state, self._on_support if both else self._in_face, check=self.prefix + state.check)
            yield self._slip(judged, code) if state.check == "slip" else judged
        yield self._pull(under, code) if self.tension else self._no_pull(under)
        if self.tension and self.plies.tightening == "snug" and not code.bolts.snug_in_tension(self.plies.bolt):
            little = LITTLE * self.plies.bolt.Fnt * self.plies.bolt.area
            yield under.state(
                f"{self.prefix}snug_in_tension",
                "force",
                lambda actions, t: (self.pull(actions, t), little),
                limit=True,
            )

    def pull(self, actions: Actions, t: Trace = NULL) -> np.ndarray:
        """Tension of the bolt that pulls most, N: its share of N (of the larger, where a beam opposite pulls the same
        bolts) and of V's moment."""
        N = actions.pull
        if self.shared:
            theirs = self.more * np.maximum(actions.opposite().normal, 0.0)
            N = t("N", "the larger pull of both sides", np.maximum(N, theirs))
        if not self.arm:
            return t("T", "N/n", N / self.n, N=N, kind="force")
        y = self.plies.grid.group.coordinates[:, 1]
        edge = max(self.plies.plies[0].up, 1e-3)  # one row pulls against the edge of what it holds
        lever = float(np.abs(y).max() / (y**2).sum()) if self.plies.grid.rows > 1 else 1 / (self.n * edge)
        return t(
            "T",
            "N/n + |V| arm y/sum y^2",
            N / self.n + actions.shear * self.arm * lever,
            N=N,
            V=actions.V,
            arm=self.arm,
            kind="force",
        )

    def _pull(self, under: Under, code: Code) -> LimitState:
        lines = under.trace()

        def evaluate(actions: Actions, t: Trace) -> tuple[Any, Any]:
            each = self._busiest(actions)
            held = B = code.prying.tension(self.plies.bolt, each, t)
            for one in self.pried:
                held = np.minimum(held, B * code.prying.share(one, B, t))
            return self.pull(actions, t), t(
                "phi r_n", "what prying leaves of it", held, code.clause("prying"), kind="force"
            )

        return under.state(f"{self.prefix}bolt_tension", "force", evaluate, lines)

    def _busiest(self, actions: Actions) -> np.ndarray:
        """Shear of the busiest bolt, N."""
        return actions.once(("busiest", self.plies), lambda: ratio(actions.shear, self.plies.effective))

    def _no_pull(self, under: Under) -> LimitState:
        """Bolts that are said to take shear only."""
        return under.state(
            f"{self.prefix}bolt_pull",
            "force",
            lambda actions, t: (t("Nr", "pull on bolts that take shear only", actions.pull), self.plies.negligible),
            limit=True,
            of="shear_only",
        )

    def _slip(self, state: LimitState, code: Code) -> LimitState:
        """Friction is less where the bolts pull (J3.10)."""

        def evaluate(actions: Actions, t: Trace) -> tuple[Any, Any]:
            demand, strength = state.evaluate(actions, t)
            k = code.bolts.slip_under_tension(self.plies.bolt, self.pull(actions), t)
            return demand, t("phi Rn", "ksc phi Rn", k * strength, code.clause("slip_with_tension"), kind="force")

        return replace(state, evaluate=evaluate)

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """The bolts' own, under their prefix."""
        yield from (replace(rule, rule=self.prefix + rule.rule) for rule in self.plies.rules(code))
