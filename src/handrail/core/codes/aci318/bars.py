"""Reinforcing bars: strength as anchor reinforcement (17.5.2.1) and the length that develops them (25.4)."""

from __future__ import annotations

from handrail.core.catalogue.bars import Bars
from handrail.core.codes.aci318.code import PSI, root
from handrail.core.trace import NULL, Trace
from handrail.core.units import INCH

PHI = 0.75  # 17.5.2.1
SMALL = 0.75 * INCH  # No. 6
LEAST, LEAST_HOOK = 12 * INCH, 6 * INCH


def strength(bars: Bars, fy: float, trace: Trace = NULL) -> float:
    """Design strength of bars that are developed on both sides of the breakout surface, N (17.5.2.1): 0.75 As fy."""
    return trace("phi As fy", f"0.75 As fy, {bars.name}", PHI * bars.area * fy, "17.5.2.1", kind="force", As=bars.area, Fy=fy)


def straight(bars: Bars, fy: float, fc: float) -> float:
    """ld of straight bars, mm (25.4.2.3, clear spacing and cover of a bar, bottom, uncoated): fy/(25 sqrt(fc')) db to No. 6, /20 beyond."""
    divisor = 25 if bars.d <= SMALL + 1e-6 else 20
    return max(fy / PSI / (divisor * root(fc)) * bars.d, LEAST)


def hooked(bars: Bars, fy: float, fc: float) -> float:
    """ldh of hooked bars, mm (25.4.3.1) without ties around them (1.6) nor side cover (1.25)."""
    strong = min(fc / PSI / 15_000 + 0.6, 1.0)
    found = fy / PSI * 1.6 * 1.25 * strong / (55 * root(fc)) * (bars.d / INCH) ** 1.5 * INCH
    return max(found, 8 * bars.d, LEAST_HOOK)
