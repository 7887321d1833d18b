"""Maps made by pointing at an import that is held, and those that the house keeps: proposed where they fit, with what
does not."""

from __future__ import annotations

import shutil
from pathlib import Path

import pytest

from handrail.client import ServiceError
from handrail.interchange.archive import zip_folder
from tests.styles import STYLES, Demo
from tests.wide import wide


@pytest.fixture(scope="module")
def admin(service):
    return service.client("admin")


@pytest.fixture(scope="module")
def french(tmp_path_factory) -> Path:
    folder = tmp_path_factory.mktemp("styles") / "french"
    STYLES["french"](folder, Demo())
    zip_folder(folder, folder.with_suffix(".zip"))
    return folder.with_suffix(".zip")


@pytest.fixture(scope="module")
def held(admin, french):
    admin.new_job("pointing", "Made by pointing")
    return admin.send_model("pointing", french, hold=True)["id"]


@pytest.fixture(autouse=True)
def as_proposed(admin, held):
    """Whatever another test made of its map, it is what is proposed of it again."""
    admin.choose_map("pointing", held, "proposed")


def tables(seen) -> dict:
    return seen["pointing"]["tables"]


def test_everything_that_can_be_pointed_at_is_there(admin, held):
    seen = admin.understood("pointing", held)
    pointing = seen["pointing"]
    found = {f["file"]: f for f in pointing["found"]}
    assert found["noeuds.txt"]["names"] == ["Noeud", "X", "Y", "Z"] and found["noeuds.txt"]["used"] == ["nodes"]
    assert found["efforts *.txt"]["used"] == ["end_forces"] and "@file" in found["efforts *.txt"]["names"]
    assert pointing["missing"] == [] and seen["problems"] == []  # all of it was recognised
    assert pointing["stated"]["forces"] == "internal" and pointing["stated"]["units"]["length"] == "m"
    nodes = next(t for t in pointing["choices"]["tables"] if t["table"] == "nodes")
    assert [c["name"] for c in nodes["columns"] if c["required"]] == ["node", "x", "y", "z"]


@wide
def test_one_change_at_a_time_each_way_in_step(admin, held):
    """A table taken out and put back, a column taken out and chosen, a unit, a sense: the text says so, and what is
    missing is told in order of weight."""
    seen = admin.change_map("pointing", held, what="table", table="nodes")
    assert "nodes" not in tables(seen) and "[tables.nodes]" not in seen["map"]
    assert seen["pointing"]["missing"][0] == {"table": "nodes", "column": "", "words": "not read yet"}
    seen = admin.change_map("pointing", held, what="table", table="nodes", source="noeuds.txt")
    assert (
        tables(seen)["nodes"]["columns"] == {"node": "Noeud", "x": "X", "y": "Y", "z": "Z"} and seen["problems"] == []
    )
    seen = admin.change_map("pointing", held, what="column", table="end_forces", name="Fx")
    assert seen["pointing"]["missing"] == [{"table": "end_forces", "column": "Fx", "words": "axial"}]
    seen = admin.change_map(
        "pointing", held, what="column", table="end_forces", name="Fx", spec={"column": "N", "factor": -1}
    )
    assert tables(seen)["end_forces"]["columns"]["Fx"] == {"column": "N", "factor": -1} and seen["problems"] == []
    seen = admin.change_map("pointing", held, what="unit", name="length", value="?")
    assert seen["pointing"]["missing"][0]["column"] == "units.length" and any(
        "units" in p["message"] or "unit" in p["message"] for p in seen["problems"]
    )
    seen = admin.change_map("pointing", held, what="unit", name="length", value="m")
    assert seen["problems"] == [] and seen["map_from"] == "given"
    assert "# called so" in seen["map"] or "# all are nodes" in seen["map"]  # the reasons stay
    other = admin.set_map("pointing", held, seen["map"].replace('forces = "internal"', 'forces = "on_member"'))
    assert other["pointing"]["stated"]["forces"] == "on_member"


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"what": "table", "table": "knots", "source": "noeuds.txt"}, "is no table"),
        ({"what": "table", "table": "nodes", "source": "x.csv"}, "in the files"),
        (
            {"what": "column", "table": "stations", "name": "member", "spec": {"column": "Barre"}},
            "has no table 'stations' yet",
        ),
    ],
)
def test_a_change_that_cannot_be_made_is_told(admin, held, change, words):
    before = admin.understood("pointing", held)["map"]
    with pytest.raises(ServiceError, match=words):
        admin.change_map("pointing", held, **change)
    assert admin.understood("pointing", held)["map"] == before


def test_the_house_keeps_a_map_and_proposes_it_where_it_fits(admin, held, french, tmp_path):
    proposed = admin.choose_map("pointing", held, "proposed")
    assert proposed["problems"] == [] and proposed["pointing"]["stated"]["forces"] == "internal"
    with pytest.raises(ServiceError, match="is not known"):
        admin.put_map("french-report", proposed["map"].replace('up = "Z"', 'upp = "Z"'))
    assert admin.put_map("french-report", proposed["map"], "the tables in French")["number"] == 1
    assert admin.put_map("french-report", proposed["map"] + "\n")["number"] == 2
    assert [(m["name"], m["number"]) for m in admin.maps()] == [("french-report", 2)]
    admin.new_job("pointing-2", "")
    again = admin.send_model("pointing-2", french, hold=True)["id"]
    seen = admin.understood("pointing-2", again)
    assert seen["map_from"] == "house" and seen["pointing"]["maps"] == [
        {"name": "french-report", "number": 2, "note": "", "misfits": []}
    ]
    folder = tmp_path / "other"
    shutil.unpack_archive(french, folder)
    text = (folder / "noeuds.txt").read_bytes().decode("cp1252").replace("Noeud\tX", "Point\tX").encode("cp1252")
    (folder / "noeuds.txt").write_bytes(text)
    (folder / "appuis.txt").unlink()
    zip_folder(folder, tmp_path / "other.zip")
    admin.new_job("pointing-3", "")
    other = admin.send_model("pointing-3", tmp_path / "other.zip", hold=True)["id"]
    seen = admin.understood("pointing-3", other)
    assert seen["map_from"] == "proposed"
    assert seen["pointing"]["maps"][0]["misfits"] == [
        "nodes: noeuds.txt has no column 'Noeud'",
        "supports: there is no appuis.txt",
    ]
    taken = admin.choose_map("pointing-3", other, "house", "french-report")
    assert any("'Noeud' is no column" in p["message"] for p in taken["problems"])
    admin.leave_map("french-report")
    assert admin.maps() == []
    with pytest.raises(ServiceError, match="the house has no map 'french-report'"):
        admin.house_map("french-report")


@wide
def test_a_lone_workbook_keeps_its_name(admin, tmp_path):
    """Through upload, proposal, map and revision; the next one may be called otherwise."""
    STYLES["wide"](tmp_path / "wide", Demo())
    admin.new_job("alone", "A workbook")
    sent = admin.send_model("alone", tmp_path / "wide/Alder Street frame.xlsx", hold=True)["id"]
    seen = admin.understood("alone", sent)
    assert 'file = "Alder Street frame.xlsx"' in seen["map"] and seen["problems"] == []
    admin.set_map("alone", sent, seen["map"])
    admin.confirm_import("alone", sent)
    done = next(
        i for i in iter(lambda: admin.get_import("alone", sent), None) if i["state"] not in ("queued", "running")
    )
    assert (done["state"], done["message"]) == ("done", "")
    (tmp_path / "wide/Alder Street frame.xlsx").rename(tmp_path / "Revision B.xlsx")
    again = admin.import_bundle("alone", tmp_path / "Revision B.xlsx")
    assert again["number"] == 2 and again["audit"]["counts"]["members"] == 981
