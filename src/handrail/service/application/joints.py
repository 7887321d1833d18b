"""The whole joint of a connection as solids: what each of its connections is made of, how far that is used, what stands
in what."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from manifold3d import Manifold

from handrail.core.checking.assembled import Assembled, assembled
from handrail.core.checking.assigning import Assigned
from handrail.core.checking.colliding import Colliding, colliding
from handrail.core.checking.plan import Plan
from handrail.core.checking.result import CEILING
from handrail.core.drawing.scene import Scene
from handrail.core.joint.situation import SUPPORT, SUPPORTED
from handrail.core.quantities.words import said
from handrail.core.solids import bodies
from handrail.core.solids.collisions import body_of
from handrail.core.solids.pieces import Bar, Solids
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import Sizes
from handrail.service.application import changing
from handrail.service.application.in_space import Drawn, sizes_of, used
from handrail.service.application.kept import Kept, kept
from handrail.service.application.plans import Seen, plan_around
from handrail.service.application.refused import Refused
from handrail.store import connections
from handrail.store.models import Connection, Job

SAME = 0.5  # of a member's end: what two connections have of it is one where they share so much
Data = dict[str, Any]


@dataclass(frozen=True)
class _Stood:
    """A connection of the joint: by which standard with which sizes, and how it stands."""

    assigned: Assigned
    standard: str
    sizes: Sizes
    status: str
    utilisation: float
    reason: str


def of_connection(seen: Seen, record: Connection) -> Data:
    """The joint as it stands. Inside the transaction that read `seen` and `record`. Raises Refused(404) where the
    connection has no solids."""
    plan = plan_around(seen, record)
    return _joint(plan, record, _standing(plan, record))


def made_with(stands: Kept) -> dict[str, list[str]]:
    """part -> the sizes that it changes with, its own first. Raises Refused(404) where it has none."""
    if not stands.sizes or stands.assigned.situation is None:
        raise Refused(404, f"connection '{stands.record.key}' has no sizes: {stands.record.reason or 'run the job'}")
    return sizes_of(stands.record.standard, stands.assigned.situation, stands.sizes)


def drawing(seen: Seen, record: Connection) -> Data:
    """The views of a connection with the others of its joint, as plain data. Inside the transaction that read `seen`
    and `record`. Raises Refused(404) where it has none."""
    stands = kept(plan := plan_around(seen, record), record)
    if not stands.sizes or stands.assigned.situation is None:
        raise Refused(404, f"connection '{record.key}' has no sizes: {record.reason or 'run the job'}")
    standard, situation = STANDARDS[record.standard], stands.assigned.situation
    solids = replace(standard.solids(situation, stands.sizes), beside=beside(plan, record))
    views = standard.views(situation, stands.sizes, plan.building.system, solids)
    return Scene([laid.fitted() for laid in views]).as_dict()


def beside(plan: Plan, record: Connection) -> tuple[Manifold, ...]:
    """What others of a connection's joint bring, as it stands in the connection's own axes: their pieces, bolts and
    rods, and the members that are none of its own."""
    standing = [(s.assigned, (s.standard, s.sizes)) for _, s in sorted(_standing(plan, record).items())]
    joint = next(iter(assembled(plan.building, standing)), None)
    if joint is None or record.key not in joint.keys:
        return ()
    own = {piece.member for piece in plan.framing.connections[plan.index[record.key]].pieces}
    made = joint.solids()
    others = [body for number, (_, body) in _members(plan, made).items() if number not in own]
    for key, solids in made:
        if key != record.key:
            others += [body_of(solid) for solid in (*solids.pieces, *solids.bolts, *solids.rods)]
    return tuple(joint.seen_body(record.key, body) for body in others)


def with_changes(job: Job, key: str, wanted: Mapping[str, Any]) -> Data:
    """The joint with other sizes of a connection; nothing is kept. Raises Refused, InputError."""
    worked = changing.work_out(job, key, wanted)
    plan, there = worked.plan, _standing(worked.plan, worked.record)
    for k, outcome in (worked.outcomes | dict(worked.results.mates.outcomes)).items():
        assigned = plan.assigned[k]
        if assigned.rule is not None and outcome.sizes:
            stands = outcome.status, outcome.utilisation, outcome.reason
            own = _Stood(assigned, assigned.rule.use, outcome.sizes, *stands)
            there[assigned.connection.id] = own
    return _joint(plan, worked.record, there)


def _standing(plan: Plan, record: Connection) -> dict[str, _Stood]:
    """The connections of a joint that have sizes, as they are kept."""
    keys = plan.at_joint({record.key})
    found = {}
    for key, of in connections.of_keys(record.job, keys).items():
        stands = kept(plan, of)
        if stands.sizes:
            found[key] = _Stood(stands.assigned, of.standard, stands.sizes, of.status, of.utilisation, of.reason)
    return found


def _joint(plan: Plan, record: Connection, there: Mapping[str, _Stood]) -> Data:
    """As plain data, mm about its node, along the building's axes."""
    building, node = plan.building, plan.framing.connections[plan.index[record.key]].node
    standing = [(s.assigned, (s.standard, s.sizes)) for _, s in sorted(there.items())]
    joint = next(iter(assembled(building, standing)), None)
    if joint is None or record.key not in joint.keys:
        raise Refused(404, f"connection '{record.key}' has no solids: {record.reason or 'it has no sizes'}")
    x, y, z = (float(v) for v in building.xyz[node])
    found = colliding(building, standing, plan.overrides)
    own = there[record.key]
    assert own.assigned.situation is not None
    made = joint.solids()
    drawn = Drawn((x, y, z), building.system)
    return {
        "joint": record.joint,
        "connection": record.key,
        "system": building.system,
        "connections": [_connection(plan, there[key], key, solids, drawn) for key, solids in made],
        "members": [drawn.member(building.members[k].name, *body) for k, body in _members(plan, made).items()],
        "collisions": [
            _collision(joint, key, c, there[key].assigned.connection.framing, drawn)
            for key, some in sorted(found.items())
            for c in some
            if key < c.other
        ],
        "sizes": sizes_of(own.standard, own.assigned.situation, own.sizes),
    }


def _connection(plan: Plan, stood: _Stood, key: str, solids: Solids, drawn: Drawn) -> Data:
    return {
        "connection": key,
        "standard": stood.standard,
        "framing": stood.assigned.connection.framing,
        "status": stood.status,
        "utilisation": round(min(stood.utilisation, CEILING), 4),
        "reason": stood.reason,
        **used(plan.look(stood.assigned, stood.sizes)),
        "solids": drawn.solids(solids),
    }


def _members(plan: Plan, made: list[tuple[str, Solids]]) -> dict[int, tuple[Bar, Manifold]]:
    """member of the building -> what the joint has of it, with what every connection takes off and drills."""
    found: dict[int, tuple[Bar, Manifold]] = {}
    for key, solids in made:
        connection = plan.framing.connections[plan.index[key]]
        for bar, role in zip(solids.members, (SUPPORTED, SUPPORT), strict=False):
            number = next((p.member for p in connection.pieces if p.role == role), None)
            if number is None:
                continue
            body = bodies.body(bar)
            if number in found:
                other, theirs = found[number]
                both = body ^ theirs
                if both.volume() < SAME * min(body.volume(), theirs.volume()):
                    continue
                bar, body = replace(other, length=min(bar.length, other.length)), both
            found[number] = bar, body
    return found


def _collision(joint: Assembled, key: str, c: Colliding, framing: str, drawn: Drawn) -> Data:
    at = drawn.place(joint.place(key, c.at))
    own = {"connection": key, "piece": c.piece, "other": c.other, "its": c.its, "depth": c.depth, "stands": c.stands}
    return own | {"fails": c.breaks, "at": at, "words": said(c.words(framing), drawn.system)}
