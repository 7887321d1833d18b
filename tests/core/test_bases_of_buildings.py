"""Bases where they stand in a building: edges as the column sees them, the support's whole reaction, combinations for
the concrete."""

from __future__ import annotations

import numpy as np
import pytest

from handrail.core.building.base_reactions import support_reaction
from handrail.core.building.framing import frame
from handrail.core.checking.foundations import foundation_problem, under
from handrail.core.quantities.units import INCH, KIP
from handrail.interchange.bundle import read_bundle
from tests.bundles import DEMO, changed, plan_of, small, with_foundations, write

FT = 12 * INCH


def bay(tmp_path, change=lambda t: None):
    tables = with_foundations(small())
    change(tables)
    return plan_of(write(tables, tmp_path / "b"))


def base(plan, name="C1.i"):
    return plan.assigned[plan.index[name]]


def test_edges_as_the_column_sees_them(tmp_path):
    """C1's web is along X: along is -x, +x and across its local z, which is Y. Rolled by 90 degrees along is Y and
    across -X."""
    below = base(bay(tmp_path)).situation.foundation
    assert below.along == (pytest.approx(FT), pytest.approx(1.5 * FT)) and below.across == (
        pytest.approx(FT),
        pytest.approx(FT),
    )

    def roll(t):
        t["members"][0]["roll"] = "90"
        t["foundations"][0] |= {"edge_ym": "2", "edge_yp": "3"}

    turned = base(bay(tmp_path / "r", roll)).situation.foundation
    assert turned.along == (pytest.approx(2 * FT), pytest.approx(3 * FT))
    assert turned.across == (pytest.approx(1.5 * FT), pytest.approx(FT))


def test_a_turned_foundation(tmp_path):
    """C2's slab is turned by 90 degrees: its x runs along Y, so what is 2 ft at -x is at -Y, free at +Y, and its y is
    -X."""
    below = base(bay(tmp_path), "C2.i").situation.foundation
    assert (
        below.across == (pytest.approx(2 * FT), np.inf)
        and below.along == (pytest.approx(2 * FT), pytest.approx(2 * FT))
        and not below.cracked
    )


def test_what_stands_askew_or_on_nothing_is_told(tmp_path):
    askew = base(bay(tmp_path, lambda t: t["foundations"][0].update({"turn": "20"})))
    assert askew.status == "unchecked" and "20.0 deg askew" in askew.reason
    (nothing,) = [o for o in bay(tmp_path / "n", lambda t: t["foundations"].pop(0)).work({"C1.i"}).values()]
    assert nothing.status == "unchecked" and "no foundation is known under this base" in nothing.reason
    far = bay(
        tmp_path / "f",
        lambda t: t["foundations"][0].update(
            {"turn": "20", "edge_xm": "", "edge_xp": "", "edge_ym": "", "edge_yp": ""}
        ),
    )
    assert base(far).reason == ""  # without an edge it does not matter how it is turned


def test_an_inclined_column_is_told(tmp_path):
    """Its foot 1 ft out of plumb over 12 ft."""
    found = base(bay(tmp_path, lambda t: next(n for n in t["nodes"] if n["node"] == "b").update({"x": "0.5"})))
    assert found.status == "unchecked" and "not stand upright" in found.reason


def test_a_brace_brings_its_part_of_the_reaction():
    """At a base of the demo with a brace the support's reaction goes through the plate; where no reactions are given,
    the ends' sum, the same."""
    building = read_bundle(DEMO / "bundle")
    plan = plan_of(DEMO / "bundle")
    k = plan.index["C26.i"]
    connection = plan.framing.connections[k]
    assert len(building.ends_at[connection.node]) == 2
    given = building.reactions.node == connection.node
    assert support_reaction(building, connection.node) == pytest.approx(
        building.reactions.values[given], rel=1e-3, abs=50.0
    )
    acts = plan.acting.actions(np.array([k]))
    combined = plan.acting.strength.forces(support_reaction(building, connection.node)[None])[0]
    assert acts.N[0] == pytest.approx(-combined[:, 2], rel=1e-6)  # the column stands upright, its web along X
    assert acts.V[0] == pytest.approx(combined[:, 0], rel=1e-6, abs=1.0)
    own = plan.acting.strength.forces(building.forces[connection.member, :, 0][None])[0]
    assert np.abs(acts.V[0] - own[:, 1]).max() > 20 * KIP  # the column alone has next to none of the shear


def test_without_reactions_the_ends_are_added_up(tmp_path):
    def without(t):
        t["reactions"] = []
        t["manifest"]["resources"] = [r for r in t["manifest"]["resources"] if r["name"] != "reactions"]
        del t["reactions"]

    plan, whole = plan_of(write(changed(without), tmp_path / "b")), plan_of(DEMO / "bundle")
    k = np.array([plan.index["C26.i"]])
    assert pytest.approx(whole.acting.actions(k).V, rel=2e-3, abs=200.0) == plan.acting.actions(k).V


def test_an_allowable_job_takes_strength_combinations_for_its_concrete(tmp_path):
    """The small bay has 1.4D of LRFD and D of ASD: both act on its bases, and only D on its shear ends; without LRFD
    nothing is said of them."""
    tables = with_foundations(small())
    plan = plan_of(write(tables, tmp_path / "b"), "ASD")
    acts = plan.acting.actions(np.array([plan.index["C1.i"]]))
    assert acts.sets == (("ASD", "strength"), ("LRFD", "strength")) and acts.N[0] == pytest.approx([-5 * KIP, -7 * KIP])
    assert plan.acting.actions(np.array([plan.index["B1.i"]])).names == ("D",)
    outcome = dict(plan.batch().run(plan.families({"C1.i"})))[plan.index["C1.i"]]
    assert outcome.status == "pass"
    tables["combinations"] = [c for c in tables["combinations"] if c["method"] == "ASD"]
    alone = plan_of(write(tables, tmp_path / "c"), "ASD")
    outcome = dict(alone.batch().run(alone.families({"C1.i"})))[alone.index["C1.i"]]
    assert outcome.status == "unchecked" and "combinations of LRFD" in outcome.reason


@pytest.mark.parametrize("mark", ["column", "brace"])
def test_the_lateral_system_needs_overstrength(tmp_path, mark):
    def lateral(t):
        t["members"][0]["seismic"] = mark if mark == "column" else ""
        if mark == "brace":
            t["members"].append(
                t["members"][0]
                | {
                    "member": "X1",
                    "i": "a",
                    "j": "d",
                    "section": "HSS4X4X1/4",
                    "grade": "A500C",
                    "role": "brace",
                    "seismic": "brace",
                    "release_i": "My Mz",
                    "release_j": "My Mz",
                }
            )
            t["end_forces"] += [r | {"member": "X1"} for r in t["end_forces"] if r["member"] == "C2"]

    found = base(bay(tmp_path, lateral))
    assert found.situation.seismic and found.status == "unchecked" and "overstrength" in found.reason
    assert frame(read_bundle(DEMO / "bundle")) and not base(bay(tmp_path / "n")).situation.seismic


def test_foundations_and_columns_that_do_not_meet():
    plan = plan_of(DEMO / "bundle")
    connection = plan.framing.connections[plan.index["C1.i"]]
    assert foundation_problem(plan.building, connection) == "" and under(plan.building, connection).kind == "slab"
