"""The stations Rulebook and Schedule: mistakes at their lines, rules moved, a dry run, adopting and going back, why;
marks and merges."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.console.browser import quiet_page
from tests.console.test_access import violations
from tests.wide import wide

JOB = "alder-street"


@pytest.fixture(scope="module")
def page(service):
    with quiet_page(service.url) as page:
        yield page


def at_rulebook(service, page: Page) -> None:
    page.goto(f"{service.url}/{JOB}/rulebook")
    expect(page.get_by_label("Rules in order").get_by_role("listitem")).to_have_count(17)


def names(page: Page) -> list[str]:
    return [
        text.split("\n")[0] for text in page.get_by_label("Rules in order").get_by_role("listitem").all_inner_texts()
    ]


def test_mistakes_stand_at_their_lines_and_facts_are_completed(service, page):
    at_rulebook(service, page)
    assert violations(page) == []
    page.locator(".cm-line", has_text="target_utilisation").click()
    page.keyboard.press("End")
    page.keyboard.press("Enter")
    page.keyboard.type("pich: 4 in")
    expect(page.get_by_label("Mistakes").get_by_text(re.compile("line 12.*did you mean pitch"))).to_be_visible()
    expect(page.get_by_role("button", name="Adopt …")).to_be_disabled()
    page.reload()
    expect(
        page.get_by_label("Mistakes").get_by_text(re.compile("line 12"))
    ).to_be_visible()  # nothing that was typed is lost
    page.get_by_role("button", name="Drop changes").click()
    expect(page.get_by_label("Rules in order").get_by_role("listitem")).to_have_count(17)
    page.locator(".cm-line", has_text="framing: beam_to_hollow_column").click()
    page.keyboard.press("End")
    page.keyboard.press("Enter")
    page.keyboard.type("supported.de")
    expect(page.locator(".cm-tooltip-autocomplete").get_by_text("supported.depth")).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Drop changes").click()


def test_practice_of_what_is_written_and_back_to_its_default(service, page):
    """What the shop's bolts are shows as it is typed, entry by entry; taking one out leaves the other in its line."""
    at_rulebook(service, page)
    page.get_by_role("tab", name="Practice").click()
    page.locator(".cm-line", has_text="target_utilisation").click()
    page.keyboard.press("End")
    page.keyboard.press("Enter")
    page.keyboard.insert_text("bolts: {field: 3/4 A325-N, shop: 7/8 A325-N}")
    out = page.get_by_title("Take bolts.shop out of practice")
    expect(page.get_by_text("for double angle, single angle", exact=True)).to_be_visible()
    assert violations(page) == []
    out.click()
    expect(page.locator(".cm-line", has_text="bolts: {field: 3/4 A325-N}")).to_be_visible()
    expect(out).to_have_count(0)
    page.get_by_role("button", name="Drop changes").click()


def test_a_rule_is_moved_tried_adopted_and_gone_back_over(service, page):
    """By keys: the third level's rule before that of skewed ends takes theirs; the dry run says what would change;
    adopted, it stands; one step back."""
    at_rulebook(service, page)
    before = names(page)
    moved = "Level 3 to girders, angles"
    for place in range(before.index(moved) - 1, 0, -1):
        page.get_by_role("button", name=re.compile(f"^Move {moved}")).press("ArrowUp")
        expect(page.get_by_label("Rules in order").get_by_role("listitem").nth(place)).to_contain_text(moved)
    page.get_by_role("button", name="Dry run").click()
    run = page.get_by_label("Dry run")
    expect(run.get_by_text(re.compile(r"\d+ connections would be otherwise: \d+ newly fail"))).to_be_visible()
    expect(run.get_by_role("table", name="What all would be made of")).to_contain_text("lb")
    assert violations(page) == []
    page.get_by_role("button", name="Adopt …").click()
    page.get_by_role("dialog").get_by_label("What it is called, or is for").fill("angles first")
    page.get_by_role("dialog").get_by_role("button", name="Adopt", exact=True).click()
    expect(page.get_by_role("heading", name=re.compile(r"revision \d+, angles first, by engineer$"))).to_be_visible()
    page.get_by_role("tab", name="Revisions").click()
    page.get_by_role("button", name=re.compile(r"^\d+ angles first")).click()
    expect(page.get_by_text("order rules")).to_be_visible()
    page.get_by_role("button", name="go back to it").first.click()
    expect(page.get_by_role("heading", name=re.compile(r"revision \d+, as revision \d+.*by engineer$"))).to_be_visible()
    page.get_by_role("tab", name="Rules").click()
    expect(page.get_by_label("Rules in order").get_by_role("listitem").nth(1)).to_contain_text("Skewed ends")
    assert names(page) == before


def test_why_on_the_page_and_on_one(service, page):
    page.goto(f"{service.url}/{JOB}/connections/B60.j")
    page.get_by_role("button", name="why this rule").click()
    ask = page.get_by_role("dialog")
    expect(ask.get_by_text("framing: beam_to_hollow_column")).to_be_visible()
    expect(ask.get_by_label("Where sizes come from").get_by_text("rule 'Skewed ends'").first).to_be_visible()
    page.keyboard.press("Escape")
    at_rulebook(service, page)
    page.get_by_role("tab", name="On one").click()
    page.get_by_label("Connection", exact=True).fill("B60.j")
    page.get_by_label("Formula").fill("= rows * pitch + 3 in")
    page.get_by_role("button", name="Try it there").click()
    expect(page.get_by_text(re.compile("with pitch 3 in, rows 3"))).to_be_visible()
    assert violations(page) == []


@wide
def test_the_schedule_and_fewer_marks(service, page):
    page.goto(f"{service.url}/{JOB}/schedule")
    table = page.get_by_role("table", name="Schedule by mark")
    expect(table.get_by_role("button", name="SP1", exact=True)).to_be_visible()
    table.get_by_role("button", name="SP1", exact=True).click()
    expect(table.get_by_text(re.compile("plate thickness 1/4 in"))).to_be_visible()
    assert violations(page) == []
    page.get_by_role("tab", name="Fewer marks").click()
    merges = page.get_by_role("table", name="Merges")
    expect(merges.get_by_role("row").nth(1)).to_contain_text("merge", timeout=120_000)
    expect(page.get_by_role("img", name="What fewer marks cost")).to_be_visible()
    assert violations(page) == []
