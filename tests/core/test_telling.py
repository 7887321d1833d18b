"""What is told of connections: the matrix of their checks, what moved under a decision, what merges of marks leave."""

from __future__ import annotations

import copy

import numpy as np
import pytest

from handrail.core.actions import Actions
from handrail.core.checking.grounds import moved, snapshots
from handrail.core.checking.marks import Piece, _merged
from handrail.core.checking.matrix import matrix
from handrail.core.limit_state import LimitState
from tests.bundles import DEMO, plan_of


def state(name: str, factor: float, limit: bool = False) -> LimitState:
    """|V| times a factor over 1."""
    return LimitState(name, "part", "J3", "force", lambda actions, t: (factor * actions.shear, 1.0), limit=limit)


def under(*shears: float) -> Actions:
    table = np.zeros((1, len(shears), 6))
    table[0, :, 1] = shears
    return Actions.of(table, tuple(f"c{k}" for k in range(len(shears))))


def test_a_limit_governs_only_where_it_is_passed():
    """A strength used 0.5, 0.8 and 0.2, a limit at 0.9, 1.44 and 0.36 of itself: held, it counts nothing and the
    strength governs; passed, it governs, and the combination that passes it is its worst."""
    found = matrix([state("strength", 1.0), state("limit", 1.8, limit=True)], under(0.5, 0.8, 0.2))
    assert found.use[1].tolist() == pytest.approx([0.9, 1.44, 0.36])  # shown as it is all the same
    assert found.column.tolist() == [0, 1, 0] and found.row.tolist() == [1, 1]


def test_a_far_end_that_moved_is_told_though_the_near_one_stands():
    plan = plan_of(DEMO / "bundle").with_(overrides={"B5.i": {"rows": 4}})
    (then,) = snapshots(plan, [("B5.i", "rows")]).values()
    connection = plan.framing.connections[plan.index["B5.i"]]
    member = plan.building.members[connection.member]
    assert then["place"] == pytest.approx([*plan.building.xyz[member.i], *plan.building.xyz[member.j]], abs=0.1)
    assert moved(then, then, 0.05) == []
    for axis in range(6):
        now = copy.deepcopy(then)
        now["place"][axis] += 40.0
        assert moved(then, now, 0.05, within=25.0) == ["the member's end stands elsewhere now"], axis
        assert moved(then, now, 0.05, within=50.0) == []


def test_the_worst_of_chained_merges_is_that_of_all_that_came_together():
    """A goes into B, used 0.6 there; B with it into C, where B's own are used 0.7 and A's 0.9."""
    marks = {
        n: Piece(n, "single_plate", {}, [f"{n}1", f"{n}2"], cost) for n, cost in (("A", 1.0), ("B", 2.0), ("C", 9.0))
    }
    found = _merged(marks, {"A": {"B": 0.6, "C": 0.9}, "B": {"C": 0.7}, "C": {}})
    assert [(m.given, m.taken, m.worst) for m in found] == [("A", "B", 0.6), ("B", "C", 0.9)]
    assert found[1].marks == ("B", "A") and found[1].connections == ("B1", "B2", "A1", "A2")
    apart = _merged(marks, {"A": {"B": 0.6}, "B": {"C": 0.7}, "C": {}})
    assert [(m.given, m.taken) for m in apart] == [("A", "B")], "what came along does not fit: it stays"
