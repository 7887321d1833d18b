"""The house's catalogue over HTTP: a draft is found by nobody, an approved one by rules and trials; results say so."""

from __future__ import annotations

import io

import pytest
from pypdf import PdfReader

from handrail.client import ServiceError
from tests.trials import TAB as TRIAL


def on_paper(client, trial):
    return " ".join(PdfReader(io.BytesIO(client.trial_file(trial, "page"))).pages[0].extract_text().split())


def test_from_a_draft_to_a_result(service):
    engineer, admin = service.client("engineer"), service.client("admin")
    values = {"Fy": "60 ksi", "Fu": "75 ksi"}
    assert engineer.put_entry("grade", "HSA-60", values, "mill certificate 12")["state"] == "draft"
    trial = TRIAL | {"parameters": {"rows": 4, "plate_grade": "HSA-60"}}
    with pytest.raises(ServiceError, match="grade 'HSA-60' is not in the catalogue"):
        engineer.trial(trial)
    with pytest.raises(ServiceError, match="needs an administrator"):
        engineer.review_entry("grade", "HSA-60", "approved")
    assert admin.review_entry("grade", "HSA-60", "approved")["reviewer"] == "admin"
    told = engineer.trial(trial)
    words = "grade HSA-60 is not of the shipped tables: mill certificate 12, approved by admin"
    assert any(words in note for note in told["notes"])
    assert "HSA-60" in [g["name"] for g in engineer.grades()]
    with pytest.raises(ServiceError, match="what it means stays"):
        engineer.put_entry("grade", "hsa-60", values, "another")
    assert "retired" not in on_paper(engineer, trial)
    admin.review_entry("grade", "HSA-60", "retired")
    assert "it is retired" in on_paper(engineer, trial)  # the same question, of another catalogue
    assert any("it is retired" in note for note in engineer.trial(trial)["notes"])
    assert "HSA-60" not in [g["name"] for g in engineer.grades()]


def test_what_is_refused(service):
    engineer = service.client("engineer")
    for kind, name, values, source, told in (
        ("grade", "A992", {"Fy": "50 ksi", "Fu": "65 ksi"}, "us", "is in the shipped tables"),
        ("section", "W16X36", {"shape": "round", "d": "16 in", "wall": "1/2 in"}, "us", "is in the shipped tables"),
        ("bolt", "A325", {"Fnt": "90 ksi", "Fnv_N": "54 ksi", "Fnv_X": "68 ksi"}, "us", "is in the shipped tables"),
        ("grade", "NEW-1", {"Fy": "50 ksi", "Fu": "65 ksi"}, " ", "say where it comes from"),
    ):
        with pytest.raises(ServiceError, match=told):
            engineer.put_entry(kind, name, values, source)
    engineer.put_entry("grade", "NEW-2", {"Fy": "50 ksi", "Fu": "65 ksi"}, "us")
    engineer.remove_entry("grade", "NEW-2")
    assert "NEW-2" not in [e["name"] for e in engineer.entries()]


def test_a_job_s_own_is_found_in_that_job_alone(service):
    engineer, admin = service.client("engineer"), service.client("admin")
    values = {"Fnt": "120 ksi", "Fnv_N": "70 ksi", "Fnv_X": "90 ksi"}
    engineer.put_entry("bolt", "XTB", values, "maker's table", "alder-street")
    admin.review_entry("bolt", "XTB", "approved")
    try:
        before = engineer.rulebook("alder-street")["text"]
        other = before.replace("bolt: 3/4 A325-N", "bolt: 3/4 XTB-N", 1)
        tried = engineer.try_rulebook("alder-street", other, compare=False)
        assert tried["rules"]
        with pytest.raises(ServiceError, match="XTB"):
            engineer.trial(TRIAL | {"parameters": {"rows": 4, "bolt": "3/4 XTB-N"}})
    finally:
        admin.review_entry("bolt", "XTB", "retired")


def test_choices_are_those_that_stand_and_the_one_that_is_there(service):
    """A surface of a job alone is offered there; one that is retired stays the choice where it stands."""
    engineer, admin = service.client("engineer"), service.client("admin")
    engineer.put_entry("surface", "OWN-7", {"mu": "0.4"}, "slip tests", "alder-street")
    admin.review_entry("surface", "OWN-7", "approved")

    def offered(job):
        plate = next(s for s in engineer.standards(job) if s["name"] == "single_plate")
        return next(p["choices"] for p in plate["parameters"] if p["name"] == "tightening")

    assert "slip_own-7" in offered("alder-street") and "slip_own-7" not in offered("")
    key = engineer.connections("alder-street", where="standard=single_plate, status=pass")[0]["connection"]
    made = engineer.set_override("alder-street", key, "tightening", "slip_own-7", "as tested")
    try:
        admin.review_entry("surface", "OWN-7", "retired")
        assert "slip_own-7" not in offered("alder-street")
        page = engineer.connection("alder-street", key)
        size = next(p for p in page["parameters"] if p["name"] == "tightening")
        assert size["text"] == "slip_own-7" and "slip_own-7" in size["choices"]
        assert any("OWN-7" in note and "it is retired" in note for note in page["notes"])
    finally:
        engineer.clear_override("alder-street", made["id"], "looked at")


def test_what_a_job_stands_on_is_retired_and_the_job_goes_on(service):
    """Its rulebook is read, its run ends, and what it made says so."""
    engineer, admin = service.client("engineer"), service.client("admin")
    engineer.put_entry("bolt", "XTD", {"Fnt": "90 ksi", "Fnv_N": "54 ksi", "Fnv_X": "68 ksi"}, "maker's table")
    admin.review_entry("bolt", "XTD", "approved")
    before = engineer.rulebook("alder-street")["text"]
    try:
        engineer.put_rulebook("alder-street", before.replace("bolt: 3/4 A325-N", "bolt: 3/4 XTD-N", 1))
        admin.review_entry("bolt", "XTD", "retired")
        run = engineer.wait("alder-street", engineer.start_run("alder-street")["id"])
        assert run["state"] == "done"
        page = engineer.connection("alder-street", "B40.i")
        assert page["status"] == "pass" and any("XTD" in n and "it is retired" in n for n in page["notes"])
    finally:
        admin.put_rulebook("alder-street", before)
        engineer.wait("alder-street", engineer.start_run("alder-street")["id"])
