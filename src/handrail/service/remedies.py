"""Looks for the remedies of what fails, after the results are there: kept with the result that they belong to."""

from __future__ import annotations

import logging
import secrets

from peewee import PeeweeException

from handrail.core.checking.remedy import without_remedy
from handrail.core.standards import STANDARDS
from handrail.service.plans import assigned_of, look_at, plan_around
from handrail.store import connections
from handrail.store.database import reading, rows, writing
from handrail.store.models import Connection

log = logging.getLogger("handrail.work")
SOON = "being looked for; look again in a moment"


_WAITING = "SELECT id FROM connection WHERE status = 'fail' AND remedy = '' AND digest != '' ORDER BY id LIMIT 1"


def look_for_one() -> bool:
    """One remedy that is still looked for; False where there is none."""
    waiting = rows(_WAITING)
    if not waiting:
        return False
    ((found,),) = waiting
    try:
        look_for(found)
    except PeeweeException:
        raise
    except Exception as exc:
        reference = secrets.token_hex(4)
        log.exception("no remedy could be looked for, reference %s", reference)
        with writing():
            Connection.update(remedy=f"none: unexpected error ({type(exc).__name__}), {reference} in the service's log").where(
                (Connection.id == found) & (Connection.remedy == "")
            ).execute()
    return True


def look_for(connection: int) -> None:
    """The remedy of one failing connection into its record, unless its result moved meanwhile."""
    with reading():
        record = Connection.get_or_none((Connection.id == connection) & (Connection.status == "fail"))
        if record is None:
            return
        plan = plan_around(look_at(record.job, record.key), record)
    assigned = assigned_of(plan, record.key)
    words = "none was looked for: what it rests on was changed; run again"
    if assigned.situation is not None and assigned.rule is not None and record.standard:
        standard = STANDARDS[record.standard]
        sizes = standard.renewed(assigned.situation, connections.sizes_of(record))
        found = plan.remedy(assigned, sizes)
        words = found.words(standard, plan.building.system) if found else without_remedy(plan.look(assigned, sizes), standard)
    with writing():
        same = (Connection.id == record.id) & (Connection.digest == record.digest) & (Connection.status == "fail")
        Connection.update(remedy=words).where(same).execute()
