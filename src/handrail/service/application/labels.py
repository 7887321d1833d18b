"""What people put on connections, as far as rules ask for it: groups, tags, erection sequence, and the patterns of
their joints."""

from __future__ import annotations

import hashlib
import threading
from collections import defaultdict
from collections.abc import Callable, Collection
from typing import Any

from cachetools import LRUCache, cached

from handrail.core.building.framing import Framing
from handrail.core.building.model import Building
from handrail.core.building.patterns import with_edits
from handrail.core.rulebook.facts import LABELS
from handrail.store import pattern_edits
from handrail.store.database import rows
from handrail.store.models import Job

Labels = dict[str, dict[str, Any]]
Model = Callable[[], tuple[Building, Framing]]
KEPT = 2


def read(job: Job, asks: Collection[str]) -> tuple[Labels, dict[str, str], str]:
    """(labels by connection, edits of patterns, a digest of both) of what is asked for; all empty where nothing is."""
    if not any(name in asks for name in LABELS):
        return {}, {}, ""
    by_key: defaultdict[str, dict[str, Any]] = defaultdict(dict)
    if "group" in asks:
        many: defaultdict[str, list[str]] = defaultdict(list)
        for key, name in rows(
            "SELECT c.key, g.name FROM groupmember m JOIN connection c ON c.id = m.connection_id JOIN gathering g ON"
            " g.id = m.group_id WHERE c.job_id = ? ORDER BY c.key, g.name",
            job.id,
        ):
            many[key].append(name)
        for key, names in many.items():
            by_key[key]["group"] = tuple(names)
    if "tag" in asks:
        tagged = rows(
            "SELECT c.key, t.value FROM connection c, json_each(c.tags) t WHERE c.job_id = ? AND c.tags != '[]' ORDER"
            " BY c.key, t.value",
            job.id,
        )
        for key, tag in tagged:
            by_key[key]["tag"] = (*by_key[key].get("tag", ()), tag)
    if "sequence" in asks:
        for key, sequence in rows(
            "SELECT key, sequence FROM connection WHERE job_id = ? AND sequence != '' ORDER BY key", job.id
        ):
            by_key[key]["sequence"] = sequence
    edits = {joint: e["beside"] for joint, e in pattern_edits.listed(job).items()} if "pattern" in asks else {}
    digest = hashlib.blake2b(repr((sorted(by_key.items()), sorted(edits.items()))).encode(), digest_size=8).hexdigest()
    return dict(by_key), edits, digest


def _key(of: tuple[Any, ...], edits: dict[str, str], model: Model) -> tuple[Any, ...]:
    return *of, repr(sorted(edits.items()))


@cached(LRUCache(KEPT), key=_key, condition=threading.Condition())
def _named(of: tuple[Any, ...], edits: dict[str, str], model: Model) -> dict[str, str]:
    return patterns_of(*model(), edits)


def with_patterns(
    labels: Labels,
    asks: Collection[str],
    edits: dict[str, str],
    model: Model,
    of: tuple[Any, ...],
) -> Labels:
    """The labels with the pattern of every connection's joint, where that is asked for; found once for `of`, what names
    the model."""
    if "pattern" not in asks:
        return labels
    named = _named(of, edits, model)
    return {
        name: {**labels.get(name, {}), **({"pattern": named[name]} if name in named else {})}
        for name in {*labels, *named}
    }


def patterns_of(building: Building, framing: Framing, edits: dict[str, str]) -> dict[str, str]:
    """connection -> name of its joint's pattern."""
    patterns, _ = with_edits(building, framing, edits)
    return {key: p.name for p in patterns for member in p.members for key in member.connections if key}
