"""Designs of the house: made, signed, found, used by rules and decisions, sent and taken in; published tables."""

from __future__ import annotations

import io
import json

import ezdxf
import pytest
from pypdf import PdfReader

from handrail.client import ServiceError
from handrail.core.rulebook.yaml import load
from handrail.service.api.designs.files import _digest
from tests.trials import TAB as TRIAL

JOB = "alder-street"


@pytest.fixture(scope="module")
def engineer(service):
    return service.client("engineer")


def made(client, name, **more):
    return client.put_design(name, trial=TRIAL, **more)


def test_from_a_trial_to_what_it_holds(engineer):
    """What it holds by itself is what the trial passes under, and not a pound more."""
    kept = made(engineer, "tab-four", title="Tab, four rows", tags=["house tabs"])
    assert (kept["called"], kept["state"], kept["author"]) == ("tab-four R1", "draft", "engineer")
    shear = next(one for one in kept["holds"] if one["action"] == "V")
    for factor, status in ((0.999, "pass"), (1.001, "fail")):
        actions = [{"name": "1", "V": f"{shear['amount'] * factor} kN"}]
        assert engineer.trial(TRIAL | {"actions": actions})["status"] == status
    assert kept["section"] == "W16X36" and "supported.depth" in " ".join(kept["fits"])


def test_drafts_are_of_their_author_and_signed_by_an_engineer(service, engineer):
    detailer = service.client("detailer")
    kept = detailer.put_design("tab-of-mine", trial=TRIAL)
    assert [d["name"] for d in engineer.designs(text="tab-of-mine")["items"]] == []
    with pytest.raises(ServiceError, match="no design 'tab-of-mine R1' that you can see"):
        engineer.design("tab-of-mine", 1)
    with pytest.raises(ServiceError, match="needs the role engineer"):
        detailer.sign_design("tab-of-mine", 1)
    admin = service.client("admin")
    assert admin.sign_design("tab-of-mine", 1)["signer"] == "admin"
    assert [d["called"] for d in engineer.designs(text="tab-of-mine")["items"]] == ["tab-of-mine R1"]
    with pytest.raises(ServiceError, match="is house"):
        admin.sign_design("tab-of-mine", 1)
    assert kept["number"] == 1
    only = admin.about_design("tab-of-mine", 1, seen_by=["role:nobody"])
    assert only["seen_by"] == ["role:nobody"] and engineer.designs(text="tab-of-mine")["total"] == 0
    admin.withdraw_design("tab-of-mine", 1)
    assert admin.designs(text="tab-of-mine")["total"] == 0


def test_one_that_cannot_be_is_not_signed(engineer):
    poor = TRIAL | {"parameters": {"rows": 9}}
    kept = engineer.put_design("too-tall", trial=poor)
    assert kept["why"] and kept["holds"] == []
    with pytest.raises(ServiceError, match="cannot be signed"):
        engineer.sign_design("too-tall", 1)
    engineer.leave_design("too-tall", 1)
    assert engineer.designs(text="too-tall")["total"] == 0


def test_it_is_found_by_words_strength_and_likeness(engineer):
    made(engineer, "tab-found", title="Sturdy tab", tags=["stair"])
    assert [d["name"] for d in engineer.designs(text="sturdy w16x36")["items"]] == ["tab-found"]
    assert engineer.designs(tag="stair")["total"] == 1 and engineer.designs(tag="stairs")["total"] == 0
    assert engineer.designs(text="sturdy", V="60 kip")["total"] == 1
    assert engineer.designs(text="sturdy", V="90 kip")["total"] == 0
    like = TRIAL | {"supported": {"section": "W16X50", "grade": "A992"}, "parameters": {}}
    found = engineer.find_designs({k: v for k, v in like.items() if k != "standard"}, tag="stair")["items"]
    one = next(f for f in found if f["design"]["name"] == "tab-found")
    assert one["status"] == "pass" and 0 < one["apart"] < 1
    deep = like | {"supported": {"section": "W24X76", "grade": "A992"}}
    assert not [f for f in engineer.find_designs(deep, tag="stair")["items"] if f["design"]["name"] == "tab-found"]
    heavy = like | {"actions": [{"name": "1", "V": "95 kip"}]}
    one = next(f for f in engineer.find_designs(heavy, tag="stair")["items"] if f["design"]["name"] == "tab-found")
    assert one["status"] == "fail" and one["utilisation"] > 1


def test_open_fields_have_bounds_and_what_is_not_asked_follows(engineer):
    fields = {"n": {"label": "Rows", "usual": 3, "low": 2, "high": 5}}
    parameters = {"rows": "= n", "plate_depth": "= (n - 1) * 3 in + 3 in", "plate_thickness": "3/8 in"}
    kept = made(engineer, "tab-open", fields=fields, parameters=parameters)
    assert [f["name"] for f in kept["fields"]] == ["n"] and kept["trial"]["parameters"]["rows"] == "3"
    record = next(c for c in engineer.connections(JOB, "framing=beam_to_column_flange, status=pass"))
    changes = engineer.design_changes("tab-open", 1, JOB, record["connection"], {"n": 4})
    assert changes["changes"]["rows"] == "4" and changes["reason"] == "design tab-open R1"
    with pytest.raises(ServiceError, match="n: 7 is more than 5"):
        engineer.design_changes("tab-open", 1, JOB, record["connection"], {"n": 7})
    with pytest.raises(ServiceError, match="cannot be a field's name"):
        made(engineer, "tab-bad", fields={"rows": 3})


def test_a_connection_of_a_job_becomes_one_and_a_rule_uses_it(service, engineer):
    admin = service.client("admin")
    key = next(
        c["connection"] for c in engineer.connections(JOB, "standard=single_plate, framing=beam_to_girder, status=pass")
    )
    kept = engineer.put_design("like-that", job=JOB, connection=key)
    assert kept["job"] == JOB and kept["source"] == f"{key} of {JOB}"
    engineer.sign_design("like-that", 1)
    there = engineer.design_in_job("like-that", 1, JOB)
    own = next(one for one in there["items"] if one["connection"] == key)
    assert own["holds"] and own["utilisation"] == pytest.approx(engineer.connection(JOB, key)["utilisation"], abs=2e-4)
    assert there["holds"] <= there["fitting"] and there["fitting"] >= 1
    before = engineer.rulebook(JOB)["text"]
    rule = "rules:\n  - name: House design\n    when: {framing: beam_to_girder}\n    use: design like-that R1\n"
    tried = engineer.try_rulebook(JOB, before.replace("rules:\n", rule, 1))
    assert tried["rules"][0]["takes"] == there["fitting"]
    made(engineer, "tab-unsigned")
    draft = before.replace("rules:\n", rule.replace("like-that R1", "tab-unsigned R1"), 1)
    with pytest.raises(ServiceError, match="is a draft"):
        engineer.try_rulebook(JOB, draft)
    version = engineer.put_rulebook(JOB, before.replace("rules:\n", rule, 1))["version"]
    try:
        why = engineer.why(JOB, key)
        assert why["rule"] == "House design"
        used = engineer.design("like-that", 1)["used"]
        assert used == [{"job": JOB, "revision": 1, "by": "rule", "connections": []}]
        engineer.put_design(
            "like-that", trial=kept["trial"], parameters=kept["parameters"] | {"plate_thickness": "3/4 in"}
        )
        changed = engineer.design_would_change("like-that", 2, JOB) if engineer.sign_design("like-that", 2) else {}
        assert changed["compared"]["changed"] > 0 and engineer.rulebook(JOB)["version"] == version
    finally:
        as_it_was(admin, before)


def as_it_was(admin, rulebook):
    """The job that others look at stands on its rulebook again, every connection looked at."""
    admin.put_rulebook(JOB, rulebook)
    admin.wait(JOB, admin.start_run(JOB)["id"])


def test_nothing_new_begins_with_what_is_withdrawn_or_kept_to_others(service, engineer):
    """What stands on it stays; a job that it is not kept to cannot begin with it."""
    admin, before = service.client("admin"), engineer.rulebook(JOB)["text"]
    for name in ("tab-gone", "tab-theirs"):
        made(engineer, name)
        engineer.sign_design(name, 1)
    ruled = before.replace("rules:\n", "rules:\n  - {name: Mine, use: design tab-gone R1}\n", 1)
    try:
        engineer.put_rulebook(JOB, ruled)
        engineer.withdraw_design("tab-gone", 1)
        assert engineer.put_rulebook(JOB, ruled + "# as it was\n")["rules"][0]["name"] == "Mine"
        engineer.put_rulebook(JOB, before)
        with pytest.raises(ServiceError, match="design tab-gone R1 is withdrawn"):
            engineer.put_rulebook(JOB, ruled)
        with pytest.raises(ServiceError, match="is withdrawn"):
            engineer.design_changes("tab-gone", 1, JOB, "B40.i")
        admin.about_design("tab-theirs", 1, seen_by=["job:another"])
        with pytest.raises(ServiceError, match="is kept to another"):
            admin.put_rulebook(JOB, ruled.replace("tab-gone", "tab-theirs"))
    finally:
        as_it_was(admin, before)


def test_it_goes_out_as_a_file_and_comes_in_as_a_draft(service, engineer):
    made(engineer, "tab-sent", title="For a friend", note="ours alone", tags=["secret"])
    engineer.sign_design("tab-sent", 1)
    file = engineer.design_file("tab-sent", 1)
    said = load(file["text"])
    assert not {"author", "signer", "job", "note", "tags"} & said.keys() and "actions" not in file["text"]
    came = service.client("detailer").take_design(file["text"], "tab-came")
    assert (came["state"], came["author"], came["title"]) == ("draft", "detailer", "For a friend")
    assert came["holds"] == engineer.design("tab-sent", 1)["holds"]
    said["design"]["parameters"]["rows"] = 5
    with pytest.raises(ServiceError, match="changed since it was written"):
        engineer.take_design(json.dumps(said))


def test_files_hang_on_a_revision_and_go_along_when_ticked(service, engineer, tmp_path):
    """Whoever may say something about it puts them; those of a draft can go, those of a signed one stay."""
    made(engineer, "tab-filed")
    sketch = tmp_path / "by hand.txt"
    sketch.write_bytes(b"V = 4 x 17.9 kip")
    kept = engineer.attach_to_design("tab-filed", 1, sketch)
    assert (kept["name"], kept["size"], kept["author"]) == ("by hand.txt", 16, "engineer")
    with pytest.raises(ServiceError, match=r"has by hand\.txt already"):
        engineer.attach_to_design("tab-filed", 1, sketch)
    sketch.write_bytes(b"")
    with pytest.raises(ServiceError, match="is empty"):
        engineer.attach_to_design("tab-filed", 1, sketch)
    detailer = service.client("detailer")
    with pytest.raises(ServiceError) as unseen:  # a draft of somebody else's
        detailer.file_of_design("tab-filed", 1, kept["id"])
    assert unseen.value.status == 404
    sketch.write_bytes(b"another")
    other = engineer.attach_to_design("tab-filed", 1, sketch)
    engineer.leave_file_of_design("tab-filed", 1, other["id"])
    engineer.sign_design("tab-filed", 1)
    assert detailer.file_of_design("tab-filed", 1, kept["id"]) == b"V = 4 x 17.9 kip"
    with pytest.raises(ServiceError, match="its files stay with it"):
        engineer.leave_file_of_design("tab-filed", 1, kept["id"])
    with pytest.raises(ServiceError, match="needs the role engineer"):
        detailer.attach_to_design("tab-filed", 1, sketch)
    assert [f["id"] for f in engineer.design("tab-filed", 1)["files"]] == [kept["id"]]
    assert "files" not in load(engineer.design_file("tab-filed", 1)["text"])
    sent = engineer.design_file("tab-filed", 1, files=True)["text"]
    came = detailer.take_design(sent, "tab-filed-there")
    (there,) = came["files"]
    assert there["digest"] == kept["digest"] and there["author"] == "detailer"
    assert detailer.file_of_design("tab-filed-there", 1, there["id"]) == b"V = 4 x 17.9 kip"
    another = load(sent)
    another["files"][0]["content"] = "QUJD"  # what it says is another
    with pytest.raises(ServiceError, match="changed since it was written"):
        detailer.take_design(json.dumps(another), "tab-filed-else")
    nameless = load(sent)
    nameless["files"][0]["name"] = ""
    nameless["digest"] = _digest(nameless)
    with pytest.raises(ServiceError, match="its name is 1 to 200"):
        detailer.take_design(json.dumps(nameless), "tab-filed-half")
    assert detailer.designs(text="tab-filed-half")["total"] == 0  # nothing half
    detailer.leave_design("tab-filed-there", 1)
    with pytest.raises(ServiceError):
        detailer.file_of_design("tab-filed-there", 1, there["id"])


def test_a_large_file_goes_along_too(engineer, tmp_path):
    """Longer than any text that is read as YAML; more than can go along is told."""
    made(engineer, "tab-large")
    scan = tmp_path / "scan.bin"
    scan.write_bytes(bytes(range(256)) * 4096)
    kept = engineer.attach_to_design("tab-large", 1, scan)
    came = engineer.take_design(engineer.design_file("tab-large", 1, files=True)["text"], "tab-large-there")
    assert [f["digest"] for f in came["files"]] == [kept["digest"]]
    scan.write_bytes(bytes(range(256)) * 27_000)
    engineer.attach_to_design("tab-large", 1, scan)
    with pytest.raises(ServiceError, match=r"7\.6 MB; 7 MB can go along"):
        engineer.design_file("tab-large", 1, files=True)


def test_it_is_told_in_the_units_of_who_asks(engineer):
    made(engineer, "tab-metric")
    told = {units: engineer.design("tab-metric", 1, units) for units in ("us", "si")}
    assert "PL 3/8 in" in told["us"]["summary"] and "PL 9.525 mm" in told["si"]["summary"]


def test_a_published_table_is_checked_row_by_row(engineer):
    """The first as it is, the second said to hold half as much again as it does, the third cannot be."""
    own = made(engineer, "tab-own")
    shear = next(one for one in own["holds"] if one["action"] == "V")["amount"]
    table = (
        "name,standard,framing,supported,support,rows,plate_thickness [in],holds V [kN]\n"
        f"pub-a,single_plate,beam_to_column_flange,W16X36,W14X90,4,3/8,{shear:.1f}\n"
        f"pub-b,single_plate,beam_to_column_flange,W16X36,W14X90,4,3/8,{shear * 1.5:.1f}\n"
        f"pub-c,single_plate,beam_to_column_flange,W16X36,W14X90,9,3/8,{shear:.1f}\n"
    )
    taken = engineer.take_designs("published.csv", table.encode(), tags=["published"])
    assert taken["names"] == ["pub-a", "pub-b", "pub-c"] and taken["left"] == 0
    a, b, c = (engineer.design(name, 1) for name in taken["names"])
    assert a["checked"] and a["differs"] == "" and a["source"] == "table published.csv" and a["tags"] == ["published"]
    assert "as published" in b["differs"] and " kip" in b["differs"] and c["why"] and c["holds"] == []
    metric = engineer.design("pub-b", 1, "si")["differs"]
    assert " kN" in metric and " kip" not in metric
    for column, told in (("colour", "column 'colour' is not known"), ("rod", "single_plate has no parameter rod")):
        bad = table.replace("rows,", f"{column},")
        with pytest.raises(ServiceError, match=told):
            engineer.take_designs("bad.csv", bad.encode())
    assert engineer.designs(text="pub-", tag="published")["total"] == 3


def test_content_that_is_no_table_is_refused(engineer):
    with pytest.raises(ServiceError, match="cannot be read as a workbook"):
        engineer.take_designs("x.xlsx", b"no workbook")
    with pytest.raises(ServiceError):
        engineer._call("POST", "/designs/table", json={"file": "x.csv", "content": "%%%"})


def test_its_picture_and_page(engineer):
    made(engineer, "tab-drawn")
    svg = engineer.design_picture("tab-drawn", 1)
    assert svg.startswith(b"<svg") or b"<svg" in svg[:400]


def test_its_calculation_is_under_what_it_holds_each_action_alone(engineer):
    """One page: every action that it holds has a line of its own and is used up by it; the drawing as a file."""
    kept = made(engineer, "tab-on-paper")
    page = PdfReader(io.BytesIO(engineer.design_paper("tab-on-paper", 1))).pages
    text = " ".join(page[0].extract_text().split())
    assert len(page) == 1 and "tab-on-paper R1" in text and "pass, utilisation 1.00" in text
    for one in kept["holds"]:
        assert f"{one['words']} alone" in text, one
    drawn = ezdxf.read(io.StringIO(engineer.design_paper("tab-on-paper", 1, "dxf").decode()))
    assert drawn.audit().errors == []
    with pytest.raises(ServiceError, match="page, not step"):
        engineer.design_paper("tab-on-paper", 1, "step")


def test_the_same_question_of_another_person_is_another_question(service, engineer):
    """Nobody is given what was worked out for somebody who may see more; what is new is found by who asked before."""
    made(engineer, "tab-my-own", tags=["own tabs"])
    page = engineer.design_paper("tab-my-own", 1)
    mine = engineer.find_designs(TRIAL, tag="own tabs")["items"]
    assert page.startswith(b"%PDF") and [one["design"]["name"] for one in mine] == ["tab-my-own"]
    detailer = service.client("detailer")
    with pytest.raises(ServiceError, match="no design"):
        detailer.design_paper("tab-my-own", 1)
    assert detailer.find_designs(TRIAL, tag="own tabs")["items"] == []
    made(engineer, "tab-my-other", tags=["own tabs"])
    assert len(engineer.find_designs(TRIAL, tag="own tabs")["items"]) == 2


def test_every_shipped_design_has_its_calculation(engineer):
    """Whatever its standard carries: it passes there, used up by each action alone."""
    for kept in engineer.designs(state="shipped", limit=500)["items"][::5]:
        text = PdfReader(io.BytesIO(engineer.design_paper(kept["name"], kept["number"]))).pages[0].extract_text()
        assert "pass, utilisation 1.00" in " ".join(text.split()), kept["name"]
