"""What a code is asked about: figures of a place that several of its answers need together."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True)
class Pried:
    """A bolt in a plate `t` thick of tensile `Fu`: `b` from its middle to the face of what pulls, `a` to the plate's
    edge, `p` the length of plate that goes with it, `hole` along p, `d` of the bolt, mm. A `levered` one is in a leg
    that only turns about its toe: nothing at its heel holds it against turning, as at a single angle."""

    t: float
    Fu: float
    b: float
    a: float
    p: float
    hole: float
    d: float
    levered: bool = False


@dataclass(frozen=True)
class Filler:
    """Between plies of two thicknesses, mm; `developed` where bolts beyond the joint hold it."""

    thickness: float
    developed: bool


NO_FILLER = Filler(0.0, False)


@dataclass(frozen=True)
class Overhang:
    """How far a base's plate reaches past the column, mm: `along` its depth and `across` it; `within` of the plate
    inside the column: of an I-shape between its flanges, of a hollow one between its walls."""

    along: float
    across: float
    within: float = 0.0


@dataclass(frozen=True)
class Demand:
    """One required strength by itself: `name` with its clause, `V`, `Vw` N or `M`, `Mw` N mm."""

    name: str
    V: float = 0.0
    Vw: float = 0.0
    M: float = 0.0
    Mw: float = 0.0
