"""Working together in the console: many connections at once, the ledger, releases, how far the job is, what a revision
left standing."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from tests.bundles import DEMO
from tests.console.browser import quiet_page, sign_in
from tests.console.test_access import violations
from tests.service.running import Service
from tests.wide import wide

JOB = "alder-street"


@pytest.fixture(scope="module")
def own(tmp_path_factory):
    made = Service(tmp_path_factory.mktemp("together") / "home").start()
    yield made
    made.stop()


@pytest.fixture(scope="module")
def page(own):
    with quiet_page(own.url) as page:
        yield page


def test_many_are_picked_and_changed_together(own, page):
    """By keyboard and by the box at the top; tried before it is kept; with a reason of the list."""
    page.goto(f"{own.url}/{JOB}/joints?framing=beam_to_column_web&level=2&sort=connection")
    rows = page.get_by_role("table", name="Connections").get_by_role("row")
    rows.nth(1).focus()
    page.keyboard.press("Space")
    page.keyboard.press("Shift+ArrowDown")
    page.keyboard.press("Shift+ArrowDown")
    expect(page.get_by_text("3 selected")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_text("3 selected")).to_have_count(0)
    page.get_by_role("textbox", name="Find").fill("B1.")
    page.get_by_label("Select all shown").check()
    expect(page.get_by_text("2 selected")).to_be_visible()
    assert violations(page) == []
    page.get_by_role("button", name="Change …").click()
    ask = page.get_by_role("dialog")
    ask.get_by_role("combobox", name="What to change").click()
    page.get_by_role("option", name="Rows", exact=True).click()
    ask.get_by_role("textbox", name="New value").fill("4")
    expect(ask.get_by_text("B1.i")).to_be_visible()
    assert violations(page) == []
    keep = ask.get_by_role("button", name="Keep for 2")
    expect(keep).to_be_disabled()
    ask.get_by_role("combobox", name="Of the shop’s list").click()
    page.get_by_role("option", name="erection").click()
    keep.click()
    expect(ask).to_be_hidden()
    expect(page.get_by_title("decided by a person, not by its rule")).to_have_count(2)
    page.get_by_role("button", name="Tag, assign …").click()
    ask = page.get_by_role("dialog")
    ask.get_by_label("Tags to add, between commas").fill("rush")
    ask.get_by_label("Who works on them").fill("ann")
    ask.get_by_role("button", name="Keep").click()
    expect(ask).to_be_hidden()
    assert [r["tags"] for r in own.client().connections(JOB, "tag=rush")] == [["rush"], ["rush"]]


def test_rows_are_grouped_columns_chosen_and_the_view_kept(own, page):
    failing = own.client().connections(JOB, "status=fail")
    page.goto(f"{own.url}/{JOB}/joints?status=fail")
    page.get_by_role("combobox", name="Group rows").click()
    page.get_by_role("option", name="by level").click()
    expect(page.get_by_role("button", name=f"level {failing[0]['level']}")).to_be_visible()
    page.get_by_role("button", name="Columns").click()
    page.get_by_role("menuitemcheckbox", name="Person").click()
    page.keyboard.press("Escape")
    expect(page.get_by_role("columnheader", name="Person")).to_be_visible()
    page.get_by_role("button", name="Views").click()
    page.get_by_label("Name of the view").fill("what fails, by level")
    page.get_by_role("button", name="Keep view").click()
    expect(page.get_by_role("menuitem", name=re.compile("what fails, by level"))).to_be_visible()
    page.keyboard.press("Escape")
    page.goto(f"{own.url}/{JOB}/joints")
    page.get_by_role("button", name="Views (1)").click()
    page.get_by_role("menuitem", name=re.compile("what fails, by level")).click()
    expect(page.get_by_text(f"{len(failing)} of {own.client().job(JOB)['connections']}")).to_be_visible()
    expect(page.get_by_role("columnheader", name="Person")).to_be_visible()
    page.get_by_role("button", name="As a file").click()
    with page.expect_download() as sent:
        page.get_by_role("menuitem", name="Table (.csv)").click()
    lines = sent.value.path().read_text().splitlines()
    assert (
        len(lines) == len(failing) + 1 and lines[0].startswith("connection,status,utilisation") and "fail" in lines[1]
    )


def test_an_engineer_accepts_and_returns_in_the_ledger(own, page):
    detailer = own.client("detailer")
    for key in ("B5.i", "B9.i"):
        detailer.set_override(JOB, key, "rows", 4, "as next door")
    page.goto(f"{own.url}/{JOB}/ledger")
    expect(page.get_by_role("link", name="B5.i")).to_be_visible()
    assert violations(page) == []
    row = page.get_by_role("row", name=re.compile("B5.i"))
    row.get_by_role("checkbox").check()
    page.get_by_role("button", name="Accept", exact=True).click()
    page.get_by_role("dialog").get_by_label("Word").fill("as drawn")
    assert violations(page) == []
    page.get_by_role("button", name="Accept this decision").click()
    expect(row).to_have_count(0)
    page.get_by_role("row", name=re.compile("B9.i")).get_by_role("checkbox").check()
    page.get_by_role("button", name="Return", exact=True).click()
    expect(page.get_by_role("button", name="Return this decision")).to_be_disabled()
    page.get_by_role("dialog").get_by_label("Word").fill("three are enough")
    page.get_by_role("button", name="Return this decision").click()
    page.get_by_role("button", name=re.compile("1 returned")).click()
    expect(page.get_by_text(re.compile("three are enough"))).to_be_visible()
    page.get_by_role("button", name="Verify the ledger").click()
    expect(page.get_by_role("status").get_by_text(re.compile("each follows from the one before"))).to_be_visible()


@wide
def test_a_detailer_has_no_word_of_an_engineer(own, page):
    other = page.context.browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
    sign_in(other, own.url, "detailer")
    own.client("detailer").set_override(JOB, "B21.i", "rows", 4, "as next door")
    other.goto(f"{own.url}/{JOB}/ledger?state=all")
    other.get_by_label("Select all").check()
    expect(other.get_by_role("button", name="Confirm", exact=True)).to_be_visible()
    expect(other.get_by_role("button", name="Accept", exact=True)).to_have_count(0)
    other.goto(f"{own.url}/{JOB}/connections/B12.i")
    expect(other.get_by_role("button", name="not here")).to_be_visible()
    expect(other.get_by_role("button", name="Release …")).to_have_count(0)
    other.context.close()


@wide
def test_the_story_of_a_connection(own, page):
    """Put forward, accepted, released, a revision, looked at again: read on one page."""
    client = own.client()
    made = own.client("detailer").set_override(JOB, "B17.i", "rows", 4, "as next door")
    client.review(JOB, "accept", [made["id"]], "as drawn")
    page.goto(f"{own.url}/{JOB}/connections/B17.i")
    page.get_by_role("button", name="Release …").click()
    page.get_by_role("button", name="Release", exact=True).click()
    expect(page.get_by_text(re.compile("released by engineer"))).to_be_visible()
    page.get_by_role("tab", name=re.compile("Decisions")).click()
    page.get_by_label("Comment").fill("the erector asked for it")
    page.get_by_role("button", name="Say").click()
    story = page.get_by_role("list", name="What happened")
    expect(story.get_by_role("listitem")).to_have_count(4)
    assert violations(page) == []
    with page.expect_file_chooser() as asked:
        page.get_by_role("button", name="attach a file").click()
    asked.value.set_files([{"name": "sketch.txt", "mimeType": "text/plain", "buffer": b"a sketch"}])
    expect(page.get_by_role("link", name="sketch.txt")).to_be_visible()
    client.import_bundle(JOB, DEMO / "revision-c")
    client.wait(JOB, client.start_run(JOB)["id"])
    page.goto(f"{own.url}/{JOB}/progress")
    expect(page.get_by_text(re.compile("R2 beside how each connection stood in R1"))).to_be_visible()
    page.get_by_role("button", name=re.compile("pass as they stood")).click()
    expect(page.get_by_role("table", name="Connections after the revision").get_by_role("row").nth(5)).to_be_visible()
    assert violations(page) == []
    page.goto(f"{own.url}/{JOB}/connections/B17.i")
    page.get_by_role("tab", name=re.compile("Decisions")).click()
    expect(page.get_by_role("list", name="What happened").get_by_text("put forward")).to_be_visible()


@wide
def test_a_remedy_is_put_forward(own, page):
    page.goto(f"{own.url}/{JOB}/joints?status=fail")
    page.get_by_role("table", name="Connections").get_by_role("row").nth(1).click()
    page.get_by_role("button", name="put forward").first.click(timeout=240_000)  # looked for once a worker is free
    ask = page.get_by_role("dialog")
    assert violations(page) == []
    ask.get_by_label("Reason", exact=True).fill("the smallest that passes")
    expect(ask.get_by_role("button", name="Put forward")).to_be_disabled()  # its bolts hold the beam opposite too
    ask.get_by_role("checkbox").check()
    ask.get_by_role("button", name="Put forward").click()
    expect(ask).to_be_hidden()
    expect(page.get_by_text(re.compile(r"\d decided by a person"))).to_be_visible()
    expect(page.get_by_text("no longer in this list")).to_be_visible()  # it passes, and so does the beam opposite
    page.get_by_role("link", name=re.compile("^Next")).click()
    expect(page.get_by_role("button", name="put forward").first).to_be_visible()
