"""Groups: connections that people put together by picking, by a filter or by a box in the model."""

from __future__ import annotations

from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api import requests as s
from handrail.service.api.auth import caller, job_for
from handrail.service.api.long import long
from handrail.service.api.models import answers as m
from handrail.service.api.models import requests as q
from handrail.service.application import standing
from handrail.service.application.refused import Refused
from handrail.store import groups, listing
from handrail.store.models import Group, Job

api = blueprint("groups", "connections that people put together")


def _found(job: Job, name: str) -> Group:
    group = groups.find(job, name)
    if group is None:
        names = ", ".join(g["name"] for g in groups.listed(job)) or "none"
        raise Refused(404, f"there is no group '{name}' in '{job.name}'; it has {names}")
    return group


@api.get("/jobs/<string:job>/groups", responses={200: a.Page[m.Group]})
def list_groups(path: s.JobPath) -> Reply:
    """Every group, with how its connections stand. Lists and runs take one by the filter `group=NAME`."""
    listed = groups.listed(job_for(path.job))
    return {"items": listed, "total": len(listed), "next": None}


@api.get("/jobs/<string:job>/groups/<path:group>", responses={200: m.GroupInFull})
def get_group(path: q.GroupPath) -> Reply:
    """One group: its connections, the sizes that they have in common and those in which they differ."""
    job = job_for(path.job)
    return groups.in_full(job, _found(job, path.group))


@api.put("/jobs/<string:job>/groups/<path:group>", responses={200: m.GroupInFull})
@long(keeps=False)
def put_group(path: q.GroupPath, body: q.GroupOf) -> Reply:
    """Make a group, or change it: its connections by name, by a filter, or both."""
    job = job_for(path.job, "detailer")
    keys = set(body.connections) | (listing.keys(job, body.where) if body.where else set())
    if not keys and body.how != "replace":
        raise Refused(422, "connections: name some, or give a filter that leaves some")
    if not keys and groups.find(job, path.group) is None:
        raise Refused(
            422,
            (
                "connections: a group is made of some; the filter leaves none"
                if body.where
                else "connections: a group is made of some"
            ),
        )

    def put() -> Group:
        made = groups.put(job, path.group, keys, body.how, caller().name)
        standing.settle(job, ("group",), f"group {path.group} was changed, which rules ask for")
        return made

    return groups.in_full(job, standing.settled(put))


@api.delete("/jobs/<string:job>/groups/<path:group>", responses={204: None})
@long(keeps=False)
def drop_group(path: q.GroupPath) -> Reply:
    """Take a group away; its connections stay as they are."""
    job = job_for(path.job, "detailer")

    def drop() -> None:
        if not groups.drop(job, path.group):
            _found(job, path.group)
        standing.settle(job, ("group",), f"group {path.group} was taken away, which rules ask for")

    standing.settled(drop)
    return "", 204
