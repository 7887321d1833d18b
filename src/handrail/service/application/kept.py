"""How a connection stands as it is kept: by which standard, with which sizes, and whether the rules as they are now say
otherwise."""

from __future__ import annotations

from dataclasses import dataclass

from handrail.core.checking.assigning import Assigned, by_choice
from handrail.core.checking.plan import Plan
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import Sizes
from handrail.service.application.plans import Seen, assigned_of, plan_around
from handrail.store import connections
from handrail.store.models import Connection


@dataclass(frozen=True)
class Kept:
    """`assigned` is the connection by the standard that its kept `sizes` are of (none where it has no sizes, or its
    pieces are not known any more); `otherwise` says in words what the rules make of it now where that is another
    standard, or none."""

    record: Connection
    plan: Plan
    assigned: Assigned
    sizes: Sizes
    otherwise: str

    @property
    def ruled(self) -> bool:
        """Whether it is sized, and the rules still give that standard."""
        return bool(self.sizes) and not self.otherwise


def kept(plan: Plan, record: Connection) -> Kept:
    """A connection of a plan, as it stands."""
    now = assigned_of(plan, record.key)
    if not (record.standard and record.sizes):
        return Kept(record, plan, now, {}, "")
    if now.rule is not None and now.rule.use == record.standard:
        was, otherwise = now, ""
    else:
        was = by_choice(
            plan.building, now, record.standard, lambda rule, situation: rule, plan.code, plan.rulebook.shop
        )
        by = (
            f"by the rules as they are now it is {now.rule.use} (rule '{now.rule.name}')"
            if now.rule
            else f"by the rules as they are now: {now.reason}"
        )
        otherwise = f"{record.standard} as it was made before; {by}; run again"
    if was.situation is None:
        return Kept(record, plan, now, {}, otherwise)
    return Kept(
        record,
        plan,
        was,
        STANDARDS[record.standard].renewed(was.situation, connections.sizes_of(record)),
        otherwise,
    )


def kept_alone(seen: Seen, record: Connection) -> Kept:
    """The same by a plan of what its check needs alone. Inside the transaction that read `seen` and `record`."""
    return kept(plan_around(seen, record), record)
