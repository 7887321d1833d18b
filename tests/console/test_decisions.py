"""What people decide in the console: how a connection is framed, looking by other combinations, joints of a pattern."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from tests.console.browser import quiet_page
from tests.console.test_access import violations
from tests.wide import wide

JOB = "alder-street"


@pytest.fixture(scope="module")
def page(service):
    with quiet_page(service.url) as page:
        yield page


def test_a_framing_is_corrected_and_cleared(service, page):
    """Before and after show first; what cannot be is said; kept with a reason, it stands on the page, and goes
    again."""
    page.goto(f"{service.url}/{JOB}/connections/B5.i")
    expect(page.get_by_text(re.compile("end at the web of"))).to_be_visible()
    page.get_by_role("button", name="correct framing").click()
    ask = page.get_by_role("dialog")
    ask.get_by_role("combobox", name="New value").click()
    page.get_by_role("option", name="beam to column web").click()
    expect(ask.get_by_text(re.compile("needs a column at node"))).to_be_visible()
    assert violations(page) == []
    ask.get_by_role("combobox", name="New value").click()
    page.get_by_role("option", name="beam splice").click()
    expect(ask.get_by_text(re.compile("not in one line"))).to_be_visible()
    ask.get_by_role("button", name="Leave as it is").click()
    page.get_by_role("button", name="correct support").click()
    ask = page.get_by_role("dialog")
    ask.get_by_label("New value").fill("nothing")
    options = ask.get_by_text(re.compile("does not meet it at .*; there is .*G"))
    expect(options).to_be_visible()
    other = re.search(r"there is .*?(G\d+), (G\d+)", options.inner_text())
    now = page.get_by_text(re.compile(r"end at the web of W\d+X\d+ G\d+")).inner_text()
    ask.get_by_label("New value").fill(next(g for g in other.groups() if f"{g}," not in now and f"{g} " not in now))
    expect(ask.get_by_text(re.compile(r"beam to girder on G\d+")).first).to_be_visible()
    ask.get_by_label("Reason").fill("the other half, as built")
    ask.get_by_role("button", name="Keep override").click()
    expect(page.get_by_text(re.compile("corrected by engineer .the other half, as built."))).to_be_visible()
    page.get_by_role("tab", name=re.compile("Decisions")).click()
    page.get_by_role("button", name="Clear", exact=True).click()
    page.get_by_role("dialog").get_by_role("button", name="Clear this decision").click()
    expect(page.get_by_text(re.compile("corrected by engineer"))).to_have_count(0)


@wide
def test_looking_by_one_combination(service, page):
    page.goto(f"{service.url}/{JOB}/survey")
    page.get_by_role("button", name="Run", exact=True).click()
    page.get_by_role("menuitem", name=re.compile("Look")).click()
    ask = page.get_by_role("dialog")
    ask.get_by_label("1.4D", exact=True).check()
    assert violations(page) == []
    ask.get_by_role("button", name="Look", exact=True).click()
    page.get_by_role("button", name="what it saw").click()
    seen = page.get_by_role("dialog")
    expect(seen.get_by_role("heading")).to_contain_text(re.compile(r"By 1\.4D: .*\d+ pass"))
    expect(seen.get_by_role("row").first).to_contain_text("1.4D")
    assert violations(page) == []
    seen.get_by_role("button", name="Close").click()
    expect(
        page.get_by_label("Stations").get_by_text(re.compile("4 fail, 193 unassigned"))
    ).to_be_visible()  # no result was touched


def test_a_joint_goes_out_of_its_pattern_and_back(service, page):
    page.goto(f"{service.url}/{JOB}/patterns?pattern=P2")
    expect(page.get_by_role("heading", name="P2: 48 joints")).to_be_visible()
    page.get_by_role("button", name="take out").first.click()
    ask = page.get_by_role("dialog")
    ask.get_by_label("Reason").fill("to be reinforced")
    ask.get_by_role("button", name="Take it out").click()
    expect(page.get_by_role("heading", name="P2: 47 joints")).to_be_visible()
    page.get_by_role("button", name=re.compile("^P100 ")).click()
    page.get_by_role("button", name="✎").click()
    expect(page.get_by_role("dialog")).to_contain_text("taken out of its own by engineer: to be reinforced")
    page.get_by_role("dialog").get_by_role("button", name="Let it go back").click()
    page.get_by_role("button", name=re.compile("^P2 ")).click()
    expect(page.get_by_role("heading", name="P2: 48 joints")).to_be_visible()


@wide
def test_points_of_a_pattern_lead_into_the_model(service, page):
    """The strength is drawn and named, what governs is listed; a box round points picks their connections in the
    model."""
    page.goto(f"{service.url}/{JOB}/patterns?pattern=P2")
    expect(page.get_by_role("list", name="Strength")).to_contain_text(re.compile(r"\d+ of 48"))
    expect(page.get_by_role("heading", name="What governs here")).to_be_visible()
    cloud = page.get_by_role("img", name="N against V of 1104 actions").bounding_box()
    page.mouse.move(cloud["x"] + 2, cloud["y"] + 2)
    page.mouse.down()
    page.mouse.move(cloud["x"] + cloud["width"] - 2, cloud["y"] + cloud["height"] - 2, steps=3)
    page.mouse.up()
    expect(page.get_by_role("status")).to_contain_text("1,104 points of 48 connections")
    page.get_by_role("link", name="see them in the model").click()
    expect(page.get_by_label("Picked")).to_contain_text("48 connections picked")


def test_a_pattern_is_handed_over(service, page):
    page.goto(f"{service.url}/{JOB}/patterns?pattern=P2")
    with page.expect_download() as waited:
        page.get_by_role("link", name=re.compile("workbook")).click()
    assert waited.value.suggested_filename == "alder-street-P2.xlsx"


@wide
def test_every_check_at_every_combination(service, page):
    """What fails is found among all, and opened to its worked lines."""
    page.goto(f"{service.url}/{JOB}/connections/B151.i")
    page.get_by_role("tab", name="Combinations").click()
    expect(page.get_by_text(re.compile(r"\d+ checks at 23 combinations"))).to_be_visible()
    assert violations(page) == []
    page.get_by_label("only what fails (4)").check()
    table = page.get_by_label("Checks at combinations")
    expect(table.get_by_role("row")).to_have_count(2)
    page.get_by_role("button", name="support web bending in 1.2D+Ev+1.0L+1.0EY: 1.03").click()
    lines = page.get_by_label("Worked lines")
    expect(lines).to_contain_text(re.compile(r"support web bending in 1\.2D\+Ev\+1\.0L\+1\.0EY J10\.10"))
    expect(lines).to_contain_text("phi Rn = 0.90 Rn = 33.39 kip")
    assert violations(page) == []


def test_alternatives_stand_beside_one_another_and_one_is_kept(service, page):
    """Plate against angles and end plate; the angles are kept with a reason, and gone back over."""
    page.goto(f"{service.url}/{JOB}/connections/B9.i")
    page.get_by_role("tab", name="Alternatives").click()
    angles = page.get_by_role("row", name=re.compile("^Double angle"))
    expect(angles).to_contain_text("pass")
    expect(page.get_by_role("row", name=re.compile("^as it stands"))).to_contain_text("3")
    page.get_by_label("Other sizes of this single plate to set beside it").fill("rows = 4, plate_thickness = 3/8 in")
    page.get_by_role("button", name="Try").click()
    own = page.get_by_role("row", name=re.compile("^rows = 4"))
    expect(own).to_contain_text("pass")
    expect(own.locator("xpath=following-sibling::tr[1]")).to_contain_text("PL 3/8 in")  # its words are under it
    assert violations(page) == []
    angles.get_by_role("button", name="keep").click()
    ask = page.get_by_role("dialog")
    assert violations(page) == []
    ask.get_by_label("Reason (kept with your name)").fill("as at the next bay")
    ask.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("chosen by a person")).to_be_visible()
    page.get_by_role("tab", name="Decisions (1)").click()
    page.get_by_role("button", name=re.compile("back over B9.i")).click()
    expect(page.get_by_text("Beams to girders")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("forward to B9.i"))).to_be_visible()


def test_values_are_swept_and_the_winner_kept(service, page):
    """Lists of values typed line by line, every candidate with its point and its row; the first that passes is kept,
    and gone back over."""
    page.goto(f"{service.url}/{JOB}/connections/B9.i")
    page.get_by_role("tab", name="Alternatives").click()
    sweep = page.get_by_label("Sweep", exact=True)
    sweep.get_by_role("textbox").fill(
        "rows: 2 .. 4\nplate_thickness: 5/16 in, 3/8 in; weld_size: = up(5/8 * plate_thickness, 1/16 in)"
    )
    sweep.get_by_role("button", name="Sweep").click()
    expect(
        sweep.get_by_text(re.compile(r"^6 of 6 candidates tried, \d pass; the first is rows \d, plate thickness"))
    ).to_be_visible()
    expect(sweep.get_by_role("table", name="Candidates").get_by_role("row")).to_have_count(7)
    assert violations(page) == []
    sweep.get_by_role("button", name="keep it").click()
    ask = page.get_by_role("dialog")
    ask.get_by_label("Reason (kept with your name)").fill("the first that passes")
    ask.get_by_role("button", name="Keep it").click()
    page.get_by_role("tab", name=re.compile(r"^Decisions \(\d\)")).click()
    expect(page.get_by_text("the first that passes").first).to_be_visible()
    page.get_by_role("button", name=re.compile("back over")).click()
    expect(page.get_by_role("tab", name=re.compile(r"^Decisions \(\d\)"))).to_have_count(0)
    page.get_by_role("tab", name="Alternatives").click()
    sweep.get_by_role("textbox").fill("row: 2 .. 4")
    sweep.get_by_role("button", name="Sweep").click()
    expect(sweep.get_by_role("alert")).to_contain_text("did you mean rows")


def test_the_rest_is_held_as_it_stands(service, page):
    """The preview is of what is held, and each size that the ladder climbed is a decision then."""
    page.goto(f"{service.url}/{JOB}/connections/B40.i")
    page.get_by_role("tab", name="Sizes").click()
    climbed = page.get_by_text("rung", exact=True).count()
    page.locator("div.grid", has=page.get_by_text("Pitch", exact=True)).last.get_by_role(
        "button", name="change"
    ).click()
    ask = page.get_by_role("dialog")
    ask.get_by_label("New value").fill("3-1/2 in")
    ask.get_by_role("checkbox", name=re.compile("Hold the rest")).check()
    expect(ask.get_by_text("after", exact=True)).to_be_visible()
    ask.get_by_label("Reason").fill("as it is drawn")
    ask.get_by_role("button", name="Keep override").click()
    expect(page.get_by_text(f"✎ {climbed + 1} decided by a person")).to_be_visible()
    page.get_by_role("tab", name=re.compile("Decisions")).click()
    for _ in range(climbed + 1):
        before = page.get_by_role("button", name="Clear", exact=True).count()
        page.get_by_role("button", name="Clear", exact=True).first.click()
        page.get_by_role("dialog").get_by_role("button", name="Clear this decision").click()
        expect(page.get_by_role("button", name="Clear", exact=True)).to_have_count(before - 1)


def test_a_size_of_shared_bolts_asks_for_both(service, page):
    page.goto(f"{service.url}/{JOB}/connections/B105.j")
    page.get_by_role("tab", name="Sizes").click()
    row = page.locator("div.grid", has=page.get_by_text("Rows", exact=True)).last
    row.get_by_role("button", name="change").click()
    ask = page.get_by_role("dialog")
    ask.get_by_label("New value").fill("4")
    ask.get_by_label("Reason").fill("one more")
    expect(ask.get_by_text(re.compile("The same bolts hold B106.i on the other side"))).to_be_visible()
    expect(ask.get_by_role("button", name="Keep override")).to_be_disabled()
    ask.get_by_role("checkbox", name=re.compile("The same bolts")).check()
    ask.get_by_role("button", name="Keep override").click()
    expect(page.get_by_text("✎ engineer")).to_be_visible()
    page.goto(f"{service.url}/{JOB}/connections/B106.i")
    page.get_by_role("tab", name="Sizes").click()
    expect(page.locator("div.grid", has=page.get_by_text("Rows", exact=True)).last).to_contain_text("4")


def test_a_query_is_asked_shown_and_closed(service):
    """It stands at its connection and in Progress, late in words, until an engineer closes it."""
    with quiet_page(service.url) as page:
        page.goto(f"{service.url}/{JOB}/connections/B7.i")
        page.get_by_role("button", name="ask …").click()
        page.get_by_label("What is asked, in a line").fill("May the plate be longer?")
        page.get_by_label("Due").fill("2020-01-31")
        page.get_by_label("joint").check()
        page.get_by_role("button", name="Ask", exact=True).click()
        here = page.get_by_role("region", name="Queries")
        expect(here).to_contain_text("May the plate be longer? open, due 2020-01-31, late")
        page.goto(f"{service.url}/{JOB}/progress")
        listed = page.get_by_role("region", name="Queries")
        expect(listed).to_contain_text("1 open, 1 late")
        listed.get_by_role("button", name="answer …").click()
        page.get_by_label("Words").fill("Yes, to 1 in.")
        page.get_by_role("button", name="Keep").click()
        expect(listed).to_contain_text("Yes, to 1 in.")
        listed.get_by_role("button", name="close …").click()
        page.get_by_role("button", name="Keep").click()
        expect(listed).not_to_contain_text("May the plate be longer?")


def test_a_note_to_the_shop_is_kept_and_taken_back(service):
    with quiet_page(service.url) as page:
        page.goto(f"{service.url}/{JOB}/connections/B7.i")
        page.get_by_role("button", name="note to the shop").click()
        page.get_by_label("Note to the shop").fill("The plate may be longer.")
        page.get_by_role("button", name="Keep").click()
        expect(page.get_by_text("to the shop: The plate may be longer.")).to_be_visible()
        page.get_by_role("button", name="change the note").click()
        page.get_by_label("Note to the shop").fill("")
        page.get_by_role("button", name="Take it back").click()
        expect(page.get_by_text("to the shop:")).to_have_count(0)


@wide
def test_how_the_house_prints_is_kept_from_the_sections_chosen(service):
    with quiet_page(service.url, "admin") as page:
        page.goto(f"{service.url}/{JOB}/issue")
        chosen = page.get_by_role("region", name="Calculations")
        chosen.get_by_label("decisions", exact=True).uncheck()
        chosen.get_by_role("button", name="Keep as a profile …").click()
        page.get_by_label("Called").fill("short")
        page.get_by_label("The firm: its name").fill("Quay Street Steel\n14 Quay Street")
        page.get_by_role("button", name="Keep", exact=True).click()
        expect(page.get_by_role("dialog")).to_have_count(0)
        expect(chosen.get_by_label("Profile of the house")).to_be_visible()
        with page.expect_download() as got:
            chosen.get_by_label("Filter of the calculations").fill("connection=B7.i")
            chosen.get_by_role("button", name="Word processor").click()
        assert got.value.suggested_filename == f"{JOB}-calculations.docx"
    admin = service.client("admin")
    (kept,) = [p for p in admin.profiles() if p["name"] == "short"]
    assert kept["firm"] == ["Quay Street Steel", "14 Quay Street"] and "decisions" not in kept["sections"]
    admin.remove_profile("short")
