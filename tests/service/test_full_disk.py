"""Where nothing can be written, reading goes on, as the words say; so does signing in."""

from __future__ import annotations

from typing import Any

import peewee
import pytest

from handrail.service.api import auth
from handrail.store import accounts, heads
from handrail.store.opening import RECORDS
from tests.service.house import BOOKS
from tests.wide import wide

GIVEN = {"job": "bay", "connection": "B1.i", "number": 1, "override": 1, "pattern": "P1", "group": "some",
         "joint": "e", "kind": "csv", "name": "mine", "user": "ann", "run": 1, "member": "B1",
         "attachment": 1, "standard": "single_plate"}  # fmt: skip


@pytest.fixture
def full(house, monkeypatch):
    """A job that was run, on a disk that is full since; nobody read its schedule yet."""
    house.run()
    house.call("PUT", "/jobs/bay/rulebook", json={"text": BOOKS[1]})
    begin = peewee.SqliteDatabase.begin

    def nothing_more(self: Any, lock: str | None = None) -> Any:
        if lock == "IMMEDIATE":
            raise peewee.OperationalError("database or disk is full")
        return begin(self, lock)

    monkeypatch.setattr(peewee.SqliteDatabase, "begin", nothing_more)
    yield house
    accounts._unwritten.clear()  # a process counts them on


@wide
def test_every_address_that_reads_answers(full):
    rules = [r for r in full.app.url_map.iter_rules() if r.rule.startswith("/api/v1") and "GET" in (r.methods or ())]
    answers = {}
    for rule in rules:
        names = {name: GIVEN.get(name, 1) for name in rule.arguments}
        with full.app.test_request_context():
            path = full.app.url_map.bind("").build(rule.endpoint, names)
        answers[rule.rule] = full.call("GET", path.removeprefix("/api/v1")).status_code
    assert len(answers) > 50 and {path: code for path, code in answers.items() if code >= 500} == {}
    assert sum(code == 200 for code in answers.values()) > 40


def test_marks_that_cannot_be_written_down_say_so(full, monkeypatch):
    unsure = [m["mark"] for m in full.call("GET", "/jobs/bay/schedule").json["rows"]]
    assert unsure and all(mark.endswith("?") for mark in unsure)
    monkeypatch.undo()
    sure = [m["mark"] for m in full.call("GET", "/jobs/bay/schedule").json["rows"]]
    assert sure == [mark.rstrip("?") for mark in unsure]


def test_signing_in_goes_on(full, monkeypatch):
    """For an hour, and no longer than the password; wrong ones are counted all the same; what writes is refused."""
    ask, mine = {"name": "ann", "password": "long-enough"}, {auth.CSRF_HEADER: "1"}
    browser = full.app.test_client()
    assert browser.post("/api/v1/session", json=ask).status_code == 200
    assert browser.get("/api/v1/jobs/bay").status_code == 200
    refused = browser.post("/api/v1/jobs", json={"name": "more"}, headers=mine)
    assert refused.status_code == 507 and "reading goes on" in refused.json["detail"]
    token = {"Authorization": f"Bearer {full.call('POST', '/tokens', json=ask).json['token']}"}
    assert full.call("GET", "/me", headers=token).status_code == 200
    said = token["Authorization"]  # not its last letter, some bits of which say nothing
    forged = {"Authorization": f"{said[:-5]}{'A' if said[-5] != 'A' else 'B'}{said[-4:]}"}
    assert full.call("GET", "/me", headers=forged).status_code == 401
    as_cookie = full.app.test_client()
    as_cookie.set_cookie(auth.COOKIE, token["Authorization"].removeprefix("Bearer "))
    assert as_cookie.get("/api/v1/me").status_code == 401  # a token is no session
    wrong = [full.call("POST", "/tokens", json=ask | {"password": "wrong"}).status_code for _ in range(10)]
    assert wrong == [401] * 8 + [429] * 2
    monkeypatch.setattr(accounts, "SPARE_SECONDS", -1)
    assert full.call("GET", "/me", headers=token).status_code == 401
    monkeypatch.undo()
    assert full.call("GET", "/me", headers=token).status_code == 200
    own = full.call("PUT", "/users/ann/password", json={"new": "tall cedar lamp"})
    assert own.status_code == 204 and full.call("GET", "/me", headers=token).status_code == 401


def test_a_spare_token_ends_with_a_restore(full, monkeypatch):
    """As every token does: what let people in then may have been taken away since."""
    made = full.call("POST", "/tokens", json={"name": "ann", "password": "long-enough"}).json["token"]
    own = {"Authorization": f"Bearer {made}"}
    assert made.startswith(accounts.SPARE) and full.call("GET", "/me", headers=own).status_code == 200
    monkeypatch.undo()
    heads.sign(full.home, "day", full.home / RECORDS)
    assert full.call("GET", "/me", headers=own).status_code == 200
    heads.sign(full.home, "restore", full.home / RECORDS)
    assert full.call("GET", "/me", headers=own).status_code == 401
