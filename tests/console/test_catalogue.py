"""The house's catalogue in a browser: an engineer keeps a draft, nothing finds it; an administrator approves it, and a
connection on the Bench is made of it."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.console.browser import page_at


def test_a_surface_from_a_draft_to_the_bench(service):
    with page_at(service.url) as page:
        page.goto(f"{service.url}/-/catalogue")
        page.get_by_role("button", name="New entry").click()
        ask = page.get_by_role("dialog")
        ask.get_by_label("Kind").click()
        page.get_by_role("option", name="a faying surface").click()
        ask.get_by_label("Name").fill("BLAST-3")
        ask.get_by_label("mu").fill("0.95")
        keep = ask.get_by_role("button", name="Keep the draft")
        expect(keep).to_be_disabled()  # from where is not said
        ask.get_by_label("Where it comes from").fill("slip tests 3")
        keep.click()
        expect(ask.get_by_role("alert")).to_contain_text("not as much as that")
        ask.get_by_label("mu").fill("0.45")
        keep.click()
        row = page.get_by_role("region", name="Faying surfaces").get_by_role("row").filter(has_text="BLAST-3")
        expect(row).to_contain_text("draft")
        expect(row.get_by_role("button", name="approve")).to_have_count(0)
        page.goto(f"{service.url}/-/bench")
        expect(offered(page, "slip_a")).to_have_count(1)
        expect(offered(page, "slip_blast-3")).to_have_count(0)
        with page_at(service.url, "admin") as other:
            other.goto(f"{service.url}/-/catalogue")
            named = other.get_by_role("row").filter(has_text="BLAST-3")
            named.get_by_role("button", name="approve").click()
            expect(named).to_contain_text("approved")
        page.reload()
        expect(offered(page, "slip_blast-3")).to_have_count(1)
        page.get_by_role("combobox", name="Tightening", exact=True).fill("slip_blast-3")
        expect(page.get_by_role("tabpanel", name="Checks")).to_contain_text(
            "surface BLAST-3 is not of the shipped tables: slip tests 3"
        )


def offered(page, value):
    return page.locator(f"#choices-tightening option[value='{value}']")


def test_what_can_be_named_is_found(service):
    with page_at(service.url, "detailer") as page:
        page.goto(f"{service.url}/")
        page.get_by_role("link", name="House catalogue").click()
        page.get_by_label("Find a section or a grade").fill("w16x4")
        found = page.get_by_role("region", name="What can be named")
        expect(found).to_contain_text("W16X40")
        expect(found).to_contain_text("16.0 in, 40 lb/ft")
        page.get_by_label("Find a section or a grade").fill("A992")
        expect(found).to_contain_text("Fy 50, Fu 65 ksi")
