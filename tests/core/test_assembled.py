"""Joints as one: connections where they stand in the building, bolts that hold two once, collisions found."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from handrail.core.building.standing import stands
from handrail.core.checking.assembled import Assembled, Stood, assembled
from handrail.core.checking.trial import read_trial
from handrail.core.joint.relations import SHARES
from handrail.core.solids import bodies
from handrail.core.solids.axes import Axes
from handrail.core.solids.collisions import TOUCHING, body_of, brought, collisions
from handrail.core.solids.meshes import mesh
from handrail.core.solids.pieces import Weld
from handrail.core.solids.placed import placed
from handrail.core.standards import STANDARDS
from handrail.core.standards.made_by import made_by
from tests.bundles import DEMO, demo_sized, plan_of
from tests.core.test_solids import faults, inside_one_another
from tests.worked.sheet import FLANGE, GIRDER, data

TURNED = Axes((0.0, 0.0, 0.0), (-1.0, 0.0, 0.0), (0.0, -1.0, 0.0))  # half a turn about the upright


def stood(at: Axes, parameters=None, base=GIRDER, mirrored=False, **more) -> Stood:
    trial = read_trial(data({**base, "parameters": {}}, {"rows": 3} | (parameters or {}), **more))
    return Stood(trial.standard.name, trial.situation, tuple(sorted(trial.sizes.items())), at, mirrored)


def opposite(thick: float) -> Axes:
    """At the other face of a web, seen from the first's."""
    return Axes((-thick, 0.0, 0.0), TURNED.x, TURNED.y)


WEB = 0.400 * 25.4  # of GIRDER's W21X62
ANGLES = {"standard": "double_angle"}


def test_opposite_angles_have_their_bolts_once():
    """Six bolts through the web hold both: through a leg, the web and the other leg, and the second has none of its
    own."""
    one, two = stood(Axes(), **ANGLES), stood(opposite(WEB), **ANGLES)
    joint = Assembled(0, ("A", "B"), (one, two), ((0, 1),))
    (_, a), (_, b) = joint.solids()
    shared = [bolt for bolt in a.bolts if any(ply.startswith("B: ") for ply in bolt.plies)]
    assert len(shared) == 6 and not [bolt for bolt in b.bolts if bolt.part == "support bolts"]
    t = 5 / 16 * 25.4
    assert {round(bolt.grip, 3) for bolt in shared} == {round(WEB + 2 * t, 3)}
    assert shared[0].plies == ("angle far", "support", "B: angle near")
    assert joint.collisions() == []


@pytest.mark.parametrize(
    ("sizes", "under"), [({}, (0, 0)), ({"leg_hole": "SSLT"}, (0, 1)), ({"web_hole": "SSLT"}, (0, 0))]
)
def test_bolts_of_both_sides_have_the_washers_of_the_outer_plies(sizes, under):
    """Slots in the legs of one side only: a washer there, wherever nuts are; none for holes that other plies cover."""
    one, two = stood(Axes(), **ANGLES), stood(opposite(WEB), sizes, **ANGLES)
    (_, a), _ = Assembled(0, ("A", "B"), (one, two), ((0, 1),)).solids()
    shared = [bolt for bolt in a.bolts if any(ply.startswith("B: ") for ply in bolt.plies)]
    assert {tuple(int(w is not None) for w in bolt.washers) for bolt in shared} == {under}


@pytest.mark.parametrize("sizes", [{"first_bolt": "4 in"}, {"pitch": "3-1/2 in"}])
def test_bolts_that_do_not_meet_are_collisions(sizes):
    """An inch lower, or at another pitch, the bolts of either run into the angles of the other."""
    one, two = stood(Axes(), {"first_bolt": "3 in"}, **ANGLES), stood(opposite(WEB), sizes, **ANGLES)
    clashes = Assembled(0, ("A", "B"), (one, two), ((0, 1),)).collisions()
    assert {tuple(sorted(c.parts)) for c in clashes} >= {("angle", "support bolts")}
    assert all({c.one[0], c.other[0]} == {"A", "B"} and c.volume > 1000 for c in clashes)
    hit = next(c for c in clashes if "angle" in c.parts)
    assert abs(hit.at[0]) < 30 and -400 < hit.at[2] < 0  # beside the web, along the rows


@given(st.floats(-3.0, 3.0), st.floats(-5000, 5000))
@settings(max_examples=8)
def test_collisions_are_the_same_wherever_the_joint_stands(turn, away):
    at = Axes((away, -away / 2, away / 3)).turned(turn)
    pair = (stood(Axes(), {"first_bolt": "3 in"}, **ANGLES), stood(opposite(WEB), {"first_bolt": "4 in"}, **ANGLES))
    moved = tuple(Stood(s.standard, s.situation, s.sizes, at.holding(s.at), s.mirrored) for s in pair)
    here, there = (Assembled(0, ("A", "B"), each, ((0, 1),)).collisions() for each in (pair, moved))
    assert [(c.one, c.other, round(c.volume)) for c in here] == [(c.one, c.other, round(c.volume)) for c in there]
    assert there[0].at == pytest.approx(at.at(*here[0].at), abs=0.01)


@pytest.mark.parametrize("standard", ["single_plate", "double_angle", "shear_end_plate"])
def test_the_other_hand_is_as_sound(standard):
    """Mirrored in its axes: the same volumes, on the other side."""
    made = stood(Axes(), base=FLANGE, standard=standard).solids()
    other = placed(made, Axes((100.0, 200.0, 300.0)).turned(1.0), mirrored=True)
    assert faults(other) == [] and inside_one_another(other) == []
    for a, b in zip((*made.members, *made.pieces), (*other.members, *other.pieces), strict=True):
        assert bodies.body(b).volume() == pytest.approx(bodies.body(a).volume(), rel=1e-9)
    skewed = stood(Axes(), base=FLANGE, geometry={"skew": "20 deg"}).solids()
    beam = placed(skewed, Axes(), mirrored=True).members[0]
    assert bodies.body(beam).bounding_box()[1] < -100 < bodies.body(skewed.members[0]).bounding_box()[1]


@pytest.fixture(scope="module")
def demo():
    plan = plan_of(DEMO / "bundle")
    stood = {plan.assigned[k].connection.id: o.sizes for k, o in demo_sized().items() if o.sizes}
    standing = [(a, (a.rule.use, stood[a.connection.id])) for a in plan.assigned if a.connection.id in stood]
    return plan, stood, list(assembled(plan.building, standing))


def test_the_demo_has_no_collisions(demo):
    _, stood, joints = demo
    assert not any(joint.collisions() for joint in joints) and {key for joint in joints for key in joint.keys} == set(
        stood
    )


def test_bolts_of_the_demo_are_counted_once(demo):
    """As the schedule counts them: the field bolts that hold two are those of one."""
    plan, stood, joints = demo
    once = plan.sharing.counted_with(stood)
    bolts = [bolt for joint in joints for _, solids in joint.solids() for bolt in solids.bolts]
    expected = 0
    for key in once:
        assigned = plan.assigned[plan.index[key]]
        made = STANDARDS[assigned.rule.use].solids(assigned.situation, stood[key])
        expected += sum("support" in bolt.plies for bolt in made.bolts)
    assert sum(any(": " in ply for ply in bolt.plies) for bolt in bolts) == expected > 100


def test_beams_come_out_of_their_supports(demo):
    """Each beam's solids run the way that its member does, from the face of what it meets, its top of steel where the
    model has it."""
    plan, _, joints = demo
    looked = 0
    for joint in joints:
        for key, solids in joint.solids():
            connection = plan.assigned[plan.index[key]].connection
            if not connection.framing.startswith("beam_to"):
                continue
            looked += 1
            member = plan.building.members[connection.member]
            a, b = plan.building.xyz[member.i], plan.building.xyz[member.j]
            way = (b - a if connection.end == 0 else a - b) / np.linalg.norm(b - a)
            beam = solids.members[0]
            node = plan.building.xyz[connection.node]
            ends = [np.array(beam.axes.at(z=along)) - node for along in (0.0, beam.length)]
            near, far = sorted(float(end @ way) for end in ends)
            assert -150 < near < 600 and far - near == pytest.approx(beam.length, rel=1e-5), key
            for end in ends:
                aside = end - (end @ way) * way
                assert math.hypot(*aside[:2]) < 2.0 and abs(aside[2] + member.top_offset) < 2.0, key
    assert looked > 500


def test_what_shares_bolts_is_seen_by_its_relations(demo):
    plan, _, joints = demo
    for joint in joints:
        for a, b in joint.pairs:
            others = plan.assigned[plan.index[joint.keys[a]]].connection.others(SHARES)
            assert joint.keys[b] in others and stands(
                plan.building, plan.assigned[plan.index[joint.keys[a]]].connection
            )


@given(st.floats(-3.0, 3.0), st.floats(-150, 150), st.floats(-150, 150))
@settings(max_examples=15, deadline=None)
def test_boxes_miss_nothing_that_bodies_have_in_common(turn, x, y):
    """Two connections anywhere beside each other: what is found is what comparing every two bodies finds."""
    one = stood(Axes()).solids()
    two = stood(Axes((x, y, -40.0)).turned(turn), **ANGLES).solids()
    found = {(c.one[1], c.other[1]) for c in collisions([("A", one), ("B", two)])}
    plain = {
        (a.name, b.name)
        for a in brought(one)
        for b in brought(two)
        if bodies.shared(body_of(a), body_of(b)) > TOUCHING and not (isinstance(a, Weld) and isinstance(b, Weld))
    }
    welds = {pair for pair in found if all(name.startswith("weld") for name in pair)}
    assert found - welds == plain


def test_a_mesh_holds_what_its_body_does():
    """By the divergence theorem: a sixth of the sum of triple products over its faces is its volume."""
    made = stood(Axes(), **ANGLES).solids()
    for solid in brought(made):
        body = body_of(solid)
        drawn = mesh(body, (10.0, -20.0, 30.0))
        points = np.array(drawn.points).reshape(-1, 3)
        a, b, c = (points[np.array(drawn.faces).reshape(-1, 3)[:, k]] for k in range(3))
        assert (np.cross(a, b) * c).sum() / 6 == pytest.approx(body.volume(), rel=2e-3)


@pytest.mark.parametrize(
    ("standard", "part", "own", "never"),
    [
        ("single_plate", "plate", {"plate_thickness", "rows", "pitch"}, {"electrode", "weld_size", "negligible_force"}),
        ("double_angle", "angle", {"angle", "angle_length", "support_gauge"}, {"tightening", "offset_moment"}),
        ("shear_end_plate", "weld", {"weld_size", "plate_depth"}, {"gauge", "cope_depth"}),
    ],
)
def test_parts_know_the_sizes_that_make_them(standard, part, own, never):
    one = stood(Axes(), standard=standard)
    names = made_by(STANDARDS[standard], one.situation, one.sizes)[part]
    assert own <= set(names) and never.isdisjoint(names)
