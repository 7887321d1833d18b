"""One building by one code, rulebook and what people decided, ready to size, verify or look at one by one."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property, partial
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.building.combining import BY_STRENGTH, Chosen
from handrail.core.building.framing import Framing
from handrail.core.building.model import Building
from handrail.core.checking import families
from handrail.core.checking.acting import Acting
from handrail.core.checking.assembled import Made
from handrail.core.checking.assigning import ELSEWHERE, STANDARD, Assigned, by_choice, not_here
from handrail.core.checking.batch import Batch, Family, Outcome
from handrail.core.checking.colliding import Colliding, colliding
from handrail.core.checking.connection import NO_FORCES, check, limit_states, without_forces
from handrail.core.checking.cores import spread
from handrail.core.checking.doubts import Errors, LetStand
from handrail.core.checking.facts import Labels
from handrail.core.checking.laterals import by_rule
from handrail.core.checking.matrix import Matrix, matrix
from handrail.core.checking.modelled import Modelled
from handrail.core.checking.pairs import Pairs
from handrail.core.checking.result import Result
from handrail.core.checking.ruled import Ruled
from handrail.core.checking.sharing import Sharing
from handrail.core.codes.family import Code
from handrail.core.errors import InputError
from handrail.core.joint.situation import Situation
from handrail.core.quantities.words import said
from handrail.core.rulebook import Rulebook
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import Sizes

ACTIONS = "actions"  # an override of this name states actions in place of the model's: {component: N or N*mm}
Overrides = Mapping[str, Mapping[str, Any]]  # connection id -> parameter -> value in core units


@dataclass(frozen=True, eq=False)
class Plan:
    """What rules make of a building (`ruled`), and the `overrides` of people on top; `cores` that a run may use.

    Nothing in it changes: what is worked out from it stays true, and a plan that differs shares all that does not."""

    ruled: Ruled
    overrides: Overrides = field(default_factory=dict)
    cores: int = 1

    @classmethod
    def of(
        cls,
        building: Building,
        framing: Framing,
        rulebook: Rulebook,
        code: Code,
        overrides: Overrides | None = None,
        chosen: Chosen = BY_STRENGTH,
        labels: Labels | None = None,
        let_stand: LetStand = (),
        errors: Errors = (),
        cores: int = 1,
    ) -> Plan:
        """The plan of a framed building, its lateral system as the rulebook says."""
        by_book = by_rule(building, framing.pieces.roles, rulebook.lateral)
        model = Modelled(by_book, framing, code, chosen)
        return cls(Ruled(model, rulebook, labels or {}, let_stand, errors), overrides or {}, cores)

    def with_(
        self,
        *,
        overrides: Overrides | None = None,
        rulebook: Rulebook | None = None,
        labels: Labels | None = None,
        chosen: Chosen | None = None,
        cores: int | None = None,
    ) -> Plan:
        """The same with something else in place of what it has: other overrides, a rulebook that says the same of the
        lateral system, with the labels that it asks for, other combinations."""
        model = replace(self.ruled.model, chosen=chosen) if chosen is not None else self.ruled.model
        named = {"rulebook": rulebook, "labels": labels, "model": None if chosen is None else model}
        changed: dict[str, Any] = {name: v for name, v in named.items() if v is not None}
        ruled = replace(self.ruled, **changed) if changed else self.ruled
        own = self.overrides if overrides is None else overrides
        return Plan(ruled, own, self.cores if cores is None else cores)

    @property
    def building(self) -> Building:
        return self.ruled.model.building

    @property
    def framing(self) -> Framing:
        return self.ruled.model.framing

    @property
    def code(self) -> Code:
        return self.ruled.model.code

    @property
    def rulebook(self) -> Rulebook:
        return self.ruled.rulebook

    @property
    def chosen(self) -> Chosen:
        return self.ruled.model.chosen

    @property
    def index(self) -> dict[str, int]:
        """connection -> its place in the framing's order."""
        return self.ruled.model.index

    @property
    def modelled(self) -> Acting:
        """What acts by the model alone."""
        return self.ruled.model.acting

    @property
    def by_rules(self) -> list[Assigned]:
        """Every connection with its rule, in the framing's order."""
        return self.ruled.assigned

    def facts(self, k: int, situation: Situation, every: bool = False) -> dict[str, Any]:
        """The facts of one connection that rules ask for, or `every` one."""
        return self.ruled.facts(k, situation, every)

    @cached_property
    def acting(self) -> Acting:
        """What acts, with the actions that people stated in place of those of the model."""
        stated = {
            k: own[ACTIONS]
            for name, own in self.overrides.items()
            if ACTIONS in own and (k := self.index.get(name)) is not None
        }
        return replace(self.modelled, stated=stated) if stated else self.modelled

    @cached_property
    def assigned(self) -> list[Assigned]:
        """Every connection with its standard: those that people chose in place of those of the rules."""
        chosen = [
            (k, own)
            for name, own in self.overrides.items()
            if own.keys() & {STANDARD, ELSEWHERE} and (k := self.index.get(name)) is not None
        ]
        if not chosen:
            return self.by_rules
        every = list(self.by_rules)
        for k, own in chosen:
            if STANDARD in own:
                every[k] = by_choice(
                    self.building, every[k], own[STANDARD], partial(self.ruled.taken, k), self.code, self.rulebook.shop
                )
            if ELSEWHERE in own:
                every[k] = not_here(every[k], own[ELSEWHERE])
        return every

    @cached_property
    def sharing(self) -> Sharing:
        """Which connections may be held by the same bolts."""
        return Sharing(self.assigned, self.index)

    def partners(self, key: str) -> tuple[str, ...]:
        """The connections whose bolts a connection may share, by its standard."""
        return self.sharing.partners(key)

    def together(self, keys: Collection[str]) -> set[str]:
        """Connections with those whose bolts they may share, or whose own these are."""
        return self.sharing.together(keys)

    def at_joint(self, keys: Collection[str]) -> set[str]:
        """Connections with all others of their joints."""
        connections, at = self.framing.connections, self.ruled.model.at
        return {other for key in keys if key in self.index for other in at[connections[self.index[key]].node]}

    def decided(self, assigned: Assigned) -> dict[str, Any]:
        """The overrides of a connection, and those of what it shares with others."""
        return self.sharing.decided(assigned.connection.id, self.overrides)

    def family(self, assigned: Assigned, sizes: Sizes | None = None) -> Family | None:
        """The family of one connection: sizing by its ladder, or, with `sizes`, those as they stand."""
        own = self.decided(assigned)
        if sizes is None:
            return families.sizing(self.rulebook, assigned, own)
        return families.standing(self.rulebook, assigned, sizes, own)

    def target(self, keys: Iterable[str]) -> float:
        """What sizing all these connections alike aims at: the least of what each does."""
        own = (families.target_of(self.rulebook, self.assigned[self.index[key]]) for key in keys)
        return min(own, default=self.rulebook.target)

    def families(
        self, wanted: Collection[str] | None = None, stored: Mapping[str, Sizes] | None = None
    ) -> dict[Family, list[int]]:
        """Families of the connections in `wanted` (all), sized afresh or, where `stored` has sizes, verified."""
        groups: dict[int, tuple[Family, list[int]]] = {}
        for k, assigned in enumerate(self.assigned):
            name = assigned.connection.id
            if wanted is not None and name not in wanted:
                continue
            sizes = stored.get(name) if stored is not None else None
            family = self.by_rule(assigned) if sizes is None else self._standing(assigned, sizes)
            if family is not None:
                groups.setdefault(id(family), (family, []))[1].append(k)
        families: dict[Family, list[int]] = {}
        for family, members in groups.values():
            families.setdefault(family, []).extend(members)
        return families

    def by_rule(self, assigned: Assigned) -> Family | None:
        """The family that a connection's rule, and what people decided, make of it."""
        return self._once(assigned, (), lambda: self.family(assigned))

    def _standing(self, assigned: Assigned, sizes: Sizes) -> Family | None:
        """The family of a connection as it stands; one for all that stand alike."""
        own = tuple((n, s.value, s.source, s.formula) for n, s in sizes.items())
        return self._once(assigned, own, lambda: self.family(assigned, sizes))

    def _once(self, assigned: Assigned, sizes: tuple[Any, ...], make: Callable[[], Family | None]) -> Family | None:
        """A family, made once for all of a rule and situation of which people decided the same, with the same sizes."""
        key = assigned.connection.id
        touched = self.overrides and any(name in self.overrides for name in (key, *self.partners(key)))
        own = repr(sorted(self.decided(assigned).items())) if touched else ""
        return self.ruled.once(assigned, (own, sizes), make)

    def work(
        self,
        wanted: Collection[str] | None = None,
        stored: Mapping[str, Sizes] | None = None,
        progress: Any = lambda done: None,
        beside: Mapping[str, Made] | None = None,
    ) -> dict[int, Outcome]:
        """What is made of the connections in `wanted` (all), sized afresh or as `stored`; those that share bolts are
        made alike, and what stands in others of its joint fails: in others of these, and in those that stand
        `beside`."""
        outcomes = self.families(wanted, stored)
        standing = {
            k
            for members in outcomes.values()
            for k in members
            if stored is not None and self.assigned[k].connection.id in stored
        }
        sized = spread(self.batch(progress), outcomes, self.cores)
        pairs = Pairs(self.sharing, self.batch(), self.family, lambda way: bool(self.collisions(way, {})))
        settled = pairs.settled(dict(sized), standing)
        return self._judged(settled, self.collisions(settled, beside or {}, lambda: progress(len(settled))))

    def collisions(
        self, outcomes: Mapping[int, Outcome], beside: Mapping[str, Made], going: Callable[[], None] = lambda: None
    ) -> dict[str, tuple[Colliding, ...]]:
        """connection -> what of it stands in others, at the joints of `outcomes`: of these as they came out, and of
        what stands `beside` them."""
        standing: dict[int, Made] = {}
        for key, (use, sizes) in beside.items():
            k = self.index.get(key)
            situation = self.assigned[k].situation if k is not None else None
            if k is None or k in outcomes or situation is None or situation.framing not in STANDARDS[use].framings:
                continue
            try:
                standing[k] = use, STANDARDS[use].renewed(situation, sizes)
            except InputError:  # a formula that has no value there any more
                continue
        for k, outcome in outcomes.items():
            rule = self.assigned[k].rule
            if rule is not None and outcome.sizes:
                standing[k] = rule.use, outcome.sizes
        there = ((self.assigned[k], made) for k, made in sorted(standing.items()))
        return colliding(self.building, there, self.overrides, going)

    def _judged(self, outcomes: dict[int, Outcome], found: Mapping[str, tuple[Colliding, ...]]) -> dict[int, Outcome]:
        """The outcomes with the collisions that were found."""
        if not found:
            return outcomes
        judged = dict(outcomes)
        for key, some in found.items():
            if (k := self.index[key]) in outcomes:
                judged[k] = outcomes[k].judged(some, self.assigned[k].connection.framing, self.building.system)
        return judged

    def batch(self, progress: Any = lambda done: None) -> Batch:
        """What works families out under the actions of this plan."""
        return Batch(self.code, self.acting.actions, progress, self.building.system)

    def look(self, assigned: Assigned, sizes: Sizes, tracing: bool = False) -> Result | None:
        """One connection checked in full with the sizes given; None where it has no standard."""
        if assigned.rule is None or assigned.situation is None:
            return None
        k = np.array([self.index[assigned.connection.id]])
        standard = STANDARDS[assigned.rule.use]
        if np.isnan(self.acting.on(k)).any() or not self.acting.names:
            return check(standard, assigned.situation, sizes, self.code, Actions.of(np.zeros((0, 6))))
        return check(standard, assigned.situation, sizes, self.code, self.acting.actions(k), tracing)

    def every(self, assigned: Assigned, sizes: Sizes) -> Matrix | str:
        """Every limit state under every combination; why there is none where it cannot be judged."""
        if assigned.rule is None or assigned.situation is None or assigned.reason:
            return assigned.reason
        standard = STANDARDS[assigned.rule.use]
        if unchecked := standard.examine(assigned.situation, sizes, self.code).unchecked:
            return said("; ".join(unchecked), self.building.system)
        k = np.array([self.index[assigned.connection.id]])
        if np.isnan(self.acting.on(k)).any() or not self.acting.names:
            return NO_FORCES
        actions = self.acting.actions(k)
        if missing := without_forces(assigned.situation, actions):
            return "; ".join(missing)
        actions = standard.acted(assigned.situation, sizes, self.code, actions)
        return matrix(limit_states(standard, assigned.situation, sizes, self.code, True), actions)
