"""Members, joints and jobs may be called whatever a model calls them: addresses, filters and calls of the client take
them."""

from __future__ import annotations

import time

import pytest

from handrail.client import ServiceError
from handrail.client.client import FINISHED
from handrail.interchange.archive import zip_folder
from tests.bundles import DEMO, ODD, odd_names, small, write
from tests.wide import some


@pytest.fixture(scope="module")
def odd(service, tmp_path_factory):
    """A small bay whose beam and joint have odd names."""
    folder, admin = tmp_path_factory.mktemp("odd"), service.client("admin")
    tables = odd_names(small())
    zip_folder(write(tables, folder / "b"), folder / "b.zip")
    admin.new_job("odd-names")
    admin.import_bundle("odd-names", folder / "b.zip")
    admin.put_rulebook("odd-names", (DEMO / "rulebook.yaml").read_text())
    admin.wait("odd-names", admin.start_run("odd-names")["id"])
    yield admin
    admin._call("DELETE", "/jobs/odd-names")


def test_a_page_and_a_change(odd):
    key = f"{ODD}.i"
    assert odd.connection("odd-names", key)["joint"] == "e/1,?"
    made = odd.set_override("odd-names", key, "rows", 3, "wish")
    assert made["connection"] == key and odd.connection("odd-names", key)["overridden"] == 1
    odd.clear_override("odd-names", made["id"], state="awaiting")


def test_filters_hold_commas_in_quotes(odd):
    assert {c["connection"] for c in odd.connections("odd-names", 'joint="e/1,?"')} == {f"{ODD}.i"}
    assert odd.connections("odd-names", 'joint="e/1,?", status=fail') == []
    with pytest.raises(ServiceError, match="is not a filter"):
        odd.connections("odd-names", "joint=e/1,?")


def test_joints_come_in_pages(odd):
    whole = odd.joints("odd-names")
    assert [j["joint"] for j in whole][:2] == ["a", "b"] and sum(len(j["connections"]) for j in whole) == len(
        odd.connections("odd-names")
    )
    first = odd._call("GET", "/jobs/odd-names/joints", params={"limit": 2})
    rest = odd._call("GET", "/jobs/odd-names/joints", params={"limit": 99, "cursor": first["next"]})
    assert first["items"] + rest["items"] == whole and first["total"] == len(whole) and rest["next"] is None


@pytest.mark.parametrize("name", ["sign-in", "api", "healthz", "assets"])
def test_a_job_takes_no_address_of_the_console(odd, name):
    with pytest.raises(ServiceError, match="address of the console"):
        odd.new_job(name)


@pytest.mark.parametrize(
    ("sent", "kept"),
    some(
        [
            ("../../etc/b.zip", "b.zip"),
            ("..", "bundle.zip"),
            ("\x1b[31mred.zip", "[31mred.zip"),
            ("C:\\temp\\b.zip", "b.zip"),
            ("a" * 5000 + ".zip", "a" * 196 + ".zip"),
            (" ", "bundle.zip"),
        ],
        2,
    ),
)
def test_a_file_may_be_called_anything(odd, tmp_path, sent, kept):
    """It is read under its last part without what cannot be seen; nothing is written where its name says."""
    zip_folder(write(odd_names(small()), tmp_path / "b"), tmp_path / "b.zip")
    taken = odd._call(
        "POST",
        "/jobs/odd-names/imports",
        files={"bundle": (sent, (tmp_path / "b.zip").read_bytes(), "application/zip")},
    )
    assert taken["name"] == kept
    while (found := odd.get_import("odd-names", taken["id"]))["state"] not in FINISHED:
        time.sleep(0.05)
    assert found["state"] == "done"


def test_what_is_no_file_is_refused(odd):
    for more in (
        {"data": {"bundle": "text"}},
        {"files": {"bundle": ("", b"x")}},
        {"files": {"other": ("b.zip", b"x")}},
        {"json": {"bundle": "x"}},
    ):
        with pytest.raises(ServiceError, match="bundle") as refused:
            odd._call("POST", "/jobs/odd-names/imports", **more)
        assert refused.value.status == 422
    broken = odd._call(
        "POST", "/jobs/odd-names/imports", files={"bundle": ("mine.zip", b"no archive", "application/zip")}
    )
    while (found := odd.get_import("odd-names", broken["id"]))["state"] not in FINISHED:
        time.sleep(0.05)
    assert found["state"] == "failed" and found["message"].startswith("mine.zip: cannot be read as a zip archive")


def test_a_piece_of_a_member_stands_in_an_address_as_it_is(service):
    """And the way that its number was written before is understood."""
    client = service.client("detailer")
    now = client.connection("alder-street", "G134~2.i")
    assert now["connection"] == "G134~2.i" and client.connection("alder-street", "G134/2.i") == now
    answer = client._http.get(f"{service.url}/api/v1/jobs/alder-street/connections/G134~2.i")
    assert answer.url.raw_path.endswith(b"/G134~2.i") and answer.json()["connection"] == "G134~2.i"
