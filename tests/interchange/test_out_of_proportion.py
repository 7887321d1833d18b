"""A small archive that would become a large building: told before anything of it is made."""

from __future__ import annotations

import pytest

from handrail.interchange import blocks, end_forces, tables
from handrail.interchange.bundle import read_bundle
from handrail.interchange.problems import BundleError
from tests.bundles import small, write


def sparse(members: int, results: int):
    """A chain of members with forces given for one end alone, once in each result."""
    found = small()
    found["nodes"] = [{"node": f"n{k}", "x": k, "y": 0, "z": 0} for k in range(members + 1)]
    found["members"] = [
        {"member": f"m{k}", "i": f"n{k}", "j": f"n{k + 1}", "section": "W12X65", "grade": "A992", "role": "beam"}
        for k in range(members)
    ]
    found["supports"] = [dict(zip(["node", "ux", "uy", "uz", "rx", "ry", "rz"], ("n0", 1, 1, 1, 0, 0, 1)))]
    found["combinations"] = [
        {"combination": f"c{k}", "set": "strength", "method": "LRFD", "case": "D", "factor": 1} for k in range(results)
    ]
    zero = dict.fromkeys(("Fx", "Fy", "Fz", "Mx", "My", "Mz"), 0)
    found["end_forces"] = [{"member": "m0", "end": "i", "result": f"c{k}", **zero} for k in range(results)]
    return found


def refused(folder) -> str:
    with pytest.raises(BundleError) as caught:
        read_bundle(folder)
    return str(caught.value)


def test_rows_that_fill_next_to_nothing(tmp_path, monkeypatch):
    """30 members in 40 results are 14,400 numbers; 40 rows give 240 of them."""
    folder = write(sparse(30, 40), tmp_path / "b")
    assert read_bundle(folder).forces.shape == (30, 40, 2, 6)  # few numbers are no trouble however sparse
    monkeypatch.setattr(end_forces, "FEW_VALUES", 10_000)
    monkeypatch.setattr(
        "numpy.zeros",
        lambda shape, *_: (_ for _ in ()).throw(AssertionError(f"made {shape}")) if 0 not in shape else None,
    )
    assert "40 rows fill less than one in 20 of 30 members' ends in 40 cases and combinations" in refused(folder)


@pytest.mark.parametrize("pad", ("", " "))
def test_combinations_that_are_made_of_cases_take_no_room(tmp_path, monkeypatch, pad):
    """Only what rows are of is made room for, however many combinations there are."""
    found = small()
    met = {row["result"] for row in found["end_forces"]}
    found["end_forces"] = [row | {"result": f"{pad}{row['result']}{pad}"} for row in found["end_forces"]]
    made = [
        {"combination": f"c{k}", "set": "strength", "method": "LRFD", "case": "D", "factor": 1 + k / 100}
        for k in range(400)
    ]
    found["combinations"] = [*found["combinations"], *made]
    monkeypatch.setattr(end_forces, "FEW_VALUES", 10)
    monkeypatch.setattr(end_forces, "MOST_VALUES", 500)
    building = read_bundle(write(found, tmp_path / "b"))
    assert set(building.results) == met and building.forces.shape[1] == len(met)


def test_more_rows_than_there_are_ends(tmp_path, monkeypatch):
    monkeypatch.setattr(end_forces, "SPARE", 5)
    found = small()
    found["end_forces"] *= 4
    assert "5 members' ends in 2 cases and combinations are 20: some are given more than once" in refused(
        write(found, tmp_path / "b")
    )


def test_a_line_without_end(tmp_path, monkeypatch):
    monkeypatch.setattr(blocks, "BLOCK", 4096)
    folder = write(small(), tmp_path / "b")
    with (folder / "end_forces.csv").open("a") as stream:
        stream.write("0" * 20_000)
    assert "a line of more than" in refused(folder)


@pytest.mark.parametrize(
    ("name", "limit", "words"), [("MOST_ROWS", 4, "has 7 rows; at most 4"), ("MOST_BYTES", 50, "MB; at most")]
)
def test_a_table_that_is_too_large(tmp_path, monkeypatch, name, limit, words):
    monkeypatch.setattr(tables, name, limit)
    assert words in refused(write(small(), tmp_path / "b"))


def test_what_is_wrong_far_down_is_named_with_its_row(tmp_path, monkeypatch):
    """The rows are read again block by block to say what is wrong: the numbers of the rows go on."""
    monkeypatch.setattr(blocks, "BLOCK", 100)
    found = small()
    found["end_forces"][7]["member"] = "nobody"
    found["end_forces"][9]["Fz"] = "much"
    folder = write(found, tmp_path / "b")
    with pytest.raises(BundleError) as caught:
        read_bundle(folder)
    assert [(p.row, p.column) for p in caught.value.problems] == [(9, "member"), (11, "Fz")]
