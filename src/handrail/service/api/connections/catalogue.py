"""Standards, sections and grades: what needs no job."""

from __future__ import annotations

from handrail.core.catalogue import Section, all_sections
from handrail.core.catalogue.grades import all_grades, grade
from handrail.core.catalogue.tables import key
from handrail.core.standards import STANDARDS
from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api.auth import caller, job_for
from handrail.service.api.connections import answers as c
from handrail.service.api.connections import requests as q
from handrail.service.application import present
from handrail.store import entries

api = blueprint("catalogue", "standards, sections and grades")


@api.get("/standards", responses={200: a.Page[c.Standard]})
def list_standards(query: q.StandardsQuery) -> Reply:
    """Every standard with its parameters; of a job with what of the house's catalogue is that job's alone."""
    caller()
    if query.job:
        entries.stand(job_for(query.job).name)
    listed = [present.standard(x) for x in STANDARDS.values()]
    return {"items": listed, "total": len(listed), "next": None}


@api.get("/sections", responses={200: a.Page[Section]})
def list_sections(query: q.SectionQuery) -> Reply:
    """Sections whose name holds the text; mm, mm^2, mm^3, mm^4, kg/m."""
    caller()
    listed = [x for x in all_sections() if key(query.text) in key(x.name)]
    return {"items": [x.__dict__ for x in listed[: query.limit]], "total": len(listed), "next": None}


@api.get("/grades", responses={200: a.Page[c.Grade]})
def list_grades() -> Reply:
    """Grades of steel for members and plates, MPa; `use` says whether one is for shapes or hollow sections alone."""
    caller()
    listed = [g.__dict__ for g in map(grade, all_grades())]
    return {"items": listed, "total": len(listed), "next": None}
