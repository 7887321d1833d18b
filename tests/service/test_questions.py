"""What takes longer than a moment: asked, asked after, left; fair between people; answered elsewhere as it is here."""

from __future__ import annotations

import os
import signal
import sqlite3
import threading
import time

import httpx
import pytest

from handrail.client import Client
from handrail.client.calling import ServiceError
from tests.service.running import Service, processes
from tests.wide import wide

WORD = "no-manners-at-all"
TRIAL = {
    "standard": "single_plate",
    "framing": "beam_to_column_flange",
    "supported": {"section": "W21X62", "grade": "A992"},
    "support": {"section": "W14X90", "grade": "A992"},
    "actions": [{"name": "1.2D+1.6L", "V": "60 kip"}],
}


def sweep(candidates: int, shift: float = 0.0) -> dict:
    """A trial over so many edge and end distances."""
    edges = [f"{38 + k / 100 + shift:.5f} mm" for k in range(min(candidates, 100))]
    ends = [f"{38 + k / 100:.5f} mm" for k in range(max(candidates // 100, 1))]
    return TRIAL | {"sweep": {"values": [{"edge_distance": edges}, {"end_distance": ends}]}}


@pytest.fixture(scope="module")
def own(tmp_path_factory):
    """A service of these tests' own, with people who ask too much."""
    running = Service(tmp_path_factory.mktemp("questions") / "home", processes=2).start()
    for name in ("visitor", "guest"):
        running.client("admin").add_user(name, WORD)
        running.tokens[name] = Client(running.url).login(name, WORD)
    yield running
    running.stop()


def bare(service: Service, name: str) -> httpx.Client:
    """HTTP as it is, signed by a person."""
    service.client(name) if name not in service.tokens else None
    return httpx.Client(
        base_url=service.url, headers={"Authorization": f"Bearer {service.tokens[name]}"}, timeout=30, trust_env=False
    )


def until(true, seconds: float = 20.0) -> None:
    over = time.monotonic() + seconds
    while not true():
        assert time.monotonic() < over, "it did not come to that"
        time.sleep(0.05)


def test_a_small_one_is_answered_at_once(own):
    shifts = iter(range(1000))  # on a busy machine, or one that has just begun, not the first
    with bare(own, "visitor") as http:
        until(lambda: http.post("/api/v1/sweep", json=sweep(3, next(shifts) / 1e4)).status_code == 200)
        answer = http.post("/api/v1/sweep", json=sweep(3))
    assert answer.status_code in (200, 202)


@wide
def test_a_large_one_says_how_far_it_is_and_is_there_in_the_end(own):
    heard: list[dict | None] = []
    asking = Client(own.url, own.tokens["visitor"], progress=heard.append)
    found = asking.sweep(sweep(1200))
    assert len(found["rows"]) == 1200
    working = [one for one in heard if one and one["state"] == "working" and one["total"]]
    assert working and all(one["total"] == 1200 and 0 <= one["done"] < 1200 for one in working)
    assert [one["done"] for one in working] == sorted(one["done"] for one in working)


def test_the_second_time_it_is_there(own):
    own.client("engineer").sweep(sweep(800, 0.002))
    heard: list[dict | None] = []
    Client(own.url, own.tokens["engineer"], progress=heard.append).sweep(sweep(800, 0.002))
    assert not heard


def test_two_who_ask_the_same_are_answered_by_one(own):
    one, other = bare(own, "visitor"), bare(own, "guest")
    asked = [http.post("/api/v1/sweep", json=sweep(4000, 0.003)) for http in (one, other)]
    assert [a.status_code for a in asked] == [202, 202]
    assert asked[0].json()["id"] == asked[1].json()["id"]
    at = asked[0].headers["Location"]
    assert [http.get(at).status_code for http in (one, other)] == [202, 202]  # each may know
    assert bare(own, "engineer").get(at).status_code == 404
    one.delete(asked[0].headers["Location"])


def test_an_answer_is_of_how_the_job_stands(own):
    client, job = own.client("engineer"), "alder-street"
    before = client.schedule(job)
    row = next(r for r in before["rows"] if r["statuses"].get("pass"))
    made = client.set_override(job, row["connections"][0], "plate_thickness", "5/8 in", "another mark")
    after = client.schedule(job)
    own_row = next(r for r in after["rows"] if row["connections"][0] in r["connections"])
    assert own_row["sizes"]["plate_thickness"] == "5/8 in" and row["connections"] != own_row["connections"]
    client.clear_override(job, made["id"])
    again = client.schedule(job)
    assert again == before


def test_an_answer_is_of_the_job_that_is_there_now(own):
    """A job of the same name and number as one that was deleted is another one."""
    admin, told = own.client("admin"), []
    for words in ("first", "second"):
        admin.new_job("again")
        admin.put_rulebook("again", f"rulebook: 1\n# {words}\nrules: [{{name: All, use: single_plate}}]\n")
        told.append(admin.rulebook("again")["text"])
        admin._call("DELETE", "/jobs/again")
    assert "first" in told[0] and "second" in told[1]


def test_earlier_designs_are_those_that_the_caller_may_see(own):
    """They are of every job: what one person is told is kept for nobody."""
    own.client("engineer").earlier("alder-street", "B1.i")
    with sqlite3.connect(own.home / "scratch" / "questions.sqlite") as file:
        kept = file.execute("SELECT keeps FROM question WHERE request LIKE '%/earlier%'").fetchall()
    assert kept and set(kept) == {(0,)}


def test_files_come_as_files(own):
    at = "/api/v1/jobs/alder-street/schedule.csv"
    with bare(own, "engineer") as http:
        until(lambda: http.get(at).status_code == 200)
        answer = http.get(at)
    assert (
        answer.headers["Content-Type"].startswith("text/csv") and "attachment" in answer.headers["Content-Disposition"]
    )
    assert answer.text.splitlines()[0].lstrip("\ufeff").startswith("mark,")


def test_refusals_are_those_of_the_view(own):
    asking = own.client("engineer")
    with pytest.raises(ServiceError, match="no parameter 'rws'") as refused:
        asking.sweep(TRIAL | {"sweep": {"values": [{"rws": "2 .. 4"}]}})
    assert refused.value.status == 422
    with pytest.raises(ServiceError, match="no pattern 'P999'") as refused:
        asking.pattern("alder-street", "P999")
    assert refused.value.status == 404
    with pytest.raises(ServiceError, match="role detailer") as refused:
        own.client("admin").set_role("alder-street", "guest", "viewer")
        Client(own.url, own.tokens["guest"]).label("alder-street", connections=["B1.i"], add=["x"])
    assert refused.value.status == 403
    own.client("admin").set_role("alder-street", "guest", "none")


def test_nobody_sees_the_questions_of_others(own):
    mine = bare(own, "visitor")
    asked = mine.post("/api/v1/sweep", json=sweep(4000, 0.004))
    at = asked.headers["Location"]
    assert bare(own, "guest").get(at).status_code == 404 and bare(own, "guest").delete(at).status_code == 404
    assert httpx.get(own.url + at, trust_env=False).status_code == 401
    assert mine.delete(at).status_code == 204
    inside = bare(own, "engineer").get("/api/v1/jobs/alder-street/schedule/fewer")
    if inside.status_code == 202:
        assert bare(own, "guest").get(inside.headers["Location"]).status_code == 404


@wide
def test_one_who_leaves_is_not_worked_for(own):
    mine = bare(own, "visitor")
    asked = mine.post("/api/v1/sweep", json=sweep(15000, 0.005))
    assert asked.status_code == 202
    mine.delete(asked.headers["Location"])
    begun = time.monotonic()
    found = own.client("engineer").sweep(sweep(500, 0.006))
    assert len(found["rows"]) == 500
    until(lambda: _open_of(own) == 0, 5)
    assert time.monotonic() - begun < 20


def _open_of(service: Service) -> int:
    with sqlite3.connect(service.home / "scratch" / "questions.sqlite") as file:
        return file.execute("SELECT count(*) FROM question WHERE state IN ('waiting', 'working')").fetchone()[0]


@wide
def test_who_asks_too_much_waits_and_nobody_else(own):
    answers: list[int] = []

    def ask(number: int) -> None:
        answers.append(bare(own, "visitor").post("/api/v1/sweep", json=sweep(12000, 0.01 + number / 1e4)).status_code)

    crowd = [threading.Thread(target=ask, args=(k,)) for k in range(24)]
    for one in crowd:
        one.start()
    for one in crowd:
        one.join()
    assert set(answers) == {202, 429} and answers.count(429) >= 8
    refused = bare(own, "visitor").post("/api/v1/sweep", json=sweep(12000, 0.9))
    assert refused.headers["Retry-After"] == "1" and "as many questions" in refused.json()["detail"]
    assert len(Client(own.url, own.tokens["guest"]).sweep(sweep(40, 0.5))["rows"]) == 40
    assert _open_of(own) > 0  # it went ahead of those that waited longer
    until(lambda: _open_of(own) == 0, 40)  # nobody asks after the others


@wide
def test_what_a_process_had_that_died_is_answered_by_another(own):
    found: list[dict] = []
    asking = threading.Thread(target=lambda: found.append(own.client("engineer").sweep(sweep(2000, 0.02))))
    asking.start()
    until(lambda: _open_of(own) > 0)
    time.sleep(0.5)
    for number in processes(own, "answering"):
        os.kill(number, signal.SIGKILL)
    asking.join(timeout=90)
    assert found and len(found[0]["rows"]) == 2000
    until(lambda: len(processes(own, "answering")) == 2)


def test_an_act_is_done_once(own):
    client, job = own.client("detailer"), "alder-street"
    keys = [c["connection"] for c in client.connections(job)[:40]]
    before = len([e for e in client.connections(job) if "once" in e["tags"]])
    client.label(job, connections=keys, add=["once"])
    assert before == 0 and len([e for e in client.connections(job) if "once" in e["tags"]]) == 40
    client.label(job, connections=keys, remove=["once"])
    assert not [e for e in client.connections(job) if "once" in e["tags"]]
