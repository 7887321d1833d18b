"""Does an import: what was sent is read, audited, framed and kept as a revision; nothing is kept of one with errors."""

from __future__ import annotations

import json
from dataclasses import replace
from functools import partial
from pathlib import Path

from handrail.core.building.audit import audit
from handrail.core.building.framing import frame
from handrail.core.building.model import Building, Combination
from handrail.core.checking.doubts import errors_of
from handrail.interchange.incoming import map_in, needs_map, read_model
from handrail.interchange.problems import BundleError
from handrail.service.application.following import follow
from handrail.service.application.plans import rulebook_of
from handrail.store import entries, revisions, works
from handrail.store.database import writing
from handrail.store.models import Import, Job

UPLOADS, COMBINATIONS = "uploads", ".json"
STEPS = (
    "reading the tables",
    "checking that the data is right",
    "framing every joint",
    "verifying what moved, keeping the revision",
)


def do_import(work: Import, home: Path) -> None:
    """Import `work` to its end. Raises Lost where it was cancelled; what is wrong with the bundle stands in its
    record."""
    entries.stand(work.job.name)
    sent = home / UPLOADS / work.file

    def end(number: int) -> None:
        works.hold(work)
        works.finish(work, "done", revision=number, done=len(STEPS))
        if column_map:
            Job.update(column_map=column_map).where(Job.id == work.job_id).execute()

    column_map = ""
    try:
        _step(work, 0)
        if sent.suffix == COMBINATIONS:
            building = _recombined(work, sent)
        else:
            column_map = map_for(work, sent)
            building = read_model(sent, column_map, work.name)
        _step(work, 1)
        audited = audit(building)
        _step(work, 2)
        framing = frame(building)
        _step(work, 3)
        within = rulebook_of(work.job).same_place
        going_on = partial(follow, work.job, errors=errors_of(f.as_dict() for f in audited.findings))
        revisions.keep(
            work.job, building, audited, framing, work.author, lambda: works.beat(work), end, going_on, within
        )
    except BundleError as exc:
        told = [
            replace(p, file=work.name) if p.file == sent.name else p for p in exc.problems
        ]  # by the name that it was sent under
        with writing():
            works.finish(work, "failed", str(BundleError(told, exc.more)), problems=[p.as_dict() for p in told])


def _recombined(work: Import, sent: Path) -> Building:
    """The job's model with other combinations: those that were kept as JSON."""
    combinations = tuple(
        Combination(c["name"], c["set"], c["method"], tuple((case, float(f)) for case, f in c["terms"]))
        for c in json.loads(sent.read_text())
    )
    building = revisions.building_of(revisions.latest(work.job))
    return replace(building, combinations=combinations)


def map_for(work: Import, sent: Path) -> str:
    """The column map that it is read through: its own, the one that was sent beside the tables, or the one that the
    job's last model came in through; none for a bundle."""
    return str(
        work.column_map or map_in(sent, work.name) or (work.job.column_map if needs_map(sent, work.name) else "")
    )


def _step(work: Import, number: int) -> None:
    works.progress(work, number, len(STEPS), STEPS[number])
