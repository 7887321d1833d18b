"""The survey in a browser: the audit with what is let stand, sections and demands, combinations made, changed and
kept."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from tests.bundles import DEMO, small, write
from tests.console.browser import page_at
from tests.console.test_access import violations
from tests.wide import wide

JOB = "alder-street"


@pytest.fixture(scope="module")
def page(service):
    with page_at(service.url, user="admin") as page:
        yield page


@pytest.fixture(scope="module")
def bay(service, tmp_path_factory):
    """A job with the small bay, in which a column stands twice."""
    admin = service.client("admin")
    admin.new_job("surveyed", "A bay to survey")
    tables = small()
    tables["members"].append(dict(tables["members"][0], member="C1x"))
    tables["end_forces"] += [dict(r, member="C1x") for r in tables["end_forces"] if r["member"] == "C1"]
    admin.import_bundle("surveyed", write(tables, tmp_path_factory.mktemp("bay") / "b"))
    return "surveyed"


def test_a_finding_is_let_stand_and_counts_again(service, page, bay):
    page.goto(f"{service.url}/{bay}/survey")
    row = page.get_by_role("listitem").filter(has_text="C1 and C1x stand in one place")
    assert violations(page) == []
    row.get_by_role("button", name="let stand").click()
    page.get_by_role("dialog").get_by_role("textbox").fill("a sleeve")
    assert violations(page) == []
    page.get_by_role("button", name="Let it stand").click()
    expect(row).to_contain_text("stands: a sleeve (admin)")
    row.get_by_role("button", name="count it again").click()
    expect(row.get_by_role("button", name="let stand")).to_be_visible()


def test_sections_and_demands(service, page):
    page.goto(f"{service.url}/{JOB}/survey?tab=inventory")
    expect(page.get_by_role("heading", name="16 sections, 351.9 tons")).to_be_visible()
    expect(page.get_by_role("region", name="Connections by framing condition")).to_contain_text("beam to girder")
    assert violations(page) == []
    page.get_by_role("link", name="G330.i").click()
    page.wait_for_url(re.compile(r"/model\?joint=n110"))


def test_combinations_are_made_changed_and_kept(service, page, bay):
    page.goto(f"{service.url}/{bay}/survey?tab=combinations")
    expect(page.get_by_role("heading", name="2 combinations of the model")).to_be_visible()
    page.get_by_role("button", name="Show them").click()
    expect(page.get_by_role("heading", name=re.compile("made, not kept yet"))).to_be_visible()
    assert violations(page) == []
    terms = page.get_by_label("Terms of 1.4D", exact=True)
    terms.fill("1.4 Q")
    expect(page.get_by_role("button", name="Keep as the next revision")).to_be_disabled()
    terms.fill("1.5 D")
    page.get_by_role("button", name="Leave out S: 1.0D", exact=True).click()
    page.get_by_role("button", name="Keep as the next revision").click()
    page.get_by_role("link", name="See how far it is").click()
    expect(page.get_by_label("Last import")).to_contain_text("Done: revision R2 stands")
    kept = {c["name"]: c["terms"] for c in service.client("admin").combinations(bay)["combinations"]}
    assert kept["1.4D"] == [["D", 1.5]] and "S: 1.0D" not in kept


def test_what_a_revision_changed(service, page):
    """Listed by kind, worst forces first; the model is coloured by it."""
    admin = service.client("admin")
    admin.new_job("revised", "Revised")
    admin.import_bundle("revised", DEMO / "bundle")
    page.goto(f"{service.url}/revised/survey?tab=revisions")
    expect(page.get_by_text("There is one revision yet")).to_be_visible()
    admin.import_bundle("revised", DEMO / "revision-c")
    page.goto(f"{service.url}/revised/survey?tab=revisions")
    expect(page.get_by_role("button", name="8 resized")).to_be_visible()
    assert violations(page) == []
    page.get_by_role("button", name="2 new").click()
    expect(page.get_by_role("row")).to_have_count(3)
    page.get_by_role("row").nth(1).get_by_role("link").first.click()
    page.wait_for_url(re.compile("by=change"))
    expect(page.get_by_text("as it was")).to_be_visible()


@wide
def test_patterns_with_peaks_and_every_action(service, page):
    page.goto(f"{service.url}/{JOB}/patterns")
    expect(page.get_by_role("heading", name="P1: 48 joints")).to_be_visible()
    expect(page.get_by_text("Nothing of Vw, M, Mw, T acts here.")).to_be_visible()
    cloud = page.get_by_role("img", name="N against V of 1104 actions")
    expect(cloud).to_be_visible()
    assert violations(page) == []
    page.get_by_role("combobox", name="Upwards").click()
    page.get_by_role("option", name="V", exact=True).click()
    page.get_by_role("combobox", name="Across").click()
    page.get_by_role("option", name="N", exact=True).click()
    page.wait_for_url(re.compile("x=N"))
    box = page.get_by_role("img", name="V against N of 1104 actions").bounding_box()
    for k in range(40):  # up the middle, where N is next to nothing, until a point is met
        page.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] * (1 - k / 40))
        if page.get_by_role("status").count():
            break
    expect(page.get_by_role("status")).to_contain_text(re.compile(r"B\d+\.[ij] in .*: N .* kip, V .* kip"))
    page.get_by_role("button", name=re.compile("^P9 ")).click()
    expect(page.get_by_role("heading", name="P9: 12 joints")).to_be_visible()
