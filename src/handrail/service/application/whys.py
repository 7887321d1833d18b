"""Why a rule took a connection and others passed it by, and where each of its sizes comes from; also by a rulebook that
is only tried."""

from __future__ import annotations

from typing import Any

from handrail.core.checking.assigning import Assigned
from handrail.core.checking.coverage import added_to, facts_beside, passed_by
from handrail.core.checking.plan import Plan
from handrail.core.errors import InputError
from handrail.core.joint.situation import Situation
from handrail.core.quantities.units import show
from handrail.core.rulebook import Also, Failing, Rule
from handrail.core.rulebook.conditional import facts_in, sides, with_facts
from handrail.core.rulebook.conditions import shown
from handrail.core.rulebook.differing import also_in_words
from handrail.core.rulebook.facts import FACTS
from handrail.core.rulebook.lookups import looked_up, looks_up, sampled
from handrail.core.standards import STANDARDS, Standard
from handrail.core.standards.formulas import kind_of, values_in, worked_out
from handrail.core.standards.sizes import Sizes

Told = dict[str, Any]


def why(plan: Plan, key: str, sizes: Sizes) -> Told:
    """How the rulebook came to a connection, and where its `sizes` come from."""
    k = plan.index[key]
    assigned, by_rule = plan.assigned[k], plan.by_rules[k]
    met = [_layer(plan, k, rule, failing) for rule, failing in passed_by(plan, k)]
    return {
        "connection": key,
        "rule": by_rule.rule.name if by_rule.rule else "",
        "reason": by_rule.reason,
        "standard": assigned.rule.use if assigned.rule else "",
        "chosen": "" if assigned.rule is by_rule.rule or assigned.rule is None else assigned.rule.name,
        "met": met,
        "target": plan.target([key]),
        "also": [
            _layer(plan, k, also, failing) | {"adds": also_in_words(also, plan.building.system)}
            for also, failing in added_to(plan, k)
        ],
        "sizes": _sources(assigned, sizes, plan.building.system),
        "facts": facts_of(plan, k, by_rule.situation),
    }


def _layer(plan: Plan, k: int, rule: Rule | Also, failing: list[Failing]) -> Told:
    """One rule that a connection met: what of it did not hold, beside what the connection has."""
    return {
        "rule": rule.name,
        "line": rule.line,
        "origin": rule.origin,
        "note": rule.note,
        "took": not failing,
        "failing": [{"asked": part.asked, "has": _has(plan, k, part)} for part in failing],
    }


def _has(plan: Plan, k: int, part: Failing) -> str:
    facts = facts_beside(plan, k)
    return ", ".join(f"{name} {shown(name, facts.get(name), plan.building.system)}" for name in part.facts)


def facts_of(plan: Plan, k: int, situation: Situation | None) -> dict[str, str]:
    """Every fact of a connection as text, those that it has."""
    if situation is None:
        return {}
    known = plan.facts(k, situation, every=True) | plan.facts(k, situation)
    return {
        name: shown(name, value, plan.building.system)
        for name, value in known.items()
        if value is not None and (name in FACTS or "@" in name)
    }


def _sources(assigned: Assigned, sizes: Sizes, system: str) -> list[Told]:
    if assigned.rule is None or assigned.situation is None:
        return []
    standard = STANDARDS[assigned.rule.use]
    return [
        _source(standard, p.name, sizes, assigned.situation, system) for p in standard.parameters if p.name in sizes
    ]


def _source(standard: Standard, name: str, sizes: Sizes, situation: Situation, system: str) -> Told:
    size, parameter = sizes[name], standard.parameter(name)
    values = values_in(size.formula, lambda asked: sizes[asked].value, situation) if size.formula else {}
    return {
        "parameter": name,
        "text": parameter.show(size.value, system),
        "source": size.source,
        "formula": size.formula,
        "values": {asked: _shown(standard, asked, value, system) for asked, value in values.items()},
    }


def _shown(standard: Standard, name: str, value: Any, system: str) -> str:
    return show(float(value), "length", system) if "." in name else standard.parameter(name).show(value, system)


def tried(plan: Plan, key: str, table: str, formula: str, rule: str) -> Told:
    """What a table, a formula or a rule gives for one connection: the value with its unit, the row, or why there is
    none."""
    k = plan.index[key]
    assigned = plan.by_rules[k]
    if assigned.situation is None:
        return {"none": assigned.reason}
    told: Told = {}
    facts = plan.facts(k, assigned.situation)
    if table:
        told["row"], told["none"] = _row(plan, table, facts)
    if rule:
        named = next((r for r in plan.rulebook.rules if r.name == rule), None)
        if named is None:
            raise InputError(f"rule: there is no rule '{rule[:60]}'")
        told["rule"] = _layer(plan, k, named, named.failing(facts))
    if formula:
        told |= _value(plan, k, assigned, formula, facts)
    return told


def _row(plan: Plan, name: str, facts: dict[str, Any]) -> tuple[Told | None, str]:
    table = plan.rulebook.tables.get(name)
    if table is None:
        raise InputError(
            f"table: there is no table '{name[:60]}'; there is {', '.join(plan.rulebook.tables) or 'none'}"
        )
    if table.by_number:
        return None, f"table {name} is found by {table.by_number.column.name}: try a formula with look_up({name}, ...)"
    row = table.find(facts)
    if row is None:
        return None, table.why_none(facts)
    return {"key": row.said, "cells": dict(row.cells)}, ""


def _value(plan: Plan, k: int, assigned: Assigned, formula: str, facts: dict[str, Any]) -> Told:
    """A formula worked out with the sizes that the connection has by these rules."""
    if assigned.rule is None or assigned.situation is None:
        return {"none": "no rule takes it, so it has no sizes to work with"}
    standard, system = STANDARDS[assigned.rule.use], plan.building.system
    text = formula if formula.lstrip().startswith("=") else f"= {formula}"
    try:
        every = plan.facts(k, assigned.situation, every=True) | facts if facts_in(text, standard.names) else facts
        resolved, held = with_facts(text, standard.names, every)
        rows = [f"as {condition}" for condition in held]
        if looks_up(resolved):
            resolved, found = looked_up(resolved, plan.rulebook.tables, facts)
            rows += found
        if not resolved.startswith("="):
            return {"value": resolved, "rows": rows}
        outcome = plan.work({assigned.connection.id}).get(plan.index[assigned.connection.id])
        if outcome is None or not outcome.sizes:
            return {"none": outcome.reason if outcome else assigned.reason}
        kind = kind_of(
            sampled(sides(text, standard.names)[0], plan.rulebook.tables), {p.name: p.kind for p in standard.parameters}
        )
        sizes, situation = outcome.sizes, assigned.situation
        value = worked_out(resolved, lambda asked: sizes[asked].value, situation)
        values = values_in(resolved, lambda asked: sizes[asked].value, situation)
    except InputError as exc:
        return {"none": exc.said(system)}
    return {
        "value": show(value, kind, system),
        "rows": rows,
        "values": {name: _shown(standard, name, v, system) for name, v in values.items()},
    }
