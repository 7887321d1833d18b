"""What a design of the house holds: on the members that it was made on, each action alone; and in a building, which
connections it would hold."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass, field

import numpy as np

from handrail.core.actions import COMPONENTS, Actions
from handrail.core.checking.batch import Family, evaluate
from handrail.core.checking.connection import limit_states
from handrail.core.checking.families import frozen
from handrail.core.checking.plan import Plan
from handrail.core.checking.trial.trial import Given
from handrail.core.errors import InputError
from handrail.core.joint.situation import Situation
from handrail.core.limit_state import LimitState
from handrail.core.progress import Progress, quiet
from handrail.core.rulebook.conditions import Joined
from handrail.core.standards import Standard
from handrail.core.standards.quantities import Quantities
from handrail.core.standards.sizes import Sizes

STEPS, NARROWER = 32, 4  # each time so many times nearer to where it ends
FAR = 4.0  # of the member's own strength: nothing goes farther
WAYS = {"V": (("V", 1.0),), "N": (("N.max", 1.0), ("N.min", -1.0)), "M": (("M.max", 1.0), ("M.min", -1.0))}
WAYS |= {"Vw": (("Vw", 1.0),), "Mw": (("Mw", 1.0),)}
LITTLE = 1.0  # N, N*mm


@dataclass(frozen=True)
class Held:
    """What a piece holds where it is: each action alone, N and N*mm, and the check that ends it; what it takes; `why`
    it holds nothing, where it does not."""

    holds: Mapping[str, float]
    ends: Mapping[str, str]
    takes: Quantities | None
    sizes: Sizes = field(default_factory=dict)
    why: str = ""


def held(given: Given) -> Held:
    """What the sizes of a trial hold on its members, whatever acts in it."""
    standard, situation, code = given.standard, given.situation, given.code
    try:
        sizes = standard.complete(situation, given.sizes)
    except InputError as exc:
        return Held({}, {}, None, {}, exc.words)
    takes = standard.quantities(situation, sizes)
    examined = standard.examine(situation, sizes, code)
    broken = [r.rule for r in examined.detailing if not r.ok]
    if examined.unchecked or broken:
        why = "; ".join(examined.unchecked) or f"detailing rule {', '.join(broken)}"
        return Held({}, {}, takes, sizes, why)
    states = limit_states(standard, situation, sizes, code)
    holds, ends = {}, {}
    for action in standard.carries:
        for name, way in WAYS.get(action, ()):
            most, check = _most(given, sizes, states, action, way)
            if most > LITTLE:
                holds[name], ends[name] = most, check
    return Held(holds, ends, takes, sizes, "" if holds else "it holds no action alone")


def _most(given: Given, sizes: Sizes, states: list[LimitState], action: str, way: float) -> tuple[float, str]:
    """The largest of one action alone that passes, to a millionth of how far is looked, and the check that ends it."""
    of = given.situation.supported
    try:
        far = FAR * given.code.members.available(of.section, of.grade.Fy, action)
    except (AttributeError, ZeroDivisionError):
        return 0.0, ""

    low, high, check = 0.0, far, ""
    for _ in range(NARROWER):
        amounts = np.linspace(low, high, STEPS + 1)
        actions = _only(given, action, way * amounts)
        use, which, _ = evaluate(states, given.standard.acted(given.situation, sizes, given.code, actions))
        over = np.nonzero(~(use <= 1.0))[0]
        if not len(over):
            return high, states[int(which[-1])].check  # as far as anybody looks
        first = int(over[0])
        check = states[int(which[first])].check
        low, high = amounts[max(first - 1, 0)], amounts[first]
        if not first:
            return 0.0, check
    return float(low), check


def _only(given: Given, action: str, amounts: np.ndarray) -> Actions:
    """(amounts, 1) one combination with one action each; what a column or a beam opposite has of its own is nothing."""
    table = np.zeros((len(amounts), 1, len(COMPONENTS)))
    table[:, 0, COMPONENTS.index(action)] = amounts
    acting = given.actions if given.actions.V.ndim > 1 else given.actions.rows(np.newaxis)
    others = {role: of.each(lambda _: np.zeros((len(amounts), 1))) for role, of in acting.others}
    return Actions.of(table, ("alone",), others, ((given.code.method, "strength"),))


@dataclass(frozen=True)
class InPlace:
    """A connection of a building as a design would be there: how far it is used, by what; `broken` rules of detailing
    that it has there; `why` it cannot be."""

    connection: str
    use: float
    check: str
    broken: tuple[str, ...] = ()
    why: str = ""

    @property
    def holds(self) -> bool:
        """Whether it would pass by its own strength and detailing."""
        return not self.why and not self.broken and self.use <= 1.0


def fitting(plan: Plan, standard: Standard, when: Joined) -> Iterator[int]:
    """The connections that a design fits: of its framings, where its conditions hold."""
    for k, assigned in enumerate(plan.assigned):
        if assigned.situation is None or assigned.connection.framing not in standard.framings:
            continue
        if when.holds(plan.facts(k, assigned.situation, every=True)):
            yield k


def in_place(
    plan: Plan, standard: Standard, sizes: Sizes, indices: Collection[int], progress: Progress = quiet
) -> list[InPlace]:
    """Each of these connections with the sizes of a design, under its own actions."""
    alike: dict[Situation, list[int]] = {}
    for k in indices:
        situation = plan.assigned[k].situation
        assert situation is not None
        alike.setdefault(situation, []).append(k)
    batch, found = plan.batch(), []
    practice = plan.rulebook.practice.get(standard.name, {})
    for number, (situation, keys) in enumerate(alike.items()):
        progress(number, len(alike))
        names = [plan.assigned[k].connection.id for k in keys]
        given = practice | sizes
        try:
            completed = standard.complete(situation, given)
        except InputError as exc:
            found += [InPlace(name, 0.0, "", (), exc.words) for name in names]
            continue
        known = [k for k in keys if not np.isnan(plan.acting.on(np.array([k]))).any()] if plan.acting.names else []
        missing = set(keys) - set(known)
        found += [InPlace(plan.assigned[k].connection.id, 0.0, "", (), "no forces") for k in sorted(missing)]
        if not known:
            continue
        family = Family(standard.name, situation, frozen(given), ((),))
        judged = batch.judge(family, completed, batch.acted(family, np.array(known)))
        for n, k in enumerate(known):
            use = float(judged.use[n])
            why = "" if np.isfinite(use) else "it cannot be judged there"
            found.append(InPlace(plan.assigned[k].connection.id, use, judged.check[n], judged.broken, why))
    return found


def replaced(marks: Mapping[str, Collection[str]], held: Collection[str]) -> list[str]:
    """The marks (name -> its connections) of which a design would hold all."""
    own = set(held)
    return [name for name, keys in marks.items() if keys and own.issuperset(keys)]
