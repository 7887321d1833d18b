"""Room for a wrench: on the side of a joint from which a bolt is tightened, past what stands there, while it goes in
from the other (Manual Part 7)."""

from __future__ import annotations

import math
from dataclasses import dataclass

from handrail.core.catalogue import Bolt
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, at_least
from handrail.core.quantities.units import INCH

HEAD = 0.625  # of a bolt's head over its diameter: how far it stands out
HEAD_WIDE = 0.96  # of half of its width across corners
NUT = 0.8125  # of half of a nut's width across its flats
PAST = INCH / 8  # a socket's own room


@dataclass(frozen=True)
class Side:
    """One side of what is bolted: the nearest that stands beside a bolt there, `room` mm from its centre, and how far
    the bolt can be drawn back along itself, `deep` mm; without end where nothing stands."""

    room: float
    deep: float = math.inf

    def lets_in(self, bolt: Bolt, grip: float) -> bool:
        """Whether the bolt goes in from this side: its head beside what stands there, its length before it."""
        return self.room >= HEAD_WIDE * bolt.d and self.deep >= bolt.length(grip)


def socket_room(bolt: Bolt, socket: float = 0.0) -> float:
    """From a bolt's centre to what stands beside it, mm: half of a socket, the shop's own where it is given, and 1/8
    in."""
    return socket / 2 + PAST if socket else bolt.tightening


def wrench_room(near: Side, far: Side, bolt: Bolt, grip: float) -> tuple[float, str]:
    """(room of the wrench on the better side, which that is): the one where the most stands clear, of those whose other
    side lets the bolt in."""
    ways = [
        (on.room, name) for on, other, name in ((near, far, "near"), (far, near, "far")) if other.lets_in(bolt, grip)
    ]
    return max(ways, default=(min(near.room, far.room), "neither"))


def room_rule(code: Code, name: str, part: str, room: float, needed: float) -> DetailingRule:
    """A socket fits between a bolt's centre and what stands nearest to it."""
    return at_least(name, part, min(room, 48 * INCH), needed, code.clause("wrench"))
