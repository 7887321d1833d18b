"""Runs and imports whose worker died, was stopped or was told to end: seen without a restart, and never written
twice."""

from __future__ import annotations

import os
import signal
import socket
import threading
import time

import pytest

from handrail.client.client import FINISHED
from handrail.interchange.archive import zip_folder
from handrail.service.processes import children, parting
from handrail.service.processes import work as working
from handrail.store import alive, works
from handrail.store.database import proxy
from handrail.store.models import Import, Run
from tests.bundles import DEMO
from tests.service.running import Service, processes
from tests.wide import wide

JOB = "alder-street"


def lapsed(monkeypatch) -> None:
    """Every lease is over."""
    monkeypatch.setattr(works, "LEASE", -1.0)


def test_a_run_without_a_word_is_interrupted_to_whoever_asks(house, monkeypatch):
    run = house.call("POST", "/jobs/bay/runs", json={}).json["id"]
    with proxy.connection_context():
        held = works.claim("a worker that dies")
    assert house.call("GET", f"/jobs/bay/runs/{run}").json["state"] == "running"
    assert house.call("POST", "/jobs/bay/runs", json={}).status_code == 409
    with monkeypatch.context() as patched:
        lapsed(patched)
        assert house.call("GET", f"/jobs/bay/runs/{run}").json["state"] == "interrupted"
        assert house.call("POST", "/jobs/bay/runs", json={}).status_code == 202
    with proxy.connection_context():
        working.do(held, house.home)  # it was only slow, and comes back: too late
        assert Run.get_by_id(run).state == "interrupted"
    house.work()
    states = {r["id"]: r["state"] for r in house.call("GET", "/jobs/bay/runs").json["items"]}
    assert states == {run: "interrupted", run + 1: "done"}


def test_an_import_without_a_word_is_read_by_another(house, monkeypatch):
    """The one that comes back late takes away neither the file nor the place of the one that reads it now."""
    sent = house.call(
        "POST",
        "/jobs/bay/imports",
        data={"bundle": (open(house.home / "6.0.zip", "rb"), "b.zip")},  # noqa: SIM115
        content_type="multipart/form-data",
    )
    with proxy.connection_context():
        first = works.claim("slow")
        with monkeypatch.context() as patched:
            lapsed(patched)
            second = works.claim("quick")
        assert isinstance(second, Import) and second.id == first.id == sent.json["id"]
        working.do(first, house.home)
        assert house.call("GET", f"/jobs/bay/imports/{first.id}").json["state"] == "running"
        working.do(second, house.home)
    ended = house.call("GET", f"/jobs/bay/imports/{first.id}").json
    assert (ended["state"], ended["revision"]) == ("done", 2)
    assert not list((house.home / "uploads").iterdir())


def test_an_import_that_ends_every_worker_is_given_up(house, monkeypatch):
    sent = house.call(
        "POST",
        "/jobs/bay/imports",
        data={"bundle": (open(house.home / "6.0.zip", "rb"), "b.zip")},  # noqa: SIM115
        content_type="multipart/form-data",
    )
    lapsed(monkeypatch)
    with proxy.connection_context():
        assert [works.claim("x") is not None for _ in range(5)] == [True] * works.MOST_TRIES + [False] * (
            5 - works.MOST_TRIES
        )
    assert house.call("GET", f"/jobs/bay/imports/{sent.json['id']}").json["state"] == "interrupted"
    assert house.call("GET", "/jobs/bay").json["revision"]["number"] == 1


def test_a_word_of_life_holds_nobody_up(house):
    """It is one statement that is kept by itself: what a worker works out beside it cannot come between the lock on the
    records and its end. Nor does it change how lasting what follows is."""
    house.call("POST", "/jobs/bay/runs", json={})
    said: list[str] = []
    with proxy.connection_context():
        held = works.claim("me")
        assert held is not None
        proxy.connection().set_trace_callback(said.append)
        works.beat(held)
        works.progress(held, 3, 7, "half-way")
        proxy.connection().set_trace_callback(None)
        told = Run.get_by_id(held.id)
        assert (told.done, told.total, told.message) == (3, 7, "half-way")
        assert proxy.execute_sql("PRAGMA synchronous").fetchone() == (2,)
    assert [words.split()[0] for words in said if not words.startswith("PRAGMA")] == ["UPDATE", "UPDATE"], said


@pytest.mark.parametrize("begun", [False, True])
@pytest.mark.parametrize("kind", ["runs", "imports"])
def test_stopping_is_final(house, kind, begun):
    """Whether it waits or is under way: it ends cancelled, and a worker that had it keeps nothing of it."""
    if kind == "imports":
        data = {"bundle": (open(house.home / "6.0.zip", "rb"), "b.zip")}  # noqa: SIM115
        made = house.call("POST", "/jobs/bay/imports", data=data, content_type="multipart/form-data").json["id"]
    else:
        made = house.call("POST", "/jobs/bay/runs", json={}).json["id"]
    before = house.call("GET", "/jobs/bay/connections").json
    with proxy.connection_context():
        held = works.claim("me") if begun else None
        assert house.call("POST", f"/jobs/bay/{kind}/{made}/cancel").status_code == 202
        if held is not None:
            working.do(held, house.home)
    house.work()
    assert house.call("POST", f"/jobs/bay/{kind}/{made}/cancel").json["state"] == "cancelled"
    assert (
        house.call("GET", "/jobs/bay/connections").json == before
        and house.call("GET", "/jobs/bay").json["revision"]["number"] == 1
    )
    assert not list((house.home / "uploads").iterdir())


def test_a_killed_worker_is_seen_and_another_goes_on(own, tmp_path):
    """Nothing is started again by hand: a run is told as interrupted, an import is read after all."""
    client = own.client()
    run = client.start_run(JOB)
    while client.run(JOB, run["id"])["state"] == "queued":
        time.sleep(0.01)
    for process in processes(own, "worker"):
        os.kill(process, signal.SIGKILL)
    assert client.wait(JOB, run["id"])["state"] in ("interrupted", "done")
    zip_folder(DEMO / "bundle", tmp_path / "b.zip")
    with (tmp_path / "b.zip").open("rb") as stream:
        sent = client._call("POST", f"/jobs/{JOB}/imports", files={"bundle": ("b.zip", stream, "application/zip")})
    for _ in range(2):
        for process in processes(own, "worker"):
            os.kill(process, signal.SIGKILL)
        time.sleep(1.5)
    while (found := client.get_import(JOB, sent["id"]))["state"] not in FINISHED:
        time.sleep(0.1)
    assert found["state"] == "done" and client.audit(JOB)["number"] == 2
    assert client.wait(JOB, client.start_run(JOB)["id"])["state"] == "done"


@wide
def test_it_stops_during_an_upload_and_a_run(own):
    client = own.client()
    client.start_run(JOB)
    with socket.create_connection(("127.0.0.1", own.port)) as wire:
        token = client._http.headers["Authorization"]
        head = (
            f"POST /api/v1/jobs/{JOB}/imports HTTP/1.1\r\nHost: x\r\nAuthorization: {token}\r\nContent-Length:"
            " 90000000\r\n\r\n"
        )
        wire.sendall(head.encode() + b"x" * 300_000)
        ended = []
        stopping = threading.Thread(target=lambda: ended.append(own.stop()))
        stopping.start()
        stopping.join(timeout=20)
        assert ended == [0]
    assert processes(own, "worker") == []
    again = Service(own.home, own.port).start()
    try:
        assert len(again.client().connections(JOB)) == 1115
        assert not list((own.home / "uploads").iterdir())
    finally:
        again.stop()


def test_a_run_whose_worker_lives_is_not_told_as_lost(house, monkeypatch, tmp_path):
    """It may be silent because it cannot write."""
    run = house.call("POST", "/jobs/bay/runs", json={}).json["id"]
    alive.locks_in(tmp_path)
    try:
        alive.hold("slow")
        with proxy.connection_context():
            held = works.claim("slow")
        lapsed(monkeypatch)
        assert house.call("GET", f"/jobs/bay/runs/{run}").json["state"] == "running"
        with proxy.connection_context():
            assert works.claim("another") is None
            monkeypatch.undo()
            working.do(held, house.home)
            assert Run.get_by_id(run).state == "done"
        lapsed(monkeypatch)
        monkeypatch.setattr(works, "LONGEST", -1.0)  # one that says nothing for so long is no use to anybody
        again = house.call("POST", "/jobs/bay/runs", json={}).json["id"]
        with proxy.connection_context():
            monkeypatch.setattr(works, "LONGEST", 600.0)
            works.claim("slow")
        monkeypatch.setattr(works, "LONGEST", -1.0)
        assert house.call("GET", f"/jobs/bay/runs/{again}").json["state"] == "interrupted"
    finally:
        alive._folder.clear()
        while alive._held:
            alive._held.pop().close()


def test_a_process_that_holds_much_and_has_nothing_to_do_makes_room(monkeypatch):
    """One that is busy, or holds little, goes on."""
    ended: list[int] = []
    now = [100.0]
    monkeypatch.setattr(children.os, "_exit", ended.append)
    monkeypatch.setattr(children.time, "monotonic", lambda: now[0])
    rest = children.Rest(15.0)
    for seconds, busy, heavy in ((20.0, True, 0), (10.0, False, 0), (10.0, False, 2**60), (20.0, False, 2**60)):
        now[0] += seconds
        monkeypatch.setattr(children, "HEAVY", heavy)
        rest.look(busy)
        assert ended == []
    monkeypatch.setattr(children, "HEAVY", 0)
    now[0] += 10.0
    rest.look(False)
    assert ended == []  # it has just looked
    now[0] += 10.0
    rest.look(False)
    assert ended == [parting.RESTED]
