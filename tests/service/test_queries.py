"""Queries to the engineer of record: asked, answered, closed; what is open holds a release; out as BCF for any program,
and in again."""

from __future__ import annotations

import io
import zipfile

import pytest
from bcf.bcfxml import load
from lxml import etree
from PIL import Image
from pypdf import PdfReader

from handrail.interchange.bcf.reading import read_bcf
from handrail.service.application import querying
from handrail.store import jobs
from handrail.store.database import proxy
from tests.bundles import small
from tests.service.house import House, bundle


@pytest.fixture
def bay(tmp_path):
    house = House(tmp_path / "home")
    house.run()
    yield house
    house.close()


def ask(bay, status=201, **more):
    body = {"title": "May the plate be longer?", "of": [{"kind": "connection", "name": "B1.i"}]} | more
    answer = bay.call("POST", "/jobs/bay/queries", json=body)
    assert answer.status_code == status, answer.json
    return answer.json


def said(bay, number, what, words="", status=200):
    answer = bay.call("POST", f"/jobs/bay/queries/{number}/{what}", json={"words": words})
    assert answer.status_code == status, answer.json
    return answer.json


def test_asked_answered_closed_and_asked_again(bay):
    made = ask(bay, words="By 1/2 in.", to="Engineer of record", due="2020-01-31")
    assert (made["name"], made["state"], made["late"], made["connections"]) == ("Q1", "open", True, ["B1.i"])
    answered = said(bay, 1, "answer", "Yes, to 1 in.")
    assert (answered["state"], answered["answer"], answered["late"]) == ("answered", "Yes, to 1 in.", False)
    assert said(bay, 1, "close")["state"] == "closed"
    assert "is closed" in said(bay, 1, "answer", "No", 422)["detail"]
    again = said(bay, 1, "again", "The plate was changed.")
    assert (again["state"], [s["what"] for s in again["said"]]) == ("open", ["answered", "closed", "asked again"])
    history = [
        e["words"] for e in bay.call("GET", "/jobs/bay/connections/B1.i").json["history"] if e["event"] == "query"
    ]
    assert len(history) == 4 and history[0] == "Q1 asked: May the plate be longer?"
    listed = bay.call("GET", "/jobs/bay/queries?state=open").json
    assert (listed["total"], listed["open"], listed["late"]) == (1, 1, 1)


def test_an_open_query_holds_a_release_until_it_is_closed(bay):
    """Of a joint it holds all of its connections; answered alone it holds no more."""
    ask(bay, of=[{"kind": "joint", "name": "e"}], holds=True)
    release = {"connections": ["B1.i"], "word": "fine"}
    refused = bay.call("POST", "/jobs/bay/releases", json=release)
    assert refused.status_code == 422 and "Q1 is open and holds it" in refused.json["detail"]
    other = bay.call("POST", "/jobs/bay/releases", json=release | {"connections": ["C1.i"]}).json
    assert "Q1" not in other.get("detail", "")
    said(bay, 1, "close")
    assert bay.call("POST", "/jobs/bay/releases", json=release).status_code == 200


def test_what_it_is_about_is_found_and_told(bay, tmp_path):
    """Members and findings too; after a revision without the beam the query stays, and says what is gone."""
    about = [{"kind": "member", "name": "B1"}, {"kind": "finding", "name": "free_top b"}]
    assert ask(bay, of=about)["connections"] == ["B1.i"]
    tables = small()
    tables["members"] = [m for m in tables["members"] if m["member"] != "B1"]
    tables["end_forces"] = [r for r in tables["end_forces"] if r["member"] != "B1"]
    tables["nodes"] = [n for n in tables["nodes"] if n["node"] != "f"]
    bay.send(bundle(tmp_path, 1.0, tables))
    kept = bay.call("GET", "/jobs/bay/queries/1").json
    assert kept["missing"] == ["member B1"] and kept["connections"] == []


@pytest.mark.parametrize(("more", "words"), [
    ({"title": "  "}, "title: say what is asked"),
    ({"of": []}, "of: name one"),
    ({"of": [{"kind": "beam", "name": "B1"}]}, "nothing that is asked about"),
    ({"of": [{"kind": "member", "name": "B99"}]}, "the model has no member B99"),
    ({"due": "31.12.2026"}, "no date like"),
    ({"view": {"eye": [1, 2]}}, "view: 'eye'"),
])  # fmt: skip
def test_what_is_no_query(bay, more, words):
    assert words in ask(bay, 422, **more)["detail"]
    assert bay.call("GET", "/jobs/bay/queries").json["total"] == 0


@pytest.mark.parametrize("version", ["2.1", "3.0"])
def test_as_bcf_for_a_general_reader(bay, version, tmp_path):
    """Title, state, author, due, comments, viewpoint with its camera and what is picked, a picture."""
    ask(bay, words="By <1/2> in. & more", to="Engineer", due="2027-03-01", holds=True)
    view = {"eye": [9, -9, 9], "way": [-0.6, 0.6, -0.5], "up": [0, 0, 1]}
    ask(bay, title="Which bolts?", of=[{"kind": "joint", "name": "e"}], view=view)
    said(bay, 1, "answer", "Yes.")
    body = bay.call("GET", f"/jobs/bay/queries.bcf?version={version}").data
    assert body == bay.call("GET", f"/jobs/bay/queries.bcf?version={version}").data
    (tmp_path / "q.bcf").write_bytes(body)
    with load(tmp_path / "q.bcf") as found:
        topics = {handler.topic.title: handler for handler in found.topics.values()}
        assert set(topics) == {"May the plate be longer?", "Which bolts?"}
        first = topics["May the plate be longer?"]
        assert first.topic.topic_status == "Answered" and first.topic.description == "By <1/2> in. & more"
        assert [c.comment for c in first.comments] == ["Yes."] and str(first.topic.due_date).startswith("2027-03-01")
        (look,) = first.viewpoints.values()
        assert look.get_selected_guids() and look.snapshot
        camera = topics["Which bolts?"].viewpoints
        (look,) = camera.values()
        eye = look.visualization_info.perspective_camera.camera_view_point
        assert (eye.x, eye.y, eye.z) == (9, -9, 9)
    with zipfile.ZipFile(io.BytesIO(body)) as packed:
        pictures = [name for name in packed.namelist() if name.endswith("snapshot.png")]
        assert len(pictures) == 2 and Image.open(io.BytesIO(packed.read(pictures[0]))).size[0] > 1000


def test_picked_things_are_those_of_the_ifc_file(bay):
    ask(bay)
    (topic,) = read_bcf(bay.call("GET", "/jobs/bay/queries.bcf").data)
    steel = bay.call("GET", "/jobs/bay/steel-model.ifc").data.decode()
    assert topic.look and len(topic.look.picked) == 2 and all(f"'{number}'" in steel for number in topic.look.picked)


def changed(body, change):
    """A BCF file with its markups changed, as another program does."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(body)) as before, zipfile.ZipFile(out, "w") as after:
        for name in before.namelist():
            data = before.read(name)
            if name.endswith("markup.bcf"):
                root = etree.fromstring(data)
                change(root)
                data = etree.tostring(root)
            after.writestr(name, data)
    return out.getvalue()


def take_in(bay, body, status=200):
    answer = bay.call("POST", "/jobs/bay/queries.bcf", data=body, content_type="application/octet-stream")
    assert answer.status_code == status, answer.json
    return answer.json


@pytest.mark.parametrize("version", ["2.1", "3.0"])
def test_answers_come_in_again(bay, version):
    """What was answered elsewhere is written down here once; what is new there is new here, tied by what it picks."""
    ask(bay)
    body = bay.call("GET", f"/jobs/bay/queries.bcf?version={version}").data
    assert take_in(bay, body) == {"new": [], "changed": [], "same": [1]}

    def answer(root):
        topic = root.find("Topic")
        where = root
        if version == "3.0":
            where = etree.SubElement(topic, "Comments")
        comment = etree.SubElement(where, "Comment", Guid="5a5b2a4c-5c5e-4b9d-8f51-111111111111")
        for name, text in (("Date", "2026-11-01T10:00:00Z"), ("Author", "record"), ("Comment", "To 1 in., no more.")):
            etree.SubElement(comment, name).text = text

    back = changed(body, answer)
    assert take_in(bay, back)["changed"] == [1] and take_in(bay, back)["same"] == [1]
    kept = bay.call("GET", "/jobs/bay/queries/1").json
    assert (kept["state"], kept["answer"], kept["answered_by"]) == ("answered", "To 1 in., no more.", "record")

    def another(root):
        root.find("Topic").set("Guid", "9c0f4f1e-0000-4000-8000-000000000001")
        for label in (*root.findall("Topic/Labels"), *root.findall("Topic/Labels/Label")):
            label.getparent().remove(label)

    new = take_in(bay, changed(body, another))
    assert new["new"] == [2]
    tied = bay.call("GET", "/jobs/bay/queries/2").json
    assert {(one["kind"], one["name"]) for one in tied["of"]} == {("connection", "B1.i"), ("member", "B1")}


def test_what_its_own_author_says_elsewhere_is_no_answer(bay):
    ask(bay)
    body = bay.call("GET", "/jobs/bay/queries.bcf").data

    def more(root):
        comment = etree.SubElement(root, "Comment", Guid="5a5b2a4c-5c5e-4b9d-8f51-222222222222")
        for name, text in (("Date", "2026-11-01T10:00:00Z"), ("Author", "ann"), ("Comment", "It is urgent.")):
            etree.SubElement(comment, name).text = text

    assert take_in(bay, changed(body, more))["changed"] == [1]
    kept = bay.call("GET", "/jobs/bay/queries/1").json
    assert (kept["state"], kept["answer"], kept["author"]) == ("open", "", "ann")
    assert [s["words"] for s in kept["said"]] == ["It is urgent."]


def test_who_may_not_close_does_not_by_a_file_either(bay):
    """Closed elsewhere: an engineer who takes the file in closes it, in their own name; a detailer does not."""
    ask(bay, holds=True)
    body = bay.call("GET", "/jobs/bay/queries.bcf").data
    closed = changed(body, lambda root: root.find("Topic").set("TopicStatus", "Closed"))
    with proxy.connection_context():
        job = jobs.find_job("bay")
        assert querying.take_in(job, closed, "dan", closes=False)["same"] == [1]
    assert bay.call("GET", "/jobs/bay/queries/1").json["state"] == "open"
    assert take_in(bay, closed)["changed"] == [1]
    kept = bay.call("GET", "/jobs/bay/queries/1").json
    assert (kept["state"], kept["closed_by"]) == ("closed", "ann")


BOMB = b'<!DOCTYPE x [<!ENTITY a SYSTEM "file:///etc/passwd">]><Version VersionId="2.1">&a;</Version>'


def packed(**files):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as made:
        for name, body in files.items():
            made.writestr(name.replace("_", "."), body)
    return out.getvalue()


@pytest.mark.parametrize(("body", "words"), [
    (b"PK no zip", "no zip that can be read"),
    (packed(readme="x"), "no bcf.version"),
    (packed(bcf_version=b"<Version VersionId='1.0'/>"), "BCF 1.0"),
    (packed(bcf_version=b"<Version"), "cannot be read"),
    (packed(bcf_version=b"<Version VersionId='2.1'/>", **{"a/markup_bcf": b"<Markup/>"}), "no Topic"),
])  # fmt: skip
def test_what_is_no_bcf(bay, body, words):
    assert words in take_in(bay, body, 422)["detail"]
    assert bay.call("GET", "/jobs/bay/queries").json["total"] == 0


def test_nothing_outside_the_file_is_looked_at(bay):
    assert read_bcf(packed(bcf_version=BOMB)) == []


def test_the_list_on_paper_and_a_picture(bay):
    ask(bay, words="By 1/2 in.", due="2027-03-01", holds=True)
    said(bay, 1, "answer", "Yes.")
    text = " ".join(" ".join(p.extract_text() for p in PdfReader(
        io.BytesIO(bay.call("GET", "/jobs/bay/queries.pdf").data)).pages).split())  # fmt: skip
    assert "1 in all: 0 open, 1 answered, 0 closed" in text and "Yes." in text and "connection B1.i" in text
    picture = Image.open(io.BytesIO(bay.call("GET", "/jobs/bay/queries/1/picture.png").data)).convert("RGB")
    red = sum(n for n, (r, g, b) in picture.getcolors(1 << 20) if r > 140 and g < 60 and b < 60)
    assert red > 100
    assert bay.call("GET", "/jobs/bay/queries/9/picture.png").status_code == 404
