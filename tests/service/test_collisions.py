"""What of a connection stands in another of its joint: told of both, judged again with every change, let stand by a
person."""

from __future__ import annotations

import json

import pytest

from handrail.service.application import remedies
from handrail.store.database import proxy
from handrail.store.models import Job
from tests.service.house import House, false_decisions, false_results

FREE = {"gap": "9 in", "plate_thickness": "1/2 in", "columns": 2, "weld_size": "7/16 in"}


@pytest.fixture
def house(tmp_path):
    house = House(tmp_path / "home")
    house.upload(3)
    house.run()
    yield house
    with proxy.connection_context():
        job = Job.get()
        assert false_results(job) == [] and false_decisions(job) == []
    house.close()


def of(house: House, key: str) -> dict:
    return house.call("GET", f"/jobs/bay/connections/{key}").json


def override(house: House, key: str, **body):
    return house.call("POST", f"/jobs/bay/connections/{key}/overrides", json=body)


def test_a_run_tells_it_of_both(house):
    one, two = of(house, "B1.i"), of(house, "B2.i")
    for own, other in ((one, "B2.i"), (two, "B1.i")):
        assert own["status"] == "fail" and "collision" in own["broken"] and f"of {other}" in own["reason"]
        assert {c["other"] for c in own["collisions"]} == {other}
        told = [rule for rule in own["detailing"] if rule["rule"] == "collision"]
        assert len(told) == len(own["collisions"]) and not any(rule["ok"] for rule in told)
    pairs = [{(c["part"], c["its_part"], c["depth"]) for c in own["collisions"]} for own in (one, two)]
    assert pairs[0] == {(its, part, depth) for part, its, depth in pairs[1]} and ("beam", "beam") in {
        p[:2] for p in pairs[0]
    }
    assert of(house, "G1.i")["status"] == "pass" and of(house, "G1.i")["collisions"] == []


def test_a_person_lets_one_stand(house):
    """As deep as it is, with a reason; of both, whoever was asked; and no deeper."""
    said = override(house, "B1.i", parameter="collision", value="B2.i", reason="the flanges are cut back on site")
    assert said.status_code == 201, said.json
    one, two = of(house, "B1.i"), of(house, "B2.i")
    assert one["status"] == two["status"] == "pass" and all(
        c["stands"] for c in (*one["collisions"], *two["collisions"])
    )
    assert any("a person lets stand" in words for words in one["remarks"]) and two["remarks"]
    house.run()
    assert of(house, "B2.i")["status"] == "pass"
    back = house.call("DELETE", f"/jobs/bay/overrides/{said.json['id']}")
    assert back.status_code == 200, back.json
    assert of(house, "B1.i")["status"] == of(house, "B2.i")["status"] == "fail"


def test_only_what_there_is_can_stand(house):
    for key, value in (("B1.i", "G1.i"), ("G1.i", "all"), ("B1.i", " , ")):
        refused = override(house, key, parameter="collision", value=value, reason="so")
        assert refused.status_code == 422 and "stand" in refused.json["detail"]


def test_a_change_on_one_side_judges_the_other(house):
    """A preview, a decision, a run of one alone, going back: the other end of the joint is judged with it."""
    free = {"changes": FREE, "reason": "clear of B1"}
    shown = house.call("POST", "/jobs/bay/connections/B2.i/changes", json={**free, "preview": True})
    assert shown.json["after"]["status"] == "pass", shown.json["after"]["reason"]
    assert of(house, "B1.i")["status"] == "fail"
    (beside,) = shown.json["beside"]
    assert (beside["connection"], beside["before"]["status"], beside["after"]["status"]) == ("B1.i", "fail", "pass")
    before = of(house, "B1.i")
    assert house.call("POST", "/jobs/bay/connections/B2.i/changes", json=free).status_code == 201
    now = of(house, "B1.i")
    assert now["status"] == "pass" and now["version"] > before["version"]
    assert {c["room"] for c in now["collisions"]} == {"way"} and not any(c["fails"] for c in now["collisions"])
    assert any("cannot be brought in straight" in words for words in now["remarks"])
    assert now["parameters"] == before["parameters"] and not now["stale"]
    house.call("POST", "/jobs/bay/steps/back")
    assert of(house, "B1.i")["status"] == of(house, "B2.i")["status"] == "fail"


def test_a_run_of_one_judges_the_other(house):
    book = house.call("GET", "/jobs/bay/rulebook").json
    apart = {"name": "Apart", "when": {"skew": "> 20 deg"}, "use": "single_plate", "set": FREE}
    text = book["text"].replace("rules:\n", f"rules:\n  - {json.dumps(apart)}\n")
    assert house.call("PUT", "/jobs/bay/rulebook", json={"text": text}).status_code == 200
    assert of(house, "B1.i")["status"] == "fail" and of(house, "B2.i")["stale"]
    house.run(where="connection=B2.i")
    assert of(house, "B2.i")["status"] == of(house, "B1.i")["status"] == "pass"


def test_a_model_without_the_other(house):
    """What nothing stands in any more asks for a run; it does not go on failing by what is gone."""
    house.upload(0)
    own = of(house, "B1.i")
    assert (own["status"], own["collisions"]) == ("pass", []) or own["stale"]
    house.run()
    assert of(house, "B1.i")["status"] == "pass"


def test_what_would_clear_it_is_found(house):
    """One other size, with which it passes by a run; and where none helps, it is said so."""
    with proxy.connection_context():
        job = Job.get()
        remedies.look_for(job, ["B1.i", "B2.i"])
    for key in ("B1.i", "B2.i"):
        own = of(house, key)
        if not own["remedies"]:
            assert "no other size of it alone helps" in own["remedy"]
            continue
        (change,) = own["remedies"][0]["changes"].items()
        body = {"changes": dict([change]), "reason": "clear", "preview": True}
        assert house.call("POST", f"/jobs/bay/connections/{key}/changes", json=body).json["after"]["status"] == "pass"
