"""Overrides follow the member, not its name, through revisions of the model."""

from __future__ import annotations

from typing import Any

import pytest

from handrail.interchange.archive import zip_folder
from handrail.store.database import proxy
from handrail.store.models import Job, Ledger, Override
from tests.bundles import Tables, small, write
from tests.service.house import House, false_results


@pytest.fixture
def house(house):
    """Run once."""
    house.run()
    return house


def revise(house: House, folder, tables: Tables) -> None:
    zip_folder(write(tables, folder / "b"), folder / "b.zip")
    assert house.send((folder / "b.zip").read_bytes())["state"] == "done"


def renamed(**names: str) -> Tables:
    """The small bay with members called otherwise."""
    tables = small()
    for table in ("members", "end_forces"):
        for row in tables[table]:
            row["member"] = names.get(row["member"], row["member"])
    return tables


def without_beam() -> Tables:
    """The small bay without B1 and its far node."""
    tables = small()
    for table, column in (("members", "member"), ("end_forces", "member"), ("nodes", "node")):
        tables[table] = [row for row in tables[table] if row[column] not in ("B1", "f")]
    return tables


def override(house: House, key: str, parameter: str = "rows", value: str = "4") -> dict[str, Any]:
    return house.call(
        "POST",
        f"/jobs/bay/connections/{key}/overrides",
        json={"parameter": parameter, "value": value, "reason": "wish"},
    ).json


def held(house: House) -> dict[str, int]:
    return {
        c["connection"]: c["overridden"]
        for c in house.call("GET", "/jobs/bay/connections").json["items"]
        if c["overridden"]
    }


def events(key: str) -> list[str]:
    with proxy.connection_context():
        return [e.event for e in Ledger.select().where(Ledger.connection == key).order_by(Ledger.id)]


def true(house: House) -> bool:
    with proxy.connection_context():
        return false_results(Job.get(Job.name == "bay")) == []


def test_swapped_names(house, tmp_path):
    """G1 and G2 change their names: G1.i's override is G2.i's now, where the same end stands, and so are its sizes."""
    made = override(house, "G1.i")
    revise(house, tmp_path, renamed(G1="G2", G2="G1"))
    assert held(house) == {"G2.i": 1}
    with proxy.connection_context():
        assert Override.get_by_id(made["id"]).connection == "G2.i"
    assert events("G2.i") == ["moved"]
    house.run()
    sizes = {
        p["name"]: (p["text"], p["source"]) for p in house.call("GET", "/jobs/bay/connections/G2.i").json["parameters"]
    }
    assert sizes["rows"] == ("4", "override")
    other = {p["name"]: p["source"] for p in house.call("GET", "/jobs/bay/connections/G1.j").json["parameters"]}
    assert other["rows"] != "override" and true(house)


def test_gone_and_back(house, tmp_path):
    """B1 leaves and comes back: meanwhile its override waits, uncounted; then it is applied and counted again."""
    override(house, "B1.i")
    revise(house, tmp_path / "1", without_beam())
    assert held(house) == {} and events("B1.i") == ["set", "waits"]
    house.run()
    assert true(house)
    revise(house, tmp_path / "2", small())
    assert held(house) == {"B1.i": 1} and events("B1.i")[-1] == "back"
    house.run()
    assert {p["name"]: p["source"] for p in house.call("GET", "/jobs/bay/connections/B1.i").json["parameters"]}[
        "rows"
    ] == "override"
    assert true(house)


def test_back_under_another_name(house, tmp_path):
    override(house, "B1.i")
    revise(house, tmp_path / "1", without_beam())
    revise(house, tmp_path / "2", renamed(B1="X9"))
    assert held(house) == {"X9.i": 1}


def test_a_stranger_with_the_name_does_not_get_it(house, tmp_path):
    """B1 leaves; a later B1 elsewhere is another member: the override waits and says so."""
    override(house, "B1.i")
    revise(house, tmp_path / "1", without_beam())
    elsewhere = small()
    for node in elsewhere["nodes"]:
        if node["node"] in ("e", "f"):
            node["x"] = 10
    revise(house, tmp_path / "2", elsewhere)
    assert held(house) == {} and events("B1.i")[-1] == "waits"
    house.run()
    assert true(house)


def test_moved_a_little_asks_to_be_looked_at(house, tmp_path):
    """The same B1, its far end a foot farther: the override stays, and the ledger asks for a look."""
    override(house, "B1.i")
    longer = small()
    for node in longer["nodes"]:
        if node["node"] == "f":
            node["y"] = 21
    revise(house, tmp_path, longer)
    assert held(house) == {"B1.i": 1} and events("B1.i")[-1] == "look"
    house.run()
    assert true(house)


def test_back_a_little_aside(house, tmp_path):
    """B1 leaves and comes back 5 mm from where it was: its decision is applied again there."""
    override(house, "B1.i")
    revise(house, tmp_path, without_beam())
    tables = small()
    for n in tables["nodes"]:
        n["y"] = float(n["y"]) + (5 / 304.8 if n["node"] == "f" else 0)
    revise(house, tmp_path, tables)
    assert held(house) == {"B1.i": 1} and events("B1.i")[-1] == "back"
    house.run()
    assert {p["name"]: p["source"] for p in house.call("GET", "/jobs/bay/connections/B1.i").json["parameters"]}[
        "rows"
    ] == "override" and true(house)
