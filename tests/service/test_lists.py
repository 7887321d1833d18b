"""Lists of plates, bolts, rods and welds are of the same solids as the schedule: they add up to it; what is cut
measures what it is."""

from __future__ import annotations

import csv
import io
import json
import zipfile

import ezdxf
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pypdf import PdfReader

from handrail.core.checking.lists import Made, cuts, table
from handrail.core.checking.trial import read_trial
from handrail.core.solids.axes import Axes
from handrail.core.solids.placed import placed
from handrail.interchange.drawings.outlines import outline, silhouette
from tests.service.house import House
from tests.worked.sheet import FLANGE, GIRDER, data
from tests.worked.test_base_plate import BASE

JOB = "alder-street"


def sheet(body: bytes) -> list[dict[str, str]]:
    return list(csv.DictReader(io.StringIO(body.decode())))


@pytest.fixture(scope="module")
def engineer(service):
    return service.client("engineer")


def test_the_demo_s_lists_add_up_to_its_schedule(engineer):
    """Bolts that hold two beams through one web are there once, as the schedule counts them."""
    totals, rows = engineer.schedule(JOB)["totals"], {kind: sheet(engineer.parts_list(JOB, kind)) for kind in
                                                      ("plates", "bolts", "rods", "welds")}  # fmt: skip
    at = {where: sum(int(r["count"]) for r in rows["bolts"] if r["where"] == where) for where in ("site", "shop")}
    assert at == {"site": totals["field_bolts"], "shop": totals["shop_bolts"]}
    assert sum(int(r["count"]) for r in rows["rods"]) == totals["rods"]
    steel = sum(float(r["weight, lb"]) for r in rows["plates"]) * 0.45359237
    assert steel == pytest.approx(totals["steel"], rel=2e-3)
    marks = {r["mark"] for r in engineer.schedule(JOB)["rows"]}
    assert {r["mark"] for some in rows.values() for r in some} <= marks
    assert {r["level"] for r in rows["bolts"]} >= {"2", "3", "4"}


def test_lists_of_some_and_plates_to_cut(engineer):
    some = sheet(engineer.parts_list(JOB, "bolts", where="level=2"))
    assert {r["level"] for r in some} == {"2"}
    with zipfile.ZipFile(io.BytesIO(engineer.parts_list(JOB, "plates", "zip", where="level=2"))) as packed:
        names = [name for name in packed.namelist() if name.endswith(".dxf")]
        listed = sheet(engineer.parts_list(JOB, "plates", where="level=2"))
        plates = {r["piece"]: r for r in listed if r["what"] == "plate"}
        assert sorted(names) == sorted(f"{piece}.dxf" for piece in plates)
        assert json.loads(packed.read("contents.json"))["units"] == "in"
        for piece, row in list(plates.items())[:12]:
            doc = ezdxf.read(io.StringIO(packed.read(f"{piece}.dxf").decode()))
            (line,) = doc.modelspace().query("LWPOLYLINE[layer=='CUT']")
            xs, ys = zip(*((x, y) for x, y, *_ in line.get_points()), strict=True)
            sides = sorted((max(xs) - min(xs), max(ys) - min(ys)))
            assert sides == pytest.approx([float(row["width, in"]), float(row["length, in"])], abs=1 / 16)
            assert len(doc.modelspace().query("*[layer=='HOLES']")) == int(row["holes"])


@pytest.mark.parametrize(("of", "kind", "said"), [("nuts", "csv", "plates, bolts"), ("bolts", "zip", "not zip"),
                                                  ("plates", "pdf", "not pdf")])  # fmt: skip
def test_what_is_no_list(tmp_path, of, kind, said):
    house = House(tmp_path / "home")
    answer = house.call("GET", f"/jobs/bay/lists/{of}.{kind}")
    assert answer.status_code == 404 and said in answer.json["detail"]
    house.run()
    answer = house.call("GET", "/jobs/bay/lists/plates.xlsx")
    assert answer.status_code == 200 and answer.data[:2] == b"PK"
    house.close()


def solids(base, parameters=None, **more):
    trial = read_trial(data(base, parameters, **more))
    return trial.standard.solids(trial.situation, trial.sizes)


def test_a_plate_as_it_is_cut():
    """PL 4-1/2 x 11-1/2 with four holes of 13/16 in. 3 in. apart, the first 1-1/4 from its end, 1-1/2 from its edge."""
    (cut,) = cuts([Made("SP1", "2", solids(FLANGE)), Made("SP1", "3", solids(FLANGE))])
    assert (cut.name, cut.each, cut.count) == ("SP1a", 1, 2)
    doc = ezdxf.read(io.StringIO(outline(cut, cut.piece, "us").decode()))
    assert doc.audit().errors == [] and doc.units == ezdxf.units.IN
    holes = sorted((round(c.dxf.center.x, 3), round(c.dxf.center.y, 3), round(2 * c.dxf.radius, 4))
                   for c in doc.modelspace().query("CIRCLE"))  # fmt: skip
    assert holes == [(3.0, 1.25 + 3 * k, 0.8125) for k in range(4)]
    (said,) = doc.modelspace().query("TEXT")
    assert said.dxf.text.startswith("SP1a A36") and said.dxf.text.endswith("x2")


def test_rows_of_a_base():
    """Four rods, four plate washers, one plate."""
    of = [Made("BP1", "1", solids(BASE))]
    plates, rods = table("plates", of, "si", {}), table("rods", of, "si", {})
    assert plates[1][0][3] == 1 and sum(row[-2] for row in rods[1]) == len(of[0].solids.rods)
    assert all(row[4] == row[3] for row in plates[1])


@given(st.floats(-3, 3), st.floats(-3, 3), st.booleans())
@settings(max_examples=20, deadline=None)
def test_turned_or_mirrored_it_is_the_same_piece(x, y, mirrored):
    own = solids(GIRDER)
    at = Axes((1e3 * x, 1e3 * y, 77.0), (0.6, 0.8, 0.0), (-0.8, 0.6, 0.0))
    (one,), (other,) = cuts([Made("A", "", own)]), cuts([Made("A", "", placed(own, at, mirrored))])
    assert table("plates", [Made("A", "", own)], "us", {}) == table(
        "plates", [Made("A", "", placed(own, at, mirrored))], "us", {}
    )

    def sides(cut):
        xs, ys = zip(*(p for ring in silhouette(cut.piece) for p in ring), strict=True)
        return sorted((max(xs) - min(xs), max(ys) - min(ys)))

    assert sides(one) == pytest.approx(sides(other), abs=0.05)


def test_finishes_stand_in_lists_and_on_drawings(tmp_path):
    house = House(tmp_path / "home")
    book = house.call("GET", "/jobs/bay/rulebook").json["text"]
    said = "practice: {finish: {steel: primed, bolts: hot-dip galvanized}, "
    assert house.call("PUT", "/jobs/bay/rulebook", json={"text": book.replace("practice: {", said)}).status_code == 200
    house.run()
    found = {}
    for kind in ("plates", "bolts", "rods", "welds"):
        rows = csv.DictReader(io.StringIO(house.call("GET", f"/jobs/bay/lists/{kind}.csv").data.decode()))
        found[kind] = {row.get("finish") for row in rows}
    assert found == {"plates": {"primed"}, "bolts": {"hot-dip galvanized"}, "rods": set(), "welds": {None}}
    drawn = PdfReader(io.BytesIO(house.call("GET", "/jobs/bay/drawings.pdf").data)).pages[0].extract_text()
    assert "finish: steel primed; bolts hot-dip galvanized" in " ".join(drawn.split())
    practice = {p["parameter"]: p for p in house.call("GET", "/jobs/bay/rulebook/practice").json["items"]}
    assert practice["finish.bolts"]["text"] == "hot-dip galvanized" and practice["finish.rods"]["source"] == "default"
    house.close()
