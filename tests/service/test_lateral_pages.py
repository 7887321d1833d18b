"""What a model says of its lateral system is the same on a connection's page as in the run, from the bundle through the
records."""

from __future__ import annotations

import pytest

from handrail.interchange.archive import zip_folder
from tests.bundles import small, with_foundations, write
from tests.service.house import House

BAY = "/jobs/bay"
BOOK = """rulebook: 1
rules:
  - {name: Bases, when: {framing: column_base}, use: base_plate, set: {shear_path: anchors, washers: welded}}
  - {name: Ends, when: {framing: [beam_to_column_flange, beam_to_column_web, beam_to_girder], released: true}, use: single_plate}
"""  # noqa: E501


@pytest.fixture
def house(tmp_path):
    made = House(tmp_path)
    yield made
    made.close()


def braced(tables):
    """Both columns of special moment frames in category D, a girder of an ordinary one; overstrength combinations."""
    tables = with_foundations(tables)
    tables["manifest"]["handrail"]["seismic_design_category"] = "D"
    for member, kind in zip(tables["members"], ("special_moment", "none", "ordinary_moment", "", ""), strict=True):
        member["lateral"] = kind
    for method in ("LRFD", "ASD"):
        tables["combinations"].append(
            {"combination": f"over {method}", "set": "overstrength", "method": method, "case": "D", "factor": "1.5"}
        )
    return tables


RULED = """lateral:
  category: D
  members:
    - {name: C1, role: column, is: special_moment}
    - {section: "W24*", name: "C2, G1*", is: ordinary_moment}
"""


def test_a_rulebook_states_it_as_a_model_does(house, tmp_path):
    """The same on the run and on the page; a change of it makes stale what it moves, and a try beside the state knows
    its demands."""
    tables = braced(small())
    del tables["manifest"]["handrail"]["seismic_design_category"]
    for member in tables["members"]:
        del member["lateral"]
    zip_folder(write(tables, tmp_path / "b"), tmp_path / "b.zip")
    assert house.send((tmp_path / "b.zip").read_bytes())["state"] == "done"
    house.call("PUT", f"{BAY}/rulebook", json={"text": BOOK})
    house.run()
    before = {c["connection"]: c for c in house.call("GET", f"{BAY}/connections").json["items"]}
    assert not before["C1.i"]["action"].startswith("D2.6b")
    girder = house.call("GET", f"{BAY}/connections/G1.i").json["section"]
    ruled = RULED.replace("W24*", girder)
    tried = house.call("POST", f"{BAY}/rulebook/try", json={"text": BOOK + ruled})
    assert tried.status_code == 200, tried.json
    house.call("PUT", f"{BAY}/rulebook", json={"text": BOOK + ruled})
    after = {c["connection"]: c for c in house.call("GET", f"{BAY}/connections").json["items"]}
    assert {name for name, c in after.items() if c["stale"]} >= {"C1.i", "G1.i"}
    house.run()
    rows = {c["connection"]: c for c in house.call("GET", f"{BAY}/connections").json["items"]}
    for name, row in rows.items():
        page = house.call("GET", f"{BAY}/connections/{name}").json
        assert (page["status"], page["utilisation"], page["reason"], page["stale"]) == (
            row["status"],
            row["utilisation"],
            row["reason"],
            False,
        ), name
    assert rows["C1.i"]["action"].startswith("D2.6b") and not rows["C2.i"]["action"].startswith("D2.6b")
    assert "system_pretensioned" in rows["G1.i"]["reason"]


def test_a_page_knows_the_lateral_system_as_the_run_does(house, tmp_path):
    zip_folder(write(braced(small()), tmp_path / "b"), tmp_path / "b.zip")
    sent = house.send((tmp_path / "b.zip").read_bytes())
    assert sent["state"] == "done", sent
    house.call("PUT", f"{BAY}/rulebook", json={"text": BOOK})
    house.run()
    rows = {c["connection"]: c for c in house.call("GET", f"{BAY}/connections").json["items"]}
    pages = {name: house.call("GET", f"{BAY}/connections/{name}").json for name in rows}
    for name, row in rows.items():
        page = pages[name]
        assert (page["status"], page["utilisation"], page["reason"], page["stale"]) == (
            row["status"],
            row["utilisation"],
            row["reason"],
            False,
        ), name
    assert rows["C1.i"]["action"].startswith("D2.6b") and not rows["C2.i"]["action"].startswith("D2.6b")
    assert any("cracked" in note for note in pages["C1.i"]["notes"])
    girder = pages["G1.i"]  # AISC 341 D2.2: snug bolts of a frame's joint
    assert girder["status"] == "fail" and "system_pretensioned" in girder["reason"]
    assert "system_pretensioned" not in pages["G2.j"]["reason"]
