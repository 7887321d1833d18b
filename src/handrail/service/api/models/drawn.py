"""The model in parts, for whoever draws it."""

from __future__ import annotations

from handrail.service.api import Reply, blueprint
from handrail.service.api import requests as s
from handrail.service.api.auth import job_for
from handrail.service.api.long import long
from handrail.service.api.models import answers as m
from handrail.service.application import drawn

api = blueprint("drawn", "the model in parts, for whoever draws it")


@api.get("/jobs/<string:job>/model/shape", responses={200: m.ModelShape})
@long(by_role=False)
def get_shape(path: s.JobPath) -> Reply:
    """The first part of a model, column by column: where its nodes are, which two each member joins, its section. It is
    the same as long as the revision is."""
    return drawn.shape(job_for(path.job))


@api.get("/jobs/<string:job>/model/states", responses={200: m.ModelStates})
@long(by_role=False)
def get_states(path: s.JobPath) -> Reply:
    """The second part: how each connection stands, of which member's end it is. It changes as the job moves."""
    return drawn.states(job_for(path.job))


@api.get("/jobs/<string:job>/model/names", responses={200: m.ModelNames})
@long(by_role=False)
def get_names(path: s.JobPath) -> Reply:
    """The third part: what nodes and members are called, in the order of the shape, and what else is told of them. It
    is the same as long as the revision is."""
    return drawn.names(job_for(path.job))
