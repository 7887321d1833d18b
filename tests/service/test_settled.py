"""What a change makes stale is worked out, and marked, while others write: the records are held for a moment only."""

from __future__ import annotations

import threading

import pytest

from handrail.service.application import standing
from handrail.store import connections, sheets
from handrail.store.database import proxy
from handrail.store.models import Connection, Job
from tests.service.house import LABELLED, House, false_results
from tests.service.test_standing import slowly
from tests.wide import wide

KEYS = ["G1.i", "G2.j", "B1.i"]
ACTS = {
    "label": ("POST", "/jobs/bay/labels", {"connections": ["B1.i"], "add": ["rush"]}),
    "group": ("PUT", "/jobs/bay/groups/some", {"connections": KEYS}),
    "rulebook": ("PUT", "/jobs/bay/rulebook", {"text": LABELLED.replace("1/2 in", "5/8 in") + "title: other\n"}),
    "method": ("PATCH", "/jobs/bay", {"method": "ASD", "anyway": True}),
}


@pytest.fixture
def labelled(house) -> House:
    """Sized by rules that ask for tags and groups; B1.i is in a hurry where a rulebook says otherwise of it."""
    house.call("PUT", "/jobs/bay/rulebook", json={"text": LABELLED})
    house.run()
    return house


def beside(monkeypatch, happens) -> list[bool]:
    """Has something happen while it is worked out what is stale, once; whether the records were held each time."""
    held: list[bool] = []
    for module, name in ((standing, "no_longer"), (connections, "mark_ahead")):
        own = getattr(module, name)

        def told(*args, own=own, **more):
            held.append(proxy.in_transaction())
            if len(held) == 1:
                other = threading.Thread(target=happens)
                other.start()
                other.join(timeout=10)
                assert not other.is_alive(), "somebody else waits for the records"
            return own(*args, **more)

        monkeypatch.setattr(module, name, told)
    return held


@pytest.mark.parametrize("part", [1, 200])  # more than a small transaction marks, and fewer
@pytest.mark.parametrize("act", ACTS)
@wide
def test_others_write_while_it_is_worked_out(labelled, monkeypatch, act, part):
    monkeypatch.setattr(sheets, "PART", part)
    said = []
    method, path, body = ACTS[act]
    if act == "rulebook":
        labelled.call("POST", "/jobs/bay/labels", json={"connections": ["B1.i"], "add": ["rush"]})
        labelled.run()

    def comment() -> None:
        said.append(labelled.call("POST", "/jobs/bay/connections/G1.i/comments", json={"words": "meanwhile"}))

    held = beside(monkeypatch, comment)
    done = labelled.call(method, path, json=body)
    assert done.status_code == 200, done.json
    assert held and not any(held) and said[0].status_code == 201
    rows = {c["connection"]: c["reason"] for c in labelled.call("GET", "/jobs/bay/connections").json["items"]}
    stale = {key for key, reason in rows.items() if reason.startswith("stale: ")}
    assert stale == {"label": {"B1.i"}, "rulebook": {"B1.i"}}.get(act, stale) and stale
    with proxy.connection_context():
        assert false_results(Job.get(Job.name == "bay")) == []


@pytest.mark.parametrize("part", [1, 200])
@pytest.mark.parametrize("act", ACTS)
def test_a_run_that_ends_meanwhile_leaves_no_old_result(labelled, monkeypatch, act, part):
    """Results by what stood before the change are written just before it: they are stale by it, too."""
    monkeypatch.setattr(sheets, "PART", part)
    method, path, body = ACTS[act]
    labelled.call("POST", "/jobs/bay/labels", json={"connections": ["B1.i"], "add": ["rush"] * (act == "rulebook")})
    beside(monkeypatch, labelled.run)
    assert labelled.call(method, path, json=body).status_code == 200
    with proxy.connection_context():
        assert false_results(Job.get(Job.name == "bay")) == []
        assert Connection.select().where(Connection.stale != "").exists()


def test_marks_are_made_a_part_at_a_time(labelled, monkeypatch):
    """Three connections, one at a time: no transaction marks two of them, and each part is there for who reads."""
    monkeypatch.setattr(sheets, "PART", 1)
    many: list[int] = []
    mark = connections._mark

    def counted(why, numbers):
        many.append(Connection.select().where(Connection.stale != "").count())
        mark(why, numbers)

    monkeypatch.setattr(connections, "_mark", counted)
    with proxy.connection_context():
        connections.mark_ahead(Job.get(Job.name == "bay"), "it is tried")
    assert many == list(range(len(many))) and len(many) > 2


def test_a_change_that_is_refused_marks_nothing(labelled):
    """What is not so is found before anything is marked."""
    before = labelled.call("GET", "/jobs/bay/connections").json
    refused = labelled.call("PATCH", "/jobs/bay", json={"method": "ASD"}, headers={"If-Match": '"another"'})
    assert refused.status_code == 412
    assert labelled.call("PUT", "/jobs/bay/rulebook", json={"text": LABELLED + "rules: []\n"}).status_code == 422
    assert labelled.call("GET", "/jobs/bay/connections").json == before


def test_a_run_beside_a_change_ends_true(labelled, monkeypatch):
    slowly(monkeypatch, lambda: labelled.call("PUT", "/jobs/bay/groups/some", json={"connections": KEYS}))
    labelled.run()
    with proxy.connection_context():
        assert false_results(Job.get(Job.name == "bay")) == []
