"""One cause for the whole before causes one by one: each way that a model may be meant otherwise is tried on its nodes,
and named where it closes more than any other and more than half of what is out."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np

from handrail.core.building.audit.finding import Finding
from handrail.core.building.model import Building, NodeForces, local_axes, upright
from handrail.core.building.precision import Precision
from handrail.core.quantities.units import KIP

OUT = 0.01
FEWEST = 4  # nodes out that have one cause
MOST_NODES, MOST_RESULTS = 600, 4
SWAP = [0, 2, 1, 3, 5, 4]
COMPONENTS = ("Fx", "Fy", "Fz", "Mx", "My", "Mz")
FACTORS = (
    (KIP / 1000, "kip read as kN"),
    (1000 / KIP, "kN read as kip"),
    (1e-3, "N read as kN"),
    (1000.0, "kN read as N"),
)  # that put it right
TURNS = {"a quarter turn to the left": np.pi / 2, "half a turn": np.pi, "a quarter turn to the right": -np.pi / 2}
AS_Y = np.array([[1.0, 0, 0], [0, 0, 1], [0, -1, 0]])  # xyz @ AS_Y: read with Z up, meant with Y


@dataclass(frozen=True)
class _Ends:
    """Member ends at some nodes in some results: `at` (e,) node, `other` (e, r, 6) the far end's forces, `forces` (e,
    r, 6), `axes` (e, 3, 3)."""

    at: np.ndarray
    forces: np.ndarray
    other: np.ndarray
    axes: np.ndarray
    first: np.ndarray
    lever: np.ndarray  # (e, 3) from the node to where the forces are given
    reactions: np.ndarray
    loads: np.ndarray
    count: np.ndarray
    known: np.ndarray  # (n, r, 6) directions that can balance
    floor: tuple[float, float]


Try = tuple[str, str, _Ends]


def whole_causes(
    building: Building,
    share: np.ndarray,
    loads: NodeForces,
    reactions: NodeForces,
    known: np.ndarray,
    precise: Precision,
) -> tuple[list[Finding], frozenset[int]]:
    """(findings of one cause each, the nodes that they account for)."""
    out = np.nonzero((share > OUT).any(axis=1))[0]
    if len(out) < FEWEST:
        return [], frozenset()
    results = np.argsort(-(share > OUT).sum(axis=0), kind="stable")[:MOST_RESULTS]
    results = results[(share[:, results] > OUT).any(axis=0)]
    nodes = _some(out, share.shape[0])
    ends = _ends(building, nodes, results, loads, reactions, known)
    before = _out(ends, precise)
    worst = int(before.sum())
    if worst < FEWEST:
        return [], frozenset()
    findings = []
    for words, do, tried in _tries(building, ends, nodes):
        after = _out(tried, precise)
        findings.append((worst - int(after.sum()), words, do, after))
    findings.sort(key=lambda f: -f[0])
    gain, words, do, after = findings[0]
    if gain * 2 > worst and (len(findings) < 2 or gain > findings[1][0]):
        closed = frozenset(int(n) for n in nodes[before & ~after])
        message = f"{words}: {int(after.sum())} of {len(nodes)} nodes are out with that, {worst} as it is; {do}"
        return [Finding("meant_otherwise", "error", message, value=gain / worst)], (
            frozenset(out.tolist()) if gain == worst else closed
        )
    return _of_another_run(building, share, out)


def levers(building: Building, end: int) -> np.ndarray:
    """(members, 3) from the node at an end to the face of its rigid end."""
    sense = -1.0 if end else 1.0
    offsets = np.array([m.end_offset_j if end else m.end_offset_i for m in building.members])
    return sense * offsets[:, None] * building.axes[:, 0, :]


def _some(out: np.ndarray, count: int) -> np.ndarray:
    """Nodes that are out and some that are not, evenly."""
    those = out[np.unique(np.linspace(0, len(out) - 1, min(MOST_NODES, len(out))).astype(int))]
    rest = np.setdiff1d(np.arange(count), out)
    if len(rest):
        rest = rest[np.unique(np.linspace(0, len(rest) - 1, min(MOST_NODES // 2, len(rest))).astype(int))]
    return np.sort(np.concatenate([those, rest]))


def _ends(
    building: Building,
    nodes: np.ndarray,
    results: np.ndarray,
    loads: NodeForces,
    reactions: NodeForces,
    known: np.ndarray,
) -> _Ends:
    place = np.full(len(building.nodes), -1)
    place[nodes] = np.arange(len(nodes))
    forces = np.nan_to_num(building.forces[:, results])
    parts = []
    for end in (0, 1):
        at = place[[m.node(end) for m in building.members]]
        here = np.nonzero(at >= 0)[0]
        lever = levers(building, end)[here] * (building.forces_at == "offset")
        parts.append(
            (
                at[here],
                forces[here][:, :, end],
                forces[here][:, :, 1 - end],
                building.axes[here],
                np.full(len(here), end == 0),
                lever,
            )
        )
    at, own, other, axes, first, lever = (np.concatenate([p[k] for p in parts]) for k in range(6))
    met = np.linalg.norm(own[..., :3], axis=-1), np.linalg.norm(own[..., 3:], axis=-1)
    floor = max(float(met[0].max(initial=0.0)) * 1e-3, 1e-9)
    long = float(np.median(building.lengths)) if len(building.members) else 1.0
    floors = floor, max(float(met[1].max(initial=0.0)) * 1e-3, floor * long)
    at_nodes = [_placed(given, place, results, len(nodes)) for given in (reactions, loads)]
    return _Ends(
        at,
        own,
        other,
        axes,
        first,
        lever,
        at_nodes[0],
        at_nodes[1],
        np.bincount(at, minlength=len(nodes)),
        known[nodes][:, results],
        floors,
    )


def _placed(given: NodeForces, place: np.ndarray, results: np.ndarray, count: int) -> np.ndarray:
    column = {int(r): k for k, r in enumerate(results)}
    placed = np.zeros((count, len(results), 6))
    keep = (place[given.node] >= 0) & np.isin(given.result, results) if len(given.node) else np.zeros(0, bool)
    np.add.at(
        placed,
        (place[given.node[keep]], np.array([column[int(r)] for r in given.result[keep]], int)),
        given.values[keep],
    )
    return placed


def _out(ends: _Ends, precise: Precision) -> np.ndarray:
    """(nodes,) which are out in any of the results."""
    n, r = ends.reactions.shape[:2]
    total, met = ends.reactions + ends.loads, np.zeros((n, r, 2))
    sides = [np.einsum("erk,ekg->erg", ends.forces[..., 3 * k : 3 * k + 3], ends.axes) for k in (0, 1)]
    sides[1] = sides[1] + np.cross(ends.lever[:, None, :], sides[0])
    np.add.at(total, ends.at, -np.concatenate(sides, axis=-1))
    np.add.at(met, ends.at, np.stack([np.linalg.norm(s, axis=-1) for s in sides], axis=-1))
    for given in (ends.reactions, ends.loads):
        met += np.stack([np.linalg.norm(given[..., :3], axis=-1), np.linalg.norm(given[..., 3:], axis=-1)], axis=-1)
    total = np.where(ends.known, total, 0.0)
    size = np.stack([np.linalg.norm(total[..., :3], axis=-1), np.linalg.norm(total[..., 3:], axis=-1)], axis=-1)
    slack = np.stack([np.asarray(v, float) for v in precise.left(ends.count + 2)], axis=-1)[:, None, :]
    return np.asarray(
        (np.where(size > slack, size, 0.0) / np.maximum(met, np.array(ends.floor)) > OUT).any(axis=(1, 2))
    )


def _tries(building: Building, ends: _Ends, nodes: np.ndarray) -> Iterator[Try]:
    """(words, what to do, the ends as they would be) of everything that is tried."""

    def other(factors: np.ndarray) -> _Ends:
        return replace(ends, forces=ends.forces * factors)

    flip = np.where(ends.first, -1.0, 1.0)[:, None, None]
    yield (
        "forces are the section's, or the node's on the member, the other way than stated",
        "state the other of internal and on_member",
        other(flip),
    )
    for k, name in enumerate(COMPONENTS):
        sign = np.where(np.arange(6) == k, -1.0, 1.0)
        what = (
            "axial forces have the other sign (compression positive)"
            if k == 0
            else f"{name} has the other sign throughout"
        )
        yield what, f"give {name} a factor of -1 in the map", other(sign)
        both = f"give {name} a factor of -1 and state the other of internal and on_member"
        yield f"{name} has the other sign, and forces are the other way than stated", both, other(sign * flip)
    for turn, words in ((1.0, ""), (-1.0, ", with their sign")):
        swapped = ends.forces[..., SWAP] * np.array([1, turn, 1, 1, turn, 1])
        yield (
            f"local y and z are the other way round throughout{words}",
            "exchange Fy with Fz and My with Mz in the map",
            replace(ends, forces=swapped),
        )
    yield (
        "reactions are the frame's forces on its supports",
        "give the reactions a factor of -1",
        replace(ends, reactions=-ends.reactions),
    )
    yield "loads on nodes have the other sign", "give node_loads a factor of -1", replace(ends, loads=-ends.loads)
    yield (
        "loads on nodes are in the members' forces already",
        "leave node_loads out",
        replace(ends, loads=0 * ends.loads),
    )
    yield "loads on nodes are given twice", "give each load once", replace(ends, loads=ends.loads / 2)
    yield "ends i and j are exchanged throughout", "exchange i and j", replace(ends, forces=ends.other)
    yield (
        "ends i and j are exchanged throughout, with their sign",
        "exchange i and j",
        replace(ends, forces=-ends.other),
    )
    for factor, words in FACTORS:
        yield (
            f"reactions are in another unit ({words})",
            "put their unit right",
            replace(ends, reactions=ends.reactions * factor),
        )
        yield (
            f"loads on nodes are in another unit ({words})",
            "put their unit right",
            replace(ends, loads=ends.loads * factor),
        )
        yield (
            f"the members' forces are in another unit than loads and reactions ({words})",
            "put their unit right",
            replace(ends, reactions=ends.reactions / factor, loads=ends.loads / factor),  # what is small stays so
        )
    yield from _other_axes(building, ends, nodes)


def _other_axes(building: Building, ends: _Ends, nodes: np.ndarray) -> Iterator[Try]:
    start, end = building.xyz[[m.i for m in building.members]], building.xyz[[m.j for m in building.members]]
    roll = np.array([m.roll for m in building.members])
    vertical, up = upright(end - start), (end - start)[:, 2] > 0
    place = np.full(len(building.nodes), -1)
    place[nodes] = 0
    at = [np.nonzero(place[[m.node(e) for m in building.members]] >= 0)[0] for e in (0, 1)]
    rows = np.concatenate(at)
    if vertical.any():
        for way, turn in TURNS.items():
            turned = roll + np.where(vertical, np.where(up, turn, -turn), 0.0)
            words = f"the webs of columns lie {way} (in plan) of where the model puts them"
            yield (
                words,
                "state vertical_y, the way of a web without roll",
                replace(ends, axes=local_axes(start, end, turned)[rows]),
            )
    for words, about in (("Y", AS_Y), ("Z", AS_Y.T)):
        axes = local_axes(start @ about, end @ about, roll)
        yield f"{words} is up", f'state up = "{words}"', replace(ends, axes=(axes @ about.T)[rows])
    if np.any(roll):
        yield (
            "rolls turn the other way",
            "give roll a factor of -1",
            replace(ends, axes=local_axes(start, end, -roll)[rows]),
        )


def _of_another_run(building: Building, share: np.ndarray, out: np.ndarray) -> tuple[list[Finding], frozenset[int]]:
    """What is out is all of one kind: reactions, one result, one storey."""
    results = np.nonzero((share > OUT).any(axis=0))[0]
    one = f" of {building.results[results[0]]}" if len(results) == 1 and len(building.results) > 1 else ""
    supports, held = (
        set(out.tolist()) & building.supports.keys(),
        {n for n in building.supports if any(building.supports[n])},
    )
    if len(supports) == len(out) and len(out) > 0.5 * len(held):
        words = (
            f"the reactions{one} fit no member: {len(out)} of {len(held)} supports are out of balance, and no other"
            " node"
        )
        return [_another(words, len(out))], frozenset(out.tolist())
    if one and len(building.node_loads.node) and results[0] not in building.node_loads.result:
        words = (
            f"{len(out)} nodes are out of balance in {building.results[results[0]]} alone, which has no loads on nodes:"
            " are they missing?"
        )
        return [Finding("loads_missing", "error", words, value=len(out))], frozenset(out.tolist())
    if storey := _storey(building, out):
        return [_another(storey + one, len(out))], frozenset(out.tolist())
    if one and len(out) > 0.3 * len(building.nodes):
        words = (
            f"the forces{one} fit neither its loads nor its reactions: {len(out)} nodes are out of balance in it, and"
            " none in any other"
        )
        return [_another(words, len(out))], frozenset(out.tolist())
    return [], frozenset()


def _another(words: str, value: int) -> Finding:
    return Finding("another_run", "error", f"{words}: as of another run", value=value)


def _storey(building: Building, out: np.ndarray) -> str:
    """Where all that is out stands at the foot or the head of one storey."""
    heights = np.round(building.xyz[:, 2] / 100.0) * 100.0
    levels, counts = np.unique(heights, return_counts=True)
    main = levels[counts >= max(4, 0.02 * len(heights))]
    own, sizes = np.unique(heights[out], return_counts=True)
    if (
        len(main) < 3 or len(own) != 2 or not np.isin(own, main).all() or len(out) < 4
    ):  # one level alone may be out by loads that are missing
        return ""
    columns = upright(building.xyz[[m.j for m in building.members]] - building.xyz[[m.i for m in building.members]])
    feet = {n for m, up in zip(building.members, columns, strict=True) if up for n in (m.i, m.j)}
    if not set(out.tolist()) <= feet or sizes.sum() < 0.5 * sum(int(np.isclose(heights[n], own).any()) for n in feet):
        return ""
    where = " and ".join(f"{_named(building, float(z))}" for z in own)
    return (
        f"what is out of balance stands all at {where} ({len(out)} nodes): the forces of the storey there do not fit"
        " what is above and below"
    )


def _named(building: Building, z: float) -> str:
    level = next((level.name for level in building.levels if abs(level.z - z) < 150.0), "")
    return f"level {level}" if level else f"{z / 1000:.2f} m"
