"""The service under readers: answers a second of each address against a bare /healthz of the same server, in turns."""

from __future__ import annotations

import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from urllib.parse import quote

import httpx
from serving import served

from handrail.client import Client

HERE = Path(__file__).parent
ROUNDS, SECONDS, CALLERS, WORD = 4, 1.5, 10, "bench-bench"
OPEN = ("queued", "running")
FLOORS, MEMBERS = 60, 76_860  # of the tower, and its members: 101,241 connections
BOOK = HERE.parent / "src/handrail/demo/rulebook.yaml"


def figures(folder: Path) -> Iterator[tuple[str, float, float, str]]:
    """(name, value, goal, unit) rows as they are found: of the demo and of the tower."""
    with served(folder / "home", password=WORD) as port:
        yield from _measure(port, folder)


def _measure(port: int, folder: Path) -> Iterator[tuple[str, float, float, str]]:
    url = f"http://127.0.0.1:{port}"
    while True:
        try:
            httpx.get(url + "/healthz", trust_env=False)
            break
        except httpx.HTTPError:
            time.sleep(0.1)
    token = Client(url).login("admin", WORD)
    client = Client(url, token)
    tower = folder / "tower"
    subprocess.run([sys.executable, str(HERE / "tall_building.py"), str(tower), str(FLOORS)], check=True)
    for job, bundle, words in (("demo", BOOK.parent / "bundle", "the demo"), ("tower", tower, "the tower")):
        _fill(client, job, bundle, folder)
        _let_some_fail(client, job)
        rates = _in_turns(port, token, _addresses(client, job))
        bare = rates.pop("healthz")
        goals = {"list": 5.0, "joints": 5.0}
        for name, rate in rates.items():
            yield f"{name} of {words} over a bare /healthz", bare / rate, goals.get(name, 10.0), "time"
    yield from _beside_a_run(client, port, token)
    yield from _writers(client, folder)
    yield from _many(client)


def _many(client: Client) -> list[tuple[str, float, float, str]]:
    """One decision for 1,000 connections of the tower, tried and kept with what each rests on, against sizing all of
    the tower."""
    keys = [
        c["connection"]
        for c in client._call(
            "GET", "/jobs/tower/connections", params={"where": "standard=single_plate", "limit": 1000}
        )["items"]
    ]
    begun = time.perf_counter()
    client.decide("tower", {"rows": 4}, "to see how long it takes", connections=keys, both=True, skip=True)
    kept = time.perf_counter() - begun
    begun = time.perf_counter()
    client.wait("tower", client.start_run("tower")["id"])
    ran = time.perf_counter() - begun
    print(f"  a decision for 1,000 connections took {kept:.1f} s, a run of all {ran:.1f} s")
    return [("one decision for 1,000 connections over a run of the tower", kept / ran, 1.0, "time")]


def _fill(client: Client, job: str, bundle: Path, folder: Path) -> None:
    from handrail.interchange.archive import zip_folder

    zip_folder(bundle, folder / f"{job}.zip")
    client.new_job(job)
    client.import_bundle(job, folder / f"{job}.zip")
    client.put_rulebook(job, BOOK.read_text())
    counts = client.wait(job, client.start_run(job)["id"])["counts"]
    if counts.get("pass", 0) < sum(counts.values()) / 2:  # a model that nothing passes in measures nothing
        raise RuntimeError(f"{job}: {counts}")


def _let_some_fail(client: Client, job: str) -> None:
    """The tower's rules find sizes for everything: twenty are given too few bolts by hand, and their remedies waited
    for."""
    listed = client._call(
        "GET", f"/jobs/{job}/connections", params={"where": "status=pass", "sort": "-utilisation", "limit": 20}
    )["items"]
    if not client._call("GET", f"/jobs/{job}/connections", params={"where": "status=fail", "limit": 1})["items"]:
        for c in listed:
            client.set_override(job, c["connection"], "rows", 2, "to see how a failing page is answered")
    for c in client._call("GET", f"/jobs/{job}/connections", params={"where": "status=fail", "limit": 40})["items"]:
        while "being looked for" in client.connection(job, c["connection"])["remedy"]:
            time.sleep(0.2)


def _addresses(client: Client, job: str) -> dict[str, list[str]]:
    at = f"/api/v1/jobs/{job}"
    found = {
        "healthz": ["/healthz"],
        "the job": [at],
        "list": [f"{at}/connections"],
        "joints": [f"{at}/joints?limit=100"],
    }
    for status in ("pass", "fail"):
        keys = [
            c["connection"]
            for c in client._call("GET", f"/jobs/{job}/connections", params={"where": f"status={status}", "limit": 40})[
                "items"
            ]
        ]
        if keys:
            found[f"a connection's page ({status})"] = [f"{at}/connections/{quote(k, safe='')}" for k in keys]
    return found


def _in_turns(port: int, token: str, addresses: dict[str, list[str]]) -> dict[str, float]:
    """The best rate of each address, one after the other and again: what else the machine does falls on all alike."""
    best = dict.fromkeys(addresses, 0.0)
    for _ in range(ROUNDS):
        for name, paths in addresses.items():
            best[name] = max(best[name], _rate(port, token, paths))
    return best


def _rate(port: int, token: str, paths: list[str]) -> float:
    command = [sys.executable, str(HERE / "readers.py"), str(port), token, str(CALLERS // 2), str(SECONDS), *paths]
    readers = [subprocess.Popen(command, stdout=subprocess.PIPE, text=True) for _ in range(2)]
    return sum(float(r.communicate()[0]) for r in readers)


def _beside_a_run(client: Client, port: int, token: str) -> list[tuple[str, float, float, str]]:
    """The list of the demo alone, and while the tower is sized again."""
    paths = ["/api/v1/jobs/demo/connections"]
    alone = max(_rate(port, token, paths) for _ in range(2))
    run = client.start_run("tower")
    beside = []
    while client.run("tower", run["id"])["state"] in OPEN:
        beside.append(_rate(port, token, paths))
    return [("list of the demo alone over the same beside a run of the tower", alone / max(beside), 3.0, "time")]


def _writers(client: Client, folder: Path) -> Iterator[tuple[str, float, float, str]]:
    """How long somebody waits who writes while the tower is imported again and sized, in another job and in the same
    one: against the same when nothing else goes on."""
    key = client._call("GET", "/jobs/tower/connections", params={"limit": 1})["items"][0]["connection"]
    acts = {
        "another job's writer": lambda: client.change_job("demo", title=f"Title {time.perf_counter()}"),
        "the same job's writer": lambda: client.comment("tower", key, f"at {time.perf_counter()}"),
    }
    idle = {name: statistics.median(_waits(act, lambda: True, 40)) for name, act in acts.items()}
    for what, begin in (("an import", lambda: _sent(client, folder)), ("a run", lambda: _run(client))):
        begun, state = time.perf_counter(), begin()
        waits: dict[str, list[float]] = {name: [] for name in acts}
        while state():
            for name, act in acts.items():
                waits[name] += _waits(act, state, 1)
                time.sleep(0.02)
        took = time.perf_counter() - begun
        for name, own in waits.items():
            longest, usual = max(own), statistics.median(own)
            print(
                f"  {name} beside {what} of {MEMBERS:,} members ({took:.0f} s): idle {1e3 * idle[name]:.0f} ms, then"
                f" {1e3 * usual:.0f} ms, {1e3 * longest:.0f} ms at most, of {len(own)}"
            )
            yield f"{name} beside {what}: longest wait over an idle write", longest / idle[name], 50.0, "time"


def _waits(act: Callable[[], object], going: Callable[[], bool], times: int) -> list[float]:
    """How long each of some writes takes, s."""
    waits = []
    for _ in range(times):
        begun = time.perf_counter()
        act()
        waits.append(time.perf_counter() - begun)
        if not going():
            break
    return waits


def _sent(client: Client, folder: Path) -> Callable[[], bool]:
    with (folder / "tower.zip").open("rb") as stream:
        sent = client._call("POST", "/jobs/tower/imports", files={"bundle": ("tower.zip", stream, "application/zip")})
    return lambda: client.get_import("tower", sent["id"])["state"] in OPEN


def _run(client: Client) -> Callable[[], bool]:
    run = client.start_run("tower")
    return lambda: client.run("tower", run["id"])["state"] in OPEN


if __name__ == "__main__":
    with tempfile.TemporaryDirectory() as scratch:
        for row in figures(Path(scratch)):
            print(row)
