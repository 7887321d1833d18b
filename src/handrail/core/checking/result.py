"""What a check gives back, and how it is judged."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Any

from handrail.core.limit_state import DetailingRule
from handrail.core.quantities.lines import Line
from handrail.core.quantities.units import SHOWN, show
from handrail.core.quantities.words import all_said, said
from handrail.core.remark import remarks
from handrail.core.standards import Standard
from handrail.core.standards.sizes import Sizes

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
    says: Callable[[float, str, str], str] | None = None
    code: str = ""
    method: str = ""

    def words(self, system: str = "us") -> str:
        """In words what is over its strength, and where."""
        return over_strength(self.check, self.clause, self.utilisation, self.action, self.says, system)

    @property
    def counts(self) -> float:
        """The utilisation as it counts for the connection: a limit counts only when it is passed."""
        return self.utilisation if not self.limit or self.utilisation > 1 else 0.0

    def as_dict(self, system: str = "si", trace: bool = False) -> dict[str, Any]:
        """Plain data in the units of `system`, with its worked lines where `trace`."""
        unit, scale = SHOWN[system].get(self.kind, ("", 1.0))
        fields = {
            "check": self.check,
            "part": self.part,
            "clause": self.clause,
            "code": f"{self.code} {self.method}",
            "demand": _finite(self.demand * scale),
            "strength": _finite(self.strength * scale),
            "unit": unit,
            "utilisation": round(min(self.utilisation, CEILING), 6),
            "action": self.action,
            "limit": self.limit,
        }
        if trace:
            fields["lines"] = [line.text("us" if system == "us" else "si") for line in self.lines]
        return fields


def _finite(value: float, digits: int = 6) -> float:
    return round(float(value), digits) if abs(value) < 1e9 else CEILING


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
        """`why` in inches and kip."""
        return self.why("us")

    def why(self, system: str) -> str:
        """In words why it is not a pass, in the units of `system`; empty for a pass."""
        if self.status == "unchecked":
            return said(one_cause(self.unchecked), system)
        if self.status != "fail":
            return ""
        words = [broken_rule(r, system) for r in self.detailing if not r.ok]
        if self.governing and self.governing.counts > 1:
            words.insert(0, self.governing.words(system))
        return "; ".join(words)

    def as_dict(self, standard: Standard, system: str = "si", trace: bool = False) -> dict[str, Any]:
        """The JSON of `handrail trial` and of the API."""
        governing = self.governing
        return {
            "status": self.status,
            "reason": self.why(system),
            "utilisation": round(min(self.utilisation, CEILING), 6),
            "governing": {"check": governing.check, "action": governing.action} if governing else None,
            "advice": standard.changing.advice.get(governing.check, "") if governing and governing.counts > 1 else "",
            "parameters": {
                name: {
                    "value": s.value if isinstance(s.value, int) else standard.parameter(name).show(s.value, system),
                    "source": s.source,
                }
                | ({"formula": s.formula} if s.formula else {})
                for name, s in self.sizes.items()
            },
            "checks": [c.as_dict(system, trace) for c in sorted(self.checks, key=lambda c: -c.counts)],
            "detailing": [rule_dict(r, system) for r in self.detailing],
            "notes": list(all_said((*self.unchecked, *self.notes), system)),
            "remarks": list(all_said(remarks(self.notes), system)),
        }


def one_cause(reasons: Sequence[str]) -> str:
    """Why something cannot be judged: its first cause, and how many more there are, which notes tell."""
    return reasons[0] + (f" (and {len(reasons) - 1} more)" if len(reasons) > 1 else "") if reasons else ""


def over_strength(
    check: str, clause: str, use: float, action: str, says: Callable[[float, str, str], str] | None, system: str
) -> str:
    """In words which limit state is over its strength in which combination."""
    return says(use, action, system) if says else f"{check} ({clause}) at {share(use)} in {action}"


def rule_dict(rule: DetailingRule, system: str = "si") -> dict[str, Any]:
    """A detailing rule as plain data, in the units of `system`."""
    unit, scale = SHOWN[system].get(rule.kind, ("", 1.0))
    return {
        "rule": rule.rule,
        "part": rule.part,
        "given": _finite(rule.given * scale, 4),
        "limit": _finite(rule.limit * scale, 4),
        "unit": unit,
        "ok": rule.ok,
        "sense": "at least" if rule.at_least else "at most",
        "clause": rule.clause,
        "says": said(rule.says, system),
    }


def share(use: float) -> str:
    """A utilisation in two decimals; three where two would hide which side of 1 it is on."""
    use = min(use, CEILING)
    return f"{use:.3f}" if use != 1 and abs(use - 1) < 0.005 else f"{use:.2f}"


def broken_rule(rule: DetailingRule, system: str = "us") -> str:
    """In words what is given and what a detailing rule needs."""
    if rule.says:
        return f"detailing rule {rule.rule}: {said(rule.says, system)} ({rule.clause})"
    sense = "at least" if rule.at_least else "at most"
    given, limit = (show(value, rule.kind, system) for value in (rule.given, rule.limit))
    if given == limit:  # apart by less than is shown
        unit, scale = SHOWN[system].get(rule.kind, ("", 1.0))
        given, limit = (f"{value * scale:.5g} {unit}".strip() for value in (rule.given, rule.limit))
    return f"detailing rule {rule.rule}: {given} given, {sense} {limit} needed"
