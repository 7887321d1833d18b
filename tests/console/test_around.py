"""Around a connection's page: keys, both views whole, the drawing of the row under the cursor, files, many jobs."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from tests.console.browser import quiet_page
from tests.wide import wide

JOB = "alder-street"


@pytest.fixture(scope="module")
def page(service):
    with quiet_page(service.url) as one:
        yield one


def at(page, service, place: str) -> None:
    page.goto(f"{service.url}/{JOB}/{place}")


def test_both_views_are_whole_at_1280_by_800(page, service):
    at(page, service, "connections/B5.i")
    views = page.locator("figure svg[role=img]")
    expect(views).to_have_count(2)
    for k in range(2):
        box = views.nth(k).bounding_box()
        assert box["y"] >= 0 and box["y"] + box["height"] <= 800 and box["width"] > 150
    high = page.get_by_label("Drawing", exact=True).evaluate("e => e.scrollHeight - e.clientHeight")
    assert high <= 1


def test_keys_step_through_the_list_and_are_listed(page, service):
    at(page, service, "joints?text=B1")
    page.locator("[role=row][data-line]").first.click()
    expect(page.get_by_role("heading", level=1)).to_have_text(re.compile(r"^\S+\.[ij]$"))
    first = page.get_by_role("heading", level=1).inner_text()
    ways = page.get_by_role("navigation", name="Ways from here")
    expect(ways).to_contain_text("1 of ")
    page.keyboard.press("j")
    expect(ways).to_contain_text("2 of ")  # not while it is read
    expect(page.get_by_role("heading", level=1)).not_to_have_text(first)
    page.keyboard.press("k")
    expect(ways).to_contain_text("1 of ")
    expect(page.get_by_role("heading", level=1)).to_have_text(first)
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_contain_text("the next connection of the list")
    page.keyboard.press("j")  # goes nowhere while a dialog is open
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    expect(page.get_by_role("heading", level=1)).to_have_text(first)
    page.keyboard.press("r")
    expect(page.get_by_role("menuitem", name=re.compile("^Size"))).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("/")
    field = page.get_by_label("Find", exact=True)
    expect(field).to_be_focused()
    page.keyboard.type("jr")  # typed, not obeyed
    expect(field).to_have_value("jr")


def test_the_row_under_the_cursor_is_drawn(page, service):
    at(page, service, "joints?text=B5")
    row = page.locator("[role=row][data-line]").filter(has_text=re.compile(r"^B5\.i"))
    row.hover()
    shown = page.get_by_label("Drawing of B5.i")
    expect(shown.locator("svg")).to_be_visible()
    page.get_by_label("Find", exact=True).hover()
    expect(shown).to_have_count(0)


@pytest.mark.parametrize(("kind", "begins"), [("PDF", b"%PDF"), ("DXF", b"  0\nSECTION")])
def test_a_connection_is_taken_as_a_file(page, service, kind, begins):
    at(page, service, "connections/B5.i")
    with page.expect_download() as got:
        page.get_by_role("button", name="Files").click()
        page.get_by_role("menuitem", name=f"drawing as {kind}").click()
    assert got.value.suggested_filename == f"{JOB}-B5.i.{kind.lower()}"
    with open(got.value.path(), "rb") as file:
        assert file.read().replace(b"\r", b"").startswith(begins)


def test_jobs_are_found_by_name_and_say_what_waits(service):
    admin = service.client("admin")
    for name, title in (("elm-court", "Elm Court"), ("ferry-hall", "Ferry Hall")):
        if name not in {job["name"] for job in admin.jobs()}:
            admin.new_job(name, title)
    with quiet_page(service.url, "admin") as page:
        page.goto(service.url)
        expect(page.get_by_role("listitem")).not_to_have_count(0)
        expect(page.get_by_text("no model yet").first).to_be_visible()
        page.keyboard.press("/")
        page.keyboard.type("ferry")
        expect(page.get_by_role("listitem")).to_have_count(1)
        expect(page.get_by_role("listitem")).to_contain_text("Ferry Hall")
        expect(page.get_by_role("listitem")).to_contain_text("admin, just now")
        page.get_by_label("Find a job").fill("nobody at all")
        expect(page.get_by_text("No job is called that")).to_be_visible()


def test_a_dimension_that_is_picked_is_tried_on_the_drawing(page, service):
    at(page, service, "connections/B5.i")
    figure = page.locator("figure svg[role=img]").first
    figure.locator("text", has_text=re.compile(r"@ 3")).first.click()
    picked = page.get_by_label("What is picked")
    expect(picked).to_contain_text("Bolt spacing")
    picked.get_by_label("Try Pitch").fill("3-1/2 in")
    expect(page.get_by_text("tried, nothing kept")).to_be_visible()
    expect(figure.locator("text", has_text='@ 3-1/2"')).to_have_count(1)
    expect(picked.get_by_role("status")).to_contain_text("With it")
    picked.get_by_role("button", name="keep").click()
    dialog = page.get_by_role("dialog")
    expect(dialog.get_by_label("New value")).to_have_value("3-1/2 in")
    expect(dialog.locator("svg text", has_text='@ 3-1/2"')).to_have_count(1)
    page.keyboard.press("Escape")
    picked.get_by_label("Pick nothing").click()
    expect(figure.locator("text", has_text='@ 3"')).to_have_count(1)


def test_what_else_is_at_the_joint_is_drawn_where_it_is_wanted(page, service):
    at(page, service, "connections/B3.i")
    figure = page.locator("figure svg[role=img]").first
    expect(figure).to_be_visible()
    alone = page.locator("figure svg[role=img] polyline").count()
    page.get_by_role("button", name="Neighbours").click()
    page.wait_for_function("n => document.querySelectorAll('figure svg[role=img] polyline').length > n", arg=alone + 2)
    expect(page).to_have_url(re.compile("neighbours=1"))


def test_what_leaves_the_house_is_made_and_kept(page, service):
    at(page, service, "issue")
    expect(page.get_by_role("heading", name="Issue")).to_be_visible()
    page.get_by_label("Which connections").fill("connection=B1.j")
    page.get_by_label("What is not released goes along").check()
    would = page.get_by_label("What would be in it")
    expect(would).to_contain_text("1 connections in 1 marks")
    make = page.get_by_role("button", name=re.compile("^Make T"))
    expect(make).to_be_disabled()
    page.get_by_label("To", exact=True).fill("Elm Fabricators")
    page.get_by_label("What for").fill("for a look")
    expect(make).to_be_disabled()  # without a reason nothing goes that is not released
    page.get_by_label("Why it goes anyway").fill("they asked")
    make.click()
    first = page.locator("main li").first
    expect(first).to_contain_text("Elm Fabricators: for a look")
    first.get_by_role("button").first.click()
    expect(first).to_contain_text("sent anyway: they asked")
    with page.expect_download() as found:
        first.get_by_text("zip").click()
    assert re.fullmatch(r"alder-street-T\d{3}\.zip", found.value.suggested_filename)


@wide
def test_rows_go_out_by_a_map_that_is_tried_and_mended(page, service):
    """Proposed, changed into one that does not fit, which is told at its line, mended, written."""
    at(page, service, "issue")
    rows = page.get_by_role("region", name="Rows for another program")
    rows.get_by_role("button", name="Show the map").click()
    text = rows.get_by_label("Output map as text")
    expect(text).to_have_value(re.compile("tables.results"))
    text.fill('output = 1\n[tables.results]\nfile = "ends.csv"\n[tables.results.columns]\nBar = "bar"\n')
    rows.get_by_role("button", name="Show the first rows").click()
    expect(rows.get_by_label("What is wrong")).to_contain_text("the map line 5")
    text.fill(text.input_value().replace('"bar"', '"member"'))
    rows.get_by_role("button", name="Show the first rows").click()
    expect(rows.get_by_role("table")).to_contain_text("ends.csv: 1966 rows of results")
    with page.expect_download() as got:
        rows.get_by_role("button", name="Write the file").click()
    assert got.value.suggested_filename == "ends.csv"
    assert got.value.path().read_text(encoding="utf-8").splitlines()[:2] == ["Bar", "C1"]
