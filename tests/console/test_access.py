"""Everybody can read and reach it: no violation of WCAG that axe-core finds, on every page, panel and dialog."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.bundles import DEMO
from tests.console.browser import page_at
from tests.wide import wide

AXE = (Path(__file__).parent.parent.parent / "web/node_modules/axe-core/axe.min.js").read_text()
JOB = "alder-street"


@pytest.fixture(scope="module")
def page(service):
    with page_at(service.url, user="admin") as page:
        yield page


# what is sound stays in the browser: to hand it over takes longer than to find it
LOOK = """async within => {
    const found = await axe.run(within || document, { resultTypes: ["violations"] });
    const words = (v, n) => `${v.id}: ${n.html.slice(0, 120)} ${n.any[0]?.message ?? ""}`;
    return found.violations.flatMap(v => v.nodes.map(n => words(v, n)));
}"""


def violations(page: Page, within: str = "") -> list[str]:
    page.wait_for_timeout(400)  # what fades in is not half there
    if not page.evaluate("'axe' in window"):
        page.evaluate(AXE)
    return page.evaluate(LOOK, within)


@pytest.mark.parametrize(
    ("address", "there"),
    [
        ("/", "Alder Street Library, steel frame"),
        ("/sign-in", "Standard connections for a whole building."),
        (f"/{JOB}/model?joint=n16", "Joint n16"),
        (f"/{JOB}/model?by=framing", "beam to hollow column"),
        (f"/{JOB}/model?by=utilisation", "over 1.00"),
        (f"/{JOB}/model?view=plan&by=section&member=G1", "beam G1"),
        (f"/{JOB}/model?view=elevation&grid=A&by=pattern", "other patterns"),
        (f"/{JOB}/joints", "of 1115"),
        (f"/{JOB}/joints?status=fail", "4 of 1115"),
        (f"/{JOB}/connections/B150.j?from=joints%3Fstatus%3Dfail", " of 4"),
        (f"/{JOB}/connections/X1.i", "No connection is drawn here"),
        (f"/{JOB}/connections/nope", "That did not work"),
        (f"/{JOB}/nowhere", "There is no such station"),
        ("/-/bench", "Size it"),
        ("/-/designs", "Pick a design to see"),
        ("/-/catalogue", "Faying surfaces"),
    ],
)
def test_every_page(service, page, address, there):
    page.goto(service.url + address)
    expect(page.get_by_text(there).first).to_be_visible()
    assert violations(page) == []


def test_every_panel_of_a_connection(service, page):
    page.goto(f"{service.url}/{JOB}/connections/B5.i")
    page.get_by_text("plate shear rupture").nth(1).click()
    assert violations(page) == []
    for name in ("Sizes", "Detailing", "Decisions"):
        page.get_by_role("tab", name=re.compile(name)).click()
        assert violations(page) == []


@wide
def test_every_panel_of_a_base(service, page):
    page.goto(f"{service.url}/{JOB}/connections/C139.i")
    page.get_by_role("tab", name="Elevation across").click()
    assert violations(page) == []
    page.get_by_role("tab", name="Plan").click()
    page.get_by_role("tab", name="Base").click()
    expect(page.get_by_text("All combinations")).to_be_visible()
    assert violations(page) == []


@pytest.mark.parametrize("connection", ["G40%2F2.i", "C100.i"])
@wide
def test_every_panel_of_a_splice(service, page, connection):
    page.goto(f"{service.url}/{JOB}/connections/{connection}")
    page.get_by_role("tab", name="Forces").click()
    expect(page.get_by_text("All combinations")).to_be_visible()
    assert violations(page) == []


@pytest.mark.parametrize(
    ("address", "button"),
    [
        (f"/{JOB}/connections/B5.i", "change"),
        (f"/{JOB}/model", "audit:"),
        ("/", "New job"),
        (f"/{JOB}/joints", "Run"),
        ("/-/catalogue", "New entry"),
    ],
)
def test_every_dialog_and_menu(service, page, address, button):
    page.goto(service.url + address)
    if button == "change":
        page.get_by_role("tab", name="Sizes").click()
    page.get_by_role("button", name=button).first.click()
    expect(page.get_by_role("dialog").or_(page.get_by_role("menu"))).to_be_visible()
    assert violations(page) == []
    page.keyboard.press("Escape")


@wide
def test_sending_a_model_and_looking_at_it(service, page):
    page.goto(f"{service.url}/{JOB}/import")
    expect(page.get_by_text("Drop the model here")).to_be_visible()
    assert violations(page) == []
    page.get_by_label("Model files").set_input_files([str(p) for p in sorted((DEMO / "exports").glob("*.csv"))])
    expect(page.get_by_role("combobox", name="Map", exact=True)).to_contain_text("proposed from the files")
    assert violations(page) == []
    page.get_by_role("navigation", name="Tables").get_by_role("button", name="end_forces").click()
    expect(page.get_by_role("region", name="First rows of Bar forces.csv")).to_be_visible()
    assert violations(page) == []
    page.get_by_role("button", name="Leave it", exact=True).click()
    expect(page.get_by_text("Drop the model here")).to_be_visible()


def test_an_open_select(service, page):
    page.goto(f"{service.url}/{JOB}/joints")
    page.get_by_role("combobox", name="Framing condition").click()
    expect(page.get_by_role("option", name="beam to girder")).to_be_visible()
    assert violations(page, "[role=listbox]") == []  # the page behind it is hidden and out of reach until it closes


def test_the_keyboard_reaches_and_scrolls_the_drawing(service, page):
    page.set_viewport_size({"width": 1280, "height": 500})
    try:
        page.goto(f"{service.url}/{JOB}/connections/B5.i")
        drawing = page.get_by_label("Drawing", exact=True)
        expect(drawing).to_be_visible()
        for _ in range(40):
            page.keyboard.press("Tab")
            if drawing.evaluate("e => e === document.activeElement"):
                break
        assert drawing.evaluate("e => e === document.activeElement")
        page.keyboard.press("PageDown")
        page.wait_for_timeout(500)
        assert drawing.evaluate("e => e.scrollTop") > 0
    finally:
        page.set_viewport_size({"width": 1280, "height": 800})
