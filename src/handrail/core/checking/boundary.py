"""How far a connection's strength goes: the N and M at which the first of its limit states is used up, all round."""

from __future__ import annotations

import numpy as np

from handrail.core.actions import COMPONENTS, Actions
from handrail.core.limit_state import LimitState

RAYS = 120
HALVINGS = 22
FAR = 4.0  # of the member's own strength: no connection goes farther


def boundary(states: list[LimitState], method: str, reach: dict[str, float]) -> np.ndarray:
    """(RAYS, 2) of the two actions in `reach` (name -> the member's own strength in it, N or N*mm) at which a limit
    state judged by `method` reaches 1, on rays all round from nothing; no other action acts.

    More load never lowers a utilisation, so that halving finds the place.
    """
    own = [state for state in states if state.method in ("", method) and "strength" in state.sets]
    names = list(reach)
    turn = 2 * np.pi * np.arange(RAYS) / RAYS
    way = np.stack([np.cos(turn) * reach[names[0]], np.sin(turn) * reach[names[1]]], axis=1)
    low, high = np.zeros(RAYS), np.full(RAYS, FAR)
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        held = _most_used(own, names, way * middle[:, None], method) <= 1.0
        low, high = np.where(held, middle, low), np.where(held, high, middle)
    return way * low[:, None]


def _most_used(states: list[LimitState], names: list[str], loads: np.ndarray, method: str) -> np.ndarray:
    """(k,) the highest utilisation of any state under `loads` (k, 2)."""
    table = np.zeros((len(loads), 1, len(COMPONENTS)))
    for column, name in enumerate(names):
        table[:, 0, COMPONENTS.index(name)] = loads[:, column]
    actions = Actions.of(table, ("",), sets=((method, "strength"),))
    return np.nan_to_num(np.max([state.utilisation(actions)[:, 0] for state in states], axis=0), nan=np.inf)
