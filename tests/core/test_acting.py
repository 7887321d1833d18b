"""What acts beside a beam's own end in a building: the beam opposite, the hollow column's own force, the slope's
sense."""

from __future__ import annotations

import numpy as np
import pytest

from handrail.core.joint.relations import OPPOSITE, SHARES
from tests.bundles import SIX, Tables, plan_of, small, write

KIP = 4448.2216


def forces(tables: Tables, member: str, i: tuple, j: tuple) -> None:
    tables["end_forces"] = [row for row in tables["end_forces"] if row["member"] != member]
    for end, values in (("i", i), ("j", j)):
        tables["end_forces"].append(
            {"member": member, "end": end, "result": "D", **dict(zip(SIX, values + (0,) * (6 - len(values))))}
        )


def across(**more: str) -> Tables:
    """The small bay with a second beam G0 on the far side of column C1, hinged to it, 6 kip, pushed by 8."""
    tables = small()
    tables["nodes"].append({"node": "h", "x": -20, "y": 0, "z": 12})
    tables["members"].append(tables["members"][4] | {"member": "G0", "i": "h", "j": "b", **more})
    forces(tables, "G0", (-8, 6), (-8, 6))
    return tables


def run(plan) -> dict:
    found = dict(plan.batch().run(plan.families()))
    return {plan.assigned[k].connection.id: o for k, o in found.items()}


def test_beams_on_both_flanges_are_across_not_opposed(tmp_path):
    """They share no bolts and no metal, but press on one column web together."""
    plan = plan_of(write(across(), tmp_path / "b"))
    found = {c.id: c for c in plan.framing.connections}
    assert (found["G1.i"].others(OPPOSITE), found["G0.j"].others(OPPOSITE)) == (("G0.j",), ("G1.i",))
    assert found["G1.i"].others(SHARES) == () and found["B1.i"].others() == ()
    assigned = plan.assigned[plan.index["G1.i"]]
    assert assigned.situation.opposed
    k = np.array([plan.index["G1.i"]])
    assert plan.acting.others(k)["opposite"].N[0, 0] / KIP == pytest.approx(-1.4 * 8)  # a thrust
    names = {c.check for c in plan.look(assigned, run(plan)["G1.i"].sizes).checks}
    assert "support_web_buckling" in names and "support_shear" in names


def test_a_beam_across_without_forces_leaves_it_unchecked(tmp_path):
    tables = across()
    tables["end_forces"] = [row for row in tables["end_forces"] if row["member"] != "G0"]
    plan = plan_of(write(tables, tmp_path / "b"))
    found = run(plan)
    assert found["G1.i"].status == "unchecked" and "beam opposite has no forces" in found["G1.i"].reason
    looked = plan.look(
        plan.assigned[plan.index["G1.i"]], plan.family(plan.assigned[plan.index["G1.i"]]) and found["G2.j"].sizes
    )
    assert looked.status == "unchecked"
    assert found["G2.j"].status == "pass"


def hollow(Fx: float, Mz: float = 0.0, section: str = "HSS8X8X3/8") -> Tables:
    """The small bay on hollow columns; C1 carries `Fx` kip of compression and `Mz` kip*ft."""
    tables = small()
    for row in tables["members"]:
        if row["member"].startswith("C"):
            row |= {"section": section, "grade": "A500C"}
    forces(tables, "C1", (-Fx, 0, 0, 0, 0, Mz), (-Fx, 0, 0, 0, 0, Mz))
    forces(tables, "G1", (6, 5), (6, 5, 0, 0, 0, 75))
    return tables


def test_a_hollow_column_s_own_force_counts(tmp_path):
    """1.4 x 200 kip with 1.4 x 10 kip*ft of moment, as the force of the same stress: A = 10.4, S = 25.2 in^3 for
    HSS8X8X3/8: 280 + 10.4 x 168/25.2 = 349.3 kip. The wall then carries less than beside an idle column."""
    plan = plan_of(write(hollow(200, 10), tmp_path / "b"))
    k = np.array([plan.index["G1.i"]])
    assert plan.acting.others(k)["support"].N[0, 0] / KIP == pytest.approx(-349.3, rel=0.005)
    idle = plan_of(write(hollow(0), tmp_path / "c"))

    def wall(of) -> float:
        assigned = of.assigned[of.index["G1.i"]]
        return next(
            c for c in of.look(assigned, run(of)["G1.i"].sizes).checks if c.check == "wall_plastification"
        ).strength

    assert wall(plan) < 0.95 * wall(idle)


def test_a_hollow_column_without_forces_leaves_a_pull_unchecked(tmp_path):
    tables = hollow(200)
    tables["end_forces"] = [row for row in tables["end_forces"] if row["member"] != "C1"]
    found = run(plan_of(write(tables, tmp_path / "b")))
    assert found["G1.i"].status == "unchecked" and "column's own force is not known" in found["G1.i"].reason
    assert found["G2.j"].status == "pass"  # nothing comes across its wall


@pytest.mark.parametrize(("roll", "face"), [(0, "short"), (90, "long")])
def test_which_face_a_beam_meets(tmp_path, roll, face):
    """HSS12X6: its depth along global X, where G1 comes from, so G1 meets a face 6 in. wide; rolled over, one 12 in.
    wide."""
    tables = hollow(10, section="HSS12X6X1/4")
    for row in tables["members"]:
        row["roll"] = roll if row["member"].startswith("C") else 0
    plan = plan_of(write(tables, tmp_path / "b"))
    situation = plan.assigned[plan.index["G1.i"]].situation
    assert (situation.framing, situation.face) == ("beam_to_hollow_column", face)


@pytest.mark.parametrize("rise", [4, -4])
def test_a_slope_has_a_sense(tmp_path, rise):
    """A beam that rises away from its support has a slope above 0; rules ask for its size."""
    tables = small()
    for node in tables["nodes"]:
        if node["node"] == "e":
            node["z"] = 12 + rise
    for table in ("members", "end_forces"):
        tables[table] = [row for row in tables[table] if row["member"] != "G2"]
    plan = plan_of(write(tables, tmp_path / "b"))
    connection = plan.framing.connections[plan.index["G1.i"]]
    assert connection.supported.slope == pytest.approx(
        np.sign(rise) * np.degrees(np.arctan(4 / 15)), abs=0.05
    )  # to a tenth of a degree


def test_rules_see_every_action_with_its_sign(tmp_path):
    plan = plan_of(write(hollow(10), tmp_path / "b"))
    k = plan.index["G1.i"]
    facts = plan.facts(k, plan.assigned[k].situation)
    assert (
        facts["N"] / KIP == pytest.approx(1.4 * 6)
        and facts["N.max"] / KIP == pytest.approx(1.4 * 6)
        and facts["N.min"] == 0
    )
    assert {f"{c}{p}" for c in ("N", "V", "Vw", "M", "Mw", "T") for p in ("", ".max", ".min")} <= set(facts)
