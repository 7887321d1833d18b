"""Weld groups by the instantaneous centre and the elastic method, against curves and integrals worked on their own."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from handrail.core.parts import weld_group
from handrail.core.parts.weld_group import WeldGroup, channel, ell, line, parallel, solve

L = 254.0
SHAPES = {"line": line(L), "parallel": parallel(L, 90.0), "ell": ell(L, 120.0), "channel": channel(L, 120.0)}


def one(group: WeldGroup, Fx: float, Fy: float, M: float, method: str = "ic") -> float:
    return float(solve(group, np.array([[Fx, Fy, M]]), method).factor[0])


def test_along_across_and_aslant_of_a_line():
    """kds of J2-5 times the curve at its limit: along 1.0 x 1.000; across, p = 0.0559/0.0492 = 1.137: 1.5 x 0.999; at
    45 deg delta_u = 1.087 x 51^-0.65 = 0.0844, delta_m = 0.209 x 47^-0.32 = 0.0610, p = 1.385: (1.385 (1.9 -
    1.246))^0.3 = 0.9706: 1.2973 x 0.9706 = 1.259."""
    for Fx, Fy, share in ((0, 1, 1.0), (1, 0, 1.4985), (math.sqrt(0.5), math.sqrt(0.5), 1.259)):
        assert one(SHAPES["line"], Fx, Fy, 0) / L == pytest.approx(share, rel=0.001)


def test_two_unequal_directions_deform_alike():
    """An L pushed along its leg of 254 mm without turning: the leg (0 deg) and the foot (90 deg) move alike, so the
    foot, which tears first at delta_u = 1.087 x 96^-0.65 w = 0.0559 w, sets the movement: the leg is at p =
    0.0559/0.1674 = 0.334: (0.334 (1.9 - 0.3006))^0.3 = 0.8285. 254 x 0.8285 = 210.4 and 1.5 x 120 x 0.9990 = 179.8:
    390.3, in a line (60 x 179.8)/390.3 = 27.64 mm from the leg, where the centroid is 120 x 60/374 = 19.25 mm from it.
    """
    assert one(SHAPES["ell"], 0, 1, 27.64 - 19.25) == pytest.approx(390.3, rel=0.002)


def test_a_line_turned_alone():
    """A line under moment only turns about its middle: every element moves across, 1.5 (p (1.9 - 0.9 p))^0.3 with p =
    1.137 at its end.

    The moment is 2 x the integral of R(y) y over half the line, by Simpson's rule here.
    """
    y = np.linspace(0, L / 2, 2001)
    p = 1.087 * 96**-0.65 / (0.209 * 92**-0.32) * y / (L / 2)
    R = 1.5 * (p * (1.9 - 0.9 * p)) ** 0.3
    weights = np.ones_like(y)
    weights[1:-1:2], weights[2:-1:2] = 4, 2
    moment = 2 * (R * y * weights).sum() * (y[1] - y[0]) / 3
    assert one(SHAPES["line"], 0, 0, 1.0) == pytest.approx(moment, rel=0.005)


def test_elastic_line():
    """V at a lever of 100 mm on a line of 254 mm: V/L and V e 6/L^2 at its ends, squared and added."""
    direct, bent = 1 / L, 6 * 100 / L**2
    assert one(SHAPES["line"], 0, 1, -100, "elastic") == pytest.approx(1 / math.hypot(direct, bent), rel=1e-3)


def test_elastic_channel():
    """A C of 254 x 120: xbar = 120^2/494 = 29.15 mm; Ix = 254^3/12 + 2 x 120 x 127^2, Iy = 254 xbar^2 + 2 (120^3/12 +
    120 (60 - xbar)^2). V = 1 at 200 mm to its left: worst at a tip, 90.85 mm right of and 127 mm off the centroid."""
    total = 254 + 240
    xbar = 120**2 / total
    J = 254**3 / 12 + 2 * 120 * 127**2 + 254 * xbar**2 + 2 * (120**3 / 12 + 120 * (60 - xbar) ** 2)
    x, y = 120 - xbar, 127.0
    # M = -200: the flow of the turn at (x, y) is (-M y, M x)/J
    worst = max(math.hypot(200 * sy * y / J, 1 / total - 200 * sx / J) for sy in (1, -1) for sx in (x, -xbar))
    assert one(SHAPES["channel"], 0, 1, -200, "elastic") == pytest.approx(1 / worst, rel=2e-3)


forces = st.tuples(st.floats(-1, 1), st.floats(-1, 1), st.floats(-400, 400)).filter(
    lambda f: abs(f[0]) + abs(f[1]) + abs(f[2]) / 100 > 0.05
)


@given(st.sampled_from(list(SHAPES)), forces)
def test_elements_balance_the_load(name, load):
    group, given_load = SHAPES[name], np.array([load])
    found = solve(group, given_load)
    xy, F = group.coordinates, found.forces[0]
    size = np.abs(given_load).max()
    assert np.abs(F.sum(axis=0) - given_load[0, :2]).max() < 2e-3 * size
    about = float((xy[:, 0] * F[:, 1] - xy[:, 1] * F[:, 0]).sum())
    assert about == pytest.approx(load[2], abs=2e-3 * max(abs(load[2]), 100 * size))
    assert (np.linalg.norm(F, axis=1) * found.factor[0] <= 1.5 * group.element_lengths * 1.001).all()


@given(st.sampled_from(list(SHAPES)), forces, st.floats(0.1, 9))
def test_strength_is_in_proportion_and_the_centre_beats_elastic(name, load, more):
    group = SHAPES[name]
    first = one(group, *load)
    assert one(group, *(more * v for v in load)) == pytest.approx(first / more, rel=2e-3)
    assert first >= one(group, *load, "elastic") * 0.999


def test_no_load_and_no_number():
    found = solve(SHAPES["line"], np.array([[0.0, 0.0, 0.0], [np.nan, 1.0, 0.0]]))
    assert found.factor[0] == np.inf and np.isnan(found.factor[1])
    assert len(SHAPES["parallel"].element_lengths) == weld_group.ELEMENTS * 2
