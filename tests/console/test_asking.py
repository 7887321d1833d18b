"""What takes longer than a moment: how far it is, left by a word or by going away, and files that are waited for."""

from __future__ import annotations

import re
import sqlite3
import time

from playwright.sync_api import expect

from tests.console.browser import page_at

JOB = "alder-street"
MANY = "rows: 2 .. 9\nedge_distance: 1.25 .. 3 in by 1/16 in\nend_distance: 1.25 .. 3 in by 1/16 in"


def asked(service, page) -> None:
    """A sweep of thousands of candidates, begun."""
    page.goto(f"{service.url}/{JOB}/connections/B1.i")
    page.get_by_role("tab", name="Alternatives").click()
    sweep = page.get_by_label("Sweep", exact=True)
    sweep.get_by_role("textbox").fill(MANY)
    sweep.get_by_role("checkbox").uncheck()
    sweep.get_by_role("button", name="Sweep").click()
    expect(page.get_by_text("Working out the sweep")).to_be_visible()


def nobody_asks(service) -> bool:
    until = time.monotonic() + 40
    while time.monotonic() < until:
        with sqlite3.connect(service.home / "scratch" / "questions.sqlite") as file:
            if not file.execute("SELECT count(*) FROM question WHERE state IN ('waiting', 'working')").fetchone()[0]:
                return True
        time.sleep(0.2)
    return False


def test_it_says_how_far_it_is_and_is_left_by_a_word(service):
    with page_at(service.url) as page:
        asked(service, page)
        expect(page.get_by_role("status").get_by_text(re.compile(r"^\d+ %, about \d+ (s|min) left$"))).to_be_visible()
        page.get_by_role("button", name="Leave it").click()
        expect(page.get_by_text("You left the sweep before it was there.")).to_be_visible()
        expect(page.get_by_text("Working out the sweep")).to_have_count(0)
        assert nobody_asks(service)


def test_who_goes_to_another_page_leaves_it(service):
    with page_at(service.url) as page:
        asked(service, page)
        page.get_by_role("link", name="Schedule").click()
        expect(page.get_by_text("Working out the sweep")).to_have_count(0)
        expect(page.get_by_role("table").get_by_role("row").nth(3)).to_be_visible()
        assert nobody_asks(service)


def test_a_file_is_waited_for(service):
    with page_at(service.url) as page:
        page.goto(f"{service.url}/{JOB}/schedule")
        with page.expect_download() as got:
            page.get_by_role("button", name="Files").click()
            page.get_by_role("menuitem", name="as CSV").click()
        assert got.value.suggested_filename.endswith(".csv")
        assert got.value.path().read_text(encoding="utf-8-sig").startswith("mark,")
