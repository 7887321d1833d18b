"""One sized connection checked for all its combinations."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache

import numpy as np

from handrail.core.actions import COMPONENTS, Actions
from handrail.core.catalogue import own
from handrail.core.catalogue.faying import surface
from handrail.core.checking.result import Check, Result
from handrail.core.codes.family import Code
from handrail.core.joint.situation import Situation
from handrail.core.limit_state import LimitState, ratio
from handrail.core.quantities.lines import NULL, Trace
from handrail.core.quantities.units import show
from handrail.core.standards import Standard
from handrail.core.standards.sizes import Sized, Sizes
from handrail.core.standards.standard import Examined, Negligible

NO_FORCES = "no forces"
NO_OVERSTRENGTH = (
    "of the system that resists earthquakes, or a base in category C to F under one: it needs overstrength"
    " combinations, and there are none"
)
NO_OPPOSED = "the beam opposite has no forces: what shares the support is not known"


# kind of a parameter -> the kind that it names, and which part of its value does
OF_CATALOGUE: dict[str, tuple[str, Callable[[str], str]]] = {
    "bolt": (own.BOLT, lambda name: name.split(" ")[-1].rsplit("-", 1)[0]),
    "rod": (own.ROD, lambda name: name.split(" ", 1)[-1]),
    "grade": (own.GRADE, lambda name: name),
    "plate_grade": (own.GRADE, lambda name: name),
    "electrode": (own.ELECTRODE, lambda name: name),
    "angle_section": (own.SECTION, lambda name: name),
}


def check(
    standard: Standard, situation: Situation, sizes: Sizes, code: Code, actions: Actions, tracing: bool = False
) -> Result:
    """Check one connection; `actions` (combinations,) or (places, combinations), with their names.

    Passes when every utilisation is at most 1 and every detailing rule holds; `unchecked` says why where
    the standard cannot judge it.
    """
    examined, states = _judged(standard, situation, tuple(sorted(sizes.items())), code, tracing)
    notes = (*examined.notes, *not_shipped(standard, situation, sizes))
    detailing = tuple(examined.detailing)
    reasons = examined.unchecked or without_forces(situation, actions)
    if reasons:
        return Result("unchecked", 0.0, None, (), detailing, tuple(reasons), notes, sizes)
    flat = actions if actions.V.ndim > 1 else actions.rows(np.newaxis)
    notes += tuple(dict.fromkeys(words for each in standard.dropped(situation, sizes, code, flat) for words in each))
    actions = standard.acted(situation, sizes, code, actions)
    checks = [worst(state, actions, tracing) for state in states]
    known = tuple(c for c in checks if not np.isnan(c.utilisation))
    if len(known) < len(checks):
        unknown = tuple(why_unknown(s, actions) for s, c in zip(states, checks, strict=True) if np.isnan(c.utilisation))
        return Result("unchecked", 0.0, None, known, detailing, unknown, notes, sizes)
    governing = max(checks, key=lambda c: c.counts)
    status = "pass" if examined.sound and governing.counts <= 1 else "fail"
    return Result(status, governing.counts, governing, known, detailing, (), notes, sizes)


@lru_cache(maxsize=1024)
def _judged(
    standard: Standard, situation: Situation, sizes: tuple[tuple[str, Sized], ...], code: Code, tracing: bool
) -> tuple[Examined, list[LimitState]]:
    """What does not depend on forces, kept: many connections of a building are the same piece of steel."""
    examined = standard.examine(situation, dict(sizes), code)
    return examined, [] if examined.unchecked else limit_states(standard, situation, dict(sizes), code, tracing)


def not_shipped(standard: Standard, situation: Situation, sizes: Sizes) -> list[str]:
    """In words what a connection is made of that the house has beside the shipped tables, and from where."""
    if not own.version():
        return []
    found = []
    for piece in situation.pieces:
        found += [own.find(own.SECTION, piece.steel.section.name), own.find(own.GRADE, piece.steel.grade.name)]
    for parameter in standard.parameters:
        if parameter.own and parameter.name in sizes:
            found.append(own.find(parameter.own, surface(str(sizes[parameter.name].value))))
        if parameter.kind in OF_CATALOGUE and parameter.name in sizes:
            kind, part = OF_CATALOGUE[parameter.kind]
            found.append(own.find(kind, part(str(sizes[parameter.name].value))))
    return list(dict.fromkeys(entry.told for entry in found if entry is not None))


def limit_states(
    standard: Standard, situation: Situation, sizes: Sizes, code: Code, tracing: bool = False
) -> list[LimitState]:
    """Every limit state of a sized connection, and a limit on each action that the standard does not carry."""
    return [*standard.strengths(situation, sizes, code, tracing), *uncarried(standard, situation, sizes, code)]


def without_forces(situation: Situation, actions: Actions) -> list[str]:
    """Why no forces can be judged; empty where they are all there."""
    if actions.V.size == 0:
        return [NO_FORCES]
    across = actions.opposite()
    if situation.faced and (np.isnan(across.along) | np.isnan(across.normal)).any():
        return [NO_OPPOSED]
    if (
        (situation.seismic or situation.quaking)
        and actions.sets
        and not any(of == "overstrength" for _, of in actions.sets)
    ):
        return [NO_OVERSTRENGTH]
    return []


def why_unknown(state: LimitState, actions: Actions) -> str:
    """In words why a limit state gave no number."""
    return state.cannot if state.columns(actions) else state.no_combinations


def worst(state: LimitState, actions: Actions, tracing: bool) -> Check:
    """The limit state at the combination where its utilisation is largest; a utilisation of NaN where it is not
    known."""
    columns = state.columns(actions)
    if not columns:
        return Check(state.check, state.part, state.clause, state.kind, np.nan, np.nan, np.nan, "")
    judged = actions.columns(columns)
    use = state.utilisation(judged)
    index = np.unravel_index(int(np.argmax(use)), use.shape)  # NaN counts as the largest
    return at(state, judged, tuple(int(i) for i in index), tracing)


def at(state: LimitState, actions: Actions, index: tuple[int, ...], tracing: bool) -> Check:
    """The limit state at one combination."""
    one = actions.at(index)
    trace = Trace() if tracing else NULL
    demand, strength = (float(np.ravel(v)[0]) for v in state.evaluate(one, trace))
    use = float(ratio(demand, strength))
    return Check(
        state.check,
        state.part,
        state.clause,
        state.kind,
        demand,
        np.maximum(strength, 0.0),
        use,
        one.names[0] if one.names else "",
        state.limit,
        index[0] if len(index) > 1 else 0,
        (*state.lines, *trace.lines),
        state.says,
        state.code,
        state.method,
    )


def uncarried(standard: Standard, situation: Situation, sizes: Sizes, code: Code) -> list[LimitState]:
    """An action that the standard does not carry, and does not say to be negligible, fails by name."""
    limits = standard.negligible(situation, sizes)
    uncarried = []
    for name in COMPONENTS:
        if name not in standard.carries:
            limit = limits.get(name) or Negligible("force" if name in ("N", "V", "Vw") else "moment", 0.0)
            uncarried.append(_uncarried(name, limit.kind, limit.amount, standard, code))
    return uncarried


def _uncarried(name: str, kind: str, threshold: float, standard: Standard, code: Code) -> LimitState:
    title = standard.title.lower()

    def evaluate(actions: Actions, trace: Trace) -> tuple[np.ndarray, float]:
        size = np.abs(getattr(actions, name))
        return trace(name, f"|{name}|, which a {title} does not carry", size, kind=kind), max(threshold, 1e-6)

    def says(use: float, action: str, system: str) -> str:
        return (
            f"{name} of {show(use * max(threshold, 1e-6), kind, system)} in {action}, which a {title} does not carry"
            f" (uncarried_{name})"
        )

    return LimitState(
        f"uncarried_{name}",
        "member",
        "not carried",
        kind,
        evaluate,
        limit=True,
        code=code.name,
        method=code.method,
        says=says,
    )
