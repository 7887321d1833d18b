"""From a framed building and a rulebook to families of connections ready for the batch."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from handrail import __version__
from handrail.core.actions import COMPONENTS, Actions
from handrail.core.building.framing import SHEAR_ENDS, Connection, Framing
from handrail.core.building.model import Building
from handrail.core.catalogue import Steel, grades_fit
from handrail.core.checking.acting import Acting
from handrail.core.checking.batch import Batch, Family
from handrail.core.checking.connection import check
from handrail.core.checking.remedy import Remedy, find_remedy
from handrail.core.checking.result import Result
from handrail.core.codes.aisc360 import Code
from handrail.core.rulebook import Rule, Rulebook
from handrail.core.standards import STANDARDS
from handrail.core.standards.situation import Situation
from handrail.core.standards.sizes import Sized, Sizes

NO_RULE = "no rule takes it"
Overrides = dict[str, dict[str, Any]]  # connection id -> parameter -> value in core units


@dataclass(frozen=True)
class Assigned:
    """A connection with the rule that took it, or why none did."""

    connection: Connection
    situation: Situation | None
    rule: Rule | None
    reason: str
    status: str = "unchecked"  # what `reason` makes of it: unchecked, or unassigned where nothing took it


@dataclass
class Plan:
    """One building by one code and method, ready to size, verify or look at one by one."""

    building: Building
    framing: Framing
    rulebook: Rulebook
    code: Code
    overrides: Overrides

    @cached_property
    def acting(self) -> Acting:
        return Acting(self.building, self.framing.connections, self.code.method, self.framing.pieces.roles)

    @cached_property
    def index(self) -> dict[str, int]:
        return {c.id: k for k, c in enumerate(self.framing.connections)}

    @cached_property
    def assigned(self) -> list[Assigned]:
        """Every connection with its rule, in the framing's order."""
        known = np.nan_to_num(self.acting.all)
        high, low = known.max(axis=1, initial=0.0), known.min(axis=1, initial=0.0)
        return [self._assign(c, (high[k], low[k])) for k, c in enumerate(self.framing.connections)]

    def _assign(self, connection: Connection, peaks: tuple[np.ndarray, np.ndarray]) -> Assigned:
        if problem := unknown(self.building, connection):
            return Assigned(connection, None, None, problem)
        if connection.framing not in SHEAR_ENDS:
            recognised = connection.framing != "unrecognised"
            why = f"no standard for {connection.framing} yet" if recognised else f"framing not recognised: {connection.reason}"
            return Assigned(connection, None, None, why, "unassigned")
        situation = situation_of(self.building, connection)
        rule = self.rulebook.rule_for(self.facts(connection, situation, peaks))
        if rule is None:
            return Assigned(connection, situation, None, NO_RULE, "unassigned")
        if self.acting.collector[self.index[connection.id]] and not self.acting.overstrength.names:
            return Assigned(
                connection, situation, rule, f"a collector, and the model has no overstrength combinations of {self.code.method}"
            )
        return Assigned(connection, situation, rule, "")

    def facts(self, connection: Connection, situation: Situation, peaks: tuple[np.ndarray, np.ndarray]) -> dict[str, Any]:
        """The facts that rules can ask for; lengths mm, angles rad, forces N, moments N*mm.

        `peaks` are the largest and the smallest of each action over the combinations, 0 counted in; `N` is the larger of
        both in size, `N.max` and `N.min` keep their signs.
        """
        member = self.building.members[connection.member]
        facts = connection.facts
        found: dict[str, Any] = {
            "framing": connection.framing,
            "cope": facts["cope"],
            "released": facts["released"],
            "opposed": bool(facts["opposed"]),
            "face": situation.face or None,
            "skew": float(np.radians(facts["skew"])),
            "slope": abs(float(np.radians(facts["slope"]))),
            "top_offset": facts["top_offset"],
            "elevation": float(self.building.xyz[connection.node, 2]),
            "supported.section": member.section,
            "supported.grade": member.grade,
            "intent": (member.intent_j if connection.end else member.intent_i) or None,
        }
        for name, high, low in zip(COMPONENTS, *peaks, strict=True):
            found |= {name: max(float(high), -float(low)), f"{name}.max": float(high), f"{name}.min": float(low)}
        if connection.support is not None:
            found["support.section"] = self.building.members[connection.support].section
        for name, steel in (("supported", situation.supported), ("support", situation.support)):
            if steel is not None:
                s = steel.section
                found |= {f"{name}.family": s.family, f"{name}.depth": s.d, f"{name}.width": s.bf, f"{name}.web": s.tw}
        return found

    def family(self, assigned: Assigned, sizes: Sizes | None = None) -> Family | None:
        """The family of one connection: sizing by its ladder, or, with `sizes`, those as they stand."""
        if assigned.rule is None or assigned.situation is None or assigned.reason:
            return None
        rule, standard = assigned.rule, STANDARDS[assigned.rule.use]
        own = {n: Sized(v, "override") for n, v in self.overrides.get(assigned.connection.id, {}).items()}
        if sizes is not None:
            known = {p.name for p in standard.parameters}
            given = {n: s for n, s in sizes.items() if s.source not in ("geometry", "default") and n in known} | own
            return Family(standard.name, assigned.situation, _frozen(given), ((),))
        base = self.rulebook.practice.get(standard.name, {}) | rule.set
        if rule.ladder is None:
            held = frozenset(rule.set) | frozenset(own)
            start = standard.complete(assigned.situation, base | own)
            rungs = [{n: Sized(v, "rung") for n, v in rung.items()} for rung in standard.ladder(assigned.situation, start, held)]
        else:
            rungs = [{n: s for n, s in rung.items() if n not in own} for rung in rule.ladder]
        climbed = {n for rung in rungs for n in rung}
        given = {n: s for n, s in base.items() if n not in climbed} | own
        lower = {n: s for n, s in base.items() if n in climbed and n not in own}
        return Family(standard.name, assigned.situation, _frozen(given), tuple(_frozen(lower | rung) for rung in rungs))

    def families(self, wanted: set[str] | None = None, stored: dict[str, Sizes] | None = None) -> dict[Family, list[int]]:
        """Families of the connections in `wanted` (all), sized afresh or, where `stored` has sizes, verified."""
        found: dict[Family, list[int]] = {}
        alike: dict[tuple[Any, ...], Family | None] = {}
        for k, assigned in enumerate(self.assigned):
            name = assigned.connection.id
            if wanted is not None and name not in wanted:
                continue
            sizes = stored.get(name) if stored is not None else None
            key = (assigned.rule and assigned.rule.line, assigned.situation, assigned.reason)
            if sizes is not None or name in self.overrides:
                family = self.family(assigned, sizes)
            elif key in alike:
                family = alike[key]
            else:
                family = alike[key] = self.family(assigned)
            if family is not None:
                found.setdefault(family, []).append(k)
        return found

    def batch(self, progress: Any = lambda done: None) -> Batch:
        return Batch(self.code, self.rulebook.target, self.acting.actions, progress, self.building.system)

    def look(self, assigned: Assigned, sizes: Sizes, tracing: bool = False) -> Result | None:
        """One connection checked in full with the sizes given; None where it has no standard."""
        if assigned.rule is None or assigned.situation is None:
            return None
        k = np.array([self.index[assigned.connection.id]])
        standard = STANDARDS[assigned.rule.use]
        if np.isnan(self.acting.on(k)).any() or not self.acting.names:
            return check(standard, assigned.situation, sizes, self.code, Actions.of(np.zeros((0, 6))))
        return check(standard, assigned.situation, sizes, self.code, self.acting.actions(k), tracing)

    def remedy(self, assigned: Assigned, sizes: Sizes) -> Remedy | None:
        """The smallest change found that would make a failing connection pass."""
        if assigned.rule is None or assigned.situation is None:
            return None
        given = {n: s for n, s in sizes.items() if s.source not in ("geometry", "default")}
        held = frozenset(self.overrides.get(assigned.connection.id, {}))
        standard = STANDARDS[assigned.rule.use]
        return find_remedy(standard, assigned.situation, given, held, lambda tried: self.look(assigned, tried), self.rulebook.target)

    def grounds(self, wanted: set[str] | None = None, stored: dict[str, Sizes] | None = None) -> dict[str, str]:
        """What the result of each connection rests on, as a digest that says its engine and whether sizes were made or stood.

        It covers the forces (its own, opposite, the support's), members, code, combinations, target and what the rulebook
        and overrides give, or why there is nothing to work out. Where `stored` has a connection's sizes, it is
        that of verifying them.
        """
        found = {}
        for family, members in self.families(wanted, stored).items():
            alike = repr((family, self.code, self.acting.names, self.rulebook.target)).encode()
            kind = "stand" if stored is not None and self.assigned[members[0]].connection.id in stored else "size"
            for k in members:
                found[self.assigned[k].connection.id] = f"{__version__}:{kind}:{self._hashed(k, alike)}"
        for assigned in self.assigned:
            name = assigned.connection.id
            if name not in found and (wanted is None or name in wanted):
                why = repr((assigned.status, assigned.reason, assigned.rule.name if assigned.rule else "")).encode()
                found[name] = f"{__version__}:none:{hashlib.blake2b(why, digest_size=16).hexdigest()}"
        return found

    def _hashed(self, index: int, alike: bytes) -> str:
        k = np.array([index])
        hashed = hashlib.blake2b(alike, digest_size=16)
        other = self.acting.opposed(k)
        for part in (self.acting.on(k), other if other is not None else np.zeros(0), np.asarray(self.acting.support(k))):
            hashed.update(np.ascontiguousarray(np.round(part, 3)).tobytes())
        return hashed.hexdigest()


def _frozen(sizes: Sizes) -> tuple[tuple[str, Sized], ...]:
    return tuple(sorted(sizes.items()))


def unknown(building: Building, connection: Connection) -> str:
    """What the catalogue lacks of a connection's members, in words; empty where it holds them all."""
    for index in (connection.member, connection.support):
        if index is None:
            continue
        member = building.members[index]
        section, grade = building.section(member.section), building.grade(member.grade)
        if section is None:
            return f"section {member.section} is not in the catalogue"
        if grade is None:
            return f"grade {member.grade} is not in the catalogue"
        if problem := grades_fit(section, grade):
            return problem
    return ""


def situation_of(building: Building, connection: Connection) -> Situation:
    """The situation of a shear end of which nothing is `unknown`."""
    assert connection.support is not None
    facts = connection.facts
    return Situation(connection.framing, _steel(building, connection.member), _steel(building, connection.support),
                     skew=round(float(np.radians(facts["skew"])), 5), slope=round(float(np.radians(facts["slope"])), 5),
                     top_offset=round(facts["top_offset"], 3), opposed=bool(facts["opposed"] or facts.get("across")),
                     support_end=bool(facts.get("support_end")), face=facts.get("face", ""))  # fmt: skip


def _steel(building: Building, index: int) -> Steel:
    member = building.members[index]
    section, grade = building.section(member.section), building.grade(member.grade)
    assert section is not None and grade is not None
    return Steel(section, grade)
