"""Coped beams: the Manual's Part 9 (15th and 16th editions)."""

from __future__ import annotations

import math
from dataclasses import dataclass

from handrail.core.codes.aisc360.code import Code, E
from handrail.core.codes.aisc360.plates import bar_flexure
from handrail.core.trace import NULL, Trace

Rectangle = tuple[float, float, float]  # width, top and bottom below the top of what is left, mm


@dataclass(frozen=True)
class CopedSection:
    """What is left of an I-shape beside a cope: a tee (one cope) or a web strip (both copes), the cut edge at the top.

    `ho` remaining depth, `S` elastic modulus at the cut edge and `Z` plastic modulus, mm^3; `parts` are its
    rectangles, fillets left out.
    """

    ho: float
    S: float
    Z: float
    area: float
    parts: tuple[Rectangle, ...]


def coped_section(d: float, tw: float, bf: float, tf: float, top: float, bottom: float) -> CopedSection:
    """The remaining section, fillets left out, for cope depths `top` and `bottom` (0: not coped), mm.

    One that is coped below only is turned over, so that its cut edge is at the top.
    """
    ho = d - top - bottom
    parts: tuple[Rectangle, ...] = ((tw, 0.0, ho),) if top and bottom else ((tw, 0.0, ho - tf), (bf, ho - tf, ho))
    return CopedSection(ho, _elastic(parts), _plastic(parts), sum(b * (y1 - y0) for b, y0, y1 in parts), parts)


def net_elastic_modulus(section: CopedSection, holes: list[tuple[float, float]]) -> float:
    """S at the cut edge with `holes` (top, bottom below that edge, mm) taken out of the web, mm^3; 0 where nothing is
    left."""
    tw = section.parts[0][0]
    return _elastic((*section.parts, *((-tw, max(y0, 0.0), y1) for y0, y1 in holes)))


def _elastic(parts: tuple[Rectangle, ...]) -> float:
    """Elastic modulus at y = 0 of rectangles added up; a negative width is a hole."""
    area = sum(b * (y1 - y0) for b, y0, y1 in parts)
    if area <= 0:
        return 0.0
    ybar = sum(b * (y1**2 - y0**2) / 2 for b, y0, y1 in parts) / area
    inertia = sum(b * (y1**3 - y0**3) / 3 for b, y0, y1 in parts) - area * ybar**2
    return inertia / ybar if inertia > 0 and ybar > 0 else 0.0


def _plastic(parts: tuple[Rectangle, ...]) -> float:
    """Plastic modulus of rectangles stacked from y = 0 down, none a hole."""
    half, axis = sum(b * (y1 - y0) for b, y0, y1 in parts) / 2, 0.0
    for b, y0, y1 in parts:
        if half <= b * (y1 - y0):
            axis = y0 + half / b
            break
        half -= b * (y1 - y0)
    return sum(b * (_first(y1 - axis) - _first(y0 - axis)) for b, y0, y1 in parts)


def _first(y: float) -> float:
    """The integral of |y| from 0 to y."""
    return y * abs(y) / 2


def single_cope_problem(c: float, dc: float, d: float) -> str:
    """Why the one-flange procedure does not hold; empty where it does (c <= 2 d, dc <= d/2)."""
    if c > 2 * d:
        return "cope longer than 2 d"
    return "cope deeper than d/2" if dc > d / 2 else ""


def double_cope_problem(c: float, top: float, bottom: float, d: float) -> str:
    """Why the two-flange procedure does not hold; empty where it does (c <= 2 d, each dc <= 0.2 d)."""
    if c > 2 * d:
        return "cope longer than 2 d"
    return "cope deeper than 0.2 d" if max(top, bottom) > 0.2 * d else ""


def single_cope_buckling(
    code: Code, Fy: float, d: float, tw: float, section: CopedSection, c: float, trace: Trace = NULL
) -> float:
    """Available moment in local buckling of the web beside one cope, N*mm (Part 9, Eqs. 9-6 to 9-13).

    `c` is the cope's length, mm.
    """
    ho = section.ho
    f = trace("f_", "2c/d, or 1 + c/d over 1", 2 * c / d if c <= d else 1 + c / d, "Part 9", c=c, d=d)
    k = trace(
        "k_",
        "2.2 (ho/c)^1.65, or 2.2 ho/c over 1",
        2.2 * (ho / c) ** 1.65 if c <= ho else 2.2 * ho / c,
        "Part 9",
        ho=ho,
        c=c,
    )
    k1 = trace("k_1", "max(f k, 1.61)", max(f * k, 1.61), "Part 9")
    lam = trace("lambda", "ho / tw", ho / tw, "Part 9", ho=ho, tw=tw)
    lam_p = trace("lambda_p", "0.475 sqrt(k1 E / Fy)", 0.475 * math.sqrt(k1 * E / Fy), "Part 9", Fy=Fy)
    My = trace("My", "Fy Snet", Fy * section.S, Fy=Fy, Snet=section.S)
    Mp = trace("Mp", "Fy Znet", Fy * section.Z, Fy=Fy, Znet=section.Z)
    if lam <= lam_p:
        Mn = trace("Mn", "Mp", Mp, "Part 9")
    elif lam <= 2 * lam_p:
        Mn = trace("Mn", "Mp - (Mp - My)(lambda/lambda_p - 1)", Mp - (Mp - My) * (lam / lam_p - 1), "Part 9")
    else:
        Fcr = trace("Fcr", "0.903 E k1 / lambda^2", 0.903 * E * k1 / lam**2, "Part 9")
        Mn = trace("Mn", "Fcr Snet", Fcr * section.S, "Part 9", Snet=section.S)
    return code.available(Mn, "flexure", trace, symbol="M")


def double_cope_buckling(
    code: Code, Fy: float, d: float, tw: float, ho: float, c: float, top: float, trace: Trace = NULL
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
    return bar_flexure(code, Fy, tw, ho, c, Cb, trace)
