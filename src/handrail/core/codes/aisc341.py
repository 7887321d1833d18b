"""What a splice of columns and a column's base have to hold in a structure made for earthquakes, whatever the analysis
says (AISC 341-22)."""

from __future__ import annotations

from dataclasses import dataclass

from handrail.core.catalogue import Steel
from handrail.core.catalogue.lateral import DETAILED
from handrail.core.codes.aisc360 import Code
from handrail.core.codes.aisc360.splices import expected

HIGH = ("D", "E", "F")  # categories in which structures are detailed, unless R = 3


@dataclass(frozen=True)
class Demand:
    """One required strength by itself: `name` with its clause, `V`, `Vw` N or `M`, `Mw` N mm."""

    name: str
    V: float = 0.0
    Vw: float = 0.0
    M: float = 0.0
    Mw: float = 0.0


def _alpha(code: Code) -> float:
    return 1.0 if code.lrfd else 1.5


def asks_of_splices(kind: str, category: str) -> bool:
    """Whether every column's splice has a least shear (D2.5c): of a detailed system, or of a structure in a high
    category that is not R = 3."""
    return kind in DETAILED or (category in HIGH and kind != "not_detailed")


def clear_height(kind: str) -> bool:
    """Whether the kind's least shear takes the height clear between the beams."""
    return kind in ("intermediate_moment", "special_moment", "special_braced", "buckling_restrained")


def of_splice(kind: str, pieces: tuple[Steel, Steel], storey: float, clear: float | None, code: Code) -> list[Demand]:
    """Of a column's splice in a `storey` mm high, `clear` mm between the beams. D2.5c of every column: the lesser Mpc
    over alpha_s H. E3.6g (E2.6g): the sum of both Mpc over alpha_s Hc, and Ry Fy Zx of the smaller column in flexure.
    F2.6d (F4.6d): the sum of both Mp over alpha_s Hc, and half of the lesser Mp."""
    strong, weak = ([p.grade.Fy * getattr(p.section, z) / _alpha(code) for p in pieces] for z in ("Zx", "Zy"))
    found = [
        Demand("D2.5c, Mpc/(alpha_s H)", V=min(strong) / storey),
        Demand("D2.5c, Mpc,y/(alpha_s H)", Vw=min(weak) / storey),
    ]
    if not clear_height(kind):
        return found
    assert clear is not None
    braced = kind in ("special_braced", "buckling_restrained")
    clause = {
        "special_braced": "F2.6d",
        "buckling_restrained": "F4.6d",
        "special_moment": "E3.6g",
        "intermediate_moment": "E2.6g",
    }[kind]
    found += [
        Demand(f"{clause}, sum of Mpc/(alpha_s Hc)", V=sum(strong) / clear),
        Demand(f"{clause}, sum of Mpc,y/(alpha_s Hc)", Vw=sum(weak) / clear),
    ]
    if braced:
        return [
            *found,
            Demand(f"{clause}, half of the lesser Mp", M=min(strong) / 2),
            Demand(f"{clause}, half of the lesser Mp,y", Mw=min(weak) / 2),
        ]
    smaller = min(pieces, key=lambda p: p.grade.Fy * p.section.Zx)
    return [
        *found,
        Demand(
            f"{clause}, Ry Fy Zx of the smaller column",
            M=expected(smaller.grade) * smaller.grade.Fy * smaller.section.Zx / _alpha(code),
        ),
    ]


def of_base(steel: Steel, storey: float, code: Code) -> list[Demand]:
    """Of a column's base, beside the overstrength combinations (D2.6b): 0.7 Fy Z over alpha_s H each way."""
    strong, weak = (0.7 * steel.grade.Fy * z / _alpha(code) / storey for z in (steel.section.Zx, steel.section.Zy))
    return [Demand("D2.6b, 0.7 Fy Zx/(alpha_s H)", V=strong), Demand("D2.6b, 0.7 Fy Zy/(alpha_s H)", Vw=weak)]
