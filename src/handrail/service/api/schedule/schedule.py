"""The schedule by marks, and fewer marks."""

from __future__ import annotations

from typing import Any

from flask import Response
from pydantic import Field

from handrail.interchange.sheet import WORKBOOK, as_csv, as_workbook
from handrail.service.api import Reply, blueprint
from handrail.service.api import requests as s
from handrail.service.api.auth import job_for
from handrail.service.api.choosing import chosen
from handrail.service.api.long import long
from handrail.service.api.schedule import answers as sc
from handrail.service.api.schedule import requests as q
from handrail.service.application import mark_schedule as scheduling
from handrail.service.application import parts_lists
from handrail.service.application.refused import Refused

api = blueprint("schedule", "marks and their schedule")


@api.get("/jobs/<string:job>/schedule", responses={200: sc.Schedule})
@long(by_role=False)
def get_schedule(path: s.JobPath, query: q.ScheduleQuery) -> Reply:
    """A row a mark: connections that are the same pieces as fabricated; a mark is theirs for good."""
    return scheduling.schedule(job_for(path.job), query.where)


@api.get("/jobs/<string:job>/schedule.<string:kind>", responses={200: None})
@long()
def schedule_file(path: s.TablePath, query: q.ScheduleQuery) -> Response:
    """The same as `csv` or `xlsx`, weights in the job's units."""
    job = job_for(path.job)
    if path.kind not in ("csv", "xlsx"):
        raise Refused(404, f"a schedule is csv or xlsx, not {path.kind}")
    head, rows = scheduling.as_table(scheduling.schedule(job, query.where))
    body: Any = as_csv(head, rows) if path.kind == "csv" else as_workbook("schedule", head, rows)
    media = "text/csv" if path.kind == "csv" else WORKBOOK
    return Response(
        body, mimetype=media, headers={"Content-Disposition": f'attachment; filename="{job.name}-schedule.{path.kind}"'}
    )


class ListPath(s.JobPath):
    of: str = Field(description="plates, bolts, rods, welds, parts, ends or holes")
    kind: str = Field(description="csv or xlsx; of plates also zip: a DXF each, to cut by")


@api.get("/jobs/<string:job>/lists/<string:of>.<string:kind>", responses={200: None})
@long(by_role=False)
def parts_list(path: ListPath, query: q.ScheduleQuery) -> Response:
    """What connections are made of, counted from their solids, by mark: plates and angles, bolts by diameter, length
    and level (one that holds two connections once), rods, welds by size and length; `parts` of each mark. What they do
    to members: `ends` (what is taken off, end cuts, copes), `holes` by face."""
    job = job_for(path.job)
    name = f'attachment; filename="{job.name}-{path.of}.{path.kind}"'
    if path.of == "plates" and path.kind == "zip":
        body: Any = parts_lists.to_cut(job, query.where)
        return Response(body, mimetype="application/zip", headers={"Content-Disposition": name})
    if path.kind not in ("csv", "xlsx"):
        raise Refused(404, f"a list is csv or xlsx, and plates also zip; not {path.kind}")
    head, rows = parts_lists.listed(job, path.of, query.where)
    body = as_csv(head, rows) if path.kind == "csv" else as_workbook(path.of, head, rows)
    media = "text/csv" if path.kind == "csv" else WORKBOOK
    return Response(body, mimetype=media, headers={"Content-Disposition": name})


@api.get("/jobs/<string:job>/schedule/fewer", responses={200: sc.Consolidation})
@long()
def get_fewer(path: s.JobPath) -> Reply:
    """What fewer marks would cost: merges that keep every check passing, the cheapest first; worked out as it is asked,
    nothing is kept. A merge is kept as a change of many, on its connections."""
    return scheduling.consolidation(job_for(path.job))


@api.post("/jobs/<string:job>/as-one", responses={200: sc.AsOne})
@long()
def size_as_one(path: s.JobPath, body: s.Chosen) -> Reply:
    """One set of sizes for a pattern, a group or other connections, checked for every one's own forces, the worst
    reported; nothing is kept: `changes` as a change of many does."""
    job = job_for(path.job)
    return scheduling.sized_as_one(job, chosen(job, body))
