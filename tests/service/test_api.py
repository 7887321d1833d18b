"""The service through its client and over bare HTTP."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import pytest

from handrail.client import Client, ServiceError
from handrail.interchange.archive import zip_folder
from tests.bundles import DEMO, small, write
from tests.service.running import Patient

JOB = "alder-street"


@pytest.fixture(scope="module")
def engineer(service):
    with service.client("engineer") as client:
        yield client


@pytest.fixture(scope="module")
def admin(service):
    with service.client("admin") as client:
        yield client


def http(service, **headers):
    return Patient(base_url=service.url, trust_env=False, headers=headers, timeout=120)


def test_summary_and_lists(engineer):
    job = engineer.job(JOB)
    assert job["connections"] == sum(job["statuses"].values()) == 1115
    assert job["statuses"]["pass"] > 800
    worst = engineer.connections(JOB, "status=fail", "-utilisation")
    uses = [c["utilisation"] for c in worst]
    assert uses == sorted(uses, reverse=True) and uses[0] > 1
    assert len(engineer.joints(JOB)) == 507
    with pytest.raises(ServiceError, match="is not a filter"):
        engineer.connections(JOB, "colour=red")


def test_paging(service, engineer):
    with http(service, Authorization=f"Bearer {engineer.login('engineer', 'alder-street')}") as raw:
        seen, cursor = [], 0
        while cursor is not None:
            page = raw.get(f"/api/v1/jobs/{JOB}/connections", params={"limit": 400, "cursor": cursor}).json()
            seen += [c["connection"] for c in page["items"]]
            cursor = page["next"]
        assert len(seen) == len(set(seen)) == page["total"] == 1115


def test_one_connection_in_full(engineer):
    c = engineer.connection(JOB, "B5.i")
    assert c["framing"] == "beam_to_girder" and c["status"] == "pass"
    sources = {p["name"]: p["source"] for p in c["parameters"]}
    assert sources["electrode"] == "practice" and sources["rows"] == "rung" and sources["cope_depth"] == "geometry"
    top = c["checks"][0]
    assert top["utilisation"] == pytest.approx(c["utilisation"], abs=1e-6)
    assert top["demand"] / top["strength"] == pytest.approx(top["utilisation"], abs=2e-6)
    assert all(check["lines"] for check in c["checks"] if check["check"] == "plate_shear_rupture")
    assert {v["title"] for v in c["drawing"]["views"]} == {"Elevation", "Plan through bolts", "Section through bolts"}
    assert {p["action"] for p in c["peaks"]} == {"N", "V", "Vw", "M", "Mw", "T"}


def test_override_holds_against_the_next_run_and_is_cleared(engineer):
    key = "B9.i"
    before = engineer.connection(JOB, key)
    seen = engineer.set_override(JOB, key, "rows", 4, preview=True)
    assert seen["state"] == "preview" and engineer.connection(JOB, key)["overridden"] == 0
    with pytest.raises(ServiceError, match="needs a reason"):
        engineer.set_override(JOB, key, "rows", 4)
    made = engineer.set_override(JOB, key, "rows", 4, "one more for the erector")
    assert (made["author"], made["state"]) == ("engineer", "awaiting")
    assert made["before"]["value"] == "3" and made["after"]["value"] == "4"
    assert made["after"]["utilisation"] < made["before"]["utilisation"]
    now = engineer.connection(JOB, key)
    assert now["utilisation"] == pytest.approx(made["after"]["utilisation"], rel=1e-5)
    run = engineer.wait(JOB, engineer.start_run(JOB)["id"])
    assert run["state"] == "done"
    held = {p["name"]: p for p in engineer.connection(JOB, key)["parameters"]}["rows"]
    assert (held["text"], held["source"]) == ("4", "override")
    awaiting = [o["id"] for o in engineer.overrides(JOB) if (o["state"], o["connection"]) == ("awaiting", key)]
    assert awaiting == [made["id"]]  # others may have decided elsewhere
    cleared = engineer.clear_override(JOB, made["id"], "not needed")
    assert cleared["state"] == "cleared"
    after = engineer.connection(JOB, key)
    assert after["utilisation"] == pytest.approx(before["utilisation"], rel=1e-9)
    assert [h["event"] for h in after["history"][len(before["history"]) :]] == ["set", "cleared"]
    with pytest.raises(ServiceError, match="cleared already"):
        engineer.clear_override(JOB, made["id"])


def test_an_override_may_be_a_formula(engineer):
    """It follows what it asks for in the next run too, and says so."""
    key = "B9.i"
    made = engineer.set_override(JOB, key, "plate_depth", "= (rows - 1) * pitch + 3-1/4 in", "our depth")
    sizes = {p["name"]: p for p in engineer.connection(JOB, key)["parameters"]}
    assert (sizes["plate_depth"]["source"], sizes["plate_depth"]["formula"]) == (
        "override",
        "= (rows - 1) * pitch + 3-1/4 in",
    )
    assert sizes["plate_depth"]["number"] == pytest.approx(
        (float(sizes["rows"]["text"]) - 1) * sizes["pitch"]["number"] + 3.25 * 25.4
    )
    rows = engineer.set_override(JOB, key, "rows", int(sizes["rows"]["text"]) + 1, "one more")
    deeper = {p["name"]: p for p in engineer.connection(JOB, key)["parameters"]}["plate_depth"]
    assert deeper["number"] == pytest.approx(sizes["plate_depth"]["number"] + sizes["pitch"]["number"])
    for override in (rows, made):
        engineer.clear_override(JOB, override["id"], "as it was")
    assert not any(p["formula"] for p in engineer.connection(JOB, key)["parameters"])


def test_overrides_that_are_refused(engineer):
    for parameter, value, words in (
        ("rows", 99, "more than 24"),
        ("colour", "red", "no parameter"),
        ("rows", "= row + 1", "is no size"),
        ("plate_depth", "= pitch + 3", "units do not go together"),
        ("plate_thickness", "thick", "not a quantity"),
    ):
        with pytest.raises(ServiceError, match=words):
            engineer.set_override(JOB, "B9.i", parameter, value, "x")
    with pytest.raises(ServiceError, match="no standard"):
        engineer.set_override(JOB, "X1.i", "rows", 3, "x")
    with pytest.raises(ServiceError) as stale:
        engineer.set_override(JOB, "B9.i", "rows", 4, "x", version=1)
    assert stale.value.status == 412


def test_verifying_does_not_resize(engineer):
    before = {c["connection"]: (c["status"], c["utilisation"], c["sizes"]) for c in engineer.connections(JOB)}
    run = engineer.wait(JOB, engineer.start_run(JOB, verify=True)["id"])
    assert run["state"] == "done" and run["mode"] == "verify"
    for c in engineer.connections(JOB):
        status, use, sizes = before[c["connection"]]
        assert c["sizes"] == sizes
        assert c["utilisation"] == pytest.approx(use, rel=1e-6)
        assert c["status"] == status


def test_rulebook_is_kept_tried_and_refused(engineer):
    book = engineer.rulebook(JOB)
    assert sum(r["takes"] for r in book["rules"]) == 922  # 847 shear ends, 38 bases, 35 column and 2 girder splices
    tried = engineer.try_rulebook(
        JOB, "rulebook: 1\nrules:\n  - {name: only girders, use: single_plate, when: {framing: beam_to_girder}}\n"
    )
    assert tried["uncovered_total"] > 400 and engineer.rulebook(JOB)["version"] == book["version"]
    with pytest.raises(ServiceError) as caught:
        engineer.put_rulebook(JOB, "rulebook: 1\nrulse: []\n")
    assert any(p["line"] == 2 and "'rulse' is not known" in p["message"] for p in caught.value.problems)
    with pytest.raises(ServiceError) as stale:
        engineer.put_rulebook(JOB, book["text"], version=book["version"] + 7)
    assert stale.value.status == 412


def test_roles(service, admin):
    admin.add_user("looker", "long enough")
    looker = Client(service.url, Client(service.url).login("looker", "long enough"))
    assert looker.jobs() == []
    with pytest.raises(ServiceError) as hidden:
        looker.job(JOB)
    assert hidden.value.status == 404
    admin.set_role(JOB, "looker", "viewer")
    assert looker.job(JOB)["role"] == "viewer"
    for refused in (
        lambda: looker.start_run(JOB),
        lambda: looker.set_override(JOB, "B9.i", "rows", 4, "x"),
        lambda: looker.new_job("mine"),
    ):
        with pytest.raises(ServiceError) as no:
            refused()
        assert no.value.status == 403
    with pytest.raises(ServiceError, match="10 characters"):
        admin.add_user("short", "short")


def test_without_a_token(service):
    with http(service) as raw:
        answer = raw.get("/api/v1/jobs")
        assert answer.status_code == 401 and answer.headers["content-type"] == "application/problem+json"
        assert raw.post("/api/v1/tokens", json={"name": "engineer", "password": "wrong"}).status_code == 401
        assert raw.get("/api/v1/nothing").status_code == 404
    with http(service, Authorization="Bearer hr_forged") as raw:
        assert raw.get("/api/v1/me").status_code == 401


def test_the_cookie_needs_its_header_for_changes(service):
    with http(service) as raw:
        assert raw.post("/api/v1/session", json={"name": "engineer", "password": "alder-street"}).status_code == 200
        assert raw.get("/api/v1/me").json()["name"] == "engineer"
        assert raw.post(f"/api/v1/jobs/{JOB}/runs", json={}).status_code == 403
        assert raw.delete("/api/v1/session", headers={"X-Handrail": "1"}).status_code == 204
        assert raw.get("/api/v1/me").status_code == 401


def test_the_document_of_the_api_is_true(service):
    """What the service serves is what its own routes and models make of it."""
    with http(service) as raw:
        document = raw.get("/api/v1/openapi.json").json()
    assert document["openapi"].startswith("3.1")
    for path in document["paths"].values():  # whoever is refused is told in one form, and the document says so
        for operation in path.values():
            refusals = {k: answer["content"] for k, answer in operation["responses"].items() if k >= "400"}
            assert {"401", "403", "404", "422"} <= refusals.keys()
            assert all(list(content) == ["application/problem+json"] for content in refusals.values())
    with http(service) as raw:
        assert raw.get("/api/v1/jobs").headers["content-type"] == "application/problem+json"
    made = subprocess.run(
        [sys.executable, str(Path(__file__).parents[2] / "docs/make_openapi.py"), "--check"],
        capture_output=True,
        text=True,
        check=False,
    )
    assert made.returncode == 0, made.stderr


def test_a_job_from_nothing(admin, tmp_path):
    """New job, bundle, rulebook, run, ASD refused where only its combinations lack; damage stores nothing."""
    admin.new_job("bay", "One bay")
    with pytest.raises(ServiceError, match="exists"):
        admin.new_job("bay")
    with pytest.raises(ServiceError, match="no model yet"):
        admin.start_run("bay")
    zip_folder(write(small(), tmp_path / "b"), tmp_path / "b.zip")
    revision = admin.import_bundle("bay", tmp_path / "b.zip")
    assert revision["number"] == 1 and revision["audit"]["counts"]["members"] == 5
    with pytest.raises(ServiceError, match="no rulebook"):
        admin.start_run("bay")
    with pytest.raises(ServiceError, match="no rulebook"):
        admin.start_run("bay", verify=True)
    admin.put_rulebook("bay", (Path(__file__).parents[2] / "docs/examples/rulebook.yaml").read_text())
    run = admin.wait("bay", admin.start_run("bay")["id"])
    assert run["state"] == "done" and run["counts"]["pass"] == 3
    bad = small()
    bad["nodes"][0]["x"] = "nan"
    zip_folder(write(bad, tmp_path / "c"), tmp_path / "c.zip")
    with pytest.raises(ServiceError) as refused:
        admin.import_bundle("bay", tmp_path / "c.zip")
    assert refused.value.problems[0] == {"file": "nodes.csv", "row": 2, "column": "x", "message": "'nan' is not finite"}
    assert admin.audit("bay")["number"] == 1 and admin.job("bay")["statuses"]["pass"] == 3
    assert admin.import_bundle("bay", tmp_path / "b.zip")["number"] == 2
    assert (
        admin.job("bay")["statuses"]["pass"] == 3 and admin.job("bay")["stale"] == 0
    )  # nothing that a result rests on was changed


def test_an_override_where_the_model_no_longer_allows_one(admin, tmp_path):
    """Sized and overridden in R1; in R2 the girder is a collector without overstrength: refused in words, and
    cleared."""
    admin.new_job("later")
    for letter, mark in (("b", ""), ("c", "collector")):
        tables = small()
        tables["members"][2]["seismic"] = mark
        zip_folder(write(tables, tmp_path / letter), tmp_path / f"{letter}.zip")
    admin.import_bundle("later", tmp_path / "b.zip")
    admin.put_rulebook("later", (DEMO / "rulebook.yaml").read_text())
    admin.wait("later", admin.start_run("later")["id"])
    made = admin.set_override("later", "G1.i", "rows", 4, "deeper")
    admin.import_bundle("later", tmp_path / "c.zip")
    with pytest.raises(ServiceError, match="a collector, and the model has no overstrength") as refused:
        admin.set_override("later", "G1.i", "rows", 5, "deeper still")
    assert refused.value.status == 409
    assert admin.clear_override("later", made["id"], "not now")["state"] == "cleared"
    run = admin.wait("later", admin.start_run("later")["id"])
    assert run["state"] == "done" and run["counts"]["unchecked"] == 3  # and two bases on nothing
    assert "a collector" in admin.connection("later", "G1.i")["reason"]
    verified = admin.wait("later", admin.start_run("later", verify=True)["id"])
    assert verified["counts"] == run["counts"]


def test_a_method_without_combinations_is_refused(admin, tmp_path):
    admin.new_job("only-lrfd", method="ASD")
    tables = small()
    tables["combinations"] = tables["combinations"][:1]
    zip_folder(write(tables, tmp_path / "b"), tmp_path / "b.zip")
    admin.import_bundle("only-lrfd", tmp_path / "b.zip")
    admin.put_rulebook("only-lrfd", (DEMO / "rulebook.yaml").read_text())
    run = admin.wait("only-lrfd", admin.start_run("only-lrfd")["id"])
    assert run["state"] == "failed" and "no strength combinations for ASD" in run["message"]


def test_trial_over_http(engineer):
    from tests.worked.sheet import FLANGE

    found = engineer.trial(FLANGE, trace=True)
    assert found["status"] == "pass" and found["checks"][0]["lines"]
    with pytest.raises(ServiceError, match="framing is missing"):
        engineer.trial({k: v for k, v in FLANGE.items() if k != "framing"})


def test_catalogue(engineer):
    assert engineer.sections("w 16 x 31")[0]["name"] == "W16X31"
    assert engineer.standards()[0]["name"] == "single_plate"
