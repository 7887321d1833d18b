"""The Bench by calls: one connection tried, sized, mended, written; one of a job taken there as it stands."""

from __future__ import annotations

import io
import json
from pathlib import Path

import ezdxf
import pytest
from pypdf import PdfReader

from handrail.core.rulebook.yaml import load
from tests.service.house import House

EXAMPLES = Path(__file__).parents[2] / "docs" / "examples"


def example(name):
    return load((EXAMPLES / f"{name}.yaml").read_text())


@pytest.fixture(scope="module")
def bay(tmp_path_factory):
    house = House(tmp_path_factory.mktemp("home"))
    house.run()
    yield house
    house.close()


def asked(bay, path, body, status=200):
    answer = bay.call("POST", f"/trial{path}", json=body)
    assert answer.status_code == status, answer.json
    return answer


def test_a_trial_says_every_size_with_where_it_comes_from(bay):
    found = asked(bay, "", example("trial") | {"units": "us", "trace": True}).json
    sizes = {size["name"]: size for size in found["sizes"]}
    assert (sizes["rows"]["source"], sizes["pitch"]["source"]) == ("given", "default")
    assert sizes["plate_thickness"]["text"] == "1/4 in" and sizes["rows"]["of"] == "piece"
    assert "at least" in sizes["rows"]["bounds"] and sizes["rows"]["help"]
    assert set(found["parameters"]) == set(sizes) and "(3) 3/4 A325-N" in found["summary"]
    assert found["drawing"]["views"] and found["checks"][0]["lines"]
    assert asked(bay, "", example("trial") | {"drawn": False}).json["drawing"] is None


def test_designs_beside_each_other_each_pass_as_they_say(bay):
    body = example("trial") | {"units": "us"}
    found = asked(bay, "/sized", body | {"hold": ["bolt"], "target": 0.9}).json["items"]
    assert {name for one in found for name in one["names"]} == {"first of the ladder", "lightest", "fewest bolts"}
    for one in found:
        again = asked(bay, "", body | {"parameters": one["parameters"]}).json
        assert again["status"] == "pass" and again["utilisation"] == pytest.approx(one["utilisation"], abs=1e-4)
        assert one["parameters"]["bolt"] == "3/4 A325-N" and one["utilisation"] <= 0.9
    assert "no parameter 'bolts'" in asked(bay, "/sized", body | {"hold": ["bolts"]}, 422).json["detail"]
    heavy = body | {"actions": [{"name": "a", "V": "900 kip"}]}
    (nearest,) = asked(bay, "/sized", heavy).json["items"]
    assert nearest["names"] == ["nearest"] and not nearest["passes"] and nearest["utilisation"] > 1


def test_what_would_make_it_pass(bay):
    body = example("trial") | {"actions": [{"name": "a", "V": "70 kip"}], "units": "us"}
    assert asked(bay, "", body).json["status"] == "fail"
    found = asked(bay, "/remedies", body).json["items"]
    assert found and found == sorted(found, key=lambda one: len(one["changes"]))
    for one in found:
        mended = body | {"parameters": body["parameters"] | one["changes"]}
        assert asked(bay, "", mended).json["status"] == "pass"
    assert asked(bay, "/remedies", example("trial")).json["items"] == []


@pytest.mark.parametrize("name", ["trial", "base", "angles"])
def test_files_of_it(bay, name):
    body = example(name) | {"units": "us", "name": "Pier 7/a", "address": "https://house.example/-/bench#abc"}
    answer = asked(bay, "/files/page", body)
    assert "Pier-7-a.pdf" in answer.headers["Content-Disposition"]
    pages = PdfReader(io.BytesIO(answer.data)).pages
    text = " ".join(pages[0].extract_text().split())
    assert len(pages) == 1 and "Pier 7/a" in text and "Actions" in text and "1.2D+1.6L" in text
    assert pages[0]["/Annots"] and "https://house.example" in text
    assert PdfReader(io.BytesIO(asked(bay, "/files/pdf", body).data)).pages
    assert b"<svg" in asked(bay, "/files/svg", body).data
    drawn = ezdxf.read(io.StringIO(asked(bay, "/files/dxf", body).data.decode()))
    assert drawn.audit().errors == [] and len(drawn.modelspace())
    assert "page or yaml, not step" in asked(bay, "/files/step", body, 404).json["detail"]
    kept = load(asked(bay, "/files/yaml", body).data.decode())
    assert kept == example(name)


def test_it_in_space(bay):
    """Members, pieces, bolts, welds, z up; how far each part is used, the sizes that it changes with."""
    data = example("trial")
    found = asked(bay, "/solids", data | {"units": "us"}).json
    (own,) = found["connections"]
    assert {m["words"] for m in found["members"]} == {"W18X40", "W14X61"}
    rows = int(data["parameters"]["rows"])
    assert sum(s["kind"] == "bolt" for s in own["solids"]) == rows
    (plate,) = [s for s in own["solids"] if s["kind"] == "piece"]
    heights = plate["points"][2::3]
    tried = asked(bay, "", data | {"units": "si"}).json
    size = {one["name"]: one["number"] for one in tried["sizes"]}
    depth = (rows - 1) * size["pitch"] + 2 * size["end_distance"]
    assert max(heights) - min(heights) == pytest.approx(depth, abs=0.1)
    bolts = max(c["utilisation"] for c in tried["checks"] if c["part"] == "bolts")
    assert own["used"]["bolts"] == pytest.approx(bolts, abs=1e-4)
    assert "plate_thickness" in found["sizes"]["plate"] and own["status"] == tried["status"]
    assert "section" in asked(bay, "/solids", data | {"supported": {"section": "W99X1"}}, 422).json["detail"]


def test_a_file_is_read_and_what_is_wrong_is_told(bay):
    text = (EXAMPLES / "angles.yaml").read_text()
    assert asked(bay, "/read", {"text": text}).json["trial"] == json.loads(json.dumps(example("angles")))
    assert "line 3" in asked(bay, "/read", {"text": "a: 1\nb: [\n"}, 422).json["detail"]
    assert "is a mapping" in asked(bay, "/read", {"text": "- a\n"}, 422).json["detail"]
    for path in ("", "/sized", "/remedies", "/files/page"):
        detail = asked(bay, path, example("trial") | {"framing": "beam_to_moon"}, 422).json["detail"]
        assert "beam_to_moon" in detail
    wrong = example("trial") | {"parameters": {"plate_thickness": "4 kip"}}
    assert "plate_thickness" in asked(bay, "", wrong, 422).json["detail"]


def test_a_connection_of_a_job_is_tried_as_it_stands(bay):
    """With its own forces in its own units; what comes of it is what its page says."""
    rows = bay.call("GET", "/jobs/bay/connections?where=standard=single_plate").json["items"]
    assert rows
    for row in rows:
        found = bay.call("GET", f"/jobs/bay/connections/{row['connection']}/trial").json
        assert found["left_out"] == [] and found["system"] == "us"
        assert found["version"] == bay.call("GET", f"/jobs/bay/connections/{row['connection']}").json["version"]
        again = asked(bay, "", found["trial"]).json
        assert again["status"] == row["status"]
        assert again["utilisation"] == pytest.approx(row["utilisation"], rel=1e-5)
        assert found["trial"]["actions"][0]["V"].endswith(" kip")
    free = bay.call("GET", "/jobs/bay/connections/C9.i/trial")
    assert free.status_code == 404


def test_who_is_not_signed_in_tries_nothing(bay):
    token, bay.token = bay.token, ""
    try:
        for path in ("", "/sized", "/remedies", "/read", "/files/page"):
            assert bay.call("POST", f"/trial{path}", json=example("trial") | {"text": ""}).status_code == 401
    finally:
        bay.token = token
