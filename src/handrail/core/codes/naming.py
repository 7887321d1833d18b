"""A clause by our name of a limit state, a rule or a line."""

from __future__ import annotations

from collections.abc import Mapping


def clause_of(clauses: Mapping[str, str], what: str) -> str:
    """The entry of `what`; else that of any part (`*_shear_yield` of plate_shear_yield), or of any ply
    (`bolt_bearing_*`), the longest that fits. Raises KeyError."""
    words = what.split("_")
    ends = ("_".join(["*", *words[k:]]) for k in range(1, len(words)))
    starts = ("_".join([*words[:k], "*"]) for k in range(len(words) - 1, 0, -1))
    for name in (what, *ends, *starts):
        if (clause := clauses.get(name)) is not None:
            return clause
    raise KeyError(f"no clause is held of {what}")
