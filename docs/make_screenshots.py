"""`make screenshots`: the current pictures of pages, from the demo data, into docs/screenshots."""

from __future__ import annotations

import sys
import tempfile
import zipfile
from pathlib import Path

import pypdfium2
from PIL import Image

ROOT = Path(__file__).parent.parent
sys.path.insert(0, str(ROOT))

from tests.console.browser import page_at  # noqa: E402
from tests.service.running import Service  # noqa: E402

PICTURES = ROOT / "docs/screenshots"
EXPORTS = ROOT / "src/handrail/demo/exports"
JOB = "alder-street"
EMBLEM = (
    b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 60 40" width="60" height="40">'
    b'<path d="M2 2h24v36H2zM34 2h24v36H34z" fill="#835a0c"/><path d="M2 16h56v8H2z" fill="#1d2b27"/></svg>'
)


def shot(page, name: str) -> None:
    page.wait_for_timeout(500)
    page.screenshot(path=PICTURES / f"{name}.png")


def pages(page, url: str) -> None:
    page.goto(f"{url}/{JOB}/model?joint=n16")
    page.wait_for_timeout(2500)
    shot(page, "model")
    page.get_by_role("button", name="Close", exact=True).click()
    page.goto(f"{url}/{JOB}/model?view=plan")
    page.wait_for_timeout(2500)
    shot(page, "model-plan")
    page.goto(f"{url}/{JOB}/joints")
    page.wait_for_selector("[role=row]")
    shot(page, "joints")
    connections(page, url)
    rules(page, url)
    page.goto(f"{url}/{JOB}/connections/B100.i?view=3d")
    page.get_by_role("button", name="Larger").click()
    page.wait_for_selector("[data-bodies]")
    for key in ("u", "n", "n", "n"):
        page.locator("[data-bodies]").focus()
        page.keyboard.press(key)
    page.get_by_label("Try Gauge on the support leg").fill("3 in")
    page.get_by_role("status").get_by_text("pass").wait_for()
    page.wait_for_timeout(1500)
    shot(page, "joint-3d")


def bench(page, url: str) -> None:
    """A beam askew to a girder whose shear is more than it holds."""
    page.goto(f"{url}/-/bench")
    page.get_by_role("button", name="beam to girder").click()
    page.get_by_label("Skew").fill("12")
    page.get_by_label("V of action 1").fill("55")
    page.get_by_role("region", name="Verdict").get_by_role("button", name="Do it").first.wait_for()
    page.wait_for_timeout(800)
    shot(page, "bench")


def designs(page, service: Service) -> None:
    """Those that come with the service and one of the house, asked what it would hold of the demo."""
    client = service.client("engineer")
    client.put_design("tab-three-rows", job=JOB, connection="B40.i", title="Tab of three rows", tags=["usual"])
    client.sign_design("tab-three-rows", 1)
    page.goto(f"{service.url}/-/designs?sort=-shear&name=tab-three-rows&number=1")
    page.get_by_role("button", name="Look", exact=True).click()
    page.get_by_text("and would hold").first.wait_for()
    page.wait_for_timeout(1500)
    shot(page, "designs")


def rules(page, url: str) -> None:
    page.goto(f"{url}/{JOB}/rulebook")
    page.get_by_label("Connection that is liked").fill("B5.i")
    page.get_by_role("button", name="Make a rule").click()
    page.wait_for_selector("text=changed here, not adopted")
    page.wait_for_selector("text=as they are written here")
    page.wait_for_timeout(1500)
    page.get_by_role("button", name="Dry run").click()
    page.wait_for_selector("section[aria-label='Dry run']")
    shot(page, "rulebook")
    page.get_by_role("button", name="Drop changes").click()
    page.goto(f"{url}/{JOB}/schedule")
    page.get_by_role("tab", name="Fewer marks").click()
    page.wait_for_selector("table[aria-label=Merges]")
    shot(page, "schedule")


def connections(page, url: str) -> None:
    page.goto(f"{url}/{JOB}/connections/C139.i?from=joints")
    page.get_by_role("tab", name="Base").click()
    page.wait_for_selector("caption")
    page.get_by_role("tab", name="Breakout").click()
    shot(page, "connection-base")
    page.goto(f"{url}/{JOB}/survey?tab=inventory")
    page.wait_for_selector("table")
    shot(page, "survey")
    page.goto(f"{url}/{JOB}/patterns?pattern=P9")
    page.wait_for_selector("canvas")
    shot(page, "patterns")
    page.goto(f"{url}/{JOB}/import")
    page.get_by_label("Model files").set_input_files([str(p) for p in sorted(EXPORTS.glob("*.csv"))])
    page.wait_for_selector("textarea")
    page.get_by_role("button", name="end_forces").first.click()
    shot(page, "import")
    page.get_by_role("button", name="Leave it", exact=True).click()
    page.wait_for_selector("text=Drop the model here")
    page.goto(f"{url}/{JOB}/connections/B5.i")
    page.wait_for_selector("svg[role=img]")
    page.get_by_text("plate shear rupture").nth(1).click()
    shot(page, "connection-girder")


def sheet(page, service: Service) -> None:
    """A mark as it leaves the house."""
    drawn = service.client("engineer").drawings(JOB, "svg", mark="DA1", sheet="ANSI-A").decode()
    page.set_content(f"<body style='margin:0'>{drawn[drawn.index('<svg') :]}</body>")
    page.eval_on_selector("svg", "svg => { svg.setAttribute('width', 1036); svg.setAttribute('height', 800) }")
    shot(page, "drawing-sheet")


def decided(page, service: Service) -> None:
    """After a week of work: decisions of two people, a released level, another revision of the model."""
    detailer, engineer = service.client("detailer"), service.client("engineer")
    for key, parameter, value, cause, reason in (
        ("B5.i", "rows", 4, "erection", "one row more for the erector"),
        ("B1.j", "plate_thickness", "3/8 in", "stock at hand", ""),
        ("B10.i", "plate_thickness", "3/16 in", "", "as on the shop's sketch"),
        ("B12.i", "rows", 3, "other", ""),
    ):
        detailer.set_override(JOB, key, parameter, value, reason, cause=cause)
    alike = "section=W16X40, level=2, utilisation<0.48, framing=beam_to_column_web"
    detailer.decide(JOB, {"rows": 4}, cause="alike with its neighbours", where=alike)
    braces = detailer.decide(
        JOB, {"elsewhere": "by others"}, cause="done by others", where="framing=brace_at_corner, level=2"
    )
    engineer.review(JOB, "accept", braces["overrides"][:-2], "drawn by who makes the braces")
    detailer.label(JOB, person="detailer", sequence="1", where="level=2")
    engineer.import_bundle(JOB, EXPORTS.parent / "revision-c")
    engineer.wait(JOB, engineer.start_run(JOB)["id"])
    engineer.release(JOB, "level 2 may be drawn", skip=True, where="level=2, status=pass")
    engineer.transmit(JOB, "Elm Fabricators", "for approval", where="level=2")
    engineer.set_override(JOB, "B4.i", "end_distance", "1-1/2 in", "as the shop's stock is cut")
    engineer.transmit(JOB, "Elm Fabricators", "for fabrication", where="level=2", anyway="the shop begins on Monday")
    page.goto(f"{service.url}/{JOB}/ledger?state=all")
    page.wait_for_selector("table")
    shot(page, "ledger")
    page.goto(f"{service.url}/{JOB}/progress")
    page.wait_for_selector("text=R2 beside how each connection stood in R1")
    shot(page, "progress")
    page.goto(f"{service.url}/{JOB}/issue")
    page.get_by_label("What would be in it").get_by_text("connections in").wait_for()
    page.get_by_role("button", name="T002").click()
    page.get_by_text("SHA-256").wait_for()
    shot(page, "issue")


def printed(service: Service) -> None:
    """Two pages as they are sent: one of a calculation, and a connection on one page."""
    admin, engineer = service.client("admin"), service.client("engineer")
    admin.put_profile("usual", ["Quay Street Steel", "14 Quay Street"], "Registered practice 00-1234", EMBLEM)
    engineer.note_to_shop(JOB, "The plate may be 1/2 in. longer; bolts stay where they are.", connections=["B5.i"])
    papers = (engineer.calculations(JOB, connection="B5.i"), 1), (engineer.connection_page(JOB, "B5.i", ""), 0)
    sides = [pypdfium2.PdfDocument(body)[number].render(scale=1.3).to_pil() for body, number in papers]
    wide, high = sides[0].size
    both = Image.new("RGB", (2 * wide + 12, high), "#8b938f")
    for k, side in enumerate(sides):
        both.paste(side, (k * (wide + 12), 0))
    both.save(PICTURES / "paper.png")
    admin.remove_profile("usual")


def index(page, service: Service, folder: Path) -> None:
    """The page that a transmittal opens with, as any browser shows it."""
    (folder / "T002.zip").write_bytes(service.client("engineer").transmittal_file(JOB, 2))
    with zipfile.ZipFile(folder / "T002.zip") as packed:
        packed.extractall(folder / "T002")
    page.goto((folder / "T002" / "index.html").as_uri())
    shot(page, "transmittal-index")


def main() -> None:
    PICTURES.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as scratch:
        service = Service(Path(scratch) / "home").start()
        try:
            with page_at(service.url) as page:
                bench(page, service.url)
                designs(page, service)
                pages(page, service.url)
                sheet(page, service)
                decided(page, service)
                printed(service)
                index(page, service, Path(scratch))
        finally:
            service.stop()


if __name__ == "__main__":
    main()
