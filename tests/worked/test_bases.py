"""Column bases, worked by hand from J8, the Manual's Part 14 and Design Guide 1, in kip and inches."""

from __future__ import annotations

import numpy as np
import pytest

from handrail.core.catalogue import section
from handrail.core.codes import code
from handrail.core.parts.bearing.base_plate import pulled
from handrail.core.parts.bearing.seat import pressed
from handrail.core.quantities.units import INCH, KIP, KSI

LRFD, ASD = code("AISC 360-22", "LRFD"), code("AISC 360-22", "ASD")


@pytest.mark.parametrize(
    ("confinement", "lrfd", "asd"), [(1.0, 2.21, 1.472), (1.5, 3.315, 2.208), (2.0, 4.42, 2.944), (2.5, 4.42, 2.944)]
)
def test_bearing(confinement, lrfd, asd):
    """fc' = 4 ksi: 0.65 x 0.85 x 4 = 2.21, /2.31: 3.4/2.31 = 1.472 ksi; by sqrt(A2/A1), at most 1.7 fc': 0.65 x 6.8 =
    4.42."""
    assert LRFD.bases.bearing_limit(4 * KSI, confinement) / KSI == pytest.approx(lrfd, abs=1e-3)
    assert ASD.bases.bearing_limit(4 * KSI, confinement) / KSI == pytest.approx(asd, abs=1e-3)


def test_overhangs():
    """W12X96 (d = 12.7, bf = 12.2) on 20 x 18: m = (20 - 12.065)/2 = 3.968, n = (18 - 9.76)/2 = 4.12, n' = sqrt(12.7 x
    12.2)/4 = 3.112. HSS8X8X3/8: m = n = (14 - 7.6)/2 = 3.2 on 14 x 14; between walls of 0.349 in. b = 7.302:
    7.302/sqrt(12) x (2 - 1) = 2.108. HSS12X6X3/8: b = 5.302, a = 11.302, b/a = 0.4691: 1.5306 x (sqrt(3.2201) - 0.4691)
    = 2.0286. A pipe of 8.63 in.: (14 - 6.904)/2 = 3.548; r = 4.315 - 0.300 = 4.015: /sqrt(3) = 2.318."""
    found = LRFD.bases.overhang(section("W12X96"), 20 * INCH, 18 * INCH)
    assert [v / INCH for v in (found.along, found.across, found.within)] == pytest.approx(
        [3.968, 4.12, 3.112], abs=2e-3
    )
    hollow = LRFD.bases.overhang(section("HSS8X8X3/8"), 14 * INCH, 14 * INCH)
    assert [v / INCH for v in (hollow.along, hollow.across, hollow.within)] == pytest.approx(
        [3.2, 3.2, 2.108], abs=2e-3
    )
    assert LRFD.bases.overhang(section("HSS12X6X3/8"), 18 * INCH, 12 * INCH).within / INCH == pytest.approx(
        2.0286, abs=2e-3
    )
    pipe = LRFD.bases.overhang(section("Pipe8STD"), 14 * INCH, 14 * INCH)
    assert (pipe.along / INCH, pipe.within / INCH) == (pytest.approx(3.548, abs=5e-3), pytest.approx(2.318, abs=5e-3))


def test_relief_of_a_lightly_loaded_plate():
    """d = bf: X = use. 0.36: 2 x 0.6/(1 + 0.8) = 0.6667; 0.64: 2 x 0.8/(1 + 0.6) = 1.0; over that 1."""
    square = section("HSS8X8X3/8")
    assert LRFD.bases.relief(square, np.array([0.0, 0.36, 0.64, 1.0, 3.0])) == pytest.approx(
        [0, 0.6667, 1, 1, 1], abs=1e-4
    )


def test_plate_under_pressure():
    """1-1/2 in. of A36: 0.9 x 36 x 1.5^2/4 = 18.23 kip in. an inch; /1.67: 12.13. A pressure of 2.21 ksi over 4 in.:
    2.21 x 8 = 17.68; over a block of 3 in. of the 4: 2.21 x 3 x (4 - 1.5) = 16.58 kip in. an inch."""
    assert LRFD.bases.strip(36 * KSI, 1.5 * INCH) / KIP == pytest.approx(18.23, abs=0.01)
    assert ASD.bases.strip(36 * KSI, 1.5 * INCH) / KIP == pytest.approx(12.13, abs=0.01)
    found = pressed(np.full(2, 2.21 * KSI), np.array([10.0, 3.0]) * INCH, 4 * INCH)
    assert found / KIP == pytest.approx([17.68, 16.575], abs=0.005)


def test_plate_under_a_rod():
    """20 kip at 2.5 in. with the next rod 4 in. away and the edge 1.5 in.: it spreads over 2 + 1.5 = 3.5 in.: 20 x
    2.5/3.5 = 14.29 kip in. an inch; alone far from the edge over 5 in.: 10."""
    width = LRFD.bases.spread(2.5 * INCH, 4 * INCH, 1.5 * INCH)
    assert width / INCH == pytest.approx(3.5)
    assert float(pulled(np.array(20 * KIP), 2.5 * INCH, width)) / KIP == pytest.approx(14.29, abs=0.005)
    assert LRFD.bases.spread(2.5 * INCH, 90 * INCH, 90 * INCH) / INCH == pytest.approx(5.0)
