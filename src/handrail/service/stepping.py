"""Back and forward through a person's own changes: what a step made is ended, what it ended is made again, checked at once."""

from __future__ import annotations

from typing import Any

from handrail.service import changing
from handrail.service.plans import look_at
from handrail.service.problems import Refused
from handrail.service.standing import results as results_of
from handrail.store import connections, overrides, steps
from handrail.store.database import writing
from handrail.store.models import Job, Override, Step


def words(step: Step) -> str:
    """A step in a few words."""
    made = _rows(step.made)
    if made:
        return f"{made[0].connection}: {', '.join(f'{o.parameter} to {o.shown}' for o in made)}"
    ended = _rows(step.ended)
    return f"{ended[0].connection}: {', '.join(o.parameter for o in ended)} cleared" if ended else "nothing"


def turn(job: Job, author: str, forward: bool) -> dict[str, Any] | None:
    """Go back over the person's last step, or `forward` to the next; None where something moved meanwhile. Raises Refused."""
    step = steps.last(job, author, forward)
    if step is None:
        raise Refused(409, f"there is nothing of yours to go {'forward to' if forward else 'back over'}")
    ending, making = (_rows(step.ended), _rows(step.made)) if forward else (_rows(step.made), _rows(step.ended))
    if gone := [o for o in ending if o.state not in overrides.HOLDING]:
        raise Refused(409, f"{gone[0].parameter} of {gone[0].connection} was changed since by somebody; nothing was changed")
    key = (ending or making)[0].connection
    record, seen, plan = changing.looked_at(job, key)
    plan.overrides = _as_after(seen.overrides, ending, making)
    outcomes = changing.recheck(plan, key, None)
    changed = plan.with_partners({key})
    found = results_of(seen, plan, outcomes, plan.grounds(changed), changed)
    with writing():
        now, current = look_at(job, key), connections.find(job, key)
        if now.stamp != seen.stamp or now.moved(seen) or current is None or current.version != record.version:
            return None
        for old in ending:
            overrides.clear(job, old, "gone back over" if not forward else "gone forward", author)
        again = {o.id: overrides.keep(job, o.connection, o.parameter, o.value, o.shown, o.reason, author, o.before, o.after)[0].id for o in making}
        steps.turned(step, forward, again)
        found.write(job.id)
    outcome = outcomes.get(plan.index[key])
    return {"connection": key, "words": words(step), "status": outcome.status if outcome else record.status,
            "utilisation": round(outcome.utilisation, 6) if outcome else 0.0}  # fmt: skip


def _rows(ids: list[int]) -> list[Override]:
    found = {o.id: o for o in Override.select().where(Override.id.in_(ids))}
    return [found[k] for k in ids if k in found]


def _as_after(now: dict[str, dict[str, Any]], ending: list[Override], making: list[Override]) -> dict[str, dict[str, Any]]:
    found = {key: dict(values) for key, values in now.items()}
    for o in ending:
        found.get(o.connection, {}).pop(o.parameter, None)
    for o in making:
        found.setdefault(o.connection, {})[o.parameter] = o.value
    return {key: values for key, values in found.items() if values}
