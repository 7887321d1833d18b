"""The ledger's chain: each entry carries the digest of the one before, so that whatever is changed, left out or put in
shows.

An entry is plain data with the fields below. Its digest is SHA-256 over the JSON of all of them but the digest itself,
keys sorted, without spaces, in UTF-8; the first entry of a job follows `START`."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterable, Mapping
from typing import Any

START = "0" * 64
FIELDS = (
    "job",
    "number",
    "made",
    "author",
    "connection",
    "override",
    "parameter",
    "event",
    "words",
    "data",
    "previous",
    "digest",
)
_SEALED = FIELDS[:-1]


def digest(entry: Mapping[str, Any]) -> str:
    """The digest of an entry (hexadecimal), its `previous` included. Raises KeyError where a field is missing."""
    return digest_of({name: entry[name] for name in _SEALED})


def digest_of(value: Any) -> str:
    """The digest of anything that JSON holds (hexadecimal), told like an entry's."""
    return hashlib.sha256(
        json.dumps(value, sort_keys=True, separators=(",", ":"), ensure_ascii=False).encode()
    ).hexdigest()


def sealed(entry: Mapping[str, Any], number: int, previous: str) -> dict[str, Any]:
    """An entry with its place in the chain."""
    whole = {**entry, "number": number, "previous": previous}
    return whole | {"digest": digest(whole)}


def faults(entries: Iterable[Mapping[str, Any]]) -> list[str]:
    """What is wrong with a job's whole ledger, in words, in its order; empty where every entry follows from the one
    before."""
    wrong, previous, expected, job = [], START, 1, None
    for entry in entries:
        name = f"entry {entry.get('number')}"
        try:
            if job is None:
                job = entry["job"]
            if entry["job"] != job:
                wrong.append(f"{name}: is of job '{entry['job']}', not '{job}'")
            if entry["number"] != expected:
                wrong.append(
                    f"{name}: stands where entry {expected} is expected; entries are missing, put in or out of order"
                )
            if entry["previous"] != previous:
                wrong.append(
                    f"{name}: does not follow the entry before it (that was changed, or entries between are missing)"
                )
            if digest(entry) != entry["digest"]:
                wrong.append(
                    f"{name}: was changed after it was written ({entry['event']} of {entry['parameter']} on"
                    f" {entry['connection']})"
                )
            previous, expected = entry["digest"], entry["number"] + 1
        except (KeyError, TypeError) as exc:
            wrong.append(f"{name}: is not an entry of a ledger ({exc})")
            expected += 1
    return wrong


def head(entries: Iterable[Mapping[str, Any]]) -> str:
    """The digest of the last entry: whoever noted it can later show that all up to it is still there."""
    last = START
    for entry in entries:
        last = entry["digest"]
    return last
