"""What a rulebook makes of the connections of a building, before people decide otherwise."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from handrail.core.checking.assigning import Assigned, assign
from handrail.core.checking.batch import Family
from handrail.core.checking.doubts import Doubts, Errors, LetStand
from handrail.core.checking.facts import Facts, Labels
from handrail.core.checking.modelled import Modelled
from handrail.core.joint.situation import Situation
from handrail.core.rulebook import Rule, Rulebook


@dataclass(frozen=True, eq=False)
class Ruled:
    """`labels` are what people put on connections, as far as rules ask for them; `let_stand` findings with which
    somebody wants to go on, `errors` those of the model, by its audit."""

    model: Modelled
    rulebook: Rulebook
    labels: Labels = field(default_factory=dict)
    let_stand: LetStand = ()
    errors: Errors = ()

    @cached_property
    def assigned(self) -> list[Assigned]:
        """Every connection with its rule, in the framing's order."""
        model = self.model
        return assign(
            model.building,
            model.connections,
            self.rulebook,
            model.acting,
            self._facts,
            Doubts(model.acting, self.let_stand, self.errors),
            model.code,
        )

    def facts(self, k: int, situation: Situation, every: bool = False) -> dict[str, Any]:
        """The facts of one connection that rules ask for, or `every` one."""
        return (self._every_fact if every else self._facts).of(k, situation)

    @cached_property
    def _facts(self) -> Facts:
        return self._asked(self.rulebook.asks)

    @cached_property
    def _every_fact(self) -> Facts:
        return self._asked(None)

    def _asked(self, asks: Sequence[str] | None) -> Facts:
        model = self.model
        return Facts(model.building, model.connections, model.acting, self.labels, asks)

    def taken(self, k: int, rule: Rule, situation: Situation) -> Rule:
        """A rule with what it and practice give a connection."""
        return self.rulebook.taken(rule, self.facts(k, situation))

    def once(self, assigned: Assigned, decided: tuple[Any, ...], make: Callable[[], Family | None]) -> Family | None:
        """A family, made once for all connections of a rule and situation of which the same was `decided`."""
        key = (id(assigned.rule), id(assigned.situation), assigned.reason, decided)
        if key not in self._made:
            self._made[key] = (assigned, make())
        return self._made[key][1]

    @cached_property
    def _made(self) -> dict[tuple[Any, ...], tuple[Assigned, Family | None]]:
        """Families by what they are made of; with each a connection, so that rule and situation stay the same
        objects."""
        return {}
