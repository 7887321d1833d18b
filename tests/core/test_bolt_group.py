"""Bolt groups at any positions, under N, V and M that are independent of each other."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from handrail.core.parts.bolt_group import AT_MAX, BoltGroup, Grid, by_direction, eccentric_loads, solve

places = st.lists(st.tuples(st.integers(-6, 6), st.integers(-6, 6)), min_size=2, max_size=9, unique=True)
forces = st.tuples(st.floats(-1, 1), st.floats(-1, 1), st.floats(-500, 500)).filter(
    lambda f: abs(f[0]) + abs(f[1]) + abs(f[2]) / 100 > 0.05
)


def group_at(points) -> BoltGroup:
    return BoltGroup(tuple((50.0 * x, 50.0 * y) for x, y in points))


@given(places, st.lists(forces, min_size=1, max_size=5), st.sampled_from(["ic", "elastic"]))
def test_any_group_balances_any_load(points, loads, method):
    group, given_loads = group_at(points), np.array(loads)
    found = solve(group, given_loads, method)
    xy = group.coordinates
    assert np.abs(found.forces.sum(axis=1) - given_loads[:, :2]).max() < 1e-5
    about = (xy[:, 0] * found.forces[..., 1] - xy[:, 1] * found.forces[..., 0]).sum(axis=1)
    turned = np.abs(given_loads[:, 2]) > 1e-3 * np.hypot(
        given_loads[:, 0], given_loads[:, 1]
    )  # else taken as concentric
    assert np.abs(about - given_loads[:, 2])[turned].max(initial=0.0) < 1e-3
    assert (np.linalg.norm(found.forces, axis=-1).max(axis=1) * found.factor <= 1 / AT_MAX + 1e-6).all()


@given(places, forces, st.floats(0.1, 10), st.floats(0, 2 * math.pi))
def test_turning_the_group_with_its_load_changes_nothing(points, load, more, angle):
    c, s = math.cos(angle), math.sin(angle)
    group = group_at(points)
    turned = BoltGroup(tuple((c * x - s * y, s * x + c * y) for x, y in group.points))
    first = solve(group, np.array([load])).factor[0]
    second = solve(turned, more * np.array([[c * load[0] - s * load[1], s * load[0] + c * load[1], load[2]]])).factor[0]
    assert second * more == pytest.approx(first, rel=1e-5)


def test_moment_alone_on_four_bolts_in_a_square():
    """All four are 70.71 mm from the centre and reach 0.9815 of their strength at once: M = 4 x 0.9815 x 70.71 =
    277.6."""
    square = BoltGroup(((0, 0), (100, 0), (100, 100), (0, 100)))
    assert solve(square, np.array([[0.0, 0.0, 1.0]])).factor[0] == pytest.approx(
        4 * AT_MAX * math.hypot(50, 50), rel=1e-6
    )
    assert solve(square, np.array([[0.0, 0.0, 1.0]]), "elastic").factor[0] == pytest.approx(
        4 * math.hypot(50, 50), rel=1e-6
    )


def test_two_bolts_far_from_their_load_stay_in_balance():
    """Two bolts 76.2 mm apart under V at 1500 mm: nearly a couple, 1500 V/76.2 = 19.7 V across each, and V/2 along
    it."""
    group = Grid(2, 1, 76.2, 0.0).group
    found = solve(group, eccentric_loads(np.array([0.0]), 1500.0))
    assert np.abs(found.forces[0, :, 0]) == pytest.approx([19.685, 19.685], rel=1e-3)
    assert found.forces[0, :, 1] == pytest.approx([0.5, 0.5], rel=1e-3)


@given(places, st.floats(0, 400))
def test_directions_are_the_loads_one_by_one(points, e):
    group = group_at(points)
    table = by_direction(group, e)
    some = np.array([0, 77, 180, 249, 300])
    alone = solve(group, eccentric_loads(table.theta[some], e))
    assert table.C[some] == pytest.approx(alone.factor, rel=1e-6)


def test_neighbours_and_mirror():
    """An L of three bolts: the corner has one to its right and one above; no mirror. A grid mirrors row by row."""
    ell = BoltGroup(((0, 0), (80, 0), (0, 60)))
    assert ell.neighbours[0].tolist() == [80, math.inf, 60, math.inf]
    assert ell.mirror is None
    grid = Grid(3, 2, 70, 90).group
    assert grid.mirror.tolist() == [2, 1, 0, 5, 4, 3]


def test_one_bolt_resists_no_moment():
    alone = BoltGroup(((0, 0),))
    found = solve(alone, np.array([[0.0, 1.0, 0.0], [0.0, 1.0, 50.0], [np.nan, 1.0, 0.0]]))
    assert found.factor[0] == pytest.approx(1.0) and found.factor[1] == 0 and np.isnan(found.factor[2])
