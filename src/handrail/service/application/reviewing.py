"""What becomes of decisions: accepted, returned, confirmed, cleared; many at once. Whatever ends is worked out again
without it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

from handrail.core.building.correcting import Correction
from handrail.core.checking.digests import grounds as grounds_of
from handrail.service.application import correcting, standing
from handrail.service.application.attempting import Basis, attempt
from handrail.service.application.keeping import ToKeep
from handrail.service.application.looking import beside
from handrail.service.application.plans import look_at, plan_around, plan_of
from handrail.service.application.refused import Refused
from handrail.store import connections, overrides
from handrail.store.database import reading
from handrail.store.models import Job, Override

ENDS = {"return": "returned", "clear": "cleared"}


@dataclass(frozen=True)
class Act:
    """What somebody does with overrides: accept, return, confirm or clear them, with a word."""

    kind: str
    word: str
    author: str
    engineer: bool  # whether they are one in this job, or more


def refuse(act: Act, chosen: Sequence[Override]) -> None:
    """Raises Refused where the act is not theirs to do, lacks a word, or something has ended already."""
    if act.kind == "return" and not act.word.strip():
        raise Refused(422, "word: say why it is returned")
    for o in chosen:
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


def act_on(job: Job, act: Act, ids: Sequence[int]) -> None:
    """Do it to all of them, in one transaction. Raises Refused."""

    def worked() -> ToKeep | _Reviewed:
        chosen = overrides.of_ids(ids)
        refuse(act, chosen)
        if act.kind not in ENDS:
            return _Reviewed(job, act, chosen)
        framed = [o for o in chosen if o.parameter in overrides.FRAMED and o.state in overrides.HOLDING]
        return _without_correction(job, act, framed[0], chosen) if framed else _without(job, act, chosen)

    attempt(job, worked, lambda work: work.write())


@dataclass(frozen=True)
class _Reviewed:
    """Decisions that are accepted or confirmed on what they rest on now."""

    job: Job
    act: Act
    decisions: Sequence[Override]

    @property
    def basis(self) -> Basis:
        return Basis(self.job, states={o.id: o.state for o in self.decisions}, looked=True)

    def write(self) -> Sequence[Override]:
        now = overrides.of_ids([o.id for o in self.decisions])
        do = overrides.accept if self.act.kind == "accept" else overrides.confirm
        do(self.job, now, self.act.word.strip(), self.act.author)
        overrides.hold_elsewhere(self.job.id)
        return now


def _without(job: Job, act: Act, chosen: Sequence[Override]) -> ToKeep:
    """Decisions ended, and their connections worked out without them."""
    with reading():
        keys = {o.connection for o in chosen}
        single = next(iter(keys)) if len(keys) == 1 else None
        seen = look_at(job, single)
        record = connections.find(job, single) if single else None
        again = overrides.would_hold_again(job, chosen)
        plan = (plan_around(seen, record) if record else None) if single else plan_of(seen)
    rows, rests = [], {}
    held = [o for o in chosen if o.parameter in seen.overrides.get(o.connection, {}) and o.state in overrides.HOLDING]
    if plan is not None and held:
        plan = plan.with_(overrides=overrides.after(seen.overrides, held, again=again))
        changed = plan.together({o.connection for o in (*held, *again)} & plan.index.keys())
        rows = [standing.results(seen, plan, standing.work(seen, plan, changed), grounds_of(plan, changed), changed)]
        rests = beside(plan, changed)
    step = [o.id for o in held] if act.kind == "clear" and held else None
    basis = Basis.of(seen, decided=chosen, only=single)
    return _ended(basis, act, chosen, rests=rests, rows=rows, step=step)


def _ended(basis: Basis, act: Act, chosen: Sequence[Override], **more: Any) -> ToKeep:
    state = ENDS[act.kind]
    return ToKeep(basis, act.author, ending=chosen, state=state, word=act.word.strip() or state, **more)


def _without_correction(job: Job, act: Act, o: Override, chosen: Sequence[Override]) -> ToKeep:
    """A correction of framing ended, and its joint framed as without it."""
    if len(chosen) > 1:
        raise Refused(
            422,
            f"override {o.id} corrects the framing of {o.connection}: {act.kind} it by itself, its whole joint is"
            " framed again",
        )
    with reading():
        seen, record = look_at(job), connections.find(job, o.connection)
    basis = Basis.of(seen, decided=chosen)
    if record is None or o.id not in {row.id for row in overrides.framed(job)}:
        return _ended(basis, act, chosen, step=None)
    left = correcting.without_one(job, record.key, o.parameter)
    for old in overrides.would_hold_again(job, chosen):
        value = old.value["member"] if isinstance(old.value, dict) else old.value
        words = f"corrected by {old.author} ({old.reason or old.cause})"
        left |= {record.key: replace(left.get(record.key, Correction()), **{o.parameter: value}, words=words)}
    return _ended(basis, act, chosen, rows=[correcting.reframe(seen, record.key, left)], framed=True)
