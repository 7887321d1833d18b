"""What a splice of columns and a column's base have to hold in a structure made for earthquakes, whatever the analysis
says (AISC 341-22)."""

from __future__ import annotations

from dataclasses import dataclass

from handrail.core.catalogue import Steel
from handrail.core.catalogue.lateral import DETAILED
from handrail.core.codes.aisc360.code import Edition
from handrail.core.codes.aisc360.splices import Splices
from handrail.core.codes.asked import Demand

HIGH = ("D", "E", "F")  # categories in which structures are detailed, unless R = 3


@dataclass(frozen=True)
class Aisc341:
    """AISC 341-22 beside a code of steel."""

    code: Edition

    @property
    def _alpha(self) -> float:
        return 1.0 if self.code.lrfd else 1.5

    def asks_of_splices(self, kind: str, category: str) -> bool:
        """Whether every column's splice has a least shear (D2.5c): of a detailed system, or of a structure in a high
        category that is not R = 3."""
        return kind in DETAILED or (category in HIGH and kind != "not_detailed")

    def clear_height(self, kind: str) -> bool:
        """Whether the kind's least shear takes the height clear between the beams."""
        return kind in ("intermediate_moment", "special_moment", "special_braced", "buckling_restrained")

    def of_splice(self, kind: str, pieces: tuple[Steel, Steel], storey: float, clear: float | None) -> list[Demand]:
        """Of a column's splice in a `storey` mm high, `clear` mm between the beams. D2.5c of every column: the lesser
        Mpc over alpha_s H. E3.6g (E2.6g): the sum of both Mpc over alpha_s Hc, and Ry Fy Zx of the smaller column in
        flexure. F2.6d (F4.6d): the sum of both Mp over alpha_s Hc, and half of the lesser Mp."""
        strong, weak = ([p.grade.Fy * getattr(p.section, z) / self._alpha for p in pieces] for z in ("Zx", "Zy"))
        demands = [
            Demand("D2.5c, Mpc/(alpha_s H)", V=min(strong) / storey),
            Demand("D2.5c, Mpc,y/(alpha_s H)", Vw=min(weak) / storey),
        ]
        if not self.clear_height(kind):
            return demands
        assert clear is not None
        braced = kind in ("special_braced", "buckling_restrained")
        clause = {
            "special_braced": "F2.6d",
            "buckling_restrained": "F4.6d",
            "special_moment": "E3.6g",
            "intermediate_moment": "E2.6g",
        }[kind]
        demands += [
            Demand(f"{clause}, sum of Mpc/(alpha_s Hc)", V=sum(strong) / clear),
            Demand(f"{clause}, sum of Mpc,y/(alpha_s Hc)", Vw=sum(weak) / clear),
        ]
        if braced:
            return [
                *demands,
                Demand(f"{clause}, half of the lesser Mp", M=min(strong) / 2),
                Demand(f"{clause}, half of the lesser Mp,y", Mw=min(weak) / 2),
            ]
        smaller = min(pieces, key=lambda p: p.grade.Fy * p.section.Zx)
        return [
            *demands,
            Demand(
                f"{clause}, Ry Fy Zx of the smaller column",
                M=Splices(self.code).expected(smaller.grade) * smaller.grade.Fy * smaller.section.Zx / self._alpha,
            ),
        ]

    def of_base(self, steel: Steel, storey: float) -> list[Demand]:
        """Of a column's base, beside the overstrength combinations (D2.6b): 0.7 Fy Z over alpha_s H each way."""
        strong, weak = (0.7 * steel.grade.Fy * z / self._alpha / storey for z in (steel.section.Zx, steel.section.Zy))
        return [Demand("D2.6b, 0.7 Fy Zx/(alpha_s H)", V=strong), Demand("D2.6b, 0.7 Fy Zy/(alpha_s H)", Vw=weak)]
