"""Collectors are checked with the overstrength combinations besides; nothing else is."""

from __future__ import annotations

import numpy as np
import pytest

from handrail.core.building.audit import audit
from tests.bundles import SIX, Tables, outcomes, plan_of, small, with_foundations, write

KIP = 4448.2216


def collecting(*members: str, overstrength: bool = True) -> Tables:
    """The small bay with collectors, and a beam opposite B1 with 4 kip where B1 has 10."""
    tables = small()
    tables["nodes"].append({"node": "g", "x": 15, "y": -20, "z": 12})
    tables["members"].append(tables["members"][4] | {"member": "B2", "i": "e", "j": "g"})
    tables["end_forces"] += [
        {"member": "B2", "end": end, "result": "D", **dict(zip(SIX, (0, v, 0, 0, 0, 0)))}
        for end, v in (("i", 4), ("j", -4))
    ]
    for row in tables["members"]:
        row["seismic"] = "collector" if row["member"] in members else ""
    if overstrength:
        tables["combinations"].append(
            dict(zip(["combination", "set", "method", "case", "factor"], ("OS", "overstrength", "LRFD", "D", "3.0")))
        )
    return tables


def test_a_collector_without_overstrength_is_unchecked(tmp_path):
    plan = plan_of(write(collecting("G1", overstrength=False), tmp_path / "b"))
    found = {a.connection.id: a for a in plan.assigned}
    assert found["G1.i"].status == "unchecked" and "no overstrength combinations of LRFD" in found["G1.i"].reason
    assert outcomes(tmp_path / "b")["G2.j"][1] == "pass"
    said = [f for f in audit(plan.building).findings if f.code == "no_overstrength"]
    assert [f.message.rpartition(" of ")[2].split(";")[0] for f in said] == ["ASD", "LRFD"] and said[0].member == "G1"
    whole = plan_of(write(collecting("G1"), tmp_path / "c")).building
    assert ["ASD" in f.message for f in audit(whole).findings if f.code == "no_overstrength"] == [True]


def test_a_collector_is_governed_by_overstrength(tmp_path):
    """1.4 x 5 = 7 kip by strength, 3 x 5 = 15 kip by overstrength: utilisation 15/7 of it, the sizes being the same."""
    plain = plan_of(write(collecting(), tmp_path / "a"))
    marked = plan_of(write(collecting("G1"), tmp_path / "b"))
    before, after = (dict(p.batch().run(p.families())) for p in (plain, marked))
    index = plain.index["G1.i"]
    assert (before[index].action, after[index].action) == ("1.4D", "OS")
    assert after[index].utilisation == pytest.approx(before[index].utilisation * 15 / 7)
    for name in ("G2.j", "B1.i", "B2.i"):
        assert after[plain.index[name]].utilisation == before[plain.index[name]].utilisation


def test_what_carries_a_wall_that_ends_is_governed_by_overstrength(tmp_path):
    """As a collector (ASCE 7 12.3.3.3), whatever is detailed: 15 kip for 7."""
    tables = collecting()
    for row in tables["members"]:
        row["lateral"] = "discontinuity" if row["member"] == "G1" else "not_detailed"
    marked = plan_of(write(tables, tmp_path / "b"))
    found = dict(marked.batch().run(marked.families()))
    assert found[marked.index["G1.i"]].action == "OS" and found[marked.index["G2.j"]].action == "1.4D"


def test_beams_opposite_act_in_the_same_combination(tmp_path):
    """B1 (a collector): 14 kip with 5.6 opposite, then 30 with 12; B2 (none): 5.6 with 14 both times."""
    acting = plan_of(write(collecting("B1"), tmp_path / "b")).acting
    assert acting.names == ("1.4D", "OS")
    index = np.array([next(k for k, c in enumerate(acting.connections) if c.id == name) for name in ("B1.i", "B2.i")])
    assert -acting.on(index)[..., 1] / KIP == pytest.approx(np.array([[14, 30], [5.6, 5.6]]))
    assert pytest.approx(np.array([[5.6, 12], [14, 14]])) == -acting.others(index)["opposite"].V / KIP


@pytest.mark.parametrize(
    ("shear", "lift", "category", "asked"),
    [
        (0.9, 0.0, "D", False),
        (1.1, 0.0, "D", True),
        (1.1, 0.0, "B", False),
        (0.0, 3.0, "C", False),
        (0.0, 12.0, "C", True),
    ],
)
def test_a_bases_anchors_are_asked_for_by_an_earthquakes_share(tmp_path, shear, lift, category, asked):
    """1.0 D + 1.0 E with 4 kip of shear and -5 kip by D: 0.9 of 4.9 is 18 %, 1.1 of 5.1 22 % (ACI 318-19 17.10.6.1); a
    lift of 3 leaves it pressed, of 12 it pulls 7, all of it the earthquake's (17.10.5.1). Asked for and without
    overstrength it is unchecked; with it, that counts."""
    tables = with_foundations(small())
    tables["manifest"]["handrail"]["seismic_design_category"] = category
    tables["cases"].append({"case": "E", "title": "Quake", "nature": "seismic", "kind": "linear"})
    for case, factor in (("D", "1.0"), ("E", "1.0")):
        tables["combinations"].append(
            {"combination": "D+E", "set": "strength", "method": "LRFD", "case": case, "factor": factor}
        )
    for row in tables["end_forces"]:
        if row["member"] == "C1":
            row["Fy"] = 4
    blank = dict.fromkeys(SIX, 0)
    for row in [r for r in tables["end_forces"] if r["result"] == "D"]:
        own = blank | {"Fy": shear, "Fx": lift} if row["member"] == "C1" else blank
        tables["end_forces"].append({"member": row["member"], "end": row["end"], "result": "E", **own})
    plan = plan_of(write(tables, tmp_path / "a"))
    found = plan.assigned[plan.index["C1.i"]]
    assert plan.acting.quaking[plan.index["C1.i"]] == asked and not plan.acting.quaking[plan.index["C2.i"]]
    assert ("overstrength" in found.reason) == asked
    tables["combinations"].append(
        {"combination": "OS", "set": "overstrength", "method": "LRFD", "case": "E", "factor": "3.0"}
    )
    whole = plan_of(write(tables, tmp_path / "b"))
    base = whole.assigned[whole.index["C1.i"]]
    assert base.situation.quaking == asked and base.reason == ""
    assert ("OS" in whole.acting.actions(np.array([whole.index["C1.i"]])).names) == asked
