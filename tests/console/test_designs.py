"""Designs of the house in a browser: kept from a connection in two clicks, found, signed, asked what they would hold,
taken to the Bench."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from tests.console.browser import page_at
from tests.trials import TAB as TRIAL

JOB = "alder-street"


@pytest.fixture
def page(service):
    with page_at(service.url) as page:
        yield page


def test_words_files_and_a_file_for_another_house(service, page, tmp_path):
    client = service.client("engineer")
    client.put_design("tab-sent-by-hand", trial=TRIAL)
    page.goto(f"{service.url}/-/designs?name=tab-sent-by-hand&number=1")
    one = page.get_by_role("region", name="One design")
    expect(one).to_contain_text("tab-sent-by-hand R1")
    one.get_by_role("button", name="About it …").click()
    ask = page.get_by_role("dialog")
    ask.get_by_label("Title").fill("Tab with a title")
    ask.get_by_label("Tags, with commas").fill("by hand, tabs")
    ask.get_by_role("button", name="Keep it").click()
    expect(one).to_contain_text("Tab with a title")
    expect(one).to_contain_text("by hand, tabs")
    sketch = tmp_path / "sketch.txt"
    sketch.write_text("as I saw it")
    one.get_by_label("File of the design").set_input_files(sketch)
    files = one.get_by_role("region", name="Files")
    expect(files).to_contain_text("sketch.txt")
    one.get_by_label("File of the design").set_input_files(sketch)
    expect(files.get_by_role("alert")).to_contain_text("has sketch.txt already")
    one.get_by_role("button", name="Send …").click()
    page.get_by_role("dialog").get_by_label("its files").check()
    with page.expect_download() as sent:
        page.get_by_role("dialog").get_by_role("button", name="Write the file").click()
    file = tmp_path / "one.json"
    sent.value.save_as(file)
    page.get_by_label("File of designs").set_input_files(file)
    expect(page.get_by_role("main")).to_contain_text("tab-sent-by-hand R2 is a draft of yours")
    expect(one).to_contain_text("tab-sent-by-hand R2")
    expect(one.get_by_role("region", name="Files")).to_contain_text("sketch.txt")
    page.get_by_label("Units").click()
    page.get_by_role("option", name="mm, kN").click()
    expect(one).to_contain_text("PL 9.525 mm")


def test_on_the_bench_something_like_it_is_found_and_taken(service, page):
    client = service.client("engineer")
    client.put_design("tab-for-benches", trial=TRIAL, tags=["benches"])
    page.goto(f"{service.url}/-/bench")
    page.get_by_role("tab", name="Size it").click()
    like = page.get_by_role("region", name="House designs like this")
    like.get_by_label("Depths within, per cent").fill("45")
    like.get_by_role("button", name="Find").click()
    expect(like).to_contain_text("like it, all tried under these actions")
    card = like.locator("div").filter(has=page.get_by_role("link", name="tab-for-benches R1")).last
    card.get_by_role("button", name="Take it").click()
    expect(page.get_by_role("region", name="Verdict")).to_contain_text("(4) 3/4 A325-N, PL 3/8 in")
    expect(like).not_to_contain_text("From before")
    page.get_by_label("V of action 1").fill("30")
    expect(like).to_contain_text("From before: something else stands here now. Find again.")


def test_from_a_connection_to_a_signed_design(service, page):
    page.goto(f"{service.url}/{JOB}/connections/B40.i")
    page.get_by_role("button", name="House design").click()
    ask = page.get_by_role("dialog")
    expect(ask.get_by_label("Name, like tab-four-rows")).to_have_value("b40-i")
    ask.get_by_label("Name, like tab-four-rows").fill("tab-by-hand")
    ask.get_by_label("Tags, with commas").fill("from a browser")
    ask.get_by_role("button", name="Keep it").click()
    ask.get_by_role("link", name="tab-by-hand R1").click()
    one = page.get_by_role("region", name="One design")
    expect(one).to_contain_text("A draft: rules use it once an engineer has signed it.")
    expect(one.get_by_role("table", name="What it holds")).to_contain_text("kip")
    one.get_by_role("button", name="Sign it").click()
    expect(one).to_contain_text("use: design tab-by-hand R1")
    one.get_by_role("button", name="Look", exact=True).click()
    expect(one.get_by_role("region", name="In a job")).to_contain_text(re.compile(r"It fits \d+ and would hold \d+"))
    one.get_by_role("link", name="Take it to the Bench").click()
    expect(page.get_by_role("combobox", name="Beam", exact=True)).to_have_value("W16X40")
    expect(page.get_by_role("region", name="Verdict")).to_contain_text("pass")


def test_they_are_found_by_words_strength_and_tags(service, page):
    service.client("engineer").put_design("tab-sought", job=JOB, connection="B40.i", tags=["sought"])
    page.goto(f"{service.url}/-/designs")
    listed = page.get_by_role("region", name="Designs")
    page.get_by_label("Find", exact=True).fill("tab-sought")
    expect(listed).to_contain_text("1 design")
    picture = listed.locator("img").first
    assert picture.evaluate("of => of.decode().then(() => of.naturalWidth > 50)")
    page.get_by_label("Shear that it holds").fill("400 kip")
    expect(listed).to_contain_text("0 designs")
    page.get_by_label("Shear that it holds").fill("20 kip")
    expect(listed).to_contain_text("1 design")
    page.get_by_label("Find", exact=True).fill("")
    listed.get_by_role("button", name="sought", exact=True).click()
    expect(listed).to_contain_text("1 design")
    page.get_by_label("Shear that it holds").fill("20 tons of it")
    expect(listed.get_by_role("alert")).to_contain_text("'tons of it' is not a unit of force")


def test_a_connection_is_decided_for_one_with_what_it_asks(service, page):
    """Its form counts in what it would hold; a connection of the job is decided for it in three clicks and a reason."""
    client = service.client("engineer")
    fields = {"n": {"label": "Rows of bolts", "usual": 3, "low": 3, "high": 6}}
    parameters = {"rows": "= n", "bolt": "3/4 A325-N", "plate_thickness": "3/8 in"}
    client.put_design("tab-asking", job=JOB, connection="B40.i", fields=fields, parameters=parameters)
    client.sign_design("tab-asking", 1)
    page.goto(f"{service.url}/-/designs?name=tab-asking&number=1")
    one = page.get_by_role("region", name="One design")
    one.get_by_label("Rows of bolts").fill("9")
    one.get_by_role("button", name="Look", exact=True).click()
    expect(one.get_by_role("region", name="In a job").get_by_role("alert")).to_contain_text("n: 9 is more than 6")
    one.get_by_label("Rows of bolts").fill("4")
    one.get_by_role("button", name="Look", exact=True).click()
    row = one.get_by_role("region", name="In a job").get_by_role("row").filter(has_text="holds").first
    connection = row.get_by_role("link").inner_text()
    row.get_by_role("button", name="use it").click()
    ask = page.get_by_role("dialog")
    expect(ask).to_contain_text("rows 4")
    expect(ask.get_by_role("button", name="Keep it")).to_be_disabled()  # the design's name is no reason
    ask.get_by_role("textbox").press_sequentially("as next door")
    ask.get_by_role("button", name="Keep it").click()
    try:
        expect(row).to_contain_text("decided")
    finally:
        kept = client.overrides(JOB, connection=connection)
        for of in kept:
            service.client("admin").clear_override(JOB, of["id"])
    assert {o["parameter"] for o in kept} >= {"rows"} and "design tab-asking R1: as next door" in kept[0]["reason"]


def test_a_mark_of_the_schedule_becomes_one(service, page):
    page.goto(f"{service.url}/{JOB}/schedule")
    table = page.get_by_role("table", name="Schedule by mark")
    mark = table.get_by_role("button").first
    named = mark.inner_text()
    mark.click()
    table.get_by_role("button", name="House design").click()
    ask = page.get_by_role("dialog")
    ask.get_by_label("Name, like tab-four-rows").fill(f"of-{named.lower()}")
    ask.get_by_role("button", name="Keep it").click()
    expect(ask).to_contain_text(f"of-{named.lower()} R1")


def test_a_draft_of_somebody_else_is_not_seen(service):
    service.client("engineer").put_design("tab-private", job=JOB, connection="B40.i")
    with page_at(service.url, user="detailer") as page:
        page.goto(f"{service.url}/-/designs?text=tab-private")
        expect(page.get_by_role("region", name="Designs")).to_contain_text("0 designs")
