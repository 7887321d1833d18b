"""What cannot be judged leads with its cause, and is offered what would make it checkable, tried like a remedy and put
forward like one."""

from __future__ import annotations

from handrail.interchange.archive import zip_folder
from handrail.service.application import remedies
from handrail.store.database import proxy
from tests.bundles import small, write

BOOK = """rulebook: 1
rules:
  - {name: Hollow, when: {framing: beam_to_hollow_column}, use: double_angle, set: {support_side: bolted}}
  - {name: All, use: single_plate}
"""


def test_another_choice_is_offered_and_put_forward(house, tmp_path):
    tables = small()
    for m in tables["members"]:
        m["section"] = {"W12X65": "HSS10X10X1/2"}.get(m["section"], m["section"])
        m["grade"] = "A500-C" if m["section"].startswith("HSS") else m["grade"]
    zip_folder(write(tables, tmp_path / "b"), tmp_path / "b.zip")
    house.send((tmp_path / "b.zip").read_bytes())
    house.call("PUT", "/jobs/bay/rulebook", json={"text": BOOK})
    house.run()
    page = house.call("GET", "/jobs/bay/connections/G1.i").json
    assert (
        page["status"] == "unchecked"
        and page["reason"].startswith("bolts into a hollow column's wall")
        and "; " not in page["reason"]
    )
    assert page["remedy"] == remedies.SOON
    with proxy.connection_context():
        while remedies.look_for_some():
            pass
    page = house.call("GET", "/jobs/bay/connections/G1.i").json
    assert (
        page["remedies"][0]["changes"] == {"standard": "single_plate"}
        and "it can be judged with standard single_plate" in page["remedy"]
    )
    changes = {"changes": page["remedies"][0]["changes"], "reason": "as the shop does"}
    done = house.call("POST", "/jobs/bay/connections/G1.i/changes", json=changes)
    assert done.status_code in (200, 201), done.json
    after = house.call("GET", "/jobs/bay/connections/G1.i").json
    assert after["status"] == "pass" and abs(after["utilisation"] - page["remedies"][0]["utilisation"]) < 1e-3
