"""A full disk, records that cannot be written, records that are damaged: words that say what to do, and reading goes
on."""

from __future__ import annotations

import io
import subprocess
import sys

import pytest

from handrail.service.api import limits
from handrail.store.database import proxy
from tests.service.house import BOOKS
from tests.service.running import Service


@pytest.fixture
def house(house):
    """Run once."""
    house.run()
    return house


CHANGES = [
    (
        "POST",
        "/jobs/bay/connections/B1.i/overrides",
        {"json": {"parameter": "rows", "value": "4", "reason": "wish " * 3900}},
    ),
    ("PUT", "/jobs/bay/rulebook", {"json": {"text": BOOKS[1] + "# words\n" * 9000}}),
    ("POST", "/jobs", {"json": {"name": "other", "title": "t" * 90000}}),
    ("POST", "/jobs/bay/runs", {"json": {}}),  # a row so small that it finds room in the last page
]


@pytest.mark.parametrize(
    ("setting", "status", "words", "changes"),
    [
        ("max_page_count = 1", 507, "is full: free some space", CHANGES[:-1]),
        ("query_only = 1", 503, "cannot be written", CHANGES),
    ],
)
def test_no_room_and_no_permission(house, setting, status, words, changes):
    """SQLite's own limits stand for the disk's: every change is refused in words and leaves nothing, every reading goes
    on."""
    before = house.call("GET", "/jobs/bay/connections").json
    proxy.execute_sql(f"pragma {setting}")
    for method, path, more in changes:
        refused = house.call(method, path, **more)
        assert refused.status_code == status and words in refused.json["detail"], (path, refused.json)
    for path in (
        "/jobs",
        "/jobs/bay/connections",
        "/jobs/bay/connections/B1.i",
        "/jobs/bay/joints",
        "/jobs/bay/model",
        "/me",
    ):
        assert house.call("GET", path).status_code == 200
    proxy.execute_sql("pragma max_page_count = 1000000")
    proxy.execute_sql("pragma query_only = 0")
    assert house.call("GET", "/jobs/bay/connections").json == before
    assert house.call(*CHANGES[0][:2], **CHANGES[0][2]).status_code == 201


def test_a_run_that_finds_no_room_says_so(house):
    """Its end is written once there is room again: a lease that nobody keeps up."""
    house.call(
        "PUT",
        "/jobs/bay/rulebook",
        json={"text": house.call("GET", "/jobs/bay/rulebook").json["text"].replace("0.95", "0.5")},
    )
    run = house.call("POST", "/jobs/bay/runs", json={}).json["id"]
    proxy.execute_sql("pragma query_only = 1")
    with pytest.raises(Exception, match="readonly"):
        house.work()
    proxy.execute_sql("pragma query_only = 0")
    house.work()
    assert house.call("GET", f"/jobs/bay/runs/{run}").json["state"] == "done"


def test_an_upload_that_finds_no_room(house, monkeypatch):
    from werkzeug.datastructures import FileStorage

    def full(self, target, buffer_size=16384):
        target.write(b"half")
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(FileStorage, "save", full)
    data = {"bundle": (io.BytesIO(b"PK"), "b.zip")}
    refused = house.call("POST", "/jobs/bay/imports", data=data, content_type="multipart/form-data")
    assert refused.status_code == 507 and "free some space" in refused.json["detail"]
    assert (
        not list((house.home / "uploads").iterdir()) and len(house.call("GET", "/jobs/bay/imports").json["items"]) == 1
    )


def test_a_body_that_finds_no_room_is_answered():
    """The server sets large bodies down in a file before they are read; the caller is told why that ended."""
    from waitress.adjustments import Adjustments

    parser = limits.Parser(Adjustments())
    head = b"POST /api/v1/jobs/a/imports HTTP/1.1\r\nHost: x\r\nCookie: a=b\r\nContent-Length: 900000\r\n\r\n"
    assert parser.received(head) == len(head) and parser.error is None

    class Full:
        completed = error = None

        def received(self, data):
            raise OSError(28, "No space left on device")

    parser.body_rcv = Full()
    assert parser.received(b"x" * 1000) == 1000
    assert parser.completed and parser.error.code == 507 and "free some space" in parser.error.body


def handrail(*words: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "-m", "handrail.cli.main", *words], capture_output=True, text=True, timeout=120, check=False
    )


def test_damaged_records_are_told_and_put_aside(tmp_path):
    """From a good service to a damaged file and back by a backup; the damaged one is kept beside."""
    home, copy = tmp_path / "home", tmp_path / "copy.sqlite"
    service = Service(home).start()
    before = service.client().connections("alder-street")
    assert handrail("backup", "--home", str(home), str(copy)).returncode == 0
    service.stop()
    records = home / "records.sqlite"
    records.write_bytes(b"no database at all" * 500)
    told = handrail("serve", "--home", str(home), "--port", str(service.port))
    assert told.returncode == 2 and "handrail restore" in told.stderr and "Traceback" not in told.stderr
    back = handrail("restore", "--home", str(home), str(copy), "--replace")
    assert back.returncode == 0, back.stderr
    aside = list(home.glob("*before-restore-*.sqlite"))  # and what was beside it
    assert len(aside) == 1 and aside[0].read_bytes().startswith(b"no database")
    again = Service(home).start()
    try:
        assert again.client().connections("alder-street") == before
    finally:
        again.stop()


def test_a_backup_is_whole_or_not_there(tmp_path):
    (tmp_path / "records.sqlite").write_bytes(b"no database at all" * 500)
    told = handrail("backup", "--home", str(tmp_path), str(tmp_path / "copy.sqlite"))
    assert told.returncode == 2 and "cannot be copied" in told.stderr and "Traceback" not in told.stderr
    assert not (tmp_path / "copy.sqlite").exists() and not (tmp_path / "copy.sqlite.part").exists()
