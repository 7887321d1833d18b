"""A member's own strengths: in shear (G2.1, G4 to G6), yielding in tension (D2), plastic moments (F2.1, F6.1, F7.1,
F8.1)."""

from __future__ import annotations

import math
from dataclasses import dataclass

from handrail.core.catalogue import Section
from handrail.core.catalogue.steel import E
from handrail.core.codes.aisc360.code import Edition
from handrail.core.quantities.lines import NULL, Trace


def _buckling(slender: float, Fy: float, kv: float) -> float:
    """Cv2 (G2.2)."""
    root = math.sqrt(kv * E / Fy)
    if slender <= 1.10 * root:
        return 1.0
    return 1.10 * root / slender if slender <= 1.37 * root else 1.51 * kv * E / (slender**2 * Fy)


@dataclass(frozen=True)
class Members:
    """What a member takes by itself."""

    code: Edition

    def web_shear(self, section: Section, Fy: float, trace: Trace = NULL) -> float:
        """Available shear of a rolled shape's web, N (G2.1); phi = 1 where h/tw <= 2.24 sqrt(E/Fy) of an I-shape."""
        gross = 0.6 * Fy * section.d * section.tw
        if section.h_tw <= 2.24 * math.sqrt(E / Fy) and section.open:
            return self.code.available(
                trace("Vn", "0.6 Fy d tw", gross, "G2-1", Fy=Fy, d=section.d, tw=section.tw),
                "shear_yield",
                trace,
                symbol="V",
            )
        Cv1 = min(1.0, 1.10 * math.sqrt(5.34 * E / Fy) / section.h_tw)
        return self.code.available(
            trace("Vn", "0.6 Fy d tw Cv1", gross * Cv1, "G2-1", Fy=Fy, d=section.d, tw=section.tw, Cv1=Cv1),
            "web_shear",
            trace,
            symbol="V",
        )

    def tension_yield(self, section: Section, Fy: float, trace: Trace = NULL) -> float:
        """Available tension of a member that yields on its gross section, N (D2)."""
        return self.code.available(
            trace("Pn", "Fy Ag", Fy * section.A, "D2-1", Fy=Fy, Ag=section.A), "tension_yield", trace, symbol="P"
        )

    def available(self, section: Section, Fy: float, action: str) -> float:
        """What a member can take of one action by yielding of the whole section, N or N mm: `V` and `Vw` along and
        across its web (G2.1, G4, G5, G6), `N` in tension (D2), `M` and `Mw` as plastic moments (F2.1, F6.1, F7.1,
        F8.1), with nothing taken off for buckling of the member or of its flanges."""
        if action == "N":
            return self.tension_yield(section, Fy)
        if action == "M":
            return self.code.available(Fy * section.Zx, "flexure")
        if action == "Mw":
            return self.code.available(Fy * min(section.Zy, 1.6 * section.Sy), "flexure")
        return self._shear(section, Fy, action)

    def _shear(self, section: Section, Fy: float, action: str) -> float:
        """Along the web, or across it, N."""
        if section.round:
            critical = min(0.6 * Fy, 0.78 * E / (section.d / section.wall) ** 1.5)
            return self.code.available(critical * section.A / 2, "web_shear")  # G5
        if section.hollow:
            h = (section.d if action == "V" else section.bf) - 3 * section.wall
            return self.code.available(
                0.6 * Fy * 2 * h * section.wall * _buckling(h / section.wall, Fy, 5.0), "web_shear"
            )  # G4
        if action == "V":
            return self.web_shear(section, Fy)
        return self.code.available(
            0.6 * Fy * 2 * section.bf * section.tf * _buckling(section.bf / 2 / section.tf, Fy, 1.2), "web_shear"
        )  # G6
