"""Lists of what connections are made of, as they stand: plates, bolts, rods, welds; plates as files to cut by."""

from __future__ import annotations

from handrail.core.checking.assembled import assembled
from handrail.core.checking.lists import KINDS, Made, Table, cuts, table
from handrail.interchange.drawings.outlines import outlines
from handrail.interchange.transmittal.zipped import zipped
from handrail.service.application import effort
from handrail.service.application.mark_schedule import Standing, in_order
from handrail.service.application.plans import assigned_of
from handrail.service.application.refused import Refused
from handrail.store.database import rows
from handrail.store.models import Job


def listed(job: Job, kind: str, where: str = "") -> Table:
    """A list by its name, of the connections that a filter leaves. Raises Refused, InputError."""
    if kind not in KINDS:
        raise Refused(404, f"there is no list '{kind}'; there are {', '.join(KINDS)}")
    standing = Standing(job, where)
    return table(kind, made(standing, set(standing.shown)), standing.plan.building.system)


def to_cut(job: Job, where: str = "") -> bytes:
    """A zip with a DXF of every plate. Raises Refused(404) where there is none."""
    standing = Standing(job, where)
    system = standing.plan.building.system
    files = outlines(cuts(made(standing, set(standing.shown))), system)
    if not files:
        raise Refused(404, "no plate is among these connections: there is nothing to cut")
    return zipped(files, {"job": job.name, "title": job.title, "units": "in" if system == "us" else "mm"})


def made(standing: Standing, shown: set[str]) -> list[Made]:
    """Connections that are `shown`, each with its solids: a bolt that holds two stands with one of them."""
    plan, records = standing.plan, standing.records
    levels = dict(rows("SELECT key, level FROM connection WHERE job_id = ?", standing.seen.job.id))
    there = [(assigned_of(plan, key), (records[key].standard, sizes)) for key, sizes in standing.sizes.items()]
    found = []
    for number, joint in enumerate(assembled(plan.building, there)):
        effort.step(number, len(there))
        for key, solids in joint.solids():
            if key in shown:
                found.append(Made(standing.names[standing.mark_of[key]], str(levels.get(key, "")), solids))
    return sorted(found, key=lambda one: (in_order(one.mark), one.level))
