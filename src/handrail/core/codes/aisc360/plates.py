"""Connected elements: J4, with the rectangular bar in flexure by F11."""

from __future__ import annotations

import math
from dataclasses import dataclass

from handrail.core.catalogue.steel import E
from handrail.core.codes.aisc360.code import Edition
from handrail.core.quantities.lines import NULL, Trace
from handrail.core.quantities.units import INCH

HOLE_ALLOWANCE = INCH / 16


@dataclass(frozen=True)
class Plates:
    """Connected elements."""

    code: Edition

    def net_hole(self, size: float) -> float:
        """The width a hole takes from a net section, mm (B4.3b): nominal hole + 1/16 in."""
        return size + HOLE_ALLOWANCE

    def shear_yield(self, Fy: float, Agv: float, trace: Trace = NULL) -> float:
        """Available shear yielding, N (J4.2a)."""
        Rn = trace("Rn", "0.60 Fy Agv", 0.60 * Fy * Agv, "J4-3", Fy=Fy, Agv=Agv)
        return self.code.available(Rn, "shear_yield", trace)

    def shear_rupture(self, Fu: float, Anv: float, trace: Trace = NULL) -> float:
        """Available shear rupture, N (J4.2b)."""
        Rn = trace("Rn", "0.60 Fu Anv", 0.60 * Fu * Anv, "J4-4", Fu=Fu, Anv=Anv)
        return self.code.available(Rn, "rupture", trace)

    def tension_yield(self, Fy: float, Ag: float, trace: Trace = NULL) -> float:
        """Available tension yielding, N (J4.1a)."""
        return self.code.available(trace("Rn", "Fy Ag", Fy * Ag, "J4-1", Fy=Fy, Ag=Ag), "tension_yield", trace)

    def tension_rupture(self, Fu: float, Ae: float, trace: Trace = NULL) -> float:
        """Available tension rupture, N (J4.1b)."""
        return self.code.available(trace("Rn", "Fu Ae", Fu * Ae, "J4-2", Fu=Fu, Ae=Ae), "rupture", trace)

    def block_shear(
        self, Fy: float, Fu: float, Agv: float, Anv: float, Ant: float, Ubs: float, trace: Trace = NULL
    ) -> float:
        """Available block shear of one path, N (J4.3)."""
        tension = trace("Ubs Fu Ant", "Ubs Fu Ant", Ubs * Fu * Ant, kind="force", Ubs=Ubs, Fu=Fu, Ant=Ant)
        rupture = trace("0.60 Fu Anv", "0.60 Fu Anv", 0.60 * Fu * Anv, kind="force", Anv=Anv)
        yielding = trace("0.60 Fy Agv", "0.60 Fy Agv", 0.60 * Fy * Agv, kind="force", Fy=Fy, Agv=Agv)
        Rn = trace("Rn", "min(0.60 Fu Anv, 0.60 Fy Agv) + Ubs Fu Ant", min(rupture, yielding) + tension, "J4-5")
        return self.code.available(Rn, "rupture", trace)

    def compression(self, Fy: float, Ag: float, Lc: float, r: float, trace: Trace = NULL) -> float:
        """Available compression, N (J4.4): Fy Ag up to Lc/r = 25, E3 beyond."""
        slender = trace("Lc/r", "Lc / r", Lc / r, "J4.4", kind="number", Lc=Lc, r=r)
        if slender <= 25:
            Pn = trace("Pn", "Fy Ag", Fy * Ag, "J4-6", Fy=Fy, Ag=Ag)
            return self.code.available(Pn, "compression", trace, symbol="P")
        Fe = trace("Fe", "pi^2 E / (Lc/r)^2", math.pi**2 * E / slender**2, "E3-4")
        if Fy / Fe <= 2.25:
            Fcr = trace("Fcr", "0.658^(Fy/Fe) Fy", 0.658 ** (Fy / Fe) * Fy, "E3-2", Fy=Fy)
        else:
            Fcr = trace("Fcr", "0.877 Fe", 0.877 * Fe, "E3-3")
        Pn = trace("Pn", "Fcr Ag", Fcr * Ag, "E3-1", Ag=Ag)
        return self.code.available(Pn, "compression", trace, symbol="P")

    def bar_flexure(self, Fy: float, t: float, d: float, Lb: float, Cb: float, trace: Trace = NULL) -> float:
        """Available moment of a rectangular bar bent in its plane with lateral-torsional buckling, N*mm (F11).

        `t` thickness, `d` depth, `Lb` unbraced length, mm.
        """
        My = trace("My", "Fy t d^2 / 6", Fy * t * d**2 / 6, Fy=Fy, t=t, d=d)
        Mp = trace("Mp", "min(Fy t d^2 / 4, 1.6 My)", min(Fy * t * d**2 / 4, 1.6 * My), "F11-1")
        slender = trace("Lb d / t^2", "Lb d / t^2", Lb * d / t**2, kind="number", Lb=Lb, d=d, t=t)
        if slender <= 0.08 * E / Fy:
            Mn = Mp
        elif slender <= 1.9 * E / Fy:
            Mn = trace(
                "Mn",
                "Cb (1.52 - 0.274 (Lb d/t^2) Fy/E) My <= Mp",
                min(Cb * (1.52 - 0.274 * slender * Fy / E) * My, Mp),
                "F11-2",
                Cb=Cb,
            )
        else:
            Mn = trace(
                "Mn", "1.9 E Cb / (Lb d/t^2) Sx <= Mp", min(1.9 * E * Cb / slender * t * d**2 / 6, Mp), "F11-3", Cb=Cb
            )
        return self.code.available(Mn, "flexure", trace, symbol="M")

    def flexure_yield(self, Fy: float, Z: float, trace: Trace = NULL) -> float:
        """Available plastic moment of a plate, N*mm (J4.5)."""
        return self.code.available(trace("Mn", "Fy Z", Fy * Z, "J4.5", Fy=Fy, Z=Z), "flexure", trace, symbol="M")

    def flexure_rupture(self, Fu: float, Znet: float, trace: Trace = NULL, symbol: str = "Znet") -> float:
        """Available moment in rupture on the net section, N*mm (J4.5 and the Manual's Part 9)."""
        Mn = trace("Mn", f"Fu {symbol}", Fu * Znet, "J4.5", **{"Fu": Fu, symbol: Znet})  # type: ignore[arg-type]
        return self.code.available(Mn, "rupture", trace, symbol="M")

    def net_plastic_modulus(self, t: float, depth: float, rows: int, pitch: float, hole: float) -> float:
        """Z of a plate `depth` deep with one centred line of `rows` holes `hole` wide, mm^3."""
        area = t * (depth - rows * hole) / 2
        centres = [pitch * (k - (rows - 1) / 2) for k in range(rows)]
        first = t * depth**2 / 4
        for y in centres:
            top, bottom = y + hole / 2, y - hole / 2
            if bottom >= 0 or top <= 0:
                first -= t * hole * abs(y)
            else:
                first -= t * (top**2 + bottom**2) / 2
        return first if area > 0 else 0.0
