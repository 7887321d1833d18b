"""Changes of sizes and standards: several at once, side by side, taken over, for both sides of a web, back and forward
through one's own."""

from __future__ import annotations

import pytest

from handrail.client import ServiceError
from tests.service.running import Service

JOB, PLATE = "alder-street", "B5.i"


@pytest.fixture(scope="module")
def service(tmp_path_factory):
    made = Service(tmp_path_factory.mktemp("changes") / "home").start()
    yield made
    made.stop()


@pytest.fixture(scope="module")
def client(service):
    return service.client("engineer")


@pytest.fixture
def clean(client):
    """Nothing is overridden after a test."""
    yield client
    for o in client.overrides(JOB):
        if o["state"] in ("awaiting", "accepted"):
            client.clear_override(JOB, o["id"], "after the test")


def value(client, key, name):
    return next(p for p in client.connection(JOB, key)["parameters"] if p["name"] == name)


def opposed(found):
    """The connection whose bolts may be its own; empty where there is none."""
    return next((r["other"] for r in found["relations"] if r["kind"] == "shares_bolts"), "")


def pair(client):
    for row in client.connections(JOB, where="standard=double_angle, framing=beam_to_girder"):
        found = client.connection(JOB, row["connection"])
        if other := opposed(found):
            return row["connection"], other
    raise AssertionError("the demo has no pair of angles")


def test_alternatives_stand_side_by_side_and_change_nothing(client):
    before = client.connection(JOB, PLATE)
    rows = client.alternatives(
        JOB,
        PLATE,
        [
            {"standard": "double_angle"},
            {"standard": "shear_end_plate"},
            {"parameters": {"rows": 5, "plate_thickness": "3/8 in"}},
        ],
    )
    assert [r["standard"] for r in rows] == ["single_plate", "double_angle", "shear_end_plate", "single_plate"]
    assert rows[0]["name"] == "as it stands" and rows[0]["utilisation"] == pytest.approx(before["utilisation"])
    assert all(r["status"] in ("pass", "fail") and r["steel"] > 0 and r["summary"] for r in rows)
    assert [r["field_bolts"] for r in rows] == [3, 6, 6, 5] and rows[1]["shop_bolts"] == 3
    assert rows[3]["utilisation"] < rows[0]["utilisation"] and rows[3]["steel"] > rows[0]["steel"]
    assert client.connection(JOB, PLATE)["version"] == before["version"]


def test_weights_are_those_of_the_pieces(client):
    """PL 1/4 x (gap 1/2 + edge 1-3/4 + 1-1/2) x 8-1/2: 0.25 x 3.75 x 8.5 in^3 x 0.2836 lb; two fillets of 3/16 over
    8-1/2."""
    row = client.alternatives(JOB, PLATE, [{"parameters": {"rows": 3}}])[0]
    assert row["steel"] == pytest.approx(0.25 * 3.75 * 8.5 * 0.2836 * 0.4536, rel=2e-3)
    assert row["weld"] == pytest.approx((3 / 16) ** 2 / 2 * 2 * 8.5 * 0.2836 * 0.4536, rel=2e-3)


@pytest.mark.parametrize(
    ("alternatives", "words"),
    [([{"standard": "base_plate"}], "goes with column_base"), ([{"standard": "nothing"}], "is not held"),
     ([{"parameters": {"rows": "many"}}], "not a whole number"), ([], "alternatives")],
)  # fmt: skip
def test_what_cannot_be_set_beside_it_is_said(client, alternatives, words):
    with pytest.raises(ServiceError, match=words):
        client.alternatives(JOB, PLATE, alternatives)


def test_a_standard_is_kept_runs_keep_it_and_clearing_goes_back(clean):
    made = clean.change(JOB, PLATE, {"standard": "double_angle", "rows": 4}, "as at the next bay")
    assert [o["parameter"] for o in made["overrides"]] == ["standard", "rows"] and made["after"]["status"] == "pass"
    clean.wait(JOB, clean.start_run(JOB)["id"])
    found = clean.connection(JOB, PLATE)
    assert (
        found["standard"] == "double_angle"
        and value(clean, PLATE, "rows")["source"] == "override"
        and "stale" not in found["reason"]
    )
    for o in made["overrides"]:
        clean.clear_override(JOB, o["id"], "back")
    assert clean.connection(JOB, PLATE)["standard"] == "single_plate"


def test_all_changes_are_kept_or_none(clean):
    for changes, words in (
        ({"rows": 4, "bolt": "nothing"}, "bolt"),
        ({"rows": 4, "framing": "beam_splice"}, "corrected by itself"),
        ({}, "give either"),
    ):
        with pytest.raises(ServiceError, match=words):
            clean.change(JOB, PLATE, changes, "try")
    with pytest.raises(ServiceError, match="needs a reason"):
        clean.change(JOB, PLATE, {"rows": 4})
    assert value(clean, PLATE, "rows")["source"] != "override"


def test_sizes_of_another_are_taken_over(clean):
    """What was chosen for it comes along, its standard too; what follows from the place does not."""
    source = pair(clean)[0]
    made = clean.change(JOB, PLATE, reason="like that one", take=source)
    names = [o["parameter"] for o in made["overrides"]]
    assert names[0] == "standard" and "rows" in names and "first_bolt" not in names and "cope_depth" not in names
    assert value(clean, PLATE, "rows")["text"] == value(clean, source, "rows")["text"]
    with pytest.raises(ServiceError, match="no connection 'nobody'"):
        clean.change(JOB, PLATE, reason="x", take="nobody")


def test_a_size_of_shared_bolts_asks_which_is_meant(clean):
    one, other = pair(clean)
    assert value(clean, one, "rows")["shared_with"] == [other] and value(clean, one, "angle")["shared_with"] == []
    with pytest.raises(ServiceError, match=f"hold {one} and {other} opposite: say both"):
        clean.set_override(JOB, one, "rows", 5, "more")
    clean.set_override(JOB, one, "angle", "L4X3-1/2X3/8", "its own business")
    made = clean.set_override(JOB, one, "rows", 5, "more", both=True)
    for key in (one, other):
        found = clean.connection(JOB, key)
        assert value(clean, key, "rows")["text"] == "5" and "stale" not in found["reason"]
    assert any(f"holds this and {one} opposite" in note for note in clean.connection(JOB, other)["notes"])
    second = clean.set_override(JOB, other, "rows", 4, "less", both=True)
    assert {value(clean, key, "rows")["text"] for key in (one, other)} == {"4"}, "one set of bolts, one override"
    for verify in (True, False):  # one side alone, as it stands and sized again
        clean.wait(JOB, clean.start_run(JOB, where=f'connection="{one}"', verify=verify)["id"])
        assert {(found := clean.connection(JOB, key))["status"] for key in (one, other)} == {
            "pass"
        } and "stale" not in found["reason"]
        assert {value(clean, key, "rows")["text"] for key in (one, other)} == {"4"}
    states = {o["id"]: o["state"] for o in clean.overrides(JOB)}
    assert (states[made["id"]], states[second["id"]]) == ("cleared", "awaiting")
    clean.clear_override(JOB, second["id"], "back")
    assert {value(clean, key, "rows")["text"] for key in (one, other)} == {"3"}
    assert not any("stale" in clean.connection(JOB, key)["reason"] for key in (one, other))


def test_back_and_forward_through_one_s_own_changes(clean, service):
    start = value(clean, PLATE, "rows")["text"]
    clean.set_override(JOB, PLATE, "rows", 4, "first")
    clean.set_override(JOB, PLATE, "rows", 5, "second")
    seen = []
    for way, expected in (("back", "4"), ("back", start), ("forward", "4"), ("forward", "5"), ("back", "4")):
        clean.step(JOB, way)
        seen.append(value(clean, PLATE, "rows")["text"] == expected)
    assert all(seen)
    assert clean.steps(JOB) == {"back": "B5.i: rows to 4", "forward": "B5.i: rows to 5"}
    clean.set_override(JOB, PLATE, "pitch", "3-1/2 in", "another way")
    assert clean.steps(JOB)["forward"] is None, "what was gone back over is gone once something else is done"
    other = service.client("admin")  # who has changed nothing here
    with pytest.raises(ServiceError, match="nothing of yours"):
        other.step(JOB, "back")
    other.set_override(JOB, PLATE, "pitch", "4 in", "mine")
    with pytest.raises(ServiceError, match="was changed since by somebody"):
        clean.step(JOB, "back")
    assert value(clean, PLATE, "pitch")["text"] == "4 in"
    events = [e["words"] for e in clean.connection(JOB, PLATE)["history"]]
    assert any("gone back over" in words for words in events)


def test_a_cleared_override_comes_back(clean):
    made = clean.set_override(JOB, PLATE, "rows", 6, "kept")
    clean.clear_override(JOB, made["id"], "a slip")
    assert clean.step(JOB, "back")["words"] == "B5.i: rows cleared" and value(clean, PLATE, "rows")["text"] == "6"
    clean.step(JOB, "forward")
    assert value(clean, PLATE, "rows")["source"] != "override"


def test_what_an_engineer_accepted_across_the_web_holds_again(service, clean):
    """A detailer changes shared bolts for both sides; returned, what was accepted on the other side stands as
    before."""
    detailer = service.client("detailer")
    here, there = pair(clean)
    accepted = clean.set_override(JOB, there, "rows", 5, "as the other bays", both=True)
    clean.review(JOB, "accept", [accepted["id"]])
    made = detailer.set_override(JOB, here, "rows", 6, "one more", both=True)
    assert made["replaces"] == accepted["id"] and value(clean, there, "rows")["text"] == "6"
    clean.review(JOB, "return", [made["id"]], "five are enough")
    assert [value(clean, key, "rows")["text"] for key in (here, there)] == ["5", "5"]
    assert next(o for o in clean.overrides(JOB) if o["id"] == accepted["id"])["state"] == "accepted"
    assert not clean.job(JOB)["stale"] and not [
        k for k in (here, there) if "stale" in clean.connection(JOB, k)["reason"]
    ]


def test_one_decision_for_both_sides_of_many_webs(clean):
    """Picked on both sides, the bolts of each web are one decision, and every page says what stands."""
    where = "standard=double_angle, framing=beam_to_girder, level=3, section=W16X31"
    keys = [r["connection"] for r in clean.connections(JOB, where)][:40]
    found = [clean.connection(JOB, key) for key in keys]
    both = sorted({k for f in found if opposed(f) for k in (f["connection"], opposed(f))})[:12]
    both = sorted({k for key in both for k in (key, opposed(clean.connection(JOB, key))) if k})
    made = clean.decide(JOB, {"rows": 5}, "alike", connections=both)
    assert made["connections"] == len(both) and len(made["overrides"]) == len(both) // 2
    for key in both:
        shown = clean.connection(JOB, key)
        assert (
            "stale" not in shown["reason"]
            and next(p for p in shown["parameters"] if p["name"] == "rows")["text"] == "5"
        )
    clean.step(JOB, "back")
    assert {value(clean, key, "rows")["source"] for key in both} != {"override"}
