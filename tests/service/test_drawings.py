"""Drawings by call: of a connection, of a mark, of what a filter leaves; in words where there is nothing to draw."""

from __future__ import annotations

import io

import ezdxf
import pytest
from pypdf import PdfReader

from tests.service.house import House


@pytest.fixture
def bay(tmp_path):
    house = House(tmp_path / "home")
    house.run()
    yield house
    house.close()


def text(response) -> str:
    return "\n".join(page.extract_text() for page in PdfReader(io.BytesIO(response.data)).pages)


def test_every_mark_is_drawn_once_with_where_it_is(bay):
    schedule = bay.call("GET", "/jobs/bay/schedule").json
    answer = bay.call("GET", "/jobs/bay/drawings.pdf")
    assert answer.status_code == 200 and answer.mimetype == "application/pdf"
    assert answer.headers["Content-Disposition"] == 'attachment; filename="bay-drawings.pdf"'
    marks = [entry.title for entry in PdfReader(io.BytesIO(answer.data)).outline]
    assert sorted(marks) == sorted(row["mark"] for row in schedule["rows"])
    words = text(answer).replace("\n", " ")
    for row in schedule["rows"]:
        places = "place" if row["count"] == 1 else "places"
        assert f"{row['count']} {places}: {row['connections'][0]}" in words


def test_one_mark_one_connection_and_the_marks_of_some(bay):
    row = bay.call("GET", "/jobs/bay/schedule").json["rows"][0]
    one = bay.call("GET", f"/jobs/bay/drawings.pdf?mark={row['mark']}&sheet=A3")
    assert row["mark"] in text(one) and f"Mark {row['mark']}" in text(one)
    key = row["connections"][0]
    alone = bay.call("GET", f"/jobs/bay/drawings.dxf?connection={key}")
    assert alone.status_code == 200 and f"bay-{key}.dxf" in alone.headers["Content-Disposition"]
    doc = ezdxf.read(io.StringIO(alone.data.decode()))
    assert doc.audit().errors == [] and len(doc.modelspace().query("DIMENSION")) > 3
    some = bay.call("GET", "/jobs/bay/drawings.pdf", query_string={"where": f"connection={key}"})
    assert "1 place: " in text(some)


def test_what_a_part_is_made_with_and_what_else_is_at_the_joint(bay):
    key = bay.call("GET", "/jobs/bay/schedule").json["rows"][0]["connections"][0]
    made = bay.call("GET", f"/jobs/bay/connections/{key}/parts").json["sizes"]
    sizes = {p["name"] for p in bay.call("GET", f"/jobs/bay/connections/{key}").json["parameters"]}
    assert "plate" in made and all(set(names) <= sizes for names in made.values())
    assert bay.call("GET", "/jobs/bay/connections/NO.i/parts").status_code == 404
    alone = bay.call("GET", f"/jobs/bay/connections/{key}").json["drawing"]["views"]
    there = bay.call("GET", f"/jobs/bay/connections/{key}/drawing").json["views"]
    for one, other in zip(there, alone, strict=True):
        assert [s for s in one["shapes"] if s["style"] != "beside"] == other["shapes"]
    dimmed = bay.call("GET", f"/jobs/bay/drawings.pdf?connection={key}&neighbours=true")
    assert dimmed.status_code == 200 and key in text(dimmed)


def test_a_preview_brings_its_drawing_where_it_is_asked_for(bay):
    key = bay.call("GET", "/jobs/bay/schedule").json["rows"][0]["connections"][0]
    asked = {"parameter": "pitch", "value": "4 in", "preview": True}
    plain = bay.call("POST", f"/jobs/bay/connections/{key}/overrides", json=asked).json
    drawn = bay.call("POST", f"/jobs/bay/connections/{key}/overrides", json=asked | {"drawing": True}).json
    assert plain["drawing"] is None
    lettered = {
        d["text"] for view in drawn["drawing"]["views"] for d in view["dimensions"] if d["parameter"] == "pitch"
    }
    assert len(lettered) == 1 and '4"' in lettered.pop()


@pytest.mark.parametrize(
    ("asked", "status", "said"),
    [
        ("drawings.png", 404, "pdf, svg, dxf"),
        ("drawings.pdf?mark=NO1", 404, "no mark 'NO1'"),
        ("drawings.pdf?connection=NO.i", 404, "no connection 'NO.i'"),
        ("drawings.pdf?sheet=B5", 422, "A4, A3"),
        ("drawings.pdf?where=rows", 422, "is not a filter"),
    ],
)
def test_what_cannot_be_drawn_is_said(bay, asked, status, said):
    answer = bay.call("GET", f"/jobs/bay/{asked}")
    assert answer.status_code == status and said in answer.json["detail"]


def test_what_was_changed_underneath_is_told(bay):
    """Another method: the page says stale, and so does its drawing."""
    key = bay.call("GET", "/jobs/bay/schedule").json["rows"][0]["connections"][0]
    assert "stale" not in text(bay.call("GET", f"/jobs/bay/drawings.pdf?connection={key}"))
    assert bay.call("PATCH", "/jobs/bay", json={"code": "AISC 360-16"}).status_code == 200
    assert bay.call("GET", f"/jobs/bay/connections/{key}").json["stale"]
    assert "stale" in text(bay.call("GET", f"/jobs/bay/drawings.pdf?connection={key}"))


def test_before_a_run_there_is_nothing_to_draw(tmp_path):
    house = House(tmp_path / "home")
    answer = house.call("GET", "/jobs/bay/drawings.pdf")
    assert answer.status_code == 404 and "run the job first" in answer.json["detail"]
    house.close()


def test_the_firm_stands_in_the_title_block(bay):
    before = bay.call("GET", "/jobs/bay").json
    changed = bay.call("PATCH", "/jobs/bay", json={"firm": "Elm & Alder Detailing\n12 Wharf Lane"})
    assert changed.status_code == 200 and changed.json["firm"].startswith("Elm")
    assert changed.json["statuses"] == before["statuses"] and changed.json["stale"] == before["stale"]
    key = bay.call("GET", "/jobs/bay/schedule").json["rows"][0]["connections"][0]
    words = text(bay.call("GET", f"/jobs/bay/drawings.pdf?connection={key}"))
    assert "Elm & Alder Detailing" in words and "12 Wharf Lane" in words
    assert bay.call("PATCH", "/jobs/bay", json={"firm": "x" * 401}).status_code == 422
