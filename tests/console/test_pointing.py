"""A map made by pointing, in the browser: tables, columns, units and senses chosen, what is missing, the text in step,
kept for the house."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from handrail.interchange.archive import zip_folder
from tests.console.browser import page_at
from tests.interchange.test_meanings import tables
from tests.styles import STYLES, Demo
from tests.wide import wide


@pytest.fixture(scope="module")
def admin(service):
    with page_at(service.url, user="admin") as page:
        yield page


@pytest.fixture(scope="module")
def odd(tmp_path_factory):
    """The French report with names that mean nothing for a member's end and its axial force."""
    folder = tmp_path_factory.mktemp("styles") / "odd"
    STYLES["french"](folder, Demo())
    axial = "\tN\t", "\tQuelque chose\t"
    for name, was, now in (("barres", "Noeud fin", "Colonne Q"), ("efforts début", *axial), ("efforts fin", *axial)):
        path = folder / f"{name}.txt"
        path.write_bytes(path.read_bytes().replace(was.encode("cp1252"), now.encode("cp1252")))
    zip_folder(folder, folder.with_suffix(".zip"))
    return folder.with_suffix(".zip")


def choose(page, label: str, option: str) -> None:
    page.get_by_role("combobox", name=label, exact=True).click()
    page.get_by_role("option", name=option, exact=True).click()


@wide
def test_a_map_is_made_by_pointing(service, admin, odd):
    client = service.client("admin")
    client.new_job("pointed", "By pointing")
    admin.goto(f"{service.url}/pointed/import")
    admin.get_by_label("Model files").set_input_files(odd)
    text = admin.get_by_label("Column map")
    expect(text).to_have_value(re.compile(r'j = "Colonne Q"'))  # by what stands in it
    admin.get_by_role("navigation", name="Tables").get_by_role("button", name="end_forces").click()
    expect(admin.get_by_role("region", name="First rows of efforts *.txt")).to_contain_text("354.801")
    choose(admin, "Quelque chose is", "Fx")
    expect(text).to_have_value(re.compile(r'Fx = "Quelque chose"'))
    choose(admin, "Unit of Fx", "kN")
    expect(text).to_have_value(re.compile(r'Fx = \{column = "Quelque chose", unit = "kN"\}'))
    admin.get_by_role("button", name="Sense of Fx").click()
    expect(text).to_have_value(re.compile(r'Fx = \{column = "Quelque chose", unit = "kN", factor = -1\}'))
    choose(admin, "Tz is", "not read")
    missing = admin.get_by_role("region", name="Missing")
    expect(missing).to_contain_text("end_forces Fz")
    expect(admin.get_by_role("button", name="Take it in")).to_be_disabled()
    admin.get_by_text("Fz", exact=True).first.drag_to(admin.locator("th", has_text="Tz").first)
    expect(missing).to_have_text("Missing:forces")  # with the axial forces unknown nothing closed
    admin.get_by_role("button", name="Try", exact=True).click()
    expect(missing).to_be_hidden()
    expect(text).to_have_value(re.compile(r'forces = "internal"'))
    expect(admin.get_by_role("status")).to_contain_text("all of it reads")
    admin.get_by_role("button", name="Keep for the house").click()
    ask = admin.get_by_role("dialog")
    ask.get_by_label(re.compile("^Name")).fill("odd-report")
    ask.get_by_role("button", name="Keep it").click()
    expect(ask).to_be_hidden()
    admin.get_by_role("button", name="Take it in").click()
    expect(admin.get_by_label("Last import")).to_contain_text("Done: revision R1 stands")
    assert client.job("pointed")["connections"] > 1000
    client.new_job("pointed-2", "The next")
    admin.goto(f"{service.url}/pointed-2/import")
    admin.get_by_label("Model files").set_input_files(odd)
    expect(admin.get_by_role("combobox", name="Map", exact=True)).to_contain_text("the house's, which fits")
    expect(admin.get_by_role("combobox", name="Map", exact=True)).to_be_visible()
    admin.get_by_role("button", name="Propose anew").click()
    expect(admin.get_by_role("combobox", name="Map", exact=True)).to_contain_text("changed here")
    admin.get_by_role("button", name="Leave it", exact=True).click()
    client.leave_map("odd-report")


@wide
def test_words_of_columns_are_told_by_pointing(service, admin, tmp_path):
    """Supports by the words of one column, one column for two of ours, one value for all rows: no line of the map is
    written by hand."""
    root = tables(tmp_path / "odd")
    service.client("admin").new_job("words", "In words")
    admin.goto(f"{service.url}/words/import")
    zip_folder(root, tmp_path / "odd.zip")
    admin.get_by_label("Model files").set_input_files(tmp_path / "odd.zip")
    admin.get_by_role("navigation", name="Tables").get_by_role("button", name="supports").click()
    choose(admin, "supports is read from", "supports.csv")
    choose(admin, "Kind is", "what is held, in words")
    say(admin, {"Type A": "fixed", "Type B": "pinned"})
    missing = admin.get_by_role("region", name="Missing")
    expect(missing.filter(has_text="supports")).to_have_count(0)
    admin.get_by_role("navigation", name="Tables").get_by_role("button", name="combinations").click()
    choose(admin, "Group is", "set")
    say(admin, {"Q1": "strength", "Q2": "service"})
    choose(admin, "Group is something more", "method")
    say(admin, {"Q1": "LRFD", "Q2": "none"})
    expect(missing.filter(has_text="combinations")).to_have_count(0)
    text = admin.get_by_label("Column map")
    expect(text).to_have_value(re.compile(r'rz = \{column = "Kind", values = \{"Type A" = "1", "Type B" = "0"\}\}'))
    expect(text).to_have_value(re.compile(r'method = \{column = "Group", values = \{Q1 = "LRFD", Q2 = "none"\}\}'))
    choose(admin, "Group is also", "not read")
    choose(admin, "The same for all rows", "method")
    choose(admin, "method for all rows", "ASD")
    expect(text).to_have_value(re.compile(r'method = \{value = "ASD"\}'))
    admin.get_by_role("button", name="Leave it", exact=True).click()


def say(page, meant: dict[str, str]) -> None:
    """What the words of the column that was chosen last mean."""
    page.get_by_role("button", name=f"{len(meant)} to say").click()
    for word, kind in meant.items():
        choose(page, f"{word} means", kind)
    page.get_by_role("button", name="Say so").click()
    expect(page.get_by_role("button", name="to say")).to_have_count(0)  # the answer is there


def test_tables_are_pasted(service, admin):
    """Copied from a spreadsheet, each under a name; what is missing is told in order of weight."""
    service.client("admin").new_job("pasted", "Pasted")
    admin.goto(f"{service.url}/pasted/import")
    admin.get_by_role("button", name="Paste tables").click()
    ask = admin.get_by_role("dialog")
    ask.get_by_label("Name of table 1").fill("points")
    ask.get_by_label("Table 1", exact=True).fill("Point\tX [m]\tY [m]\tZ [m]\na\t0\t0\t0\nb\t0\t0\t4.5\n")
    ask.get_by_label("Table 2", exact=True).fill("Bar\tStart\tEnd\tShape\tSteel\nC1\ta\tb\tW 12 x 65\tA992\n")
    ask.get_by_role("button", name="Send 2 tables").click()
    text = admin.get_by_label("Column map")
    expect(text).to_have_value(re.compile(r'file = "points.tsv"'))
    expect(text).to_have_value(re.compile(r'x = \{column = "X \[m\]", unit = "m"\}'))
    expect(admin.get_by_role("region", name="Missing")).to_contain_text("Missing:end_forcescasescombinationssupports")
    admin.get_by_role("button", name="Leave it", exact=True).click()
