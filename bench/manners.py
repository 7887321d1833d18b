"""Callers of bad manners: how much longer another one waits for a page of the demo while somebody without any role asks
for far too much, hangs up and asks again, or sends slowly. Each figure is a median over the median of the same service
when it idles."""

from __future__ import annotations

import http.client
import json
import socket
import statistics
import sys
import tempfile
import threading
import time
from collections.abc import Callable
from pathlib import Path
from urllib.parse import quote

import httpx
from serving import served

from handrail.client import Client
from handrail.client.calling import ServiceError
from handrail.demo.load import PEOPLE

GOAL = 3.0  # times
CROWD = 24  # callers of bad manners at once
SECONDS = 8.0  # of each kind
TRIAL = {
    "standard": "single_plate",
    "framing": "beam_to_column_flange",
    "supported": {"section": "W21X62", "grade": "A992"},
    "support": {"section": "W14X90", "grade": "A992"},
    "parameters": {"bolt": "3/4 A325-N"},
    "actions": [{"name": "1.2D+1.6L", "V": "60 kip"}, {"name": "1.2D+1.0W", "V": "40 kip", "N": "5 kip"}],
}
CAPACITY = {
    "standard": "single_plate",
    "framing": "beam_to_column_flange",
    "support": {"section": "W14X90", "grade": "A992"},
    "sections": "W*",
}


def book(rules: int, order: str = "lightest") -> str:
    """A rulebook of far too many rules, each with a ladder of 370 rungs."""
    ladder = f"{{climb: [{{rows: 2 .. 11}}, {{edge_distance: 1.25 in .. 3.5 in by 1/16 in}}], order: {order}}}"
    named = "\n".join(
        f"  - {{name: R{k}, when: {{supported.depth: '> {5 + k / 100:.2f} in'}}, use: single_plate, ladder: {ladder}}}"
        for k in range(rules)
    )
    return f"rulebook: 1\nrules:\n{named}\n"


class Crowd:
    """Callers that go on until they are told to stop."""

    def __init__(self, port: int, token: str) -> None:
        self.port, self.token, self.over, self.answers = port, token, threading.Event(), list[int]()

    def call(self, method: str, path: str, body: bytes = b"", wait: float = 60.0) -> int:
        """One request; the answer's status, 0 where it was not waited for."""
        wire = http.client.HTTPConnection("127.0.0.1", self.port, timeout=wait)
        try:
            wire.request(
                method, path, body, {"Authorization": f"Bearer {self.token}", "Content-Type": "application/json"}
            )
            return wire.getresponse().status
        except OSError:
            return 0
        finally:
            wire.close()

    def drip(self) -> None:
        """A request that never comes to its end."""
        with socket.create_connection(("127.0.0.1", self.port)) as wire:
            wire.sendall(b"POST /api/v1/trial HTTP/1.1\r\nHost: x\r\nContent-Length: 5000\r\n\r\n")
            while not self.over.wait(0.5):
                try:
                    wire.sendall(b"{")
                except OSError:
                    return

    def run(self, act: Callable[[int], object], seconds: float) -> Callable[[], None]:
        """`act` by all of them, again and again; what is returned ends it."""

        def go(number: int) -> None:
            while not self.over.is_set():
                answer = act(number)
                if isinstance(answer, int):
                    self.answers.append(answer)

        threads = [threading.Thread(target=go, args=(k,), daemon=True) for k in range(CROWD)]
        for thread in threads:
            thread.start()

        def end() -> None:
            self.over.set()
            for thread in threads:
                thread.join(timeout=20)

        return end


def figures(folder: Path, only: str = "") -> list[tuple[str, float, float, str]]:
    """(name, value, goal, unit) rows."""
    with served(folder / "home", "demo") as port:
        return _measure(port, only)


def _ready(port: int) -> str:
    url = f"http://127.0.0.1:{port}"
    while True:
        try:
            return Client(url).login("admin", PEOPLE["admin"][0])
        except (ServiceError, httpx.HTTPError):
            time.sleep(0.3)


def _measure(port: int, only: str) -> list[tuple[str, float, float, str]]:
    admin = Client(f"http://127.0.0.1:{port}", _ready(port))
    job = admin.jobs()[0]["name"]
    admin.add_user("visitor", "no-manners-at-all")
    token = Client(admin.server).login("visitor", "no-manners-at-all")
    while admin._call("GET", f"/jobs/{job}/runs")["items"][0]["state"] in ("queued", "running"):
        time.sleep(0.2)
    keys = [c["connection"] for c in admin.connections(job, where="status=pass")[:20]]
    paths = [
        f"/api/v1/jobs/{job}/connections?limit=50",
        *(f"/api/v1/jobs/{job}/connections/{quote(k, safe='')}" for k in keys),
    ]
    own = admin.login("engineer", PEOPLE["engineer"][0])
    detailer = admin.login("detailer", PEOPLE["detailer"][0])
    for path in paths:
        _look(port, own, [path], 0.0)
    rows = []
    big = json.dumps({"text": book(400), "compare": True}).encode()
    crowds: dict[str, Callable[[Crowd], Callable[[int], object]]] = {
        "sweeps": lambda c: lambda k: c.call("POST", "/api/v1/sweep", json.dumps(_sweep(k)).encode()),
        "sweeps that hang up": lambda c: lambda k: c.call("POST", "/api/v1/sweep", json.dumps(_sweep(k)).encode(), 0.1),
        "capacity tables": lambda c: (
            lambda k: c.call(
                "POST", "/api/v1/capacity", json.dumps(CAPACITY | {"method": ("LRFD", "ASD")[k % 2]}).encode()
            )
        ),
        "trials": lambda c: lambda k: c.call("POST", "/api/v1/trial", json.dumps(TRIAL).encode()),
        "lists": lambda c: lambda k: c.call("GET", f"/api/v1/jobs/{job}/connections?limit=1000"),
        "rulebooks of 400 rules by 370 rungs": lambda c: (
            lambda k: c.call("POST", f"/api/v1/jobs/{job}/rulebook/try", big)
        ),
        "requests that drip": lambda c: lambda k: c.drip(),
    }
    for name, kind in crowds.items():
        if only not in name:
            continue
        idle = _look(port, own, paths, SECONDS / 2)
        crowd = Crowd(port, detailer if "rulebook" in name or name == "lists" else token)
        end = crowd.run(kind(crowd), SECONDS)
        time.sleep(1.0)
        beside = _look(port, own, paths, SECONDS)
        end()
        after = _look(port, own, paths, SECONDS / 2)
        print(
            f"  {name}: another's median {1e3 * idle:.1f} ms idle, {1e3 * beside:.1f} ms beside {CROWD} of them"
            f" ({len(crowd.answers)} answers), {1e3 * after:.1f} ms after",
            flush=True,
        )
        rows.append((f"another's answer beside {CROWD} {name} over an idle one", beside / idle, GOAL, "time"))
        rows.append(("the same when they have hung up", after / idle, GOAL, "time"))
    return rows


def _sweep(number: int) -> dict[str, object]:
    """9,600 candidates, otherwise for each caller."""
    edges = [f"{38 + k / 10 + number / 1000:.4f} mm" for k in range(400)]
    values = [
        {"rows": "2 .. 7"},
        {"plate_thickness": ["1/4 in", "5/16 in", "3/8 in", "1/2 in"]},
        {"edge_distance": edges},
    ]
    return TRIAL | {"sweep": {"values": values}}


def _look(port: int, token: str, paths: list[str], seconds: float) -> float:
    """The median time of an answer, s, to one who looks at a page after the other."""
    wire, times, until = http.client.HTTPConnection("127.0.0.1", port), [], time.perf_counter() + seconds
    while True:
        for path in paths:
            begun = time.perf_counter()
            wire.request("GET", path, headers={"Authorization": f"Bearer {token}"})
            answer = wire.getresponse()
            answer.read()
            assert answer.status == 200, (path, answer.status)
            times.append(time.perf_counter() - begun)
            time.sleep(0.01)
            if time.perf_counter() > until:
                return statistics.median(times)


if __name__ == "__main__":
    with tempfile.TemporaryDirectory() as scratch:
        for row in figures(Path(scratch), *sys.argv[1:]):
            print(row)
