"""Back and forward through a person's own changes: what a step made is ended, what it ended is made again, checked at
once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from handrail.core.checking.batch import Outcome
from handrail.core.checking.digests import grounds as grounds_of
from handrail.core.checking.plan import Plan
from handrail.core.checking.result import CEILING
from handrail.service.application import changing, standing
from handrail.service.application.attempting import Basis, attempt
from handrail.service.application.keeping import Said, ToKeep, decision
from handrail.service.application.looking import beside
from handrail.service.application.plans import Seen, look_at, plan_of
from handrail.service.application.refused import Refused
from handrail.store import connections, overrides, steps
from handrail.store.models import Job, Override, Step


def words(step: Step) -> str:
    """A step in a few words."""
    made, ended = overrides.of_ids(step.made), overrides.of_ids(step.ended)
    where = _where(made or ended)
    if made:
        return f"{where}: {', '.join(dict.fromkeys(f'{o.parameter} to {o.shown}' for o in made))}"
    return f"{where}: {', '.join(dict.fromkeys(o.parameter for o in ended))} cleared" if ended else "nothing"


def _where(chosen: Sequence[Override]) -> str:
    keys = list(dict.fromkeys(o.connection for o in chosen))
    return keys[0] if len(keys) == 1 else f"{len(keys)} connections"


@dataclass(frozen=True)
class _Turned:
    """A step that is gone over, and what is to be kept of it."""

    step: Step
    forward: bool
    making: Sequence[Override]
    first: str
    outcome: Outcome | None
    to_keep: ToKeep

    @property
    def basis(self) -> Basis:
        return self.to_keep.basis

    def write(self) -> dict[str, Any]:
        """How the connection stands then. Inside the transaction that has seen that its basis stands."""
        made = self.to_keep.write()
        steps.turned(self.step, self.forward, {o.id: new.id for o, new in zip(self.making, made, strict=True)})
        record = connections.find(self.basis.job, self.first)
        outcome = self.outcome
        return {
            "connection": self.first,
            "words": words(self.step),
            "status": outcome.status if outcome else record.status if record else "unchecked",
            "utilisation": round(min(outcome.utilisation, CEILING), 6) if outcome else 0.0,
        }


def turn(job: Job, author: str, forward: bool, engineer: bool) -> dict[str, Any]:
    """Go back over the person's last step, or `forward` to the next. Raises Refused."""
    return attempt(job, lambda: _worked(job, author, forward, engineer), lambda turned: turned.write(), "it")


def _worked(job: Job, author: str, forward: bool, engineer: bool) -> _Turned:
    step = steps.last(job, author, forward)
    if step is None:
        raise Refused(409, f"there is nothing of yours to go {'forward to' if forward else 'back over'}")
    made, ended = overrides.of_ids(step.made), overrides.of_ids(step.ended)
    ending, making = (ended, made) if forward else (made, ended)
    _refuse(ending, engineer)
    again = overrides.would_hold_again(job, ending)
    making = [o for o in making if o.id not in {a.id for a in again}]
    keys = {o.connection for o in (*ending, *making, *again)}
    first = (ending or making or again)[0].connection
    only = first if len(keys) == 1 else None
    _, seen, plan = changing.looked_at(job, first) if only else _whole(job)
    plan = plan.with_(overrides=overrides.after(seen.overrides, ending, making, again))
    changed = plan.together(keys & plan.index.keys())
    basis = Basis(job, seen, only, connections.versions(job, changed))
    outcomes, rests = standing.work(seen, plan, changed), beside(plan, changed)
    results = standing.results(seen, plan, outcomes, grounds_of(plan, changed), changed)
    decisions = [
        decision(
            o.connection,
            o.parameter,
            o.value,
            o.shown,
            Said(author, o.reason, o.cause),
            (o.before, o.after),
            grounds=rests.get((o.connection, o.parameter)),
        )
        for o in making
    ]
    word = "gone forward" if forward else "gone back over"
    to_keep = ToKeep(basis, author, decisions, ending, word=word, rests=rests, rows=[results], step=None)
    outcome = outcomes.get(plan.index[first]) if first in plan.index else None
    return _Turned(step, forward, making, first, outcome, to_keep)


def _refuse(ending: Sequence[Override], engineer: bool) -> None:
    """Raises Refused where what is to end has ended, or was accepted and the caller is no engineer."""
    for o in ending:
        if o.state not in overrides.HOLDING:
            raise Refused(409, f"{o.parameter} of {o.connection} was changed since by somebody; nothing was changed")
        if o.state == "accepted" and not engineer:
            raise Refused(
                409, f"{o.parameter} of {o.connection} was accepted by {o.reviewer} since; nothing was changed"
            )


def _whole(job: Job) -> tuple[None, Seen, Plan]:
    seen = look_at(job)
    return None, seen, plan_of(seen)
