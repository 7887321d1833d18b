"""Output maps of the house: proposed from the column map that the model came in through, tried, kept, written; the rows
as the lists and pages say them."""

from __future__ import annotations

import csv
import io
import re
import zipfile
from pathlib import Path

import pytest

from handrail.interchange.archive import zip_folder
from handrail.interchange.outputmap.language import ROWS
from tests.bundles import DEMO
from tests.service.house import House

DOCS = Path(__file__).parents[2] / "docs"
ALL = "output = 1\n" + "".join(
    f'[tables.{rows}]\nfile = "{rows}.csv"\n[tables.{rows}.columns]\nA = "{column}"\n'
    for rows, column in zip(
        ROWS,
        (
            "member",
            "plate_thickness",
            "result",
            "taken off",
            "diameter",
            "mark",
            "what",
            "piece",
            "bolt",
            "rod",
            "weld",
        ),
        strict=True,
    )
)
ENDS = """output = 1
[tables.sizes]
file = "Anschluss.csv"
delimiter = ";"
decimal = ","
[tables.sizes.columns]
Stab = "member"
Ende = {column = "end", values = {i = "1", j = "2"}}
Blech = {column = "plate_thickness", unit = "mm", decimals = 1}
Reihen = "rows"
Schraube = "bolt"
"""


@pytest.fixture
def bay(tmp_path):
    house = House(tmp_path / "home")
    house.run()
    yield house
    house.close()


def read(answer, **how):
    assert answer.status_code == 200, answer.json
    return list(csv.reader(io.StringIO(answer.data.decode()), **how))


def test_sizes_by_member_end_as_their_pages_say_them(bay):
    head, *rows = read(bay.call("POST", "/jobs/bay/output/file", json={"map": ENDS}), delimiter=";")
    assert head == ["Stab", "Ende", "Blech", "Reihen", "Schraube"] and rows
    for member, end, plate, count, bolt in rows:
        page = bay.call("GET", f"/jobs/bay/connections/{member}.{'ij'[int(end) - 1]}").json
        sizes = page["sizes"]
        assert plate == "6,4" and float(sizes["plate_thickness"]) == 6.35  # 1/4 in., halves up
        assert int(count) == sizes["rows"] and bolt == sizes["bolt"]


def test_every_kind_of_rows_is_written(bay):
    """All in one file, a zip: every table as many rows as its first look said."""
    tried = bay.call("POST", "/jobs/bay/output/try", json={"map": ALL}).json["tables"]
    answer = bay.call("POST", "/jobs/bay/output/file", json={"map": ALL})
    assert answer.mimetype == "application/zip" and "bay-output.zip" in answer.headers["Content-Disposition"]
    with zipfile.ZipFile(io.BytesIO(answer.data)) as packed:
        for table in tried:
            lines = list(csv.reader(io.StringIO(packed.read(table["file"]).decode())))
            assert len(lines) == table["rows"] + 1 and lines[1 : 1 + len(table["sample"])] == table["sample"]
            assert table["rows"] or table["rows_of"] == "rods", table
    assert {t["rows_of"] for t in tried} == set(ROWS)
    schedule = bay.call("GET", "/jobs/bay/schedule").json
    assert next(t for t in tried if t["rows_of"] == "marks")["rows"] == len(schedule["rows"])
    lists = [t for t in tried if t["rows_of"] in ("plates", "bolts", "ends", "holes", "parts", "welds")]
    for table in lists:
        listed = read(bay.call("GET", f"/jobs/bay/lists/{table['rows_of']}.csv"))
        assert len(listed) == table["rows"] + 1


def test_what_is_proposed_can_be_written_as_it_is(bay):
    text = bay.call("GET", "/jobs/bay/output").json["map"]
    tables = bay.call("POST", "/jobs/bay/output/try", json={"map": text}).json["tables"]
    assert [t["rows_of"] for t in tables] == ["results", "sizes", "ends"]
    results = read(bay.call("GET", "/jobs/bay/results.csv"))
    with zipfile.ZipFile(io.BytesIO(bay.call("POST", "/jobs/bay/output/file", json={"map": text}).data)) as packed:
        own = list(csv.reader(io.StringIO(packed.read("results.csv").decode())))
    at = {name.split(",")[0]: k for k, name in enumerate(results[0])}
    assert len(own) == len(results) and {"member", "V largest", "remarks"} < set(own[0])
    for theirs, ours in zip(own[1:], results[1:], strict=True):
        for name, a in zip(own[0], theirs, strict=True):
            b = ours[at[name]]
            assert a == b or float(a) == pytest.approx(float(b))


def test_what_does_not_fit_writes_nothing_and_is_told(bay):
    for what in ("try", "file"):
        answer = bay.call("POST", f"/jobs/bay/output/{what}", json={"map": ENDS.replace('"member"', '"bar"')})
        assert answer.status_code == 422 and answer.json["problems"][0]["row"] == 7
        assert "no column 'bar'" in answer.json["problems"][0]["message"]


def test_the_house_keeps_both_kinds_and_does_not_mix_them(bay):
    assert bay.call("PUT", "/maps/german-ends", json={"text": ENDS, "note": "to the frame program"}).status_code == 201
    column_map = (DEMO / "exports" / "map.toml").read_text()
    assert bay.call("PUT", "/maps/exports", json={"text": column_map}).status_code == 201
    listed = {m["name"]: m["way"] for m in bay.call("GET", "/maps").json["items"]}
    assert listed == {"german-ends": "out", "exports": "in"}
    assert bay.call("GET", "/maps/german-ends").json["text"] == ENDS
    mixed = bay.call("PUT", "/maps/exports", json={"text": ENDS})
    assert mixed.status_code == 409 and "another name" in mixed.json["detail"]
    broken = bay.call("PUT", "/maps/german-ends", json={"text": ENDS.replace("[tables.sizes]", "[tables.size]")})
    assert broken.status_code == 422
    assert bay.call("DELETE", "/maps/german-ends").status_code == 204
    assert [m["name"] for m in bay.call("GET", "/maps").json["items"]] == ["exports"]


def test_members_and_forces_as_the_model_s_own_program_calls_them(tmp_path):
    """The demo's exports taken in through their map: bars, kN and internal forces in what is proposed; a bar that is
    spliced has its own name, and which part of it an end is of."""
    house = House(tmp_path / "home")
    path = tmp_path / "exports.zip"
    zip_folder(DEMO / "exports", path)
    assert house.send(path.read_bytes())["state"] == "done"
    text = house.call("GET", "/jobs/bay/output").json["map"]
    assert 'Bar = "member"' in text and 'forces = "internal"' in text and 'file = "Bar forces.csv"' in text
    tables = {t["rows_of"]: t for t in house.call("POST", "/jobs/bay/output/try", json={"map": text}).json["tables"]}
    assert tables["results"]["columns"][0]["name"] == "Bar"
    assert {c["name"]: c["unit"] for c in tables["results"]["columns"]}["N largest"] == "kN"
    assert tables["forces"]["rows"] > 10_000
    rows = read(house.call("GET", "/jobs/bay/results.csv"))
    parts = {row[0]: row[1] for row in rows[1:] if row[1]}
    assert parts == {"G40": "G40~2", "G134": "G134~2"}
    house.close()


def test_the_map_of_the_documentation(bay):
    """Both of its tables; by hand: B1 has a single plate at its i end (its other end is free), where its support pulls
    it down with 1.4 x 10 kip: V = -62.275 kN, here with the other sign."""
    text = re.search(r"```toml\n(.*?)```", (DOCS / "output-maps.md").read_text(), re.DOTALL)[1]
    answer = bay.call("POST", "/jobs/bay/output/file", json={"map": text})
    with zipfile.ZipFile(io.BytesIO(answer.data)) as packed:
        assert sorted(packed.namelist()) == ["Bar ends.csv", "Forces D.txt", "contents.json"]
        ends = {row[0]: row for row in csv.reader(io.StringIO(packed.read("Bar ends.csv").decode()), delimiter=";")}
        lines = packed.read("Forces D.txt").decode().split("\r\n")
    assert ends["B1"] == ["B1", "SP", "", "62,3"]
    assert lines[0] == "Forces of the frame" and lines[2:4] == ["No\tPlace\tN", "\tm\tkN"]
    assert any(line.startswith("Bar B1\t0.000\t") for line in lines)
