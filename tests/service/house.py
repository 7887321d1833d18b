"""The service in the test's own process, and whether what it shows is true."""

from __future__ import annotations

import atexit
import io
import secrets
import shutil
import tempfile
import threading
from collections import Counter
from dataclasses import asdict
from functools import lru_cache
from pathlib import Path
from typing import Any

from handrail.core import ledger as chain
from handrail.interchange.archive import zip_folder
from handrail.service.api.app import create_app
from handrail.service.application import looking
from handrail.service.application.plans import look_at, plan_of
from handrail.service.processes import work as working
from handrail.store import accounts, attachments, connections, jobs, ledger, overrides, packing, works
from handrail.store.database import proxy
from handrail.store.models import Connection, Job, PatternEdit, Revision
from tests.bundles import Tables, crowded, small, write

BOOK = """rulebook: 1
practice: {target_utilisation: %s}
rules:
  - name: All
    when: {framing: [beam_to_column_flange, beam_to_column_web, beam_to_girder], released: true}
    use: single_plate
    set: {plate_thickness: %s}
"""
LABELLED = """rulebook: 1
tables:
  beams: {by: supported.section, match: prefix, rows: [{supported.section: W, rows: 3}]}
rules:
  - {name: Rush, when: {tag: rush}, use: single_plate, set: {plate_thickness: 1/2 in}}
  - {name: Grouped, when: {group: some, pattern: [P1, P2]}, use: single_plate, sizes: beams}
  - {name: Second, when: {sequence: "2", "V@strength": "> 0 kip"}, use: double_angle}
  - {name: All, use: single_plate}
"""
FACTS = """rulebook: 1
tables:
  deep: {by: [supported.depth, released], match: {supported.depth: range}, rows: [{supported.depth: "< 16 in", released: "true", rows: 3},
         {supported.depth: "> 16 in", released: "true", rows: 4}]}
  loaded: {by: V, match: range, rows: [{V: "< 12 kip", plate_thickness: 1/4 in}, {V: ">= 12 kip", plate_thickness: 3/8 in}]}
rules:
  - {name: Tagged, when: {tag: rush, skew: "< 5 deg"}, use: single_plate, set: {rows: "= look_up(deep, rows)"}}
  - {name: Deep, when: {row_in: deep, framing: beam_to_girder, support_end: false}, use: single_plate, sizes: [deep, loaded]}
  - {name: Rest, when: {released: true}, use: double_angle}
"""  # noqa: E501
BOOKS = [*(BOOK % pair for pair in (("0.95", "1/4 in"), ("1.0", "3/8 in"), ("0.5", "5/16 in"))), LABELLED, FACTS]


def bundle(folder: Path, factor: float, tables: Tables | None = None) -> bytes:
    """The small bay, or another one, under `factor` times its loads, zipped."""
    tables = tables or small()
    for row in tables["end_forces"]:
        for name in ("Fy", "Mz"):
            row[name] = float(row[name]) * factor
    path = folder / f"{factor}"
    zip_folder(write(tables, path), folder / f"{factor}.zip")
    return (folder / f"{factor}.zip").read_bytes()


class House:
    """The service in this process: calls by several threads, runs by one more."""

    imports: dict[int, bytes]  # what was sent, by the number of the import
    token = ""
    records: Any = None

    def __init__(self, home: Path) -> None:
        ready = _made()
        shutil.copytree(ready.home, home, dirs_exist_ok=True)
        self.home, self.app, self.zips, self.token = home, create_app(home), ready.zips, ready.token
        self.imports, self.records = dict(ready.imports), proxy.obj
        with proxy.connection_context():  # what a process keeps of a revision goes by its token: this is another one
            Revision.update(token=secrets.token_hex(8)).execute()

    @classmethod
    def anew(cls, home: Path) -> House:
        """An account, a job, its rulebook and its first model, made by calls."""
        made = object.__new__(cls)
        made.home, made.app, made.imports = home, create_app(home), {}
        made.records = proxy.obj
        made.zips = [*(bundle(home, f) for f in (1.0, 6.0, 1.02)), bundle(home, 0.98, crowded(44.0))]
        with proxy.connection_context():
            accounts.add_user("ann", "long-enough", admin=True)
        made.token = made.call("POST", "/tokens", json={"name": "ann", "password": "long-enough"}).json["token"]
        made.call("POST", "/jobs", json={"name": "bay"})
        made.call("PUT", "/jobs/bay/rulebook", json={"text": BOOKS[0]})
        made.upload(0)
        made.close()
        return made

    def call(self, method: str, path: str, **more: Any):
        self._open()
        headers = {"Authorization": f"Bearer {self.token}"} | more.pop("headers", {}) if self.token else {}
        return self.app.test_client().open(f"/api/v1{path}", method=method, headers=headers, **more)

    def upload(self, which: int) -> dict[str, Any]:
        return self.send(self.zips[which])

    def send(self, content: bytes) -> dict[str, Any]:
        """A bundle sent and read; the import as it ended."""
        data = {"bundle": (io.BytesIO(content), "b.zip")}
        sent = self.call("POST", "/jobs/bay/imports", data=data, content_type="multipart/form-data")
        assert sent.status_code == 202, sent.json
        self.imports[sent.json["id"]] = content
        self.work()
        return self.call("GET", f"/jobs/bay/imports/{sent.json['id']}").json

    def run(self, **body: Any) -> None:
        if self.call("POST", "/jobs/bay/runs", json=body).status_code == 202:
            self.work()

    def work(self) -> None:
        """What waits is done, as a worker does it."""
        self._open()
        with proxy.connection_context():
            while (work := works.claim(f"here {threading.get_ident()}")) is not None:
                working.do(work, self.home)

    def look(self) -> None:
        """What decisions rest on is looked at again, as a worker does it."""
        with proxy.connection_context():
            while looking.look_at_one():
                pass

    def _open(self) -> None:
        """Its own records, as another house in this process may have opened others since."""
        if self.records is None:
            self.records = proxy.obj
        elif proxy.obj is not self.records:
            proxy.initialize(self.records)

    def close(self) -> None:
        if self.records is not None and not self.records.is_closed():
            self.records.close()


@lru_cache(maxsize=1)
def _made() -> House:
    """One that is made once in a process, and copied by every other."""
    folder = tempfile.mkdtemp()
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    return House.anew(Path(folder) / "home")


def false_results(job: Job) -> list[str]:
    """What is shown and would come out otherwise now."""
    seen = look_at(job)
    plan, found = plan_of(seen), []
    said = Counter(row.connection for row in overrides.framed(job))
    for record in Connection.select().where(Connection.job == job):
        framed = plan.framing.connections[plan.index[record.key]]
        stored = record.framing, record.words, record.facts, record.pieces, record.relations
        if stored != (
            framed.framing,
            framed.reason,
            framed.facts | {"place": record.facts["place"]},
            [packing.piece(plan.building, p) for p in framed.pieces],
            [asdict(r) for r in framed.relations],
        ):
            found.append(
                f"{record.key} is shown as {record.framing}, {record.words}; it is {framed.framing}, {framed.reason}"
            )
        if record.overridden != len(seen.overrides.get(record.key, {})) + said[record.key]:
            found.append(f"{record.key} counts {record.overridden} overrides")
        if not record.digest:
            if record.status in ("pass", "fail"):
                found.append(f"{record.key} is {record.status} and rests on nothing")
            continue
        stored = {record.key: connections.sizes_of(record)} if record.made == "verified" else None
        beside = plan.at_joint({record.key}) - {record.key}
        made = {key: (s.standard, s.sizes) for key, s in connections.standing(job, beside).items()}
        outcome = plan.work({record.key}, stored, beside=made).get(plan.index[record.key])
        if outcome and [c.as_dict() for c in outcome.collides] != record.collides:
            found.append(f"{record.key}: shown to stand in {record.collides}, afresh {outcome.collides}")
        asks = record.status == "unchecked" and record.asks  # by others, until somebody has looked again
        shown = ("elsewhere" if asks else record.status, round(record.utilisation, 9), record.check_name)
        afresh = (
            (outcome.status, round(outcome.utilisation, 9), outcome.check)
            if outcome
            else (plan.assigned[plan.index[record.key]].status, 0.0, "")
        )
        if shown != afresh or (
            outcome
            and {n: s.value for n, s in outcome.sizes.items()}
            != {n: s.value for n, s in connections.sizes_of(record).items()}
        ):
            found.append(f"{record.key}: shown {shown}, afresh {afresh}")
    return found


def false_decisions(job: Job) -> list[str]:
    """What is wrong with the record of decisions: the ledger's chain, records that say otherwise, looks that are due
    and not asked for, releases of what does not pass."""
    found = [*chain.faults(ledger.entries(job)), *ledger.disagreements(job), *attachments.changed(job)]
    if not jobs.look_due(job):
        held, applied = overrides.all_holding(job), overrides.applied(job)
        for o, now, look in looking._found(look_at(job), held, applied):
            if look != o.look or now != o.present:
                found.append(f"override {o.id} of {o.connection} asks {o.look}, and should {look}; {o.present} / {now}")
    for c in Connection.select().where((Connection.job == job) & (Connection.released != "")):
        if c.status not in ("pass", "elsewhere"):
            found.append(f"{c.key} is released and {c.status}")
    return found


def afresh(house: House, folder: Path) -> list[str]:
    """What another service, in another home, makes otherwise of the same model, rulebook, labels and decisions, told to
    it through its API."""
    keep = ("status", "rule", "standard", "summary", "check", "framing", "support")
    job, rows = house.call("GET", "/jobs/bay").json, house.call("GET", "/jobs/bay/connections").json["items"]
    book, groups = house.call("GET", "/jobs/bay/rulebook").json, house.call("GET", "/jobs/bay/groups").json["items"]
    held = sorted(
        house.call("GET", "/jobs/bay/overrides?state=holding").json["items"],
        key=lambda o: (o["parameter"] not in ("framing", "support"), o["id"]),
    )
    members = {g["name"]: house.call("GET", f"/jobs/bay/groups/{g['name']}").json["keys"] for g in groups}
    with proxy.connection_context():
        edits = {e.joint: e.beside for e in PatternEdit.select()}
    said = {(o["connection"], o["parameter"]): o for o in held}
    revision = job["revision"]["number"]
    sent = next(
        of
        for number, of in house.imports.items()
        if house.call("GET", f"/jobs/bay/imports/{number}").json["revision"] == revision
    )
    waiting = {r["connection"] for r in rows if r["reason"].startswith(overrides.ASKS)}
    folder.mkdir()
    proxy_before, other = proxy.obj, House(folder)
    try:
        other.send(sent)
        if book["text"]:
            other.call("PUT", "/jobs/bay/rulebook", json={"text": book["text"]})
        other.call("PATCH", "/jobs/bay", json={"method": job["method"], "combination_set": job["combination_set"]})
        for joint, beside in edits.items():
            other.call("PUT", f"/jobs/bay/joints/{joint}/pattern", json={"beside": beside, "reason": "so"})
        for name, keys in members.items():
            other.call("PUT", f"/jobs/bay/groups/{name}", json={"connections": keys, "how": "add"})
        for r in rows:
            other.call(
                "POST",
                "/jobs/bay/labels",
                json={
                    "connections": [r["connection"]],
                    "add": r["tags"],
                    "person": r["person"],
                    "sequence": r["sequence"],
                },
            )
        other.run()
        for o in said.values():
            body = {"parameter": o["parameter"], "value": o["value"], "reason": "so"}
            other.call("POST", f"/jobs/bay/connections/{o['connection']}/overrides", json=body)
        other.run()
        theirs = {r["connection"]: r for r in other.call("GET", "/jobs/bay/connections").json["items"]}
        kept = {
            (o["connection"], o["parameter"])
            for o in other.call("GET", "/jobs/bay/overrides?state=holding").json["items"]
        }
    finally:
        other.close()
        proxy.initialize(proxy_before)
    left_out = {key for key, parameter in said.keys() - kept}  # refused by itself, and made together with another one
    found = []
    for r in rows:
        then = theirs[r["connection"]]
        if r["connection"] in waiting or left_out:
            continue
        if any(r[name] != then[name] for name in keep) or abs(r["utilisation"] - then["utilisation"]) > 1e-9:
            found.append(
                f"{r['connection']}:"
                f" {[(n, r[n], then[n]) for n in (*keep, 'utilisation', 'reason') if r[n] != then[n]]}"
            )
    return found
