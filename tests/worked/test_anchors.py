"""Cast-in anchors, worked by hand from ACI 318-19 chapter 17, in pounds and inches. sqrt(4000) = 63.246, sqrt(3000) =
54.772."""

from __future__ import annotations

import math

import numpy as np
import pytest

from handrail.core.catalogue import rod
from handrail.core.codes.aci318 import Aci318
from handrail.core.parts.anchors import AnchorGroup, Concrete
from handrail.core.parts.anchors import shear as in_shear
from handrail.core.parts.anchors import tension as in_tension
from handrail.core.quantities.units import INCH, KIP

CONCRETE = Aci318()

PSI = KIP / 1000 / INCH**2
SQUARE = ((-4, -4), (4, -4), (-4, 4), (4, 4))


def concrete(fc=4000, thickness=60, along=(math.inf, math.inf), across=(math.inf, math.inf), **more) -> Concrete:
    return Concrete(
        fc=fc * PSI,
        thickness=thickness * INCH,
        along=tuple(e * INCH for e in along),
        across=tuple(e * INCH for e in across),
        **more,
    )


def group(points=((0, 0),), name="3/4 F1554-36", hef=12, block=None, **more) -> AnchorGroup:
    return AnchorGroup(
        points=tuple((x * INCH, y * INCH) for x, y in points),
        rod=rod(name),
        hef=hef * INCH,
        concrete=block or concrete(),
        **more,
        code=CONCRETE,
    )


def kip(value) -> float:
    return float(np.asarray(value)) / KIP


def pulled(anchors: AnchorGroup, tensions, of=in_tension.breakout) -> float:
    """Design strength of what governs when the rods have `tensions`, kip."""
    return kip(of(anchors, np.array(tensions, float) * KIP)[1])


def sheared(anchors: AnchorGroup, each) -> float:
    """Utilisation in breakout when every rod has the shear `each` (x, y), kip."""
    return float(in_shear.breakout(anchors, np.tile(np.array(each, float) * KIP, (anchors.n, 1))))


def test_steel():
    """3/4 in., 10 threads: Ase = pi/4 (0.75 - 0.9743/10)^2 = 0.3345 in^2. Nsa = 0.3345 x 58 = 19.40 kip, ductile: 0.75
    x 19.40 = 14.55 kip. Vsa = 0.6 x 19.40 = 11.64, 0.65 x 11.64 = 7.565; over grout 0.80 of it, 6.052 kip. Grade 105:
    1.9 x 105 = 199.5 and 125 ksi do not cut its 125 ksi: 0.75 x 0.3345 x 125 = 31.36 kip."""
    assert rod("3/4 F1554-36").area / INCH**2 == pytest.approx(0.3345, abs=5e-5)
    assert kip(CONCRETE.tension.steel(rod("3/4 F1554-36"))) == pytest.approx(14.55, abs=0.005)
    assert kip(CONCRETE.shear.steel(rod("3/4 F1554-36"), grout=False)) == pytest.approx(7.565, abs=0.005)
    assert kip(CONCRETE.shear.steel(rod("3/4 F1554-36"), grout=True)) == pytest.approx(6.052, abs=0.005)
    assert kip(CONCRETE.tension.steel(rod("3/4 F1554-105"))) == pytest.approx(31.36, abs=0.01)


def test_one_rod_far_from_edges():
    """hef = 12 in.: Nb = 16 x 63.246 x 12^(5/3) = 16 x 63.246 x 62.90 = 63.65 kip, 0.70 of it 44.55. Uncracked 1.25
    times: 55.69. With reinforcement across the cone 0.75: 47.74 kip. At 8 in.: 24 x 63.246 x 22.63 = 34.35, 24.04
    kip."""
    assert pulled(group(), [1]) == pytest.approx(44.55, abs=0.02)
    assert pulled(group(block=concrete(cracked=False)), [1]) == pytest.approx(55.69, abs=0.02)
    assert pulled(group(block=concrete(confined=True)), [1]) == pytest.approx(47.74, abs=0.02)
    assert pulled(group(hef=8), [1]) == pytest.approx(24.04, abs=0.02)


def test_pullout():
    """Heavy hex of 3/4 in. is 1-1/4 in. across: Abrg = 0.866 x 1.25^2 - 0.4418 = 0.9114 in^2. Np = 8 x 0.9114 x 4 ksi =
    29.16, 0.70 of it 20.41 kip; uncracked 1.4 times, 28.58 kip."""
    assert rod("3/4 F1554-36").bearing_area / INCH**2 == pytest.approx(0.9114, abs=5e-5)
    assert kip(CONCRETE.tension.pullout(rod("3/4 F1554-36"), 4000 * PSI, True)) == pytest.approx(20.41, abs=0.01)
    assert kip(CONCRETE.tension.pullout(rod("3/4 F1554-36"), 4000 * PSI, False)) == pytest.approx(28.58, abs=0.01)


def test_four_rods_near_an_edge():
    """8 x 8 in., hef = 8, fc' = 3 ksi, 6 in. to the edge on the left: ANc = (6 + 8 + 12) x (12 + 8 + 12) = 832, ANco =
    576 in^2; psi_ed = 0.7 + 0.3 x 6/12 = 0.85; Nb = 24 x 54.772 x 22.627 = 29.74 kip; Ncbg = 832/576 x 0.85 x 29.74 =
    36.52, 25.56 kip.

    The right pair alone is 14 in. from the edge: ANc = 24 x 32 = 768, psi_ed = 1: 768/576 x 29.74 = 39.66, 27.76 kip.
    Tensions of 1, 2, 1, 2: e = (2 x 4 x 2 - 2 x 4)/6 = 1.333 in., psi_ec = 1/(1 + 1.333/12) = 0.9: 25.56 x 0.9 = 23.01
    kip."""
    anchors = group(SQUARE, hef=8, block=concrete(3000, along=(10, math.inf)))
    assert pulled(anchors, [1, 1, 1, 1]) == pytest.approx(25.56, abs=0.02)
    assert pulled(anchors, [0, 1, 0, 1]) == pytest.approx(27.76, abs=0.02)
    assert pulled(anchors, [1, 2, 1, 2]) == pytest.approx(23.01, abs=0.02)


def test_rods_too_far_apart_to_act_as_one():
    """30 in. apart with hef = 8 (3 hef = 24): each breaks out alone, 24 x 54.772 x 22.627 x 0.7 = 20.82 kip; with 3 and
    1 kip the first governs, and its strength knows nothing of the other's."""
    anchors = group(((-15, 0), (15, 0)), hef=8, block=concrete(3000))
    demand, strength = in_tension.breakout(anchors, np.array([3.0, 1.0]) * KIP)
    assert (kip(demand), kip(strength)) == (pytest.approx(3.0), pytest.approx(20.82, abs=0.01))


def test_a_narrow_pedestal():
    """16 x 16 in. with rods 8 x 8: 4 in. to every edge, hef = 12. Four edges within 18 in.: hef = max(4/1.5, 8/3) =
    2.667 in. ANc = 16^2 = 256, ANco = 9 x 2.667^2 = 64; psi_ed = 1 (4 = 1.5 x 2.667); Nb = 24 x 63.246 x 4.355 = 6.610;
    Ncbg = 4 x 6.610 = 26.44, 18.51 kip."""
    assert pulled(group(SQUARE, block=concrete(along=(8, 8), across=(8, 8))), [1, 1, 1, 1]) == pytest.approx(
        18.51, abs=0.02
    )


def test_side_face_blowout():
    """1 in., hef = 20, 4 in. to the face (under 20/2.5 = 8): Abrg = 0.866 x 1.625^2 - 0.7854 = 1.501 in^2. Nsb = 160 x
    4 x 1.2253 x 63.246 = 49.60. Alone with 8 in. to the next edge: (1 + 8/4)/4 = 0.75: 37.20, 0.70: 26.04 kip. Two at
    10 in. (under 24): (1 + 10/24) x 49.60 = 70.26, 49.18 kip; two at 30 in. stand alone: 0.70 x 49.60 = 34.72 kip."""
    one = group(name="1 F1554-36", hef=20, block=concrete(along=(4, math.inf), across=(8, math.inf)))
    assert pulled(one, [1], in_tension.blowout) == pytest.approx(26.04, abs=0.02)
    two = group(((0, -5), (0, 5)), "1 F1554-36", 20, concrete(along=(4, math.inf)))
    assert pulled(two, [1, 1], in_tension.blowout) == pytest.approx(49.18, abs=0.03)
    apart = group(((0, -15), (0, 15)), "1 F1554-36", 20, concrete(along=(4, math.inf)))
    assert pulled(apart, [1, 1], in_tension.blowout) == pytest.approx(34.72, abs=0.03)
    assert in_tension.faces(group(name="1 F1554-36", hef=20, block=concrete(along=(8, 8)))) == []


def test_breakout_in_shear():
    """3/4 in., 6 in. to the edge on the right, fc' = 4 ksi: le = 8 da = 6; 7 (6/0.75)^0.2 sqrt(0.75) = 9.19, over 9: Vb
    = 9 x 63.246 x 6^1.5 = 9 x 63.246 x 14.697 = 8.366, 0.70 of it 5.856 kip. Along the edge twice: 11.71; both 3 and 4
    kip: sqrt((3/5.856)^2 + (4/11.71)^2) = 0.616. Away from the edge nothing breaks out.

    6 in. thick: AVc = 18 x 6 = 108 of 162 in^2, psi_h = sqrt(9/6) = 1.2247: 0.8165 x 5.856 = 4.781 kip. 5 in. to the
    corner: AVc = (5 + 9) x 9 = 126, psi_ed = 0.7 + 0.3 x 5/9 = 0.8667: 126/162 x 0.8667 x 5.856 = 3.947 kip."""
    free = math.inf
    assert sheared(group(block=concrete(along=(free, 6))), (5.856, 0)) == pytest.approx(1.0, abs=0.001)
    assert sheared(group(block=concrete(along=(free, 6))), (0, 11.71)) == pytest.approx(1.0, abs=0.001)
    assert sheared(group(block=concrete(along=(free, 6))), (3, -4)) == pytest.approx(0.616, abs=0.001)
    assert sheared(group(block=concrete(along=(free, 6))), (-50, 0)) == 0.0
    assert sheared(group(block=concrete(thickness=6, along=(free, 6))), (4.781, 0)) == pytest.approx(1.0, abs=0.001)
    assert sheared(group(block=concrete(along=(free, 6), across=(5, free))), (3.947, 0)) == pytest.approx(
        1.0, abs=0.001
    )


def test_rows_of_rods_in_shear():
    """8 x 8 in., 6 in. from the front row to the edge: rows 8 in. apart, more than 6, so the front row has its own
    half: AVc = (9 + 8 + 9) x 9 = 234: 234/162 x 5.856 = 8.459 kip for two of the four rods. 4 in. apart, under 6: the
    front row is held against all of the shear, 5.5 in. wide between its rods: (9 + 5.5 + 9) x 9 = 211.5: 7.645 kip.

    With washers welded to the plate the row behind, 14 in. from the edge, is held against all too: le = 6, Vb = 9 x
    63.246 x 14^1.5 = 29.82; AVc = (21 + 8 + 21) x 21 = 1050 of 4.5 x 196 = 882: 1050/882 x 29.82 x 0.70 = 24.85 kip,
    not what governs: the front's own half would be 16.92 kip of all."""
    block = concrete(along=(math.inf, 10))
    assert sheared(group(SQUARE, block=block), (8.459 / 2, 0)) == pytest.approx(1.0, abs=0.001)
    near = ((-2, -2.75), (2, -2.75), (-2, 2.75), (2, 2.75))
    assert sheared(group(near, block=concrete(along=(math.inf, 8))), (7.645 / 4, 0)) == pytest.approx(1.0, abs=0.001)
    assert sheared(group(SQUARE, block=block, welded=True), (8.459 / 2, 0)) == pytest.approx(1.0, abs=0.001)
    back = [w for w in in_shear.wedges(group(SQUARE, block=block, welded=True)) if w.edge > 300]
    assert [kip(w.towards) for w in back] == [pytest.approx(24.85, abs=0.02)]


def test_narrow_and_shallow_concrete_in_shear():
    """One rod 10 in. from the edge, 6 in. to both sides, 9 in. thick: all under 15 in., so ca1 = max(6/1.5, 9/1.5) = 6
    in. AVc = 12 x 9 = 108 of 162; psi_ed = 0.7 + 0.3 x 6/9 = 0.9; psi_h = 1: 108/162 x 0.9 x 5.856 = 3.514 kip."""
    anchors = group(block=concrete(thickness=9, along=(math.inf, 10), across=(6, 6)))
    assert sheared(anchors, (3.514, 0)) == pytest.approx(1.0, abs=0.001)


def test_pryout():
    """hef = 8: twice the group's breakout in tension: 2 x 25.56 = 51.12 kip against all four rods' shear; 2 in. deep
    once only: 24 x 63.246 x 2.828 x 0.7 = 3.005 kip."""
    anchors = group(SQUARE, hef=8, block=concrete(3000, along=(10, math.inf)))
    demand, strength = in_shear.pryout(anchors, np.tile([KIP, 0.0], (4, 1)))
    assert (kip(demand), kip(strength)) == (pytest.approx(4.0), pytest.approx(51.12, abs=0.04))
    assert kip(in_shear.pryout(group(hef=2), np.array([[KIP, 0.0]]))[1]) == pytest.approx(3.005, abs=0.003)


def test_tension_with_shear():
    """17.8: 0.9 with 0.2 is 0.9; 0.2 with 0.9 is 0.9; 0.6 with 0.6 is 1.2/1.2."""
    pull, push = np.array([0.9, 0.2, 0.6, 0.5]), np.array([0.2, 0.9, 0.6, 0.4])
    assert in_shear.interaction(pull, push) == pytest.approx([0.9, 0.9, 1.0, 0.75])
