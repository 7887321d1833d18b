"""What each combination uses of a connection, limit state by limit state."""

from __future__ import annotations

import numpy as np

from handrail.core.actions import Actions
from handrail.core.limit_state import LimitState


def used_in_each(states: list[LimitState], actions: Actions) -> tuple[np.ndarray, np.ndarray]:
    """(the highest utilisation, which limit state it is) of (1, combinations) actions, each (combinations,): by the
    limit states that each is judged by; a limit counts only where it is passed. -1 and no state where none judges it;
    NaN where one is not known."""
    count = actions.V.shape[-1]
    use, which = np.full(count, -1.0), np.full(count, -1)
    for number, state in enumerate(states):
        columns = list(state.columns(actions))
        if not columns:
            continue
        used = np.full(count, -1.0)
        used[columns] = state.utilisation(actions.columns(tuple(columns)))[0]
        if state.limit:
            used = np.where((used >= 0) & (used <= 1), 0.0, used)
        more = (used > use) | (np.isnan(used) & ~np.isnan(use))
        use, which = np.where(more, used, use), np.where(more, number, which)
    return use, which
