"""Where a connection sits: its members by role, what it stands on, and how they meet."""

from __future__ import annotations

import math
from dataclasses import dataclass, field

from handrail.core.catalogue import Steel
from handrail.core.codes.family import Code

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
class Situation:
    """The framing condition with its pieces; angles rad, lengths mm.

    `supported` is the member that the actions are of: a beam's end, the upper or j-side piece of a splice, the column
    of a base. `support` is what it stands on or is spliced to: a column, a girder, the lower or i-side piece; None on a
    `foundation`. `slope` is + where the member rises away from its support. `top_offset` is how far the supported
    member's top of steel lies below its support's. `face` is which of a hollow rectangle's faces it meets (long, short)
    or which side of a channel (toe, back), empty where not known. `opposed` says that another member stands across;
    `support_end` that the support ends here, like a column at the roof. `seismic`: the member is of the system that
    resists earthquakes. `fixity` is what the analysis took a base for (pinned, fixed), empty where not known; `braced`:
    braces land on it too. `detailed`: AISC 341 applies to its bolted joints. `lateral` is the kind of system that it is
    of (catalogue.lateral), empty where not stated; `category` the structure's seismic design category. A column's
    splice is `above_floor` mm over the floor below in a `storey` so high, `clear` of its beams, None where not known.
    `quaking`: an earthquake makes more than a fifth of what a base's anchors take (ACI 318-19 17.10.5.1, 17.10.6.1).
    `code` is what it is made and judged by.
    """

    framing: str
    supported: Steel
    support: Steel | None = None
    foundation: Foundation | None = None
    skew: float = 0.0
    slope: float = 0.0
    top_offset: float = 0.0
    opposed: bool = False
    support_end: bool = False
    face: str = ""
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
    code: Code = field(kw_only=True)

    @property
    def carrier(self) -> Steel:
        """The support, of a situation that has one."""
        assert self.support is not None
        return self.support


def faces_of(steel: Steel | None) -> tuple[str, ...]:
    """Which faces can be told apart on a support: of a hollow rectangle, of a channel; none of others."""
    if steel is None:
        return ()
    if steel.section.hollow and not steel.section.round and steel.section.bf != steel.section.d:
        return FACES["hollow"]
    return FACES["channel"] if steel.section.channel else ()
