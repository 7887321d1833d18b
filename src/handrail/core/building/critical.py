"""Which joints and combinations of a pattern whoever designs it has to look at: where an action of any place is largest
or smallest, and the corners of what acts together in pairs."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from handrail.core.actions import COMPONENTS
from handrail.core.building.patterns import Pattern, peaks_of, points_of

PAIRS = ((1, 0), (1, 3), (3, 0))  # V with N, V with M, M with N: what connections are designed for together
NOTHING = 1e-3  # kN or kN*m: less is no action


@dataclass(frozen=True)
class Critical:
    """One joint under one combination: why it was chosen, and the actions (6,) at each place of the pattern, None where
    nothing is fastened."""

    joint: int  # which of the pattern's
    combination: int
    why: tuple[str, ...]
    actions: tuple[np.ndarray | None, ...]


PICKED = "picked"


def critical(
    pattern: Pattern,
    acting: Mapping[str, np.ndarray],
    names: tuple[str, ...],
    picked: Sequence[tuple[str, int]] = (),
) -> list[Critical]:
    """The chosen ones, by joint and combination, and those that somebody `picked` (connection, number of the
    combination); actions turned and mirrored onto the first joint, in the units of `acting`."""
    chosen: dict[tuple[int, int], list[str]] = {}
    of = {key: k for k, m in enumerate(pattern.members) for key in m.connections if key}
    for key, combination in picked:
        chosen.setdefault((of[key], combination), [PICKED])
    for slot in range(len(pattern.slots)):
        joints = [k for k, m in enumerate(pattern.members) if m.connections[slot] in acting]
        ids, table = points_of(pattern, slot, dict(acting))
        if not ids or not names:
            continue
        index = {name: k for k, name in enumerate(ids)}
        for peak in peaks_of(pattern, slot, dict(acting), names):
            if abs(peak["values"][peak["action"]]) > NOTHING:
                word = (
                    f"{'largest' if peak['largest'] else 'smallest'} {COMPONENTS[peak['action']]} at place {slot + 1}"
                )
                chosen.setdefault((joints[index[peak["connection"]]], names.index(peak["combination"])), []).append(
                    word
                )
        for x, y in PAIRS:
            flat = np.nan_to_num(table[..., [x, y]].reshape(-1, 2))
            for k in corners(flat):
                joint, combination = divmod(k, table.shape[1])
                if np.abs(flat[k]).min() > NOTHING:
                    chosen.setdefault((joints[joint], combination), []).append(
                        f"{COMPONENTS[x]} with {COMPONENTS[y]} at place {slot + 1}"
                    )
    worst = []
    for (joint, combination), why in sorted(chosen.items()):
        member = pattern.members[joint]
        actions = tuple(
            acting[c][combination] * np.array(sign) if c in acting else None
            for c, sign in zip(member.connections, member.signs, strict=True)
        )
        worst.append(Critical(joint, combination, tuple(dict.fromkeys(why)), actions))
    return worst


def corners(points: np.ndarray) -> list[int]:
    """Which of (n, 2) points are corners of the smallest convex outline round them all (Andrew's monotone chain)."""
    _, first = np.unique(np.round(points, 9), axis=0, return_index=True)
    order = first[np.lexsort((points[first, 1], points[first, 0]))].tolist()
    if len(order) < 3:
        return list(order)
    return [*_chain(points, order)[:-1], *_chain(points, order[::-1])[:-1]]


def _chain(points: np.ndarray, order: list[int]) -> list[int]:
    chain: list[int] = []
    for k in order:
        while len(chain) > 1 and _turn(points[chain[-2]], points[chain[-1]], points[k]) <= 0:
            chain.pop()
        chain.append(k)
    return chain


def _turn(a: np.ndarray, b: np.ndarray, c: np.ndarray) -> float:
    return float((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]))
