"""Reinforcing bars: strength as anchor reinforcement (17.5.2.1) and the length that develops them (25.4)."""

from __future__ import annotations

from dataclasses import dataclass

from handrail.core.codes.aci318.code import PSI, Edition, root
from handrail.core.quantities.units import INCH, KSI

PHI = 0.75  # 17.5.2.1
STRESSED = 80 * KSI  # the most of fy that anchor reinforcement is designed with (Table 20.2.2.4(a))
SMALL = 0.75 * INCH  # No. 6
LEAST, LEAST_HOOK = 12 * INCH, 6 * INCH
DEEP = 12 * INCH  # of fresh concrete below a straight level bar, that makes it a top bar (25.4.2.5)
TOP = 1.3
GRADES = ((60 * KSI, 1.0), (80 * KSI, 1.15), (100 * KSI, 1.3))  # fy and psi_g (25.4.2.5)
ROOMY = 2.0  # diameters clear between bars, with one of cover, that the shorter lengths of Table 25.4.2.3 ask for
HOOKS_APART = 6.0  # diameters between hooks, centre to centre, and of cover beside them (25.4.3.2)


@dataclass(frozen=True)
class Bars:
    """Reinforcing bars that take an anchor's force."""

    code: Edition

    def strength(self, each: float, fy: float) -> float:
        """Design strength of a bar of `each` mm^2 that is developed on both sides of the breakout surface, N
        (17.5.2.1): 0.75 As fy."""
        return PHI * each * min(fy, STRESSED)

    @property
    def roomy(self) -> float:
        """Diameters clear between bars, with one of cover, that the shorter lengths ask for (Table 25.4.2.3)."""
        return ROOMY

    @property
    def hooks_apart(self) -> float:
        """Diameters between hooks, centre to centre, and of cover beside them (25.4.3.2)."""
        return HOOKS_APART

    @property
    def top_bar(self) -> float:
        """Of fresh concrete below a straight level bar, that makes it a top bar, mm (25.4.2.5)."""
        return DEEP

    def straight(self, d: float, fy: float, fc: float, roomy: bool, top: bool = False, light: float = 1.0) -> float:
        """ld of a straight bar, mm (Table 25.4.2.3), uncoated: fy psi_t psi_g/(25 lambda sqrt(fc')) db to No. 6, /20
        beyond; half as much again where bars are not `roomy`: two diameters clear of each other, with one of cover."""
        divisor = (25 if d <= SMALL + 1e-6 else 20) / (1.0 if roomy else 1.5)
        grade = next((psi for most, psi in GRADES if fy <= most + 1e-6), GRADES[-1][1])
        return max(fy / PSI * grade * (TOP if top else 1.0) / (divisor * light * root(fc)) * d, LEAST)

    def hooked(self, d: float, fy: float, fc: float, apart: bool, covered: bool, light: float = 1.0) -> float:
        """ldh of a hooked bar, mm (25.4.3.1), uncoated and without ties around it: 1.6 unless six diameters `apart`,
        1.25 unless `covered` by six beside it."""
        strong = min(fc / PSI / 15_000 + 0.6, 1.0)
        factor = (1.0 if apart else 1.6) * (1.0 if covered else 1.25) * strong
        return max(fy / PSI * factor / (55 * light * root(fc)) * (d / INCH) ** 1.5 * INCH, 8 * d, LEAST_HOOK)

    def cover(self, d: float) -> float:
        """Least over a bar at a formed face that meets the weather or the ground, mm (20.5.1.3.1)."""
        return (1.5 if d < SMALL - 1e-6 else 2.0) * INCH

    def clear(self, d: float) -> float:
        """Least between bars, mm, of stone up to 3/4 in. (25.2.1)."""
        return max(INCH, d)
