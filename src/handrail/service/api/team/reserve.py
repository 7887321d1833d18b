"""Connections with much in reserve."""

from __future__ import annotations

from handrail.service.api import Reply, blueprint
from handrail.service.api import requests as s
from handrail.service.api.auth import job_for
from handrail.service.api.long import long
from handrail.service.api.team import answers as t
from handrail.service.api.team import requests as q
from handrail.service.application.reserves import reserves_of

api = blueprint("reserve", "what would do with less")


@api.get("/jobs/<string:job>/reserve", responses={200: t.Reserves})
@long()
def get_reserve(path: s.JobPath, query: q.ReserveQuery) -> Reply:
    """Passing connections of which less than `below` is used, those alike together: what less would pass for all of
    them, what that saves times their count, and the parts that hardly work. Worked out as it is asked; nothing is kept.
    Those whose bolts hold the beam opposite too are left out."""
    count, items = reserves_of(job_for(path.job), query.below, query.where)
    return {"connections": count, "items": items}
