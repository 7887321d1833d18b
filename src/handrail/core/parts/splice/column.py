"""Plates outside a column's flanges, or partial-penetration grooves between them: what uplift, moments about both axes
and weak-axis shear put on each flange. Compression goes through contact where the ends are milled."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Electrode
from handrail.core.catalogue.steel import E
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least
from handrail.core.parts.bearing import Faces
from handrail.core.parts.splice.flange import FlangeSide
from handrail.core.quantities.lines import NULL, Trace

TIES = 8  # points that stand for a groove


@dataclass(frozen=True, kw_only=True)
class ColumnFlanges(FlangeSide):
    """One column's flanges under plates. Where its ends bear (J1.4, M2.6) `faces` hold N, M and Mw: what meets presses,
    the four lines of bolts pull, and plates take only that. Else each line takes N/4, M/2h and its part of Mw's couple
    between the lines. Vw at the bolts' lever adds such a couple in both; the worst line stands for both of its flange.
    """

    faces: Faces | None = None

    @property
    def bolt_eccentricity(self) -> float:
        """From the joint to the bolts' middle: the lever of Vw on them, mm."""
        return self.half_gap + self.beam_edge + self.length / 2

    def forces(self, actions: Actions, lever: float, t: Trace = NULL) -> tuple[np.ndarray, np.ndarray]:
        """(the most that pulls, the most that presses through the plates) a flange, N."""
        beside = np.abs(actions.Vw) * self.bolt_eccentricity / self.gage
        if self.faces:
            lines = self.faces.pulls(actions).max(axis=-1)
            t(
                "T",
                "of the line of bolts that pulls most, beside what presses",
                lines,
                kind="force",
                N=actions.N,
                M=actions.M,
            )
            beside = t("Vw e/g", "|Vw| e / gage", beside, kind="force", V=actions.Vw, g=self.gage)
            return 2 * lines + beside, np.zeros_like(beside)
        strong = t("M/h", "|M| / lever", np.abs(actions.M) / lever, kind="force", M=actions.M, h=lever)
        weak = t(
            "Mw/g",
            "(|Mw| + |Vw| e) / gage",
            np.abs(actions.Mw) / self.gage + beside,
            kind="force",
            M=actions.Mw,
            g=self.gage,
        )
        own = t("N/2", "half of N", actions.N / 2, kind="force", N=actions.N)
        return np.maximum(own + strong + weak, 0.0), np.maximum(strong + weak - own, 0.0)

    def _most(self, lever: float) -> Any:
        def demand(actions: Actions, t: Trace) -> np.ndarray:
            along = np.maximum(*self.forces(actions, lever, t))
            return t(
                "Pf", "flange force with Vw/2 across", np.hypot(along, actions.Vw / 2), kind="force", Vw=actions.Vw
            )

        return demand

    def _net_section(self, under: Under, code: Code) -> LimitState:
        """The flange's own net section under what pulls."""
        net = code.splices.flange_net_area(self.steel.section, self._hole(code))
        return under.fixed(
            "flange_rupture",
            "force",
            lambda t: code.plates.tension_rupture(self.steel.grade.Fu, net, t),
            self._pull(self.bolt_lever, 1.0),
        )

    def seismic(self, code: Code, least: float) -> Iterator[DetailingRule]:
        """`least` N of a flange's splice in the lateral system (AISC 341 D2.5b), by everything that a pull can
        break."""
        nothing = Actions.of(np.zeros((1, 1, 6)))
        pulled = [s for s in self.states(code, False) if not s.check.endswith(("_slip", "_buckling"))]
        held = min(float(s.evaluate(nothing, NULL)[1]) for s in pulled)
        yield at_least(
            "seismic_flange_strength", "flange_plate", held, least, code.clause("seismic_flange_strength"), "force"
        )


@dataclass(frozen=True, kw_only=True)
class GrooveFlanges:
    """Flanges `width` by `t` mm joined by partial-penetration grooves of `throat` mm; `depth` of the lesser column;
    `faces` as above, the grooves its ties."""

    width: float
    t: float
    throat: float
    depth: float
    electrode: Electrode
    faces: Faces | None

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """The groove at the flange's tip that pulls most (Table J2.5), with the weak-axis shear across it."""
        lines = under.trace()
        held = code.welds.groove_tension(self.electrode, self.throat, lines)

        def at_tip(actions: Actions, t: Trace) -> tuple[Any, Any]:
            v = actions.Vw / 2 / self.width
            words = (
                "at the tip that pulls most beside what presses, Vw/2b"
                if self.faces
                else "(N/2 + M/h)/b + 3 Mw/b^2, Vw/2b"
            )
            return t("f", words, np.hypot(self._tip(actions), v), kind="per_length", N=actions.N, M=actions.M), held

        yield under.state("flange_groove", "per_length", at_tip, lines)

    def _tip(self, actions: Actions) -> np.ndarray:
        """The most that pulls (or presses, where ends do not bear) at a flange's tip, N/mm."""
        lever = self.depth - self.t
        if self.faces:
            held = self.faces.held(actions)
            u, x, y = held.strain, lever / 2, self.width / 2
            most = np.abs(u[..., 1]) * x + np.abs(u[..., 2]) * y - u[..., 0]
            return np.where(held.solved, np.maximum(most, 0.0) * E * self.throat, self.faces.pressure(actions))
        bent = np.abs(actions.M) / lever / self.width + np.abs(actions.Mw) / 2 / (self.width**2 / 6)
        return bent + np.abs(actions.N) / 2 / self.width

    def ties(self) -> tuple[tuple[tuple[float, float], ...], float]:
        """The grooves as points along both flanges, as stiff as they are both ways, and the area of each, mm^2."""
        places = [(k + 0.5) / TIES - 0.5 for k in range(TIES)]
        wide = self.width / math.sqrt(1 - 1 / TIES**2)
        return (
            tuple((x * (self.depth - self.t) / 2, y * wide) for x in (-1, 1) for y in places),
            self.width * self.throat / TIES,
        )

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """Least throat by the thinner part (Table J2.3)."""
        yield at_least(
            "groove_throat", "weld", self.throat, code.welds.min_throat(self.t), code.clause("groove_throat")
        )
        yield at_least("groove_within_flange", "weld", self.t - self.throat, 0.0)


@dataclass(frozen=True)
class Contact:
    """Milled ends that bear on each other as `faces` do, on steel of the lesser yield `Fy`: what presses, part by part
    under N with its moments, and shear by friction in the same combination where nothing else takes it (`shears`). No
    faces where the ends are not milled."""

    faces: Faces | None
    Fy: float
    shears: bool

    @property
    def area(self) -> float:
        """Of what meets, mm^2."""
        return sum((x1 - x0) * (y1 - y0) for x0, y0, x1, y1 in self.faces.footprint.pads) if self.faces else 0.0

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """Bearing of finished surfaces (J7), and friction with class A's coefficient, none with an earthquake."""
        if faces := self.faces:
            yield under.fixed(
                "contact_pressure",
                "stress",
                lambda t: code.splices.contact_bearing(self.Fy, 1.0, t),
                lambda a, t: t(
                    "fp",
                    "the largest, elastically, under N with M and Mw",
                    faces.pressure(a),
                    kind="stress",
                    N=a.N,
                    M=a.M,
                ),
            )
            yield under.fixed(
                "contact_bearing",
                "force",
                lambda t: code.splices.contact_bearing(self.Fy, self.area, t),
                lambda a, t: t("Pr", "max(-N, 0)", a.thrust, N=a.N),
            )
        if self.shears:
            yield under.state("contact_friction", "force", lambda a, t: self._slides(code, a, t))

    def _slides(self, code: Code, actions: Actions, t: Trace) -> tuple[Any, Any]:
        pressed = actions.thrust if self.faces else actions.thrust * 0.0
        mu, factor = code.bolts.friction("A"), code.factor("bolt")
        words = "0.75 x 0.30 of what presses" if code.lrfd else "0.30 / 2.00 of what presses"
        held = t(
            "held",
            f"{words}, none with an earthquake",
            np.where(actions.shaken, 0.0, factor * mu * pressed),
            kind="force",
            N=actions.N,
        )
        return t("Vr", "|V|", actions.shear), held
