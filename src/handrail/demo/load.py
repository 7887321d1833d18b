"""Loads the demo job into the records, once."""

from __future__ import annotations

from pathlib import Path

from handrail import __version__
from handrail.core.building.audit import audit
from handrail.core.building.framing import frame
from handrail.interchange.bundle import read_bundle
from handrail.service.application.remedies import look_for_some
from handrail.service.processes import work as working
from handrail.store import accounts, connections, jobs, revisions, rulebooks, runs, works
from handrail.store.database import writing
from handrail.store.models import Connection, Job, Run
from handrail.store.opening import open_database

HERE = Path(__file__).parent
JOB = "alder-street"
PEOPLE = {
    "engineer": ("alder-street", "engineer"),
    "detailer": ("alder-street", "detailer"),
    "admin": ("alder-street", "admin"),
}


def load(home: Path, remedies: bool = False) -> None:
    """Accounts, the job, its model, its rulebook and a first run; what is there already is left alone. A service looks
    for the `remedies` by itself."""
    database = open_database(home / "records.sqlite")
    with database.connection_context():
        with writing():
            connections.mark_other_engines(__version__)
        job = jobs.find_job(JOB) or _make()
        stale = Connection.select().where((Connection.job == job) & (Connection.stale != "")).exists()
        if stale or not Run.select().where((Run.job == job) & (Run.state == "done")).exists():
            print("sizing every connection of the demo building that a rule takes ...", flush=True)
            run, _ = runs.add(job, "size", "", "engineer")
            while (work := works.claim("demo")) is not None:
                working.do(work, home)
            while remedies and look_for_some():
                pass
            done = Run.get_by_id(run.id)
            print(
                f"run {done.id} {done.state}: "
                + (done.message or ", ".join(f"{n} {s}" for s, n in done.counts.items())),
                flush=True,
            )
    database.close()


def _make() -> Job:
    known = {u["name"] for u in accounts.all_users()}
    for name, (password, role) in PEOPLE.items():
        if name not in known:
            accounts.add_user(name, password, admin=role == "admin")
    building = read_bundle(HERE / "bundle")
    job = jobs.add_job(JOB, building.title, "admin")
    for name, (_, role) in PEOPLE.items():
        accounts.set_role(job, name, role)
    revisions.keep(job, building, audit(building), frame(building), "engineer")
    with writing():
        rulebooks.adopt(
            job, (HERE / "rulebook.yaml").read_text(encoding="utf-8"), {}, "", "Alder Street shop practice", "engineer"
        )
    return Job.get_by_id(job.id)
