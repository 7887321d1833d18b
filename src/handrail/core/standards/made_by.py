"""Which sizes of a connection make which of its parts: what changes where one of them does."""

from __future__ import annotations

from collections import defaultdict
from functools import lru_cache
from typing import Any

from handrail.core.errors import InputError
from handrail.core.joint.situation import Situation
from handrail.core.solids.pieces import Solids
from handrail.core.standards.sizes import NOT_CHOSEN, Parameter, Sized, Value
from handrail.core.standards.standard import Standard

MORE = 1.07  # times a length, where it is made another one
OTHERS = {
    "bolt": ("3/4 A325-N", "7/8 A325-N", "M20 10.9", "M24 10.9", "M20 8.8", "M24 8.8"),
    "angle_section": ("L4X4X1/2", "L5X5X5/8", "L100X100X10", "L120X120X12"),
    "rod": ("3/4", "1", "M24", "M30"),
    "hole": ("standard", "oversize", "short slot"),
}


@lru_cache(maxsize=512)
def made_by(
    standard: Standard, situation: Situation, sizes: tuple[tuple[str, Sized], ...]
) -> dict[str, tuple[str, ...]]:
    """part -> the sizes that it changes with; those that change the fewest parts first."""
    chosen = {n: s for n, s in sizes if s.source not in NOT_CHOSEN}
    own = _by_part(standard.solids(situation, standard.complete(situation, chosen)))
    changes: dict[str, set[str]] = {}
    for parameter in standard.parameters:
        now = dict(sizes).get(parameter.name)
        for value in _others(parameter, now.value) if now is not None else ():
            try:
                asked = chosen | {parameter.name: Sized(value, "given")}
                then = _by_part(standard.solids(situation, standard.complete(situation, asked)))
            except (InputError, ArithmeticError, ValueError, LookupError):  # it cannot be that
                continue
            if changed := {part for part in own.keys() | then.keys() if own.get(part) != then.get(part)}:
                changes[parameter.name] = changed
                break
    found: dict[str, list[str]] = defaultdict(list)
    for name, parts in sorted(changes.items(), key=lambda change: len(change[1])):
        for part in parts & own.keys():
            found[part].append(name)
    return {part: tuple(names) for part, names in found.items()}


def _others(parameter: Parameter, value: Value) -> list[Value]:
    """Other values of a size, to see what it changes."""
    if parameter.kind == "choice":
        return [choice for choice in parameter.offered if choice != value]
    if parameter.kind == "count" and not isinstance(value, str):
        return [int(value) + 1, int(value) - 1]
    if parameter.kind == "length" and not isinstance(value, str):
        return [value * MORE + 1.0, value / MORE]
    return [other for other in OTHERS.get(parameter.kind, ()) if other != value]


def _by_part(solids: Solids) -> dict[str, Any]:
    """What is made of each part."""
    found: dict[str, list[Any]] = defaultdict(list)
    for solid in (*solids.pieces, *solids.bolts, *solids.welds, *solids.rods, *solids.bars, *solids.members):
        found[solid.part].append(solid)
    return {part: tuple(some) for part, some in found.items()}
