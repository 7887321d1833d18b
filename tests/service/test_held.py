"""Models looked at before they are taken in: held, understood, through another map, confirmed; the map saved for the
next revision."""

from __future__ import annotations

import shutil
from pathlib import Path

import pytest

from handrail.client import ServiceError
from handrail.interchange.archive import zip_folder
from tests.bundles import DEMO, small, write
from tests.service.running import Patient

EXPORTS = DEMO / "exports"


@pytest.fixture
def admin(service):
    return service.client("admin")


def tables(folder: Path, without: tuple[str, ...] = ("map.toml",)) -> Path:
    """The demo's exports in a zip, without some files."""
    shutil.copytree(EXPORTS, folder, ignore=shutil.ignore_patterns(*without))
    zip_folder(folder, folder.with_suffix(".zip"))
    return folder.with_suffix(".zip")


def test_held_understood_and_confirmed(admin, tmp_path):
    admin.new_job("held", "Looked at first")
    sent = admin.send_model("held", tables(tmp_path / "exports"), hold=True)
    assert (sent["state"], sent["name"]) == ("held", "exports.zip")
    first = admin.understood("held", sent["id"])
    assert (first["kind"], first["map_from"]) == ("tables", "proposed")
    assert first["problems"] == [] and first["pointing"]["stated"]["forces"] == "internal"  # tried against statics
    with pytest.raises(ServiceError, match="put their column map first"):
        admin.confirm_import("held", sent["id"])
    text = (EXPORTS / "map.toml").read_text(encoding="utf-8")
    wrong = admin.set_map("held", sent["id"], text.replace('"Height"', '"Hight"'))
    assert (
        "is Height meant?" in wrong["problems"][0]["message"]
        and wrong["problems"][0]["row"] == text[: text.index('"Height"')].count("\n") + 1
    )
    good = admin.set_map("held", sent["id"], text)
    assert (good["map_from"], good["problems"]) == ("given", []) and good["tables"][0]["columns"][3]["unit"] == "ft"
    assert admin.confirm_import("held", sent["id"])["state"] in ("queued", "running", "done")
    with pytest.raises(ServiceError, match="not held"):
        admin.set_map("held", sent["id"], text)
    done = next(
        i for i in iter(lambda: admin.get_import("held", sent["id"]), None) if i["state"] not in ("queued", "running")
    )
    assert (done["state"], done["revision"]) == ("done", 1)
    again = admin.import_bundle("held", tables(tmp_path / "next"))  # by the map that the job has now
    assert again["number"] == 2 and again["audit"]["counts"]["members"] == 983


def test_a_map_beside_the_tables_is_used(admin, tmp_path):
    admin.new_job("beside", "")
    assert admin.import_bundle("beside", tables(tmp_path / "exports", ()))["number"] == 1


def test_tables_without_a_map_are_told_so(admin, tmp_path):
    admin.new_job("no-map", "")
    with pytest.raises(ServiceError, match="need a column map"):
        admin.import_bundle("no-map", tables(tmp_path / "exports"))


def test_a_held_bundle_and_one_that_is_left(admin, tmp_path):
    admin.new_job("left", "")
    zip_folder(write(small(), tmp_path / "b"), tmp_path / "b.zip")
    sent = admin.send_model("left", tmp_path / "b.zip", hold=True)
    seen = admin.understood("left", sent["id"])
    assert (seen["kind"], seen["map"], seen["problems"]) == ("bundle", "", []) and seen["stated"]["units"][
        "length"
    ] == "ft"
    assert admin.cancel_import("left", sent["id"])["state"] == "cancelled"
    with pytest.raises(ServiceError, match="cancelled, not held"):
        admin.understood("left", sent["id"])


def test_several_files_at_once(service, admin):
    admin.new_job("many", "")
    token = admin.login("admin", "alder-street")
    with Patient(
        base_url=service.url, trust_env=False, headers={"Authorization": f"Bearer {token}"}, timeout=120
    ) as raw:
        files = [("bundle", (p.name, p.read_bytes(), "text/csv")) for p in sorted(EXPORTS.iterdir())]
        sent = raw.post("/api/v1/jobs/many/imports", files=files, data={"hold": "true"}).json()
        assert (sent["name"], sent["state"]) == (f"{len(files)} files", "held")
        seen = raw.get(f"/api/v1/jobs/many/imports/{sent['id']}/understood").json()
        assert (seen["map_from"], seen["problems"]) == ("sent", [])
        twice = raw.post("/api/v1/jobs/many/imports", files=[*files[:1], *files[:1]], data={"hold": "true"})
        assert twice.status_code == 422 and "two files are called" in twice.json()["detail"]
