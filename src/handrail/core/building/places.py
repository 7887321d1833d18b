"""Where a joint stands in words: the grid lines that it is on or between, and the level that it is at, like `C/4, level
2`."""

from __future__ import annotations

import re

import numpy as np

from handrail.core.building.model import Building, GridLine

ON = 300.0  # mm: nearer to a grid line or a level than this is on it
REACH = 3000.0  # mm that a grid line goes on past its ends; without end for what no line is beside
PARALLEL = np.sin(np.radians(45.0))


def places(building: Building) -> list[str]:
    """Each node's place; empty where the building has neither grid lines nor levels."""
    in_plan, _ = _in_plan(building)
    heights = _heights(building)
    return [", ".join(word for word in (plan, height) if word) for plan, height in zip(in_plan, heights, strict=True)]


def grid_names(building: Building) -> list[str]:
    """Of each node the grid lines that it is on or between; empty where there are none."""
    return _in_plan(building)[0]


def on_crossing(building: Building) -> np.ndarray:
    """(nodes,) whether each stands where grid lines cross."""
    return _in_plan(building)[1]


def level_names(building: Building) -> list[str]:
    """Of each node the highest level that is not above it, else the lowest; empty where there are no levels."""
    if not building.levels:
        return [""] * len(building.nodes)
    return [building.levels[k].name for k in _level_of(building)]


def _level_of(building: Building) -> np.ndarray:
    """(nodes,) indices into the levels, which are sorted by height."""
    heights = np.array([level.z for level in building.levels])
    return np.clip(np.searchsorted(heights, building.xyz[:, 2] + ON, side="right") - 1, 0, None)


def _heights(building: Building) -> list[str]:
    if not building.levels:
        return [""] * len(building.nodes)
    heights = []
    for index, z in zip(_level_of(building), building.xyz[:, 2], strict=True):
        level = building.levels[index]
        name = level.name if re.search(r"[^\W\d_]{3}", level.name) else f"level {level.name}"
        apart = float(z) - level.z
        heights.append(name if abs(apart) <= ON else f"{name} {_apart(apart, building.system)}")
    return heights


def _apart(mm: float, system: str) -> str:
    return f"{mm / 304.8:+.1f} ft" if system == "us" else f"{mm / 1000:+.2f} m"


def _in_plan(building: Building) -> tuple[list[str], np.ndarray]:
    """Of each node its words, and whether it is on a line of every family."""
    if not building.grids:
        return [""] * len(building.nodes), np.zeros(len(building.nodes), bool)
    names = [_between(building.xyz[:, :2], sorted(lines, key=_counted)) for lines in families(building.grids)]
    words = ["/".join(parts) for parts in zip(*(words for words, _ in names), strict=True)]
    return words, np.logical_and.reduce([on for _, on in names])


def families(grids: tuple[GridLine, ...]) -> list[list[GridLine]]:
    """Lines that run side by side: those named by letters and those named by figures; where all are named alike, by
    their directions."""
    lettered = [g for g in grids if not g.name[:1].isdigit()]
    numbered = [g for g in grids if g.name[:1].isdigit()]
    if lettered and numbered:
        return [lettered, numbered]
    first = _way(grids[0])
    turned = {g.name for g in grids if abs(first[0] * _way(g)[1] - first[1] * _way(g)[0]) > PARALLEL}
    both = [[g for g in grids if g.name not in turned], [g for g in grids if g.name in turned]]
    return [family for family in both if family]


def _counted(line: GridLine) -> list[tuple[int, str]]:
    """As names are counted: 9 before 10, A before B before AA."""
    return [(int(part) if part.isdecimal() else len(part), part) for part in re.findall(r"\d+|\D+", line.name)]


def _way(line: GridLine) -> np.ndarray:
    """Its direction in plan."""
    along = np.subtract(line.end, line.start)
    return along / np.hypot(*along)


def _between(xy: np.ndarray, lines: list[GridLine]) -> tuple[list[str], np.ndarray]:
    """Of points (n, 2): the line that each is on, else the two that it is between, else the one that it is past; and
    whether it is on one."""
    starts = np.array([g.start for g in lines], float)
    ways = np.array([_way(g) for g in lines])
    lengths = np.array([np.hypot(*np.subtract(g.end, g.start)) for g in lines])
    normals = np.stack([-ways[:, 1], ways[:, 0]], axis=1)
    onward = (starts + ways * lengths[:, None] / 2)[-1] - (starts + ways * lengths[:, None] / 2)[0]
    toward = onward if np.hypot(*onward) > ON else normals[0]
    normals = np.where((normals @ toward < 0)[:, None], -normals, normals)
    from_start = xy[:, None, :] - starts
    along = (from_start * ways).sum(axis=-1)
    past = (from_start * normals).sum(axis=-1)
    beside = (along > -REACH) & (along < lengths + REACH)
    past = np.where(beside | ~beside.any(axis=1, keepdims=True), past, np.nan)
    return [_words(row, lines) for row in past], np.nan_to_num(np.abs(past), nan=np.inf).min(axis=1) <= ON


def _words(past: np.ndarray, lines: list[GridLine]) -> str:
    """How far a point is past each line (mm, NaN where it is not beside it), in words."""
    known = [(float(v), g.name) for v, g in zip(past, lines, strict=True) if not np.isnan(v)]
    nearest = min(known, key=lambda item: abs(item[0]))
    if abs(nearest[0]) <= ON:
        return nearest[1]
    before = max((item for item in known if item[0] < 0), default=None)
    after = min((item for item in known if item[0] > 0), default=None)
    if before and after:
        return f"{after[1]}-{before[1]}"
    return f"past {after[1]}" if after else f"before {before[1]}" if before else ""
