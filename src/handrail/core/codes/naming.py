"""A clause by our name of a limit state, a rule or a line."""

from __future__ import annotations

from collections.abc import Mapping


def clause_of(clauses: Mapping[str, str], what: str) -> str:
    """The entry of `what`; else of its end, without the words before it that say of which part (plate_shear_yield);
    else of its beginning, without those behind (bolt_bearing_web). Raises KeyError."""
    words = what.split("_")
    for part in [words[k:] for k in range(len(words))] + [words[:k] for k in range(len(words) - 1, 0, -1)]:
        if (found := clauses.get("_".join(part))) is not None:
            return found
    raise KeyError(f"no clause is held of {what}")
