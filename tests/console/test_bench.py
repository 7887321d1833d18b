"""The Bench in a browser: somebody with two sections and a reaction comes to a design and its page; one of a job is
tried there and put back."""

from __future__ import annotations

import json
import re

import pytest
from playwright.sync_api import expect
from pypdf import PdfReader

from handrail.core.rulebook.yaml import load
from tests.console.browser import page_at

JOB = "alder-street"


@pytest.fixture
def bench(service):
    with page_at(service.url) as page:
        page.goto(f"{service.url}/-/bench")
        yield page


def verdict(page):
    return page.get_by_role("region", name="Verdict")


def begin(page):
    """A beam askew to a girder with sections and a reaction of one's own: fails at first."""
    page.get_by_role("button", name="beam to girder").click()
    for label, part, name in (("Beam", "W18X4", "W18X40"), ("Girder", "w24x7", "W24X76")):
        page.get_by_role("combobox", name=label, exact=True).fill(part)
        page.get_by_role("button", name=re.compile(f"^{name} ")).click()
    page.get_by_label("Skew").fill("12")
    page.get_by_label("V of action 1").fill("62")


def test_somebody_designs_a_beam_askew_to_a_girder(bench):
    """Nine clicks and fields from the Bench to its page on paper."""
    begin(bench)
    expect(verdict(bench)).to_contain_text("fail")
    expect(bench.get_by_role("region", name="Drawing")).to_contain_text("W24X76")
    verdict(bench).get_by_role("button", name="Do it").first.click()
    expect(verdict(bench)).to_contain_text("pass")
    with bench.expect_download() as got:
        bench.get_by_role("button", name="Page as PDF").click()
    text = PdfReader(got.value.path()).pages[0].extract_text()
    assert "W18X40" in text and "62" in text and "pass" in text


def test_what_was_done_is_taken_back_kept_and_opened_again(bench, tmp_path):
    begin(bench)
    expect(verdict(bench)).to_contain_text("fail")
    verdict(bench).get_by_role("button", name="Do it").first.click()
    expect(verdict(bench)).to_contain_text("pass")
    bench.keyboard.press("Control+z")
    expect(verdict(bench)).to_contain_text("fail")
    bench.keyboard.press("Control+y")
    expect(verdict(bench)).to_contain_text("pass")
    bench.reload()  # the address has all of it
    expect(verdict(bench)).to_contain_text("pass")
    expect(bench.get_by_label("Skew")).to_have_value("12")
    with bench.expect_download() as got:
        bench.get_by_role("button", name="Keep as a file").click()
    kept = load(got.value.path().read_text())
    assert kept["geometry"] == {"skew": "12 deg"} and kept["actions"][0]["V"] == "62 kip"
    kept["supported"]["section"] = "W21X44"
    (tmp_path / "other.json").write_text(json.dumps(kept))
    bench.get_by_label("A trial's file").set_input_files(tmp_path / "other.json")
    expect(bench.get_by_role("combobox", name="Beam", exact=True)).to_have_value("W21X44")
    expect(bench.get_by_role("region", name="Drawing")).to_contain_text("W21X44")


def test_it_is_sized_with_a_bolt_held(bench):
    begin(bench)
    bench.get_by_label("Bolt", exact=True).fill("7/8 A325-N")
    bench.get_by_label("Hold Bolt", exact=True).check()
    bench.get_by_role("tab", name="Size it").click()
    bench.get_by_role("button", name="Size it").click()
    bench.get_by_role("button", name="Take it").first.click()
    expect(verdict(bench)).to_contain_text("pass")
    expect(verdict(bench)).to_contain_text("7/8 A325-N")


def test_what_cannot_be_is_told_while_the_last_picture_stays(bench):
    begin(bench)
    expect(bench.get_by_role("region", name="Drawing")).to_contain_text("W24X76")
    bench.get_by_label("V of action 1").fill("1,500")
    expect(bench.get_by_role("alert")).to_contain_text("without commas")
    expect(bench.get_by_role("region", name="Drawing")).to_contain_text("W24X76")
    expect(bench.get_by_role("button", name="Page as PDF")).to_be_disabled()
    bench.get_by_label("V of action 1").fill("15")
    expect(bench.get_by_role("alert")).to_have_count(0)
    expect(verdict(bench)).to_contain_text("pass")


def test_a_connection_of_a_job_is_tried_and_put_back(service):
    with page_at(service.url) as page:
        page.goto(f"{service.url}/{JOB}/connections/B40.i")
        page.get_by_role("link", name="Try it on the Bench").click()
        expect(verdict(page)).to_contain_text("pass")
        page.get_by_label("Rows", exact=True).fill("5")
        expect(verdict(page)).to_contain_text("(5)")
        page.get_by_role("button", name="Put it into the job").click()
        dialog = page.get_by_role("dialog")
        expect(dialog).to_contain_text("rows 5")
        expect(dialog).not_to_contain_text("not put into the job")
        dialog.get_by_label("Why").fill("like next door")
        dialog.get_by_role("button", name="Keep it").click()
        expect(page).to_have_url(re.compile(r"/alder-street/connections/B40\.i"))
        page.get_by_role("tab", name=re.compile("Decisions")).click()
        expect(page.get_by_role("tabpanel", name=re.compile("Decisions"))).to_contain_text("like next door")
    admin = service.client("admin")
    for made in admin.overrides(JOB, connection="B40.i"):
        admin.clear_override(JOB, made["id"])
    assert not admin.overrides(JOB, connection="B40.i", state="holding")


def test_unfactored_cases_of_two_places_are_combined(bench):
    """A reaction of the dead and the live load at two places: what governs names its place; the file has it."""
    begin(bench)
    bench.get_by_role("button", name="unfactored cases").click()
    bench.get_by_label("V of action 1").fill("12")
    bench.get_by_label("V of action 2").fill("9")
    expect(bench.get_by_text("Combined by ASCE 7-22")).to_be_visible()
    expect(verdict(bench)).to_contain_text("1.2D+1.6L")
    bench.get_by_label("several places share it").check()
    bench.get_by_label("place of action 3").fill("north")
    bench.get_by_label("V of action 3").fill("40")
    bench.get_by_label("name of action 3").fill("L")
    expect(verdict(bench)).to_contain_text("at north")
    bench.get_by_role("button", name="+ a case").click()
    bench.get_by_label("name of action 4").fill("L")
    expect(bench.get_by_text("Case L at north stands twice").first).to_be_visible()
    for button in ("Keep as a file", "Page as PDF"):  # one of the two would be lost
        expect(bench.get_by_role("button", name=button)).to_be_disabled()
    bench.get_by_label("Take action 4 away").click()
    with bench.expect_download() as got:
        bench.get_by_role("button", name="Keep as a file").click()
    kept = load(got.value.path().read_text())
    assert kept["cases"] == {"A": {"D": {"V": "12 kip"}, "L": {"V": "9 kip"}}, "north": {"L": {"V": "40 kip"}}}
    assert kept["combinations"] == "ASCE 7-22" and "actions" not in kept
    bench.reload()
    expect(verdict(bench)).to_contain_text("at north")


def test_it_stands_in_space_and_what_failed_stays_first(bench):
    begin(bench)
    expect(verdict(bench)).to_contain_text("fail")
    first = bench.get_by_role("tabpanel", name="Checks").locator("details").first
    expect(first).to_contain_text("✕")
    failed = first.inner_text().split("\n")[0].removeprefix("✕ ")
    bench.get_by_role("button", name="3D").click()
    space = bench.get_by_role("application")
    expect(space).to_be_visible()
    count = int(space.get_attribute("data-bodies"))
    verdict(bench).get_by_role("button", name="Do it").first.click()
    expect(verdict(bench)).to_contain_text("pass")
    expect(first).to_contain_text("holds now")
    assert first.inner_text().startswith(failed.rpartition(" ")[0])
    bench.get_by_label("Rows", exact=True).fill("5")
    expect(space).not_to_have_attribute("data-bodies", str(count))


def test_a_sweep_and_a_capacity_table_from_where_one_stands(bench):
    begin(bench)
    bench.get_by_role("tab", name="Sweep").click()
    bench.get_by_role("region", name="Sweep").get_by_role("textbox").fill("rows: 2 .. 5")
    bench.get_by_role("button", name="Sweep", exact=True).click()
    expect(bench.get_by_text("4 of 4 candidates tried")).to_be_visible()
    table = bench.get_by_role("region", name="Capacity table")
    expect(table.get_by_label("beams")).to_have_value("W18X*")
    table.get_by_label("beams").fill("W18X4*")
    table.get_by_role("button", name="Capacity table").click()
    expect(bench.get_by_role("table", name="What is held").get_by_role("row")).to_have_count(3)  # W18X40, W18X46
    with bench.expect_download() as got:
        table.get_by_role("button", name="as a workbook").click()
    assert got.value.path().stat().st_size > 5000
