"""Connections in space: pieces where their sizes put them, bodies that are closed, nothing inside another, holes where
bolts are, welds where pieces touch."""

from __future__ import annotations

import math
from itertools import combinations

import pytest
from hypothesis import HealthCheck, assume, given, note, settings
from hypothesis import strategies as st

from handrail.core.catalogue import section
from handrail.core.checking.trial import read_trial
from handrail.core.errors import InputError
from handrail.core.solids import bodies, counting
from handrail.core.solids.axes import Axes, combined, dot
from handrail.core.solids.pieces import Solids
from tests.core.test_any_base_or_splice import trials as others
from tests.core.test_any_trial import grade_of, trials
from tests.wide import wide
from tests.worked.sheet import FLANGE, GIRDER, HOLLOW, WEB, data, run
from tests.worked.test_base_plate import BASE
from tests.worked.test_beam_splice import SPLICE

INCH = 25.4
GAP = 2 * INCH / 16  # of a grip that no filler fills: up to 1/16 in. on either side of a thinner web
TOUCHING = 5.0  # mm^3 that bodies may share: curves are polygons
PLATES = [
    {"geometry": {"skew": "20 deg"}},
    {"geometry": {"slope": "-15 deg", "skew": "30 deg"}},
    {"geometry": {"slope": "15 deg"}},
    {},
    WEB,
    HOLLOW,
]


def of(base, parameters=None, **more) -> Solids:
    trial = read_trial(data(base, parameters, **more))
    return trial.standard.solids(trial.situation, trial.sizes)


def inside_one_another(solids: Solids) -> list[tuple[str, str, float]]:
    pairs = combinations(bodies.all_bodies(solids).items(), 2)
    return [(a, b, round(both, 1)) for (a, p), (b, q) in pairs if (both := bodies.shared(p, q)) > TOUCHING]


def faults(solids: Solids) -> list[str]:
    """What no solids may have."""
    found = [f"{name} is not closed" for name, body in bodies.all_bodies(solids).items() if body.volume() <= 0]
    everything = (*solids.members, *solids.pieces, *solids.bolts, *solids.welds, *solids.rods, *solids.bars)
    named = [p.name for p in everything]
    found += [f"{name} is there twice" for name in set(named) if named.count(name) > 1]
    for bolt in solids.bolts:
        shank = bodies.shank(bolt)
        for ply in bolt.plies:
            solid = solids.named(ply)
            if bodies.shared(shank, bodies.body(solid)) > TOUCHING:
                found.append(f"{bolt.name} has no hole in {ply}")
            if bodies.shared(shank, bodies.uncut(solid)) < 0.05 * shank.volume() / len(bolt.plies):
                found.append(f"{bolt.name} is not in {ply}")
        filled = sum(bodies.shared(shank, bodies.uncut(solids.named(p))) for p in bolt.plies) / shank.volume()
        if not 1 - GAP / bolt.grip <= filled <= 1.001:
            found.append(f"the plies of {bolt.name} are not its grip")
    fillets = [w for w in solids.welds if w.kind == "fillet"]
    found += [f"{w.name} does not join what it says" for w in fillets if not set(w.joins) <= set(touched(solids, w))]
    return found


def touched(solids: Solids, weld) -> list[str]:
    """The pieces that a fillet lies on, along all of it: a little way behind each of its legs."""
    names = []
    for piece in (*solids.members, *solids.pieces):
        body = bodies.body(piece)
        for leg, other in (weld.legs, weld.legs[::-1]):
            behind = [
                combined((1.0, weld.run[0]), (share, combined((1.0, weld.run[1]), (-1.0, weld.run[0]))),
                         (0.4 * weld.size, leg), (-0.6, normal(weld, leg, other)))
                for share in (0.1, 0.5, 0.9)
            ]  # fmt: skip
            if all(holds(body, point) for point in behind):
                names.append(piece.name)
    return names


def normal(weld, leg, other):
    """Square to a leg's surface, to the side of the other leg."""
    run = combined((1 / weld.length, weld.run[1]), (-1 / weld.length, weld.run[0]))
    across = combined((1.0, other), (-dot(other, leg), leg), (-dot(other, run), run))
    return combined((1 / math.sqrt(dot(across, across)), across))


def holds(body, point) -> bool:
    cube = bodies.Manifold.cube((0.05, 0.05, 0.05), True).translate(point)
    return bodies.shared(cube, body) > 0.9 * cube.volume()


def test_the_plate_of_the_sheet_where_its_sizes_put_it():
    """W16X50 (tw 0.380 in.) at a flange, (4) 3/4 A325-N, PL 1/4: plate 4-1/2 by 11-1/2, bolts 3 in. from the face, the
    first 3 in. below the top of steel; the grip 0.63 in. and 1 in. more is 1-3/4 in. of bolt."""
    made = of(FLANGE)
    (plate,) = made.pieces
    assert plate.area == pytest.approx(4.5 * 11.5 * INCH**2) and plate.thickness == INCH / 4
    places = [tuple(c / INCH for c in bolt.axes.origin) for bolt in made.bolts]
    assert places == [pytest.approx((3.0, 0.190 + 0.25, -z)) for z in (3, 6, 9, 12)]
    assert {round(bolt.grip / INCH, 3) for bolt in made.bolts} == {0.63}
    assert {bolt.length / INCH for bolt in made.bolts} == {1.75} and all(bolt.field for bolt in made.bolts)
    holes = 4 * math.pi / 4 * (13 / 16) ** 2 * 0.25 * INCH**3  # STD is 13/16
    assert bodies.body(plate).volume() == pytest.approx(4.5 * 11.5 * 0.25 * INCH**3 - holes, rel=1e-3)
    assert counting.fillets(made) == {(round(3 / 16 * INCH, 6), False): pytest.approx(23 * INCH)}
    beam, column = made.members
    assert min(x for x, _, _ in corners(beam)) == pytest.approx(INCH / 2)  # its end, the gap from the face
    assert max(x for x, _, _ in corners(column)) == pytest.approx(0.0, abs=1e-9)


F436, THICK = 5 / 32, 5 / 16  # in.: a hardened washer; a plate washer, or one for thick strong bolts
WASHERS = [  # sizes, under the head (thickness, width, length in.), under the nut, ordered length in.
    ({}, None, None, 1.75),
    ({"hole": "SSLT"}, (F436, 1.46875, 0), None, 2.0),  # 0.63 + 0.156 + 1
    ({"hole": "OVS", "tightening": "slip_a"}, (F436, 1.46875, 0), (F436, 1.46875, 0), 2.0),  # 0.63 + 0.3125 + 1
    ({"web_hole": "SSLT"}, None, (F436, 1.46875, 0), 2.0),
    ({"tightening": "pretensioned"}, None, (F436, 1.46875, 0), 2.0),
    ({"hole": "LSLT"}, (THICK, 1.46875, 3.0), None, 2.0),  # over 1-7/8, the bolt at either end: 2 x 1.875 - 0.75
    # A490 where A36 is among the plies: under head and nut; 0.63 + 0.3125 + 1.125 for 7/8 in.
    (
        {"bolt": "7/8 A490-N", "tightening": "pretensioned", "plate_grade": "A36"},
        (F436, 1.75, 0),
        (F436, 1.75, 0),
        2.25,
    ),
    (
        {"bolt": "7/8 A490-N", "tightening": "pretensioned", "plate_grade": "A572-50"},
        None,
        (F436, 1.75, 0),
        2.0,
    ),
    # over 1 in. on a larger hole: 5/16 in. thick; 0.63 + 0.3125 + 0.156 + 1.5
    (
        {"bolt": "1-1/8 A490-N", "hole": "OVS", "tightening": "slip_a", "plate_grade": "A572-50"},
        (THICK, 2.25, 0),
        (F436, 2.25, 0),
        2.75,
    ),
]


@pytest.mark.parametrize(("sizes", "head", "nut", "long"), WASHERS)
def test_washers_where_the_bolting_specification_asks_for_them(sizes, head, nut, long):
    """Plate of 1/4 and a web of 0.380 in.; heads on the plate. By hand, RCSC section 6."""
    made = of(FLANGE, sizes)
    for bolt in made.bolts:
        for washer, wanted in zip(bolt.washers, (head, nut), strict=True):
            own = washer and tuple(x / INCH for x in (washer.thickness, washer.wide, washer.long))
            assert own == (wanted and pytest.approx(wanted, abs=1e-6))
        assert bolt.length / INCH == pytest.approx(long)
    assert inside_one_another(made) == [] and faults(made) == []


@pytest.mark.parametrize(("slots", "upright"), [("LSLT", False), ("LSLP", True)])
def test_a_plate_washer_covers_its_slot(slots, upright):
    """Wherever its bolt stands in it: half of the washer reaches from the bolt, at one end, to the other end of it."""
    made = of(FLANGE, {"hole": slots, "tightening": "slip_a"})
    for bolt, hole in zip(made.bolts, made.pieces[0].holes, strict=True):
        washer = bolt.washers[0]
        assert washer.upright is upright and washer.wide > hole.d
        assert washer.long / 2 == pytest.approx(hole.long - bolt.bolt.d / 2)
        box = bodies.fastened(bolt).bounding_box()
        assert box[5 if upright else 3] - box[2 if upright else 0] == pytest.approx(washer.long)


@pytest.mark.parametrize("column", ["HSS6.000X0.250", "HSS10X6X3/8"])
@pytest.mark.parametrize("slope", ["0 deg", "12 deg"])
@pytest.mark.parametrize("side", ["bolted", "welded"])
def test_plates_through_a_hollow_column_are_sound(column, slope, side):
    """A thick one at a round wall that bends away from it, and one that slopes through its slot."""
    sizes = {"through_plate": "yes", "beam_side": side, "plate_thickness": "3/4 in", "rows": 2}
    on = {**HOLLOW, "support": {"section": column, "grade": "A500C"}}
    made = of(FLANGE, sizes, **on, geometry={"slope": slope})
    assert faults(made) == [] and inside_one_another(made) == []


def corners(piece):
    x0, y0, z0, x1, y1, z1 = bodies.body(piece).bounding_box()
    return [(x0, y0, z0), (x1, y1, z1)]


def test_a_cope_clears_the_girder_and_is_missed_where_it_is_not_made():
    """4-1/4 by 2 in. off a W18X50 beside a W21X62; without it the beam stands in the girder's flange."""
    with_one, without = (of(GIRDER, p) for p in ({}, {"cope_length": "0 in", "cope_depth": "0 in"}))
    assert inside_one_another(with_one) == [] and faults(with_one) == []
    (found,) = (pair for pair in inside_one_another(without) if pair[:2] == ("beam", "support"))
    assert found[2] > 1000
    whole, coped = (bodies.body(one.members[0]).volume() / INCH**3 for one in (without, with_one))
    tw, bf, tf, r = 0.355, 7.5, 0.570, 0.972 - 0.570  # of the W18X50; k 0.972
    fillets = 2 * r**2 * (1 - math.pi / 4)
    corner = tw * 0.5**2 * (1 - math.pi / 4)  # 1/2 in. round
    assert whole - coped == pytest.approx(4.25 * (bf * tf + tw * (2 - tf) + fillets) - corner, rel=2e-3)


@pytest.mark.parametrize(("radius", "clear"), [("1-1/2 in", True), ("1-3/4 in", True), ("1-15/16 in", False)])
def test_a_round_corner_is_clear_of_the_girder_as_its_rule_says(radius, clear):
    small = {"cope_length": "3-3/4 in", "cope_depth": "1-3/8 in", "cope_radius": radius}
    rule = run(GIRDER, small)["detailing"]["cope_radius"]
    meet = [pair[:2] for pair in inside_one_another(of(GIRDER, small))]
    assert rule["ok"] is clear is (("beam", "support") not in meet), (rule, meet)


@pytest.mark.parametrize("more", PLATES)
@pytest.mark.parametrize("parameters", [{}, {"beam_side": "welded"}, {"end_cut": "square"}])
def test_plates_at_any_skew_and_slope_are_sound(more, parameters):
    made = of(FLANGE, parameters, **more)
    assert faults(made) == [] and inside_one_another(made) == []


@pytest.mark.parametrize("base", [FLANGE, FLANGE | WEB, GIRDER])
@pytest.mark.parametrize("sides", [{}, {"beam_side": "welded"}, {"support_side": "welded"}])
@pytest.mark.parametrize("standard", ["single_angle", "double_angle", "shear_end_plate"])
def test_angles_and_end_plates_are_sound(base, sides, standard):
    own = {"rows": 3} | (sides if standard != "shear_end_plate" else {})
    made = of({**base, "parameters": {}}, own, standard=standard)
    assert faults(made) == [] and inside_one_another(made) == []
    assert made.bolts or sides


def test_slots_lie_as_their_kind_says():
    """A short slot across the shear is long along the beam, one along it is long down the plate."""
    for kind, turned in (("SSLT", 0.0), ("SSLP", math.pi / 2)):
        (plate,) = of(FLANGE, {"hole": kind, "web_hole": "STD"}).pieces
        assert {(round(h.d / INCH, 4), round(h.long / INCH, 4), h.turned) for h in plate.holes} == {
            (13 / 16, 1.0, turned)
        }


@st.composite
def likely(draw) -> dict:
    """A trial with as many rows as there is room for, and one size that may be odd."""
    one = draw(trials())
    deep = section(one["supported"]["section"]).T / INCH
    odd = {name: value for name, value in one["parameters"].items() if name != "rows"}
    name = draw(st.sampled_from(["", *odd]))
    one["parameters"] = {"rows": draw(st.integers(2, max(2, int(deep / 3))))} | ({name: odd[name]} if name else {})
    if one["standard"] != "single_plate":
        one["geometry"] |= {"skew": "0 deg", "slope": "0 deg"}
    return one


@settings(max_examples=40, suppress_health_check=[HealthCheck.filter_too_much])
@given(likely())
def test_what_is_sound_by_its_rules_is_sound_in_space(data):
    sound_in_space(data)


def sound_in_space(data) -> None:
    """What its rules call sound has no fault in space."""
    try:
        trial = read_trial(data)
    except InputError:
        assume(False)
    assume(trial.standard.examine(trial.situation, trial.sizes, trial.situation.code).sound)
    note(str(data))
    made = trial.standard.solids(trial.situation, trial.sizes)
    assert faults(made) == [] and inside_one_another(made) == []


COLUMNS = ["W12X96", "W8X31", "HSS8X8X3/8", "HSS6.000X0.250"]
BASES = [
    {},
    {"shear_path": "lug"},
    {"shear_path": "lug", "lug_way": "both"},
    {"shear_path": "anchors", "washers": "welded"},
    {"weld_pattern": "all_around"},
    {"nuts": "lock"},
    {"nuts": "levelling"},
]


@pytest.mark.parametrize("column", COLUMNS)
@pytest.mark.parametrize("sizes", BASES)
def test_bases_are_sound(column, sizes):
    """Rods in their holes, welds around the column and on the lugs, nuts above and below."""
    made = of({**BASE, "supported": {"section": column, "grade": grade_of(column)}}, sizes)
    assert faults(made) == [] and inside_one_another(made) == []
    concrete = made.ground[0]
    assert concrete.outline[2] == pytest.approx((20 * INCH, 20 * INCH)) and len(made.rods) == 4
    assert all(bodies.shared(bodies.rodded(rod), bodies.body(concrete)) > 1e4 for rod in made.rods)


def test_a_base_off_its_column_is_seen():
    """2 in. off its middle the column comes upon a washer: seen in space, and by a rule."""
    trial = read_trial(data(BASE, {"offset_along": "2 in", "offset_across": "-1 in"}))
    made = trial.standard.solids(trial.situation, trial.sizes)
    assert ("column", "washer A2") in {(a, b) for a, b, _ in inside_one_another(made)}
    broken = {
        r.rule for r in trial.standard.examine(trial.situation, trial.sizes, trial.situation.code).detailing if not r.ok
    }
    assert "anchor_clear_of_column" in broken


@st.composite
def likely_others(draw) -> dict:
    """A splice, with one size that may be odd; its pieces alike half of the time."""
    one = draw(others())
    assume(one["standard"] != "base_plate")
    name = draw(st.sampled_from(["", *one["parameters"]]))
    one["parameters"] = {name: one["parameters"][name]} if name else {}
    return one | ({"support": one["supported"]} if draw(st.booleans()) else {})


@settings(max_examples=20, suppress_health_check=[HealthCheck.filter_too_much])
@given(likely_others())
@wide
def test_splices_that_are_sound_by_their_rules_are_sound_in_space(data):
    sound_in_space(data)


@given(
    st.floats(-30, 30),
    st.floats(0, 45),
    st.sampled_from(["parallel", "square"]),
    st.sampled_from(["W16X50", "W36X150", "W24X76"]),
    st.integers(2, 4),
)
def test_gaps_and_edges_are_what_is_there(slope, skew, cut, beam, rows):
    """What the rules say of the room before the beam's end, and of its web's edge at a bolt, measured in space: the
    body's nearest point to the face; the nearest bolt to the end's line, both in the middle of the web."""
    base = {**FLANGE, "supported": {"section": beam, "grade": "A992"}, "parameters": {"rows": rows, "end_cut": cut}}
    trial = read_trial(data(base, geometry={"slope": f"{slope} deg", "skew": f"{skew} deg"}))
    rules = {r.rule: r for r in trial.standard.examine(trial.situation, trial.sizes, trial.situation.code).detailing}
    beam = trial.standard.solids(trial.situation, trial.sizes).members[0]
    assert rules["gap_clear"].given == pytest.approx(bodies.body(beam).bounding_box()[0], abs=0.02)
    across, plane = beam.axes.x, beam.cuts[0].planes[0]
    square = combined((1.0, plane.out), (-dot(plane.out, across), across))
    away = math.sqrt(dot(square, square))
    edges = []
    for bore in beam.bores:
        off = combined((1.0, bore.axes.origin), (-1.0, plane.at))
        middle = combined((1.0, off), (-dot(off, across), across))
        edges.append(-dot(plane.out, middle) / away)
    assert rules["beam_edge_distance"].given == pytest.approx(min(edges), abs=0.02)


def test_axes_hold_others():
    """Turned a quarter about z at (1, 2, 3): x is y there."""
    outer = Axes((1.0, 2.0, 3.0)).turned(math.pi / 2)
    inner = Axes((10.0, 0.0, 0.0))
    assert outer.holding(inner).origin == pytest.approx((1.0, 12.0, 3.0))
    assert outer.seen(outer.at(4.0, 5.0, 6.0)) == pytest.approx((4.0, 5.0, 6.0))
    assert outer.z == pytest.approx((0.0, 0.0, 1.0)) and inner.moved(z=2.0).origin == (10.0, 0.0, 2.0)


KG = 7.85e-6 * INCH**3  # of a cubic inch


def made_of(base, parameters=None, **more):
    trial = read_trial(data(base, parameters, **more))
    return trial.standard.quantities(trial.situation, trial.sizes)


def test_a_plate_is_counted():
    """PL 1/4 x 4-1/2 x 11-1/2, 23 in. of 3/16 fillet in the shop, four bolts at the site. Welded to the beam in place
    of bolts: 3 in. of lap with 1/2 in. of gap, so 3-1/2 wide, and 11-1/2 + 2 x 3 in. of fillet at the site."""
    made = made_of(FLANGE)
    assert made.steel == pytest.approx(4.5 * 11.5 * 0.25 * KG) and (made.field_bolts, made.shop_bolts) == (4, 0)
    assert made.fillets == ((pytest.approx(3 / 16 * INCH), pytest.approx(23 * INCH), False),)
    lapped = made_of(FLANGE, {"beam_side": "welded", "lap": "3 in", "gap": "1/2 in", "plate_depth": "11-1/2 in"})
    assert lapped.steel == pytest.approx(3.5 * 11.5 * 0.25 * KG) and lapped.field_bolts == 0
    assert lapped.field_weld == pytest.approx(17.5 * INCH)


def test_angles_are_counted():
    """2L4X3-1/2X5/16 (7.7 lb/ft) 8-1/2 long: three bolts in the shop, six at the site. Welded to the support: 17 in. of
    fillet there, and two erection bolts that have no place."""
    base = {**FLANGE, "parameters": {"angle_length": "8-1/2 in"}}
    made = made_of(base, {"rows": 3}, standard="double_angle")
    assert made.steel == pytest.approx(2 * 7.7 * 8.5 / 12 * 0.45359237, rel=1e-6)
    assert (made.shop_bolts, made.field_bolts) == (3, 6)
    welded = made_of(base, {"rows": 3, "support_side": "welded"}, standard="double_angle")
    assert welded.field_weld == pytest.approx(17 * INCH) and (welded.shop_bolts, welded.field_bolts) == (3, 2)


def test_a_plate_from_flange_to_flange_is_counted():
    """W21X62 (d 21.0, tf 0.615, bf 8.24, tw 0.40): 19.77 between its flanges, 3.92 to its tips, less two corners that
    are clipped; beyond these as deep as at the beam."""
    sizes = {
        "plate_fit": "full_depth",
        "plate_run": "flange_tip",
        "cope_length": "0 in",
        "cope_depth": "0 in",
        "gap": "5 in",
    }
    trial = read_trial(data(GIRDER, sizes))
    (plate,) = trial.standard.solids(trial.situation, trial.sizes).pieces
    clip = trial.situation.carrier.section.k_detail / INCH - 0.615
    width = 5 + 1.75 + trial.sizes["edge_distance"].value / INCH
    area = 19.77 * 3.92 - clip**2 + (width - 3.92) * trial.sizes["plate_depth"].value / INCH
    assert plate.area / INCH**2 == pytest.approx(area, rel=1e-4)
    (fillet,) = trial.standard.quantities(trial.situation, trial.sizes).fillets
    assert fillet[1] / INCH == pytest.approx(2 * (19.77 - 2 * clip + 2 * (3.92 - clip)), rel=1e-4)


def test_a_splice_is_counted():
    """Two plates on the flanges, two on the web, eight bolts a flange and side; of unequal pieces fillers on the
    shallower, as long as the plates there."""
    trial = read_trial(data(SPLICE))
    of = {name: size.value / INCH for name, size in trial.sizes.items() if isinstance(size.value, float)}
    first = of["gap"] / 2 + of["beam_edge_distance"]
    flange = 2 * 0.75 * of["flange_plate_width"] * 2 * (first + 3 * of["flange_pitch"] + of["flange_end_distance"])
    web = 2 * of["plate_thickness"] * of["plate_depth"] * 2 * (first + of["edge_distance"])
    made = trial.standard.quantities(trial.situation, trial.sizes)
    assert made.steel == pytest.approx((flange + web) * KG)
    assert made.field_bolts == 2 * 2 * 2 * 4 + 2 * trial.sizes["rows"].value


def test_a_base_is_counted():
    """20 x 20 x 1-1/2 with four washers of 3 x 3, welded all around at the site: 12 in. a rod."""
    trial = read_trial(data(BASE, {"washers": "welded", "washer": "3 in"}))
    made = trial.standard.quantities(trial.situation, trial.sizes)
    washers = 4 * 9 * trial.standard.solids(trial.situation, trial.sizes).pieces[1].thickness / INCH
    assert made.steel == pytest.approx((600 + washers) * KG) and made.rods == 4
    assert made.field_weld == pytest.approx(4 * 12 * INCH)
