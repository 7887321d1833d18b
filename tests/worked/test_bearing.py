"""Plates on concrete, worked by hand: the block of AISC Design Guide 1, and the plane of strain where it has a closed
form."""

from __future__ import annotations

import numpy as np
import pytest

from handrail.core.parts.bearing import Footprint, block, strain
from handrail.core.quantities.units import INCH, KIP, KSI

CORNERS = ((-8, -8), (8, -8), (-8, 8), (8, 8))


def plate(length=20, width=20, rods=CORNERS, **more) -> Footprint:
    return Footprint(
        length=length * INCH,
        width=width * INCH,
        points=tuple((x * INCH, y * INCH) for x, y in rods),
        area=0.606 * INCH**2,
        **more,
    )


def solved(P, M, limit=2.21, axis=0, **more):
    """P kip (pressing +), M kip in; the block's length, in., its pressure, ksi, and each rod's tension, kip."""
    found = block(plate(**more), axis, np.array(P * KIP), np.array(M * KIP * INCH), limit * KSI)
    return float(found.length) / INCH, float(found.pressure) / KSI, found.tensions / KIP, bool(found.solved)


def test_small_moment():
    """P = 200, M = 500: e = 2.5 in., under N/2 - P/(2 q) = 10 - 200/(2 x 44.2) = 7.738: Y = 20 - 5 = 15 in., f =
    200/(15 x 20) = 0.6667 ksi; no rod pulls."""
    deep, f, pulls, ok = solved(200, 500)
    assert (deep, f, ok) == (pytest.approx(15.0), pytest.approx(0.6667, abs=1e-4), True) and not pulls.any()


def test_large_moment():
    """P = 100, M = 1500: e = 15 over 10 - 100/88.4 = 8.869. About the rods 8 in. out: 100 x 8 + 1500 = 2300; Y = 18 -
    sqrt(18^2 - 2 x 2300/44.2) = 18 - sqrt(219.93) = 3.170 in., T = 44.2 x 3.170 - 100 = 40.11 kip, two rods: 20.06
    each. Turned over the other two pull."""
    deep, f, pulls, ok = solved(100, 1500)
    assert (deep, f, ok) == (pytest.approx(3.170, abs=1e-3), pytest.approx(2.21), True)
    assert pulls == pytest.approx([20.06, 0, 20.06, 0], abs=0.02)
    assert solved(100, -1500)[2] == pytest.approx([0, 20.06, 0, 20.06], abs=0.02)
    assert solved(100, 1500, axis=1)[2] == pytest.approx([20.06, 20.06, 0, 0], abs=0.02)


def test_uplift():
    """40 kip up with 160 kip in: 160 = under 40 x 8 = 320, nothing presses: 40/4 - 160 x 8/(4 x 64) = 10 -+ 5: 15 and 5
    kip. With 600 kip in.: 600 - 320 = 280 about the rods: Y = 18 - sqrt(324 - 2 x 280/44.2) = 0.3555 in.; T = 15.71 +
    40 = 55.71."""
    assert solved(-40, 160)[2] == pytest.approx([15, 5, 15, 5])
    deep, _, pulls, ok = solved(-40, 600)
    assert ok and deep == pytest.approx(0.3555, abs=1e-3) and pulls == pytest.approx([27.86, 0, 27.86, 0], abs=0.02)


def test_too_small_a_plate():
    """P = 500 and M = 4000: 18^2 = 324 is less than 2 x 8000/44.2 = 362. 1000 kip alone are more than 20 x 44.2 =
    884."""
    assert not solved(500, 4000)[3] and np.isnan(solved(500, 4000)[2]).all()
    assert not solved(1000, 0)[3]
    assert solved(884, 0)[3]


def test_three_rows_are_not_for_the_block():
    with pytest.raises(ValueError, match="two rows"):
        solved(100, 10, rods=((-8, 0), (0, 0), (8, 0)))


def test_confinement():
    """20 x 20 on 30 x 40: the like part is 30 x 30: 1.5; 60 x 60: 3, no more than 2; off the edge 1."""
    assert plate(along=(15 * INCH, 15 * INCH), across=(20 * INCH, 20 * INCH)).confinement() == pytest.approx(1.5)
    assert plate(along=(30 * INCH, 30 * INCH), across=(30 * INCH, 30 * INCH)).confinement() == 2.0
    assert plate(along=(9 * INCH, 30 * INCH)).confinement() == 1.0


def by_plane(P, Mx, My=0.0, limit=9.0, Ec=3605.0, Es=29000.0, **more):
    """kip, kip in, ksi: largest pressure, ksi, tensions, kip, and whether it is solved."""
    found = strain(
        plate(**more),
        *(np.array(v) for v in (P * KIP, Mx * KIP * INCH, My * KIP * INCH)),
        limit * KSI,
        Ec * KSI,
        Es * KSI,
    )
    return float(found.pressure) / KSI, found.tensions / KIP, bool(found.solved)


def test_plane_within_the_kern():
    """No tension while e < N/6: p = P/A + M/S = 200/400 + 500/1333.3 = 0.875 ksi; biaxial 0.5 + 2 x 0.15 = 0.8 ksi."""
    assert by_plane(200, 500, rods=())[0] == pytest.approx(0.875, rel=1e-3)
    assert by_plane(200, 200, 200, rods=())[0] == pytest.approx(0.8, rel=1e-3)


def test_plane_without_rods():
    """e = 6 in., beyond N/6: a wedge 3 (10 - 6) = 12 in. long: p = 2 x 120/(12 x 20) = 1.0 ksi. e = 10: nothing
    stands."""
    pressure, _, ok = by_plane(120, 720, rods=())
    assert ok and pressure == pytest.approx(1.0, rel=0.005)
    assert not by_plane(120, 1300, rods=())[2]


def test_plane_with_rods_that_pull():
    """P = 0, M = 800 kip in.: a wedge of length c and two rods of 0.606 in^2 at c - 2... from the pressed edge at 18
    in.; n = 29000/3605 = 8.044, n A = 9.75 in^2. Neutral axis: 20 c^2/2 = 9.75 (18 - c): c = 3.729 in.; lever 18 - c/3
    = 16.757: T = 800/16.757 = 47.74, 23.87 kip each; p = 2 x 47.74/(3.729 x 20) = 1.280 ksi. (The rods under the wedge
    do not press.)"""
    pressure, pulls, ok = by_plane(0, 800)
    assert ok and pulls == pytest.approx([23.87, 0, 23.87, 0], rel=0.01) and pressure == pytest.approx(1.280, rel=0.01)


def test_plane_at_the_concrete_s_limit_is_a_block():
    """Very stiff concrete under its limit: the plane gives the block's tension, 20.06 kip each for P = 100, M = 1500
    (above)."""
    pressure, pulls, ok = by_plane(100, 1500, limit=2.21, Ec=500_000)
    assert ok and pulls == pytest.approx([20.06, 0, 20.06, 0], rel=0.02) and pressure == pytest.approx(2.21)


def test_uplift_on_a_plane():
    """40 kip up: 10 each; with 80 and 160 kip in. about the two axes: 10 -+ 2.5 -+ 5."""
    assert by_plane(-40, 0)[1] == pytest.approx([10] * 4)
    assert by_plane(-40, 80, 160)[1] == pytest.approx([17.5, 12.5, 7.5, 2.5], rel=1e-3)
    assert not by_plane(-40, 0, rods=())[2]
