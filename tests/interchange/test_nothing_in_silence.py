"""What is doubled, padded, misspelt or impossible in a bundle is read as meant or refused with its place; nothing is
taken in silence."""

from __future__ import annotations

import numpy as np
import pytest

from handrail.core.building.audit import audit
from handrail.core.building.framing import frame
from handrail.interchange.bundle import read_bundle
from handrail.interchange.problems import BundleError
from tests.bundles import Tables, small, write


def refused(tables: Tables, folder) -> str:
    with pytest.raises(BundleError) as found:
        read_bundle(write(tables, folder))
    return str(found.value)


@pytest.mark.parametrize("table", ["nodes", "members", "combinations", "end_forces"])
def test_a_column_that_is_there_twice(tmp_path, table):
    path = write(small(), tmp_path / "b") / f"{table}.csv"
    lines = path.read_text().splitlines()
    name = lines[0].split(",")[1]
    path.write_text("\n".join([f"{lines[0]},{name}", *(f"{line},0" for line in lines[1:])]) + "\n")
    with pytest.raises(BundleError) as found:
        read_bundle(tmp_path / "b")
    assert f"{table}.csv row 1 column {name}: the column is there 2 times" in str(found.value)


@pytest.mark.parametrize("table", ["nodes", "members", "supports", "cases", "combinations", "end_forces"])
def test_padded_cells_are_read_alike(tmp_path, table):
    plain = read_bundle(write(small(), tmp_path / "a"))
    path = write(small(), tmp_path / "b") / f"{table}.csv"
    path.write_text(
        "\n".join(",".join(f" {cell}\t" for cell in line.split(",")) for line in path.read_text().splitlines()) + "\n"
    )
    padded = read_bundle(tmp_path / "b")
    assert np.array_equal(plain.forces, padded.forces, equal_nan=True) and np.array_equal(plain.xyz, padded.xyz)
    assert (plain.members, plain.combinations, plain.supports) == (padded.members, padded.combinations, padded.supports)


def test_padded_rows_that_are_wrong_are_still_named(tmp_path):
    tables = small()
    tables["end_forces"][3]["member"] = " B9 "
    assert "end_forces.csv row 5 column member: 'B9' is not in members" in refused(tables, tmp_path / "b")


@pytest.mark.parametrize("name", ["strenght", "Strength", "over-strength", "servce", "overstength"])
def test_a_misspelt_set(tmp_path, name):
    tables = small()
    tables["combinations"][0]["set"] = name
    assert f"combinations.csv row 2 column set: set '{name}' looks like" in refused(tables, tmp_path / "b")


def test_a_set_of_one_s_own(tmp_path):
    tables = small()
    tables["combinations"].append(dict(tables["combinations"][0], combination="E1", set="erection"))
    assert read_bundle(write(tables, tmp_path / "b")).combinations[-1].set == "erection"


@pytest.mark.parametrize(
    ("i", "j", "words"),
    [(8, 7.5, "nothing is left of it"), (15, 0, "nothing is left of it"), (-1, 0, "shorter than nothing")],
)
def test_rigid_ends_leave_some_of_the_member(tmp_path, i, j, words):
    """G1 is 15 ft long."""
    tables = small()
    for row in tables["members"]:
        row |= (
            {"end_offset_i": i, "end_offset_j": j} if row["member"] == "G1" else {"end_offset_i": 0, "end_offset_j": 0}
        )
    assert words in refused(tables, tmp_path / "b")


def test_no_combination_at_all(tmp_path):
    tables = small()
    for row in tables["combinations"]:
        row["set"] = "service"
    found = audit(read_bundle(write(tables, tmp_path / "b"))).findings[0]
    assert (found.severity, found.code) == ("error", "no_combinations")


def physical(**ids: str) -> Tables:
    tables = small()
    for row in tables["members"]:
        row["physical"] = ids.get(row["member"], "")
    return tables


@pytest.mark.parametrize(
    ("ids", "why"),
    [
        ({"C1": "1", "C2": "2", "G1": "1", "G2": "2", "B1": "3"}, "physical 1 names beam and column members"),
        ({"G1": "x", "B1": "x"}, "physical x names members that are not in one line"),
        ({"C1": "y", "C2": "y"}, "physical y names members that do not touch end to end"),
    ],
)
def test_ids_that_name_no_piece_of_steel(tmp_path, ids, why):
    """An error of the audit; and each end has its connection, or the reason why it has none."""
    building = read_bundle(write(physical(**ids), tmp_path / "b"))
    found = [f for f in audit(building).findings if f.code == "physical_broken"]
    assert found and all(f.severity == "error" for f in found) and why in found[0].message
    framing = frame(building)
    named = {c.id for c in framing.connections} | {word for word, _ in framing.without}
    through = {
        (m, e)
        for n, ends in building.ends_at.items()
        for m, e in ends
        if (m, e) not in framing.pieces.ending.get(n, ())
    }
    for member in range(len(building.members)):
        for end in (0, 1):
            name = f"{building.members[member].name}.{'ij'[end]}"
            assert name in named or (member, end) in through, name
    whole = frame(read_bundle(write(small(), tmp_path / "c")))
    assert {c.id for c in framing.connections} >= {c.id for c in whole.connections}


def test_ids_that_name_one_are_believed(tmp_path):
    building = read_bundle(write(physical(G1="g", G2="g"), tmp_path / "b"))
    assert not [f for f in audit(building).findings if f.code == "physical_broken"]
    assert "B1.i" in {c.id for c in frame(building).connections}


def test_an_array_that_nobody_could_hold_is_not_begun(tmp_path, monkeypatch):
    """Rows, results and the array they make are bounded before it is made: a small file may ask for a large one."""
    from handrail.interchange import end_forces

    monkeypatch.setattr(end_forces, "MOST_VALUES", 5 * 12 - 1)  # the small bay: 5 members, with rows of one result
    assert "5 members in 1 cases and combinations would be" in refused(small(), tmp_path / "b")
    monkeypatch.setattr(end_forces, "MOST_VALUES", 5 * 12)
    assert len(read_bundle(tmp_path / "b").members) == 5
