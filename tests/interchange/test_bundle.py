"""A damaged bundle of every kind: refused, with the file, the row and the column."""

from __future__ import annotations

import json
import warnings
import zipfile
from pathlib import Path

import numpy as np
import pytest

from handrail.core.building.audit import audit
from handrail.interchange.archive import zip_folder
from handrail.interchange.bundle import read_bundle
from handrail.interchange.problems import BundleError
from tests.bundles import Tables, outcomes, small, write


def problems(tables: Tables, folder: Path) -> list[str]:
    with pytest.raises(BundleError) as caught:
        read_bundle(write(tables, folder))
    return [str(p) for p in caught.value.problems]


def test_small_bundle_reads(tmp_path):
    building = read_bundle(write(small(), tmp_path / "b"))
    assert [m.name for m in building.members] == ["C1", "C2", "G1", "G2", "B1"]
    assert building.xyz[1, 2] == pytest.approx(12 * 304.8)
    # internal at i is turned over: what the node does to the girder's end is -5 kip of internal shear
    assert building.forces[2, 0, 1, 1] == pytest.approx(5 * 4448.2216, rel=1e-6)
    assert building.forces[4, 0, 0, 1] == pytest.approx(-10 * 4448.2216, rel=1e-6)


def test_zip_is_the_same_bundle(tmp_path):
    folder = write(small(), tmp_path / "b")
    zip_folder(folder, tmp_path / "b.zip")
    one, two = read_bundle(folder), read_bundle(tmp_path / "b.zip")
    assert np.array_equal(one.forces, two.forces)
    assert one.members == two.members


def rows(table, at, **change):
    def apply(t: Tables) -> None:
        t[table][at].update(change)

    return apply


def drop_column(table, name):
    return lambda t: [row.pop(name) for row in t[table]]


def drop_table(name):
    def apply(t: Tables) -> None:
        t["manifest"]["resources"] = [r for r in t["manifest"]["resources"] if r["name"] != name]

    return apply


def again(table, at):
    return lambda t: t[table].append(dict(t[table][at]))


def hand(**change):
    return lambda t: t["manifest"]["handrail"].update(change)


DAMAGE = [
    (drop_table("members"), "members", ""),
    (drop_column("nodes", "z"), "nodes.csv row 1 column z", "missing"),
    (drop_column("end_forces", "Fy"), "end_forces.csv row 1 column Fy", "missing"),
    (rows("nodes", 2, x="thirty"), "nodes.csv row 4 column x", "not a number"),
    (rows("nodes", 2, x="nan"), "nodes.csv row 4 column x", "not finite"),
    (rows("nodes", 2, x="1e308"), "nodes.csv row 4 column x", "too large to be meant"),
    (rows("end_forces", 3, Fy="-2e300"), "end_forces.csv row 5 column Fy", "too large to be meant"),
    (rows("nodes", 2, x=""), "nodes.csv row 4 column x", "empty"),
    (again("nodes", 0), "nodes.csv row 8 column node", "already in row 2"),
    (again("members", 1), "members.csv row 7 column member", "already in row 3"),
    (rows("members", 2, j="nowhere"), "members.csv row 4 column j", "'nowhere' is not in nodes"),
    (rows("members", 2, j="b"), "members.csv row 4", "no length"),
    (rows("members", 2, release_i="Mq"), "members.csv row 4 column release_i", "none of N Vy Vz T My Mz"),
    (rows("members", 2, role="truss"), "members.csv row 4 column role", "beam, column, brace"),
    (rows("supports", 0, node="zz"), "supports.csv row 2 column node", "not in nodes"),
    (rows("supports", 0, ux="yes"), "supports.csv row 2 column ux", "neither 1"),
    (rows("cases", 0, nature="heavy"), "cases.csv row 2 column nature", "none of dead"),
    (rows("combinations", 0, case="X"), "combinations.csv row 2 column case", "'X' is not in cases"),
    (rows("combinations", 0, method="WSD"), "combinations.csv row 2 column method", "LRFD, ASD, none"),
    (rows("combinations", 0, factor="inf"), "combinations.csv row 2 column factor", "not finite"),
    (rows("end_forces", 3, member="Q"), "end_forces.csv row 5 column member", "'Q' is not in members"),
    (rows("end_forces", 3, end="k"), "end_forces.csv row 5 column end", "neither i nor j"),
    (rows("end_forces", 3, result="W"), "end_forces.csv row 5 column result", "'W' is not in cases"),
    (rows("end_forces", 3, Fy="NaN"), "end_forces.csv row 5 column Fy", "not a finite number"),
    (rows("end_forces", 3, Fy="1,5"), "end_forces.csv row 5 column Fy", "is not a number"),
    (rows("end_forces", 3, Mz="inf"), "end_forces.csv row 5 column Mz", "not a finite number"),
    (again("end_forces", 0), "end_forces.csv row 12 column member", "was given before"),
    (
        hand(units={"length": "blorps", "section": "in", "force": "kip", "moment": "kip*ft"}),
        "datapackage.json",
        "not a unit of length",
    ),
    (hand(units={"length": "ft", "section": "in", "force": "kip"}), "datapackage.json", "units.moment is missing"),
    (
        hand(units={"length": "ft", "section": "in", "force": "ft", "moment": "kip*ft"}),
        "datapackage.json",
        "not a unit of force",
    ),
    (hand(up="X"), "datapackage.json", "state Z or Y"),
    (hand(forces="global"), "datapackage.json", "internal or on_member"),
    (hand(bundle=2), "datapackage.json", "version 1"),
    (hand(forces_at="face"), "datapackage.json", "node or offset"),
]


@pytest.mark.parametrize(("damage", "place", "words"), DAMAGE, ids=[f"{p}-{w}"[:60] for _, p, w in DAMAGE])
def test_damage_is_named(damage, place, words, tmp_path):
    tables = small()
    damage(tables)
    found = problems(tables, tmp_path / "b")
    assert any(place in p and words in p for p in found), found


def test_problems_are_collected_up_to_two_hundred(tmp_path):
    tables = small()
    tables["nodes"] = [{"node": f"n{k}", "x": "bad", "y": 0, "z": 0} for k in range(300)]
    with pytest.raises(BundleError) as caught:
        read_bundle(write(tables, tmp_path / "b"))
    assert len(caught.value.problems) == 200
    assert caught.value.more >= 100


@pytest.mark.parametrize("name", ["../out.csv", "/abs.csv", "a/../../out.csv"])
def test_a_path_that_leaves_the_archive(name, tmp_path):
    path = tmp_path / "bad.zip"
    with zipfile.ZipFile(path, "w") as archive:
        archive.writestr("datapackage.json", "{}")
        archive.writestr(name, "x")
    with pytest.raises(BundleError, match="leaves the archive"):
        read_bundle(path)
    assert not (tmp_path / "out.csv").exists()


def test_a_resource_that_leaves_the_bundle(tmp_path):
    tables = small()
    tables["manifest"]["resources"][0]["path"] = "../nodes.csv"
    assert any("leaves the bundle" in p for p in problems(tables, tmp_path / "b"))


@pytest.mark.parametrize("content", [b"", b"not a zip", b"PK\x03\x04 cut short"])
def test_an_unreadable_archive(content, tmp_path):
    path = tmp_path / "b.zip"
    path.write_bytes(content)
    with pytest.raises(BundleError, match="zip"):
        read_bundle(path)


def test_a_truncated_zip(tmp_path):
    zip_folder(write(small(), tmp_path / "b"), tmp_path / "b.zip")
    whole = (tmp_path / "b.zip").read_bytes()
    (tmp_path / "b.zip").write_bytes(whole[: len(whole) // 2])
    with pytest.raises(BundleError):
        read_bundle(tmp_path / "b.zip")


def test_an_archive_that_unpacks_past_the_limit(tmp_path, monkeypatch):
    monkeypatch.setattr("handrail.interchange.archive.MOST_UNPACKED", 500)
    zip_folder(write(small(), tmp_path / "b"), tmp_path / "b.zip")
    with pytest.raises(BundleError, match="unpacks to"):
        read_bundle(tmp_path / "b.zip")


def test_no_manifest_and_bad_json(tmp_path):
    folder = write(small(), tmp_path / "b")
    (folder / "datapackage.json").write_text("{")
    with pytest.raises(BundleError, match="not readable JSON"):
        read_bundle(folder)
    (folder / "datapackage.json").unlink()
    with pytest.raises(BundleError, match="not found"):
        read_bundle(folder)


def test_not_utf8(tmp_path):
    folder = write(small(), tmp_path / "b")
    (folder / "nodes.csv").write_bytes(b"node,x,y,z\n\xff\xfe,0,0,0\n")
    with pytest.raises(BundleError, match=r"nodes\.csv"):
        read_bundle(folder)


def findings(tables: Tables, folder: Path) -> dict[str, list[str]]:
    found: dict[str, list[str]] = {}
    for f in audit(read_bundle(write(tables, folder))).findings:
        found.setdefault(f.code, []).append(f.message)
    return found


def test_warnings_are_listed(tmp_path):
    tables = small()
    tables["members"][4]["section"] = "W99X999"
    tables["nodes"].append({"node": "lonely", "x": 1, "y": 1, "z": 1})
    tables["end_forces"] = [r for r in tables["end_forces"] if r["member"] != "C2"]
    for row in tables["end_forces"]:
        if (row["member"], row["end"]) == ("G2", "j"):
            row["Mz"] = 30
    found = findings(tables, tmp_path / "b")
    assert "W99X999" in found["unknown_section"][0]
    assert "lonely" in found["unused_node"][0]
    assert "C2" in found["forces_missing"][0]
    assert any("G2 end j releases Mz" in m for m in found["release_denied"])
    assert found["out_of_balance"]


def test_cases_and_combinations_must_agree(tmp_path):
    tables = small()
    extra = [
        {**r, "result": "1.4D", **{n: float(r[n]) * 1.4 for n in ("Fx", "Fy", "Fz", "Mx", "My", "Mz")}}
        for r in tables["end_forces"]
    ]
    tables["end_forces"] += extra
    assert "combination_differs" not in findings(tables, tmp_path / "a")
    extra[7]["Fy"] = float(extra[7]["Fy"]) * 1.05 + 0.1
    assert "combination_differs" in findings(tables, tmp_path / "b")


def test_a_spectrum_case_is_taken_with_every_sign(tmp_path):
    from handrail.core.building.combining import strength_set

    tables = small()
    tables["cases"].append({"case": "SX", "title": "", "nature": "seismic", "kind": "spectrum"})
    tables["combinations"].append(
        dict(zip(["combination", "set", "method", "case", "factor"], ("1.4D", "strength", "LRFD", "SX", "1.0")))
    )
    tables["end_forces"] += [{**r, "result": "SX"} for r in tables["end_forces"]]
    building = read_bundle(write(tables, tmp_path / "b"))
    found = strength_set(building, "LRFD")
    assert found.names == ("1.4D +SX", "1.4D -SX", "1.4D +SX (N -)", "1.4D -SX (N +)")
    assert found.factors[:, 0].tolist() == [[1.4] * 6] * 4
    assert found.factors[:, 1, :2].tolist() == [[1, 1], [-1, -1], [-1, 1], [1, -1]]
    formed = found.forces(np.array([[10.0, 20, 0, 0, 0, 3], [1.0, 2, 0, 0, 0, 0.5]]))
    assert formed[:, 0] == pytest.approx([15, 13, 13, 15]) and formed[:, 1] == pytest.approx([30, 26, 30, 26])
    assert formed[:, 5] == pytest.approx([4.7, 3.7, 4.7, 3.7])


def test_envelopes_and_nonlinear_cases_are_not_superposed(tmp_path):
    from handrail.core.building.combining import strength_set

    for kind in ("envelope", "nonlinear"):
        tables = small()
        tables["cases"][0]["kind"] = kind
        building = read_bundle(write(tables, tmp_path / kind))
        found = strength_set(building, "LRFD")
        assert found.names == ()
        assert kind in found.missing[0][1]


def test_a_table_that_is_not_used_is_said(tmp_path):
    tables = small()
    tables["surfaces"] = [{"member": "G1", "distance": 1}]
    tables["manifest"]["resources"].append({"name": "surfaces", "path": "surfaces.csv"})
    assert "surfaces" in findings(tables, tmp_path / "b")["table_unread"][0]


PG1 = {"designation": "PG1", "shape": "W", "d": "18", "bf": "7", "tw": "0.4", "tf": "0.6", "k": "1", "k1": "0.8"}


@pytest.mark.parametrize(
    ("column", "value", "words"),
    [
        ("d", "0", "larger than 0"),
        ("bf", "-1", "larger than 0"),
        ("tw", "0", "larger than 0"),
        ("tf", "-0.6", "larger than 0"),
        ("tf", "9", "as deep"),
        ("tw", "8", "wider than the flange"),
        ("k", "0.5", "between tf"),
        ("k", "9", "between tf"),
        ("k1", "-1", "less than 0"),
        ("d", "1e13", "too large"),
    ],
)
def test_a_section_that_cannot_be_rolled(column, value, words, tmp_path):
    tables = small()
    tables["sections"] = [PG1, PG1 | {"designation": "PG2", column: value}]
    tables["manifest"]["resources"].append({"name": "sections", "path": "sections.csv"})
    with pytest.raises(BundleError) as refused:
        read_bundle(write(tables, tmp_path / "b"))
    first = refused.value.problems[0]
    assert (first.file, first.row, first.column) == ("sections.csv", 3, column) and words in first.message


def test_a_section_of_another_shape_waits(tmp_path):
    tables = small()
    tables["sections"] = [PG1 | {"shape": "HSS_RECT"}]
    tables["manifest"]["resources"].append({"name": "sections", "path": "sections.csv"})
    tables["members"][4]["section"] = "PG1"
    found = outcomes(write(tables, tmp_path / "b"))
    assert found["B1.i"][1] == "unchecked" and found["G1.i"][1] == "pass"


def test_manifest_keeps_what_it_says(tmp_path):
    folder = write(small(), tmp_path / "b")
    assert json.loads((folder / "datapackage.json").read_text())["handrail"]["up"] == "Z"
    building = read_bundle(folder)
    assert (building.revision, building.system) == ("A", "us")


def zipped(entries: list[tuple[str, bytes]], target: Path) -> Path:
    with warnings.catch_warnings(), zipfile.ZipFile(target, "w") as archive:
        warnings.simplefilter("ignore")  # of names that come twice
        for name, content in entries:
            archive.writestr(name, content)
    return target


def test_an_archive_that_says_a_thing_twice(tmp_path):
    """Which of two files of one name is meant, and which of two resources, cannot be told."""
    folder = write(small(), tmp_path / "b")
    entries = [(p.name, p.read_bytes()) for p in sorted(folder.iterdir())]
    with pytest.raises(BundleError, match=r"nodes\.csv: is in the archive more than once"):
        read_bundle(zipped([*entries, ("nodes.csv", b"node,x,y,z\n")], tmp_path / "twice.zip"))
    tables = small()
    tables["manifest"]["resources"].append({"name": "nodes", "path": "members.csv"})
    with pytest.raises(BundleError, match="resource nodes is listed twice"):
        read_bundle(write(tables, tmp_path / "c"))


def test_a_file_that_the_manifest_does_not_name(tmp_path):
    """A table's own file that is not listed is an error; any other is told by the audit; what a desktop leaves behind
    is neither."""
    folder = write(small(), tmp_path / "b")
    (folder / "more.csv").write_text("a,b\n1,2\n")
    (folder / "__MACOSX").mkdir()
    (folder / "__MACOSX/._nodes.csv").write_text("x")
    assert [f.message for f in audit(read_bundle(folder)).findings if f.code == "table_unread"] == [
        "file more.csv is read by no table: what it says is left out"
    ]
    (folder / "sections.csv").write_text("section\nW1\n")
    with pytest.raises(BundleError, match=r"sections\.csv: lies in the bundle, but datapackage\.json does not list it"):
        read_bundle(folder)


def test_an_archive_with_a_password(tmp_path):
    folder = write(small(), tmp_path / "b")
    content = bytearray(zipped([(p.name, p.read_bytes()) for p in folder.iterdir()], tmp_path / "p.zip").read_bytes())
    at = content.find(b"PK\x01\x02")
    content[at + 8] |= 1  # the flag of encryption
    (tmp_path / "p.zip").write_bytes(content)
    with pytest.raises(BundleError, match="needs a password"):
        read_bundle(tmp_path / "p.zip")
