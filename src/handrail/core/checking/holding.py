"""What a design of the house holds: on the members that it was made on, each action alone; and in a building, which
connections it would hold."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass, field, replace

import numpy as np

from handrail.core.actions import COMPONENTS, Actions
from handrail.core.checking.batch import evaluate
from handrail.core.checking.connection import limit_states
from handrail.core.checking.plan import Plan
from handrail.core.checking.trial.trial import Given
from handrail.core.errors import InputError
from handrail.core.limit_state import LimitState
from handrail.core.progress import Progress, quiet
from handrail.core.rulebook import Rule, Rulebook
from handrail.core.rulebook.conditions import Joined
from handrail.core.rulebook.design import DESIGN, Design
from handrail.core.rulebook.ladders import Ladder
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
    """A connection of a building as a design would be there: whether it holds, how far it is used, by which check, and
    why not."""

    connection: str
    holds: bool
    use: float
    check: str
    why: str = ""


def put_first(book: Rulebook, called: str, design: Design, sizes: Sizes, fits: bool = True) -> Rulebook:
    """A rulebook with a rule before all others that uses the design where it `fits`, or wherever its standard goes."""
    when = design.when if fits else Joined("all", ())
    rule = Rule(f"{DESIGN}{called}", when, design.standard.name, sizes, Ladder(({},)), 0, design=called)
    return replace(book, rules=(rule, *book.rules))


def in_place(plan: Plan, called: str, progress: Progress = quiet) -> list[InPlace]:
    """Each connection that takes the design by the plan's rulebook, worked out as a run does: practice, also-rules and
    shared bolts with it. Of what stands in others only those among them are known."""
    taken = {a.connection.id for a in plan.assigned if a.rule is not None and a.rule.design == called}
    outcomes = plan.work(plan.together(taken), None, lambda done: progress(done, len(taken))) if taken else {}
    found = []
    for k, assigned in enumerate(plan.assigned):
        key = assigned.connection.id
        if key not in taken:
            continue
        of = outcomes.get(k)
        if of is None:
            found.append(InPlace(key, False, 0.0, "", assigned.reason))
        else:
            found.append(InPlace(key, of.status == "pass", of.utilisation, of.check, of.reason))
    return found


def replaced(marks: Mapping[str, Collection[str]], held: Collection[str]) -> list[str]:
    """The marks (name -> its connections) of which a design would hold all."""
    own = set(held)
    return [name for name, keys in marks.items() if keys and own.issuperset(keys)]
