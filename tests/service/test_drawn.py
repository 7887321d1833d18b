"""A model in parts says what the whole says."""

from __future__ import annotations

import pytest


def put_together(shape: dict, states: dict, names: dict) -> dict:
    """The whole again, as anybody may put it together."""

    def said(words: dict, k: int):
        return words["words"][words["of"][k]]

    ends, xyz = shape["members"]["ends"], shape["nodes"]["xyz"]
    nodes = [
        {"node": n, "xyz": xyz[3 * k : 3 * k + 3], "place": said(names["place"], k), "level": said(names["level"], k),
         "support": said(shape["nodes"]["support"], k)}
        for k, n in enumerate(names["nodes"])
    ]  # fmt: skip
    members = [
        {"member": m, "i": ends[2 * k], "j": ends[2 * k + 1], "grade": said(names["grade"], k),
         "role": said(shape["members"]["role"], k), "piece": names["piece"][k], "up": said(shape["members"]["up"], k)}
        | shape["sections"][shape["members"]["section"][k]]
        for k, m in enumerate(names["members"])
    ]  # fmt: skip
    connections = []
    for k, m in enumerate(states["member"]):
        member, end = names["members"][m], states["end"][k]
        node = states["at"].get(str(k), ends[2 * m + end])
        connections.append(
            {"connection": states["called"].get(str(k), f"{member}.{'ij'[end]}"), "joint": names["nodes"][node],
             "status": said(states["status"], k), "utilisation": pytest.approx(states["utilisation"][k], abs=5e-4),
             "framing": said(states["framing"], k), "member": member, "remarks": states["remarks"].get(str(k), 0),
             "stale": k in states["stale"]}
        )  # fmt: skip
    own = {name: shape[name] for name in ("title", "system", "grids", "levels", "north")}
    return own | {"nodes": nodes, "members": members, "connections": connections, "without": names["without"]}


def test_the_parts_are_the_whole(service):
    client, job = service.client("engineer"), "alder-street"
    parts = client.model_shape(job), client.model_states(job), client.model_names(job)
    assert client.model(job) == put_together(*parts)


def test_they_are_of_the_job_as_it_stands(house):
    assert house.call("GET", "/jobs/bay/model/states").json["status"]["words"] == ["unassigned"]
    house.run()
    parts = [house.call("GET", f"/jobs/bay/model/{part}").json for part in ("shape", "states", "names")]
    assert house.call("GET", "/jobs/bay/model").json == put_together(*parts)
    house.call("POST", "/jobs", json={"name": "empty"})
    assert (
        house.call("GET", "/jobs/empty/model/shape").status_code == house.call("GET", "/jobs/empty/model").status_code
    )
