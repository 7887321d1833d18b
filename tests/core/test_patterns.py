"""Joints that are alike however they are turned or mirrored, member for member; and the peaks of everything that acts
on them."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from handrail.core.building.framing import frame
from handrail.core.building.laying import Ends
from handrail.core.building.model import Building, Member, NodeForces
from handrail.core.building.patterns import find_patterns, peaks_of, points_of, with_edits
from handrail.interchange.bundle import read_bundle
from tests.bundles import DEMO

HINGED = frozenset({"My", "Mz"})
# name, section, direction in plan (degrees) or up/down, released
ARMS = (("A", "W18X50", 0.0, True), ("B", "W16X31", 90.0, True), ("C", "W14X26", 200.0, False))


def copies(*ways: tuple[float, bool], arms=ARMS, other=None) -> Building:
    """One joint over and over, each turned by degrees and perhaps mirrored: a column through, beams to it; named A0,
    B0, C0, A1, ... The last one has `other` arms."""
    nodes, members, xyz = [], [], []
    for k, (turn, mirrored) in enumerate(ways):
        side = -1 if mirrored else 1

        def add(name: str, x: float, y: float, z: float, k=k) -> int:
            nodes.append(f"{name}{k}")
            xyz.append((x + 50_000 * k, y, z))
            return len(nodes) - 1

        centre, foot, top = add("n", 0, 0, 0), add("f", 0, 0, -4000), add("t", 0, 0, 4000)
        roll = math.radians(turn + side * 15)
        members.append(Member(f"L{k}", foot, centre, "W14X90", "A992", roll))
        members.append(Member(f"U{k}", centre, top, "W14X90", "A992", roll))
        for name, section, way, hinged in other if other and k == len(ways) - 1 else arms:
            angle = math.radians(turn + side * way)
            end = add(name.lower(), 6000 * math.cos(angle), 6000 * math.sin(angle), 0)
            members.append(
                Member(f"{name}{k}", centre, end, section, "A992", release_i=HINGED if hinged else frozenset())
            )
    return Building(
        "",
        "",
        "",
        "",
        "",
        {"length": "m"},
        tuple(nodes),
        np.array(xyz, float),
        tuple(members),
        {},
        (),
        (),
        (),
        np.zeros((len(members), 0, 2, 6)),
        NodeForces.none(),
        NodeForces.none(),
    )


def patterns(building: Building):
    return find_patterns(building, frame(building))


@given(st.lists(st.tuples(st.floats(0, 360), st.booleans()), min_size=2, max_size=6))
def test_turned_and_mirrored_it_is_alike_arm_for_arm(ways):
    found = [p for p in patterns(copies(*ways)) if len(p.slots) > 1]
    joints = found[0]
    assert len(found) == 1 and len(joints.members) == len(ways)
    first = joints.members[0]
    for m in joints.members:
        assert [c[:1] for c in m.connections] == [c[:1] for c in first.connections]  # A with A, B with B
        assert m.mirrored == (ways[(m.node) // 6][1] != ways[first.node // 6][1])


@pytest.mark.parametrize(
    "other",
    [
        (("A", "W18X55", 0.0, True), *ARMS[1:]),
        (("A", "W18X50", 10.0, True), *ARMS[1:]),
        (("A", "W18X50", 0.0, False), *ARMS[1:]),
        ARMS[:2],
    ],
)
def test_what_is_not_alike(other):
    assert _key(copies((0, False))) != _key(copies((0, False), arms=other))


def _key(building: Building) -> object:
    ends = Ends(building, frame(building), [0])
    return [(ends.facts[kind], *place) for kind, *place in ends.lay(0).key]


def test_a_mirrored_joint_s_actions_are_turned():
    """Vw, Mw and T change their sign; N, V and M do not. The peak of Vw is the mirrored joint's -5 seen as +5."""
    building = copies((0, False), (40, True))
    joints = patterns(building)[0]
    slot = next(k for k, c in enumerate(joints.members[0].connections) if c.startswith("A"))
    ids = [m.connections[slot] for m in joints.members]
    plain, mirrored = sorted(ids, key=lambda c: next(m.mirrored for m in joints.members if m.connections[slot] == c))
    acting = {plain: np.array([[1.0, 10, 2, 3, 4, 5]]), mirrored: np.array([[1.0, 20, -5, 6, 7, 8]])}
    _, table = points_of(joints, slot, acting)
    assert table[ids.index(mirrored), 0].tolist() == [1, 20, 5, 6, -7, -8]
    peak = next(p for p in peaks_of(joints, slot, acting, ("U",)) if p["action"] == 2 and p["largest"])
    assert (peak["connection"], peak["values"]) == (mirrored, [1, 20, 5, 6, -7, -8])


def test_a_column_the_other_way_round_is_alike_with_its_signs():
    """Turned by 180 degrees of roll, a W is the same steel: its V, Vw, M and Mw change their signs."""
    building = read_bundle(DEMO / "bundle")
    bases = next(p for p in find_patterns(building, frame(building)) if "column_base" in p.framings)
    assert {abs(s) for m in bases.members for signs in m.signs for s in signs} == {1.0}


def test_the_demo_s_joints_are_all_in_patterns():
    building = read_bundle(DEMO / "bundle")
    framing = frame(building)
    found = find_patterns(building, framing)
    listed = [c for p in found for m in p.members for c in m.connections if c]
    assert sorted(listed) == sorted(c.id for c in framing.connections)
    assert [len(p.members) for p in found] == sorted((len(p.members) for p in found), reverse=True)


def test_a_joint_that_somebody_puts_elsewhere():
    """Three alike and one with a heavier arm: taken out, put in, and its actions are turned as the pattern's; what
    cannot be laid on it is told."""
    building = copies((0, False), (40, True), (90, False))
    framing = frame(building)
    plain, _ = with_edits(building, framing, {})
    joints = [building.nodes[m.node] for m in plain[0].members]
    out, misfits = with_edits(building, framing, {joints[1]: ""})
    assert not misfits and [len(p.members) for p in out if p.slots == plain[0].slots] == [2, 1]
    assert [building.nodes[m.node] for m in out[-1].members] == [joints[1]]
    back, _ = with_edits(building, framing, {joints[1]: joints[0]})
    assert back == plain
    _, told = with_edits(building, framing, {joints[1]: "nowhere", "elsewhere": ""})
    assert "nowhere is no joint" in told[joints[1]] and "elsewhere is no joint" in told["elsewhere"]


@pytest.mark.parametrize(("askew", "fits"), [(0.0, True), (10.0, True), (18.0, True), (30.0, False)])
def test_how_far_askew_a_joint_may_be_put_in(askew, fits):
    """Another size of the first arm and `askew` degrees out of its way: within 20 degrees it goes in, its end at the
    same place."""
    building = copies((0, False), (75, True), other=(("A", "W18X55", askew, True), *ARMS[1:]))
    found, misfits = with_edits(building, frame(building), {"n1": "n0"})
    assert ("n1" in misfits) != fits
    if fits:
        pattern = next(p for p in found if p.members[0].node == 0)
        assert len(pattern.members) == 2
        assert [c[:1] for c in pattern.members[0].connections] == [c[:1] for c in pattern.members[1].connections]
        assert pattern.members[1].mirrored != pattern.members[0].mirrored
