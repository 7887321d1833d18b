"""Bolts in tension: J3.7, with shear J3.8, and what prying of their plate leaves of it (Manual Part 9)."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.catalogue import Bolt
from handrail.core.codes.aisc360.code import Code
from handrail.core.trace import NULL, Trace


def bolt_tension(code: Code, bolt: Bolt, shear: Any = 0.0, trace: Trace = NULL) -> Any:
    """Available tension of one bolt under `shear` N of its own, any shape, N (J3.7, J3.8): F'nt = 1.3 Fnt - Fnt/(phi
    Fnv) frv <= Fnt."""
    factor = code.factor("bolt")
    used = np.asarray(shear) / bolt.area
    stress = np.clip(1.3 * bolt.Fnt - bolt.Fnt / (factor * bolt.Fnv) * used, 0.0, bolt.Fnt)
    Fnt = trace(
        "F'nt",
        "1.3 Fnt - Fnt frv/(available Fnv) <= Fnt",
        stress,
        code.clause("J3.8"),
        kind="stress",
        Fnt=bolt.Fnt,
        Fnv=bolt.Fnv,
    )
    held = Fnt * bolt.area * factor
    return trace("B", "available F'nt Ab", held, code.clause("J3.7"), kind="force", Ab=bolt.area)


@dataclass(frozen=True)
class Pried:
    """A bolt in a plate `t` thick of tensile `Fu`: `b` from its middle to the face of what pulls, `a` to the plate's
    edge, `p` the length of plate that goes with it, `hole` along p, mm."""

    t: float
    Fu: float
    b: float
    a: float
    p: float
    hole: float
    d: float

    def share(self, code: Code, B: Any, trace: Trace = NULL) -> Any:
        """Q, the part of `B` (N, any shape) that is left beside prying (Manual Part 9, Eqs. 9-26 to 9-31)."""
        bb = max(self.b - self.d / 2, 0.0)
        aa = min(self.a, 1.25 * self.b) + self.d / 2
        delta, rho = max(1 - self.hole / self.p, 0.0), bb / aa
        factor = code.factor("flexure")
        tc = np.sqrt(4 * np.asarray(B) * bb / (factor * self.p * self.Fu))
        tc = trace(
            "tc",
            "sqrt(4 B b' / (available p Fu))",
            np.maximum(tc, 1e-9),
            "Manual Part 9",
            kind="length",
            b=bb,
            p=self.p,
            Fu=self.Fu,
        )
        square = (self.t / tc) ** 2
        alpha = np.clip((1 / square - 1) / max(delta * (1 + rho), 1e-9), 0.0, 1.0)
        Q = np.minimum(np.where(alpha <= 0, 1.0, square * (1 + delta * alpha)), 1.0)
        return trace("Q", "(t/tc)^2 (1 + delta alpha')", Q, "Manual Part 9", kind="number", t=self.t)


@dataclass(frozen=True)
class Levered(Pried):
    """A bolt in a leg that only turns about its toe: nothing at its heel holds it against turning, as at a single
    angle."""

    def share(self, code: Code, B: Any, trace: Trace = NULL) -> Any:
        """The part of `B` that a pull at the heel may be: by the lever about the toe a'/(a' + b'), and by the leg bent
        at the bolt."""
        bb = max(self.b - self.d / 2, 0.0)
        aa = min(self.a, 1.25 * self.b) + self.d / 2
        delta = max(1 - self.hole / self.p, 0.0)
        factor = code.factor("flexure")
        most = trace(
            "T",
            "available Fu delta p t^2/(4 b')",
            factor * self.Fu * delta * self.p * self.t**2 / (4 * max(bb, 1e-6)),
            "Manual Part 9",
            kind="force",
            b=bb,
            p=self.p,
            t=self.t,
            Fu=self.Fu,
        )
        Q = np.minimum(aa / (aa + bb), most / np.maximum(np.asarray(B, float), 1e-9))
        return trace("Q", "min(a'/(a' + b'), T/B)", Q, "Manual Part 9", kind="number", a=aa)
