"""What a support carries where a plate lands on it: J10, J4 and chapter K."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.catalogue.steel import E
from handrail.core.codes.aisc360.code import Edition
from handrail.core.quantities.lines import NULL, Trace


@dataclass(frozen=True)
class Supports:
    """Webs and walls that a plate lands on."""

    code: Edition

    def web_local_yield(
        self, Fy: float, tw: float, k: float, bearing: float, at_end: bool, trace: Trace = NULL
    ) -> float:
        """Available web local yielding, N (J10.2); `at_end` within d of the member's end."""
        if at_end:
            Rn = trace(
                "Rn", "Fy tw (2.5 k + lb)", Fy * tw * (2.5 * k + bearing), "J10-3", Fy=Fy, tw=tw, k=k, lb=bearing
            )
        else:
            Rn = trace("Rn", "Fy tw (5 k + lb)", Fy * tw * (5 * k + bearing), "J10-2", Fy=Fy, tw=tw, k=k, lb=bearing)
        return self.code.available(Rn, "local_yield", trace)

    def web_crippling(
        self, Fy: float, d: float, tw: float, tf: float, bearing: float, at_end: bool, trace: Trace = NULL
    ) -> float:
        """Available web local crippling, N (J10.3); `at_end` within d/2 of the member's end."""
        root = math.sqrt(E * Fy * tf / tw)
        ratio = (tw / tf) ** 1.5
        given: dict[str, Any] = {"tw": tw, "lb": bearing, "d": d, "tf": tf, "Fy": Fy}
        if not at_end:
            Rn = trace(
                "Rn",
                "0.80 tw^2 (1 + 3 (lb/d) (tw/tf)^1.5) sqrt(E Fy tf/tw)",
                0.80 * tw**2 * (1 + 3 * bearing / d * ratio) * root,
                "J10-4",
                **given,
            )
        elif bearing / d <= 0.2:
            Rn = trace(
                "Rn",
                "0.40 tw^2 (1 + 3 (lb/d) (tw/tf)^1.5) sqrt(E Fy tf/tw)",
                0.40 * tw**2 * (1 + 3 * bearing / d * ratio) * root,
                "J10-5a",
                **given,
            )
        else:
            Rn = trace(
                "Rn",
                "0.40 tw^2 (1 + (4 lb/d - 0.2) (tw/tf)^1.5) sqrt(E Fy tf/tw)",
                0.40 * tw**2 * (1 + (4 * bearing / d - 0.2) * ratio) * root,
                "J10-5b",
                **given,
            )
        return self.code.available(Rn, "crippling", trace)

    def web_compression_buckling(self, Fy: float, tw: float, h: float, at_end: bool, trace: Trace = NULL) -> float:
        """Available web compression buckling under thrusts on both flanges, N (J10.5); half of it within d/2 of the
        member's end."""
        share = 0.5 if at_end else 1.0
        words = "24 tw^3 sqrt(E Fy) / h" + (", halved at the member's end" if at_end else "")
        Rn = trace("Rn", words, share * 24 * tw**3 * math.sqrt(E * Fy) / h, "J10-8", tw=tw, Fy=Fy, h=h)
        return self.code.available(Rn, "compression", trace)

    def web_bending_along(
        self, Fy: float, tw: float, T: float, length: float, at_end: bool, trace: Trace = NULL
    ) -> float:
        """A web pushed out of plane by a plate that runs along the member, N (J10.10, J4.5).

        Yield lines in a strip `T` wide, fixed at both fillets, loaded along its middle over `length`:
        P = mp (4 L / (T/2) + 4 pi), mp = Fy tw^2 / 4, with a fan at both ends; where the member ends, one fan.
        """
        fans = 2 if at_end else 4
        Rn = trace(
            "Rn",
            f"(Fy tw^2/4) (8 L/T + {fans} pi)",
            Fy * tw**2 / 4 * (8 * length / T + fans * math.pi),
            "J10.10",
            Fy=Fy,
            tw=tw,
            L=length,
            clear_depth=T,
        )
        return self.code.available(Rn, "flexure", trace)

    def web_bending_across(
        self, Fy: float, tw: float, T: float, above: float, below: float, at_end: bool = False, trace: Trace = NULL
    ) -> float:
        """A web pushed out of plane by a plate that runs from fillet to fillet of the member, N (J10.10, J4.5).

        Yield lines in a strip `T` wide fixed at both fillets, the plate ending `above` and `below` short
        of them: P = mp (4 T/x + 4 x (1/c1 + 1/c2)) at its least over x; where the member ends, half of them.
        """
        c1, c2 = max(above, tw), max(below, tw)
        lines = 4 if at_end else 8
        Rn = trace(
            "Rn",
            f"(Fy tw^2/4) {lines} sqrt(T (1/c1 + 1/c2))",
            Fy * tw**2 / 4 * lines * math.sqrt(T * (1 / c1 + 1 / c2)),
            "J10.10",
            Fy=Fy,
            tw=tw,
            clear_depth=T,
            c1=c1,
            c2=c2,
        )
        return self.code.available(Rn, "flexure", trace)

    def hollow_stress_ratio(self, Fy: float, A: float, N: Any, trace: Trace = NULL) -> Any:
        """U of a hollow member under its own axial force `N` (+ tension; any shape): compression over Fc A, 0 in
        tension (Table K2.1).

        Fc is Fy for LRFD and 0.60 Fy for ASD. NaN stays NaN.
        """
        Fc = Fy if self.code.lrfd else 0.60 * Fy
        return trace(
            "U",
            "max(-N support, 0) / (Fc A)",
            np.maximum(-np.asarray(N, float), 0.0) / (Fc * A),
            "K2",
            kind="number",
            Fc=Fc,
            A=A,
        )

    def hollow_wall_plastification(
        self, Fy: float, t: float, B: float, tp: float, length: float, U: Any = 0.0, trace: Trace = NULL
    ) -> Any:
        """A plate along a rectangular hollow member pulled or pushed square to its wall, N: yield lines (Manual Part
        9).

        `B` width of the face it lands on, `tp` plate thickness, `length` along the member, mm; Qf = sqrt(1 - U^2).
        No strength where the plate is as wide as the face.
        """
        if tp >= B:
            return 0.0
        Qf = trace("Qf", "sqrt(1 - U^2)", np.sqrt(1 - np.minimum(U, 1.0) ** 2), "Manual Part 9", kind="number", U=U)
        Rn = trace(
            "Rn",
            "Fy t^2/(1 - tp/B) (2 lb/B + 4 sqrt(1 - tp/B) Qf)",
            Fy * t**2 / (1 - tp / B) * (2 * length / B + 4 * math.sqrt(1 - tp / B) * Qf),
            "Manual Part 9",
            Fy=Fy,
            t=t,
            B=B,
            tp=tp,
            lb=length,
            kind="force",
        )
        return self.code.available(Rn, "hollow_wall", trace)

    def round_wall_plastification(
        self, Fy: float, t: float, D: float, length: float, U: Any = 0.0, trace: Trace = NULL
    ) -> Any:
        """A plate along a round hollow member pulled or pushed square to it, N (K2, Table K2.1); Qf = 1 - 0.3 U (1 +
        U)."""
        Qf = trace(
            "Qf",
            "1 - 0.3 U (1 + U)",
            np.maximum(1 - 0.3 * np.asarray(U) * (1 + np.asarray(U)), 0.0),
            "Table K2.1",
            kind="number",
            U=U,
        )
        Rn = trace(
            "Rn",
            "5.5 Fy t^2 (1 + 0.25 lb/D) Qf",
            5.5 * Fy * t**2 * (1 + 0.25 * length / D) * Qf,
            "Table K2.1",
            Fy=Fy,
            t=t,
            lb=length,
            D=D,
            kind="force",
        )
        return self.code.available(Rn, "flexure", trace)
