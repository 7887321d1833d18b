"""What becomes of decisions: accepted, returned, confirmed, cleared; many at once. Whatever ends is worked out again
without it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from handrail.core.building.correcting import Correction
from handrail.service import correcting, standing
from handrail.service.looking import beside
from handrail.service.plans import look_at, plan_around, plan_of
from handrail.service.problems import Refused
from handrail.store import connections, jobs, overrides, steps
from handrail.store.database import reading, writing
from handrail.store.models import Job, Override

ENDS = {"return": "returned", "clear": "cleared"}


@dataclass(frozen=True)
class Act:
    """What somebody does with overrides: accept, return, confirm or clear them, with a word."""

    kind: str
    word: str
    author: str
    engineer: bool  # whether they are one in this job, or more


def refuse(act: Act, found: Sequence[Override]) -> None:
    """Raises Refused where the act is not theirs to do, lacks a word, or something has ended already."""
    if act.kind == "return" and not act.word.strip():
        raise Refused(422, "word: say why it is returned")
    for o in found:
        name = f"override {o.id} ({o.parameter} of {o.connection})"
        if o.state not in overrides.HOLDING and not (o.state == "returned" and act.kind == "clear"):
            raise Refused(409, f"{name} is {o.state} already")
        if act.kind in ("accept", "return") and not act.engineer:
            raise Refused(403, f"{name}: an engineer of the job accepts or returns it")
        if o.state == "accepted" and not act.engineer:
            raise Refused(
                403,
                f"{name} was accepted by {o.reviewer}: an engineer of the job {act.kind}s it; put forward another value"
                " instead",
            )
        if act.kind == "accept" and o.state == "accepted":
            raise Refused(409, f"{name} is accepted already")


def act_on(job: Job, act: Act, found: Sequence[Override]) -> bool:
    """Do it to all of them, in one transaction; False where something moved meanwhile. Raises Refused."""
    refuse(act, found)
    if act.kind in ENDS:
        framed = [o for o in found if o.parameter in overrides.FRAMED and o.state in overrides.HOLDING]
        return _end_correction(job, act, framed[0], found) if framed else _end(job, act, found)
    with writing():
        if not _as_seen(found) or jobs.look_due(job):
            return False
        now = overrides.of_ids([o.id for o in found])
        (overrides.accept if act.kind == "accept" else overrides.confirm)(job, now, act.word.strip(), act.author)
        overrides.hold_elsewhere(job.id)
    return True


def _as_seen(found: Sequence[Override]) -> bool:
    """Whether each is in the state in which it was seen. Inside the caller's transaction."""
    return {o.id: o.state for o in overrides.of_ids([o.id for o in found])} == {o.id: o.state for o in found}


def _end(job: Job, act: Act, found: Sequence[Override]) -> bool:
    with reading():
        keys = {o.connection for o in found}
        single = next(iter(keys)) if len(keys) == 1 else None
        seen = look_at(job, single)
        record = connections.find(job, single) if single else None
        again = overrides.would_hold_again(job, found)
        plan = (plan_around(seen, record) if record else None) if single else plan_of(seen)
    results, rests = None, {}
    held = {o.id for o in found if o.parameter in seen.overrides.get(o.connection, {}) and o.state in overrides.HOLDING}
    if plan is not None and held:
        plan.overrides = _left(seen.overrides, [o for o in found if o.id in held], again)
        changed = plan.with_partners(
            {o.connection for o in (*(o for o in found if o.id in held), *again)} & plan.index.keys()
        )
        results = standing.results(seen, plan, plan.work(changed), plan.grounds(changed), changed)
        rests = beside(plan, changed)
    with writing():
        now = look_at(job, single)
        if not _as_seen(found) or now.differs(seen):
            return False
        overrides.end(job, found, ENDS[act.kind], act.word.strip() or ENDS[act.kind], act.author)
        overrides.rebase(job, rests)
        if held and act.kind == "clear":
            steps.ended(steps.begin(job, act.author), sorted(held))
        if results is not None:
            results.write(job.id)
    return True


def _left(held: overrides.Held, ending: Sequence[Override], again: Sequence[Override]) -> overrides.Held:
    """What holds after some end, and others hold again."""
    found = {key: dict(values) for key, values in held.items()}
    for o in ending:
        found.get(o.connection, {}).pop(o.parameter, None)
    for o in again:
        found.setdefault(o.connection, {}).setdefault(o.parameter, o.value)
    return {key: values for key, values in found.items() if values}


def _end_correction(job: Job, act: Act, o: Override, found: Sequence[Override]) -> bool:
    """End a correction of framing and frame its joint as without it."""
    if len(found) > 1:
        raise Refused(
            422,
            f"override {o.id} corrects the framing of {o.connection}: {act.kind} it by itself, its whole joint is"
            " framed again",
        )
    with reading():
        seen, record = look_at(job), connections.find(job, o.connection)
    made = None
    if record is not None and o.id in {row.id for row in overrides.framed(job)}:
        left = correcting.without_one(job, record.key, o.parameter)
        for old in overrides.would_hold_again(job, found):
            value = old.value["member"] if isinstance(old.value, dict) else old.value
            words = f"corrected by {old.author} ({old.reason or old.cause})"
            left |= {record.key: replace(left.get(record.key, Correction()), **{o.parameter: value}, words=words)}
        made = correcting.reframe(seen, record.key, left)
    with writing():
        now = look_at(job)
        if not _as_seen(found) or now.differs(seen):
            return False
        overrides.end(job, found, ENDS[act.kind], act.word.strip() or ENDS[act.kind], act.author)
        if made is not None:
            made.write(job.id)
            standing.settle(job, "pattern", "joints were framed otherwise, and rules ask for patterns")
    return True
