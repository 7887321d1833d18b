"""`make screenshots`: the current pictures of pages and commands, from the demo data, into docs/screenshots."""

from __future__ import annotations

import html
import os
import re
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).parent.parent
sys.path.insert(0, str(ROOT))

from tests.console.browser import page_at  # noqa: E402
from tests.service.running import Service  # noqa: E402

PICTURES = ROOT / "docs/screenshots"
EXPORTS = ROOT / "src/handrail/demo/exports"
JOB = "alder-street"
COMMANDS = {
    "command-trial": ["trial", "docs/examples/trial.yaml"],
    "command-connections": ["connections", JOB, "--sort=-utilisation", "--limit", "18"],
    "command-show": ["show", JOB, "B5.i"],
    "command-survey": ["survey", JOB, "--limit", "8"],
}


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
    page.goto(f"{url}/{JOB}/connections/G1.i")
    page.get_by_role("tab", name="Sizes").click()
    shot(page, "connection-sizes")
    row = page.locator("div.grid", has=page.get_by_text("Rows", exact=True)).last
    row.get_by_role("button", name="change").click()
    page.get_by_role("dialog").get_by_label("New value").fill("5")
    page.get_by_role("dialog").get_by_label("Reason").fill("stiffer for the facade")
    page.wait_for_timeout(800)
    shot(page, "override")
    page.goto(f"{url}/")
    page.wait_for_selector("h1")
    shot(page, "jobs")


def connections(page, url: str) -> None:
    page.goto(f"{url}/{JOB}/connections/B150.j?from=joints%3Fstatus%3Dfail")
    page.wait_for_selector("svg[role=img]")
    page.get_by_text(re.compile("^Remedy: passes with")).wait_for()
    shot(page, "connection-fail")
    page.goto(f"{url}/{JOB}/connections/C139.i?from=joints")
    page.get_by_role("tab", name="Base").click()
    page.wait_for_selector("caption")
    shot(page, "connection-base")
    page.goto(f"{url}/{JOB}/connections/G40%2F2.i?from=joints")
    page.get_by_role("tab", name="Forces").click()
    page.wait_for_selector("caption")
    shot(page, "connection-splice")
    page.goto(f"{url}/{JOB}/connections/B105.j?from=joints")
    page.wait_for_selector("svg[role=img]")
    page.get_by_role("tab", name="Detailing").click()
    shot(page, "connection-angles")
    page.goto(f"{url}/{JOB}/connections/B5.i?from=joints")
    page.get_by_role("tab", name="Alternatives").click()
    page.wait_for_selector("text=Shear end plate")
    shot(page, "connection-alternatives")
    page.goto(f"{url}/{JOB}/survey?tab=inventory")
    page.wait_for_selector("table")
    shot(page, "survey")
    page.goto(f"{url}/{JOB}/patterns?pattern=P9")
    page.wait_for_selector("canvas")
    shot(page, "patterns")
    page.goto(f"{url}/{JOB}/import")
    page.get_by_label("Model files").set_input_files([str(p) for p in sorted(EXPORTS.iterdir())])
    page.wait_for_selector("textarea")
    shot(page, "import")
    page.get_by_role("button", name="Leave it").click()
    page.wait_for_selector("text=Drop the model here")
    page.goto(f"{url}/{JOB}/connections/B5.i")
    page.wait_for_selector("svg[role=img]")
    page.get_by_text("plate shear rupture").nth(1).click()
    shot(page, "connection-girder")


def commands(page, url: str, config: str) -> None:
    env = os.environ | {"HANDRAIL_CONFIG": config, "HANDRAIL_SERVER": url, "HANDRAIL_PASSWORD": "alder-street", "COLUMNS": "200"}
    call = [sys.executable, "-m", "handrail.cli.main"]
    subprocess.run([*call, "login", "engineer"], env=env, check=True, capture_output=True)
    for name, words in COMMANDS.items():
        done = subprocess.run([*call, *words], env=env, capture_output=True, text=True, check=False, cwd=ROOT)
        text = html.escape(f"$ handrail {' '.join(words)}\n{done.stdout}")
        page.set_content(f"<body style='margin:14px;background:#1e2926;color:#e8e6dd'><pre style='font:11px/1.35 DejaVu Sans Mono'>{text}</pre>")
        page.screenshot(path=PICTURES / f"{name}.png")


def main() -> None:
    PICTURES.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as scratch:
        service = Service(Path(scratch) / "home").start()
        try:
            with page_at(service.url) as page:
                commands(page, service.url, scratch)
                pages(page, service.url)
        finally:
            service.stop()


if __name__ == "__main__":
    main()
