"""The Bench in a browser: from a key to the verdict and to the picture that follow from it, against
100 ms; and what a library of 20,000 designs takes to be searched."""

from __future__ import annotations

import statistics
import sys
import time
from collections.abc import Callable, Iterator
from pathlib import Path

import httpx
from serving import served

from handrail.client import Client
from handrail.client.calling import ServiceError

sys.path.insert(0, str(Path(__file__).parents[1]))
from tests.console.browser import page_at
from tests.trials import TAB as TRIAL

GOAL = 100.0  # ms
TIMES, DESIGNS, WORD = 24, 20_000, "alder-street"
# types a value, and waits until what is shown is otherwise: ms to the verdict, to the picture
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
    until(() => drawing.innerHTML !== seen[1] && drawing.getAttribute("aria-busy") !== "true"),
  ]);
}"""


def figures(folder: Path) -> Iterator[tuple[str, float, float, str]]:
    """(name, value, goal, unit) rows as they are found."""
    home = folder / "home"
    _fill(home)
    with served(home, password=WORD) as port:
        url = f"http://127.0.0.1:{port}"
        while True:
            try:
                token = Client(url).login("admin", WORD)
                break
            except (ServiceError, httpx.HTTPError):
                time.sleep(0.2)
        yield from _searched(url, token)
        yield from _typed(url)


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
    client = Client(url, token)

    def acting(k: int) -> dict[str, object]:
        return TRIAL | {"actions": [{"name": "1", "V": f"{40 + k} kip"}]}

    bare = _median(lambda k: client._call("GET", "/me"))
    words = _median(lambda k: client.designs(text=f"tab-{k}", V="50 kip", sort="steel"))
    yield "searching 20,000 house designs by words and strength over asking who one is", words / bare, 30.0, "time"
    one = _median(lambda k: client.trial(acting(k), drawn=False))
    alike = _median(lambda k: client.find_designs(acting(k)), 5)
    yield "something like it among them, sixty tried, over one trial", alike / one, 80.0, "time"


def _median(ask: Callable[[int], object], times: int = 15) -> float:
    took = []
    for k in range(times):
        begun = time.perf_counter()
        ask(k)
        took.append(time.perf_counter() - begun)
    return statistics.median(took)


def _typed(url: str) -> Iterator[tuple[str, float, float, str]]:
    with page_at(url, "admin") as page:
        page.goto(f"{url}/-/bench")
        page.wait_for_selector('section[aria-label="Drawing"] svg')
        took = [page.evaluate(TYPED, ["Plate thickness", f"{0.25 + k / 64} in"]) for k in range(TIMES)]
    for what, part in zip(("the verdict", "the picture"), zip(*took[2:], strict=True), strict=True):
        yield f"the Bench, from a key to {what}, over 100 ms", statistics.median(part) / GOAL, 1.0, "time"
