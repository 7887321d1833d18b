"""Filters of lists by whatever rules can ask of a connection: `fixity=fixed, skew>5 deg`, found in the plan and kept
while that stands."""

from __future__ import annotations

import threading
from typing import Any

from cachetools import LRUCache, cached

from handrail.core.checking.facts import Facts
from handrail.core.errors import InputError
from handrail.core.rulebook.conditions import Condition, read_asked
from handrail.core.rulebook.facts import fact
from handrail.service.application.labels import Labels, read, with_patterns
from handrail.service.application.plans import Seen, framed, look_at, plan_of
from handrail.store import listing
from handrail.store.models import Job

KEPT = 50
Said = tuple[Labels, dict[str, str], str]  # labels, edits of patterns, and the digest of both


def condition(name: str, sign: str, text: str) -> Condition:
    """What `name sign text` of a filter asks. Raises InputError."""
    of = fact(name)
    if of.kind not in ("text", "name", "words", "flag"):
        if sign == "~":
            raise InputError(f"{name} is compared with =, !=, <, <=, > or >=, and a quantity like {of.example}")
        value: Any = text if sign in ("=", "!=") else f"{sign} {text}"
    elif sign in ("<", "<=", ">", ">="):
        raise InputError(f"{name} is text; compare it with =, != or ~")
    elif of.kind == "flag":
        if text.lower() not in ("true", "false", "yes", "no", "1", "0"):
            raise InputError(f"{name} is true or false, not '{text[:40]}'")
        value = text.lower() in ("true", "yes", "1")
    else:
        several: Any = [v.strip() for v in text.split("|")]
        value = [f"*{v}*" for v in several] if sign == "~" else several
    return read_asked(name, {"not": value} if sign == "!=" else value)


def holding(job: Job | None, name: str, sign: str, text: str) -> frozenset[str]:
    """The connections of a job of which a fact holds; none of no job: then only whether it can be read. Raises
    InputError."""
    asked = condition(name, sign, text)
    if job is None:
        return frozenset()
    seen = look_at(job)
    said = read(seen.job, {name}) if name == "pattern" else ({}, {}, "")
    return _holding(seen, said, asked, (name, sign, text))


def _key(seen: Seen, said: Said, asked: Condition, of: tuple[str, str, str]) -> tuple[Any, ...]:
    return seen.stamp, said[2], of


@cached(LRUCache(KEPT), key=_key, lock=threading.Lock())
def _holding(seen: Seen, said: Said, asked: Condition, of: tuple[str, str, str]) -> frozenset[str]:
    """The connections of which what is `asked` holds, worked out once for how the job stands and what was written."""
    labels, edits, _ = said
    name = of[0]
    plan = plan_of(seen)
    told = with_patterns(labels, (name,), edits, lambda: framed(seen), (seen.stamp[0], seen.stamp[-1]))
    facts = Facts(plan.building, plan.framing.connections, plan.modelled, told, (name,))
    return frozenset(
        a.connection.id
        for k, a in enumerate(plan.by_rules)
        if a.situation is not None and asked.holds(facts.of(k, a.situation))
    )


def serve_lists() -> None:
    """Let lists be filtered by facts, too."""
    listing.by_facts = holding
