"""What leaves the house: only what is released, never changed, with what changed since, proved later."""

from __future__ import annotations

import hashlib
import io
import json
import zipfile

import pytest
from pypdf import PdfReader

from handrail.core.errors import InputError
from handrail.interchange.transmittal.zipped import inspected, zipped
from handrail.service.application import transmitting
from handrail.store import ledger, proving, transmittals
from handrail.store.database import proxy
from handrail.store.models import Job
from tests.service.house import House

ASKED = {"to": "Elm Fabricators", "why": "for fabrication"}


@pytest.fixture
def bay(tmp_path):
    house = House(tmp_path / "home")
    house.run()
    yield house
    house.close()


def passing(bay) -> list[str]:
    rows = bay.call("GET", "/jobs/bay/schedule").json["rows"]
    every = [key for row in rows for key in row["connections"]]
    return [key for key in every if bay.call("GET", f"/jobs/bay/connections/{key}").json["status"] == "pass"]


def release(bay, keys) -> None:
    done = bay.call("POST", "/jobs/bay/releases", json={"connections": list(keys)})
    assert done.status_code == 200, done.json


def send(bay, status=201, **more):
    answer = bay.call("POST", "/jobs/bay/transmittals", json=ASKED | more)
    assert answer.status_code == status, answer.json
    return answer.json


def opened(bay, number: int) -> zipfile.ZipFile:
    return zipfile.ZipFile(io.BytesIO(bay.call("GET", f"/jobs/bay/transmittals/{number}/file").data))


def words_of(packed: zipfile.ZipFile, ending: str) -> str:
    name = next(name for name in packed.namelist() if name.endswith(ending))
    body = packed.read(name)
    if ending.endswith(".pdf"):
        return " ".join(page.extract_text() for page in PdfReader(io.BytesIO(body)).pages).replace("\n", " ")
    return body.decode()


def test_only_what_is_released_is_sent(bay):
    refused = send(bay, status=409)
    assert "none of these" in refused["detail"] and "released" in refused["detail"]
    one, *rest = passing(bay)
    release(bay, [one])
    would = send(bay, status=200, preview=True)
    assert would["number"] == 0 and would["new"] == 1 and bay.call("GET", "/jobs/bay/transmittals").json["items"] == []
    left = {entry["why"]: entry["connections"] for entry in would["left_out"]}
    made = send(bay)
    assert (made["name"], made["new"], made["unreleased"]) == ("T001", 1, 0) and left["not released"] >= len(rest)
    packed = opened(bay, 1)
    own = ("bolts.csv", "calculations.pdf", "connections.csv", "drawings.pdf", "plates.csv", "rods.csv", "schedule.csv",
           "welds.csv")  # fmt: skip
    assert sorted(packed.namelist()) == [*(f"bay-T001-{name}" for name in own), "contents.json", "index.html"]
    assert f"Calculation of {json.loads(packed.read('contents.json'))['connections'][0]['mark']}" in words_of(
        packed, "calculations.pdf"
    )
    contents = json.loads(packed.read("contents.json"))
    assert [row["connection"] for row in contents["connections"]] == [one]
    assert contents["to"] == ASKED["to"] and contents["revision"] == 1
    sizes = {p["name"]: p for p in bay.call("GET", f"/jobs/bay/connections/{one}").json["parameters"]}
    assert contents["connections"][0]["sizes"].keys() == sizes.keys()
    page = words_of(packed, ".html")
    assert one in page and "NOT RELEASED" not in page and "http" not in page  # it needs nothing from elsewhere
    assert one in words_of(packed, "connections.csv") and "NOT RELEASED" not in words_of(packed, "drawings.pdf")


def test_what_goes_anyway_says_so_large(bay):
    keys = passing(bay)
    release(bay, keys[:1])
    made = send(bay, anyway="the <crane> is booked")
    assert made["unreleased"] >= len(keys) - 1
    packed = opened(bay, 1)
    assert f"{made['unreleased']} NOT RELEASED, sent anyway: the &lt;crane&gt; is booked" in words_of(packed, ".html")
    assert "NOT RELEASED" in words_of(packed, "drawings.pdf") and "not released" in words_of(packed, ".html")


def test_the_page_says_where_it_names_not_all(bay, monkeypatch):
    monkeypatch.setattr(transmitting, "SHOWN", 1)
    keys = passing(bay)
    release(bay, keys)
    send(bay)
    page = words_of(opened(bay, 1), ".html")
    assert f"and {len(keys) - 1} more, in the list of connections" in page
    assert all(key in words_of(opened(bay, 1), "connections.csv") for key in keys)


def test_what_changed_since_it_was_last_sent(bay):
    keys = passing(bay)
    release(bay, keys)
    first = send(bay)
    again = send(bay)
    assert first["new"] == len(keys) and again["same"] == len(keys) and again["changed"] == again["new"] == 0
    assert "changed:" not in words_of(opened(bay, 2), "drawings.pdf")
    sized = {key: bay.call("GET", f"/jobs/bay/connections/{key}").json["parameters"] for key in keys}
    key = next(key for key, own in sized.items() if "pitch" in {p["name"] for p in own})
    done = bay.call("POST", f"/jobs/bay/connections/{key}/overrides",
                    json={"parameter": "pitch", "value": "4 in", "reason": "made so"})  # fmt: skip
    assert done.status_code == 201, done.json
    third = send(bay, anyway="wanted today")
    (row,) = [row for row in third["items"] if row["change"] == "changed"]
    assert row["connection"] == key and row["before"] == 2 and "pitch 3 in to 4 in" in row["words"]
    drawn = words_of(opened(bay, 3), "drawings.pdf")
    assert "changed: " in drawn and "pitch 3 in to 4 in" in drawn and "OVERRIDDEN" in drawn
    assert [t["superseded"] for t in bay.call("GET", "/jobs/bay/transmittals").json["items"]][-1] == len(keys)
    alone = bay.call("GET", f"/jobs/bay/drawings.pdf?connection={key}")  # as it was sent last: nothing to cloud
    assert "changed:" not in " ".join(page.extract_text() for page in PdfReader(io.BytesIO(alone.data)).pages)


def test_what_is_there_no_more_is_withdrawn_once(bay):
    keys = passing(bay)
    release(bay, keys)
    send(bay)
    done = bay.call("POST", f"/jobs/bay/connections/{keys[0]}/overrides",
                    json={"parameter": "elsewhere", "value": "by others", "reason": "theirs"})  # fmt: skip
    assert done.status_code == 201, done.json
    second = send(bay)
    assert second["withdrawn"] == 1
    assert [row["connection"] for row in second["items"] if row["change"] == "withdrawn"] == [keys[0]]
    assert keys[0] in words_of(opened(bay, 2), ".html") and "withdrawn" in words_of(opened(bay, 2), ".html")
    assert send(bay)["withdrawn"] == 0


def test_what_the_rules_make_otherwise_is_left_out_and_not_withdrawn(bay):
    """Another rulebook, and no run yet: what was sent is neither sent again nor said to be gone."""
    keys = passing(bay)
    release(bay, keys)
    send(bay)
    when = "{framing: [beam_to_column_flange, beam_to_girder]}"
    text = f"rulebook: 1\nrules:\n  - {{name: Ends, when: {when}, use: shear_end_plate}}\n"
    assert bay.call("PUT", "/jobs/bay/rulebook", json={"text": text}).status_code < 300
    assert "otherwise by the rules as they are now" in send(bay, status=409, anyway="to see")["detail"]
    bay.run()
    would = send(bay, status=200, preview=True, anyway="to see")
    assert would["withdrawn"] == 0 and would["changed"] == len(keys)
    assert "single plate to shear end plate" in would["items"][0]["words"]


def test_it_is_of_one_moment(bay, monkeypatch):
    """A release that is withdrawn while the files are made: they are made again, without it."""
    keys = passing(bay)
    release(bay, keys)
    files, calls = transmitting._files, []

    def slow(gathered):
        body = files(gathered)
        if not calls:
            taken = bay.call(
                "POST", "/jobs/bay/releases", json={"connections": [keys[0]], "withdraw": True, "word": "not yet"}
            )
            assert taken.status_code == 200, taken.json
        calls.append(len(gathered.sent))
        return body

    monkeypatch.setattr(transmitting, "_files", slow)
    made = send(bay)
    assert calls == [len(keys), len(keys) - 1] and made["new"] == len(keys) - 1
    assert keys[0] not in {row["connection"] for row in made["items"]}


def test_its_digest_is_in_the_ledger_and_a_change_is_seen(bay):
    release(bay, passing(bay))
    made = send(bay)
    body = bay.call("GET", "/jobs/bay/transmittals/1/file").data
    assert hashlib.sha256(body).hexdigest() == made["digest"]
    with proxy.connection_context():
        job = Job.get(Job.name == "bay")
        (told,) = [e for e in ledger.entries(job) if e["event"] == "transmittal"]
        assert told["data"] == {"number": 1, "sha256": made["digest"]} and ASKED["to"] in told["words"]
        assert proving.faults(job) == []
        proxy.execute_sql("UPDATE transmittal SET data = ? WHERE number = 1", (body + b" ",))
        assert any("T001" in fault for fault in proving.faults(job))
        proxy.execute_sql("DELETE FROM transmittal")
        assert any("T001 is in the ledger" in fault for fault in proving.faults(job))
        assert transmittals.following(job) == 1


def test_a_file_is_looked_through(tmp_path):
    path = tmp_path / "t.zip"
    path.write_bytes(zipped({"index.html": b"<p>", "a.csv": b"1"}, {"job": "bay", "number": 4}))
    found = inspected(path)
    assert (found.job, found.number, found.wrong) == ("bay", 4, ())
    assert zipped({"a": b"1"}, {}) == zipped({"a": b"1"}, {})
    with zipfile.ZipFile(path) as packed:
        kept = {name: packed.read(name) for name in packed.namelist()}
    for change, said in (({"a.csv": b"2"}, "a.csv was changed"), ({"b.csv": b"3"}, "b.csv is not among")):
        with zipfile.ZipFile(path, "w") as packed:
            for name, body in (kept | change).items():
                packed.writestr(name, body)
        assert any(said in words for words in inspected(path).wrong)
    for junk in (b"", b"PK", b"hello"):
        path.write_bytes(junk)
        with pytest.raises(InputError, match="no transmittal"):
            inspected(path)


@pytest.mark.parametrize(
    ("asked", "status", "said"),
    [
        ({"to": " "}, 422, "to whom"),
        ({"why": ""}, 422, "what for"),
        ({"where": "level=99"}, 409, "nothing to send"),
        ({"where": "rows rows"}, 422, "is not a filter"),
    ],
)
def test_what_is_refused(bay, asked, status, said):
    assert said in send(bay, status=status, **asked)["detail"]
    assert bay.call("GET", "/jobs/bay/transmittals/7").status_code == 404
    assert bay.call("GET", "/jobs/bay/transmittals/7/file").status_code == 404
