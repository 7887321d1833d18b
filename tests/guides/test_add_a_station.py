"""A newcomer's station: typed by the API's document, built with the others, on the rail, shown in the browser."""

from __future__ import annotations

import mimetypes
import shutil
import subprocess
from pathlib import Path

import pytest

from tests.console.browser import quiet_page
from tests.wide import wide

WEB = Path(__file__).parents[2] / "web"
TOY = Path(__file__).parent / "toy_station"
FILES = {
    "share.tsx": "stations/share.tsx",
    "api.ts": "api/share.ts",
    "share.ts": "share/share.ts",
    "share.test.ts": "share/share.test.ts",
}
LINES = {  # in what file, after which line, what
    "main.tsx": (
        ('import { ProgressStation } from "./stations/progress";', 'import { ShareStation } from "./stations/share";'),
        (
            '<Route path="progress" element={<ProgressStation />} />',
            '<Route path="share" element={<ShareStation />} />',
        ),
    ),
    "api/keys.ts": (('  schedule: "moves",', '  share: "moves",'),),
    "rail.tsx": (
        (
            '<Station to={to(job, "progress")} name="Progress" words={progressWords(data)} />',
            '<Station to={to(job, "share")} name="Share" words={data ? `${data.released} released` : ""} />',
        ),
    ),
}


@pytest.fixture(scope="module")
def built(tmp_path_factory) -> Path:
    """The console with a station more: what the build makes of it."""
    web = tmp_path_factory.mktemp("console") / "web"
    shutil.copytree(WEB, web, ignore=shutil.ignore_patterns("node_modules"))
    (web / "node_modules").symlink_to(WEB / "node_modules")
    for own, place in FILES.items():
        (web / "src" / place).parent.mkdir(exist_ok=True)
        shutil.copy(TOY / own, web / "src" / place)
    for name, pairs in LINES.items():
        text = (web / "src" / name).read_text(encoding="utf-8")
        for after, line in pairs:
            assert text.count(after) == 1, f"{name} has no more: {after}"
            text = text.replace(after, f"{after}\n{line}")
        (web / "src" / name).write_text(text, encoding="utf-8")
    for command in ("tsc --noEmit", "vitest run src/share", f"vite build --outDir {web / 'out'}"):
        done = subprocess.run(
            ["npx", "--no-install", *command.split()], cwd=web, capture_output=True, text=True, check=False
        )
        assert done.returncode == 0, done.stdout + done.stderr
    return web / "out"


@wide
def test_it_stands_on_the_rail_and_says_what_it_is_for(service, built):
    counts = service.client().progress("alder-street")["now"]

    def answer(route):
        """The service's own answers; pages and what they load from the new build."""
        path = route.request.url.removeprefix(service.url).split("?")[0]
        if path.startswith("/api/"):
            return route.continue_()
        file = built / path.lstrip("/")
        file = file if file.is_file() else built / "index.html"
        route.fulfill(body=file.read_bytes(), content_type=mimetypes.guess_type(file.name)[0])

    with quiet_page(service.url) as page:
        page.route(f"{service.url}/**", answer)
        page.goto(f"{service.url}/alder-street/progress")
        page.get_by_role("navigation").get_by_text("Share").click()
        page.wait_for_url(f"{service.url}/alder-street/share")
        done, total = counts["done"], counts["total"]
        page.get_by_role("heading", name=f"{done} of {total} connections done, {100 * done // total} %").wait_for()
        assert page.locator("a[aria-current=page]").inner_text().startswith("Share")
