"""What one connection has to do with another, and the one walk that follows it."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

OPPOSITE = "opposite"  # the other's member meets the same piece of steel from the other side
SHARES = "shares_bolts"  # and the same bolts may go through both, if the standards of the two have them so
OTHER_SIDE = "other_side"  # the other's member meets the same web from its other side, at another angle
KINDS = (OPPOSITE, SHARES, OTHER_SIDE)
FACING = (OPPOSITE, OTHER_SIDE)


@dataclass(frozen=True)
class Relation:
    """That a connection stands in a relation of this `kind` to the connection called `other`."""

    kind: str
    other: str


def others(relations: Iterable[Relation], *kinds: str) -> tuple[str, ...]:
    """The connections that relations of some `kinds`, or of any, lead to; each once."""
    return tuple(dict.fromkeys(r.other for r in relations if not kinds or r.kind in kinds))


def reached(starts: Iterable[str], onward: Callable[[str], Sequence[str]]) -> tuple[str, ...]:
    """`starts`, and all that `onward` leads to from them, however far: each once, the nearest first."""
    seen = dict.fromkeys(starts)
    row = list(seen)
    while row:
        row = [other for key in row for other in onward(key) if other not in seen and seen.setdefault(other) is None]
    return tuple(seen)
