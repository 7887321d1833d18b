"""What a check gives back, and how it is judged."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from handrail.core.checking.trace import Line
from handrail.core.standards.base import DetailingRule, Sizes, Standard
from handrail.core.units import SHOWN, show

STATUSES = ("pass", "fail", "unchecked", "unassigned", "elsewhere")
CEILING = 9999.0  # shown for a utilisation without end


@dataclass(frozen=True)
class Check:
    """One limit state at its worst combination; demand and strength in the core's unit of `kind`."""

    check: str
    part: str
    clause: str
    kind: str
    demand: float
    strength: float
    utilisation: float
    action: str
    limit: bool = False
    place: int = 0
    lines: tuple[Line, ...] = ()

    @property
    def counts(self) -> float:
        """The utilisation as it counts for the connection: a limit counts only when it is passed."""
        return self.utilisation if not self.limit or self.utilisation > 1 else 0.0

    def as_dict(self, system: str = "si", trace: bool = False) -> dict[str, Any]:
        unit, scale = SHOWN[system].get(self.kind, ("", 1.0))
        found = {
            "check": self.check,
            "part": self.part,
            "clause": self.clause,
            "demand": _finite(self.demand * scale),
            "strength": _finite(self.strength * scale),
            "unit": unit,
            "utilisation": round(min(self.utilisation, CEILING), 6),
            "action": self.action,
            "limit": self.limit,
        }
        if trace:
            found["lines"] = [line.text("us" if system == "us" else "si") for line in self.lines]
        return found


def _finite(value: float) -> float:
    return round(value, 6) if abs(value) < 1e9 else CEILING


@dataclass(frozen=True)
class Result:
    """One connection checked: status, utilisation, what governs, every check and detailing rule."""

    status: str
    utilisation: float
    governing: Check | None
    checks: tuple[Check, ...]
    detailing: tuple[DetailingRule, ...]
    unchecked: tuple[str, ...] = ()
    notes: tuple[str, ...] = ()
    sizes: Sizes = field(default_factory=dict)

    @property
    def reason(self) -> str:
        """In words why it is not a pass; empty for a pass."""
        if self.status == "unchecked":
            return "; ".join(self.unchecked)
        if self.status != "fail":
            return ""
        words = [broken_rule(r) for r in self.detailing if not r.ok]
        if self.governing and self.governing.counts > 1:
            g = self.governing
            words.insert(0, f"{g.check} ({g.clause}) at {share(g.utilisation)} in {g.action}")
        return "; ".join(words)

    def as_dict(self, standard: Standard, system: str = "si", trace: bool = False) -> dict[str, Any]:
        """The JSON of `handrail trial` and of the API."""
        governing = self.governing
        return {
            "status": self.status,
            "reason": self.reason,
            "utilisation": round(min(self.utilisation, CEILING), 6),
            "governing": {"check": governing.check, "action": governing.action} if governing else None,
            "parameters": {
                name: {"value": s.value if isinstance(s.value, int) else standard.parameter(name).show(s.value), "source": s.source}
                for name, s in self.sizes.items()
            },
            "checks": [c.as_dict(system, trace) for c in sorted(self.checks, key=lambda c: -c.counts)],
            "detailing": [rule_dict(r, system) for r in self.detailing],
            "notes": [*self.unchecked, *self.notes],
        }


def rule_dict(rule: DetailingRule, system: str = "si") -> dict[str, Any]:
    unit, scale = SHOWN[system].get(rule.kind, ("", 1.0))
    return {
        "rule": rule.rule,
        "part": rule.part,
        "given": round(rule.given * scale, 4),
        "limit": round(rule.limit * scale, 4),
        "unit": unit,
        "ok": rule.ok,
        "sense": "at least" if rule.at_least else "at most",
        "clause": rule.clause,
    }


def share(use: float) -> str:
    """A utilisation in two decimals; three where two would hide which side of 1 it is on."""
    use = min(use, CEILING)
    return f"{use:.3f}" if use != 1 and abs(use - 1) < 0.005 else f"{use:.2f}"


def broken_rule(rule: DetailingRule, system: str = "us") -> str:
    """In words what is given and what a detailing rule needs."""
    sense = "at least" if rule.at_least else "at most"
    return f"detailing rule {rule.rule}: {show(rule.given, rule.kind, system)} given, {sense} {show(rule.limit, rule.kind, system)} needed"
