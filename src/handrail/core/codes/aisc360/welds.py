"""Fillet welds: J2.4 with the directional increase, sizes by J2.2 and Table J2.4."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from handrail.core.catalogue import Electrode
from handrail.core.codes.aisc360.code import Edition
from handrail.core.quantities.lines import NULL, Trace
from handrail.core.quantities.units import INCH, KSI

ACUTE_LOSS = INCH / 8  # of the throat in an angle under 60 degrees (AWS D1.1, Z loss)


def _acute_loss(skew: float) -> float:
    return ACUTE_LOSS if math.pi / 2 - abs(skew) < math.pi / 3 - 1e-9 else 0.0


@dataclass(frozen=True)
class Welds:
    """Fillets and partial-penetration grooves, mm."""

    code: Edition

    def directional_increase(self, sine: np.ndarray) -> np.ndarray:
        """kds = 1 + 0.5 sin^1.5(theta) from the sine of theta, the angle from the weld's length to the force (J2-5)."""
        return 1.0 + 0.5 * sine * np.sqrt(sine)

    def line_strength(self, electrode: Electrode, throat: float, length: float, trace: Trace = NULL) -> float:
        """Available strength of fillets with a summed `throat` over `length`, loaded along it, N (J2.4)."""
        Rn = trace(
            "Rn",
            "0.60 FEXX throat L",
            0.60 * electrode.FEXX * throat * length,
            "J2.4",
            FEXX=electrode.FEXX,
            throat=throat,
            L=length,
        )
        return self.code.available(Rn, "weld", trace)

    def fillet(self, electrode: Electrode, size: float, trace: Trace = NULL) -> float:
        """Available strength of each mm of one fillet of leg `size`, N/mm, loaded along it (J2.4)."""
        rn = trace(
            "rn",
            "0.60 FEXX 0.707 w",
            self.nominal(electrode, size),
            "J2.4",
            kind="per_length",
            FEXX=electrode.FEXX,
            w=size,
        )
        return trace(
            "phi rn" if self.code.lrfd else "rn/Omega",
            "available",
            self.code.factor("weld") * rn,
            "J2.4",
            kind="per_length",
        )

    def web_ruptures_with(self, t: float, Fu: float, electrode: Electrode) -> float:
        """Fillet on each side of a plate or web `t` thick at which the metal between them ruptures in shear, mm: 0.60
        Fu t = 2 (0.60 FEXX) w/sqrt 2."""
        return t * Fu / (math.sqrt(2) * electrode.FEXX)

    def nominal(self, electrode: Electrode, size: float) -> float:
        """Nominal strength of each mm of one fillet of leg `size`, N/mm, loaded along it (J2.4)."""
        return 0.60 * electrode.FEXX * size / math.sqrt(2)

    def groove_tension(self, electrode: Electrode, throat: float, trace: Trace = NULL) -> float:
        """Available strength of each mm of a partial-penetration groove pulled square to it, N/mm (Table J2.5): 0.60
        FEXX throat, phi 0.80, Omega 1.88."""
        rn = trace(
            "rn",
            "0.60 FEXX E",
            0.60 * electrode.FEXX * throat,
            "Table J2.5",
            kind="per_length",
            FEXX=electrode.FEXX,
            E=throat,
        )
        return trace(
            "phi rn" if self.code.lrfd else "rn/Omega",
            "available",
            self.code.factor("groove") * rn,
            "J2.4",
            kind="per_length",
        )

    def min_throat(self, thinner: float) -> float:
        """Least effective throat of a partial-penetration groove by the thinner part joined, mm (Table J2.3)."""
        for limit, throat in (
            (1 / 4, 1 / 8),
            (1 / 2, 3 / 16),
            (3 / 4, 1 / 4),
            (3 / 2, 5 / 16),
            (9 / 4, 3 / 8),
            (6, 1 / 2),
        ):
            if thinner <= limit * INCH + 1e-6:
                return throat * INCH
        return 5 / 8 * INCH

    def throats(self, size: float, skew: float) -> tuple[float, float]:
        """(acute, obtuse) throats of a fillet with legs `size` each side of a plate turned `skew` rad from square, mm.

        In a dihedral angle psi it is w cos(psi/2); in one under 60 degrees the root is not reached, and 1/8 in. of it
        is lost."""
        turned = abs(skew) / 2
        return max(size * math.cos(math.pi / 4 - turned) - _acute_loss(skew), 0.0), size * math.cos(
            math.pi / 4 + turned
        )

    def pair_throat(self, size: float, skew: float) -> float:
        """Summed throat of a fillet each side of a plate turned `skew` rad from square, mm."""
        return sum(self.throats(size, skew))

    def min_size(self, thinner: float) -> float:
        """Least fillet by the thinner part joined, mm (Table J2.4)."""
        for limit, size in ((1 / 4, 1 / 8), (1 / 2, 3 / 16), (3 / 4, 1 / 4)):
            if thinner <= limit * INCH + 1e-6:
                return size * INCH
        return 5 / 16 * INCH

    def develops_plate(self, t: float, Fy: float, electrode: Electrode, skew: float = 0.0) -> float:
        """Fillet each side that develops a plate in any direction of load, mm.

        5/8 t where Fy <= 50 ksi and FEXX >= 70 ksi (Manual Part 10), scaled by Fy/FEXX beyond that; of a skewed plate,
        the size whose throats together are those of two such fillets at a square one."""
        ksi50, e70 = 50 * 6.894757293168, 70 * 6.894757293168
        square = 5 / 8 * t * max(1.0, Fy / ksi50) * max(1.0, e70 / electrode.FEXX)
        return (square + _acute_loss(skew) / math.sqrt(2)) / math.cos(skew / 2)

    def max_size(self, t: float) -> float:
        """Largest fillet along the edge of what is `t` thick, mm (J2.2b): t under 1/4 in., t - 1/16 in. from there
        on."""
        return t if t < INCH / 4 - 1e-6 else t - INCH / 16

    def ductile_size(self, t: float, Fy: float, b: float, L: float) -> float:
        """Least fillet with which a leg `t` thick, `b` wide and `L` long turns before its weld tears, mm (Manual Part
        9): 0.0155 (Fy t^2/b)(b^2/L^2 + 2) with Fy in ksi, at most 5/8 t."""
        return min(0.0155 * (Fy / KSI) * t**2 / b * (b**2 / L**2 + 2), 5 / 8 * t)
