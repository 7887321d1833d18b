"""Where a connection sits: its pieces by role, what it stands on, and how they meet."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from handrail.core.catalogue import INCHES, Shop, Steel
from handrail.core.codes.family import Code
from handrail.core.joint.relations import FACING, OPPOSITE

SUPPORTED, SUPPORT = "supported", "support"
FACES = {"hollow": ("long", "short"), "channel": ("toe", "back")}


@dataclass(frozen=True)
class Foundation:
    """What a base stands on: `kind` pedestal, footing or slab, concrete of `fc` MPa, `thickness` mm.

    `along` the column's depth and `across` it: from the column's centre to the concrete's edge on the minus and the
    plus side, mm, without end where too far to count. `light` is lambda of lightweight concrete (ACI 318-19 19.2.4).
    """

    kind: str
    fc: float
    thickness: float
    along: tuple[float, float] = (math.inf, math.inf)
    across: tuple[float, float] = (math.inf, math.inf)
    cracked: bool = True
    light: float = 1.0


@dataclass(frozen=True)
class Piece:
    """A member at a connection by its `role`; `place` tells those of one role apart. Angles rad, lengths mm.

    `skew`, `slope` (+ where it rises away) and `offset` (how far its top lies below) are against what it meets, `face`
    is which face of that: of a hollow rectangle long or short, of a channel toe or back; empty where not known.
    `ends_here`: it carries others and does not run on, like a column at the roof."""

    role: str
    steel: Steel
    place: str = ""
    skew: float = 0.0
    slope: float = 0.0
    offset: float = 0.0
    face: str = ""
    ends_here: bool = False


@dataclass(frozen=True)
class Situation:
    """The framing condition with its `pieces` by role, the first of them the one whose actions it takes, and the kinds
    of `relations` to other connections that it stands in.

    Role `supported` is a beam's end, the upper or j-side piece of a splice, the column of a base; role `support` what
    it stands on or is spliced to: a column, a girder, the lower or i-side piece; none on a `foundation`. `seismic`: the
    member is of the system that resists earthquakes. `fixity` is what the analysis took a base for (pinned, fixed),
    empty where not known; `braced`: braces land on it too. `detailed`: AISC 341 applies to its bolted joints. `lateral`
    is the kind of system that it is of (catalogue.lateral), empty where not stated; `category` the structure's seismic
    design category. A column's splice is `above_floor` mm over the floor below in a `storey` so high, `clear` of its
    beams, None where not known. `quaking`: an earthquake makes more than a fifth of what a base's anchors take (ACI
    318-19 17.10.5.1, 17.10.6.1). `code` is what it is made and judged by, `shop` what its
    sizes go by.
    """

    framing: str
    pieces: tuple[Piece, ...]
    relations: tuple[str, ...] = ()
    foundation: Foundation | None = None
    seismic: bool = False
    fixity: str = ""
    braced: bool = False
    above_floor: float | None = None
    storey: float | None = None
    clear: float | None = None
    lateral: str = ""
    category: str = ""
    detailed: bool = False
    quaking: bool = False
    shop: Shop = INCHES
    code: Code = field(kw_only=True)

    @classmethod
    def of(
        cls,
        framing: str,
        supported: Steel,
        support: Steel | None = None,
        *,
        skew: float = 0.0,
        slope: float = 0.0,
        top_offset: float = 0.0,
        face: str = "",
        support_end: bool = False,
        opposed: bool = False,
        **more: Any,
    ) -> Situation:
        """One member at another, or at none: the two in their roles."""
        pieces = [Piece(SUPPORTED, supported, skew=skew, slope=slope, offset=top_offset, face=face)]
        if support is not None:
            pieces.append(Piece(SUPPORT, support, ends_here=support_end))
        return cls(framing, tuple(pieces), (OPPOSITE,) if opposed else (), **more)

    def of_role(self, role: str) -> tuple[Piece, ...]:
        """The pieces of one role."""
        return tuple(p for p in self.pieces if p.role == role)

    @cached_property
    def supported(self) -> Steel:
        """The member whose end it is."""
        return self.pieces[0].steel

    @cached_property
    def support(self) -> Steel | None:
        """What that is fastened to; None where it is no member."""
        return self._support.steel if self._support else None

    @property
    def carrier(self) -> Steel:
        """The support, of a situation that has one."""
        assert self.support is not None
        return self.support

    @cached_property
    def _support(self) -> Piece | None:
        return next(iter(self.of_role(SUPPORT)), None)

    @property
    def skew(self) -> float:
        """rad that its member is off square to what it meets, in plan."""
        return self.pieces[0].skew

    @property
    def slope(self) -> float:
        """rad that its member rises away."""
        return self.pieces[0].slope

    @property
    def top_offset(self) -> float:
        """mm that its member's top of steel lies below its support's."""
        return self.pieces[0].offset

    @property
    def face(self) -> str:
        """Which face of its support it meets, where these can be told apart."""
        return self.pieces[0].face

    @property
    def support_end(self) -> bool:
        """Whether its support does not run on."""
        return self._support is not None and self._support.ends_here

    @property
    def opposed(self) -> bool:
        """Whether another member meets the support from the other side, in one line with this one."""
        return OPPOSITE in self.relations

    @property
    def faced(self) -> bool:
        """Whether another member meets the support from the other side, in whatever line."""
        return not set(FACING).isdisjoint(self.relations)


def faces_of(steel: Steel | None) -> tuple[str, ...]:
    """Which faces can be told apart on a support: of a hollow rectangle, of a channel; none of others."""
    if steel is None:
        return ()
    if steel.section.hollow and not steel.section.round and steel.section.bf != steel.section.d:
        return FACES["hollow"]
    return FACES["channel"] if steel.section.channel else ()
