"""Plates on concrete at random: the plane of strain against fibres that are added up here, the block against statics."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from handrail.core.parts.bearing import Footprint, block, strain

EC, ES = 24_900.0, 199_948.0


@st.composite
def plates(draw) -> Footprint:
    length, width = draw(st.integers(250, 900)), draw(st.integers(250, 900))
    x, y = length / 2 - draw(st.integers(40, 70)), width / 2 - draw(st.integers(40, 70))
    rods = [(-x, -y), (x, -y), (-x, y), (x, y)]
    if draw(st.booleans()):
        rods += [(-x, 0.0), (x, 0.0)]
    return Footprint(float(length), float(width), tuple(rods), float(draw(st.integers(150, 2000))))


def added_up(plate: Footprint, u: np.ndarray, limit: float) -> np.ndarray:
    """(P, Mx, My) of a strain, by fibres of another size than the solver's, in the order in which a person would write it."""
    n = 331
    total = np.zeros(3)
    for i in range(n):
        x = (i + 0.5) / n * plate.length - plate.length / 2
        y = (np.arange(n) + 0.5) / n * plate.width - plate.width / 2
        stress = np.minimum(np.maximum(EC * (u[0] + u[1] * x + u[2] * y), 0.0), limit)
        force = stress * plate.length * plate.width / n**2
        total += [force.sum(), force.sum() * x, (force * y).sum()]
    for x, y in plate.points:
        pull = max(-(u[0] + u[1] * x + u[2] * y), 0.0) * ES * plate.area
        total -= [pull, pull * x, pull * y]
    return total


@given(plates(), st.floats(-1, 1), st.floats(-1, 1), st.floats(-1, 1))
def test_the_plane_is_in_balance(plate, p, mx, my):
    """Equilibrium of fibres that the solver never saw, within the one part in a hundred that its fibres' size allows."""
    limit = 23.0
    P = p * 0.5 * limit * plate.length * plate.width
    loads = np.array([P, mx * 0.1 * limit * plate.length**2 * plate.width, my * 0.1 * limit * plate.length * plate.width**2])
    found = strain(plate, *loads, limit, EC, ES)
    assert bool(found.solved), float(found.left)
    arms = np.array([1.0, plate.length / 2, plate.width / 2])
    off = np.abs(added_up(plate, found.strain, limit) - loads) / arms
    assert off.max() <= 0.01 * max((np.abs(loads) / arms).max(), 1.0)
    assert (found.tensions >= 0).all() and 0 <= float(found.pressure) <= limit * (1 + 1e-12)


@given(plates(), st.floats(-1, 1), st.floats(-1, 1))
def test_turning_a_plate_changes_nothing(plate, p, m):
    loads = np.array([p * 2e6, m * 2e8, 0.3 * m * 2e8])
    found = strain(plate, *loads, 23.0, EC, ES)
    turned = Footprint(plate.width, plate.length, tuple((y, x) for x, y in plate.points), plate.area)
    other = strain(turned, loads[0], loads[2], loads[1], 23.0, EC, ES)
    assert bool(found.solved) == bool(other.solved)
    if found.solved:
        assert other.tensions == pytest.approx(found.tensions, abs=2e-3 * max(found.tensions.max(), 1e3))  # its strips run the other way


def test_very_many_at_once():
    """Every one converges or says that it does not, and those that do are in balance to one part in a thousand."""
    dice = np.random.default_rng(3)
    plate = Footprint(500.0, 400.0, ((-200.0, -150.0), (200.0, -150.0), (-200.0, 150.0), (200.0, 150.0)), 400.0)
    P, Mx, My = dice.uniform(-6e5, 6e6, 2000), dice.uniform(-4e8, 4e8, 2000), dice.uniform(-3e8, 3e8, 2000)
    found = strain(plate, P, Mx, My, 23.0, EC, ES)
    assert (found.left[found.solved] < 1e-3).all() and found.solved.mean() > 0.5
    assert np.isnan(found.tensions[~found.solved]).all()
    crushed = P > 23.0 * 500 * 400
    assert not found.solved[crushed].any()


def test_what_is_not_known_is_not_solved():
    plate = Footprint(500.0, 400.0, ((-200.0, 0.0), (200.0, 0.0)), 400.0)
    assert strain(plate, np.array([np.nan, 1e5]), np.zeros(2), np.zeros(2), 23.0, EC, ES).solved.tolist() == [False, True]
    assert block(plate, 0, np.array([np.nan, 1e5]), np.zeros(2), 23.0).solved.tolist() == [False, True]


@given(st.floats(-3e5, 4e6), st.floats(-5e8, 5e8))
def test_the_block_is_in_balance(P, M):
    """Forces and moments of what it gives, added up."""
    plate = Footprint(500.0, 400.0, ((-200.0, -150.0), (200.0, -150.0), (-200.0, 150.0), (200.0, 150.0)), 400.0)
    found = block(plate, 0, np.array(P), np.array(M), 23.0)
    if not found.solved:
        return
    press = float(found.length * found.pressure) * 400.0
    at = float(found.sign) * (250.0 - float(found.length) / 2)
    pulls = found.tensions
    assert press - pulls.sum() == pytest.approx(P, abs=1e-6 * max(abs(P), 1e3))
    assert press * at - (pulls * plate.xy[:, 0]).sum() == pytest.approx(M, abs=1e-6 * max(abs(M), abs(P) * 250, 1e5))
    assert (pulls >= -1e-6).all() and float(found.pressure) <= 23.0 * (1 + 1e-9)
