"""Nothing is designed by combinations that cannot be formed, or contradict their name, until somebody lets them stand
by name."""

from __future__ import annotations

import pytest

from handrail.interchange.archive import zip_folder
from tests.bundles import changed, small, with_foundations, write
from tests.service.house import House

BAY = "/jobs/bay"
BOOK = """rulebook: 1
rules:
  - {name: Bases, when: {framing: column_base}, use: base_plate, set: {shear_path: anchors, washers: welded}}
  - {name: Ends, when: {released: true}, use: single_plate}
"""


@pytest.fixture
def house(tmp_path):
    made = House(tmp_path)
    yield made
    made.close()


def sent(house, tmp_path, *combinations: tuple[str, str, str, str, float]) -> None:
    """The small bay with a live case of which no forces came, and with more combinations: name, set, method, case,
    factor."""
    tables = with_foundations(small())
    tables["cases"] += [
        dict(zip(("case", "title", "nature", "kind"), c))
        for c in (("L", "Live", "live", "linear"), ("W", "Wind", "wind", "envelope"))
    ]
    tables["combinations"] += [
        dict(zip(("combination", "set", "method", "case", "factor"), c, strict=True)) for c in combinations
    ]
    rows = [r for r in tables["end_forces"] if r["result"] == "D"]
    tables["end_forces"] += [r | {"result": "L"} for r in rows]
    zip_folder(write(tables, tmp_path / "b"), tmp_path / "b.zip")
    assert house.send((tmp_path / "b.zip").read_bytes())["state"] == "done"
    house.call("PUT", f"{BAY}/rulebook", json={"text": BOOK})
    house.run()


def rows(house) -> dict[str, dict]:
    found = {c["connection"]: c for c in house.call("GET", f"{BAY}/connections").json["items"]}
    for name, row in found.items():
        page = house.call("GET", f"{BAY}/connections/{name}").json
        assert (page["status"], page["reason"]) == (row["status"], row["reason"]), name
    return found


UNFORMED = ("1.2D+1.0W", "strength", "LRFD", "W", 1.0)


def test_an_unformed_combination_leaves_everything_unchecked_until_it_is_let_stand(house, tmp_path):
    sent(house, tmp_path, UNFORMED, ("1.2D+1.0W", "strength", "LRFD", "D", 1.2))
    found = rows(house)
    for name in ("G1.i", "G2.j", "B1.i", "C1.i"):
        assert (
            found[name]["status"] == "unchecked" and "combination 1.2D+1.0W cannot be formed" in found[name]["reason"]
        ), found[name]
    released = house.call("POST", f"{BAY}/releases", json={"connections": ["G1.i"]})
    assert released.status_code == 422 and "unchecked" in released.json["detail"], released.json
    tried = house.call(
        "POST", f"{BAY}/connections/G1.i/overrides", json={"parameter": "rows", "value": "4", "preview": True}
    )
    assert tried.status_code == 409 and "1.2D+1.0W" in tried.json["detail"]
    finding = next(
        f for f in house.call("GET", f"{BAY}/audit").json["audit"]["findings"] if f["code"] == "combination_unformed"
    )
    assert (finding["severity"], finding["combination"]) == ("error", "1.2D+1.0W")
    said = {"code": "combination_unformed", "member": "1.2D+1.0W", "reason": "wind is checked elsewhere"}
    assert house.call("PUT", f"{BAY}/audit/acknowledged", json=said).status_code == 200
    house.run()
    assert {rows(house)[name]["status"] for name in ("G1.i", "G2.j", "B1.i", "C1.i")} == {"pass"}
    house.call(
        "DELETE", f"{BAY}/audit/acknowledged", query_string={"code": "combination_unformed", "member": "1.2D+1.0W"}
    )
    assert rows(house)["G1.i"]["reason"].startswith("stale")
    house.run()
    assert "cannot be formed" in rows(house)["G1.i"]["reason"]


def test_a_combination_that_contradicts_its_name(house, tmp_path):
    """One of another method is no doubt of this job; of another name it is."""
    sent(
        house,
        tmp_path,
        ("1.2D+1.6L", "strength", "LRFD", "D", 1.2),
        ("D+W", "strength", "ASD", "W", 1.0),
        ("D+W", "strength", "ASD", "D", 1.0),
    )
    assert "1.2D+1.6L has no L in it" in rows(house)["B1.i"]["reason"]
    other = {"code": "combination_misnamed", "member": "another", "reason": "so"}
    house.call("PUT", f"{BAY}/audit/acknowledged", json=other)
    house.run()
    assert rows(house)["B1.i"]["status"] == "unchecked"
    house.call("PUT", f"{BAY}/audit/acknowledged", json=other | {"member": "1.2D+1.6L"})
    house.run()
    assert rows(house)["B1.i"]["status"] == "pass"
    changed = house.call("PATCH", BAY, json={"method": "ASD"})
    assert changed.status_code == 200
    house.run()
    assert "combination D+W cannot be formed" in rows(house)["B1.i"]["reason"]


def test_units_that_do_not_close_hold_everything_back(house, tmp_path):
    """All moments are a thousand times too large, which leaves every node in balance: nothing is judged, also on a
    page, until somebody lets it stand."""

    def wrong(tables):
        for row in tables["end_forces"] + tables["reactions"] + tables["node_loads"]:
            for name in ("Mx", "My", "Mz"):
                row[name] = float(row[name]) * 1000

    zip_folder(write(changed(wrong), tmp_path / "b"), tmp_path / "b.zip")
    assert house.send((tmp_path / "b.zip").read_bytes())["state"] == "done"
    assert "units_do_not_close" in {f["code"] for f in house.call("GET", f"{BAY}/audit").json["audit"]["findings"]}
    house.call("PUT", f"{BAY}/rulebook", json={"text": BOOK})
    house.run(where="framing=beam_to_girder")
    found = house.call("GET", f"{BAY}/connections?where=framing=beam_to_girder&limit=3").json["items"]
    for row in found:
        page = house.call("GET", f"{BAY}/connections/{row['connection']}").json
        assert row["status"] == page["status"] == "unchecked" and row["reason"] == page["reason"]
        assert "let the finding units_do_not_close stand" in row["reason"]
    house.call("PUT", f"{BAY}/audit/acknowledged", json={"code": "units_do_not_close", "reason": "so it came"})
    house.run(where="framing=beam_to_girder")
    page = house.call("GET", f"{BAY}/connections/{found[0]['connection']}").json
    assert page["status"] != "unchecked" and page["stands_on"]["let_stand"] == ["units_do_not_close"]


def test_a_piece_that_is_none_holds_back_what_is_fastened_to_it(house, tmp_path):
    """G1 and B1 are called one piece, and are square to each other: B1's ends and G1's are held back, G2's at the
    column is not."""
    tables = small()
    for m in tables["members"]:
        m["physical"] = "P1" if m["member"] in ("G1", "B1") else ""
    zip_folder(write(tables, tmp_path / "b"), tmp_path / "b.zip")
    assert house.send((tmp_path / "b.zip").read_bytes())["state"] == "done"
    house.call("PUT", f"{BAY}/rulebook", json={"text": BOOK})
    house.run()
    found = rows(house)
    assert "let the finding physical_broken of" in found["G1.i"]["reason"] and "physical P1" in found["G1.i"]["reason"]
    assert found["G2.j"]["status"] == "pass"
    (finding,) = [
        f for f in house.call("GET", f"{BAY}/audit").json["audit"]["findings"] if f["code"] == "physical_broken"
    ]
    said = {"code": "physical_broken", "member": finding["member"], "reason": "two pieces, as they stand"}
    house.call("PUT", f"{BAY}/audit/acknowledged", json=said)
    house.run()
    assert rows(house)["G1.i"]["status"] == "pass"


def test_a_method_of_which_there_are_no_combinations_is_said_before(house, tmp_path):
    tables = small()
    tables["combinations"] = [c for c in tables["combinations"] if c["method"] == "LRFD"]
    zip_folder(write(tables, tmp_path / "b"), tmp_path / "b.zip")
    house.send((tmp_path / "b.zip").read_bytes())
    house.run()
    house.call("POST", f"{BAY}/releases", json={"where": "status=pass", "skip": True})
    job = house.call("GET", BAY).json
    refused = house.call("PATCH", BAY, json={"method": "ASD"})
    assert refused.status_code == 409 and house.call("GET", BAY).json["method"] == "LRFD"
    sized = job["statuses"].get("pass", 0) + job["statuses"].get("fail", 0)
    assert (
        f"{sized} results would be stale" in refused.json["detail"]
        and f"{job['released']} releases would fall" in refused.json["detail"]
    )
    assert house.call("PATCH", BAY, json={"method": "ASD", "anyway": True}).json["method"] == "ASD"
