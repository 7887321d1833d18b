"""A member's own strengths: shear of its web (G2.1), yielding in tension (D2)."""

from __future__ import annotations

import math

from handrail.core.catalogue import Section
from handrail.core.codes.aisc360.code import Code, E
from handrail.core.trace import NULL, Trace


def web_shear(code: Code, section: Section, Fy: float, trace: Trace = NULL) -> float:
    """Available shear of a rolled shape's web, N (G2.1); phi = 1 where h/tw <= 2.24 sqrt(E/Fy) of an I-shape."""
    gross = 0.6 * Fy * section.d * section.tw
    if section.h_tw <= 2.24 * math.sqrt(E / Fy) and section.open:
        return code.available(trace("Vn", "0.6 Fy d tw", gross, "G2-1", Fy=Fy, d=section.d, tw=section.tw), "shear_yield", trace, symbol="V")
    Cv1 = min(1.0, 1.10 * math.sqrt(5.34 * E / Fy) / section.h_tw)
    return code.available(trace("Vn", "0.6 Fy d tw Cv1", gross * Cv1, "G2-1", Fy=Fy, d=section.d, tw=section.tw, Cv1=Cv1), "web_shear", trace, symbol="V")


def tension_yield(code: Code, section: Section, Fy: float, trace: Trace = NULL) -> float:
    """Available tension of a member that yields on its gross section, N (D2)."""
    return code.available(trace("Pn", "Fy Ag", Fy * section.A, "D2-1", Fy=Fy, Ag=section.A), "tension_yield", trace, symbol="P")
