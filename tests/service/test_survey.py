"""The survey, combinations made and kept, findings that are let stand; through the client and by commands."""

from __future__ import annotations

import base64
import io

import numpy as np
import pytest
from pypdf import PdfReader

from handrail.client import ServiceError
from tests.bundles import DEMO, small, write

JOB = "alder-street"


@pytest.fixture(scope="module")
def engineer(service):
    return service.client("engineer")


@pytest.fixture
def bay(service, tmp_path):
    """A job with the small bay, and a column that stands twice."""
    admin, name = service.client("admin"), f"survey-{tmp_path.name[-12:].replace('_', '-').lower()}"
    admin.new_job(name, "")
    tables = small()
    tables["members"].append(dict(tables["members"][0], member="C1x"))
    tables["end_forces"] += [dict(r, member="C1x") for r in tables["end_forces"] if r["member"] == "C1"]
    admin.import_bundle(name, write(tables, tmp_path / "b"))
    return admin, name


def test_the_survey_of_the_demo(engineer):
    found = engineer.survey(JOB)
    assert sum(s["members"] for s in found["sections"]) == 983
    assert found["sections"][0]["section"] == "W24X68" and found["sections"][0]["mass"] == max(
        s["mass"] for s in found["sections"]
    )
    assert sum(found["framings"].values()) == 1115 and sum(found["histogram"]) == 2 * 983 - found["unknown"]
    worst = found["demands"][0]
    assert worst["share"] == max(d["share"] for d in found["demands"]) and worst["node"]
    largest = next(p for p in found["peaks"] if p["component"] == "N" and not p["largest"])
    assert largest["value"] < -1000 and largest["unit"] == "kN"


def test_combinations_are_made_shown_and_kept(bay):
    admin, job = bay
    before = admin.combinations(job)
    assert [c["name"] for c in before["combinations"]] == ["1.4D", "D"]
    made = admin.generate_combinations(job, methods=["LRFD", "ASD"])
    assert admin.combinations(job) == before  # nothing is kept
    revision = admin.keep_combinations(job, made["combinations"])
    assert revision["number"] == 2 and admin.combinations(job)["combinations"] == made["combinations"]
    wrong = [{"name": "1.4Q", "set": "strength", "method": "LRFD", "terms": [["Q", 1.4]]}]
    with pytest.raises(ServiceError, match="'Q' is no case; there is D"):
        admin.keep_combinations(job, wrong)
    with pytest.raises(ServiceError, match="edition"):
        admin.generate_combinations(job, edition="7-05")
    with pytest.raises(ServiceError, match="redundancy factor"):
        admin.generate_combinations(job, rho=1.1)


def test_a_finding_is_let_stand_with_a_reason(bay):
    admin, job = bay
    twice = next(f for f in admin.audit(job)["audit"]["findings"] if f["code"] == "member_twice")
    assert twice["acknowledged"] is None
    with pytest.raises(ServiceError, match="say why"):
        admin.acknowledge(job, "member_twice", " ", member=twice["member"])
    after = admin.acknowledge(job, "member_twice", "a sleeve in the model", member=twice["member"])
    said = next(f for f in after["audit"]["findings"] if f["code"] == "member_twice")["acknowledged"]
    assert (said["reason"], said["author"]) == ("a sleeve in the model", "admin")
    admin.keep_combinations(job, admin.generate_combinations(job)["combinations"])
    assert next(f for f in admin.audit(job)["audit"]["findings"] if f["code"] == "member_twice")[
        "acknowledged"
    ]  # in the next revision too
    back = admin.take_back(job, "member_twice", member=twice["member"])
    assert next(f for f in back["audit"]["findings"] if f["code"] == "member_twice")["acknowledged"] is None
    with pytest.raises(ServiceError, match="was not acknowledged"):
        admin.take_back(job, "member_twice", member=twice["member"])


def test_two_revisions_are_compared(service):
    admin = service.client("admin")
    admin.new_job("twice", "")
    admin.import_bundle("twice", DEMO / "bundle")
    with pytest.raises(ServiceError, match="one revision yet"):
        admin.compare("twice")
    admin.import_bundle("twice", DEMO / "revision-c")
    found = admin.compare("twice")
    assert (found["old"], found["new"]) == (1, 2) and {c["kind"] for c in found["changes"]} >= {
        "new",
        "gone",
        "renamed",
        "resized",
        "reloaded",
    }
    assert admin.compare("twice", 2, 1)["unchanged"] > 800
    with pytest.raises(ServiceError, match="no revision R7"):
        admin.compare("twice", 1, 7)


def test_patterns_with_their_peaks_and_points(engineer):
    found = engineer.patterns(JOB)
    assert sum(p["connections"] for p in found) == 1115 and found[0]["joints"] >= found[-1]["joints"]
    whole = engineer.pattern(JOB, "P1")
    slot = next(k for k, place in enumerate(whole["places"]) if place["framing"])
    points = engineer.pattern_points(JOB, "P1", slot)
    table = np.frombuffer(base64.b64decode(points["data"]), "<f4").reshape(
        len(points["connections"]), len(points["combinations"]), 6
    )
    assert len(points["connections"]) == whole["joints"]
    for peak in whole["places"][slot]["peaks"]:
        k = whole["actions"].index(peak["action"])
        own = table[..., k]
        assert peak["values"][k] == pytest.approx(
            float(own.max() if peak["largest"] else own.min()), rel=1e-5, abs=1e-6
        )
        at = points["connections"].index(peak["connection"]), points["combinations"].index(peak["combination"])
        assert table[at].tolist() == pytest.approx(peak["values"], rel=1e-5, abs=1e-6)
    for name, words in (("P9999", "there is no pattern"), ("p1", "there is no pattern")):
        with pytest.raises(ServiceError, match=words):
            engineer.pattern(JOB, name)
    with pytest.raises(ServiceError, match="has places 0 to"):
        engineer.pattern_points(JOB, "P1", 99)


def test_the_survey_on_two_pages(engineer, bay):
    """What it says is what the survey says; a model with findings has them, and who lets them stand."""
    found, printed = engineer.survey(JOB), engineer.survey_pdf(JOB)
    first, second = PdfReader(io.BytesIO(printed)).pages
    words = " ".join(first.extract_text().split())
    assert "983 members" in words and "page 1" in words
    assert f"beam to girder {found['framings']['beam_to_girder']}" in words
    worst = found["demands"][0]
    asked = " ".join(second.extract_text().split())
    assert f"{worst['member']}.{worst['end']} {worst['section']} {worst['share']:.2f}" in asked
    assert "Nothing: the data is in balance." in asked
    assert engineer.survey_pdf(JOB) == printed
    admin, name = bay
    admin.change_job(name, firm="Elm Detailing\n12 Wharf Lane")
    pages = PdfReader(io.BytesIO(admin.survey_pdf(name))).pages
    said = " ".join(page.extract_text() for page in pages)
    assert len(pages) == 2 and "Elm Detailing" in said and "C1x" in said
