"""Back and forward through a person's own changes: what a step made is ended, what it ended is made again, checked at
once."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from handrail.core.checking.plan import Plan
from handrail.core.checking.result import CEILING
from handrail.service import changing
from handrail.service.looking import beside
from handrail.service.plans import Seen, look_at, plan_of
from handrail.service.problems import Refused
from handrail.service.standing import results as results_of
from handrail.store import connections, overrides, steps
from handrail.store.database import writing
from handrail.store.models import Job, Override, Step


def words(step: Step) -> str:
    """A step in a few words."""
    made, ended = overrides.of_ids(step.made), overrides.of_ids(step.ended)
    where = _where(made or ended)
    if made:
        return f"{where}: {', '.join(dict.fromkeys(f'{o.parameter} to {o.shown}' for o in made))}"
    return f"{where}: {', '.join(dict.fromkeys(o.parameter for o in ended))} cleared" if ended else "nothing"


def _where(found: Sequence[Override]) -> str:
    keys = list(dict.fromkeys(o.connection for o in found))
    return keys[0] if len(keys) == 1 else f"{len(keys)} connections"


def turn(job: Job, author: str, forward: bool, engineer: bool) -> dict[str, Any] | None:
    """Go back over the person's last step, or `forward` to the next; None where something moved meanwhile. Raises
    Refused."""
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
    _, seen, plan = changing.looked_at(job, first) if len(keys) == 1 else _whole(job)
    plan.overrides = _as_after(seen.overrides, ending, [*making, *again])
    changed = plan.with_partners(keys & plan.index.keys())
    versions = connections.versions(job, changed)
    outcomes = plan.work(changed)
    found = results_of(seen, plan, outcomes, plan.grounds(changed), changed)
    rests = beside(plan, changed)
    with writing():
        now = look_at(job, first if len(keys) == 1 else None)
        if now.differs(seen) or connections.versions(job, changed) != versions:
            return None
        overrides.end(job, ending, "cleared", "gone back over" if not forward else "gone forward", author)
        kept = overrides.keep(
            job,
            [
                overrides.Decision(
                    o.connection,
                    o.parameter,
                    o.value,
                    o.shown,
                    o.reason,
                    author,
                    o.before,
                    o.after,
                    "",
                    o.cause,
                    rests.get((o.connection, o.parameter)),
                )
                for o in making
            ],
        )
        overrides.rebase(job, rests)
        steps.turned(step, forward, {o.id: number for o, (number, _) in zip(making, kept, strict=True)})
        found.write(job.id)
    outcome = outcomes.get(plan.index[first]) if first in plan.index else None
    record = connections.find(job, first)
    return {
        "connection": first,
        "words": words(step),
        "status": outcome.status if outcome else record.status if record else "unchecked",
        "utilisation": round(min(outcome.utilisation, CEILING), 6) if outcome else 0.0,
    }


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


def _as_after(
    now: dict[str, dict[str, Any]], ending: list[Override], making: list[Override]
) -> dict[str, dict[str, Any]]:
    found = {key: dict(values) for key, values in now.items()}
    for o in ending:
        found.get(o.connection, {}).pop(o.parameter, None)
    for o in making:
        found.setdefault(o.connection, {})[o.parameter] = o.value
    return {key: values for key, values in found.items() if values}
