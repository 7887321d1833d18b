"""Bars beside anchors whatever their places: shared as well as can be, fewer or farther never better, the outline of
what they cross."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import linprog

from handrail.core.parts.anchors.bar_places import around, beside
from handrail.core.parts.anchors.reinforcement import handed
from handrail.core.parts.anchors.surfaces import outline
from tests.worked.sheet import run
from tests.worked.test_anchor_bars import BARS
from tests.worked.test_base_plate import BASE, SHEAR, under


def by_linear_programme(asked: np.ndarray, reached: np.ndarray, each: float) -> float:
    """The least share of `each` that any bar has to take, every rod on its own bars."""
    rods, bars = reached.shape
    pairs = np.argwhere(reached)
    cost = np.r_[np.zeros(len(pairs)), 1.0]
    on_rod = np.array([[float(k == rod) for k, _ in pairs] + [0.0] for rod in range(rods)])
    on_bar = np.array([[float(b == bar) for _, b in pairs] + [-each] for bar in range(bars)])
    found = linprog(cost, A_ub=on_bar, b_ub=np.zeros(bars), A_eq=on_rod, b_eq=asked)
    return float(found.fun) if found.success else np.inf


@given(st.data(), st.integers(1, 6), st.integers(1, 6))
def test_bars_are_shared_as_well_as_can_be(data, rods, bars):
    reached = np.array(
        data.draw(st.lists(st.lists(st.booleans(), min_size=bars, max_size=bars), min_size=rods, max_size=rods))
    )
    asked = np.array(data.draw(st.lists(st.floats(1.0, 50.0), min_size=rods, max_size=rods)))
    total, held = handed(asked[None], reached, 10.0)
    best = by_linear_programme(asked, reached, 10.0)
    assert (held[0] == 0) if best == np.inf else (total[0] / held[0] == pytest.approx(best, rel=1e-6))


place = st.tuples(st.floats(-16, 16), st.floats(-16, 16))


def used(places, **actions) -> float:
    text = "; ".join(f"{x:.3f} in, {y:.3f} in" for x, y in places)
    sizes = SHEAR | BARS | {"tension_bars": f"({len(places)}) No. 5", "tension_bar_points": text}
    return run(BASE, sizes, **under(**actions))["checks"]["anchor_bars_tension"]["utilisation"]


@given(
    st.lists(place, min_size=2, max_size=8, unique_by=lambda p: (round(p[0]), round(p[1]))),
    st.floats(5, 80),
    st.floats(-900, 900),
)
def test_fewer_bars_are_never_used_less(places, N, M):
    """The last bar left out; but that the others then stand farther apart, which shortens what develops them, may let
    more of them act."""
    spaced = [p for k, p in enumerate(places) if all(max(abs(p[0] - q[0]), abs(p[1] - q[1])) > 4.5 for q in places[:k])]
    if len(spaced) > 1:
        assert used(spaced[:-1], N=N, M=M) >= used(spaced, N=N, M=M) - 1e-6


@given(
    st.lists(place, min_size=1, max_size=6, unique_by=lambda p: (round(p[0]), round(p[1]))),
    st.floats(5, 80),
    st.floats(-900, 900),
)
def test_mirrored_bars_hold_as_much(places, N, M):
    plain = used(places, N=N, M=M)
    assert used([(-x, y) for x, y in places], N=N, M=-M) == pytest.approx(plain, rel=1e-3, abs=1e-6)
    assert used([(x, -y) for x, y in places], N=N, M=M) == pytest.approx(plain, rel=1e-3, abs=1e-6)


def test_where_bars_stand_by_their_number():
    """One to each rod in turn, outwards along first; legs outside their line first, then inside, then a layer of three
    diameters deeper."""
    rods = ((-8.0, -8.0), (8.0, -8.0), (-8.0, 8.0), (8.0, 8.0))
    assert around(rods, 5, 2.0) == ((-10.0, -8.0), (10.0, -8.0), (-10.0, 8.0), (10.0, 8.0), (-8.0, -10.0))
    assert beside([-8.0, 8.0], 5, 1.0, 2.0, 0.5) == ((-9.0, 2.0), (9.0, 2.0), (-7.0, 2.0), (7.0, 2.0), (-9.0, 3.5))


@given(st.lists(st.tuples(*[st.integers(0, 9)] * 2), min_size=1, max_size=5, unique=True), st.integers(1, 4))
def test_an_outline_goes_round_what_boxes_cover(corners, size):
    """Each unit square inside has an edge of the outline wherever its neighbour is outside, and there is no other."""
    boxes = np.array([(x, y, x + size, y + size) for x, y in corners], float)
    lines = list(outline(boxes))
    inside = {(i, j) for x, y in corners for i in range(x, x + size) for j in range(y, y + size)}
    sides = sum((i + di, j + dj) not in inside for i, j in inside for di, dj in ((1, 0), (-1, 0), (0, 1), (0, -1)))
    assert sum(abs(a[0] - b[0]) + abs(a[1] - b[1]) for a, b in lines) == pytest.approx(sides)
