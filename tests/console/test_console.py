"""The console in headless Chromium, over the real service."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from handrail.interchange.archive import zip_folder
from tests.bundles import small, write
from tests.console.browser import quiet_page

JOB = "alder-street"


@pytest.fixture(scope="module")
def signed(service):
    with quiet_page(service.url) as page:
        yield page


def test_jobs_and_stations(service, signed):
    signed.goto(service.url + "/")
    signed.get_by_text("Alder Street Library, steel frame").click()
    signed.wait_for_url(re.compile("/alder-street/model"))
    stations = signed.get_by_label("Stations")
    expect(stations.get_by_text("Model", exact=True)).to_be_visible()
    expect(stations.get_by_text(re.compile(r"\d+ fail, \d+ unassigned"))).to_be_visible()


def test_model_shows_every_connection_and_a_joint(service, signed):
    signed.goto(f"{service.url}/{JOB}/model")
    expect(signed.locator("canvas")).to_be_visible()
    expect(signed.locator("[data-joints='1115']")).to_be_attached()
    signed.get_by_role("combobox", name="Colour by").click()
    signed.get_by_role("option", name="by framing").click()
    expect(signed.get_by_text("beam to hollow column")).to_be_visible()
    signed.goto(f"{service.url}/{JOB}/model?joint=n2")
    card = signed.get_by_label("Joint n2")
    expect(card.get_by_text("G1.i")).to_be_visible()
    card.get_by_text("G1.i").click()
    signed.wait_for_url(re.compile("/connections/G1.i"))


def test_the_audit_points_at_its_nodes(service, signed, tmp_path):
    """A job of its own with a wrong sign; the service refuses to run it without a rulebook, and says so."""
    tables = small()
    tables["end_forces"][4]["Fy"] = 50
    zip_folder(write(tables, tmp_path / "b"), tmp_path / "b.zip")
    admin = service.client("admin")
    admin.new_job("crooked", "A crooked bay")
    admin.import_bundle("crooked", tmp_path / "b.zip")
    admin.set_role("crooked", "engineer", "engineer")
    signed.goto(f"{service.url}/crooked/model")
    signed.get_by_role("button", name=re.compile("audit: .* warning")).click()
    panel = signed.get_by_label("Audit")
    expect(panel.get_by_text("nodes balanced")).to_be_visible()
    panel.get_by_role("button", name=re.compile("node b is out of balance")).click()
    expect(signed.get_by_label("Joint b")).to_be_visible()
    signed.get_by_role("button", name="Run").click()
    signed.get_by_role("menuitem", name=re.compile("Size")).click()
    expect(signed.get_by_text(re.compile("has no rulebook"))).to_be_visible()


def test_a_joint_is_picked_with_the_mouse(service, signed):
    signed.goto(f"{service.url}/{JOB}/model")
    canvas = signed.locator("canvas")
    expect(canvas).to_be_visible()
    signed.wait_for_timeout(1500)
    box = canvas.bounding_box()
    for k in range(200):  # somewhere along a line across the frame there is a mark
        signed.mouse.click(box["x"] + box["width"] * (0.2 + 0.003 * k), box["y"] + box["height"] * 0.52)
        if "joint=" in signed.url:
            break
    assert "joint=" in signed.url
    expect(signed.locator("aside")).to_be_visible()


def test_a_level_alone(service, signed):
    signed.goto(f"{service.url}/{JOB}/model")
    signed.get_by_role("combobox", name="Level").click()
    signed.get_by_role("option", name="level 3").click()
    expect(signed.locator("[data-joints='1115']")).to_have_count(0)
    assert int(signed.locator("[data-joints]").get_attribute("data-joints")) > 100


def test_joints_filter_sort_and_open(service, signed):
    signed.goto(f"{service.url}/{JOB}/joints")
    table = signed.get_by_role("table", name="Connections")
    expect(table).to_have_attribute("aria-rowcount", "1115")
    signed.get_by_role("button", name=re.compile("fail")).click()
    expect(signed.get_by_text(re.compile(r"^4 of 1115$"))).to_be_visible()
    signed.get_by_role("button", name=re.compile("fail")).click()
    signed.get_by_label("Find").fill("W24X68")
    signed.get_by_role("columnheader", name="Utilisation").click()
    first = table.get_by_role("row").nth(1)
    expect(first).to_contain_text("W24X68")
    first.click()
    signed.wait_for_url(re.compile("/connections/"))


def test_connection_shows_drawing_checks_and_sources(service, signed):
    signed.goto(f"{service.url}/{JOB}/connections/B5.i")
    expect(signed.get_by_role("img", name="Elevation")).to_be_visible()
    expect(signed.get_by_role("img", name="Elevation").get_by_text('PL 1/4" x 3-3/4" x 8-1/2" A572-50')).to_be_visible()
    signed.get_by_text("plate shear rupture").nth(1).click()
    expect(signed.get_by_text(re.compile(r"0\.60 Fu Anv = 57\.28 kip"))).to_be_visible()
    signed.get_by_role("tab", name="Sizes").click()
    expect(signed.get_by_text("practice").first).to_be_visible()
    expect(signed.get_by_text("rung").first).to_be_visible()
    signed.get_by_role("tab", name=re.compile("Detailing")).click()
    expect(signed.get_by_text("bolt to cope")).to_be_visible()


def test_override_in_the_dialog_and_back(service, signed):
    signed.goto(f"{service.url}/{JOB}/connections/B17.i")
    signed.get_by_role("tab", name="Sizes").click()
    row = signed.locator("div.grid", has=signed.get_by_text("Rows", exact=True)).last
    row.get_by_role("button", name="change").click()
    dialog = signed.get_by_role("dialog")
    dialog.get_by_label("New value").fill("99")
    expect(dialog.get_by_text(re.compile("more than 24"))).to_be_visible()
    dialog.get_by_label("New value").fill("4")
    expect(dialog.get_by_text("after")).to_be_visible()
    keep = dialog.get_by_role("button", name="Keep override")
    expect(keep).to_be_disabled()
    dialog.get_by_label("Reason").fill("match the beam next door")
    keep.click()
    expect(dialog).to_be_hidden()
    expect(signed.get_by_text("✎ engineer")).to_be_visible()
    signed.get_by_role("tab", name="Decisions (1)").click()
    expect(signed.get_by_text("match the beam next door").first).to_be_visible()
    signed.get_by_role("button", name="Clear", exact=True).click()
    signed.get_by_role("dialog").get_by_role("button", name="Clear this decision").click()
    expect(signed.get_by_role("dialog")).to_be_hidden()
    signed.get_by_role("tab", name="Sizes").click()
    expect(signed.get_by_text("✎ engineer")).to_be_hidden()


def test_run_button(service, signed):
    signed.goto(f"{service.url}/{JOB}/joints")
    said = signed.get_by_text(re.compile(r"^(Run|Look) \d+ done"))
    before = said.inner_text()
    signed.get_by_role("button", name="Run").click()
    signed.get_by_role("menuitem", name=re.compile("^Size")).click()
    expect(said).not_to_have_text(before, timeout=60000)


def test_empty_and_refused_views(service, signed):
    signed.goto(f"{service.url}/no-such-job/joints")
    expect(signed.get_by_text("there is no job 'no-such-job' that you can see")).to_be_visible()
    signed.get_by_role("link", name="All jobs").click()
    expect(signed.get_by_role("link", name="Alder Street Library")).to_be_visible()
    signed.goto(f"{service.url}/{JOB}/connections/nope")
    expect(signed.get_by_text(re.compile("there is no connection 'nope'"))).to_be_visible()
    signed.goto(f"{service.url}/{JOB}/connections/X1.i")
    expect(signed.get_by_text("No connection is drawn here")).to_be_visible()
    forces = signed.get_by_label("Forces")
    expect(forces.get_by_role("row", name=re.compile(r"axial, tension positive\s+-0.8 kip\s+0.9D-Ev"))).to_be_visible()
    expect(signed.get_by_label("Joint", exact=True).get_by_role("row", name=re.compile("column base"))).to_be_visible()


def test_a_base_is_stepped_through_its_combinations(signed, service):
    """The governing one first; the plan shows what presses and the anchors that pull, the table how much; a row or the
    arrows lead on."""
    signed.goto(f"{service.url}/{JOB}/connections/C139.i")
    signed.get_by_role("tab", name="Base").click()
    title = signed.get_by_role("tabpanel").get_by_role("heading")
    expect(signed.get_by_text(re.compile("1 of .*governs"))).to_be_visible()
    first = title.inner_text()
    plan = signed.get_by_role("img", name="Plan", exact=True)
    assert plan.locator("polygon[stroke-dasharray='4 3']").count() == 1
    anchors = signed.get_by_role("table", name=re.compile("Anchors in"))
    pulling = anchors.get_by_text("kip").count()
    assert pulling > plan.locator("circle[r='7']").count() > 0
    signed.get_by_role("button", name="Less used").click()
    expect(signed.get_by_text(re.compile("^2 of "))).to_be_visible()
    assert title.inner_text() != first
    signed.get_by_role("button", name="1.4D", exact=True).click()
    expect(title).to_have_text("1.4D")
    assert plan.locator("circle[r='7']").count() == 0  # all of it presses
    expect(signed.get_by_role("img", name=re.compile("strength and combinations"))).to_be_visible()
    for side in ("Elevation along", "Elevation across"):
        signed.get_by_role("tab", name=side).click()
        expect(signed.get_by_role("img", name=side)).to_be_visible()


def test_the_next_connection_opens_at_what_governs_it(signed, service):
    """However far the one before was stepped through."""
    signed.goto(f"{service.url}/{JOB}/joints?framing=column_base&sort=connection")
    signed.get_by_role("row").nth(3).click()
    signed.get_by_role("tab", name="Base").click()
    signed.get_by_role("button", name="Less used").click()
    expect(signed.get_by_text(re.compile("^2 of .*"))).to_be_visible()
    signed.get_by_role("link", name="Next: ").click()
    signed.get_by_role("tab", name="Base").click()
    expect(signed.get_by_text(re.compile("^1 of .*governs"))).to_be_visible()


def test_a_splice_s_parts_are_stepped_through(signed, service):
    """What flanges, contact and web plates take in the governing combination, and in the next."""
    signed.goto(f"{service.url}/{JOB}/connections/G40%2F2.i")
    signed.get_by_role("tab", name="Forces").click()
    parts = signed.get_by_role("table", name=re.compile("What the parts take"))
    expect(parts.get_by_role("row", name=re.compile("top flange"))).to_be_visible()
    first = parts.inner_text()
    signed.get_by_role("button", name="Less used").click()
    expect(signed.get_by_text(re.compile("^2 of "))).to_be_visible()
    assert parts.inner_text() != first
    signed.get_by_role("tab", name="Plan of the top flange").click()
    expect(signed.get_by_role("img", name="Plan of the top flange")).to_be_visible()
