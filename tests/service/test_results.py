"""Results as they go back: a row a member end, in the model's own names and units, as the page of its connection says
it; the building coloured."""

from __future__ import annotations

import csv
import io
import zipfile

import pytest
from PIL import Image

from tests.bundles import in_si, small
from tests.service.house import House, bundle


@pytest.fixture
def bay(tmp_path):
    house = House(tmp_path / "home")
    yield house
    house.close()


def listed(bay):
    answer = bay.call("GET", "/jobs/bay/results.csv")
    assert answer.status_code == 200, answer.json
    return {f"{r['member']}.{r['end']}": r for r in csv.DictReader(io.StringIO(answer.data.decode()))}


def test_every_end_as_its_page_says(bay):
    bay.run()
    rows = listed(bay)
    assert len(rows) == 2 * 5 and list(rows)[:2] == ["C1.i", "C1.j"]
    for key, row in rows.items():
        if not row["connection"]:
            assert row["remarks"] and not row["status"]
            continue
        page = bay.call("GET", f"/jobs/bay/connections/{row['connection']}").json
        assert row["connection"] == key and row["status"] == page["status"]
        assert row["governing check"] == page["check"].replace("_", " ")
        assert row["standard"] == page["standard"] and row["combination"] == page["action"]
        if page["check"]:
            assert float(row["utilisation"]) == pytest.approx(page["utilisation"], abs=6e-4)


def test_actions_are_the_model_s_in_its_units(bay, tmp_path):
    """By hand: an internal shear of +10 kip at B1's i end is its support pulling it down; 1.4 D -> -14 kip, -62.28
    kN, as its page has it."""
    bay.run()
    row = listed(bay)["B1.i"]
    assert float(row["V largest, kip"]) == float(row["V smallest, kip"]) == -14.0 and row["node"] == "e"
    peak = next(p for p in bay.call("GET", "/jobs/bay/connections/B1.i").json["peaks"] if p["action"] == "V")
    assert peak["min"] == pytest.approx(-62.28, abs=0.01)
    assert row["analysed as"] == "pinned: released My Mz" and row["built as"] == "pinned: N V"
    tables = small()
    in_si(tables)
    bay.send(bundle(tmp_path, 1.0, tables))
    bay.run()
    assert float(listed(bay)["B1.i"]["V largest, kN"]) == pytest.approx(-14.0 * 4.44822, rel=1e-4)


def test_fixed_in_the_analysis_and_pinned_as_built_is_told(bay, tmp_path):
    tables = small()
    for member in tables["members"]:
        if member["member"] == "B1":
            member["release_i"] = ""
    book = "rulebook: 1\nrules:\n  - {name: All, use: single_plate}\n"
    bay.call("PUT", "/jobs/bay/rulebook", json={"text": book})
    bay.send(bundle(tmp_path, 1.0, tables))
    bay.run()
    row = listed(bay)["B1.i"]
    assert row["analysed as"] == "fixed"
    assert row["remarks"].startswith("analysed fixed about its strong axis, built pinned") or not row["standard"]
    assert row["standard"] == "single_plate"


def test_what_was_changed_underneath_is_unchecked(bay, tmp_path):
    """A rulebook that says otherwise: what stood is stale, and no end is told as passing."""
    bay.run()
    assert listed(bay)["B1.i"]["status"] == "pass"
    bay.call("PUT", "/jobs/bay/rulebook", json={"text": "rulebook: 1\nrules:\n  - {name: All, use: double_angle}\n"})
    row = listed(bay)["B1.i"]
    assert row["status"] == "unchecked" and "STALE" in row["remarks"]


def test_workbook_and_pictures(bay):
    assert (
        bay.call("GET", "/jobs/bay/results.png").status_code == 200
    )  # before any run nothing is judged, and it says so
    bay.run()
    book = bay.call("GET", "/jobs/bay/results.xlsx").data
    with zipfile.ZipFile(io.BytesIO(book)) as packed:
        assert "B1" in packed.read("xl/sharedStrings.xml").decode()
    with Image.open(io.BytesIO(bay.call("GET", "/jobs/bay/results.png").data)) as image:
        assert image.size == (1920, 1280) and len(image.getcolors(1 << 20)) > 8
    drawn = bay.call("GET", "/jobs/bay/results.svg").data.decode()
    assert drawn.count("<path") >= 5 and "ends judged" in drawn
    assert bay.call("GET", "/jobs/bay/results.pdf").status_code == 404
