"""Which of two lists of places are the same: against every pair looked at."""

from __future__ import annotations

from itertools import product

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from handrail.core.building.nearest import nearest

spots = st.integers(-40, 40).map(float)
places = st.lists(st.tuples(*[spots] * 6), max_size=12).map(lambda of: np.array(of, float).reshape(-1, 6))
flip = [3, 4, 5, 0, 1, 2]


def apart(a: np.ndarray, b: np.ndarray) -> float:
    return max(float(np.linalg.norm(a[:3] - b[:3])), float(np.linalg.norm(a[3:] - b[3:])))


@given(places, places, st.floats(0.5, 60), st.booleans())
def test_nobody_near_is_left_over(old, new, within, either_way):
    """Nobody is taken twice, none is further apart, and of any two that could be one, one at least has somebody as near
    or nearer."""
    found = nearest(old, new, within, either_way=either_way)
    assert len(set(found.values())) == len(found)

    def gap(k: int, n: int) -> float:
        return min(apart(old[k], new[n]), apart(old[k], new[n][flip]) if either_way else np.inf)

    assert all(gap(k, n) <= within for k, n in found.items())
    taken = {n: k for k, n in found.items()}
    for k, n in product(range(len(old)), range(len(new))):
        if gap(k, n) <= within:
            held = [gap(a, b) for a, b in ((k, found.get(k)), (taken.get(n), n)) if a is not None and b is not None]
            assert held and min(held) <= gap(k, n)


@given(places, st.integers(0, 2**32 - 1))
def test_shaken_and_in_another_order_each_finds_itself(old, seed):
    """Places that stand 10 mm apart at least, each off by less than 2 mm."""
    dice = np.random.default_rng(seed)
    old = np.unique(old, axis=0) * 10
    order = dice.permutation(len(old))
    new = old[order] + dice.uniform(-1, 1, (len(old), 6))
    assert nearest(old, new, 4.0) == {int(k): n for n, k in enumerate(order)}
