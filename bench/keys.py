"""The Bench in a browser: from a key to the verdict, the picture (the first view) and all views that follow from
it, against 100 ms; and what a
library of 20,000 designs takes to be searched, against a bare /healthz of the same service."""

from __future__ import annotations

import os
import socket
import statistics
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from pathlib import Path

import httpx

from handrail.client import Client

GOAL = 100.0  # ms
TIMES, DESIGNS, WORD = 24, 20_000, "alder-street"
TRIAL = {
    "framing": "beam_to_column_flange",
    "standard": "single_plate",
    "supported": {"section": "W16X36", "grade": "A992"},
    "support": {"section": "W14X90", "grade": "A992"},
    "parameters": {"rows": 4, "plate_thickness": "3/8 in"},
    "actions": [{"name": "1", "V": "40 kip"}],
}
# types a value, and waits until what is shown is otherwise and nothing more is awaited; (ms to the verdict, to the
# drawing)
TYPED = """async ([label, value]) => {
  const field = document.querySelector(`input[aria-label="${label}"]`);
  const named = (name) => document.querySelector(`section[aria-label="${name}"]`);
  const [verdict, drawing] = [named("Verdict"), named("Drawing")];
  const seen = [verdict.textContent, drawing.innerHTML];
  const begun = performance.now();
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set.call(field, value);
  field.dispatchEvent(new Event("input", { bubbles: true }));
  const until = (done) => new Promise((resolve) => {
    const look = () => (done() ? resolve(performance.now() - begun) : requestAnimationFrame(look));
    look();
  });
  return Promise.all([
    until(() => verdict.textContent !== seen[0]),
    until(() => drawing.innerHTML !== seen[1]),
    until(() => drawing.innerHTML !== seen[1] && drawing.getAttribute("aria-busy") !== "true"),
  ]);
}"""


def figures(folder: Path) -> Iterator[tuple[str, float, float, str]]:
    """(name, value, goal, unit) rows as they are found."""
    home = folder / "home"
    _fill(home)
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        port = s.getsockname()[1]
    command = [sys.executable, "-m", "handrail.cli.main", "serve", "--home", str(home), "--port", str(port)]
    service = subprocess.Popen(
        command, env=os.environ | {"HANDRAIL_PASSWORD": WORD}, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
    )
    url = f"http://127.0.0.1:{port}"
    try:
        while True:
            try:
                httpx.get(url + "/healthz", trust_env=False)
                break
            except httpx.HTTPError:
                time.sleep(0.1)
        token = Client(url).login("admin", WORD)
        yield from _searched(url, token)
        yield from _typed(url)
    finally:
        service.terminate()
        service.wait(timeout=30)


def _fill(home: Path) -> None:
    """A library of designs whose strengths and sections differ; each says what one that was looked at says."""
    from handrail.service.application import designing
    from handrail.store.designs import put_many
    from handrail.store.opening import RECORDS, open_database

    text = designing.text_of(TRIAL, None, None, None)
    about = {"title": "Tab", "note": "", "tags": ["tabs"], "name": "tab", "job": "", "author": "admin"}
    one = designing.record_of(text, **about)
    database = open_database(home / RECORDS)
    listed = [
        one
        | {"name": f"tab-{k}", "state": "house", "shear": one["shear"] * (0.5 + k / DESIGNS), "steel": 5 + k % 97}
        | {"depth": one["depth"] * (0.6 + 0.8 * (k % 1009) / 1009)}
        for k in range(DESIGNS)
    ]
    put_many(listed)
    database.close()


def _searched(url: str, token: str) -> Iterator[tuple[str, float, float, str]]:
    with httpx.Client(base_url=url, headers={"Authorization": f"Bearer {token}"}, trust_env=False) as http:

        def median(ask: Callable[[int], httpx.Response], times: int = 15) -> float:
            took = []
            for k in range(times):
                begun = time.perf_counter()
                answer = ask(k)
                answer.raise_for_status()
                took.append(time.perf_counter() - begun)
            return statistics.median(took)

        bare = median(lambda k: http.get("/healthz"))
        words = median(
            lambda k: http.get("/api/v1/designs", params={"text": f"tab-{k}", "V": "50 kip", "sort": "steel"})
        )
        yield "searching 20,000 house designs by words and strength over a bare /healthz", words / bare, 60.0, "time"
        trial = {k: v for k, v in TRIAL.items() if k != "parameters"}

        def find(k: int) -> httpx.Response:
            acting = {"trial": trial | {"actions": [{"name": "1", "V": f"{40 + k} kip"}]}}
            answer = http.post("/api/v1/designs/find", json=acting)
            while answer.status_code == 202:
                answer = http.get(answer.headers["Location"])
            return answer

        alike = median(find, 5)
        one = median(
            lambda k: http.post("/api/v1/trial", json=TRIAL | {"actions": [{"name": "1", "V": f"{60 + k} kip"}]})
        )
        yield "something like it among them, sixty tried, over one trial", alike / one, 60.0, "time"


def _typed(url: str) -> Iterator[tuple[str, float, float, str]]:
    sys.path.insert(0, str(Path(__file__).parents[1]))
    from tests.console.browser import page_at

    with page_at(url, "admin") as page:
        page.goto(f"{url}/-/bench")
        page.wait_for_selector('section[aria-label="Drawing"] svg')
        took = [page.evaluate(TYPED, ["Plate thickness", f"{0.25 + k / 64} in"]) for k in range(TIMES)]
    for what, part in zip(("the verdict", "the picture", "all views"), zip(*took[2:], strict=True), strict=True):
        yield f"the Bench, from a key to {what}, over 100 ms", statistics.median(part) / GOAL, 1.0, "time"
