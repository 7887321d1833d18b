"""The shop's short list of reasons for deciding against a rule, kept above its jobs."""

from __future__ import annotations

import json

from handrail.core.errors import InputError
from handrail.store.database import writing
from handrail.store.models import Meta

LONGEST = 80
AT_FIRST = (
    "alike with its neighbours",
    "erection",
    "fabrication",
    "stock at hand",
    "existing steel",
    "clash with another trade",
    "asked for by the engineer",
    "the model is out of date",
    "done by others",
    "other",
)


def listed() -> list[str]:
    """The reasons that are offered, in order."""
    kept = Meta.get_or_none(Meta.name == "causes")
    return list(json.loads(kept.value)) if kept else list(AT_FIRST)


def put(causes: list[str]) -> list[str]:
    """Another list; decisions keep the words that they were made with. Raises InputError."""
    plain = [" ".join(cause.split()) for cause in causes]
    if any(not 0 < len(cause) <= LONGEST or not cause.isprintable() for cause in plain):
        raise InputError(f"causes: each is 1 to {LONGEST} characters that can be seen")
    if len(set(plain)) < len(plain):
        raise InputError("causes: the same reason stands there twice")
    with writing():
        Meta.insert(name="causes", value=json.dumps(plain)).on_conflict_replace().execute()
    return plain


def check(cause: str, reason: str) -> tuple[str, str]:
    """A cause of the list and a text, one of them at least. Raises InputError."""
    cause, reason = cause.strip(), reason.strip()
    if not cause and not reason:
        raise InputError(
            "reason: an override needs a reason: one of the list (cause), words of your own (reason), or both"
        )
    if cause and cause not in listed():
        raise InputError(f"cause: '{cause}' is not in the shop's list of reasons; it has {', '.join(listed())}")
    return cause, reason
