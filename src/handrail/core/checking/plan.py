"""From a framed building and a rulebook to families of connections ready for the batch."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property, partial
from typing import Any

import numpy as np

from handrail import __version__
from handrail.core.actions import Actions
from handrail.core.building.combining import BY_STRENGTH, Chosen
from handrail.core.building.framing import Framing
from handrail.core.building.model import Building
from handrail.core.checking.acting import Acting
from handrail.core.checking.assigning import ELSEWHERE, STANDARD, Assigned, assign, by_choice, members_of, not_here
from handrail.core.checking.batch import Batch, Family, Outcome
from handrail.core.checking.connection import NO_FORCES, check, limit_states, without_forces
from handrail.core.checking.cores import spread
from handrail.core.checking.doubts import Doubts, Errors, LetStand
from handrail.core.checking.facts import Facts, Labels
from handrail.core.checking.laterals import by_rule
from handrail.core.checking.matrix import Matrix, matrix
from handrail.core.checking.pairs import OPPOSITE, Pairs
from handrail.core.checking.remedy import Found, Judge, Judged, find_remedies
from handrail.core.checking.reserve import Reserve, idle_parts, step_down
from handrail.core.checking.result import Result
from handrail.core.codes.family import Code
from handrail.core.errors import InputError
from handrail.core.quantities.words import said
from handrail.core.rulebook import Rule, Rulebook
from handrail.core.standards import STANDARDS
from handrail.core.standards.situation import Situation
from handrail.core.standards.sizes import Sized, Sizes

ACTIONS = "actions"  # an override of this name states actions in place of the model's: {component: N or N*mm}
Overrides = dict[str, dict[str, Any]]  # connection id -> parameter -> value in core units


@dataclass
class Plan:
    """One building by one code, method and set of combinations, ready to size, verify or look at one by one."""

    building: Building
    framing: Framing
    rulebook: Rulebook
    code: Code
    overrides: Overrides
    chosen: Chosen = BY_STRENGTH
    labels: Labels = field(default_factory=dict)  # what people put on connections, as far as rules ask for it
    cores: int = 1  # that a run may use
    let_stand: LetStand = ()  # findings with which somebody wants to go on
    errors: Errors = ()  # of the model, by its audit
    _chosen: tuple[Overrides, list[Assigned], list[Assigned]] | None = (
        None  # of which overrides and rules, and what is made of them
    )
    _stated: tuple[Overrides, Acting, Acting] | None = (
        None  # of which overrides and model, and what acts with what people stated
    )

    def __post_init__(self) -> None:
        self.building = by_rule(self.building, self.framing.pieces.roles, self.rulebook.lateral)

    @cached_property
    def modelled(self) -> Acting:
        """What acts by the model alone."""
        return Acting(self.building, self.framing.connections, self.code.method, self.framing.pieces.roles, self.chosen)

    @property
    def acting(self) -> Acting:
        """The same, with the actions that people stated in place of those of the model."""
        by_model = self.modelled
        if self._stated is None or self._stated[0] is not self.overrides or self._stated[1] is not by_model:
            stated = {
                k: own[ACTIONS]
                for name, own in self.overrides.items()
                if ACTIONS in own and (k := self.index.get(name)) is not None
            }
            self._stated = (self.overrides, by_model, replace(by_model, stated=stated) if stated else by_model)
        return self._stated[2]

    @cached_property
    def index(self) -> dict[str, int]:
        return {c.id: k for k, c in enumerate(self.framing.connections)}

    @cached_property
    def by_rules(self) -> list[Assigned]:
        """Every connection with its rule, in the framing's order."""
        return assign(
            self.building,
            self.framing.connections,
            self.rulebook,
            self.modelled,
            self.labels,
            Doubts(self.modelled, self.let_stand, self.errors),
            self.code,
        )

    def facts(self, k: int, situation: Situation, every: bool = False) -> dict[str, Any]:
        """The facts of one connection that rules ask for, or `every` one."""
        if every not in self._facts:
            asks = None if every else self.rulebook.asks
            self._facts[every] = Facts(self.building, self.framing.connections, self.modelled, self.labels, asks)
        return self._facts[every].of(k, situation)

    @cached_property
    def _facts(self) -> dict[bool, Facts]:
        return {}

    @property
    def assigned(self) -> list[Assigned]:
        """The same, with the standards that people chose in place of those of the rules."""
        rules = self.by_rules
        if self._chosen is None or self._chosen[0] is not self.overrides or self._chosen[1] is not rules:
            found = rules
            chosen = [
                (k, own)
                for name, own in self.overrides.items()
                if own.keys() & {STANDARD, ELSEWHERE} and (k := self.index.get(name)) is not None
            ]
            if chosen:
                found = list(found)
            for k, own in chosen:
                if STANDARD in own:
                    found[k] = by_choice(self.building, found[k], own[STANDARD], partial(self._taken, k), self.code)
                if ELSEWHERE in own:
                    found[k] = not_here(found[k], own[ELSEWHERE])
            self._chosen = (self.overrides, rules, found)
        return self._chosen[2]

    def _taken(self, k: int, rule: Rule, situation: Situation) -> Rule:
        return self.rulebook.taken(rule, self.facts(k, situation))

    @cached_property
    def across(self) -> np.ndarray:
        """(connections,) index of the connection on the other side of the same web; -1 where there is none."""
        return np.array([self.index.get(c.facts.get("opposed", ""), -1) for c in self.framing.connections], int)

    def partner(self, key: str) -> str:
        """The connection on the other side of the same web whose bolts may be its own; empty where there is none."""
        other = int(self.across[self.index[key]])
        rule = self.assigned[self.index[key]].rule
        return (
            self.framing.connections[other].id if other >= 0 and rule is not None and STANDARDS[rule.use].shared else ""
        )

    def with_partners(self, keys: set[str]) -> set[str]:
        """Connections with those opposite whose bolts they may share, or whose own these are, whichever side has a
        standard for it."""
        found = set(keys)
        for key in keys & self.index.keys():
            other = int(self.across[self.index[key]])
            if other >= 0 and (self.partner(key) or self.partner(self.framing.connections[other].id) == key):
                found.add(self.framing.connections[other].id)
        return found

    def counted_with(self, stood: Mapping[str, Sizes]) -> dict[str, str]:
        """connection -> the one opposite with which the field bolts that hold both are counted, of connections with the
        sizes that they stand with."""
        found = {}
        for key, sizes in stood.items():
            partner = self.partner(key)
            if partner not in stood or self.index[partner] > self.index[key]:
                continue
            own, other = self.assigned[self.index[key]].rule, self.assigned[self.index[partner]].rule
            if (
                own
                and other
                and own.use == other.use
                and STANDARDS[own.use].through(sizes)
                and STANDARDS[own.use].through(stood[partner])
            ):
                found[key] = partner
        return found

    def overridden(self, assigned: Assigned) -> dict[str, Any]:
        """The overrides of a connection, and those of what it shares with the one opposite."""
        own, partner = self.overrides.get(assigned.connection.id, {}), self.partner(assigned.connection.id)
        if not partner or partner not in self.overrides or assigned.rule is None:
            return own
        standard, other = STANDARDS[assigned.rule.use], self.assigned[self.index[partner]]
        if (
            other.rule is None
            or other.rule.use != standard.name
            or assigned.situation is None
            or other.situation is None
        ):
            return own
        theirs = {n: Sized(v, "override") for n, v in self.overrides[partner].items() if n in standard.shared}
        if not theirs:
            return own
        try:
            asked = standard.opposite(other.situation, standard.complete(other.situation, theirs), assigned.situation)
        except InputError:  # a formula without a value there: that side says so, and this one that it is not sized
            return own
        return {n: asked[n] for n in theirs} | own

    def family(self, assigned: Assigned, sizes: Sizes | None = None) -> Family | None:
        """The family of one connection: sizing by its ladder, or, with `sizes`, those as they stand."""
        if assigned.rule is None or assigned.situation is None or assigned.reason:
            return None
        rule, standard = assigned.rule, STANDARDS[assigned.rule.use]
        known = {p.name for p in standard.parameters}
        own = {n: Sized(v, "override") for n, v in self.overridden(assigned).items() if n in known}
        if sizes is not None:
            given = {n: s for n, s in sizes.items() if s.source not in ("geometry", "default") and n in known} | own
            return Family(standard.name, assigned.situation, _frozen(given), ((),))
        base = rule.base if rule.base is not None else self.rulebook.practice.get(standard.name, {}) | rule.set
        held = rule.held | frozenset(own)
        try:
            start = standard.complete(assigned.situation, base | own)
        except InputError:  # a formula without a value: the batch says so
            return Family(standard.name, assigned.situation, _frozen(base | own), ((),))
        if rule.ladder is None and standard.axes is not None:
            axes = standard.axes(assigned.situation, start, held)
            climbed = {n for rungs in axes.values() for rung in rungs for n in rung}
            given = {n: s for n, s in base.items() if n not in climbed} | own
            return Family(
                standard.name,
                assigned.situation,
                _frozen(given),
                ((),),
                tuple(
                    (name, tuple(_frozen({n: Sized(v, "rung") for n, v in rung.items()}) for rung in rungs))
                    for name, rungs in axes.items()
                ),
            )
        if rule.ladder is None:
            rungs = [
                {n: Sized(v, "rung") for n, v in rung.items()}
                for rung in standard.ladder(assigned.situation, start, held)
            ]
        else:
            said = own.keys() | rule.set.keys()  # no rung changes these
            left = tuple({n: s for n, s in rung.items() if n not in said} for rung in rule.ladder.rungs)
            rungs = replace(rule.ladder, rungs=left).ordered(standard, assigned.situation, base | own)
        climbed = {n for rung in rungs for n in rung}
        given = {n: s for n, s in base.items() if n not in climbed} | own
        lower = {n: s for n, s in base.items() if n in climbed and n not in own}
        return Family(standard.name, assigned.situation, _frozen(given), tuple(_frozen(lower | rung) for rung in rungs))

    def families(
        self, wanted: set[str] | None = None, stored: dict[str, Sizes] | None = None
    ) -> dict[Family, list[int]]:
        """Families of the connections in `wanted` (all), sized afresh or, where `stored` has sizes, verified."""
        groups: dict[int, tuple[Family, list[int]]] = {}
        for k, assigned in enumerate(self.assigned):
            name = assigned.connection.id
            if wanted is not None and name not in wanted:
                continue
            sizes = stored.get(name) if stored is not None else None
            family = self.ruled(assigned) if sizes is None else self._standing(assigned, sizes)
            if family is not None:
                groups.setdefault(id(family), (family, []))[1].append(k)
        found: dict[Family, list[int]] = {}
        for family, members in groups.values():
            found.setdefault(family, []).extend(members)
        return found

    def _standing(self, assigned: Assigned, sizes: Sizes) -> Family | None:
        """The family of a connection as it stands; one for all that stand alike."""
        own = tuple((n, s.value, s.source, s.formula) for n, s in sizes.items())
        return self._once(assigned, own, lambda: self.family(assigned, sizes))

    def ruled(self, assigned: Assigned) -> Family | None:
        """The family that a connection's rule, and what people decided, make of it."""
        return self._once(assigned, (), lambda: self.family(assigned))

    def _once(self, assigned: Assigned, sizes: tuple[Any, ...], make: Callable[[], Family | None]) -> Family | None:
        """A family, made once for all connections of a rule and situation for which people decided the same, and which
        have the same sizes."""
        name = assigned.connection.id
        decided = self.overrides and (name in self.overrides or self.partner(name) in self.overrides)
        own = repr(sorted(self.overridden(assigned).items())) if decided else ""
        key = (id(assigned.rule), id(assigned.situation), assigned.reason, own, sizes)
        if key not in self._made:
            self._made[key] = (assigned, make())
        return self._made[key][1]

    def _said(self, family: Family | None) -> bytes:
        """The digest of a family that is kept."""
        if id(family) not in self._digests:
            self._digests[id(family)] = (family, _digest(repr(family).encode()).encode())
        return self._digests[id(family)][1]

    @cached_property
    def _digests(self) -> dict[int, tuple[Family | None, bytes]]:
        return {}

    @cached_property
    def _made(self) -> dict[tuple[Any, ...], tuple[Assigned, Family | None]]:
        """Families by what they are made of; with each a connection, so that rule and situation stay the same
        objects."""
        return {}

    def work(
        self, wanted: set[str] | None = None, stored: dict[str, Sizes] | None = None, progress: Any = lambda done: None
    ) -> dict[int, Outcome]:
        """What is made of the connections in `wanted` (all), sized afresh or as `stored`; those that share bolts are
        made alike."""
        batch, families = self.batch(progress), self.families(wanted, stored)
        standing = {
            k
            for members in families.values()
            for k in members
            if stored is not None and self.assigned[k].connection.id in stored
        }
        return Pairs(self.assigned, self.across, self.batch(), self.family).settled(
            dict(spread(batch, families, self.cores)), standing
        )

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

    def _alike(self, stood: dict[str, Sizes]) -> dict[tuple[Family, frozenset[str]], list[str]]:
        """Connections with the sizes that they stand with, those together that are the same piece of steel with the
        same decided by people."""
        alike: dict[tuple[Family, frozenset[str]], list[str]] = {}
        for key, sizes in stood.items():
            assigned = self.assigned[self.index[key]]
            if assigned.rule is None or assigned.situation is None or assigned.reason:
                continue
            given = {n: s for n, s in sizes.items() if s.source not in ("geometry", "default")}
            family = Family(assigned.rule.use, assigned.situation, _frozen(given), ((),))
            alike.setdefault((family, frozenset(self.overridden(assigned))), []).append(key)
        return alike

    def remedies(self, stood: dict[str, Sizes], beside: dict[str, Sizes] | None = None) -> dict[str, Found]:
        """The smallest changes that would make each of these connections, as they stand, pass under the target; those
        alike are tried at once. `beside` are the sizes of those opposite, whose bolts go along: what fails there is no
        remedy."""
        batch, opposite = self.batch(), beside or {}
        found: dict[str, Found] = {}
        for (family, held), keys in self._alike(stood).items():
            shared = [key for key in keys if self.partner(key) in opposite]
            alone = [key for key in keys if key not in shared]
            for some in ([alone] if alone else []) + [[key] for key in shared]:
                actions = batch.acted(family, np.array([self.index[key] for key in some]))
                judge = partial(batch.judge, family, actions=actions)
                if some[0] in shared:
                    judge = partial(self._judged_with_opposite, some[0], opposite[self.partner(some[0])], judge)
                each = find_remedies(
                    STANDARDS[family.standard],
                    family.situation,
                    dict(family.given),
                    held,
                    judge,
                    len(some),
                    self.rulebook.target,
                )
                found |= dict(zip(some, each, strict=True))
        return found

    def _judged_with_opposite(self, key: str, theirs: Sizes, judge: Judge, sizes: Sizes) -> Judged:
        """Sizes of a connection judged at its own end and, with the bolts that go along, at the one opposite."""
        own, one, other = judge(sizes), self.assigned[self.index[key]], self.assigned[self.index[self.partner(key)]]
        if (
            one.rule is None
            or other.rule is None
            or one.rule.use != other.rule.use
            or one.situation is None
            or other.situation is None
        ):
            return own
        if own.broken or not own.use[0] <= 1.0:
            return own  # whatever is opposite
        standard, batch = STANDARDS[one.rule.use], self.batch()
        if not standard.through(sizes):
            return own
        asked = standard.opposite(one.situation, sizes, other.situation)
        given = {n: s for n, s in theirs.items() if s.source not in ("geometry", "default")} | {
            n: Sized(v, OPPOSITE) for n, v in asked.items()
        }
        family = Family(other.rule.use, other.situation, _frozen(given), ((),))
        try:
            across = batch.judge(
                family,
                standard.complete(other.situation, given),
                batch.acted(family, np.array([self.index[self.partner(key)]])),
            )
        except InputError:  # a formula that has no value with it
            return Judged(np.full(1, np.inf), own.check, own.broken)
        worse = bool(across.use[0] > own.use[0])
        return Judged(
            np.maximum(own.use, across.use),
            across.check if worse else own.check,
            tuple(dict.fromkeys((*own.broken, *across.broken))),
        )

    def reserves(self, stood: dict[str, Sizes]) -> list[tuple[list[str], Reserve]]:
        """What less would still pass for all of those among these connections that are alike, and the parts of them
        that hardly work; nothing of those that share their bolts with the connection opposite."""
        batch, found = self.batch(), []
        alone = {key: sizes for key, sizes in stood.items() if not self.partner(key)}
        for (family, held), keys in self._alike(alone).items():
            standard, given = STANDARDS[family.standard], dict(family.given)
            actions = batch.acted(family, np.array([self.index[key] for key in keys]))
            down = step_down(
                standard,
                family.situation,
                given,
                held,
                partial(batch.judge, family, actions=actions),
                self.rulebook.target,
            )
            idle = idle_parts(batch, family, standard.complete(family.situation, given), actions)
            if down.changes or idle:
                found.append((keys, replace(down, idle=idle)))
        return found

    def grounds(self, wanted: set[str] | None = None, stored: dict[str, Sizes] | None = None) -> dict[str, str]:
        """What the result of each connection rests on, as a digest that says its engine and whether sizes were made or
        stood.

        It covers the forces (its own, opposite, the support's), members, code, combinations, target and what the
        rulebook and overrides give, or why there is nothing to work out; where bolts may be shared, all that of the
        connection opposite too. Where `stored` has a connection's sizes, it is that of verifying them, and of what its
        rule would make of it."""
        own = self._own_grounds(wanted, stored)
        partners = {name: partner for name in own if (partner := self.partner(name))}
        afresh = {p for p in partners.values() if p not in own or (stored is not None and p in stored)}
        theirs = own | (self._own_grounds(afresh, None) if afresh else {})
        return {
            name: f"{of}+{_digest(theirs[partners[name]].encode())[:16]}" if name in partners else of
            for name, of in own.items()
        }

    def _own_grounds(self, wanted: set[str] | None, stored: dict[str, Sizes] | None) -> dict[str, str]:
        """Of each connection by itself."""
        found = {}
        for family, members in self.families(wanted, stored).items():
            alike = _digest(repr((family, self.code, self.rulebook.target)).encode() + self.acting.formed).encode()
            kind = "stand" if stored is not None and self.assigned[members[0]].connection.id in stored else "size"
            for k in members:
                ruled = (
                    self._said(self.ruled(self.assigned[k])) if kind == "stand" else b""
                )  # what a run would size afresh
                found[self.assigned[k].connection.id] = (
                    f"{__version__}:{kind}:{_digest(alike + ruled + self.acting.rests_on(k))}"
                )
        for k, assigned in enumerate(self.assigned):
            name = assigned.connection.id
            if name not in found and (wanted is None or name in wanted):
                why = repr((assigned.status, assigned.reason, assigned.rule.name if assigned.rule else "")).encode()
                if assigned.status == "elsewhere":  # said of what came to it then
                    why += (
                        repr(members_of(self.building, assigned.connection)).encode()
                        + self.acting.formed
                        + self.acting.rests_on(k)
                    )
                found[name] = f"{__version__}:none:{_digest(why)}"
        return found


def _digest(of: bytes) -> str:
    return hashlib.blake2b(of, digest_size=16).hexdigest()


def _frozen(sizes: Sizes) -> tuple[tuple[str, Sized], ...]:
    return tuple(sorted(sizes.items()))
