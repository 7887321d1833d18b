"""From a list to its connections, on to the next and back; a job begun and filled from the browser alone."""

from __future__ import annotations

import re
from urllib.parse import quote

import pytest
from playwright.sync_api import expect

from handrail.interchange.archive import zip_folder
from tests.bundles import DEMO, ODD, odd_names, small, write
from tests.console.browser import page_at, sign_in
from tests.service.running import Service
from tests.wide import wide

JOB = "alder-street"


@pytest.fixture(scope="module")
def admin(service):
    with page_at(service.url, user="admin") as page:
        yield page


def test_on_to_the_next_and_back_to_the_list(service, admin):
    admin.goto(f"{service.url}/{JOB}/joints?status=fail&sort=connection")
    expect(admin.get_by_text(re.compile("^4 of "))).to_be_visible()
    names = [row.split()[0] for row in admin.get_by_role("row").all_inner_texts()[1:]]
    admin.get_by_role("row").nth(1).click()
    for name in names:
        expect(admin.get_by_role("heading", name=name, exact=True)).to_be_visible()
        expect(admin.get_by_text(f"{names.index(name) + 1} of 4")).to_be_visible()
        if name != names[-1]:
            admin.get_by_role("link", name="Next: ").click()
    expect(admin.get_by_role("link", name="Next: ")).to_have_count(0)
    admin.get_by_role("link", name="Joints: fail").click()
    admin.wait_for_url(re.compile(r"/joints\?status=fail&sort=connection$"))


@wide
def test_from_a_joint_of_the_model_and_back(service, admin):
    admin.goto(f"{service.url}/{JOB}/model?joint=n16")
    admin.get_by_label("Joint n16").get_by_text("B78.j").click()
    admin.get_by_role("link", name="Next: ").click()
    expect(admin.get_by_role("heading", name="B79.i")).to_be_visible()
    admin.get_by_role("link", name="Model, joint n16").click()
    expect(admin.get_by_label("Joint n16")).to_be_visible()


def test_a_job_is_made_filled_and_run(service, admin, tmp_path):
    """Its members have the oddest names; a bundle with an error changes nothing and says where it is."""
    tables = odd_names(small())
    zip_folder(write(tables, tmp_path / "good"), tmp_path / "good.zip")
    tables["members"][4]["i"] = "nowhere"
    zip_folder(write(tables, tmp_path / "bad"), tmp_path / "bad.zip")
    admin.goto(service.url + "/")
    admin.get_by_role("button", name="New job").click()
    ask = admin.get_by_role("dialog")
    ask.get_by_label(re.compile("^Name")).fill("Not This")
    ask.get_by_role("button", name="Make the job").click()
    expect(ask.get_by_role("alert")).to_be_visible()
    ask.get_by_label(re.compile("^Name")).fill("from-the-browser")
    ask.get_by_label("Title").fill("A bay from the browser")
    ask.get_by_role("combobox", name="Method").click()
    admin.get_by_role("option", name=re.compile("^LRFD")).click()
    ask.get_by_role("button", name="Make the job").click()
    expect(admin.get_by_text("No model yet", exact=True)).to_be_visible()
    admin.get_by_role("main").get_by_role("link", name="Import a model").click()
    admin.get_by_label("Model files").set_input_files(tmp_path / "bad.zip")
    expect(admin.get_by_label("What is wrong")).to_contain_text("members.csv row 6, i")
    expect(admin.get_by_role("button", name="Take it in")).to_be_disabled()
    admin.get_by_role("button", name="Leave it").click()
    expect(admin.get_by_label("Last import")).to_contain_text("cancelled")
    admin.get_by_label("Model files").set_input_files(tmp_path / "good.zip")
    expect(admin.get_by_role("region", name="members", exact=True)).to_contain_text(ODD)
    admin.get_by_role("button", name="Take it in").click()
    expect(admin.get_by_label("Last import")).to_contain_text("Done: revision R1 stands")
    admin.get_by_role("link", name="See its audit").click()
    expect(admin.get_by_role("heading", name=re.compile("^R1 "))).to_be_visible()
    service.client("admin").put_rulebook("from-the-browser", (DEMO / "rulebook.yaml").read_text())
    admin.goto(f"{service.url}/from-the-browser/joints")
    admin.get_by_role("button", name="Run").click()
    admin.get_by_role("menuitem", name=re.compile("^Size")).click()
    expect(admin.get_by_text(re.compile(r"^Run \d+ done"))).to_be_visible()
    cell = admin.get_by_role("cell", name=f"{ODD}.i", exact=True)
    expect(admin.get_by_role("row").filter(has=cell)).to_contain_text("pass")  # the list as it is after the run
    cell.click()
    expect(admin.get_by_role("heading", name=f"{ODD}.i")).to_be_visible()
    assert quote(f"{ODD}.i", safe="") in admin.url
    expect(admin.get_by_role("img", name="Elevation")).to_be_visible()


@wide
def test_another_program_s_tables_come_in_through_the_console_alone(service, admin):
    """Loose files: a map is proposed, corrected beside what is understood through it, and taken in."""
    service.client("admin").new_job("by-map", "By a map")
    admin.goto(f"{service.url}/by-map/import")
    exports = DEMO / "exports"
    admin.get_by_label("Model files").set_input_files([str(p) for p in sorted(exports.glob("*.csv"))])
    expect(admin.get_by_role("combobox", name="Map")).to_contain_text("proposed from the files")
    expect(admin.get_by_role("region", name="The whole")).to_contain_text(
        "as the node's on the member 143 of 160 nodes are out"
    )
    admin.get_by_label("Column map").fill((exports / "map.toml").read_text().replace('"Height"', '"Hight"'))
    expect(admin.get_by_label("What is wrong")).to_contain_text("is Height meant?")
    admin.get_by_label("Column map").fill((exports / "map.toml").read_text())
    expect(admin.get_by_role("button", name="Take it in")).to_be_disabled()
    expect(admin.get_by_role("region", name="nodes", exact=True).last).to_contain_text(
        "505 rows of Points.csv; not read: Floor"
    )
    admin.get_by_role("button", name="Take it in").click()
    expect(admin.get_by_label("Last import")).to_contain_text("Done: revision R1 stands")
    assert service.client("admin").job("by-map")["connections"] == 1115


@wide
def test_two_people_at_two_browsers(service, admin):
    """What one decides shows in the other's browser by itself; what one was about to decide on older sizes is refused,
    not kept."""
    other = admin.context.browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
    sign_in(other, service.url, "engineer")
    for page in (admin, other):
        page.goto(f"{service.url}/{JOB}/connections/B20.i")
        page.get_by_role("tab", name="Sizes").click()
    rows = [page.locator("div.grid", has=page.get_by_text("Rows", exact=True)).last for page in (admin, other)]
    rows[1].get_by_role("button", name="change").click()
    ask = other.get_by_role("dialog")
    ask.get_by_label("New value").fill("6")
    ask.get_by_label("Reason").fill("a second thought")
    expect(ask.get_by_text("after")).to_be_visible()
    made = service.client("admin").set_override(JOB, "B20.i", "rows", 5, "a first thought")
    expect(rows[0].get_by_text("5", exact=True)).to_be_visible()
    expect(rows[0].get_by_text("✎ admin")).to_be_visible()
    ask.get_by_role("button", name="Keep override").click()
    expect(ask.get_by_role("alert")).to_contain_text("was changed meanwhile")
    ask.get_by_role("button", name="Leave as it is").click()
    expect(rows[1].get_by_text("✎ admin")).to_be_visible()
    service.client("admin").clear_override(JOB, made["id"], state="awaiting")
    expect(rows[1].get_by_text("✎ admin")).to_be_hidden()
    other.context.close()


def test_a_session_that_ended_elsewhere_leads_to_the_door_and_back(service, admin):
    """Somebody ends one's sessions; the page notices by itself, and after signing in one stands where one stood."""
    page = admin.context.browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
    sign_in(page, service.url, "detailer")
    page.goto(f"{service.url}/{JOB}/joints?status=fail")
    expect(page.get_by_text("4 of 1115")).to_be_visible()
    client = service.client("detailer")
    for held in client.tokens():
        if held["session"]:
            client.revoke_token(held["id"])
    page.wait_for_url(re.compile("/sign-in$"))
    page.fill("input[name=name]", "detailer")
    page.fill("input[name=password]", "alder-street")
    page.click("button[type=submit]")
    page.wait_for_url(re.compile(r"/joints\?status=fail$"))
    page.context.close()


@wide
def test_a_service_that_is_away_for_a_moment(tmp_path, admin):
    """What was read stays and says how old it is; what was typed is kept, and can be kept when it is back."""
    own = Service(tmp_path / "home").start()
    page = admin.context.browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
    sign_in(page, own.url, "engineer")
    page.goto(f"{own.url}/{JOB}/connections/B20.i")
    page.get_by_role("tab", name="Sizes").click()
    page.locator("div.grid", has=page.get_by_text("Rows", exact=True)).last.get_by_role("button", name="change").click()
    ask = page.get_by_role("dialog")
    ask.get_by_label("New value").fill("5")
    ask.get_by_label("Reason").fill("typed before it went away")
    own.stop()
    away = page.get_by_text(re.compile("The service does not answer: what is shown is from"))
    expect(away).to_be_attached()
    expect(page.get_by_text("plate shear rupture").first).to_be_attached()
    again = Service(own.home, own.port).start()
    try:
        expect(away).to_have_count(0)
        ask.get_by_role("button", name="Keep override").click()
        expect(ask).to_be_hidden()
        expect(page.get_by_text("✎ engineer")).to_be_visible()
    finally:
        page.context.close()
        again.stop()


def test_signed_out_here_is_signed_out_on_the_server(service, admin):
    """Whoever took the cookie can do nothing with it afterwards."""
    page = admin.context.browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
    sign_in(page, service.url, "detailer")
    cookies = page.context.cookies()
    page.get_by_role("button", name="Sign out detailer").click()
    page.wait_for_url(re.compile("/sign-in$"))
    page.context.add_cookies(cookies)
    page.goto(f"{service.url}/{JOB}/joints")
    page.wait_for_url(re.compile("/sign-in$"))
    page.context.close()
