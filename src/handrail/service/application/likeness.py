"""A rule made from a connection that somebody likes."""

from __future__ import annotations

from collections.abc import Collection
from typing import Any

from handrail.core.checking.assigning import Assigned
from handrail.core.quantities.units import show
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import NOT_CHOSEN, Sizes

SKEWED = 0.0087  # rad: half a degree


def rule_like(
    assigned: Assigned, sizes: Sizes, facts: dict[str, Any], free: Collection[str], sections: bool, system: str
) -> dict[str, Any]:
    """A rule that takes what is framed so (between the same `sections`, or the same kinds of them) and gives it the
    sizes that were chosen here; those in `free` are left to the ladder."""
    assert assigned.rule is not None and assigned.situation is not None
    standard, name = STANDARDS[assigned.rule.use], assigned.connection.id
    when: dict[str, Any] = {"framing": facts["framing"]}
    for role in ("supported", "support"):
        if facts.get(f"{role}.section") is not None:
            when[f"{role}.section" if sections else f"{role}.family"] = facts[
                f"{role}.section" if sections else f"{role}.family"
            ]
    if facts["framing"].startswith("beam_to_"):
        when["released"] = bool(facts["released"])
        for angle in ("skew", "slope"):
            when[angle] = (
                f"< {show(SKEWED, 'angle', system)}" if abs(facts[angle]) < SKEWED else _about(facts[angle], system)
            )
    chosen = {n: s for n, s in sizes.items() if s.source not in NOT_CHOSEN and n not in free}
    said = {
        n: s.formula or (s.value if isinstance(s.value, int) else standard.parameter(n).show(s.value, system))
        for n, s in chosen.items()
    }
    rule: dict[str, Any] = {"name": f"Like {name}", "note": f"made from {name}", "when": when, "use": standard.name}
    return rule | ({"set": said} if said else {})


def _about(angle: float, system: str) -> str:
    low, high = (show(angle + way * SKEWED, "angle", system) for way in (-1, 1))
    return f"{low.split()[0]} .. {high}"
