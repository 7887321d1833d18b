"""A toy endpoint as docs/guides.md makes one: the connection of a job that is used most."""

from __future__ import annotations

from pydantic import BaseModel, Field

from handrail.service.api import Reply, blueprint
from handrail.service.api import requests as s
from handrail.service.api.auth import job_for
from handrail.service.application.refused import Refused
from handrail.store.database import reading
from handrail.store.models import Connection

api = blueprint("busiest", "a toy")


class Busiest(BaseModel):
    """What it answers."""

    connection: str
    utilisation: float = Field(description="demand over strength")


@api.get("/jobs/<string:job>/busiest", responses={200: Busiest})
def get_busiest(path: s.JobPath) -> Reply:
    """The connection that is used most."""
    job = job_for(path.job)
    with reading():
        sized = Connection.select().where((Connection.job == job) & (Connection.standard != ""))
        first = sized.order_by(Connection.utilisation.desc(), Connection.key).first()
    if first is None:
        raise Refused(404, f"nothing of '{job.name}' is sized yet: run it")
    return {"connection": first.key, "utilisation": first.utilisation}
