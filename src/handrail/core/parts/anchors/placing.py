"""Where anchors stand under a base and what they are called: in rows around the plate, or by their places."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache

from handrail.core.errors import InputError
from handrail.core.quantities.units import parse

MOST = 40
_ONE = re.compile(r"^(?:(?P<name>[A-Za-z0-9][A-Za-z0-9_-]{0,11})\s*:)?(?P<x>[^,]+),(?P<y>[^,]+)$")


@dataclass(frozen=True)
class Placed:
    """`points` (x, y) mm from the plate's centre, x along the column's depth; `names` of each."""

    points: tuple[tuple[float, float], ...]
    names: tuple[str, ...]


def in_rows(along: int, across: int, length: float, width: float) -> Placed:
    """Rods around the edge of `along` rows with `across` in each: the outermost rows full, the others at their ends.
    Rows are lettered from the minus side, rods numbered in their row: A1, A2, B1 ..."""
    xs, ys = _spread(along, length), _spread(across, width)
    points, names = [], []
    for i, x in enumerate(xs):
        kept = ys if i in (0, along - 1) else ys[:: max(len(ys) - 1, 1)]
        for k, y in enumerate(kept):
            points.append((x, y))
            names.append(f"{chr(ord('A') + i)}{k + 1}")
    return Placed(tuple(points), tuple(names))


def _spread(count: int, distance: float) -> list[float]:
    return [0.0] if count == 1 else [distance * (k / (count - 1) - 0.5) for k in range(count)]


@lru_cache(maxsize=512)
def at_points(text: str, bare: float | None = None) -> Placed:
    """Rods at `x, y; x, y ...`, each with its name before it (`N1: 6 in, 4 in`) or numbered. Raises InputError that
    says which."""
    points: list[tuple[float, float]] = []
    names: list[str] = []
    parts = [p.strip() for p in text.strip().strip(";").split(";")]
    if len(parts) > MOST:
        raise InputError(f"{len(parts)} rods; at most {MOST}")
    for k, part in enumerate(parts):
        match = _ONE.match(part)
        if not match:
            raise InputError(f"rod {k + 1}: '{part}' is no place; write x, y like 6 in, 4 in, rods apart by semicolons")
        points.append((parse(match["x"], "length", bare), parse(match["y"], "length", bare)))
        names.append(match["name"] or str(k + 1))
    if again := [n for n in names if names.count(n) > 1]:
        raise InputError(f"rod {again[0]}: two rods have this name")
    for k, p in enumerate(points):
        if any(abs(p[0] - q[0]) + abs(p[1] - q[1]) < 1.0 for q in points[:k]):
            raise InputError(f"rod {names[k]}: another rod stands in its place")
    return Placed(tuple(points), tuple(names))


def written(placed: Placed) -> str:
    """As text in mm, which reads back alike."""
    return "; ".join(f"{n}: {x:.10g} mm, {y:.10g} mm" for (x, y), n in zip(placed.points, placed.names, strict=True))


@lru_cache(maxsize=512)
def at_places(text: str, bare: float | None = None) -> tuple[float, ...]:
    """Places on one axis, mm, like `6 in; -6 in`. Raises InputError that says which."""
    parts = [p.strip() for p in text.strip().strip(";").split(";")]
    if len(parts) > MOST:
        raise InputError(f"{len(parts)} places; at most {MOST}")
    places: list[float] = []
    for k, part in enumerate(parts):
        try:
            places.append(parse(part, "length", bare))
        except InputError as exc:
            raise InputError(f"place {k + 1}: {exc.words}") from exc
    return tuple(places)
