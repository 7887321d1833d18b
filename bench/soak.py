"""Two hours (or so many minutes as are said) of an office: 50 people who read, 5 who write, runs and imports. At the
end: nothing that was acknowledged is missing, nobody was told of an error of the service, memory is level, and the
slowest hundredth of answers is within ten times that of a service that idles."""

from __future__ import annotations

import http.client
import os
import random
import statistics
import subprocess
import sys
import tempfile
import threading
import time
from collections import Counter
from collections.abc import Callable
from pathlib import Path
from urllib.parse import quote

import httpx

from handrail.client import Client
from handrail.client.calling import ServiceError
from handrail.demo.load import JOB, PEOPLE
from handrail.interchange.archive import zip_folder

READERS, WRITERS = 50, 5
THINKS, DECIDES = 1.0, 4.0  # seconds between two pages of a reader, two acts of a writer, on the average
RUN_EVERY, IMPORT_EVERY, SAMPLE = 60.0, 240.0, 15.0
GOAL_P99, GOAL_MEMORY = 10.0, 1.15
BUNDLES = Path(__file__).parent.parent / "src/handrail/demo"


class Office:
    """Everybody at work, and what they saw."""

    def __init__(self, port: int, tokens: dict[str, str], keys: list[str]) -> None:
        self.port, self.tokens, self.keys, self.over = port, tokens, keys, threading.Event()
        self.times, self.answers, self.memory = list[float](), Counter[int](), list[float]()
        self.comments, self.overrides, self.titles = list[tuple[str, str]](), list[str](), 0
        self.troubles = list[str]()
        at = f"/api/v1/jobs/{JOB}"
        self.paths = [
            at,
            f"{at}/connections?limit=50",
            f"{at}/joints?limit=50",
            f"{at}/progress",
            f"{at}/schedule",
            f"{at}/survey",
            f"{at}/model/states",
            *(f"{at}/connections/{quote(key, safe='')}" for key in keys),
        ]

    def client(self, name: str) -> Client:
        return Client(f"http://127.0.0.1:{self.port}", self.tokens[name])

    def read(self, seed: int, thinks: float) -> None:
        """A reader, until it is over; an answer that is worked out elsewhere is asked after."""
        dice, wire = random.Random(seed), http.client.HTTPConnection("127.0.0.1", self.port, timeout=60)
        name = dice.choice(list(PEOPLE))
        while not self.over.wait(dice.uniform(0.5, 1.5) * thinks):
            path, begun = dice.choice(self.paths), time.perf_counter()
            try:
                status, place = self._get(wire, path, name)
                while status == 202 and place:
                    time.sleep(0.1)
                    status, place = self._get(wire, place, name)
            except (OSError, http.client.HTTPException) as exc:
                self.troubles.append(f"{path}: {exc!r}")
                wire.close()
                continue
            self.answers[status] += 1
            self.times.append(time.perf_counter() - begun)

    def _get(self, wire: http.client.HTTPConnection, path: str, name: str) -> tuple[int, str]:
        wire.request("GET", path, headers={"Authorization": f"Bearer {self.tokens[name]}"})
        answer = wire.getresponse()
        answer.read()
        return answer.status, answer.getheader("Location", "")

    def write(self, seed: int) -> None:
        """A writer: says something, decides and takes it back, counts the title of the job up."""
        dice, client, number = random.Random(seed), self.client("engineer"), 0
        while not self.over.wait(dice.uniform(0.5, 1.5) * DECIDES):
            number += 1
            key, words = dice.choice(self.keys), f"soak {seed}.{number}"
            try:
                client.comment(JOB, key, words)
                self.comments.append((key, words))
                self._count_up()
                made = client.set_override(JOB, key, "plate_thickness", dice.choice(("3/8 in", "1/2 in")), words)
                self.overrides.append(words)
                client.clear_override(JOB, made["id"], f"no more: {words}")
            except ServiceError as exc:
                self.answers[exc.status] += 1
                if exc.status >= 500:
                    self.troubles.append(f"{words}: {exc}")

    def _count_up(self) -> None:
        """The title is a number; who sees another one meanwhile looks again."""
        headers = {"Authorization": f"Bearer {self.tokens['admin']}"}
        with httpx.Client(
            base_url=f"http://127.0.0.1:{self.port}", headers=headers, timeout=60, trust_env=False
        ) as wire:
            while True:
                seen = wire.get(f"/api/v1/jobs/{JOB}")
                title = str(int(seen.json()["title"]) + 1)
                done = wire.patch(
                    f"/api/v1/jobs/{JOB}", json={"title": title}, headers={"If-Match": seen.headers["ETag"]}
                )
                if done.status_code == 200:
                    self.titles += 1
                    return
                if done.status_code != 412:
                    self.troubles.append(f"title: {done.status_code} {done.text[:200]}")
                    return

    def work(self, what: Callable[[], str], every: float) -> None:
        """A run or an import now and then; how it ended."""
        while not self.over.wait(every):
            try:
                state = what()
            except ServiceError as exc:
                state = str(exc)
            if state != "done":
                self.troubles.append(state)

    def watch(self, service: int) -> None:
        """The memory of all processes, now and then, MB."""
        while not self.over.wait(SAMPLE):
            self.memory.append(sum(_memory(number) for number in _tree(service)))


def soak(folder: Path, minutes: float) -> bool:
    """Run it; whether all is as it should be."""
    port, url = 8790, "http://127.0.0.1:8790"
    command = [sys.executable, "-m", "handrail.cli.main", "demo", "--home", str(folder / "home"), "--port", str(port)]
    service = subprocess.Popen(command, env=os.environ, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    try:
        tokens = {name: _signed_in(url, name) for name in PEOPLE}
        admin = Client(url, tokens["admin"])
        while admin._call("GET", f"/jobs/{JOB}/runs")["items"][0]["state"] in ("queued", "running"):
            time.sleep(0.2)
        keys = [c["connection"] for c in admin.connections(JOB, where="standard=single_plate, status=pass")[:40]]
        admin.change_job(JOB, title="0")
        idle = Office(port, tokens, keys)
        _together(idle, [lambda: idle.read(1, 0.05)], 20.0)
        office = Office(port, tokens, keys)
        _together(office, _everybody(office, folder, service.pid), 60 * minutes)
        return _judged(office, idle, minutes)
    finally:
        service.terminate()
        service.wait(timeout=30)


def _everybody(office: Office, folder: Path, service: int) -> list[Callable[[], None]]:
    sent = []
    for name in ("bundle", "revision-c"):
        zip_folder(BUNDLES / name, folder / f"{name}.zip")
        sent.append(folder / f"{name}.zip")
    office.client("admin").new_job("soak")

    def run() -> str:
        client = office.client("detailer")
        return str(client.wait(JOB, client.start_run(JOB)["id"])["state"])

    def take_in() -> str:
        sent.reverse()
        office.client("admin").import_bundle("soak", sent[0])  # refused where it fails
        return "done"

    readers = [lambda k=k: office.read(100 + k, THINKS) for k in range(READERS)]
    writers = [lambda k=k: office.write(200 + k) for k in range(WRITERS)]
    return [
        *readers,
        *writers,
        lambda: office.work(run, RUN_EVERY),
        lambda: office.work(take_in, IMPORT_EVERY),
        lambda: office.watch(service),
    ]


def _together(office: Office, acts: list[Callable[[], None]], seconds: float) -> None:
    threads = [threading.Thread(target=act) for act in acts]
    for thread in threads:
        thread.start()
    time.sleep(seconds)
    office.over.set()
    for thread in threads:
        thread.join()


def _judged(office: Office, idle: Office, minutes: float) -> bool:
    """Print what came out, and judge it."""
    admin = office.client("admin")
    said = {key: {e["words"] for e in admin.connection(JOB, key)["history"]} for key in office.keys}
    lost = [words for key, words in office.comments if not any(words in own for own in said[key])]
    ledger = "\n".join(e["words"] for e in admin.ledger(JOB)["items"])
    lost += [words for words in office.overrides if f": {words}" not in ledger]
    title = int(admin.job(JOB)["title"])
    p99, of_idle = (statistics.quantiles(one.times, n=100)[98] for one in (office, idle))
    quarter = max(len(office.memory) // 4, 1)
    early, late = statistics.median(office.memory[quarter : 2 * quarter]), statistics.median(office.memory[-quarter:])
    errors = sum(many for status, many in office.answers.items() if status >= 500) + len(office.troubles)
    print(f"{minutes:g} minutes, {len(office.times):,} answers to {READERS} readers, {dict(office.answers)}")
    print(f"p99 {1e3 * p99:.0f} ms, idle {1e3 * of_idle:.0f} ms: {p99 / of_idle:.1f} times (goal {GOAL_P99:.0f})")
    print(f"memory of all processes: {early:.0f} MB in the second quarter, {late:.0f} MB in the last")
    kept = f"{len(office.comments)} comments, {len(office.overrides)} decisions, {office.titles} titles"
    print(f"{kept}; lost: {lost or 'none'}, title {title}")
    for words in office.troubles[:20]:
        print("trouble:", words)
    level = late <= GOAL_MEMORY * early
    return not lost and title == office.titles and not errors and p99 <= GOAL_P99 * of_idle and level


def _signed_in(url: str, name: str) -> str:
    while True:
        try:
            return Client(url).login(name, PEOPLE[name][0])
        except (ServiceError, httpx.HTTPError):
            time.sleep(0.3)


def _tree(number: int) -> list[int]:
    """A process and all that came of it."""
    parents = {}
    for folder in Path("/proc").iterdir():
        if folder.name.isdigit():
            try:
                parents[int(folder.name)] = int((folder / "stat").read_text().rsplit(")", 1)[1].split()[1])
            except OSError:
                continue
    found = [number]
    for one in found:
        found += [child for child, parent in parents.items() if parent == one]
    return found


def _memory(number: int) -> float:
    """What a process has for itself, and its share of what it has with others, MB."""
    try:
        lines = Path(f"/proc/{number}/smaps_rollup").read_text().splitlines()
    except OSError:
        return 0.0
    return sum(int(line.split()[1]) for line in lines if line.startswith("Pss:")) / 1024


if __name__ == "__main__":
    with tempfile.TemporaryDirectory() as scratch:
        sys.exit(0 if soak(Path(scratch), float(sys.argv[1]) if len(sys.argv) > 1 else 120.0) else 1)
