"""How a connection is framed, corrected by a person: checked again at once, kept through revisions, taken back."""

from __future__ import annotations

from tests.bundles import small
from tests.service.test_follow import events, house, override, renamed, revise, true, without_beam  # noqa: F401


def post(house, key: str, parameter: str, value: str, **more):  # noqa: F811
    return house.call(
        "POST",
        f"/jobs/bay/connections/{key}/overrides",
        json={"parameter": parameter, "value": value, "reason": "as built"} | more,
    )


def page(house, key: str):  # noqa: F811
    return house.call("GET", f"/jobs/bay/connections/{key}").json


def test_a_preview_keeps_nothing(house):  # noqa: F811
    before = page(house, "G1.i")
    made = post(house, "G1.i", "framing", "beam_to_column_web", preview=True, reason="").json
    assert made["state"] == "preview" and made["before"]["value"] == "beam_to_column_flange on C1"
    assert made["after"]["value"] == "beam_to_column_web on C1" and made["after"]["status"] in (
        "pass",
        "fail",
        "unchecked",
    )
    assert page(house, "G1.i") == before


def test_kept_checked_again_and_taken_back(house):  # noqa: F811
    before = page(house, "G1.i")
    made = post(house, "G1.i", "framing", "beam_to_column_web")
    assert made.status_code == 201
    now = page(house, "G1.i")
    assert (now["framing"], now["pieces"][0]["skew"], now["overridden"]) == ("beam_to_column_web", 90, 1)
    assert now["status"] == made.json["after"]["status"] and now["words"].startswith("corrected by ann (as built)")
    assert house.call("GET", "/jobs/bay").json["framings"]["beam_to_column_web"] == 1
    assert true(house)
    house.call("DELETE", f"/jobs/bay/overrides/{made.json['id']}")
    after = page(house, "G1.i")
    for name in ("framing", "facts", "status", "utilisation", "overridden", "words"):
        assert after[name] == before[name], name
    assert true(house)


def test_what_cannot_be_is_refused_and_nothing_is_kept(house):  # noqa: F811
    for value, words in (
        ("brace_at_beam", "is a beam"),
        ("welded", "no framing condition"),
        (" ", "state the framing condition"),
    ):
        refused = post(house, "B1.i", "framing", value)
        assert refused.status_code == 422 and words in refused.json["detail"]
    assert "does not meet it" in post(house, "B1.i", "support", "C1").json["detail"]
    assert post(house, "B1.i", "framing", "beam_to_girder", reason=" ").status_code == 422
    assert page(house, "B1.i")["framing"] == "beam_to_girder"


def test_kept_through_a_revision_under_other_names(house, tmp_path):  # noqa: F811
    """The beam and its girder are called otherwise in the next revision: both halves of what was said hold, by their
    places."""
    post(house, "B1.i", "support", "G2")
    post(house, "G1.i", "framing", "beam_to_column_web")
    revise(house, tmp_path, renamed(B1="Z9", G2="Z8"))
    assert (page(house, "Z9.i")["support"], page(house, "G1.i")["framing"]) == ("Z8", "beam_to_column_web")
    assert events("Z9.i") == ["moved", "followed"] and true(house)
    house.run()
    assert page(house, "Z9.i")["support"] == "Z8" and true(house)


def test_gone_and_back(house, tmp_path):  # noqa: F811
    post(house, "B1.i", "support", "G2")
    revise(house, tmp_path / "a", without_beam())
    assert true(house)
    revise(house, tmp_path / "b", small())
    assert page(house, "B1.i")["support"] == "G2" and events("B1.i") == ["set", "waits", "back"] and true(house)


def test_what_no_longer_fits_is_said(house, tmp_path):  # noqa: F811
    """The girder's other half is a brace in the next revision: the beam cannot rest on it, and is framed as it is
    recognised."""
    post(house, "B1.i", "support", "G2")
    tables = small()
    tables["members"][3] |= {"role": "brace", "section": "HSS6X6X3/8", "grade": "A500C"}
    tables["members"][2]["release_j"] = ""
    revise(house, tmp_path, tables)
    found = page(house, "B1.i")
    assert "cannot be" in found["words"] and found["overridden"] == 1
    assert events("B1.i") == ["set", "look"] and true(house)


def test_sizes_and_framing_are_held_together(house):  # noqa: F811
    override(house, "G1.i", "rows", "4")
    post(house, "G1.i", "framing", "beam_to_column_web")
    found = page(house, "G1.i")
    assert found["overridden"] == 2 and true(house)
    assert {p["name"]: p["source"] for p in found["parameters"]}["rows"] == "override"


def test_each_half_is_said_by_who_said_it(house):  # noqa: F811
    """Framing and support by two reasons: once the one is cleared, the other stands with its own."""
    post(house, "B1.i", "framing", "beam_to_girder", reason="the first")
    second = post(house, "B1.i", "support", "G2", reason="the second").json
    assert "(the second)" in page(house, "B1.i")["words"] and true(house)
    house.call("DELETE", f"/jobs/bay/overrides/{second['id']}")
    assert "(the first)" in page(house, "B1.i")["words"] and true(house)


def test_a_base_rests_on_no_member(house):  # noqa: F811
    post(house, "B1.i", "support", "G2")
    post(house, "C1.i", "framing", "column_base")
    assert house.call("GET", "/jobs/bay/connections/C1.i").json["framing"] == "column_base"
    refused = post(house, "C1.i", "support", "G1")
    assert refused.status_code == 422 and "does not meet it" in refused.json["detail"]
