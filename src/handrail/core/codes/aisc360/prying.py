"""Bolts in tension: J3.7, with shear J3.8, and what prying of their plate leaves of it (Manual Part 9)."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.catalogue import Bolt
from handrail.core.codes.aisc360.code import Edition
from handrail.core.codes.asked import Pried
from handrail.core.quantities.lines import NULL, Trace


@dataclass(frozen=True)
class Prying:
    """Bolts that pull, and the plates that they pull on."""

    code: Edition

    def tension(self, bolt: Bolt, shear: Any = 0.0, trace: Trace = NULL) -> Any:
        """Available tension of one bolt under `shear` N of its own, any shape, N (J3.7, J3.8): F'nt = 1.3 Fnt -
        Fnt/(phi Fnv) frv <= Fnt."""
        factor = self.code.factor("bolt")
        used = np.asarray(shear) / bolt.area
        stress = np.clip(1.3 * bolt.Fnt - bolt.Fnt / (factor * bolt.Fnv) * used, 0.0, bolt.Fnt)
        Fnt = trace(
            "F'nt",
            "1.3 Fnt - Fnt frv/(available Fnv) <= Fnt",
            stress,
            self.code.numbered("J3.8"),
            kind="stress",
            Fnt=bolt.Fnt,
            Fnv=bolt.Fnv,
        )
        held = Fnt * bolt.area * factor
        return trace("B", "available F'nt Ab", held, self.code.numbered("J3.7"), kind="force", Ab=bolt.area)

    def share(self, one: Pried, B: Any, trace: Trace = NULL) -> Any:
        """Q, the part of `B` (N, any shape) that is left beside prying (Manual Part 9, Eqs. 9-26 to 9-31)."""
        if one.levered:
            return self._levered(one, B, trace)
        bb = max(one.b - one.d / 2, 0.0)
        aa = min(one.a, 1.25 * one.b) + one.d / 2
        delta, rho = max(1 - one.hole / one.p, 0.0), bb / aa
        factor = self.code.factor("flexure")
        tc = np.sqrt(4 * np.asarray(B) * bb / (factor * one.p * one.Fu))
        tc = trace(
            "tc",
            "sqrt(4 B b' / (available p Fu))",
            np.maximum(tc, 1e-9),
            "Manual Part 9",
            kind="length",
            b=bb,
            p=one.p,
            Fu=one.Fu,
        )
        square = (one.t / tc) ** 2
        alpha = np.clip((1 / square - 1) / max(delta * (1 + rho), 1e-9), 0.0, 1.0)
        Q = np.minimum(np.where(alpha <= 0, 1.0, square * (1 + delta * alpha)), 1.0)
        return trace("Q", "(t/tc)^2 (1 + delta alpha')", Q, "Manual Part 9", kind="number", t=one.t)

    def _levered(self, one: Pried, B: Any, trace: Trace = NULL) -> Any:
        """The part of `B` that a pull at the heel may be: by the lever about the toe a'/(a' + b'), and by the leg bent
        at the bolt."""
        bb = max(one.b - one.d / 2, 0.0)
        aa = min(one.a, 1.25 * one.b) + one.d / 2
        delta = max(1 - one.hole / one.p, 0.0)
        factor = self.code.factor("flexure")
        most = trace(
            "T",
            "available Fu delta p t^2/(4 b')",
            factor * one.Fu * delta * one.p * one.t**2 / (4 * max(bb, 1e-6)),
            "Manual Part 9",
            kind="force",
            b=bb,
            p=one.p,
            t=one.t,
            Fu=one.Fu,
        )
        Q = np.minimum(aa / (aa + bb), most / np.maximum(np.asarray(B, float), 1e-9))
        return trace("Q", "min(a'/(a' + b'), T/B)", Q, "Manual Part 9", kind="number", a=aa)
