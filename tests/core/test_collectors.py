"""Collectors are checked with the overstrength combinations besides; nothing else is."""

from __future__ import annotations

import numpy as np
import pytest

from handrail.core.building.audit import audit
from tests.bundles import SIX, Tables, outcomes, plan_of, small, write

KIP = 4448.2216


def collecting(*members: str, overstrength: bool = True) -> Tables:
    """The small bay with collectors, and a beam opposite B1 with 4 kip where B1 has 10."""
    tables = small()
    tables["nodes"].append({"node": "g", "x": 15, "y": -20, "z": 12})
    tables["members"].append(tables["members"][4] | {"member": "B2", "i": "e", "j": "g"})
    tables["end_forces"] += [
        {"member": "B2", "end": end, "result": "D", **dict(zip(SIX, (0, v, 0, 0, 0, 0)))} for end, v in (("i", 4), ("j", -4))
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


def test_beams_opposite_act_in_the_same_combination(tmp_path):
    """B1 (a collector): 14 kip with 5.6 opposite, then 30 with 12; B2 (none): 5.6 with 14 both times."""
    acting = plan_of(write(collecting("B1"), tmp_path / "b")).acting
    assert acting.names == ("1.4D", "OS")
    index = np.array([next(k for k, c in enumerate(acting.connections) if c.id == name) for name in ("B1.i", "B2.i")])
    assert -acting.on(index)[..., 1] / KIP == pytest.approx(np.array([[14, 30], [5.6, 5.6]]))
    assert -acting.opposed(index)[..., 1] / KIP == pytest.approx(np.array([[5.6, 12], [14, 14]]))
