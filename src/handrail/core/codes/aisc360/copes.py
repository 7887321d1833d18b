"""Coped beams: the Manual's Part 9 (15th and 16th editions)."""

from __future__ import annotations

import math
from dataclasses import dataclass

from handrail.core.catalogue.steel import E
from handrail.core.codes.aisc360.code import Edition
from handrail.core.codes.aisc360.plates import Plates
from handrail.core.quantities.lines import NULL, Trace


@dataclass(frozen=True)
class Copes:
    """Webs beside copes."""

    code: Edition

    def single_cope_problem(self, c: float, dc: float, d: float) -> str:
        """Why the one-flange procedure does not hold; empty where it does (c <= 2 d, dc <= d/2)."""
        if c > 2 * d:
            return "cope longer than 2 d"
        return "cope deeper than d/2" if dc > d / 2 else ""

    def double_cope_problem(self, c: float, top: float, bottom: float, d: float) -> str:
        """Why the two-flange procedure does not hold; empty where it does (c <= 2 d, each dc <= 0.2 d)."""
        if c > 2 * d:
            return "cope longer than 2 d"
        return "cope deeper than 0.2 d" if max(top, bottom) > 0.2 * d else ""

    def single_cope_buckling(
        self, Fy: float, d: float, tw: float, ho: float, S: float, Z: float, c: float, trace: Trace = NULL
    ) -> float:
        """Available moment in local buckling of the web beside one cope, N*mm (Part 9, Eqs. 9-6 to 9-13).

        `ho` is what is left of the depth, `S` and `Z` its moduli at the cut edge, `c` the cope's length, mm.
        """
        f = trace("f", "2c/d, or 1 + c/d over 1", 2 * c / d if c <= d else 1 + c / d, "Part 9", kind="number", c=c, d=d)
        k = trace(
            "k",
            "2.2 (ho/c)^1.65, or 2.2 ho/c over 1",
            2.2 * (ho / c) ** 1.65 if c <= ho else 2.2 * ho / c,
            "Part 9",
            kind="number",
            ho=ho,
            c=c,
        )
        k1 = trace("k1", "max(f k, 1.61)", max(f * k, 1.61), "Part 9", kind="number")
        lam = trace("lambda", "ho / tw", ho / tw, "Part 9", kind="number", ho=ho, tw=tw)
        lam_p = trace(
            "lambda_p", "0.475 sqrt(k1 E / Fy)", 0.475 * math.sqrt(k1 * E / Fy), "Part 9", kind="number", Fy=Fy
        )
        My = trace("My", "Fy Snet", Fy * S, Fy=Fy, Snet=S)
        Mp = trace("Mp", "Fy Znet", Fy * Z, Fy=Fy, Znet=Z)
        if lam <= lam_p:
            Mn = trace("Mn", "Mp", Mp, "Part 9")
        elif lam <= 2 * lam_p:
            Mn = trace("Mn", "Mp - (Mp - My)(lambda/lambda_p - 1)", Mp - (Mp - My) * (lam / lam_p - 1), "Part 9")
        else:
            Fcr = trace("Fcr", "0.903 E k1 / lambda^2", 0.903 * E * k1 / lam**2, "Part 9")
            Mn = trace("Mn", "Fcr Snet", Fcr * S, "Part 9", Snet=S)
        return self.code.available(Mn, "flexure", trace, symbol="M")

    def double_cope_buckling(
        self, Fy: float, d: float, tw: float, ho: float, c: float, top: float, trace: Trace = NULL
    ) -> float:
        """Available moment in buckling beside two copes, N*mm (Part 9: F11 with its Cb)."""
        Cb = trace(
            "Cb",
            "max((3 + ln(Lb/d)) (1 - dct/d), 1.84)",
            max((3 + math.log(c / d)) * (1 - top / d), 1.84),
            "Part 9",
            Lb=c,
            d=d,
            dct=top,
        )
        return Plates(self.code).bar_flexure(Fy, tw, ho, c, Cb, trace)
