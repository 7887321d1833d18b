"""kill -9 at any moment: the service starts again, and nothing acknowledged is lost."""

from __future__ import annotations

import sqlite3
import subprocess
import threading
import time

import pytest

from handrail.client import ServiceError
from handrail.client.client import FINISHED
from handrail.interchange.archive import zip_folder
from tests.bundles import DEMO
from tests.service.running import Service
from tests.wide import some, wide

JOB = "alder-street"


def test_killed_during_a_run(own):
    client = own.client()
    made = client.set_override(JOB, "B9.i", "rows", 4, "kept through a power cut")
    before = {c["connection"]: (c["status"], c["utilisation"]) for c in client.connections(JOB)}
    run = client.start_run(JOB)
    for _ in range(200):
        if client.run(JOB, run["id"])["state"] != "queued":
            break
        time.sleep(0.01)
    own.kill()
    time.sleep(3)  # the worker sees that its server is gone
    again = Service(own.home, own.port).start()
    try:
        client = again.client()
        found = client.wait(JOB, run["id"])
        assert found["state"] in ("interrupted", "done")
        assert {c["connection"]: (c["status"], c["utilisation"]) for c in client.connections(JOB)} == before
        assert [o["id"] for o in client.overrides(JOB)] == [made["id"]]
        repeated = client.wait(JOB, client.run_again(JOB, run["id"])["id"])
        assert repeated["state"] == "done"
        assert {p["name"]: p["text"] for p in client.connection(JOB, "B9.i")["parameters"]}["rows"] == "4"
    finally:
        again.stop()


@pytest.mark.parametrize("delay", some([0.1, 0.7], 2))
def test_killed_during_an_import(own, tmp_path, delay):
    client = own.client()
    zip_folder(DEMO / "bundle", tmp_path / "b.zip")
    failed = []

    def upload():
        try:
            client.import_bundle(JOB, tmp_path / "b.zip")
        except ServiceError as error:
            failed.append(error)

    thread = threading.Thread(target=upload)
    thread.start()
    time.sleep(delay)
    own.kill()
    thread.join(timeout=120)
    again = Service(own.home, own.port).start()
    try:
        client = again.client()
        acknowledged = client.imports(JOB)
        for sent in acknowledged:  # what was taken is read after all
            while client.get_import(JOB, sent["id"])["state"] not in FINISHED:
                time.sleep(0.1)
            assert client.get_import(JOB, sent["id"])["state"] == "done"
        assert client.audit(JOB)["number"] == 1 + len(acknowledged)
        assert len(client.connections(JOB)) == 1115
    finally:
        again.stop()
    assert not list((own.home / "uploads").iterdir())
    with sqlite3.connect(own.home / "records.sqlite") as database:
        assert database.execute("pragma integrity_check").fetchone()[0] == "ok"
        forces = dict(database.execute("select revision_id, count(*) from memberforces group by 1"))
        assert set(forces.values()) == {983}


def test_stops_cleanly_and_takes_its_worker_along(own):
    own.client().jobs()
    assert own.stop() == 0
    time.sleep(0.3)
    left = subprocess.run(["pgrep", "-f", str(own.home)], capture_output=True, text=True, check=False)
    assert left.stdout == ""


def test_a_cancelled_run_keeps_nothing(own):
    client = own.client()
    before = {c["connection"]: c["version"] for c in client.connections(JOB)}
    run = client.start_run(JOB)
    client.cancel_run(JOB, run["id"])
    ended = client.wait(JOB, run["id"])
    assert ended["state"] in ("cancelled", "done")
    if ended["state"] == "cancelled":
        assert {c["connection"]: c["version"] for c in client.connections(JOB)} == before


@wide
def test_the_ledger_only_grows(own):
    own.client().set_override(JOB, "B9.i", "rows", 4, "x")
    with sqlite3.connect(own.home / "records.sqlite") as database:
        for change in ("update ledger set words = 'forged'", "delete from ledger"):
            with pytest.raises(sqlite3.IntegrityError, match="append-only"):
                database.execute(change)
