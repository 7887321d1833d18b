"""The joint in 3D: reached from a connection, the model and the keyboard; pieces lead to sizes, which are tried there;
collisions are told, and let stand."""

from __future__ import annotations

import pytest
from playwright.sync_api import expect

from handrail.interchange.archive import zip_folder
from tests.bundles import crowded, write
from tests.console.browser import quiet_page
from tests.wide import wide

JOB = "alder-street"
BOOK = "rulebook: 1\nrules:\n  - {name: All, when: {framing: [beam_to_girder]}, use: single_plate}\n"


@pytest.fixture(scope="module")
def page(service):
    with quiet_page(service.url) as page:
        yield page


def space(page):
    return page.locator("[data-bodies]")


def picked(page) -> str:
    return space(page).get_attribute("data-picked") or ""


def test_a_piece_leads_to_its_sizes(service, page):
    """By keys alone: into 3D, from piece to piece; its words, its checks, and a size tried in place."""
    client = service.client()
    one = client.connections(JOB, where="standard=double_angle, status=pass")[0]["connection"]
    page.goto(f"{service.url}/{JOB}/connections/{one}")
    expect(page.get_by_role("button", name="Joint in 3D")).to_be_visible()
    page.keyboard.press("3")
    expect(space(page)).to_be_visible()
    joint = client.joint_solids(JOB, one)
    many = len(joint["members"]) + sum(len(c["solids"]) for c in joint["connections"])
    assert space(page).get_attribute("data-bodies") == str(many) and many > 10
    space(page).focus()
    for _ in range(many):
        page.keyboard.press("n")
        if picked(page).endswith("angle near"):
            break
    card = page.get_by_label("The piece that is picked")
    expect(card).to_contain_text("L4X3")
    expect(card).to_contain_text("beam leg")
    before = client.connection(JOB, one)
    card.get_by_label("Try Angle length").fill("30 in")
    expect(card.get_by_role("status")).to_contain_text("fail")
    expect(card).to_contain_text("30 in long")  # the piece itself is drawn with it
    assert client.connection(JOB, one)["version"] == before["version"]
    page.keyboard.press("Escape")  # typed in a field: nothing of the view
    expect(card).to_be_visible()
    space(page).focus()
    page.keyboard.press("Escape")
    expect(card).to_have_count(0)


@wide
def test_the_view_is_cut_and_drawn_apart(service, page):
    page.goto(f"{service.url}/{JOB}/connections/C1.i?view=3d")
    expect(space(page)).to_be_visible()
    whole = page.locator("canvas").screenshot()
    for key, name in (
        ("c", "Cut"),
        ("e", "Apart"),
        ("u", "By utilisation"),
        ("m", "Measure"),
        ("i", "This connection"),
    ):
        space(page).focus()
        page.keyboard.press(key)
        expect(page.get_by_role("button", name=name)).to_have_attribute("aria-pressed", "true")
    assert page.locator("canvas").screenshot() != whole
    expect(page.get_by_text("over 1.00")).to_be_visible()
    page.get_by_role("button", name="Drawing").click()
    expect(page.get_by_role("img").first).to_be_visible()


def test_from_the_model(service, page):
    one = service.client().connections(JOB, where="standard=single_plate, status=pass")[0]
    page.goto(f"{service.url}/{JOB}/model?joint={one['joint']}")
    page.get_by_role("link", name="joint in 3D").click()
    expect(space(page)).to_be_visible()


@wide
def test_collisions_are_shown_and_let_stand(service, page, tmp_path):
    client = service.client("admin")
    client.new_job("crowded")
    client.put_rulebook("crowded", BOOK)
    zip_folder(write(crowded(44.0), tmp_path / "b"), tmp_path / "b.zip")
    client.import_bundle("crowded", tmp_path / "b.zip")
    client.wait("crowded", client.start_run("crowded")["id"])
    with quiet_page(service.url, "admin") as own:
        own.goto(f"{service.url}/crowded/connections/B1.i?view=3d")
        told = own.get_by_role("list", name="Collisions")
        expect(told).to_contain_text("of B2.i")
        own.get_by_role("tab", name="Detailing").click()
        own.get_by_role("button", name="let them stand").click()
        expect(own.get_by_role("dialog").get_by_role("row", name="beside B2.i")).to_contain_text("pass")
        own.get_by_label("Reason").fill("cut back at the site")
        own.get_by_role("button", name="Keep override").click()
        expect(told).to_contain_text("let stand")
    assert client.connection("crowded", "B2.i")["status"] == "pass"
    client._call("DELETE", "/jobs/crowded")
