"""Every limit state of one connection under every combination that it is judged by."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from handrail.core.actions import Actions
from handrail.core.checking.connection import at
from handrail.core.checking.result import Check
from handrail.core.limit_state import LimitState


@dataclass(frozen=True)
class Matrix:
    """`use` (limit states, combinations): utilisations; NaN where a limit state is not judged by a combination, or is
    not known there. `judged` says which of the two. `row` and `column` (limit states,), (combinations,) which
    combination governs each limit state and which limit state each combination, -1 where none does; a limit counts only
    where it is passed."""

    states: list[LimitState]
    actions: Actions
    use: np.ndarray
    judged: np.ndarray
    row: np.ndarray
    column: np.ndarray

    def check(self, state: int, combination: int) -> Check:
        """One limit state at one combination, with its worked lines."""
        return at(self.states[state], self.actions, (0, combination), True)


def matrix(states: list[LimitState], actions: Actions) -> Matrix:
    """Of (1, combinations) actions."""
    count = actions.V.shape[-1]
    use, judged = np.full((len(states), count), np.nan), np.zeros((len(states), count), bool)
    for number, state in enumerate(states):
        if columns := list(state.columns(actions)):
            use[number, columns] = state.utilisation(actions.columns(tuple(columns)))[0]
            judged[number, columns] = True
    counts = np.where(judged, np.where(np.isnan(use), np.inf, use), -1.0)  # what is not known governs
    limits = np.array([state.limit for state in states], bool)[:, None]
    counts = np.where(limits & (counts >= 0) & (counts <= 1), 0.0, counts)
    row = (
        np.where(counts.max(axis=1, initial=-1.0) >= 0, counts.argmax(axis=1), -1)
        if count
        else np.full(len(states), -1)
    )
    column = (
        np.where(counts.max(axis=0, initial=-1.0) >= 0, counts.argmax(axis=0), -1) if states else np.full(count, -1)
    )
    return Matrix(states, actions, use, judged, row, column)
