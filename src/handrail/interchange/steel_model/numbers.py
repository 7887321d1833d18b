"""The numbers by which other programs know our things: made from their names, the same in every file of a job."""

from __future__ import annotations

import uuid

from ifcopenshell.guid import compress

OURS = uuid.UUID("6f1c2a54-6d0e-4f0a-9d3b-1f5f6c1f9a77")  # what they are made from


def number(job: str, *of: str) -> str:
    """Of a thing by what it is called: kind, and name."""
    return str(compress(uuid.uuid5(OURS, "\0".join((job, *of))).hex))
