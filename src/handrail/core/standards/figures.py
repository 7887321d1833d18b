"""What a standard can show of a connection besides its drawing: how it works under each combination, in plain data."""

from __future__ import annotations

from dataclasses import dataclass

Point = tuple[float, float]


@dataclass(frozen=True, kw_only=True)
class Breaks:
    """A surface along which concrete may break out, in plan: `kind` tension or shear, the `rods` by name, of shear the
    side; its `use` of what the concrete holds, and whether bars hold it instead."""

    kind: str
    rods: tuple[str, ...]
    side: str
    lines: tuple[tuple[Point, Point], ...]
    use: float
    barred: bool


@dataclass(frozen=True, kw_only=True)
class Pressed:
    """A base under one combination: `zone` of the plate that is pressed, mm, with its largest `pressure`, MPa; what
    each rod pulls and shears, N; what may break out of the concrete. `by` block or strain; not `solved` where nothing
    balances."""

    by: str
    solved: bool
    zone: tuple[Point, ...]
    pressure: float
    pulls: tuple[float, ...]
    shears: tuple[float, ...]
    breaks: tuple[Breaks, ...] = ()


@dataclass(frozen=True)
class Bearing:
    """Rods by name at their places, mm along and across the column's depth from the plate's centre, and the base under
    each combination in the order of the actions."""

    names: tuple[str, ...]
    places: tuple[Point, ...]
    states: tuple[Pressed, ...]


@dataclass(frozen=True)
class Flow:
    """What a splice's parts take under each combination, N: rows of (name of the part, force of each combination, +
    pulling; shear as it acts), in the order of the actions."""

    parts: tuple[tuple[str, tuple[float, ...]], ...]
