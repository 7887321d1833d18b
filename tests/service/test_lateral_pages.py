"""What a model says of its lateral system is the same on a connection's page as in the run, from the bundle through the records."""

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
"""


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
        tables["combinations"].append({"combination": f"over {method}", "set": "overstrength", "method": method, "case": "D", "factor": "1.5"})
    return tables


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
        assert (page["status"], page["utilisation"], page["reason"], page["stale"]) == (row["status"], row["utilisation"], row["reason"], False), name
    assert rows["C1.i"]["action"].startswith("D2.6b") and not rows["C2.i"]["action"].startswith("D2.6b")
    assert any("cracked" in note for note in pages["C1.i"]["notes"])
    girder = pages["G1.i"]  # AISC 341 D2.2: snug bolts of a frame's joint
    assert girder["status"] == "fail" and "system_pretensioned" in girder["reason"]
    assert "system_pretensioned" not in pages["G2.j"]["reason"]
