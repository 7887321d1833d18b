"""The model station: floors and grid lines as drawings, what is picked and what is done with it."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from tests.console.browser import quiet_page
from tests.wide import wide

JOB = "alder-street"


@pytest.fixture(scope="module")
def page(service):
    with quiet_page(service.url) as page:
        yield page


def shown(page) -> int:
    return int(page.locator("[data-joints]").get_attribute("data-joints"))


def test_a_floor_has_its_grid_its_sections_and_north(service, page):
    page.goto(f"{service.url}/{JOB}/model?view=plan")
    plan = page.get_by_role("img", name="Plan of level 2")
    for name in ("A", "E", "1", "7"):
        expect(plan.get_by_text(name, exact=True).first).to_be_visible()
    expect(plan.get_by_text("W16X31").first).to_be_visible()
    expect(page.get_by_role("img", name="North, 12 degrees to the left of up")).to_be_visible()
    page.get_by_role("combobox", name="Level").click()
    page.get_by_role("option", name="roof").click()
    roof = page.get_by_role("img", name="Plan of roof")
    expect(roof.get_by_text("W14X30").first).to_be_visible()
    expect(roof.get_by_text("W16X31")).to_have_count(0)
    page.get_by_role("combobox", name="Labels").click()
    page.get_by_role("option", name="label members").click()
    expect(roof.get_by_text("B300", exact=True)).to_be_visible()


def test_what_a_filter_leaves_is_picked(service, page):
    """Any fact of the rule language; what is no filter is said."""
    page.goto(f"{service.url}/{JOB}/model")
    ask = page.get_by_label("Pick by a filter")
    ask.fill("fixity=pinned, foundation.kind=pedestal")
    ask.press("Enter")
    expect(page.get_by_text(re.compile(r"\d+ connections? picked"))).to_be_visible()
    ask.fill("fixety=pinned")
    ask.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("is not a filter")


def test_an_elevation_has_its_levels_and_braces(service, page):
    page.goto(f"{service.url}/{JOB}/model?view=elevation&grid=A")
    drawn = page.get_by_role("img", name="Elevation of grid line A")
    for name in ("level 2 15'-0\"", "roof 57'-0\"", "HSS8X8X1/2", "1", "7"):
        expect(drawn.get_by_text(name, exact=True).first).to_be_visible()
    before = shown(page)
    page.get_by_role("combobox", name="Grid line").click()
    page.get_by_role("option", name="line C").click()
    expect(page.get_by_role("img", name="Elevation of grid line C").get_by_text("W24X84").first).to_be_visible()
    assert shown(page) != before


def test_a_member_is_found_and_its_ends_are_a_step_away(service, page):
    page.goto(f"{service.url}/{JOB}/model?view=plan")
    find = page.get_by_label("Find a joint, member or place")
    find.fill("G3")
    find.press("Enter")
    card = page.get_by_label("Member G3")
    expect(card).to_contain_text("one piece of steel: G1, G2, G3")
    card.get_by_role("button", name=re.compile("end j: joint n32")).click()
    joint = page.get_by_label("Joint n32")
    expect(joint).to_contain_text("A/2, level 2")
    joint.get_by_role("button", name=re.compile("^B13")).click()
    expect(page.get_by_label("Member B13")).to_be_visible()
    find.fill("C/4, roof")
    find.press("Enter")
    expect(page.get_by_label("Joint n110")).to_contain_text("C/4, roof")
    expect(page.get_by_role("img", name="Plan of roof")).to_be_visible()  # the floor that it is on


def test_all_of_a_kind_are_shown_alone_and_hidden(service, page):
    page.goto(f"{service.url}/{JOB}/model")
    expect(page.locator("[data-joints='1115']")).to_be_attached()
    page.get_by_role("combobox", name="Pick all of a kind").click()
    kind = page.get_by_role("option", name=re.compile(r"support: pinned \(\d+\)"))
    number = re.search(r"\d+", kind.inner_text())[0]
    kind.click()
    expect(page.get_by_label("Picked")).to_contain_text(f"{number} connections picked")
    page.get_by_role("button", name="show alone").click()
    expect(page.locator("[data-joints='1115']")).to_have_count(0)
    alone = shown(page)
    page.get_by_role("button", name="show all again").click()
    page.get_by_label("Picked").get_by_role("button", name="hide").click()
    assert shown(page) + alone >= 1115 - 1 and shown(page) < 1115
    page.get_by_role("button", name="show all again").click()
    expect(page.locator("[data-joints='1115']")).to_be_attached()


def test_a_box_in_the_plan_makes_a_group(service, page):
    """What lies in a box is picked, becomes a group, and is listed alone."""
    page.goto(f"{service.url}/{JOB}/model?view=plan")
    plan = page.get_by_role("img", name="Plan of level 2")
    box = plan.bounding_box()
    page.get_by_role("button", name="box").click()
    page.mouse.move(box["x"] + 0.3 * box["width"], box["y"] + 0.3 * box["height"])
    page.mouse.down()
    page.mouse.move(box["x"] + 0.5 * box["width"], box["y"] + 0.5 * box["height"], steps=4)
    page.mouse.up()
    picked = page.get_by_label("Picked")
    expect(picked).to_contain_text("connections picked")
    number = int(re.search(r"(\d+) connections", picked.inner_text())[1])
    picked.get_by_role("button", name="make a group").click()
    ask = page.get_by_role("dialog")
    ask.get_by_label("Name").fill("east wing")
    ask.get_by_role("button", name="Make the group").click()
    expect(ask).to_contain_text(f"east wing has {number} connections now")
    ask.get_by_role("link", name="Open it as a list").click()
    expect(page.get_by_text(f"{number} of 1115")).to_be_visible()


@wide
def test_a_box_in_3d_picks_too(service, page):
    page.goto(f"{service.url}/{JOB}/model")
    expect(page.locator("[data-joints='1115']")).to_be_attached()
    page.wait_for_timeout(1500)
    box = page.locator("canvas").bounding_box()
    page.get_by_role("button", name="box").click()
    page.mouse.move(box["x"] + 0.1 * box["width"], box["y"] + 0.2 * box["height"])
    page.mouse.down()
    page.mouse.move(box["x"] + 0.95 * box["width"], box["y"] + 0.95 * box["height"], steps=4)
    page.mouse.up()
    expect(page.get_by_label("Picked")).to_contain_text(re.compile(r"\d{3,} connections picked"))
    page.get_by_role("button", name="Pick nothing").click()
    expect(page.get_by_label("Picked")).to_have_count(0)


@pytest.mark.parametrize(
    ("by", "words"),
    [("section", "W24X68"), ("pattern", "P2"), ("framing", "beam to girder"), ("utilisation", "over 1.00")],
)
def test_coloured_by(service, page, by, words):
    page.goto(f"{service.url}/{JOB}/model?by={by}")
    expect(page.get_by_role("list", name="Colours").get_by_text(words, exact=True)).to_be_visible()


@wide
def test_it_shows_before_its_names_have_come(service, page):
    """Lines and dots are there first; what is called is picked when its name is known."""
    held: list = []

    def hold(route) -> None:
        held.append(route)

    page.route("**/model/names", hold)
    page.goto(f"{service.url}/{JOB}/model?joint=4")
    expect(page.locator("[data-joints]")).to_be_visible()
    assert shown(page) > 400
    page.get_by_role("combobox", name="Pick all of a kind").click()
    page.get_by_role("option", name=re.compile("framing: column base")).click()
    expect(page.get_by_text(re.compile(r"connections? picked"))).to_have_count(0)
    for one in held:
        one.continue_()
    page.unroute("**/model/names")
    page.goto(f"{service.url}/{JOB}/model")
    page.get_by_role("combobox", name="Pick all of a kind").click()
    page.get_by_role("option", name=re.compile("framing: column base")).click()
    expect(page.get_by_text(re.compile(r"\d+ connections? picked")).first).to_be_visible()


def test_joints_near_the_eye_are_shown_as_they_are_made(service, page):
    """From far none; gone close to a joint, it is in the view's middle, and its solids are asked for."""
    asked: list[str] = []
    page.on("response", lambda r: asked.append(r.url) if r.url.endswith("/joint") and r.ok else None)
    page.goto(f"{service.url}/{JOB}/model?joint=n16")
    close = page.get_by_role("button", name="go close")
    expect(close).to_be_visible()
    page.wait_for_timeout(1000)
    assert asked == []
    with page.expect_response(lambda r: re.search(r"/connections/B7[89]\.j/joint$", r.url) and r.ok):
        close.click()
