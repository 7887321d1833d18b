"""Marks over HTTP are stable, merges are overrides; runs say what they changed and take turns; sweeps on a job's
connection."""

from __future__ import annotations

import csv
import io

import pytest

from handrail.client import Client, ServiceError, answers
from handrail.core.checking.marks import formerly
from handrail.service.application.mark_schedule import Standing
from handrail.service.application.plans import assigned_of
from handrail.store import runs, works
from handrail.store.database import proxy
from handrail.store.models import Job, Mark, Run
from tests.bundles import small, write

BOOK = """rulebook: 1
rules:
  - {name: All, when: {framing: [beam_to_girder, beam_to_column_flange, beam_to_column_web]}, use: single_plate, set: {plate_thickness: %s}}
"""  # noqa: E501


@pytest.fixture(scope="module")
def filled(service, tmp_path_factory) -> Client:
    admin: Client = service.client("admin")
    admin.new_job("marks", "Marks")
    admin.import_bundle("marks", write(small(), tmp_path_factory.mktemp("marks") / "bundle"))
    return admin


def made_of(bay: Client, thickness: str) -> answers.Run:
    """A run by the rulebook with plates of that thickness."""
    bay.put_rulebook("marks", BOOK % thickness)
    return bay.wait("marks", bay.start_run("marks")["id"])


@pytest.fixture
def bay(filled: Client) -> Client:
    """It by plates of 1/4 in., whatever another test made of it."""
    made_of(filled, "1/4 in")
    return filled


def test_a_run_says_what_it_changed(bay: Client) -> None:
    first = bay.runs("marks")[-1]
    assert first["changed"] == first["counts"]["pass"] and first["left"] is None
    second = made_of(bay, "3/8 in")
    told = bay.run_changes("marks", second["id"])
    assert told["kept"] and len(told["items"]) == second["changed"] == first["changed"]
    assert all(i["after"]["summary"].endswith("PL 3/8 in") for i in told["items"])
    again = bay.wait("marks", bay.start_run("marks")["id"])
    assert again["changed"] == 0 and bay.run_changes("marks", again["id"])["items"] == []


def test_marks_stay_and_are_written_as_files(bay: Client) -> None:
    before = {key: row["mark"] for row in bay.schedule("marks")["rows"] for key in row["connections"]}
    assert before and set(before.values()) <= {f"SP{k}" for k in range(1, 9)}
    made_of(bay, "1/2 in")
    thicker = {key: row["mark"] for row in bay.schedule("marks")["rows"] for key in row["connections"]}
    assert not set(before.values()) & set(thicker.values()), "other pieces have other marks, and never an old one's"
    made_of(bay, "1/4 in")
    found = bay.schedule("marks")
    assert {key: row["mark"] for row in found["rows"] for key in row["connections"]} == before
    table = list(csv.reader(io.StringIO(bay.schedule_file("marks", "csv").decode("utf-8-sig"))))
    head, sums = table[0], table[-1]
    assert head[0] == "mark" and int(sums[head.index("field bolts")]) == found["totals"]["field_bolts"] == sum(
        r["field_bolts"] for r in found["rows"]
    )
    assert bay.schedule_file("marks", "xlsx")[:2] == b"PK"
    with pytest.raises(ServiceError, match="csv or xlsx"):
        bay.schedule_file("marks", "pdf")


def test_marks_that_earlier_records_tell_apart_otherwise_keep_their_names(house) -> None:
    house.run()
    rows = house.call("GET", "/jobs/bay/schedule").json["rows"]
    with proxy.connection_context():
        standing = Standing(Job.get(Job.name == "bay"))
        first = {name: assigned_of(standing.plan, p.connections[0]) for name, p in standing.pieces.items()}
        for name, piece in standing.pieces.items():
            was = formerly(piece, first[name].situation)
            assert was != name and Mark.update(digest=was).where(Mark.digest == name).execute() == 1
        assert Standing(Job.get(Job.name == "bay")).names == standing.names
        assert Mark.select().count() == len(rows) == len(standing.names) > 0
    assert house.call("GET", "/jobs/bay/schedule").json["rows"] == rows


def test_a_sweep_of_a_connection_and_its_winner_kept(bay: Client) -> None:
    key = bay.schedule("marks")["rows"][0]["connections"][0]
    swept = bay.sweep_connection(
        "marks",
        key,
        [{"rows": "2 .. 4"}, {"plate_thickness": ["1/4 in", "3/8 in"], "weld_size": ["3/16 in", "1/4 in"]}],
    )
    assert (swept["total"], swept["tried"], swept["vary"]) == (6, 6, ["rows", "plate_thickness", "weld_size"])
    winner = swept["rows"][swept["winner"]]
    assert winner["status"] == "pass" and all(r["status"] != "pass" for r in swept["rows"][: swept["winner"]])
    made = bay.change("marks", key, swept["changes"], "the first that passes")
    page = bay.connection("marks", key)
    sizes = {p["name"]: p["text"] for p in page["parameters"]}
    assert {n: sizes[n] for n in winner["values"]} == winner["values"] and page["utilisation"] == pytest.approx(
        winner["utilisation"], abs=1e-6
    )
    bay.review("marks", "clear", [o["id"] for o in made["overrides"]], "tried")
    first = bay.sweep_connection("marks", key, [{"rows": "2 .. 4"}], stop="first")
    assert first["tried"] == first["winner"] + 1
    fixed = bay.sweep_connection(
        "marks", key, [{"rows": "2 .. 4"}], parameters={"gap": "3/4 in", "plate_depth": "= rows * pitch"}
    )
    assert (fixed["changes"]["gap"], fixed["changes"]["plate_depth"]) == ("19.05 mm", "= rows * pitch")
    with pytest.raises(ServiceError, match="did you mean rows"):
        bay.sweep_connection("marks", key, [{"row": "2 .. 4"}])


def test_one_set_of_sizes_for_a_pattern(bay: Client) -> None:
    found = bay.as_one("marks", where="standard=single_plate")
    (one,) = found["items"]
    kept = (
        bay.decide("marks", one["changes"], "as one", connections=one["connections"])
        if one["changes"]
        else {"overrides": []}
    )
    rows = [c for c in bay.connections("marks") if c["connection"] in one["connections"]]
    assert one["passes"] and max(c["utilisation"] for c in rows) == pytest.approx(one["worst"], abs=1e-3)
    assert {c["status"] for c in rows} == {"pass"}
    if kept["overrides"]:
        bay.review("marks", "clear", kept["overrides"], "tried")


def test_jobs_take_turns(house) -> None:
    """Of two jobs that wait, the one that was served least lately is next, however many works the other has."""
    with proxy.connection_context():
        bay = Job.get(Job.name == "bay")
        other = Job.create(name="other", title="", rulebook="x")
        third = Job.create(name="third", title="")
        for job in (bay, bay, bay, other):
            runs.add_import(job, "f", "f", "ann")
        runs.add(other, "size", "", "ann")
        order = []
        while (work := works.claim("here")) is not None:
            order.append((type(work).__name__, work.job.name))
            type(work).update(state="done").where(type(work).id == work.id).execute()
        assert [name for _, name in order][:2] == ["other", "bay"] or [name for _, name in order][:2] == [
            "bay",
            "other",
        ]
        assert order.index(("Run", "other")) < 4 and len(order) == 5
        assert not Run.select().where(Run.job == third).exists()
