"""Calculations as PDF, read again by a general reader: what they say is what the page says."""

from __future__ import annotations

import base64
import io
import re
from types import SimpleNamespace

import docx
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image
from pypdf import PdfReader

from handrail.core.quantities.lines import Line
from handrail.interchange.printed.calculation import SECTIONS
from handrail.interchange.printed.equations import equation
from handrail.interchange.printed.mathematics import Run, line_runs
from handrail.interchange.printed.worked import AFTER, INDENT, LEADING, Worked, broken, wide_of
from handrail.service.application import calculating
from tests.bundles import DEMO, plan_of
from tests.service.house import House


@pytest.fixture
def bay(tmp_path):
    house = House(tmp_path / "home")
    house.run()
    yield house
    house.close()


def printed(bay, status=200, **query):
    answer = bay.call("GET", "/jobs/bay/calculations.pdf", query_string=query)
    assert answer.status_code == status, answer.json
    return answer


def words(answer) -> str:
    text = " ".join(page.extract_text() for page in PdfReader(io.BytesIO(answer.data)).pages)
    return " ".join(text.split())


def test_a_connection_says_what_its_page_says(bay):
    key = bay.call("GET", "/jobs/bay/schedule").json["rows"][0]["connections"][0]
    page, answer = bay.call("GET", f"/jobs/bay/connections/{key}").json, printed(bay, connection=key)
    said = words(answer)
    assert answer.headers["Content-Disposition"] == f'attachment; filename="bay-{key}-calculations.pdf"'
    assert f"Calculation of {key}" in said and f"utilisation {page['utilisation']:.2f}" in said
    for check in page["checks"]:
        assert check["check"].replace("_", " ") in said and check["clause"] in said
    for size in page["parameters"]:
        assert size["label"] in said and (size["text"] or "none") in said
    for rule in page["detailing"]:
        assert rule["clause"] in said
    assert "Actions by case, unfactored" in said
    for note in page["notes"]:
        assert " ".join(note.split()) in said
    assert "Worked lines of the check that governs" in said and "NOT RELEASED" in said
    pages = PdfReader(io.BytesIO(answer.data)).pages
    for number, one in enumerate(pages, 1):
        assert f"page {number}" in one.extract_text()
    assert printed(bay, connection=key).data == answer.data


def changed(bay, **sizes) -> str:
    """The first connection with other sizes, decided."""
    key = bay.call("GET", "/jobs/bay/schedule").json["rows"][0]["connections"][0]
    asked = {"changes": sizes, "reason": "what the <shop> has"}
    done = bay.call("POST", f"/jobs/bay/connections/{key}/changes", json=asked)
    assert done.status_code == 201, done.json
    return key


def test_marks_have_contents_with_pages_and_bookmarks(bay):
    """Each mark stands on the page that the contents say, by the place that is used most."""
    changed(bay, pitch="4 in")
    rows = bay.call("GET", "/jobs/bay/schedule").json["rows"]
    answer = printed(bay)
    reader = PdfReader(io.BytesIO(answer.data))
    assert len(rows) == 2 and sorted(e.title for e in reader.outline) == sorted(row["mark"] for row in rows)
    contents = " ".join(reader.pages[1].extract_text().split())
    for entry in reader.outline:
        at = reader.get_destination_page_number(entry)
        assert entry.title in reader.pages[at].extract_text()
        assert re.search(rf"{entry.title} Single plate, \d places? \w+ [0-9.]+ ", contents)
        assert re.search(rf"\b{at + 1}\b", contents)
    for row in rows:
        if row["count"] > 1:
            assert f"{row['count']} places; what follows is" in words(answer)
    each = PdfReader(io.BytesIO(printed(bay, each="true").data))
    assert sorted(e.title for e in each.outline) == sorted(key for row in rows for key in row["connections"])


def test_sections_and_lines_are_chosen(bay):
    key = bay.call("GET", "/jobs/bay/schedule").json["rows"][0]["connections"][0]
    bare = words(printed(bay, connection=key, sections="checks", lines="none"))
    assert "Checks" in bare and "Worked lines" not in bare and "Sizes and practice" not in bare
    every = words(printed(bay, connection=key, lines="all"))
    first = words(printed(bay, connection=key))
    assert every.count("enough") > first.count("enough") and len(every) > len(first)
    assert "Detailing" in first and set(SECTIONS) >= {"drawing", "checks", "decisions"}


def test_what_fails_or_is_decided_stands_large(bay):
    key = changed(bay, plate_thickness="1/8 in", bolt="5/8 A325-N", rows=2)
    page, said = bay.call("GET", f"/jobs/bay/connections/{key}").json, words(printed(bay, connection=key))
    assert page["status"] == "fail" and "FAILS · OVERRIDDEN · NOT RELEASED" in said
    assert "NOT ENOUGH" in said or "BROKEN" in said
    assert "what the <shop> has" in said and "awaiting" in said


@pytest.mark.parametrize(
    ("asked", "status", "said"),
    [
        ({"connection": "NO.i"}, 404, "no connection 'NO.i'"),
        ({"mark": "NO1"}, 404, "no mark 'NO1'"),
        ({"where": "level=99"}, 404, "nothing to calculate"),
        ({"sections": "checks,colours"}, 422, "'colours' is no section"),
        ({"lines": "some"}, 422, "governing, all, none"),
    ],
)
def test_what_is_refused(bay, asked, status, said):
    assert said in printed(bay, status, **asked).json["detail"]


@pytest.mark.parametrize(
    ("line", "set_"),
    [
        (Line("Rn", "0.60 Fu Anv", 227346.0, "force", "J4-4"), "R_n = 0.60 F_u A_nv"),
        (Line("phi rn", "0.75 rn", 1.0, "force"), "φ r_n = 0.75 r_n"),
        (Line("u", "sqrt((V/Vc)^2 + (N/Nc)^2)", 0.5, ""), "√((V/V_c)^2 + "),
        (Line("Mn", "Fy tw^2/4 < 5", 1.0, "moment"), "t_w^2/4 < 5"),
        (Line("throat", "2 x 0.707 w, as much as the plate takes", 1.0, "length"), "2 × 0.707 w, as much as the plate"),
        (Line("phi Rn", "sum of the least of each bolt", 1.0, "force"), "φ R_n = sum of the least of each bolt"),
        (Line("Nsa", "Ase,N futa", 1.0, "force", values=(("Ab", 645.16, "area"),)), "N_sa = A_se,N f_uta = "),
    ],
)
def test_lines_are_set_as_mathematics(line, set_):
    runs = line_runs(line, "us")
    marks = {"below": "_", "above": "^", "given below": "_"}
    text = "".join(marks.get(run.look, "") + run.text for run in runs)
    assert set_ in text and [run.look for run in runs].count("result") == 1
    if line.values:
        assert text.endswith("(A_b = 1 in²)")


@given(st.integers(150, 700), st.integers(1, 40), st.integers(12, 600), st.data())
@settings(max_examples=60, deadline=None)
def test_lines_are_broken_at_the_margin_and_parted_between_pages(wide, count, high, data):
    """Nothing is lost, nothing goes over the margin but what has no blank, a title is never the last on a page."""
    word = st.text("abcxyz-=²", min_size=1, max_size=12)
    lines = [
        [Run(" ".join(data.draw(st.lists(word, min_size=1, max_size=30)))), Run("n", "below"), Run(" 12 kip", "result")]
        for _ in range(count)
    ]
    whole = Worked([[Run("what is checked", "title")], *lines])
    width, height = whole.wrap(wide, 1e6)
    parts = whole.split(wide, high)
    assert width == wide and height >= LEADING * (count + 1)
    if parts:
        first, rest = parts
        assert [*first.lines, *rest.lines] == whole.lines and len(first.lines) >= 2
        assert first.wrap(wide, high)[1] <= high and first.height + rest.wrap(wide, 1e6)[1] == pytest.approx(height)
    else:
        assert height <= high or Worked(whole.lines[:2]).wrap(wide, 1e6)[1] > high
    for line in lines:
        rows = list(broken(line, wide))
        text = "".join(run.text for run in line)
        assert " ".join("".join(run.text for run in row) for row in rows) == text
        for k, row in enumerate(rows):
            words = "".join(run.text for run in row)
            assert " " not in words.strip() or sum(map(wide_of, row)) <= wide - INDENT - (AFTER if k else 0) + 1e-6


def test_cases_add_up_to_combinations():
    """Unfactored actions by the factors of a combination are what acts in it, at every connection."""
    plan = plan_of(DEMO / "bundle")
    acting, by_name = plan.acting, {c.name: dict(c.terms) for c in plan.building.combinations}
    shaken = {case.name for case in plan.building.cases if case.kind != "linear"}
    looked = 0
    for k in range(0, len(acting.connections), 37):
        names, alone = acting.by_case(k)
        whole = acting.on(np.array([k]))[0]
        for c, name in enumerate(acting.strength.names):
            terms = by_name.get(name)
            if terms is None or shaken & set(terms) or not set(terms) <= set(names):
                continue
            own = sum(factor * alone[names.index(case)] for case, factor in terms.items())
            np.testing.assert_allclose(whole[c], own, rtol=1e-6, atol=1.0)
            looked += 1
    assert looked > 100


def test_what_combinations_use_is_what_the_matrix_says():
    """The largest of each column is the check's own utilisation; no more columns than a page is wide."""
    plan = plan_of(DEMO / "bundle")
    found = list(plan.batch().run(plan.families({"B3.i", "C1.i", "G12.j"})))
    assert len(found) > 1
    for k, outcome in found:
        assigned = plan.assigned[k]
        stands = SimpleNamespace(assigned=assigned, sizes=outcome.sizes)
        names, rows = calculating._combinations(plan, stands)
        looked = {c.check.replace("_", " "): c.utilisation for c in plan.look(assigned, outcome.sizes).checks}
        assert len(rows) == len(plan.acting.strength.names) and 1 < len(names) <= calculating.SHOWN
        for n, name in enumerate(names):
            assert max(uses[n] for _, uses in rows if uses[n] == uses[n]) == pytest.approx(looked[name], abs=1e-9)


def test_each_who_asks_is_named(service):
    """Two people in one role ask the same: neither has the other's name on the cover."""
    admin = service.client("admin")
    for name in ("calculator-a", "calculator-b"):
        admin.add_user(name, "alder-street")
        admin.set_role("alder-street", name, "detailer")
    for name in ("calculator-a", "calculator-b"):
        body = service.client(name).calculations("alder-street", connection="B4.i", sections=["checks"], lines="none")
        cover = " ".join(PdfReader(io.BytesIO(body)).pages[0].extract_text().split())
        assert f"prepared by {name}" in cover


def test_one_page_for_a_person(bay):
    """What its page says first, on one page, with a link that leads there."""
    key = changed(bay, pitch="4 in")
    page = bay.call("GET", f"/jobs/bay/connections/{key}").json
    answer = bay.call("GET", f"/jobs/bay/connections/{key}/page.pdf?address=https://steel.example/")
    (paper,) = PdfReader(io.BytesIO(answer.data)).pages
    said = " ".join(paper.extract_text().split())
    assert f"utilisation {page['utilisation']:.2f}" in said and "OVERRIDDEN · NOT RELEASED" in said
    worst = max(page["checks"], key=lambda c: c["utilisation"])
    assert worst["check"].replace("_", " ") in said and "Pitch: 4 in" in said and "Made of" in said
    (link,) = [a.get_object()["/A"]["/URI"] for a in paper["/Annots"]]
    assert link == f"https://steel.example/bay/connections/{key}"
    assert (
        "/Annots" not in PdfReader(io.BytesIO(bay.call("GET", f"/jobs/bay/connections/{key}/page.pdf").data)).pages[0]
    )


@pytest.mark.parametrize(("of", "status"), [("B9.i/page.pdf", 404), ("B1.j/page.pdf", 404),
                                            ("B1.i/page.pdf?address=javascript:alert(1)", 422)])  # fmt: skip
def test_no_page_of_what_is_none(bay, of, status):
    assert bay.call("GET", f"/jobs/bay/connections/{of}").status_code == status


W = "{http://schemas.openxmlformats.org/wordprocessingml/2006/main}"
M = "{http://schemas.openxmlformats.org/officeDocument/2006/math}"


def worded(bay, **query):
    answer = bay.call("GET", "/jobs/bay/calculations.docx", query_string=query)
    assert answer.status_code == 200, answer.json
    return answer, docx.Document(io.BytesIO(answer.data))


def test_a_word_processor_s_file_says_the_same(bay):
    """Headings, tables, equations, pictures and contents, as a general reader has them; the same each time."""
    changed(bay, pitch="4 in")
    answer, document = worded(bay, lines="all")
    rows = bay.call("GET", "/jobs/bay/schedule").json["rows"]
    headings = [p.text for p in document.paragraphs if p.style.name == "Heading 1"]
    assert sorted(headings) == sorted(row["mark"] for row in rows)
    paper = words(printed(bay, lines="all"))
    tables = [[cell.text for cell in row.cells] for table in document.tables for row in table.rows]
    checks = [row for row in tables if len(row) == 7 and row[6] in ("enough", "NOT ENOUGH")]
    assert checks and all(row[0] in paper and row[3] in paper and row[4] in paper for row in checks)
    equations = list(document.element.iter(f"{M}oMath"))
    assert len(equations) > len(checks) and list(document.element.iter(f"{M}sSub"))
    assert len(document.inline_shapes) >= 3 * len(rows) and all(s.width > 1e6 for s in document.inline_shapes)
    fields = [e.text for e in document.element.iter(f"{W}instrText")]
    assert any("TOC" in text for text in fields)
    foot = document.sections[0].footer._element
    assert [e.text.strip() for e in foot.iter(f"{W}instrText")] == ["PAGE", "NUMPAGES"]
    assert "NOT RELEASED" in " ".join(p.text for p in document.paragraphs)
    assert worded(bay, lines="all")[0].data == answer.data
    assert not list(worded(bay, sections="checks")[1].element.iter(f"{M}oMath"))


def test_a_formula_as_an_equation():
    """R = (b^2 + 2 t_w) sqrt(F_y / E): a power, an index, a root around a fraction."""
    line = Line("Rn", "b^2 + 2 * tw * sqrt(Fy / E)", 3.0, "force")
    made = equation(line, "us")
    (root,) = made.iter(f"{M}rad")
    assert text_of(root) == "Fy / E"
    assert text_of(made).startswith("Rn = b2 + 2 · tw · Fy / E = ")
    assert {text_of(e) for e in made.iter(f"{M}sSup")} == {"b2"}


def text_of(element):
    return "".join(t.text for t in element.iter(f"{M}t"))


SVG = (
    b'<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20">'
    b'<rect width="40" height="20" fill="#123456"/></svg>'
)


def profile(bay, name="usual", status=200, **said):
    body = said | {"emblem": base64.b64encode(said.get("emblem", b"")).decode()}
    answer = bay.call("PUT", f"/profiles/{name}", json=body)
    assert answer.status_code == status, answer.json
    return answer


def png():
    made = io.BytesIO()
    Image.new("RGB", (60, 20), "#835a0c").save(made, "PNG")
    return made.getvalue()


def test_the_house_s_own_head_and_sections(bay):
    """What a profile says holds where nothing else is said; a job's own firm stands before the house's; what was kept
    of an answer is not given once the profile is another."""
    key = bay.call("GET", "/jobs/bay/schedule").json["rows"][0]["connections"][0]
    before = bay.call("GET", f"/jobs/bay/drawings.pdf?connection={key}").data
    profile(bay, firm=["Quay Steel", "14 Quay Street"], registration="No. 1234", emblem=SVG, sections=["checks"])
    said = words(printed(bay, connection=key))
    assert "Quay Steel" in said and "No. 1234" in said and "Sizes and practice" not in said and "Checks" in said
    assert "Sizes and practice" in words(printed(bay, connection=key, sections="sizes"))
    drawn = bay.call("GET", f"/jobs/bay/drawings.pdf?connection={key}").data
    assert drawn != before and "No. 1234" in PdfReader(io.BytesIO(drawn)).pages[0].extract_text()
    assert b"<svg" in bay.call("GET", "/profiles/usual/emblem").data
    for sent, shown in ((png(), b"data:image/png;base64"), (SVG, b"fill: rgb(7%,20%,33%)")):
        profile(bay, firm=["Quay Steel"], emblem=sent, sections=["checks"])
        sheet = bay.call("GET", f"/jobs/bay/drawings.svg?connection={key}").data
        assert shown in sheet and b"Quay Steel" in sheet
    profile(bay, "short", firm=["Other"], emblem=png(), lines="none", sections=["drawing", "lines"])
    pages = PdfReader(io.BytesIO(printed(bay, connection=key, profile="short").data)).pages
    assert all(page.images for page in pages) and "Worked lines" not in "".join(p.extract_text() for p in pages)
    _, document = worded(bay, connection=key, profile="short")
    assert "Other" in document.sections[0].header.paragraphs[0].text
    bay.call("PATCH", "/jobs/bay", json={"firm": "The job's own"})
    assert "The job's own" in words(printed(bay, connection=key)) and "Quay" not in words(printed(bay, connection=key))
    assert printed(bay, 422, connection=key, profile="none").json["detail"].endswith("there are short, usual")
    assert bay.call("DELETE", "/profiles/short").status_code == 204
    assert [p["name"] for p in bay.call("GET", "/profiles").json["items"]] == ["usual"]


@pytest.mark.parametrize(("emblem", "said"), [
    (b"GIF89a", "neither a PNG nor an SVG"),
    (b"\x89PNG\r\n\x1a\nbroken", "no PNG that can be read"),
    (SVG.replace(b"<rect", b'<image href="file:///etc/passwd"/><rect'), "<image>"),
    (SVG.replace(b"<rect", b"<script>1</script><rect"), "<script>"),
    (SVG.replace(b'fill="#123456"', b'fill="url(http://x/y)"'), "<rect>"),
    (SVG.replace(b"<rect", b'<rect onload="x()"'), "<rect>"),
    (b'<!DOCTYPE svg [<!ENTITY a SYSTEM "file:///etc/passwd">]>' + SVG, "DOCTYPE"),
    (b"<svg" * 60_000, "kB; at most"),
])  # fmt: skip
def test_no_emblem_of_what_would_fetch_or_run(bay, emblem, said):
    assert said in profile(bay, status=422, emblem=emblem).json["detail"]
    assert bay.call("GET", "/profiles").json["items"] == []


@pytest.mark.parametrize(("name", "more", "said"), [
    ("Upper", {}, "no name of a profile"), ("usual", {"sections": ["chekcs"]}, "no section"),
    ("usual", {"lines": "some"}, "lines are of"),
])  # fmt: skip
def test_no_profile(bay, name, more, said):
    assert said in profile(bay, name, 422, **more).json["detail"]


def test_a_note_to_the_shop_stands_on_all_that_leaves(bay):
    """On the drawing of the mark with the places that it is of, in calculations, on the one page; taken back it is
    gone; it stays from revision to revision, and in the history."""
    row = next(r for r in bay.call("GET", "/jobs/bay/schedule").json["rows"] if len(r["connections"]) > 1)
    key, mark = row["connections"][0], row["mark"]
    said = bay.call("POST", "/jobs/bay/shop-notes", json={"connections": [key], "words": " Plate may  be longer. "})
    assert said.json == {"connections": 1, "changed": 1}
    bay.upload(2)
    bay.run()
    assert bay.call("GET", f"/jobs/bay/connections/{key}").json["shop_note"] == "Plate may be longer."

    def places():
        drawn = bay.call("GET", f"/jobs/bay/drawings.pdf?mark={mark}").data
        page = bay.call("GET", f"/jobs/bay/connections/{key}/page.pdf").data
        texts = [PdfReader(io.BytesIO(body)).pages[0].extract_text() for body in (drawn, page)]
        return [*texts, words(printed(bay, connection=key))]

    assert all("Plate may be longer." in " ".join(text.split()) for text in places())
    assert f"to the shop ({key})" in " ".join(places()[0].split())
    back = bay.call("POST", "/jobs/bay/shop-notes", json={"connections": row["connections"], "words": ""})
    assert back.json["changed"] == 1 and not any("Plate may" in text for text in places())
    happened = [e["words"] for e in bay.call("GET", f"/jobs/bay/connections/{key}").json["history"]
                if e["event"] == "note to the shop"]  # fmt: skip
    assert happened == ["Plate may be longer.", ""]
