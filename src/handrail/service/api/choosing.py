"""Which connections somebody means: by name, by a filter, by a pattern."""

from __future__ import annotations

from handrail.service.api.requests import Chosen
from handrail.service.application.patterns import connections_of
from handrail.service.application.refused import Refused
from handrail.store import listing
from handrail.store.models import Job


def chosen(job: Job, asked: Chosen) -> list[str]:
    """The names, in order, each once. Raises Refused, InputError."""
    said = [bool(asked.connections), bool(asked.where), bool(asked.pattern)]
    if sum(said) != 1:
        raise Refused(
            422,
            "say which connections: by name (connections), by a filter (where), or those of a pattern (pattern), one of"
            " them",
        )
    if asked.connections:
        return list(dict.fromkeys(asked.connections))
    keys = sorted(listing.keys(job, asked.where)) if asked.where else connections_of(job, asked.pattern, asked.slot)
    if not keys:
        raise Refused(422, f"{'where' if asked.where else 'pattern'}: no connection is like that")
    return keys
