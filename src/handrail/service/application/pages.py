"""What is worked out for a connection's page, as JSON text: kept while what it rests on stands."""

from __future__ import annotations

import json
import threading
from typing import Any

from cachetools import LRUCache, cached

from handrail.core.checking.colliding import Colliding
from handrail.core.checking.plan import Plan
from handrail.core.checking.result import rule_dict
from handrail.core.standards import STANDARDS
from handrail.service.application import present, standing
from handrail.service.application.kept import kept_alone
from handrail.service.application.plans import Seen
from handrail.store.models import Connection

KEPT = 1000


def _key(seen: Seen, record: Connection) -> tuple[Any, ...]:
    return seen.stamp, record.id, record.version, record.digest, repr(seen.overrides)


@cached(LRUCache(KEPT), key=_key, lock=threading.Lock())
def worked(seen: Seen, record: Connection) -> tuple[bool, str]:
    """Whether the kept result is stale, and peaks, parameters, checks, detailing, notes and drawing as the text of a
    JSON object. Inside the transaction that read `seen` and `record`."""
    stands = kept_alone(seen, record)
    plan, assigned, sizes = stands.plan, stands.assigned, stands.sizes
    system = plan.building.system
    body: dict[str, Any] = {
        "target": plan.target([record.key]),
        "peaks": present.peaks(plan, assigned),
        "parameters": [],
        "checks": [],
        "detailing": [],
        "notes": record.notes,
        "drawing": None,
    }
    collides = [Colliding.of(kept) for kept in record.collides]
    body["collisions"] = [present.collision(c, record.framing, system) for c in collides]
    if sizes and assigned.situation is not None:
        standard = STANDARDS[record.standard]
        looked = plan.look(assigned, sizes, tracing=True)
        partners = plan.partners(record.key) if stands.ruled and standard.through(sizes) else ()
        body["parameters"] = present.parameters(
            standard, sizes, system, partners, plan.sharing.common(record.key) if partners else ()
        )
        scene = standard.draw(assigned.situation, sizes, system)
        body["drawing"] = scene.as_dict() if scene.views else None
        if looked is not None:
            body |= present.result(looked, system)
            body["detailing"] += [rule_dict(c.rule(record.framing), system) for c in collides]
            body["notes"] = [
                *body["notes"],
                *(n for n in record.notes if n not in body["notes"]),
            ]  # what only both sides together say
    body["stands_on"] = _stands_on(seen, plan, record.key)
    if stands.otherwise:
        body["notes"] = [stands.otherwise, *body["notes"]]
    stale = bool(record.digest) and not standing.still(plan, record)
    return stale, json.dumps(body, allow_nan=False, separators=(",", ":"))


def _stands_on(seen: Seen, plan: Plan, key: str) -> dict[str, Any]:
    """Which revision, combinations, cases and findings let stand a connection is judged by."""
    acting, building = plan.acting, plan.building
    sets = [
        (acting.strength, seen.chosen.set),
        *([(acting.overstrength, "overstrength")] if acting.collector[plan.index[key]] else []),
    ]
    names = [name for of, _ in sets for name in of.names]
    used = [c for c in building.combinations if c.method == plan.code.method and c.set in {of for _, of in sets}]
    formed = [c for c in used if any(n == c.name or n.startswith(f"{c.name} ") for n in names)]
    return {
        "revision": seen.revision.number,
        "combinations": names,
        "cases": sorted({case for c in formed for case, _ in c.terms}),
        "let_stand": [" ".join(filter(None, one)) for one in seen.let_stand],
    }
