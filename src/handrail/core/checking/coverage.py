"""What a rulebook would make of a building before it is adopted: which rule takes what, and what would be otherwise
than now."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from handrail.core.checking.assigning import Assigned
from handrail.core.checking.batch import Family, Outcome
from handrail.core.checking.digests import grounds as grounds_of
from handrail.core.checking.plan import Plan
from handrail.core.errors import InputError
from handrail.core.joint.situation import Situation
from handrail.core.progress import Progress, quiet
from handrail.core.rulebook import Also, Failing, Rule
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import Sizes

COUNTED = ("field_bolts", "shop_bolts", "rods", "steel", "weld")


@dataclass(frozen=True)
class Stands:
    """How one connection stands, or would: `sizes` as they are kept; `last` is, of what is stale, the status before
    that."""

    status: str
    standard: str = ""
    rule: str = ""
    sizes: Sizes = field(default_factory=dict)
    utilisation: float = 0.0
    reason: str = ""
    last: str = ""

    def same(self, other: Stands) -> bool:
        """Whether it is the same piece of steel, judged the same when it was judged last."""
        values, theirs = ({n: s.value for n, s in of.sizes.items()} for of in (self, other))
        return (self.last or self.status, self.standard, values) == (other.last or other.status, other.standard, theirs)


@dataclass(frozen=True)
class Coverage:
    """`takes` by rule; `shadowed` (rule -> the earlier rules that take what it would, with how many) of those that
    never fire; connections that no rule takes, of the framing conditions that there are standards for, and those for
    which a size could not be found, with why; `adds`: to how many each also-rule adds."""

    takes: Mapping[str, int]
    shadowed: Mapping[str, Mapping[str, int]]
    uncovered: tuple[str, ...]
    unresolved: Mapping[str, str]
    adds: Mapping[str, int] = field(default_factory=dict)


@dataclass(frozen=True)
class Changed:
    """A connection that would be otherwise."""

    connection: str
    before: Stands
    after: Stands


@dataclass(frozen=True)
class Comparison:
    """`touched`: how many rest on something else then; `changed`, those that come out otherwise; what all are made of,
    before and after, as far as their standards count it."""

    touched: int
    changed: tuple[Changed, ...]
    before: Mapping[str, float]
    after: Mapping[str, float]


def coverage(plan: Plan, progress: Progress = quiet) -> Coverage:
    """Which rule takes what by the plan's rulebook. What `progress` raises ends it."""
    by_rules = plan.by_rules
    takes = Counter(a.rule.name for a in by_rules if a.rule)
    never = [rule for rule in plan.rulebook.rules if not takes[rule.name]]
    shadowed: dict[str, Counter[str]] = {rule.name: Counter() for rule in never}
    alike = _taken_alike(plan) if never else {}
    for number, (facts, taken) in enumerate(alike.values()):
        progress(number, len(alike))
        for rule in never:
            if rule.takes(facts):
                shadowed[rule.name].update(taken)
    uncovered = tuple(a.connection.id for a in by_rules if a.rule is None and a.situation is not None)
    unresolved = {a.connection.id: a.rule.problem for a in by_rules if a.rule is not None and a.rule.problem}
    for family, members in plan.families().items():
        if why := _without_value(family):
            unresolved |= {plan.assigned[k].connection.id: why for k in members}
    own = {rule.name: takes[rule.name] for rule in plan.rulebook.rules}
    return Coverage(own, shadowed, uncovered, unresolved, adding(plan))


def adding(plan: Plan) -> dict[str, int]:
    """To how many connections each also-rule of a plan's rulebook adds something."""
    adds = Counter(name for a in plan.by_rules if a.rule for name in a.rule.added.layers)
    return {also.name: adds[also.name] for also in plan.rulebook.also}


def added_to(plan: Plan, k: int) -> list[tuple[Also, list[Failing]]]:
    """The also-rules that a connection met, in their order, each with why it adds nothing there."""
    assigned = plan.assigned[k]
    if assigned.situation is None or assigned.rule is None:
        return []
    facts = facts_beside(plan, k)
    return [(also, also.failing(assigned.rule.use, facts)) for also in plan.rulebook.also]


def facts_beside(plan: Plan, k: int) -> dict[str, Any]:
    """The facts of a connection that rules ask for, and which rule and standard it has."""
    assigned = plan.assigned[k]
    assert assigned.situation is not None
    rule = assigned.rule
    return plan.facts(k, assigned.situation) | ({"rule": rule.name, "standard": rule.use} if rule else {})


def _taken_alike(plan: Plan) -> dict[str, tuple[dict[str, Any], Counter[str]]]:
    """Connections of which the same holds, as far as rules ask: what does, and how many of them each rule takes."""
    alike: dict[str, tuple[dict[str, Any], Counter[str]]] = {}
    for k, assigned in enumerate(plan.by_rules):
        if assigned.rule is not None and assigned.situation is not None:
            facts = plan.facts(k, assigned.situation)
            alike.setdefault(repr(facts), (facts, Counter()))[1][assigned.rule.name] += 1
    return alike


def _without_value(family: Family) -> str:
    """Why a size of a family has no value, however far it climbs; empty where all have."""
    why = ""
    rungs = family.rungs if not family.axes else (tuple(size for _, steps in family.axes for size in steps[0]),)
    for rung in rungs:
        try:
            STANDARDS[family.standard].complete(family.situation, dict(rung) | dict(family.given))
        except InputError as exc:
            why = exc.words
            continue
        return ""
    return why


def compare(now: Plan, then: Plan, kept: Mapping[str, Stands], progress: Progress = quiet) -> Comparison:
    """What the plan `then` would make otherwise than `now`; `kept` is how every connection stands. Only what rests on
    something else is sized."""
    was, will = grounds_of(now), grounds_of(then)
    touched = {key for key, grounds in will.items() if was.get(key) != grounds}
    mates = then.at_joint(touched) & kept.keys()
    beside = {key: (stands.standard, stands.sizes) for key in mates if (stands := kept[key]).sizes}
    worked = then.work(touched, None, lambda done: progress(done, len(touched)), beside) if touched else {}
    outcomes = {then.assigned[k].connection.id: o for k, o in worked.items()}
    changed, sums = [], {"before": Counter[str](), "after": Counter[str]()}
    sides: dict[str, dict[str, tuple[Stands, Situation | None]]] = {"before": {}, "after": {}}
    for k, assigned in enumerate(then.assigned):
        key = assigned.connection.id
        before = kept.get(key, Stands("unchecked"))
        then_stands = before
        if key in touched:
            then_stands = after(assigned, outcomes.get(key))
            if not then_stands.same(before):
                changed.append(Changed(key, before, then_stands))
        sides["before"][key], sides["after"][key] = (
            (before, now.assigned[k].situation),
            (then_stands, assigned.situation),
        )
    for (name, side), plan in zip(sides.items(), (now, then), strict=True):
        once = plan.sharing.counted_with({key: of.sizes for key, (of, _) in side.items() if of.sizes})
        for key, (of, situation) in side.items():
            sums[name].update(made_of(of, situation, key in once))
    return Comparison(len(touched), tuple(changed), dict(sums["before"]), dict(sums["after"]))


def after(assigned: Assigned, outcome: Outcome | None) -> Stands:
    """How a connection stands with what was made of it; with nothing, why."""
    rule = assigned.rule
    if outcome is None or rule is None:
        return Stands("unchecked" if rule else assigned.status, "", rule.name if rule else "", {}, 0.0, assigned.reason)
    return Stands(outcome.status, rule.use, rule.name, outcome.sizes, outcome.utilisation, outcome.reason)


def made_of(stands: Stands, situation: Situation | None, opposite: bool = False) -> dict[str, float]:
    """What a connection is made of; empty where its standard does not count it, or it has no sizes. `opposite`: its
    field bolts are counted there."""
    standard = STANDARDS.get(stands.standard)
    if standard is None or not stands.sizes or situation is None or situation.framing not in standard.framings:
        return {}
    made = standard.quantities(situation, standard.renewed(situation, stands.sizes))
    return {name: 0.0 if opposite and name == "field_bolts" else float(getattr(made, name)) for name in COUNTED}


def passed_by(plan: Plan, k: int) -> list[tuple[Rule, list[Failing]]]:
    """The rules that a connection met, in their order, each with why it passed it by; the last is the one that took it,
    with nothing."""
    assigned = plan.by_rules[k]
    if assigned.situation is None:
        return []
    facts = plan.facts(k, assigned.situation)
    passed = []
    for rule in plan.rulebook.rules:
        passed.append((rule, rule.failing(facts)))
        if not passed[-1][1]:
            break
    return passed
