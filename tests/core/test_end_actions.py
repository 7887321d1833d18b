"""N, V, Vw, M, Mw and T against vectors: the same however a member is drawn, rolled over or turned; of a mirror image
Vw, Mw and T change sides."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from handrail.core.building.combining import CombinationSet
from handrail.core.building.end_actions import end_actions
from handrail.core.building.framing import frame
from handrail.core.building.model import Building, Member, NodeForces
from handrail.core.building.patterns import find_patterns

ONE = CombinationSet(("U",), np.ones((1, 1, 6)), ())
OTHER = np.array([1.0, 1.0, -1.0, 1.0, -1.0, -1.0])  # what a mirror does to N, V, Vw, M, Mw, T


def built(nodes: list[np.ndarray], members: list[Member], pushed: dict[int, tuple[np.ndarray, np.ndarray]]) -> Building:
    """A building in which the support does `pushed` (force, moment; global axes) to an end, by 2 x member + end."""
    bare = Building(
        "",
        "",
        "",
        "",
        "",
        {"length": "m"},
        tuple(f"n{k}" for k in range(len(nodes))),
        np.array(nodes, float),
        tuple(members),
        {},
        (),
        (),
        ("U",),
        np.zeros((len(members), 1, 2, 6)),
        NodeForces.none(),
        NodeForces.none(),
    )
    for end, (force, moment) in pushed.items():
        axes = bare.axes[end // 2]
        bare.forces[end // 2, 0, end % 2] = np.concatenate([axes @ force, axes @ moment])
    return bare


def acting(building: Building, ends: list[int]) -> np.ndarray:
    return end_actions(building, ONE, np.array(ends) // 2, np.array(ends) % 2)[:, 0]


way = st.floats(-1, 1)
vectors = st.tuples(way, way, way).map(np.array)
members = (
    st.tuples(vectors, st.booleans())
    .map(lambda of: np.array([0, 0, 1.0]) if of[1] else of[0])
    .filter(lambda v: np.linalg.norm(v) > 0.2 and (math.hypot(v[0], v[1]) > 0.05 or v[0] == v[1] == 0))
)


def one(
    along: np.ndarray, roll: float, force: np.ndarray, moment: np.ndarray, turned_round: bool = False
) -> np.ndarray:
    """Actions at the origin of a member that goes `along` from there; `turned_round` drawn towards it, its web as
    before."""
    nodes, end = [np.zeros(3), 6000 * along], 0
    member = Member("A", 0, 1, "W18X50", "A992", roll)
    if turned_round:
        member, end = Member("A", 1, 0, "W18X50", "A992", -roll), 1
    return acting(built(nodes, [member], {end: (force, moment)}), [end])[0]


@given(members, st.floats(-1.5, 1.5), vectors, vectors)
def test_by_vectors(along, roll, force, moment):
    """N pulls from the support, V pushes along the web's axis, Vw to the right of it; M pulls at the web's upper side,
    Mw at the right one."""
    found = one(along, roll, force, moment)
    out = along / np.linalg.norm(along)
    flat = np.array([1.0, 0, 0]) if out[2] == 1 else np.array([0, 0, 1.0]) - out[2] * out
    flat = flat / np.linalg.norm(flat)
    up = math.cos(roll) * flat + math.sin(roll) * np.cross(out, flat)
    up = -up if up[2] < -1e-9 else up
    right = np.cross(out, up)
    # a pull of 1 at the arm `up` from the axis has the moment up x -out; of M it makes 1
    pulls = [np.cross(arm, -out) @ moment for arm in (up, right)]
    assert found == pytest.approx(
        [-force @ out, force @ up, force @ right, pulls[0], pulls[1], -moment @ out], abs=1e-9
    )


@given(members, st.floats(-1.5, 1.5), vectors, vectors)
def test_whichever_way_it_is_drawn_or_rolled(along, roll, force, moment):
    found = one(along, roll, force, moment)
    assert one(along, roll, force, moment, turned_round=True) == pytest.approx(found, abs=1e-9)
    if (
        math.hypot(along[0], along[1]) > 0 and abs(math.cos(roll)) > 1e-3
    ):  # an upright web, and one that lies flat, has no up of its own
        assert one(along, roll + math.pi, force, moment) == pytest.approx(found, abs=1e-9)


@given(members, st.floats(-1.5, 1.5), vectors, vectors, st.floats(0, 6.2))
def test_turned_and_mirrored(along, roll, force, moment, angle):
    found = one(along, roll, force, moment)
    cos, sin = math.cos(angle), math.sin(angle)
    turn = np.array([[cos, -sin, 0], [sin, cos, 0], [0, 0, 1]])
    upright = along[0] == along[1] == 0
    assert one(turn @ along, roll + angle * upright, turn @ force, turn @ moment) == pytest.approx(found, abs=1e-9)
    mirror = np.diag([1.0, -1.0, 1.0])
    assert one(mirror @ along, -roll, mirror @ force, -mirror @ moment) == pytest.approx(OTHER * found, abs=1e-9)


ARMS = (("A", "W18X50", 0.0), ("B", "W16X31", 90.0), ("C", "W14X26", 200.0))
joints = st.lists(
    st.tuples(st.floats(0, 360), st.booleans(), st.lists(st.booleans(), min_size=10, max_size=10)),
    min_size=2,
    max_size=5,
)


@given(joints, st.lists(st.floats(-80, 80), min_size=3, max_size=3), st.integers(0, 2**32 - 1))
def test_what_acts_on_joints_that_are_alike(ways, rolls, seed):
    """One joint, with the same vectors on each of its ends, again and again: turned, mirrored, its members drawn either
    way and rolled over. Seen as the pattern's, the same actions stand at each place."""
    dice = np.random.default_rng(seed)
    on = {name: (dice.normal(size=3), dice.normal(size=3)) for name in "LUABC"}
    nodes: list[np.ndarray] = []
    members: list[Member] = []
    pushed: dict[int, tuple[np.ndarray, np.ndarray]] = {}
    for k, (turn, mirrored, drawn) in enumerate(ways):
        side, at = (-1 if mirrored else 1), np.array([50_000.0 * k, 0, 0])
        cos, sin = math.cos(math.radians(turn)), math.sin(math.radians(turn))
        lay = np.array([[cos, -sin, 0], [sin, cos, 0], [0, 0, 1]]) @ np.diag([1.0, side, 1.0])
        centre = len(nodes)
        nodes.append(at)

        def add(
            name: str,
            section: str,
            tip: np.ndarray,
            roll: float,
            back: bool,
            over: bool,
            k=k,
            at=at,
            lay=lay,
            side=side,
            centre=centre,
        ) -> None:
            nodes.append(at + tip)
            roll += 180 * over
            ends = (len(nodes) - 1, centre) if back else (centre, len(nodes) - 1)
            members.append(Member(f"{name}{k}", *ends, section, "A992", math.radians(-roll if back else roll)))
            pushed[2 * (len(members) - 1) + back] = lay @ on[name][0], side * (lay @ on[name][1])

        upright = turn + side * 15
        add("L", "W14X90", np.array([0, 0, -4000.0]), -upright, drawn[0], drawn[1])
        add("U", "W14X90", np.array([0, 0, 4000.0]), upright, drawn[2], drawn[3])
        for n, (name, section, angle) in enumerate(ARMS):
            tip = lay @ np.array([6000 * math.cos(math.radians(angle)), 6000 * math.sin(math.radians(angle)), 0])
            add(name, section, tip, side * rolls[n], drawn[4 + n], drawn[7 + n])
    building = built(nodes, members, pushed)
    found = next(p for p in find_patterns(building, frame(building)) if len(p.slots) > 1)
    assert len(found.members) == len(ways)
    seen = []
    for m in found.members:
        here = [building.ends_at[m.node][k] for k in m.ends]
        seen.append(acting(building, [2 * member + end for member, end in here]) * np.array(m.signs))
    for other in seen[1:]:
        assert other == pytest.approx(seen[0], abs=1e-9)
