"""Fillet welds: J2.4 with the directional increase, sizes by J2.2 and Table J2.4."""

from __future__ import annotations

import math

import numpy as np

from handrail.core.catalogue import Electrode
from handrail.core.codes.aisc360.code import FACTORS, Code
from handrail.core.trace import NULL, Trace
from handrail.core.units import INCH, KSI


def directional_increase(sine: np.ndarray) -> np.ndarray:
    """kds = 1 + 0.5 sin^1.5(theta) from the sine of theta, the angle from the weld's length to the force (J2-5)."""
    return 1.0 + 0.5 * sine * np.sqrt(sine)


def line_strength(code: Code, electrode: Electrode, throat: float, length: float, trace: Trace = NULL) -> float:
    """Available strength of fillets with a summed `throat` over `length`, loaded along it, N (J2.4)."""
    Rn = trace("Rn", "0.60 FEXX throat L", 0.60 * electrode.FEXX * throat * length, "J2.4", FEXX=electrode.FEXX,
               throat=throat, L=length)  # fmt: skip
    return code.available(Rn, "weld", trace)


def fillet(code: Code, electrode: Electrode, size: float, trace: Trace = NULL) -> float:
    """Available strength of each mm of one fillet of leg `size`, N/mm, loaded along it (J2.4)."""
    phi, omega = FACTORS["weld"]
    rn = trace("rn", "0.60 FEXX 0.707 w", 0.60 * electrode.FEXX * size / math.sqrt(2), "J2.4", kind="per_length", FEXX=electrode.FEXX, w=size)
    return trace("phi rn" if code.lrfd else "rn/Omega", "available", phi * rn if code.lrfd else rn / omega, "J2.4", kind="per_length")


def web_ruptures_with(t: float, Fu: float, electrode: Electrode) -> float:
    """Fillet on each side of a plate or web `t` thick at which the metal between them ruptures in shear, mm: 0.60 Fu t = 2 (0.60 FEXX) w/sqrt 2."""
    return t * Fu / (math.sqrt(2) * electrode.FEXX)


def groove_tension(code: Code, electrode: Electrode, throat: float, trace: Trace = NULL) -> float:
    """Available strength of each mm of a partial-penetration groove pulled square to it, N/mm (Table J2.5): 0.60 FEXX throat, phi 0.80, Omega
    1.88."""
    phi, omega = FACTORS["groove"]
    rn = trace("rn", "0.60 FEXX E", 0.60 * electrode.FEXX * throat, "Table J2.5", kind="per_length", FEXX=electrode.FEXX, E=throat)
    return trace("phi rn" if code.lrfd else "rn/Omega", "available", phi * rn if code.lrfd else rn / omega, "J2.4", kind="per_length")


def min_throat(thinner: float) -> float:
    """Least effective throat of a partial-penetration groove by the thinner part joined, mm (Table J2.3)."""
    for limit, throat in ((1 / 4, 1 / 8), (1 / 2, 3 / 16), (3 / 4, 1 / 4), (3 / 2, 5 / 16), (9 / 4, 3 / 8), (6, 1 / 2)):
        if thinner <= limit * INCH + 1e-6:
            return throat * INCH
    return 5 / 8 * INCH


def pair_throat(size: float, skew: float) -> float:
    """Summed throat of a fillet each side of a plate turned `skew` rad from square, mm.

    Legs `size` on both faces; the throat of a fillet in a dihedral angle psi is w cos(psi/2).
    """
    return size * (math.cos(math.pi / 4 + skew / 2) + math.cos(math.pi / 4 - skew / 2))


def min_size(thinner: float) -> float:
    """Least fillet by the thinner part joined, mm (Table J2.4)."""
    for limit, size in ((1 / 4, 1 / 8), (1 / 2, 3 / 16), (3 / 4, 1 / 4)):
        if thinner <= limit * INCH + 1e-6:
            return size * INCH
    return 5 / 16 * INCH


def develops_plate(t: float, Fy: float, electrode: Electrode) -> float:
    """Fillet each side that develops a plate in any direction of load, mm.

    5/8 t where Fy <= 50 ksi and FEXX >= 70 ksi (Manual Part 10), scaled by Fy/FEXX beyond that.
    """
    ksi50, e70 = 50 * 6.894757293168, 70 * 6.894757293168
    return 5 / 8 * t * max(1.0, Fy / ksi50) * max(1.0, e70 / electrode.FEXX)


def max_size(t: float) -> float:
    """Largest fillet along the edge of what is `t` thick, mm (J2.2b): t under 1/4 in., t - 1/16 in. from there on."""
    return t if t < INCH / 4 - 1e-6 else t - INCH / 16


def ductile_size(t: float, Fy: float, b: float, L: float) -> float:
    """Least fillet with which a leg `t` thick, `b` wide and `L` long turns before its weld tears, mm (Manual Part 9): 0.0155 (Fy t^2/b)(b^2/L^2 + 2)
    with Fy in ksi, at most 5/8 t."""
    return min(0.0155 * (Fy / KSI) * t**2 / b * (b**2 / L**2 + 2), 5 / 8 * t)
