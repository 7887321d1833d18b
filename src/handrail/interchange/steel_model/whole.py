"""What a model that leaves the house is made of, as plain data."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from handrail.core.building.model import GridLine, Level
from handrail.core.checking.steelwork import Steel
from handrail.core.solids.axes import Vector
from handrail.core.solids.pieces import Solids

Said = str | float | bool


@dataclass(frozen=True)
class Modelled:
    """A piece of steel on a `level`, with what is `said` of it."""

    steel: Steel
    level: str
    said: Mapping[str, Said]


@dataclass(frozen=True)
class Connected:
    """A connection about its joint's node: its solids in the building's axes, which pieces of steel it holds (by name,
    what it stands on last), what is `said` of it; `stands` is its status."""

    key: str
    mark: str
    title: str
    level: str
    node: Vector
    members: tuple[str, ...]
    solids: Solids
    stands: str
    said: Mapping[str, Said]


@dataclass(frozen=True)
class Whole:
    """A building or a part of it. `made` is when what it shows was last changed (ISO); `families` are grid lines that
    run side by side."""

    job: str
    title: str
    said: Mapping[str, Said]
    made: str
    levels: tuple[Level, ...]
    families: tuple[tuple[GridLine, ...], ...]
    steel: Iterable[Modelled]
    connections: Iterable[Connected]
    system: str
