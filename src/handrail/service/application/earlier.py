"""Earlier designs: connections that pass elsewhere, between like members, tried on one that needs something."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from handrail.core.catalogue import section
from handrail.core.catalogue.sections import Section
from handrail.core.errors import InputError, UnknownName
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import NOT_CHOSEN, Sizes
from handrail.service.application import changing
from handrail.service.application.refused import Refused, told
from handrail.store import connections
from handrail.store.jobs import system_of
from handrail.store.models import Connection, Job

MOST_LOOKED, MOST_TRIED = 20_000, 12
ALIKE_ANGLE, ALIKE_DEPTH = 3.0, 0.35  # degrees; share of the depth


@dataclass(frozen=True)
class Earlier:
    """One design that stands somewhere: how many connections have it, the nearest of them, and how far its members are
    from those here."""

    first: Connection
    job: str
    count: int
    apart: float


def designs(record: Connection, jobs: Iterable[Job], exact: bool) -> list[Earlier]:
    """Designs of passing connections in these jobs that are framed the same between members of the same kinds (or
    `exact` sections), the nearest first."""
    names = {job.id: job.name for job in jobs}
    where = (
        (Connection.job.in_(list(names)))
        & (Connection.framing == record.framing)
        & (Connection.status == "pass")
        & (Connection.id != record.id)
    )
    if exact:
        where &= (Connection.section == record.section) & (Connection.support_section == record.support_section)
    designs: dict[tuple[str, str], Earlier] = {}
    for one in Connection.select().where(where).order_by(Connection.id).limit(MOST_LOOKED):
        apart = 0.0 if exact else _apart(record, one)
        if apart is None or not one.sizes or not _angles_alike(record, one):
            continue
        design = (one.standard, repr(sorted(_chosen(connections.sizes_of(one)).items())))
        held = designs.get(design)
        nearest = one if held is None or apart < held.apart else held.first
        designs[design] = Earlier(
            nearest, names[nearest.job_id], (held.count if held else 0) + 1, min(apart, held.apart) if held else apart
        )
    return sorted(designs.values(), key=lambda e: (e.apart, -e.count))


def _apart(here: Connection, there: Connection) -> float | None:
    """How unlike the members are; None where they are of other kinds, or far deeper or shallower."""
    total = 0.0
    for a, b in ((here.section, there.section), (here.support_section, there.support_section)):
        if not a and not b:
            continue
        own, other = _section(a), _section(b)
        if own is None or other is None or own.family != other.family:
            return None
        depth = abs(math.log(own.d / other.d))
        if depth > ALIKE_DEPTH:
            return None
        total += depth
    return total


def _section(name: str) -> Section | None:
    try:
        return section(name) if name else None
    except UnknownName:
        return None


def _angles_alike(a: Connection, b: Connection) -> bool:
    one, other = a.pieces[0], b.pieces[0]
    return all(abs(one[name] - other[name]) <= ALIKE_ANGLE for name in ("skew", "slope"))


def _chosen(sizes: Sizes) -> dict[str, Any]:
    return {n: s.formula or s.value for n, s in sizes.items() if s.source not in NOT_CHOSEN}


def tried(job: Job, record: Connection, designs: list[Earlier]) -> list[dict[str, Any]]:
    """The nearest of them tried here, under the connection's own forces: those that pass first, the lightest first;
    what is the same as here is left out."""
    own = (record.standard, _chosen(connections.sizes_of(record)))
    answers = []
    for one in designs:
        sizes, standard = connections.sizes_of(one.first), STANDARDS[one.first.standard]
        if (standard.name, _chosen(sizes)) == own:
            continue
        changes = {
            n: changing.as_given(standard, n, s.formula or s.value)
            for n, s in sizes.items()
            if s.source not in NOT_CHOSEN
        }
        wanted = ({"standard": standard.name} if record.standard != standard.name else {}) | changes
        try:
            here = changing.side_by_side(changing.work_out(job, record.key, wanted), standard.name)
        except (InputError, Refused) as exc:
            here = {
                "status": "unchecked",
                "utilisation": 0.0,
                "check": "",
                "reason": told(exc, system_of(job)),
                "steel": None,
                "summary": one.first.summary,
            }
        answers.append(
            {
                "job": one.job,
                "connection": one.first.key,
                "section": one.first.section,
                "support_section": one.first.support_section,
                "standard": standard.name,
                "count": one.count,
                "there": round(one.first.utilisation, 4),
                "summary": here["summary"] or one.first.summary,
                "status": here["status"],
                "utilisation": here["utilisation"],
                "check": here["check"],
                "reason": here["reason"],
                "steel": here["steel"],
                "changes": wanted,
            }
        )
        if len(answers) >= MOST_TRIED:
            break
    return sorted(answers, key=lambda a: (a["status"] != "pass", a["steel"] or math.inf, a["utilisation"]))
