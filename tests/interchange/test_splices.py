"""Splices away from a node: the member is cut there, and the forces come from stations or by statics worked by hand."""

from __future__ import annotations

import numpy as np
import pytest

from handrail.core.building.audit import audit, balance
from handrail.core.building.framing import frame
from handrail.core.quantities.units import INCH, KIP
from handrail.interchange.bundle import read_bundle
from handrail.interchange.problems import BundleError
from tests.bundles import plan_of, small, write

FT = 12 * INCH


def told(tables, name, columns, *rows):
    tables[name] = [dict(zip(columns, row)) for row in rows]
    tables["manifest"]["resources"].append({"name": name, "path": f"{name}.csv"})
    return tables


def spliced(distance="8", **more):
    """The small bay with B1 (20 ft, 10 kip up at i and 10 at j as given there) cut at 8 ft."""
    return told(small(), "splices", ("member", "distance", "kind"), ("B1", distance, "site"))


def loaded(tables, *loads):
    return told(
        tables, "member_loads", ("member", "case", "kind", "direction", "from", "to", "value", "value_to"), *loads
    )


def at_the_splice(folder):
    """(N, Vy, Vz, T, My, Mz) in kip and kip ft on the face towards j, by case D."""
    building = read_bundle(folder)
    k = next(n for n, m in enumerate(building.members) if m.name == "B1~1")
    return building, building.forces[k, 0, 1] / np.array([KIP] * 3 + [KIP * FT] * 3)


UP = ("B1", "D", "distributed", "Z", "0", "20", "1", "")


def test_a_uniform_load(tmp_path):
    """B1's ends are held down with 10 kip each under 1 kip/ft up on 20 ft. On the face at 8 ft: V = 10 - 8 = 2 kip; M =
    -10 x 8 + 8 x 4 = -48 kip ft. The beam is cut in two there, and its node is in balance."""
    building, found = at_the_splice(write(loaded(spliced(), UP), tmp_path / "b"))
    assert found == pytest.approx([0, 2, 0, 0, 0, -48], abs=1e-6)
    assert [m.name for m in building.members if m.name.startswith("B1")] == ["B1~1", "B1~2"]
    joint = next(c for c in frame(building).connections if c.framing == "beam_splice")
    assert building.nodes[joint.node] == "B1@8" and joint.id == "B1~2.i"
    assert not [f for f in audit(building).findings if f.node == "B1@8"]
    assert np.abs(balance(building).residual[joint.node]).max() < 1e-6


def test_point_and_tapered_loads(tmp_path):
    """12 kip up at 5 ft and 8 at 15 ft: ends 12 x 15/20 + 8 x 5/20 = 11 and 9. At 8 ft: V = 11 - 12 = -1; M = -11 x 8 +
    12 x 3 = -52 kip ft. A triangle from 0 to 2 kip/ft over 15 ft (15 kip at 10 ft): ends 7.5 and 7.5; at 9 ft its part
    is 1.2 x 9/2 = 5.4 at 6 ft: V = 7.5 - 5.4 = 2.1; M = -7.5 x 9 + 5.4 x 3 = -51.3."""
    for rows, ends, at, wanted in (
        (
            [("B1", "D", "point", "y", "5", "", "12", ""), ("B1", "D", "point", "Z", "15", "", "8", "")],
            (11, 9),
            "8",
            (-1, -52),
        ),
        ([("B1", "D", "distributed", "y", "0", "15", "0", "2")], (7.5, 7.5), "9", (2.1, -51.3)),
    ):
        tables = loaded(spliced(at), *rows)
        for row in tables["end_forces"]:
            if row["member"] == "B1":
                row["Fy"] = ends[0] if row["end"] == "i" else -ends[1]
        _, found = at_the_splice(write(tables, tmp_path / f"b{at}"))
        assert (found[1], found[5]) == (pytest.approx(wanted[0]), pytest.approx(wanted[1]))


def test_nothing_between_the_ends(tmp_path):
    """5 kip and moments that follow it, no load: at 8 of 20 ft the moment is -5 x 8 = -40 kip ft. Ends that disagree:
    not known, and said."""
    tables = spliced()
    for row in tables["end_forces"]:
        if row["member"] == "B1":
            row.update({"Fy": 5, "Mz": 0 if row["end"] == "i" else -100})
    _, found = at_the_splice(write(tables, tmp_path / "b"))
    assert (found[1], found[5]) == (pytest.approx(5), pytest.approx(-40))
    building, found = at_the_splice(write(spliced(), tmp_path / "c"))
    assert np.isnan(found).all()
    said = [f.message for f in audit(building).findings if f.code == "splice_unknown"]
    assert len(said) == 1 and said[0].startswith("splice B1@8: the forces")
    assert not [f for f in audit(building).findings if f.code == "forces_missing"]
    tables = spliced()
    tables["members"][4] |= {"section": "W16X31"}
    plan = plan_of(write(tables, tmp_path / "d"))
    splice = next(a for a in plan.assigned if a.connection.framing == "beam_splice")
    assert splice.status in ("unchecked", "unassigned") and (splice.rule is None or "not known in D" in splice.reason)


def test_a_station_there(tmp_path):
    """What is given at the splice is taken, whatever loads there are; a station elsewhere is not."""
    six = ("member", "distance", "result", "Fx", "Fy", "Fz", "Mx", "My", "Mz")
    tables = told(
        spliced(),
        "stations",
        six,
        ("B1", "8", "D", "1", "2", "0", "0", "0", "48"),
        ("B1", "12", "D", "9", "9", "9", "9", "9", "9"),
    )
    _, found = at_the_splice(write(tables, tmp_path / "b"))
    assert found == pytest.approx([1, 2, 0, 0, 0, 48])
    tables = told(spliced(), "stations", six, ("B1", "12", "D", "9", "9", "9", "9", "9", "9"))
    assert np.isnan(at_the_splice(write(tables, tmp_path / "c"))[1]).all()


def test_two_on_one_member_and_the_rest_as_it_was(tmp_path):
    """Cut at 8 and 12 ft: three pieces, all in balance; releases stay at the outer ends; nobody else changes."""
    tables = loaded(spliced(), UP)
    tables["splices"].append({"member": "B1", "distance": "12", "kind": ""})
    building = read_bundle(write(tables, tmp_path / "b"))
    pieces = [m for m in building.members if m.name.startswith("B1")]
    assert [(m.name, bool(m.release_i), bool(m.release_j)) for m in pieces] == [
        ("B1~1", True, False),
        ("B1~2", False, False),
        ("B1~3", False, True),
    ]
    splices = [c for c in frame(building).connections if c.framing == "beam_splice"]
    assert [building.nodes[c.node] for c in splices] == ["B1@8", "B1@12"]
    assert all(np.abs(balance(building).residual[c.node]).max() < 1e-6 for c in splices)
    assert [m.name for m in building.members if not m.name.startswith("B1")] == ["C1", "C2", "G1", "G2"]


def test_a_column_cut_above_its_floor(tmp_path):
    building = read_bundle(write(told(small(), "splices", ("member", "distance"), ("C1", "4")), tmp_path / "b"))
    assert [c.framing for c in frame(building).connections if c.node == list(building.nodes).index("C1@4")] == [
        "column_splice"
    ]


@pytest.mark.parametrize(
    ("rows", "words"),
    [
        ([("B1", "0")], "not on it"),
        ([("B1", "20")], "not on it"),
        ([("B1", "-3")], "not on it"),
        ([("B1", "33")], "not on it"),
        ([("B9", "3")], "'B9' is not in members"),
        ([("B1", "8"), ("B1", "8")], "B1"),
        ([("B1", "x")], "not a number"),
        ([("B1", "")], "is empty"),
    ],
)
def test_splices_that_cannot_be(tmp_path, rows, words):
    with pytest.raises(BundleError, match=words):
        read_bundle(write(told(small(), "splices", ("member", "distance"), *rows), tmp_path / "b"))
