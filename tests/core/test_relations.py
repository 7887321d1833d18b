"""Who is at a connection and what it has to do with others: the walk along relations, and bolts that hold three."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from handrail.core.checking.digests import grounds
from handrail.core.checking.plan import Plan
from handrail.core.joint.relations import OPPOSITE, SHARES, Relation, others, reached
from handrail.core.quantities.units import KIP
from tests.bundles import DEMO, crowded, plan_of, small, write

GRAPH = st.dictionaries(st.sampled_from("abcdefgh"), st.lists(st.sampled_from("abcdefgh"), max_size=4), max_size=8)


def test_relations_lead_to_others_by_kind_each_once():
    found = (Relation(OPPOSITE, "B2.i"), Relation(SHARES, "B2.i"), Relation(OPPOSITE, "B3.j"))
    assert others(found) == ("B2.i", "B3.j") and others(found, SHARES) == ("B2.i",)


@given(GRAPH, st.sampled_from("abcdefgh"))
def test_a_walk_comes_to_all_that_can_be_come_to_and_ends(graph, start):
    """As far as steps of one relation reach, found by taking steps until nothing is new; rings and all."""
    found = reached([start], lambda key: graph.get(key, []))
    there = {start}
    while more := {other for key in there for other in graph.get(key, [])} - there:
        there |= more
    assert set(found) == there and len(found) == len(there) and found[0] == start


def test_a_walk_finds_the_nearest_first():
    chain = {"a": ["b", "c"], "b": ["d"], "c": [], "d": ["a"]}
    assert reached(["a"], chain.__getitem__) == ("a", "b", "c", "d")


@pytest.fixture(scope="module")
def three() -> tuple[Plan, list[str]]:
    """The demo, with the bolts of a pair said to hold a third beam that is like one of them, in a chain: the first is
    related to the second, and that to the third."""
    plan = plan_of(DEMO / "bundle")
    index, connections = plan.index, list(plan.framing.connections)
    girders = (a for a in plan.assigned if a.rule and a.connection.framing == "beam_to_girder")
    shared = [a for a in girders if a.rule.use == "double_angle" and plan.partners(a.connection.id)]
    one = shared[0].connection
    two = connections[index[plan.partners(one.id)[0]]]
    third = next(a.connection for a in shared if a.connection.id not in (one.id, two.id))
    beside = {one.id: [two], two.id: [one, third], third.id: [two]}
    for key, to in beside.items():
        both = tuple(Relation(kind, c.id) for c in to for kind in (OPPOSITE, SHARES))
        connections[index[key]] = replace(connections[index[key]], relations=both)
    framing = replace(plan.framing, connections=tuple(connections))
    return Plan.of(plan.building, framing, plan.rulebook, plan.code), list(beside)


def test_a_chain_shares_as_one_however_far(three):
    plan, names = three
    for name in names:
        assert set(plan.partners(name)) == set(names) - {name} and plan.together({name}) == set(names)


def test_what_one_of_three_is_asked_to_hold_all_have(three):
    """The last of the chain has to hold 250 kN besides: the first has its rows, two relations away, and any of them
    comes out the same when it is asked for alone."""
    plan, names = three
    heavy = plan.with_(overrides={names[2]: {"stated_V": 250e3}})
    light, found = by_name(plan, names), by_name(heavy, names)
    rows = {found[name].sizes["rows"].value for name in names}
    assert len(rows) == 1 and rows.pop() > min(light[name].sizes["rows"].value for name in names)
    for name in names:
        alone = by_name(heavy, [name])[name]
        assert (alone.sizes, alone.status, alone.reason) == (
            found[name].sizes,
            found[name].status,
            found[name].reason,
        )
        notes = " ".join(found[name].notes)
        beside = [o for o in names if o in plan.sharing.related[name]]
        assert all(f"holds this and {other} opposite" in notes for other in beside)


def test_what_is_said_of_one_is_one_for_all_and_each_result_rests_on_it(three):
    plan, names = three
    said = plan.with_(overrides={names[0]: {"rows": 6}})
    assert {by_name(said, names)[name].sizes["rows"].value for name in names} == {6}
    before, after = grounds(plan, set(names)), grounds(said, set(names))
    assert all(before[name] != after[name] for name in names)


def test_bolts_of_three_are_counted_with_one(three):
    plan, names = three
    sizes = {name: o.sizes for name, o in by_name(plan, names).items()}
    counted = plan.sharing.counted_with(sizes)
    assert len(counted) == 2 and len(set(counted.values())) == 1 and set(counted.values()) <= set(names) - set(counted)


def test_overrides_give_way_only_of_what_is_shared(three):
    plan, names = three
    held = {names[0]: {"rows": 4, "leg_thickness": 10.0}, names[1]: {"rows": 5}}
    found = plan.sharing.giving_way(held, [names[0]], {"rows"})
    assert found == {names[0]: {"leg_thickness": 10.0}, names[1]: {"rows": 5}} and held[names[0]]["rows"] == 4


def by_name(plan, wanted):
    return {plan.assigned[k].connection.id: o for k, o in plan.work(set(wanted)).items()}


def test_skewed_beams_on_both_sides_of_a_web(tmp_path):
    """In no line with each other, they share no bolts, and both shears are on the web's metal: by hand, twice the
    shear of one; each is judged with the other's own forces."""
    tables = crowded(40.0)
    for node in tables["nodes"]:  # B2 leaves on the other side, 40 degrees off square
        node["y"] = -node["y"] if node["node"] == "g" else node["y"]
    plan = plan_of(write(tables, tmp_path / "b"))
    one, two = (plan.framing.connections[plan.index[key]] for key in ("B1.i", "B2.i"))
    assert [(r.kind, r.other) for r in one.relations] == [("other_side", "B2.i")]
    assert [(r.kind, r.other) for r in two.relations] == [("other_side", "B1.i")]
    found = {plan.assigned[k].connection.id: o for k, o in plan.work().items()}
    (metal,) = _metal(plan, "B1.i", found["B1.i"].sizes)
    assert metal.demand == pytest.approx(2 * 1.4 * 10 * KIP)
    alone = plan_of(write(small(), tmp_path / "alone"))
    (before,) = _metal(alone, "B1.i", found["B1.i"].sizes)
    assert before.demand == pytest.approx(1.4 * 10 * KIP) and before.strength == pytest.approx(metal.strength)
    assert any("shares the web" in note for note in found["B1.i"].notes)


def _metal(plan, key, sizes):
    looked = plan.look(plan.assigned[plan.index[key]], sizes)
    return [c for c in looked.checks if c.check == "support_shear"]


def test_several_on_the_other_side_of_a_web(tmp_path):
    """Two skewed beams on the other side: all three shears are on the web's metal; what faces one alone keeps its
    sign beside it in one batch."""
    tables = crowded(40.0)
    tables["nodes"].append({"node": "h", "x": 15 - 20 * 0.8391, "y": -20, "z": 12})
    for node in tables["nodes"]:
        node["y"] = -node["y"] if node["node"] == "g" else node["y"]
    second = next(m for m in tables["members"] if m["member"] == "B2")
    tables["members"].append(second | {"member": "B3", "j": "h"})
    for row in [row for row in tables["end_forces"] if row["member"] == "B2"]:
        tables["end_forces"].append(row | {"member": "B3"})
    plan = plan_of(write(tables, tmp_path / "b"))
    found = {plan.assigned[k].connection.id: o for k, o in plan.work().items()}
    (metal,) = _metal(plan, "B1.i", found["B1.i"].sizes)
    assert metal.demand == pytest.approx(3 * 1.4 * 10 * KIP)
    (beside,) = _metal(plan, "B2.i", found["B2.i"].sizes)
    assert beside.demand == pytest.approx(2 * 1.4 * 10 * KIP, rel=1e-3)  # B3 is on its own side
    k = np.array([plan.index[key] for key in ("B2.i", "B1.i")])
    V = plan.acting.actions(k).of_role("opposite").V
    assert V[0] == pytest.approx(plan.acting.actions(k[:1]).of_role("opposite").V[0])
