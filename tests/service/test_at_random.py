"""A day's work at random by several people over the real service, whose processes are killed meanwhile: nothing
acknowledged is lost, and what is shown is true. DAYS=1000 in the environment looks further."""

from __future__ import annotations

import os
import random
import shutil
import signal
import threading
import time
from pathlib import Path

import pytest

from handrail.client import Client, ServiceError
from handrail.store.database import proxy
from handrail.store.models import Connection, Job, Ledger, Override
from handrail.store.opening import open_database
from handrail.store.works import OPEN
from tests.service.house import BOOKS, bundle, false_results
from tests.service.running import Service, processes
from tests.wide import some

DAYS, PEOPLE, STEPS = int(os.environ.get("DAYS", "2")), 4, 6
JOB = "bay"

CORRECTIONS = [
    ("G1.i", "framing", "beam_to_column_web"),
    ("B1.i", "support", "G2"),
    ("G1.i", "framing", "moment_to_column_flange"),
]


class Person:
    """Somebody at work: what the service acknowledged is remembered."""

    def __init__(self, service: Service, token: str, seed: int, zips: list[Path]) -> None:
        self.client, self.dice, self.zips = Client(service.url, token), random.Random(seed), zips
        self.kept: dict[str, set[int]] = {"overrides": set(), "imports": set(), "cleared": set()}
        self.books = 0
        self.errors: list[BaseException] = []

    def work(self) -> None:
        for _ in range(STEPS):
            try:
                self.step()
            except ServiceError as error:
                if error.status >= 500 and error.status not in (503, 502):
                    self.errors.append(error)
            except BaseException as error:
                self.errors.append(error)

    def step(self) -> None:
        kind = self.dice.choice(
            [
                "import",
                "run",
                "run",
                "verify",
                "override",
                "override",
                "correct",
                "clear",
                "method",
                "book",
                "stop",
                "look",
                "choose",
                "step",
            ]
        )
        key = self.dice.choice(["G1.i", "G2.j", "B1.i"])
        client = self.client
        if kind == "import":
            with self.dice.choice(self.zips).open("rb") as stream:
                sent = client._call(
                    "POST", f"/jobs/{JOB}/imports", files={"bundle": ("b.zip", stream, "application/zip")}
                )
            self.kept["imports"].add(sent["id"])
        elif kind in ("run", "verify"):
            client.start_run(JOB, verify=kind == "verify")
        elif kind == "override":
            parameter, value = self.dice.choice(
                [("rows", 4), ("rows", 2), ("plate_thickness", "1/2 in"), ("bolt", "7/8 A325-N")]
            )
            self.kept["overrides"].add(client.set_override(JOB, key, parameter, value, "wish")["id"])
        elif kind == "correct":
            key, parameter, value = self.dice.choice(CORRECTIONS)
            self.kept["overrides"].add(client.set_override(JOB, key, parameter, value, "as built")["id"])
        elif kind == "choose":
            standard = self.dice.choice(["single_plate", "double_angle", "shear_end_plate"])
            made = client.change(JOB, key, {"standard": standard, "rows": self.dice.choice([2, 3])}, "wish")
            self.kept["overrides"] |= {o["id"] for o in made["overrides"]}
        elif kind == "step":
            client.step(JOB, self.dice.choice(["back", "forward"]))
        elif kind == "clear":
            for held in client.overrides(JOB)[:1]:
                self.kept["cleared"].add(client.clear_override(JOB, held["id"])["id"])
        elif kind == "method":
            client.change_job(JOB, method=self.dice.choice(["LRFD", "ASD"]))
        elif kind == "book":
            client.put_rulebook(JOB, self.dice.choice(BOOKS))
            self.books += 1
        elif kind == "stop":
            for run in client._call("GET", f"/jobs/{JOB}/runs")["items"][:1]:
                client.cancel_run(JOB, run["id"])
        else:
            client.connection(JOB, key)


def kill_some(service: Service, dice: random.Random, over: threading.Event) -> None:
    """Workers and web processes are killed at any moment; twice the whole service, as a power cut would."""
    while not over.wait(dice.uniform(0.1, 0.8)):
        kind = dice.choice(["worker", "worker", "web", "all"])
        if kind == "all":
            service.kill()
            time.sleep(0.2)
            service.start()
        else:
            for process in processes(service, kind)[:1]:
                os.kill(process, signal.SIGKILL)


@pytest.fixture(scope="module")
def house(tmp_path_factory):
    """A service with one small job."""
    folder = tmp_path_factory.mktemp("days")
    service = Service(folder / "home", processes=2).start()
    admin = service.client("admin")
    admin.new_job(JOB)
    admin.put_rulebook(JOB, BOOKS[0])
    for k, factor in enumerate((1.0, 6.0)):
        bundle(folder, factor)
        if k == 0:
            admin.import_bundle(JOB, folder / f"{factor}.zip")
    yield service, [folder / "1.0.zip", folder / "6.0.zip"]
    if service.process and service.process.poll() is None:
        service.stop()


@pytest.mark.parametrize("day", some(range(DAYS), 2))
def test_a_day_at_random_ends_true(house, tmp_path, day):
    service, zips = house
    dice = random.Random(day)
    admin = service.client("admin")
    admin.wait(JOB, admin.start_run(JOB)["id"])
    before = admin.job(JOB)["rulebook_version"]
    token = Client(service.url).login("admin", "alder-street")
    people = [Person(service, token, 1000 * day + k, zips) for k in range(PEOPLE)]
    over = threading.Event()
    killer = threading.Thread(target=kill_some, args=(service, dice, over))
    threads = [threading.Thread(target=p.work) for p in people]
    for thread in [killer, *threads]:
        thread.start()
    for thread in threads:
        thread.join()
    over.set()
    killer.join()
    settle(admin)
    assert [e for p in people for e in p.errors] == []
    there = {o["id"]: o["state"] for o in admin.overrides(JOB)}
    assert {i for p in people for i in p.kept["overrides"]} <= there.keys()
    assert all(there[i] == "cleared" for p in people for i in p.kept["cleared"])
    imports = {i["id"]: i["state"] for i in admin.imports(JOB)}
    for sent in (i for p in people for i in p.kept["imports"]):
        assert imports[sent] in ("done", "interrupted"), imports[sent]  # given up where it ended three workers
    assert admin.job(JOB)["rulebook_version"] >= before + sum(p.books for p in people)
    assert wrong_in_a_copy(service.home, tmp_path) == []
    admin.wait(JOB, admin.start_run(JOB)["id"])
    assert wrong_in_a_copy(service.home, tmp_path, settled=True) == []


def settle(client: Client) -> None:
    """Wait until the service answers again and nothing is under way."""
    until = time.monotonic() + 120
    while time.monotonic() < until:
        try:
            going = [
                w for w in client._call("GET", f"/jobs/{JOB}/runs")["items"] + client.imports(JOB) if w["state"] in OPEN
            ]
            if not going:
                return
        except ServiceError:
            pass
        time.sleep(0.2)
    raise AssertionError("it did not come to rest")


def wrong_in_a_copy(home: Path, folder: Path, settled: bool = False) -> list[str]:
    """What the records show that would come out otherwise, or that does not hold together, in a copy of them."""
    shutil.rmtree(folder / "copy", ignore_errors=True)
    from handrail.store.database import backup

    backup(home / "records.sqlite", folder / "copy/records.sqlite")
    database = open_database(folder / "copy/records.sqlite")
    with proxy.connection_context():
        job = Job.get(Job.name == JOB)
        found = false_results(job)
        found += [
            f"{o.id} cleared twice"
            for o in Override.select().where(Override.state == "cleared")
            if Ledger.select().where((Ledger.override == o) & (Ledger.event == "cleared")).count() != 1
        ]
        if settled:
            found += [
                f"{c.key} {c.reason}"
                for c in Connection.select().where((Connection.job == job) & Connection.reason.startswith("stale"))
            ]
    database.close()
    return found
