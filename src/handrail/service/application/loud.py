"""What is to be said large of a connection wherever it is printed."""

from __future__ import annotations


def wrong(status: str, stale: str, overridden: int, released: str) -> list[str]:
    """That it fails or is not judged, is stale, overridden, not released; nothing where all is well."""
    said = [] if status == "pass" else [{"fail": "FAILS"}.get(status, status.upper())]
    said += ["STALE"] if stale else []
    said += ["OVERRIDDEN"] if overridden else []
    return said + ([] if released else ["NOT RELEASED"])
