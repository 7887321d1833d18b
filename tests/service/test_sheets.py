"""Many results at once: prepared beside what stands, and standing by one number; what others do meanwhile stays."""

from __future__ import annotations

import itertools
import threading
import time

import pytest

from handrail.service.application import running
from handrail.store import jobs, removing, runs, sheets, team, works
from handrail.store.database import proxy, rows, writing
from handrail.store.models import Connection, ConnectionRow, Job
from tests.service.house import BOOKS, House, false_decisions, false_results


@pytest.fixture
def house(tmp_path, monkeypatch):
    """Every run of it is one of many results."""
    monkeypatch.setattr(running, "MANY", 1)
    monkeypatch.setattr(sheets, "PART", 1)
    monkeypatch.setattr(sheets, "PAUSE", 0)
    made = House(tmp_path / "home")
    yield made
    made.close()


def meanwhile(monkeypatch, act, at: int = 2) -> list[int]:
    """`act` is done once by somebody else while a sheet is being filled."""
    seen, fill = [], sheets.Sheet.fill

    def filled(sheet, going_on=lambda: None):
        steps = itertools.count()

        def going() -> None:
            going_on()
            if next(steps) == at and not seen:
                seen.append(sheet.number)
                act()

        fill(sheet, going)

    monkeypatch.setattr(sheets.Sheet, "fill", filled)
    return seen


def stand(house) -> dict[str, tuple]:
    return {
        c["connection"]: (c["status"], round(c["utilisation"], 9), c["summary"], c["version"], tuple(c["tags"]))
        for c in house.call("GET", "/jobs/bay/connections?limit=1000").json["items"]
    }


def true(house) -> bool:
    with proxy.connection_context():
        job = jobs.find_job("bay")
        assert false_results(job) == [] and false_decisions(job) == []
    return True


def of_job() -> tuple[int, int, int]:
    """(rows of all sheets, connections, sheets) of the records."""
    with proxy.connection_context():
        ((every, many),) = rows("SELECT count(*), count(DISTINCT sheet) FROM connectionrow")
        return every, Connection.select().count(), many


def test_a_run_leaves_what_one_in_place_leaves(house, tmp_path, monkeypatch):
    house.run()
    beside = stand(house)
    monkeypatch.setattr(running, "MANY", 10**6)
    (tmp_path / "other").mkdir()
    other = House(tmp_path / "other" / "home")
    other.run()
    assert stand(other) == beside
    other.close()
    proxy.initialize(house_database(house))
    assert true(house)
    every, connections, many = of_job()
    assert every == connections and many == 1  # what stood before is gone


def house_database(house):
    from handrail.store.opening import RECORDS, open_database

    return open_database(house.home / RECORDS)


def test_what_is_as_it_was_stays_version_and_all(house):
    house.run()
    before = stand(house)
    house.run()
    assert stand(house) == before


def test_nothing_is_seen_of_it_before_it_stands(house, monkeypatch):
    house.run()
    before, looks = stand(house), []
    house.call("PUT", "/jobs/bay/rulebook", json={"text": BOOKS[1]})
    stale = stand(house)
    meanwhile(monkeypatch, lambda: looks.append(stand(house)))
    house.run()
    assert looks == [stale] and stand(house) != before and true(house)


def test_what_others_say_meanwhile_stays(house, monkeypatch):
    keys = list(stand(house))

    def others() -> None:
        with proxy.connection_context():
            job = jobs.find_job("bay")
            team.label(job, keys, ["rush"], [], "bob", None, "ann")
            team.comment(job, keys[0], "look here", "ann")

    seen = meanwhile(monkeypatch, others)
    house.run()
    assert seen
    assert all(tags == ("rush",) for *_, tags in stand(house).values())
    assert {c["person"] for c in house.call("GET", "/jobs/bay/connections?limit=1000").json["items"]} == {"bob"}
    assert true(house)


def test_what_somebody_decides_meanwhile_is_worked_out_again(house, monkeypatch):
    house.run()
    key = next(k for k, (status, *_) in stand(house).items() if status == "pass")
    body = {"parameter": "plate_thickness", "value": "3/4 in", "reason": "so"}
    told = []
    meanwhile(monkeypatch, lambda: told.append(house.call("POST", f"/jobs/bay/connections/{key}/overrides", json=body)))
    house.call("PUT", "/jobs/bay/rulebook", json={"text": BOOKS[1]})
    house.run()
    assert told[0].status_code == 201
    page = house.call("GET", f"/jobs/bay/connections/{key}").json
    assert page["sizes"]["plate_thickness"] == pytest.approx(19.05) and page["overridden"] == 1
    assert true(house)


def test_a_revision_meanwhile_takes_its_place(house, monkeypatch):
    """One that is overtaken is worked out again."""
    monkeypatch.setattr(sheets, "_working", lambda job: 1)
    meanwhile(monkeypatch, lambda: house.upload(1))
    house.run()
    assert house.call("GET", "/jobs/bay").json["revision"]["number"] == 2
    assert true(house)


@pytest.mark.parametrize("run_first", (True, False))
def test_the_second_waits_for_the_first(house, monkeypatch, run_first):
    """Of a job one sheet is prepared at a time, and both come to stand."""
    house.run()
    order, begun, took = [], sheets.Sheet._begun, sheets.Sheet.take_over
    monkeypatch.setattr(sheets.Sheet, "_begun", lambda sheet: begun(sheet) or order.append("waits"))
    monkeypatch.setattr(
        sheets.Sheet, "take_over", lambda sheet, *without: order.append("stands") or took(sheet, *without)
    )
    monkeypatch.setattr(sheets, "WAIT", 0.01)
    acts = [house.run, lambda: house.upload(1)]
    first, second = acts if run_first else reversed(acts)
    other = threading.Thread(target=second)

    def come() -> None:
        other.start()
        while "waits" not in order:
            time.sleep(0.01)

    meanwhile(monkeypatch, come)
    first()
    other.join()
    house.work()
    assert order.index("waits") < order.index("stands")
    assert house.call("GET", "/jobs/bay").json["revision"]["number"] == 2
    assert true(house)


def test_a_revision_is_not_seen_before_it_stands(house, monkeypatch):
    house.run()
    before, looks = stand(house), []
    meanwhile(monkeypatch, lambda: looks.append((stand(house), house.call("GET", "/jobs/bay").json["revision"])))
    house.upload(1)
    assert looks[0][0] == before and looks[0][1]["number"] == 1
    assert stand(house) != before and true(house)
    every, connections, many = of_job()
    assert every == connections and many == 1


def test_what_others_say_while_a_revision_comes_stays(house, monkeypatch):
    house.run()
    keys = list(stand(house))

    def others() -> None:
        with proxy.connection_context():
            job = jobs.find_job("bay")
            team.comment(job, keys[0], "look here", "ann")
            team.label(job, keys, ["rush"], [], "bob", None, "ann")

    seen = meanwhile(monkeypatch, others)
    house.upload(1)
    assert len(seen) == 1 and all(tags == ("rush",) for *_, tags in stand(house).values())
    history = house.call("GET", f"/jobs/bay/connections/{keys[0]}").json["history"]
    assert [e["words"] for e in history if "look here" in e["words"]] and true(house)


def test_what_is_decided_while_a_revision_comes_goes_along(house, monkeypatch):
    house.run()
    key = next(k for k, (status, *_) in stand(house).items() if status == "pass")
    body = {"parameter": "plate_thickness", "value": "3/4 in", "reason": "so"}
    told = []
    meanwhile(monkeypatch, lambda: told.append(house.call("POST", f"/jobs/bay/connections/{key}/overrides", json=body)))
    house.upload(2)
    page = house.call("GET", f"/jobs/bay/connections/{key}").json
    assert told[0].status_code == 201 and page["overridden"] == 1
    house.run()
    assert house.call("GET", f"/jobs/bay/connections/{key}").json["sizes"]["plate_thickness"] == pytest.approx(19.05)
    assert true(house)


def test_a_revision_that_ends_half_way_leaves_nothing(house, monkeypatch):
    house.run()
    before = stand(house)

    def stop() -> None:
        with proxy.connection_context():
            works.cancel(works.Import.get(works.Import.state == "running"))

    meanwhile(monkeypatch, stop)
    house.upload(1)
    assert stand(house) == before and house.call("GET", "/jobs/bay").json["revision"]["number"] == 1
    every, connections, many = of_job()
    assert every == connections and many == 1 and true(house)
    with proxy.connection_context():
        assert rows("SELECT copying FROM job") == [(0,)]


def test_releases_that_a_revision_ends_fall_when_it_stands(house, monkeypatch):
    house.call("PATCH", "/jobs/bay", json={"tolerance": 0})
    house.run()
    passing = [k for k, (status, *_) in stand(house).items() if status == "pass"]
    house.call("POST", "/jobs/bay/releases", json={"connections": passing, "word": "go"})
    looks: list[int] = []
    meanwhile(monkeypatch, lambda: looks.append(house.call("GET", "/jobs/bay").json["released"]))
    house.upload(2)
    assert looks == [len(passing)]
    fell = len(passing) - house.call("GET", "/jobs/bay").json["released"]
    with proxy.connection_context():
        told = rows("SELECT connection, count(*), min(sealed) FROM event WHERE kind = 'fell' GROUP BY connection")
    assert fell and len(told) == fell and all(times == sealed == 1 for _, times, sealed in told)


def test_a_release_falls_when_it_stands_and_not_before(house, monkeypatch):
    house.run()
    passing = [k for k, (status, *_) in stand(house).items() if status == "pass"]
    house.call("POST", "/jobs/bay/releases", json={"connections": passing, "word": "go"})
    looks: list[int] = []
    meanwhile(monkeypatch, lambda: looks.append(house.call("GET", "/jobs/bay").json["released"]))
    house.call("PUT", "/jobs/bay/rulebook", json={"text": BOOKS[1]})
    stale = house.call("GET", "/jobs/bay").json["released"]  # those that the rulebook made stale have fallen
    house.run()
    assert looks == [stale] and true(house)
    verified = house.call("GET", "/jobs/bay/ledger/verify").json
    assert verified["faults"] == []


def test_releases_that_a_run_lets_fall_are_told_once(house):
    """Nothing made them stale before: a run by other figures of the same model finds other steel."""
    house.run()
    passing = [k for k, (status, *_) in stand(house).items() if status == "pass"]
    assert house.call("POST", "/jobs/bay/releases", json={"connections": passing, "word": "go"}).json["connections"]
    with proxy.connection_context(), writing():  # as if somebody had changed what was kept
        job = Job.get(Job.name == "bay")
        ConnectionRow.update(sizes={}, digest="").where(
            sheets.standing(job) & (ConnectionRow.key == passing[0])
        ).execute()
    assert house.call("GET", "/jobs/bay").json["released"] == len(passing) - 1
    with proxy.connection_context(), writing():
        rows(
            "UPDATE connectionrow SET released = 'ann', fell = '', released_at = '2026-01-01' WHERE key = ?", passing[0]
        )
    house.run()
    with proxy.connection_context():
        fell = rows("SELECT count(*) FROM event WHERE kind = 'fell' AND connection = ?", passing[0])
    assert fell == [(2,)] and house.call("GET", "/jobs/bay").json["released"] == len(passing) - 1


def test_groups_follow(house):
    key = next(iter(stand(house)))
    house.call("PUT", "/jobs/bay/groups/some", json={"connections": [key], "how": "add"})
    house.run()
    house.run()
    assert house.call("GET", "/jobs/bay/groups/some").json["keys"] == [key]
    listed = house.call("GET", "/jobs/bay/connections?where=group=some").json["items"]
    assert [c["connection"] for c in listed] == [key]


def test_one_that_ends_half_way_leaves_nothing(house, monkeypatch):
    before = stand(house)

    def stop() -> None:
        with proxy.connection_context():
            works.cancel(works.Run.get(works.Run.state == "running"))

    meanwhile(monkeypatch, stop)
    house.run()
    assert stand(house) == before
    every, connections, many = of_job()
    assert every == connections and many == 1
    monkeypatch.undo()
    house.run()
    assert true(house) and stand(house) != before


def test_what_a_dead_worker_left_goes(house):
    with proxy.connection_context():
        job = jobs.find_job("bay")
        sheet = sheets.Sheet(job.id, lambda some, number: None)
        sheet.fill()
        run, _ = runs.add(job, "size", "", "ann")
        assert works.claim("dead").id == run.id and not sheets.drop_some()  # somebody is at it
        with writing():
            works.release("dead")
        assert sheets.left_over() == job.id and sheets.drop_some() and not sheets.drop_some()
        with pytest.raises(sheets.Overtaken), writing():
            sheet.take_over()
    every, connections, _ = of_job()
    assert every == connections


def test_a_job_that_goes_is_out_of_sight_at_once_and_gone_in_parts(house):
    """Its name is free, nobody finds it, and its records go while others write."""
    house.run()
    key = next(iter(stand(house)))
    house.call("POST", f"/jobs/bay/connections/{key}/comments", json={"words": "look"})
    with proxy.connection_context():
        number = jobs.find_job("bay").id
    assert house.call("DELETE", "/jobs/bay").status_code == 204
    assert house.call("GET", "/jobs").json["total"] == 0
    for name in ("bay", f"~{number}"):
        assert house.call("GET", f"/jobs/{name}").status_code == 404
        assert house.call("DELETE", f"/jobs/{name}").status_code == 404
    assert house.call("POST", "/jobs", json={"name": "bay"}).status_code == 201
    with proxy.connection_context():
        assert Connection.select().count() == 0 and ConnectionRow.select().count() > 0
        assert jobs.find_job("bay").id != number
        assert removing.drop_some() and not removing.drop_some()
        for table in ("connectionrow", "memberforces", "revision", "event", "ledger", "run", "import"):
            own = rows(
                f"SELECT count(*) FROM {table}" + " WHERE job_id = ?" * (table == "ledger"),
                *[number] * (table == "ledger"),
            )
            assert own == [(0,)], table
    assert house.upload(0)["state"] == "done"
    house.run()
    assert true(house)


def test_a_job_that_goes_ends_what_is_done_for_it(house, monkeypatch):
    meanwhile(monkeypatch, lambda: house.call("DELETE", "/jobs/bay"))
    house.run()
    with proxy.connection_context():
        assert removing.drop_some()
        assert (Job.select().count(), ConnectionRow.select().count()) == (0, 0)
