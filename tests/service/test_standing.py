"""Whatever happens at once, what is shown is what would be worked out afresh from what stands.

Random sequences of imports, runs, overrides, clears, patches and rulebooks by several people at a time, in one process
over one set of records; SEQUENCES=1000 in the environment looks further."""

from __future__ import annotations

import os
import random
import threading
from collections import Counter

import pytest

from handrail.store import connections, jobs, overrides, works
from handrail.store.database import proxy, writing
from handrail.store.models import Connection, Job, Ledger, Override, Run
from tests.service.house import BOOKS, House, afresh, false_decisions, false_results
from tests.wide import some

SEQUENCES = int(os.environ.get("SEQUENCES", "8"))


def step(house: House, dice: random.Random) -> None:
    """One thing that somebody does."""
    kind = dice.choice(
        [
            "import",
            "run",
            "run",
            "verify",
            "override",
            "override",
            "override",
            "clear",
            "clear",
            "patch",
            "title",
            "book",
            "steps",
            "review",
            "review",
            "review",
            "many",
            "crash",
            "look",
            "release",
            "label",
            "label",
            "group",
            "pattern",
            "book",
        ]
    )
    key = dice.choice(["G1.i", "G2.j", "B1.i", "B2.i"])
    if kind == "import":
        house.upload(dice.randrange(4))
    elif kind in ("run", "verify"):
        house.run(verify=kind == "verify")
    elif kind == "override":
        if dice.random() < 0.3:
            key, parameter, value = dice.choice(
                [("G1.i", "framing", "beam_to_column_web"), ("B1.i", "support", "G2"), ("B1.i", "support", "G1")]
            )
        else:
            parameter, value = dice.choice(
                [
                    ("rows", "4"),
                    ("rows", "2"),
                    ("plate_thickness", "1/2 in"),
                    ("bolt", "7/8 A325-N"),
                    ("standard", "double_angle"),
                    ("standard", "shear_end_plate"),
                    ("elsewhere", "by others"),
                    ("elsewhere", "none"),
                    ("actions", "V = 20 kip"),
                    ("gap", "9 in"),
                    ("collision", "all"),
                ]
            )
        house.call(
            "POST",
            f"/jobs/bay/connections/{key}/overrides",
            json={"parameter": parameter, "value": value, "reason": "wish"},
        )
    elif kind == "steps":
        house.call("POST", f"/jobs/bay/steps/{dice.choice(['back', 'forward'])}")
    elif kind == "clear":
        for override in house.call("GET", "/jobs/bay/overrides").json["items"][:1]:
            house.call("DELETE", f"/jobs/bay/overrides/{override['id']}")
    elif kind == "review":
        act = dice.choice(["accept", "accept", "return", "confirm", "clear"])
        held = [o["id"] for o in house.call("GET", "/jobs/bay/overrides?state=holding").json["items"]]
        some = dice.sample(held, min(len(held), dice.randint(1, 3))) or [1]
        house.call("POST", "/jobs/bay/overrides/review", json={"act": act, "overrides": some, "word": "so"})
    elif kind == "many":
        changes = dice.choice(
            [
                {"rows": 4, "plate_thickness": "3/8 in"},
                {"rows": 3},
                {"elsewhere": "by others"},
                {"standard": "single_plate"},
            ]
        )
        house.call(
            "POST",
            "/jobs/bay/changes",
            json={"where": "standard=single_plate", "changes": changes, "reason": "alike", "skip": True},
        )
    elif kind == "crash":
        crashed(house)
    elif kind == "look":
        house.look()
    elif kind == "release":
        house.call(
            "POST",
            "/jobs/bay/releases",
            json={"where": "status=pass", "skip": True, "withdraw": dice.random() < 0.2, "word": "so"},
        )
    elif kind == "label":
        labels = {"add": ["rush"]} if dice.random() < 0.5 else {"remove": ["rush"]}
        house.call(
            "POST",
            "/jobs/bay/labels",
            json={
                "connections": [key],
                "person": dice.choice(["", "ann"]),
                "sequence": dice.choice(["", "2"]),
                **labels,
            },
        )
    elif kind == "group":
        house.call("PUT", "/jobs/bay/groups/some", json={"connections": [key], "how": dice.choice(["add", "take"])})
    elif kind == "pattern":
        house.call(
            dice.choice(["PUT", "DELETE"]),
            f"/jobs/bay/joints/{dice.choice('bde')}/pattern",
            json={"beside": "", "reason": "so"},
        )
    elif kind == "patch":
        house.call("PATCH", "/jobs/bay", json={"method": dice.choice(["LRFD", "ASD"])})
    elif kind == "title":
        house.call("PATCH", "/jobs/bay", json={"title": f"The bay {dice.randrange(99)}"})
    else:
        house.call("PUT", "/jobs/bay/rulebook", json={"text": dice.choice(BOOKS)})


def crashed(house: House) -> None:
    """A worker takes a run or an import and is never heard of again."""
    house.call("POST", "/jobs/bay/runs", json={})
    with proxy.connection_context():
        owner = f"dies {threading.get_ident()}"
        work = works.claim(owner)
        with writing():
            works.release(owner)
        assert work is None or works.state_of(type(work).get_by_id(work.id))[0] in ("interrupted", "queued")
    house.work()


@pytest.mark.parametrize("seed", some(range(SEQUENCES), 3))
def test_what_is_shown_is_true(house, tmp_path, seed):
    dice = random.Random(seed)
    house.run()
    plans_of = [[dice.randrange(10**6) for _ in range(5)] for _ in range(4)]
    errors: list[BaseException] = []

    def person(seeds: list[int]) -> None:
        try:
            for one in seeds:
                step(house, random.Random(one))
        except BaseException as exc:
            errors.append(exc)

    people = [threading.Thread(target=person, args=(seeds,)) for seeds in plans_of]
    for p in people:
        p.start()
    for p in people:
        p.join()
    assert not errors, errors
    with proxy.connection_context():
        job = Job.get(Job.name == "bay")
        assert false_results(job) == [] and false_decisions(job) == []
        assert not Run.select().where(Run.state.in_(("queued", "running"))).exists()
        for override in Override.select().where(Override.state == "cleared"):
            ended = Ledger.select().where((Ledger.override == override) & (Ledger.event == "cleared")).count()
            again = Ledger.select().where((Ledger.override == override) & (Ledger.event == "again")).count()
            assert ended == 1 + again, (override.id, ended, again)
    house.run()
    house.look()
    with proxy.connection_context():
        job = Job.get(Job.name == "bay")
        assert (
            not (jobs.look_due(job) and overrides.all_holding(job))
            and false_results(job) == []
            and false_decisions(job) == []
        )
        assert not Connection.select().where((Connection.job == job) & Connection.reason.startswith("stale")).exists()
    house.run()  # sized, where it was verified
    assert afresh(house, tmp_path / "afresh") == []


def slowly(monkeypatch, then) -> None:
    """Let `then` happen once between working a run out and writing it."""
    from handrail.core.checking.batch import Batch

    original, done = Batch.run, []

    def run(self, families):
        yield from original(self, families)
        if not done:
            done.append(1)
            worker = threading.Thread(target=then)
            worker.start()
            worker.join()

    monkeypatch.setattr(Batch, "run", run)


@pytest.mark.parametrize("change", ["import", "method", "rulebook", "override", "clear"])
def test_a_change_during_a_run(house, monkeypatch, change):
    """The run works out again what moved, and ends true."""
    house.run()
    made = house.call(
        "POST",
        "/jobs/bay/connections/B1.i/overrides",
        json={"parameter": "plate_thickness", "value": "1/2 in", "reason": "wish"},
    ).json
    house.run()
    happen = {
        "import": lambda: house.upload(1),
        "method": lambda: house.call("PATCH", "/jobs/bay", json={"method": "ASD"}),
        "rulebook": lambda: house.call("PUT", "/jobs/bay/rulebook", json={"text": BOOKS[1]}),
        "override": lambda: house.call(
            "POST", "/jobs/bay/connections/G1.i/overrides", json={"parameter": "rows", "value": "5", "reason": "wish"}
        ),
        "clear": lambda: house.call("DELETE", f"/jobs/bay/overrides/{made['id']}"),
    }
    before = house.call("GET", "/jobs/bay/connections/G1.i").json
    slowly(monkeypatch, happen[change])
    house.run()
    with proxy.connection_context():
        job = Job.get(Job.name == "bay")
        assert false_results(job) == []
        assert not Connection.select().where(Connection.reason.startswith("stale")).exists()
    after = house.call("GET", "/jobs/bay/connections/G1.i").json
    if change == "override":
        assert {p["name"]: p["text"] for p in after["parameters"]}["rows"] == "5"
    if change in ("import", "method", "rulebook"):
        assert after["utilisation"] != before["utilisation"]
    if change == "clear":
        assert house.call("GET", "/jobs/bay/connections/B1.i").json["overridden"] == 0


def test_two_people_two_sizes_none_is_lost(house):
    house.run()
    sizes = [("rows", "4"), ("plate_thickness", "1/2 in"), ("bolt", "7/8 A325-N"), ("end_distance", "2 in")]
    start = threading.Barrier(len(sizes))

    def person(parameter: str, value: str) -> None:
        start.wait()
        made = house.call(
            "POST",
            "/jobs/bay/connections/B1.i/overrides",
            json={"parameter": parameter, "value": value, "reason": "wish"},
        )
        assert made.status_code == 201

    people = [threading.Thread(target=person, args=pair) for pair in sizes]
    for p in people:
        p.start()
    for p in people:
        p.join()
    shown = house.call("GET", "/jobs/bay/connections/B1.i").json
    assert {p["name"]: p["text"] for p in shown["parameters"] if p["source"] == "override"} == dict(sizes)
    assert shown["overridden"] == 4


def test_a_title_never_writes_a_rulebook(house):
    """Titles and rulebooks at once: every acknowledged rulebook counts in the version, and the last one stands."""
    texts = [BOOKS[0].replace("All", f"All {k}") for k in range(12)]

    def titles() -> None:
        for k in range(25):
            assert house.call("PATCH", "/jobs/bay", json={"title": f"Title {k}"}).status_code == 200

    worker = threading.Thread(target=titles)
    worker.start()
    version = house.call("GET", "/jobs/bay").json["rulebook_version"]
    for text in texts:
        assert house.call("PUT", "/jobs/bay/rulebook", json={"text": text}).status_code == 200
    worker.join()
    found = house.call("GET", "/jobs/bay").json
    assert found["rulebook_version"] == version + 12 and found["title"] == "Title 24"
    assert house.call("GET", "/jobs/bay/rulebook").json["text"] == texts[-1]


def test_changes_name_what_they_saw(house):
    seen = house.call("GET", "/jobs/bay").headers["ETag"]
    assert house.call("PATCH", "/jobs/bay", json={"title": "New"}, headers={"If-Match": seen}).status_code == 200
    late = house.call("PATCH", "/jobs/bay", json={"title": "Newer"}, headers={"If-Match": seen})
    assert late.status_code == 412 and house.call("GET", "/jobs/bay").json["title"] == "New"
    assert house.call("DELETE", "/jobs/bay", headers={"If-Match": seen}).status_code == 412
    house.run()
    made = house.call(
        "POST", "/jobs/bay/connections/B1.i/overrides", json={"parameter": "rows", "value": "4", "reason": "wish"}
    ).json
    path = f"/jobs/bay/overrides/{made['id']}"
    assert house.call("DELETE", path, headers={"If-Match": '"accepted"'}).status_code == 412
    assert house.call("DELETE", path, headers={"If-Match": '"awaiting"'}).status_code == 200
    assert house.call("DELETE", path).status_code == 409


def test_a_run_that_changes_nothing_raises_no_version(house):
    house.run()
    before = {c["connection"]: c["version"] for c in house.call("GET", "/jobs/bay/connections").json["items"]}
    house.run()
    assert {c["connection"]: c["version"] for c in house.call("GET", "/jobs/bay/connections").json["items"]} == before


def test_many_ask_for_a_run_and_one_is_made(house):
    start, answers = threading.Barrier(6), []

    def person() -> None:
        start.wait()
        answers.append(house.call("POST", "/jobs/bay/runs", json={}).status_code)

    people = [threading.Thread(target=person) for _ in range(6)]
    for p in people:
        p.start()
    for p in people:
        p.join()
    assert sorted(answers) == [202, 409, 409, 409, 409, 409]


def test_a_rulebook_marks_only_what_it_changes(house):
    """Another title changes nothing; another thickness makes what the rule sized stale, not what somebody verified by
    hand."""
    house.run()
    house.call("PUT", "/jobs/bay/rulebook", json={"text": BOOKS[0] + "title: the same rules\n"})
    assert {c["status"] for c in house.call("GET", "/jobs/bay/connections").json["items"] if c["standard"]} == {"pass"}
    house.call("PUT", "/jobs/bay/rulebook", json={"text": BOOKS[1]})
    rows = [c for c in house.call("GET", "/jobs/bay/connections").json["items"] if c["standard"]]
    assert rows and all(
        c["status"] == "unchecked" and c["reason"].startswith("stale: the rulebook was changed") for c in rows
    )


def test_another_engine_s_results_are_stale(house):
    house.run()
    with proxy.connection_context():
        assert connections.mark_other_engines("0.0.0") > 0
    rows = [c for c in house.call("GET", "/jobs/bay/connections").json["items"] if c["standard"]]
    assert rows and all(c["status"] == "unchecked" and "another version" in c["reason"] for c in rows)


def test_a_job_in_a_deleted_one_s_place_has_its_own_model(house):
    """Ids are used again when a job is deleted; what was worked out for the one is never taken for the other."""
    house.run()
    before = house.call("GET", "/jobs/bay/connections/B1.i").json["utilisation"]
    assert house.call("DELETE", "/jobs/bay").status_code == 204
    house.call("POST", "/jobs", json={"name": "bay"})
    house.call("PUT", "/jobs/bay/rulebook", json={"text": BOOKS[0]})
    house.upload(1)  # six times the loads
    house.run()
    assert house.call("GET", "/jobs/bay/connections/B1.i").json["utilisation"] != before
    with proxy.connection_context():
        assert false_results(Job.get(Job.name == "bay")) == []


def test_every_change_is_another_word(house):
    """`moved` of a job never comes back to what it was, though everything else does: whoever looks sees that there was
    something."""
    seen, house_job = [], lambda: house.call("GET", "/jobs/bay").json
    seen.append(house_job()["moved"])

    def changed(what) -> None:
        what()
        found = house_job()
        assert found["moved"] not in seen
        seen.append(found["moved"])
        rows = house.call("GET", "/jobs/bay/connections").json["items"]
        assert found["statuses"] == dict(Counter(r["status"] for r in rows)) and found["framings"] == dict(
            Counter(r["framing"] for r in rows)
        )

    changed(house.run)
    changed(lambda: house.call("PATCH", "/jobs/bay", json={"method": "ASD"}))
    changed(lambda: house.call("PATCH", "/jobs/bay", json={"method": "LRFD"}))
    changed(house.run)
    made = {}
    override = {"parameter": "rows", "value": "4", "reason": "wish"}
    changed(lambda: made.update(house.call("POST", "/jobs/bay/connections/B1.i/overrides", json=override).json))
    changed(lambda: house.call("DELETE", f"/jobs/bay/overrides/{made['id']}"))
    changed(lambda: house.call("PUT", "/jobs/bay/rulebook", json={"text": BOOKS[1]}))
    changed(lambda: house.call("PUT", "/jobs/bay/rulebook", json={"text": BOOKS[0]}))
    changed(lambda: house.upload(1))
    changed(lambda: house.run(verify=True))
    changed(lambda: house.call("PATCH", "/jobs/bay", json={"title": "Another"}))
    assert house_job()["moved"] == seen[-1]
