"""Anchor groups at any layout: what must hold whatever the numbers, and areas against an independent count."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from handrail.core.catalogue import rod
from handrail.core.codes.aci318 import Aci318
from handrail.core.errors import UnknownName
from handrail.core.limit_state import ratio
from handrail.core.parts.anchors import AnchorGroup, Concrete
from handrail.core.parts.anchors import shear as in_shear
from handrail.core.parts.anchors import tension as in_tension

CONCRETE = Aci318()

places = st.lists(st.tuples(st.integers(-6, 6), st.integers(-6, 6)), min_size=1, max_size=8, unique=True)
sides = st.tuples(st.integers(360, 900), st.integers(360, 900))


@st.composite
def groups(draw) -> AnchorGroup:
    block = Concrete(
        fc=27.6,
        thickness=draw(st.integers(150, 900)),
        along=draw(sides),
        across=draw(sides),
        cracked=draw(st.booleans()),
    )
    points = tuple((50.0 * x, 50.0 * y) for x, y in draw(places))
    return AnchorGroup(
        points=points,
        rod=rod("3/4 F1554-36"),
        hef=float(draw(st.integers(80, 500))),
        concrete=block,
        welded=draw(st.booleans()),
        code=CONCRETE,
    )


def use(anchors: AnchorGroup, pulls: np.ndarray) -> float:
    return float(ratio(*in_tension.breakout(anchors, pulls)))


def push(anchors: AnchorGroup, forces: np.ndarray) -> float:
    return max(float(in_shear.breakout(anchors, forces)), float(ratio(*in_shear.pryout(anchors, forces))))


def moved(anchors: AnchorGroup, sx: int, sy: int, turned: bool) -> AnchorGroup:
    """The same group in the same concrete, mirrored, or turned a quarter."""
    c = anchors.concrete
    along, across = c.along[::sx], c.across[::sy]
    points = tuple((sx * x, sy * y) for x, y in anchors.points)
    if turned:
        points, along, across = tuple((y, x) for x, y in points), across, along
    return AnchorGroup(
        points=points,
        rod=anchors.rod,
        hef=anchors.hef,
        concrete=Concrete(fc=c.fc, thickness=c.thickness, along=along, across=across, cracked=c.cracked),
        welded=anchors.welded,
        code=CONCRETE,
    )


@given(groups(), st.randoms(use_true_random=False))
def test_mirroring_and_turning_change_nothing(anchors, dice):
    pulls = np.array([dice.choice([0.0, 5e3, 2e4]) for _ in anchors.points])
    forces = np.array([[dice.uniform(-1e4, 1e4), dice.uniform(-1e4, 1e4)] for _ in anchors.points])
    for sx, sy, turned in ((-1, 1, False), (1, -1, False), (-1, -1, True), (1, 1, True)):
        other = moved(anchors, sx, sy, turned)
        there = forces * [sx, sy]
        there = there[:, ::-1] if turned else there
        assert use(other, pulls) == pytest.approx(use(anchors, pulls), rel=1e-9)
        assert push(other, there) == pytest.approx(push(anchors, forces), rel=1e-9)


@given(groups(), st.floats(1.0, 5.0))
def test_more_load_uses_more(anchors, factor):
    pulls, forces = np.full(anchors.n, 9e3), np.tile([4e3, 3e3], (anchors.n, 1))
    assert use(anchors, factor * pulls) == pytest.approx(factor * use(anchors, pulls))
    assert push(anchors, factor * forces) == pytest.approx(factor * push(anchors, forces))


@given(groups())
def test_areas_by_counting(anchors):
    """ANc beside a count of millimetres that are within 1.5 hef of a rod both ways and inside the concrete."""
    hef = anchors.hef
    along, across = anchors.concrete.along, anchors.concrete.across
    x = np.arange(-along[0] + 2, along[1], 4.0)
    y = np.arange(-across[0] + 2, across[1], 4.0)
    near = [(np.abs(x - px) < 1.5 * hef)[:, None] & (np.abs(y - py) < 1.5 * hef) for px, py in anchors.points]
    assert anchors.area(tuple(range(anchors.n)), 1.5 * hef) == pytest.approx(
        16.0 * np.any(near, axis=0).sum(), rel=0.06
    )


@given(groups())
def test_many_at_once_are_as_one_by_one(anchors):
    dice = np.random.default_rng(7)
    pulls = dice.choice([0.0, 3e3, 9e3], size=(2, 5, anchors.n))
    demand, strength = in_tension.breakout(anchors, pulls)
    burst = in_tension.blowout(anchors, pulls)
    forces = dice.uniform(-5e3, 5e3, size=(2, 5, anchors.n, 2))
    together = in_shear.breakout(anchors, forces)
    for k in np.ndindex(2, 5):
        assert float(ratio(*in_tension.breakout(anchors, pulls[k]))) == pytest.approx(
            float(ratio(demand[k], strength[k]))
        )
        assert float(ratio(*in_tension.blowout(anchors, pulls[k]))) == pytest.approx(
            float(ratio(burst[0][k], burst[1][k]))
        )
        assert float(in_shear.breakout(anchors, forces[k])) == pytest.approx(float(together[k]))


def test_a_rod_outside_the_concrete_carries_nothing():
    outside = AnchorGroup(
        points=((0.0, 0.0), (300.0, 0.0)),
        rod=rod("1 F1554-55"),
        hef=250.0,
        concrete=Concrete(fc=27.6, thickness=600.0, along=(400.0, 200.0), across=(400.0, 400.0)),
        code=CONCRETE,
    )
    assert use(outside, np.array([1e3, 1e3])) == math.inf
    assert float(in_shear.breakout(outside, np.tile([1e3, 0.0], (2, 1)))) == math.inf


def test_what_is_not_known_is_not_passed():
    anchors = AnchorGroup(
        points=((0.0, 0.0), (200.0, 0.0)),
        rod=rod("1 F1554-55"),
        hef=250.0,
        concrete=Concrete(fc=27.6, thickness=600.0, along=(400.0, 400.0), across=(400.0, 400.0)),
        code=CONCRETE,
    )
    assert math.isnan(use(anchors, np.array([np.nan, 1e3])))
    assert math.isnan(push(anchors, np.array([[np.nan, 0.0], [1e3, 0.0]])))


@pytest.mark.parametrize("name", ["3/4 A325-N", "F1554-36", "0.8 F1554-36", "3/4 F1554-50"])
def test_rods_that_are_not_there(name):
    with pytest.raises(UnknownName):
        rod(name)
    assert rod('1-1/4" F1554 Gr. 105').name == "1-1/4 F1554-105"
