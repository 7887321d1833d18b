"""Rulebooks of a job and of the house over HTTP: tried beside how the job stands, adopted, compared, gone back to; why;
labels that rules ask for."""

from __future__ import annotations

import pytest

from handrail.client import Client, ServiceError
from tests.bundles import DEMO, small, write

BOOK = """rulebook: 1
practice: {bolt: 3/4 A325-N}
tables:
  beams:
    by: supported.section
    match: prefix
    file: beams.csv
rules:
  - name: Tagged
    when: {tag: [heavy]}
    use: single_plate
    set: {plate_thickness: 1/2 in}
  - name: By table
    note: shop sizes
    when: {row_in: beams}
    use: single_plate
    sizes: beams
  - name: The rest
    use: single_plate
"""
BEAMS = "supported.section, rows, plate_thickness [in]\nW18, 3, 3/8\nW21, 5, 3/8\n"


@pytest.fixture(scope="module")
def bay(service, tmp_path_factory):
    """A job of its own with the small bay, and whoever is an engineer in it."""
    admin: Client = service.client("admin")
    admin.new_job("rules", "Rules")
    admin.import_bundle("rules", write(small(), tmp_path_factory.mktemp("rules") / "bundle"))
    return admin


def test_one_is_tried_adopted_compared_and_gone_back_to(bay: Client) -> None:
    before = bay.rulebook("rules")["version"]
    tried = bay.try_rulebook("rules", BOOK, {"beams.csv": BEAMS})
    assert bay.rulebook("rules")["version"] == before
    takes = {r["name"]: r["takes"] for r in tried["rules"]}
    assert takes["Tagged"] == 0 and tried["never"] == ["Tagged"] and takes["By table"] + takes["The rest"] > 0
    first = bay.put_rulebook("rules", BOOK, files={"beams.csv": BEAMS}, name="first")
    assert (first["version"], first["name"], first["author"]) == (before + 1, "first", "admin")
    bay.wait("rules", bay.start_run("rules")["id"])
    stood = {c["connection"]: c for c in bay.connections("rules")}
    changed = BEAMS.replace("W18, 3", "W18, 4")
    tried = bay.try_rulebook("rules", BOOK, {"beams.csv": changed})["compared"]
    wanted = {key for key, c in stood.items() if c["section"].startswith("W18") and c["rule"] == "By table"}
    assert wanted and {c["connection"] for c in tried["connections"]} == wanted
    assert all("(3)" in c["before"]["summary"] and "(4)" in c["after"]["summary"] for c in tried["connections"])
    assert tried["after"]["field_bolts"] - tried["before"]["field_bolts"] == len(wanted)
    bay.put_rulebook("rules", BOOK, files={"beams.csv": changed}, name="four rows")
    stale = {c["connection"] for c in bay.connections("rules", where="stale=1")}
    assert stale == wanted, "what the row does not touch stands"
    differing = bay.compare_rulebooks("rules")
    assert [(d["what"], d["name"], d["was"], d["now"]) for d in differing["differences"]] == [
        ("table", "beams: W18", "rows 3, plate_thickness 3/8 in", "rows 4, plate_thickness 3/8 in")
    ]
    assert "-W18, 3, 3/8" in differing["lines"]
    back = bay.rulebook_back("rules")
    assert back["files"] == {"beams.csv": BEAMS} and back["version"] == before + 3 and "first" in back["name"]
    assert [r["number"] for r in bay.rulebook_revisions("rules")][:3] == [before + 3, before + 2, before + 1]
    bay.wait("rules", bay.start_run("rules", where="stale=1")["id"])
    assert {c["connection"]: c["summary"] for c in bay.connections("rules")} == {
        key: c["summary"] for key, c in stood.items()
    }


@pytest.fixture
def ruled(bay: Client) -> Client:
    """It with the rulebook above, run and without tags, whatever another test left."""
    bay.label("rules", remove=["heavy", "other"], connections=[c["connection"] for c in bay.connections("rules")])
    bay.put_rulebook("rules", BOOK, files={"beams.csv": BEAMS})
    bay.wait("rules", bay.start_run("rules")["id"])
    return bay


def test_why_says_what_passed_it_by(ruled: Client) -> None:
    key = next(c["connection"] for c in ruled.connections("rules") if c["rule"] == "By table")
    why = ruled.why("rules", key)
    assert [(m["rule"], m["took"]) for m in why["met"]] == [("Tagged", False), ("By table", True)]
    assert why["met"][0]["failing"] == [{"asked": "tag: [heavy]", "has": "tag none"}]
    sources = {s["parameter"]: s["source"] for s in why["sizes"]}
    assert sources["rows"].startswith("table beams: W") and sources["bolt"] in ("practice", "rung")
    assert why["facts"]["framing"].startswith("beam_to_") and "kip" in why["facts"]["V"]


def test_one_table_rule_and_formula_on_one_connection(ruled: Client) -> None:
    key, rest = (
        next(c["connection"] for c in ruled.connections("rules") if c["rule"] == name)
        for name in ("By table", "The rest")
    )
    found = ruled.try_on("rules", key, table="beams", formula="= look_up(beams, rows) * pitch", rule="Tagged")
    assert found["row"]["cells"]["plate_thickness"] == "3/8 in" and not found["rule"]["took"]
    rows = int(found["row"]["cells"]["rows"])
    assert found["value"] == f"{3 * rows} in" and found["values"] == {"pitch": "3 in"}
    assert "no row for supported.section" in ruled.try_on("rules", rest, table="beams")["none"]
    assert "'row' is no size" in ruled.try_on("rules", key, formula="= row + 2")["none"]
    assert (
        ruled.try_on("rules", key, BOOK.replace("[heavy]", "[light]"), {"beams.csv": BEAMS}, rule="Tagged")["rule"][
            "failing"
        ][0]["asked"]
        == "tag: [light]"
    )


def test_a_tag_that_rules_ask_for_makes_stale_what_it_moves(ruled: Client) -> None:
    keys = [c["connection"] for c in ruled.connections("rules") if c["rule"]]
    ruled.label("rules", add=["other"], connections=keys[:2])
    assert not list(ruled.connections("rules", where="stale=1"))
    ruled.label("rules", add=["heavy"], connections=keys[:1])
    assert [c["connection"] for c in ruled.connections("rules", where="stale=1")] == keys[:1]
    ruled.wait("rules", ruled.start_run("rules")["id"])
    row = next(c for c in ruled.connections("rules") if c["connection"] == keys[0])
    assert row["rule"] == "Tagged" and "1/2 in" in row["summary"]
    ruled.label("rules", remove=["heavy"], connections=keys[:1])
    assert [c["connection"] for c in ruled.connections("rules", where="stale=1")] == keys[:1]


def test_mistakes_are_told_with_their_places_and_nothing_is_kept(bay: Client) -> None:
    before = bay.rulebook("rules")
    with pytest.raises(ServiceError) as told:
        bay.put_rulebook("rules", BOOK, files={"beams.csv": BEAMS.replace("W18, 3", "W18, many")})
    assert told.value.status == 422 and any(
        "beams.csv line 2" in p["message"] and p["line"] == 7 for p in told.value.problems
    )
    with pytest.raises(ServiceError, match=r"no file 'beams\.csv'"):
        bay.put_rulebook("rules", BOOK)
    assert bay.rulebook("rules") == before
    with pytest.raises(ServiceError, match="no revision 99"):
        bay.rulebook_back("rules", 99)


def test_the_house_stands_above_jobs(service, bay: Client) -> None:
    engineer, detailer = service.client("engineer"), service.client("detailer")
    text = (DEMO / "rulebook.yaml").read_text()
    kept = engineer.put_house("plain-shop", text, note="first")
    assert (kept["called"], kept["state"], kept["jobs"]) == ("plain-shop R1", "draft", [])
    on_it = "rulebook: 1\ninherits: plain-shop R1\npractice: {pitch: 4 in}\n"
    with pytest.raises(ServiceError, match="is a draft"):
        bay.put_rulebook("rules", on_it)
    with pytest.raises(ServiceError) as refused:
        engineer.review_house("plain-shop", 1, "approved")
    assert refused.value.status == 403
    assert bay.review_house("plain-shop", 1, "approved")["reviewer"] == "admin"
    bay.put_rulebook("rules", on_it)
    own = bay.rulebook("rules")
    assert own["inherits"] == "plain-shop R1" and {r["origin"] for r in own["rules"]} == {"plain-shop R1"}
    pitch = next(p for p in bay.practice("rules") if (p["standard"], p["parameter"]) == ("single_plate", "pitch"))
    bolt = next(p for p in bay.practice("rules") if (p["standard"], p["parameter"]) == ("single_plate", "bolt"))
    assert (pitch["text"], pitch["source"]) == ("4 in", "practice") and bolt["source"] == "practice of plain-shop R1"
    assert next(k for k in bay.house() if k["called"] == "plain-shop R1")["jobs"] == ["rules"]
    assert next(k for k in detailer.house() if k["called"] == "plain-shop R1")["jobs"] == [], (
        "jobs that somebody cannot see are not named"
    )
    started = bay.new_job("from-the-house", rulebook="plain-shop R1")
    assert started["rulebook_version"] == 1 and bay.rulebook("from-the-house")["inherits"] == "plain-shop R1"
    engineer.put_house("plain-shop", text.replace("pitch: 3 in", "pitch: 3-1/2 in"))
    assert [d["name"] for d in engineer.compare_house("plain-shop")["differences"]][:1] == ["single_plate.pitch"]
    bay.review_house("plain-shop", 1, "retired")
    bay.put_rulebook("rules", on_it.replace("4 in", "4-1/2 in"))  # it stands on it already
    with pytest.raises(ServiceError, match="plain-shop R1 is retired"):
        bay.new_job("too-late", rulebook="plain-shop R1")
    assert "too-late" not in {job["name"] for job in bay.jobs()}
    with pytest.raises(ServiceError, match="say which revision"):
        bay.put_rulebook("rules", on_it.replace(" R1", ""))


def test_a_rule_from_a_connection_takes_it_and_its_like(ruled: Client) -> None:
    """The text comes back with the rule before the others, comments and all; by it the connection has the same
    sizes."""
    liked = next(c for c in ruled.connections("rules") if c["rule"] == "By table")
    edited = ruled.edit_rulebook(
        "rules",
        BOOK,
        {"beams.csv": BEAMS},
        like={"connection": liked["connection"], "free": ["bolt"], "sections": True},
    )
    assert edited["text"].endswith(BOOK[BOOK.index("  - name: Tagged") :]) and edited["files"] == {"beams.csv": BEAMS}
    tried = ruled.try_rulebook("rules", edited["text"], edited["files"])
    assert (
        tried["rules"][0]["name"] == f"Like {liked['connection']}"
        and tried["rules"][0]["takes"] >= 1
        and tried["compared"]["changed"] == 0
    )
    moved = ruled.edit_rulebook("rules", edited["text"], edited["files"], move={"rule": 0, "to": 3})
    assert [r["name"] for r in ruled.try_rulebook("rules", moved["text"], moved["files"], compare=False)["rules"]][
        -1
    ].startswith("Like")
    cell = ruled.edit_rulebook(
        "rules", BOOK, {"beams.csv": BEAMS}, cell={"table": "beams", "row": 0, "column": "rows", "value": "5"}
    )
    assert cell["files"]["beams.csv"] == BEAMS.replace("W18, 3", "W18, 5")
    with pytest.raises(ServiceError, match="say one change"):
        ruled.edit_rulebook("rules", BOOK, {"beams.csv": BEAMS})
