"""The audit's finer points: levers at rigid ends, rigid floors, grades, own sections."""

from __future__ import annotations

import pytest

from handrail.core.building.audit import audit, balance
from handrail.interchange.bundle import read_bundle
from tests.bundles import SIX, small, write


def read(tables, folder):
    return read_bundle(write(tables, folder))


def hung(offset: float):
    """A cantilever of 10 ft with 2 kip at its tip, its forces at the face of a rigid end `offset` ft long."""
    tables = small()
    tables["nodes"] = [{"node": "a", "x": 0, "y": 0, "z": 0}, {"node": "b", "x": 10, "y": 0, "z": 0}]
    base = {"section": "W18X50", "grade": "A992", "role": "beam", "release_i": "", "release_j": ""}
    tables["members"] = [{"member": "M", "i": "a", "j": "b", **base, "end_offset_i": offset, "end_offset_j": 0}]
    tables["supports"] = [dict(zip(["node", "ux", "uy", "uz", "rx", "ry", "rz"], ("a", 1, 1, 1, 1, 1, 1)))]
    tables["manifest"]["handrail"].update(forces="on_member", forces_at="offset")
    zero = dict.fromkeys(("Fx", "Fy", "Fz", "Mx", "My", "Mz"), 0)
    tables["end_forces"] = [
        {"member": "M", "end": "i", "result": "D", **zero, "Fy": 2, "Mz": 2 * (10 - offset)},
        {"member": "M", "end": "j", "result": "D", **zero, "Fy": -2},
    ]
    tables["node_loads"] = [{"node": "b", "result": "D", **zero, "Fz": -2}]
    tables["reactions"] = [{"node": "a", "result": "D", **zero, "Fz": 2, "My": -20}]
    tables["manifest"]["resources"] = [{"name": n, "path": f"{n}.csv"} for n in tables if n != "manifest"]
    return tables


@pytest.mark.parametrize("offset", [0.0, 1.5])
def test_balance_carries_the_lever_of_a_rigid_end(offset, tmp_path):
    share = balance(read(hung(offset), tmp_path / "b")).share
    assert share.max() < 1e-9


def test_without_the_lever_it_is_out_of_balance(tmp_path):
    tables = hung(1.5)
    tables["manifest"]["handrail"]["forces_at"] = "node"
    share = balance(read(tables, tmp_path / "b")).share
    assert share.max() > 0.05


def codes(tables, folder):
    return {f.code: f for f in audit(read(tables, folder)).findings}


def test_a_rigid_floor_hides_axial_force(tmp_path):
    tables = small()
    for n in tables["nodes"]:
        n["diaphragm"] = "F1" if float(n["z"]) == 12 else ""
    for row in tables["end_forces"]:
        if row["member"].startswith(("G", "B")):
            row["Fx"] = 0
    found = codes(tables, tmp_path / "b")
    assert "N = 0 in 3 beams" in found["diaphragm_axial"].message


def test_unknown_grade_and_own_section(tmp_path):
    tables = small()
    tables["members"][2]["grade"] = "Unobtainium"
    tables["sections"] = [{"designation": "PG1", "shape": "W", "d": 30, "bf": 12, "tw": 0.5, "tf": 1}]
    tables["members"][4]["section"] = "PG1"
    tables["manifest"]["resources"].append({"name": "sections", "path": "sections.csv"})
    building = read(tables, tmp_path / "b")
    found = {f.code: f for f in audit(building).findings}
    assert "Unobtainium" in found["unknown_grade"].message
    assert "PG1" in found["own_section"].message
    own = building.section("PG1")
    assert pytest.approx(2 * 12 + 28 * 0.5) == own.A / 25.4**2  # by hand: flanges and web
    assert own.Zx / 25.4**3 == pytest.approx(12 * 1 * 29 + 0.5 * 28**2 / 4)


def test_counts_and_worst_forces(tmp_path):
    found = audit(read(small(), tmp_path / "b"))
    assert found.counts["members"] == 5 and found.counts["combinations, LRFD strength"] == 1
    worst = {w["component"]: w for w in found.worst}
    assert abs(worst["Mz"]["value"]) == pytest.approx(75 * 1.3558179, rel=1e-6)
    assert worst["Fy"]["member"] == "B1"


@pytest.mark.parametrize("kind", ["spectrum", "envelope"])
def test_results_without_signs_are_not_balanced(kind, tmp_path):
    """All positive, as a spectrum's results are: no node can balance, in the case or in a combination of it."""
    tables = small()
    tables["cases"].append({"case": "SX", "title": "", "nature": "seismic", "kind": kind})
    add = dict(zip(["combination", "set", "method", "case", "factor"], ("0.9D+SX", "strength", "LRFD", "SX", "1.0")))
    tables["combinations"] += [add, add | {"case": "D", "factor": "0.9"}]
    plain = list(tables["end_forces"])
    for name in ("SX", "0.9D+SX"):
        tables["end_forces"] += [{**r, "result": name, **{k: abs(float(r[k])) + 1 for k in SIX}} for r in plain]
    before, found = codes(small(), tmp_path / "a"), codes(tables, tmp_path / "b")
    assert "SX" in found[kind].message and "cannot balance" in found[kind].message
    assert [f for f in found.values() if f.code == "out_of_balance"] == [
        f for f in before.values() if f.code == "out_of_balance"
    ]
