"""What cannot be judged leads with its cause, and is offered what would make it checkable, tried like a remedy and put
forward like one."""

from __future__ import annotations

from handrail.interchange.archive import zip_folder
from handrail.service.application import remedies
from handrail.store.database import proxy
from tests.bundles import small, write
from tests.service.house import BOOKS

BOOK = """rulebook: 1
rules:
  - {name: Hollow, when: {framing: beam_to_hollow_column}, use: double_angle, set: {support_side: bolted}}
  - {name: All, use: single_plate}
"""


def look() -> None:
    with proxy.connection_context():
        while remedies.look_for_some():
            pass


def test_a_remedy_stays_with_a_result_that_rests_on_the_same(house):
    def pages() -> dict[str, tuple[str, list]]:
        listed = house.call("GET", "/jobs/bay/connections").json["items"]
        said = {r["connection"]: house.call("GET", f"/jobs/bay/connections/{r['connection']}").json for r in listed}
        return {key: (page["remedy"], page["remedies"]) for key, page in said.items() if page["remedy"]}

    house.upload(1)
    house.call("PUT", "/jobs/bay/rulebook", json={"text": BOOKS[2]})
    house.run()
    assert {words for words, _ in pages().values()} == {remedies.SOON}
    look()
    said = pages()
    assert any(ways for _, ways in said.values()) and any(not ways for _, ways in said.values())
    house.run()
    assert pages() == said
    house.call("PUT", "/jobs/bay/rulebook", json={"text": BOOKS[0]})
    house.run()
    assert [*pages().values()] == [(remedies.SOON, [])]  # what it rests on is another rulebook's


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
    look()
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
