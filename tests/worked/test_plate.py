"""The plate of a single plate, worked by hand from J4, F11, J2.4 and the Manual's Part 10."""

import math

import pytest

from handrail.core.checking.trial import read_trial
from handrail.core.codes import code
from handrail.core.quantities.units import INCH, KIP, KSI
from tests.worked.sheet import FLANGE, GIRDER, PULL, PUSH, agrees, data, run, strength

EXTENDED = {"gap": "6-1/2 in", "beam_edge_distance": "2-1/2 in", "plate_thickness": "1/2 in", "rows": 4}  # a = 9 in
V20 = [{"name": "A", "V": "20 kip"}]


def test_shear_yield():
    """J4-3: 0.60 x 36 x (1/4 x 11.5) = 62.1 kip, phi = 1.00; ASD /1.50 = 41.4 kip."""
    agrees(FLANGE, "plate_shear_yield", 62.1, 41.4)


def test_shear_rupture():
    """J4-4: Anv = 1/4 (11.5 - 4 x 7/8) = 2.00 in^2; 0.60 x 58 x 2.00 = 69.6 kip; phi 52.2, ASD 34.8 kip.

    Table 10-10a has these two numbers for four 3/4 in. bolts and a 1/4 in. A36 plate.
    """
    agrees(FLANGE, "plate_shear_rupture", 52.2, 34.8, published="Manual Table 10-10a")


def test_block_shear_of_the_end():
    """J4-5: run 9 + 1.25 = 10.25 in.; Agv = 2.5625, Anv = 1/4 (10.25 - 3.5 x 7/8) = 1.797 in^2;
    Ant = 1/4 (1.5 - 0.4375) = 0.2656 in^2, Ubs = 1: 0.6 x 36 x 2.5625 = 55.35 < 0.6 x 58 x 1.797 = 62.5;
    55.35 + 58 x 0.2656 = 70.76 kip, phi = 0.75: 53.07 kip; ASD /2.00 = 35.38 kip.
    """
    agrees(FLANGE, "plate_block_shear", 53.07, 35.38)


def test_block_shear_of_two_lines():
    """Two lines at 3 in.: shear along the inner line, width 4.5 in. less 1.5 holes, Ubs = 0.5: Ant = 1/4 (4.5 - 1.3125)
    = 0.797; 55.35 + 0.5 x 58 x 0.797 = 78.46. Along the outer line 70.76, for half of V: 141.5. Between the lines: Agv
    = 5.125, 110.7 + 58 x 1/4 (3 - 0.875) = 141.5. Least 78.46, phi 58.85 kip."""
    agrees(FLANGE, "plate_block_shear", 58.85, 39.23, {"columns": 2})


def test_block_shear_of_two_lines_as_published():
    """A published extended plate, 1/2 in. A36, two lines of four at 3 in., 1-1/2 in. to all edges: 119.7 kip by LRFD.

    Agv = 1/2 x 10.5 = 5.25, 0.6 x 36 x 5.25 = 113.4; Ant = 1/2 (4.5 - 1.5 x 7/8) = 1.594: 113.4 + 0.5 x 58 x 1.594 =
    159.6, phi 119.7."""
    agrees(
        FLANGE,
        "plate_block_shear",
        119.7,
        79.8,
        {"columns": 2, "plate_thickness": "1/2 in", "end_distance": "1-1/2 in"},
        published="extended plate, AISC design example",
    )


def test_axial_yield_and_rupture():
    """J4-1: 0.90 x 36 x 2.875 = 93.15 kip; ASD 103.5/1.67 = 61.98. J4-2: 0.75 x 58 x 2.00 = 87.0 kip; ASD 58.0 kip."""
    agrees(FLANGE, "plate_axial_yield", 93.15, 61.98, actions=PULL)
    agrees(FLANGE, "plate_axial_rupture", 87.0, 58.0, actions=PULL)


def test_axial_block_shear():
    """J4-5, the U: two planes 1.5 in. long: Agv = 0.75, Anv = 2 x 1/4 (1.5 - 0.4375) = 0.5313;
    Ant = 1/4 (9 - 3 x 7/8) = 1.594: 0.6 x 36 x 0.75 = 16.2 < 18.5; 16.2 + 58 x 1.594 = 108.6 kip, phi 81.5, ASD 54.3.
    The L: Agv = 0.375: 8.1; Ant = 1/4 (10.25 - 3.5 x 7/8) = 1.797: 8.1 + 104.2 = 112.3. Least 81.5 kip.
    """
    agrees(FLANGE, "plate_axial_block_shear", 81.47, 54.31, actions=PULL)


def test_block_shear_under_both():
    """sqrt((20/53.07)^2 + (15/81.47)^2) = 0.4195; ASD sqrt((20/35.38)^2 + (15/54.31)^2) = 0.6293."""
    agrees(FLANGE, "plate_block_shear_interaction", 0.4195, 0.6293, of="utilisation", actions=PULL)


def test_compression_of_a_conventional_plate():
    """J4.4: K L/r = 1.2 x 3 / (0.25/sqrt(12)) = 49.9 > 25; Fe = pi^2 29000/49.9^2 = 115.0 ksi;
    Fcr = 0.658^(36/115.0) 36 = 31.58 ksi; 31.58 x 2.875 = 90.79: phi = 0.90: 81.7 kip; ASD /1.67 = 54.37 kip.
    """
    agrees(FLANGE, "plate_buckling", 81.7, 54.37, actions=PUSH)


def test_interaction_of_a_conventional_plate():
    """(V/Vc)^2 + (N/Nc)^2: sqrt((20/62.1)^2 + (15/93.15)^2) = 0.3601; pressed, Nc = 81.7: 0.3707.
    ASD, pulled: sqrt((20/41.4)^2 + (15/61.98)^2) = 0.5403.
    """
    agrees(FLANGE, "plate_interaction", 0.3601, 0.5403, of="utilisation", actions=PULL)
    agrees(FLANGE, "plate_interaction", 0.3707, of="utilisation", actions=PUSH)


def test_a_plate_far_from_its_support_is_extended():
    found = run(FLANGE, EXTENDED)
    assert any("extended" in note and "3-1/2 in" in note for note in found["notes"])


def test_extended_bolts_take_the_whole_lever():
    """e = a = 9 in. to the one line of bolts; C for 4 bolts at 9 in.: M = 9 P.

    The elastic method for a check of size: V/4 and V 9 x 4.5/45 = 0.9 V: C = 1/sqrt(0.25^2 + 0.9^2) = 1.071; the centre
    gives a little more (the inner bolts come up): 1.07 to 1.25. Elastic: 1.0706 x 17.89 = 19.15 kip; ASD 1.0706 x 11.93
    = 12.77."""
    C = strength(FLANGE, "bolt_shear", EXTENDED) / (0.75 * 54 * math.pi * 0.75**2 / 4)
    assert 1.07 < C < 1.25
    agrees(FLANGE, "bolt_shear", 19.15, 12.77, EXTENDED | {"bolt_method": "elastic"})


def test_extended_flexure():
    """J4.5: Z = 1/2 x 11.5^2/4 = 16.53 in^3: 36 x 16.53 = 595.1: 0.90: 535.6 kip*in against V x 9 in.; ASD /1.67 =
    356.4.

    Net: holes 7/8 in. at +-1.5, +-4.5 in.: 16.53 - 2 x 1/2 x 7/8 x (1.5 + 4.5) = 11.28 in^3;
    58 x 11.28 = 654.3: 0.75: 490.7 kip*in; ASD 327.2.
    """
    agrees(FLANGE, "plate_flexure_yield", 535.6, 356.4, EXTENDED, actions=V20)
    agrees(FLANGE, "plate_flexure_yield", 180.0, None, EXTENDED, of="demand", actions=V20)
    agrees(FLANGE, "plate_flexure_rupture", 490.7, 327.2, EXTENDED, actions=V20)


def test_extended_flexure_with_a_bolt_on_the_axis():
    """Three rows, 8.5 in. deep: Z = 1/2 x 8.5^2/4 = 9.031; two holes at 3 in.: 2 x 1/2 x 7/8 x 3 = 2.625;
    the middle hole takes 1/2 x 2 x (7/16)^2/2 = 0.0957: 6.311 in^3; 0.75 x 58 x 6.311 = 274.5 kip*in.
    """
    agrees(FLANGE, "plate_flexure_rupture", 274.5, 183.0, EXTENDED | {"rows": 3})


def test_extended_buckling():
    """F11 with Cb = 1.84: Lb d/t^2 = 9 x 11.5/0.25 = 414; 0.08 E/Fy = 64.4 and 1.9 E/Fy = 1531, so F11-2:
    My = 36 x 0.5 x 11.5^2/6 = 396.8; 1.84 (1.52 - 0.274 x 414 x 36/29000) 396.8 = 1007 > Mp = 595.1 kip*in;
    phi Mp = 535.6 kip*in; ASD 356.4.
    """
    agrees(FLANGE, "plate_buckling", 535.6, 356.4, EXTENDED)


@pytest.mark.parametrize(("method", "wanted"), [("LRFD", 527.5), ("ASD", 351.0)])
def test_a_bar_that_buckles_before_it_is_slender(method, wanted):
    """1/2 x 12 in. of 36 ksi, 10 in. between supports, the same moment all along: 10 x 12/0.25 = 480, between 64.4 and
    1531. My = 36 x 0.5 x 144/6 = 432; (1.52 - 0.274 x 480 x 36/29000) 432 = 1.3567 x 432 = 586.1, less than Mp = 648:
    0.90: 527.5 kip*in; /1.67: 351.0."""
    plates = code("AISC 360-22", method).plates
    found = plates.bar_flexure(36 * KSI, 0.5 * INCH, 12 * INCH, 10 * INCH, 1.0)
    assert found / KIP / INCH == pytest.approx(wanted, rel=1e-3)


def test_extended_buckling_of_a_thin_plate():
    """1/4 in., a = 24 in.: Lb d/t^2 = 24 x 11.5/0.0625 = 4416 > 1531: Fcr = 1.9 x 29000 x 1.84/4416 = 22.96 ksi;
    Sx = 1/4 x 11.5^2/6 = 5.510; 22.96 x 5.510 = 126.5: 0.90: 113.9 kip*in; ASD 75.76.
    """
    thin = EXTENDED | {"plate_thickness": "1/4 in", "gap": "21-1/2 in"}
    agrees(FLANGE, "plate_buckling", 113.9, 75.76, thin)


def test_extended_compression():
    """J4.4: Lc/r = 1.2 x 9/(0.5/3.4641) = 74.8; Fe = 286219/74.8^2 = 51.1; 0.658^(36/51.1) 36 = 26.8 ksi;
    26.8 x 5.75 = 154.1: 0.90: 138.7 kip; ASD 92.3.
    """
    agrees(FLANGE, "plate_axial_buckling", 138.7, 92.3, EXTENDED, rel=2e-3, actions=PUSH)


def test_extended_interaction():
    """V = 20, N = 15 kip: Vc = 0.6 x 36 x 5.75 = 124.2, Nc = 0.9 x 36 x 5.75 = 186.3, Mc = 535.6.

    N/Nc = 0.0805 < 0.2: 0.0403 + 180/535.6 = 0.3763; sqrt(0.161^2 + 0.3763^2) = 0.4093.
    With N = 60 kip: 0.3221 + 8/9 x 0.3361 = 0.6208; sqrt(0.161^2 + 0.6208^2) = 0.6414.
    ASD, N = 15: Vc 82.8, Nc 124.0, Mc 356.4: 0.0605 + 0.5051 = 0.5656; sqrt(0.2415^2 + 0.5656^2) = 0.6150.
    """
    agrees(FLANGE, "plate_interaction", 0.4093, 0.6150, EXTENDED, of="utilisation", actions=PULL)
    more = [{"name": "A", "V": "20 kip", "N": "60 kip"}]
    agrees(FLANGE, "plate_interaction", 0.6414, None, EXTENDED, of="utilisation", actions=more)


def test_ductility_of_a_thick_extended_plate():
    """Plate and web over d/2 + 1/16 = 7/16 in. (W36X262, web 0.840): tmax = 6 Mmax/(Fy l^2).

    C' of 4 bolts in 3 in.: R = 0.9815 at 4.5 in., delta 0.1133 at 1.5 in.: (1 - e^-1.133)^0.55 = 0.8066;
    C' = 2 (0.9815 x 4.5 + 0.8066 x 1.5) = 11.25 in. Mmax = 54/0.90 x 0.4418 x 11.25 = 298.2 kip*in.
    tmax = 6 x 298.2/(36 x 11.5^2) = 0.3758 in. < 1/2 in., by either method: fails.
    """
    deep = {"supported": {"section": "W36X262", "grade": "A992"}}
    agrees(FLANGE, "plate_ductility", 0.3758, 0.3758, EXTENDED, rel=2e-3, **deep)
    assert run(FLANGE, EXTENDED, **deep)["status"] == "fail"


def test_ductility_is_not_asked_of_thin_plies():
    """W16X50 web 0.380 in. <= 7/16 in. with 2 d to both edges: the exception of Part 10."""
    assert "plate_ductility" not in run(FLANGE, EXTENDED | {"edge_distance": "1-1/2 in"})["checks"]


def test_torsion_without_a_slab():
    """V = 20: V (tw + tp)/2 <= (0.6 Fy - V/(l tp)) l tp^2/2, the plate alone.

    With both V to the left: 20 x (0.380 + 2 x 0.5)/2 = 13.8 kip*in; 1.00 x 0.6 x 36 x 11.5 x 0.5 x 0.25 = 31.05 kip*in;
    ASD 20.7."""
    free = EXTENDED | {"lateral_restraint": "none"}
    agrees(FLANGE, "plate_torsion", 13.8, None, free, of="demand", actions=V20)
    agrees(FLANGE, "plate_torsion", 31.05, 20.7, free, actions=V20)


def test_stabiliser():
    """0.90 x 1500 pi x 11.5 x 0.5^3/9^2 = 75.3 kip; ASD: 1500 pi x 11.5 x 0.125/81/1.67 = 50.1 kip."""
    agrees(FLANGE, "stabiliser", 75.27, 50.08, EXTENDED)


def test_weld_along_and_across():
    """J2.4: 2 x 0.7071 x 3/16 x 0.60 x 70 x 11.5 = 128.1 kip, phi = 0.75: 96.1 kip along the weld, ASD 64.0;
    across it kds = 1.5: 144.1 kip; at 45 deg 1 + 0.5 x 0.7071^1.5 = 1.2973: 124.6 kip.
    """
    agrees(FLANGE, "weld", 96.06, 64.04)
    agrees(FLANGE, "weld", 144.1, None, actions=[{"name": "A", "N": "20 kip"}])
    agrees(FLANGE, "weld", 124.6, None, actions=[{"name": "A", "V": "20 kip", "N": "20 kip"}])


def test_weld_of_a_skewed_plate():
    """18 deg: throats w cos(36) + w cos(54) = 1.3968 w for 1.4142 w: 96.06 x 0.98769 = 94.9 kip."""
    agrees(FLANGE, "weld", 94.88, 63.25, geometry={"skew": "18 deg"})


def test_weld_of_a_sloped_plate():
    """30 deg, V = 20 kip alone: along the weld 20 cos 30 = 17.32, across it 20 sin 30 = 10 kip; sin theta = 0.5:
    kds = 1 + 0.5 x 0.5^1.5 = 1.1768: 96.06 x 1.1768 = 113.0 kip.
    """
    agrees(FLANGE, "weld", 113.0, 75.36, geometry={"slope": "30 deg"}, actions=V20)


def test_old_edition_numbers_its_clauses():
    now, then = run(FLANGE)["checks"], run(FLANGE, code="AISC 360-16")["checks"]
    assert (now["bolt_shear"]["clause"], then["bolt_shear"]["clause"]) == ("J3.7", "J3.6")
    assert (now["bolt_bearing_web"]["clause"], then["bolt_bearing_web"]["clause"]) == ("J3.11", "J3.10")
    assert now["bolt_shear"]["strength"] == pytest.approx(then["bolt_shear"]["strength"])


LAPPED = {"beam_side": "welded", "lap": "3 in", "plate_thickness": "3/8 in", "beam_weld": "1/4 in", "rows": 4}
WELDED = data(GIRDER, LAPPED, actions=[{"name": "A", "V": "40 kip"}])


def test_a_plate_welded_to_the_beam():
    """Lapped 3 in., 11-1/2 deep, from 1/2 to 3-1/2 in. off the girder: the welds' middle is 0.5 + (11.5 x 3 + 2 x 3 x
    1.5)/17.5 = 2.986 from its web. By the elastic method: J = 11.5^3/12 + 11.5 x 0.514^2 + 2 (3^3/12 + 3 (0.986^2 +
    5.75^2)) = 126.7 + 3.0 + 4.5 + 204.2 = 338.5; M = 2.986 V. At a corner of the far edge (0.514, 5.75): fx = 2.986 x
    5.75/338.5 = 0.05072, fy = 1/17.5 - 2.986 x 0.514/338.5 = 0.0526; at a tip (-2.486, 5.75): fy = 0.05714 + 0.02193 =
    0.0791, with fx 0.0939: 10.65 in. of 1/4 fillet, 5.568: 59.3; ASD 39.5. The plate is bent by 40 x 2.986 = 119.4
    kip*in."""
    agrees(WELDED, "beam_weld", 59.3, 39.5, {"bolt_method": "elastic"}, rel=2e-3)
    agrees(WELDED, "plate_flexure_yield", 119.4, 119.4, of="demand")
    assert run(WELDED)["checks"]["beam_weld"]["strength"] > 1.2 * 59.3


def test_a_welded_plate_yields_before_its_welds_tear():
    """Moment alone: every element at 0.17 w or what tears the first; by plain loops over the three lines about their
    middle, the turning point moved along them until nothing is left of the forces: Mmax, then 6 Mmax/(36 x 11.5^2)."""
    lines = [(3.0, 0.0, 3.0, 11.5), (0.0, 0.0, 3.0, 0.0), (0.0, 11.5, 3.0, 11.5)]
    points = []
    for x0, y0, x1, y1 in lines:
        long = abs(x1 - x0) + abs(y1 - y0)
        for k in range(200):
            f = (k + 0.5) / 200
            points.append((x0 + f * (x1 - x0), y0 + f * (y1 - y0), long / 200, x1 == x0))

    def turned(cx: float) -> tuple[float, float]:
        """(what is left along V, moment) in in. and in^2 of fillet when the group turns about (cx, 5.75)."""
        scale, taken = 1e9, []
        for x, y, long, upright in points:
            dx, dy = -(y - 5.75), x - cx
            size = math.hypot(dx, dy)
            theta = math.degrees(math.asin(min((abs(dx) if upright else abs(dy)) / size, 1.0)))
            scale = min(scale, min(1.087 * (theta + 6) ** -0.65, 0.17) / size)
            taken.append((dx, dy, size, theta, long))
        left = moment = 0.0
        for _, dy, size, theta, long in taken:
            p = scale * size / (0.209 * (theta + 2) ** -0.32)
            R = (1 + 0.5 * math.sin(math.radians(theta)) ** 1.5) * max(p * (1.9 - 0.9 * p), 0.0) ** 0.3 * long
            left += R * dy / size
            moment += R * size
        return left, moment

    low, high = 0.0, 3.0
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if turned(middle)[0] > 0 else (low, middle)
    tmax = 6 * turned(low)[1] * 0.60 * 70 * 0.25 / math.sqrt(2) / (36 * 11.5**2)
    agrees(WELDED, "plate_ductility", tmax, tmax, rel=0.02)


def test_a_plate_past_the_flange_tip_needs_no_cope():
    """W21X62 (bf 8.24, tw 0.40): 3.92 in. of flange and 1/2 in. clear: a gap of 4-1/2. From flange to flange it needs
    no stabilisers, and may stand between the flanges (0.615 in.) in place of the fillets."""
    out = {"plate_run": "flange_tip", "columns": 2}
    trial = read_trial(data(GIRDER, out))
    bare = read_trial({**data(GIRDER), "parameters": {"rows": 4} | out})
    assert bare.sizes["gap"].value == pytest.approx(4.5 * 25.4) and bare.sizes["cope_length"].value == 0
    assert trial.situation.framing == "beam_to_girder"
    part = run({**data(GIRDER), "parameters": {"rows": 4, "plate_thickness": "3/8 in"} | out})
    full = run(
        {**data(GIRDER), "parameters": {"rows": 4, "plate_thickness": "3/8 in", "plate_fit": "full_depth"} | out}
    )
    assert "stabiliser" in part["checks"] and "stabiliser" not in full["checks"]
    assert full["detailing"]["plate_in_girder_top"]["limit"] == pytest.approx(0.615)


@pytest.mark.parametrize(
    ("base", "given", "said"),
    [
        (FLANGE, {"plate_run": "flange_tip"}, "goes with a girder"),
        (FLANGE, {"through_plate": "yes"}, "goes with a hollow column"),
        (WELDED, {"configuration": "conventional"}, "not a conventional plate"),
    ],
)
def test_what_does_not_go_together_is_unchecked(base, given, said):
    found = run(base, given)
    assert found["status"] == "unchecked" and said in found["reason"]


def test_weld_of_a_plate_skewed_by_forty_five():
    """Fillets of 3/8 on FLANGE's 11.5 in.: in 135 degrees 0.375 cos 67.5 = 0.1435; in 45, where the root is not
    reached, 0.375 cos 22.5 - 0.125 = 0.2215: 0.365 together: 0.75 x 0.60 x 70 x 0.365 x 11.5 = 132.2; ASD 88.1. Two
    square ones of 5/8 x 1/4 = 0.15625: 0.221 = w (0.3827 + 0.9239) - 0.125: w = 0.2648."""
    agrees(FLANGE, "weld", 132.2, 88.1, {"weld_size": "3/8 in"}, geometry={"skew": "45 deg"})
    found = run(FLANGE, {"weld_size": "1/4 in"}, geometry={"skew": "45 deg"})
    assert (
        found["detailing"]["weld_develops_plate"]["limit"] == pytest.approx(0.2648, rel=1e-3)
        and found["status"] == "fail"
    )
