"""Groups: connections that people put together, alike or not, kept through revisions by their members' ends."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable
from typing import Any

from handrail.core.errors import InputError
from handrail.core.standards import STANDARDS
from handrail.store import bulk
from handrail.store.connections import sizes_of
from handrail.store.database import rows, writing
from handrail.store.jobs import move, system_of
from handrail.store.models import Connection, Group, GroupMember, Job

LONGEST = 80
_KEYS = "SELECT c.key FROM groupmember m JOIN connection c ON c.id = m.connection_id WHERE m.group_id = ? ORDER BY c.id"


def listed(job: Job) -> list[dict[str, Any]]:
    """Every group of a job with how its connections stand."""
    return [_brief(group) for group in Group.select().where(Group.job == job).order_by(Group.name)]


def _brief(group: Group) -> dict[str, Any]:
    counted = rows(
        "SELECT c.status, count(*) FROM groupmember m JOIN connection c ON c.id = m.connection_id WHERE m.group_id = ?"
        " GROUP BY c.status",
        group.id,
    )
    statuses = dict(counted)
    return {
        "name": group.name,
        "author": group.author,
        "made": group.made,
        "connections": sum(statuses.values()),
        "statuses": statuses,
    }


def find(job: Job, name: str) -> Group | None:
    return Group.get_or_none((Group.job == job) & (Group.name == name))


def in_full(job: Job, group: Group) -> dict[str, Any]:
    """A group with its connections, the sizes that they have in common and those in which they differ: value -> how
    many."""
    own = list(
        Connection.select()
        .join(GroupMember, on=GroupMember.connection == Connection.id)
        .where(GroupMember.group == group)
        .order_by(Connection.id)
    )
    system, values = system_of(job), defaultdict[str, Counter[str]](Counter)
    for c in own:
        for name, said in (
            ("framing", c.framing),
            ("section", c.section),
            ("support_section", c.support_section),
            ("standard", c.standard),
        ):
            values[name][said] += 1
        standard = STANDARDS.get(c.standard)
        for name, sized in sizes_of(c).items() if standard else ():
            if standard and name in {p.name for p in standard.parameters}:
                values[name][standard.parameter(name).show(sized.value, system)] += 1
    common = {name: next(iter(said)) for name, said in values.items() if len(said) == 1 and said.total() == len(own)}
    differ = {name: dict(said.most_common()) for name, said in values.items() if name not in common}
    return _brief(group) | {"keys": [c.key for c in own], "common": common, "differ": differ}


def put(job: Job, name: str, keys: Iterable[str], how: str, author: str) -> Group:
    """Set the connections of a group, `add` some to it or `take` some out; made where it is not there. Raises
    InputError."""
    name = name.strip()
    if not name or len(name) > LONGEST or '"' in name or not name.isprintable():
        raise InputError(f"name: a group has a name of 1 to {LONGEST} characters without double quotes")
    wanted = set(keys)
    known = dict(rows("SELECT key, id FROM connection WHERE job_id = ?", job.id))
    if unknown := sorted(wanted - known.keys()):
        raise InputError(f"connections: there is no connection '{unknown[0]}' in '{job.name}'")
    with writing():
        group = find(job, name) or Group.create(job=job, name=name, author=author)
        had = {key for (key,) in rows(_KEYS, group.id)}
        now = wanted if how == "replace" else had | wanted if how == "add" else had - wanted
        for start in range(0, len(had - now), 500):
            gone = [known[k] for k in sorted(had - now)[start : start + 500]]
            GroupMember.delete().where((GroupMember.group == group) & GroupMember.connection.in_(gone)).execute()
        bulk.insert(GroupMember, ({"group": group.id, "connection": known[k]} for k in sorted(now - had)))
        move(job.id)
    return group


def drop(job: Job, name: str) -> bool:
    """Take a group away, its connections stay; False where it is not there."""
    with writing():
        group = find(job, name)
        if group is not None:
            group.delete_instance(recursive=True)
            move(job.id)
    return group is not None
