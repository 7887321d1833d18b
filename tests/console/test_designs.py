"""Designs of the house in a browser: kept from a connection in two clicks, found, signed, asked what they would hold,
taken to the Bench."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from tests.console.browser import page_at

JOB = "alder-street"


@pytest.fixture
def page(service):
    with page_at(service.url) as page:
        yield page


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


def test_a_draft_of_somebody_else_is_not_seen(service):
    service.client("engineer").put_design("tab-private", job=JOB, connection="B40.i")
    with page_at(service.url, user="detailer") as page:
        page.goto(f"{service.url}/-/designs?text=tab-private")
        expect(page.get_by_role("region", name="Designs")).to_contain_text("0 designs")
