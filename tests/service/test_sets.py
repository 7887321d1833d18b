"""Named sets of combinations: what a job's results are by, and looking by another set or single combinations without
touching a result."""

from __future__ import annotations

import pytest

from handrail.store.database import proxy
from handrail.store.models import ConnectionRow, Job
from tests.bundles import small
from tests.service.house import false_results
from tests.service.test_follow import revise


def with_sets():
    """The small bay with an erection set of its own, and a second strength combination."""
    tables = small()
    more = (
        ("0.5D", "erection", "LRFD", "0.5"),
        ("9D", "erection", "LRFD", "9"),
        ("1.2D", "strength", "LRFD", "1.2"),
        ("S: D", "service", "none", "1"),
    )
    tables["combinations"] += [
        {"combination": c, "set": s, "method": m, "case": "D", "factor": f} for c, s, m, f in more
    ]
    return tables


@pytest.fixture
def house(house, tmp_path):
    revise(house, tmp_path, with_sets())
    house.run()
    return house


def rows(house):
    return house.call("GET", "/jobs/bay/connections").json["items"]


def look(house, **asked):
    started = house.call("POST", "/jobs/bay/runs", json=asked)
    assert started.status_code == 202, started.json
    house.work()
    return house.call("GET", f"/jobs/bay/runs/{started.json['id']}").json


def test_a_run_names_the_set_that_it_checked(house):
    ran = house.call("GET", "/jobs/bay/runs").json["items"][0]
    assert (ran["mode"], ran["combination_set"], ran["only"], ran["found"]) == ("size", "strength", [], [])


def test_looking_by_another_set_changes_no_result(house):
    before = rows(house)
    found = look(house, combination_set="erection")
    assert (found["mode"], found["combination_set"], found["state"]) == (
        "look",
        "erection",
        "done",
    ) and "no result was changed" in found["message"]
    assert rows(house) == before
    own = {r["connection"]: r for r in before}
    for seen in found["found"]:
        assert seen["action"] == "9D"
        assert seen["utilisation"] == pytest.approx(
            own[seen["connection"]]["utilisation"] * 9 / 1.4
        )  # the loads are all dead
    assert sum(found["counts"].values()) == len(before)


def test_looking_by_one_combination(house):
    before = rows(house)
    found = look(house, only=["1.2D"])
    assert {seen["action"] for seen in found["found"]} == {"1.2D"}
    worst = found["found"][0]
    own = next(r for r in before if r["connection"] == worst["connection"])
    assert worst["utilisation"] == pytest.approx(own["utilisation"] * 1.2 / 1.4) and rows(house) == before


def test_a_part_of_the_job_is_looked_at(house):
    found = look(house, only=["1.2D"], where="framing=beam_to_girder")
    assert [seen["connection"] for seen in found["found"]] == ["B1.i"]


@pytest.mark.parametrize(("asked", "words"), [
    ({"combination_set": "storm"}, "no combinations of set 'storm'"),
    ({"only": ["1.3D"]}, "'1.3D' is no combination of set strength by LRFD; there is 1.2D, 1.4D"),
    ({"only": ["D"]}, "it is of another method"),
    ({"combination_set": "erection", "only": ["1.2D"]}, "'1.2D' is no combination of set erection"),
])  # fmt: skip
def test_what_is_not_there_is_refused(house, asked, words):
    refused = house.call("POST", "/jobs/bay/runs", json=asked)
    assert refused.status_code == 422 and words in refused.json["detail"]


def test_a_set_without_this_method_is_said(house):
    found = look(house, combination_set="service")
    assert found["state"] == "failed" and "no combination of set service and LRFD can be formed" in found["message"]


def test_a_job_designed_for_a_set_of_its_own(house):
    """Results are by the job's set: another one makes them stale, and the next run is by it."""
    assert house.call("PATCH", "/jobs/bay", json={"combination_set": "storm"}).status_code == 422
    assert house.call("PATCH", "/jobs/bay", json={"combination_set": "erection"}).json["combination_set"] == "erection"
    stale = [r for r in rows(house) if r["standard"]]
    assert stale and all(r["status"] == "unchecked" and "set of combinations" in r["reason"] for r in stale)
    house.run()
    assert {r["action"] for r in rows(house) if r["standard"]} == {"9D"}
    with proxy.connection_context():
        assert false_results(Job.get(Job.name == "bay")) == []
    page = house.call("GET", "/jobs/bay/connections/B1.i").json
    assert (
        page["status"] != "unchecked"
        and page["action"] == "9D"
        and {c["action"] for c in page["checks"]} <= {"9D", "0.5D"}
    )
    assert look(house, combination_set="strength")["mode"] == "look"


def test_a_look_sizes_nothing(house):
    """What has no sizes yet is not judged by sizes that nobody kept."""
    with proxy.connection_context():
        ConnectionRow.update(standard="", sizes={}, digest="", status="unassigned").where(
            ConnectionRow.key == "B1.i"
        ).execute()
    found = look(house, only=["1.2D"], where="member=B1")
    assert (found["counts"], found["found"]) == ({"unchecked": 1}, [])
