"""Standards, sections and trials: what needs no job."""

from __future__ import annotations

from flask import request

from handrail.core.catalogue import Section, all_sections
from handrail.core.catalogue.tables import key
from handrail.core.checking.trial import read_trial
from handrail.core.errors import InputError
from handrail.core.standards import STANDARDS
from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api.auth import caller
from handrail.service.api.connections import answers as c
from handrail.service.api.connections import requests as q
from handrail.service.application import present
from handrail.service.application.refused import Refused

api = blueprint("catalogue", "standards, sections and trials")


@api.get("/standards", responses={200: a.Page[c.Standard]})
def list_standards() -> Reply:
    """Every standard with its parameters."""
    caller()
    listed = [present.standard(x) for x in STANDARDS.values()]
    return {"items": listed, "total": len(listed), "next": None}


@api.get("/sections", responses={200: a.Page[Section]})
def list_sections(query: q.SectionQuery) -> Reply:
    """Sections whose name holds the text; mm, mm^2, mm^3, mm^4, kg/m."""
    caller()
    listed = [x for x in all_sections() if key(query.text) in key(x.name)]
    return {"items": [x.__dict__ for x in listed[: query.limit]], "total": len(listed), "next": None}


@api.post("/trial", responses={200: c.Trial})
def try_one(body: q.TrialBody) -> Reply:
    """One connection given whole, as the trial file; nothing is kept."""
    caller()
    data = {k: v for k, v in (request.get_json(silent=True) or {}).items() if k not in ("trace", "units")}
    try:
        trial = read_trial(data)
    except InputError as exc:
        raise Refused(422, exc.said(body.units)) from exc
    answer = trial.answer(trial.run(body.trace), body.units, body.trace)
    return answer | {"drawing": trial.standard.draw(trial.situation, trial.sizes).as_dict()}
