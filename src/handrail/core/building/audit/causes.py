"""What most likely went wrong at a node that does not balance: tried on each member's end that meets there."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator

import numpy as np

from handrail.core.building.model import ENDS, Building
from handrail.core.quantities.units import KIP, show

TRIED = 6  # results of a node
CLOSES = 0.02  # of the residual that may be left where a cause fits
COMPONENTS = ("Fx", "Fy", "Fz", "Mx", "My", "Mz")
UNITS = (
    (KIP / 1000, "kN read as kip"),
    (1000 / KIP, "kip read as kN"),
    (1000.0, "N read as kN"),
    (1e-3, "kN read as N"),
)


def likeliest(building: Building, node: int, results: list[int], every: np.ndarray) -> str:
    """In words the cause that takes the residuals `every` (nodes, results, 6) of a node away in all of the `results`
    that are out of balance there, the worst first; or in the worst alone; an empty text where none of those tried
    does."""
    residual = every[node]
    left = [_left(building, node, r, residual[r]) for r in results[:TRIED]]
    fits = {
        words: sum(others[words] for others in left)
        for words in left[0]
        if all(others.get(words, 1.0) < CLOSES for others in left)
    }
    fits = fits or {words: rest for words, rest in left[0].items() if rest < CLOSES}
    if fits:
        return _named(fits)
    if missing := _missing(building, node, results[0]):
        return missing
    if member := _of_another_run(building, node, results[:TRIED], every):
        return member
    return _load(residual[results[0]], building.system)


def _of_another_run(building: Building, node: int, results: list[int], every: np.ndarray) -> str:
    """A member whose two nodes are out by what it could carry otherwise: forces in balance along it, or one factor of
    its own."""
    for member, end in building.ends_at.get(node, ()):
        far = building.members[member].node(1 - end)
        near, other = every[node, results], every[far, results]
        if min(_size(v) for v in (*near, *other)) <= 0:
            continue
        lever = building.xyz[far] - building.xyz[node]
        force = near[:, :3] + other[:, :3]
        moment = near[:, 3:] + other[:, 3:] + np.cross(lever, other[:, :3])
        scale = np.linalg.norm(near[:, :3], axis=1)
        turning = np.maximum(
            np.linalg.norm(near[:, 3:], axis=1) + np.linalg.norm(other[:, 3:], axis=1),
            scale * float(np.linalg.norm(lever)),
        )
        name = building.members[member].name
        if (np.linalg.norm(force, axis=1) < CLOSES * scale).all() and (
            np.linalg.norm(moment, axis=1) < CLOSES * turning
        ).all():
            return f"the forces of {name} are of another run than its neighbours'"
        own = [_turned(building.forces[member, r, e], building.axes[member]) for r in results for e in (end, 1 - end)]
        rest = [v for pair in zip(near, other, strict=True) for v in pair]
        factors = [-float(v @ o) / max(float(o @ o), 1e-9) for v, o in zip(rest, own, strict=True)]
        middle = float(np.median(factors))
        if (
            all(_size(v + middle * o) < CLOSES * _size(v) for v, o in zip(rest, own, strict=True))
            and abs(1 - middle) > 1e-6
        ):
            return (
                f"the forces of {name} are {1 / (1 - middle):.4g} times those that close: of another run, or another"
                " unit"
            )
    return ""


def _left(building: Building, node: int, result: int, residual: np.ndarray) -> dict[str, float]:
    """Cause -> the share of a residual that it leaves."""
    left: dict[str, float] = {}
    for words, changed in _changes(building, node, result, residual):
        left[words] = min(left.get(words, np.inf), _size(residual + changed) / _size(residual))
    return left


def _named(fits: dict[str, float]) -> str:
    """The cause that leaves least; where another end's would do as well, either."""
    best = min(fits, key=fits.__getitem__)
    where = _where(best)
    as_well = [w for w in sorted(fits, key=fits.__getitem__) if _where(w) != where and fits[w] <= fits[best] + 1e-4]
    return best if not as_well else f"{best}, or {as_well[0]}" if len(as_well) < 3 else ""


def blamed_in(words: str) -> set[str]:
    """The members that a cause names."""
    names = re.findall(
        r"\b(?:forces|Fx|Fy|Fz|Mx|My|Mz|z) at (\S+)\.[ij]\b|the forces of (\S+) are|the two ends of (\S+) are", words
    )
    return {name for group in names for name in group if name}


def general(cause: str) -> str:
    """A cause without the end that it is of, or the size: what several nodes have in common."""
    text = re.sub(r" at \S+\.[ij]\b|, or .*$", "", cause)
    text = re.sub(r"the two ends of \S+ are", "two ends are", text)
    text = re.sub(r"the forces of \S+ are", "a member's forces are", text)
    return re.sub(r"as if a load of .*", "as if a load were missing", text)


def _where(words: str) -> str:
    """Of which end a cause speaks."""
    match = re.search(r"\bat (\S+\.[ij])\b|ends of (\S+)", words)
    return (match[1] or match[2]) if match else ""


def _size(six: np.ndarray) -> float:
    """Forces and moments in one number; a moment counts over a metre."""
    return float(np.hypot(np.linalg.norm(six[:3]), np.linalg.norm(six[3:]) / 1000.0))


def _changes(building: Building, node: int, result: int, residual: np.ndarray) -> Iterator[tuple[str, np.ndarray]]:
    """(words, how the residual changes when it is put right) of everything that is tried."""
    for member, end in building.ends_at.get(node, ()):
        own, turn = building.forces[member, result, end], building.axes[member]
        if np.isnan(own).any() or not own.any():
            continue
        name = f"{building.members[member].name}.{ENDS[end]}"
        yield f"the forces at {name} have the other sign", 2 * _turned(own, turn)
        for k, component in enumerate(COMPONENTS):
            alone = np.where(np.arange(6) == k, own, 0.0)
            yield f"{component} at {name} has the other sign", 2 * _turned(alone, turn)
            yield f"{component} at {name} is there and should not be", _turned(alone, turn)
        swapped = own[[0, 2, 1, 3, 5, 4]]
        for sign, words in ((1, ""), (-1, " with their sign")):
            other = swapped * np.array([1, sign, 1, 1, sign, 1])
            yield f"local y and z at {name} are swapped{words}", _turned(own - other, turn)
        for factor, words in UNITS:
            changed = _turned(own - own / factor, turn)
            if 0.01 < factor < 100 or _size(residual + changed) < 0.1 * _size(
                _turned(own / factor, turn)
            ):  # a thousandth is not nothing
                yield f"the forces at {name} are in another unit ({words})", changed
        yield from _exchanged(building, member, end, result, own)
    loads = building.node_loads
    for k in np.nonzero((loads.node == node) & (loads.result == result))[0].tolist():
        yield "the load on the node has the other sign", -2 * loads.values[k]
        yield "the load on the node is in its members' forces already, or twice", -loads.values[k]
    reactions = building.reactions
    for k in np.nonzero((reactions.node == node) & (reactions.result == result))[0].tolist():
        yield "the reaction is the frame's force on its support: the other sign", -2 * reactions.values[k]


def _exchanged(
    building: Building, member: int, end: int, result: int, own: np.ndarray
) -> Iterator[tuple[str, np.ndarray]]:
    """The far end's forces in place of these: rows of i and j exchanged, or the nodes of a member."""
    turn, far = building.axes[member], building.forces[member, result, 1 - end]
    name = building.members[member].name
    if np.isnan(far).any() or np.allclose(np.abs(far), np.abs(own)):
        return
    for sign in (1.0, -1.0):
        yield f"the two ends of {name} are exchanged", _turned(own - sign * far, turn)
        yield (
            f"the two ends of {name} are exchanged",
            _turned(own - sign * far * np.array([-1, 1, -1, -1, 1, -1]), turn),
        )


def _turned(local: np.ndarray, axes: np.ndarray) -> np.ndarray:
    """Local (6,) to global."""
    return np.concatenate([local[:3] @ axes, local[3:] @ axes])


def _missing(building: Building, node: int, result: int) -> str:
    gone = [
        f"{building.members[m].name}.{ENDS[e]}"
        for m, e in building.ends_at.get(node, ())
        if np.isnan(building.forces[m, result, e]).any()
    ]
    return f"there are no forces at {', '.join(gone)}" if gone else ""


def _load(residual: np.ndarray, system: str) -> str:
    """A force alone, along one axis: as a load that is missing."""
    force = residual[:3]
    size = float(np.linalg.norm(force))
    axis = int(np.abs(force).argmax())
    if size == 0 or np.linalg.norm(residual[3:]) > 50 * size or abs(force[axis]) < 0.999 * size:
        return ""
    way = f"{'-' if force[axis] > 0 else '+'}{'XYZ'[axis]}"
    return f"as if a load of {show(math.fabs(float(force[axis])), 'force', system)} towards {way} were missing"
