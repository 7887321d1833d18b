"""Plates outside a column's flanges, or partial-penetration grooves between them: what uplift, moments about both axes and weak-axis shear
put on each flange. Compression goes through contact where the ends are milled."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Electrode
from handrail.core.codes.aisc360 import Code, bolts, plates, splices, welds
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least
from handrail.core.parts.splice.flange import FlangeSide
from handrail.core.trace import NULL, Trace

FRICTION_PHI = 0.75


@dataclass(frozen=True)
class ColumnFlanges(FlangeSide):
    """One column's flanges under plates. `milled`: its ends bear (J1.4, M2.6), and plates take only what pulls.

    Each of the four lines of bolts takes N/4, M/2h, and of Mw and of Vw at the bolts' lever its part of the couple between the lines;
    the worst line stands for both of its flange.
    """

    milled: bool = True

    @property
    def bolt_eccentricity(self) -> float:
        """From the joint to the bolts' middle: the lever of Vw on them, mm."""
        return self.half_gap + self.beam_edge + self.length / 2

    def forces(self, actions: Actions, lever: float, t: Trace = NULL) -> tuple[np.ndarray, np.ndarray]:
        """(the most that pulls, the most that presses through the plates) a flange, N."""
        strong = t("M/h", "|M| / lever", np.abs(actions.M) / lever, kind="force", M=actions.M, h=lever)
        turned = np.abs(actions.Mw) + np.abs(actions.Vw) * self.bolt_eccentricity
        weak = t("Mw/g", "(|Mw| + |Vw| e) / gage", turned / self.gage, kind="force", M=actions.Mw, g=self.gage)
        own = t("N/2", "half of N", actions.N / 2, kind="force", N=actions.N)
        pull, push = np.maximum(own + strong + weak, 0.0), np.maximum(strong + weak - own, 0.0)
        return pull, np.zeros_like(push) if self.milled else push

    def _most(self, lever: float) -> Any:
        def demand(actions: Actions, t: Trace) -> np.ndarray:
            along = np.maximum(*self.forces(actions, lever, t))
            return t("Pf", "flange force with Vw/2 across", np.hypot(along, actions.Vw / 2), kind="force", Vw=actions.Vw)

        return demand

    def _net_section(self, under: Under, code: Code) -> LimitState:
        """The flange's own net section under what pulls."""
        net = splices.flange_net_area(self.steel.section, self._hole)
        return under.fixed("flange_rupture", "J4.1", "force", lambda t: plates.tension_rupture(code, self.steel.grade.Fu, net, t),
                           self._pull(self.bolt_lever, 1.0))  # fmt: skip

    def seismic(self, code: Code, least: float) -> Iterator[DetailingRule]:
        """`least` N of a flange's splice in the lateral system (AISC 341 D2.5b), by everything that a pull can break."""
        nothing = Actions.of(np.zeros((1, 1, 6)))
        pulled = [s for s in self.states(code, False) if not s.check.endswith(("_slip", "_buckling"))]
        held = min(float(s.evaluate(nothing, NULL)[1]) for s in pulled)
        yield at_least("seismic_flange_strength", "flange_plate", held, least, "AISC 341 D2.5b", "force")


@dataclass(frozen=True)
class GrooveFlanges:
    """Flanges `width` by `t` mm joined by partial-penetration grooves of `throat` mm; `depth` of the lesser column; `milled` as above."""

    width: float
    t: float
    throat: float
    depth: float
    electrode: Electrode
    milled: bool

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """The groove at the flange's tip that pulls most (Table J2.5), with the weak-axis shear across it."""
        lines = under.trace()
        held = welds.groove_tension(code, self.electrode, self.throat, lines)

        def at_tip(actions: Actions, t: Trace) -> tuple[Any, Any]:
            lever = self.depth - self.t
            along = actions.N / 2 + np.abs(actions.M) / lever
            tip = np.abs(actions.Mw) / 2 / (self.width**2 / 6)
            pull = along / self.width + tip
            pull = np.maximum(pull, 0.0) if self.milled else np.maximum(pull, np.abs(actions.M) / lever / self.width + tip - actions.N / 2 / self.width)
            v = actions.Vw / 2 / self.width
            return t("f", "(N/2 + M/h)/b + 3 Mw/b^2, Vw/2b", np.hypot(pull, v), kind="per_length", N=actions.N, M=actions.M), held

        yield under.state("flange_groove", "J2.4", "per_length", at_tip, lines)

    def rules(self) -> Iterator[DetailingRule]:
        """Least throat by the thinner part (Table J2.3)."""
        yield at_least("groove_throat", "weld", self.throat, welds.min_throat(self.t), "J2.1b")
        yield at_least("groove_within_flange", "weld", self.t - self.throat, 0.0)


@dataclass(frozen=True)
class Contact:
    """Milled ends that bear on each other, on the lesser area `area` mm^2 of yield `Fy`: what presses, and shear by friction in the same
    combination where nothing else takes it (`shears`)."""

    area: float
    Fy: float
    milled: bool
    shears: bool

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """Bearing of finished surfaces (J7), and friction with class A's coefficient, none with an earthquake."""
        if self.milled:
            yield under.fixed("contact_bearing", "J7", "force", lambda t: splices.contact_bearing(code, self.Fy, self.area, t),
                              lambda a, t: t("Pr", "max(-N, 0)", a.thrust, N=a.N))  # fmt: skip
        if self.shears:
            yield under.state("contact_friction", "J3.9", "force", self._slides)

    def _slides(self, actions: Actions, t: Trace) -> tuple[Any, Any]:
        pressed = actions.thrust if self.milled else actions.thrust * 0.0
        mu = bolts.FAYING["A"]
        held = t("phi mu P", "0.75 x 0.30 of what presses, none with an earthquake", np.where(actions.shaken, 0.0, FRICTION_PHI * mu * pressed),
                 kind="force", N=actions.N)  # fmt: skip
        return t("Vr", "|V|", actions.shear), held
