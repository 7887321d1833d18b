"""A rulebook as it was read: what it makes of a connection by its facts."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any

from handrail.core.building.nearest import SAME
from handrail.core.catalogue import STOCKS, Shop
from handrail.core.errors import InputError
from handrail.core.rulebook.also import Also, added
from handrail.core.rulebook.conditional import facts_in, with_facts
from handrail.core.rulebook.facts import OF_RULE
from handrail.core.rulebook.lateral import UNSAID, Lateral
from handrail.core.rulebook.lookups import asked_of
from handrail.core.rulebook.practice import OVER_CHOICES
from handrail.core.rulebook.rule import Rule
from handrail.core.rulebook.tables import Table
from handrail.core.standards import STANDARDS
from handrail.core.standards.formulas import is_formula
from handrail.core.standards.sizes import Sized, Sizes


@dataclass(frozen=True)
class Rulebook:
    """Shop practice by standard, the target utilisation (of some standards `targets` of their own) and whether what
    passes over it may be released, tables, the rules in their order, those that are inherited last, the also-rules in
    theirs, those that are inherited first, which members are of which lateral system, how far (mm) an end may move and
    be the same, how steel, bolts and rods are finished, and what the shop's plates and steps are in (`stock`)."""

    title: str
    practice: dict[str, Sizes]
    target: float
    rules: tuple[Rule, ...]
    tables: Mapping[str, Table] = field(default_factory=dict)
    inherits: str = ""
    over_target: str = OVER_CHOICES[0]
    lateral: Lateral = UNSAID
    same_place: float = SAME
    finish: Mapping[str, str] = field(default_factory=dict)
    also: tuple[Also, ...] = ()
    targets: Mapping[str, float] = field(default_factory=dict)
    stock: str = "in"

    @property
    def shop(self) -> Shop:
        """What sizes go by."""
        return STOCKS[self.stock]

    @cached_property
    def asks(self) -> tuple[str, ...]:
        """The facts that what it makes of a connection depends on; the framing, which its standard goes with or not,
        among them."""
        names = {"framing"}
        for rule in self.rules:
            names.update(rule.when.facts)
            names.update(name for table in self._tables_of(rule) for name in table.asks)
            names.update(self._facts_of(rule.use, self._sizes_of(rule)))
        for also in self.also:
            names.update(also.when.facts)
            for use in STANDARDS:
                names.update(name for table in self._tables_of_also(also, use) for name in table.asks)
                names.update(self._facts_of(use, also.sizes_in_it(use)))
        return tuple(sorted(names.difference(OF_RULE)))

    def rule_for(self, facts: Mapping[str, Any]) -> Rule | None:
        """The first rule that takes a connection with these facts, with the sizes that it has there."""
        rule = next((rule for rule in self.rules if rule.takes(facts)), None)
        return rule and self.taken(rule, facts)

    def taken(self, rule: Rule, facts: Mapping[str, Any]) -> Rule:
        """A rule with the sizes that it and also-rules have for one connection; the same object for all for which the
        same of them add, tables have the same rows, and formulas come to the same."""
        practice = self.practice.get(rule.use, {})
        facts = {**facts, "rule": rule.name, "standard": rule.use}
        layers = tuple(also for also in self.also if also.adds(rule.use, facts))
        tables = [*self._tables_of(rule), *(t for also in layers for t in self._tables_of_also(also, rule.use))]
        try:
            put = [with_facts(text, STANDARDS[rule.use].names, facts) for text in self._asking(rule, layers)]
            asked = [(text, *words) for text, words in put]
        except InputError:
            asked = []  # told as the rule's problem
        rows = (id(table.find(facts)) for table in tables)
        alike = (rule.name, rule.use, rule.line, rule.origin, *map(id, layers), *rows, *asked)
        if alike not in self._taken:
            own = self._made(rule, practice, layers, facts)
            if own.problem:
                return own
            self._taken[alike] = own
        return self._taken[alike]

    def _made(self, rule: Rule, practice: Sizes, layers: tuple[Also, ...], facts: Mapping[str, Any]) -> Rule:
        own = rule.target if rule.target is not None else self.targets.get(rule.use, self.target)
        try:
            more = added(layers, rule.use, self.tables, facts)
        except InputError as exc:
            return replace(rule, base=practice | rule.set, target=own, problem=exc.words)
        target = own if more.target is None else more.target
        return replace(rule.taken(practice, self.tables, facts, more), target=target)

    @cached_property
    def _taken(self) -> dict[tuple[Any, ...], Rule]:
        return {}

    def _sizes_of(self, rule: Rule) -> list[Sized]:
        """All that a rule and practice give its standard."""
        return [*self.practice.get(rule.use, {}).values(), *rule.sizes_in_it]

    def _tables_of(self, rule: Rule) -> tuple[Table, ...]:
        """The tables that a rule's sizes come from by facts of the connection."""
        if rule not in self._asked:
            names = [*(of.table.name for of in rule.tables), *self._looked(self._sizes_of(rule))]
            self._asked[rule] = tuple(self.tables[name] for name in dict.fromkeys(names))
        return self._asked[rule]

    def _tables_of_also(self, also: Also, use: str) -> tuple[Table, ...]:
        """The same of what an also-rule says of a standard."""
        if (also, use) not in self._asked:
            names = [of.table.name for of in also.tables.get(use, ())] + self._looked(also.sizes_in_it(use))
            self._asked[also, use] = tuple(self.tables[name] for name in dict.fromkeys(names))
        return self._asked[also, use]

    def _looked(self, sizes: Iterable[Sized]) -> list[str]:
        """The tables by facts that formulas look up in."""
        asked = [asked_of(size.value, self.tables) for size in sizes if is_formula(size.value)]
        return sorted({table.name for own in asked for table, _ in own if table.by_number is None})

    def _facts_of(self, use: str, sizes: Iterable[Sized]) -> set[str]:
        """The facts that formulas ask for."""
        names = STANDARDS[use].names
        return {fact for size in sizes if is_formula(size.value) for fact in facts_in(str(size.value), names)}

    def _asking(self, rule: Rule, layers: tuple[Also, ...]) -> list[str]:
        """The formulas that ask for facts, of a rule and of these also-rules."""
        if rule not in self._formulas:
            self._formulas[rule] = self._with_facts(rule.use, self._sizes_of(rule))
        more = []
        for also in layers:
            if (also, rule.use) not in self._formulas:
                self._formulas[also, rule.use] = self._with_facts(rule.use, also.sizes_in_it(rule.use))
            more += self._formulas[also, rule.use]
        return [*self._formulas[rule], *more]

    def _with_facts(self, use: str, sizes: Iterable[Sized]) -> list[str]:
        return [str(size.value) for size in sizes if is_formula(size.value) and self._facts_of(use, [size])]

    @cached_property
    def _formulas(self) -> dict[Any, list[str]]:
        return {}

    @cached_property
    def _asked(self) -> dict[Any, tuple[Table, ...]]:
        return {}
