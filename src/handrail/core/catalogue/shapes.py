"""Properties of sections of the house's own, from their plates and walls; fillets count only in what parts must clear.

Closed forms of plane areas: rectangles, circles, rings with round corners (outer radius twice the wall, inner once)."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

STEEL = 7.85e-3  # kg/m of a mm^2
FAMILIES = {"I": "W", "rectangle": "HSS_RECT", "round": "HSS_ROUND", "channel": "C", "angle": "L"}
Properties = dict[str, float]


def properties(values: Mapping[str, Any]) -> dict[str, Any]:
    """All that a section has but its name, mm and mm^n, from its shape and dimensions."""
    shape = str(values["shape"])
    own = {"I": _open, "channel": _channel, "rectangle": _rectangle, "round": _round, "angle": _angle}[shape](values)
    A = own["A"]
    own["mass"] = A * STEEL
    own["rx"], own["ry"] = math.sqrt(own["Ix"] / A), math.sqrt(own["Iy"] / A)
    usual = dict.fromkeys(("bf", "tw", "tf", "k", "k_detail", "k1", "gauge", "wall", "J", "Cw"), 0.0)
    return {**usual, "d": float(values["d"]), **own, "family": FAMILIES[shape]}


def _plates(values: Mapping[str, Any]) -> tuple[float, float, float, float, Properties]:
    d, b, w, f = (float(values[n]) for n in ("d", "bf", "tw", "tf"))
    k = float(values.get("k") or f)
    clear = {"bf": b, "tw": w, "tf": f, "k": k, "k_detail": k, "k1": float(values.get("k1") or w / 2)}
    return d, b, w, f, clear


def _open(values: Mapping[str, Any]) -> Properties:
    d, b, w, f, own = _plates(values)
    web = d - 2 * f
    Ix, Iy = (b * d**3 - (b - w) * web**3) / 12, (2 * f * b**3 + web * w**3) / 12
    return own | {
        "A": 2 * b * f + web * w,
        "Ix": Ix,
        "Sx": 2 * Ix / d,
        "Zx": b * f * (d - f) + w * web**2 / 4,
        "Iy": Iy,
        "Sy": 2 * Iy / b,
        "Zy": f * b**2 / 2 + web * w**2 / 4,
        "J": (2 * b * f**3 + web * w**3) / 3,
        "Cw": Iy * (d - f) ** 2 / 4,
    }


def _channel(values: Mapping[str, Any]) -> Properties:
    """Two flanges to one side of a web; about y from the back of the web."""
    d, b, w, f, own = _plates(values)
    web = d - 2 * f
    A = 2 * b * f + web * w
    Ix = (b * d**3 - (b - w) * web**3) / 12
    x = (2 * b * f * b / 2 + web * w * w / 2) / A
    Iy = 2 * f * b**3 / 3 + web * w**3 / 3 - A * x**2
    half = A / 2  # the line that halves the area, from the back
    line = half / d if half <= w * d else w + (half - w * d) / (2 * f)
    outer = f * (b**2 - max(line, w) ** 2) + (d * (w**2 - line**2) / 2 if line < w else 0.0)
    Zy = 2 * outer - A * x  # what lies outside of that line, and what inside, about it
    return own | {
        "A": A,
        "Ix": Ix,
        "Sx": 2 * Ix / d,
        "Zx": b * f * (d - f) + w * web**2 / 4,
        "Iy": Iy,
        "Sy": Iy / (b - x),
        "Zy": Zy,
        "J": (2 * b * f**3 + web * w**3) / 3,
    }


def _rounded(d: float, b: float, r: float) -> tuple[float, float, float]:
    """(A, I about the middle across the depth, first moment of a half) of a rectangle with round corners."""
    cut = (1 - math.pi / 4) * r**2  # of a corner
    far = d / 2 - r + r * (10 - 3 * math.pi) / (12 - 3 * math.pi)  # its middle from the axis
    own = (1 / 3 - math.pi / 16 - 1 / (9 * (4 - math.pi))) * r**4 if r else 0.0
    return (
        b * d - 4 * cut,
        b * d**3 / 12 - 4 * (own + cut * far**2),
        b * d**2 / 8 - 2 * cut * far,
    )


def _rectangle(values: Mapping[str, Any]) -> Properties:
    d, b, t = (float(values[n]) for n in ("d", "bf", "wall"))
    r = float(values.get("radius") or 2 * t)
    inner = max(r - t, 0.0)
    out, hole = _rounded(d, b, r), _rounded(d - 2 * t, b - 2 * t, inner)
    across, across_hole = _rounded(b, d, r), _rounded(b - 2 * t, d - 2 * t, inner)
    A, Ix, Iy = out[0] - hole[0], out[1] - hole[1], across[1] - across_hole[1]
    middle = (d - t) * (b - t)
    return {
        "bf": b,
        "tw": t,
        "tf": t,
        "wall": t,
        "k": r,
        "k_detail": r,
        "A": A,
        "Ix": Ix,
        "Sx": 2 * Ix / d,
        "Zx": 2 * (out[2] - hole[2]),
        "Iy": Iy,
        "Sy": 2 * Iy / b,
        "Zy": 2 * (across[2] - across_hole[2]),
        "J": 2 * t * middle**2 / (d + b - 2 * t),
    }


def _round(values: Mapping[str, Any]) -> Properties:
    d, t = float(values["d"]), float(values["wall"])
    inside = d - 2 * t
    inertia = math.pi * (d**4 - inside**4) / 64
    plastic = (d**3 - inside**3) / 6
    elastic = 2 * inertia / d
    return {
        "wall": t,
        "tw": t,
        "tf": t,
        "A": math.pi * (d**2 - inside**2) / 4,
        "Ix": inertia,
        "Sx": elastic,
        "Zx": plastic,
        "Iy": inertia,
        "Sy": elastic,
        "Zy": plastic,
        "J": 2 * inertia,
    }


def _angle(values: Mapping[str, Any]) -> Properties:
    """Two legs, the shorter as depth, as the shipped tables have them; about lines along the legs through the middle of
    the area, x along the shorter."""
    (d, b), t = sorted(float(values[n]) for n in ("d", "bf")), float(values["wall"])
    A = t * (d + b - t)

    def about(deep: float, wide: float) -> tuple[float, float]:
        y = (t * deep * deep / 2 + t * (wide - t) * t / 2) / A
        return t * deep**3 / 3 + (wide - t) * t**3 / 3 - A * y**2, y

    (Ix, y), (Iy, x) = about(b, d), about(d, b)
    return {
        "d": d,
        "bf": b,
        "wall": t,
        "k": t,
        "k_detail": t,
        "A": A,
        "Ix": Ix,
        "Sx": Ix / (b - y),
        "Zx": 1.5 * Ix / (b - y),
        "Iy": Iy,
        "Sy": Iy / (d - x),
        "Zy": 1.5 * Iy / (d - x),
        "J": (d + b - t) * t**3 / 3,
    }
